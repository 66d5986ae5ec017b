package web

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app/access"
	"exactflask/app/people"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/store"
	"exactflask/view"
)

// keyPerson is where a session keeps the id of who signed in.
const keyPerson = "person"

// keySignIn is where it keeps the id of the sign-in.
const keySignIn = "sign-in"

// signedIn marks an operation that needs a session.
var signedIn = []map[string][]string{{"session": {}}}

type meOutput struct {
	Body meBody
}

type meBody struct {
	Person access.Person  `json:"person"`
	Units  view.UnitTexts `json:"units" doc:"how the units of columns are written for them"`
	Wished bool           `json:"wished,omitempty" doc:"another name was asked for: those who lead the class grant it"`
	Full   bool           `json:"full,omitempty" doc:"the server's disk has no room: everything can be read, and nothing is written until there is"`
}

// deviceCookie says on which device somebody signs in: it opens nothing, and lets nobody else's
// guesses hold them back.
const deviceCookie = "exactflask-device"

// signInOutput is who signed in, with the device's cookie.
type signInOutput struct {
	SetCookie http.Cookie `header:"Set-Cookie"`
	Body      meBody
}

func (s *server) me(ctx context.Context, p access.Person) *meOutput {
	out := &meOutput{}
	out.Body.Person, out.Body.Units = p, view.UnitsFor(p.Style())
	out.Body.Full = errors.Is(s.app.Ready(ctx), store.ErrFull)
	return out
}

func (s *server) accounts(api huma.API) {
	guesses := newAttempts()
	huma.Register(api, huma.Operation{OperationID: "sign-in", Method: http.MethodPost, Path: "/session",
		Summary: "Sign in", Errors: []int{401, 422, 429},
		Middlewares: located,
	}, func(ctx context.Context, in *struct {
		Device string `cookie:"exactflask-device" maxLength:"64" doc:"of an earlier sign-in here"`
		Body   struct {
			Username string `json:"username" minLength:"1" maxLength:"64"`
			Password string `json:"password" minLength:"1" maxLength:"256"`
		}
	}) (*signInOutput, error) {
		at := from{device: in.Device}
		at.address, _ = ctx.Value(addressKey{}).(string)
		name := strings.ToLower(strings.TrimSpace(in.Body.Username))
		exists, err := s.app.People.Has(ctx, name)
		if err != nil {
			return nil, s.problemOf(practical.Style{}, err)
		}
		wait, spent := guesses.wait(name, at, exists)
		switch {
		case wait > 0:
			s.options.Metrics.signedIn("held back")
			s.options.Log.Warn("security", "what", "sign-in held back", "username", loggable(name), "address", at.address, "seconds", seconds(wait))
			return nil, heldBack(practical.Style{}, wait)
		case spent:
			s.options.Metrics.signedIn("failed")
			time.Sleep(guesses.asLong())
			return nil, s.problemOf(practical.Style{}, people.ErrSignIn)
		}
		began := time.Now()
		p, err := s.app.People.SignIn(ctx, in.Body.Username, in.Body.Password)
		guesses.lasted(time.Since(began))
		if errors.Is(err, people.ErrSignIn) {
			s.options.Metrics.signedIn("failed")
			s.options.Log.Warn("security", "what", "sign-in failed", "username", loggable(name), "address", at.address)
		}
		if err != nil {
			return nil, s.problemOf(practical.Style{}, err)
		}
		if at.device == "" {
			at.device = rand.Text()
		}
		guesses.succeeded(name, at)
		s.options.Metrics.signedIn("succeeded")
		s.options.Log.Info("security", "what", "signed in", "person", p.ID, "address", at.address)
		out, err := s.enter(ctx, p)
		if err != nil {
			return nil, err
		}
		return &signInOutput{http.Cookie{Name: deviceCookie, Value: at.device, Path: "/api/session", MaxAge: int(deviceFor.Seconds()), HttpOnly: true,
			Secure: s.options.Secure, SameSite: http.SameSiteStrictMode}, out.Body}, nil
	})
	huma.Register(api, huma.Operation{OperationID: "sign-out", Method: http.MethodDelete, Path: "/session",
		Summary: "Sign out", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, _ *struct{}) (*struct{}, error) {
			if p, err := s.self(ctx); err == nil {
				if err := s.app.People.EndSignIn(ctx, p, s.sessions.GetString(ctx, keySignIn)); err != nil {
					return nil, s.problemOf(p.Style(), err)
				}
			}
			return nil, s.problemOf(practical.Style{}, s.sessions.Destroy(ctx))
		})
	huma.Register(api, huma.Operation{OperationID: "me", Method: http.MethodGet, Path: "/me",
		Summary: "Who is signed in", Security: signedIn, Errors: []int{401}},
		func(ctx context.Context, _ *struct{}) (*meOutput, error) {
			p, err := s.self(ctx)
			if err != nil {
				return nil, err
			}
			return s.me(ctx, p), nil
		})
	huma.Register(api, huma.Operation{OperationID: "set-preferences", Method: http.MethodPut, Path: "/me/preferences",
		Summary: "Own words, units and theme", Security: signedIn, Errors: []int{401, 422}},
		func(ctx context.Context, in *struct{ Body access.Preferences }) (*meOutput, error) {
			p, err := s.person(ctx)
			if err != nil {
				return nil, err
			}
			p, err = s.app.People.SetPreferences(ctx, p, in.Body)
			if err != nil {
				return nil, s.problemOf(p.Style(), err)
			}
			return s.me(ctx, p), nil
		})
	huma.Register(api, huma.Operation{OperationID: "about", Method: http.MethodGet, Path: "/about",
		Summary: "What this is; in demo mode, who may be chosen to sign in"},
		func(ctx context.Context, _ *struct{}) (*aboutOutput, error) {
			out := &aboutOutput{}
			out.Body.Version, out.Body.Demo, out.Body.People = Version, s.options.Demo, []people.DemoPerson{}
			var err error
			if out.Body.AwaitsSetup, err = s.app.People.AwaitsSetup(ctx); err != nil {
				return nil, s.problemOf(practical.Style{}, err)
			}
			if s.options.Demo {
				people, err := s.app.People.DemoPeople(ctx)
				if err != nil {
					return nil, s.problemOf(practical.Style{}, err)
				}
				out.Body.People = people
			}
			return out, nil
		})
}

// enter signs somebody in.
func (s *server) enter(ctx context.Context, p access.Person) (*meOutput, error) {
	agent, _ := ctx.Value(agentKey{}).(string)
	id, err := s.app.People.BeginSignIn(ctx, p, agent)
	if err != nil {
		return nil, s.problemOf(practical.Style{}, err)
	}
	// A new token at every sign-in: one that was known before is worthless.
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, s.problemOf(practical.Style{}, err)
	}
	s.sessions.Put(ctx, keyPerson, p.ID)
	s.sessions.Put(ctx, keySignIn, id)
	return s.me(ctx, p), nil
}

type aboutOutput struct {
	Body struct {
		Version string              `json:"version"`
		Demo    bool                `json:"demo"`
		People  []people.DemoPerson `json:"people" doc:"empty unless in demo mode; everyone's password is then the same"`
		// AwaitsSetup: with the link that the program printed one becomes the administrator.
		AwaitsSetup bool `json:"awaitsSetup" doc:"nobody is here yet"`
	}
}

type (
	addressKey struct{}
	agentKey   struct{}
)

// located tells an operation where it is asked from, and by which browser.
var located = huma.Middlewares{func(c huma.Context, next func(huma.Context)) {
	next(huma.WithValue(huma.WithValue(c, addressKey{}, household(hostOf(c.RemoteAddr()))), agentKey{}, c.Header("User-Agent")))
}}

func hostOf(remote string) string { return address(&http.Request{RemoteAddr: remote}) }

// loggable is a user name for the log; a password that was typed in its place is
// none, and stays out.
func loggable(name string) string {
	if people.IsUsername(name) {
		return name
	}
	return "(no user name)"
}

// seconds is a wait in whole seconds, at least one.
func seconds(wait time.Duration) int { return int((wait + time.Second - 1) / time.Second) }

// person returns who is signed in, or a 401; or a 403 where the password has to be
// changed first.
func (s *server) person(ctx context.Context) (access.Person, error) {
	p, err := s.self(ctx)
	if err == nil && p.MustChange {
		return access.Person{}, said(http.StatusForbidden, p.Style(), changeFirst.Message())
	}
	return p, err
}

// self is person for what one may do with any password.
func (s *server) self(ctx context.Context) (access.Person, error) {
	id := s.sessions.GetString(ctx, keySignIn)
	if id == "" {
		return access.Person{}, said(http.StatusUnauthorized, practical.Style{}, notSignedIn.Message())
	}
	p, err := s.app.People.PersonOf(ctx, id)
	if errors.Is(err, access.ErrNotFound) {
		return access.Person{}, said(http.StatusUnauthorized, practical.Style{}, notSignedIn.Message())
	}
	if err != nil {
		return access.Person{}, s.problemOf(practical.Style{}, err)
	}
	return p, nil
}

// signIns are the operations on one's own password and sign-ins.
func (s *server) signIns(api huma.API) {
	type passwordInput struct {
		Body struct {
			Old string `json:"old" minLength:"1" maxLength:"256"`
			New string `json:"new" minLength:"1" maxLength:"256" doc:"8 bytes at least, and not one that is guessed first"`
		}
	}
	guesses := newAttempts()
	huma.Register(api, huma.Operation{OperationID: "change-password", Method: http.MethodPut, Path: "/me/password",
		Summary: "Change my password; my other sign-ins end", Security: signedIn, Errors: []int{401, 403, 422, 429}, DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *passwordInput) (*struct{}, error) {
			p, err := s.self(ctx)
			if err != nil {
				return nil, err
			}
			if s.options.Demo && !p.MustChange {
				return nil, said(http.StatusForbidden, p.Style(), demoPassword.Message())
			}
			if wait, _ := guesses.wait(p.ID, from{}, true); wait > 0 {
				return nil, heldBack(p.Style(), wait)
			}
			if err := s.app.People.ChangePassword(ctx, p, s.sessions.GetString(ctx, keySignIn), in.Body.Old, in.Body.New); err != nil {
				return nil, s.problemOf(p.Style(), err)
			}
			guesses.succeeded(p.ID, from{})
			s.options.Log.Info("security", "what", "password changed", "person", p.ID)
			return nil, nil
		})
	type signInsOutput struct {
		Body struct {
			SignIns []people.SignedIn `json:"signIns"`
		}
	}
	huma.Register(api, huma.Operation{OperationID: "sign-ins", Method: http.MethodGet, Path: "/me/sign-ins",
		Summary: "Where I am signed in", Security: signedIn, Errors: []int{401}},
		asked(s, func(ctx context.Context, p access.Person, _ *struct{}) (*signInsOutput, error) {
			out := &signInsOutput{}
			var err error
			out.Body.SignIns, err = s.app.People.SignIns(ctx, p, s.sessions.GetString(ctx, keySignIn))
			return out, err
		}))
	huma.Register(api, huma.Operation{OperationID: "end-other-sign-ins", Method: http.MethodDelete, Path: "/me/sign-ins",
		Summary: "Sign me out everywhere else", Security: signedIn, Errors: []int{401}, DefaultStatus: http.StatusNoContent},
		asked(s, func(ctx context.Context, p access.Person, _ *struct{}) (*struct{}, error) {
			s.options.Log.Info("security", "what", "signed out elsewhere", "person", p.ID)
			return nil, s.app.People.EndOthers(ctx, p, s.sessions.GetString(ctx, keySignIn))
		}))
}

// heldBack says that an attempt has to wait.
func heldBack(style practical.Style, wait time.Duration) error {
	return huma.ErrorWithHeaders(said(http.StatusTooManyRequests, style, tooManyAttempts.Message(finding.Count(seconds(wait)))),
		http.Header{"Retry-After": {fmt.Sprint(seconds(wait))}})
}
