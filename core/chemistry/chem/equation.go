package chem

import (
	"errors"
	"strconv"
	"strings"
	"unicode/utf8"

	"exactflask/core/values/finding"
)

// Species is a formula with its stoichiometric coefficient in an equation.
type Species struct {
	Coefficient int // 1 or more; 0 where none was written
	parts       int // the coefficient is so many times too large, while an equation is read
	Formula     Formula
}

// Equation is a chemical equation. Coefficients are those written until
// Balance has been called.
type Equation struct {
	Reactants, Products []Species
}

// Reasons why an equation cannot be balanced; a *BalanceError wraps one.
var (
	ErrNoSolution   = errors.New("no solution")
	ErrNotUnique    = errors.New("not unique")
	ErrWrongSide    = errors.New("wrong side")
	ErrTooManyParts = errors.New("too many substances")
	ErrElectrons    = errors.New("no electrons change over")
)

var balanceCodes = map[error]finding.Code{
	ErrNoSolution:   finding.Declare("chem.no-solution", "detail"),
	ErrNotUnique:    finding.Declare("chem.not-unique", "detail"),
	ErrWrongSide:    finding.Declare("chem.wrong-side", "detail"),
	ErrTooManyParts: finding.Declare("chem.too-many-parts", "detail"),
	ErrElectrons:    finding.Declare("chem.no-electrons", "detail"),
}

// BalanceError says why and, where it can, through which elements or species.
type BalanceError struct {
	Err    error
	Detail []finding.Value
}

func (e *BalanceError) Error() string { return e.Said().String() }
func (e *BalanceError) Unwrap() error { return e.Err }

// Said implements finding.Speaker.
func (e *BalanceError) Said() finding.Message {
	return balanceCodes[e.Err].Message(finding.List(e.Detail...))
}

const (
	maxSpecies        = 16
	maxEquationLength = 600 // characters
)

// ParseEquation reads "2 NaOH + H2SO4 -> Na2SO4 + 2 H2O". The arrow may be
// ->, -->, =>, =, <=>, → or ⇌; a plus between substances stands between blanks, so that
// it is not taken for a charge. Coefficients may be left out; where some are fractions ("1/2 O2",
// "½ O2", "0.5 O2") all are multiplied so that they are whole. Errors are *SyntaxError or
// *BalanceError (too many substances).
func ParseEquation(text string) (Equation, error) {
	fail := func(at int, problem finding.Message) (Equation, error) {
		return Equation{}, (&parser{text: text}).fail(at, problem)
	}
	if len(text) > maxEquationLength {
		return fail(maxEquationLength, equationTooLong.Message(finding.Count(maxEquationLength)))
	}
	var sides []string
	var offsets []int
	from := 0
	for _, at := range append(arrows(text), [2]int{len(text), len(text)}) {
		sides, offsets = append(sides, text[from:at[0]]), append(offsets, len([]rune(text[:from])))
		from = at[1]
	}
	if len(sides) < 2 {
		return fail(len([]rune(text))-1, noArrow.Message())
	}
	if len(sides) > 2 {
		return fail(offsets[2]-1, secondArrow.Message())
	}
	var eq Equation
	common := 1
	for i, side := range sides {
		species, err := parseSide(text, side, offsets[i], &common)
		if err != nil {
			return Equation{}, err
		}
		if i == 0 {
			eq.Reactants = species
		} else {
			eq.Products = species
		}
	}
	if len(eq.Reactants)+len(eq.Products) > maxSpecies {
		return Equation{}, &BalanceError{Err: ErrTooManyParts}
	}
	if common > 1 {
		for _, side := range [][]Species{eq.Reactants, eq.Products} {
			for i := range side {
				side[i].Coefficient = max(side[i].Coefficient, 1) * common / max(side[i].parts, 1)
				side[i].parts = 0
			}
		}
	}
	return eq, nil
}

// coefficient reads the number that a substance begins with: whole, a fraction, or a decimal. size is
// how many bytes it takes; 0 where there is none.
func coefficient(text string) (n ratio, size int, ok bool) {
	if sign, length := utf8.DecodeRuneInString(text); strings.ContainsRune(fractionSigns, sign) && length > 0 {
		_, whole, below, _, _ := portion(fractions.Replace(string(sign)))
		return ratioOf(whole, below, ""), length, true
	}
	if n := digits(text, len(text)); n > 0 && n < len(text) && text[n] == ',' { // a decimal comma
		text = text[:n] + "." + text[n+1:]
	}
	all, whole, below, decimals, is := portion(text)
	if !is {
		return ratio{1, 1}, 0, true
	}
	n = ratioOf(whole, below, decimals)
	more := text[len(all):]
	return n, len(all), n.n > 0 && n.n <= maxCount && (more == "" || !digit(more[0]) && more[0] != '/')
}

// parseSide reads one side; common becomes what all denominators divide.
func parseSide(whole, side string, offset int, common *int) ([]Species, error) {
	var out []Species
	for _, part := range strings.Split(side, " + ") {
		body := strings.TrimLeft(part, " \t")
		at := offset + len([]rune(part)) - len([]rune(body))
		offset += len([]rune(part)) + len(" + ")
		n, digits, ok := coefficient(body)
		s := Species{}
		if !ok {
			return nil, (&parser{text: whole}).fail(at, coefficientNumber.Message(finding.Count(maxCount)))
		}
		if digits > 0 {
			s.Coefficient, s.parts = n.n, n.d
			*common = *common / gcd(*common, n.d) * n.d
			formula := strings.TrimLeft(body[digits:], " ")
			at += len([]rune(body)) - len([]rune(formula))
			body = formula
		}
		f, err := ParseFormula(body)
		if err != nil {
			var syntax *SyntaxError
			if errors.As(err, &syntax) {
				return nil, (&parser{text: whole}).fail(at+syntax.Position-1, syntax.Problem)
			}
			return nil, err
		}
		s.Formula = f
		out = append(out, s)
	}
	return out, nil
}

// all lists reactants, then products.
func (e Equation) all() []Species {
	return append(append(make([]Species, 0, len(e.Reactants)+len(e.Products)), e.Reactants...), e.Products...)
}

var (
	hugeCoefficients = finding.Declare("chem.huge-coefficients")
	noPart           = finding.Declare("chem.no-part", "substances")
	otherSide        = finding.Declare("chem.other-side", "substances")
	eitherSide       = finding.Declare("chem.either-side", "ones", "others")
	onOneSide        = finding.Family("chem.only-", []string{"left", "right"}, "element")
)

// Coefficient returns the coefficient of a substance (same atoms and charge),
// and whether the equation has it at all.
func (e Equation) Coefficient(f Formula) (int, bool) {
	for _, side := range [...][]Species{e.Reactants, e.Products} {
		for i := range side {
			if side[i].Formula.Same(f) {
				return max(side[i].Coefficient, 1), true
			}
		}
	}
	return 0, false
}

// String writes the equation in Unicode with an arrow.
func (e Equation) String() string { return e.write(Formula.String, " + ", " → ", " ") }

// Plain writes the equation in ASCII, in a way ParseEquation reads back.
func (e Equation) Plain() string { return e.write(Formula.Plain, " + ", " -> ", " ") }

// LaTeX writes the equation for a mathematical typesetter.
func (e Equation) LaTeX() string { return e.write(Formula.LaTeX, " + ", ` \longrightarrow `, `\,`) }

func (e Equation) write(formula func(Formula) string, plus, arrow, gap string) string {
	side := func(species []Species) string {
		parts := make([]string, len(species))
		for i, s := range species {
			if s.Coefficient > 1 {
				parts[i] = strconv.Itoa(s.Coefficient) + gap
			}
			parts[i] += formula(s.Formula)
		}
		return strings.Join(parts, plus)
	}
	return side(e.Reactants) + arrow + side(e.Products)
}
