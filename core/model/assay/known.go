package assay

import (
	"math"

	"exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
)

// What is known beside the trials: strengths and how sure they are, and what was measured in the
// place of what the practical gives.

// volumeOf is what a step of the route measures, mL: as it was measured, else as the practical
// gives it.
func (a *Assay) volumeOf(step int) decimal.Decimal {
	if own, ok := a.held.Own[journal.OwnKey{What: journal.OwnVolume, Step: step + 1}]; ok {
		return own.Value
	}
	return a.ready.Steps[step].Volume
}

// known is the concentration that is known: the one that was found where it
// was taken over, else the practical's.
func (a *Assay) known() decimal.Decimal {
	if a.held.Known != nil {
		return a.held.Known.Concentration
	}
	if a.madeHere() {
		return a.strengthMade()
	}
	return a.ready.Known().Concentration
}

// Label is what the label of the sample says, in the practical's unit of it: as it was read at the
// bench, else as the practical gives it; zero where there is none.
func (a *Assay) Label() decimal.Decimal {
	if own, ok := a.held.Own[journal.OwnKey{What: journal.OwnLabel}]; ok {
		return own.Value
	}
	return a.ready.Asked.Label.Value
}

// Celsius is the temperature of the solutions, where it was measured.
func (a *Assay) Celsius() (float64, bool) {
	own, ok := a.held.Own[journal.OwnKey{What: journal.OwnTemperature}]
	return own.Value.Float64(), ok
}

// KnownUncertainty is the standard uncertainty of the known concentration,
// mol/L, where something tells it: what was found with it, what the practical
// gives, or that it is the nominal one of a solution that is standardised or that was written with
// few digits.
func (a *Assay) KnownUncertainty() (u float64, ok bool) {
	given := a.ready.Known().Uncertainty
	if a.held.Known != nil {
		given = a.held.Known.Uncertainty
	}
	switch {
	case a.madeHere(): // it follows from what it is made of
		return 0, false
	case given.Sign() > 0:
		return given.Float64(), true
	case a.nominalKnown():
		return a.ready.Norms().Part(practical.Standardised) * a.known().Float64(), true
	}
	if half, nominal := a.ready.Sure(a.known()); nominal {
		return half / math.Sqrt(3), true
	}
	return 0, false
}

// nominalKnown tells whether the known concentration is the nominal one of a
// solution that is standardised in another practical.
func (a *Assay) nominalKnown() bool { return a.ready.Chemistry.Standard != "" && a.held.Known == nil }

// deserves gives a strength the figures that it is sure to, where it is nominal: those as far as
// the place of the largest error.
func (b *builder) deserves(n derivation.Node, c decimal.Decimal) derivation.Node {
	if half, nominal := b.ready.Sure(c); nominal && half > 0 {
		n.Quantity.Figures = figuresBy(n.Quantity.Value, half)
	}
	return n
}

// figuresBy is how many figures a value deserves by its standard uncertainty:
// down to the place of the uncertainty's first figure.
func figuresBy(value, u float64) int {
	n := int(math.Floor(math.Log10(math.Abs(value)))) - int(math.Floor(math.Log10(u))) + 1
	return min(max(n, 1), 12)
}
