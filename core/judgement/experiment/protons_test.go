package experiment_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
)

// Without any rough value the answer itself tells whether the indicator fits the equation, and
// which number of protons does. Which indicator shows which proton: handbook pKa values
// (docs/truth.md) and common practice.
func TestProtonsByTheIndicator(t *testing.T) {
	for _, c := range []struct {
		name, equation, titrant, analyte, indicator string
		fitting                                     int // 0: nothing is said
	}{
		{"phosphoric acid, one proton, shown by phenolphthalein", "H3PO4 + NaOH -> NaH2PO4 + H2O", "NaOH", "H3PO4", "phenolphthalein", 2},
		{"phosphoric acid, two protons", "H3PO4 + 2 NaOH -> Na2HPO4 + 2 H2O", "NaOH", "H3PO4", "phenolphthalein", 0},
		{"phosphoric acid, one proton, shown by methyl orange", "H3PO4 + NaOH -> NaH2PO4 + H2O", "NaOH", "H3PO4", "methyl-orange", 0},
		{"phosphoric acid, two protons, shown by methyl orange", "H3PO4 + 2 NaOH -> Na2HPO4 + 2 H2O", "NaOH", "H3PO4", "methyl-orange", 1},
		{"phosphoric acid, one proton, shown between two by bromothymol blue", "H3PO4 + NaOH -> NaH2PO4 + H2O", "NaOH", "H3PO4", "bromothymol-blue", 0},
		{"citric acid as one", "C6H8O7 + NaOH -> NaC6H7O7 + H2O", "NaOH", "C6H8O7", "phenolphthalein", 3},
		{"citric acid as three", "C6H8O7 + 3 NaOH -> Na3C6H5O7 + 3 H2O", "NaOH", "C6H8O7", "phenolphthalein", 0},
		{"carbonate to hydrogencarbonate, shown by methyl orange", "Na2CO3 + HCl -> NaHCO3 + NaCl", "HCl", "Na2CO3", "methyl-orange", 2},
		{"carbonate to carbon dioxide", "Na2CO3 + 2 HCl -> 2 NaCl + H2O + CO2", "HCl", "Na2CO3", "methyl-orange", 0},
		{"ethanoic acid", "CH3COOH + NaOH -> CH3COONa + H2O", "NaOH", "CH3COOH", "phenolphthalein", 0},
		{"sulfuric acid as one", "H2SO4 + NaOH -> NaHSO4 + H2O", "NaOH", "H2SO4", "methyl-red", 2},
	} {
		p := practicaltest.Plain()
		p.Chemistry = practical.Chemistry{Equation: c.equation, Indicator: c.indicator,
			Titrant: practical.Solution{Name: "t", Formula: c.titrant, Concentration: decimal.Must("0.1000")}, Analyte: practical.Solution{Name: "a", Formula: c.analyte}}
		p.Asked = practical.Asked{}
		ev := of(t, p, entries("A 0.00 23.85", "A 0.00 23.85"))
		require.NotNil(t, ev.Result, c.name)
		said := 0
		for _, f := range ev.Findings {
			if f.Code != "indicator.other-protons" {
				continue
			}
			said = int(f.Values["fitting"].Exact.Float64())
			counted := f.Values["counted"].Exact.Float64()
			assert.InEpsilon(t, ev.Result.Answer.Value*counted/float64(said), *f.Values["other"].Number, 1e-9, c.name)
		}
		assert.Equal(t, c.fitting, said, c.name)
	}
}
