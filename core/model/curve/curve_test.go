package curve_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
	"exactflask/core/chemistry/equilibrium"
	"exactflask/core/model/curve"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
)

func predict(t testing.TB, p practical.Practical) *curve.Prediction {
	r, fault := p.Check()
	if fault != nil {
		require.Fail(t, fault.Error())
	}
	return curve.Of(r)
}

// What the verdicts must say. Source: common practice, no source.
func TestIndicatorVerdicts(t *testing.T) {
	verdict := func(id, strength, indicator string) equilibrium.Verdict {
		p := practicaltest.Reaction(t, id, strength)
		p.Chemistry.Indicator = indicator
		a := predict(t, p)
		require.NotNil(t, a.Chosen, id)
		return a.Chosen.End.Verdict
	}
	for _, c := range []struct {
		reaction, strength, indicator string
		want                          equilibrium.Verdict
	}{
		{"hcl-naoh", "0.1", "phenolphthalein", equilibrium.Suits},
		{"hcl-naoh", "0.1", "bromothymol-blue", equilibrium.Suits},
		{"hcl-naoh", "0.1", "methyl-red", equilibrium.Suits},
		{"hcl-nh3", "0.1", "phenolphthalein", equilibrium.Unsuitable},
		{"hcl-nh3", "0.1", "methyl-red", equilibrium.Suits},
		{"ethanoic-naoh", "0.1", "methyl-orange", equilibrium.Unsuitable},
		{"ethanoic-naoh", "0.1", "phenolphthalein", equilibrium.Suits},
		{"hcl-na2co3", "0.1", "methyl-orange", equilibrium.Marginal}, // 50 mL of titrant: a drop and a little
		{"oxalic-naoh", "0.1", "phenolphthalein", equilibrium.Suits},
		{"khp-naoh", "0.1", "phenolphthalein", equilibrium.Suits},
		{"cerium-iron", "0.1", "ferroin", equilibrium.Suits},
		{"permanganate-iron", "0.02", "self", equilibrium.Suits},
		{"iodine-thiosulfate", "0.1", "starch", equilibrium.Suits},
	} {
		assert.Equal(t, c.want, verdict(c.reaction, c.strength, c.indicator), "%s with %s", c.reaction, c.indicator)
	}
	suit := func(strength string) (n int) {
		for _, i := range predict(t, practicaltest.Reaction(t, "hcl-naoh", strength)).Indicators {
			if i.End.Verdict == equilibrium.Suits {
				n++
			}
		}
		return n
	}
	assert.Less(t, suit("0.001"), suit("0.1"), "at 0.001 mol/L fewer do")
	boric := predict(t, practicaltest.Reaction(t, "boric-naoh", "0.1"))
	assert.True(t, boric.Meter, "pKa 9: none does, use a pH meter")
	wrong := practicaltest.Reaction(t, "hcl-nh3", "0.1")
	wrong.Chemistry.Indicator = "phenolphthalein"
	a := predict(t, wrong)
	assert.Equal(t, "plan.indicator-early", a.Remarks()[0].Code)
	assert.Contains(t, fmt.Sprint(a.Remarks()[0].Values["better"]), "methyl-red")
	assert.Equal(t, equilibrium.Suits, a.Indicators[0].End.Verdict, "the best first")
}

// The indicators that the catalogue recommends for a reaction serve by its own
// curve: at school strengths, they suit or are marginal.
func TestRecommendedIndicatorsServe(t *testing.T) {
	for _, r := range catalog.BuiltIn().Reactions {
		if strings.HasSuffix(r.ID, "-iodide") {
			continue
		}
		strength := "0.1"
		if r.Kind == "redox" {
			strength = "0.02"
		}
		for _, id := range r.Indicators {
			p := practicaltest.Reaction(t, r.ID, strength)
			p.Chemistry.Indicator = id
			a := predict(t, p)
			if id == "ph-meter" {
				assert.True(t, a.Meter, r.ID)
				continue
			}
			if assert.NotNil(t, a.Chosen, "%s with %s", r.ID, id) {
				serves := a.Chosen.End.Verdict != equilibrium.Unsuitable ||
					a.Chosen.Boiled != nil && a.Chosen.Boiled.Verdict == equilibrium.Suits
				assert.True(t, serves, "%s with %s: %s, %+.3f mL of %.1f", r.ID, id,
					a.Chosen.End.Reason, a.Chosen.End.Error, a.Curve.Equivalence[0].Volume)
			}
		}
	}
}

// Every reaction of the catalogue that is an acid-base titration has a curve,
// in either direction; so has every redox one with known couples.
func TestEveryReactionHasItsCurve(t *testing.T) {
	for _, r := range catalog.BuiltIn().Reactions {
		if strings.HasSuffix(r.ID, "-iodide") {
			continue // no titration: it sets iodine free
		}
		p := practicaltest.Reaction(t, r.ID, "0.1")
		a := predict(t, p)
		if !assert.NotNil(t, a.Curve, r.ID) {
			continue
		}
		assert.Greater(t, len(a.Curve.Points), 80, r.ID)
		p.Chemistry.Titrant, p.Chemistry.Analyte = practical.Solution{Name: "a", Formula: p.Chemistry.Analyte.Formula,
			Concentration: decimal.Must("0.1")}, practical.Solution{Name: "b", Formula: p.Chemistry.Titrant.Formula, Approximate: decimal.Must("0.1")}
		if back := predict(t, p); assert.NotNil(t, back.Curve, "%s, the other way round", r.ID) {
			first, last := back.Curve.Points[0].Value, back.Curve.Points[len(back.Curve.Points)-1].Value
			forth := a.Curve.Points[len(a.Curve.Points)-1].Value > a.Curve.Points[0].Value
			assert.NotEqual(t, forth, last > first, "%s: it runs the other way", r.ID)
		}
	}
}

// of sets a titration up that need not stand in the catalogue.
func of(equation, titrant, strength, analyte, about, indicator string) practical.Practical {
	p := practicaltest.Plain()
	p.Chemistry = practical.Chemistry{Equation: equation, Indicator: indicator,
		Titrant: practical.Solution{Name: "t", Formula: titrant, Concentration: decimal.Must(strength)},
		Analyte: practical.Solution{Name: "a", Formula: analyte, Approximate: decimal.Must(about)}}
	return p
}

// Marks by the protons that react. Source: the stoichiometry and pKa values
// (CRC Handbook, from memory); by hand.
func TestMarksOnTheCurve(t *testing.T) {
	for _, c := range []struct {
		name        string
		p           practical.Practical
		equivalence []float64
		half        []float64
	}{
		{"acetic acid", of("CH3COOH + NaOH -> CH3COONa + H2O", "NaOH", "0.1", "CH3COOH", "0.1", "phenolphthalein"),
			[]float64{25}, []float64{12.5}},
		{"KHP has one", of("KHC8H4O4 + NaOH -> KNaC8H4O4 + H2O", "NaOH", "0.1", "KHC8H4O4", "0.1", "phenolphthalein"),
			[]float64{25}, []float64{12.5}},
		{"hydrogencarbonate has one", of("NaHCO3 + HCl -> NaCl + H2O + CO2", "HCl", "0.1", "NaHCO3", "0.1", "methyl-orange"),
			[]float64{25}, []float64{12.5}},
		{"carbonate has two", of("Na2CO3 + HCl -> NaCl + H2O + CO2", "HCl", "0.2", "Na2CO3", "0.1", "methyl-orange"),
			[]float64{25, 12.5}, []float64{6.25, 18.75}},
		{"sulfuric acid in the burette counts twice", of("Na2CO3 + H2SO4 -> Na2SO4 + H2O + CO2", "H2SO4", "0.1", "Na2CO3",
			"0.1", "methyl-orange"), []float64{25, 12.5}, []float64{6.25, 18.75}},
		{"ammonia with sulfuric acid", of("NH3 + H2SO4 -> (NH4)2SO4", "H2SO4", "0.05", "NH3", "0.1", "methyl-red"),
			[]float64{25}, []float64{12.5}},
		{"borax: four borates at once", of("Na2B4O7*10H2O + HCl -> H3BO3 + NaCl + H2O", "HCl", "0.1", "Na2B4O7*10H2O", "0.05",
			"methyl-red"), []float64{25}, nil},
		{"phosphoric acid", of("H3PO4 + 2 NaOH -> Na2HPO4 + 2 H2O", "NaOH", "0.1", "H3PO4", "0.05", "thymolphthalein"),
			[]float64{25, 12.5, 37.5}, []float64{18.75}},
		{"strong acid", of("HCl + NaOH -> NaCl + H2O", "NaOH", "0.1", "HCl", "0.1", "phenolphthalein"), []float64{25}, nil},
	} {
		k := predict(t, c.p).Curve
		require.NotNil(t, k, c.name)
		volumes := func(points []equilibrium.Point) (out []float64) {
			for _, p := range points {
				out = append(out, p.Volume)
			}
			return out
		}
		assert.InDeltaSlice(t, c.equivalence, volumes(k.Equivalence), 1e-6, "%s: equivalences", c.name)
		if c.name == "phosphoric acid" {
			assert.InDelta(t, 7.21, k.Half[len(k.Half)-1].Value, 0.1) // the first half is too acid to be at its pKa
			continue
		}
		assert.InDeltaSlice(t, c.half, volumes(k.Half), 1e-6, "%s: half-equivalences", c.name)
	}
}

// Verdicts that a wrong model would miss. Source: common practice, no source,
// and the potentials of core/chemistry/catalog.
func TestVerdictsAtTheEdge(t *testing.T) {
	iron := "Fe^2+"
	for _, c := range []struct {
		name    string
		p       practical.Practical
		verdict equilibrium.Verdict
		says    []string
	}{
		{"a school's usual choice, judged with activities", of("H2SO4 + NaOH -> Na2SO4 + H2O", "H2SO4", "0.05", "NaOH", "0.1",
			"methyl-orange"), equilibrium.Marginal, []string{"plan.indicator-activities"}},
		{"iodine does not oxidise iron(II)", of("I2 + Fe^2+ -> I- + Fe^3+", "I2", "0.05", iron, "0.1", "starch"),
			equilibrium.Unsuitable, []string{"plan.does-not-go", "plan.indicator-never", "plan.meter"}},
		{"permanganate with cerium(III)", of("MnO4- + Ce^3+ + H+ -> Mn^2+ + Ce^4+ + H2O", "MnO4-", "0.02", "Ce^3+", "0.1",
			"self"), equilibrium.Unsuitable, []string{"plan.does-not-go"}},
		{"dichromate: the usual indicator turns", of("Cr2O7^2- + Fe^2+ + H+ -> Cr^3+ + Fe^3+ + H2O", "Cr2O7^2-", "0.0167", iron,
			"0.1", "diphenylamine-sulfonate"), equilibrium.Suits, nil},
		{"dichromate: ferroin turns too late", of("Cr2O7^2- + Fe^2+ + H+ -> Cr^3+ + Fe^3+ + H2O", "Cr2O7^2-", "0.0167", iron,
			"0.1", "ferroin"), equilibrium.Unsuitable, []string{"plan.indicator-late"}},
		{"molecules as well as ions", of("KMnO4 + FeSO4 + H2SO4 -> MnSO4 + K2SO4 + Fe2(SO4)3 + H2O", "KMnO4", "0.02", "FeSO4",
			"0.1", "self"), equilibrium.Suits, nil},
		{"ammonia as NH4OH, phenolphthalein", of("NH4OH + HCl -> NH4Cl + H2O", "HCl", "0.1", "NH4OH", "0.1",
			"phenolphthalein"), equilibrium.Unsuitable, []string{"plan.indicator-early"}},
		{"carbonate, boiled out", of("Na2CO3 + HCl -> NaCl + H2O + CO2", "HCl", "0.1", "Na2CO3", "0.05", "methyl-red"),
			equilibrium.Unsuitable, []string{"plan.indicator-boil"}},
		{"formal beside standard potentials", of("MnO4- + C2O4^2- + H+ -> Mn^2+ + CO2 + H2O", "MnO4-", "0.02", "C2O4^2-", "0.05",
			"self"), equilibrium.Suits, []string{"plan.mixed-potentials"}},
	} {
		a := predict(t, c.p)
		require.NotNil(t, a.Chosen, c.name)
		assert.Equal(t, c.verdict, a.Chosen.End.Verdict, "%s: %+v", c.name, a.Chosen.End)
		var codes []string
		for _, f := range a.Remarks() {
			codes = append(codes, f.Code)
		}
		assert.Subset(t, codes, c.says, c.name)
		if c.says == nil {
			assert.Equal(t, []string{"plan.indicator-suits"}, codes, c.name)
		}
	}
	best := predict(t, of("Cr2O7^2- + Fe^2+ + H+ -> Cr^3+ + Fe^3+ + H2O", "Cr2O7^2-", "0.0167", iron, "0.1", "ferroin")).Indicators[0]
	assert.Equal(t, "diphenylamine-sulfonate", best.ID, "the best ranked one is one that turns")
	// What is not known is said.
	unknown := predict(t, of("NaOH + HF -> NaF + H2O", "NaOH", "0.1", "HF", "0.1", "phenolphthalein"))
	assert.NotNil(t, unknown.Curve)
	strange := predict(t, of("Na2S + HCl -> NaCl + H2S", "HCl", "0.1", "Na2S", "0.1", "methyl-orange"))
	assert.Nil(t, strange.Chosen)
	assert.Equal(t, "plan.indicator-unchecked", strange.Remarks()[0].Code)
}

// A substance without a name, a school's own end and its own limit.
func TestOwnSubstances(t *testing.T) {
	acid := of("H2A + 2 NaOH -> Na2A + 2 H2O", "NaOH", "0.1", "H2A", "0.05", "phenolphthalein")
	assert.Nil(t, predict(t, acid).Curve, "nothing is known of it")
	acid.Chemistry.Analyte.Own = &practical.Own{PKa: []decimal.Decimal{decimal.Must("2.98"), decimal.Must("4.34")}}
	own := predict(t, acid)
	named := predict(t, of("C4H6O6 + 2 NaOH -> Na2C4H4O6 + 2 H2O", "NaOH", "0.1", "C4H6O6", "0.05", "phenolphthalein"))
	require.NotNil(t, own.Curve)
	assert.Equal(t, named.Curve.Points, own.Curve.Points, "with the pKa values of tartaric acid it is as that")
	base := of("B + HCl -> BHCl", "HCl", "0.1", "B", "0.1", "methyl-red")
	base.Chemistry.Analyte.Own = &practical.Own{Kind: practical.OwnBase, PKa: []decimal.Decimal{decimal.Must("9.25")}}
	assert.InDelta(t, 9.25, predict(t, base).Curve.Half[0].Value, 0.05)
	metal := of("Fe^2+ + Co^3+ -> Fe^3+ + Co^2+", "Co^3+", "0.1", "Fe^2+", "0.1", "ferroin")
	metal.Chemistry.Titrant.Own = &practical.Own{Potential: decimal.Must("1.80"), Electrons: 1}
	assert.InDelta(t, (0.68+1.80)/2, predict(t, metal).Curve.Equivalence[0].Value, 1e-3)

	red := of("NaOH + HCl -> NaCl + H2O", "HCl", "0.1", "NaOH", "0.1", "methyl-orange")
	orange := predict(t, red).Chosen.End.Error
	red.Chemistry.StopsAt = decimal.Must("3.1")
	j := predict(t, red).Chosen
	assert.True(t, j.Own)
	assert.Greater(t, j.End.Error, orange, "red lies past orange")
	assert.Equal(t, equilibrium.Unsuitable, j.End.Verdict)
	red.Chemistry.StopsAt = decimal.Must("3.5")
	assert.Equal(t, equilibrium.Unsuitable, predict(t, red).Chosen.End.Verdict)
	red.Rules.IndicatorLimit = decimal.Must("1")
	assert.Equal(t, equilibrium.Marginal, predict(t, red).Chosen.End.Verdict, "a school that allows 1 %")
}

// At least 95 % of the substances that can be titrated with acid or alkali have
// their equilibria.
func TestTheShelfIsKnown(t *testing.T) {
	known, all := 0, 0
	for _, s := range catalog.BuiltIn().Substances {
		for _, r := range catalog.BuiltIn().Reactions {
			if r.Kind == "acid-base" && (r.Acid == s.ID || r.Base == s.ID) {
				all++
				if s.InWater != nil {
					known++
				}
				break
			}
		}
	}
	assert.GreaterOrEqual(t, float64(known), 0.95*float64(all))
	for _, text := range strings.Fields("KH2PO4 K2HPO4 (NH4)2SO4 NH4Cl KHCO3 KHSO4 NaHSO4 HF HNO2 Na2SO4 HCOONa C6H5COONa " +
		"NaC3H5O3 NH2CH2COOH C6H5NH2 C5H5N CH3NH2 C4H11NO3 NH4OH CaCO3") {
		_, ok := catalog.BuiltIn().InWater(chem.MustFormula(text))
		assert.True(t, ok, text)
	}
}

// The usual indicators of a reaction stand in the order in which its own curve judges them: those
// that suit before those that may do, of a carbonate the nearest first.
func TestUsualIndicatorsAreThoseOfTheCurve(t *testing.T) {
	class := map[equilibrium.Verdict]int{equilibrium.Suits: 0, equilibrium.Marginal: 1, equilibrium.Unsuitable: 2}
	for _, r := range catalog.BuiltIn().Reactions {
		if r.Kind != "acid-base" || r.Indicators[0] == "ph-meter" {
			continue
		}
		p := practicaltest.Reaction(t, r.ID, "0.1")
		ready, fault := p.Check()
		require.Nil(t, fault, r.ID)
		place, verdict := map[string]int{}, map[string]int{}
		for i, j := range curve.Predict(curve.OutlineOf(ready)).Indicators {
			place[j.ID], verdict[j.ID] = i, class[j.End.Verdict]
		}
		for i := 1; i < len(r.Indicators); i++ {
			before, after := r.Indicators[i-1], r.Indicators[i]
			assert.LessOrEqual(t, verdict[before], verdict[after], "%s: %s before %s", r.ID, before, after)
			if ready.Titrated.Carbonate() && ready.Titrant.String() == "HCl" {
				assert.Less(t, place[before], place[after], "%s: %s before %s", r.ID, before, after)
			}
		}
	}
}

// A universal indicator shows a pH, through many colours, and no end: it never serves, also where
// its middle lies in the jump. Common practice, no source.
func TestUniversalIndicatorIsNone(t *testing.T) {
	for _, id := range []string{"hcl-naoh", "ethanoic-naoh", "hcl-nh3"} {
		p := practicaltest.Reaction(t, id, "0.1")
		p.Chemistry.Indicator = "universal"
		r, fault := p.Check()
		require.Nil(t, fault)
		chosen := curve.Of(r).Chosen
		require.NotNil(t, chosen, id)
		assert.Equal(t, equilibrium.Unsuitable, chosen.End.Verdict, id)
		assert.Equal(t, "slow", chosen.End.Reason, id)
	}
}
