package web

import (
	"context"
	"encoding/json"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app/access"
	"exactflask/app/practicals"
	"exactflask/core/record/practical"
)

// settings are the operations on how a practical is set to a class.
func (s *server) settings(api huma.API) {
	const path = "/classes/{class}/practicals/{practical}"
	type settingsOutput struct{ Body practicals.Settings }
	now := func(ctx context.Context, p access.Person, at PracticalPath, err error) (*settingsOutput, error) {
		if err != nil {
			return nil, err
		}
		out, err := s.app.Bench.Settings(ctx, p, at.Class, at.Practical)
		return &settingsOutput{out}, err
	}
	huma.Register(api, operation("settings", http.MethodGet, path+"/settings", "How a practical is set to a class: times, unknowns, who has what"),
		asked(s, func(ctx context.Context, p access.Person, in *PracticalPath) (*settingsOutput, error) {
			return now(ctx, p, *in, nil)
		}))
	huma.Register(api, operation("set-settings", http.MethodPut, path+"/settings", "Say when it is seen and due, which unknowns there are and who has which"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			PracticalPath
			Body practicals.NewSettings
		}) (*settingsOutput, error) {
			return now(ctx, p, in.PracticalPath, s.app.Practicals.SetSettings(ctx, p, in.Class, in.Practical, in.Body))
		}))
	type dealOutput struct {
		Body struct {
			Deals map[string]string `json:"deals" doc:"code of the unknown by the id of the student"`
		}
	}
	huma.Register(api, operation("deal", http.MethodPost, path+"/deal", "Give out unknowns in turn or at random; nothing is kept until the settings are"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			PracticalPath
			Body practicals.Dealt
		}) (*dealOutput, error) {
			out := &dealOutput{}
			var err error
			out.Body.Deals, err = s.app.Practicals.Deal(ctx, p, in.Class, in.Practical, in.Body)
			return out, err
		}))
	type pairOutput struct {
		Body struct {
			Pairs map[string]string `json:"pairs" doc:"id of the partner by the id of the student"`
		}
	}
	huma.Register(api, operation("pair", http.MethodPost, path+"/pair", "Who works with whom once one of them takes another; nothing is kept until the settings are"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			PracticalPath
			Body struct {
				Pairs   map[string]string `json:"pairs" doc:"as they are now"`
				Person  string            `json:"person" maxLength:"64"`
				Partner string            `json:"partner" maxLength:"64" doc:"empty: nobody"`
			}
		}) (*pairOutput, error) {
			out := &pairOutput{}
			var err error
			out.Body.Pairs, err = s.app.Practicals.Pair(p, in.Class, in.Body.Pairs, in.Body.Person, in.Body.Partner)
			return out, err
		}))
	huma.Register(api, operation("move-notebooks", http.MethodPost, path+"/revision", "Put notebooks under the revision that is set now"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			PracticalPath
			Body struct {
				People []string `json:"people,omitempty" maxItems:"500" doc:"ids; empty: all"`
			}
		}) (*settingsOutput, error) {
			return now(ctx, p, in.PracticalPath, s.app.Practicals.MoveToRevision(ctx, p, in.Class, in.Practical, in.Body.People))
		}))
	huma.Register(api, silent(operation("unset-practical", http.MethodDelete, path, "Take a practical from a class; notebooks of it stay")),
		done(s, func(ctx context.Context, p access.Person, in *PracticalPath) error {
			return s.app.Practicals.Unassign(ctx, p, in.Class, in.Practical)
		}))
	type previewOutput struct{ Body practicals.Planned }
	huma.Register(api, operation("preview", http.MethodPost, "/plan/preview", "A practical that is being written, as a student sees it"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			Body struct {
				Practical practical.Practical `json:"practical"`
			}
		}) (*previewOutput, error) {
			out, err := s.app.Practicals.Preview(ctx, p, in.Body.Practical)
			return &previewOutput{out}, err
		}))
	s.drafts(api)
}

// DraftPath is the path of an operation on a draft.
type DraftPath struct {
	ClassPath
	Name string `path:"name" maxLength:"64" doc:"id of the practical, or new"`
}

// drafts are the operations on practicals that are being written.
func (s *server) drafts(api huma.API) {
	const path = "/classes/{class}/drafts/{name}"
	type draftOutput struct{ Body practicals.Draft }
	huma.Register(api, operation("draft", http.MethodGet, path, "My practical that is being written, half done"),
		asked(s, func(ctx context.Context, p access.Person, in *DraftPath) (*draftOutput, error) {
			out, err := s.app.Practicals.Draft(ctx, p, in.Class, in.Name)
			return &draftOutput{out}, err
		}))
	huma.Register(api, silent(operation("keep-draft", http.MethodPut, path, "Keep it as it is typed")),
		done(s, func(ctx context.Context, p access.Person, in *struct {
			DraftPath
			Body struct {
				Practical json.RawMessage `json:"practical"`
			}
		}) error {
			return s.app.Practicals.KeepDraft(ctx, p, in.Class, in.Name, in.Body.Practical)
		}))
	huma.Register(api, silent(operation("drop-draft", http.MethodDelete, path, "Forget it")),
		done(s, func(ctx context.Context, p access.Person, in *DraftPath) error {
			return s.app.Practicals.DropDraft(ctx, p, in.Class, in.Name)
		}))
}
