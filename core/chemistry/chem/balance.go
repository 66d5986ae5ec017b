package chem

import (
	"math/big"
	"slices"

	"exactflask/core/values/finding"
)

// Balanced reports whether the coefficients as they stand (none written
// counts as 1) conserve every element and the charge.
func (e Equation) Balanced() bool {
	sums, charge := map[string]ratio{}, 0
	for i, s := range e.all() {
		n := max(s.Coefficient, 1)
		if i >= len(e.Reactants) {
			n = -n
		}
		charge += n * s.Formula.charge
		for _, a := range s.Formula.atoms {
			sums[a.Element] = sums[a.Element].plus(ratio{n * a.N, a.per()})
		}
	}
	for _, n := range sums {
		if n.n != 0 {
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
	return e.with(e.smallest(e.matrix(true)))
}

// Freedom is how many independent balances atoms and charge alone allow: more than one where
// two reactions go on side by side.
func (e Equation) Freedom() int {
	m := e.matrix(true)
	return len(freeColumns(reduce(m), len(e.all())))
}

// BalanceExchanging is Balance where as many electrons are gained as are lost too. gained is
// how many a unit of each reactant gains, negative where it loses them; nil for one that does
// neither.
func (e Equation) BalanceExchanging(gained []*big.Rat) (Equation, error) {
	m := e.matrix(true)
	row := make([]*big.Rat, len(e.all()))
	for j := range row {
		if row[j] = new(big.Rat); j < len(gained) && gained[j] != nil {
			row[j].Set(gained[j])
		}
	}
	return e.with(e.smallest(append(m, row)))
}

// with has these coefficients.
func (e Equation) with(coefficients []int, err error) (Equation, error) {
	if err != nil {
		return Equation{}, err
	}
	species := e.all()
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
				m[i][j].SetFrac64(sign*int64(a.N), int64(a.per()))
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

// wrongSide names the substances that take no part or, where all do, those that
// would change side: those of the rarer sign, since the sign of the whole is
// free. Where both signs are as many, it may be the ones or the others.
func wrongSide(species []Species, solution []*big.Rat) []finding.Value {
	named := map[int][]finding.Value{}
	for j, x := range solution {
		named[x.Sign()] = append(named[x.Sign()], finding.Formula(species[j].Formula.Plain()))
	}
	minus, plus := named[-1], named[1]
	switch {
	case len(named[0]) > 0:
		return []finding.Value{finding.Said(noPart.Message(finding.List(named[0]...)))}
	case len(minus) == len(plus):
		return []finding.Value{finding.Said(eitherSide.Message(finding.List(minus...), finding.List(plus...)))}
	case len(minus) > len(plus):
		minus = plus
	}
	return []finding.Value{finding.Said(otherSide.Message(finding.List(minus...)))}
}

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
