package web

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app/access"
	"exactflask/app/practicals"
	"exactflask/core/chemistry/glass"
	"exactflask/core/record/practical"
	"exactflask/view"
)

// glassware are the operations on the glassware that a school has: of the installation, and of a
// class.
func (s *server) glassware(api huma.API) {
	type glassOutput struct{ Body practicals.Glassware }
	type glassList struct {
		Own []glass.Piece `json:"own" maxItems:"100"`
	}
	now := func(ctx context.Context, p access.Person, class string, err error) (*glassOutput, error) {
		if err != nil {
			return nil, err
		}
		out, err := s.app.Practicals.Glass(ctx, p, class)
		return &glassOutput{out}, err
	}
	huma.Register(api, operation("glass", http.MethodGet, "/glass", "The glassware of the installation"),
		asked(s, func(ctx context.Context, p access.Person, _ *struct{}) (*glassOutput, error) {
			return now(ctx, p, "", nil)
		}))
	huma.Register(api, operation("set-glass", http.MethodPut, "/glass", "Keep the list of the installation"),
		asked(s, func(ctx context.Context, p access.Person, in *struct{ Body glassList }) (*glassOutput, error) {
			return now(ctx, p, "", s.app.Practicals.SetGlass(ctx, p, "", in.Body.Own))
		}))
	huma.Register(api, operation("class-glass", http.MethodGet, "/classes/{class}/glass", "The glassware of a class, and of the installation"),
		asked(s, func(ctx context.Context, p access.Person, in *ClassPath) (*glassOutput, error) {
			return now(ctx, p, in.Class, nil)
		}))
	huma.Register(api, operation("set-class-glass", http.MethodPut, "/classes/{class}/glass", "Keep the list of a class"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			ClassPath
			Body glassList
		}) (*glassOutput, error) {
			return now(ctx, p, in.Class, s.app.Practicals.SetGlass(ctx, p, in.Class, in.Body.Own))
		}))
}

// norms are the operations on what a school sees differently from common practice: for the
// installation, and for a class.
func (s *server) norms(api huma.API) {
	type normsOutput struct {
		Body struct {
			Groups []view.NormGroup `json:"groups"`
		}
	}
	type wanted struct {
		Norms practical.Norms `json:"norms" doc:"by name; what is left out is as in the wider circle"`
	}
	now := func(ctx context.Context, p access.Person, class string, err error) (*normsOutput, error) {
		if err != nil {
			return nil, err
		}
		out := &normsOutput{}
		out.Body.Groups, err = s.app.Practicals.Norms(ctx, p, class)
		return out, err
	}
	huma.Register(api, operation("norms", http.MethodGet, "/norms", "What the installation sees differently from common practice"),
		asked(s, func(ctx context.Context, p access.Person, _ *struct{}) (*normsOutput, error) {
			return now(ctx, p, "", nil)
		}))
	huma.Register(api, operation("set-norms", http.MethodPut, "/norms", "Say so, for practicals that are set from now on"),
		asked(s, func(ctx context.Context, p access.Person, in *struct{ Body wanted }) (*normsOutput, error) {
			return now(ctx, p, "", s.app.Practicals.SetNorms(ctx, p, "", in.Body.Norms))
		}))
	huma.Register(api, operation("class-norms", http.MethodGet, "/classes/{class}/norms", "What a class sees differently"),
		asked(s, func(ctx context.Context, p access.Person, in *ClassPath) (*normsOutput, error) {
			return now(ctx, p, in.Class, nil)
		}))
	huma.Register(api, operation("set-class-norms", http.MethodPut, "/classes/{class}/norms", "Say so, for practicals that are set from now on"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			ClassPath
			Body wanted
		}) (*normsOutput, error) {
			return now(ctx, p, in.Class, s.app.Practicals.SetNorms(ctx, p, in.Class, in.Body.Norms))
		}))
}
