package web

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"

	"exactflask/app"
)

// heartbeat keeps proxies from closing a quiet stream.
const heartbeat = 20 * time.Second

// events streams the changes of a notebook. Each message is written at once;
// a reader that takes nothing for ten seconds is let go.
func (s *server) events(ctx context.Context, p app.Person, in *NotebookPath) (*huma.StreamResponse, error) {
	// Who asks is decided before the stream begins.
	changes, err := s.app.Listen(ctx, p, in.ID)
	if err != nil {
		return nil, err
	}
	return &huma.StreamResponse{Body: func(c huma.Context) {
		_, w := humachi.Unwrap(c)
		control := http.NewResponseController(w)
		_ = control.SetReadDeadline(time.Time{})
		w.Header().Set("Content-Type", "text/event-stream")
		w.Header().Set("X-Accel-Buffering", "no")
		send := func(text string) bool {
			_ = control.SetWriteDeadline(time.Now().Add(10 * time.Second))
			if _, err := fmt.Fprint(w, text); err != nil {
				return false
			}
			return control.Flush() == nil
		}
		beat := time.NewTicker(heartbeat)
		defer beat.Stop()
		for ok := send(": listening\n\n"); ok; {
			select {
			case <-c.Context().Done():
				return
			case <-s.closing:
				return
			case change := <-changes:
				text, err := json.Marshal(change)
				if err != nil {
					return
				}
				ok = send("event: change\ndata: " + string(text) + "\n\n")
			case <-beat.C:
				ok = send(": still here\n\n")
			}
		}
	}}, nil
}
