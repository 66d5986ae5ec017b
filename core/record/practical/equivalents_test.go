package practical_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
)

// The substance in which an answer is given is related by what it exchanges, not by the atoms
// that it happens to share. Sources: available chlorine is the chlorine of the same oxidising
// power, alkalinity as CaCO3 counts equivalents, titratable acidity is told by protons: common
// practice, no source.
func TestAsByEquivalents(t *testing.T) {
	iodine := `"equation":"I2 + 2 S2O3^2- -> 2 I- + S4O6^2-","titrated":"I2","titrant":{"name":"t","formula":"S2O3^2-","concentration":"0.1000"},"indicator":"starch"`
	alkali := `"titrant":{"name":"t","formula":"NaOH","concentration":"0.1000"},"indicator":"phenolphthalein"`
	acid := `"titrant":{"name":"t","formula":"HCl","concentration":"0.1000"},"indicator":"methyl-orange"`
	for _, c := range []struct {
		name, chemistry, as, given string
		ratio                      [2]int
		by                         practical.AsRule
	}{
		{"hypochlorite", iodine + `,"via":[{"equation":"ClO- + 2 I- + 2 H+ -> Cl- + I2 + H2O","to":"ClO-"}],"analyte":{"name":"a","formula":"ClO-"}`, "Cl2", "", [2]int{1, 1}, practical.AsByEquivalents},
		{"bleaching powder", iodine + `,"via":[{"equation":"Ca(ClO)2 + 4 I- + 4 H+ -> CaCl2 + 2 I2 + 2 H2O","to":"Ca(ClO)2"}],"analyte":{"name":"a","formula":"Ca(ClO)2"}`, "Cl2", "", [2]int{2, 1}, practical.AsByEquivalents},
		{"as it is given", iodine + `,"via":[{"equation":"ClO- + 2 I- + 2 H+ -> Cl- + I2 + H2O","to":"ClO-"}],"analyte":{"name":"a","formula":"ClO-"}`, "Cl2", "1/2", [2]int{1, 2}, practical.AsGiven},
		{"hydrogencarbonate as calcium carbonate", `"equation":"NaHCO3 + HCl -> NaCl + H2O + CO2",` + acid + `,"analyte":{"name":"a","formula":"NaHCO3"}`, "CaCO3", "", [2]int{1, 2}, practical.AsByEquivalents},
		{"carbonate as hydrogencarbonate, which takes one proton", `"equation":"Na2CO3 + 2 HCl -> 2 NaCl + H2O + CO2",` + acid + `,"analyte":{"name":"a","formula":"Na2CO3"}`, "NaHCO3", "", [2]int{2, 1}, practical.AsByEquivalents},
		{"carbonate as hydrogencarbonate ions", `"equation":"Na2CO3 + 2 HCl -> 2 NaCl + H2O + CO2",` + acid + `,"analyte":{"name":"a","formula":"Na2CO3"}`, "HCO3-", "", [2]int{2, 1}, practical.AsByEquivalents},
		{"an acid as the base that it takes", `"equation":"C4H6O6 + 2 NaOH -> Na2C4H4O6 + 2 H2O",` + alkali + `,"analyte":{"name":"a","formula":"C4H6O6"}`, "KOH", "", [2]int{2, 1}, practical.AsByEquivalents},
		{"lactic acid as tartaric", `"equation":"C3H6O3 + NaOH -> NaC3H5O3 + H2O",` + alkali + `,"analyte":{"name":"a","formula":"C3H6O3"}`, "C4H6O6", "", [2]int{1, 2}, practical.AsByEquivalents},
		{"iron as its metal", `"equation":"MnO4- + 5 Fe^2+ + 8 H+ -> Mn^2+ + 5 Fe^3+ + 4 H2O","titrant":{"name":"t","formula":"MnO4-","concentration":"0.0200"},"indicator":"self","analyte":{"name":"a","formula":"Fe^2+"}`, "Fe", "", [2]int{1, 1}, practical.AsByAtoms},
		{"iron as its oxide", `"equation":"MnO4- + 5 Fe^2+ + 8 H+ -> Mn^2+ + 5 Fe^3+ + 4 H2O","titrant":{"name":"t","formula":"MnO4-","concentration":"0.0200"},"indicator":"self","analyte":{"name":"a","formula":"Fe^2+"}`, "Fe2O3", "", [2]int{1, 2}, practical.AsByAtoms},
		{"itself", `"equation":"C3H6O3 + NaOH -> NaC3H5O3 + H2O",` + alkali + `,"analyte":{"name":"a","formula":"C3H6O3"}`, "C3H6O3", "", [2]int{1, 1}, practical.AsItself},
	} {
		var p practical.Practical
		require.NoError(t, json.Unmarshal([]byte(`{"chemistry":{`+c.chemistry+`}}`), &p), c.name)
		plain := practicaltest.Plain()
		plain.Chemistry = p.Chemistry
		plain.Asked = practical.Asked{What: practical.MassConcentration, As: c.as, AsRatio: c.given}
		r, fault := plain.Check()
		require.Nil(t, fault, c.name)
		assert.Equal(t, c.ratio, r.AsRatio, c.name)
		assert.Equal(t, c.by, r.AsBy, c.name)
	}
}
