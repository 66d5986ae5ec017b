package experiment_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/chemistry/glass"
	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
	"exactflask/core/values/statistics"
)

// soda is a carbonate that is weighed for each practical and titrated to the end
// with hydrochloric acid of 0.1000 mol/L: 25.00 mL are 1.25 mmol.
func soda(t testing.TB, formula, mass, asked string) practical.Practical {
	return written(t, `{"equation":"Na2CO3 + 2 HCl -> 2 NaCl + H2O + CO2","titrant":{"name":"t","formula":"HCl",
			"concentration":"0.1000"},"analyte":{"name":"soda","formula":"Na2CO3"}}`, asked,
		`[{"kind":"weigh","mass":"`+mass+`"}]`)
}

// acid is an acid without a name, two protons, weighed.
func acid(t testing.TB, mass, asked, own string) practical.Practical {
	return written(t, `{"equation":"H2A + 2 NaOH -> Na2A + 2 H2O","titrant":{"name":"t","formula":"NaOH",
			"concentration":"0.1000"},"analyte":{"name":"an acid","formula":"H2A"`+own+`},"indicator":"phenolphthalein"}`, asked,
		`[{"kind":"weigh","mass":"`+mass+`"}]`)
}

// Answers that cannot be, each beside one that can. Source: stoichiometry, by
// hand; solubilities and stock strengths of core/chemistry/catalog.
func TestPlausibility(t *testing.T) {
	solution := func(formula, equation, strength, volume string) practical.Practical {
		return written(t, `{"equation":"`+equation+`","titrant":{"name":"t","formula":"HCl","concentration":"`+strength+`"},
			"analyte":{"name":"a","formula":"`+formula+`"}}`, `{}`, `[{"kind":"pipette","volume":"`+volume+`"}]`)
	}
	codes := []string{"result.over-hundred", "result.no-such-water", "result.no-such-molar-mass", "result.beyond-stock",
		"result.beyond-solubility", "result.whole-within", "result.whole-beyond"}
	lime, ammonia := "Ca(OH)2 + 2 HCl -> CaCl2 + 2 H2O", "NH3 + HCl -> NH4Cl"
	for _, c := range []struct {
		name, code, slip string
		p                practical.Practical
		titre            string
	}{
		// 1.25 mmol of Na2CO3 are 0.1325 g.
		{"98 %", "", "", soda(t, "Na2CO3", "0.1350", `{"what":"purity"}`), "25.00"},
		{"100.3 %, within its uncertainty", "", "", soda(t, "Na2CO3", "0.1321", `{"what":"purity"}`), "25.00"},
		{"122 %", "result.over-hundred", "result.slip-route", soda(t, "Na2CO3", "0.1086", `{"what":"purity"}`), "25.00"},
		{"200 %", "result.over-hundred", "result.slip-two", soda(t, "Na2CO3", "0.0663", `{"what":"purity"}`), "25.00"},
		{"981 %", "result.over-hundred", "result.slip-ten", soda(t, "Na2CO3", "0.0135", `{"what":"purity"}`), "25.00"},
		// With x of water, 1.25 mmol are 0.1325 g + x · 0.02252 g.
		{"x = 10.0", "result.whole-within", "", soda(t, "Na2CO3", "0.3577", `{"what":"water"}`), "25.00"},
		{"x = 9.5", "result.whole-beyond", "", soda(t, "Na2CO3", "0.3464", `{"what":"water"}`), "25.00"},
		{"x below nothing", "result.no-such-water", "result.slip-mass", soda(t, "Na2CO3", "0.1000", `{"what":"water"}`), "25.00"},
		{"x = 30", "result.no-such-water", "result.slip-mass", soda(t, "Na2CO3", "0.8082", `{"what":"water"}`), "25.00"},
		{"150 g/mol", "", "", acid(t, "0.1876", `{"what":"molar-mass"}`, ""), "25.00"},
		{"1.5 g/mol", "result.no-such-molar-mass", "result.slip-ten", acid(t, "0.0019", `{"what":"molar-mass"}`, ""), "25.00"},
		{"150 000 g/mol", "result.no-such-molar-mass", "result.slip-thousand", acid(t, "187.6", `{"what":"molar-mass"}`, ""),
			"25.00"},
		// Limewater holds about 0.023 mol/L, concentrated ammonia about 14.
		{"limewater", "", "", solution("Ca(OH)2", lime, "0.0500", "25.00"), "22.00"},
		{"more than dissolves", "result.beyond-solubility", "result.slip-two", solution("Ca(OH)2", lime, "0.1000", "25.00"),
			"25.00"},
		{"ammonia of the bottle", "", "", solution("NH3", ammonia, "1.000", "1.00"), "13.00"},
		{"more than the bottle has", "result.beyond-stock", "result.slip-two", solution("NH3", ammonia, "1.000", "1.00"), "40.00"},
	} {
		ev := of(t, c.p, entries("A 0.00 "+c.titre, "A 0.00 "+c.titre))
		require.NotNil(t, ev.Result, c.name)
		found := ""
		for _, f := range ev.Findings {
			for _, code := range codes {
				if f.Code == code {
					found = code
					if c.slip != "" {
						assert.Equal(t, c.slip, f.Values["slip"].String(), c.name)
					}
				}
			}
		}
		assert.Equal(t, c.code, found, "%s: %v", c.name, ev.Result.Answer)
	}
}

// What has no name is found out, and nothing is reckoned with a molar mass that
// it does not have.
func TestWithoutAName(t *testing.T) {
	ev := of(t, acid(t, "0.1876", `{"what":"molar-mass"}`, ""), entries("A 0.00 25.00", "A 0.00 25.00"))
	assert.InDelta(t, 150.1, ev.Result.Answer.Value, 0.1)
	given := acid(t, "0.1876", `{"what":"purity"}`, `,"own":{"molarMass":"150.09"}`)
	ev = of(t, given, entries("A 0.00 25.00", "A 0.00 25.00"))
	assert.InDelta(t, 100.0, ev.Result.Answer.Value, 0.1, "with a molar mass of one's own")
	for _, asked := range []string{"purity", "mass", "water", "protons"} {
		_, fault := acid(t, "0.1876", `{"what":"`+asked+`"}`, "").Check()
		require.NotNil(t, fault, asked)
		assert.Equal(t, "chem.unnamed", fault.Message.Code, asked)
	}
}

// A single accurate trial has its working and its answer, and says that it is
// one; with a second it is the mean, or nothing.
func TestOneTrialAlone(t *testing.T) {
	for _, c := range []struct {
		name   string
		lines  []string
		single bool
		whole  bool
	}{
		{"one", []string{"A 0.00 23.80"}, true, true},
		{"after a rough one", []string{"R 0.00 24.50", "A 0.00 23.80"}, true, true},
		{"a rough one alone", []string{"R 0.00 24.50"}, false, false},
		{"two that agree", []string{"A 0.00 23.80", "A 0.00 23.85"}, false, true},
		{"two that do not", []string{"A 0.00 23.80", "A 0.00 24.30"}, false, false},
	} {
		ev := evaluate(t, practicaltest.Plain(), c.lines...)
		if assert.Equal(t, c.whole, ev.Result != nil, c.name) && c.whole {
			assert.Equal(t, c.single, ev.Result.Single, c.name)
			assert.NotNil(t, ev.Result.Budget, c.name)
			assert.NotEmpty(t, ev.Result.Derivation.Nodes, c.name)
		}
	}
}

// One determination is enough where the practical says so: it has its answer, and its scatter is
// that of titres of which two agree within the tolerance in 95 of 100 cases (ISO 5725-6). With
// more all count; that they lie far apart is said.
func TestOneIsEnough(t *testing.T) {
	one := changed(func(p *practical.Practical) { p.Rules.Agreement.Need = 1 })
	ev := evaluate(t, one, "A 0.00 23.80")
	require.NotNil(t, ev.Result)
	assert.False(t, ev.Result.Single, "it is not the first of several")
	assert.Equal(t, evaluation.Agreed, ev.Stage)
	assert.Equal(t, "next.one", ev.Next.Say[0].Code)
	assert.Zero(t, ev.Agreement.Missing)
	scatter := func(ev evaluation.Evaluation) (u float64, assumed bool) {
		for _, b := range ev.Result.Budget.Contributions {
			if b.Code == "repeatability" {
				return b.Standard, b.Estimated
			}
		}
		return 0, false
	}
	u, assumed := scatter(ev)
	assert.InDelta(t, 0.10/2.8, u, 1e-9, "the tolerance is 0.10 mL")
	assert.True(t, assumed)
	assert.Empty(t, evaluate(t, one, "A 0.00 23.80", "A 0.00 23.90").Agreement.Missing)
	for _, c := range []struct {
		second string
		apart  bool
	}{{"23.90", false}, {"23.91", true}, {"24.80", true}} {
		two := evaluate(t, one, "A 0.00 23.80", "A 0.00 "+c.second)
		require.NotNil(t, two.Result, c.second)
		assert.Len(t, two.Agreement.Chosen, 2)
		said := slices.ContainsFunc(two.Findings, func(f finding.Finding) bool { return f.Code == "agreement.all-apart" })
		assert.Equal(t, c.apart, said, c.second)
		_, assumed := scatter(two)
		assert.False(t, assumed, "two tell it themselves")
	}
	// A rough titre has nothing that it could agree with here: it counts nowhere.
	for name, rule := range map[string]func(*practical.AgreementRule){
		"one is enough":  func(a *practical.AgreementRule) { a.Need, a.RoughCounts = 1, true },
		"as time allows": func(a *practical.AgreementRule) { a.AsTimeAllows, a.RoughCounts = true, true },
	} {
		rough := changed(func(p *practical.Practical) { rule(&p.Rules.Agreement) })
		assert.Nil(t, evaluate(t, rough, "R 0.00 24.50").Result, name)
		mean := evaluate(t, rough, "R 0.00 24.50", "A 0.00 23.80").Agreement.Mean
		if assert.NotNil(t, mean, name) {
			assert.Equal(t, "23.80", mean.String(), name)
		}
	}
	// As many as there was time for: it counts, and another is asked for.
	short := evaluate(t, changed(func(p *practical.Practical) { p.Rules.Agreement.AsTimeAllows = true }), "R 0.00 24.50", "A 0.00 23.80")
	require.NotNil(t, short.Result)
	assert.Equal(t, evaluation.Agreed, short.Stage)
	assert.Equal(t, 1, short.Agreement.Missing)
	assert.Equal(t, "next.if-time", short.Next.Say[0].Code)
	assert.NotNil(t, short.Next.Entry)
	// The only one so far has the same uncertainty, and is told to be it.
	first := evaluate(t, practicaltest.Plain(), "A 0.00 23.80")
	assert.True(t, first.Result.Single)
	u, assumed = scatter(first)
	assert.InDelta(t, 0.10/2.8, u, 1e-9)
	assert.True(t, assumed)
}

// How sure the known concentration is tells its figures, where that is said; and
// glass that no table lists counts, and is said to be estimated.
func TestFiguresAndEstimates(t *testing.T) {
	figures := func(change func(*practical.Practical)) int {
		return evaluate(t, changed(change), "A 0.00 23.80", "A 0.00 23.85").Result.Answer.Figures
	}
	for _, c := range []struct {
		name   string
		want   int
		change func(*practical.Practical)
	}{
		{"as written", 3, func(*practical.Practical) {}},
		{"one figure: nominal, to 1 %", 3, func(p *practical.Practical) { p.Chemistry.Titrant.Concentration = decimal.Must("0.1") }},
		{"two: nominal, to 1 %", 3, func(p *practical.Practical) { p.Chemistry.Titrant.Concentration = decimal.Must("0.10") }},
		{"two, whose last digit is 1 % of it", 3, func(p *practical.Practical) { p.Chemistry.Titrant.Concentration = decimal.Must("0.50") }},
		{"two, whose last digit says more", 2, func(p *practical.Practical) { p.Chemistry.Titrant.Concentration = decimal.Must("0.51") }},
		{"one figure, in a school that makes it to 20 %", 2, func(p *practical.Practical) {
			p.Chemistry.Titrant.Concentration, p.Rules.Norms = decimal.Must("0.1"), practical.Norms{practical.NominalShare: decimal.Must("20")}
		}},
		{"one figure, but sure to 0.0005", 3, func(p *practical.Practical) {
			p.Chemistry.Titrant.Concentration, p.Chemistry.Titrant.Uncertainty = decimal.Must("0.1"), decimal.Must("0.0005")
		}},
		{"nominal, to be standardised", 3, func(p *practical.Practical) {
			p.Chemistry.Titrant.Concentration, p.Chemistry.Standard = decimal.Must("0.1"), "other"
		}},
	} {
		assert.Equal(t, c.want, figures(c.change), c.name)
	}
	for volume, estimated := range map[string]bool{"25.00": false, "30.00": true, "4.00": true} {
		p := changed(func(p *practical.Practical) { p.Route[0].Volume = decimal.Must(volume) })
		for _, b := range evaluate(t, p, "A 0.00 23.80", "A 0.00 23.85").Result.Budget.Contributions {
			if b.Code == "pipette" {
				assert.Equal(t, estimated, b.Estimated, volume)
				assert.Positive(t, b.Share, volume)
			}
		}
	}
	// One pipette written "25.0" and "25.00" is one source.
	twice := changed(func(p *practical.Practical) {
		p.Route = []practical.RouteStep{{Kind: practical.Pipette, Volume: decimal.Must("25.0"), Class: glass.ClassB},
			{Kind: practical.MakeUp, Volume: decimal.Must("250.0"), Class: glass.ClassB},
			{Kind: practical.Aliquot, Volume: decimal.Must("25.00"), Class: glass.ClassB}}
	})
	n := 0
	for _, b := range evaluate(t, twice, "A 0.00 23.80", "A 0.00 23.85").Result.Budget.Contributions {
		if b.Code == "pipette" {
			n++
		}
	}
	assert.LessOrEqual(t, n, 1)
}

// An unsuitable indicator is said on the bench, without figures, and stands among
// the causes with its size; a suitable one is not.
func TestIndicatorOnTheBench(t *testing.T) {
	weak := func(indicator string) evaluation.Evaluation {
		p := practicaltest.Reaction(t, "ethanoic-naoh", "0.100")
		p.Chemistry.Indicator = indicator
		return evaluate(t, p, "A 0.00 24.00", "A 0.00 24.05")
	}
	said := func(ev evaluation.Evaluation) (codes, causes []string) {
		for _, f := range ev.Findings {
			codes = append(codes, f.Code)
		}
		for _, c := range ev.Result.Causes {
			causes = append(causes, c.Code)
		}
		return codes, causes
	}
	codes, causes := said(weak("methyl-orange"))
	assert.Contains(t, codes, "indicator.bench-early")
	assert.Contains(t, causes, "cause.indicator")
	codes, causes = said(weak("phenolphthalein"))
	assert.NotContains(t, codes, "indicator.bench-early")
	assert.NotContains(t, causes, "cause.indicator")
}

// Dixon's Q says nothing of a gap that is one step of the scale. Source: the
// definition; common practice, no source.
func TestDixonAndAScaleStep(t *testing.T) {
	for _, c := range []struct {
		values []float64
		step   float64
		tells  bool
	}{{[]float64{23.80, 23.85, 23.85}, 0.05, false}, {[]float64{23.80, 23.90, 23.90}, 0.05, true},
		{[]float64{23.80, 23.85, 23.85}, 0, true}, {[]float64{23.80, 23.80, 23.80}, 0, false}} {
		_, ok := statistics.DixonQ(c.values, c.step)
		assert.Equal(t, c.tells, ok, "%v at %v", c.values, c.step)
	}
	assert.Nil(t, evaluate(t, practicaltest.Plain(), "A 0.00 23.80", "A 0.00 23.85", "A 0.00 23.85").Dixon)
	// Equal titres are no tie, whichever of them is taken.
	closest := changed(func(p *practical.Practical) { p.Rules.Agreement.Average = practical.AverageClosest })
	assert.Equal(t, agreement.Agreed, evaluate(t, closest, "A 0.00 23.80", "A 0.00 23.80", "A 0.00 23.80").Agreement.Status)
}

// A rough value is nothing to compare with where unknowns were given out; a label and a true
// value are, and are named so.
func TestWhatAnAnswerIsComparedWith(t *testing.T) {
	for _, dealt := range []bool{false, true} {
		p := changed(func(p *practical.Practical) {
			p.Asked.Expected, p.Asked.Dealt = decimal.Must("0.0450"), dealt
			p.Asked.Label = practical.Label{Value: decimal.Must("0.09"), Unit: quantity.MolePerL}
			p.Asked.Reference = decimal.Must("0.0950")
		})
		ev := evaluate(t, p, "A 0.00 23.85", "A 0.00 23.85")
		require.NotNil(t, ev.Result)
		assert.Equal(t, !dealt, ev.Result.Expected != nil)
		far := false
		for _, f := range ev.Findings {
			far = far || f.Code == "result.far-from-expected"
		}
		assert.Equal(t, !dealt, far, "112 % from it")
		require.NotNil(t, ev.Result.Label)
		assert.InDelta(t, 6.0, ev.Result.Label.Percent, 1e-9)
		require.NotNil(t, ev.Result.Reference)
		assert.InDelta(t, 100*(0.0954-0.095)/0.095, ev.Result.Reference.Percent, 1e-9)
	}
}

// Whether the truth lies within what is stated: 23.85 mL of 0.100 mol/L for 25.0 mL are 0.0954 mol/L.
func TestWithinWhatIsStated(t *testing.T) {
	for reference, within := range map[string]bool{"0.0954": true, "0.0955": true, "0.0900": false, "0.1008": false} {
		r := changed(func(p *practical.Practical) { p.Asked.Reference = decimal.Must(reference) })
		assert.Equal(t, within, evaluate(t, r, "A 0.00 23.80", "A 0.00 23.90").Result.Within, reference)
	}
}

// 0.1 as everybody writes it: the answer is sure to about the 1 % of the strength, and not to
// half of itself; that it is nominal is said, once, and not where more digits stand.
func TestNominalAsWritten(t *testing.T) {
	for _, c := range []struct {
		written string
		nominal bool
		most    float64 // of the relative standard uncertainty, %
	}{{"0.1", true, 0.8}, {"0.10", true, 0.8}, {"0.100", false, 0.6}, {"0.1012", false, 0.5}} {
		r := changed(func(p *practical.Practical) { p.Chemistry.Titrant.Concentration = decimal.Must(c.written) })
		ev := evaluate(t, r, "A 0.00 23.80", "A 0.00 23.85")
		assert.Less(t, ev.Result.Budget.Relative, c.most, c.written)
		said := 0
		for _, f := range ev.Findings {
			if f.Code == "nominal.written" {
				said++
			}
		}
		assert.Equal(t, map[bool]int{true: 1}[c.nominal], said, c.written)
	}
}
