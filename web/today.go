package web

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/app/today"
)

// todays are the operations that say what waits, and where practicals stand.
func (s *server) todays(api huma.API) {
	type homeOutput struct{ Body today.Home }
	huma.Register(api, operation("home", http.MethodGet, "/home", "What waits for me where I teach, and where each practical stands"),
		asked(s, func(ctx context.Context, p access.Person, _ *struct{}) (*homeOutput, error) {
			out, err := s.app.Today.Home(ctx, p)
			return &homeOutput{out}, err
		}))
	type classOutput struct{ Body today.ClassCourse }
	huma.Register(api, operation("class-practicals", http.MethodGet, "/classes/{class}/practicals", "Where the practicals of a class stand, for those who teach there"),
		asked(s, func(ctx context.Context, p access.Person, in *ClassPath) (*classOutput, error) {
			out, err := s.app.Today.ClassPracticals(ctx, p, in.Class)
			return &classOutput{out}, err
		}))
	type stationsOutput struct{ Body today.StationLine }
	huma.Register(api, operation("stations", http.MethodGet, "/classes/{class}/practicals/{practical}/stations", "The stations of a practical in a class, each with its state"),
		asked(s, func(ctx context.Context, p access.Person, in *PracticalPath) (*stationsOutput, error) {
			out, err := s.app.Today.Stations(ctx, p, in.Class, in.Practical)
			return &stationsOutput{out}, err
		}))
	type notebooksOutput struct{ Body bench.ClassNotebooks }
	huma.Register(api, operation("class-notebooks", http.MethodGet, "/classes/{class}/practicals/{practical}/notebooks", "The notebooks of a practical in a class, a hundred at a time, also of who has left it"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			PracticalPath
			From int `query:"from" minimum:"0" maximum:"100000"`
		}) (*notebooksOutput, error) {
			out, err := s.app.Bench.ClassNotebooks(ctx, p, in.Class, in.Practical, in.From)
			return &notebooksOutput{out}, err
		}))
	type findOutput struct {
		Body struct {
			Hits []today.Hit `json:"hits"`
		}
	}
	huma.Register(api, operation("find", http.MethodGet, "/find", "Look for a class, a practical, a person or an entry of the catalogue, among what I may see"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			Text string `query:"text" maxLength:"80"`
		}) (*findOutput, error) {
			out := &findOutput{}
			var err error
			out.Body.Hits, err = s.app.Today.Find(ctx, p, in.Text)
			return out, err
		}))
}
