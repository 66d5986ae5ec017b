package formats_test

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/practical"
	"exactflask/formats"
	"exactflask/schema"
	"exactflask/view"
	"exactflask/wording"
)

func example(t testing.TB, name string) string {
	text, err := os.ReadFile(filepath.Join("..", "docs", "examples", name))
	require.NoError(t, err)
	return string(text)
}

func evaluate(t testing.TB, doc formats.Document) evaluation.Evaluation {
	r, fault := doc.Practical.Check()
	if fault != nil {
		require.Fail(t, fault.Error())
	}
	return experiment.Evaluate(r, doc.Journal, experiment.All)
}

// Every file of version 1 is read, and holds what its successor of version 2 holds.
func TestVersion1(t *testing.T) {
	files, err := filepath.Glob(filepath.Join("testdata", "version1", "*.json"))
	require.NoError(t, err)
	require.Greater(t, len(files), 15)
	for _, file := range files {
		text, err := os.ReadFile(file)
		require.NoError(t, err)
		assert.Contains(t, string(text), `"version": 1`, file)
		old, err := formats.Read(bytes.NewReader(text))
		require.NoError(t, err, file)
		text, err = os.ReadFile(filepath.Join("testdata", "version2", filepath.Base(file)))
		require.NoError(t, err)
		new, err := formats.Read(bytes.NewReader(text))
		require.NoError(t, err, file)
		assert.Equal(t, new, old, file)
	}
}

// What the first example files say, in our own numbers: 22.53 mL of 0.100 mol/L
// acid for 25.0 mL of carbonate give 0.0451 mol/L; 16.4 mL of sulfuric acid for
// 25.0 mL of 0.100 mol/L hydroxide 0.0762; 37.90 mL of 0.100 mol/L hydroxide for
// 5.00 mL of descaler 0.758.
func TestExamplesEvaluate(t *testing.T) {
	want := map[string]struct {
		stage        evaluation.Stage
		mean, answer string
	}{
		"buffer-dosing.json":   {evaluation.Agreed, "22.53", "0.0451"},
		"acid-in-burette.json": {evaluation.Agreed, "16.4", "0.0762"},
		"descaling-acid.json":  {evaluation.Agreed, "37.90", "0.758"},
		"disagreeing.json":     {evaluation.Disagreeing, "", ""},
	}
	for name := range want { // all of them are worked through in package experiment
		doc, err := formats.Read(strings.NewReader(example(t, name)))
		require.NoError(t, err, name)
		ev := evaluate(t, doc)
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
		{good, "{}", "format", "exactflask.notebook"},
		{`"version": 2`, `"version": 2,,`, "line 3", "not JSON"},
		{`"version": 2`, `"version": 7`, "version", "newer Exact Flask"},
		{`"version": 2`, `"version": "one"`, "version", "whole number"},
		{`"kind": "direct"`, `"kind": "magic"`, "practical.kind", "direct"},
		{`"capacity": "50.00"`, `"capacity": 50`, "practical.glass.burette.capacity", "text"},
		{`"capacity": "50.00"`, `"capacity": "fifty"`, "practical.glass.burette.capacity", "decimal number"},
		{`"capacity": "50.00"`, `"capacity": "."`, "", "not a number"},
		{`"capacity": "50.00"`, `"capasity": "50.00"`, "practical.glass.burette", "capasity"},
		{`"need": 2`, `"need": 9`, "practical.rules.agreement.need", "3"},
		{`"equation": "Na2CO3 + 2 HCl`, `"equation": "Na2CO3 + 2 HCL`, "practical.chemistry.equation", "character 14"},
		{`"text": "23.10"`, `"text": "23.1.0"`, "journal[2].reading.text", "two decimal points"},
		{`"mark": "start"`, `"mark": "middle"`, "journal[1].reading.mark", "start"},
		{`"id": "buffer-0002"`, `"id": "buffer-0001"`, "journal[1].id", "another content"},
		{`"kind": "note"`, `"kind": "photo"`, "kind", "weighing"},
	} {
		require.Contains(t, good, c.old)
		_, err := formats.Read(strings.NewReader(strings.Replace(good, c.old, c.new, 1)))
		var faults schema.Faults
		require.ErrorAs(t, err, &faults, "%s for %s", c.new, c.old)
		found := false
		for _, f := range faults {
			said := f.Path + ": " + wording.For().Say(f.Message)
			found = found || strings.Contains(said, c.path) && strings.Contains(said, c.says)
		}
		assert.True(t, found, "%s: wanted %q at %q, got %v", c.new, c.says, c.path, faults)
	}
	_, err := formats.Read(strings.NewReader(strings.Repeat(" ", formats.MaxSize+1)))
	var faults schema.Faults
	require.ErrorAs(t, err, &faults)
	assert.Contains(t, wording.For().Say(faults[0].Message), "larger than")
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(example(f, "buffer-dosing.json")))
	f.Add([]byte(example(f, "rosehip-storage.json")))
	f.Add([]byte(example(f, "shell-chalk.json")))
	f.Add([]byte(`{"format":"exactflask.notebook","version":1,"practical":{},"journal":[]}`))
	f.Fuzz(func(t *testing.T, text []byte) {
		doc, err := formats.Read(bytes.NewReader(text))
		if err != nil {
			return
		}
		ev := evaluate(t, doc)
		r, fault := doc.Practical.Check()
		require.Nil(t, fault)
		_, err = json.Marshal(view.Of(r, ev, practical.Style{}))
		assert.NoError(t, err)
	})
}

// What the schema has no place for the program refuses too, and says where.
func TestNullIsRefused(t *testing.T) {
	text, err := os.ReadFile("testdata/version2/algae-vinegar.json")
	require.NoError(t, err)
	_, err = formats.Read(bytes.NewReader(text))
	require.NoError(t, err)
	text = bytes.Replace(text, []byte(`"practical": {`), []byte(`"practical": {"lists": null,`), 1)
	_, err = formats.Read(bytes.NewReader(text))
	var faults schema.Faults
	require.ErrorAs(t, err, &faults)
	assert.Equal(t, "practical.lists document.null", faults[0].Path+" "+faults[0].Message.Code)
}
