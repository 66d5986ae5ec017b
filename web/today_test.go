package web_test

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app/marking"
	"exactflask/app/practicals"
	"exactflask/app/today"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/store"
)

// at is where a practical stands and what waits there, in a few words.
func (m marked) stands(c *http.Client) (line string, tasks []string) {
	m.t.Helper()
	id := m.at[strings.LastIndex(m.at, "/")+1:]
	s := want[today.StationLine](m.school, c, 200, "GET", m.at+"/stations", nil)
	for _, st := range s.Stations {
		if st.Station == s.Here {
			line = st.Station + ": " + st.Text
			if st.Needs {
				line += "!"
			}
			assert.Equal(m.t, s.Text, st.Text)
		}
	}
	home := want[today.Home](m.school, c, 200, "GET", "/home", nil)
	for _, t := range home.Today {
		if t.Practical == id {
			tasks = append(tasks, t.Station+": "+t.Text)
		}
	}
	all := want[today.ClassCourse](m.school, c, 200, "GET", "/classes/"+m.class+"/practicals", nil)
	for _, p := range all.Practicals {
		if p.Practical == id {
			assert.Equal(m.t, s.CourseLine, p, "said in one way wherever it is said")
		}
	}
	return line, tasks
}

// One practical on its way, as those who teach see it: what waits and where it stands, at each step.
func TestWhatWaits(t *testing.T) {
	m := handedIn(t)
	line, tasks := m.stands(m.farrow)
	assert.Equal(t, "marking: 1 of 1 to mark!", line, "who has handed in is not at work")
	assert.Equal(t, []string{"marking: 1 of 1 reports to mark"}, tasks)

	// A lesson: somebody writes, somebody's hand is up, somebody goes there.
	n := m.notebook(m.teo, m.at[strings.LastIndex(m.at, "/")+1:])
	m.add(m.teo, n.ID, run("at-work-now", 1, journal.Accurate, "0.00", "23.85"))
	line, tasks = m.stands(m.moor)
	assert.Equal(t, "marking: 1 of 1 to mark!", line, "one is no lesson")
	assert.Equal(t, []string{"marking: 1 of 1 reports to mark"}, tasks)
	want[any](m.school, m.teo, 200, "PUT", "/notebooks/"+n.ID+"/hand", map[string]bool{"up": true})
	line, tasks = m.stands(m.farrow)
	assert.Equal(t, "lesson: 1 at work, 1 hand up!", line)
	assert.Equal(t, "lesson: 1 hand up, 1 at work", tasks[0])
	want[any](m.school, m.moor, 200, "POST", "/notebooks/"+n.ID+"/hand", map[string]bool{"cleared": false})
	line, _ = m.stands(m.farrow)
	assert.Equal(t, "marking: 1 of 1 to mark!", line)

	// Marked, released, asked about, answered.
	m.everything(m.farrow, m.sheet(m.farrow, ""))
	_, tasks = m.stands(m.farrow)
	assert.Equal(t, []string{"marking: 1 report marked and not released"}, tasks)
	want[any](m.school, m.farrow, 200, "POST", m.at+"/marking/released", map[string]any{"notebooks": []string{m.id}})
	_, tasks = m.stands(m.farrow)
	assert.Empty(t, tasks)
	want[any](m.school, m.mira, 204, "POST", "/notebooks/"+m.id+"/requests", map[string]string{"criterion": "text-method", "reason": "I said how I swirled."})
	_, tasks = m.stands(m.farrow)
	assert.Equal(t, []string{"marking: 1 student asks for another look at a mark"}, tasks)

	// Given back: it is neither handed in nor to mark.
	want[any](m.school, m.farrow, 204, "POST", "/notebooks/"+m.id+"/submissions/1/return", map[string]string{"reason": "The units."})
	s := want[today.StationLine](m.school, m.farrow, 200, "GET", m.at+"/stations", nil)
	assert.Empty(t, s.Stations[4].Text)

	// Unknowns that not everyone has, and a date.
	due := time.Now().Add(48 * time.Hour).UTC().Truncate(time.Second)
	status, text := m.call(m.farrow, "PUT", "/api"+m.at+"/settings", practicals.NewSettings{Times: practicals.Times{Due: &due}, Unknowns: []practicals.Unknown{{Code: "A", Value: decimal.Must("0.1")}}, Deals: map[string]string{m.personID("mira"): "A"}})
	require.Equal(t, 200, status, text)
	s = want[today.StationLine](m.school, m.farrow, 200, "GET", m.at+"/stations", nil)
	assert.Equal(t, "5 without an unknown", s.Stations[1].Text)
	_, tasks = m.stands(m.farrow)
	assert.Equal(t, []string{"set: 5 students without an unknown", "lesson: due; 0 of 6 handed in"}, tasks[len(tasks)-2:])
	status, text = m.call(m.farrow, "PUT", "/api"+m.at+"/settings", practicals.NewSettings{Times: practicals.Times{Due: &due}, Unknowns: []practicals.Unknown{}})
	require.Equal(t, 200, status, text)
	s = want[today.StationLine](m.school, m.farrow, 200, "GET", m.at+"/stations", nil)
	assert.Equal(t, "due {at}", s.Stations[1].Text)
	require.NotNil(t, s.Stations[1].At)
	assert.True(t, due.Equal(*s.Stations[1].At))

	// Nobody's name is in any of it, and a student is told nothing of it.
	_, text = m.call(m.farrow, "GET", "/api/home", nil)
	assert.NotContains(t, text, "Mira")
	home := want[today.Home](m.school, m.mira, 200, "GET", "/home", nil)
	assert.Empty(t, home.Today)
	assert.Empty(t, home.Classes)
}

// Two who write together are two, and a report is wholly marked by the criteria that there are now.
func TestPairsAndSchemesAreCounted(t *testing.T) {
	m := handedIn(t)
	due := time.Now().Add(48 * time.Hour).UTC()
	status, text := m.call(m.farrow, "PUT", "/api"+m.at+"/settings", practicals.NewSettings{Times: practicals.Times{Due: &due}, Unknowns: []practicals.Unknown{}})
	require.Equal(t, 200, status, text)
	_, tasks := m.stands(m.farrow)
	assert.Equal(t, "lesson: due; 1 of 6 handed in", tasks[1])
	want[any](m.school, m.mira, 200, "POST", "/notebooks/"+m.id+"/partners", map[string]string{"username": "jory"})
	_, tasks = m.stands(m.farrow)
	assert.Equal(t, []string{"marking: 1 of 1 reports to mark", "lesson: due; 2 of 6 handed in"}, tasks)

	// All but the first are awarded, the second among them; then the second is a criterion no more.
	s := m.sheet(m.farrow, "")
	var all []marking.NewAward
	for _, l := range s.Lines[1:] {
		all = append(all, marking.NewAward{Criterion: l.ID, Marks: marks("0")})
	}
	m.award(m.farrow, 200, false, all...)
	scheme := want[marking.Desk](m.school, m.farrow, 200, "GET", m.at+"/marking", nil).Scheme
	scheme.Criteria = slices.DeleteFunc(scheme.Criteria, func(c practical.Criterion) bool { return c.ID == s.Lines[1].ID })
	status, text = m.call(m.farrow, "PUT", "/api"+m.at+"/marking/scheme", map[string]any{"scheme": scheme, "revision": 0})
	require.Equal(t, 204, status, text)
	line, _ := m.stands(m.farrow)
	assert.Equal(t, "marking: 1 of 1 to mark!", line, "what was awarded for the second does not stand for the first")
	m.award(m.farrow, 200, false, marking.NewAward{Criterion: s.Lines[0].ID, Marks: marks("0")})
	line, _ = m.stands(m.farrow)
	assert.Equal(t, "marking: 1 to release!", line)
}

// A class of five hundred with sixty practicals, 5,000 notebooks begun: the pages of those who teach stay small.
func TestALargeClassIsToldInLittle(t *testing.T) {
	s := newSchool(t, nil)
	farrow := s.client("farrow")
	p := practicalOf(t)
	for i := range 60 {
		p.ID, p.Title = fmt.Sprintf("large-%d", i), fmt.Sprintf("Practical %d of a large class", i)
		want[any](s, farrow, 200, "POST", "/classes/"+s.class+"/practicals", map[string]any{"practical": p})
	}
	now := time.Now()
	require.NoError(t, s.store.Write(t.Context(), func(ctx context.Context, q store.Queries) error {
		for i := range 500 {
			id := fmt.Sprintf("large-person-%d", i)
			if err := errors.Join(q.AddPerson(ctx, store.Person{ID: id, Username: id, Name: fmt.Sprintf("Student Number %d", i)}, now), q.Join(ctx, s.class, id, "student", now)); err != nil {
				return err
			}
			for j := range 10 {
				if err := q.AddNotebook(ctx, store.NewNotebook{ID: fmt.Sprintf("large-notebook-%d-%d", i, j), Class: s.class, Practical: fmt.Sprintf("large-%d", (i+6*j)%60), Revision: 1, Student: id, At: now}); err != nil {
					return err
				}
			}
		}
		return nil
	}))
	for _, path := range []string{"/home", "/shelf", "/classes/" + s.class + "/practicals", "/classes/" + s.class + "/practicals/large-7/stations"} {
		status, text := s.call(farrow, "GET", "/api"+path, nil)
		assert.Equal(t, 200, status)
		assert.Less(t, len(text), 100_000, path)
	}
}
