package web_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app"
	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/app/people"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/demo"
	"exactflask/formats"
	"exactflask/store"
	"exactflask/web"
)

// school is a server with the demo, a second class beside it, and a second
// practical whose results are withheld.
type school struct {
	t     testing.TB
	url   string
	store *store.Store
	app   *app.App
	logs  *bytes.Buffer
	class string // id of the demo class
	// handler serves it, for another server than that of url.
	handler http.Handler
}

func newSchool(t testing.TB, logs io.Writer) *school {
	return newSchoolAs(t, logs, func(*web.Options) {})
}

// newSchoolAs is a school that is served with other options.
func newSchoolAs(t testing.TB, logs io.Writer, change func(*web.Options)) *school {
	ctx := context.Background()
	s, err := store.Open(ctx, filepath.Join(t.TempDir(), "school.db"))
	require.NoError(t, err)
	a, err := app.New(s, true)
	require.NoError(t, err)
	require.NoError(t, demo.Fill(ctx, a))
	class, err := a.Classes.AddClass(ctx, demo.Class)
	require.NoError(t, err)

	var doc formats.Document
	file, err := io.ReadAll(open(t, "descaling-acid.json"))
	require.NoError(t, err)
	doc, err = formats.Read(bytes.NewReader(file))
	require.NoError(t, err)
	doc.Practical.Asked.Reference = decimal.Must("0.8765")
	require.NoError(t, a.Practicals.Assign(ctx, class, doc.Practical))

	other, err := a.Classes.AddClass(ctx, "Friday group")
	require.NoError(t, err)
	for username, role := range map[string]access.Role{"stranger": access.Student, "colleague": access.Instructor} {
		id, err := a.Classes.AddPerson(ctx, people.NewPerson{Username: username, Name: "Someone Else", Password: demo.Password})
		require.NoError(t, err)
		require.NoError(t, a.Classes.Join(ctx, other, id, role))
	}
	buffer, requests := &bytes.Buffer{}, 0
	if _, bench := t.(*testing.B); bench {
		requests = 1 << 30
	}
	if logs == nil {
		logs = buffer
	}
	options := web.Options{Demo: true, Log: slog.New(slog.NewJSONHandler(logs, nil)), Requests: requests}
	change(&options)
	handler := web.New(a, s.Sessions(), options)
	server := httptest.NewServer(handler)
	t.Cleanup(func() { server.Close(); assert.NoError(t, s.Close()) })
	return &school{t: t, url: server.URL, store: s, app: a, logs: buffer, class: class, handler: handler}
}

// personID is the id of somebody of the demo.
func (s *school) personID(username string) string {
	p, err := s.app.People.SignIn(context.Background(), username, demo.Password)
	require.NoError(s.t, err)
	return p.ID
}

// client is a person with a browser's cookies; nobody when username is "".
func (s *school) client(username string) *http.Client {
	jar, err := cookiejar.New(nil)
	require.NoError(s.t, err)
	c := &http.Client{Jar: jar, Timeout: 20 * time.Second}
	if username != "" {
		status, body := s.call(c, "POST", "/api/session", map[string]string{"username": username, "password": demo.Password})
		require.Equal(s.t, 200, status, body)
	}
	return c
}

func (s *school) call(c *http.Client, method, path string, body any) (int, string) {
	status, text, _ := s.submit(c, method, path, body, "")
	return status, text
}

// submit sends something under an id of its own, and tells whether it is an answer given again.
func (s *school) submit(c *http.Client, method, path string, body any, id string) (status int, answer string, again bool) {
	var in io.Reader
	switch b := body.(type) {
	case nil:
	case string:
		in = strings.NewReader(b)
	default:
		text, err := json.Marshal(b)
		require.NoError(s.t, err)
		in = bytes.NewReader(text)
	}
	req, err := http.NewRequest(method, s.url+path, in)
	require.NoError(s.t, err)
	if in != nil {
		req.Header.Set("Content-Type", "application/json")
	}
	if id != "" {
		req.Header.Set("Idempotency-Key", id)
	}
	res, err := c.Do(req)
	require.NoError(s.t, err)
	defer res.Body.Close()
	if res.Header.Get("Content-Type") == "text/event-stream" {
		return res.StatusCode, "", false // it does not end by itself
	}
	text, err := io.ReadAll(res.Body)
	require.NoError(s.t, err)
	if res.StatusCode >= 400 {
		assert.Contains(s.t, res.Header.Get("Content-Type"), "application/problem+json", "%s %s", method, path)
	}
	return res.StatusCode, string(text), res.Header.Get("Exactflask-Answered-Before") != ""
}

// notebook begins (or finds) a student's notebook of a practical.
func (s *school) notebook(c *http.Client, practical string) bench.Notebook {
	status, text := s.call(c, "POST", "/api/classes/"+s.class+"/practicals/"+practical+"/notebook", nil)
	require.Equal(s.t, 200, status, text)
	var n bench.Notebook
	require.NoError(s.t, json.Unmarshal([]byte(text), &n))
	return n
}

// run returns entries of a trial: its opening, start and end.
func run(id string, clock int64, kind journal.TrialType, start, end string) []journal.Entry {
	at := time.Date(2026, 11, 24, 10, 0, 0, 0, time.UTC)
	e := func(n int64, part journal.Part) journal.Entry {
		return journal.Entry{ID: fmt.Sprintf("%s-%d", id, n), Device: "test-device", Clock: clock + n, At: at, Part: part}
	}
	open := e(0, journal.Opening{Type: kind})
	return []journal.Entry{open, e(1, journal.Scale{Of: open.ID, Place: journal.Start, Written: start}),
		e(2, journal.Scale{Of: open.ID, Place: journal.End, Written: end})}
}

func practicalOf(t testing.TB) practical.Practical {
	text, err := io.ReadAll(open(t, "iron-ii-dichromate.json"))
	require.NoError(t, err)
	doc, err := formats.Read(bytes.NewReader(text))
	require.NoError(t, err)
	return doc.Practical
}

// reread and retrial spoil the reading of one entry.
func reread(e []journal.Entry, at int, text string) {
	r := e[at].Part.(journal.Scale)
	r.Written = text
	e[at].Part = r
}

func retrial(e []journal.Entry, at int, trial string) {
	r := e[at].Part.(journal.Scale)
	r.Of = trial
	e[at].Part = r
}
