package handin_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/judgement/handin"
	"exactflask/core/practice/sim"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
)

func at(minute int) time.Time { return time.Date(2026, 11, 24, 10, minute, 0, 0, time.UTC) }

func codes(ev evaluation.Evaluation) (out []string) {
	for _, l := range handin.Lacks(ev) {
		out = append(out, l.Code)
	}
	return out
}

// What a report lacks, from an empty notebook to a whole one: nothing is left that was
// done, and everything is named that was not.
func TestLacks(t *testing.T) {
	p := practicaltest.Plain()
	p.Report = practical.ReportRule{Leave: []string{"differently"}, Own: []string{"What did you assume?"}}
	r, fault := p.Check()
	require.Nil(t, fault)
	assert.Equal(t, []string{"lack.trials", "lack.setup", "lack.cleanup", "lack.passage", "lack.passage", "lack.passage"},
		codes(experiment.Evaluate(r, nil, experiment.All)))
	entries, err := sim.Titrate(r, sim.Student{Seed: 3, Skill: sim.Careful, Device: "d", Begin: at(0)})
	require.NoError(t, err)
	add := func(id string, part journal.Part) {
		entries = append(entries, journal.Entry{ID: id, Device: "e", Clock: int64(1000 + len(entries)), At: at(30), Part: part})
	}
	now := func() []string { return codes(experiment.Evaluate(r, entries, experiment.All)) }
	assert.Equal(t, []string{"lack.cleanup", "lack.work", "lack.passage", "lack.passage", "lack.passage"}, now())
	for _, item := range r.Cleanup() {
		add("done-"+item, journal.Checked{Item: item})
	}
	for _, step := range experiment.Evaluate(r, entries, experiment.All).Work {
		add("answer-"+step.Step, journal.Answer{Step: step.Step, Written: "1"})
	}
	add("method-1", journal.Passage{Prompt: journal.Method, Written: "I titrated."})
	add("explain-1", journal.Passage{Prompt: journal.Explain, Written: "A drop."})
	assert.Equal(t, []string{"lack.passage"}, now())
	add("own-passage", journal.Passage{Prompt: "own-1", Written: "Nothing."})
	assert.Empty(t, now())
	add("method-2", journal.Passage{Prompt: journal.Method, Written: "I titrated with care.", Over: []string{"method-1"}})
	assert.Empty(t, now(), "typed over the first")
	add("method-3", journal.Passage{Prompt: journal.Method, Written: "We titrated.", Over: []string{"method-1"}})
	assert.Equal(t, []string{"lack.twice"}, now(), "typed over the first elsewhere: both stand")
	add("method-4", journal.Passage{Prompt: journal.Method, Written: "Both.", Over: []string{"method-2", "method-3"}})
	assert.Empty(t, now())
	add("method-5", journal.Passage{Prompt: journal.Method, Over: []string{"method-4"}})
	assert.Equal(t, []string{"lack.passage"}, now(), "emptied")
}

// How much is lacking is counted.
func TestLacksAreCounted(t *testing.T) {
	r, fault := practicaltest.Plain().Check()
	require.Nil(t, fault)
	said := func(entries []journal.Entry) map[string]string {
		out := map[string]string{}
		for _, l := range handin.Lacks(experiment.Evaluate(r, entries, experiment.All)) {
			out[l.Code] = fmt.Sprint(l.Where, " ", l.Values["count"])
		}
		return out
	}
	assert.Equal(t, "bench 2", said(nil)["lack.trials"], "two that agree")
	assert.Equal(t, fmt.Sprint("bench ", len(r.Setup())), said(nil)["lack.setup"])
	assert.Equal(t, fmt.Sprint("bench ", len(r.Cleanup())), said(nil)["lack.cleanup"])
	var entries []journal.Entry
	add := func(parts ...journal.Part) {
		for _, part := range parts {
			n := int64(len(entries) + 1)
			entries = append(entries, journal.Entry{ID: fmt.Sprintf("entry-%03d", n), Device: "d", Clock: n, At: at(0), Part: part})
		}
	}
	trial := func(end string) {
		of := fmt.Sprintf("entry-%03d", len(entries)+1)
		add(journal.Opening{Type: journal.Accurate}, journal.Scale{Of: of, Place: journal.Start, Written: "0.00"}, journal.Scale{Of: of, Place: journal.End, Written: end})
	}
	trial("23.80")
	assert.Equal(t, "bench 1", said(entries)["lack.trials"])
	trial("25.00")
	assert.Equal(t, "bench 1", said(entries)["lack.trials"], "they do not agree: one more at least")
	trial("23.80")
	assert.NotContains(t, said(entries), "lack.trials")
	add(journal.Checked{Item: r.Cleanup()[0]})
	assert.Equal(t, fmt.Sprint("bench ", len(r.Cleanup())-1), said(entries)["lack.cleanup"])
}

// Of several samples those are named that have not agreed, none once all have.
func TestSamplesThatLack(t *testing.T) {
	said := func(status ...agreement.Status) (out []string) {
		ev := evaluation.Evaluation{Stage: evaluation.Measuring}
		for i, s := range status {
			ev.Samples = append(ev.Samples, evaluation.Sampled{Name: string(rune('A' + i)), Agreement: evaluation.Agreement{Status: s}})
		}
		for _, l := range handin.Lacks(ev) {
			out = append(out, fmt.Sprint(l.Code, l.Values))
		}
		return out
	}
	assert.Equal(t, []string{"lack.trialsmap[count:1]"}, said(), "at least one")
	assert.Empty(t, said(agreement.Agreed, agreement.Agreed))
	assert.Equal(t, []string{"lack.samplesmap[names:B]"}, said(agreement.Agreed, agreement.Disagree))
	assert.Equal(t, []string{"lack.samplesmap[names:A, B]"}, said(agreement.TooFew, agreement.Disagree))
	assert.Equal(t, "passage.asked", handin.Named(practical.Passage{Text: "Why?"}).Code)
	assert.Equal(t, "passage.explain", handin.Named(practical.Passage{Prompt: journal.Explain}).Code)
}

// An odd reading wants a note, of its trial or of the whole.
func TestOddReadingsWantANote(t *testing.T) {
	r, fault := practicaltest.Plain().Check()
	require.Nil(t, fault)
	open := journal.Entry{ID: "trial-one", Device: "d", Clock: 1, At: at(0), Part: journal.Opening{Type: journal.Accurate}}
	entries := []journal.Entry{open,
		{ID: "the-start", Device: "d", Clock: 2, At: at(1), Part: journal.Scale{Of: open.ID, Place: journal.Start, Written: "20.00"}},
		{ID: "the-end-1", Device: "d", Clock: 3, At: at(2), Part: journal.Scale{Of: open.ID, Place: journal.End, Written: "1.00"}}}
	assert.Contains(t, codes(experiment.Evaluate(r, entries, experiment.All)), "lack.odd")
	for _, of := range []string{"", open.ID} {
		noted := append(entries[:3:3], journal.Entry{ID: "the-note-1", Device: "d", Clock: 4, At: at(3), Part: journal.Remark{Of: of, Written: "the tap"}})
		assert.NotContains(t, codes(experiment.Evaluate(r, noted, experiment.All)), "lack.odd")
	}
}

func TestTimed(t *testing.T) {
	none := time.Time{}
	for _, c := range []struct {
		due, until time.Time
		again      bool
		want       handin.Timing
	}{
		{none, none, false, handin.InTime}, {at(30), none, false, handin.InTime}, {at(29), none, false, handin.Late},
		{at(29), at(30), false, handin.Late}, {at(28), at(29), false, handin.TooLate}, {none, at(29), false, handin.TooLate},
		{at(28), at(29), true, handin.Late},
	} {
		assert.Equal(t, c.want, handin.Timed(at(30), c.due, c.until, c.again), c)
	}
}

func TestTakesNotesOnly(t *testing.T) {
	assert.True(t, journal.Afterwards(journal.Entry{Part: journal.Remark{Written: "x"}}))
	for _, p := range []journal.Part{journal.Opening{}, journal.Scale{}, journal.Passage{}, journal.Picture{}, journal.Correction{},
		journal.Answer{}, journal.Checked{}} {
		assert.False(t, journal.Afterwards(journal.Entry{Part: p}), p.Kind())
	}
}

// A photograph that is asked for is lacking until one is taken of just that.
func TestPhotographsAskedFor(t *testing.T) {
	p := practicaltest.Plain()
	p.Report = practical.ReportRule{Evidence: []string{"label", "end-colour", journal.OwnItem("the rinsed tip")}}
	r, fault := p.Check()
	require.Nil(t, fault)
	var entries []journal.Entry
	lacking := func() string {
		for _, l := range handin.Lacks(experiment.Evaluate(r, entries, experiment.All)) {
			if l.Code == "lack.evidence" {
				return fmt.Sprint(l.Values["names"])
			}
		}
		return ""
	}
	take := func(of string) {
		n := int64(len(entries) + 1)
		entries = append(entries, journal.Entry{ID: fmt.Sprintf("entry-%03d", n), Device: "d", Clock: n, At: at(0),
			Part: journal.Picture{Hash: strings.Repeat("a", 64), Width: 1, Height: 1, Of: of}})
	}
	all := lacking()
	for _, name := range []string{"evidence.label", "evidence.end-colour", "the rinsed tip"} {
		assert.Contains(t, all, name)
	}
	take("")
	assert.Equal(t, all, lacking(), "a picture of something else")
	take("label")
	assert.NotContains(t, lacking(), "evidence.label")
	take("end-colour")
	take(journal.OwnItem("the rinsed tip"))
	assert.Empty(t, lacking())
	for _, bad := range [][]string{{"sky"}, {"="}, {journal.OwnItem(strings.Repeat("a", 81))}, {"label", "label"}} {
		p.Report.Evidence = bad
		_, fault = p.Check()
		assert.NotNil(t, fault, bad)
	}
	p.Report.Evidence = []string{journal.OwnItem(strings.Repeat("a", 80))}
	_, fault = p.Check()
	assert.Nil(t, fault)
}
