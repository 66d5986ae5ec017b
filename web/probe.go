package web

import (
	"context"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/app/limits"
	"exactflask/core/record/practical"
	"exactflask/view"
)

// probe are the operations of a probe that is joined to a notebook.
func (s *server) probe(api huma.API) {
	type liveOutput struct{ Body view.LiveProbe }
	huma.Register(api, operation("probe", http.MethodGet, "/notebooks/{id}/probe", "What the probe that is joined shows now"),
		asked(s, func(ctx context.Context, p access.Person, in *NotebookPath) (*liveOutput, error) {
			out, err := s.app.Bench.Probe(ctx, p, in.ID)
			return &liveOutput{out}, err
		}))
	type tokenOutput struct {
		Body struct {
			Token string `json:"token" doc:"told once; good for twelve hours, or until another is made"`
		}
	}
	huma.Register(api, operation("probe-token", http.MethodPost, "/notebooks/{id}/probe/token", "A token with which a probe sends its lines"),
		asked(s, func(ctx context.Context, p access.Person, in *NotebookPath) (*tokenOutput, error) {
			out := &tokenOutput{}
			var err error
			out.Body.Token, err = s.app.Bench.ProbeToken(ctx, p, in.ID)
			return out, err
		}))
	huma.Register(api, silent(operation("simulate-probe", http.MethodPost, "/notebooks/{id}/probe/simulated", "Join the simulated probe of the demo, or tell it where the burette stands")),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			NotebookPath
			Body struct {
				Burette string `json:"burette,omitempty" maxLength:"24" doc:"reading that was run to"`
			}
		}) (*struct{}, error) {
			return nil, s.app.Bench.SimulateProbe(ctx, p, in.ID, in.Body.Burette, s.options.Demo)
		}))
	huma.Register(api, silent(operation("leave-probe", http.MethodDelete, "/notebooks/{id}/probe", "Part the probe from a notebook")),
		asked(s, func(ctx context.Context, p access.Person, in *NotebookPath) (*struct{}, error) {
			return nil, s.app.Bench.LeaveProbe(ctx, p, in.ID)
		}))
	type linesOutput struct{ Body bench.ProbeTaken }
	lines := operation("probe-lines", http.MethodPost, "/probes/{id}/lines", "Lines of a probe, by its token: JSON, one object a line (docs/formats.md)")
	lines.Security, lines.MaxBodyBytes = nil, limits.ProbeBytes
	huma.Register(api, lines, func(_ context.Context, in *struct {
		NotebookPath
		Authorization string `header:"Authorization" maxLength:"200" doc:"Bearer and the token"`
		RawBody       []byte `contentType:"application/jsonl"`
	}) (*linesOutput, error) {
		token, _ := strings.CutPrefix(in.Authorization, "Bearer ")
		out, err := s.app.Bench.ProbeLines(in.ID, token, string(in.RawBody))
		if err != nil {
			return nil, s.problemOf(practical.Style{}, err)
		}
		return &linesOutput{out}, nil
	})
}
