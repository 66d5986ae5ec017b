package web

import (
	"bytes"
	"net/http"
	"sync"
	"time"
)

// A submit has an id of its own (the header Idempotency-Key, as the IETF's draft of that name has it):
// sent again because its answer was lost, it is taken once, and answered as the first time.
const (
	submitID     = "Idempotency-Key"
	replayed     = "Exactflask-Answered-Before"
	keptSubmits  = 4096
	keptBytes    = 32 << 20 // of all answers together
	keptFor      = 10 * time.Minute
	largestKept  = 1 << 20 // bytes of an answer; three hundred slips are 60 kB
	longestOfIDs = 64
)

// submitted is one submit: under way until done is closed, then with its answer.
type submitted struct {
	key    string
	began  time.Time
	done   chan struct{}
	status int // 0 where there is no answer to be given again
	kind   string
	body   []byte
}

// submits are those of the last minutes, the oldest first. Where there is no room the oldest are forgotten.
type submits struct {
	mu    sync.Mutex
	known map[string]*submitted
	order []*submitted
	bytes int
}

// begin is the submit of this key that is known, or a new one, which is known then.
func (s *submits) begin(key string, now time.Time) (of *submitted, there bool) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.forget(now)
	if of, there = s.known[key]; there {
		return of, true
	}
	if s.known == nil {
		s.known = map[string]*submitted{}
	}
	of = &submitted{key: key, began: now, done: make(chan struct{})}
	s.known[key], s.order = of, append(s.order, of)
	return of, false
}

// end keeps the answer of a submit that was taken, and forgets one that was not.
func (s *submits) end(of *submitted, status int, kind string, body []byte, now time.Time) {
	s.mu.Lock()
	defer s.mu.Unlock()
	defer close(of.done)
	switch {
	case s.known[of.key] != of: // forgotten meanwhile
	case status/100 == 2 && len(body) <= largestKept:
		of.status, of.kind, of.body = status, kind, body
		s.bytes += len(body)
	default:
		delete(s.known, of.key)
	}
	s.forget(now)
}

func (s *submits) forget(now time.Time) {
	for len(s.order) > 0 {
		oldest := s.order[0]
		if len(s.order) <= keptSubmits && s.bytes <= keptBytes && now.Sub(oldest.began) < keptFor {
			return
		}
		s.order = s.order[1:]
		s.bytes -= len(oldest.body)
		if s.known[oldest.key] == oldest {
			delete(s.known, oldest.key)
		}
	}
}

// takenOnce takes each submit once. What is remembered is lost with the program: then a lost answer may
// be a submit that is taken twice, which entries, reports and pictures are not, having ids of their own.
func (s *server) takenOnce(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		id, person := r.Header.Get(submitID), s.sessions.GetString(r.Context(), keyPerson)
		if r.Method != http.MethodPost || id == "" || len(id) > longestOfIDs || person == "" {
			next.ServeHTTP(w, r)
			return
		}
		for {
			of, there := s.submits.begin(person+" "+r.URL.Path+" "+id, time.Now())
			if !there {
				copied := &copying{ResponseWriter: w}
				defer func() { // also where what answers it panics
					s.submits.end(of, copied.status, w.Header().Get("Content-Type"), copied.body.Bytes(), time.Now())
				}()
				next.ServeHTTP(copied, r)
				return
			}
			select {
			case <-of.done:
			case <-caller(r.Context()).Done():
				return
			}
			if of.status != 0 {
				of.again(w)
				return
			}
		}
	})
}

// again gives the answer of a submit once more.
func (of *submitted) again(w http.ResponseWriter) {
	if of.kind != "" {
		w.Header().Set("Content-Type", of.kind)
	}
	w.Header().Set(replayed, "true")
	w.WriteHeader(of.status)
	_, _ = w.Write(of.body)
}

// copying keeps what is answered, as long as it can be given again.
type copying struct {
	http.ResponseWriter
	status int
	body   bytes.Buffer
}

func (c *copying) WriteHeader(status int) {
	if c.status == 0 {
		c.status = status
	}
	c.ResponseWriter.WriteHeader(status)
}

func (c *copying) Write(p []byte) (int, error) {
	if c.status == 0 {
		c.status = http.StatusOK
	}
	if room := largestKept + 1 - c.body.Len(); room > 0 {
		c.body.Write(p[:min(len(p), room)])
	}
	return c.ResponseWriter.Write(p)
}

func (c *copying) Unwrap() http.ResponseWriter { return c.ResponseWriter }
