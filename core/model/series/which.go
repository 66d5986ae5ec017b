package series

import (
	"math"

	"exactflask/core/values/finding"
)

// Of one jump alone: how near to the place of an earlier equivalence point it is taken for
// that, and from where on for the end, of the expected volume; in between it is not told.
// Source: common practice, no source.
const (
	near = 0.1
	sure = 0.85
)

// apart is by how much two constants differ for the reading to jump between them. Source:
// common practice: four decades, and a half less for a jump that is only just seen.
const apart = 3.5

// earlier is the part of the end's volume at which the last earlier equivalence point shows as
// a jump of its own; 0 where none does.
func (r Series) earlier() float64 {
	if r.AcidBase == nil {
		return 0
	}
	k := r.AcidBase.Sample.PKa
	for i := min(r.EndNumber, len(k)) - 1; i > 0; i-- {
		lower, upper := i-1, i
		if !r.rising() { // a base takes up its protons from the other end
			lower, upper = len(k)-i-1, len(k)-i
		}
		if k[upper]-k[lower] >= apart {
			return float64(i) / float64(r.EndNumber)
		}
	}
	return 0
}

// whole is how far the volumes of two equivalence points may lie off a whole ratio.
const whole = 0.08

// which of the jumps is the end, where so many of what is titrated have reacted: the last
// one, unless the volumes of the others tell another; -1 where the only one is an earlier one.
func (a *Analysis) which(r Series) int {
	steps, last := r.EndNumber, len(a.Jumps)-1
	if steps > 1 && last == 0 {
		if share := r.earlier(); share > 0 {
			switch part := a.Jumps[0] / r.Expected; {
			case r.Expected > 0 && part <= share+near:
				return -1
			case r.Expected <= 0 || part < sure:
				a.say(saysWhich.Finding(finding.Warning, "", finding.Count(1)))
			}
		}
	}
	if steps == 0 || last == 0 {
		return last
	}
	for j := last; j >= 0; j-- {
		unit, fits := a.Jumps[j]/float64(steps), true
		for i, v := range a.Jumps {
			n := math.Round(v / unit)
			fits = fits && math.Abs(v/unit-n) <= whole*n && int(n) == steps+i-j
		}
		if fits {
			return j
		}
	}
	a.say(saysWhich.Finding(finding.Warning, "", finding.Count(len(a.Jumps))))
	return last
}
