package practical

import (
	"math"

	"exactflask/core/chemistry/chem"
)

// AsRule says how the ratio between the substance that is asked for and the one in which the
// answer is given was found.
type AsRule string

// The rules: both are one and the same; as the practical says; by the electrons or protons that
// they exchange; by the atoms that they share.
const (
	AsItself        AsRule = ""
	AsGiven         AsRule = "given"
	AsByEquivalents AsRule = "equivalents"
	AsByAtoms       AsRule = "atoms"
)

// role is the side of a titration on which a substance takes part.
type role int

const (
	acid role = iota + 1
	base
	redox
)

// facing is the other side of a titration.
func (x role) facing() role {
	switch x {
	case acid:
		return base
	case base:
		return acid
	}
	return x
}

// roleOf is the one side on which a substance takes part; false where none is known, or more.
func (r *Ready) roleOf(f chem.Formula) (only role, ok bool) {
	for _, x := range []role{acid, base, redox} {
		if _, takesPart := r.exchanged(f, x); takesPart {
			only, ok = x, only == 0
		}
	}
	return only, ok
}

// exchanged is how many protons one unit of a substance gives as an acid or takes as a base, or
// how many electrons of a redox reaction it takes or gives; false where that is none, or not known.
func (r *Ready) exchanged(f chem.Formula, as role) (float64, bool) {
	if as != redox {
		w, ok := r.InWater(f)
		n, takes := w.Equivalents()
		if as == base {
			n = takes
		}
		return float64(n), ok && n > 0
	}
	c, oxidised, ok := r.Couple(f, true)
	if !ok {
		return 0, false
	}
	half, ox, red := c.Reaction()
	if !oxidised {
		ox = red
	}
	return float64(half.Electrons) / float64(ox), true
}

// equivalents is how many protons or electrons a unit of the substance that is asked for
// exchanges, by the equations of the practical, and on which side.
func (r *Ready) equivalents() (n float64, as role, ok bool) {
	start, n := r.Titrant, 1.0
	through := func(x Reaction) { n *= float64(x.NuFrom) / float64(x.NuTo) }
	switch i := r.Excess(); {
	case r.UnknownInBurette:
		start, n = r.Titrated, float64(r.Reactions[0].NuTo)/float64(r.Reactions[0].NuFrom)
	case i >= 0:
		start = r.Steps[i].Reaction.From
		through(r.Steps[i].Reaction)
	default:
		for _, x := range r.Reactions {
			through(x)
		}
	}
	against, ok := r.roleOf(start)
	each, _ := r.exchanged(start, against)
	return n * each, against.facing(), ok
}

// mostParts is the largest denominator that a ratio of equivalents is read as.
const mostParts = 12

// byEquivalents is how many units of As one unit of what is asked for stands for, by what both
// exchange.
func (r *Ready) byEquivalents() (ratio [2]int, ok bool) {
	mine, as, known := r.equivalents()
	other, also := r.exchanged(r.As, as)
	if known && !also { // an acid as the base that it takes: an acid number as KOH
		other, also = r.exchanged(r.As, as.facing())
	}
	if !known || !also {
		return ratio, false
	}
	for d := 1; d <= mostParts; d++ {
		n := math.Round(mine / other * float64(d))
		if n >= 1 && math.Abs(mine/other*float64(d)-n) < 1e-9 {
			return [2]int{int(n), d}, true
		}
	}
	return ratio, false
}
