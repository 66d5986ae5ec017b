package formats_test

import (
	"bytes"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/experiment"
	"exactflask/formats"
)

func example(t testing.TB, name string) string {
	text, err := os.ReadFile(filepath.Join("..", "docs", "examples", name))
	require.NoError(t, err)
	return string(text)
}

// What every example file says. Sources: buffer-dosing and disagreeing are our
// own scenario; acid-in-burette and descaling-acid use common-practice values
// (13.1 mL of acid for 25.0 mL of 0.100 mol/L hydroxide gives 0.0954; 44.4 mL of
// 0.100 mol/L hydroxide for 5.00 mL of vinegar gives 0.888 mol/L).
func TestExamplesEvaluate(t *testing.T) {
	want := map[string]struct {
		stage        experiment.Stage
		mean, answer string
	}{
		"buffer-dosing.json":   {experiment.Agreed, "23.83", "0.0477"},
		"acid-in-burette.json": {experiment.Agreed, "13.1", "0.0954"},
		"descaling-acid.json":  {experiment.Agreed, "44.40", "0.888"},
		"disagreeing.json":     {experiment.Disagreeing, "", ""},
	}
	for name := range want { // all of them are worked through in package experiment
		doc, err := formats.Read(strings.NewReader(example(t, name)))
		require.NoError(t, err, name)
		ev, fault := experiment.Evaluate(doc.Practical, doc.Journal)
		require.Nil(t, fault, name)
		assert.Equal(t, want[name].stage, ev.Stage, name)
		if want[name].mean != "" {
			assert.Equal(t, want[name].mean, ev.Agreement.Mean.String(), name)
			assert.Equal(t, want[name].answer, ev.Result.Answer.String(), name)
		}
		// What is written is read back the same.
		var out bytes.Buffer
		require.NoError(t, formats.Write(&out, doc))
		again, err := formats.Read(&out)
		require.NoError(t, err, name)
		assert.Equal(t, doc, again, name)
	}
}

func TestReadSaysWhereAndWhat(t *testing.T) {
	good := example(t, "buffer-dosing.json")
	for _, c := range []struct{ old, new, path, says string }{
		{good, "", "line 1", "not JSON"},
		{good, "[1, 2]", "", "no Exact Flask document"},
		{good, "{}", "format", "nothing"},
		{`"version": 1`, `"version": 1,,`, "line 3", "not JSON"},
		{`"version": 1`, `"version": 7`, "version", "newer Exact Flask"},
		{`"version": 1`, `"version": "one"`, "version", "expected integer"},
		{`"method": "direct"`, `"method": "magic"`, "practical.method", "direct"},
		{`"capacity": "50.00"`, `"capacity": 50`, "practical.burette.capacity", "expected string"},
		{`"capacity": "50.00"`, `"capacity": "fifty"`, "practical.burette.capacity", "decimal number"},
		{`"capacity": "50.00"`, `"capacity": "."`, "", "not a number"},
		{`"capacity": "50.00"`, `"capasity": "50.00"`, "practical.burette", "capasity"},
		{`"need": 2`, `"need": 9`, "practical.agreement.need", "<= 3"},
		{`"equation": "Na2CO3 + 2 HCl`, `"equation": "Na2CO3 + 2 HCL`, "practical.equation", "character 14"},
		{`"text": "24.40"`, `"text": "24.4.0"`, "journal[2].reading.text", "two decimal points"},
		{`"mark": "start"`, `"mark": "middle"`, "journal[1].reading.mark", "start"},
		{`"id": "buffer-0002"`, `"id": "buffer-0001"`, "journal[1].id", "another content"},
		{`"kind": "note"`, `"kind": "photo"`, "kind", "expected value to be one of"},
	} {
		require.Contains(t, good, c.old)
		_, err := formats.Read(strings.NewReader(strings.Replace(good, c.old, c.new, 1)))
		var faults formats.Faults
		require.ErrorAs(t, err, &faults, "%s for %s", c.new, c.old)
		found := false
		for _, f := range faults {
			found = found || strings.Contains(f.Path, c.path) && strings.Contains(f.Problem, c.says)
		}
		assert.True(t, found, "%s: wanted %q at %q, got %v", c.new, c.says, c.path, faults)
	}
	_, err := formats.Read(strings.NewReader(strings.Repeat(" ", formats.MaxSize+1)))
	assert.ErrorContains(t, err, "larger than")
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(example(f, "buffer-dosing.json")))
	f.Add([]byte(`{"format":"exactflask.notebook","version":1,"practical":{},"journal":[]}`))
	f.Fuzz(func(t *testing.T, text []byte) {
		doc, err := formats.Read(bytes.NewReader(text))
		if err != nil {
			return
		}
		_, fault := experiment.Evaluate(doc.Practical, doc.Journal)
		require.Nil(t, fault, "a document that was read can be evaluated")
	})
}
