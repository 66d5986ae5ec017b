package web

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app/classes"
	"exactflask/app/people"
	"exactflask/core/record/practical"
)

// joining are the operations of somebody with a code, or with the link of the first
// start. They may be asked by nobody in particular, and guessing is slow.
func (s *server) joining(api huma.API) {
	guesses := newAttempts()
	// tried counts a try at a code from an address until it succeeds.
	tried := func(ctx context.Context) (func(), error) {
		from, _ := ctx.Value(addressKey{}).(string)
		if wait := guesses.waitAddress(from); wait > 0 {
			return nil, heldBack(practical.Style{}, wait)
		}
		return func() { guesses.good(from) }, nil
	}
	open := func(id, method, path, summary string) huma.Operation {
		return huma.Operation{OperationID: id, Method: method, Path: path, Summary: summary, Errors: []int{403, 422, 429}, Middlewares: located}
	}
	type invitationOutput struct{ Body classes.Invitation }
	huma.Register(api, open("invitation", http.MethodGet, "/join/{code}", "The class that a code leads to"),
		func(ctx context.Context, in *struct {
			Code string `path:"code" maxLength:"40"`
		}) (*invitationOutput, error) {
			good, err := tried(ctx)
			if err != nil {
				return nil, err
			}
			out, err := s.app.Classes.Invitation(ctx, in.Code)
			if err != nil {
				return nil, s.problemOf(practical.Style{}, err)
			}
			good()
			return &invitationOutput{out}, nil
		})
	type usernameOutput struct {
		Body struct {
			Username string `json:"username"`
		}
	}
	huma.Register(api, open("suggest-username", http.MethodGet, "/join/{code}/username", "A user name for a name, that is not taken"),
		func(ctx context.Context, in *struct {
			Code string `path:"code" maxLength:"40"`
			Name string `query:"name" maxLength:"200"`
		}) (*usernameOutput, error) {
			good, err := tried(ctx)
			if err != nil {
				return nil, err
			}
			out := &usernameOutput{}
			if out.Body.Username, err = s.app.Classes.SuggestUsername(ctx, in.Code, in.Name); err != nil {
				return nil, s.problemOf(practical.Style{}, err)
			}
			good()
			return out, nil
		})
	type joinInput struct {
		Body struct {
			Code     string `json:"code" minLength:"1" maxLength:"40"`
			Name     string `json:"name,omitempty" maxLength:"200" doc:"left out by who is signed in"`
			Username string `json:"username,omitempty" maxLength:"64"`
			Password string `json:"password,omitempty" maxLength:"256"`
		}
	}
	huma.Register(api, open("join", http.MethodPost, "/join", "Join a class with its code: as who is signed in, or as somebody new, who is signed in then"),
		func(ctx context.Context, in *joinInput) (*meOutput, error) {
			good, err := tried(ctx)
			if err != nil {
				return nil, err
			}
			b := in.Body
			if b.Username == "" {
				p, err := s.person(ctx)
				if err != nil {
					return nil, err
				}
				if err := s.app.Classes.JoinByCode(ctx, p, b.Code); err != nil {
					return nil, s.problemOf(p.Style(), err)
				}
				good()
				p, err = s.app.Person(ctx, p.ID)
				return s.me(ctx, p), s.problemOf(p.Style(), err)
			}
			p, err := s.app.Classes.SignUp(ctx, b.Code, people.NewPerson{Username: b.Username, Name: b.Name, Password: b.Password})
			if err != nil {
				return nil, s.problemOf(practical.Style{}, err)
			}
			good()
			s.options.Log.Info("security", "what", "joined with a code", "person", p.ID)
			return s.enter(ctx, p)
		})
	huma.Register(api, open("set-up", http.MethodPost, "/setup", "Become the administrator of an empty installation, with the link that the program printed"),
		func(ctx context.Context, in *struct {
			Body struct {
				Token    string `json:"token" minLength:"1" maxLength:"64"`
				Name     string `json:"name" minLength:"1" maxLength:"200"`
				Username string `json:"username" minLength:"1" maxLength:"64"`
				Password string `json:"password" minLength:"1" maxLength:"256"`
			}
		}) (*meOutput, error) {
			good, err := tried(ctx)
			if err != nil {
				return nil, err
			}
			b := in.Body
			p, err := s.app.People.Setup(ctx, b.Token, people.NewPerson{Username: b.Username, Name: b.Name, Password: b.Password})
			if err != nil {
				return nil, s.problemOf(practical.Style{}, err)
			}
			good()
			s.options.Log.Info("security", "what", "set up", "person", p.ID)
			return s.enter(ctx, p)
		})
}
