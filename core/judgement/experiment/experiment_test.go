package experiment_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
)

// Source: common practice, no source.
func TestEvaluateFromReadingsToConcentration(t *testing.T) {
	ev := evaluate(t, practicaltest.Plain(), "R 0.00 24.40", "A 0.00 23.85", "A 0.00 23.80", "A 0.00 23.80")
	assert.Equal(t, "23.82", ev.Agreement.Mean.String(), "the rough is left out")
	require.NotNil(t, ev.Result)
	assert.Equal(t, "0.0953", ev.Result.Answer.String())
	assert.Equal(t, evaluation.OutRough, ev.Trials[0].Reason)
	assert.Equal(t, evaluation.Agreed, ev.Stage)
	assert.Empty(t, ev.Findings)

	p := practicaltest.Plain()
	p.Rules.Figures = 2
	assert.Equal(t, "0.095", evaluate(t, p, "A 0.00 23.85", "A 0.00 23.80").Result.Answer.String())
	p.Chemistry.Analyte.Approximate = decimal.Must("0.0475")
	far := evaluate(t, p, "A 0.00 23.85", "A 0.00 23.80")
	require.Len(t, far.Findings, 1)
	assert.Equal(t, "result.far-from-expected", far.Findings[0].Code)
	r, _ := p.Check()
	assert.Empty(t, experiment.Evaluate(r, entries("A 0.00 23.85", "A 0.00 23.80"), experiment.Record).Findings,
		"no finding gives a withheld result away")
}

// What each notebook says first, and what is expected next.
func TestStagesAndNext(t *testing.T) {
	hidden, zero, noRough, blind := practicaltest.Plain(), practicaltest.Plain(), practicaltest.Plain(), practicaltest.Plain()
	hidden.Showing.HideExpected, zero.Rules.Readings.StartAtZero, noRough.Rules.Readings.NoRough = true, true, true
	blind.Chemistry.Analyte.Approximate = decimal.Decimal{}
	large := practicaltest.Plain()
	large.Chemistry.Analyte.Approximate = decimal.Must("0.3")
	for _, c := range []struct {
		name     string
		p        practical.Practical
		lines    []string
		stage    evaluation.Stage
		code     string
		expects  string // type to open or mark, with the proposal
		slow, at string
	}{
		{"nothing yet", practicaltest.Plain(), nil, evaluation.Untouched, "next.setup", "rough start ", "", ""},
		{"no rough wanted", noRough, nil, evaluation.Untouched, "next.setup", "accurate start ", "", ""},
		{"rough opened", practicaltest.Plain(), []string{"R"}, evaluation.Measuring, "next.read-start", " start ", "", ""},
		{"rough running, expected from the plan", practicaltest.Plain(), []string{"R 0.00"}, evaluation.Measuring, "next.run-rough",
			" end ", "21.75", "23.75"},
		{"nothing to expect from", blind, []string{"R 0.00"}, evaluation.Measuring, "next.run-rough-blind", " end ", "", ""},
		{"rough done, half the burette left", practicaltest.Plain(), []string{"R 0.00 24.40"}, evaluation.RoughOnly, "next.accurate",
			"accurate start 24.40", "", ""},
		{"rough done, too little left", practicaltest.Plain(), []string{"R 2.00 26.40"}, evaluation.RoughOnly, "next.accurate",
			"accurate start ", "", ""},
		{"every trial starts at zero", zero, []string{"R 0.00 24.40"}, evaluation.RoughOnly, "next.accurate",
			"accurate start ", "", ""},
		{"running, expected from the rough", practicaltest.Plain(), []string{"R 0.00 24.40", "A 0.50"}, evaluation.RoughOnly, "next.run",
			" end ", "21.90", "24.90"},
		{"too low on the burette: fill first", practicaltest.Plain(), []string{"R 0.00 24.40", "A 49.90"}, evaluation.RoughOnly,
			"next.fill-first", " end ", "", ""},
		{"more than a burette holds: filling is of no use", large, []string{"R 0.00"}, evaluation.Measuring, "next.fill-within",
			" end ", "", ""},
		{"low, but within reach", practicaltest.Plain(), []string{"R 0.00 24.40", "A 25.60"}, evaluation.RoughOnly, "next.run",
			" end ", "47.00", "50.00"},
		{"an accurate trial steers before the rough", practicaltest.Plain(), []string{"R 0.00 24.50", "A 0.00 23.80", "A 0.00"},
			evaluation.Measuring, "next.run", " end ", "21.80", "23.80"},
		{"expectation hidden", hidden, []string{"R 0.00 24.40", "A 0.50"}, evaluation.RoughOnly, "next.run-blind", " end ",
			"", ""},
		{"one accurate", practicaltest.Plain(), []string{"R 0.00 24.40", "A 0.00 23.80"}, evaluation.Measuring, "next.accurate",
			"accurate start 23.80", "", ""},
		{"two that disagree", practicaltest.Plain(), []string{"R 0.00 24.40", "A 0.00 23.80", "A 0.00 24.00"}, evaluation.Disagreeing,
			"next.disagree", "accurate start 24.00", "", ""},
		{"two equal sets", practicaltest.Plain(), []string{"A 0.00 22.10", "A 0.00 22.20", "A 0.00 22.30"}, evaluation.Agreed,
			"next.agreed", "accurate start ", "", ""},
		{"agreed", practicaltest.Plain(), []string{"R 0.00 24.40", "A 0.00 23.80", "A 0.00 23.90"}, evaluation.Agreed, "next.agreed",
			"accurate start ", "", ""},
		{"set aside", practicaltest.Plain(), []string{"R 0.00 24.40", "A 0.00 23.80", "A 0.00 23.90 bubble"}, evaluation.Measuring,
			"next.accurate", "accurate start 23.90", "", ""},
		{"end before start", practicaltest.Plain(), []string{"R 0.00 24.40", "A 24.00 0.50"}, evaluation.Measuring, "next.check-readings",
			"accurate start 0.50", "", ""},
		{"rough set aside: another is asked for", practicaltest.Plain(), []string{"R 0.00 24.40 bubble"}, evaluation.RoughOnly,
			"next.rough", "rough start 24.40", "", ""},
	} {
		ev := evaluate(t, c.p, c.lines...)
		assert.Equal(t, c.stage, ev.Stage, c.name)
		assert.Equal(t, c.code, ev.Next.Code(), c.name)
		require.NotNil(t, ev.Next.Entry, c.name)
		assert.Equal(t, c.expects, fmt.Sprintf("%s %s %s", ev.Next.Entry.Opens, ev.Next.Entry.Place,
			ev.Next.Entry.Proposal), c.name)
		if c.at == "" {
			assert.Nil(t, ev.Next.ExpectAt, c.name)
			continue
		}
		assert.Equal(t, c.slow, ev.Next.SlowAt.String(), c.name)
		assert.Equal(t, c.at, ev.Next.ExpectAt.String(), c.name)
	}
}

// Odd readings are kept, flagged, and counted where they give a titre.
// Source of the rules: common practice, no source.
func TestFindings(t *testing.T) {
	zero, loose := practicaltest.Plain(), practicaltest.Plain()
	zero.Rules.Readings.StartAtZero = true
	blind := practicaltest.Plain()
	blind.Chemistry.Analyte.Approximate, loose.Chemistry.Analyte.Approximate = decimal.Decimal{}, decimal.Decimal{}
	loose.Rules.Agreement.Tolerance = decimal.Must("0.20")
	for _, c := range []struct {
		name  string
		p     practical.Practical
		lines []string
		want  string
	}{
		{"clean", practicaltest.Plain(), []string{"R 0.00 24.40", "A 24.40 48.20"}, ""},
		{"two decimals wanted", practicaltest.Plain(), []string{"R 0.00 24.4"}, "reading.few-decimals"},
		{"finer than half a division", practicaltest.Plain(), []string{"R 0.00 24.43"}, "reading.off-resolution"},
		{"above the zero mark", practicaltest.Plain(), []string{"R -0.10 24.40"}, "reading.below-scale"},
		{"past the last mark", blind, []string{"R 30.00 50.05"}, "reading.beyond-scale"},
		{"the last mark itself", practicaltest.Plain(), []string{"R 26.00 50.00"}, ""},
		{"read upward", practicaltest.Plain(), []string{"R 24.40 0.00"}, "titre.end-before-start"},
		{"nothing ran", practicaltest.Plain(), []string{"R 1.00 1.00"}, "titre.nothing-ran"},
		{"zero wanted", zero, []string{"R 0.10 24.40"}, "reading.start-not-zero"},
		{"run off between trials", blind, []string{"R 0.00 20.00", "A 20.50 40.50"}, "reading.start-differs"},
		{"filled between trials", practicaltest.Plain(), []string{"R 0.00 24.40", "A 0.05 23.85"}, ""},
		{"more than the rough by 1.00", practicaltest.Plain(), []string{"R 0.00 23.00", "A 0.00 24.00"}, ""},
		{"more than the rough by more", practicaltest.Plain(), []string{"R 0.00 23.00", "A 0.00 24.05"}, "titre.beyond-rough"},
		{"loose tolerance", loose, []string{"R 0.00 5.00"}, "agreement.tolerance-loose"},
		{"two equal sets", blind, []string{"A 0.00 22.10", "A 0.00 22.30", "A 0.00 22.20"}, "agreement.tied"},
		{"drifting up", blind, []string{"A 0.00 22.10", "A 0.00 22.15", "A 0.00 22.25"}, "titre.drift"},
		{"drifting within the tolerance", blind, []string{"A 0.00 22.10", "A 0.00 22.15", "A 0.00 22.20"}, ""},
		{"twice what was expected, seen after the rough", practicaltest.Plain(), []string{"R 0.00 48.00"}, "result.far-from-expected"},
		{"comma", practicaltest.Plain(), []string{"R 0,00 24,40"}, ""},
	} {
		var codes []string
		ev := evaluate(t, c.p, c.lines...)
		for _, f := range ev.Findings {
			codes = append(codes, f.Code)
		}
		assert.Equal(t, c.want, strings.Join(codes, " "), c.name)
	}
}

// The same entries in any order, repeated or not, give the same evaluation.
func TestEvaluateIsDeterministic(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		lines := rapid.SliceOfN(rapid.SampledFrom([]string{"R 0.00 24.40", "A 0.00 23.80", "A 0.05 23.95", "A 1.00", "A",
			"A 24.00 0.00", "A 0.00 23.85 bubble"}), 0, 6).Draw(t, "trials")
		all := entries(lines...)
		want := of(t, practicaltest.Plain(), all)
		again := of(t, practicaltest.Plain(), rapid.Permutation(append(all, all...)).Draw(t, "order"))
		assert.Equal(t, want, again)
	})
}

func BenchmarkEvaluateFiveTrials(b *testing.B) {
	r, fault := ptr(practicaltest.Plain()).Check()
	require.Nil(b, fault)
	all := entries("R 0.00 24.40", "A 0.00 23.85", "A 23.85 47.65", "A 0.10 24.60 overshot", "A 0.15 23.95")
	for name, parts := range map[string]experiment.Parts{"result": experiment.PartResult, "all": experiment.All} {
		b.Run(name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				experiment.Evaluate(r, all, parts)
			}
		})
	}
}

func BenchmarkEvaluateThousandEntries(b *testing.B) {
	r, fault := ptr(practicaltest.Plain()).Check()
	require.Nil(b, fault)
	var lines []string
	for i := range 333 {
		lines = append(lines, fmt.Sprintf("A 0.00 %d.%02d", 20+i%7, 5*(i%20)))
	}
	all := entries(lines...)
	b.ReportAllocs()
	for b.Loop() {
		experiment.Evaluate(r, all, experiment.All)
	}
}

// Whatever is written in a notebook: the mean lies among the titres it is made
// of, these are accurate, with both readings and not set aside, and agree; and
// neither a note nor the order of arrival nor sending everything twice changes
// anything.
func TestEvaluateProperties(t *testing.T) {
	p := practicaltest.Plain()
	rapid.Check(t, func(t *rapid.T) {
		var lines []string
		for range rapid.IntRange(0, 9).Draw(t, "trials") {
			start := rapid.IntRange(0, 200).Draw(t, "start") * 5
			line := fmt.Sprintf("%s %d.%02d", rapid.SampledFrom([]string{"R", "A", "A", "A"}).Draw(t, "type"), start/100,
				start%100)
			if rapid.IntRange(0, 5).Draw(t, "read") > 0 {
				end := start + rapid.IntRange(460, 490).Draw(t, "titre")*5
				line += fmt.Sprintf(" %d.%02d", end/100, end%100)
				if rapid.IntRange(0, 5).Draw(t, "aside") == 0 {
					line += " overshot"
				}
			}
			lines = append(lines, line)
		}
		written := entries(lines...)
		ev := of(t, p, written)

		byID := map[string]evaluation.Trial{}
		for _, trial := range ev.Trials {
			byID[trial.ID] = trial
		}
		low, high := 1e9, 0.0
		for _, id := range ev.Agreement.Chosen {
			trial := byID[id]
			assert.Equal(t, journal.Accurate, trial.Type)
			require.NotNil(t, trial.Titre)
			assert.Nil(t, trial.SetAside)
			low, high = min(low, trial.Titre.Float64()), max(high, trial.Titre.Float64())
		}
		if ev.Agreement.Mean != nil && ev.Agreement.Status == agreement.Agreed {
			assert.GreaterOrEqual(t, len(ev.Agreement.Chosen), p.Rules.Agreement.Need)
			assert.LessOrEqual(t, high-low, p.Rules.Agreement.Tolerance.Float64()+1e-9)
			assert.InDelta(t, (low+high)/2, ev.Agreement.Mean.Float64(), (high-low)/2+0.00501, "the mean lies among its titres")
			require.NotNil(t, ev.Result)
			assert.InEpsilon(t, 0.1*ev.Agreement.Mean.Float64()/25, ev.Result.Answer.Value, 1e-3)
		}

		// The same, sent twice, in any order, with a note among it.
		shuffled := rapid.Permutation(append(append([]journal.Entry{}, written...), written...)).Draw(t, "arrival")
		shuffled = append(shuffled, journal.Entry{ID: "note-0001", Device: "bench-8", Clock: 900,
			Part: journal.Remark{Written: "the window was open"}})
		again := of(t, p, shuffled)
		assert.Equal(t, ev.Agreement, again.Agreement)
		assert.Equal(t, ev.Stage, again.Stage)
		assert.Equal(t, len(ev.Trials), len(again.Trials))
		assert.Len(t, again.Notes, len(ev.Notes)+1)
	})
}
