package practical_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/agreement"
	"exactflask/core/decimal"
	"exactflask/core/glass"
	"exactflask/core/practical"
)

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

// A practical that contradicts itself is refused at the place that is wrong.
func TestFaultsNameThePlace(t *testing.T) {
	_, fault := plain().Check()
	require.Nil(t, fault)
	for path, spoil := range map[string]func(*practical.Practical){
		"chemistry.equation":              func(p *practical.Practical) { p.Chemistry.Equation = "HCl + NaOH" },
		"chemistry.titrant.formula":       func(p *practical.Practical) { p.Chemistry.Titrant.Formula = "HCL" },
		"chemistry.analyte.formula":       func(p *practical.Practical) { p.Chemistry.Analyte.Formula = "KOH" },
		"chemistry.titrant.concentration": func(p *practical.Practical) { p.Chemistry.Titrant.Concentration = decimal.Must("30") },
		"chemistry.analyte.concentration": func(p *practical.Practical) { p.Chemistry.Analyte.Concentration = decimal.Must("0.1") },
		"chemistry.indicator":             func(p *practical.Practical) { p.Chemistry.Indicator = "universal" },
		"glass.burette.division":          func(p *practical.Practical) { p.Glass.Burette.Division = decimal.Must("0") },
		"route[0].volume":                 func(p *practical.Practical) { p.Route[0].Volume = decimal.Must("0") },
		"route[0].kind":                   func(p *practical.Practical) { p.Route[0].Kind = "spoon" },
		"rules.readings.resolution":       func(p *practical.Practical) { p.Rules.Readings.Resolution = "fine" },
		"rules.agreement.tolerance":       func(p *practical.Practical) { p.Rules.Agreement.Tolerance = decimal.Must("-0.1") },
		"rules.agreement.need":            func(p *practical.Practical) { p.Rules.Agreement.Need = 1 },
		"showing.results":                 func(p *practical.Practical) { p.Showing.Results = "" },
		"showing.style.words":             func(p *practical.Practical) { p.Showing.Style.Words = "x" },
		"kind":                            func(p *practical.Practical) { p.Kind = practical.Back },
	} {
		p := plain()
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
		p := plain()
		change(&p)
		r, fault := p.Check()
		if fault != nil {
			require.Fail(t, fault.Error())
		}
		assert.Equal(t, want, r.Kind)
	}
}
