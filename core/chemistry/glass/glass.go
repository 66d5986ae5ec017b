// Package glass describes the measuring glassware of the bench: capacity,
// divisions and tolerance.
package glass

import (
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Class is the accuracy class marked on the glass.
type Class string

// The classes of ISO 384: A is the better, B has twice the tolerance or so.
const (
	ClassA Class = "A"
	ClassB Class = "B"
)

// Burette is a graduated tube that counts down: the scale shows what has left
// it, from 0 at the top to its capacity at the last mark.
type Burette struct {
	Capacity decimal.Decimal `json:"capacity" doc:"last mark, mL"`
	Division decimal.Decimal `json:"division" doc:"distance of two graduations, mL"`
	Class    Class           `json:"class" enum:"A,B"`
	// Rising is the other way of counting.
	Rising bool `json:"rising,omitempty" doc:"the scale shows what is left, as that of a syringe does: it counts down as liquid leaves, and the titre is start less end"`
	// Of a piece that a school has.
	Name   string          `json:"name,omitempty" maxLength:"110" doc:"as a school calls it, with the number that stands on it"`
	First  decimal.Decimal `json:"first,omitzero" doc:"lowest mark, where that is not 0, mL"`
	Within decimal.Decimal `json:"tolerance,omitzero" doc:"what stands on it or was found, mL; by its class when left out"`
}

// OnScale tells whether a reading lies between the lowest and the last mark.
func (b Burette) OnScale(v decimal.Decimal) bool {
	return v.Cmp(b.First) >= 0 && v.Cmp(b.Capacity) <= 0
}

// Drawn is the volume that has left since the scale was full, mL, by a reading; and
// the reading, by that volume. On the usual scale, which counts what has left, both
// are the same.
func (b Burette) Drawn(v decimal.Decimal) decimal.Decimal {
	if b.Rising {
		return b.Capacity.Sub(v)
	}
	return v
}

// Drop is the largest drop that hangs from a burette, or falls from it, mL. Source: common
// practice, no source.
const Drop = 0.05

// Pipette is a one-mark pipette.
type Pipette struct {
	Volume decimal.Decimal `json:"volume" doc:"volume delivered, mL, with the digits to be used in the working"`
	Class  Class           `json:"class" enum:"A,B"`
	Kind   Kind            `json:"kind,omitempty" enum:"pipette,cylinder" doc:"a one-mark pipette when left out"`
}

// Resolution is how finely the school reads a scale.
type Resolution string

// The ways of reading: to half a division (the usual one), by estimating
// tenths of a division, or to the nearest division.
const (
	HalfDivision  Resolution = "half"
	TenthDivision Resolution = "tenth"
	WholeDivision Resolution = "whole"
)

var tenth, half = decimal.Must("0.1"), decimal.Must("0.5")

// Step returns the smallest difference of two readings in mL: 0.05 for half a
// division of 0.1, 0.01 for half a division of 0.02. It has the decimals that are written. An
// unknown resolution is taken as half a division.
func (b Burette) Step(r Resolution) decimal.Decimal {
	switch r {
	case WholeDivision:
		return b.Division.Trimmed()
	case TenthDivision:
		return b.Division.Mul(tenth).Trimmed()
	default:
		return b.Division.Mul(half).Trimmed()
	}
}

var (
	capacityFault = finding.Declare("glass.capacity", "value")
	divisionFault = finding.Declare("glass.division", "value")
	classFault    = finding.Declare("glass.class", "value")
	volumeFault   = finding.Declare("glass.volume", "value")
	kindFault     = finding.Declare("glass.kind", "value")
)

// Check returns a fault when the burette cannot be one.
func (b Burette) Check() *finding.Fault {
	switch {
	case b.Capacity.Sign() <= 0 || b.Capacity.Cmp(decimal.Must("200")) > 0:
		return capacityFault.Fault("capacity", finding.Exact(b.Capacity, quantity.Millilitre))
	case b.Division.Sign() <= 0 || b.Division.Mul(decimal.Must("10")).Cmp(b.Capacity) > 0:
		return divisionFault.Fault("division", finding.Exact(b.Division, quantity.Millilitre))
	case b.Class != ClassA && b.Class != ClassB:
		return classFault.Fault("class", finding.Text(string(b.Class)))
	case b.First.Sign() < 0 || b.First.Cmp(b.Capacity) >= 0:
		return firstFault.Fault("first", finding.Exact(b.First, quantity.Millilitre))
	}
	return within(b.Within, b.Capacity)
}

// Check returns a fault when the pipette cannot be one.
func (p Pipette) Check() *finding.Fault {
	switch {
	case p.Volume.Sign() <= 0 || p.Volume.Cmp(decimal.Must("200")) > 0:
		return volumeFault.Fault("volume", finding.Exact(p.Volume, quantity.Millilitre))
	case p.Class != ClassA && p.Class != ClassB:
		return classFault.Fault("class", finding.Text(string(p.Class)))
	case p.Kind != "" && p.Kind != OneMark && p.Kind != Cylinder:
		return kindFault.Fault("kind", finding.Text(string(p.Kind)))
	}
	return nil
}

// Kind is a kind of volumetric glassware beside burettes.
type Kind string

// The kinds. A measuring cylinder is an order of magnitude worse than a
// pipette: using one where the volume counts is worth a finding.
const (
	OneMark  Kind = "pipette"
	Flask    Kind = "flask"
	Cylinder Kind = "cylinder"
)

// Tolerances in mL. Sources: ISO 385 (burettes), ISO 648 (pipettes), ISO 1042
// (flasks), ISO 4788 (cylinders), all from memory. Class B is twice class A but
// for pipettes and for burettes of 10 and 25 mL in 0.05 mL, which have their own.
var (
	buretteA = map[string]string{"10/0.02": "0.02", "10/0.05": "0.03", "25/0.05": "0.03", "25/0.1": "0.05",
		"50/0.1": "0.05", "100/0.1": "0.10", "100/0.2": "0.10"}
	buretteB = map[string]string{"10/0.05": "0.05", "25/0.05": "0.05"}
	pipetteB = map[string]string{"1": "0.015", "2": "0.02", "5": "0.03", "10": "0.04", "15": "0.05", "20": "0.06",
		"25": "0.06", "50": "0.10", "100": "0.15"}
	classA = map[Kind]map[string]string{
		OneMark: {"1": "0.008", "2": "0.01", "5": "0.015", "10": "0.02", "15": "0.03", "20": "0.03", "25": "0.03",
			"50": "0.05", "100": "0.08"},
		Flask: {"25": "0.04", "50": "0.06", "100": "0.10", "200": "0.15", "250": "0.15", "500": "0.25", "1000": "0.40",
			"2000": "0.60"},
		Cylinder: {"5": "0.05", "10": "0.10", "25": "0.25", "50": "0.5", "100": "0.5", "250": "1", "500": "2.5", "1000": "5"},
	}
)

// Tolerance returns the permitted error in mL of glassware of a kind, nominal
// volume and class. Where the standard does not list the volume it is not listed
// and an estimate: a pipette is then taken for a graduated one of the next size,
// twice as wide as a one-mark pipette; a cylinder or flask for the next size.
// Beyond the largest it grows with the volume.
func Tolerance(kind Kind, volume decimal.Decimal, class Class) (tolerance decimal.Decimal, listed bool) {
	key := nominal(volume)
	if t, ok := pipetteB[key]; ok && kind == OneMark && class == ClassB {
		return decimal.Must(t), true
	}
	if t, ok := classA[kind][key]; ok {
		return double(t, class == ClassB), true
	}
	next, largest := decimal.Decimal{}, decimal.Decimal{}
	for text := range classA[kind] {
		size := decimal.Must(text)
		if size.Cmp(volume) >= 0 && (next.IsZero() || size.Cmp(next) < 0) {
			next = size
		}
		if size.Cmp(largest) > 0 {
			largest = size
		}
	}
	if next.IsZero() {
		next = largest
	}
	tolerance, _ = Tolerance(kind, next, class)
	if kind == OneMark {
		tolerance = tolerance.Add(tolerance)
	}
	if volume.Cmp(largest) > 0 {
		if times, ok := volume.Div(largest); ok {
			tolerance = tolerance.Mul(times).RoundFigures(2)
		}
	}
	return tolerance, false
}

// Tolerance returns the permitted error of the burette in mL. Where ISO 385 does
// not list its size and division it is not listed and an estimate: half a
// division for class A, a whole one for class B.
func (b Burette) Tolerance() (tolerance decimal.Decimal, listed bool) {
	if b.Within.Sign() > 0 {
		return b.Within, true
	}
	key := nominal(b.Capacity) + "/" + nominal(b.Division)
	if own, ok := buretteB[key]; ok && b.Class == ClassB {
		return decimal.Must(own), true
	}
	if t, ok := buretteA[key]; ok {
		return double(t, b.Class == ClassB), true
	}
	if b.Class == ClassB {
		return b.Division, false
	}
	return b.Division.Mul(decimal.Must("0.5")), false
}

// Tolerance returns the permitted error of the pipette in mL, and whether the
// standard lists it.
func (p Pipette) Tolerance() (tolerance decimal.Decimal, listed bool) {
	return Tolerance(p.kind(), p.Volume, p.Class)
}

func (p Pipette) kind() Kind {
	if p.Kind == "" {
		return OneMark
	}
	return p.Kind
}

// nominal writes a volume without trailing zeros, as it stands on the glass.
func nominal(d decimal.Decimal) string {
	for d.Places() > 0 && d.Round(d.Places()-1).Cmp(d) == 0 {
		d = d.Round(d.Places() - 1)
	}
	return d.String()
}

func double(text string, twice bool) decimal.Decimal {
	d := decimal.Must(text)
	if twice {
		return d.Add(d)
	}
	return d
}
