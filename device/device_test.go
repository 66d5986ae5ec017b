package device_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/device"
	"exactflask/docs/examples"
	"exactflask/view"
)

func load(t testing.TB, name string) (json.RawMessage, []journal.Entry) {
	text, err := examples.Files.ReadFile(name)
	require.NoError(t, err)
	var doc struct {
		Practical json.RawMessage
		Journal   []journal.Entry
	}
	require.NoError(t, json.Unmarshal(text, &doc))
	return doc.Practical, doc.Journal
}

// fieldsOf puts the changes of a sheet together.
func fieldsOf(t testing.TB, changes ...view.SheetChange) map[string]string {
	fields := view.SheetChange{}
	for _, change := range changes {
		for name, text := range change {
			var list []json.RawMessage
			if old := fields[name]; len(old) > 0 && old[0] == '[' && text[0] == '{' {
				var some view.ListChange
				require.NoError(t, json.Unmarshal(old, &list))
				require.NoError(t, json.Unmarshal(text, &some))
				list = append(list, make([]json.RawMessage, max(0, some.Length-len(list)))...)[:some.Length]
				for i, item := range some.Items {
					list[i] = item
				}
				var err error
				text, err = json.Marshal(list)
				require.NoError(t, err)
			}
			fields[name] = text
		}
	}
	out := map[string]string{}
	for name, text := range fields {
		if string(text) != "null" {
			out[name] = string(text)
		}
	}
	return out
}

func sheetOf(t testing.TB, changes ...view.SheetChange) (out struct {
	Answer   *struct{}
	Withheld bool
	Work     []view.WorkStep
}) {
	for name, text := range fieldsOf(t, changes...) {
		if name == "answer" || name == "withheld" || name == "work" {
			require.NoError(t, json.Unmarshal([]byte(`{"`+name+`":`+text+`}`), &out))
		}
	}
	return out
}

// Whatever of a notebook the server has already, the device says of the whole
// what the server will say; nothing counts twice.
func TestTheDeviceSaysWhatTheServerSays(t *testing.T) {
	names, err := examples.Files.ReadDir(".")
	require.NoError(t, err)
	var j device.Judge
	for _, n := range names {
		text, entries := load(t, n.Name())
		p, err := practical.Decode(text)
		require.NoError(t, err)
		r, fault := p.Check()
		require.Nil(t, fault)
		style := practical.Style{Words: "titer", Units: "cm3"}
		want, _, err := view.Changes(view.Of(r, experiment.Evaluate(r, entries, experiment.All&^experiment.PartReference), style), nil)
		require.NoError(t, err)
		for _, cut := range []int{0, len(entries) / 2, len(entries)} {
			first := j.Answer(device.Request{Notebook: n.Name(), Basis: &device.Basis{Practical: text, Style: style},
				Entries: entries[:cut], Sent: cut})
			require.Empty(t, first.Fault, n.Name())
			then := j.Answer(device.Request{Notebook: n.Name(), Entries: entries[max(0, cut-1):]})
			require.Empty(t, then.Fault, n.Name())
			assert.Equal(t, fieldsOf(t, want), fieldsOf(t, first.Sheet, then.Sheet), "%s, in two steps", n.Name())
			again := j.Answer(device.Request{Notebook: n.Name(), Basis: &device.Basis{Practical: text, Style: style}, Entries: entries, Sent: cut})
			require.Empty(t, again.Fault)
			assert.Equal(t, want, again.Sheet, "%s, %d entries of which are with the server", n.Name(), cut)
		}
	}
	assert.True(t, j.Answer(device.Request{Notebook: names[0].Name()}).Lost, "only the last notebooks are held")
}

// What is withheld from a student is not computed on the device either; own
// steps are judged there where the server judges them.
func TestWithheldOnTheDevice(t *testing.T) {
	text, entries := load(t, "buffer-dosing.json")
	var j device.Judge
	plain := sheetOf(t, j.Answer(device.Request{Notebook: "n", Basis: &device.Basis{Practical: text}, Entries: entries}).Sheet)
	require.NotNil(t, plain.Answer)
	own := journal.Entry{ID: "own-answer-1", Device: "d", Clock: 900,
		Part: journal.Answer{Step: plain.Work[0].Step.Step, Written: "99.9", Unit: "mL"}}
	for _, judged := range []bool{true, false} {
		basis := &device.Basis{Practical: text, Withheld: true, Judged: judged}
		before := j.Answer(device.Request{Notebook: "n", Basis: basis, Entries: entries, Sent: len(entries)})
		got := sheetOf(t, before.Sheet, j.Answer(device.Request{Notebook: "n", Entries: []journal.Entry{own}}).Sheet)
		assert.Nil(t, got.Answer)
		assert.True(t, got.Withheld)
		assert.Equal(t, judged, got.Work[0].Verdict != "")
	}
}

// What the server would refuse is told in words, with the entry that it is
// about; a request that cannot be read is told as well.
func TestRefusedOnTheDevice(t *testing.T) {
	text, entries := load(t, "buffer-dosing.json")
	var j device.Judge
	bad := journal.Entry{ID: "reading-bad-1", Device: "d", Clock: 901,
		Part: journal.Scale{Of: entries[0].ID, Place: journal.End, Written: "2.4.4"}}
	good := journal.Entry{ID: "note-good-01", Device: "d", Clock: 900, Part: journal.Remark{Written: "swirled"}}
	first := j.Answer(device.Request{Notebook: "n", Basis: &device.Basis{Practical: text}, Entries: entries, Sent: len(entries)})
	require.Empty(t, first.Fault)
	tried := j.Answer(device.Request{Notebook: "n", Entries: []journal.Entry{good}, Try: true})
	assert.Equal(t, device.Answer{At: -1}, tried, "what is only tried is not held")
	for _, try := range []bool{true, false} {
		got := j.Answer(device.Request{Notebook: "n", Entries: []journal.Entry{good, bad}, Try: try})
		assert.Nil(t, got.Sheet)
		assert.Equal(t, 1, got.At)
		assert.Contains(t, got.Fault, "two decimal points")
	}
	held := j.Answer(device.Request{Notebook: "n"})
	assert.Contains(t, held.Sheet, "notes", "what is not at fault is held")
	got := j.Answer(device.Request{Notebook: "m", Basis: &device.Basis{Practical: json.RawMessage(`{"id":"x"}`)}})
	assert.Equal(t, -1, got.At)
	assert.NotEmpty(t, got.Fault)
	assert.Contains(t, string(j.JSON([]byte(`{`))), `"fault"`)
}

// Lines of a probe on a wire are judged as the server judges them.
func TestProbeLines(t *testing.T) {
	doc, err := examples.Files.ReadFile("formic-curve.json")
	require.NoError(t, err)
	var of struct{ Practical json.RawMessage }
	require.NoError(t, json.Unmarshal(doc, &of))
	var j device.Judge
	at := time.Date(2026, 11, 26, 10, 0, 0, 0, time.UTC)
	assert.True(t, j.Answer(device.Request{Notebook: "probe n", Lines: &[]string{}}).Lost)
	basis := &device.Basis{Practical: of.Practical}
	for i := range 30 {
		got := j.Answer(device.Request{Notebook: "probe n", Basis: basis, Lines: &[]string{`{"pH":4.56}`, ""}, Received: at.Add(time.Duration(i) * time.Second)})
		require.NotNil(t, got.Probe)
		assert.Equal(t, "4.56", got.Probe.Text)
		assert.Equal(t, i >= 4, got.Probe.Steady, "%d", i)
		basis = nil
	}
	got := j.Answer(device.Request{Notebook: "probe n", Lines: &[]string{"x"}, Received: at.Add(40 * time.Second)})
	assert.True(t, got.Probe.Gone)
	assert.Len(t, got.Probe.Says, 1)
}
