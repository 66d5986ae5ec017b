package diagnosis

import (
	"math"
	"slices"

	dv "exactflask/core/model/derivation"
	"exactflask/core/values/decimal"
)

// Given is a student's own value for a step: the value, half a unit of its last
// digit, and what the step should give by the student's own earlier figures. Written
// are its digits, Scale what one of them is in the unit of the step. Coarse is that it is
// written with too few to tell it from other values; Near what it may lie off whatever its
// digits, as a part; Read half of what is read of a scale, where it is rounded to that.
type Given struct {
	Value, Half, Expected float64
	Written               decimal.Decimal
	Scale                 float64
	Coarse                bool
	Near, Read            float64
}

// Thousandth is what a figure may lie off whatever its digits, as a part. Source: common
// practice, no source.
const Thousandth = 1e-3

// Fits tells whether the given value is this one, as far as it was written. Nothing is
// nothing: 0 fits 0 alone, and what is written too coarsely fits by its size only.
func (g Given) Fits(value float64) bool {
	if g.Value == 0 || value == 0 {
		return g.Value == value
	}
	off := math.Abs(g.Value - value)
	return off <= g.Near*math.Abs(value)*(1+1e-9) || !g.Coarse && off <= max(g.Half, g.Read)*1.001
}

// Rounded tells whether the given value is this one rounded to too few figures.
func (g Given) Rounded(value float64) bool {
	return g.Coarse && g.Value != 0 && !g.Fits(value) && math.Abs(g.Value-value) <= g.Half*1.001
}

// Slipped is what a slip makes of a step.
type Slipped struct {
	Slip  string // without "slip."
	Value float64
	About string // what it was made with: the id of a figure, without that of a trial; empty where it is about the step itself
}

// Named is a slip that was found: its code, empty where none was, and what it was made with.
type Named struct{ Code, About string }

// Slip names the usual slip that a wrong value of a step fits; nothing when
// none does, or when several do. own are the student's figures for earlier
// steps, by place.
func Slip(d dv.Derivation, at int, own map[int]float64, g Given, r Record) Named {
	here, stray := Slippings(d, at, own, r)
	if digits := g.Written.String(); transposed(digits, func(v float64) bool { return math.Abs(v*g.Scale-g.Expected) <= g.Half*1.001 }) {
		stray = append(stray, Slipped{Slip: "digits-swapped", Value: g.Value})
	}
	named, found := g.among(here)
	other, astray := g.among(stray)
	switch {
	case found && slices.Contains(vague, named.Code) && (astray || g.powerOfTen()):
		return Named{}
	case found: // what this step itself explains goes before a stray power of ten
		return named
	}
	return other
}

// RoundedEarly is the slip of a figure that agrees only because it is written with too few.
var RoundedEarly = slips["rounded-early"].Name()

// among finds the one slip that fits; none where several do. A name is given more strictly
// than credit, by the digits as they were written: what a molar mass of 100.09 and a factor
// of 100 make is told apart.
func (g Given) among(all []Slipped) (named Named, found bool) {
	g.Near, g.Read = min(g.Near, Thousandth/10), 0
	for _, s := range all {
		if s.Value == 0 || !finite(s.Value) || !g.Fits(s.Value) {
			continue
		}
		switch code := slips[s.Slip].Name(); {
		case !found:
			named, found = Named{code, s.About}, true
		case named.Code == code || code == otherVolume && slices.Contains(dilutions, named.Code):
		case named.Code == otherVolume && slices.Contains(dilutions, code):
			named = Named{code, s.About}
		default:
			return Named{}, true
		}
	}
	return named, found
}

// powerOfTen tells whether only the decimal point stands elsewhere.
func (g Given) powerOfTen() bool {
	if g.Expected == 0 || g.Value/g.Expected <= 0 {
		return false
	}
	return g.Fits(g.Expected * math.Pow(10, math.Round(math.Log10(g.Value/g.Expected))))
}

// transposed tells whether a number with two neighbouring digits in each other's place is
// one that is looked for.
func transposed(digits string, is func(float64) bool) bool {
	for i := range digits {
		j := i + 1
		if j < len(digits) && digits[j] == '.' {
			j++
		}
		if j >= len(digits) || digits[i] == digits[j] || !digit(digits[i]) || !digit(digits[j]) {
			continue
		}
		swapped := []byte(digits)
		swapped[i], swapped[j] = digits[j], digits[i]
		if v, err := decimal.Parse(string(swapped)); err == nil && is(v.Float64()) {
			return true
		}
	}
	return false
}

func digit(c byte) bool { return '0' <= c && c <= '9' }
