package web

import (
	"context"
	"fmt"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app"
	"exactflask/app/access"
	"exactflask/app/people"
)

// installation are the operations of administrators, and those on data of persons.
func (s *server) installation(api huma.API) {
	type accountsOutput struct {
		Body struct {
			People []people.Account `json:"people"`
		}
	}
	huma.Register(api, operation("accounts", http.MethodGet, "/people", "Everyone, for an administrator"),
		asked(s, func(ctx context.Context, p access.Person, _ *struct{}) (*accountsOutput, error) {
			out := &accountsOutput{}
			var err error
			out.Body.People, err = s.app.People.Accounts(ctx, p)
			return out, err
		}))
	type slipOutput struct{ Body people.Slip }
	huma.Register(api, operation("add-account", http.MethodPost, "/people", "Add an instructor or administrator"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			Body struct {
				Name     string          `json:"name" minLength:"1" maxLength:"200"`
				Username string          `json:"username,omitempty" maxLength:"64" doc:"empty: made of the name"`
				Standing access.Standing `json:"standing" enum:",instructor,administrator"`
			}
		}) (*slipOutput, error) {
			out, err := s.app.People.AddAccount(ctx, p, in.Body.Name, in.Body.Username, in.Body.Standing)
			return &slipOutput{out}, err
		}))
	huma.Register(api, silent(operation("set-standing", http.MethodPut, "/people/{person}/standing", "What somebody may do in the installation")),
		done(s, func(ctx context.Context, p access.Person, in *struct {
			AccountPath
			Body struct {
				Standing access.Standing `json:"standing" enum:",instructor,administrator"`
			}
		}) error {
			s.options.Log.Info("security", "what", "standing given", "by", p.ID, "person", in.Person, "standing", in.Body.Standing)
			return s.app.People.SetStanding(ctx, p, in.Person, in.Body.Standing)
		}))
	huma.Register(api, operation("new-password", http.MethodPost, "/people/{person}/password", "Give anybody a new one-time password, as an administrator"),
		asked(s, func(ctx context.Context, p access.Person, in *AccountPath) (*slipOutput, error) {
			out, err := s.app.People.NewPassword(ctx, p, in.Person)
			return &slipOutput{out}, err
		}))
	huma.Register(api, silent(operation("take-out", http.MethodDelete, "/people/{person}", "Take a person out for good; their notebooks stay without a name")),
		done(s, func(ctx context.Context, p access.Person, in *AccountPath) error {
			s.options.Log.Info("security", "what", "person taken out", "by", p.ID, "person", in.Person)
			return s.app.People.TakeOut(ctx, p, in.Person)
		}))
	type dataOutput struct {
		Disposition string `header:"Content-Disposition"`
		Body        app.PersonData
	}
	file := func(data app.PersonData, err error) (*dataOutput, error) {
		name := fmt.Sprintf("exactflask-%s-%s.json", data.Person.Username, time.Now().Format("2006-01-02"))
		return &dataOutput{fmt.Sprintf("attachment; filename=%q", name), data}, err
	}
	huma.Register(api, operation("person-data", http.MethodGet, "/people/{person}/data", "All that is held about somebody, for an administrator to give to them"),
		costly(s, func(ctx context.Context, p access.Person, in *AccountPath) (*dataOutput, error) {
			return file(s.app.DataOf(ctx, p, in.Person))
		}))
	huma.Register(api, operation("own-data", http.MethodGet, "/me/data", "All that is held about me"),
		costly(s, func(ctx context.Context, p access.Person, _ *struct{}) (*dataOutput, error) {
			return file(s.app.OwnData(ctx, p))
		}))
	huma.Register(api, operation("set-name", http.MethodPut, "/me/name", "What I am called"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			Body struct {
				Name string `json:"name" minLength:"1" maxLength:"200"`
			}
		}) (*meOutput, error) {
			named, wished, err := s.app.People.SetName(ctx, p, in.Body.Name)
			out := s.me(ctx, named)
			out.Body.Wished = wished
			return out, err
		}))
}
