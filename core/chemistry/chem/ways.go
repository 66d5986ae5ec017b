package chem

import (
	"strings"

	"exactflask/core/values/finding"
)

// whole reads a formula, after a look at what is written for one.
func (p *parser) whole() (Formula, error) {
	text := string(p.runes)
	bare := withoutState(text)
	if stands, ok := abbreviations[strings.ToUpper(bare)]; ok && (bare != strings.ToLower(bare) || len(bare) > 3) {
		return Formula{}, p.fail(0, abbreviation.Message(finding.Text(bare), finding.Formula(stands)))
	}
	if before, first, more, is := waterRun(bare); is {
		one, other := before+first+"*"+more+"H2O", before+first+more+"*H2O"
		return Formula{}, p.fail(len([]rune(before)), twoReadings.Message(finding.Text(one), finding.Text(other)))
	}
	if element, number, sign, other, is := signFirst(text); is {
		return Formula{}, p.fail(len(element), twoReadings.Message(finding.Text(element+"^"+number+sign),
			finding.Text(element+number+"^"+other+sign)))
	}
	p.letters = nameless(fromSuperscript.Replace(bare))
	return p.formula()
}

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
