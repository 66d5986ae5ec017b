// Package web serves the application: the API under /api, described by an
// OpenAPI document, and the built-in front end for everything else.
package web

import (
	"bytes"
	"cmp"
	"context"
	"crypto/sha256"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"mime"
	"net/http"
	"path"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
	"github.com/go-chi/httprate"

	"exactflask/app"
	"exactflask/app/limits"
	"exactflask/core/values/finding"
	"exactflask/schema"
	"exactflask/store"
)

//go:embed all:dist
var dist embed.FS

// MaxBody is the largest request body that is read, in bytes.
const MaxBody = 1 << 20

// MaxImport is the largest file that is taken in through the browser; the command line
// takes larger ones.
const MaxImport = 8 << 20

// Options say how the application is served.
type Options struct {
	Demo   bool // the sign-in page lists everyone
	Secure bool // cookies only over HTTPS
	// Requests is how many requests a session (or an address without one) may
	// make in a minute; 0 for 1200.
	Requests int
	Proxies  Proxies         // whose X-Forwarded-For is believed
	Metrics  *Metrics        // nil: none are kept
	Closing  context.Context // streams end when it is done; may be nil
	Log      *slog.Logger
}

// server holds what the handlers need.
type server struct {
	app      *app.App
	sessions *scs.SessionManager
	options  Options
	streams  streams
	costs    *limits.Gate
	submits  submits
	closing  context.Context // done when the program is asked to finish
}

// Version is shown in the OpenAPI document and on the sign-in page.
const Version = "0.1.0"

// New returns the handler of the whole application.
func New(a *app.App, sessions scs.Store, options Options) http.Handler {
	s := newServer(a, sessions, options)
	protect := http.NewCrossOriginProtection()

	r := chi.NewRouter()
	r.Use(options.Proxies.located, middleware.RequestID, s.logged, options.Metrics.timed, s.recovered(), s.protected)
	s.health(r)
	r.Route("/api", func(api chi.Router) {
		api.Use(func(next http.Handler) http.Handler { return protect.Handler(next) })
		api.Use(unkept)
		api.Use(compressedReads)
		api.Use(tagged)
		api.Use(finished, answeredOnce, s.sessions.LoadAndSave, s.sameperson, versioned)
		limited := httprate.LimitBy(cmp.Or(options.Requests, limits.Requests), time.Minute, s.caller, httprate.WithLimitHandler(tooMany))
		api.Use(func(next http.Handler) http.Handler {
			counted := limited(next)
			return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
				if s.toSignIn(r) {
					next.ServeHTTP(w, r)
					return
				}
				counted.ServeHTTP(w, r)
			})
		})
		api.Use(s.takenOnce, s.cleaned)
		s.routes(api)
		api.NotFound(func(w http.ResponseWriter, r *http.Request) {
			problem(w, http.StatusNotFound, noRoute.Message(finding.Text(r.Method), finding.Text(r.URL.Path)))
		})
		api.MethodNotAllowed(func(w http.ResponseWriter, r *http.Request) {
			problem(w, http.StatusMethodNotAllowed, noMethod.Message(finding.Text(r.Method)))
		})
	})
	r.NotFound(frontEnd().ServeHTTP)
	return r
}

// build names what is built in: the page is told which it is, and each answer of the
// API which one would be given now.
var build = func() string {
	page, err := fs.ReadFile(dist, "dist/index.html")
	if err != nil {
		return ""
	}
	return fmt.Sprintf("%x", sha256.Sum256(page))[:16]
}()

const cookieName = "exactflask" // of the session

func newServer(a *app.App, kept scs.Store, options Options) *server {
	sessions := scs.New()
	sessions.Store = kept
	sessions.Lifetime = 12 * time.Hour // a school day and the evening after it
	sessions.Cookie.Name = cookieName
	sessions.Cookie.HttpOnly = true
	sessions.Cookie.SameSite = http.SameSiteStrictMode
	sessions.Cookie.Secure = options.Secure
	sessions.HashTokenInStore = true
	sessions.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) {
		options.Log.Error("session", "err", err, "id", middleware.GetReqID(r.Context()))
		if errors.Is(store.Why(err), store.ErrFull) {
			problem(w, http.StatusInsufficientStorage, diskFull.Message())
		} else {
			problem(w, http.StatusInternalServerError, noSession.Message())
		}
		if one, ok := w.(*single); ok {
			one.ended = true
		}
	}
	s := &server{costs: limits.NewGate(), app: a, sessions: sessions, options: options, closing: options.Closing}
	if s.closing == nil {
		s.closing = context.Background()
	}
	return s
}

// OpenAPI returns the document that describes the API, in JSON.
func OpenAPI() ([]byte, error) {
	s := newServer(nil, nil, Options{Demo: true, Log: slog.Default()})
	api := s.routes(chi.NewRouter())
	return api.OpenAPI().MarshalJSON()
}

// routes adds the API to a router that stands at /api.
func (s *server) routes(r chi.Router) huma.API {
	config := huma.DefaultConfig("Exact Flask", Version)
	config.OpenAPIPath, config.DocsPath, config.SchemasPath = "/openapi", "", ""
	config.CreateHooks = nil
	config.Components.Schemas = schema.Registry("#/components/schemas/")
	config.Servers = []*huma.Server{{URL: "/api"}}
	config.Info.Description = "Everything a practical, a notebook and its evaluation hold. Sign in with POST /session; the session is a cookie."
	config.Components.SecuritySchemes = map[string]*huma.SecurityScheme{"session": {Type: "apiKey", In: "cookie",
		Name: cookieName}}
	api := humachi.New(r, config)
	s.accounts(api)
	s.signIns(api)
	s.notebooks(api)
	s.calculations(api)
	s.plans(api)
	s.classes(api)
	s.settings(api)
	s.norms(api)
	s.glassware(api)
	s.todays(api)
	s.lesson(api)
	s.marking(api)
	s.reports(api)
	s.probe(api)
	s.joining(api)
	s.installation(api)
	schema.Plain(config.Components.Schemas.Map())
	for _, path := range api.OpenAPI().Paths {
		for _, o := range []*huma.Operation{path.Get, path.Put, path.Post, path.Delete} {
			if o != nil && o.Security == nil {
				o.Security = []map[string][]string{} // said, so that nobody takes it for forgotten
			}
		}
	}
	return api
}

// frontEnd serves the built files; every other path is a view of the
// application and gets its page.
func frontEnd() http.Handler {
	files, err := fs.Sub(dist, "dist")
	if err != nil {
		panic(err) // the folder is part of the program
	}
	static := http.FileServerFS(files)
	page, _ := fs.ReadFile(files, "index.html") // none where only the server was built
	page = bytes.Replace(page, []byte(`name="build" content=""`), []byte(`name="build" content="`+build+`"`), 1)
	// For somebody who has a session the head stands at once, and who they are is asked while
	// the scripts are still on their way.
	known := []byte(strings.NewReplacer("<!--known:", "", ":known-->", "").Replace(string(page)))
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method != http.MethodGet && r.Method != http.MethodHead {
			http.Error(w, "only GET and HEAD here", http.StatusMethodNotAllowed)
			return
		}
		name := strings.TrimPrefix(r.URL.Path, "/")
		if info, err := fs.Stat(files, name); name != "" && err == nil && !info.IsDir() {
			if strings.HasPrefix(name, "assets/") { // named by their content
				w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
			}
			for _, way := range []struct{ name, suffix string }{{"br", ".br"}, {"gzip", ".gz"}} {
				small, err := fs.ReadFile(files, name+way.suffix)
				if err != nil || !accepts(r, way.name) {
					continue
				}
				w.Header().Set("Content-Type", cmp.Or(mime.TypeByExtension(path.Ext(name)), "application/manifest+json"))
				w.Header().Set("Content-Encoding", way.name)
				w.Header().Set("Vary", "Accept-Encoding")
				_, _ = w.Write(small)
				return
			}
			static.ServeHTTP(w, r)
			return
		}
		if strings.HasPrefix(name, "assets/") {
			http.NotFound(w, r)
			return
		}
		if page == nil {
			http.Error(w, "the front end is not built in; run: make build", http.StatusNotFound)
			return
		}
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		w.Header().Set("Cache-Control", "no-cache")
		if _, err := r.Cookie(cookieName); err == nil {
			_, _ = w.Write(known)
			return
		}
		_, _ = w.Write(page)
	})
}

// accepts tells whether a browser takes what is compressed in this way.
func accepts(r *http.Request, way string) bool {
	for _, part := range strings.Split(r.Header.Get("Accept-Encoding"), ",") {
		if name, _, _ := strings.Cut(strings.TrimSpace(part), ";"); name == way {
			return true
		}
	}
	return false
}

// Serve runs the server until the context is done, then lets requests finish
// for at most ten seconds.
func Serve(ctx context.Context, server *http.Server, serve func() error) error {
	failed := make(chan error, 1)
	go func() { failed <- serve() }()
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
		grace, cancel := context.WithTimeout(context.Background(), 10*time.Second)
		defer cancel()
		return server.Shutdown(grace)
	}
}
