// Package glass describes the measuring glassware of the bench: capacity,
// divisions and tolerance.
package glass

import (
	"exactflask/core/decimal"
	"exactflask/core/finding"
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
}

// Pipette is a one-mark pipette.
type Pipette struct {
	Volume decimal.Decimal `json:"volume" doc:"volume delivered, mL, with the digits to be used in the working"`
	Class  Class           `json:"class" enum:"A,B"`
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

// Step returns the smallest difference of two readings in mL: 0.05 for half a
// division of 0.1. An unknown resolution is taken as half a division.
func (b Burette) Step(r Resolution) decimal.Decimal {
	switch r {
	case WholeDivision:
		return b.Division
	case TenthDivision:
		return b.Division.Mul(decimal.Must("0.1"))
	default:
		return b.Division.Mul(decimal.Must("0.5"))
	}
}

// Check returns a fault when the burette cannot be one.
func (b Burette) Check() *finding.Fault {
	switch {
	case b.Capacity.Sign() <= 0 || b.Capacity.Cmp(decimal.Must("200")) > 0:
		return finding.Faultf("capacity", "a burette holds more than 0 and at most 200 mL; this says %s", b.Capacity)
	case b.Division.Sign() <= 0 || b.Division.Mul(decimal.Must("10")).Cmp(b.Capacity) > 0:
		return finding.Faultf("division", "the divisions are more than 0 mL and at most a tenth of the capacity; this says %s", b.Division)
	case b.Class != ClassA && b.Class != ClassB:
		return finding.Faultf("class", "the class is A or B; this says %q", b.Class)
	}
	return nil
}

// Check returns a fault when the pipette cannot be one.
func (p Pipette) Check() *finding.Fault {
	switch {
	case p.Volume.Sign() <= 0 || p.Volume.Cmp(decimal.Must("200")) > 0:
		return finding.Faultf("volume", "a pipette delivers more than 0 and at most 200 mL; this says %s", p.Volume)
	case p.Class != ClassA && p.Class != ClassB:
		return finding.Faultf("class", "the class is A or B; this says %q", p.Class)
	}
	return nil
}

// tolerances in mL of class A; nominal values that are not listed have no
// tolerance here.
var (
	buretteA = map[string]string{"10": "0.02", "25": "0.03", "25/0.1": "0.05", "50": "0.05", "100": "0.10"}
	pipetteA = map[string]string{"5": "0.015", "10": "0.02", "20": "0.03", "25": "0.03", "50": "0.05"}
	pipetteB = map[string]string{"5": "0.03", "10": "0.04", "20": "0.06", "25": "0.06", "50": "0.10"}
)

// Tolerance returns the permitted error of the burette in mL, and whether the
// standard lists it. Source: ISO 385 (from memory); class B is twice class A.
func (b Burette) Tolerance() (decimal.Decimal, bool) {
	key := nominal(b.Capacity)
	if finer, ok := buretteA[key+"/"+nominal(b.Division)]; ok {
		return double(finer, b.Class == ClassB), true
	}
	t, ok := buretteA[key]
	if !ok {
		return decimal.Decimal{}, false
	}
	return double(t, b.Class == ClassB), true
}

// Tolerance returns the permitted error of the pipette in mL, and whether the
// standard lists it. Source: ISO 648 (from memory).
func (p Pipette) Tolerance() (decimal.Decimal, bool) {
	table := pipetteA
	if p.Class == ClassB {
		table = pipetteB
	}
	t, ok := table[nominal(p.Volume)]
	if !ok {
		return decimal.Decimal{}, false
	}
	return decimal.Must(t), true
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
