package catalog

import (
	"errors"
	"math/big"

	"exactflask/core/chemistry/chem"
)

// gained is how many electrons a unit of each reactant gains by the couples that stand in an
// equation, negative where it loses them; false where it is not one oxidant and one reductant.
func (c *Catalog) gained(eq chem.Equation) ([]*big.Rat, bool) {
	among := func(texts []string, side []chem.Species) int {
		for i, s := range side {
			for _, text := range texts {
				if chem.MustFormula(text).Same(s.Formula) {
					return i
				}
			}
		}
		return -1
	}
	out := make([]*big.Rat, len(eq.Reactants))
	oxidants, reductants := 0, 0
	for _, k := range c.Couples {
		half, ox, red := k.Reaction()
		electrons := int64(half.Electrons)
		if i := among(k.Oxidised, eq.Reactants); i >= 0 && among(k.Reduced, eq.Products) >= 0 {
			oxidants++
			out[i] = big.NewRat(electrons, int64(ox))
		}
		if i := among(k.Reduced, eq.Reactants); i >= 0 && among(k.Oxidised, eq.Products) >= 0 {
			reductants++
			out[i] = big.NewRat(-electrons, int64(red))
		}
	}
	return out, oxidants == 1 && reductants == 1
}

// Balance is chem's; where atoms and charge alone allow more than one balance, the electrons of
// the couples that are known decide.
func (c *Catalog) Balance(eq chem.Equation) (chem.Equation, error) {
	out, err := eq.Balance()
	if !errors.Is(err, chem.ErrNotUnique) {
		return out, err
	}
	if gained, known := c.gained(eq); known {
		if by, failed := eq.BalanceExchanging(gained); failed == nil {
			return by, nil
		}
	}
	return out, err
}

// Usual is the usual balance of an equation that is balanced in atoms and charge, and in which
// more electrons are gained than lost, or fewer: permanganate and peroxide as 2 to 3. False where
// there is none, or it is that.
func (c *Catalog) Usual(eq chem.Equation) (chem.Equation, bool) {
	if eq.Freedom() < 2 {
		return eq, false
	}
	gained, known := c.gained(eq)
	if !known {
		return eq, false
	}
	sum := new(big.Rat)
	for i, s := range eq.Reactants {
		if gained[i] != nil {
			sum.Add(sum, new(big.Rat).Mul(gained[i], big.NewRat(int64(max(s.Coefficient, 1)), 1)))
		}
	}
	if sum.Sign() == 0 {
		return eq, false
	}
	usual, err := eq.BalanceExchanging(gained)
	return usual, err == nil
}
