package web

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app/access"
	"exactflask/app/classes"
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

// classes are the operations on classes and on who is in them.
func (s *server) classes(api huma.API) {
	type classesOutput struct {
		Body struct {
			Classes []classes.ListedClass `json:"classes"`
		}
	}
	huma.Register(api, operation("classes", http.MethodGet, "/classes", "My classes; for an administrator, all"),
		asked(s, func(ctx context.Context, p access.Person, _ *struct{}) (*classesOutput, error) {
			out := &classesOutput{}
			var err error
			out.Body.Classes, err = s.app.Classes.Classes(ctx, p)
			return out, err
		}))
	type pageOutput struct{ Body classes.ClassPage }
	page := func(ctx context.Context, p access.Person, class string, err error) (*pageOutput, error) {
		if err != nil {
			return nil, err
		}
		if fresh, err := s.app.Person(ctx, p.ID); err == nil { // their own place may have changed
			p = fresh
		}
		out, err := s.app.Classes.ClassPage(ctx, p, class)
		return &pageOutput{out}, err
	}
	huma.Register(api, operation("make-class", http.MethodPost, "/classes", "Make a class, empty or with the practicals of another"),
		asked(s, func(ctx context.Context, p access.Person, in *struct{ Body classes.NewClass }) (*pageOutput, error) {
			id, err := s.app.Classes.MakeClass(ctx, p, in.Body)
			return page(ctx, p, id, err)
		}))
	huma.Register(api, operation("class", http.MethodGet, "/classes/{class}", "A class and its people, for those who teach there"),
		asked(s, func(ctx context.Context, p access.Person, in *ClassPath) (*pageOutput, error) {
			return page(ctx, p, in.Class, nil)
		}))
	huma.Register(api, operation("set-class", http.MethodPut, "/classes/{class}", "Name a class, archive it, take it up again"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			ClassPath
			Body struct {
				Name     string `json:"name" minLength:"1" maxLength:"80"`
				Term     string `json:"term" maxLength:"40"`
				Archived bool   `json:"archived"`
			}
		}) (*pageOutput, error) {
			b := in.Body
			return page(ctx, p, in.Class, s.app.Classes.SetClass(ctx, p, in.Class, b.Name, b.Term, b.Archived))
		}))
	huma.Register(api, silent(operation("give-class", http.MethodPut, "/classes/{class}/instructor", "Give a class without an instructor one, as an administrator")),
		done(s, func(ctx context.Context, p access.Person, in *struct {
			ClassPath
			Body struct {
				Username string `json:"username" minLength:"1" maxLength:"64"`
			}
		}) error {
			return s.app.Classes.GiveClass(ctx, p, in.Class, in.Body.Username)
		}))
	huma.Register(api, operation("set-place", http.MethodPut, "/classes/{class}/people/{person}", "A person's role and place in a class, and who works with them"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			MemberPath
			Body classes.Place
		}) (*pageOutput, error) {
			return page(ctx, p, in.Class, s.app.Classes.SetPlace(ctx, p, in.Class, in.Person, in.Body))
		}))
	huma.Register(api, operation("rename-person", http.MethodPut, "/classes/{class}/people/{person}/name", "What a student of a class is called"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			MemberPath
			Body struct {
				Name string `json:"name" minLength:"1" maxLength:"200"`
			}
		}) (*pageOutput, error) {
			return page(ctx, p, in.Class, s.app.People.Rename(ctx, p, in.Class, in.Person, in.Body.Name))
		}))
	huma.Register(api, operation("remove-person", http.MethodDelete, "/classes/{class}/people/{person}", "Take a person out of a class; what they wrote in it stays"),
		asked(s, func(ctx context.Context, p access.Person, in *MemberPath) (*pageOutput, error) {
			return page(ctx, p, in.Class, s.app.Classes.Remove(ctx, p, in.Class, in.Person))
		}))
	huma.Register(api, operation("move-person", http.MethodPost, "/classes/{class}/people/{person}/move", "Move a student with their notebooks into another class of mine"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			MemberPath
			Body struct {
				To string `json:"to" minLength:"1" maxLength:"64" doc:"id of the other class"`
			}
		}) (*pageOutput, error) {
			return page(ctx, p, in.Class, s.app.Classes.Move(ctx, p, in.Class, in.Person, in.Body.To))
		}))
	huma.Register(api, operation("open-code", http.MethodPut, "/classes/{class}/code", "Open a code with which students join by themselves"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			ClassPath
			Body struct {
				Minutes int `json:"minutes" minimum:"5" maximum:"10080"`
			}
		}) (*pageOutput, error) {
			_, err := s.app.Classes.OpenCode(ctx, p, in.Class, in.Body.Minutes)
			return page(ctx, p, in.Class, err)
		}))
	huma.Register(api, operation("close-code", http.MethodDelete, "/classes/{class}/code", "Close a class's code"),
		asked(s, func(ctx context.Context, p access.Person, in *ClassPath) (*pageOutput, error) {
			return page(ctx, p, in.Class, s.app.Classes.CloseCode(ctx, p, in.Class))
		}))
	huma.Register(api, operation("add-notice", http.MethodPost, "/classes/{class}/notices", "Tell everyone in a class something"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			ClassPath
			Body struct {
				Text string `json:"text" minLength:"1" maxLength:"500"`
			}
		}) (*pageOutput, error) {
			return page(ctx, p, in.Class, s.app.Classes.AddNotice(ctx, p, in.Class, in.Body.Text))
		}))
	huma.Register(api, operation("drop-notice", http.MethodDelete, "/classes/{class}/notices/{notice}", "Take a notice down"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			ClassPath
			Notice string `path:"notice" maxLength:"64"`
		}) (*pageOutput, error) {
			return page(ctx, p, in.Class, s.app.Classes.DropNotice(ctx, p, in.Class, in.Notice))
		}))
	type actsOutput struct {
		Body struct {
			Acts []access.ActLine `json:"acts"`
		}
	}
	acts := func(got []access.ActLine, err error) (*actsOutput, error) {
		out := &actsOutput{}
		out.Body.Acts = got
		return out, err
	}
	type before struct {
		Before int64 `query:"before" minimum:"0" doc:"seq of the last one that was read; 0: from the newest"`
	}
	huma.Register(api, operation("acts-of-administrators", http.MethodGet, "/acts", "What administrators changed, the newest first, 100 at once"),
		asked(s, func(ctx context.Context, p access.Person, in *before) (*actsOutput, error) {
			return acts(s.app.Acts(ctx, p, "", in.Before))
		}))
	huma.Register(api, operation("acts", http.MethodGet, "/classes/{class}/acts", "Who changed what in a class, the newest first, 100 at once"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			ClassPath
			Before int64 `query:"before" minimum:"0" doc:"seq of the last one that was read; 0: from the newest"`
		}) (*actsOutput, error) {
			return acts(s.app.Acts(ctx, p, in.Class, in.Before))
		}))
	s.rosters(api)
}
