package chem

import (
	"exactflask/core/finding"
	"regexp"
	"strings"
)

// whole reads a formula, after a look at what is written for one.
func (p *parser) whole() (Formula, error) {
	text := string(p.runes)
	bare := states.ReplaceAllString(text, "")
	if stands, ok := abbreviations[strings.ToUpper(bare)]; ok && (bare != strings.ToLower(bare) || len(bare) > 3) {
		return Formula{}, p.fail(0, abbreviation.Message(finding.Text(bare), finding.Formula(stands)))
	}
	if m := waterRun.FindStringSubmatch(bare); m != nil {
		one, other := m[1]+m[2]+"*"+m[3]+"H2O", m[1]+m[2]+m[3]+"*H2O"
		return Formula{}, p.fail(len([]rune(m[1])), twoReadings.Message(finding.Text(one), finding.Text(other)))
	}
	if m := signFirst.FindStringSubmatch(text); m != nil {
		return Formula{}, p.fail(len(m[1]), twoReadings.Message(finding.Text(m[1]+"^"+m[2]+m[3]),
			finding.Text(m[1]+m[2]+"^"+m[4]+m[3])))
	}
	flat := fromSuperscript.Replace(bare)
	for letter, form := range unnamed {
		if form.MatchString(flat) {
			p.letter = letter
		}
	}
	return p.formula()
}

var (
	states = regexp.MustCompile(`(?i) *\((s|l|g|aq)\)$`)
	// Digits of an atom and of the water run into each other: CuSO45H2O.
	waterRun = regexp.MustCompile(`^(.*[A-Za-z)\]])([0-9])([0-9]+)H2O$`)
	// A lone element with a number, a sign and another number: Fe2+3.
	signFirst = regexp.MustCompile(`^([A-Z][a-z]?)([0-9])([+-])([0-9])$`)
	// How acids, bases and metals without a name are written; anything else
	// with these letters is a slip, such as NAOH. Source: common practice, no
	// source.
	unnamed = map[rune]*regexp.Regexp{
		'A': regexp.MustCompile(`^(` + cations + `)+A[0-9]?( ?\^?[0-9]?-)?$|^A( ?\^?[0-9]?-)$`),
		'X': regexp.MustCompile(`^(` + cations + `)+X[0-9]?( ?\^?[0-9]?-)?$|^X( ?\^?[0-9]?-)$`),
		'B': regexp.MustCompile(`^(B|BOH|BCl|B ?\^?\+|BH[2-9]?( ?\^?[0-9]?\+)|BH(Cl|Br|I|NO3|HSO4|ClO4|A|X)` +
			`|\(BH\)2SO4|BH2(Cl2|SO4|A|X2))$`),
		'M': regexp.MustCompile(`^M[0-9]?(OH|\(OH\)2|Cl2?|Br2?|I2?|NO3|\(NO3\)2|CO3|HCO3|\(HCO3\)2|SO4|HSO4|O|( ?\^?[0-9]?\+))$`),
		'R': regexp.MustCompile(`^R(COOH|COONa|COOK|COO( ?\^?-)|NH2|NH3( ?\^?\+)|NH3Cl)$`),
	}
)

const cations = `H[0-9]?|Na[0-9]?|K[0-9]?|Li[0-9]?|NH4|\(NH4\)[0-9]|Ca|Mg|Ba|M[0-9]?|BH`

// abbreviations are what chemists write for a formula, in capitals. Source:
// common practice, no source.
var abbreviations = map[string]string{
	"KHP": "KHC8H4O4", "KHPH": "KHC8H4O4", "EDTA": "C10H16N2O8", "H4EDTA": "C10H16N2O8", "H4Y": "C10H16N2O8",
	"NA2EDTA": "Na2C10H14N2O8*2H2O", "NA2H2EDTA": "Na2C10H14N2O8*2H2O", "NA2H2Y": "Na2C10H14N2O8*2H2O",
	"TRIS": "C4H11NO3", "THAM": "C4H11NO3", "HOAC": "CH3COOH", "ACOH": "CH3COOH", "HAC": "CH3COOH",
	"NAOAC": "CH3COONa", "NAAC": "CH3COONa", "NH4OAC": "CH3COONH4", "NH4AC": "CH3COONH4", "FAS": "(NH4)2Fe(SO4)2*6H2O",
	"H2OX": "H2C2O4", "NA2OX": "Na2C2O4", "KHT": "KHC4H4O6", "KHTART": "KHC4H4O6", "H2TART": "H2C4H4O6",
	"H3CIT": "H3C6H5O7", "ETOH": "C2H5OH", "MEOH": "CH3OH", "PHCOOH": "C6H5COOH", "ASA": "C9H8O4", "HBZ": "C6H5COOH",
}
