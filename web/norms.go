package web

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app/access"
	"exactflask/core/record/practical"
	"exactflask/view"
)

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
