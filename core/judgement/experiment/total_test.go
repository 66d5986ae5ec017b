package experiment_test

import (
	"encoding/json"
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
)

// example is one of the files of docs/examples, with its journal.
type example struct {
	name    string
	ready   *practical.Ready
	entries []journal.Entry
}

func allExamples(t testing.TB) []example {
	var out []example
	for _, e := range practicaltest.Examples(t) {
		var entries []journal.Entry
		require.NoError(t, json.Unmarshal(e.Journal, &entries), e.Name)
		out = append(out, example{e.Name, e.Ready, entries})
	}
	return out
}

// anyEntry is any entry at all, sensible or not, about what was written so far.
func anyEntry(t *rapid.T, n int, ids []string) journal.Entry {
	id := func(what string) string {
		return rapid.SampledFrom(append([]string{"nothing-such"}, ids...)).Draw(t, what)
	}
	text := func(what string) string {
		return rapid.SampledFrom([]string{"0.00", "0", "24.40", "24,4", "-0.15", "48.05", "1e3", "", "twenty", "0.5000 g",
			"99999", "0.0000001"}).Draw(t, what)
	}
	var part journal.Part
	switch rapid.IntRange(0, 13).Draw(t, "kind") {
	case 0, 1:
		part = journal.Opening{Type: rapid.SampledFrom([]journal.TrialType{journal.Rough, journal.Accurate,
			journal.Accurate, journal.Blank, journal.Practice, journal.Repeat}).Draw(t, "type")}
	case 2, 3, 4, 5:
		places := []journal.Place{journal.Start, journal.End, journal.FirstEnd, journal.Provisional, journal.BeforeRefill,
			journal.AfterRefill,
			journal.SampleStart, journal.SampleEnd, journal.ReagentStart, journal.ReagentEnd}
		part = journal.Scale{Of: id("trial"), Place: rapid.SampledFrom(places).Draw(t, "place"), Written: text("reading")}
	case 13:
		part = journal.Prepared{Stock: text("stock"), Taken: text("taken"), MadeUp: text("whole")}
	case 12:
		part = journal.Belonging{Of: id("trial"), Sample: rapid.SampledFrom([]string{"kept cold", "kept warm",
			"no such"}).Draw(t, "sample")}
	case 6:
		part = journal.Exclusion{Of: id("trial"), Reason: "overshot"}
	case 7:
		part = journal.Weighing{What: "sample", Full: text("full"), Emptied: text("emptied"),
			Of: rapid.SampledFrom(append([]string{""}, ids...)).Draw(t, "trial")}
	case 8:
		part = journal.Correction{Replaces: id("entry"), Value: text("value"), Reason: "misread",
			Withdraw: rapid.Bool().Draw(t, "withdraw")}
	case 9:
		part = journal.Observation{About: rapid.SampledFrom([]journal.Observed{journal.EndColour, journal.Leak}).Draw(t,
			"about"), Written: rapid.SampledFrom([]string{"pale", "deep", "fading", "seen",
			"changed"}).Draw(t, "text"), Of: id("trial")}
	case 10:
		part = journal.Known{Written: text("known")}
	default:
		part = journal.Answer{Step: "n(HCl)", Written: text("answer"), Unit: "mol"}
	}
	return journal.Entry{ID: fmt.Sprintf("entry-%04d", n), Device: "bench-7", Clock: int64(n + 1), Part: part}
}

// Whatever is written in a notebook of whatever practical, an evaluation comes
// of it: nothing panics, every number is one, and it can be sent.
func TestAnyJournalIsEvaluated(t *testing.T) {
	all := allExamples(t)
	rapid.Check(t, func(t *rapid.T) {
		e := all[rapid.IntRange(0, len(all)-1).Draw(t, "example")]
		entries := append([]journal.Entry{}, e.entries[:rapid.IntRange(0, len(e.entries)).Draw(t, "begun")]...)
		var ids []string
		for _, x := range entries {
			if _, opening := x.Part.(journal.Opening); opening {
				ids = append(ids, x.ID)
			}
		}
		for range rapid.IntRange(0, 14).Draw(t, "entries") {
			x := anyEntry(t, 1000+len(entries), ids)
			if _, opening := x.Part.(journal.Opening); opening {
				ids = append(ids, x.ID)
			}
			entries = append(entries, x)
		}
		ev := experiment.Evaluate(e.ready, entries, experiment.All)
		_, err := json.Marshal(ev)
		require.NoError(t, err, e.name)
		require.NotEmpty(t, ev.Next.Say, e.name)
		if ev.Result != nil {
			assert.False(t, math.IsNaN(ev.Result.Answer.Value) || math.IsInf(ev.Result.Answer.Value, 0), e.name)
		}
		withheld := experiment.Evaluate(e.ready, entries, experiment.Record)
		assert.Nil(t, withheld.Result, e.name)
		assert.Nil(t, withheld.SoFar, e.name)
	})
}

// A notebook of ten thousand entries, and one of four hundred titres that
// disagree, are evaluated as any other.
func TestLargeJournals(t *testing.T) {
	var lines, apart []string
	for i := range 3333 {
		lines = append(lines, fmt.Sprintf("A 0.00 %d.%02d", 20+i%7, 5*(i%20)))
	}
	for i := range 400 {
		apart = append(apart, fmt.Sprintf("A 0.00 %.2f", 5+0.11*float64(i)))
	}
	many := evaluate(t, practicaltest.Plain(), lines...)
	assert.Len(t, many.Trials, 3333)
	assert.Equal(t, evaluation.Disagreeing, evaluate(t, practicaltest.Plain(), apart...).Stage)
}
