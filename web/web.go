// Package web serves the application: the API under /api, described by an
// OpenAPI document, and the built-in front end for everything else.
package web

import (
	"bytes"
	"cmp"
	"compress/gzip"
	"context"
	"embed"
	"io/fs"
	"log/slog"
	"mime"
	"net/http"
	"path"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
	"github.com/go-chi/httprate"

	"exactflask/app"
	"exactflask/core/finding"
	"exactflask/schema"
)

//go:embed all:dist
var dist embed.FS

// MaxBody is the largest request body that is read, in bytes.
const MaxBody = 1 << 20

// Options say how the application is served.
type Options struct {
	Demo   bool // the sign-in page lists everyone
	Secure bool // cookies only over HTTPS
	// Requests is how many requests a session (or an address without one) may
	// make in a minute; 0 for 1200.
	Requests int
	Closing  <-chan struct{} // streams end when it is closed; may be nil
	Log      *slog.Logger
}

// server holds what the handlers need.
type server struct {
	app      *app.App
	sessions *scs.SessionManager
	options  Options
	closing  <-chan struct{} // closed when the program is asked to finish
}

// Version is shown in the OpenAPI document and on the sign-in page.
const Version = "0.1.0"

// New returns the handler of the whole application.
func New(a *app.App, sessions scs.Store, options Options) http.Handler {
	s := newServer(a, sessions, options)
	protect := http.NewCrossOriginProtection()

	r := chi.NewRouter()
	r.Use(middleware.RequestID, s.logged, recovered(options.Log), protected)
	r.Route("/api", func(api chi.Router) {
		api.Use(func(next http.Handler) http.Handler { return protect.Handler(next) })
		api.Use(limitedBody)
		api.Use(httprate.LimitBy(cmp.Or(options.Requests, 1200), time.Minute, caller(s.sessions), httprate.WithLimitHandler(tooMany)))
		api.Use(s.sessions.LoadAndSave)
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

func newServer(a *app.App, store scs.Store, options Options) *server {
	sessions := scs.New()
	sessions.Store = store
	sessions.Lifetime = 12 * time.Hour // a school day and the evening after it
	sessions.Cookie.Name = "exactflask"
	sessions.Cookie.HttpOnly = true
	sessions.Cookie.SameSite = http.SameSiteStrictMode
	sessions.Cookie.Secure = options.Secure
	sessions.HashTokenInStore = true
	sessions.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) {
		options.Log.Error("session", "err", err, "id", middleware.GetReqID(r.Context()))
		problem(w, http.StatusInternalServerError, noSession.Message())
	}
	return &server{app: a, sessions: sessions, options: options, closing: options.Closing}
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
	config.Components.SecuritySchemes = map[string]*huma.SecurityScheme{"session": {Type: "apiKey", In: "cookie", Name: "exactflask"}}
	api := humachi.New(r, config)
	s.accounts(api)
	s.notebooks(api)
	s.calculations(api)
	s.plans(api)
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
	var packed sync.Map // file name to its compressed bytes, made when first asked for
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
			if !compressible[path.Ext(name)] || !strings.Contains(r.Header.Get("Accept-Encoding"), "gzip") {
				static.ServeHTTP(w, r)
				return
			}
			small, made := packed.Load(name)
			if !made {
				small = compressed(files, name)
				packed.Store(name, small)
			}
			w.Header().Set("Content-Type", cmp.Or(mime.TypeByExtension(path.Ext(name)), "application/manifest+json"))
			w.Header().Set("Content-Encoding", "gzip")
			w.Header().Set("Vary", "Accept-Encoding")
			_, _ = w.Write(small.([]byte))
			return
		}
		if strings.HasPrefix(name, "assets/") {
			http.NotFound(w, r)
			return
		}
		page, err := fs.ReadFile(files, "index.html")
		if err != nil {
			http.Error(w, "the front end is not built in; run: make build", http.StatusNotFound)
			return
		}
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		w.Header().Set("Cache-Control", "no-cache")
		_, _ = w.Write(page)
	})
}

// compressible are the kinds of built files that become much smaller.
var compressible = map[string]bool{".js": true, ".css": true, ".wasm": true, ".svg": true, ".webmanifest": true}

func compressed(files fs.FS, name string) []byte {
	text, err := fs.ReadFile(files, name)
	if err != nil {
		panic(err) // the file is part of the program
	}
	var out bytes.Buffer
	z := gzip.NewWriter(&out)
	_, _ = z.Write(text) // a buffer takes everything
	_ = z.Close()
	return out.Bytes()
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
