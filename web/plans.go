package web

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app"
	"exactflask/core/practical"
	"exactflask/core/prep"
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
	type planOutput struct{ Body app.Planned }
	huma.Register(api, huma.Operation{OperationID: "plan", Method: http.MethodGet, Path: "/classes/{class}/practicals/{practical}/plan", Summary: "A practical of my class before it is done", Security: signedIn, Errors: []int{401, 404}},
		asked(s, func(ctx context.Context, p app.Person, in *planInput) (*planOutput, error) {
			out, err := s.app.Plan(ctx, p, in.Class, in.Practical, prep.Class{Students: in.Students, Trials: in.Trials, Spare: in.Spare, Bottle: in.Bottle})
			return &planOutput{out}, err
		}))

	type tryInput struct {
		Body struct {
			Practical practical.Practical `json:"practical"`
			Class     prep.Class          `json:"class,omitempty"`
		}
	}
	type tryOutput struct{ Body view.Plan }
	huma.Register(api, huma.Operation{OperationID: "try-plan", Method: http.MethodPost, Path: "/plan", Summary: "Look at a practical that is being written", Security: signedIn, Errors: []int{401, 422}, MaxBodyBytes: MaxBody},
		asked(s, func(_ context.Context, p app.Person, in *tryInput) (*tryOutput, error) {
			out, err := s.app.TryPlan(p, in.Body.Practical, in.Body.Class)
			return &tryOutput{out}, err
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
	huma.Register(api, huma.Operation{OperationID: "set-practical", Method: http.MethodPost, Path: "/classes/{class}/practicals", Summary: "Set a practical to my class; what changed becomes a new revision", Security: signedIn, Errors: []int{401, 403, 404, 422}, MaxBodyBytes: MaxBody},
		asked(s, func(ctx context.Context, p app.Person, in *setInput) (*setOutput, error) {
			set, err := s.app.SetPractical(ctx, p, in.Class, in.Body.Practical)
			out := &setOutput{}
			out.Body.Practical = set
			return out, err
		}))

	type answerInput struct {
		PracticalPath
		Body struct {
			Code   string `json:"code" maxLength:"20"`
			Answer string `json:"answer" minLength:"1" maxLength:"60"`
		}
	}
	type answerOutput struct{ Body app.Answered }
	huma.Register(api, huma.Operation{OperationID: "answer-question", Method: http.MethodPost, Path: "/classes/{class}/practicals/{practical}/questions", Summary: "Answer a pre-laboratory question", Security: signedIn, Errors: []int{401, 404, 422}},
		asked(s, func(ctx context.Context, p app.Person, in *answerInput) (*answerOutput, error) {
			out, err := s.app.AnswerQuestion(ctx, p, in.Class, in.Practical, in.Body.Code, in.Body.Answer)
			return &answerOutput{out}, err
		}))
}
