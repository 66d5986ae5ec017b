package web_test

import (
	"bytes"
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app/bench"
	"exactflask/formats"
	"exactflask/view"
	"exactflask/web"
)

// A probe that is joined to a notebook: its lines come in with the notebook's token and no
// other way, a bad line is refused by itself, and only who writes the notebook sees it.
func TestProbeOverHTTP(t *testing.T) {
	s := newSchool(t, io.Discard)
	file, err := io.ReadAll(open(t, "formic-curve.json"))
	require.NoError(t, err)
	doc, err := formats.Read(bytes.NewReader(file))
	require.NoError(t, err)
	require.NoError(t, s.app.Practicals.Assign(t.Context(), s.class, doc.Practical))
	mira, teo := s.client("mira"), s.client("teo")
	begin := func(c *http.Client) string {
		return want[bench.Notebook](s, c, 200, "POST", "/classes/"+s.class+"/practicals/formic-curve/notebook", nil).ID
	}
	id, other := begin(mira), begin(teo)
	probe := "/notebooks/" + id + "/probe"
	assert.Empty(t, want[view.LiveProbe](s, mira, 200, "GET", probe, nil).Text, "none is joined")
	token := want[struct{ Token string }](s, mira, 200, "POST", probe+"/token", nil).Token
	send := func(notebook, with, body string) (int, string) {
		r, err := http.NewRequest(http.MethodPost, s.url+"/api/probes/"+notebook+"/lines", strings.NewReader(body))
		require.NoError(t, err)
		r.Header.Set("Authorization", "Bearer "+with)
		r.Header.Set("Content-Type", "application/jsonl")
		got, err := http.DefaultClient.Do(r)
		require.NoError(t, err)
		defer got.Body.Close()
		text, err := io.ReadAll(got.Body)
		require.NoError(t, err)
		return got.StatusCode, string(text)
	}
	var lines strings.Builder
	for i := range 30 {
		fmt.Fprintf(&lines, "{\"time\":%d,\"pH\":4.56,\"temperature\":21.5}\n", i)
	}
	status, text := send(id, token, lines.String()+"nonsense\n{\"mV\":3}\n")
	require.Equal(t, 200, status, text)
	assert.Contains(t, text, `"taken":30`)
	assert.Contains(t, text, "Line 31: ")
	live := want[view.LiveProbe](s, mira, 200, "GET", probe, nil)
	assert.Equal(t, []any{"4.56", "21.5", true, false, 2}, []any{live.Text, live.Temperature, live.Steady, live.Gone, len(live.Says) + 1}, "%+v", live)
	for name, c := range map[string][2]string{"another token": {id, "guessed"}, "no token": {id, ""}, "another's notebook": {other, token}} {
		status, _ := send(c[0], c[1], `{"pH":9}`)
		assert.Equal(t, 401, status, name)
	}
	want[any](s, teo, 404, "GET", probe, nil)
	assert.Equal(t, 413, first(send(id, token, strings.Repeat("{\"pH\":7}\n", 20_000))))
	status, text = send(id, token, strings.Repeat("{\"pH\":7}\n", 1000))
	assert.Equal(t, 429, status, text)
	want[any](s, mira, 204, "DELETE", probe, nil)
	assert.Equal(t, 401, first(send(id, token, `{"pH":7}`)), "parted")

	// The simulated one, in the demo only: it comes to what the run holds at that volume.
	want[any](s, mira, 204, "POST", probe+"/simulated", map[string]string{})
	require.Eventually(t, func() bool { return want[view.LiveProbe](s, mira, 200, "GET", probe, nil).Text != "" }, 5*time.Second, 100*time.Millisecond)
	plain := newSchoolAs(t, io.Discard, func(o *web.Options) { o.Demo = false })
	require.NoError(t, plain.app.Practicals.Assign(t.Context(), plain.class, doc.Practical))
	mine := plain.client("mira")
	there := want[bench.Notebook](plain, mine, 200, "POST", "/classes/"+plain.class+"/practicals/formic-curve/notebook", nil).ID
	assert.Equal(t, "app.probe-simulated", plain.refused(mine, "POST", "/notebooks/"+there+"/probe/simulated", map[string]string{}).Type)
}

func first(status int, _ string) int { return status }
