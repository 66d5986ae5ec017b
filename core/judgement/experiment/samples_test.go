package experiment_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/finding"
)

// compared is the plain practical on three samples; trials are lines such as
// "A 0.00 23.80" with the sample they are of.
func compared(t testing.TB, lines ...[2]string) evaluation.Evaluation {
	p := changed(func(p *practical.Practical) {
		p.Samples = []practical.Sample{{Name: "cold", Control: true}, {Name: "warm"}, {Name: "light"}}
	})
	var text []string
	for _, l := range lines {
		text = append(text, l[0])
	}
	all := entries(text...)
	k := 0
	for _, e := range entries(text...) {
		if _, ok := e.Part.(journal.Opening); ok {
			if name := lines[k][1]; name != "" {
				all = add(all, journal.Entry{Part: journal.Belonging{Of: e.ID, Sample: name}})
			}
			k++
		}
	}
	return of(t, p, all)
}

// Trials are judged, steered and answered by their samples. Source: common
// practice, no source.
func TestSamplesEachByItself(t *testing.T) {
	// 23.80 and 23.85 agree, and so do 16.10 and 16.15; all four would not.
	ev := compared(t, [2]string{"R 0.00 24.40", "cold"}, [2]string{"A 0.00 23.80", "cold"},
		[2]string{"A 23.80 47.65", "cold"}, [2]string{"A 0.00 16.10", "warm"}, [2]string{"A 16.10 32.25", "warm"},
		[2]string{"A 0.00 9.00", ""})
	require.Len(t, ev.Samples, 3)
	assert.Equal(t, []agreement.Status{agreement.Agreed, agreement.Agreed, agreement.TooFew},
		[]agreement.Status{ev.Samples[0].Agreement.Status, ev.Samples[1].Agreement.Status, ev.Samples[2].Agreement.Status})
	assert.InDelta(t, 0.0953, ev.Samples[0].Result.Answer.Value, 0.00005)
	assert.InDelta(t, 0.0645, ev.Samples[1].Result.Answer.Value, 0.00005)
	assert.Nil(t, ev.Samples[2].Result)
	assert.Nil(t, ev.Result, "there is no single answer")
	assert.Equal(t, evaluation.OutWhichSample, ev.Trials[5].Reason)
	assert.True(t, ev.Trials[1].Counts && ev.Trials[3].Counts)
	assert.Equal(t, evaluation.OutRough, ev.Trials[0].Reason)
	require.NotNil(t, ev.Next.Entry)
	assert.Equal(t, "light", ev.Next.Entry.Sample, "the first that has not agreed")
	assert.Equal(t, journal.Rough, ev.Next.Entry.Opens, "of which there is no rough trial yet")
	assert.NotEqual(t, evaluation.Agreed, ev.Stage)
	for _, f := range ev.Findings {
		assert.NotEqual(t, "titre.beyond-rough", f.Code, "the rough trial was of another sample")
		assert.NotEqual(t, finding.Warning, f.Severity, f.Code)
	}
	steps := map[string]bool{}
	for _, w := range ev.Work {
		steps[w.Sample] = true
		assert.Contains(t, []string{"1:", "2:"}, w.Step[:2])
	}
	assert.Len(t, steps, 2, "own working of each sample that has agreed")
}

// A blank has no sample to measure and is of none of those that are compared; a repeat
// without indicator is for a salt.
func TestTrialsThatMayBeOpened(t *testing.T) {
	said := func(ev evaluation.Evaluation) (out []string) {
		for _, o := range ev.Next.Entry.May {
			out = append(out, fmt.Sprint(o.Type, " ", o.Place, " ", o.Sample))
		}
		return out
	}
	assert.Equal(t, []string{"rough start true", "accurate start true", "blank start false", "practice start true"}, said(compared(t)))
	p := practicaltest.Plain()
	p.Chemistry.Salt = "NaCl"
	assert.Equal(t, []string{"rough start false", "accurate start false", "blank start false", "practice start false", "repeat start false"},
		said(evaluate(t, p)))
	p = practicaltest.Plain()
	p.Route[0].By = practical.ByBurette
	p.Rules.Agreement = practical.AgreementRule{Kind: practical.Relative, Need: 2}
	assert.Equal(t, []string{"rough sample-start false", "accurate sample-start false", "blank start false", "practice sample-start false"},
		said(evaluate(t, p)))
	assert.Empty(t, said(of(t, practicaltest.Plain(), add(nil, open(journal.Rough)))), "one is open")
}

// What both samples share does not count in their difference. Source: JCGM
// 100:2008, 5.2, by hand on the budgets.
func TestDifferenceFromTheControl(t *testing.T) {
	run := func(a, b string) *evaluation.Difference {
		ev := compared(t, [2]string{"A 0.00 23.80", "cold"}, [2]string{"A 0.00 23.85", "cold"},
			[2]string{"A 0.00 " + a, "warm"}, [2]string{"A 0.00 " + b, "warm"})
		require.NotNil(t, ev.Samples[1].Difference)
		d, one := ev.Samples[1].Difference, ev.Samples[1].Result.Budget.Expanded
		other := ev.Samples[0].Result.Budget.Expanded
		assert.Less(t, d.Expanded, math.Hypot(one, other), "burette, pipette and titrant are shared")
		assert.Nil(t, ev.Samples[0].Difference, "the control has none")
		return d
	}
	same := run("23.80", "23.85")
	assert.Zero(t, same.Value)
	assert.False(t, same.Clear)
	less := run("16.10", "16.15")
	assert.InDelta(t, -32.3, less.Percent, 0.1)
	assert.True(t, less.Clear)
	near := run("23.85", "23.90")
	assert.False(t, near.Clear, "0.05 mL are within it")
	assert.Positive(t, near.Value)
}

// Samples that cannot be compared are refused where they stand.
func TestSamplesAreChecked(t *testing.T) {
	name := func(names ...string) (out []practical.Sample) {
		for _, n := range names {
			out = append(out, practical.Sample{Name: n})
		}
		return out
	}
	for code, samples := range map[string][]practical.Sample{"samples.few": name("a"), "samples.names": name("a", "a"),
		"samples.controls": {{Name: "a", Control: true}, {Name: "b", Control: true}}, "": name("a", "b")} {
		p := practicaltest.Plain()
		p.Samples = samples
		_, fault := p.Check()
		if code == "" {
			assert.Nil(t, fault)
		} else if assert.NotNil(t, fault, code) {
			assert.Equal(t, code, fault.Message.Code)
		}
	}
}

// summarised is the summary of a whole evaluation, with what only the contents say.
func summarised(r *practical.Ready, entries []journal.Entry) evaluation.Summary {
	c := journal.Fold(entries)
	ev := experiment.Of(r, c, experiment.All)
	record := experiment.Of(r, c, experiment.Record)
	record.Result, record.Work = ev.Result, ev.Work
	s := experiment.Summarise(r, record, entries)
	if c.Known != nil {
		s.Known = c.Known.Part.(journal.Known).Written
	}
	for _, l := range record.Log {
		if o, is := l.Said.Values["about"]; is && !l.Withdrawn && o.String() == "observation.batch" {
			s.Bottle = l.Said.Values["text"].String()
		}
	}
	return s
}

// The summary that is kept with every append says what that of a whole evaluation of
// the record says.
func TestSummaryIsThatOfTheRecord(t *testing.T) {
	for _, e := range allExamples(t) {
		for cut := range len(e.entries) + 1 {
			some := e.entries[:cut]
			assert.Equal(t, summarised(e.ready, some),
				experiment.Begin(e.ready, journal.Fold(some)).Summary(some), "%s, %d entries", e.name, cut)
		}
	}
}
