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
	"exactflask/core/practical"
)

// plain is sodium hydroxide, about 0.095 mol/L, 25.0 mL, by hydrochloric acid of
// 0.100 mol/L.
func plain() practical.Practical {
	return practical.Practical{
		ID: "test", Revision: 1, Title: "Sodium hydroxide with hydrochloric acid",
		Chemistry: practical.Chemistry{
			Equation:  "HCl + NaOH -> NaCl + H2O",
			Titrant:   practical.Solution{Name: "hydrochloric acid", Formula: "HCl", Concentration: decimal.Must("0.100")},
			Analyte:   practical.Solution{Name: "sodium hydroxide", Formula: "NaOH", Approximate: decimal.Must("0.095")},
			Indicator: "methyl-orange",
		},
		Route:   []practical.Step{{Kind: practical.Pipette, Volume: decimal.Must("25.0"), Class: glass.ClassB}},
		Glass:   practical.Glass{Burette: glass.Burette{Capacity: decimal.Must("50.00"), Division: decimal.Must("0.1"), Class: glass.ClassB}},
		Rules:   practical.Rules{Readings: practical.ReadingRule{Resolution: glass.HalfDivision}, Agreement: agreement.Rule{Tolerance: decimal.Must("0.10"), Need: 2}},
		Showing: practical.Showing{Results: practical.Always},
	}
}

func changed(change func(*practical.Practical)) practical.Practical {
	p := plain()
	change(&p)
	return p
}

func of(t require.TestingT, p practical.Practical, entries []journal.Entry) experiment.Evaluation {
	r, fault := p.Check()
	if fault != nil {
		require.Fail(t, fault.Error())
	}
	return experiment.Evaluate(r, entries, experiment.All)
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
		trial := add(journal.Entry{Part: journal.Opening{Type: kind}})
		for i, mark := range []journal.Place{journal.Start, journal.End} {
			if len(f) > i+1 {
				add(journal.Entry{Part: journal.Scale{Of: trial, Place: mark, Written: f[i+1]}})
			}
		}
		if len(f) > 3 {
			add(journal.Entry{Part: journal.Exclusion{Of: trial, Reason: f[3]}})
		}
	}
	return out
}

func evaluate(t require.TestingT, p practical.Practical, lines ...string) experiment.Evaluation {
	return of(t, p, entries(lines...))
}

// Source: common practice, no source.
func TestEvaluateFromReadingsToConcentration(t *testing.T) {
	ev := evaluate(t, plain(), "R 0.00 24.40", "A 0.00 23.85", "A 0.00 23.80", "A 0.00 23.80")
	assert.Equal(t, "23.82", ev.Agreement.Mean.String(), "the rough is left out")
	require.NotNil(t, ev.Result)
	assert.Equal(t, "0.0953", ev.Result.Answer.String())
	assert.Equal(t, experiment.OutRough, ev.Trials[0].Reason)
	assert.Equal(t, experiment.Agreed, ev.Stage)
	assert.Empty(t, ev.Findings)

	p := plain()
	p.Rules.Figures = 2
	assert.Equal(t, "0.095", evaluate(t, p, "A 0.00 23.85", "A 0.00 23.80").Result.Answer.String())
	p.Chemistry.Analyte.Approximate = decimal.Must("0.0475")
	far := evaluate(t, p, "A 0.00 23.85", "A 0.00 23.80")
	require.Len(t, far.Findings, 1)
	assert.Equal(t, "result.far-from-expected", far.Findings[0].Code)
	r, _ := p.Check()
	assert.Empty(t, experiment.Evaluate(r, entries("A 0.00 23.85", "A 0.00 23.80"), experiment.Record).Findings, "no finding gives a withheld result away")
}

// What each notebook says first, and what is expected next.
func TestStagesAndNext(t *testing.T) {
	hidden, zero, noRough, blind := plain(), plain(), plain(), plain()
	hidden.Showing.HideExpected, zero.Rules.Readings.StartAtZero, noRough.Rules.Readings.NoRough = true, true, true
	blind.Chemistry.Analyte.Approximate = decimal.Decimal{}
	for _, c := range []struct {
		name     string
		p        practical.Practical
		lines    []string
		stage    experiment.Stage
		code     string
		expects  string // type to open or mark, with the proposal
		slow, at string
	}{
		{"nothing yet", plain(), nil, experiment.Untouched, "next.setup", "rough start ", "", ""},
		{"no rough wanted", noRough, nil, experiment.Untouched, "next.setup", "accurate start ", "", ""},
		{"rough opened", plain(), []string{"R"}, experiment.Measuring, "next.read-start", " start ", "", ""},
		{"rough running, expected from the plan", plain(), []string{"R 0.00"}, experiment.Measuring, "next.run-rough", " end ", "21.75", "23.75"},
		{"nothing to expect from", blind, []string{"R 0.00"}, experiment.Measuring, "next.run-rough-blind", " end ", "", ""},
		{"rough done, half the burette left", plain(), []string{"R 0.00 24.40"}, experiment.RoughOnly, "next.accurate", "accurate start 24.40", "", ""},
		{"rough done, too little left", plain(), []string{"R 2.00 26.40"}, experiment.RoughOnly, "next.accurate", "accurate start ", "", ""},
		{"every trial starts at zero", zero, []string{"R 0.00 24.40"}, experiment.RoughOnly, "next.accurate", "accurate start ", "", ""},
		{"running, expected from the rough", plain(), []string{"R 0.00 24.40", "A 0.50"}, experiment.RoughOnly, "next.run", " end ", "21.90", "24.90"},
		{"an accurate trial steers before the rough", plain(), []string{"R 0.00 24.50", "A 0.00 23.80", "A 0.00"}, experiment.Measuring, "next.run", " end ", "21.80", "23.80"},
		{"expectation hidden", hidden, []string{"R 0.00 24.40", "A 0.50"}, experiment.RoughOnly, "next.run-blind", " end ", "", ""},
		{"one accurate", plain(), []string{"R 0.00 24.40", "A 0.00 23.80"}, experiment.Measuring, "next.accurate", "accurate start 23.80", "", ""},
		{"two that disagree", plain(), []string{"R 0.00 24.40", "A 0.00 23.80", "A 0.00 24.00"}, experiment.Disagreeing, "next.disagree", "accurate start 24.00", "", ""},
		{"two equal sets", plain(), []string{"A 0.00 22.10", "A 0.00 22.20", "A 0.00 22.30"}, experiment.Disagreeing, "next.ambiguous", "accurate start 22.30", "", ""},
		{"agreed", plain(), []string{"R 0.00 24.40", "A 0.00 23.80", "A 0.00 23.90"}, experiment.Agreed, "next.agreed", "accurate start ", "", ""},
		{"set aside", plain(), []string{"R 0.00 24.40", "A 0.00 23.80", "A 0.00 23.90 bubble"}, experiment.Measuring, "next.accurate", "accurate start 23.90", "", ""},
		{"end before start", plain(), []string{"R 0.00 24.40", "A 24.00 0.50"}, experiment.Measuring, "next.check-readings", "accurate start 0.50", "", ""},
		{"rough set aside: another is asked for", plain(), []string{"R 0.00 24.40 bubble"}, experiment.RoughOnly, "next.rough", "rough start 24.40", "", ""},
	} {
		ev := evaluate(t, c.p, c.lines...)
		assert.Equal(t, c.stage, ev.Stage, c.name)
		assert.Equal(t, c.code, ev.Next.Code(), c.name)
		require.NotNil(t, ev.Next.Entry, c.name)
		assert.Equal(t, c.expects, fmt.Sprintf("%s %s %s", ev.Next.Entry.Opens, ev.Next.Entry.Place, ev.Next.Entry.Proposal), c.name)
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
	zero, loose := plain(), plain()
	zero.Rules.Readings.StartAtZero = true
	blind := plain()
	blind.Chemistry.Analyte.Approximate, loose.Chemistry.Analyte.Approximate = decimal.Decimal{}, decimal.Decimal{}
	loose.Rules.Agreement.Tolerance = decimal.Must("0.20")
	for _, c := range []struct {
		name  string
		p     practical.Practical
		lines []string
		want  string
	}{
		{"clean", plain(), []string{"R 0.00 24.40", "A 24.40 48.20"}, ""},
		{"two decimals wanted", plain(), []string{"R 0.00 24.4"}, "reading.few-decimals"},
		{"finer than half a division", plain(), []string{"R 0.00 24.43"}, "reading.off-resolution"},
		{"above the zero mark", plain(), []string{"R -0.10 24.40"}, "reading.below-scale"},
		{"past the last mark", blind, []string{"R 30.00 50.05"}, "reading.beyond-scale"},
		{"the last mark itself", plain(), []string{"R 26.00 50.00"}, ""},
		{"read upward", plain(), []string{"R 24.40 0.00"}, "titre.end-before-start"},
		{"nothing ran", plain(), []string{"R 1.00 1.00"}, "titre.nothing-ran"},
		{"zero wanted", zero, []string{"R 0.10 24.40"}, "reading.start-not-zero"},
		{"run off between trials", blind, []string{"R 0.00 20.00", "A 20.50 40.50"}, "reading.start-differs"},
		{"filled between trials", plain(), []string{"R 0.00 24.40", "A 0.05 23.85"}, ""},
		{"more than the rough by 1.00", plain(), []string{"R 0.00 23.00", "A 0.00 24.00"}, ""},
		{"more than the rough by more", plain(), []string{"R 0.00 23.00", "A 0.00 24.05"}, "titre.beyond-rough"},
		{"loose tolerance", loose, []string{"R 0.00 5.00"}, "agreement.tolerance-loose"},
		{"two equal sets", blind, []string{"A 0.00 22.10", "A 0.00 22.30", "A 0.00 22.20"}, "agreement.ambiguous"},
		{"drifting up", blind, []string{"A 0.00 22.10", "A 0.00 22.15", "A 0.00 22.25"}, "titre.drift"},
		{"drifting within the tolerance", blind, []string{"A 0.00 22.10", "A 0.00 22.15", "A 0.00 22.20"}, ""},
		{"twice what was expected, seen after the rough", plain(), []string{"R 0.00 48.00"}, "result.far-from-expected"},
		{"comma", plain(), []string{"R 0,00 24,40"}, ""},
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
		lines := rapid.SliceOfN(rapid.SampledFrom([]string{"R 0.00 24.40", "A 0.00 23.80", "A 0.05 23.95", "A 1.00", "A", "A 24.00 0.00", "A 0.00 23.85 bubble"}), 0, 6).Draw(t, "trials")
		all := entries(lines...)
		want := of(t, plain(), all)
		again := of(t, plain(), rapid.Permutation(append(all, all...)).Draw(t, "order"))
		assert.Equal(t, want, again)
	})
}

func BenchmarkEvaluateFiveTrials(b *testing.B) {
	r, fault := ptr(plain()).Check()
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
	r, fault := ptr(plain()).Check()
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

func ptr[T any](v T) *T { return &v }

// add appends entries to a notebook, numbering them on.
func add(all []journal.Entry, more ...journal.Entry) []journal.Entry {
	for _, e := range more {
		e.Clock = int64(len(all) + 1)
		e.ID, e.Device = fmt.Sprintf("e-%06d", e.Clock), "bench-7"
		all = append(all, e)
	}
	return all
}

func read(trial string, mark journal.Place, text string) journal.Entry {
	return journal.Entry{Part: journal.Scale{Of: trial, Place: mark, Written: text}}
}

func open(kind journal.TrialType) journal.Entry {
	return journal.Entry{Part: journal.Opening{Type: kind}}
}

// Source of all: common practice, no source.
func TestRefillWithinATrial(t *testing.T) {
	all := add(nil, open(journal.Rough), read("e-000001", journal.Start, "40.00"), read("e-000001", journal.BeforeRefill, "49.00"))
	ev := of(t, plain(), all)
	assert.Equal(t, "next.after-refill", ev.Next.Code())
	assert.Equal(t, journal.AfterRefill, ev.Next.Entry.Place)
	all = add(all, read("e-000001", journal.AfterRefill, "0.50"))
	ev = of(t, plain(), all)
	assert.Equal(t, "15.25", ev.Next.ExpectAt.String(), "23.75 expected, 9.00 of it before the refill, on from 0.50")
	all = add(all, read("e-000001", journal.End, "15.30"))
	ev = of(t, plain(), all)
	assert.Equal(t, "23.80", ev.Trials[0].Titre.String())
}

func TestBlankPracticeAndRoughThatCounts(t *testing.T) {
	all := entries("R 0.00 23.90", "A 0.00 23.80")
	all = add(all, open(journal.Blank), read("e-000007", journal.Start, "0.00"), read("e-000007", journal.End, "0.20"))
	all = add(all, open(journal.Practice), read("e-000010", journal.Start, "0.00"), read("e-000010", journal.End, "23.85"))
	ev := of(t, plain(), all)
	assert.Equal(t, agreement.TooFew, ev.Agreement.Status, "a practice trial counts nowhere")
	assert.Equal(t, "0.20", ev.Blank.String())
	assert.Equal(t, experiment.OutPractice, ev.Trials[3].Reason)
	assert.Equal(t, "accurate", ev.SoFar.From)
	p := plain()
	p.Rules.Agreement.RoughCounts = true
	ev = of(t, p, all)
	require.NotNil(t, ev.Result)
	assert.Equal(t, "23.85", ev.Agreement.Mean.String())
	assert.InDelta(t, 0.1*23.65/25, ev.Result.Answer.Value, 1e-12, "the blank is subtracted")
	assert.InDelta(t, 0.0707107, ev.Statistics.SD, 1e-6)
	r, _ := p.Check()
	only := experiment.Evaluate(r, all, experiment.Record)
	assert.Nil(t, only.Result)
	assert.Nil(t, only.SoFar)
}

func TestUnequalSamples(t *testing.T) {
	p := plain()
	p.Route[0].By = practical.ByBurette
	p.Rules.Agreement = agreement.Rule{Kind: agreement.Relative, Need: 2}
	all := add(nil, open(journal.Accurate))
	ev := of(t, p, all)
	assert.Equal(t, "next.sample-start", ev.Next.Code())
	all = add(all, read("e-000001", journal.SampleStart, "0.00"), read("e-000001", journal.SampleEnd, "25.00"), read("e-000001", journal.Start, "0.00"), read("e-000001", journal.End, "23.80"))
	all = add(all, open(journal.Accurate), read("e-000006", journal.SampleStart, "25.00"), read("e-000006", journal.SampleEnd, "45.00"), read("e-000006", journal.Start, "23.80"))
	ev = of(t, p, all)
	assert.Equal(t, "42.84", ev.Next.ExpectAt.String(), "19.04 expected for 20.00 of sample")
	all = add(all, read("e-000006", journal.End, "42.90"))
	ev = of(t, p, all)
	require.NotNil(t, ev.Result)
	assert.Equal(t, "0.16", ev.Agreement.Relative.String(), "0.952 and 0.955 lie 0.157 % from their mean")
	assert.InDelta(t, 0.09535, ev.Result.Answer.Value, 1e-9)
	p.Rules.Agreement.Percent = decimal.Must("0.1")
	ev = of(t, p, all)
	assert.Equal(t, agreement.Disagree, ev.Agreement.Status)
	p.Rules.Agreement = plain().Rules.Agreement
	_, fault := p.Check()
	assert.Equal(t, "rules.agreement.kind", fault.Path, "unequal samples cannot be compared by spread")
}

func TestSupplyAndLists(t *testing.T) {
	p := plain()
	p.Glass.Supply = practical.Supply{Titrant: decimal.Must("100"), Analyte: decimal.Must("120")}
	all := entries("R 0.00 24.40", "A 0.00 23.80", "A 0.00 24.00")
	ev := of(t, p, all)
	assert.Equal(t, "27.80", ev.Supply.Titrant.String())
	assert.Equal(t, "45.0", ev.Supply.Analyte.String())
	assert.Equal(t, 1, ev.Supply.Trials)
	all = append(all, add(make([]journal.Entry, len(all)), open(journal.Accurate), read("e-000010", journal.Start, "0.00"), read("e-000010", journal.End, "24.20"))[len(all):]...)
	ev = of(t, p, all)
	assert.Equal(t, "next.nothing-left", ev.Next.Code())

	check := func(item string) journal.Entry {
		return journal.Entry{Part: journal.Checked{Item: item}}
	}
	leak := func(text string) journal.Entry {
		return journal.Entry{Part: journal.Observation{About: journal.Leak, Written: text}}
	}
	done := func(all []journal.Entry) (out string) {
		ev := of(t, plain(), all)
		for _, i := range ev.Setup {
			if i.Entry != "" {
				out += i.Code + " "
			}
		}
		return out
	}
	bench := add(nil, check("rinse-water"), check("no-bubble"), journal.Entry{Part: journal.Timer{For: "leak", Seconds: 30}}, check("white-tile"))
	assert.Equal(t, "rinse-water no-bubble leak-wait white-tile ", done(bench))
	bench = add(bench, leak("seen"))
	assert.Equal(t, "rinse-water no-bubble white-tile ", done(bench), "a leak asks for the wait again")
	bench = add(bench, leak("reseated"), check("leak-wait"))
	assert.Equal(t, "rinse-water no-bubble leak-wait white-tile ", done(bench))
	bench = add(bench, leak("changed"))
	assert.Equal(t, "white-tile ", done(bench), "another burette is set up from the beginning")
	bench = add(bench, journal.Entry{Part: journal.Weighing{What: "sodium carbonate", Full: "14.2381 g", Emptied: "12.9120"}})
	ev = of(t, plain(), bench)
	assert.Contains(t, fmt.Sprint(ev.Log[len(ev.Log)-1]), "1.3261")
}

// Whatever is written in a notebook: the mean lies among the titres it is made
// of, these are accurate, with both readings and not set aside, and agree; and
// neither a note nor the order of arrival nor sending everything twice changes
// anything.
func TestEvaluateProperties(t *testing.T) {
	p := plain()
	rapid.Check(t, func(t *rapid.T) {
		var lines []string
		for range rapid.IntRange(0, 9).Draw(t, "trials") {
			start := rapid.IntRange(0, 200).Draw(t, "start") * 5
			line := fmt.Sprintf("%s %d.%02d", rapid.SampledFrom([]string{"R", "A", "A", "A"}).Draw(t, "type"), start/100, start%100)
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

		byID := map[string]experiment.Trial{}
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
		shuffled = append(shuffled, journal.Entry{ID: "note-0001", Device: "bench-8", Clock: 900, Part: journal.Remark{Written: "the window was open"}})
		again := of(t, p, shuffled)
		assert.Equal(t, ev.Agreement, again.Agreement)
		assert.Equal(t, ev.Stage, again.Stage)
		assert.Equal(t, len(ev.Trials), len(again.Trials))
		assert.Len(t, again.Notes, len(ev.Notes)+1)
	})
}
