package web_test

import (
	"encoding/csv"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"exactflask/app/bench"
	"exactflask/app/marking"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/view"
)

// marked is a school in which a report with one slip is handed in; its results are
// withheld until it is marked.
type marked struct {
	*school
	mira, teo, moor, farrow *http.Client
	id, at                  string
}

const truth = "0.09871"

func handedIn(t *testing.T) marked {
	s := newSchool(t, nil)
	m := marked{school: s, mira: s.client("mira"), teo: s.client("teo"), moor: s.client("moor"), farrow: s.client("farrow")}
	p := practicalOf(t)
	p.Asked.Reference, p.Showing.Results = decimal.Must(truth), practical.AfterMarking
	p.Exercise.Leave = practical.PlanQuestions
	want[any](s, m.farrow, 200, "POST", "/classes/"+s.class+"/practicals", map[string]any{"practical": p})
	m.at = "/classes/" + s.class + "/practicals/" + p.ID
	m.id = m.hand(m.mira, "mira")
	return m
}

// hand lets somebody work, slip in a step, write and hand in.
func (m marked) hand(c *http.Client, who string) string {
	n := m.notebook(c, strings.TrimPrefix(m.at[strings.LastIndex(m.at, "/"):], "/"))
	all := append(run(who+"-first-trial", 1, journal.Accurate, "0.00", "23.85"), run(who+"-second-trial", 10, journal.Accurate, "0.00", "23.85")...)
	for i, a := range [][3]string{{"mean-titre", "23.85", "mL"}, {"known-amount", "0.3976", "mol"}, {"answer", "95.42", "mol/L"}} {
		all = append(all, entry(fmt.Sprintf("%s-answer-%d", who, i), int64(20+i), journal.Answer{Step: a[0], Written: a[1], Unit: a[2]}))
	}
	all = append(all, entry(who+"-passage", 30, journal.Passage{Prompt: journal.Method, Written: "I ran it in drop by drop."}))
	m.add(c, n.ID, all)
	want[any](m.school, c, 200, "POST", "/notebooks/"+n.ID+"/submissions", map[string]int{"entries": len(all)})
	return n.ID
}

func (m marked) sheet(c *http.Client, query string) marking.MarkSheet {
	return want[marking.MarkSheet](m.school, c, 200, "GET", "/notebooks/"+m.id+"/marking"+query, nil)
}

func line(t *testing.T, s marking.MarkSheet, id string) view.MarkLine {
	for _, l := range s.Lines {
		if l.ID == id {
			return l
		}
	}
	t.Fatal(id)
	return view.MarkLine{}
}

type awards struct {
	Second bool               `json:"second,omitempty"`
	Awards []marking.NewAward `json:"awards"`
}

func (m marked) award(c *http.Client, status int, second bool, all ...marking.NewAward) (marking.MarkSheet, problem) {
	m.t.Helper()
	if status == 200 {
		return want[marking.MarkSheet](m.school, c, 200, "POST", "/notebooks/"+m.id+"/awards", awards{second, all}), problem{}
	}
	return marking.MarkSheet{}, m.refused(c, "POST", "/notebooks/"+m.id+"/awards", awards{second, all})
}

// everything awards each criterion: what is proposed, or one mark.
func (m marked) everything(c *http.Client, s marking.MarkSheet) marking.MarkSheet {
	var all []marking.NewAward
	for _, l := range s.Lines {
		marks := l.Proposed
		if marks == nil {
			marks = &decimal.Number{Decimal: decimal.Whole(1)}
		}
		a := marking.NewAward{Criterion: l.ID, Marks: marks}
		if l.Award != nil {
			a.Follows = l.Award.ID
		}
		all = append(all, a)
	}
	out, _ := m.award(c, 200, false, all...)
	return out
}

func marks(v string) *decimal.Number { return &decimal.Number{Decimal: decimal.Must(v)} }

// A report is marked, released, asked about and answered; a student sees nothing of it
// before, and nobody else's ever.
func TestMarkingAndRelease(t *testing.T) {
	m := handedIn(t)
	s := m.sheet(m.farrow, "")
	slip := line(t, s, "step-amount-known")
	assert.Equal(t, "0", slip.Proposed.String())
	assert.Contains(t, slip.Why[0], "1000")
	assert.Equal(t, "0.3976\u202fmol", slip.Evidence[0].Text)
	assert.Contains(t, slip.Evidence[0].Follows, "0.00039758")
	assert.Equal(t, "1", line(t, s, "step-concentration").Proposed.String(), "carried forward")
	assert.Contains(t, line(t, s, "step-ratio").Why[0], "later figure", "one formula in the place of two steps")
	assert.Nil(t, line(t, s, "text-method").Proposed, "a person reads it")
	assert.Equal(t, "I ran it in drop by drop.", line(t, s, "text-method").Evidence[0].Text)

	// What is withheld, however it is asked for.
	private := []string{"/notebooks/" + m.id + "/marks", m.at + "/marking", "/notebooks/" + m.id + "/marking", m.at + "/results", m.at + "/marking/log", m.at + "/gradebook.csv",
		m.at + "/marking/comments/text-method", m.at + "/marking/differences"}
	secret := "Which error, how large?"
	commented := marking.NewAward{Criterion: "text-method", Marks: marks("1"), Comment: secret}
	s, _ = m.award(m.moor, 200, false, commented)
	assert.Equal(t, "Wystan Moor", line(t, s, "text-method").Award.By, "an assistant may mark")
	sees := func(c *http.Client, hidden ...string) {
		t.Helper()
		for _, path := range append(private, "/notebooks/"+m.id, "/notebooks/"+m.id+"/report", "/notebooks/"+m.id+"/report?version=1", "/notebooks/"+m.id+"/journal", "/shelf",
			"/notebooks/"+m.id+"/document", "/notebooks/"+m.id+"/report.csv", "/me/data", "/classes/"+m.class+"/marks", m.at+"/plan") {
			_, text := m.call(c, "GET", "/api"+path, nil)
			for _, h := range hidden {
				assert.NotContains(t, text, h, path)
			}
		}
	}
	sees(m.mira, secret, truth, `"criteria":[{`, `"verdict":"`, "0.0954")
	sees(m.teo, secret, truth, "drop by drop", `"criteria":[{`)
	for _, path := range private {
		status, _ := m.call(m.mira, "GET", "/api"+path, nil)
		assert.Contains(t, []int{403, 404}, status, path)
	}

	// Only what is marked wholly is released, and only by an instructor.
	release := func(c *http.Client) (int, string) {
		return m.call(c, "POST", "/api"+m.at+"/marking/released", map[string]any{"notebooks": []string{m.id}})
	}
	status, _ := release(m.moor)
	assert.Equal(t, 403, status)
	status, text := release(m.farrow)
	assert.Equal(t, 200, status)
	assert.Contains(t, text, `"left":["Mira Quillon"]`)
	s = m.everything(m.farrow, m.sheet(m.farrow, ""))
	assert.True(t, s.Whole)
	before := m.report(m.farrow, m.id, 1)
	_, text = release(m.farrow)
	assert.Contains(t, text, `"count":1`)
	_, text = release(m.farrow)
	assert.Contains(t, text, `"count":0`, "once")

	// The student sees marks, evidence, comments, and the results that were kept back.
	own := want[marking.OwnMarks](m.school, m.mira, 200, "GET", "/notebooks/"+m.id+"/marks", nil)
	assert.Equal(t, s.Total, own.Total)
	assert.True(t, own.MayAsk)
	assert.NotEmpty(t, own.Lines[0].Why)
	for _, l := range own.Lines {
		assert.Empty(t, l.History)
		assert.Empty(t, l.Exact, "how far from the true value")
		assert.Equal(t, l.Award.Marks.String() == l.Most.String(), l.Full, l.ID)
	}
	var n bench.Notebook
	_, text = m.call(m.mira, "GET", "/api/notebooks/"+m.id, nil)
	require.NoError(t, json.Unmarshal([]byte(text), &n))
	assert.True(t, n.Marked)
	assert.NotNil(t, n.Sheet.Answer, "after marking ends")
	assert.NotContains(t, text, truth)
	status, _ = m.call(m.teo, "GET", "/api/notebooks/"+m.id+"/marks", nil)
	assert.Equal(t, 404, status)
	status, text = m.call(m.mira, "POST", "/api/notebooks/"+m.id+"/partners", map[string]string{"username": "jory"})
	require.Equal(t, 200, status, text)
	status, _ = m.call(m.client("jory"), "GET", "/api/notebooks/"+m.id+"/marks", nil)
	assert.Equal(t, 404, status, "marks are one's own, also before a partner")
	_, text = m.call(m.mira, "GET", "/api/classes/"+m.class+"/marks", nil)
	assert.Contains(t, text, fmt.Sprint(s.Total))
	assert.NotContains(t, text, "Teodor")
	_, text = m.call(m.teo, "GET", "/api/classes/"+m.class+"/marks", nil)
	assert.NotContains(t, text, "Mira")
	status, pdf := m.call(m.mira, "GET", "/api/notebooks/"+m.id+"/report.pdf?version=1", nil)
	assert.Equal(t, 200, status)
	assert.True(t, strings.HasPrefix(pdf, "%PDF"))

	// Another look at a criterion: once while it is open; the answer is kept.
	ask := func(c *http.Client) (int, string) {
		return m.call(c, "POST", "/api/notebooks/"+m.id+"/requests", map[string]string{"criterion": "text-method", "reason": "I said how I swirled."})
	}
	status, _ = ask(m.teo)
	assert.Equal(t, 404, status)
	status, _ = ask(m.farrow)
	assert.Equal(t, 403, status)
	status, text = ask(m.mira)
	require.Equal(t, 204, status, text)
	status, text = ask(m.mira)
	assert.Equal(t, 422, status)
	assert.Contains(t, text, "already")
	d := want[marking.Desk](m.school, m.farrow, 200, "GET", m.at+"/marking", nil)
	require.Len(t, d.Requests, 1)
	assert.Equal(t, 1, d.Reports[0].Requests)
	method := line(t, m.sheet(m.farrow, ""), "text-method")
	again, _ := m.award(m.farrow, 200, false, marking.NewAward{Criterion: "text-method", Marks: marks("2"), Follows: method.Award.ID})
	status, _ = m.call(m.farrow, "POST", fmt.Sprintf("/api/notebooks/%s/requests/%d", m.id, d.Requests[0].ID), map[string]string{"answer": "You did; two marks."})
	assert.Equal(t, 204, status)
	status, _ = m.call(m.farrow, "POST", fmt.Sprintf("/api/notebooks/%s/requests/%d", m.id, d.Requests[0].ID), map[string]string{"answer": "again"})
	assert.Equal(t, 422, status)
	own = want[marking.OwnMarks](m.school, m.mira, 200, "GET", "/notebooks/"+m.id+"/marks", nil)
	assert.Equal(t, again.Total, own.Total)
	assert.Equal(t, "You did; two marks.", own.Requests[0].Answer)

	// A practical that was taken from the class is still marked, and its marks still seen.
	status, text = m.call(m.farrow, "DELETE", "/api"+m.at, nil)
	require.Less(t, status, 300, text)
	_ = m.sheet(m.farrow, "")
	status, _ = m.call(m.mira, "GET", "/api/notebooks/"+m.id+"/marks", nil)
	assert.Equal(t, 200, status)

	// Nothing of it changed the report; everything of it is in the log.
	after := m.report(m.farrow, m.id, 1)
	assert.Equal(t, before.Seal, after.Seal)
	assert.Equal(t, before.Submissions, after.Submissions)
	_, text = m.call(m.farrow, "GET", "/api"+m.at+"/marking/log", nil)
	for _, said := range []string{"Wystan Moor gave Mira Quillon", secret, "released the marks of Mira Quillon", "I said how I swirled", "You did; two marks", "2; before 1"} {
		assert.Contains(t, text, said)
	}
	_, acts := m.call(m.farrow, "GET", "/api/classes/"+m.class+"/acts", nil)
	assert.Contains(t, acts, "released marks")
}

// What was answered before the laboratory stands beside its criterion, and cannot be
// answered better once the report is handed in.
func TestQuestionsAreMarkedAsHandedIn(t *testing.T) {
	s := newSchool(t, nil)
	m := marked{school: s, mira: s.client("mira"), farrow: s.client("farrow")}
	p := practicalOf(t)
	p.ID, p.Exercise = "asked-before", practical.Exercise{Leave: []string{"titre", "indicator", "mass", "burette"}, Own: []practical.OwnQuestion{{Text: "Why is the flask rinsed with water only?"}}}
	want[any](s, m.farrow, 200, "POST", "/classes/"+s.class+"/practicals", map[string]any{"practical": p})
	m.at = "/classes/" + s.class + "/practicals/" + p.ID
	answer := func(code, text string) int {
		status, _ := s.call(m.mira, "POST", "/api"+m.at+"/questions", map[string]string{"code": code, "answer": text})
		return status
	}
	require.Equal(t, 200, answer("ratio", "17"))
	require.Equal(t, 200, answer("own-1", "So that no more sample gets in."))
	m.id = m.hand(m.mira, "asked")
	assert.Equal(t, 422, answer("ratio", "6"))
	l := line(t, m.sheet(m.farrow, ""), "questions")
	assert.Equal(t, "1", l.Proposed.String(), "one of one is wrong, of two marks")
	assert.False(t, l.Certain, "a person reads the words")
	require.Len(t, l.Evidence, 2)
	assert.Equal(t, "17", l.Evidence[0].Text)
	assert.Equal(t, []string{"Why is the flask rinsed with water only?", "So that no more sample gets in."}, []string{l.Evidence[1].Title, l.Evidence[1].Text})
}

// Two markers never overwrite each other: whoever comes second is told what stands, and
// awards in one go are made all or none.
func TestTwoMarkers(t *testing.T) {
	m := handedIn(t)
	first, _ := m.award(m.farrow, 200, false, marking.NewAward{Criterion: "text-method", Marks: marks("2")})
	id := line(t, first, "text-method").Award.ID
	_, p := m.award(m.moor, 422, false, marking.NewAward{Criterion: "text-explain", Marks: marks("1")}, marking.NewAward{Criterion: "text-method", Marks: marks("0")})
	assert.Contains(t, p.Errors[0].Message, "Dr Ondine Farrow awarded this meanwhile: 2")
	assert.Equal(t, "awards[1].criterion", strings.TrimPrefix(p.Errors[0].Location, "body."))
	s := m.sheet(m.farrow, "")
	assert.Nil(t, line(t, s, "text-explain").Award, "none of them")
	assert.Equal(t, "2", line(t, s, "text-method").Award.Marks.String())
	again, _ := m.award(m.farrow, 200, false, marking.NewAward{Criterion: "text-method", Marks: marks("2")})
	assert.Equal(t, id, line(t, again, "text-method").Award.ID, "sent again: neither lost nor doubled")
	_, _ = m.award(m.moor, 200, false, marking.NewAward{Criterion: "text-method", Marks: marks("1"), Follows: id})

	// Twenty at once: one of them is made.
	var wg sync.WaitGroup
	var mu sync.Mutex
	made := map[int]int{}
	for i := range 20 {
		wg.Go(func() {
			status, _ := m.call(m.farrow, "POST", "/api/notebooks/"+m.id+"/awards", awards{false, []marking.NewAward{{Criterion: "text-explain", Marks: marks(fmt.Sprintf("%d.25", i%2)), Comment: fmt.Sprint(i)}}})
			mu.Lock()
			defer mu.Unlock()
			made[status]++
		})
	}
	wg.Wait()
	assert.Equal(t, map[int]int{200: 1, 422: 19}, made)
	assert.Len(t, line(t, m.sheet(m.farrow, ""), "text-explain").History, 1)

	// A second marker is blind, is another person, and the differences are listed.
	blind := m.sheet(m.moor, "?second=true&anonymous=true")
	assert.Nil(t, line(t, blind, "text-method").Award)
	assert.NotContains(t, fmt.Sprint(blind), "Mira")
	_, p = m.award(m.moor, 422, true, marking.NewAward{Criterion: "text-method", Marks: marks("0")})
	assert.Contains(t, p.Errors[0].Message, "another person")
	_, _ = m.award(m.farrow, 200, true, marking.NewAward{Criterion: "text-method", Marks: marks("0.5")})
	assert.Equal(t, "1", line(t, m.sheet(m.moor, ""), "text-method").Award.Marks.String())
	_, text := m.call(m.farrow, "GET", "/api"+m.at+"/marking/differences", nil)
	assert.Contains(t, text, `"marks":0.5`)

	// What cannot be.
	for _, bad := range []marking.NewAward{{Criterion: "text-differently", Marks: marks("3")}, {Criterion: "text-differently", Marks: marks("-1")}, {Criterion: "text-differently", Marks: marks("0.3")},
		{Criterion: "nothing", Marks: marks("1")}, {Criterion: "text-differently", Comment: strings.Repeat("x", 1001)}} {
		_, p := m.award(m.farrow, 422, false, bad)
		assert.NotEmpty(t, p.Errors, bad)
	}
	taken, _ := m.award(m.farrow, 200, false, marking.NewAward{Criterion: "text-explain", Follows: line(t, m.sheet(m.farrow, ""), "text-explain").Award.ID})
	assert.Nil(t, line(t, taken, "text-explain").Award.Marks, "taken back, and kept that it was")
	assert.Len(t, line(t, taken, "text-explain").History, 2)
}

// What is full and certain is accepted for many at once, and nothing else; a changed
// scheme says what it changes for whom, and leaves awards alone.
func TestTogetherAndSchemes(t *testing.T) {
	m := handedIn(t)
	other := m.hand(m.teo, "teo")
	accept := func(criterion string, of ...string) int {
		out := want[struct{ Count int }](m.school, m.farrow, 200, "POST", m.at+"/marking/accepted", map[string]any{"criterion": criterion, "notebooks": of})
		return out.Count
	}
	assert.Equal(t, 1, accept("complete", m.id))
	assert.Equal(t, 1, accept("complete", m.id, other), "the other one still")
	assert.Equal(t, 0, accept("complete", m.id, other))
	assert.Equal(t, 0, accept("step-amount-known", m.id, other), "not full")
	assert.Equal(t, 0, accept("text-method", m.id, other), "not certain")
	assert.Equal(t, "together", line(t, m.sheet(m.farrow, ""), "complete").Award.How)

	d := want[marking.Desk](m.school, m.farrow, 200, "GET", m.at+"/marking?order=similar", nil)
	assert.Len(t, d.Reports, 2)
	assert.Equal(t, []string{"slip.thousand"}, d.Reports[0].Slips)
	changed := d.Scheme
	for i := range changed.Criteria {
		if changed.Criteria[i].ID == "step-concentration" {
			changed.Criteria[i].Marks = decimal.Whole(4)
		}
		if changed.Criteria[i].ID == "complete" {
			changed.Criteria[i].Marks = decimal.Whole(5)
		}
	}
	type effects struct{ Reports []marking.SchemeEffect }
	e := want[effects](m.school, m.farrow, 200, "POST", m.at+"/marking/scheme", map[string]any{"scheme": changed})
	require.Len(t, e.Reports, 2)
	assert.Equal(t, "3", e.Reports[0].Is.Sub(e.Reports[0].Was.Decimal).String(), "four for one; what a person awarded stays")
	assert.Equal(t, 1, e.Reports[0].Kept)
	set := func(revision int) (int, string) {
		return m.call(m.farrow, "PUT", "/api"+m.at+"/marking/scheme", map[string]any{"scheme": changed, "revision": revision})
	}
	status, text := set(0)
	require.Equal(t, 204, status, text)
	status, text = set(0)
	assert.Equal(t, 422, status)
	assert.Contains(t, text, "changed meanwhile by Dr Ondine Farrow")
	s := m.sheet(m.farrow, "")
	assert.Equal(t, "4", line(t, s, "step-concentration").Proposed.String())
	assert.Equal(t, "2", line(t, s, "complete").Award.Marks.String())
	changed.Criteria = changed.Criteria[1:]
	changed.Criteria[0].ID = "Not a name"
	p := m.refused(m.farrow, "PUT", m.at+"/marking/scheme", map[string]any{"scheme": changed, "revision": 1})
	assert.NotEmpty(t, p.Errors)

	// Comments come again where they were used; the gradebook has the columns that are chosen.
	_, _ = m.award(m.farrow, 200, false, marking.NewAward{Criterion: "text-method", Marks: marks("1.5"), Comment: "Name the glassware."})
	_, text = m.call(m.moor, "GET", "/api"+m.at+"/marking/comments/text-method", nil)
	assert.Contains(t, text, "Name the glassware.")
	_, text = m.call(m.farrow, "GET", "/api"+m.at+"/gradebook.csv?columns=total,name&round=whole", nil)
	rows, err := csv.NewReader(strings.NewReader(strings.TrimPrefix(text, "\ufeff"))).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, []string{"Name", "Total"}, rows[0])
	assert.Equal(t, []string{"Mira Quillon", "4"}, rows[1], "2 and 1½, half up")
	_, book := m.call(m.farrow, "GET", "/api"+m.at+"/gradebook.xlsx", nil)
	f, err := excelize.OpenReader(strings.NewReader(book))
	require.NoError(t, err)
	assert.Equal(t, []string{"Marks", "What was awarded"}, f.GetSheetList())
	r := want[marking.Results](m.school, m.farrow, 200, "GET", m.at+"/results", nil)
	require.Len(t, r.Slips, 1)
	assert.ElementsMatch(t, []string{"Mira Quillon", "Teodor Vask"}, r.Slips[0].Names)
	assert.Len(t, r.Together.Answers, 2)
}

// During the lesson: what is said beside an entry is seen at once by the student, and by
// nobody else; those who teach see the steps judged at any time.
func TestCommentsBesideEntries(t *testing.T) {
	m := handedIn(t)
	n := m.notebook(m.teo, "descaler")
	m.add(m.teo, n.ID, run("watched-trial", 1, journal.Accurate, "0.00", "23.85"))
	say := func(c *http.Client, entry string) int {
		status, _ := m.call(c, "POST", "/api/notebooks/"+n.ID+"/comments", map[string]string{"entry": entry, "text": "Read it at eye level."})
		return status
	}
	assert.Equal(t, 403, say(m.teo, ""))
	assert.Equal(t, 404, say(m.mira, ""))
	assert.Equal(t, 404, say(m.moor, "no-such-entry"))
	assert.Equal(t, 204, say(m.moor, "watched-trial-0"))
	seen := m.notebook(m.teo, "descaler")
	require.Len(t, seen.Comments, 1)
	assert.Equal(t, "Wystan Moor", seen.Comments[0].By)
	status, _ := m.call(m.moor, "DELETE", fmt.Sprintf("/api/notebooks/%s/comments/%d", n.ID, seen.Comments[0].ID), nil)
	assert.Equal(t, 204, status)
	assert.Empty(t, m.notebook(m.teo, "descaler").Comments)
	_, text := m.call(m.farrow, "GET", "/api/notebooks/"+m.id, nil)
	assert.Contains(t, text, `"slip":"slip.thousand"`)
}
