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

// events streams the changes of a notebook.
func (s *server) events(ctx context.Context, p app.Person, in *NotebookPath) (*huma.StreamResponse, error) {
	reads := func(ctx context.Context, p app.Person) bool { return s.app.Reads(ctx, p, in.ID) }
	return s.stream(ctx, reads, func() (streaming, error) {
		// Who asks is decided before the stream begins.
		changes, err := s.app.Listen(ctx, p, in.ID)
		return func(ctx context.Context, tick <-chan time.Time, send func(name string, data any) bool) {
			for ok := true; ok; {
				select {
				case <-ctx.Done():
					return
				case change := <-changes:
					ok = send("change", change)
				case <-tick:
					ok = send("", nil)
				}
			}
		}, err
	})
}

// streaming writes events until the context is done or a message cannot be sent; one
// without a name says only that the stream lives, as it should with every tick.
type streaming func(ctx context.Context, tick <-chan time.Time, send func(name string, data any) bool)

// stream answers with a stream of events. Each message is written at once; a reader that
// takes nothing for ten seconds is let go, and so is one who may not read any more.
func (s *server) stream(ctx context.Context, reads func(context.Context, app.Person) bool, open func() (streaming, error)) (*huma.StreamResponse, error) {
	here := s.sessions.GetString(ctx, keySignIn)
	if !s.streams.begin(here) {
		return nil, tooManyStreams.Fault("", finding.Count(maxStreams))
	}
	run, err := open()
	if err != nil {
		s.streams.end(here)
		return nil, err
	}
	return &huma.StreamResponse{Body: func(c huma.Context) {
		defer s.streams.end(here)
		defer s.options.Metrics.streaming()()
		ctx, stop := context.WithCancel(c.Context())
		defer stop()
		go func() {
			select {
			case <-ctx.Done():
			case <-s.closing:
				stop()
			}
		}()
		_, w := humachi.Unwrap(c)
		control := http.NewResponseController(w)
		_ = control.SetReadDeadline(time.Time{})
		w.Header().Set("Content-Type", "text/event-stream")
		w.Header().Set("X-Accel-Buffering", "no")
		write := func(text string) bool {
			_ = control.SetWriteDeadline(time.Now().Add(10 * time.Second))
			if _, err := fmt.Fprint(w, text); err != nil {
				return false
			}
			return control.Flush() == nil
		}
		beat := time.NewTicker(heartbeat)
		defer beat.Stop()
		if !write(": listening\n\n") {
			return
		}
		run(ctx, beat.C, func(name string, data any) bool {
			if !s.still(ctx, reads) {
				return false
			}
			if name == "" {
				return write(": still here\n\n")
			}
			text, err := json.Marshal(data)
			return err == nil && write("event: "+name+"\ndata: "+string(text)+"\n\n")
		})
	}}, nil
}

// still tells whether the sign-in that began a stream has not ended, and its person may
// still read what it is about: they may have left the class.
func (s *server) still(ctx context.Context, reads func(context.Context, app.Person) bool) bool {
	asked := context.WithoutCancel(ctx)
	p, err := s.person(asked)
	return ctx.Err() == nil && err == nil && reads(asked, p)
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
