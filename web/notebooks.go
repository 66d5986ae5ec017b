package web

import (
	"context"
	"mime"
	"net/http"
	"strings"
	"time"
	"unicode"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/core/record/journal"
	"exactflask/formats"
	"exactflask/view"
)

type notebookOutput struct {
	Body bench.Notebook
}

type appendedOutput struct {
	Body bench.Appended
}

// NotebookPath is the path of an operation on one notebook. It is exported for
// huma, which reads embedded structs that are.
type NotebookPath struct {
	ID string `path:"id" maxLength:"64" doc:"id of the notebook"`
}

// asked runs an operation for whoever is signed in.
func asked[In, Out any](s *server, do func(context.Context, access.Person, *In) (*Out, error)) func(context.Context,
	*In) (*Out, error) {
	return func(ctx context.Context, in *In) (*Out, error) {
		p, err := s.person(ctx)
		if err != nil {
			return nil, err
		}
		out, err := do(ctx, p, in)
		if err != nil {
			return nil, s.problemOf(p.Style(), err)
		}
		return out, nil
	}
}

// documentOutput is an open document as a file.
type documentOutput struct {
	Disposition string `header:"Content-Disposition"`
	Body        formats.Document
}

// attachment names an open document.
func attachment(doc formats.Document, student string) string { return named(doc, student, "json") }

// named names a file for its practical, its person and the day.
func named(doc formats.Document, student, ending string) string {
	name := strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return r
		}
		return '-'
	}, doc.Practical.Title+" "+student)
	return mime.FormatMediaType("attachment", map[string]string{"filename": name + " " + doc.Written.Format(time.DateOnly) + "." + ending})
}

func (s *server) notebooks(api huma.API) {
	type shelfOutput struct{ Body bench.Shelf }
	huma.Register(api, huma.Operation{OperationID: "shelf", Method: http.MethodGet, Path: "/shelf",
		Summary: "My practicals and where each stands", Security: signedIn, Errors: []int{401}},
		asked(s, func(ctx context.Context, p access.Person, _ *struct{}) (*shelfOutput, error) {
			shelf, err := s.app.Bench.Shelf(ctx, p)
			return &shelfOutput{shelf}, err
		}))

	type blankInput struct {
		Class     string `path:"class" maxLength:"64"`
		Practical string `path:"practical" maxLength:"64"`
	}
	type beginInput struct {
		Class     string `path:"class" maxLength:"64"`
		Practical string `path:"practical" maxLength:"64"`
		Body      *struct {
			ID string `json:"id" format:"uuid" doc:"id that the notebook was begun under without the network; it gets another where that is taken"`
		} `required:"false"`
	}
	huma.Register(api, huma.Operation{OperationID: "blank-notebook", Method: http.MethodGet,
		Path:    "/classes/{class}/practicals/{practical}/notebook",
		Summary: "My notebook of a practical as it would be begun, for a bench without network; nothing is written", Security: signedIn, Errors: []int{401, 403, 404}},
		asked(s, func(ctx context.Context, p access.Person, in *blankInput) (*notebookOutput, error) {
			n, err := s.app.Bench.Blank(ctx, p, in.Class, in.Practical)
			return &notebookOutput{n}, err
		}))
	huma.Register(api, huma.Operation{OperationID: "begin-notebook", Method: http.MethodPost,
		Path:    "/classes/{class}/practicals/{practical}/notebook",
		Summary: "Begin my notebook of a practical; beginning again returns the same", Security: signedIn, Errors: []int{401, 403, 404}},
		asked(s, func(ctx context.Context, p access.Person, in *beginInput) (*notebookOutput, error) {
			wanted := ""
			if in.Body != nil {
				wanted = in.Body.ID
			}
			id, err := s.app.Bench.Begin(ctx, p, in.Class, in.Practical, wanted)
			if err != nil {
				return nil, err
			}
			n, err := s.app.Bench.Notebook(ctx, p, id)
			return &notebookOutput{n}, err
		}))

	huma.Register(api, huma.Operation{OperationID: "notebook", Method: http.MethodGet, Path: "/notebooks/{id}",
		Summary: "A notebook, evaluated, in my words", Security: signedIn, Errors: []int{401, 404}},
		inTurn(s, func(ctx context.Context, p access.Person, in *NotebookPath) (*notebookOutput, error) {
			n, err := s.app.Bench.Notebook(ctx, p, in.ID)
			return &notebookOutput{n}, err
		}))

	type entriesInput struct {
		NotebookPath
		Body struct {
			Entries []journal.Entry `json:"entries" minItems:"1" maxItems:"200" doc:"taken all or none; those already there are passed over"`
			Base    int             `json:"base,omitempty" minimum:"0" doc:"number of entries of the sheet that the reader holds, so that only what differs is sent; all of it when left out"`
		}
	}
	huma.Register(api, huma.Operation{OperationID: "add-entries", Method: http.MethodPost,
		Path: "/notebooks/{id}/entries", Summary: "Add entries; the answer is what has changed",
		Security: signedIn, Errors: []int{401, 403, 404, 409, 422}, MaxBodyBytes: MaxBody},
		asked(s, func(ctx context.Context, p access.Person, in *entriesInput) (*appendedOutput, error) {
			out, err := s.app.Bench.Append(ctx, p, in.ID, in.Body.Base, in.Body.Entries)
			return &appendedOutput{out}, err
		}))

	type partnerInput struct {
		NotebookPath
		Body struct {
			Username string `json:"username" minLength:"1" maxLength:"64"`
		}
	}
	huma.Register(api, huma.Operation{OperationID: "add-partner", Method: http.MethodPost,
		Path: "/notebooks/{id}/partners", Summary: "Let a classmate write in my notebook", Security: signedIn, Errors: []int{401, 403, 404, 422}},
		asked(s, func(ctx context.Context, p access.Person, in *partnerInput) (*notebookOutput, error) {
			n, err := s.app.Bench.AddPartner(ctx, p, in.ID, in.Body.Username)
			return &notebookOutput{n}, err
		}))

	type partInput struct {
		NotebookPath
		Name string `query:"name" required:"true" maxLength:"80" doc:"of the partner, as the notebook shows it"`
	}
	huma.Register(api, operation("part-from-partner", http.MethodDelete, "/notebooks/{id}/partners", "Part from a partner of my notebook; what they wrote stays"),
		asked(s, func(ctx context.Context, p access.Person, in *partInput) (*notebookOutput, error) {
			n, err := s.app.Bench.Part(ctx, p, in.ID, in.Name)
			return &notebookOutput{n}, err
		}))

	type journalInput struct {
		NotebookPath
		Page int `query:"page" minimum:"0" maximum:"1000" doc:"from 1, of 500 entries; the last one when left out"`
	}
	type journalOutput struct {
		Body struct {
			Lines []view.JournalLine `json:"lines"`
			Page  int                `json:"page"`
			Pages int                `json:"pages"`
		}
	}
	huma.Register(api, huma.Operation{OperationID: "notebook-journal", Method: http.MethodGet,
		Path: "/notebooks/{id}/journal", Summary: "The notebook in ink: every entry in order", Security: signedIn, Errors: []int{401, 404}},
		inTurn(s, func(ctx context.Context, p access.Person, in *journalInput) (*journalOutput, error) {
			out := &journalOutput{}
			var err error
			out.Body.Lines, out.Body.Page, out.Body.Pages, err = s.app.Bench.Journal(ctx, p, in.ID, in.Page)
			return out, err
		}))

	huma.Register(api, huma.Operation{OperationID: "notebook-events", Method: http.MethodGet,
		Path: "/notebooks/{id}/events", Summary: "Event stream: a message for every change of the notebook", Security: signedIn, Errors: []int{401, 404},
		Responses: map[string]*huma.Response{"200": {Description: "events named change, with the number of entries and the clock as JSON", Content: map[string]*huma.MediaType{"text/event-stream": {Schema: &huma.Schema{Type: "string"}}}}}},
		asked(s, s.events))

	huma.Register(api, huma.Operation{OperationID: "notebook-document", Method: http.MethodGet,
		Path: "/notebooks/{id}/document", Summary: "The notebook as an open file", Security: signedIn, Errors: []int{401,
			404}},
		inTurn(s, func(ctx context.Context, p access.Person, in *NotebookPath) (*documentOutput, error) {
			doc, student, err := s.app.Bench.Document(ctx, p, in.ID)
			if err == nil {
				s.options.Log.Info("security", "what", "exported a notebook", "person", p.ID, "entries", len(doc.Journal))
			}
			return &documentOutput{attachment(doc, student), doc}, err
		}))
}
