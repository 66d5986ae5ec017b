// Package agreement judges which titres agree ("are concordant").
//
//	rule := agreement.Rule{Tolerance: decimal.Must("0.10"), Need: 2}
//	v := agreement.Judge(candidates, rule)
//	v.Status     // agreed
//	v.Mean       // of the agreeing titres only, unrounded
//	v.Reasons[0] // why the first candidate is in or out
package agreement

import (
	"sort"

	"exactflask/core/decimal"
)

// Rule is a school's rule of agreement.
type Rule struct {
	Kind Kind `json:"kind,omitempty" enum:"spread,relative" doc:"spread of the titres in mL (when left out), or relative, for unequal samples"`
	// Tolerance is the largest difference in mL between the highest and the
	// lowest titre of a set that agrees; a difference equal to it agrees.
	Tolerance decimal.Decimal `json:"tolerance,omitzero" doc:"largest spread of an agreeing set, mL, inclusive"`
	// Percent is p of the relative rule: results lie within ±p % of their mean
	// when their largest difference is at most 2p % of it.
	Percent decimal.Decimal `json:"percent,omitzero" doc:"relative rule: results within plus or minus this many % of their mean; 2 when left out"`
	// Need is how many titres must agree: 2 or 3.
	Need    int     `json:"need" minimum:"2" maximum:"3" doc:"how many titres must agree"`
	Average Average `json:"average,omitempty" enum:"largest,all,closest" doc:"which are averaged: the largest agreeing set (when left out), all that were not set aside, or as few and close as are needed"`
	// RoughCounts lets a rough trial take part.
	RoughCounts bool `json:"roughCounts,omitempty" doc:"the rough trial may take part if it agrees"`
}

// Kind is the way titres are compared.
type Kind string

// The kinds of rule. Relative compares titre over sample volume.
const (
	Spread   Kind = "spread"
	Relative Kind = "relative"
)

// Average says which titres are averaged.
type Average string

// The choices of Average.
const (
	Largest Average = "largest"
	All     Average = "all"
	Closest Average = "closest"
)

// PercentOr2 is the percentage of the relative rule, 2 when none is given.
func (r Rule) PercentOr2() decimal.Decimal {
	if r.Percent.IsZero() {
		return decimal.Whole(2)
	}
	return r.Percent
}

// within tells whether a set with this lowest and highest value and this mean
// agrees.
func (r Rule) within(spread, mean decimal.Decimal) bool {
	if r.Kind == Relative {
		return spread.Mul(decimal.Whole(50)).Cmp(r.PercentOr2().Mul(mean)) <= 0
	}
	return spread.Cmp(r.Tolerance) <= 0
}

// Candidate is a trial that may take part: an accurate, complete one that was
// not set aside.
type Candidate struct {
	ID string
	// Titre is what is compared: the titre in mL, or under the relative rule
	// the titre over the sample volume.
	Titre decimal.Decimal
}

// Status is the outcome of a judgement.
type Status string

// The outcomes. Ambiguous means that two different sets are equally good, as
// with 22.10, 22.20 and 22.30 at 0.10: one more trial decides.
const (
	TooFew    Status = "too-few"
	Disagree  Status = "disagree"
	Ambiguous Status = "ambiguous"
	Agreed    Status = "agreed"
)

// Reason says why a candidate is in or out of the mean.
type Reason string

// The reasons. OutTied is given to every member of equally good sets, Alone to
// the only candidate there is.
const (
	InSet      Reason = "in.agrees"
	OutTooHigh Reason = "out.too-high"
	OutTooLow  Reason = "out.too-low"
	OutNoSet   Reason = "out.no-set"
	OutTied    Reason = "out.tied"
	Alone      Reason = "out.alone"
	NotClosest Reason = "out.not-closest"
)

// Verdict is the judgement of a set of candidates.
type Verdict struct {
	Status Status
	// Chosen are the ids of the titres that are averaged, lowest titre first.
	// It is empty unless Status is Agreed.
	Chosen []string
	// Reasons has one reason for each candidate, by id.
	Reasons map[string]Reason
	// Mean is the unrounded mean, Spread the largest less the smallest, of the
	// chosen titres.
	Mean   decimal.Decimal
	Spread decimal.Decimal
	// Closest is the smallest spread that a set of the needed size has, where
	// there are enough candidates: how far the titres are from agreeing.
	Closest decimal.Decimal
	// Rivals are the equally good sets when Status is Ambiguous.
	Rivals [][]string
}

// Judge finds the largest set of at least rule.Need titres whose spread is
// within the tolerance. Of equally large sets the one with the smaller spread
// is taken. The order of the candidates does not matter.
//
// A set agrees as a whole, not neighbour by neighbour: 22.10, 22.20 and 22.30
// do not agree within 0.10. With Average All only the whole set will do, with
// Closest only sets of the needed size. Source: common practice, no source.
func Judge(candidates []Candidate, rule Rule) Verdict {
	need := max(rule.Need, 2)
	sorted := append([]Candidate(nil), candidates...)
	sort.Slice(sorted, func(i, j int) bool {
		if c := sorted[i].Titre.Cmp(sorted[j].Titre); c != 0 {
			return c < 0
		}
		return sorted[i].ID < sorted[j].ID
	})
	v := Verdict{Status: Disagree, Reasons: make(map[string]Reason, len(sorted))}
	spread := func(from, to int) decimal.Decimal { return sorted[to-1].Titre.Sub(sorted[from].Titre) }

	if len(sorted) < need {
		v.Status = TooFew
		if len(sorted) == 2 {
			v.Closest = spread(0, 2)
		}
		for _, c := range sorted {
			v.Reasons[c.ID] = OutNoSet
			if len(sorted) == 1 {
				v.Reasons[c.ID] = Alone
			}
		}
		return v
	}

	// The members of a best set stand side by side when sorted: whatever lies
	// between two members could join without widening the spread.
	v.Closest = spread(0, need)
	for i := 1; i+need <= len(sorted); i++ {
		if s := spread(i, i+need); s.Cmp(v.Closest) < 0 {
			v.Closest = s
		}
	}
	most, least := len(sorted), need
	switch rule.Average {
	case All:
		least = most
	case Closest:
		most = need
	}
	var best [][2]int
	for size := most; size >= least && best == nil; size-- {
		for i := 0; i+size <= len(sorted); i++ {
			s := spread(i, i+size)
			if !rule.within(s, mean(sorted[i:i+size])) {
				continue
			}
			if best != nil {
				if c := s.Cmp(v.Spread); c > 0 {
					continue
				} else if c < 0 {
					best = nil
				}
			}
			best, v.Spread = append(best, [2]int{i, i + size}), s
		}
	}
	if len(best) == 1 {
		v.Status = Agreed
		from, to := best[0][0], best[0][1]
		for i, c := range sorted {
			switch {
			case (i < from || i >= to) && rule.Average == Closest:
				v.Reasons[c.ID] = NotClosest
			case i < from:
				v.Reasons[c.ID] = OutTooLow
			case i >= to:
				v.Reasons[c.ID] = OutTooHigh
			default:
				v.Reasons[c.ID] = InSet
				v.Chosen = append(v.Chosen, c.ID)
			}
		}
		v.Mean = mean(sorted[from:to])
		return v
	}
	for _, c := range sorted {
		v.Reasons[c.ID] = OutNoSet
	}
	for _, set := range best {
		v.Status = Ambiguous
		var rival []string
		for _, c := range sorted[set[0]:set[1]] {
			v.Reasons[c.ID] = OutTied
			rival = append(rival, c.ID)
		}
		v.Rivals = append(v.Rivals, rival)
	}
	return v
}

func mean(candidates []Candidate) decimal.Decimal {
	titres := make([]decimal.Decimal, len(candidates))
	for i, c := range candidates {
		titres[i] = c.Titre
	}
	m, _ := decimal.Mean(titres...)
	return m
}
