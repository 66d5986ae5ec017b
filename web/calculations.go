package web

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app/access"
	"exactflask/calc"
	"exactflask/schema"
	"exactflask/view"
	"exactflask/wording"
)

// calculations are the computations of the core without a notebook, and the
// catalogue.
func (s *server) calculations(api huma.API) {
	type function struct {
		Name    string `json:"name"`
		Summary string `json:"summary"`
	}
	type listOutput struct {
		Body struct {
			Functions []function `json:"functions"`
		}
	}
	huma.Register(api, huma.Operation{OperationID: "calculations", Method: http.MethodGet, Path: "/calc",
		Summary: "The computations there are", Security: signedIn, Errors: []int{401}},
		asked(s, func(_ context.Context, who access.Person, _ *struct{}) (*listOutput, error) {
			out, words := &listOutput{}, wording.For(who.Style())
			for _, f := range calc.Functions() {
				out.Body.Functions = append(out.Body.Functions, function{f.Name, words.Say(f.About())})
			}
			return out, nil
		}))

	type calcInput struct {
		Name    string `path:"name" maxLength:"40"`
		RawBody []byte `contentType:"application/json"`
	}
	type calcOutput struct{ Body json.RawMessage }
	huma.Register(api, huma.Operation{OperationID: "calculate", Method: http.MethodPost, Path: "/calc/{name}",
		Summary:  "Compute; the schemas are those of exactflask calc --schema NAME",
		Security: signedIn, Errors: []int{401, 403, 404, 422}, MaxBodyBytes: MaxBody, SkipValidateBody: true},
		costly(s, func(ctx context.Context, p access.Person, in *calcInput) (*calcOutput, error) {
			out, err := s.app.Bench.Calculate(ctx, p, in.Name, in.RawBody)
			var faults schema.Faults
			switch {
			case errors.Is(err, calc.ErrUnknown):
				return nil, access.ErrNotFound
			case errors.As(err, &faults):
				return nil, faults[0]
			}
			return &calcOutput{out}, err
		}))

	type catalogOutput struct{ Body view.Catalogue }
	huma.Register(api, huma.Operation{OperationID: "catalogue", Method: http.MethodGet, Path: "/catalogue",
		Summary: "Substances, indicators, reactions and standards, with my own reactions", Security: signedIn, Errors: []int{401}},
		asked(s, func(ctx context.Context, p access.Person, _ *struct{}) (*catalogOutput, error) {
			out, err := s.app.Practicals.Catalogue(ctx, p)
			return &catalogOutput{out}, err
		}))

	type reactionInput struct {
		Body struct {
			Name     string `json:"name" minLength:"1" maxLength:"120"`
			Equation string `json:"equation" minLength:"1" maxLength:"600" doc:"balanced when it is read"`
		}
	}
	type reactionOutput struct{ Body view.Reaction }
	huma.Register(api, huma.Operation{OperationID: "add-reaction", Method: http.MethodPost, Path: "/catalogue/reactions",
		Summary: "Add a reaction of my own", Security: signedIn, Errors: []int{401, 422}},
		asked(s, func(ctx context.Context, p access.Person, in *reactionInput) (*reactionOutput, error) {
			r, err := s.app.Practicals.AddReaction(ctx, p, in.Body.Name, in.Body.Equation)
			return &reactionOutput{r}, err
		}))

	type dropInput struct {
		ID string `path:"id" maxLength:"64"`
	}
	huma.Register(api, huma.Operation{OperationID: "drop-reaction", Method: http.MethodDelete,
		Path: "/catalogue/reactions/{id}", Summary: "Take a reaction of my own out", Security: signedIn, Errors: []int{401,
			404}, DefaultStatus: http.StatusNoContent},
		asked(s, func(ctx context.Context, p access.Person, in *dropInput) (*struct{}, error) {
			return nil, s.app.Practicals.DropReaction(ctx, p, in.ID)
		}))
}
