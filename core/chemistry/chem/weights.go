package chem

import (
	"math"
	"slices"

	"exactflask/core/values/decimal"
)

// Weights is a table of atomic weights: how finely it is written.
type Weights string

// The tables: the standard atomic weights (WeightSource), or these to two decimals, to one,
// or to whole numbers. In the last, chlorine is 35.5 and copper 63.5: common practice, no
// source.
const (
	Standard  Weights = ""
	Hundredth Weights = "hundredth"
	Tenth     Weights = "tenth"
	Whole     Weights = "whole"
)

// AllWeights are the tables, the finest first.
var AllWeights = []Weights{Standard, Hundredth, Tenth, Whole}

// halves are the elements that a table of whole numbers gives to a half.
var halves = map[string]decimal.Decimal{"Cl": decimal.Must("35.5"), "Cu": decimal.Must("63.5")}

// of is the weight of an element, g/mol, and half of what its last place tells: of the
// standard table what that says itself.
func (w Weights) of(symbol string) (weight, half decimal.Decimal) {
	e := elements[symbol]
	switch half, is := halves[symbol]; {
	case w == Hundredth:
		return e.Weight.Round(2), decimal.Must("0.005")
	case w == Tenth:
		return e.Weight.Round(1), decimal.Must("0.05")
	case w == Whole && is:
		return half, decimal.Must("0.25")
	case w == Whole:
		return e.Weight.Round(0), decimal.Must("0.5")
	}
	return e.Weight, e.Uncertainty
}

// MolarMassBy returns the molar mass in g/mol, exact in a table of atomic weights. The mass
// of electrons is left out, as usual. It is zero where something in the formula is Unnamed.
func (f Formula) MolarMassBy(w Weights) decimal.Decimal {
	var m decimal.Decimal
	if f.stands != "" {
		return m
	}
	for _, a := range f.atoms {
		weight, _ := w.of(a.Element)
		part := weight.Mul(decimal.Whole(int64(a.N)))
		if a.Per > 1 {
			part, _ = part.Div(decimal.Whole(int64(a.Per)))
		}
		m = m.Add(part)
	}
	return m
}

// MolarMass is MolarMassBy the standard atomic weights.
func (f Formula) MolarMass() decimal.Decimal { return f.MolarMassBy(Standard) }

// MolarMassUncertaintyBy returns the standard uncertainty of the molar mass in g/mol: what
// the table leaves open of each atomic weight is taken as rectangular, for all atoms of
// the element together (EURACHEM/CITAC CG4, QUAM:2012, A2).
func (f Formula) MolarMassUncertaintyBy(w Weights) float64 {
	if f.stands != "" {
		return 0
	}
	variance := 0.0
	for _, a := range f.atoms {
		_, half := w.of(a.Element)
		u := float64(a.N) / float64(a.per()) * half.Float64() / math.Sqrt(3)
		variance += u * u
	}
	return math.Sqrt(variance)
}

// MolarMassUncertainty is MolarMassUncertaintyBy the standard atomic weights.
func (f Formula) MolarMassUncertainty() float64 { return f.MolarMassUncertaintyBy(Standard) }

// SchoolMasses are the molar masses in g/mol that are usually worked with: by each table of
// atomic weights, and the standard one rounded; the finest first, each value once. Source:
// common practice, no source.
func (f Formula) SchoolMasses() []float64 {
	var out []float64
	add := func(m decimal.Decimal) {
		if v := m.Float64(); v > 0 && !slices.Contains(out, v) {
			out = append(out, v)
		}
	}
	standard := f.MolarMass()
	for _, w := range AllWeights {
		add(f.MolarMassBy(w))
	}
	for places := 2; places >= 0; places-- {
		add(standard.Round(places))
	}
	return out
}

// Relative tells whether one of two formulas is easily taken for the other: they have the same
// Core.
func (f Formula) Relative(o Formula) bool {
	mine := f.Core()
	return len(mine) > 0 && slices.Equal(mine, o.Core())
}
