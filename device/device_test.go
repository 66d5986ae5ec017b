package device_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/experiment"
	"exactflask/core/journal"
	"exactflask/core/practical"
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
		want := view.Of(r, experiment.Evaluate(r, entries, experiment.All&^experiment.PartReference), style)
		for _, cut := range []int{0, len(entries) / 2, len(entries)} {
			got := j.Answer(device.Request{Practical: text, Entries: entries[:cut], Added: entries[max(0, cut-1):], Style: style})
			require.Empty(t, got.Fault, n.Name())
			assert.Equal(t, want, *got.Sheet, "%s, %d entries of which are with the server", n.Name(), cut)
		}
	}
}

// What is withheld from a student is not computed on the device either; own
// steps are judged there where the server judges them.
func TestWithheldOnTheDevice(t *testing.T) {
	text, entries := load(t, "buffer-dosing.json")
	var j device.Judge
	plain := j.Answer(device.Request{Practical: text, Entries: entries})
	require.NotNil(t, plain.Sheet.Answer)
	steps := plain.Sheet.Work
	own := journal.Entry{ID: "own-answer-1", Device: "d", Clock: 900, Part: journal.Answer{Step: steps[0].Step.Step, Written: "99.9", Unit: "mL"}}
	for _, judged := range []bool{true, false} {
		got := j.Answer(device.Request{Practical: text, Entries: entries, Added: []journal.Entry{own}, Withheld: true, Judged: judged})
		require.NotNil(t, got.Sheet)
		assert.Nil(t, got.Sheet.Answer)
		assert.True(t, got.Sheet.Withheld)
		assert.Equal(t, judged, got.Sheet.Work[0].Verdict != "")
	}
}

// What the server would refuse is told in words, with the entry that it is
// about; a request that cannot be read is told as well.
func TestRefusedOnTheDevice(t *testing.T) {
	text, entries := load(t, "buffer-dosing.json")
	var j device.Judge
	bad := journal.Entry{ID: "reading-bad-1", Device: "d", Clock: 901, Part: journal.Scale{Of: entries[0].ID, Place: journal.End, Written: "2.4.4"}}
	good := journal.Entry{ID: "note-good-01", Device: "d", Clock: 900, Part: journal.Remark{Written: "swirled"}}
	got := j.Answer(device.Request{Practical: text, Entries: entries, Added: []journal.Entry{good, bad}})
	assert.Nil(t, got.Sheet)
	assert.Equal(t, 1, got.At)
	assert.Contains(t, got.Fault, "two decimal points")
	got = j.Answer(device.Request{Practical: json.RawMessage(`{"id":"x"}`)})
	assert.Equal(t, -1, got.At)
	assert.NotEmpty(t, got.Fault)
	assert.Contains(t, string(j.JSON([]byte(`{`))), `"fault"`)
}
