package chem

import (
	"errors"
	"math/big"
	"slices"
	"strconv"
	"strings"

	"exactflask/core/finding"
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
// ->, =>, =, → or ⇌; a plus between substances stands between blanks, so that
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
	rest, offset := text, 0
	for {
		at, length := -1, 0
		for _, arrow := range []string{"<=>", "->", "=>", "→", "⇌", "="} {
			if i := strings.Index(rest, arrow); i >= 0 && (at < 0 || i < at) {
				at, length = i, len(arrow)
			}
		}
		if at < 0 {
			break
		}
		sides, offsets = append(sides, rest[:at]), append(offsets, offset)
		offset += len([]rune(rest[:at+length]))
		rest = rest[at+length:]
	}
	sides, offsets = append(sides, rest), append(offsets, offset)
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

// Balanced reports whether the coefficients as they stand (none written
// counts as 1) conserve every element and the charge.
func (e Equation) Balanced() bool {
	sums, charge := map[string]int{}, 0
	for i, s := range e.all() {
		n := max(s.Coefficient, 1)
		if i >= len(e.Reactants) {
			n = -n
		}
		charge += n * s.Formula.charge
		for _, a := range s.Formula.atoms {
			sums[a.Element] += n * a.N
		}
	}
	for _, n := range sums {
		if n != 0 {
			return false
		}
	}
	return charge == 0
}

// Balance returns the equation with the smallest whole coefficients, found as
// the null space of the matrix of elements and charge over the rationals.
// Written coefficients are not looked at. The error is a *BalanceError when
// there is no balance, more than one independent balance, or one in which a
// substance changes side.
func (e Equation) Balance() (Equation, error) {
	species := e.all()
	coefficients, err := e.smallest(e.matrix(true))
	if err != nil {
		return Equation{}, err
	}
	for j := range species {
		species[j].Coefficient = coefficients[j]
	}
	return Equation{Reactants: species[:len(e.Reactants)], Products: species[len(e.Reactants):]}, nil
}

// matrix has a row for each element, in order of appearance and but for those
// left out, and where asked one for the charge; products count negatively.
func (e Equation) matrix(charge bool, leftOut ...string) [][]*big.Rat {
	species := e.all()
	rows := 0
	index := map[string]int{}
	for _, s := range species {
		for _, a := range s.Formula.atoms {
			if _, ok := index[a.Element]; !ok && !slices.Contains(leftOut, a.Element) {
				index[a.Element] = rows
				rows++
			}
		}
	}
	if charge {
		rows++
	}
	m := make([][]*big.Rat, rows)
	for i := range m {
		m[i] = make([]*big.Rat, len(species))
		for j := range m[i] {
			m[i][j] = new(big.Rat)
		}
	}
	for j, s := range species {
		sign := int64(1)
		if j >= len(e.Reactants) {
			sign = -1
		}
		for _, a := range s.Formula.atoms {
			if i, ok := index[a.Element]; ok {
				m[i][j].SetInt64(sign * int64(a.N))
			}
		}
		if charge {
			m[rows-1][j].SetInt64(sign * int64(s.Formula.charge))
		}
	}
	return m
}

// smallest finds the smallest whole numbers of the species that make every row
// of the matrix zero: its null space over the rationals.
func (e Equation) smallest(m [][]*big.Rat) ([]int, error) {
	species := e.all()
	pivots := reduce(m)
	free := freeColumns(pivots, len(species))
	switch {
	case len(free) == 0:
		return nil, &BalanceError{ErrNoSolution, e.lonely()}
	case len(free) > 1:
		return nil, &BalanceError{ErrNotUnique, []finding.Value{finding.Count(len(free))}}
	}
	// The one free coefficient is set to 1; the others follow from the rows.
	solution := make([]*big.Rat, len(species))
	for j := range solution {
		solution[j] = new(big.Rat)
	}
	solution[free[0]].SetInt64(1)
	for row, col := range pivots {
		solution[col].Neg(m[row][free[0]])
	}
	common := big.NewInt(1)
	for _, x := range solution {
		if x.Sign() <= 0 {
			return nil, &BalanceError{ErrWrongSide, wrongSide(species, solution)}
		}
		g := new(big.Int).GCD(nil, nil, common, x.Denom())
		common.Mul(common, new(big.Int).Quo(x.Denom(), g))
	}
	out := make([]int, len(species))
	for j, x := range solution {
		n := new(big.Int).Mul(x.Num(), new(big.Int).Quo(common, x.Denom()))
		if !n.IsInt64() || n.Int64() > 1e6 {
			return nil, &BalanceError{ErrNoSolution, []finding.Value{finding.Said(hugeCoefficients.Message())}}
		}
		out[j] = int(n.Int64())
	}
	return out, nil
}

// wrongSide names the substances that would change side: those of the rarer
// sign, since the sign of the whole is free; and those that take no part.
func wrongSide(species []Species, solution []*big.Rat) []finding.Value {
	count := map[int]int{}
	for _, x := range solution {
		count[x.Sign()]++
	}
	wrong := -1
	if count[-1] > count[1] {
		wrong = 1
	}
	var out []finding.Value
	for j, x := range solution {
		if x.Sign() == wrong || x.Sign() == 0 {
			out = append(out, finding.Formula(species[j].Formula.Plain()))
		}
	}
	return out
}

var (
	hugeCoefficients = finding.Declare("chem.huge-coefficients")
	onOneSide        = finding.Family("chem.only-", []string{"left", "right"}, "element")
)

// reduce brings m to reduced row echelon form and returns the pivot column of
// each row that has one.
func reduce(m [][]*big.Rat) []int {
	var pivots []int
	row := 0
	for col := 0; row < len(m) && col < len(m[0]); col++ {
		p := row
		for p < len(m) && m[p][col].Sign() == 0 {
			p++
		}
		if p == len(m) {
			continue
		}
		m[row], m[p] = m[p], m[row]
		inverse := new(big.Rat).Inv(m[row][col])
		for j := col; j < len(m[row]); j++ {
			m[row][j].Mul(m[row][j], inverse)
		}
		for i := range m {
			if i == row || m[i][col].Sign() == 0 {
				continue
			}
			f := new(big.Rat).Set(m[i][col])
			for j := col; j < len(m[i]); j++ {
				m[i][j].Sub(m[i][j], new(big.Rat).Mul(f, m[row][j]))
			}
		}
		pivots = append(pivots, col)
		row++
	}
	return pivots
}

func freeColumns(pivots []int, columns int) []int {
	var free []int
	for j, p := 0, 0; j < columns; j++ {
		if p < len(pivots) && pivots[p] == j {
			p++
			continue
		}
		free = append(free, j)
	}
	return free
}

// lonely names elements that stand on one side only, the usual reason for
// "no solution".
func (e Equation) lonely() []finding.Value {
	side := map[string]int{}
	for i, s := range e.all() {
		bit := 1
		if i >= len(e.Reactants) {
			bit = 2
		}
		for _, a := range s.Formula.atoms {
			side[a.Element] |= bit
		}
	}
	var only []finding.Value
	for _, s := range e.all() {
		for _, a := range s.Formula.atoms {
			where := map[int]string{1: "left", 2: "right"}[side[a.Element]]
			if where != "" {
				only = append(only, finding.Said(onOneSide[where].Message(finding.Text(a.Element))))
				side[a.Element] = 3
			}
		}
	}
	return only
}

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
