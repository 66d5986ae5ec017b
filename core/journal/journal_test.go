package journal_test

import (
	"encoding/json"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"exactflask/core/journal"
)

// notebook writes entries with ids e-000001, e-000002 and so on.
type notebook struct {
	entries []journal.Entry
	device  string
}

func (n *notebook) add(e journal.Entry) string {
	e.Clock = int64(len(n.entries) + 1)
	e.ID = fmt.Sprintf("e-%06d", e.Clock)
	e.Device, e.At = "bench-7", time.Date(2026, 11, 24, 9, int(e.Clock%60), 0, 0, time.UTC)
	if n.device != "" {
		e.Device = n.device
	}
	n.entries = append(n.entries, e)
	return e.ID
}
func (n *notebook) open(t journal.TrialType) string {
	return n.add(journal.Entry{Kind: journal.KindTrial, Trial: &journal.Opening{Type: t}})
}
func (n *notebook) read(trial string, mark journal.Mark, text string) string {
	return n.add(journal.Entry{Kind: journal.KindReading, Reading: &journal.Scale{Trial: trial, Mark: mark, Text: text}})
}
func (n *notebook) correct(id, value, reason string) string {
	return n.add(journal.Entry{Kind: journal.KindCorrection, Correction: &journal.Correction{Replaces: id, Value: value, Withdraw: value == "", Reason: reason}})
}

func TestFoldKeepsEverythingInInk(t *testing.T) {
	var n notebook
	rough := n.open(journal.Rough)
	n.read(rough, journal.Start, "0.00")
	n.read(rough, journal.End, "24,40")
	first := n.open(journal.Accurate)
	n.read(first, journal.Start, "0.10")
	end := n.read(first, journal.End, "26.05")
	slip := n.correct(end, "25.95", "read the scale upward")
	n.correct(slip, "23.95", "mistyped the correction")
	n.read(first, journal.Start, "0.15") // run off, read again
	aside := n.add(journal.Entry{Kind: journal.KindSetAside, SetAside: &journal.Exclusion{Trial: first, Reason: "overshot"}})
	n.add(journal.Entry{Kind: journal.KindNote, Note: &journal.Remark{Text: "tap stiff"}})

	rec := journal.Fold(n.entries)
	require.Len(t, rec.Trials, 2)
	titre, ok := rec.Trials[0].Titre()
	require.True(t, ok)
	assert.Equal(t, "24.40", titre.String(), "the digits that were written stay")
	tr := rec.Trials[1]
	titre, _ = tr.Titre()
	assert.Equal(t, "23.80", titre.String())
	assert.Equal(t, []string{"26.05", "25.95"}, []string{tr.Struck.End[0].Text, tr.Struck.End[1].Text})
	assert.Equal(t, "read the scale upward", tr.Struck.End[0].Reason)
	assert.Equal(t, "0.10", tr.Struck.Start[0].Text)
	assert.Equal(t, "overshot", tr.SetAside.Reason)
	assert.Len(t, rec.Notes, 1)
	assert.EqualValues(t, len(n.entries), rec.Clock)

	n.correct(aside, "", "it was the other trial")
	assert.Nil(t, journal.Fold(n.entries).Trials[1].SetAside, "setting aside can be withdrawn")
	n.correct(first, "rough", "swirled badly, meant as rough")
	again := journal.Fold(n.entries)
	assert.Equal(t, journal.Rough, again.Trials[1].Type)
	assert.Equal(t, 2, again.Trials[1].Number)
	n.correct(n.open(journal.Accurate), "", "pressed twice")
	again = journal.Fold(n.entries)
	assert.True(t, again.Trials[2].Withdrawn, "a withdrawn trial stays in view")
	second := n.read(first, journal.End, "30.00")
	n.correct(second, "", "that was the other burette")
	assert.Equal(t, "23.95", journal.Fold(n.entries).Trials[1].End.Text, "what stood before stands again")
}

func TestFoldFlagsWhatFitsNowhere(t *testing.T) {
	var n notebook
	n.read("no-such-trial", journal.Start, "0.00")
	n.correct("no-such-entry", "1.00", "why")
	a, b := n.correct("e-000004", "1.00", "circle"), n.correct("e-000003", "1.00", "circle")
	require.NotEqual(t, a, b)
	n.add(journal.Entry{Kind: journal.KindReading})
	rec := journal.Fold(n.entries)
	var codes []string
	for _, f := range rec.Findings {
		codes = append(codes, f.Code)
	}
	assert.ElementsMatch(t, []string{"entry.orphan", "entry.orphan", "entry.orphan", "entry.orphan", "entry.unreadable"}, codes)
}

// Any order and any repetition of the same entries folds to the same record.
func TestFoldIsOrderless(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := notebook{}
		var trials, readings []string
		for range rapid.IntRange(1, 25).Draw(t, "entries") {
			n.device = rapid.SampledFrom([]string{"tablet", "phone"}).Draw(t, "device")
			switch {
			case len(trials) == 0 || rapid.IntRange(0, 4).Draw(t, "open") == 0:
				trials = append(trials, n.open(rapid.SampledFrom([]journal.TrialType{journal.Rough, journal.Accurate}).Draw(t, "type")))
			case len(readings) > 0 && rapid.Bool().Draw(t, "correct"):
				readings = append(readings, n.correct(rapid.SampledFrom(readings).Draw(t, "which"), rapid.SampledFrom([]string{"", "10.00", "11.05"}).Draw(t, "value"), "slip"))
			default:
				mark := rapid.SampledFrom([]journal.Mark{journal.Start, journal.End}).Draw(t, "mark")
				readings = append(readings, n.read(rapid.SampledFrom(trials).Draw(t, "trial"), mark, rapid.SampledFrom([]string{"0.00", "24,40", "1.5"}).Draw(t, "text")))
			}
			if rapid.Bool().Draw(t, "same clock") { // two devices may count alike
				n.entries[len(n.entries)-1].Clock = max(1, n.entries[len(n.entries)-1].Clock-1)
			}
		}
		want := journal.Fold(n.entries)
		shuffled := rapid.Permutation(append(append([]journal.Entry{}, n.entries...), n.entries...)).Draw(t, "order")
		assert.Equal(t, want, journal.Fold(shuffled))
	})
}

func TestCheckNamesThePlace(t *testing.T) {
	good := func() journal.Entry {
		return journal.Entry{ID: "e-000009", Device: "d", Clock: 1, Kind: journal.KindReading, Reading: &journal.Scale{Trial: "e-000001", Mark: journal.Start, Text: "0.00"}}
	}
	require.Nil(t, good().Check())
	for _, c := range []struct {
		path, says string
		spoil      func(*journal.Entry)
	}{
		{"id", "8 to 64", func(e *journal.Entry) { e.ID = "x" }},
		{"id", "letters", func(e *journal.Entry) { e.ID = "<script>aa" }},
		{"device", "nothing", func(e *journal.Entry) { e.Device = "" }},
		{"clock", "from 1", func(e *journal.Entry) { e.Clock = 0 }},
		{"kind", "photo", func(e *journal.Entry) { e.Kind = "photo" }},
		{"kind", "missing", func(e *journal.Entry) { e.Reading = nil }},
		{"kind", "also holds", func(e *journal.Entry) { e.Note = &journal.Remark{Text: "x"} }},
		{"reading.text", "no", func(e *journal.Entry) { e.Reading.Text = "twenty" }},
		{"reading.text", "two decimal points", func(e *journal.Entry) { e.Reading.Text = "24.4.0" }},
		{"reading.text", "at most 24", func(e *journal.Entry) { e.Reading.Text = "1111111111111111111111111" }},
		{"reading.mark", "middle", func(e *journal.Entry) { e.Reading.Mark = "middle" }},
		{"reading.trial", "8 to 64", func(e *journal.Entry) { e.Reading.Trial = "" }},
	} {
		e := good()
		c.spoil(&e)
		f := e.Check()
		require.NotNil(t, f, c.says)
		assert.Equal(t, c.path, f.Path)
		assert.Contains(t, f.Problem, c.says)
	}
	var n notebook
	trial := n.open(journal.Rough)
	reading := n.read(trial, journal.Start, "0.00")
	known := map[string]journal.Entry{trial: n.entries[0], reading: n.entries[1]}
	assert.Nil(t, n.entries[1].CheckAgainst(known))
	n.correct(reading, "much", "why")
	assert.Equal(t, "correction.value", n.entries[2].CheckAgainst(known).Path)
	n.read("e-000002", journal.End, "1.00")
	assert.Equal(t, "reading.trial", n.entries[3].CheckAgainst(known).Path)
}

func FuzzFold(f *testing.F) {
	var n notebook
	trial := n.open(journal.Rough)
	n.correct(n.read(trial, journal.Start, "0.00"), "0.05", "slip")
	text, err := json.Marshal(n.entries)
	require.NoError(f, err)
	f.Add(text)
	f.Fuzz(func(t *testing.T, text []byte) {
		var entries []journal.Entry
		if json.Unmarshal(text, &entries) == nil {
			journal.Fold(entries)
		}
	})
}
