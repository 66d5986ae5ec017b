package chem

import "exactflask/core/values/finding"

// Medium is what a redox reaction runs in.
type Medium string

// The media: in acid, hydrogen ions and water are filled in; in base,
// hydroxide ions and water.
const (
	InAcid Medium = "acid"
	InBase Medium = "base"
)

// HalfReaction is a balanced half-reaction. Electrons is how many are gained:
// positive for a reduction, negative for an oxidation.
type HalfReaction struct {
	Equation  Equation
	Electrons int
}

var (
	proton    = MustFormula("H^+")
	hydroxide = MustFormula("OH^-")
	waterMol  = MustFormula("H2O")
	electron  = MustFormula("e-")
)

// ParseHalf reads "MnO4- -> Mn^2+" and fills in water, hydrogen or hydroxide
// ions and electrons, which may stand there already and are then found anew.
// Errors are *SyntaxError or *BalanceError. Source of the method: common
// practice, no source.
func ParseHalf(text string, medium Medium) (HalfReaction, error) {
	eq, err := ParseEquation(text)
	if err != nil {
		return HalfReaction{}, err
	}
	left, right := withoutHelpers(eq.Reactants), withoutHelpers(eq.Products)
	main := Equation{Reactants: left, Products: right}
	coefficients, err := main.main()
	if err != nil {
		return HalfReaction{}, err
	}
	// What is missing: positive on the left side.
	oxygen, hydrogen, charge := 0, 0, 0
	for i, s := range main.all() {
		n := coefficients[i]
		if i >= len(left) {
			n = -n
		}
		charge += n * s.Formula.charge
		for _, a := range s.Formula.atoms {
			switch a.Element {
			case "O":
				oxygen += n * a.N
			case "H":
				hydrogen += n * a.N
			}
		}
	}
	sums := newSum()
	for i, s := range main.all() {
		n := coefficients[i]
		if i >= len(left) {
			n = -n
		}
		sums.add(s.Formula, n)
	}
	// Water takes the oxygen to the other side, hydrogen ions the hydrogen.
	sums.add(waterMol, -oxygen)
	protons := -(hydrogen - 2*oxygen)
	electrons := charge + protons // on the left, so that the charges are equal
	if medium == InBase {
		sums.add(hydroxide, -protons)
		sums.add(waterMol, protons)
	} else {
		sums.add(proton, protons)
	}
	sums.add(electron, electrons)
	out := sums.equation()
	if !out.Balanced() {
		return HalfReaction{}, &BalanceError{Err: ErrNoSolution, Detail: main.lonely()}
	}
	return HalfReaction{Equation: out, Electrons: electrons}, nil
}

// withoutHelpers leaves out water, its ions and electrons, which follow from the rest; where
// nothing else is there, they are what reacts.
func withoutHelpers(in []Species) []Species {
	var out []Species
	for _, s := range in {
		helper := false
		for _, f := range []Formula{proton, hydroxide, waterMol, electron} {
			helper = helper || s.Formula.Same(f)
		}
		if !helper {
			out = append(out, s)
		}
	}
	if len(out) == 0 { // such as H2O2 -> H2O
		return in
	}
	return out
}

// Join adds a reduction and an oxidation so that the electrons cancel, and says
// how many change over in the whole as it is written.
func Join(a, b HalfReaction) (whole Equation, electrons int, err error) {
	if a.Electrons < 0 {
		a, b = b, a
	}
	if a.Electrons <= 0 || b.Electrons >= 0 {
		return Equation{}, 0, &BalanceError{ErrElectrons, []finding.Value{finding.Count(a.Electrons),
			finding.Count(b.Electrons)}}
	}
	g := gcd(a.Electrons, -b.Electrons)
	sums := newSum()
	for _, part := range []struct {
		h     HalfReaction
		times int
	}{{a, -b.Electrons / g}, {b, a.Electrons / g}} {
		for _, s := range part.h.Equation.Reactants {
			sums.add(s.Formula, s.Coefficient*part.times)
		}
		for _, s := range part.h.Equation.Products {
			sums.add(s.Formula, -s.Coefficient*part.times)
		}
	}
	return sums.equation(), a.Electrons * -b.Electrons / g / sums.divisor(), nil
}

// sum adds up substances, positive on the left.
type sum struct {
	formulas []Formula
	n        []int
}

func newSum() *sum { return &sum{} }

func (s *sum) add(f Formula, n int) {
	for i := range s.formulas {
		if s.formulas[i].Same(f) {
			s.n[i] += n
			return
		}
	}
	s.formulas, s.n = append(s.formulas, f), append(s.n, n)
}

// divisor is the greatest that all coefficients share.
func (s *sum) divisor() int {
	g := 0
	for _, n := range s.n {
		g = gcd(g, max(n, -n))
	}
	return max(g, 1)
}

// equation has the smallest whole coefficients.
func (s *sum) equation() Equation {
	g := s.divisor()
	var eq Equation
	for i, n := range s.n {
		switch {
		case n > 0:
			eq.Reactants = append(eq.Reactants, Species{Coefficient: n / g, Formula: s.formulas[i]})
		case n < 0:
			eq.Products = append(eq.Products, Species{Coefficient: -n / g, Formula: s.formulas[i]})
		}
	}
	return eq
}

// main balances what a half-reaction is about: all elements but oxygen and
// hydrogen, and not the charge. Where there are no others, as in H2O2 -> O2,
// the numbers stand as they are written.
func (e Equation) main() ([]int, error) {
	if m := e.matrix(false, "H", "O"); len(m) > 0 {
		return e.smallest(m)
	}
	species := e.all()
	out := make([]int, len(species))
	for i := range out {
		out[i] = max(species[i].Coefficient, 1)
	}
	return out, nil
}
