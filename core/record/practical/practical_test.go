package practical_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
)

// A practical that contradicts itself is refused at the place that is wrong.
func TestFaultsNameThePlace(t *testing.T) {
	_, fault := practicaltest.Plain().Check()
	require.Nil(t, fault)
	for path, spoil := range map[string]func(*practical.Practical){
		"chemistry.equation":              func(p *practical.Practical) { p.Chemistry.Equation = "HCl + NaOH" },
		"chemistry.titrant.formula":       func(p *practical.Practical) { p.Chemistry.Titrant.Formula = "HCL" },
		"chemistry.analyte.formula":       func(p *practical.Practical) { p.Chemistry.Analyte.Formula = "KOH" },
		"chemistry.titrant.concentration": func(p *practical.Practical) { p.Chemistry.Titrant.Concentration = decimal.Must("30") },
		"chemistry.analyte.concentration": func(p *practical.Practical) { p.Chemistry.Analyte.Concentration = decimal.Must("0.1") },
		"chemistry.indicator":             func(p *practical.Practical) { p.Chemistry.Indicator = "beetroot" },
		"glass.burette.division":          func(p *practical.Practical) { p.Glass.Burette.Division = decimal.Must("0") },
		"route[0].volume":                 func(p *practical.Practical) { p.Route[0].Volume = decimal.Must("0") },
		"route[0].kind":                   func(p *practical.Practical) { p.Route[0].Kind = "spoon" },
		"rules.readings.resolution":       func(p *practical.Practical) { p.Rules.Readings.Resolution = "fine" },
		"rules.agreement.tolerance":       func(p *practical.Practical) { p.Rules.Agreement.Tolerance = decimal.Must("-0.1") },
		"rules.agreement.need":            func(p *practical.Practical) { p.Rules.Agreement.Need = 4 },
		"showing.results":                 func(p *practical.Practical) { p.Showing.Results = "" },
		"showing.style.words":             func(p *practical.Practical) { p.Showing.Style.Words = "x" },
		"kind":                            func(p *practical.Practical) { p.Kind = practical.Back },
	} {
		p := practicaltest.Plain()
		spoil(&p)
		_, fault := p.Check()
		if assert.NotNil(t, fault, path) {
			assert.Equal(t, path, fault.Path, fault.Error())
		}
	}
}

// The kind follows from what is written; a practical does not have to say it.
func TestKindFollows(t *testing.T) {
	for want, change := range map[practical.Kind]func(*practical.Practical){
		practical.Direct: func(*practical.Practical) {},
		practical.Standardisation: func(p *practical.Practical) {
			p.Chemistry.Titrant = practical.Solution{Name: "hydrochloric acid", Formula: "HCl", Approximate: decimal.Must("0.1")}
			p.Chemistry.Analyte = practical.Solution{Name: "alkali", Formula: "NaOH", Concentration: decimal.Must("0.1000")}
		},
	} {
		p := practicaltest.Plain()
		change(&p)
		r, fault := p.Check()
		if fault != nil {
			require.Fail(t, fault.Error())
		}
		assert.Equal(t, want, r.Kind)
	}
}
