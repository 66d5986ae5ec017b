package web

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/app/practicals"
	"exactflask/core/practice/prep"
	"exactflask/core/record/practical"
	"exactflask/view"
)

// PracticalPath is the path of an operation on a practical of a class.
type PracticalPath struct {
	Class     string `path:"class" maxLength:"64"`
	Practical string `path:"practical" maxLength:"64"`
}

// plans are the operations of planning and of the pre-laboratory exercise.
func (s *server) plans(api huma.API) {
	type planInput struct {
		PracticalPath
		Students int     `query:"students" minimum:"0" maximum:"500" doc:"benches; no quantities when left out"`
		Trials   int     `query:"trials" minimum:"0" maximum:"20"`
		Spare    float64 `query:"spare" minimum:"0" maximum:"200"`
		Bottle   float64 `query:"bottle" minimum:"0" maximum:"5000"`
	}
	type planOutput struct{ Body practicals.Planned }
	huma.Register(api, huma.Operation{OperationID: "plan", Method: http.MethodGet,
		Path: "/classes/{class}/practicals/{practical}/plan", Summary: "A practical of my class before it is done", Security: signedIn, Errors: []int{401, 404}},
		asked(s, func(ctx context.Context, p access.Person, in *planInput) (*planOutput, error) {
			out, err := s.app.Practicals.Plan(ctx, p, in.Class, in.Practical,
				prep.Class{Students: in.Students, Trials: in.Trials, Spare: in.Spare, Bottle: in.Bottle})
			return &planOutput{out}, err
		}))

	type tryInput struct {
		Body struct {
			Practical practical.Practical `json:"practical"`
			Class     prep.Class          `json:"class,omitempty"`
			For       string              `json:"for,omitempty" maxLength:"64" doc:"id of the class that it is written for: its school's norms hold"`
		}
	}
	type tryOutput struct{ Body view.Plan }
	huma.Register(api, huma.Operation{OperationID: "try-plan", Method: http.MethodPost, Path: "/plan",
		Summary: "Look at a practical that is being written", Security: signedIn, Errors: []int{401, 403,
			422}, MaxBodyBytes: MaxBody},
		asked(s, func(ctx context.Context, p access.Person, in *tryInput) (*tryOutput, error) {
			written := in.Body.Practical
			if in.Body.For != "" {
				var err error
				if written, err = s.app.Practicals.Under(ctx, p, in.Body.For, written); err != nil {
					return nil, err
				}
			}
			out, err := s.app.Bench.TryPlan(ctx, p, written, in.Body.Class)
			return &tryOutput{out}, err
		}))

	type dryInput struct {
		Body struct {
			Practical practical.Practical `json:"practical"`
			For       string              `json:"for" minLength:"1" maxLength:"64" doc:"id of the class that it is written for"`
		}
	}
	type dryOutput struct{ Body view.DryRun }
	huma.Register(api, huma.Operation{OperationID: "dry-run", Method: http.MethodPost, Path: "/plan/dry-run",
		Summary: "What a student will see and be asked, with a careful student's run through it", Security: signedIn, Errors: []int{401, 403, 404,
			422}, MaxBodyBytes: MaxBody},
		costly(s, func(ctx context.Context, p access.Person, in *dryInput) (*dryOutput, error) {
			out, err := s.app.Bench.DryRun(ctx, p, in.Body.For, in.Body.Practical)
			return &dryOutput{out}, err
		}))

	type setInput struct {
		Class string `path:"class" maxLength:"64"`
		Body  struct {
			Practical practical.Practical `json:"practical"`
		}
	}
	type setOutput struct {
		Body struct {
			Practical practical.Practical `json:"practical"`
		}
	}
	huma.Register(api, huma.Operation{OperationID: "set-practical", Method: http.MethodPost,
		Path: "/classes/{class}/practicals", Summary: "Set a practical to my class; what changed becomes a new revision", Security: signedIn, Errors: []int{401, 403, 404, 422}, MaxBodyBytes: MaxBody},
		costly(s, func(ctx context.Context, p access.Person, in *setInput) (*setOutput, error) {
			set, err := s.app.Practicals.AssignRevision(ctx, p, in.Class, in.Body.Practical)
			out := &setOutput{}
			out.Body.Practical = set
			return out, err
		}))

	s.library(api)
	type answerInput struct {
		PracticalPath
		Body struct {
			Code   string `json:"code" maxLength:"20"`
			Answer string `json:"answer" minLength:"1" maxLength:"500"`
		}
	}
	type answerOutput struct{ Body bench.Answered }
	huma.Register(api, huma.Operation{OperationID: "answer-question", Method: http.MethodPost,
		Path: "/classes/{class}/practicals/{practical}/questions", Summary: "Answer a pre-laboratory question", Security: signedIn, Errors: []int{401, 404, 422}},
		asked(s, func(ctx context.Context, p access.Person, in *answerInput) (*answerOutput, error) {
			out, err := s.app.Bench.AnswerQuestion(ctx, p, in.Class, in.Practical, in.Body.Code, in.Body.Answer)
			return &answerOutput{out}, err
		}))
}

// library are the operations on practicals that others are made of.
func (s *server) library(api huma.API) {
	type libraryOutput struct {
		Body struct {
			Practicals []practicals.LibraryItem `json:"practicals"`
		}
	}
	huma.Register(api, operation("library", http.MethodGet, "/library", "Practicals that others can be made of: worked ones, and those of my classes"),
		asked(s, func(ctx context.Context, p access.Person, _ *struct{}) (*libraryOutput, error) {
			out := &libraryOutput{}
			var err error
			out.Body.Practicals, err = s.app.Practicals.Library(ctx, p)
			return out, err
		}))
	type onePath struct {
		ID       string `path:"id" maxLength:"64"`
		Revision int    `query:"revision" minimum:"0" doc:"0: the newest that is set"`
	}
	type practicalOutput struct {
		Body struct {
			Practical practical.Practical `json:"practical"`
		}
	}
	huma.Register(api, operation("library-practical", http.MethodGet, "/library/{id}", "One of them, in any of its revisions"),
		asked(s, func(ctx context.Context, p access.Person, in *onePath) (*practicalOutput, error) {
			out := &practicalOutput{}
			var err error
			out.Body.Practical, err = s.app.Practicals.LibraryPractical(ctx, p, in.ID, in.Revision)
			return out, err
		}))
	huma.Register(api, operation("library-document", http.MethodGet, "/library/{id}/document", "One of them as the open document"),
		asked(s, func(ctx context.Context, p access.Person, in *onePath) (*documentOutput, error) {
			doc, err := s.app.Practicals.LibraryDocument(ctx, p, in.ID, in.Revision)
			if err != nil {
				return nil, err
			}
			return &documentOutput{attachment(doc, ""), doc}, nil
		}))
	huma.Register(api, operation("read-practical", http.MethodPost, "/library/read", "The practical of an open document; nothing is kept"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			Body struct {
				Document []byte `json:"document" doc:"the file, in base64"`
			}
		}) (*practicalOutput, error) {
			out := &practicalOutput{}
			var err error
			out.Body.Practical, err = s.app.Practicals.ReadPractical(ctx, p, in.Body.Document)
			return out, err
		}))
}
