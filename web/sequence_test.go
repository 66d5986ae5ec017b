package web_test

import (
	"fmt"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app/bench"
	"exactflask/app/practicals"
	"exactflask/core/record/journal"
	"exactflask/view"
)

// Practicals that follow each other: no circle is set, times are those of all where one says so, one
// report takes those before it along, and a partner learns nothing of a notebook that is not theirs.
func TestSequences(t *testing.T) {
	s := newSchool(t, nil)
	mira, teo, farrow := s.client("mira"), s.client("teo"), s.client("farrow")
	class := "/classes/" + s.class
	set := func(status int, id, after string, whole bool) string {
		p := practicalOf(t)
		p.ID, p.Title, p.After, p.Report.Whole = id, "Practical "+id, after, whole
		got, text := s.call(farrow, "POST", "/api"+class+"/practicals", map[string]any{"practical": p})
		require.Equal(t, status, got, text)
		return text
	}
	set(200, "first", "", false)
	set(200, "second", "first", true)
	set(200, "third", "second", true)
	assert.Contains(t, set(422, "first", "third", false), "in a circle")

	due := time.Now().Add(time.Hour).UTC().Truncate(time.Second)
	now := want[practicals.Settings](s, farrow, 200, "PUT", class+"/practicals/second/settings",
		practicals.NewSettings{Times: practicals.Times{Due: &due}, Unknowns: []practicals.Unknown{}, Together: true})
	assert.Equal(t, []string{"Practical first", "Practical third"}, now.Sequence)
	for _, id := range []string{"first", "second", "third"} {
		one := want[practicals.Settings](s, farrow, 200, "GET", class+"/practicals/"+id+"/settings", nil)
		require.NotNil(t, one.Times.Due, id)
		assert.True(t, one.Times.Due.Equal(due), id)
	}

	count := 0
	write := func(c *http.Client, id string) {
		count++
		e := journal.Entry{ID: fmt.Sprintf("sequence-%04d", count), Device: "d", Clock: int64(count), At: time.Now().UTC(), Part: journal.Remark{Written: "seen"}}
		want[any](s, c, 200, "POST", "/notebooks/"+id+"/entries", entries{[]journal.Entry{e}})
	}
	hand := func(c *http.Client, status int, id string) string {
		got, text := s.call(c, "POST", "/api/notebooks/"+id+"/submissions", map[string]int{"entries": 1})
		require.Equal(t, status, got, text)
		return text
	}
	third := s.notebook(mira, "third").ID
	write(mira, third)
	text := hand(mira, 422, third)
	assert.Contains(t, text, "Practical first")
	first, second := s.notebook(mira, "first").ID, s.notebook(mira, "second").ID
	write(mira, first)
	write(mira, second)
	// A partner of the last part alone sees that there are others, and no more.
	want[any](s, mira, 200, "POST", "/notebooks/"+third+"/partners", map[string]string{"username": "teo"})
	parts := func(c *http.Client) []bench.SequencePart {
		return want[bench.Notebook](s, c, 200, "GET", "/notebooks/"+third, nil).Parts
	}
	for i, id := range []string{first, second} {
		assert.Equal(t, id, parts(mira)[i].Notebook)
		assert.Equal(t, bench.SequencePart{Practical: []string{"first", "second"}[i], Title: "Practical " + []string{"first", "second"}[i]}, parts(teo)[i])
	}
	text = hand(teo, 200, third) // agrees; Mira hands them in
	assert.Contains(t, text, "Mira Quillon")
	assert.Nil(t, want[bench.Notebook](s, mira, 200, "GET", "/notebooks/"+third, nil).HandedIn)
	assert.Nil(t, want[bench.Notebook](s, mira, 200, "GET", "/notebooks/"+first, nil).HandedIn)

	// Who wrote in a part has to agree, and until then nothing is handed in; the one report is taken by its
	// own times, also where that of a part is over. What students do not see yet is neither named nor waited for.
	want[any](s, mira, 200, "POST", "/notebooks/"+second+"/partners", map[string]string{"username": "teo"})
	write(teo, second)
	s.due(farrow, "first", -2*time.Hour, -time.Hour)
	assert.Contains(t, hand(mira, 200, third), "Teodor Vask")
	for _, id := range []string{first, second, third} {
		assert.Nil(t, want[bench.Notebook](s, mira, 200, "GET", "/notebooks/"+id, nil).HandedIn, id)
	}
	assert.Equal(t, []string{"Mira Quillon"}, want[view.Submission](s, teo, 200, "POST", "/notebooks/"+second+"/submissions", map[string]int{"entries": 2}).Awaits)
	later := time.Now().Add(time.Hour).UTC()
	want[practicals.Settings](s, farrow, 200, "PUT", class+"/practicals/second/settings",
		practicals.NewSettings{Times: practicals.Times{Opens: &later}, Unknowns: []practicals.Unknown{}})
	assert.Empty(t, parts(mira))
	want[practicals.Settings](s, farrow, 200, "PUT", class+"/practicals/second/settings", practicals.NewSettings{Unknowns: []practicals.Unknown{}})
	hand(mira, 200, third)
	for _, id := range []string{first, second, third} {
		n := want[bench.Notebook](s, mira, 200, "GET", "/notebooks/"+id, nil)
		require.NotNil(t, n.HandedIn, id)
		assert.Equal(t, 1, n.HandedIn.Version)
	}
	for _, item := range want[bench.Shelf](s, mira, 200, "GET", "/shelf", nil).Shelves[0].Practicals {
		if item.Practical == "second" {
			require.Len(t, item.Sequence, 3)
			assert.True(t, item.Sequence[2].HandedIn)
		}
	}
}
