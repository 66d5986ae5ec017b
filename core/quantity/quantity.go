// Package quantity joins a value with its unit and the figures it deserves,
// and converts between units in the one place where that is done.
//
// Everything up to the mean titre is exact (package decimal); everything past
// it is a float64 that is rounded only when it is shown.
package quantity

import (
	"fmt"

	"exactflask/core/decimal"
)

// Unit names a unit by its code. The codes are fixed; how a unit is written
// for a reader ("mL" or "cm³") is a matter of package wording.
type Unit string

// The units of the trade. One is the unit of pure numbers such as a mole ratio.
const (
	One         Unit = "1"
	Millilitre  Unit = "mL"
	Litre       Unit = "L"
	Mole        Unit = "mol"
	Millimole   Unit = "mmol"
	Gram        Unit = "g"
	MolePerL    Unit = "mol/L"
	GramPerL    Unit = "g/L"
	GramPerMole Unit = "g/mol"
)

// dimension and scale of each unit against the first of its dimension.
var units = map[Unit]struct {
	dimension string
	scale     float64
}{
	One:         {"number", 1},
	Litre:       {"volume", 1},
	Millilitre:  {"volume", 1e-3},
	Mole:        {"amount", 1},
	Millimole:   {"amount", 1e-3},
	Gram:        {"mass", 1},
	MolePerL:    {"amount concentration", 1},
	GramPerL:    {"mass concentration", 1},
	GramPerMole: {"molar mass", 1},
}

// Quantity is a computed value with its unit. Figures is the number of
// significant figures it deserves (0: exact, such as a mole ratio).
type Quantity struct {
	Value   float64 `json:"value" doc:"unrounded value"`
	Unit    Unit    `json:"unit" doc:"unit code: 1, mL, L, mol, mmol, g, mol/L, g/L, g/mol"`
	Figures int     `json:"figures" doc:"significant figures the value deserves; 0 means exact"`
}

// Of makes a quantity from an exact decimal; its figures are those written.
func Of(d decimal.Decimal, unit Unit) Quantity {
	return Quantity{Value: d.Float64(), Unit: unit, Figures: d.Figures()}
}

// In converts to another unit of the same dimension. The error names both
// units when they measure different things.
func (q Quantity) In(unit Unit) (Quantity, error) {
	from, known := units[q.Unit]
	to, wanted := units[unit]
	if !known || !wanted {
		return Quantity{}, fmt.Errorf("no unit %q or %q is known", q.Unit, unit)
	}
	if from.dimension != to.dimension {
		return Quantity{}, fmt.Errorf("%s is a %s and cannot be given in %s, a %s", q.Unit, from.dimension, unit, to.dimension)
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
