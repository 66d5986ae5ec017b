package web

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app"
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
