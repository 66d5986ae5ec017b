package web_test

import (
	"bufio"
	"encoding/json"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app/bench"
	"exactflask/core/record/journal"
	"exactflask/core/values/decimal"
)

// hear follows a stream and hands on what is said in each event of a name, until it ends.
func (s *school) hear(c *http.Client, path, name string) <-chan string {
	follow := &http.Client{Jar: c.Jar}
	res, err := follow.Get(s.url + path)
	require.NoError(s.t, err)
	require.Equal(s.t, 200, res.StatusCode)
	s.t.Cleanup(func() { _ = res.Body.Close() })
	out := make(chan string, 100)
	go func() {
		defer close(out)
		lines := bufio.NewScanner(res.Body)
		lines.Buffer(nil, 1<<20)
		for event := ""; lines.Scan(); {
			if e, ok := strings.CutPrefix(lines.Text(), "event: "); ok {
				event = e
			} else if data, ok := strings.CutPrefix(lines.Text(), "data: "); ok && event == name {
				out <- data
			}
		}
	}()
	return out
}

func soon(t *testing.T, events <-chan string) bench.BoardNews {
	t.Helper()
	select {
	case text := <-events:
		var news bench.BoardNews
		require.NoError(t, json.Unmarshal([]byte(text), &news))
		return news
	case <-time.After(10 * time.Second):
		require.FailNow(t, "nothing was told")
	}
	return bench.BoardNews{}
}

func of(b *bench.Board, name string) (row struct {
	Place int
	State string
	Needs []string
	ToDo  []string
	Off   string
}) {
	for i, r := range b.Benches {
		if r.Name == name {
			row.Place, row.State, row.ToDo, row.Off = i, string(r.State), r.ToDo, r.Off
			for _, n := range r.Needs {
				row.Needs = append(row.Needs, n.Code)
			}
		}
	}
	return row
}

// A lesson as it is seen from the board: a bench that begins, writes, calls for help and
// is helped; what the class is told is on the bench; a student sees nothing of it.
func TestLessonAtOnce(t *testing.T) {
	s := newSchool(t, nil)
	mira, teo, moor, farrow := s.client("mira"), s.client("teo"), s.client("moor"), s.client("farrow")
	p := practicalOf(t)
	p.Asked.Reference = decimal.Must("0.1000")
	status, text := s.call(farrow, "POST", "/api/classes/"+s.class+"/practicals", map[string]any{"practical": p})
	require.Equal(t, 200, status, text)
	at := "/api/classes/" + s.class + "/practicals/" + p.ID
	board := func() *bench.Board {
		status, text := s.call(moor, "GET", at+"/board", nil)
		require.Equal(t, 200, status, text)
		var b bench.Board
		require.NoError(t, json.Unmarshal([]byte(text), &b))
		return &b
	}
	assert.Equal(t, []string{"not-begun"}, of(board(), "Mira Quillon").Needs)
	news := s.hear(moor, at+"/board/events", "news")
	require.NotNil(t, soon(t, news).Whole, "the whole at first: nothing is missed between")

	n := s.notebook(mira, p.ID)
	require.NotNil(t, soon(t, news).Whole, "somebody began")
	bench := "/api/notebooks/" + n.ID
	here := s.hear(mira, bench+"/events", "change")
	// What she does at another practical is no news to this board: it is not read anew.
	other := s.notebook(mira, "buffer-dosing")
	status, text = s.call(mira, "POST", "/api/notebooks/"+other.ID+"/entries", entries{run("elsewhere", 10, journal.Rough, "0.00", "23.45")})
	require.Equal(t, 200, status, text)
	status, text = s.call(mira, "POST", bench+"/entries", entries{run("lesson-trial", 10, journal.Accurate, "23.45", "0.00")})
	require.Equal(t, 200, status, text)
	told := soon(t, news)
	require.Len(t, told.Rows, 1, "one bench changed, one row is told")
	assert.Equal(t, "reading", told.Rows[0].Needs[0].Code, "the end lies below the start")
	assert.Equal(t, s.personID("mira"), told.Order[0], "and the order is told")
	assert.Equal(t, "Mira Quillon", board().Benches[0].Name, "who needs help stands first")

	status, text = s.call(mira, "PUT", bench+"/hand", map[string]bool{"up": true})
	require.Equal(t, 200, status, text)
	soon(t, news)
	assert.Equal(t, "hand", of(board(), "Mira Quillon").State)
	status, text = s.call(moor, "POST", bench+"/hand", map[string]bool{"cleared": false})
	require.Equal(t, 200, status, text)
	status, text = s.call(farrow, "POST", bench+"/hand", map[string]bool{"cleared": false})
	assert.Equal(t, 422, status)
	assert.Contains(t, text, "Wystan Moor goes there already")
	_, text = s.call(mira, "GET", bench, nil)
	assert.Contains(t, text, `"by":"Wystan Moor"`)
	_, _ = s.call(moor, "POST", bench+"/hand", map[string]bool{"cleared": true})
	_, text = s.call(mira, "GET", bench, nil)
	assert.NotContains(t, text, `"hand"`)
	status, text = s.call(farrow, "POST", bench+"/hand", map[string]bool{"cleared": false})
	assert.Equal(t, 422, status)
	assert.Contains(t, text, "not up any more")

	for len(here) > 0 {
		<-here
	}
	ends := time.Now().Add(20 * time.Minute).UTC().Truncate(time.Second)
	status, text = s.call(moor, "PUT", at+"/lesson", map[string]any{"ends": ends})
	require.Equal(t, 204, status, text)
	assert.Contains(t, <-here, `"around":true`, "the bench hears of it")
	_, _ = s.call(farrow, "POST", "/api/classes/"+s.class+"/notices", map[string]string{"text": "Goggles on!"})
	assert.Contains(t, <-here, `"around":true`)
	_, text = s.call(mira, "GET", bench, nil)
	assert.Contains(t, text, ends.Format(time.RFC3339))
	assert.Contains(t, text, "Goggles on!")
	assert.Contains(t, text, `more agreeing trials"`)
	status, text = s.call(moor, "PUT", at+"/lesson", map[string]any{"ends": time.Now().Add(48 * time.Hour)})
	assert.Equal(t, 422, status, text)

	// An answer far off is said to those who teach, and to no student.
	fixed := append(run("lesson-two", 30, journal.Accurate, "0.00", "23.45"), run("lesson-three", 40, journal.Accurate, "0.00", "23.45")...)
	status, own := s.call(mira, "POST", bench+"/entries", entries{append(run("lesson-rough", 20, journal.Rough, "0.00", "24.0"), fixed...)})
	require.Equal(t, 200, status, own)
	row := of(board(), "Mira Quillon")
	assert.Contains(t, row.Needs, "far")
	assert.NotEmpty(t, row.Off)
	assert.NotContains(t, own, row.Off)
	_, text = s.call(farrow, "GET", at+"/plot", nil)
	assert.Contains(t, text, `"against":"reference"`)
	assert.Contains(t, text, `"name":"Mira Quillon"`)
	for _, path := range []string{at + "/board", at + "/plot", at + "/board/events"} {
		status, _ := s.call(teo, "GET", path, nil)
		assert.Equal(t, 403, status, path)
	}
}
