// Package budget says how sure an answer is: the uncertainty of anything that a
// derivation computes, to first order and by Monte Carlo.
package budget

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"

	"exactflask/core/model/derivation"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
	"exactflask/core/values/statistics"
)

// Shape is the distribution of an input's error.
type Shape string

// The shapes: a tolerance is triangular, a resolution rectangular, a scatter
// normal (EURACHEM/CITAC CG4, QUAM:2012, chapter 8).
const (
	Normal      Shape = "normal"
	Rectangular Shape = "rectangular"
	Triangular  Shape = "triangular"
)

// Standard returns the standard uncertainty of a half width: a/√3, a/√6; the
// half width of a normal distribution is taken as its standard deviation.
func (s Shape) Standard(halfWidth float64) float64 {
	switch s {
	case Rectangular:
		return halfWidth / math.Sqrt(3)
	case Triangular:
		return halfWidth / math.Sqrt(6)
	default:
		return halfWidth
	}
}

// Effect is what an error of one unit of an input does to a node: it is added
// to it times Gain. The node is a leaf, or the answer itself.
type Effect struct {
	Node int
	Gain float64
}

// Input is one source of error. It may act on several leaves: what two
// quantities share (the same burette, the same standard) is counted once.
type Input struct {
	Code     string        // such as burette, pipette, drop
	Of       finding.Value // what it is about: a volume, a formula
	Standard float64
	Shape    Shape
	Unit     quantity.Unit // of Standard
	Effects  []Effect
	Freedom  int // degrees of freedom that Standard was found with; 0 where it was not found by repeating
	// Estimated tells that no table lists the tolerance.
	Estimated bool
}

// Contribution is one bar of the budget.
type Contribution struct {
	Code      string        `json:"code" doc:"source of error, such as burette, pipette, repeatability"`
	Of        finding.Value `json:"of,omitzero" doc:"what it is about"`
	Standard  float64       `json:"standard" doc:"standard uncertainty of the input, in its unit"`
	Unit      quantity.Unit `json:"unit"`
	Answer    float64       `json:"answer" doc:"what it adds to the answer's standard uncertainty, with its sign, in the answer's unit"`
	Estimated bool          `json:"estimated,omitempty" doc:"a tolerance that no table lists, by kind and size"`
	Share     float64       `json:"share" doc:"its part of the variance, 0 to 1"`
	quartic   float64       // what it adds to the sum of Welch and Satterthwaite
}

// Budget says how sure an answer is.
type Budget struct {
	Standard      float64        `json:"standard" doc:"combined standard uncertainty, in the answer's unit"`
	Expanded      float64        `json:"expanded" doc:"Factor times that: about 95 % of results lie within"`
	Factor        float64        `json:"factor" doc:"coverage factor k: 2, or Student's where what was repeated seldom weighs much"`
	Freedom       float64        `json:"freedom,omitempty" doc:"effective degrees of freedom, where they make the factor; left out else"`
	Relative      float64        `json:"relative" doc:"standard uncertainty in % of the answer"`
	Contributions []Contribution `json:"contributions" doc:"largest first"`
}

// Of combines the inputs to first order (JCGM 100:2008, 5.1): each by the
// derivative of the node with respect to it, which the derivation itself gives.
// Several inputs of one kind that are told together, such as all readings, are
// one bar.
func Of(p *derivation.Program, inputs []Input, node int) Budget {
	p.Reset()
	p.Compute()
	gradient := p.Gradient(node)
	out := Budget{Contributions: make([]Contribution, 0, len(inputs))}
	at := map[string]int{}
	variance := 0.0
	for _, in := range inputs {
		u := 0.0
		for _, e := range in.Effects {
			u += gradient[e.Node] * e.Gain
		}
		u *= in.Standard
		variance += u * u
		i, there := at[in.Code]
		if !there || !together[in.Code] {
			at[in.Code] = len(out.Contributions)
			out.Contributions = append(out.Contributions, Contribution{Code: in.Code, Of: in.Of, Estimated: in.Estimated, Standard: in.Standard,
				Unit: in.Unit, Answer: u, quartic: quartic(u, in.Freedom)})
			continue
		}
		sum := &out.Contributions[i] // independent: their variances add up
		sum.Answer, sum.Of = math.Hypot(sum.Answer, u), finding.Value{}
		sum.quartic += quartic(u, in.Freedom)
	}
	out.Standard = math.Sqrt(variance)
	out.Factor, out.Freedom = Cover(variance, out.Contributions...)
	out.Expanded = out.Factor * out.Standard
	if answer := p.Base(node); answer != 0 {
		out.Relative = 100 * out.Standard / math.Abs(answer)
	}
	for i := range out.Contributions {
		if c := &out.Contributions[i]; variance > 0 {
			c.Share = c.Answer * c.Answer / variance
		}
	}
	slices.SortStableFunc(out.Contributions, func(a, b Contribution) int { return cmp.Compare(b.Share, a.Share) })
	return out
}

// quartic is what a part of a variance that was found by repeating adds to the sum of Welch and
// Satterthwaite.
func quartic(u float64, freedom int) float64 {
	if freedom < 1 {
		return 0
	}
	return u * u * u * u / float64(freedom)
}

// usualFactor is k where enough is known of every part: about 95 % (JCGM 100:2008, 6.3.3).
const usualFactor = 2

// Cover is the factor by which a standard uncertainty is multiplied for about 95 %, of which
// these are parts: Student's for the effective degrees of freedom, rounded down (JCGM
// 100:2008, G.4.1 and G.4.2), and 2 at least. The degrees of freedom are told where they make it.
func Cover(variance float64, parts ...Contribution) (factor, freedom float64) {
	sum := 0.0
	for _, c := range parts {
		sum += c.quartic
	}
	if sum == 0 || variance == 0 {
		return usualFactor, 0
	}
	freedom = math.Max(1, math.Floor(variance*variance/sum))
	if freedom > 1e6 {
		return usualFactor, 0
	}
	if t := statistics.Student(int(freedom)); t > usualFactor {
		return t, freedom
	}
	return usualFactor, 0
}

// together are the kinds of which all inputs are one bar: their errors are
// independent.
var together = map[string]bool{"reading": true, "curve": true, "balance": true, "repeatability": true}

// Propagated is what Monte Carlo finds.
type Propagated struct {
	Draws    int     `json:"draws"`
	Mean     float64 `json:"mean"`
	Standard float64 `json:"standard" doc:"standard deviation of the draws"`
	Low      float64 `json:"low" doc:"2.5 % of the draws lie below"`
	High     float64 `json:"high" doc:"2.5 % lie above"`
}

// MaxDraws is how many draws are made at most.
const MaxDraws = 1_000_000

// MonteCarlo propagates the distributions of the inputs themselves (JCGM
// 101:2008) with a fixed seed, so that the same notebook gives the same
// figures.
func MonteCarlo(p *derivation.Program, inputs []Input, draws int, seed uint64) Propagated {
	draws = min(max(draws, 2), MaxDraws)
	var leaves []int
	for _, in := range inputs {
		for _, e := range in.Effects {
			leaves = append(leaves, e.Node)
		}
	}
	p.Reset()
	last := p.Last()
	small, places := p.Trimmed(leaves)
	draw := sampler(seed)
	results := make([]float64, draws)
	sum := 0.0
	for k := range results {
		small.Reset()
		beside, at := 0.0, 0
		for i := range inputs {
			in := &inputs[i]
			x := in.Standard * draw(in.Shape)
			for _, e := range in.Effects {
				switch place := places[at]; {
				case e.Node == last:
					beside += x * e.Gain
				case place >= 0:
					small.Values[place] += x * e.Gain
				}
				at++
			}
		}
		small.Compute()
		results[k] = small.Values[small.Last()] + beside
		sum += results[k]
	}
	return summary(results, sum)
}

// sampler draws from the shapes, each with a standard deviation of one.
func sampler(seed uint64) func(Shape) float64 {
	random := rand.NewPCG(seed, 0x5eed)
	uniform := func() float64 { return float64(random.Uint64()>>11) / (1 << 53) }
	gauss := rand.New(random)
	return func(s Shape) float64 {
		switch s {
		case Rectangular:
			return (2*uniform() - 1) * math.Sqrt(3)
		case Triangular:
			return (uniform() - uniform()) * math.Sqrt(6)
		}
		return gauss.NormFloat64()
	}
}

func summary(results []float64, sum float64) Propagated {
	draws := len(results)
	mean := sum / float64(draws)
	squares := 0.0
	for _, r := range results {
		squares += (r - mean) * (r - mean)
	}
	low, high := quantiles(results)
	return Propagated{Draws: draws, Mean: mean, Standard: math.Sqrt(squares / float64(draws-1)), Low: low, High: high}
}

// quantiles finds the 2.5 % and 97.5 % values through a histogram, refined by
// sorting the two cells they lie in: sorting all would cost the most.
func quantiles(values []float64) (low, high float64) {
	least, most := slices.Min(values), slices.Max(values)
	if !(most > least) || math.IsInf(most-least, 0) {
		return least, most
	}
	const cells = 1024
	scale := (cells - 1) / (most - least)
	var counts [cells]int
	for _, v := range values {
		counts[int((v-least)*scale)]++
	}
	find := func(rank int) float64 {
		below, cell := 0, 0
		for below+counts[cell] <= rank {
			below += counts[cell]
			cell++
		}
		var in []float64
		for _, v := range values {
			if int((v-least)*scale) == cell {
				in = append(in, v)
			}
		}
		slices.Sort(in)
		return in[rank-below]
	}
	n := float64(len(values) - 1)
	return find(int(math.Round(0.025 * n))), find(int(math.Round(0.975 * n)))
}
