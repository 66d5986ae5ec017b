package evaluation

import (
	"exactflask/core/model/derivation"
	"exactflask/core/values/quantity"
)

// Strength is the concentration that a later practical can take over, mol/L, with its standard
// uncertainty: the answer itself, in whichever unit, or the strength that an answer in g/L of a
// solution that was made was worked out from. False of one trial alone, where more are asked for,
// where the uncertainty was not asked for, and where the answer is no concentration.
func (ev Evaluation) Strength() (c quantity.Quantity, standard float64, ok bool) {
	r := ev.Result
	if r == nil || r.Single || r.Budget == nil || r.Answer.Value == 0 {
		return quantity.Quantity{}, 0, false
	}
	c, err := r.Answer.In(quantity.MolePerL)
	if err != nil {
		known, made := r.Derivation.Node(derivation.Known)
		if !made || !ev.MadeOnly {
			return quantity.Quantity{}, 0, false
		}
		c = known.Quantity
		c.Figures = r.Answer.Figures
	}
	return c, r.Budget.Standard / r.Answer.Value * c.Value, true
}
