package web_test

import (
	"bufio"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/journal"
	"exactflask/demo"
	"exactflask/web"
)

const withheldPractical = "descaler"

type entries struct {
	Entries []journal.Entry `json:"entries"`
}

// Every operation of the API, for everybody who might ask. An operation that
// is missing here fails the test.
func TestEveryRouteChecksWhoAsks(t *testing.T) {
	s := newSchool(t, nil)
	mira := s.client("mira")
	id := s.notebook(mira, "buffer-dosing").ID
	set := "/classes/" + s.class + "/practicals/buffer-dosing"
	class, person, bevan := "/classes/"+s.class, s.personID("mira"), s.personID("bevan")
	// A shelf shows one's own notebooks only, and that of those who teach nobody's.
	_, shelf := s.call(s.client("teo"), "GET", "/api/shelf", nil)
	assert.NotContains(t, shelf, "Mira")
	_, shelf = s.call(s.client("farrow"), "GET", "/api/shelf", nil)
	assert.NotContains(t, shelf, "Mira")
	add := entries{run("fresh-trial", 500, journal.Accurate, "0.00", "23.85")}
	people := []struct {
		name   string
		client *http.Client
	}{{"nobody", s.client("")}, {"owner", mira}, {"classmate", s.client("teo")}, {"instructor",
		s.client("farrow")}, {"stranger", s.client("stranger")}, {"colleague", s.client("colleague")},
		{"assistant", s.client("moor")}, {"administrator", s.client("hale")}}
	routes := []struct {
		operation, method, path string
		body                    any
		want                    string // one status for each of people
	}{
		{"me", "GET", "/me", nil, "401 200 200 200 200 200 200 200"},
		{"about", "GET", "/about", nil, "200 200 200 200 200 200 200 200"},
		{"shelf", "GET", "/shelf", nil, "401 200 200 200 200 200 200 200"},
		{"home", "GET", "/home", nil, "401 200 200 200 200 200 200 200"},
		{"find", "GET", "/find?text=buffer", nil, "401 200 200 200 200 200 200 200"},
		{"class-practicals", "GET", class + "/practicals", nil, "401 403 403 200 404 404 200 404"},
		{"class-notebooks", "GET", set + "/notebooks", nil, "401 403 403 200 404 404 200 404"},
		{"stations", "GET", set + "/stations", nil, "401 403 403 200 404 404 200 404"},
		{"set-preferences", "PUT", "/me/preferences", map[string]string{"words": "titer", "units": "mL", "theme": "dark"},
			"401 200 200 200 200 200 200 200"},
		{"begin-notebook", "POST", "/classes/" + s.class + "/practicals/buffer-dosing/notebook", nil,
			"401 200 200 200 404 404 200 404"},
		{"blank-notebook", "GET", "/classes/" + s.class + "/practicals/buffer-dosing/notebook", nil,
			"401 200 200 200 404 404 200 404"},
		{"notebook", "GET", "/notebooks/" + id, nil, "401 200 404 200 404 404 200 404"},
		{"notebook-report", "GET", "/notebooks/" + id + "/report", nil, "401 200 404 200 404 404 200 404"},
		{"notebook-document", "GET", "/notebooks/" + id + "/document", nil, "401 200 404 200 404 404 200 404"},
		{"notebook-journal", "GET", "/notebooks/" + id + "/journal", nil, "401 200 404 200 404 404 200 404"},
		{"notebook-events", "GET", "/notebooks/" + id + "/events", nil, "401 200 404 200 404 404 200 404"},
		{"add-partner", "POST", "/notebooks/" + id + "/partners", map[string]string{"username": "jory"},
			"401 200 404 403 404 404 403 404"},
		{"add-entries", "POST", "/notebooks/" + id + "/entries", add, "401 200 404 403 404 404 403 404"},
		{"calculations", "GET", "/calc", nil, "401 200 200 200 200 200 200 200"},
		{"calculate", "POST", "/calc/formula", map[string]string{"formula": "NaOH"}, "401 200 200 200 200 200 200 200"},
		{"catalogue", "GET", "/catalogue", nil, "401 200 200 200 200 200 200 200"},
		{"add-reaction", "POST", "/catalogue/reactions",
			map[string]string{"name": "mine", "equation": "HCl + KOH -> KCl + H2O"}, "401 200 200 200 200 200 200 200"},
		{"drop-reaction", "DELETE", "/catalogue/reactions/somebody-elses", nil, "401 404 404 404 404 404 404 404"},
		{"plan", "GET", "/classes/" + s.class + "/practicals/buffer-dosing/plan?students=12&trials=4", nil,
			"401 200 200 200 404 404 200 404"},
		{"try-plan", "POST", "/plan", map[string]any{"practical": practicalOf(t)}, "401 403 403 200 200 200 200 200"},
		{"dry-run", "POST", "/plan/dry-run", map[string]any{"practical": practicalOf(t), "for": s.class}, "401 403 403 200 404 404 200 404"},
		{"try-plan", "POST", "/plan", map[string]any{"practical": practicalOf(t), "for": s.class}, "401 403 403 200 404 404 200 404"},
		{"set-practical", "POST", "/classes/" + s.class + "/practicals", map[string]any{"practical": practicalOf(t)},
			"401 403 403 200 404 404 403 404"},
		{"answer-question", "POST", "/classes/" + s.class + "/practicals/buffer-dosing/questions",
			map[string]string{"code": "ratio", "answer": "0.5"}, "401 200 200 200 404 404 200 404"},
		{"norms", "GET", "/norms", nil, "401 403 403 200 403 200 200 200"},
		{"set-norms", "PUT", "/norms", map[string]any{"norms": map[string]string{"leak-wait": "40"}}, "401 403 403 403 403 403 403 200"},
		{"glass", "GET", "/glass", nil, "401 403 403 200 403 200 200 200"},
		{"set-glass", "PUT", "/glass", map[string]any{"own": []map[string]string{{"kind": "burette", "name": "Syringe", "capacity": "30.0", "division": "1"}}}, "401 403 403 403 403 403 403 200"},
		{"class-glass", "GET", class + "/glass", nil, "401 200 200 200 404 404 200 404"},
		{"set-class-glass", "PUT", class + "/glass", map[string]any{"own": []map[string]string{{"kind": "burette", "name": "Syringe", "capacity": "30.0", "division": "1"}}}, "401 403 403 200 404 404 403 404"},
		{"class-norms", "GET", class + "/norms", nil, "401 403 403 200 404 404 200 404"},
		{"set-class-norms", "PUT", class + "/norms", map[string]any{"norms": map[string]string{"leak-wait": "20"}}, "401 403 403 200 404 404 403 404"},
		{"settings", "GET", set + "/settings", nil, "401 403 403 200 404 404 200 404"},
		{"set-settings", "PUT", set + "/settings", map[string]any{"times": map[string]any{}, "unknowns": []any{}}, "401 403 403 200 404 404 403 404"},
		{"deal", "POST", set + "/deal", map[string]any{"codes": []string{"A"}, "how": "in-turn"}, "401 403 403 200 404 404 200 404"},
		{"pair", "POST", set + "/pair", map[string]any{"pairs": map[string]string{}, "person": "a", "partner": "b"}, "401 403 403 200 404 404 403 404"},
		{"move-notebooks", "POST", set + "/revision", map[string]any{}, "401 403 403 200 404 404 403 404"},
		{"unset-practical", "DELETE", class + "/practicals/none", nil, "401 403 403 404 404 404 403 404"},
		{"class-archive", "GET", set + "/archive.zip", nil, "401 403 403 200 404 404 403 404"},
		{"board", "GET", set + "/board", nil, "401 403 403 200 404 404 200 404"},
		{"board-events", "GET", set + "/board/events", nil, "401 403 403 200 404 404 200 404"},
		{"class-plot", "GET", set + "/plot", nil, "401 403 403 200 404 404 200 404"},
		{"end-lesson", "PUT", set + "/lesson", map[string]any{}, "401 403 403 204 404 404 204 404"},
		{"report-pdf", "GET", "/notebooks/" + id + "/report.pdf?paper=Letter", nil, "401 200 404 200 404 404 200 404"},
		{"report-xlsx", "GET", "/notebooks/" + id + "/report.xlsx", nil, "401 200 404 200 404 404 200 404"},
		{"report-csv", "GET", "/notebooks/" + id + "/report.csv", nil, "401 200 404 200 404 404 200 404"},
		{"report-zip", "GET", "/notebooks/" + id + "/report.zip", nil, "401 200 404 200 404 404 200 404"},
		{"report-points-csv", "GET", "/notebooks/" + id + "/report.points.csv", nil, "401 200 404 200 404 404 200 404"},
		{"report-svg", "GET", "/notebooks/" + id + "/report.svg", nil, "401 422 404 422 404 404 422 404"},
		{"hand-in", "POST", "/notebooks/" + id + "/submissions", map[string]int{"entries": 0}, "401 422 404 403 404 404 403 404"},
		{"take-report-back", "POST", "/notebooks/" + id + "/submissions/1/take-back", nil, "401 422 404 403 404 404 403 404"},
		{"part-from-partner", "DELETE", "/notebooks/" + id + "/partners?name=Nobody", nil, "401 422 404 403 404 404 403 404"},
		{"return-report", "POST", "/notebooks/" + id + "/submissions/1/return", map[string]string{"reason": "again"}, "401 403 404 422 404 404 403 404"},
		{"add-picture", "POST", "/notebooks/" + id + "/pictures", "no picture", "401 422 404 403 404 404 403 404"},
		{"picture", "GET", "/notebooks/" + id + "/pictures/" + strings.Repeat("0", 64), nil, "401 404 404 404 404 404 404 404"},
		{"read-points", "POST", "/notebooks/" + id + "/points", map[string]any{"text": "MC4wMCwyLjQ1", "volume": -1, "reading": -1, "temperature": -1}, "401 422 404 403 404 404 403 404"},
		{"probe", "GET", "/notebooks/" + id + "/probe", nil, "401 422 404 403 404 404 403 404"},
		{"probe-token", "POST", "/notebooks/" + id + "/probe/token", nil, "401 422 404 403 404 404 403 404"},
		{"simulate-probe", "POST", "/notebooks/" + id + "/probe/simulated", map[string]any{}, "401 422 404 403 404 404 403 404"},
		{"leave-probe", "DELETE", "/notebooks/" + id + "/probe", nil, "401 422 404 403 404 404 403 404"},
		{"probe-lines", "POST", "/probes/" + id + "/lines", "no lines", "401 401 401 401 401 401 401 401"},
		{"read-readings", "POST", "/notebooks/" + id + "/readings", map[string]string{"text": "MC4wMCwyMy44NQ=="}, "401 200 404 403 404 404 403 404"},
		{"desk", "GET", set + "/marking?order=similar", nil, "401 403 403 200 404 404 200 404"},
		{"mark-sheet", "GET", "/notebooks/" + id + "/marking", nil, "401 403 404 422 404 404 422 404"},
		{"award", "POST", "/notebooks/" + id + "/awards", map[string]any{"awards": []map[string]any{{"criterion": "setup", "follows": 0}}}, "401 403 404 422 404 404 422 404"},
		{"accept-together", "POST", set + "/marking/accepted", map[string]any{"criterion": "setup", "notebooks": []string{id}}, "401 403 403 200 404 404 200 404"},
		{"comment-bank", "GET", set + "/marking/comments/setup", nil, "401 403 403 200 404 404 200 404"},
		{"try-scheme", "POST", set + "/marking/scheme", map[string]any{"scheme": map[string]any{}}, "401 403 403 200 404 404 200 404"},
		{"set-scheme", "PUT", set + "/marking/scheme", map[string]any{"scheme": map[string]any{}, "revision": 7}, "401 403 403 422 404 404 403 404"},
		{"mark-differences", "GET", set + "/marking/differences", nil, "401 403 403 200 404 404 200 404"},
		{"release-marks", "POST", set + "/marking/released", map[string]any{"notebooks": []string{id}}, "401 403 403 200 404 404 403 404"},
		{"marks", "GET", "/notebooks/" + id + "/marks", nil, "401 404 404 404 404 404 404 404"},
		{"ask-again", "POST", "/notebooks/" + id + "/requests", map[string]string{"criterion": "setup", "reason": "please"}, "401 404 404 404 404 404 404 404"},
		{"answer-request", "POST", "/notebooks/" + id + "/requests/1", map[string]string{"answer": "no"}, "401 403 404 422 404 404 403 404"},
		{"add-comment", "POST", "/notebooks/" + id + "/comments", map[string]string{"text": "look again"}, "401 403 404 204 404 404 204 404"},
		{"withdraw-comment", "DELETE", "/notebooks/" + id + "/comments/99", nil, "401 403 404 404 404 404 404 404"},
		{"results", "GET", set + "/results", nil, "401 403 403 200 404 404 200 404"},
		{"marking-log", "GET", set + "/marking/log", nil, "401 403 403 200 404 404 403 404"},
		{"term-marks", "GET", class + "/marks", nil, "401 200 200 200 404 404 200 404"},
		{"gradebook-csv", "GET", set + "/gradebook.csv?columns=name,total&round=half", nil, "401 403 403 200 404 404 403 404"},
		{"gradebook-xlsx", "GET", set + "/gradebook.xlsx", nil, "401 403 403 200 404 404 403 404"},
		{"raise-hand", "PUT", "/notebooks/" + id + "/hand", map[string]bool{"up": true}, "401 200 404 403 404 404 403 404"},
		{"take-hand", "POST", "/notebooks/" + id + "/hand", map[string]bool{"cleared": true}, "401 403 404 200 404 404 200 404"},
		{"preview", "POST", "/plan/preview", map[string]any{"practical": practicalOf(t)}, "401 403 403 200 403 200 200 403"},
		{"keep-draft", "PUT", class + "/drafts/new", map[string]any{"practical": map[string]any{"title": "half"}}, "401 403 403 204 404 404 403 404"},
		{"draft", "GET", class + "/drafts/new", nil, "401 403 403 200 404 404 403 404"},
		{"drop-draft", "DELETE", class + "/drafts/new", nil, "401 403 403 204 404 404 403 404"},
		{"library", "GET", "/library", nil, "401 403 403 200 403 200 200 403"},
		{"library-practical", "GET", "/library/pool-acid?revision=1", nil, "401 403 403 200 403 200 200 403"},
		{"library-document", "GET", "/library/buffer-dosing/document", nil, "401 403 403 200 403 200 200 403"},
		{"read-practical", "POST", "/library/read", map[string]string{"document": "e30="}, "401 403 403 422 403 422 422 403"},
		{"classes", "GET", "/classes", nil, "401 200 200 200 200 200 200 200"},
		{"class", "GET", class, nil, "401 403 403 200 404 404 200 404"},
		{"make-class", "POST", "/classes", map[string]string{"name": "Made here"}, "401 403 403 200 403 403 403 200"},
		{"set-class", "PUT", class, map[string]any{"name": demo.Class, "term": "", "archived": false}, "401 403 403 200 404 404 403 404"},
		{"give-class", "PUT", class + "/instructor", map[string]string{"username": "hale"}, "401 404 404 404 404 404 404 422"},
		{"set-place", "PUT", class + "/people/" + person, map[string]string{"role": "student", "bench": "1", "burette": "7", "sample": "C"},
			"401 403 403 200 404 404 403 404"},
		{"rename-person", "PUT", class + "/people/" + person + "/name", map[string]string{"name": "Mira Quillon"}, "401 403 403 200 404 404 403 404"},
		{"import-notebook", "POST", class + "/people/" + person + "/imports", "no file", "401 403 403 422 404 404 403 404"},
		{"move-person", "POST", class + "/people/" + person + "/move", map[string]string{"to": "nowhere"}, "401 404 404 404 404 404 404 404"},
		{"open-code", "PUT", class + "/code", map[string]int{"minutes": 30}, "401 403 403 200 404 404 403 404"},
		{"close-code", "DELETE", class + "/code", nil, "401 403 403 200 404 404 403 404"},
		{"add-notice", "POST", class + "/notices", map[string]string{"text": "Goggles!"}, "401 403 403 200 404 404 403 404"},
		{"drop-notice", "DELETE", class + "/notices/none", nil, "401 403 403 404 404 404 403 404"},
		{"acts-of-administrators", "GET", "/acts", nil, "401 403 403 403 403 403 403 200"},
		{"acts", "GET", class + "/acts", nil, "401 403 403 200 404 404 403 404"},
		{"read-roster", "POST", class + "/roster", map[string]string{"text": "QW5uYQ=="}, "401 403 403 200 404 404 403 404"},
		{"add-people", "POST", class + "/people", map[string]any{"people": []map[string]string{{"name": "Anna New"}}}, "401 403 403 200 404 404 403 404"},
		{"new-passwords", "POST", class + "/passwords", map[string]any{"people": []string{bevan}}, "401 403 403 200 404 404 403 404"},
		{"remove-person", "DELETE", class + "/people/" + bevan, nil, "401 403 403 200 404 404 403 404"},
		{"invitation", "GET", "/join/AAAA-AAAA", nil, "422 422 422 422 422 422 422 422"},
		{"suggest-username", "GET", "/join/AAAA-AAAA/username?name=x", nil, "422 422 422 422 422 422 422 422"},
		{"join", "POST", "/join", map[string]string{"code": "AAAA-AAAA"}, "401 422 422 422 422 422 422 422"},
		{"set-up", "POST", "/setup", map[string]string{"token": "x", "name": "X", "username": "xx", "password": "long enough 1"},
			"422 422 422 422 422 422 422 422"},
		{"accounts", "GET", "/people", nil, "401 403 403 403 403 403 403 200"},
		{"add-account", "POST", "/people", map[string]string{"name": "New Instructor", "standing": "instructor"}, "401 403 403 403 403 403 403 200"},
		{"set-standing", "PUT", "/people/" + bevan + "/standing", map[string]string{"standing": "instructor"}, "401 403 403 403 403 403 403 204"},
		{"new-password", "POST", "/people/" + bevan + "/password", nil, "401 403 403 403 403 403 403 200"},
		{"person-data", "GET", "/people/" + bevan + "/data", nil, "401 403 403 403 403 403 403 200"},
		{"take-out", "DELETE", "/people/" + bevan, nil, "401 403 403 403 403 403 403 204"},
		{"own-data", "GET", "/me/data", nil, "401 200 200 200 200 200 200 200"},
		{"set-name", "PUT", "/me/name", map[string]string{"name": "Other Name"}, "401 200 200 200 200 200 200 200"},
		{"change-password", "PUT", "/me/password", map[string]string{"old": "wrong", "new": "long enough 1"}, "401 403 403 403 403 403 403 403"},
		{"sign-ins", "GET", "/me/sign-ins", nil, "401 200 200 200 200 200 200 200"},
		{"end-other-sign-ins", "DELETE", "/me/sign-ins", nil, "401 204 204 204 204 204 204 204"},
		{"sign-in", "POST", "/session", map[string]string{"username": "mira", "password": "wrong-password"},
			"401 401 401 401 401 401 429 429"}, // the owner has guesses of her own on her device
		{"sign-out", "DELETE", "/session", nil, "204 204 204 204 204 204 204 204"},
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
	for row, r := range routes {
		id := fmt.Sprint("submit ", row)
		tested[r.operation] = true
		for i, want := range strings.Fields(r.want) {
			// The same id for each of the people: it is one person's.
			status, body, again := s.submit(people[i].client, r.method, "/api"+r.path, r.body, id)
			assert.Equal(t, want, fmt.Sprint(status), "%s by %s: %s", r.operation, people[i].name, body)
			assert.False(t, again, "%s by %s", r.operation, people[i].name)
			// Sent again, because the answer was lost: it is not taken again.
			if r.method != "POST" || status >= 300 || i == 0 || r.operation == "sign-in" {
				continue
			}
			_, same, again := s.submit(people[i].client, r.method, "/api"+r.path, r.body, id)
			assert.True(t, again, "%s by %s is taken twice", r.operation, people[i].name)
			assert.Equal(t, body, same, r.operation)
		}
	}
	for _, operations := range api.Paths {
		for _, o := range operations {
			assert.True(t, tested[o.OperationID], "operation %s is not tested for who asks", o.OperationID)
		}
	}
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
	for _, path := range []string{"/notebooks/" + n.ID, "/notebooks/" + n.ID + "/document",
		"/notebooks/" + n.ID + "/report", "/shelf"} {
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
		{"unknown kind", `{"entries":[{"id":"12345678","device":"d","clock":1,"at":"2026-11-24T10:00:00Z",
			"kind":"photo"}]}`, 422, "kind"},
		{"not JSON", `{"entries":`, 400, ""},
		{"empty", entries{}, 422, ""},
		{"unknown field", `{"entries":[],"more":1}`, 422, "more"},
		{"too large", `{"entries":[` + strings.Repeat(" ", web.MaxBody) + `]}`, 413, "more than 1 MB"},
		{"an empty reason", spoiled(func(e []journal.Entry) { e[2].Part = journal.Exclusion{Of: e[0].ID, Reason: " \u200b\u202e "} }), 422, "setAside.reason"},
		{"somebody's id", spoiled(func(e []journal.Entry) {
			e[0].ID = "demo-teo-0001"
			retrial(e, 1, "demo-teo-0001")
			retrial(e, 2, "demo-teo-0001")
		}), 409, "there already and says something else"},
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
	}{{"GET", "/api/notebooks/none", 404}, {"GET", "/api/nothing", 404}, {"PATCH", "/api/me", 405}, {"GET",
		"/api/openapi.json", 200}, {"POST", "/api/classes/none/practicals/none/notebook", 404}} {
		status, body := s.call(mira, c.method, c.path, nil)
		assert.Equal(t, c.status, status, "%s %s: %s", c.method, c.path, body)
	}
}

func TestSignIn(t *testing.T) {
	s := newSchool(t, nil)
	nobody := s.client("")
	for i := range 12 {
		// A made-up cookie is no way round the limit, nor is another way of writing the name.
		jar := must(t, s.url)
		nobody.Jar.SetCookies(jar, []*http.Cookie{{Name: "exactflask", Value: fmt.Sprintf("%043d", i)}})
		status, body := s.call(nobody, "POST", "/api/session",
			map[string]string{"username": []string{"sanna", "SANNA "}[i%2], "password": "guess-number"})
		want := 401
		if i >= 5 {
			want = 429
			assert.Contains(t, body, "Try again in")
		}
		assert.Equal(t, want, status, "attempt %d: %s", i+1, body)
	}
	assert.Contains(t, s.logs.String(), `"what":"sign-in failed","username":"sanna","address":"127.0.0.1"`)
	assert.Contains(t, s.logs.String(), `"what":"sign-in held back"`)
	assert.NotContains(t, s.logs.String(), "guess-number")
	status, body := s.call(nobody, "POST", "/api/session",
		map[string]string{"username": "nobody-here", "password": "guess-number"})
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

// What does not show is cleaned out of what is typed; letters of any script stay.
func TestTypedTextIsCleaned(t *testing.T) {
	s := newSchool(t, nil)
	mira := s.client("mira")
	path := "/api/notebooks/" + s.notebook(mira, "buffer-dosing").ID
	note := journal.Entry{ID: "hostile-note", Device: "d", Clock: 900, At: time.Now(), Part: journal.Remark{Written: "a\u202eb\x1b[2J ω 滴"}}
	for range 2 { // sent again, it is the same
		status, text := s.call(mira, "POST", path+"/entries", entries{[]journal.Entry{note}})
		require.Equal(t, 200, status, text)
	}
	_, text := s.call(mira, "GET", path, nil)
	assert.Contains(t, text, `"ab[2J ω 滴"`)
}

// Many at once write in one notebook, each request sent twice: every entry is
// there once.
func TestManyWritersLoseNothingAtOnce(t *testing.T) {
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
	assert.Equal(t, evaluation.Agreed, after.Sheet.Stage)
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
func TestPartnersHearOfEachOtherAtOnce(t *testing.T) {
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

	// Over a connection that is the stream's own, and within one that others share.
	shared := httptest.NewUnstartedServer(s.handler)
	shared.EnableHTTP2 = true
	shared.StartTLS()
	t.Cleanup(shared.Close)
	many := shared.Client()
	many.Jar = mira.Jar
	var heard []*bufio.Scanner
	for _, way := range []struct {
		by       *http.Client
		url      string
		protocol int
	}{{mira, s.url, 1}, {many, shared.URL, 2}} {
		res, err := way.by.Get(way.url + path + "/events")
		require.NoError(t, err)
		defer res.Body.Close()
		assert.Equal(t, way.protocol, res.ProtoMajor)
		assert.Equal(t, "text/event-stream no-store nosniff", strings.Join([]string{res.Header.Get("Content-Type"),
			res.Header.Get("Cache-Control"), res.Header.Get("X-Content-Type-Options")}, " "))
		lines := bufio.NewScanner(res.Body)
		require.True(t, lines.Scan())
		assert.Equal(t, ": listening", lines.Text())
		heard = append(heard, lines)
	}
	status, body = s.call(teo, "POST", path+"/entries",
		entries{run("from-the-partner", 300, journal.Accurate, "0.00", "23.85")})
	require.Equal(t, 200, status, body)
	for _, lines := range heard {
		for lines.Scan() && !strings.HasPrefix(lines.Text(), "data: ") {
		}
		assert.Equal(t, fmt.Sprintf(`data: {"notebook":%q,"entries":%d,"clock":302}`, n.ID, n.Sheet.Entries+3), lines.Text())
	}
	_, journalText := s.call(mira, "GET", path+"/journal", nil)
	assert.Contains(t, journalText, "Teodor Vask")
	assert.Contains(t, journalText, "read the top of the meniscus")
}

// Own reactions are one's own; calculations answer bad input with its path.
func TestCatalogueAndCalculations(t *testing.T) {
	s := newSchool(t, nil)
	mira, teo := s.client("mira"), s.client("teo")
	status, body := s.call(mira, "POST", "/api/catalogue/reactions",
		map[string]string{"name": "reef salt", "equation": "KMnO4 + HCl -> KCl + MnCl2 + H2O + Cl2"})
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
	for body, says := range map[string]string{`{"name":"x","equation":"HCl + NaOH"}`: "an arrow -> is missing",
		`{"name":"x","equation":"ClO3- + Cl- + H+ -> ClO2 + Cl2 + H2O"}`: "half-reactions", `{"name":"",
			"equation":"HCl + NaOH -> NaCl + H2O"}`: "name"} {
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

// Limits on what is taken at once, and on what a notebook holds.
func TestLimits(t *testing.T) {
	s := newSchool(t, nil)
	mira := s.client("mira")
	path := "/api/notebooks/" + s.notebook(mira, "buffer-dosing").ID + "/entries"
	notes := func(from, n int) entries {
		out := make([]journal.Entry, n)
		for i := range out {
			out[i] = journal.Entry{ID: fmt.Sprintf("limit-%06d", from+i), Device: "d", Clock: int64(100 + from + i),
				At: time.Now(), Part: journal.Remark{Written: "swirled"}}
		}
		return entries{out}
	}
	status, text := s.call(mira, "POST", path, notes(0, journal.MostAtOnce+1))
	assert.Equal(t, 422, status, text)
	status, text = s.call(mira, "POST", path, notes(0, journal.MostAtOnce))
	assert.Equal(t, 200, status, text)
}

// An append answers with what differs of the sheet that the reader was sent last; of
// another base, or where nothing was sent, with all of it. What is read again and has
// not changed is not sent again.
func TestOnlyWhatChangedIsSent(t *testing.T) {
	s := newSchool(t, nil)
	mira := s.client("mira")
	n := s.notebook(mira, "buffer-dosing")
	path := "/api/notebooks/" + n.ID
	note := func(id string, base int) (answer struct {
		Base  int
		Sheet map[string]json.RawMessage
	}, size int) {
		e := journal.Entry{ID: id, Device: "d", Clock: 2000, At: time.Now(), Part: journal.Remark{Written: "swirled " + id}}
		status, text := s.call(mira, "POST", path+"/entries", map[string]any{"base": base, "entries": []journal.Entry{e}})
		require.Equal(t, 200, status, text)
		require.NoError(t, json.Unmarshal([]byte(text), &answer))
		return answer, len(text)
	}
	first, whole := note("note-number-1", 0)
	assert.Zero(t, first.Base, "nothing is held yet")
	assert.Contains(t, first.Sheet, "setting")
	second, little := note("note-number-2", n.Sheet.Entries+1)
	assert.Equal(t, n.Sheet.Entries+1, second.Base)
	assert.NotContains(t, second.Sheet, "setting")
	assert.NotContains(t, second.Sheet, "trials")
	assert.Contains(t, second.Sheet, "notes")
	assert.Less(t, little, whole/5)
	third, _ := note("note-number-3", 1)
	assert.Zero(t, third.Base, "of a sheet that is not the last one")
	assert.Contains(t, third.Sheet, "setting")

	read := func(tag string) (*http.Response, string) {
		req, err := http.NewRequest("GET", s.url+path, nil)
		require.NoError(t, err)
		req.Header.Set("If-None-Match", tag)
		res, err := mira.Do(req)
		require.NoError(t, err)
		defer res.Body.Close()
		text, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		return res, string(text)
	}
	res, text := read("")
	assert.Equal(t, 200, res.StatusCode)
	assert.Contains(t, text, "swirled note-number-3")
	tag := res.Header.Get("ETag")
	require.NotEmpty(t, tag)
	res, text = read(tag)
	assert.Equal(t, http.StatusNotModified, res.StatusCode)
	assert.Empty(t, text)
	note("note-number-4", 0)
	res, _ = read(tag)
	assert.Equal(t, 200, res.StatusCode)

	e := journal.Entry{ID: "not-mine-at-all", Author: "somebody-else", Device: "d", Clock: 3000, At: time.Now(),
		Part: journal.Remark{Written: "x"}}
	status, text := s.call(mira, "POST", path+"/entries", entries{[]journal.Entry{e}})
	assert.Equal(t, 422, status)
	assert.Contains(t, text, "another author")
}
