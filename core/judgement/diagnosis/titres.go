package diagnosis

import (
	"math"
	"slices"

	dv "exactflask/core/model/derivation"
)

// titre looks for slips of a subtraction.
func (s *search) titre(n dv.Node, r Record) {
	end, start := s.value(n.Inputs[0]), s.value(n.Inputs[1])
	s.try("from-capacity", r.Capacity-end)
	s.try("read-upward", upwards(end)-upwards(start))
	if start != 0 {
		s.try("start-left-out", end)
	}
}

// mean looks for slips of the mean titre: which titres were averaged.
func (s *search) mean(r Record) {
	average := func(lists ...[]float64) float64 {
		sum, n := 0.0, 0
		for _, list := range lists {
			for _, v := range list {
				sum, n = sum+v, n+1
			}
		}
		return sum / float64(n)
	}
	more := len(r.All) > len(r.Counted)
	if len(r.Rough) > 0 {
		s.try("rough-included", average(r.Counted, r.Rough))
		if more {
			s.try("rough-included", average(r.All, r.Rough))
		}
	}
	if more {
		s.try("all-averaged", average(r.All))
	}
	if two := closest(r.All); len(r.All) > 2 && len(r.Counted) > 2 {
		s.try("two-closest", average(two))
	}
	if len(r.Ends) == 0 || len(r.Ends) != len(r.Starts) {
		return
	}
	s.try("from-capacity", r.Capacity-average(r.Ends))
	var up []float64
	for i := range r.Ends {
		up = append(up, upwards(r.Ends[i])-upwards(r.Starts[i]))
	}
	s.try("read-upward", average(up))
	if average(r.Starts) != 0 {
		s.try("start-left-out", average(r.Ends))
	}
}

// upwards is what is read where the scale is read from the number below, mL: 26.4 for
// 25.6.
func upwards(v float64) float64 { return 2*math.Ceil(v) - v }

// closest are the two titres that lie closest together.
func closest(all []float64) []float64 {
	sorted := slices.Clone(all)
	slices.Sort(sorted)
	if len(sorted) < 2 {
		return sorted
	}
	at := 1
	for i := 2; i < len(sorted); i++ {
		if sorted[i]-sorted[i-1] < sorted[at]-sorted[at-1]-1e-9 {
			at = i
		}
	}
	return sorted[at-1 : at+1]
}
