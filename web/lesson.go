package web

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/view"
)

// lesson are the operations of a lesson while it is going on: the board, hands, the
// clock, what the answers of the class say together.
func (s *server) lesson(api huma.API) {
	const path = "/classes/{class}/practicals/{practical}"
	type boardOutput struct{ Body bench.Board }
	huma.Register(api, operation("board", http.MethodGet, path+"/board", "Every bench of a practical at once, who needs help first"),
		asked(s, func(ctx context.Context, p access.Person, in *PracticalPath) (*boardOutput, error) {
			out, err := s.app.Bench.Board(ctx, p, in.Class, in.Practical)
			return &boardOutput{out}, err
		}))
	huma.Register(api, huma.Operation{OperationID: "board-events", Method: http.MethodGet, Path: path + "/board/events",
		Summary: "What changes on the board, as server-sent events named news", Security: signedIn, Errors: []int{401, 404, 429}},
		asked(s, s.boardEvents))
	type plotOutput struct{ Body view.ClassPlot }
	huma.Register(api, operation("class-plot", http.MethodGet, path+"/plot", "What the answers of the class say together"),
		asked(s, func(ctx context.Context, p access.Person, in *PracticalPath) (*plotOutput, error) {
			out, err := s.app.Bench.ClassPlot(ctx, p, in.Class, in.Practical)
			return &plotOutput{out}, err
		}))
	huma.Register(api, silent(operation("end-lesson", http.MethodPut, path+"/lesson", "Say when the lesson ends; every bench shows it")),
		done(s, func(ctx context.Context, p access.Person, in *struct {
			PracticalPath
			Body struct {
				Ends *time.Time `json:"ends,omitempty" doc:"left out: nobody says"`
			}
		}) error {
			return s.app.Bench.EndLesson(ctx, p, in.Class, in.Practical, in.Body.Ends)
		}))
	type handOutput struct {
		Body struct {
			Hand *bench.Hand `json:"hand,omitempty" doc:"left out while it is not up"`
		}
	}
	hand := func(h *bench.Hand, err error) (*handOutput, error) {
		out := &handOutput{}
		out.Body.Hand = h
		return out, err
	}
	huma.Register(api, operation("raise-hand", http.MethodPut, "/notebooks/{id}/hand", "Call for help at my bench, or take the call back"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			NotebookPath
			Body struct {
				Up bool `json:"up"`
			}
		}) (*handOutput, error) {
			return hand(s.app.Bench.RaiseHand(ctx, p, in.ID, in.Body.Up))
		}))
	huma.Register(api, operation("take-hand", http.MethodPost, "/notebooks/{id}/hand", "Say that I go to a bench whose hand is up, or that it is helped"),
		asked(s, func(ctx context.Context, p access.Person, in *struct {
			NotebookPath
			Body struct {
				Cleared bool `json:"cleared" doc:"false: I go there"`
			}
		}) (*handOutput, error) {
			return hand(s.app.Bench.TakeHand(ctx, p, in.ID, in.Body.Cleared))
		}))
}

// boardEvents streams what changes on a board.
func (s *server) boardEvents(ctx context.Context, p access.Person, in *PracticalPath) (*huma.StreamResponse, error) {
	reads := func(_ context.Context, p access.Person) bool {
		return access.May(p, access.SeeRoll, access.Thing{Class: in.Class})
	}
	return s.stream(ctx, reads, func(ctx context.Context) (streaming, error) {
		watch, err := s.app.Bench.WatchBoard(ctx, p, in.Class, in.Practical)
		return func(ctx context.Context, tick <-chan time.Time, send func(string, any) bool) {
			watch(ctx, tick, func(news bench.BoardNews) bool {
				if len(news.Rows) == 0 && news.Whole == nil {
					return send("", nil)
				}
				return send("news", news)
			})
		}, err
	})
}
