package stoich_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"exactflask/core/chem"
	"exactflask/core/decimal"
	"exactflask/core/quantity"
	"exactflask/core/stoich"
)

// direct makes a titration; runs are "start end" pairs joined by commas.
func direct(t require.TestingT, equation, titrant, analyte, known, aliquot, runs string) stoich.Assay {
	eq, err := chem.ParseEquation(equation)
	require.NoError(t, err)
	eq, err = eq.Balance()
	require.NoError(t, err)
	in := stoich.Assay{Reactions: []stoich.Reaction{{Equation: eq, From: chem.MustFormula(titrant), To: chem.MustFormula(analyte)}},
		Titrant: chem.MustFormula(titrant), Analyte: chem.MustFormula(analyte), Known: decimal.Must(known), Route: []stoich.Step{{Kind: stoich.Portion, Volume: decimal.Must(aliquot)}}}
	for i, run := range strings.Split(runs, ",") {
		r := strings.Fields(run)
		in.Titres = append(in.Titres, stoich.Titre{Trial: fmt.Sprint(i + 1),
			Start: stoich.Reading{Entry: fmt.Sprintf("s%d", i), Value: decimal.Must(r[0])}, End: stoich.Reading{Entry: fmt.Sprintf("e%d", i), Value: decimal.Must(r[1])}})
	}
	return in
}

func TestDerive(t *testing.T) {
	const practice, openstax = "common practice, no source", "OpenStax Chemistry 2e, ch. 4.5, from memory"
	for _, c := range []struct {
		equation, titrant, analyte, known, aliquot, runs string
		inBurette                                        bool
		want                                             string // at the figures of the rule
		source                                           string
	}{
		{"HCl + NaOH -> NaCl + H2O", "NaOH", "HCl", "0.37", "25.0", "1.50 20.20", false, "0.28", practice},
		{"HCl + NaOH -> NaCl + H2O", "NaOH", "HCl", "0.370", "25.0", "1.50 20.20", false, "0.277", practice + " (known taken to three figures)"},
		{"H2SO4 + NaOH -> Na2SO4 + H2O", "NaOH", "H2SO4", "0.370", "25.0", "0.0 14.2", false, "0.105", practice},
		{"HCl + NaOH -> NaCl + H2O", "HCl", "NaOH", "0.100", "25.0", "0.00 23.85, 0.00 23.80, 0.00 23.80", false, "0.0953", practice},
		{"H2SO4 + NaOH -> Na2SO4 + H2O", "H2SO4", "NaOH", "0.100", "25.0", "0.0 13.1", true, "0.0954", practice},
		{"CH3COOH + NaOH -> CH3COONa + H2O", "NaOH", "CH3COOH", "0.100", "5.00", "0.0 44.4", false, "0.888", practice},
		{"MnO4- + Fe^2+ + H+ -> Mn^2+ + Fe^3+ + H2O", "MnO4-", "Fe^2+", "0.0500", "10.0", "0.0 4.8, 0.0 4.7, 0.0 4.6", true, "0.021", practice + " (0.0213 to three figures, below)"},
		{"HCl + NaOH -> NaCl + H2O", "NaOH", "HCl", "0.250", "50.00", "0.00 35.23", false, "0.176", openstax},
		{"H2C2O4 + KMnO4 + H2SO4 -> CO2 + MnSO4 + K2SO4 + H2O", "KMnO4", "H2C2O4", "0.09113", "20.00", "0.00 23.24", false, "0.2647", openstax + ": 0.2648 is printed there from a rounded step; unrounded it is 0.26474"},
	} {
		in := direct(t, c.equation, c.titrant, c.analyte, c.known, c.aliquot, c.runs)
		in.UnknownInBurette = c.inBurette
		d, err := in.Derive()
		require.NoError(t, err)
		answer := d.Answer()
		assert.Equal(t, c.want, answer.Quantity.String(), "%s: %s", c.equation, c.source)
		assert.Equal(t, quantity.MolePerL, answer.Quantity.Unit)
		assert.InEpsilon(t, answer.Quantity.Value, d.Recompute(nil, ""), 1e-12, "the derivation gives its own answer")
	}
	in := direct(t, "MnO4- + Fe^2+ + H+ -> Mn^2+ + Fe^3+ + H2O", "MnO4-", "Fe^2+", "0.0500", "10.0", "0.0 4.8, 0.0 4.7, 0.0 4.6")
	in.UnknownInBurette = true
	d, _ := in.Derive()
	assert.Equal(t, "0.0213", quantity.Show(d.Answer().Quantity.Value, 3))
	mean, _ := d.Node(stoich.NodeMeanTitre)
	assert.Equal(t, "4.7", mean.Quantity.String())
}

func TestRoundedMeanIsUsedSo(t *testing.T) {
	in := direct(t, "HCl + NaOH -> NaCl + H2O", "HCl", "NaOH", "0.1000", "25.00", "0.00 23.85, 0.00 23.80, 0.00 23.80")
	carried, err := in.Derive()
	require.NoError(t, err)
	in.RoundMean = true
	rounded, err := in.Derive()
	require.NoError(t, err)
	assert.InDelta(t, 0.0952666, carried.Answer().Quantity.Value, 1e-7)
	assert.InDelta(t, 0.09528, rounded.Answer().Quantity.Value, 1e-9)
}

func TestDeriveRefuses(t *testing.T) {
	good := func() stoich.Assay {
		return direct(t, "HCl + NaOH -> NaCl + H2O", "HCl", "NaOH", "0.100", "25.0", "0.00 23.85")
	}
	for says, spoil := range map[string]func(*stoich.Assay){
		"KOH is not in":     func(in *stoich.Assay) { in.Reactions[0].From = chem.MustFormula("KOH") },
		"H₂SO₄ is not in":   func(in *stoich.Assay) { in.Reactions[0].To = chem.MustFormula("H2SO4") },
		"no titre":          func(in *stoich.Assay) { in.Titres = nil },
		"flask is 0 mL":     func(in *stoich.Assay) { in.Route[0].Volume = decimal.Must("0") },
		"mean titre is -23": func(in *stoich.Assay) { in.Titres[0].Start, in.Titres[0].End = in.Titres[0].End, in.Titres[0].Start },
	} {
		in := good()
		spoil(&in)
		_, err := in.Derive()
		assert.ErrorContains(t, err, says)
	}
}

// Doubling every volume changes no concentration; permuting trials changes nothing.
func TestDeriveProperties(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var runs, doubled []string
		for _, n := range rapid.SliceOfN(rapid.IntRange(1, 2400), 1, 5).Draw(t, "titres") {
			runs = append(runs, fmt.Sprintf("0.00 %d.%02d", n/100, n%100))
			doubled = append(doubled, fmt.Sprintf("0.00 %d.%02d", 2*n/100, 2*n%100))
		}
		concentration := func(runs []string, aliquot string) float64 {
			d, err := direct(t, "HCl + Na2CO3 -> NaCl + H2O + CO2", "HCl", "Na2CO3", "0.100", aliquot, strings.Join(runs, ",")).Derive()
			require.NoError(t, err)
			return d.Answer().Quantity.Value
		}
		c := concentration(runs, "25.0")
		assert.InEpsilon(t, c, concentration(doubled, "50.0"), 1e-12)
		assert.InEpsilon(t, c, concentration(rapid.Permutation(runs).Draw(t, "order"), "25.0"), 1e-12)
	})
}

// Blanks, refills and unequal samples. Source: common practice, no source.
func TestDeriveSpecialCases(t *testing.T) {
	reading := func(v string) stoich.Reading { return stoich.Reading{Entry: "e", Value: decimal.Must(v), Text: v} }
	in := direct(t, "HCl + NaOH -> NaCl + H2O", "HCl", "NaOH", "0.1000", "25.00", "0.00 24.00")
	in.Blanks = []stoich.Titre{{Trial: "b", Start: reading("0.00"), End: reading("0.10")}}
	d, err := in.Derive()
	require.NoError(t, err)
	assert.InDelta(t, 0.09560, d.Answer().Quantity.Value, 1e-12)
	corrected, _ := d.Node(stoich.NodeCorrected)
	assert.Equal(t, "23.90", corrected.Quantity.String(), "the blank is subtracted on a line of its own")
	assert.InEpsilon(t, d.Answer().Quantity.Value, d.Recompute(nil, ""), 1e-12)

	in = direct(t, "HCl + NaOH -> NaCl + H2O", "HCl", "NaOH", "0.1000", "25.00", "40.00 10.00")
	in.Titres[0].Refills = [][2]stoich.Reading{{reading("49.00"), reading("0.50")}} // 9.00 and 9.50
	d, err = in.Derive()
	require.NoError(t, err)
	assert.InDelta(t, 0.0740, d.Answer().Quantity.Value, 1e-12)
	assert.InEpsilon(t, d.Answer().Quantity.Value, d.Recompute(nil, ""), 1e-12)

	for inBurette, want := range map[bool]float64{false: 0.0960, true: 0.1041667} {
		in = direct(t, "HCl + NaOH -> NaCl + H2O", "HCl", "NaOH", "0.1000", "25.00", "0.00 24.00, 0.00 19.20")
		in.UnknownInBurette = inBurette
		in.Route = nil
		in.Titres[0].Sample, in.Titres[1].Sample = &[2]stoich.Reading{reading("0.00"), reading("25.00")}, &[2]stoich.Reading{reading("25.00"), reading("45.00")}
		d, err = in.Derive()
		require.NoError(t, err)
		assert.InDelta(t, want, d.Answer().Quantity.Value, 1e-6)
		assert.InEpsilon(t, want, d.Recompute(nil, ""), 1e-6)
	}
	in.Titres[0].Sample = &[2]stoich.Reading{reading("25.00"), reading("25.00")}
	_, err = in.Derive()
	assert.ErrorContains(t, err, "no volume")
}
