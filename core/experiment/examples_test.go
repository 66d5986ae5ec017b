package experiment_test

import (
	"encoding/json"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/experiment"
	"exactflask/core/journal"
	"exactflask/docs/examples"
)

type document struct {
	Practical experiment.Practical `json:"practical"`
	Journal   []journal.Entry      `json:"journal"`
}

func example(t testing.TB, name string) (doc document) {
	text, err := examples.Files.ReadFile(name + ".json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(text, &doc), name)
	return doc
}

// Every kind of titration of the list, worked out. The numbers of the examples
// are made up; each expected answer is computed here by hand, in one line, from
// the readings, with molar masses from the standard atomic weights.
func TestWorkedPracticals(t *testing.T) {
	const mKHP, mOxalic, mCaCO3, mNa2CO3, mNaHCO3 = 204.221, 126.064, 100.086, 105.988, 84.006
	mean := func(v ...float64) float64 {
		sum := 0.0
		for _, x := range v {
			sum += x
		}
		return sum / float64(len(v))
	}
	for _, c := range []struct {
		name   string
		answer float64
		second float64
		unit   string
	}{
		{"buffer-dosing", 0.1 * mean(23.85, 23.80, 23.85) / 25 / 2, 0, "mol/L"},
		{"acid-in-burette", 0.1 * 25 / 13.1 / 2, 0, "mol/L"},
		{"descaling-acid", 0.1 * 44.4 / 5, 0, "mol/L"},
		{"algae-vinegar", 0.1012 * mean(21.15, 21.10, 21.15) / 25 * 10 * 60.052 / 10, 0, "% w/v"},
		{"citric-descaler", 0.1004 * mean(20.45, 20.40) / 3000 * 10 * 192.123 / 1.3212 * 100, 0, "%"},
		{"naoh-by-aliquot", 1.5807 * 0.995 / mOxalic / 10 * 2 / mean(24.80, 24.80, 24.85) * 1000, 0, "mol/L"},
		{"naoh-by-mass", 1000 / mKHP * mean(0.5172/24.85, 0.5006/24.05, 0.5284/25.45), 0, "mol/L"},
		{"spent-lime", 0.1 * (27.575 - 21.025) / 25, 0.1 * (21.025 - (27.575 - 21.025)) / 25, "mol/L"},
		{"buffer-mixture", 0.05 * 8.625 / 1000 * 10 * mNa2CO3 / 1.250 * 100, 0.05 * (28.825 - 2*8.625) / 1000 * 10 * mNaHCO3 / 1.250 * 100, "%"},
		{"shell-chalk", (0.987*50 - 0.1035*24.125*10) / 2000 * mCaCO3 / 1.2511 * 100, 0, "%"},
		{"carbonate-hydrate", (1.08/(0.01-0.1*7.3/2000*4) - mNa2CO3) / 18.015, 0, "1"},
		{"iron-tablet", 0.0051 * 18.575 * 5 * 10 * 55.845 / 3, 0, "mg"},
		{"peroxide-strength", 0.0201 * 17.775 * 2.5 * 5 / 5 * 22.414 / 2, 0, "volumes"},
		{"vitamin-c-feed", 0.01 * 22.825 * 10 * 176.124 / 4, 0, "mg"},
		{"pond-bleach", 0.1021 * 22.075 / 2 * 12.5 / 10 * 70.90 / 10, 0, "% w/v"},
		{"iron-ii-dichromate", 0.01667 * 20.475 * 6 / 25, 0, "mol/L"},
		{"ammonium-feed", mean((48.375-24.10)/0.3204, (48.375-23.90)/0.3235) * 0.2005 / 2000 * 132.134 * 100, 0, "%"},
		{"unknown-acid", 1.2602 / (0.0986 * 20.275 / 2000 * 10), 0, "g/mol"},
		{"settled-carbonate", 0.1027 * 12.125 / 100 * mNaHCO3 * 1000, 0, "mg/L"},
		{"cold-and-warm", 0.005 * mean(16.30/20, 18.40/22.50), 0, "mol/L"},
		{"phosphoric-protons", 0.1 * 24.675 / 1000 * 10 / (1.210 / 97.994), 0, "1"},
	} {
		doc := example(t, c.name)
		ev, fault := experiment.Evaluate(doc.Practical, doc.Journal)
		require.Nil(t, fault, c.name)
		require.NotNil(t, ev.Result, c.name)
		r := ev.Result
		assert.InEpsilon(t, c.answer, r.Answer.Value, 2e-4, c.name)
		assert.Equal(t, c.unit, string(r.Answer.Unit), c.name)
		assert.InEpsilon(t, r.Answer.Value, r.Derivation.Recompute(nil, ""), 1e-12, "%s: the derivation gives its own answer from its leaves", c.name)
		if c.second != 0 {
			require.NotNil(t, r.Second, c.name)
			assert.InEpsilon(t, c.second, r.Second.Answer.Value, 2e-4, c.name)
		}
		// How sure: shares sum to one, and both ways of propagating agree.
		require.NotNil(t, r.Budget, c.name)
		sum := 0.0
		for _, b := range r.Budget.Contributions {
			sum += b.Share
		}
		assert.InDelta(t, 1, sum, 1e-9, c.name)
		mc, ok := experiment.MonteCarlo(doc.Practical, doc.Journal, 40_000, 3)
		require.True(t, ok, c.name)
		assert.InEpsilon(t, r.Budget.Standard, mc.Standard, 0.03, c.name)
		// Every step of the working can be answered, and the true values are right.
		journalled := doc.Journal
		for i, w := range ev.Work {
			n, _ := r.Derivation.Node(w.Step)
			journalled = append(journalled, journal.Entry{ID: "own-" + w.Step[:0] + string(rune('a'+i/26)) + string(rune('a'+i%26)) + "-answer", Device: "d", Clock: int64(10_000 + i), Kind: journal.KindAnswer,
				Answer: &journal.Answer{Step: w.Step, Text: shown(n.Quantity.Value, 6), Unit: string(n.Quantity.Unit)}})
		}
		own, _ := experiment.Evaluate(doc.Practical, journalled)
		for _, w := range own.Work {
			if doc.Practical.Result.Show == experiment.AfterMarking {
				assert.Empty(t, w.Verdict, c.name)
				continue
			}
			assert.Contains(t, []experiment.Verdict{experiment.Right, experiment.ManyFigures}, w.Verdict, "%s: %s", c.name, w.Step)
			assert.False(t, w.Carried)
		}
		assert.True(t, own.Attempted)
	}
}

func shown(v float64, figures int) string {
	places := max(0, figures-1-int(math.Floor(math.Log10(math.Abs(v)))))
	return trim(v, min(places, 11))
}

// A slip loses once: what follows from it is judged by the student's own
// figure. Source of the slips: common practice, no source.
func TestSlipsAreNamedAndCarriedForward(t *testing.T) {
	doc := example(t, "buffer-dosing")
	ev, _ := experiment.Evaluate(doc.Practical, doc.Journal)
	require.Len(t, ev.Work, 4) // mean titre, n(HCl), n(Na2CO3), c(Na2CO3)
	answers := func(values ...string) []experiment.WorkStep {
		entries := doc.Journal
		for i, v := range values {
			if v == "" {
				continue
			}
			unit := string(ev.Work[i].Unit)
			if number, other, ok := strings.Cut(v, " "); ok {
				v, unit = number, other
			}
			entries = append(entries, journal.Entry{ID: "answer-" + string(rune('a'+i)) + "-1", Device: "d", Clock: int64(1000 + i), Kind: journal.KindAnswer, Answer: &journal.Answer{Step: ev.Work[i].Step, Text: v, Unit: unit}})
		}
		out, fault := experiment.Evaluate(doc.Practical, entries)
		require.Nil(t, fault)
		return out.Work
	}
	for _, c := range []struct {
		step    int
		value   string
		verdict experiment.Verdict
		slip    string
	}{
		{0, "23.83", experiment.Right, ""},
		{0, "23.98", experiment.Wrong, "slip.rough-included"},
		{0, "23.8", experiment.FewFigures, ""},
		{0, "23.83 mol", experiment.WrongUnit, ""},
		{0, "0.02383 L", experiment.Right, ""},
		{1, "0.002383", experiment.Right, ""},
		{1, "2.383", experiment.Wrong, "slip.thousand"},
		{1, "2.383 mmol", experiment.Right, ""},
		{1, "0.00250", experiment.Wrong, "slip.volumes-swapped"},
		{2, "0.001192", experiment.Right, ""},
		{2, "0.004767", experiment.Wrong, "slip.ratio-inverted"},
		{2, "0.002383", experiment.Wrong, "slip.ratio-left-out"},
		{3, "0.0477", experiment.Right, ""},
		{3, "0.04767", experiment.ManyFigures, ""},
		{3, "47.7", experiment.Wrong, "slip.thousand"},
		{3, "0.0500", experiment.Wrong, "slip.volumes-swapped"},
		{3, "0.123", experiment.Wrong, ""},
	} {
		values := make([]string, 4)
		values[c.step] = c.value
		got := answers(values...)[c.step]
		assert.Equal(t, c.verdict, got.Verdict, "step %d: %s", c.step, c.value)
		assert.Equal(t, c.slip, got.Slip, "step %d: %s", c.step, c.value)
	}
	carried := answers("23.83", "0.002383", "0.004767", "0.1907")
	assert.Equal(t, experiment.Wrong, carried[2].Verdict)
	assert.Equal(t, experiment.ManyFigures, carried[3].Verdict, "right by the student's own amount")
	assert.True(t, carried[3].Carried)

	later := doc.Practical
	later.Result.Show = experiment.AfterMarking
	out, _ := experiment.Evaluate(later, doc.Journal)
	assert.Len(t, out.Work, 4, "steps can be answered")
	for _, w := range out.Redacted().Work {
		assert.Empty(t, w.Verdict, "and are not judged before marking")
	}
}

func TestCausesAndRealityChecks(t *testing.T) {
	doc := example(t, "algae-vinegar") // 2.7 % above its label
	ev, _ := experiment.Evaluate(doc.Practical, doc.Journal)
	byCode := map[string]experiment.Cause{}
	for _, c := range ev.Result.Causes {
		byCode[c.Code] = c
		if c.Needed > 0 {
			assert.Positive(t, c.Answer, "%s: only what raises the answer can explain that it is too high", c.Code)
		}
	}
	bubble := byCode["cause.bubble"]
	assert.InDelta(t, 0.3, bubble.Titre, 1e-9)
	assert.InEpsilon(t, 0.3/21.1333*100, bubble.Percent, 1e-4)
	assert.InDelta(t, 0.565, bubble.Needed, 0.002, "0.137 of 5.137 % of 21.13 mL")
	assert.Zero(t, byCode["cause.funnel"].Needed)
	assert.NotContains(t, byCode, "cause.standard-wet")
	assert.Contains(t, byCode, "cause.old-hydroxide")

	shell := example(t, "shell-chalk")
	shell.Practical.Route[1].Concentration = number("0.52")
	ev, _ = experiment.Evaluate(shell.Practical, shell.Journal)
	var codes []string
	for _, f := range ev.Findings {
		codes = append(codes, f.Code)
	}
	assert.Contains(t, codes, "result.hardly-used")
	assert.Contains(t, codes, "back.carbon-dioxide")
	shell.Practical.Route[1].Concentration = number("0.40")
	ev, _ = experiment.Evaluate(shell.Practical, shell.Journal)
	assert.Nil(t, ev.Result)
	assert.Equal(t, "result.impossible", ev.Findings[len(ev.Findings)-1].Code)
	for path, spoil := range map[string]func(*experiment.Practical){
		"aliquot":          func(p *experiment.Practical) { p.Route = p.Route[:2] },
		"route[1].formula": func(p *experiment.Practical) { p.Route[1].Formula = "H2SO4" },
		"label.unit":       func(p *experiment.Practical) { p.Label = experiment.Label{Value: number("5"), Unit: "g/L"} },
		"ask.unit":         func(p *experiment.Practical) { p.Ask.Unit = "mg" },
		"ask.what":         func(p *experiment.Practical) { p.Ask.What = "wisdom" },
		"analyte.formula":  func(p *experiment.Practical) { p.Route = append(p.Route[:1:1], p.Route[2]) },
	} {
		p := example(t, "shell-chalk").Practical
		spoil(&p)
		fault := p.Check()
		require.NotNil(t, fault, path)
		assert.Equal(t, path, fault.Path, fault.Problem)
	}
	// A standardised concentration takes the place of the nominal one.
	doc = example(t, "settled-carbonate")
	ev, _ = experiment.Evaluate(doc.Practical, doc.Journal)
	known, _ := ev.Result.Derivation.Node("known-concentration")
	assert.Equal(t, "0.1027", known.Written)
	assert.Equal(t, "known", ev.Log[0].Code)
}

func BenchmarkEvaluateRouteWithBudget(b *testing.B) {
	doc := example(b, "shell-chalk")
	b.ReportAllocs()
	for b.Loop() {
		if ev, _ := experiment.Evaluate(doc.Practical, doc.Journal); ev.Result == nil {
			b.Fatal("no result")
		}
	}
}
