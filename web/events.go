package web

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"runtime/debug"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"

	"exactflask/app/access"
	"exactflask/core/values/finding"
)

// heartbeat keeps proxies from closing a quiet stream.
const heartbeat = 20 * time.Second

// events streams the changes of a notebook.
func (s *server) events(ctx context.Context, p access.Person, in *NotebookPath) (*huma.StreamResponse, error) {
	reads := func(ctx context.Context, p access.Person) bool { return s.app.Bench.Reads(ctx, p, in.ID) }
	return s.stream(ctx, reads, func(ctx context.Context) (streaming, error) {
		// Who asks is decided before the stream begins.
		changes, err := s.app.Bench.Listen(ctx, p, in.ID)
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
// takes nothing for ten seconds is let go, and so is one who may not read any more. What
// open is given ends with the stream.
//
// The connection is taken over where that can be done: what stood in the way to it, some
// forty kilobytes, need not be kept for as long as a bench looks on.
func (s *server) stream(ctx context.Context, reads func(context.Context, access.Person) bool, open func(context.Context) (streaming, error)) (*huma.StreamResponse, error) {
	here := s.sessions.GetString(ctx, keyPerson)
	if !s.streams.begin(here) {
		return nil, tooManyStreams.Fault("", finding.Count(maxStreams))
	}
	ctx, stop := context.WithCancel(context.WithoutCancel(ctx))
	run, err := open(ctx)
	if err != nil {
		stop()
		s.streams.end(here)
		return nil, err
	}
	heed := context.AfterFunc(s.closing, stop)
	counted := s.options.Metrics.streaming()
	live := func(write wire) {
		defer s.streams.end(here)
		defer counted()
		defer heed()
		defer stop()
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
	}
	return &huma.StreamResponse{Body: func(c huma.Context) {
		_, w := humachi.Unwrap(c)
		w.Header().Set("Content-Type", "text/event-stream")
		w.Header().Set("X-Accel-Buffering", "no")
		if conn, err := takeOver(w, stop); err == nil {
			go func() {
				defer conn.Close()
				defer func() { // nothing else stands between it and the program
					if v := recover(); v != nil {
						s.failed(fmt.Errorf("panic: %v\n%s", v, debug.Stack()))
					}
				}()
				live(alone(conn))
			}()
			return
		}
		defer context.AfterFunc(c.Context(), stop)()
		live(within(w))
	}}, nil
}

// wire takes what a stream says; false where its reader is gone.
type wire func(text string) bool

// patience is how long a message may take to its reader.
const patience = 10 * time.Second

// within is a wire within the answer to a request.
func within(w http.ResponseWriter) wire {
	control := http.NewResponseController(w)
	_ = control.SetReadDeadline(time.Time{})
	return func(text string) bool {
		_ = control.SetWriteDeadline(time.Now().Add(patience))
		if _, err := io.WriteString(w, text); err != nil {
			return false
		}
		return control.Flush() == nil
	}
}

// alone is a wire on a connection of its own.
func alone(conn net.Conn) wire {
	return func(text string) bool {
		_ = conn.SetWriteDeadline(time.Now().Add(patience))
		_, err := io.WriteString(conn, text)
		return err == nil
	}
}

// takeOver answers with the head that w holds and takes the connection; gone is called
// when the reader goes away. The answer ends where the connection does (RFC 9112, 6.3).
func takeOver(w http.ResponseWriter, gone func()) (net.Conn, error) {
	conn, rest, err := http.NewResponseController(w).Hijack()
	if err != nil {
		return nil, err
	}
	_ = conn.SetDeadline(time.Time{})
	head := w.Header().Clone()
	head.Set("Date", time.Now().UTC().Format(http.TimeFormat))
	head.Set("Connection", "close")
	var text strings.Builder
	text.WriteString("HTTP/1.1 200 OK\r\n")
	_ = head.Write(&text) // a builder takes everything
	text.WriteString("\r\n")
	alone(conn)(text.String())
	early := rest.Reader.Buffered() > 0
	go func() { // nothing more is asked for on this connection: a reader that speaks is let go
		if !early {
			_, _ = conn.Read(make([]byte, 1))
		}
		gone()
	}()
	return conn, nil
}

// still tells whether the sign-in that began a stream has not ended, and its person may
// still read what it is about: they may have left the class.
func (s *server) still(ctx context.Context, reads func(context.Context, access.Person) bool) bool {
	asked := context.WithoutCancel(ctx)
	p, err := s.person(asked)
	return ctx.Err() == nil && err == nil && reads(asked, p)
}

// maxStreams is how many streams one person may have open, on all devices: a window each.
const maxStreams = 24

var tooManyStreams = finding.Declare("web.too-many-streams", "most")

// streams counts the open streams of each person.
type streams struct {
	mu   sync.Mutex
	open map[string]int
}

// begin counts one more, where one more may be.
func (s *streams) begin(person string) bool {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.open[person] >= maxStreams {
		return false
	}
	if s.open == nil {
		s.open = map[string]int{}
	}
	s.open[person]++
	return true
}

func (s *streams) end(person string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.open[person]--; s.open[person] <= 0 {
		delete(s.open, person)
	}
}
