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

// exchanged is how many electrons of a redox reaction, or protons of an acid and a base, one
// unit of a substance takes or gives; false where that is not known.
func (r *Ready) exchanged(f chem.Formula, redox bool) (float64, bool) {
	if !redox {
		w, ok := r.InWater(f)
		gives, takes := w.Equivalents()
		return float64(max(gives, takes)), ok && max(gives, takes) > 0 && min(gives, takes) == 0
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

// equivalents is how many of them a unit of the substance that is asked for exchanges, by the
// equations of the practical.
func (r *Ready) equivalents() (n float64, redox, ok bool) {
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
	_, acidBase := r.exchanged(start, false)
	_, redox = r.exchanged(start, true)
	if acidBase == redox { // neither is known, or it can be both
		return 0, false, false
	}
	each, _ := r.exchanged(start, redox)
	return n * each, redox, true
}

// mostParts is the largest denominator that a ratio of equivalents is read as.
const mostParts = 12

// byEquivalents is how many units of As one unit of what is asked for stands for, by what both
// exchange.
func (r *Ready) byEquivalents() (ratio [2]int, ok bool) {
	mine, redox, known := r.equivalents()
	other, also := r.exchanged(r.As, redox)
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
