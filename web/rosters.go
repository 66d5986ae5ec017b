package web

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app/access"
	"exactflask/app/classes"
	"exactflask/app/people"
	"exactflask/wording"
)

// rosters are the operations that bring people into a class.
func (s *server) rosters(api huma.API) {
	type rosterOutput struct{ Body classes.Roster }
	huma.Register(api, operation("read-roster", http.MethodPost, "/classes/{class}/roster", "Look at a list of people before they are added", 413),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			ClassPath
			Body struct {
				Text []byte `json:"text" doc:"names one to a line, or a CSV file, in base64"`
			}
		}) (*rosterOutput, error) {
			words := wording.For(p.Style())
			out, err := s.app.Classes.ReadRoster(ctx, p, in.Class, in.Body.Text, words.Say)
			return &rosterOutput{out}, err
		}))
	type slipsOutput struct {
		Body struct {
			Slips []people.Slip `json:"slips" doc:"shown now and never again"`
		}
	}
	slips := func(got []people.Slip, err error) (*slipsOutput, error) {
		out := &slipsOutput{}
		out.Body.Slips = got
		return out, err
	}
	huma.Register(api, operation("add-people", http.MethodPost, "/classes/{class}/people", "Add people to a class, all or none, with one-time passwords"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			ClassPath
			Body struct {
				People []classes.Added `json:"people" minItems:"1" maxItems:"300"`
			}
		}) (*slipsOutput, error) {
			got, err := s.app.Classes.AddPeople(ctx, p, in.Class, in.Body.People)
			if err == nil {
				s.options.Log.Info("security", "what", "people added", "by", p.ID, "class", in.Class, "count", len(in.Body.People))
			}
			return slips(got, err)
		}))
	huma.Register(api, operation("new-passwords", http.MethodPost, "/classes/{class}/passwords", "Give students of a class new one-time passwords"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			ClassPath
			Body struct {
				People []string `json:"people" minItems:"1" maxItems:"300" doc:"ids"`
			}
		}) (*slipsOutput, error) {
			got, err := s.app.Classes.NewPasswords(ctx, p, in.Class, in.Body.People)
			if err == nil {
				s.options.Log.Info("security", "what", "one-time passwords given", "by", p.ID, "class", in.Class, "count", len(got))
			}
			return slips(got, err)
		}))
}
