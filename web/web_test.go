package web_test

import (
	"bufio"
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
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app"
	"exactflask/core/decimal"
	"exactflask/core/experiment"
	"exactflask/core/journal"
	"exactflask/core/practical"
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
}

const withheldPractical = "descaler"

func newSchool(t testing.TB, logs io.Writer) *school {
	ctx := context.Background()
	s, err := store.Open(ctx, filepath.Join(t.TempDir(), "school.db"))
	require.NoError(t, err)
	a, err := app.New(s, true)
	require.NoError(t, err)
	require.NoError(t, demo.Fill(ctx, a))
	class, err := a.AddClass(ctx, demo.Class)
	require.NoError(t, err)

	var doc formats.Document
	file, err := io.ReadAll(open(t, "descaling-acid.json"))
	require.NoError(t, err)
	doc, err = formats.Read(bytes.NewReader(file))
	require.NoError(t, err)
	doc.Practical.Asked.Reference = decimal.Must("0.8765")
	require.NoError(t, a.Assign(ctx, class, doc.Practical))

	other, err := a.AddClass(ctx, "Friday group")
	require.NoError(t, err)
	for username, role := range map[string]app.Role{"stranger": app.Student, "colleague": app.Instructor} {
		id, err := a.AddPerson(ctx, username, "Someone Else", demo.Password)
		require.NoError(t, err)
		require.NoError(t, a.Join(ctx, other, id, role))
	}
	buffer, requests := &bytes.Buffer{}, 0
	if _, bench := t.(*testing.B); bench {
		requests = 1 << 30
	}
	if logs == nil {
		logs = buffer
	}
	server := httptest.NewServer(web.New(a, s.Sessions(), web.Options{Demo: true, Log: slog.New(slog.NewJSONHandler(logs, nil)), Requests: requests}))
	t.Cleanup(func() { server.Close(); assert.NoError(t, s.Close()) })
	return &school{t: t, url: server.URL, store: s, app: a, logs: buffer, class: class}
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
	res, err := c.Do(req)
	require.NoError(s.t, err)
	defer res.Body.Close()
	if res.Header.Get("Content-Type") == "text/event-stream" {
		return res.StatusCode, "" // it does not end by itself
	}
	text, err := io.ReadAll(res.Body)
	require.NoError(s.t, err)
	if res.StatusCode >= 400 {
		assert.Contains(s.t, res.Header.Get("Content-Type"), "application/problem+json", "%s %s", method, path)
	}
	return res.StatusCode, string(text)
}

// notebook begins (or finds) a student's notebook of a practical.
func (s *school) notebook(c *http.Client, practical string) app.Notebook {
	status, text := s.call(c, "POST", "/api/classes/"+s.class+"/practicals/"+practical+"/notebook", nil)
	require.Equal(s.t, 200, status, text)
	var n app.Notebook
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
	return []journal.Entry{open, e(1, journal.Scale{Of: open.ID, Place: journal.Start, Written: start}), e(2, journal.Scale{Of: open.ID, Place: journal.End, Written: end})}
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

type entries struct {
	Entries []journal.Entry `json:"entries"`
}

// Every operation of the API, for everybody who might ask. An operation that
// is missing here fails the test.
func TestEveryRouteChecksWhoAsks(t *testing.T) {
	s := newSchool(t, nil)
	mira := s.client("mira")
	id := s.notebook(mira, "buffer-dosing").ID
	add := entries{run("fresh-trial", 500, journal.Accurate, "0.00", "23.85")}
	people := []struct {
		name   string
		client *http.Client
	}{{"nobody", s.client("")}, {"owner", mira}, {"classmate", s.client("teo")}, {"instructor", s.client("farrow")}, {"stranger", s.client("stranger")}, {"colleague", s.client("colleague")}}
	routes := []struct {
		operation, method, path string
		body                    any
		want                    string // one status for each of people
	}{
		{"me", "GET", "/me", nil, "401 200 200 200 200 200"},
		{"about", "GET", "/about", nil, "200 200 200 200 200 200"},
		{"shelf", "GET", "/shelf", nil, "401 200 200 200 200 200"},
		{"set-preferences", "PUT", "/me/preferences", map[string]string{"words": "titer", "units": "mL", "theme": "dark"}, "401 200 200 200 200 200"},
		{"begin-notebook", "POST", "/classes/" + s.class + "/practicals/buffer-dosing/notebook", nil, "401 200 200 403 404 404"},
		{"notebook", "GET", "/notebooks/" + id, nil, "401 200 404 200 404 404"},
		{"notebook-report", "GET", "/notebooks/" + id + "/report", nil, "401 200 404 200 404 404"},
		{"notebook-document", "GET", "/notebooks/" + id + "/document", nil, "401 200 404 200 404 404"},
		{"notebook-journal", "GET", "/notebooks/" + id + "/journal", nil, "401 200 404 200 404 404"},
		{"notebook-events", "GET", "/notebooks/" + id + "/events", nil, "401 200 404 200 404 404"},
		{"add-partner", "POST", "/notebooks/" + id + "/partners", map[string]string{"username": "jory"}, "401 200 404 403 404 404"},
		{"add-entries", "POST", "/notebooks/" + id + "/entries", add, "401 200 404 403 404 404"},
		{"calculations", "GET", "/calc", nil, "401 200 200 200 200 200"},
		{"calculate", "POST", "/calc/formula", map[string]string{"formula": "NaOH"}, "401 200 200 200 200 200"},
		{"catalogue", "GET", "/catalogue", nil, "401 200 200 200 200 200"},
		{"add-reaction", "POST", "/catalogue/reactions", map[string]string{"name": "mine", "equation": "HCl + KOH -> KCl + H2O"}, "401 200 200 200 200 200"},
		{"drop-reaction", "DELETE", "/catalogue/reactions/somebody-elses", nil, "401 404 404 404 404 404"},
		{"plan", "GET", "/classes/" + s.class + "/practicals/buffer-dosing/plan?students=12&trials=4", nil, "401 200 200 200 404 404"},
		{"try-plan", "POST", "/plan", map[string]any{"practical": practicalOf(t)}, "401 200 200 200 200 200"},
		{"set-practical", "POST", "/classes/" + s.class + "/practicals", map[string]any{"practical": practicalOf(t)}, "401 403 403 200 404 404"},
		{"answer-question", "POST", "/classes/" + s.class + "/practicals/buffer-dosing/questions", map[string]string{"code": "ratio", "answer": "0.5"}, "401 200 200 200 404 404"},
		{"sign-in", "POST", "/session", map[string]string{"username": "mira", "password": "wrong-password"}, "401 401 401 401 401 401"},
		{"sign-out", "DELETE", "/session", nil, "204 204 204 204 204 204"},
	}
	var api struct {
		Paths map[string]map[string]struct {
			OperationID string `json:"operationId"`
		}
	}
	text, err := web.OpenAPI()
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(text, &api))
	tested := map[string]bool{}
	for _, r := range routes {
		tested[r.operation] = true
		for i, want := range strings.Fields(r.want) {
			status, body := s.call(people[i].client, r.method, "/api"+r.path, r.body)
			assert.Equal(t, want, fmt.Sprint(status), "%s by %s: %s", r.operation, people[i].name, body)
		}
	}
	for _, operations := range api.Paths {
		for _, o := range operations {
			assert.True(t, tested[o.OperationID], "operation %s is not tested for who asks", o.OperationID)
		}
	}
	// A classmate's shelf shows their own notebook only; the instructor's the class.
	_, shelf := s.call(s.client("teo"), "GET", "/api/shelf", nil)
	assert.NotContains(t, shelf, "Mira")
	_, shelf = s.call(s.client("farrow"), "GET", "/api/shelf", nil)
	assert.Contains(t, shelf, "Mira Quillon")
}

// A student never receives hidden values or withheld results; nothing that was
// written or said gets into the log.
func TestNothingHiddenLeaves(t *testing.T) {
	s := newSchool(t, nil)
	mira, farrow := s.client("mira"), s.client("farrow")
	n := s.notebook(mira, withheldPractical)
	var all []journal.Entry
	for i, end := range []string{"44.40", "44.45", "44.35"} {
		all = append(all, run(fmt.Sprintf("withheld-%d", i), int64(10*i+1), journal.Accurate, "0.00", end)...)
	}
	status, answer := s.call(mira, "POST", "/api/notebooks/"+n.ID+"/entries", entries{all})
	require.Equal(t, 200, status, answer)
	assert.Contains(t, answer, `"status":"agreed"`)
	for _, path := range []string{"/notebooks/" + n.ID, "/notebooks/" + n.ID + "/document", "/notebooks/" + n.ID + "/report", "/shelf"} {
		_, text := s.call(mira, "GET", "/api"+path, nil)
		answer += text
	}
	for _, secret := range []string{"0.8765", "reference", `"statement"`, `"origins"`, "0.888", `"answer":{"statement`} {
		assert.NotContains(t, answer, secret)
	}
	_, text := s.call(farrow, "GET", "/api/notebooks/"+n.ID, nil)
	assert.Contains(t, text, "0.8765", "the instructor sees the true value")
	assert.Contains(t, text, "0.888", "and the result")
	for _, private := range []string{"Mira", "mira", demo.Password, n.ID, "44.40"} {
		assert.NotContains(t, s.logs.String(), private)
	}
}

func TestBadInput(t *testing.T) {
	s := newSchool(t, nil)
	mira := s.client("mira")
	n := s.notebook(mira, "buffer-dosing")
	before := n.Sheet.Entries
	path := "/api/notebooks/" + n.ID + "/entries"
	spoiled := func(spoil func([]journal.Entry)) entries {
		es := run("spoiled-one", 100, journal.Accurate, "0.00", "23.85")
		spoil(es)
		return entries{es}
	}
	for _, c := range []struct {
		name   string
		body   any
		status int
		says   string
	}{
		{"no number", spoiled(func(e []journal.Entry) { reread(e, 2, "twenty") }), 422, "entries[2].reading.text"},
		{"two points", spoiled(func(e []journal.Entry) { reread(e, 1, "2.4.4") }), 422, "two decimal points"},
		{"absurdly long", spoiled(func(e []journal.Entry) { reread(e, 1, strings.Repeat("1", 500)) }), 422, "reading.text"},
		{"unknown trial", spoiled(func(e []journal.Entry) { retrial(e, 1, "no-such-trial") }), 422, "open the trial first"},
		{"far clock", spoiled(func(e []journal.Entry) { e[0].Clock = 1 << 50 }), 422, "runs far ahead"},
		{"unknown kind", `{"entries":[{"id":"12345678","device":"d","clock":1,"at":"2026-11-24T10:00:00Z","kind":"photo"}]}`, 422, "kind"},
		{"not JSON", `{"entries":`, 400, ""},
		{"empty", entries{}, 422, ""},
		{"unknown field", `{"entries":[],"more":1}`, 422, "more"},
		{"too large", `{"entries":[` + strings.Repeat(" ", web.MaxBody) + `]}`, 413, ""},
		{"somebody's id", spoiled(func(e []journal.Entry) {
			e[0].ID = "demo-teo-0001"
			retrial(e, 1, "demo-teo-0001")
			retrial(e, 2, "demo-teo-0001")
		}), 409, "used before"},
	} {
		status, body := s.call(mira, "POST", path, c.body)
		assert.Equal(t, c.status, status, "%s: %s", c.name, body)
		assert.Contains(t, body, c.says, c.name)
	}
	status, body := s.call(mira, "POST", "/api/notebooks/"+n.ID+"/partners", map[string]string{"username": "mira"})
	assert.Equal(t, 422, status, "nobody is their own partner: %s", body)
	after := s.notebook(mira, "buffer-dosing")
	assert.Equal(t, before, after.Sheet.Entries, "nothing of a refused request is kept, nothing kept is lost")

	// Odd but true is kept and flagged.
	odd := run("odd-trial-1", 200, journal.Accurate, "24,40", "-0.15")
	status, body = s.call(mira, "POST", path, entries{odd})
	require.Equal(t, 200, status, body)
	assert.Contains(t, body, "titre.end-before-start")
	assert.Contains(t, body, "reading.below-scale")
	// The same request again is one record; the same id for something else is not.
	status, again := s.call(mira, "POST", path, entries{odd})
	assert.Equal(t, 200, status)
	assert.Equal(t, body, again)
	reread(odd, 1, "11.00")
	status, body = s.call(mira, "POST", path, entries{odd})
	assert.Equal(t, 409, status, body)

	for _, c := range []struct {
		method, path string
		status       int
	}{{"GET", "/api/notebooks/none", 404}, {"GET", "/api/nothing", 404}, {"PATCH", "/api/me", 405}, {"GET", "/api/openapi.json", 200}, {"POST", "/api/classes/none/practicals/none/notebook", 404}} {
		status, body := s.call(mira, c.method, c.path, nil)
		assert.Equal(t, c.status, status, "%s %s: %s", c.method, c.path, body)
	}
}

func TestSignIn(t *testing.T) {
	s := newSchool(t, nil)
	nobody := s.client("")
	for i := range 12 {
		status, body := s.call(nobody, "POST", "/api/session", map[string]string{"username": "sanna", "password": "guess-number"})
		want := 401
		if i >= 8 {
			want = 429
		}
		assert.Equal(t, want, status, "attempt %d: %s", i+1, body)
	}
	status, body := s.call(nobody, "POST", "/api/session", map[string]string{"username": "nobody-here", "password": "guess-number"})
	assert.Equal(t, 401, status)
	assert.Contains(t, body, "User name or password is wrong", "which of them is not said")

	// A session that was ended is worth nothing, wherever its cookie was kept.
	mira := s.client("mira")
	stolen := &http.Client{Jar: mira.Jar}
	address := must(t, s.url)
	cookies := mira.Jar.Cookies(address)
	status, _ = s.call(mira, "DELETE", "/api/session", nil)
	assert.Equal(t, 204, status)
	stolen.Jar.SetCookies(address, cookies)
	status, body = s.call(stolen, "GET", "/api/me", nil)
	assert.Equal(t, 401, status)
	assert.Contains(t, body, "Sign in again")

	// Writes from another origin are refused.
	req, err := http.NewRequest("DELETE", s.url+"/api/session", nil)
	require.NoError(t, err)
	req.Header.Set("Sec-Fetch-Site", "cross-site")
	res, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	assert.Equal(t, 403, res.StatusCode)
	require.NoError(t, res.Body.Close())
}

// Many at once write in one notebook, each request sent twice: every entry is
// there once.
func TestManyWritersLoseNothing(t *testing.T) {
	s := newSchool(t, nil)
	mira := s.client("mira")
	n := s.notebook(mira, "buffer-dosing")
	var wg sync.WaitGroup
	const writers = 24
	for i := range writers {
		wg.Go(func() {
			body := entries{run(fmt.Sprintf("writer-%03d", i), int64(100+3*i), journal.Accurate, "0.00", "23.80")}
			for range 2 {
				status, text := s.call(mira, "POST", "/api/notebooks/"+n.ID+"/entries", body)
				assert.Equal(t, 200, status, text)
			}
		})
	}
	wg.Wait()
	after := s.notebook(mira, "buffer-dosing")
	assert.Equal(t, n.Sheet.Entries+3*writers, after.Sheet.Entries)
	assert.Equal(t, experiment.Agreed, after.Sheet.Stage)
}

func TestPagesAndHeaders(t *testing.T) {
	s := newSchool(t, nil)
	res, err := http.Get(s.url + "/shelf")
	require.NoError(t, err)
	defer res.Body.Close()
	assert.Equal(t, 200, res.StatusCode)
	assert.Contains(t, res.Header.Get("Content-Security-Policy"), "script-src 'self'")
	assert.Equal(t, "nosniff", res.Header.Get("X-Content-Type-Options"))
	res, err = http.Get(s.url + "/assets/none.js")
	require.NoError(t, err)
	defer res.Body.Close()
	assert.Equal(t, 404, res.StatusCode)
}

// Two people in one notebook: a partner writes beside the student, and each
// hears of the other's entries at once.
func TestPartnersHearOfEachOther(t *testing.T) {
	s := newSchool(t, nil)
	mira, teo := s.client("mira"), s.client("teo")
	n := s.notebook(mira, "buffer-dosing")
	path := "/api/notebooks/" + n.ID
	status, body := s.call(mira, "POST", path+"/partners", map[string]string{"username": "stranger"})
	assert.Equal(t, 422, status, body)
	status, _ = s.call(teo, "GET", path, nil)
	assert.Equal(t, 404, status, "not before he is a partner")
	status, body = s.call(mira, "POST", path+"/partners", map[string]string{"username": "teo"})
	require.Equal(t, 200, status, body)
	assert.Contains(t, body, `"partners":["Teodor Vask"]`)
	_, shelf := s.call(teo, "GET", "/api/shelf", nil)
	assert.Contains(t, shelf, n.ID)

	res, err := mira.Get(s.url + path + "/events")
	require.NoError(t, err)
	defer res.Body.Close()
	lines := bufio.NewScanner(res.Body)
	require.True(t, lines.Scan())
	assert.Equal(t, ": listening", lines.Text())
	status, body = s.call(teo, "POST", path+"/entries", entries{run("from-the-partner", 300, journal.Accurate, "0.00", "23.85")})
	require.Equal(t, 200, status, body)
	for lines.Scan() && !strings.HasPrefix(lines.Text(), "data: ") {
	}
	assert.Equal(t, fmt.Sprintf(`data: {"notebook":%q,"entries":%d,"clock":302}`, n.ID, n.Sheet.Entries+3), lines.Text())
	_, journalText := s.call(mira, "GET", path+"/journal", nil)
	assert.Contains(t, journalText, "Teodor Vask")
	assert.Contains(t, journalText, "read the top of the meniscus")
}

// Own reactions are one's own; calculations answer bad input with its path.
func TestCatalogueAndCalculations(t *testing.T) {
	s := newSchool(t, nil)
	mira, teo := s.client("mira"), s.client("teo")
	status, body := s.call(mira, "POST", "/api/catalogue/reactions", map[string]string{"name": "reef salt", "equation": "KMnO4 + HCl -> KCl + MnCl2 + H2O + Cl2"})
	require.Equal(t, 200, status, body)
	assert.Contains(t, body, "2 KMnO₄ + 16 HCl → 2 KCl + 2 MnCl₂ + 8 H₂O + 5 Cl₂")
	var kept struct{ ID string }
	require.NoError(t, json.Unmarshal([]byte(body), &kept))
	_, text := s.call(mira, "GET", "/api/catalogue", nil)
	assert.Contains(t, text, "reef salt")
	_, text = s.call(teo, "GET", "/api/catalogue", nil)
	assert.NotContains(t, text, "reef salt")
	status, _ = s.call(teo, "DELETE", "/api/catalogue/reactions/"+kept.ID, nil)
	assert.Equal(t, 404, status)
	status, _ = s.call(mira, "DELETE", "/api/catalogue/reactions/"+kept.ID, nil)
	assert.Equal(t, 204, status)
	for body, says := range map[string]string{`{"name":"x","equation":"HCl + NaOH"}`: "an arrow -> is missing", `{"name":"x","equation":"MnO4- + H2O2 + H+ -> Mn^2+ + O2 + H2O"}`: "half-reactions", `{"name":"","equation":"HCl + NaOH -> NaCl + H2O"}`: "name"} {
		status, text := s.call(mira, "POST", "/api/catalogue/reactions", body)
		assert.Equal(t, 422, status)
		assert.Contains(t, text, says)
	}
	status, text = s.call(mira, "POST", "/api/calc/balance", `{"equation":"H3PO4 + NaOH -> Na3PO4 + H2O"}`)
	assert.Equal(t, 200, status)
	assert.Contains(t, text, `"coefficient":3`)
	status, text = s.call(mira, "POST", "/api/calc/balance", `{"equation":"H3PO4 + NaOH"}`)
	assert.Equal(t, 422, status)
	assert.Contains(t, text, "equation")
	status, _ = s.call(mira, "POST", "/api/calc/nothing", `{}`)
	assert.Equal(t, 404, status)
}

// After an own attempt the result comes, and not before; a standardised
// concentration is offered to the practical that needs it.
func TestResultsAfterAnAttempt(t *testing.T) {
	s := newSchool(t, nil)
	mira := s.client("mira")
	n := s.notebook(mira, "shell-chalk")
	path := "/api/notebooks/" + n.ID
	_, text := s.call(mira, "GET", path, nil)
	assert.Contains(t, text, `"withheld":true`)
	for _, secret := range []string{"97.52", `"statement"`, `"origins"`, `"soFar":{`} {
		assert.NotContains(t, text, secret)
	}
	last := n.Sheet.Work[len(n.Sheet.Work)-1].Step.Step
	answer := journal.Entry{ID: "own-answer-1", Device: "d", Clock: 900, At: time.Now(), Part: journal.Answer{Step: last, Written: "95.1", Unit: "%"}}
	status, text := s.call(mira, "POST", path+"/entries", entries{[]journal.Entry{answer}})
	require.Equal(t, 200, status, text)
	assert.Contains(t, text, `"statement"`)
	assert.Contains(t, text, "97.52")
	assert.Contains(t, text, `"verdict":"wrong"`)

	vinegar := s.notebook(mira, "algae-vinegar")
	require.NotNil(t, vinegar.Offer)
	assert.Equal(t, "0.1005", vinegar.Offer.Written)
	known := journal.Entry{ID: "known-entry-1", Device: "d", Clock: 900, At: time.Now(), Part: *vinegar.Offer}
	status, text = s.call(mira, "POST", "/api/notebooks/"+vinegar.ID+"/entries", entries{[]journal.Entry{known}})
	require.Equal(t, 200, status, text)
	assert.Contains(t, text, "0.1005")
}

// What an instructor sets is what a student begins; a change is a new
// revision, and notebooks that were begun keep theirs.
func TestSettingAPractical(t *testing.T) {
	s := newSchool(t, nil)
	farrow, mira, teo := s.client("farrow"), s.client("mira"), s.client("teo")
	p := practicalOf(t)
	p.Asked.Reference = decimal.Must("0.0817")
	set := func(want int) string {
		status, text := s.call(farrow, "POST", "/api/classes/"+s.class+"/practicals", map[string]any{"practical": p})
		require.Equal(t, want, status, text)
		return text
	}
	assert.Contains(t, set(200), `"revision":1`)
	assert.Contains(t, set(200), `"revision":1`, "nothing changed")
	before := s.notebook(mira, p.ID)
	p.Title = "Iron(II), once more"
	assert.Contains(t, set(200), `"revision":2`)
	assert.Equal(t, 1, s.notebook(mira, p.ID).Practical.Revision, "her notebook keeps its revision")
	assert.Equal(t, 2, s.notebook(teo, p.ID).Practical.Revision)
	assert.Equal(t, before.ID, s.notebook(mira, p.ID).ID)
	status, text := s.call(mira, "GET", "/api/classes/"+s.class+"/practicals/"+p.ID+"/plan", nil)
	assert.Equal(t, 200, status)
	assert.NotContains(t, text, "0.0817", "the true value is the instructor's")
	assert.Contains(t, text, `"questions":[{"code":"ratio"`)
	assert.NotContains(t, text, "diphenylamine sulfonate suits", "that would answer a question")
	assert.Contains(t, text, `"titre":0,`, "so would the expected titre")
	assert.NotContains(t, text, `"curve"`)
	_, text = s.call(farrow, "GET", "/api/classes/"+s.class+"/practicals/"+p.ID+"/plan", nil)
	assert.Contains(t, text, "diphenylamine sulfonate suits")
	assert.Contains(t, text, "0.0817")
	assert.NotContains(t, text, `"titre":0,`)
	// Another class may set it, and revise it no more than it is.
	colleague := s.client("colleague")
	var me struct {
		Person app.Person
	}
	_, text = s.call(colleague, "GET", "/api/me", nil)
	require.NoError(t, json.Unmarshal([]byte(text), &me))
	theirs := "/api/classes/" + me.Person.Classes[0].Class + "/practicals"
	spoilt := p
	spoilt.Title = "Spoilt by another class"
	status, text = s.call(colleague, "POST", theirs, map[string]any{"practical": spoilt})
	assert.Equal(t, 422, status, text)
	assert.Contains(t, text, "belongs to another class")
	assert.Equal(t, "Iron(II), once more", s.notebook(teo, p.ID).Practical.Title)
	p.Chemistry.Equation = "Fe -> Gold"
	set(422)
}

// The plan recomputes while it is typed: one request, measured end to end.
func BenchmarkPlanPerKeystroke(b *testing.B) {
	s := newSchool(b, io.Discard)
	farrow := s.client("farrow")
	body := map[string]any{"practical": practicalOf(b), "class": map[string]any{"students": 12, "trials": 4}}
	for b.Loop() {
		if status, text := s.call(farrow, "POST", "/api/plan", body); status != 200 {
			b.Fatal(text)
		}
	}
}

// The true value is the instructor's, also where students see their results: not
// in the practical, and not as a difference from which it could be computed.
func TestTheTrueValueStaysHidden(t *testing.T) {
	s := newSchool(t, nil)
	farrow, mira := s.client("farrow"), s.client("mira")
	p := practicalOf(t)
	p.Asked.Reference, p.Showing.Results = decimal.Must("0.0817"), practical.Always
	status, text := s.call(farrow, "POST", "/api/classes/"+s.class+"/practicals", map[string]any{"practical": p})
	require.Equal(t, 200, status, text)
	n := s.notebook(mira, p.ID)
	path := "/api/notebooks/" + n.ID
	both := append(run("true-value-1", 10, journal.Accurate, "0.00", "23.40"), run("true-value-2", 20, journal.Accurate, "0.00", "23.45")...)
	status, text = s.call(mira, "POST", path+"/entries", entries{both})
	require.Equal(t, 200, status, text)
	assert.Contains(t, text, `"statement"`, "she sees her result")
	_, report := s.call(mira, "GET", path+"/report", nil)
	_, document := s.call(mira, "GET", path+"/document", nil)
	for what, seen := range map[string]string{"sheet": text, "report": report, "document": document} {
		assert.NotContains(t, seen, "0.0817", what)
		assert.NotRegexp(t, `(above|below) the true value`, seen, what)
	}
	_, text = s.call(farrow, "GET", path, nil)
	assert.Contains(t, text, "the true value 0.0817")
}

// Limits on what is taken at once, and on what a notebook holds.
func TestLimits(t *testing.T) {
	s := newSchool(t, nil)
	mira := s.client("mira")
	path := "/api/notebooks/" + s.notebook(mira, "buffer-dosing").ID + "/entries"
	notes := func(from, n int) entries {
		out := make([]journal.Entry, n)
		for i := range out {
			out[i] = journal.Entry{ID: fmt.Sprintf("limit-%06d", from+i), Device: "d", Clock: int64(100 + from + i), At: time.Now(), Part: journal.Remark{Written: "swirled"}}
		}
		return entries{out}
	}
	status, text := s.call(mira, "POST", path, notes(0, app.MaxBatch+1))
	assert.Equal(t, 422, status, text)
	status, text = s.call(mira, "POST", path, notes(0, app.MaxBatch))
	assert.Equal(t, 200, status, text)
}
