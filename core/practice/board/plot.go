package board

import (
	"cmp"
	"maps"
	"math"
	"slices"
	"strings"
	"unicode"

	"gonum.org/v1/gonum/stat/combin"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
	"exactflask/core/values/statistics"
)

// Attribute is something that several benches have in common.
type Attribute string

// The attributes.
const (
	BuretteBatch Attribute = "burette-batch" // burettes of one kind, by the letters before their number
	Standardised Attribute = "standardised"  // the concentration that was found by standardising
	Bottle       Attribute = "bottle"        // label of the bottle that was used
	PastEnd      Attribute = "past-end"      // most end colours were deep, or faded
	Unknown      Attribute = "unknown"       // code of the unknown
	Everyone     Attribute = "everyone"      // the whole class
)

var attributes = []Attribute{BuretteBatch, Standardised, Bottle, PastEnd, Unknown}

var commons = finding.Family("common.", append(slices.Clip(attributes), Everyone), "value", "count", "percent")

// Answer is what one bench found.
type Answer struct {
	Bench     string  // any id
	Unknown   string  // code of the unknown; empty where all have the same
	Value     float64 // in the unit of the answer
	Reference float64 // its true value; 0 where it is not known
	Shared    map[Attribute]string
}

// Plot is what the answers of a class say together. Deviations are in % of the true
// value or, where Against is the median, of the median of the answers to the same
// unknown.
type Plot struct {
	Against Against  `json:"against" enum:"reference,median" doc:"what deviations are counted from"`
	Points  []Point  `json:"points" doc:"the lowest first"`
	Median  float64  `json:"median" doc:"of the deviations, %"`
	Spread  float64  `json:"spread" doc:"robust standard deviation of them (1.4826 times the median absolute deviation), %"`
	Allowed float64  `json:"allowed" doc:"beyond this an answer is far off, %"`
	Common  []Common `json:"common" doc:"what far-off benches have in common, the likeliest first; empty: nothing can be named"`
}

// Against says what deviations are counted from.
type Against string

// The choices.
const (
	AgainstReference Against = "reference"
	AgainstMedian    Against = "median"
)

var (
	_           = finding.Family("plot.against.", []Against{AgainstReference, AgainstMedian})
	plotSummary = finding.Declare("plot.summary", "count", "median", "spread", "far")
)

// Say says how many answers there are and where they lie.
func (p Plot) Say() finding.Message {
	far := 0
	for _, point := range p.Points {
		if point.Far {
			far++
		}
	}
	return plotSummary.Message(finding.Count(len(p.Points)), finding.Number(p.Median, 2, quantity.Percent),
		finding.Number(p.Spread, 2, quantity.Percent), finding.Count(far))
}

// Say says what the benches have in common.
func (c Common) Say() finding.Message {
	return commons[c.Attribute].Message(finding.Text(c.Value), finding.Count(len(c.Benches)), finding.Number(c.Percent, 2, quantity.Percent))
}

// Point is one bench on the plot.
type Point struct {
	ID      string  `json:"-"` // of the bench
	Percent float64 `json:"percent" doc:"deviation, %"`
	Far     bool    `json:"far,omitempty"`
}

// Common is what some benches have in common that are off together.
type Common struct {
	Attribute Attribute `json:"attribute" enum:"burette-batch,standardised,bottle,past-end,unknown,everyone"`
	Value     string    `json:"value"`
	Benches   []string  `json:"benches"`
	Percent   float64   `json:"percent" doc:"median of their deviations, %"`
	P         float64   `json:"p" doc:"how likely such a difference from the other benches is by chance, for all that was compared"`
}

// A deviation is far off beyond 3.5 robust standard deviations of the others. Source:
// B. Iglewicz, D. C. Hoaglin, How to Detect and Handle Outliers, ASQC 1993 (from memory).
const modifiedZ = 3.5

// Limits of what is worth naming, common practice, no source: three per cent chance that it
// is none. How large a shift has to be is the school's (practical.ShiftBench, ShiftClass).
const (
	chance     = 0.03
	fewest     = 5 // benches in all
	mostCommon = 3
)

// PlotOf looks at the answers of a class.
func PlotOf(norms practical.Norms, answers []Answer) Plot {
	p := Plot{Against: AgainstReference, Points: []Point{}, Allowed: norms.Of(practical.FarOff), Common: []Common{}}
	usable := slices.DeleteFunc(slices.Clone(answers), func(a Answer) bool {
		return a.Value <= 0 || math.IsNaN(a.Value) || math.IsInf(a.Value, 0)
	})
	if len(usable) == 0 {
		return p
	}
	medians := map[string]float64{}
	for _, a := range usable {
		if a.Reference <= 0 {
			p.Against = AgainstMedian
		}
		medians[a.Unknown] = 0
	}
	for code := range medians {
		var values []float64
		for _, a := range usable {
			if a.Unknown == code {
				values = append(values, a.Value)
			}
		}
		medians[code] = statistics.Median(values)
	}
	off := map[string]float64{}
	for _, a := range usable {
		from := a.Reference
		if p.Against == AgainstMedian {
			from = medians[a.Unknown]
		}
		off[a.Bench] = math.Round(1e8*(a.Value/from-1)) / 1e6 // without what is left of the arithmetic
		p.Points = append(p.Points, Point{ID: a.Bench, Percent: off[a.Bench]})
	}
	slices.SortStableFunc(p.Points, func(a, b Point) int { return cmp.Compare(a.Percent, b.Percent) })
	all := slices.Collect(maps.Values(off))
	p.Median, p.Spread = statistics.Median(all), statistics.RobustSpread(all)
	for i := range p.Points {
		from := math.Abs(p.Points[i].Percent - p.Median)
		p.Points[i].Far = math.Abs(p.Points[i].Percent) > p.Allowed ||
			from > norms.Of(practical.ShiftBench) && p.Spread > 0 && from > modifiedZ*p.Spread
	}
	p.Common = common(norms, usable, off, p)
	return p
}

// common looks for what benches that are off together have in common; those of one
// that is found are left out before the next is looked for.
func common(norms practical.Norms, answers []Answer, off map[string]float64, p Plot) []Common {
	out := []Common{}
	for len(out) < mostCommon && len(answers) >= fewest {
		best, found := likeliest(norms, answers, off, p.Against)
		if !found {
			break
		}
		out = append(out, best)
		answers = slices.DeleteFunc(slices.Clone(answers), func(a Answer) bool { return slices.Contains(best.Benches, a.Bench) })
	}
	if len(out) == 0 && p.Against == AgainstReference && len(answers) >= fewest &&
		math.Abs(p.Median) > norms.Of(practical.ShiftClass) && math.Abs(p.Median) > modifiedZ*p.Spread/math.Sqrt(float64(len(answers))) {
		all := Common{Attribute: Everyone, Percent: p.Median}
		for _, a := range answers {
			all.Benches = append(all.Benches, a.Bench)
		}
		out = append(out, all)
	}
	return out
}

// likeliest compares, for everything that some benches have in common, these with the
// others by the rank-sum test, and takes what is least likely by chance. The number of
// comparisons is allowed for (Bonferroni).
func likeliest(norms practical.Norms, answers []Answer, off map[string]float64, against Against) (Common, bool) {
	type group struct {
		Common
		size float64
	}
	var groups []group
	for _, attribute := range attributes {
		if attribute == Unknown && against == AgainstMedian {
			continue // each is compared with its own median already
		}
		with := map[string][]string{}
		for _, a := range answers {
			if v := a.Shared[attribute]; v != "" {
				with[v] = append(with[v], a.Bench)
			}
		}
		for _, v := range slices.Sorted(maps.Keys(with)) {
			if n := len(with[v]); n < 2 || len(answers)-n < 3 {
				continue
			}
			var in, rest []float64
			for _, a := range answers {
				if slices.Contains(with[v], a.Bench) {
					in = append(in, off[a.Bench])
				} else {
					rest = append(rest, off[a.Bench])
				}
			}
			g := group{Common: Common{Attribute: attribute, Value: v, Benches: with[v], Percent: statistics.Median(in), P: rankSum(in, rest)}}
			// Of two parts of a class the one that is off is meant, not the one that is right.
			if shift := math.Abs(g.Percent - statistics.Median(rest)); shift >= norms.Of(practical.ShiftBench) && math.Abs(g.Percent) > math.Abs(statistics.Median(rest)) {
				g.size = shift
			}
			groups = append(groups, g)
		}
	}
	best := -1
	for i, g := range groups {
		if g.size > 0 && (best < 0 || g.P < groups[best].P || g.P == groups[best].P && g.size > groups[best].size) {
			best = i
		}
	}
	if best < 0 {
		return Common{}, false
	}
	found := groups[best].Common
	found.P = min(1, found.P*float64(len(groups)))
	return found, found.P <= chance
}

// rankSum is the two-sided probability of such a difference by chance: exact while the
// arrangements are few enough to be counted, by the normal approximation with the
// correction for ties otherwise. Source: F. Wilcoxon, Biometrics Bulletin 1945, 1, 80;
// H. B. Mann, D. R. Whitney, Ann. Math. Stat. 1947, 18, 50 (from memory).
func rankSum(in, rest []float64) float64 {
	all := append(slices.Clone(in), rest...)
	ranks, ties := ranked(all)
	n, m := len(in), len(rest)
	var w float64
	for _, r := range ranks[:n] {
		w += r
	}
	mean := float64(n) * float64(n+m+1) / 2
	if combin.LogGeneralizedBinomial(float64(n+m), float64(min(n, m))) <= math.Log(exactly) {
		extreme, count := 0, 0
		chosen := make([]int, n)
		for g := combin.NewCombinationGenerator(n+m, n); g.Next(); count++ {
			var sum float64
			for _, i := range g.Combination(chosen) {
				sum += ranks[i]
			}
			if math.Abs(sum-mean) >= math.Abs(w-mean)-1e-9 {
				extreme++
			}
		}
		return float64(extreme) / float64(count)
	}
	total := float64(n + m)
	variance := float64(n) * float64(m) / 12 * (total + 1 - ties/(total*(total-1)))
	if variance <= 0 {
		return 1
	}
	return math.Erfc(max(0, math.Abs(w-mean)-0.5) / math.Sqrt(2*variance))
}

// exactly is how many arrangements are counted.
const exactly = 20_000

// ranked gives each value its rank, the mean of them where values are equal, and the sum
// over ties of t cubed less t.
func ranked(values []float64) (ranks []float64, ties float64) {
	order := make([]int, len(values))
	for i := range order {
		order[i] = i
	}
	slices.SortFunc(order, func(a, b int) int { return cmp.Compare(values[a], values[b]) })
	ranks = make([]float64, len(values))
	for i := 0; i < len(order); {
		j := i
		for j < len(order) && values[order[j]] == values[order[i]] {
			j++
		}
		for k := i; k < j; k++ {
			ranks[order[k]] = float64(i+j+1) / 2
		}
		t := float64(j - i)
		ties += t*t*t - t
		i = j
	}
	return ranks, ties
}

// SharedBy is what a bench may have in common with others, from its summary, the number
// on its burette and the code of its unknown.
func SharedBy(s *evaluation.Summary, burette, unknown string) map[Attribute]string {
	out := map[Attribute]string{Bottle: s.Bottle, Standardised: s.Known, Unknown: unknown}
	// The batch of a burette is what stands before its running number: B of B-12.
	if batch := strings.TrimRightFunc(burette, unicode.IsDigit); batch != burette {
		out[BuretteBatch] = strings.TrimRight(batch, " -/.")
	}
	if s.Ends > 0 && 2*s.Ends >= s.Trials {
		out[PastEnd] = "yes"
	}
	return out
}
