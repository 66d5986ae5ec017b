// Package quantity joins a value with its unit and the figures it deserves,
// and converts between units in the one place where that is done.
//
// Everything up to the mean titre is exact (package decimal); everything past
// it is a float64 that is rounded only when it is shown.
package quantity

import (
	"fmt"

	"exactflask/core/values/decimal"
)

// Unit names a unit by its code. The codes are fixed; how a unit is written
// for a reader ("mL" or "cm³") is a matter of package wording.
type Unit string

// The units of the trade. One is the unit of pure numbers such as a mole ratio.
// PPM is taken as mg per litre of a dilute aqueous solution (common practice,
// no source); Volumes is the volume strength of hydrogen peroxide.
const (
	One           Unit = "1"
	Percent       Unit = "%"
	PercentWW     Unit = "% w/w"
	Millilitre    Unit = "mL"
	Litre         Unit = "L"
	Mole          Unit = "mol"
	Millimole     Unit = "mmol"
	Gram          Unit = "g"
	Milligram     Unit = "mg"
	MolePerL      Unit = "mol/L"
	MillimolePerL Unit = "mmol/L"
	GramPerL      Unit = "g/L"
	MilligramPerL Unit = "mg/L"
	PPM           Unit = "ppm"
	PercentWV     Unit = "% w/v"
	MgPer100      Unit = "mg/100 mL"
	GramPerMole   Unit = "g/mol"
	GramPerML     Unit = "g/mL"
	LitrePerMole  Unit = "L/mol"
	Volumes       Unit = "volumes"
	Volt          Unit = "V"
	Millivolt     Unit = "mV"
)

// dimension and scale of each unit against the first of its dimension.
var units = map[Unit]struct {
	dimension string
	scale     float64
}{
	One:           {"number", 1},
	Percent:       {"number", 0.01},
	PercentWW:     {"number", 0.01},
	Litre:         {"volume", 1},
	Millilitre:    {"volume", 1e-3},
	Mole:          {"amount", 1},
	Millimole:     {"amount", 1e-3},
	Gram:          {"mass", 1},
	Milligram:     {"mass", 1e-3},
	MolePerL:      {"amount concentration", 1},
	MillimolePerL: {"amount concentration", 1e-3},
	GramPerL:      {"mass concentration", 1},
	MilligramPerL: {"mass concentration", 1e-3},
	PPM:           {"mass concentration", 1e-3},
	PercentWV:     {"mass concentration", 10},
	MgPer100:      {"mass concentration", 1e-2},
	GramPerML:     {"mass concentration", 1e3}, // a density
	GramPerMole:   {"molar mass", 1},
	LitrePerMole:  {"molar volume", 1},
	Volumes:       {"volume strength", 1},
	Volt:          {"potential", 1},
	Millivolt:     {"potential", 1e-3},
}

// Known tells whether a unit is one of these.
func (u Unit) Known() bool { _, ok := units[u]; return ok }

// SameDimension tells whether values in the two units can be compared.
func (u Unit) SameDimension(v Unit) bool {
	return u.Known() && units[u].dimension == units[v].dimension
}

// Scale is the factor to the first unit of the dimension: 0.001 for mL.
func (u Unit) Scale() float64 { return units[u].scale }

// Quantity is a computed value with its unit. Figures is the number of
// significant figures it deserves (0: exact, such as a mole ratio).
type Quantity struct {
	Value   float64 `json:"value" doc:"unrounded value"`
	Unit    Unit    `json:"unit" doc:"unit code, such as mL, mol/L, g/L, % w/v, mg"`
	Figures int     `json:"figures" doc:"significant figures the value deserves; 0 means exact"`
}

// Of makes a quantity from an exact decimal; its figures are those written.
func Of(d decimal.Decimal, unit Unit) Quantity {
	return Quantity{Value: d.Float64(), Unit: unit, Figures: d.Figures()}
}

// ConversionError says that a unit is not known, or that two units measure
// different things.
type ConversionError struct{ From, To Unit }

func (e *ConversionError) Error() string { return fmt.Sprintf("%q to %q", e.From, e.To) }

// In converts to another unit of the same dimension; the error is a
// *ConversionError.
func (q Quantity) In(unit Unit) (Quantity, error) {
	from, known := units[q.Unit]
	to, wanted := units[unit]
	if !known || !wanted || from.dimension != to.dimension {
		return Quantity{}, &ConversionError{q.Unit, unit}
	}
	return Quantity{Value: q.Value * (from.scale / to.scale), Unit: unit, Figures: q.Figures}, nil
}

// String shows the value at its figures, without the unit.
func (q Quantity) String() string { return Show(q.Value, q.Figures) }

// Show rounds a value half up to the given significant figures and writes it
// plainly. Twelve figures are taken for "exact"; trailing zeros are then
// dropped, so that a mole ratio of 2 is written 2. A value that is not finite
// is written as a dash: it must never look like a result.
func Show(value float64, figures int) string {
	d, ok := decimal.FromFloat(value)
	if !ok {
		return "–"
	}
	// 0.285 computed in binary may be 0.28499999999999998: settle the noise
	// of the arithmetic before rounding half up.
	d = d.RoundFigures(12)
	if figures > 0 {
		return d.RoundFigures(figures).String()
	}
	return trimZeros(d.String())
}

func trimZeros(s string) string {
	point := false
	for _, r := range s {
		point = point || r == '.'
	}
	for point && len(s) > 1 && (s[len(s)-1] == '0' || s[len(s)-1] == '.') {
		point = s[len(s)-1] != '.'
		s = s[:len(s)-1]
	}
	return s
}
