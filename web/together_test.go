package web_test

import (
	"fmt"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app/bench"
	"exactflask/core/record/journal"
	"exactflask/view"
)

// Two who wrote in a notebook hand it in together: neither does for the other what the other has not
// agreed to as it stands. Until it is due and marked they take it back, and the version stays. The owner
// parts from a partner, who is not asked any more.
func TestHandingInTogether(t *testing.T) {
	s := newSchool(t, nil)
	mira, teo, farrow := s.client("mira"), s.client("teo"), s.client("farrow")
	n := s.notebook(mira, "descaler")
	path := "/notebooks/" + n.ID
	want[any](s, mira, 200, "POST", path+"/partners", map[string]string{"username": "teo"})
	count := 0
	note := func(c *http.Client, text string) {
		e := journal.Entry{ID: fmt.Sprintf("together-%04d", count), Device: "d", Clock: int64(count + 1), At: time.Now().UTC(), Part: journal.Remark{Written: text}}
		want[any](s, c, 200, "POST", path+"/entries", entries{[]journal.Entry{e}})
		count++
	}
	look := func(c *http.Client) bench.Notebook { return want[bench.Notebook](s, c, 200, "GET", path, nil) }
	hand := func(c *http.Client) view.Submission {
		return want[view.Submission](s, c, 200, "POST", path+"/submissions", map[string]int{"entries": count})
	}
	note(mira, "begun")
	note(teo, "gone on")
	first := hand(teo)
	assert.Zero(t, first.Version)
	assert.Equal(t, []string{"Mira Quillon"}, first.Awaits)
	for _, c := range []*http.Client{mira, teo} { // both are told
		now := look(c)
		require.NotNil(t, now.HandingIn)
		assert.Nil(t, now.HandedIn)
		assert.Equal(t, []string{"Mira Quillon"}, now.HandingIn.Awaits)
		assert.Equal(t, c == teo, now.HandingIn.Mine)
	}
	note(mira, "not yet")
	assert.Nil(t, look(teo).HandingIn, "what was written asks again")
	assert.Zero(t, hand(mira).Version)
	done := hand(teo)
	assert.Equal(t, 1, done.Version)
	assert.Nil(t, look(mira).HandingIn)

	// Taken back by one of them; handed in again, marked, and not taken back any more.
	assert.True(t, look(mira).TakeBack)
	assert.False(t, look(farrow).TakeBack)
	want[any](s, farrow, 403, "POST", path+"/submissions/1/take-back", nil)
	want[any](s, mira, 422, "POST", path+"/submissions/2/take-back", nil)
	want[any](s, mira, 204, "POST", path+"/submissions/1/take-back", nil)
	r := s.report(mira, n.ID, 0)
	assert.Equal(t, "taken back by those who handed it in", r.Submissions[0].Reason)
	assert.Nil(t, look(mira).HandedIn)
	want[any](s, teo, 403, "DELETE", path+"/partners?name=Mira%20Quillon", nil)
	want[any](s, mira, 422, "DELETE", path+"/partners?name=Nobody", nil)
	parted := want[bench.Notebook](s, mira, 200, "DELETE", path+"/partners?name="+"Teodor%20Vask", nil)
	assert.Empty(t, parted.Partners)
	want[any](s, teo, 404, "GET", path, nil)
	assert.Equal(t, 2, hand(mira).Version, "nobody else is asked any more")
	sheet := want[struct{ Lines []struct{ ID string } }](s, farrow, 200, "GET", path+"/marking", nil)
	require.NotEmpty(t, sheet.Lines)
	want[any](s, farrow, 200, "POST", path+"/awards", map[string]any{"awards": []map[string]any{{"criterion": sheet.Lines[0].ID, "marks": 1, "comment": "", "follows": 0}}})
	assert.False(t, look(mira).TakeBack)
	want[any](s, mira, 422, "POST", path+"/submissions/2/take-back", nil)
}

// Who has left the class is not waited for: there is nobody to agree.
func TestNobodyWaitsForWhoLeft(t *testing.T) {
	s := newSchool(t, nil)
	mira, teo, farrow := s.client("mira"), s.client("teo"), s.client("farrow")
	path := "/notebooks/" + s.notebook(mira, "descaler").ID
	want[any](s, mira, 200, "POST", path+"/partners", map[string]string{"username": "teo"})
	for i, c := range []*http.Client{mira, teo} {
		e := journal.Entry{ID: fmt.Sprintf("left-%08d", i), Device: "d", Clock: int64(i + 1), At: time.Now().UTC(), Part: journal.Remark{Written: "swirled"}}
		want[any](s, c, 200, "POST", path+"/entries", entries{[]journal.Entry{e}})
	}
	hand := func() view.Submission {
		return want[view.Submission](s, mira, 200, "POST", path+"/submissions", map[string]int{"entries": 2})
	}
	assert.Equal(t, []string{"Teodor Vask"}, hand().Awaits)
	want[any](s, farrow, 200, "DELETE", "/classes/"+s.class+"/people/"+s.personID("teo"), nil)
	assert.Equal(t, 1, hand().Version)
}
