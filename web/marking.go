package web

import (
	"bytes"
	"context"
	"io"
	"mime"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app/access"
	"exactflask/app/marking"
	"exactflask/core/record/practical"
	"exactflask/files"
	"exactflask/store"
)

// DeskQuery says how somebody wants to mark.
type DeskQuery struct {
	Second    bool   `query:"second" doc:"a second marking, blind: without the marks that count"`
	Anonymous bool   `query:"anonymous" doc:"codes in the place of names"`
	Order     string `query:"order" enum:"name,code,similar" doc:"by name when left out"`
}

func (q DeskQuery) asked() marking.DeskAsked {
	out := marking.DeskAsked{Pass: marking.First, Anonymous: q.Anonymous, Order: marking.Order(q.Order)}
	if q.Second {
		out.Pass = marking.Second
	}
	return out
}

// marking are the operations of marking a class: the desk, awards, the scheme.
func (s *server) marking(api huma.API) {
	const path = "/classes/{class}/practicals/{practical}/marking"
	type deskOutput struct{ Body marking.Desk }
	huma.Register(api, operation("desk", http.MethodGet, path, "Where a class is marked: every report with what is proposed and awarded"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			PracticalPath
			DeskQuery
		}) (*deskOutput, error) {
			out, err := s.app.Marking.Desk(ctx, p, in.Class, in.Practical, in.asked())
			return &deskOutput{out}, err
		}))
	type sheetOutput struct{ Body marking.MarkSheet }
	huma.Register(api, operation("mark-sheet", http.MethodGet, "/notebooks/{id}/marking", "A report on the desk, with the evidence beside each criterion"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			NotebookPath
			DeskQuery
		}) (*sheetOutput, error) {
			out, err := s.app.Marking.MarkSheet(ctx, p, in.ID, in.asked())
			return &sheetOutput{out}, err
		}))
	huma.Register(api, operation("award", http.MethodPost, "/notebooks/{id}/awards", "Give marks for criteria of a report; its report is left out of the answer"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			NotebookPath
			Body struct {
				Second bool               `json:"second,omitempty"`
				Awards []marking.NewAward `json:"awards" minItems:"1" maxItems:"60"`
			}
		}) (*sheetOutput, error) {
			out, err := s.app.Marking.Award(ctx, p, in.ID, DeskQuery{Second: in.Body.Second}.asked().Pass, in.Body.Awards)
			return &sheetOutput{out}, err
		}))
	type countOutput struct {
		Body struct {
			Count int `json:"count" doc:"how many were accepted"`
		}
	}
	huma.Register(api, operation("accept-together", http.MethodPost, path+"/accepted", "Accept the full and certain proposals of a criterion for several reports"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			PracticalPath
			Body struct {
				Criterion string   `json:"criterion" maxLength:"40"`
				Notebooks []string `json:"notebooks" maxItems:"500"`
			}
		}) (*countOutput, error) {
			out := &countOutput{}
			var err error
			out.Body.Count, err = s.app.Marking.Together(ctx, p, in.Class, in.Practical, in.Body.Criterion, in.Body.Notebooks)
			return out, err
		}))
	type bankOutput struct {
		Body struct {
			Comments []store.UsedComment `json:"comments"`
		}
	}
	huma.Register(api, operation("comment-bank", http.MethodGet, path+"/comments/{criterion}", "Comments that were used on a criterion, the most used first"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			PracticalPath
			Criterion string `path:"criterion" maxLength:"40"`
		}) (*bankOutput, error) {
			out := &bankOutput{}
			var err error
			out.Body.Comments, err = s.app.Marking.CommentBank(ctx, p, in.Class, in.Practical, in.Criterion)
			return out, err
		}))
	type effectsOutput struct {
		Body struct {
			Reports []marking.SchemeEffect `json:"reports" doc:"those that another scheme changes"`
		}
	}
	huma.Register(api, operation("try-scheme", http.MethodPost, path+"/scheme", "What a marking scheme would change, for whom; nothing is kept"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			PracticalPath
			Body struct {
				Scheme practical.Scheme `json:"scheme"`
			}
		}) (*effectsOutput, error) {
			out := &effectsOutput{}
			var err error
			out.Body.Reports, err = s.app.Marking.TryScheme(ctx, p, in.Class, in.Practical, in.Body.Scheme)
			return out, err
		}))
	huma.Register(api, silent(operation("set-scheme", http.MethodPut, path+"/scheme", "Change the scheme by which a class is marked; awards stay")),
		done(s, func(ctx context.Context, p access.Person, in *struct {
			PracticalPath
			Body struct {
				Scheme   practical.Scheme `json:"scheme"`
				Revision int              `json:"revision" minimum:"0" doc:"the one that was changed"`
			}
		}) error {
			return s.app.Marking.SetScheme(ctx, p, in.Class, in.Practical, in.Body.Scheme, in.Body.Revision)
		}))
	type differencesOutput struct {
		Body struct {
			Differences []marking.Difference `json:"differences"`
		}
	}
	huma.Register(api, operation("mark-differences", http.MethodGet, path+"/differences", "Where a second marker gave other marks"),
		asked(s, func(ctx context.Context, p access.Person, in *PracticalPath) (*differencesOutput, error) {
			out := &differencesOutput{}
			var err error
			out.Body.Differences, err = s.app.Marking.Differences(ctx, p, in.Class, in.Practical)
			return out, err
		}))
	s.released(api)
	s.results(api)
}

// released are the operations from the release of marks on, and what is said beside a
// notebook.
func (s *server) released(api huma.API) {
	type releasedOutput struct{ Body marking.Released }
	huma.Register(api, operation("release-marks", http.MethodPost, "/classes/{class}/practicals/{practical}/marking/released", "Let students see the marks of their reports"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			PracticalPath
			Body struct {
				Notebooks []string `json:"notebooks" maxItems:"500"`
			}
		}) (*releasedOutput, error) {
			out, err := s.app.Marking.Release(ctx, p, in.Class, in.Practical, in.Body.Notebooks)
			return &releasedOutput{out}, err
		}))
	type marksOutput struct{ Body marking.OwnMarks }
	huma.Register(api, operation("marks", http.MethodGet, "/notebooks/{id}/marks", "The marks of my report, once they are released"),
		asked(s, func(ctx context.Context, p access.Person, in *NotebookPath) (*marksOutput, error) {
			out, err := s.app.Marking.Marks(ctx, p, in.ID)
			return &marksOutput{out}, err
		}))
	huma.Register(api, silent(operation("ask-again", http.MethodPost, "/notebooks/{id}/requests", "Ask for another look at a criterion of my report")),
		done(s, func(ctx context.Context, p access.Person, in *struct {
			NotebookPath
			Body struct {
				Criterion string `json:"criterion" maxLength:"40"`
				Reason    string `json:"reason" minLength:"1" maxLength:"500"`
			}
		}) error {
			return s.app.Marking.AskAgain(ctx, p, in.ID, in.Body.Criterion, in.Body.Reason)
		}))
	huma.Register(api, silent(operation("answer-request", http.MethodPost, "/notebooks/{id}/requests/{request}", "Answer a request for another look; the answer is kept")),
		done(s, func(ctx context.Context, p access.Person, in *struct {
			NotebookPath
			Request int64 `path:"request" minimum:"1"`
			Body    struct {
				Answer string `json:"answer" minLength:"1" maxLength:"500"`
			}
		}) error {
			return s.app.Marking.AnswerRequest(ctx, p, in.ID, in.Request, in.Body.Answer)
		}))
	huma.Register(api, silent(operation("add-comment", http.MethodPost, "/notebooks/{id}/comments", "Say something beside an entry of a notebook; the student sees it at once")),
		done(s, func(ctx context.Context, p access.Person, in *struct {
			NotebookPath
			Body struct {
				Entry string `json:"entry,omitempty" maxLength:"64" doc:"or a trial; the whole notebook when left out"`
				Text  string `json:"text" minLength:"1" maxLength:"500"`
			}
		}) error {
			return s.app.Bench.AddComment(ctx, p, in.ID, in.Body.Entry, in.Body.Text)
		}))
	huma.Register(api, silent(operation("withdraw-comment", http.MethodDelete, "/notebooks/{id}/comments/{comment}", "Take a comment out of sight")),
		done(s, func(ctx context.Context, p access.Person, in *struct {
			NotebookPath
			Comment int64 `path:"comment" minimum:"1"`
		}) error {
			return s.app.Bench.WithdrawComment(ctx, p, in.ID, in.Comment)
		}))
}

// results are the operations on what came out of a class.
func (s *server) results(api huma.API) {
	const path = "/classes/{class}/practicals/{practical}"
	type resultsOutput struct{ Body marking.Results }
	huma.Register(api, operation("results", http.MethodGet, path+"/results", "What came out of a practical in a class"),
		asked(s, func(ctx context.Context, p access.Person, in *PracticalPath) (*resultsOutput, error) {
			out, err := s.app.Marking.Results(ctx, p, in.Class, in.Practical)
			return &resultsOutput{out}, err
		}))
	type logOutput struct {
		Body struct {
			Lines []marking.MarkingLine `json:"lines"`
		}
	}
	huma.Register(api, operation("marking-log", http.MethodGet, path+"/marking/log", "Everything that was done in marking, in order"),
		asked(s, func(ctx context.Context, p access.Person, in *PracticalPath) (*logOutput, error) {
			out := &logOutput{}
			var err error
			out.Body.Lines, err = s.app.Marking.MarkingLog(ctx, p, in.Class, in.Practical)
			return out, err
		}))
	type termOutput struct{ Body marking.TermMarks }
	huma.Register(api, operation("term-marks", http.MethodGet, "/classes/{class}/marks", "Marks over a term: of all, for those who teach; for a student the own ones that are released"),
		asked(s, func(ctx context.Context, p access.Person, in *ClassPath) (*termOutput, error) {
			out, err := s.app.Marking.Term(ctx, p, in.Class)
			return &termOutput{out}, err
		}))
	for _, f := range []struct {
		ending, kind, what string
		write              func(io.Writer, files.Gradebook) error
	}{
		{"csv", "text/csv; charset=utf-8", "CSV", files.GradesCSV},
		{"xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", "workbook", files.GradesXLSX},
	} {
		huma.Register(api, operation("gradebook-"+f.ending, http.MethodGet, path+"/gradebook."+f.ending, "The marks of a class as a "+f.what),
			costly(s, func(ctx context.Context, p access.Person, in *struct {
				PracticalPath
				Columns []string `query:"columns" maxItems:"12" doc:"name, bench, unknown, late, answer, criteria, total, percent, released, slips; all when left out"`
				Round   string   `query:"round" enum:"none,half,whole" doc:"totals, half up; as they are when left out"`
			}) (*fileOutput, error) {
				g, err := s.app.Marking.Gradebook(ctx, p, in.Class, in.Practical, in.Columns, marking.Rounding(in.Round))
				if err != nil {
					return nil, err
				}
				var b bytes.Buffer
				if err := f.write(&b, g); err != nil {
					return nil, err
				}
				name := mime.FormatMediaType("attachment", map[string]string{"filename": g.Title + " - " + g.Class + "." + f.ending})
				return &fileOutput{f.kind, name, b.Bytes()}, nil
			}))
	}
}
