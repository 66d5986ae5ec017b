package experiment_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"exactflask/core/agreement"
	"exactflask/core/decimal"
	"exactflask/core/experiment"
	"exactflask/core/glass"
	"exactflask/core/journal"
)

func practical() experiment.Practical {
	return experiment.Practical{
		ID: "test", Revision: 1, Title: "Sodium hydroxide with hydrochloric acid", Method: experiment.Direct, Equation: "HCl + NaOH -> NaCl + H2O",
		Titrant: experiment.Solution{Name: "hydrochloric acid", Formula: "HCl", Concentration: decimal.Must("0.100")},
		Analyte: experiment.Solution{Name: "sodium hydroxide", Formula: "NaOH", Approximate: decimal.Must("0.095")},
		Aliquot: glass.Pipette{Volume: decimal.Must("25.0"), Class: glass.ClassB}, Burette: glass.Burette{Capacity: decimal.Must("50.00"), Division: decimal.Must("0.1"), Class: glass.ClassB},
		Indicator: "methyl-orange", Readings: experiment.ReadingRule{Resolution: glass.HalfDivision},
		Agreement: agreement.Rule{Tolerance: decimal.Must("0.10"), Need: 2}, Result: experiment.ResultRule{Show: experiment.Always},
	}
}

// entries writes a notebook from lines such as "R 0.00 24.40", "A 0.00 23.85",
// "A 0.00" (open), "A" (no reading), "A 0.00 23.85 aside".
func entries(lines ...string) []journal.Entry {
	var out []journal.Entry
	add := func(e journal.Entry) string {
		e.Clock = int64(len(out) + 1)
		e.ID, e.Device = fmt.Sprintf("e-%06d", e.Clock), "bench-7"
		out = append(out, e)
		return e.ID
	}
	for _, line := range lines {
		f := strings.Fields(line)
		kind := journal.Accurate
		if f[0] == "R" {
			kind = journal.Rough
		}
		trial := add(journal.Entry{Kind: journal.KindTrial, Trial: &journal.Opening{Type: kind}})
		for i, mark := range []journal.Mark{journal.Start, journal.End} {
			if len(f) > i+1 {
				add(journal.Entry{Kind: journal.KindReading, Reading: &journal.Scale{Trial: trial, Mark: mark, Text: f[i+1]}})
			}
		}
		if len(f) > 3 {
			add(journal.Entry{Kind: journal.KindSetAside, SetAside: &journal.Exclusion{Trial: trial, Reason: f[3]}})
		}
	}
	return out
}

func evaluate(t require.TestingT, p experiment.Practical, lines ...string) experiment.Evaluation {
	ev, fault := experiment.Evaluate(p, entries(lines...))
	require.Nil(t, fault)
	return ev
}

// Source: common practice, no source.
func TestEvaluateFromReadingsToConcentration(t *testing.T) {
	ev := evaluate(t, practical(), "R 0.00 24.40", "A 0.00 23.85", "A 0.00 23.80", "A 0.00 23.80")
	assert.Equal(t, "23.82", ev.Agreement.Mean.String(), "the rough is left out")
	require.NotNil(t, ev.Result)
	assert.Equal(t, "0.0953", ev.Result.Answer.String())
	assert.Equal(t, experiment.OutRough, ev.Trials[0].Reason)
	assert.Equal(t, experiment.Agreed, ev.Stage)
	assert.Empty(t, ev.Findings)
	assert.Nil(t, ev.Redacted().Result)
	assert.NotNil(t, ev.Result, "redacting leaves the original alone")

	p := practical()
	p.Result.Figures = 2
	assert.Equal(t, "0.095", evaluate(t, p, "A 0.00 23.85", "A 0.00 23.80").Result.Answer.String())
	p.Analyte.Approximate = decimal.Must("0.0475")
	far := evaluate(t, p, "A 0.00 23.85", "A 0.00 23.80")
	require.Len(t, far.Findings, 1)
	assert.Equal(t, "result.far-from-expected", far.Findings[0].Code)
	assert.Empty(t, far.Redacted().Findings, "no finding gives a withheld result away")
}

// What each notebook says first, and what is expected next.
func TestStagesAndNext(t *testing.T) {
	hidden, zero, noRough, blind := practical(), practical(), practical(), practical()
	hidden.Readings.HideExpected, zero.Readings.StartAtZero, noRough.Readings.NoRough = true, true, true
	blind.Analyte.Approximate = decimal.Decimal{}
	for _, c := range []struct {
		name     string
		p        experiment.Practical
		lines    []string
		stage    experiment.Stage
		code     string
		expects  string // type to open or mark, with the proposal
		slow, at string
	}{
		{"nothing yet", practical(), nil, experiment.Untouched, "next.rough", "rough start ", "", ""},
		{"no rough wanted", noRough, nil, experiment.Untouched, "next.accurate", "accurate start ", "", ""},
		{"rough opened", practical(), []string{"R"}, experiment.Measuring, "next.read-start", " start ", "", ""},
		{"rough running, expected from the plan", practical(), []string{"R 0.00"}, experiment.Measuring, "next.run-rough", " end ", "21.75", "23.75"},
		{"nothing to expect from", blind, []string{"R 0.00"}, experiment.Measuring, "next.run-rough-blind", " end ", "", ""},
		{"rough done, half the burette left", practical(), []string{"R 0.00 24.40"}, experiment.RoughOnly, "next.accurate", "accurate start 24.40", "", ""},
		{"rough done, too little left", practical(), []string{"R 2.00 26.40"}, experiment.RoughOnly, "next.accurate", "accurate start ", "", ""},
		{"every trial starts at zero", zero, []string{"R 0.00 24.40"}, experiment.RoughOnly, "next.accurate", "accurate start ", "", ""},
		{"running, expected from the rough", practical(), []string{"R 0.00 24.40", "A 0.50"}, experiment.RoughOnly, "next.run", " end ", "22.90", "24.90"},
		{"expectation hidden", hidden, []string{"R 0.00 24.40", "A 0.50"}, experiment.RoughOnly, "next.run-blind", " end ", "", ""},
		{"one accurate", practical(), []string{"R 0.00 24.40", "A 0.00 23.80"}, experiment.Measuring, "next.accurate", "accurate start 23.80", "", ""},
		{"two that disagree", practical(), []string{"R 0.00 24.40", "A 0.00 23.80", "A 0.00 24.00"}, experiment.Disagreeing, "next.disagree", "accurate start 24.00", "", ""},
		{"two equal sets", practical(), []string{"A 0.00 22.10", "A 0.00 22.20", "A 0.00 22.30"}, experiment.Disagreeing, "next.ambiguous", "accurate start 22.30", "", ""},
		{"agreed", practical(), []string{"R 0.00 24.40", "A 0.00 23.80", "A 0.00 23.90"}, experiment.Agreed, "next.agreed", "accurate start ", "", ""},
		{"set aside", practical(), []string{"R 0.00 24.40", "A 0.00 23.80", "A 0.00 23.90 bubble"}, experiment.Measuring, "next.accurate", "accurate start 23.90", "", ""},
		{"end before start", practical(), []string{"R 0.00 24.40", "A 24.00 0.50"}, experiment.Measuring, "next.check-readings", "accurate start 0.50", "", ""},
		{"rough set aside: another is asked for", practical(), []string{"R 0.00 24.40 bubble"}, experiment.RoughOnly, "next.rough", "rough start 24.40", "", ""},
	} {
		ev := evaluate(t, c.p, c.lines...)
		assert.Equal(t, c.stage, ev.Stage, c.name)
		assert.Equal(t, c.code, ev.Next.Code, c.name)
		require.NotNil(t, ev.Next.Entry, c.name)
		assert.Equal(t, c.expects, fmt.Sprintf("%s %s %s", ev.Next.Entry.Opens, ev.Next.Entry.Mark, ev.Next.Entry.Proposal), c.name)
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
	zero, loose := practical(), practical()
	zero.Readings.StartAtZero = true
	loose.Agreement.Tolerance = decimal.Must("0.20")
	for _, c := range []struct {
		name  string
		p     experiment.Practical
		lines []string
		want  string
	}{
		{"clean", practical(), []string{"R 0.00 24.40", "A 24.40 48.20"}, ""},
		{"two decimals wanted", practical(), []string{"R 0.00 24.4"}, "reading.few-decimals"},
		{"finer than half a division", practical(), []string{"R 0.00 24.43"}, "reading.off-resolution"},
		{"above the zero mark", practical(), []string{"R -0.10 24.40"}, "reading.below-scale"},
		{"past the last mark", practical(), []string{"R 30.00 50.05"}, "reading.beyond-scale"},
		{"the last mark itself", practical(), []string{"R 26.00 50.00"}, ""},
		{"read upward", practical(), []string{"R 24.40 0.00"}, "titre.end-before-start"},
		{"nothing ran", practical(), []string{"R 1.00 1.00"}, "titre.nothing-ran"},
		{"zero wanted", zero, []string{"R 0.10 24.40"}, "reading.start-not-zero"},
		{"run off between trials", practical(), []string{"R 0.00 20.00", "A 20.50 40.50"}, "reading.start-differs"},
		{"filled between trials", practical(), []string{"R 0.00 24.40", "A 0.05 23.85"}, ""},
		{"more than the rough by 1.00", practical(), []string{"R 0.00 23.00", "A 0.00 24.00"}, ""},
		{"more than the rough by more", practical(), []string{"R 0.00 23.00", "A 0.00 24.05"}, "titre.beyond-rough"},
		{"loose tolerance", loose, []string{"R 0.00 5.00"}, "agreement.tolerance-loose"},
		{"two equal sets", practical(), []string{"A 0.00 22.10", "A 0.00 22.20", "A 0.00 22.30"}, "agreement.ambiguous"},
		{"comma", practical(), []string{"R 0,00 24,40"}, ""},
	} {
		var codes []string
		ev := evaluate(t, c.p, c.lines...)
		for _, f := range ev.Findings {
			codes = append(codes, f.Code)
		}
		assert.Equal(t, c.want, strings.Join(codes, " "), c.name)
	}
}

func TestPracticalFaultsNameThePlace(t *testing.T) {
	for path, spoil := range map[string]func(*experiment.Practical){
		"equation":              func(p *experiment.Practical) { p.Equation = "HCl + NaOH" },
		"titrant.formula":       func(p *experiment.Practical) { p.Titrant.Formula = "HCL" },
		"analyte.formula":       func(p *experiment.Practical) { p.Analyte.Formula = "KOH" },
		"titrant.concentration": func(p *experiment.Practical) { p.Titrant.Concentration = decimal.Must("30") },
		"analyte.concentration": func(p *experiment.Practical) { p.Analyte.Concentration = decimal.Must("0.1") },
		"burette.division":      func(p *experiment.Practical) { p.Burette.Division = decimal.Must("0") },
		"aliquot.volume":        func(p *experiment.Practical) { p.Aliquot.Volume = decimal.Must("0") },
		"indicator":             func(p *experiment.Practical) { p.Indicator = "universal" },
		"readings.resolution":   func(p *experiment.Practical) { p.Readings.Resolution = "fine" },
		"agreement.tolerance":   func(p *experiment.Practical) { p.Agreement.Tolerance = decimal.Must("-0.1") },
		"agreement.need":        func(p *experiment.Practical) { p.Agreement.Need = 1 },
		"result.show":           func(p *experiment.Practical) { p.Result.Show = "" },
		"method":                func(p *experiment.Practical) { p.Method = "magic" },
		"style":                 func(p *experiment.Practical) { p.Style.Words = "x" },
	} {
		p := practical()
		spoil(&p)
		fault := p.Check()
		require.NotNil(t, fault, path)
		assert.Equal(t, path, fault.Path, fault.Problem)
		_, fault = experiment.Evaluate(p, nil)
		require.NotNil(t, fault)
		assert.Equal(t, "practical."+path, fault.Path)
	}
}

// The same entries in any order, repeated or not, give the same evaluation.
func TestEvaluateIsDeterministic(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		lines := rapid.SliceOfN(rapid.SampledFrom([]string{"R 0.00 24.40", "A 0.00 23.80", "A 0.05 23.95", "A 1.00", "A", "A 24.00 0.00", "A 0.00 23.85 bubble"}), 0, 6).Draw(t, "trials")
		all := entries(lines...)
		want, fault := experiment.Evaluate(practical(), all)
		require.Nil(t, fault)
		again, _ := experiment.Evaluate(practical(), rapid.Permutation(append(all, all...)).Draw(t, "order"))
		assert.Equal(t, want, again)
	})
}

func BenchmarkEvaluateFiveTrials(b *testing.B) {
	p, all := practical(), entries("R 0.00 24.40", "A 0.00 23.85", "A 23.85 47.65", "A 0.10 24.60 overshot", "A 0.15 23.95")
	b.ReportAllocs()
	for b.Loop() {
		if _, fault := experiment.Evaluate(p, all); fault != nil {
			b.Fatal(fault)
		}
	}
}
