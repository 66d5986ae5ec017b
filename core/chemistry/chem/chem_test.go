package chem_test

import (
	"encoding/json"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"exactflask/core/chemistry/chem"
)

func TestMolarMass(t *testing.T) {
	const weights = "IUPAC/CIAAW 2021 abridged weights, sums checked to 0.01 g/mol"
	for _, c := range []struct {
		formula string
		want    float64
		source  string
	}{
		{"KHC8H4O4", 204.22, weights}, {"Na2CO3", 105.99, weights}, {"KIO3", 214.00, weights}, {"K2Cr2O7", 294.18, weights},
		{"Na2S2O3·5H2O", 248.17, weights}, {"(NH4)2Fe(SO4)2.6H2O", 392.13, weights}, {"H2C2O4*2H2O", 126.06, weights},
		{"KHC8H4O4", 204.2212, "EURACHEM/CITAC CG4 (QUAM:2012) A2, from memory; within its u of 0.0038"},
		{"CaSO4.0.5H2O", 145.15, weights}, {"CaSO4·1/2H2O", 145.15, weights}, {"H2A", 0, "it has none"},
		{"Fe4[Fe(CN)6]3", 859.24, weights}, {"H₂SO₄", 98.08, weights}, {"MnO4-", 118.93, weights},
	} {
		f, err := chem.ParseFormula(c.formula)
		require.NoError(t, err, c.formula)
		assert.InDelta(t, c.want, f.MolarMass().Float64(), 0.0101, "%s: %s", c.formula, c.source)
	}
}

// Ways of writing: common practice, no source.
func TestParseFormula(t *testing.T) {
	for _, c := range []struct {
		text, want string
		charge     int
		state      string
	}{
		{"NaOH(aq)", "NaOH", 0, "aq"}, {"MnO4-", "MnO₄⁻", -1, ""}, {"Fe^3+", "Fe³⁺", 3, ""}, {"Fe3+", "Fe³⁺", 3, ""},
		{"SO4 2-", "SO₄²⁻", -2, ""}, {"SO4^2-(aq)", "SO₄²⁻", -2, "aq"}, {"SO₄²⁻", "SO₄²⁻", -2, ""},
		{"[Fe(CN)6]4-", "[Fe(CN)₆]⁴⁻", -4, ""},
		{"NH4+", "NH₄⁺", 1, ""}, {"I3^-", "I₃⁻", -1, ""}, {"e-", "e⁻", -1, ""}, {"H3O+", "H₃O⁺", 1, ""},
		{"Cl−", "Cl⁻", -1, ""},
		{"SO4-2", "SO₄²⁻", -2, ""}, {"Al+3", "Al³⁺", 3, ""}, {"Hg2 2+", "Hg₂²⁺", 2, ""}, {"NaCl(AQ)", "NaCl", 0, "aq"},
		{"CaSO4.0.5H2O", "CaSO₄·0.5H₂O", 0, ""}, {"CaSO4·1/2H2O", "CaSO₄·1/2H₂O", 0, ""}, {"CaSO4·½H2O", "CaSO₄·1/2H₂O", 0, ""},
		{"H2A", "H₂A", 0, ""}, {"HX(aq)", "HX", 0, "aq"}, {"HA^-", "HA⁻", -1, ""}, {"Na2A", "Na₂A", 0, ""}, {"B", "B", 0, ""},
		{"BH^+", "BH⁺", 1, ""}, {"BHCl", "BHCl", 0, ""}, {"RCOOH", "RCOOH", 0, ""}, {"M2CO3", "M₂CO₃", 0, ""},
		{"CuSO4•5H2O(s)", "CuSO₄·5H₂O", 0, "s"}, {"I2(s)", "I₂", 0, "s"}, {"OH^1-", "OH⁻", -1, ""},
	} {
		f, err := chem.ParseFormula(c.text)
		require.NoError(t, err, c.text)
		assert.Equal(t, c.want, f.String(), c.text)
		assert.Equal(t, c.charge, f.Charge(), c.text)
		assert.Equal(t, c.state, f.State(), c.text)
	}
	for _, c := range []struct {
		text     string
		position int
		problem  string
	}{
		{"", 1, "chem.missing"}, {"naOH", 1, "chem.no-symbol"}, {"NaXx", 3, "chem.no-element symbol=Xx"},
		{"Fe(OH", 3, "chem.not-closed"}, {"Fe(OH]2", 6, "chem.expected-here"},
		{"Fe()2", 4, "chem.empty-brackets"}, {"NaOH)", 5, "chem.closes-nothing"},
		{"SO42-", 3, "chem.charge-apart written=SO4^2-"}, {"I3-", 2, "chem.charge-unclear one=I3^- other=I^3-"},
		{"H0", 2, "chem.zero-atoms"}, {"2NaOH", 1, "chem.begins-with-number"},
		// Read in two ways, or as something else than what was meant.
		{"Fe(II)", 3, "chem.oxidation-number without=Fe^2+"}, {"Cu(I)", 3, "without=Cu^+"},
		{"Fe(III)SO4", 3, "without=FeSO4"}, {"KMn(VII)O4", 4, "without=KMnO4"}, {"Na2S(IV)O3", 5, "without=Na2SO3"},
		{"KHP", 1, "chem.abbreviation formula=KHC8H4O4"}, {"KHP(aq)", 1, "chem.abbreviation"},
		{"EDTA", 1, "formula=C10H16N2O8"}, {"Tris", 1, "formula=C4H11NO3"}, {"HOAc", 1, "formula=CH3COOH"},
		{"NaCl(S)", 5, "chem.two-readings one=NaCl(s) other=NaClS"}, {"CuSO45H2O", 5, "one=CuSO4*5H2O other=CuSO45*H2O"},
		{"Na2CO310H2O", 6, "one=Na2CO3*10H2O"}, {"Fe2+3", 3, "chem.two-readings one=Fe^2+ other=Fe2^3+"},
		{"H2+", 2, "chem.charge-unclear one=H2^+ other=H^2+"}, {"O2+", 2, "one=O2^+ other=O^2+"},
		{"O2-", 2, "one=O2^- other=O^2-"}, {"CaSO4·0H2O", 7, "chem.zero-atoms"},
		{"e-6", 2, "chem.charge-form"}, {"e^2-", 2, "chem.charge-form"},
		// Capitals for a formula are a slip, not something without a name.
		{"NAOH", 2, "chem.no-element symbol=A"}, {"NA2CO3", 2, "symbol=A"}, {"KMNO4", 2, "symbol=M"}, {"NaXO", 3, "symbol=X"},
		{"CuSO4·", 7, "chem.stops-here"}, {"Fe^", 3, "chem.charge-form"}, {"C99999", 2, "chem.number-too-large"},
		{"((((((((((((((H))))))))))))))", 13, "chem.too-deep"}, {"Na+-", 3, "chem.charge-form"},
		{"Tc", 1, "chem.no-element symbol=Tc"},
	} {
		_, err := chem.ParseFormula(c.text)
		var syntax *chem.SyntaxError
		require.ErrorAs(t, err, &syntax, c.text)
		assert.Equal(t, c.position, syntax.Position, "%s: %s", c.text, syntax.Problem)
		assert.Contains(t, syntax.Problem.String(), c.problem, c.text)
	}
}

func TestBalance(t *testing.T) {
	for _, c := range []struct{ text, want string }{
		{"NaOH + H2SO4 -> Na2SO4 + H2O", "2 NaOH + H₂SO₄ → Na₂SO₄ + 2 H₂O"},
		{"HCl + NaOH = NaCl + H2O", "HCl + NaOH → NaCl + H₂O"},
		// OpenStax Chemistry 2e, ch. 4.5 (from memory): 5 H2C2O4 to 2 KMnO4.
		{"H2C2O4 + KMnO4 + H2SO4 -> CO2 + MnSO4 + K2SO4 + H2O",
			"5 H₂C₂O₄ + 2 KMnO₄ + 3 H₂SO₄ → 10 CO₂ + 2 MnSO₄ + K₂SO₄ + 8 H₂O"},
		{"MnO4- + Fe^2+ + H+ → Mn^2+ + Fe^3+ + H2O", "MnO₄⁻ + 5 Fe²⁺ + 8 H⁺ → Mn²⁺ + 5 Fe³⁺ + 4 H₂O"},
		{"I2 + S2O3^2- -> I^- + S4O6^2-", "I₂ + 2 S₂O₃²⁻ → 2 I⁻ + S₄O₆²⁻"},
		{"MnO4- + H+ + e- -> Mn^2+ + H2O", "MnO₄⁻ + 8 H⁺ + 5 e⁻ → Mn²⁺ + 4 H₂O"},
		{"NaOH + HCl --> NaCl + H2O", "NaOH + HCl → NaCl + H₂O"}, {"NaOH + HCl <=> NaCl + H2O", "NaOH + HCl → NaCl + H₂O"},
		{"NaOH + HCl == NaCl + H2O", "NaOH + HCl → NaCl + H₂O"},
		// Half a water is shared between two formula units; nothing without a
		// name gets lost.
		{"CaSO4.0.5H2O + H2O -> CaSO4.2H2O", "2 CaSO₄·0.5H₂O + 3 H₂O → 2 CaSO₄·2H₂O"},
		{"H2A + NaOH -> Na2A + H2O", "H₂A + 2 NaOH → Na₂A + 2 H₂O"}, {"B + HCl -> BHCl", "B + HCl → BHCl"},
		{"M2CO3 + HCl -> MCl + H2O + CO2", "M₂CO₃ + 2 HCl → 2 MCl + H₂O + CO₂"},
		{"7 Na2CO3 + 9 HCl -> NaCl + H2O + CO2", "Na₂CO₃ + 2 HCl → 2 NaCl + H₂O + CO₂"},
	} {
		eq, err := chem.ParseEquation(c.text)
		require.NoError(t, err, c.text)
		b, err := eq.Balance()
		require.NoError(t, err, c.text)
		assert.Equal(t, c.want, b.String())
		assert.True(t, b.Balanced())
	}
	for _, c := range []struct {
		text string
		err  error
		says string
	}{
		{"NaOH + HCl -> NaCl", chem.ErrNoSolution, "chem.only-left element=O"},
		{"MnO4- + H2O2 + H+ -> Mn^2+ + O2 + H2O", chem.ErrNotUnique, "detail=2"},
		{"H2O + O2 -> H2", chem.ErrWrongSide, "chem.other-side substances=O2"},
		{"CO2 + H2O + C6H12O6 -> O2", chem.ErrWrongSide, "chem.other-side substances=C6H12O6"},
		{"HCl + NaCl -> NaOH + H2O", chem.ErrWrongSide, "chem.either-side"},
		{"NaOH + HCl + Fe -> NaCl + H2O", chem.ErrWrongSide, "chem.no-part substances=Fe"},
	} {
		eq, err := chem.ParseEquation(c.text)
		require.NoError(t, err, c.text)
		_, err = eq.Balance()
		assert.ErrorIs(t, err, c.err, c.text)
		assert.ErrorContains(t, err, c.says, c.text)
	}
	for _, c := range []struct {
		text     string
		position int
	}{{"NaOH + HCl", 10}, {"NaOH -> X", 9}, {"A -> B -> C", 9}, {"0 NaOH -> Na", 1}, {"NaOH + -> Na",
		8}, {"HCl + Na Q -> H2", 10}} {
		_, err := chem.ParseEquation(c.text)
		var syntax *chem.SyntaxError
		require.ErrorAs(t, err, &syntax, c.text)
		assert.Equal(t, c.position, syntax.Position, "%s: %v", c.text, err)
	}
}

// Balancing conserves atoms and charge, whatever is mixed with whatever.
func TestBalanceConserves(t *testing.T) {
	pool := []string{"NaOH", "H2SO4", "Na2SO4", "H2O", "HCl", "NaCl", "KMnO4", "MnSO4", "K2SO4", "H2C2O4", "CO2",
		"Fe^2+", "Fe^3+", "H+", "MnO4^-", "Mn^2+", "O2", "H2", "e-"}
	rapid.Check(t, func(t *rapid.T) {
		draw := func(label string) (out []chem.Species) {
			for _, s := range rapid.SliceOfNDistinct(rapid.SampledFrom(pool), 1, 4, rapid.ID[string]).Draw(t, label) {
				out = append(out, chem.Species{Formula: chem.MustFormula(s)})
			}
			return out
		}
		eq := chem.Equation{Reactants: draw("reactants"), Products: draw("products")}
		if b, err := eq.Balance(); err == nil {
			assert.True(t, b.Balanced(), b.String())
		}
	})
}

func FuzzParseFormula(f *testing.F) {
	for _, s := range []string{"Fe4[Fe(CN)6]3", "CuSO4·5H2O", "SO4 2-", "e-", "((", "I3-", "Fe³⁺", "CaSO4.0.5H2O", "H2A", "Fe(II)",
		"BHCl", "K·½H2O", "KHP", "Fe2+3"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		formula, err := chem.ParseFormula(text)
		if err != nil {
			return
		}
		again, err := chem.ParseFormula(formula.Plain())
		require.NoError(t, err, "%q written as %q", text, formula.Plain())
		assert.True(t, formula.Same(again), "%q written as %q", text, formula.Plain())
		unicode, err := chem.ParseFormula(formula.String())
		require.NoError(t, err, "%q written as %q", text, formula.String())
		assert.True(t, formula.Same(unicode), "%q written as %q", text, formula.String())
	})
}

func FuzzParseEquation(f *testing.F) {
	for _, s := range []string{"NaOH + HCl -> NaCl + H2O", "->", "2 A = B", "I2 + 2 S2O3^2- ⇌ 2 I- + S4O6^2-"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		eq, err := chem.ParseEquation(text)
		if err != nil {
			return
		}
		if b, err := eq.Balance(); err == nil {
			assert.True(t, b.Balanced())
		}
	})
}

func BenchmarkBalanceRedox(b *testing.B) {
	eq, err := chem.ParseEquation("MnO4- + Fe^2+ + H+ -> Mn^2+ + Fe^3+ + H2O")
	require.NoError(b, err)
	b.ReportAllocs()
	for b.Loop() {
		_, _ = eq.Balance()
	}
}

// Half-reactions and their sums. Source: standard textbook half-reactions
// (OpenStax Chemistry 2e, appendix of electrode potentials, from memory).
func TestHalfReactions(t *testing.T) {
	for _, c := range []struct {
		text      string
		medium    chem.Medium
		want      string
		electrons int
	}{
		{"MnO4- -> Mn^2+", chem.InAcid, "MnO₄⁻ + 8 H⁺ + 5 e⁻ → Mn²⁺ + 4 H₂O", 5},
		{"MnO4- -> MnO2", chem.InBase, "MnO₄⁻ + 2 H₂O + 3 e⁻ → MnO₂ + 4 OH⁻", 3},
		{"Cr2O7^2- -> Cr^3+", chem.InAcid, "Cr₂O₇²⁻ + 14 H⁺ + 6 e⁻ → 2 Cr³⁺ + 7 H₂O", 6},
		{"Fe^2+ -> Fe^3+", chem.InAcid, "Fe²⁺ → Fe³⁺ + e⁻", -1},
		{"H2O2 -> O2", chem.InAcid, "H₂O₂ → O₂ + 2 H⁺ + 2 e⁻", -2},
		{"H2O2 -> H2O", chem.InAcid, "H₂O₂ + 2 H⁺ + 2 e⁻ → 2 H₂O", 2},
		{"C2O4^2- -> CO2", chem.InAcid, "C₂O₄²⁻ → 2 CO₂ + 2 e⁻", -2},
		{"S2O3^2- -> S4O6^2-", chem.InAcid, "2 S₂O₃²⁻ → S₄O₆²⁻ + 2 e⁻", -2},
		{"IO3- -> I2", chem.InAcid, "2 IO₃⁻ + 12 H⁺ + 10 e⁻ → I₂ + 6 H₂O", 10},
		{"ClO- -> Cl-", chem.InBase, "ClO⁻ + H₂O + 2 e⁻ → Cl⁻ + 2 OH⁻", 2},
		{"C6H8O6 -> C6H6O6", chem.InAcid, "C₆H₈O₆ → C₆H₆O₆ + 2 H⁺ + 2 e⁻", -2},
	} {
		h, err := chem.ParseHalf(c.text, c.medium)
		require.NoError(t, err, c.text)
		assert.Equal(t, c.electrons, h.Electrons, c.text)
		assert.True(t, h.Equation.Balanced(), c.text)
		want, err := chem.ParseEquation(strings.NewReplacer("→", "->").Replace(c.want))
		require.NoError(t, err, c.want)
		for _, s := range append(want.Reactants, want.Products...) {
			n, ok := h.Equation.Coefficient(s.Formula)
			assert.True(t, ok, "%s: %s is missing in %s", c.text, s.Formula, h.Equation)
			assert.Equal(t, max(s.Coefficient, 1), n, "%s: %s", c.text, h.Equation)
		}
	}
	half := func(text string) chem.HalfReaction {
		h, err := chem.ParseHalf(text, chem.InAcid)
		require.NoError(t, err)
		return h
	}
	// Two free choices by atoms and charge alone: the half-reactions settle it.
	loose, err := chem.ParseEquation("MnO4- + H2O2 + H+ -> Mn^2+ + O2 + H2O")
	require.NoError(t, err)
	_, err = loose.Balance()
	require.ErrorIs(t, err, chem.ErrNotUnique)
	assert.ErrorContains(t, err, "chem.not-unique")
	joined, electrons, err := chem.Join(half("H2O2 -> O2"), half("MnO4- -> Mn^2+"))
	require.NoError(t, err)
	assert.True(t, joined.Balanced())
	assert.Equal(t, 10, electrons)
	n, _ := joined.Coefficient(chem.MustFormula("H2O2"))
	assert.Equal(t, 5, n, joined.String())
	n, _ = joined.Coefficient(chem.MustFormula("H^+"))
	assert.Equal(t, 6, n, joined.String())
	// The electrons belong to the equation as it is written, divided with it.
	joined, electrons, err = chem.Join(half("H2O2 -> H2O"), half("S2O3^2- -> S4O6^2-"))
	require.NoError(t, err)
	assert.Equal(t, 2, electrons, joined.String())
	joined, electrons, err = chem.Join(half("IO3- -> I2"), half("I- -> I2"))
	require.NoError(t, err)
	assert.Equal(t, "IO₃⁻ + 6 H⁺ + 5 I⁻ → 3 I₂ + 3 H₂O", joined.String())
	assert.Equal(t, 5, electrons)
	_, _, err = chem.Join(half("Fe^2+ -> Fe^3+"), half("H2O2 -> O2"))
	assert.ErrorContains(t, err, "chem.no-electrons")
	_, err = chem.ParseHalf("Fe^2+ -> Mn^2+", chem.InAcid)
	assert.ErrorIs(t, err, chem.ErrNoSolution)
}

// Molar masses of the whole catalogue against a general-purpose library; the
// table names it and its version. It keeps more digits of the atomic weights
// than the abridged table here, hence one part in ten thousand.
func TestMolarMassesAgainstALibrary(t *testing.T) {
	text, err := os.ReadFile("testdata/molar-masses.json")
	require.NoError(t, err)
	var table struct {
		Source string
		Masses map[string]float64
	}
	require.NoError(t, json.Unmarshal(text, &table))
	require.Greater(t, len(table.Masses), 115)
	for formula, want := range table.Masses {
		f, err := chem.ParseFormula(formula)
		require.NoError(t, err)
		assert.InEpsilon(t, want, f.MolarMass().Float64(), 1e-4, "%s: %s", formula, table.Source)
	}
}

// Titrations and their neighbours as textbooks balance them (from memory, the
// usual forms of general and analytical chemistry). Each is written in lowest
// terms: the coefficients are struck out, and balancing must find them again.
func TestBalanceFindsTheTextbookForms(t *testing.T) {
	coefficient := regexp.MustCompile(`(^|> |\+ )\d+ `)
	for _, written := range []string{
		// acid and base
		"H2SO4 + 2 KOH -> K2SO4 + 2 H2O",
		"H3PO4 + 3 NaOH -> Na3PO4 + 3 H2O",
		"2 H3PO4 + 3 Ca(OH)2 -> Ca3(PO4)2 + 6 H2O",
		"3 H2SO4 + 2 Al(OH)3 -> Al2(SO4)3 + 6 H2O",
		"H3C6H5O7 + 3 NaOH -> Na3C6H5O7 + 3 H2O",
		"2 HNO3 + Mg(OH)2 -> Mg(NO3)2 + 2 H2O",
		"2 HCl + CaCO3 -> CaCl2 + CO2 + H2O",
		"HCl + NaHCO3 -> NaCl + CO2 + H2O",
		"Na2B4O7 + 2 HCl + 5 H2O -> 4 H3BO3 + 2 NaCl",
		"2 NH3 + H2SO4 -> (NH4)2SO4",
		"(NH4)2SO4 + 2 NaOH -> 2 NH3 + Na2SO4 + 2 H2O",
		"KHC8H4O4 + NaOH -> KNaC8H4O4 + H2O",
		"H2C2O4*2H2O + 2 NaOH -> Na2C2O4 + 4 H2O",
		// permanganate
		"2 MnO4^- + 5 C2O4^2- + 16 H^+ -> 2 Mn^2+ + 10 CO2 + 8 H2O",
		"2 MnO4^- + 5 H2C2O4 + 6 H^+ -> 2 Mn^2+ + 10 CO2 + 8 H2O",
		"2 KMnO4 + 10 FeSO4 + 8 H2SO4 -> 5 Fe2(SO4)3 + K2SO4 + 2 MnSO4 + 8 H2O",
		"2 MnO4^- + 5 NO2^- + 6 H^+ -> 2 Mn^2+ + 5 NO3^- + 3 H2O",
		"2 MnO4^- + 5 Sn^2+ + 16 H^+ -> 2 Mn^2+ + 5 Sn^4+ + 8 H2O",
		"2 MnO4^- + 3 Mn^2+ + 2 H2O -> 5 MnO2 + 4 H^+",
		"MnO4^- + 5 VO^2+ + H2O -> Mn^2+ + 5 VO2^+ + 2 H^+",
		"2 KMnO4 + 16 HCl -> 2 KCl + 2 MnCl2 + 5 Cl2 + 8 H2O",
		// dichromate and cerium
		"Cr2O7^2- + 6 Fe^2+ + 14 H^+ -> 2 Cr^3+ + 6 Fe^3+ + 7 H2O",
		"K2Cr2O7 + 6 FeSO4 + 7 H2SO4 -> Cr2(SO4)3 + 3 Fe2(SO4)3 + K2SO4 + 7 H2O",
		"2 Cr2O7^2- + 3 C2H5OH + 16 H^+ -> 4 Cr^3+ + 3 CH3COOH + 11 H2O",
		"Cr2O7^2- + 6 I^- + 14 H^+ -> 2 Cr^3+ + 3 I2 + 7 H2O",
		"Ce^4+ + Fe^2+ -> Ce^3+ + Fe^3+",
		"2 Ce^4+ + H2C2O4 -> 2 Ce^3+ + 2 CO2 + 2 H^+",
		"2 Fe^3+ + Sn^2+ -> 2 Fe^2+ + Sn^4+",
		// iodine
		"IO3^- + 5 I^- + 6 H^+ -> 3 I2 + 3 H2O",
		"KIO3 + 5 KI + 3 H2SO4 -> 3 I2 + 3 K2SO4 + 3 H2O",
		"BrO3^- + 6 I^- + 6 H^+ -> Br^- + 3 I2 + 3 H2O",
		"BrO3^- + 5 Br^- + 6 H^+ -> 3 Br2 + 3 H2O",
		"2 Cu^2+ + 4 I^- -> 2 CuI + I2",
		"2 CuSO4 + 4 KI -> 2 CuI + I2 + 2 K2SO4",
		"ClO^- + 2 I^- + 2 H^+ -> Cl^- + I2 + H2O",
		"H2O2 + 2 I^- + 2 H^+ -> I2 + 2 H2O",
		"2 Na2S2O3 + I2 -> Na2S4O6 + 2 NaI",
		"C6H8O6 + I2 -> C6H6O6 + 2 HI",
		"SO3^2- + I2 + H2O -> SO4^2- + 2 I^- + 2 H^+",
		"H3AsO3 + I2 + H2O -> H3AsO4 + 2 I^- + 2 H^+",
		// dissolved oxygen (Winkler)
		"2 Mn(OH)2 + O2 -> 2 MnO(OH)2",
		"MnO(OH)2 + 2 I^- + 4 H^+ -> Mn^2+ + I2 + 3 H2O",
		// beside titrations
		"3 Cu + 8 HNO3 -> 3 Cu(NO3)2 + 2 NO + 4 H2O",
		"2 KClO3 -> 2 KCl + 3 O2",
		"2 C8H18 + 25 O2 -> 16 CO2 + 18 H2O",
		"K4Fe(CN)6 + 6 H2SO4 + 6 H2O -> 2 K2SO4 + FeSO4 + 3 (NH4)2SO4 + 6 CO",
	} {
		want, err := chem.ParseEquation(written)
		require.NoError(t, err, written)
		assert.True(t, want.Balanced(), "the table: %s", written)
		bare, err := chem.ParseEquation(coefficient.ReplaceAllString(written, "$1"))
		require.NoError(t, err, written)
		got, err := bare.Balance()
		require.NoError(t, err, written)
		assert.Equal(t, want.String(), got.String())
	}
}

// What metals and ammonium carry, and what sets carbon dioxide free. Source:
// general chemistry.
func TestSalts(t *testing.T) {
	for _, c := range []struct {
		formula   string
		charge    int
		carbonate bool
	}{
		{"Na2CO3", 2, true}, {"NaHCO3", 1, true}, {"CaCO3", 2, true}, {"Na2CO3*10H2O", 2, true}, {"KHCO3", 1, true},
		{"Na2C2O4", 2, false}, {"CH3COONa", 1, false}, {"H2CO3", 0, false}, {"KHC8H4O4", 1, false}, {"CO2", 0, false},
		{"Na2A", 2, false}, {"C6H8O6", 0, false}, {"Mg(OH)2", 2, false},
	} {
		f := chem.MustFormula(c.formula)
		assert.Equal(t, c.charge, f.CationCharge(), c.formula)
		assert.Equal(t, c.carbonate, f.Carbonate(), c.formula)
	}
	for formula, letter := range map[string]string{"H2A": "A", "HX": "X", "BH^+": "B", "RCOOH": "R", "MOH": "M", "HCl": ""} {
		got, is := chem.MustFormula(formula).Unnamed()
		assert.Equal(t, letter, got, formula)
		assert.Equal(t, letter != "", is, formula)
		assert.Equal(t, letter != "", chem.MustFormula(formula).MolarMass().IsZero(), "%s has a molar mass or a letter", formula)
	}
	half, whole := chem.MustFormula("CaSO4.0.5H2O"), chem.MustFormula("CaSO4.2H2O")
	assert.False(t, half.Same(whole))
	n, d, ok := half.AtomRatio(chem.MustFormula("Ca^2+"))
	assert.Equal(t, [3]any{1, 1, true}, [3]any{n, d, ok}, "one calcium in one formula unit")
	assert.InDelta(t, 1.5*18.015, (whole.MolarMass().Float64() - half.MolarMass().Float64()), 0.01, "one and a half waters")
}

// Coefficients may be fractions: all are then multiplied until they are whole.
func TestFractionalCoefficients(t *testing.T) {
	for written, want := range map[string]string{
		"H2 + 1/2 O2 -> H2O":             "2 H2 + O2 -> 2 H2O",
		"H2 + ½ O2 -> H2O":               "2 H2 + O2 -> 2 H2O",
		"H2 + 0.5 O2 -> H2O":             "2 H2 + O2 -> 2 H2O",
		"H2 + 0,5O2 -> H2O":              "2 H2 + O2 -> 2 H2O",
		"2 H2 + 2/2 O2 -> 2 H2O":         "2 H2 + O2 -> 2 H2O",
		"NH3 + 5/4 O2 -> NO + 3/2 H2O":   "4 NH3 + 5 O2 -> 4 NO + 6 H2O",
		"C2H6 + 3.5 O2 -> 2 CO2 + 3 H2O": "2 C2H6 + 7 O2 -> 4 CO2 + 6 H2O",
		"1/3 N2 + H2 -> 2/3 NH3":         "N2 + 3 H2 -> 2 NH3",
		"HCl + NaOH -> NaCl + H2O":       "HCl + NaOH -> NaCl + H2O",
	} {
		eq, err := chem.ParseEquation(written)
		require.NoError(t, err, written)
		assert.True(t, eq.Balanced(), written)
		assert.Equal(t, want, eq.Plain(), written)
	}
	for written, position := range map[string]int{"H2 + 1/0 O2 -> H2O": 6, "H2 + 0/2 O2 -> H2O": 6, "H2 + 1/13 O2 -> H2O": 6, "0 H2 + O2 -> H2O": 1, "10000 H2 + O2 -> H2O": 1} {
		_, err := chem.ParseEquation(written)
		var syntax *chem.SyntaxError
		require.ErrorAs(t, err, &syntax, written)
		assert.Equal(t, position, syntax.Position, written)
	}
}

// A zero for a letter is no number.
func TestZeroForALetter(t *testing.T) {
	for written, position := range map[string]int{"H02O": 2, "Na2C03": 5, "C06H12O6": 2, "(NH4)02SO4": 6} {
		_, err := chem.ParseFormula(written)
		var syntax *chem.SyntaxError
		require.ErrorAs(t, err, &syntax, written)
		assert.Equal(t, position, syntax.Position, written)
		assert.Equal(t, "chem.zero-first", syntax.Problem.Code, written)
	}
	_, err := chem.ParseFormula("C10H22")
	assert.NoError(t, err)
}
