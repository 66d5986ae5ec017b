package browser

import (
	"net/http"
	"net/http/httptest"
	"net/http/httputil"
	"net/url"
	"strings"
	"sync"
	"time"
)

// Between stands between a browser and the program, as a school's proxy does, and can
// be as bad as one.
type Between struct {
	URL    string
	server *httptest.Server
	mu     sync.Mutex
	now    Weather
}

// Weather is what becomes of requests. The zero value lets them through.
type Weather struct {
	Cut    bool          // none arrives
	Delay  time.Duration // of what is asked of the API
	Status int           // the proxy answers the API itself, with a page of its own
	Lost   string        // paths that contain this are not there any more
	Build  string        // the program says that it is of this version now
}

// Stand puts one between a server and whoever asks at its URL.
func Stand(s *Server) *Between {
	b := &Between{}
	to, _ := url.Parse(s.URL) // it was made by ourselves
	through := httputil.NewSingleHostReverseProxy(to)
	through.FlushInterval = -1 // streams
	through.ErrorHandler = func(http.ResponseWriter, *http.Request, error) { panic(http.ErrAbortHandler) }
	through.ModifyResponse = func(r *http.Response) error {
		if build := b.weather().Build; build != "" && r.Header.Get("Exactflask-Build") != "" {
			r.Header.Set("Exactflask-Build", build)
		}
		return nil
	}
	b.server = httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		now := b.weather()
		api := strings.HasPrefix(r.URL.Path, "/api/")
		switch {
		case now.Cut:
			panic(http.ErrAbortHandler)
		case now.Lost != "" && strings.Contains(r.URL.Path, now.Lost):
			http.NotFound(w, r)
			return
		case api && now.Status != 0:
			w.Header().Set("Content-Type", "text/html")
			w.WriteHeader(now.Status)
			_, _ = w.Write([]byte("<h1>The proxy of this school says no</h1>"))
			return
		case api && !strings.HasSuffix(r.URL.Path, "/events"):
			time.Sleep(now.Delay)
		}
		r.Host = to.Host
		r.Header.Del("Origin") // the program checks it against its own address
		r.Header.Del("Sec-Fetch-Site")
		through.ServeHTTP(w, r)
	}))
	b.URL = b.server.URL
	return b
}

func (b *Between) weather() Weather {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.now
}

// Set changes the weather; what is open stays open, unless everything is cut.
func (b *Between) Set(w Weather) {
	b.mu.Lock()
	b.now = w
	b.mu.Unlock()
	if w.Cut {
		b.server.CloseClientConnections()
	}
}

// Close takes it away.
func (b *Between) Close() {
	b.server.CloseClientConnections()
	b.server.Close()
}
