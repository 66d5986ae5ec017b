package web

import (
	"log/slog"
	"net"
	"net/http"
	"runtime/debug"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
	"github.com/go-chi/httprate"
)

// protected sets the headers that keep a page to itself. Styles in attributes
// are needed by the formula typesetter.
func protected(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", "default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self'; style-src-attr 'unsafe-inline'; "+
			"font-src 'self' data:; img-src 'self' data:; connect-src 'self'; manifest-src 'self'; worker-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Permissions-Policy", "camera=(), microphone=(), geolocation=(), screen-wake-lock=(self)")
		next.ServeHTTP(w, r)
	})
}

func limitedBody(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		r.Body = http.MaxBytesReader(w, r.Body, MaxBody)
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
		route := "front end"
		if c := chi.RouteContext(r.Context()); c != nil && c.RoutePattern() != "" {
			route = c.RoutePattern()
		}
		s.options.Log.Log(r.Context(), level, "request", "method", r.Method, "route", route, "status", ww.Status(),
			"bytes", ww.BytesWritten(), "ms", float64(time.Since(begun).Microseconds())/1000, "id", middleware.GetReqID(r.Context()))
	})
}

// recovered turns a panic into a problem and a line in the log.
func recovered(log *slog.Logger) func(http.Handler) http.Handler {
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			defer func() {
				if v := recover(); v != nil {
					if v == http.ErrAbortHandler {
						panic(v)
					}
					log.Error("panic", "what", v, "stack", string(debug.Stack()), "id", middleware.GetReqID(r.Context()))
					problem(w, http.StatusInternalServerError, wentWrong.Message())
				}
			}()
			next.ServeHTTP(w, r)
		})
	}
}

// caller tells callers apart for the limit of requests: by session, so that a
// whole class behind one address is not taken for one caller; by address where
// there is none.
func caller(sessions *scs.SessionManager) httprate.KeyFunc {
	return func(r *http.Request) (string, error) {
		if c, err := r.Cookie(sessions.Cookie.Name); err == nil && len(c.Value) == 43 {
			return c.Value, nil
		}
		return address(r), nil
	}
}

func address(r *http.Request) string {
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		return r.RemoteAddr
	}
	return host
}

func tooMany(w http.ResponseWriter, _ *http.Request) {
	problem(w, http.StatusTooManyRequests, tooManyRequests.Message())
}
