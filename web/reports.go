package web

import (
	"bytes"
	"context"
	"io"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app"
	"exactflask/files"
	"exactflask/view"
)

// reports are the operations on the report of a notebook: reading it, its pictures,
// handing it in, giving it back.
func (s *server) reports(api huma.API) {
	type reportInput struct {
		NotebookPath
		Version int `query:"version" minimum:"0" maximum:"1000" doc:"as it was handed in; as it stands when left out"`
	}
	type reportOutput struct{ Body view.Report }
	huma.Register(api, operation("notebook-report", http.MethodGet, "/notebooks/{id}/report", "The notebook as a page of a report"),
		asked(s, func(ctx context.Context, p app.Person, in *reportInput) (*reportOutput, error) {
			r, err := s.app.Report(ctx, p, in.ID, in.Version)
			return &reportOutput{r}, err
		}))
	s.reportFiles(api)
	type submissionOutput struct{ Body view.Submission }
	huma.Register(api, operation("hand-in", http.MethodPost, "/notebooks/{id}/submissions", "Hand my report in as its page shows it"),
		asked(s, func(ctx context.Context, p app.Person, in *struct {
			NotebookPath
			Body struct {
				Entries int `json:"entries" minimum:"0" doc:"how many entries the page shows: nothing else is handed in"`
			}
		}) (*submissionOutput, error) {
			out, err := s.app.HandIn(ctx, p, in.ID, in.Body.Entries)
			return &submissionOutput{out}, err
		}))
	huma.Register(api, silent(operation("return-report", http.MethodPost, "/notebooks/{id}/submissions/{version}/return", "Give a report back for another version")),
		done(s, func(ctx context.Context, p app.Person, in *struct {
			NotebookPath
			Version int `path:"version" minimum:"1" maximum:"1000"`
			Body    struct {
				Reason string `json:"reason" minLength:"1" maxLength:"500"`
			}
		}) error {
			return s.app.Return(ctx, p, in.ID, in.Version, in.Body.Reason)
		}))
	type pictureOutput struct{ Body app.NewPicture }
	add := operation("add-picture", http.MethodPost, "/notebooks/{id}/pictures", "Send a picture for my report, JPEG or PNG; an entry of the notebook names it then")
	add.MaxBodyBytes = app.MaxPicture
	huma.Register(api, add, asked(s, func(ctx context.Context, p app.Person, in *struct {
		NotebookPath
		RawBody []byte `contentType:"application/octet-stream"`
	}) (*pictureOutput, error) {
		out, err := s.app.AddPicture(ctx, p, in.ID, in.RawBody)
		return &pictureOutput{out}, err
	}))
	type imageOutput struct {
		Type  string `header:"Content-Type"`
		Cache string `header:"Cache-Control"`
		Body  []byte
	}
	huma.Register(api, operation("picture", http.MethodGet, "/notebooks/{id}/pictures/{hash}", "A picture of a report"),
		asked(s, func(ctx context.Context, p app.Person, in *struct {
			NotebookPath
			Hash string `path:"hash" pattern:"^[0-9a-f]{64}$"`
		}) (*imageOutput, error) {
			out, err := s.app.Picture(ctx, p, in.ID, in.Hash)
			return &imageOutput{out.Kind, "private, max-age=3600", out.Content}, err
		}))
}

// fileOutput is a file to keep.
type fileOutput struct {
	Type        string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

// reportFiles are the files of a report.
func (s *server) reportFiles(api huma.API) {
	type input struct {
		NotebookPath
		Version int    `query:"version" minimum:"0" maximum:"1000" doc:"as it was handed in; as it stands when left out"`
		Paper   string `query:"paper" enum:"A4,Letter" doc:"of the PDF; A4 when left out"`
	}
	for _, f := range []struct {
		ending, kind, what string
		write              func(io.Writer, files.Report, files.Paper) error
	}{
		{"pdf", "application/pdf", "PDF", files.PDF},
		{"xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", "workbook with formulas",
			func(w io.Writer, r files.Report, _ files.Paper) error { return files.XLSX(w, r) }},
		{"csv", "text/csv; charset=utf-8", "CSV of the readings", func(w io.Writer, r files.Report, _ files.Paper) error { return files.CSV(w, r) }},
		{"zip", "application/zip", "archive of all of it (RO-Crate)",
			func(w io.Writer, r files.Report, _ files.Paper) error { return files.Archive(w, r) }},
	} {
		huma.Register(api, operation("report-"+f.ending, http.MethodGet, "/notebooks/{id}/report."+f.ending, "The report as a "+f.what),
			asked(s, func(ctx context.Context, p app.Person, in *input) (*fileOutput, error) {
				r, err := s.app.Files(ctx, p, in.ID, in.Version)
				if err != nil {
					return nil, err
				}
				paper := files.A4
				if in.Paper == string(files.Letter) {
					paper = files.Letter
				}
				var b bytes.Buffer
				if err := f.write(&b, r, paper); err != nil {
					return nil, err
				}
				return &fileOutput{f.kind, named(r.Document, r.Student, f.ending), b.Bytes()}, nil
			}))
	}
}
