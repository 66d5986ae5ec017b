package device_test

import (
	"encoding/json"
	"fmt"
	"strings"
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
	"exactflask/wording"
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
		basis := experiment.Begin(r, journal.Fold(entries))
		want, _, err := view.Changes(view.Of(r, basis.Of(basis.Granted(experiment.Reader{})), style), nil)
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

// What is withheld from a student is not computed on the device either, until what opens it
// on the server has happened here.
func TestWithheldOnTheDevice(t *testing.T) {
	text, entries := load(t, "buffer-dosing.json")
	with := func(show practical.When) json.RawMessage {
		var p practical.Practical
		require.NoError(t, json.Unmarshal(text, &p))
		p.Showing.Results = show
		out, err := json.Marshal(p)
		require.NoError(t, err)
		return out
	}
	for _, c := range []struct {
		name  string
		basis device.Basis
		shown bool
	}{
		{"always", device.Basis{Practical: with(practical.Always)}, true},
		{"after an attempt", device.Basis{Practical: with(practical.AfterAttempt)}, false},
		{"after marking", device.Basis{Practical: with(practical.AfterMarking)}, false},
		{"marked", device.Basis{Practical: with(practical.AfterMarking), Released: true}, true},
		{"to who teaches", device.Basis{Practical: with(practical.AfterMarking), Teaches: true}, true},
	} {
		var j device.Judge
		got := sheetOf(t, j.Answer(device.Request{Notebook: "n", Basis: &c.basis, Entries: entries, Sent: len(entries)}).Sheet)
		assert.Equal(t, c.shown, got.Answer != nil, c.name)
		assert.Equal(t, !c.shown, got.Withheld, c.name)
	}
	var j device.Judge
	basis := device.Basis{Practical: with(practical.AfterAttempt)}
	first := j.Answer(device.Request{Notebook: "n", Basis: &basis, Entries: entries, Sent: len(entries)})
	steps, changes := sheetOf(t, first.Sheet).Work, []view.SheetChange{first.Sheet}
	require.NotEmpty(t, steps)
	p, err := practical.Decode(text)
	require.NoError(t, err)
	r, fault := p.Check()
	require.Nil(t, fault)
	whole := experiment.Evaluate(r, entries, experiment.All).Result
	require.NotNil(t, whole)
	for i, s := range steps {
		node, ok := whole.Derivation.Node(s.Step.Step)
		require.True(t, ok, s.Step.Step)
		own := journal.Entry{ID: fmt.Sprintf("own-answer-%d", i), Device: "d", Clock: int64(900 + i), Part: journal.Answer{Step: s.Step.Step, Written: node.Quantity.String(), Unit: string(node.Quantity.Unit)}}
		got := j.Answer(device.Request{Notebook: "n", Entries: []journal.Entry{own}})
		require.Empty(t, got.Fault)
		changes = append(changes, got.Sheet)
		assert.Equal(t, i == len(steps)-1, sheetOf(t, changes...).Answer != nil, "after own step %d of %d", i+1, len(steps))
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
	far := journal.Entry{ID: "known-far-01", Device: "d", Clock: 900, Part: journal.Known{Written: "1.013", Uncertainty: "0.001", From: "another"}}
	tried = j.Answer(device.Request{Notebook: "n", Entries: []journal.Entry{good, far}, Try: true})
	assert.Contains(t, tried.Doubt, "Was 0.1013", "it is asked about before it is written")
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

// Whatever the server refuses, the device refuses, in the same words: both ask one ledger.
func TestRefusedAsOnTheServer(t *testing.T) {
	text, entries := load(t, "buffer-dosing.json")
	clock := int64(0)
	for _, e := range entries {
		clock = max(clock, e.Clock)
	}
	remark := func(id string, clock int64, text string) journal.Entry {
		return journal.Entry{ID: id, Device: "d", Clock: clock, Part: journal.Remark{Written: text}}
	}
	reading := func(of, text string) journal.Entry {
		return journal.Entry{ID: "reading-bad-1", Device: "d", Clock: 901, Part: journal.Scale{Of: of, Place: journal.End, Written: text}}
	}
	for _, c := range []struct {
		code     string // empty where it is taken
		handedIn bool
		added    journal.Entry
	}{
		{"", false, remark("remark-0001", 901, "swirled")},
		{"number.two-points", false, reading(entries[0].ID, "2.4.4")},
		{"entry.trial-missing", false, reading("no-such-trial", "2.44")},
		{"entry.id-taken", false, remark(entries[0].ID, 901, "something else")},
		{"entry.id-length", false, remark("short", 901, "swirled")},
		{"", false, remark("remark-0002", clock+journal.MostAhead, "swirled")},
		{"entry.clock-ahead", false, remark("remark-0003", clock+journal.MostAhead+1, "swirled")},
		{"correction.target", false, journal.Entry{ID: "corrects-1", Device: "d", Clock: 901, Part: journal.Correction{Replaces: "no-such-entry", Value: "1", Reason: "slip"}}},
		{"", true, remark("remark-0004", 901, "swirled")},
		{"entry.after-hand-in", true, reading(entries[0].ID, "24.40")},
		{"notebook.large", false, remark("remark-0005", 901, strings.Repeat("x", 2000))},
	} {
		all := entries
		if c.code == "notebook.large" {
			for i, bytes := 0, journal.Size(all...); bytes < journal.MostBytes-2000; i++ {
				all = append(all, remark(fmt.Sprintf("filling-%06d", i), 900, strings.Repeat("x", 1700)))
				bytes += journal.Size(all[len(all)-1])
			}
		}
		ledger := journal.NewLedger(all, journal.Size(all...))
		ledger.HandedIn = c.handedIn
		_, _, fault := ledger.Accept([]journal.Entry{c.added})
		want := device.Answer{At: -1}
		if fault != nil {
			assert.Equal(t, c.code, fault.Code)
			want.At, want.Fault = 0, wording.For().Say(fault.Message)
		}
		require.Equal(t, c.code != "", fault != nil, "%s %v", c.code, fault)
		var j device.Judge
		j.Answer(device.Request{Notebook: "n", Basis: &device.Basis{Practical: text, HandedIn: c.handedIn}, Entries: all, Sent: len(all)})
		assert.Equal(t, want, j.Answer(device.Request{Notebook: "n", Entries: []journal.Entry{c.added}, Try: true}), c.code)
	}
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
