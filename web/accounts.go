package web

import (
	"context"
	"errors"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/httprate"

	"exactflask/app"
	"exactflask/core/practical"
)

// keyPerson is where a session keeps the id of who signed in.
const keyPerson = "person"

// signedIn marks an operation that needs a session.
var signedIn = []map[string][]string{{"session": {}}}

type meOutput struct {
	Body struct {
		Person app.Person `json:"person"`
	}
}

func (s *server) accounts(api huma.API) {
	// A whole class signs in from one address within minutes, so the limit of
	// an address is wide; that of one name from one address is narrow.
	perName := httprate.NewRateLimiter(8, time.Minute)
	perAddress := httprate.NewRateLimiter(200, time.Minute)
	huma.Register(api, huma.Operation{OperationID: "sign-in", Method: http.MethodPost, Path: "/session", Summary: "Sign in", Errors: []int{401, 422, 429},
		Middlewares: huma.Middlewares{func(c huma.Context, next func(huma.Context)) {
			next(huma.WithValue(c, addressKey{}, hostOf(c.RemoteAddr())))
		}},
	}, func(ctx context.Context, in *struct {
		Body struct {
			Username string `json:"username" minLength:"1" maxLength:"64"`
			Password string `json:"password" minLength:"1" maxLength:"256"`
		}
	}) (*meOutput, error) {
		from, _ := ctx.Value(addressKey{}).(string)
		none, request := noWriter{}, (&http.Request{}).WithContext(ctx)
		if perAddress.OnLimit(none, request, from) || perName.OnLimit(none, request, from+"/"+strings.ToLower(in.Body.Username)) {
			return nil, said(http.StatusTooManyRequests, practical.Style{}, tooManyAttempts.Message())
		}
		p, err := s.app.SignIn(ctx, in.Body.Username, in.Body.Password)
		if err != nil {
			return nil, s.problemOf(practical.Style{}, err)
		}
		// A new token at every sign-in: one that was known before is worthless.
		if err := s.sessions.RenewToken(ctx); err != nil {
			return nil, s.problemOf(practical.Style{}, err)
		}
		s.sessions.Put(ctx, keyPerson, p.ID)
		out := &meOutput{}
		out.Body.Person = p
		return out, nil
	})
	huma.Register(api, huma.Operation{OperationID: "sign-out", Method: http.MethodDelete, Path: "/session", Summary: "Sign out", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, _ *struct{}) (*struct{}, error) {
			return nil, s.problemOf(practical.Style{}, s.sessions.Destroy(ctx))
		})
	huma.Register(api, huma.Operation{OperationID: "me", Method: http.MethodGet, Path: "/me", Summary: "Who is signed in", Security: signedIn, Errors: []int{401}},
		func(ctx context.Context, _ *struct{}) (*meOutput, error) {
			p, err := s.person(ctx)
			if err != nil {
				return nil, err
			}
			out := &meOutput{}
			out.Body.Person = p
			return out, nil
		})
	huma.Register(api, huma.Operation{OperationID: "set-preferences", Method: http.MethodPut, Path: "/me/preferences", Summary: "Own words, units and theme", Security: signedIn, Errors: []int{401, 422}},
		func(ctx context.Context, in *struct{ Body app.Preferences }) (*meOutput, error) {
			p, err := s.person(ctx)
			if err != nil {
				return nil, err
			}
			p, err = s.app.SetPreferences(ctx, p, in.Body)
			if err != nil {
				return nil, s.problemOf(p.Style(), err)
			}
			out := &meOutput{}
			out.Body.Person = p
			return out, nil
		})
	huma.Register(api, huma.Operation{OperationID: "about", Method: http.MethodGet, Path: "/about", Summary: "What this is; in demo mode, who may be chosen to sign in"},
		func(ctx context.Context, _ *struct{}) (*aboutOutput, error) {
			out := &aboutOutput{}
			out.Body.Version, out.Body.Demo, out.Body.People = Version, s.options.Demo, []app.DemoPerson{}
			if s.options.Demo {
				people, err := s.app.DemoPeople(ctx)
				if err != nil {
					return nil, s.problemOf(practical.Style{}, err)
				}
				out.Body.People = people
			}
			return out, nil
		})
}

type aboutOutput struct {
	Body struct {
		Version string           `json:"version"`
		Demo    bool             `json:"demo"`
		People  []app.DemoPerson `json:"people" doc:"empty unless in demo mode; everyone's password is then the same"`
	}
}

type addressKey struct{}

func hostOf(remote string) string { return address(&http.Request{RemoteAddr: remote}) }

// noWriter takes the headers that the limiter of sign-ins sets; huma writes
// the answer.
type noWriter struct{}

func (noWriter) Header() http.Header         { return http.Header{} }
func (noWriter) Write(b []byte) (int, error) { return len(b), nil }
func (noWriter) WriteHeader(int)             {}

// person returns who is signed in, or a 401.
func (s *server) person(ctx context.Context) (app.Person, error) {
	id := s.sessions.GetString(ctx, keyPerson)
	if id == "" {
		return app.Person{}, said(http.StatusUnauthorized, practical.Style{}, notSignedIn.Message())
	}
	p, err := s.app.Person(ctx, id)
	if errors.Is(err, app.ErrNotFound) {
		return app.Person{}, said(http.StatusUnauthorized, practical.Style{}, accountGone.Message())
	}
	if err != nil {
		return app.Person{}, s.problemOf(practical.Style{}, err)
	}
	return p, nil
}
