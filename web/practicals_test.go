package web_test

import (
	"encoding/json"
	"fmt"
	"io"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app/access"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
)

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
	give := func(i int, written, unit string) string {
		answer := journal.Entry{ID: fmt.Sprintf("own-answer-%d-%d", i, len(written)), Device: "d", Clock: 900 + int64(10*i+len(written)), At: time.Now(),
			Part: journal.Answer{Step: n.Sheet.Work[i].Step.Step, Written: written, Unit: unit}}
		status, text := s.call(mira, "POST", path+"/entries", entries{[]journal.Entry{answer}})
		require.Equal(t, 200, status, text)
		return text
	}
	// The last step alone is no attempt; nor is one that is thrown away. Until
	// then, no answer is judged.
	for i := range n.Sheet.Work {
		text = give(i, "0", "%")
		assert.NotContains(t, text, `"statement"`, i)
		assert.NotContains(t, text, `"verdict"`, i)
	}
	status, text := s.call(mira, "POST", "/api/calc/titration", map[string]any{})
	assert.Equal(t, 403, status, text)
	assert.Contains(t, text, "still withholds its result")
	status, text = s.call(mira, "POST", "/api/plan", map[string]any{"practical": practicalOf(t)})
	assert.Equal(t, 403, status, text)
	status, _ = s.call(mira, "POST", "/api/calc/convert", map[string]any{})
	assert.Equal(t, 422, status, "others stay open")
	status, text = s.call(s.client("farrow"), "POST", "/api/plan", map[string]any{"practical": practicalOf(t)})
	assert.Equal(t, 200, status, text)

	own := map[string]string{"mean-titre": "24.125", "known-amount": "0.002497", "unknown-amount": "0.002497", "route-3": "0.02497",
		"route-1-added": "0.04935", "route-1-used": "0.02438", "route-1-analyte": "0.01219", "substance-mass": "1.220",
		"fraction": "0.9752", "answer": "95.1"}
	for i, w := range n.Sheet.Work {
		require.Contains(t, own, w.Step.Step)
		text = give(i, own[w.Step.Step], string(w.Step.Unit))
		assert.Equal(t, i == len(n.Sheet.Work)-1, strings.Contains(text, `"statement"`), w.Step.Step)
	}
	assert.Contains(t, text, "97.52")
	assert.Contains(t, text, `"verdict":"wrong"`)
	status, text = s.call(mira, "POST", "/api/calc/titration", map[string]any{})
	assert.Equal(t, 403, status, text)
	assert.Contains(t, text, "Descaling", "the other one is shown now")
	_, text = s.call(s.client("farrow"), "GET", "/api/classes/"+s.class+"/practicals/"+withheldPractical+"/plan", nil)
	var planned struct{ Practical practical.Practical }
	require.NoError(t, json.Unmarshal([]byte(text), &planned))
	planned.Practical.Showing.Calculators = true
	status, text = s.call(s.client("farrow"), "POST", "/api/classes/"+s.class+"/practicals", map[string]any{"practical": planned.Practical})
	require.Equal(t, 200, status, text)
	status, text = s.call(mira, "POST", "/api/calc/titration", map[string]any{})
	assert.Equal(t, 422, status, "the instructor left them open: %s", text)

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
		Person access.Person
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
	both := append(run("true-value-1", 10, journal.Accurate, "0.00", "23.40"),
		run("true-value-2", 20, journal.Accurate, "0.00", "23.45")...)
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

// Answers before the laboratory are kept: a student finds their own again, and no
// other's; the instructor sees those of the class; what the instructor tries is not
// kept.
func TestAnswersBeforeTheLaboratory(t *testing.T) {
	s := newSchool(t, nil)
	mira, teo, farrow := s.client("mira"), s.client("teo"), s.client("farrow")
	path := "/api/classes/" + s.class + "/practicals/buffer-dosing"
	answer := func(code, text string) map[string]string { return map[string]string{"code": code, "answer": text} }
	for _, given := range []string{"3", "0.5", "7"} { // the middle one is right, and stays so
		status, text := s.call(mira, "POST", path+"/questions", answer("ratio", given))
		require.Equal(t, 200, status, text)
	}
	_, _ = s.call(farrow, "POST", path+"/questions", answer("ratio", "9"))
	_, text := s.call(mira, "GET", path+"/plan", nil)
	assert.Contains(t, text, `"given":[{"code":"ratio","answer":"7","shown":"7","right":true,"tries":3}]`)
	_, text = s.call(teo, "GET", path+"/plan", nil)
	assert.Contains(t, text, `"given":[]`)
	_, text = s.call(farrow, "GET", path+"/plan", nil)
	assert.Contains(t, text, `"given":[{"name":"Mira Quillon","code":"ratio"`)
	assert.NotContains(t, text, `"answer":"9"`)
}

// A school's own questions are judged by the server: their answers are in nothing that
// a student receives.
func TestOwnQuestionsBeforeTheLaboratory(t *testing.T) {
	s := newSchool(t, nil)
	farrow, mira := s.client("farrow"), s.client("mira")
	p := practicalOf(t)
	p.Exercise.Own = []practical.OwnQuestion{{Text: "How many drops?", Number: true, Answer: "23.71", Within: decimal.Must("3.19"),
		Because: "counted at the tip"}, {Text: "What do you wear?"}}
	class := "/api/classes/" + s.class + "/practicals"
	status, text := s.call(farrow, "POST", class, map[string]any{"practical": p})
	require.Equal(t, 200, status, text)
	n := s.notebook(mira, p.ID)
	for _, path := range []string{class + "/" + p.ID + "/plan", "/api/notebooks/" + n.ID, "/api/notebooks/" + n.ID + "/document",
		"/api/shelf"} {
		_, seen := s.call(mira, "GET", path, nil)
		assert.NotRegexp(t, `23\.71|3\.19|counted at the tip`, seen, path)
	}
	for _, c := range [][3]string{{"own-1", "23", "counted at the tip"}, {"own-1", "29", "Not this"}, {"own-2", "goggles", "Kept"}} {
		_, said := s.call(mira, "POST", class+"/"+p.ID+"/questions", map[string]string{"code": c[0], "answer": c[1]})
		assert.Contains(t, said, c[2], c)
	}
	_, text = s.call(farrow, "GET", class+"/"+p.ID+"/plan", nil)
	assert.Contains(t, text, `"answer":"goggles"`, "the instructor reads it")
}

// One bottle serves the standardisation and the practical that takes its
// concentration over; another student's trials do not draw on it.
func TestOneBottleForTwoPracticals(t *testing.T) {
	s := newSchool(t, nil)
	mira := s.client("mira")
	first := s.notebook(mira, "naoh-by-aliquot")
	assert.Nil(t, first.Bottle)
	prepared := journal.Entry{ID: "prepared-by-mira", Device: "d", Clock: 900, At: time.Now(),
		Part: journal.Prepared{Stock: "2.00", Taken: "25.0", MadeUp: "500.0"}}
	status, text := s.call(mira, "POST", "/api/notebooks/"+first.ID+"/entries", entries{[]journal.Entry{prepared}})
	require.Equal(t, 200, status, text)
	alone := s.notebook(mira, "naoh-by-aliquot").Bottle
	require.NotNil(t, alone)
	both := s.notebook(mira, "algae-vinegar").Bottle
	require.NotNil(t, both)
	assert.Equal(t, alone.Text, both.Text, "both draw on the one bottle")
	assert.Regexp(t, `left \(\d`, both.Text)
	assert.Nil(t, s.notebook(s.client("teo"), "naoh-by-aliquot").Bottle, "another student's bottle is another")
}

// A question before the laboratory is answered as often as the practical says.
func TestTriesAreLimited(t *testing.T) {
	s := newSchool(t, nil)
	mira := s.client("mira")
	p := practicalOf(t)
	p.Showing.Tries = 2
	status, text := s.call(s.client("farrow"), "POST", "/api/classes/"+s.class+"/practicals", map[string]any{"practical": p})
	require.Equal(t, 200, status, text)
	path := "/api/classes/" + s.class + "/practicals/" + p.ID + "/questions"
	for i, want := range []int{200, 200, 403} {
		status, text := s.call(mira, "POST", path, map[string]string{"code": "ratio", "answer": "99"})
		assert.Equal(t, want, status, i)
		if want == 403 {
			assert.Contains(t, text, "may be answered 2 times")
		}
	}
	status, _ = s.call(s.client("teo"), "POST", path, map[string]string{"code": "ratio", "answer": "99"})
	assert.Equal(t, 200, status, "each has their own")
}
