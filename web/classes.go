package web

import (
	"context"
	"fmt"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app"
	"exactflask/core/record/practical"
	"exactflask/wording"
)

// ClassPath is the path of an operation on a class.
type ClassPath struct {
	Class string `path:"class" maxLength:"64"`
}

// MemberPath is the path of an operation on a person of a class.
type MemberPath struct {
	ClassPath
	Person string `path:"person" maxLength:"64"`
}

// AccountPath is the path of an operation on a person of the installation.
type AccountPath struct {
	Person string `path:"person" maxLength:"64"`
}

// operation describes one that needs a session.
func operation(id, method, path, summary string, problems ...int) huma.Operation {
	out := huma.Operation{OperationID: id, Method: method, Path: path, Summary: summary, Security: signedIn,
		Errors: append([]int{401, 403, 404, 422}, problems...)}
	return out
}

// silent is an operation that answers nothing but that it was done.
func silent(o huma.Operation) huma.Operation {
	o.DefaultStatus = http.StatusNoContent
	return o
}

// done asks for nothing in return.
func done[In any](s *server, do func(context.Context, app.Person, *In) error) func(context.Context, *In) (*struct{}, error) {
	return asked(s, func(ctx context.Context, p app.Person, in *In) (*struct{}, error) { return nil, do(ctx, p, in) })
}

// classes are the operations on classes and on who is in them.
func (s *server) classes(api huma.API) {
	type classesOutput struct {
		Body struct {
			Classes []app.ListedClass `json:"classes"`
		}
	}
	huma.Register(api, operation("classes", http.MethodGet, "/classes", "My classes; for an administrator, all"),
		asked(s, func(ctx context.Context, p app.Person, _ *struct{}) (*classesOutput, error) {
			out := &classesOutput{}
			var err error
			out.Body.Classes, err = s.app.Classes(ctx, p)
			return out, err
		}))
	type pageOutput struct{ Body app.ClassPage }
	page := func(ctx context.Context, p app.Person, class string, err error) (*pageOutput, error) {
		if err != nil {
			return nil, err
		}
		if fresh, err := s.app.Person(ctx, p.ID); err == nil { // their own place may have changed
			p = fresh
		}
		out, err := s.app.ClassPage(ctx, p, class)
		return &pageOutput{out}, err
	}
	huma.Register(api, operation("make-class", http.MethodPost, "/classes", "Make a class, empty or with the practicals of another"),
		asked(s, func(ctx context.Context, p app.Person, in *struct{ Body app.NewClass }) (*pageOutput, error) {
			id, err := s.app.MakeClass(ctx, p, in.Body)
			return page(ctx, p, id, err)
		}))
	huma.Register(api, operation("class", http.MethodGet, "/classes/{class}", "A class and its people, for those who teach there"),
		asked(s, func(ctx context.Context, p app.Person, in *ClassPath) (*pageOutput, error) {
			return page(ctx, p, in.Class, nil)
		}))
	huma.Register(api, operation("set-class", http.MethodPut, "/classes/{class}", "Name a class, archive it, take it up again"),
		asked(s, func(ctx context.Context, p app.Person, in *struct {
			ClassPath
			Body struct {
				Name     string `json:"name" minLength:"1" maxLength:"80"`
				Term     string `json:"term" maxLength:"40"`
				Archived bool   `json:"archived"`
			}
		}) (*pageOutput, error) {
			b := in.Body
			return page(ctx, p, in.Class, s.app.SetClass(ctx, p, in.Class, b.Name, b.Term, b.Archived))
		}))
	huma.Register(api, silent(operation("give-class", http.MethodPut, "/classes/{class}/instructor", "Give a class without an instructor one, as an administrator")),
		done(s, func(ctx context.Context, p app.Person, in *struct {
			ClassPath
			Body struct {
				Username string `json:"username" minLength:"1" maxLength:"64"`
			}
		}) error {
			return s.app.GiveClass(ctx, p, in.Class, in.Body.Username)
		}))
	huma.Register(api, operation("set-place", http.MethodPut, "/classes/{class}/people/{person}", "A person's role and place in a class, and who works with them"),
		asked(s, func(ctx context.Context, p app.Person, in *struct {
			MemberPath
			Body app.Place
		}) (*pageOutput, error) {
			return page(ctx, p, in.Class, s.app.SetPlace(ctx, p, in.Class, in.Person, in.Body))
		}))
	huma.Register(api, operation("remove-person", http.MethodDelete, "/classes/{class}/people/{person}", "Take a person out of a class; what they wrote in it stays"),
		asked(s, func(ctx context.Context, p app.Person, in *MemberPath) (*pageOutput, error) {
			return page(ctx, p, in.Class, s.app.Remove(ctx, p, in.Class, in.Person))
		}))
	huma.Register(api, operation("move-person", http.MethodPost, "/classes/{class}/people/{person}/move", "Move a student with their notebooks into another class of mine"),
		asked(s, func(ctx context.Context, p app.Person, in *struct {
			MemberPath
			Body struct {
				To string `json:"to" minLength:"1" maxLength:"64" doc:"id of the other class"`
			}
		}) (*pageOutput, error) {
			return page(ctx, p, in.Class, s.app.Move(ctx, p, in.Class, in.Person, in.Body.To))
		}))
	huma.Register(api, operation("open-code", http.MethodPut, "/classes/{class}/code", "Open a code with which students join by themselves"),
		asked(s, func(ctx context.Context, p app.Person, in *struct {
			ClassPath
			Body struct {
				Minutes int `json:"minutes" minimum:"5" maximum:"10080"`
			}
		}) (*pageOutput, error) {
			_, err := s.app.OpenCode(ctx, p, in.Class, in.Body.Minutes)
			return page(ctx, p, in.Class, err)
		}))
	huma.Register(api, operation("close-code", http.MethodDelete, "/classes/{class}/code", "Close a class's code"),
		asked(s, func(ctx context.Context, p app.Person, in *ClassPath) (*pageOutput, error) {
			return page(ctx, p, in.Class, s.app.CloseCode(ctx, p, in.Class))
		}))
	huma.Register(api, operation("add-notice", http.MethodPost, "/classes/{class}/notices", "Tell everyone in a class something"),
		asked(s, func(ctx context.Context, p app.Person, in *struct {
			ClassPath
			Body struct {
				Text string `json:"text" minLength:"1" maxLength:"500"`
			}
		}) (*pageOutput, error) {
			return page(ctx, p, in.Class, s.app.AddNotice(ctx, p, in.Class, in.Body.Text))
		}))
	huma.Register(api, operation("drop-notice", http.MethodDelete, "/classes/{class}/notices/{notice}", "Take a notice down"),
		asked(s, func(ctx context.Context, p app.Person, in *struct {
			ClassPath
			Notice string `path:"notice" maxLength:"64"`
		}) (*pageOutput, error) {
			return page(ctx, p, in.Class, s.app.DropNotice(ctx, p, in.Class, in.Notice))
		}))
	type actsOutput struct {
		Body struct {
			Acts []app.ActLine `json:"acts"`
		}
	}
	acts := func(got []app.ActLine, err error) (*actsOutput, error) {
		out := &actsOutput{}
		out.Body.Acts = got
		return out, err
	}
	type before struct {
		Before int64 `query:"before" minimum:"0" doc:"seq of the last one that was read; 0: from the newest"`
	}
	huma.Register(api, operation("acts-of-administrators", http.MethodGet, "/acts", "What administrators changed, the newest first, 100 at once"),
		asked(s, func(ctx context.Context, p app.Person, in *before) (*actsOutput, error) {
			return acts(s.app.Acts(ctx, p, "", in.Before))
		}))
	huma.Register(api, operation("acts", http.MethodGet, "/classes/{class}/acts", "Who changed what in a class, the newest first, 100 at once"),
		asked(s, func(ctx context.Context, p app.Person, in *struct {
			ClassPath
			Before int64 `query:"before" minimum:"0" doc:"seq of the last one that was read; 0: from the newest"`
		}) (*actsOutput, error) {
			return acts(s.app.Acts(ctx, p, in.Class, in.Before))
		}))
	s.rosters(api)
}

// rosters are the operations that bring people into a class.
func (s *server) rosters(api huma.API) {
	type rosterOutput struct{ Body app.Roster }
	huma.Register(api, operation("read-roster", http.MethodPost, "/classes/{class}/roster", "Look at a list of people before they are added", 413),
		asked(s, func(ctx context.Context, p app.Person, in *struct {
			ClassPath
			Body struct {
				Text []byte `json:"text" doc:"names one to a line, or a CSV file, in base64"`
			}
		}) (*rosterOutput, error) {
			words := wording.For(p.Style())
			out, err := s.app.ReadRoster(ctx, p, in.Class, in.Body.Text, words.Say)
			return &rosterOutput{out}, err
		}))
	type slipsOutput struct {
		Body struct {
			Slips []app.Slip `json:"slips" doc:"shown now and never again"`
		}
	}
	slips := func(got []app.Slip, err error) (*slipsOutput, error) {
		out := &slipsOutput{}
		out.Body.Slips = got
		return out, err
	}
	huma.Register(api, operation("add-people", http.MethodPost, "/classes/{class}/people", "Add people to a class, all or none, with one-time passwords"),
		asked(s, func(ctx context.Context, p app.Person, in *struct {
			ClassPath
			Body struct {
				People []app.Added `json:"people" minItems:"1" maxItems:"300"`
			}
		}) (*slipsOutput, error) {
			got, err := s.app.AddPeople(ctx, p, in.Class, in.Body.People)
			if err == nil {
				s.options.Log.Info("security", "what", "people added", "by", p.ID, "class", in.Class, "count", len(in.Body.People))
			}
			return slips(got, err)
		}))
	huma.Register(api, operation("new-passwords", http.MethodPost, "/classes/{class}/passwords", "Give students of a class new one-time passwords"),
		asked(s, func(ctx context.Context, p app.Person, in *struct {
			ClassPath
			Body struct {
				People []string `json:"people" minItems:"1" maxItems:"300" doc:"ids"`
			}
		}) (*slipsOutput, error) {
			got, err := s.app.NewPasswords(ctx, p, in.Class, in.Body.People)
			if err == nil {
				s.options.Log.Info("security", "what", "one-time passwords given", "by", p.ID, "class", in.Class, "count", len(got))
			}
			return slips(got, err)
		}))
}

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
		return func() { guesses.succeeded("", from) }, nil
	}
	open := func(id, method, path, summary string) huma.Operation {
		return huma.Operation{OperationID: id, Method: method, Path: path, Summary: summary, Errors: []int{403, 422, 429}, Middlewares: located}
	}
	type invitationOutput struct{ Body app.Invitation }
	huma.Register(api, open("invitation", http.MethodGet, "/join/{code}", "The class that a code leads to"),
		func(ctx context.Context, in *struct {
			Code string `path:"code" maxLength:"40"`
		}) (*invitationOutput, error) {
			good, err := tried(ctx)
			if err != nil {
				return nil, err
			}
			out, err := s.app.Invitation(ctx, in.Code)
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
			if out.Body.Username, err = s.app.SuggestUsername(ctx, in.Code, in.Name); err != nil {
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
				if err := s.app.JoinByCode(ctx, p, b.Code); err != nil {
					return nil, s.problemOf(p.Style(), err)
				}
				good()
				p, err = s.app.Person(ctx, p.ID)
				return me(p), s.problemOf(p.Style(), err)
			}
			p, err := s.app.SignUp(ctx, b.Code, app.NewPerson{Username: b.Username, Name: b.Name, Password: b.Password})
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
			p, err := s.app.Setup(ctx, b.Token, app.NewPerson{Username: b.Username, Name: b.Name, Password: b.Password})
			if err != nil {
				return nil, s.problemOf(practical.Style{}, err)
			}
			good()
			s.options.Log.Info("security", "what", "set up", "person", p.ID)
			return s.enter(ctx, p)
		})
}

// installation are the operations of administrators, and those on data of persons.
func (s *server) installation(api huma.API) {
	type accountsOutput struct {
		Body struct {
			People []app.Account `json:"people"`
		}
	}
	huma.Register(api, operation("accounts", http.MethodGet, "/people", "Everyone, for an administrator"),
		asked(s, func(ctx context.Context, p app.Person, _ *struct{}) (*accountsOutput, error) {
			out := &accountsOutput{}
			var err error
			out.Body.People, err = s.app.Accounts(ctx, p)
			return out, err
		}))
	type slipOutput struct{ Body app.Slip }
	huma.Register(api, operation("add-account", http.MethodPost, "/people", "Add an instructor or administrator"),
		asked(s, func(ctx context.Context, p app.Person, in *struct {
			Body struct {
				Name     string       `json:"name" minLength:"1" maxLength:"200"`
				Username string       `json:"username,omitempty" maxLength:"64" doc:"empty: made of the name"`
				Standing app.Standing `json:"standing" enum:",instructor,administrator"`
			}
		}) (*slipOutput, error) {
			out, err := s.app.AddAccount(ctx, p, in.Body.Name, in.Body.Username, in.Body.Standing)
			return &slipOutput{out}, err
		}))
	huma.Register(api, silent(operation("set-standing", http.MethodPut, "/people/{person}/standing", "What somebody may do in the installation")),
		done(s, func(ctx context.Context, p app.Person, in *struct {
			AccountPath
			Body struct {
				Standing app.Standing `json:"standing" enum:",instructor,administrator"`
			}
		}) error {
			s.options.Log.Info("security", "what", "standing given", "by", p.ID, "person", in.Person, "standing", in.Body.Standing)
			return s.app.SetStanding(ctx, p, in.Person, in.Body.Standing)
		}))
	huma.Register(api, operation("new-password", http.MethodPost, "/people/{person}/password", "Give anybody a new one-time password, as an administrator"),
		asked(s, func(ctx context.Context, p app.Person, in *AccountPath) (*slipOutput, error) {
			out, err := s.app.NewPassword(ctx, p, in.Person)
			return &slipOutput{out}, err
		}))
	huma.Register(api, silent(operation("take-out", http.MethodDelete, "/people/{person}", "Take a person out for good; their notebooks stay without a name")),
		done(s, func(ctx context.Context, p app.Person, in *AccountPath) error {
			s.options.Log.Info("security", "what", "person taken out", "by", p.ID, "person", in.Person)
			return s.app.TakeOut(ctx, p, in.Person)
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
		asked(s, func(ctx context.Context, p app.Person, in *AccountPath) (*dataOutput, error) {
			return file(s.app.DataOf(ctx, p, in.Person))
		}))
	huma.Register(api, operation("own-data", http.MethodGet, "/me/data", "All that is held about me"),
		asked(s, func(ctx context.Context, p app.Person, _ *struct{}) (*dataOutput, error) {
			return file(s.app.OwnData(ctx, p))
		}))
	huma.Register(api, operation("set-name", http.MethodPut, "/me/name", "What I am called"),
		asked(s, func(ctx context.Context, p app.Person, in *struct {
			Body struct {
				Name string `json:"name" minLength:"1" maxLength:"200"`
			}
		}) (*meOutput, error) {
			out, err := s.app.SetName(ctx, p, in.Body.Name)
			return me(out), err
		}))
}
