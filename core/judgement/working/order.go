package working

import (
	"maps"
	"slices"

	"exactflask/core/judgement/diagnosis"
	dv "exactflask/core/model/derivation"
)

// again tells whether a wrong step shows a slip that an earlier one shows already: the same,
// made with the same figure; figures with too few digits; or one wrong value for a figure
// that both steps use.
func (j *judging) again(s *Step, before []Step) {
	if s.Answer == nil || s.Fits || s.Verdict != Wrong && s.Verdict != Rounded {
		return
	}
	for i := range before {
		if p := &before[i]; p.Verdict == s.Verdict && p.Again == "" && j.same(p, s) {
			s.Again = p.Step
			return
		}
	}
}

func (j *judging) same(p, s *Step) bool {
	if p.Slip != "" && p.Slip == s.Slip {
		return p.about == s.about
	}
	return (p.Slip == "" || s.Slip == "") && j.oneFigure(p, s)
}

// oneFigure tells whether two wrong steps follow from one wrong value of a figure that is
// given for both.
func (j *judging) oneFigure(p, s *Step) bool {
	earlier := j.d.Within(p.at, j.written)
	for _, i := range j.d.Within(s.at, j.written) {
		n := j.d.Nodes[i]
		if !n.Leaf() || n.Operation == dv.Ratio || !slices.Contains(earlier, i) {
			continue
		}
		program := j.d.Program()
		value, err := program.Solve(p.at, p.Given, i)
		if err != nil || value <= 0 {
			continue
		}
		own := maps.Clone(j.exact)
		delete(own, s.at)
		if own[i] = value; s.given.Fits(j.d.Recompute(own, s.at)) {
			return true
		}
	}
	return false
}

// reorder takes back what was only put in another order: a step that lacks a factor which a
// later one brings in, or has one that a later one leaves out, or begins with a difference
// that is made later. The later step is right by itself, and what lies between follows.
func (j *judging) reorder(steps []Step) {
	for i := range steps {
		s := &steps[i]
		if s.Verdict != Wrong || s.Given == 0 {
			continue
		}
		for k := i + 1; k < len(steps); k++ {
			t := &steps[k]
			if t.Answer == nil || !slices.Contains(j.all(t.at), s.at) {
				continue
			}
			if t.Fits && !t.Carried && j.elsewhere(s, t) {
				s.Verdict, s.Slip, s.about, s.Again = Right, "", "", ""
				s.Fits, s.Order, t.Apart = true, true, false
			}
			if !t.Carried { // it ends what followed from the step
				break
			}
		}
	}
}

// all are the places of everything that a node follows from.
func (j *judging) all(at int) []int { return j.d.Within(at, nil) }

// elsewhere tells whether a step is off by one factor, or by a difference for what is
// subtracted from, of those that make a later step.
func (j *judging) elsewhere(s, t *Step) bool {
	truth := j.d.Nodes[s.at].Quantity.Value
	fits := func(factor float64) bool {
		return factor != 0 && factor != 1 && s.given.Fits(truth*factor)
	}
	for _, i := range append(j.all(t.at), t.at) {
		n := j.d.Nodes[i]
		v := n.Quantity.Value
		switch {
		case diagnosis.Factor(n):
			if fits(v) || fits(1/v) {
				return true
			}
		case n.Operation == dv.Difference && n.Step != "":
			for _, in := range n.Inputs {
				if in == s.at || slices.Contains(j.all(in), s.at) {
					if fits(v / j.d.Nodes[in].Quantity.Value) {
						return true
					}
				}
			}
		}
	}
	return false
}
