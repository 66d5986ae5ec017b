package chem

import (
	"errors"
	"strconv"
	"strings"

	"exactflask/core/values/finding"
)

// Species is a formula with its stoichiometric coefficient in an equation.
type Species struct {
	Coefficient int // 1 or more; 0 where none was written
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
// it is not taken for a charge. Coefficients may be left out. Errors are
// *SyntaxError or *BalanceError (too many substances).
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
	for i, side := range sides {
		species, err := parseSide(text, side, offsets[i])
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
	return eq, nil
}

func parseSide(whole, side string, offset int) ([]Species, error) {
	var out []Species
	for _, part := range strings.Split(side, " + ") {
		body := strings.TrimLeft(part, " \t")
		at := offset + len([]rune(part)) - len([]rune(body))
		offset += len([]rune(part)) + len(" + ")
		digits := 0
		for digits < len(body) && body[digits] >= '0' && body[digits] <= '9' {
			digits++
		}
		s := Species{}
		if digits > 0 {
			n, err := strconv.Atoi(body[:digits])
			if err != nil || n == 0 || n > maxCount {
				return nil, (&parser{text: whole}).fail(at, coefficientNumber.Message(finding.Count(maxCount)))
			}
			s.Coefficient = n
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
