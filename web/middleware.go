package web

import (
	"bytes"
	"cmp"
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"os"
	"runtime/debug"
	"strings"
	"syscall"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"

	"exactflask/core/values/finding"
)

// protected sets the headers that keep a page to itself. Styles in attributes
// are needed by the formula typesetter.
func (s *server) protected(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		if s.options.Secure {
			h.Set("Strict-Transport-Security", "max-age=31536000")
		}
		h.Set("Content-Security-Policy", "default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self'; style-src-attr 'unsafe-inline'; "+
			"font-src 'self' data:; img-src 'self' data:; connect-src 'self'; manifest-src 'self'; worker-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Permissions-Policy", "camera=(), microphone=(), geolocation=(), screen-wake-lock=(self)")
		next.ServeHTTP(w, r)
	})
}

// unkept lets no answer be stored on the way.
func unkept(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Cache-Control", "no-store")
		next.ServeHTTP(w, r)
	})
}

// logged writes one line a request: what was asked for by route, not by path,
// so that no id and nothing typed gets into the log.
func (s *server) logged(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		begun := time.Now()
		ww := middleware.NewWrapResponseWriter(w, r.ProtoMajor)
		next.ServeHTTP(ww, r)
		level := slog.LevelInfo
		if ww.Status() >= http.StatusInternalServerError {
			level = slog.LevelError
		}
		s.options.Log.Log(r.Context(), level, "request", "method", r.Method, "route", routeOf(r), "status", ww.Status(),
			"bytes", ww.BytesWritten(), "ms", float64(time.Since(begun).Microseconds())/1000, "id", middleware.GetReqID(r.Context()))
	})
}

// routeOf is the pattern of a request's route, when it has been served.
func routeOf(r *http.Request) string {
	if c := chi.RouteContext(r.Context()); c != nil && c.RoutePattern() != "" {
		return c.RoutePattern()
	}
	return "front end"
}

// recovered turns a panic into a problem and a line in the log.
func (s *server) recovered() func(http.Handler) http.Handler {
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			defer func() {
				if v := recover(); v != nil {
					if err, ok := v.(error); v == http.ErrAbortHandler || ok && gone(err) {
						panic(http.ErrAbortHandler)
					}
					reference := s.failed(fmt.Errorf("panic: %v\n%s", v, debug.Stack()))
					problem(w, http.StatusInternalServerError, wentWrong.Message(finding.Text(reference)))
				}
			}()
			next.ServeHTTP(w, r)
		})
	}
}

// sameperson refuses what a page asks for as somebody else than who is signed in by
// now: another window of the same browser may have changed the person.
func (s *server) sameperson(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		as := cmp.Or(r.Header.Get("Exactflask-Person"), r.URL.Query().Get("person"))
		now := s.sessions.GetString(r.Context(), keyPerson)
		if as != "" && now != "" && as != now {
			problem(w, http.StatusConflict, otherPerson.Message())
			return
		}
		next.ServeHTTP(w, r)
	})
}

// versioned names the version of the page that would be given now.
func versioned(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Exactflask-Build", build)
		next.ServeHTTP(w, r)
	})
}

// gone tells whether an answer could not be written since its caller was not there any
// more.
func gone(err error) bool {
	return errors.Is(err, syscall.EPIPE) || errors.Is(err, syscall.ECONNRESET) || errors.Is(err, os.ErrDeadlineExceeded)
}

// caller tells callers apart for the limit of requests: by who is signed in, so
// that a whole class behind one address is not taken for one caller; by address
// where nobody is, whatever cookie was sent.
func (s *server) caller(r *http.Request) (string, error) {
	if id := s.sessions.GetString(r.Context(), keyPerson); id != "" {
		return id, nil
	}
	return household(address(r)), nil
}

// toSignIn tells whether a request is what somebody who is nobody yet needs to sign in. What others
// ask from the same address does not shut them out; guessing has limits of its own.
func (s *server) toSignIn(r *http.Request) bool {
	if s.sessions.GetString(r.Context(), keyPerson) != "" {
		return false
	}
	return r.Method == http.MethodPost && r.URL.Path == "/api/session" || r.Method == http.MethodGet && (r.URL.Path == "/api/about" || r.URL.Path == "/api/me")
}

func tooMany(w http.ResponseWriter, _ *http.Request) {
	problem(w, http.StatusTooManyRequests, tooManyRequests.Message())
}

// tagged gives what is read an ETag, and answers that it has not changed where the
// reader holds it already. An answer is small enough to be held; streams are not.
func tagged(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method != http.MethodGet || isStream(r) {
			next.ServeHTTP(w, r)
			return
		}
		held := &holding{ResponseWriter: w, status: http.StatusOK}
		next.ServeHTTP(held, r)
		if held.status == http.StatusOK {
			tag := fmt.Sprintf(`W/"%x"`, sha256.Sum256(held.body.Bytes()))[:36] + `"`
			w.Header().Set("ETag", tag)
			// The browser may keep it, and asks each time whether it still holds.
			w.Header().Set("Cache-Control", "private, no-cache")
			if r.Header.Get("If-None-Match") == tag {
				w.Header().Del("Content-Type")
				w.WriteHeader(http.StatusNotModified)
				return
			}
		}
		w.WriteHeader(held.status)
		_, _ = w.Write(held.body.Bytes())
	})
}

// holding keeps an answer until all of it is there.
type holding struct {
	http.ResponseWriter
	status int
	body   bytes.Buffer
}

func (h *holding) WriteHeader(status int)      { h.status = status }
func (h *holding) Write(b []byte) (int, error) { return h.body.Write(b) }

// single lets one answer through: what comes after a problem that was written on the
// way is dropped.
type single struct {
	http.ResponseWriter
	ended bool
}

func (w *single) WriteHeader(status int) {
	if !w.ended {
		w.ResponseWriter.WriteHeader(status)
	}
}

func (w *single) Write(b []byte) (int, error) {
	if w.ended {
		return len(b), nil
	}
	return w.ResponseWriter.Write(b)
}

// Unwrap lets http.ResponseController reach what is inside.
func (w *single) Unwrap() http.ResponseWriter { return w.ResponseWriter }

func answeredOnce(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) { next.ServeHTTP(&single{ResponseWriter: w}, r) })
}

// finished lets a request be done to its end also where its caller goes away: each is
// short, and a query that is broken off can take others on its connection with it.
// Streams end with their callers.
func finished(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if !isStream(r) {
			ctx, cancel := context.WithTimeout(context.WithoutCancel(r.Context()), time.Minute)
			defer cancel()
			r = r.WithContext(context.WithValue(ctx, callerKey{}, r.Context()))
		}
		next.ServeHTTP(w, r)
	})
}

// callerKey is where the context of the caller stands, which ends when they go away.
type callerKey struct{}

// caller is the context of whoever waits for an answer.
func caller(ctx context.Context) context.Context {
	if c, ok := ctx.Value(callerKey{}).(context.Context); ok {
		return c
	}
	return ctx
}

// isStream tells whether a request is for a stream, of events or of a class's archives: nothing
// holds all of it.
func isStream(r *http.Request) bool {
	return strings.HasSuffix(r.URL.Path, "/events") || strings.HasSuffix(r.URL.Path, "/archive.zip")
}

// compressedReads compresses what is read. What is answered to a writing is brief, and
// is waited for; a stream would hold what compresses, most of a megabyte, for as long as it
// lasts.
func compressedReads(next http.Handler) http.Handler {
	small := middleware.Compress(1, "application/json")(next)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method == http.MethodGet && !isStream(r) {
			small.ServeHTTP(w, r)
			return
		}
		next.ServeHTTP(w, r)
	})
}
