// Package chem knows elements, formulas and equations: it parses what a
// person types, gives molar masses and balances.
//
//	f, _ := chem.ParseFormula("H2C2O4·2H2O")
//	f.MolarMass() // 126.064 g/mol
//
//	eq, _ := chem.ParseEquation("NaOH + H2SO4 -> Na2SO4 + H2O")
//	eq, _ = eq.Balance()
//	eq.String() // "2 NaOH + H2SO4 → Na2SO4 + 2 H2O"
package chem

import (
	"fmt"
	"strconv"
	"strings"

	"exactflask/core/values/finding"
)

// Limits of what is read as one formula; beyond them the text is refused.
const (
	maxFormulaLength = 200  // characters
	maxDepth         = 12   // brackets in brackets
	maxCount         = 9999 // atoms of one kind, and any written number
)

// SyntaxError says what is wrong with a formula or equation and where.
type SyntaxError struct {
	Text     string          // the whole text as given, cut to 80 characters
	Position int             // counted in characters from 1
	Problem  finding.Message // what is wrong and what to write instead
}

func (e *SyntaxError) Error() string {
	return fmt.Sprintf("%q, character %d: %s", e.Text, e.Position, e.Problem)
}

// Said implements finding.Speaker.
func (e *SyntaxError) Said() finding.Message {
	return syntax.Message(finding.Text(e.Text), finding.Count(e.Position), finding.Said(e.Problem))
}

// What can be wrong with a formula or an equation.
var (
	syntax            = finding.Declare("chem.syntax", "text", "position", "problem")
	tooLong           = finding.Declare("chem.too-long", "most")
	missing           = finding.Declare("chem.missing")
	tooManyAtoms      = finding.Declare("chem.too-many-atoms", "most", "element")
	stopsHere         = finding.Declare("chem.stops-here")
	beginsWithNumber  = finding.Declare("chem.begins-with-number")
	closesNothing     = finding.Declare("chem.closes-nothing", "sign")
	noSymbol          = finding.Declare("chem.no-symbol", "sign")
	tooDeep           = finding.Declare("chem.too-deep", "most")
	notClosed         = finding.Declare("chem.not-closed", "sign")
	expectedHere      = finding.Declare("chem.expected-here", "sign")
	emptyBrackets     = finding.Declare("chem.empty-brackets")
	noElement         = finding.Declare("chem.no-element", "symbol")
	numberTooLarge    = finding.Declare("chem.number-too-large", "most")
	zeroFirst         = finding.Declare("chem.zero-first")
	zeroAtoms         = finding.Declare("chem.zero-atoms")
	chargeForm        = finding.Declare("chem.charge-form")
	chargeApart       = finding.Declare("chem.charge-apart", "written")
	chargeUnclear     = finding.Declare("chem.charge-unclear", "one", "other")
	equationTooLong   = finding.Declare("chem.equation-too-long", "most")
	noArrow           = finding.Declare("chem.no-arrow")
	secondArrow       = finding.Declare("chem.second-arrow")
	coefficientNumber = finding.Declare("chem.coefficient", "most")
	oxidationNumber   = finding.Declare("chem.oxidation-number", "written", "without")
	abbreviation      = finding.Declare("chem.abbreviation", "written", "formula")
	twoReadings       = finding.Declare("chem.two-readings", "one", "other")
)

// Count is how many atoms of one element a formula holds.
type Count struct {
	Element string
	N       int
	// Per is how many formula units hold N atoms: 2 for the water of
	// CaSO4·0.5H2O, and 1, left out, in nearly every formula.
	Per int `json:",omitempty"`
}

// per is Per with its default.
func (c Count) per() int { return max(c.Per, 1) }

// Formula is a parsed chemical formula: a substance, an ion or the electron.
type Formula struct {
	atoms  []Count // sorted by element
	charge int
	state  string // "", "s", "l", "g" or "aq"
	tokens []token
	stands string // the letter that stands for something without a name, or ""
}

// token is a piece of a formula as it is written out again.
type token struct {
	kind tokenKind
	text string
}

type tokenKind byte

const (
	plain tokenKind = iota // symbols and brackets
	subscript
	superscript
	dot    // of a hydrate
	factor // before the part after a dot
)

// MustFormula is ParseFormula for formulas written in the program itself; it
// panics on an error.
func MustFormula(text string) Formula {
	f, err := ParseFormula(text)
	if err != nil {
		panic(err)
	}
	return f
}

// Atoms returns how many atoms of each element there are, by symbol.
func (f Formula) Atoms() []Count { return f.atoms }

// Charge returns the charge number: -1 for MnO4-.
func (f Formula) Charge() int { return f.charge }

// State returns "s", "l", "g", "aq" or nothing.
func (f Formula) State() string { return f.state }

// Unnamed returns the letter that stands for what has no name here, such as the
// A of H2A, and whether there is one. Such a formula balances, but has no molar
// mass.
func (f Formula) Unnamed() (letter string, is bool) { return f.stands, f.stands != "" }

// Same reports whether two formulas have the same atoms and charge.
func (f Formula) Same(g Formula) bool {
	if f.charge != g.charge || len(f.atoms) != len(g.atoms) {
		return false
	}
	for i := range f.atoms {
		if f.atoms[i] != g.atoms[i] {
			return false
		}
	}
	return true
}

// String writes the formula in Unicode: H₂C₂O₄·2H₂O, MnO₄⁻.
func (f Formula) String() string {
	var b strings.Builder
	for _, t := range f.tokens {
		switch t.kind {
		case subscript:
			b.WriteString(toSubscript.Replace(t.text))
		case superscript:
			b.WriteString(toSuperscript.Replace(t.text))
		default:
			b.WriteString(t.text)
		}
	}
	return b.String()
}

// Plain writes the formula in ASCII, in a way ParseFormula reads back:
// H2C2O4*2H2O, MnO4^-.
func (f Formula) Plain() string {
	var b strings.Builder
	for _, t := range f.tokens {
		switch t.kind {
		case dot:
			b.WriteString("*")
		case superscript:
			b.WriteString("^" + t.text)
		default:
			b.WriteString(t.text)
		}
	}
	return b.String()
}

// LaTeX writes the formula for a mathematical typesetter.
func (f Formula) LaTeX() string {
	var b strings.Builder
	b.WriteString(`\mathrm{`)
	for _, t := range f.tokens {
		switch t.kind {
		case subscript:
			b.WriteString("_{" + t.text + "}")
		case superscript:
			b.WriteString("^{" + t.text + "}")
		case dot:
			b.WriteString(`{\cdot}`)
		default:
			b.WriteString(t.text)
		}
	}
	b.WriteString("}")
	return b.String()
}

var (
	subscripts      = []rune("₀₁₂₃₄₅₆₇₈₉")
	superscripts    = []rune("⁰¹²³⁴⁵⁶⁷⁸⁹")
	toSubscript     = digitReplacer(subscripts)
	fromSuperscript = strings.NewReplacer("⁺", "+", "⁻", "-", "⁰", "0", "¹", "1", "²", "2", "³", "3", "⁴", "4", "⁵", "5",
		"⁶", "6", "⁷", "7", "⁸", "8", "⁹", "9")
	toSuperscript = strings.NewReplacer(append(digitPairs(superscripts), "+", "⁺", "-", "⁻")...)
)

func digitPairs(to []rune) []string {
	var pairs []string
	for i, r := range to {
		pairs = append(pairs, strconv.Itoa(i), string(r))
	}
	return pairs
}

func digitReplacer(to []rune) *strings.Replacer { return strings.NewReplacer(digitPairs(to)...) }

// Anhydrous returns the formula without its water of crystallisation (what
// follows the dot), and whether there was any.
func (f Formula) Anhydrous() (Formula, bool) {
	for i, t := range f.tokens {
		if t.kind != dot {
			continue
		}
		var text strings.Builder
		for _, u := range f.tokens[:i] {
			text.WriteString(u.text)
		}
		dry, err := ParseFormula(text.String())
		return dry, err == nil
	}
	return f, false
}

// AtomRatio returns how many units of another formula one unit of this one
// gives, by the atoms they share: one Fe^2+ is half an Fe2O3. Hydrogen and
// oxygen count only where nothing else is in either. It is false where no atom
// is shared, or where two of them say different things.
func (f Formula) AtomRatio(of Formula) (numerator, denominator int, ok bool) {
	for _, a := range f.atoms {
		if (a.Element == "H" || a.Element == "O") && (f.characteristic() || of.characteristic()) {
			continue
		}
		for _, b := range of.atoms {
			if a.Element != b.Element {
				continue
			}
			n, d := a.N*b.per(), b.N*a.per()
			if ok && n*denominator != d*numerator {
				return 0, 0, false
			}
			g := gcd(n, d)
			numerator, denominator, ok = n/g, d/g, true
		}
	}
	return numerator, denominator, ok
}

func gcd(x, y int) int {
	for y != 0 {
		x, y = y, x%y
	}
	return x
}

// baseMetals are the alkali and alkaline earth metals, whose hydroxides are strong bases, with
// the charge of their ions.
var baseMetals = map[string]int{"Li": 1, "Na": 1, "K": 1, "Rb": 1, "Cs": 1, "Mg": 2, "Ca": 2, "Sr": 2, "Ba": 2}

// CationCharge is the charge of the alkali and alkaline earth metals in a salt: 2 for Na2A.
func (f Formula) CationCharge() int {
	n := 0
	for _, a := range f.atoms {
		n += baseMetals[a.Element] * a.N
	}
	return n
}

// Core are the atoms of a formula, sorted by element, without water of crystallisation, hydrogen
// and the alkali and alkaline earth metals: what an acid and its salts have in common.
func (f Formula) Core() []Count {
	dry, _ := f.Anhydrous()
	var out []Count
	for _, a := range dry.atoms {
		if a.Element != "H" && baseMetals[a.Element] == 0 {
			out = append(out, a)
		}
	}
	return out
}

// Carbonate tells whether it is a salt of carbonic acid, so that acid sets
// carbon dioxide free: one carbon atom with three oxygen atoms, and metals.
func (f Formula) Carbonate() bool {
	c, o := 0, 0
	for _, a := range f.atoms {
		switch a.Element {
		case "C":
			c = a.N
		case "O":
			o = a.N
		}
	}
	dry, _ := f.Anhydrous()
	return c > 0 && o >= 3*c && (dry.CationCharge() == 2*c || dry.CationCharge() == c && c == 1)
}

// characteristic tells whether there is another element than hydrogen and oxygen.
func (f Formula) characteristic() bool {
	for _, a := range f.atoms {
		if a.Element != "H" && a.Element != "O" {
			return true
		}
	}
	return false
}
