package chem

import (
	"math/rand/v2"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const cations = `H[0-9]?|Na[0-9]?|K[0-9]?|Li[0-9]?|NH4|\(NH4\)[0-9]|Ca|Mg|Ba|M[0-9]?|BH`

// What is read by hand is what these expressions say, over pieces of formulas in any order.
func TestScannedAsTheExpressionsSay(t *testing.T) {
	expressions := map[string]string{
		"state": `(?i) *\((s|l|g|aq)\)$`, "water": `^(.*[A-Za-z)\]])([0-9])([0-9]+)H2O$`, "sign": `^([A-Z][a-z]?)([0-9])([+-])([0-9])$`,
		"portion": `^([0-9]{1,4})(?:/([2-9])|\.([0-9]{1,3}))?`, "numeral": `^\([IVX]{1,4}\)`,
		"arrow": `<?[-=–—]*>|<[-=]+|[→⇌⟶⇒⇄↔]|=+`,
		"A":     `^(` + cations + `)+A[0-9]?( ?\^?[0-9]?-)?$|^A( ?\^?[0-9]?-)$`,
		"X":     `^(` + cations + `)+X[0-9]?( ?\^?[0-9]?-)?$|^X( ?\^?[0-9]?-)$`,
		"B":     `^(B|BOH|BCl|B ?\^?\+|BH[2-9]?( ?\^?[0-9]?\+)|BH(Cl|Br|I|NO3|HSO4|ClO4|A|X)|\(BH\)2(SO4|A)|BH2(Cl2|SO4|A|X2))$`,
		"M":     `^M[0-9]?(OH|\(OH\)2|Cl2?|Br2?|I2?|NO3|\(NO3\)2|CO3|HCO3|\(HCO3\)2|SO4|HSO4|O|( ?\^?[0-9]?\+))$`,
		"R":     `^R(COOH|COONa|COOK|COO( ?\^?-)|NH2|NH3( ?\^?\+)|NH3Cl)$`,
	}
	said := map[string]*regexp.Regexp{}
	for name, e := range expressions {
		said[name] = regexp.MustCompile(e)
	}
	pieces := []string{"A", "X", "B", "M", "R", "H", "Na", "K", "Li", "NH4", "(NH4)", "(BH)", "(OH)", "(NO3)", "(HCO3)", "Ca", "Mg", "Ba",
		"BH", "OH", "Cl", "Br", "I", "O", "NO3", "CO3", "SO4", "HSO4", "ClO4", "COO", "COOH", "COO", "NH2", "NH3", "Fe", "Cu", "H2O", "0", "1", "2", "4", "9", "15",
		"+", "-", "^", " ", "(s)", "(AQ)", "(l)", "(g)", "(IV)", "(VIII)", "(IXIXI)", "()", ")", "]", "/2", "/1", ".5", ".", "→", "⇌", "->", "=", "<", ">", "–", "—", "<=>", "é"}
	forms := map[string]bool{}
	var texts []string
	for _, one := range []string{"M", "R", "B", "BH", "HA"} { // those without a name: every pair behind them
		for _, a := range append(pieces, "") {
			for _, b := range append(pieces, "") {
				texts = append(texts, one+a+b)
			}
		}
	}
	random := rand.New(rand.NewPCG(1, 2))
	for range 30_000 {
		text := ""
		for range random.IntN(7) {
			text += pieces[random.IntN(len(pieces))]
		}
		texts = append(texts, text)
	}
	for _, text := range texts {
		require.Equal(t, said["state"].ReplaceAllString(text, ""), withoutState(text), text)
		groups := func(of string, parts ...string) {
			m := said[of].FindStringSubmatch(text)
			if m == nil {
				m = make([]string, len(parts))
			}
			require.Equal(t, m[len(m)-len(parts):], parts, "%s of %q", of, text)
		}
		before, first, more, is := waterRun(text)
		groups("water", before, first, more)
		require.Equal(t, said["water"].MatchString(text), is)
		if element, number, sign, other, is := signFirst(text); is || said["sign"].MatchString(text) {
			groups("sign", element, number, sign, other)
		}
		all, whole, below, decimals, _ := portion(text)
		groups("portion", all, whole, below, decimals)
		groups("numeral", numeral(text))
		var found [][2]int
		for _, at := range said["arrow"].FindAllStringIndex(text, -1) {
			found = append(found, [2]int{at[0], at[1]})
		}
		require.Equal(t, found, arrows(text), text)
		want := ""
		for _, letter := range []string{"A", "X", "B", "M", "R"} {
			if want == "" && said[letter].MatchString(text) {
				want = letter
			}
		}
		letters := nameless(text)
		require.Equal(t, want, letters[:min(len(letters), 1)], text)
		forms[want] = true
	}
	assert.Len(t, forms, 6, "all forms were met")
}

// A salt of a base and an acid without names has both letters, whichever is looked for first.
func TestNamelessSalts(t *testing.T) {
	for _, text := range []string{"B + HA -> BHA", "MOH + HX -> MX + H2O", "2 B + H2A -> (BH)2A", "B + HX -> BHX"} {
		e, err := ParseEquation(text)
		require.NoError(t, err, text)
		_, err = e.Balance()
		assert.NoError(t, err, text)
	}
}
