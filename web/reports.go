package web

import (
	"bytes"
	"context"
	"io"
	"mime"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"

	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/core/values/finding"
	"exactflask/files"
	"exactflask/formats/points"
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
		inTurn(s, func(ctx context.Context, p access.Person, in *reportInput) (*reportOutput, error) {
			r, err := s.app.Bench.Report(ctx, p, in.ID, in.Version)
			return &reportOutput{r}, err
		}))
	s.reportFiles(api)
	huma.Register(api, operation("class-archive", http.MethodGet, "/classes/{class}/practicals/{practical}/archive.zip", "The archives of a whole class, streamed as they are made"),
		asked(s, s.classArchive))
	type readingsOutput struct {
		Body struct {
			Rows []bench.ReadRow `json:"rows"`
		}
	}
	huma.Register(api, operation("read-readings", http.MethodPost, "/notebooks/{id}/readings", "Readings of trials out of a table of text; nothing is written"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			NotebookPath
			Body struct {
				Text []byte `json:"text" doc:"a CSV file, or what was pasted, in base64"`
			}
		}) (*readingsOutput, error) {
			out := &readingsOutput{}
			var err error
			out.Body.Rows, err = s.app.Bench.ReadReadings(ctx, p, in.ID, in.Body.Text)
			return out, err
		}))
	type pointsOutput struct{ Body bench.ReadTable }
	huma.Register(api, operation("read-points", http.MethodPost, "/notebooks/{id}/points", "Points of a run out of a table of text; nothing is written"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			NotebookPath
			Body struct {
				Text        []byte `json:"text" doc:"a CSV file, or what was pasted, in base64"`
				Volume      int    `json:"volume" minimum:"-1" maximum:"200" doc:"which column is the burette, from 0; -1: guessed"`
				Reading     int    `json:"reading" minimum:"-1" maximum:"200"`
				Temperature int    `json:"temperature" minimum:"-1" maximum:"200"`
			}
		}) (*pointsOutput, error) {
			t, err := s.app.Bench.ReadPoints(ctx, p, in.ID, in.Body.Text, points.Columns{Volume: in.Body.Volume, Reading: in.Body.Reading, Temperature: in.Body.Temperature})
			return &pointsOutput{t}, err
		}))
	type importedOutput struct{ Body bench.Imported }
	take := operation("import-notebook", http.MethodPost, "/classes/{class}/people/{person}/imports", "Take an open document or an archive in as a notebook of a student")
	take.MaxBodyBytes = MaxImport
	huma.Register(api, take, asked(s, func(ctx context.Context, p access.Person, in *struct {
		Class   string `path:"class" maxLength:"64"`
		Person  string `path:"person" maxLength:"64"`
		RawBody []byte `contentType:"application/octet-stream"`
	}) (*importedOutput, error) {
		out, err := s.app.Bench.Import(ctx, p, in.Class, in.Person, in.RawBody)
		return &importedOutput{out}, err
	}))
	type submissionOutput struct{ Body view.Submission }
	huma.Register(api, operation("hand-in", http.MethodPost, "/notebooks/{id}/submissions", "Hand my report in as its page shows it"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			NotebookPath
			Body struct {
				Entries int `json:"entries" minimum:"0" doc:"how many entries the page shows: nothing else is handed in"`
			}
		}) (*submissionOutput, error) {
			out, err := s.app.Bench.HandIn(ctx, p, in.ID, in.Body.Entries)
			return &submissionOutput{out}, err
		}))
	huma.Register(api, silent(operation("return-report", http.MethodPost, "/notebooks/{id}/submissions/{version}/return", "Give a report back for another version")),
		done(s, func(ctx context.Context, p access.Person, in *struct {
			NotebookPath
			Version int `path:"version" minimum:"1" maximum:"1000"`
			Body    struct {
				Reason string `json:"reason" minLength:"1" maxLength:"500"`
			}
		}) error {
			return s.app.Bench.Return(ctx, p, in.ID, in.Version, in.Body.Reason)
		}))
	huma.Register(api, silent(operation("take-report-back", http.MethodPost, "/notebooks/{id}/submissions/{version}/take-back", "Take my report back for another version, before it is due and marked")),
		done(s, func(ctx context.Context, p access.Person, in *struct {
			NotebookPath
			Version int `path:"version" minimum:"1" maximum:"1000"`
		}) error {
			return s.app.Bench.TakeBack(ctx, p, in.ID, in.Version)
		}))
	type pictureOutput struct{ Body bench.NewPicture }
	add := operation("add-picture", http.MethodPost, "/notebooks/{id}/pictures", "Send a picture for my report, JPEG or PNG; an entry of the notebook names it then")
	add.MaxBodyBytes = bench.MaxPicture
	huma.Register(api, add, asked(s, func(ctx context.Context, p access.Person, in *struct {
		NotebookPath
		RawBody []byte `contentType:"application/octet-stream"`
	}) (*pictureOutput, error) {
		out, err := s.app.Bench.AddPicture(ctx, p, in.ID, in.RawBody)
		return &pictureOutput{out}, err
	}))
	type imageOutput struct {
		Type  string `header:"Content-Type"`
		Cache string `header:"Cache-Control"`
		Body  []byte
	}
	huma.Register(api, operation("picture", http.MethodGet, "/notebooks/{id}/pictures/{hash}", "A picture of a report"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			NotebookPath
			Hash string `path:"hash" pattern:"^[0-9a-f]{64}$"`
		}) (*imageOutput, error) {
			out, err := s.app.Bench.Picture(ctx, p, in.ID, in.Hash)
			return &imageOutput{out.Kind, "private, max-age=3600", out.Content}, err
		}))
}

// classArchive streams the archives of a whole class, each as it is made; it stops where
// whoever asked goes away.
func (s *server) classArchive(ctx context.Context, p access.Person, in *PracticalPath) (*huma.StreamResponse, error) {
	title, notebooks, err := s.app.Marking.ClassReports(ctx, p, in.Class, in.Practical)
	if err != nil {
		return nil, err
	}
	return &huma.StreamResponse{Body: func(c huma.Context) {
		r, w := humachi.Unwrap(c)
		control := http.NewResponseController(w)
		_ = control.SetWriteDeadline(time.Now().Add(10 * time.Minute))
		w.Header().Set("Content-Type", "application/zip")
		w.Header().Set("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": title + ".zip"}))
		w.Header().Set("X-Reports", strconv.Itoa(len(notebooks)))
		all := files.NewClass(w, title, time.Now())
		for _, id := range notebooks {
			leave, err := s.costs.Enter(r.Context(), p.ID, true)
			if err != nil {
				return // nobody reads any more
			}
			var archive bytes.Buffer
			one, err := s.app.Marking.NewestFiles(context.WithoutCancel(r.Context()), p, id)
			if err == nil {
				err = files.Archive(&archive, one)
			}
			leave() // before anything waits for a slow line
			if err != nil {
				s.options.Log.Error("a report is left out of an archive", "notebook", id, "err", err)
				all.Leave(id)
				continue // what fails in one notebook fails there alone
			}
			if all.Add(one.Student, archive.Bytes()) != nil || control.Flush() != nil {
				return // nobody reads any more
			}
		}
		_ = all.Close()
	}}, nil
}

// fileOutput is a file to keep.
type fileOutput struct {
	Type        string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

// reportFiles are the files of a report.
var noCurve = finding.Declare("report.no-curve")

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
		{"points.csv", "text/csv; charset=utf-8", "CSV of the points of a probe", func(w io.Writer, r files.Report, _ files.Paper) error { return files.Points(w, r) }},
		{"svg", "image/svg+xml", "picture of the curves", func(w io.Writer, r files.Report, _ files.Paper) error { return files.Curve(w, r) }},
		{"zip", "application/zip", "archive of all of it (RO-Crate)",
			func(w io.Writer, r files.Report, _ files.Paper) error { return files.Archive(w, r) }},
	} {
		huma.Register(api, operation("report-"+strings.ReplaceAll(f.ending, ".", "-"), http.MethodGet, "/notebooks/{id}/report."+f.ending, "The report as a "+f.what),
			costly(s, func(ctx context.Context, p access.Person, in *input) (*fileOutput, error) {
				r, err := s.app.Marking.Files(ctx, p, in.ID, in.Version)
				if err != nil {
					return nil, err
				}
				paper := files.A4
				if in.Paper == string(files.Letter) {
					paper = files.Letter
				}
				if f.ending == "svg" && len(r.Runs) == 0 {
					return nil, noCurve.Fault("")
				}
				var b bytes.Buffer
				if err := f.write(&b, r, paper); err != nil {
					return nil, err
				}
				return &fileOutput{f.kind, named(r.Document, r.Student, f.ending), b.Bytes()}, nil
			}))
	}
}
