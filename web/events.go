package web

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"

	"exactflask/app"
	"exactflask/core/finding"
)

// heartbeat keeps proxies from closing a quiet stream.
const heartbeat = 20 * time.Second

// events streams the changes of a notebook. Each message is written at once;
// a reader that takes nothing for ten seconds is let go.
func (s *server) events(ctx context.Context, p app.Person, in *NotebookPath) (*huma.StreamResponse, error) {
	here := s.sessions.GetString(ctx, keySignIn)
	if !s.streams.begin(here) {
		return nil, tooManyStreams.Fault("", finding.Count(maxStreams))
	}
	begun := false
	defer func() {
		if !begun {
			s.streams.end(here)
		}
	}()
	// Who asks is decided before the stream begins.
	changes, err := s.app.Listen(ctx, p, in.ID)
	if err != nil {
		return nil, err
	}
	begun = true
	return &huma.StreamResponse{Body: func(c huma.Context) {
		defer s.streams.end(here)
		defer s.options.Metrics.streaming()()
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
				ok = s.still(c.Context(), in.ID) && send("event: change\ndata: "+string(text)+"\n\n")
			case <-beat.C:
				ok = s.still(c.Context(), in.ID) && send(": still here\n\n")
			}
		}
	}}, nil
}

// still tells whether the sign-in that began a stream has not ended, and its person may
// still read the notebook: they may have left the class.
func (s *server) still(ctx context.Context, notebook string) bool {
	asked := context.WithoutCancel(ctx)
	p, err := s.person(asked)
	return ctx.Err() == nil && err == nil && s.app.Reads(asked, p, notebook)
}

// maxStreams is how many streams one sign-in may have open: a window each.
const maxStreams = 12

var tooManyStreams = finding.Declare("web.too-many-streams", "most")

// streams counts the open streams of each sign-in.
type streams struct {
	mu   sync.Mutex
	open map[string]int
}

// begin counts one more, where one more may be.
func (s *streams) begin(signIn string) bool {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.open[signIn] >= maxStreams {
		return false
	}
	if s.open == nil {
		s.open = map[string]int{}
	}
	s.open[signIn]++
	return true
}

func (s *streams) end(signIn string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.open[signIn]--; s.open[signIn] <= 0 {
		delete(s.open, signIn)
	}
}
