package marking_test

import (
	"math"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	dv "exactflask/core/model/derivation"
	"exactflask/core/practice/sim"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/quantity"
)

// step is a step of a right working with the figures that it is made of.
type step struct {
	dv.Node
	in      []dv.Node
	deep    []dv.Node // what the inputs are converted from
	trials  []evaluation.Trial
	burette float64 // capacity, mL
}

// v is the value of an input.
func (s step) v(i int) float64 { return s.in[i].Quantity.Value }

func (s step) two(op dv.Operation) bool { return s.Operation == op && len(s.in) == 2 }

// factor tells whether an input is a mole ratio, or a dilution.
func (s step) factor(i int) bool {
	return len(s.in) > i && (s.in[i].Operation == dv.Ratio || s.in[i].Letter == "f")
}

func (s step) titres(want func(evaluation.Trial) bool) (out []float64) {
	for _, t := range s.trials {
		if want(t) {
			out = append(out, t.Titre.Float64())
		}
	}
	return out
}

func counts(t evaluation.Trial) bool { return t.Counts }
func rough(t evaluation.Trial) bool  { return t.Type == journal.Rough && t.Titre != nil }

func mean(lists ...[]float64) float64 {
	sum, n := 0.0, 0.0
	for _, l := range lists {
		for _, v := range l {
			sum, n = sum+v, n+1
		}
	}
	return sum / n
}

// made are the usual slips as a person makes them, worked out here by hand: what stands in
// the place of a step; 0 where it cannot be made there.
var made = map[string]func(step) float64{
	"thousand": func(s step) float64 { // millilitres for litres
		if s.Step == "step.amount-known" {
			return s.v(0) * s.v(1) * 1000
		}
		return 0
	},
	"ten": func(s step) float64 { return s.Quantity.Value / 10 },
	"hundred": func(s step) float64 {
		if s.ID == dv.Answer && s.Quantity.Unit == quantity.Percent {
			return s.Quantity.Value / 100
		}
		return 0
	},
	"ratio-inverted": func(s step) float64 {
		if s.two(dv.Product) && s.in[1].Operation == dv.Ratio && s.v(1) != 1 {
			return s.v(0) / s.v(1)
		}
		return 0
	},
	"ratio-left-out": func(s step) float64 {
		if s.two(dv.Product) && s.in[1].Operation == dv.Ratio && s.v(1) != 1 {
			return s.v(0)
		}
		return 0
	},
	"dilution-left-out": func(s step) float64 {
		if s.two(dv.Product) && s.in[1].Letter == "f" {
			return s.v(0)
		}
		return 0
	},
	"dilution-inverted": func(s step) float64 {
		if s.two(dv.Product) && s.in[1].Letter == "f" {
			return s.v(0) / s.v(1)
		}
		return 0
	},
	"molar-mass-left-out": func(s step) float64 {
		if len(s.in) == 2 && s.in[1].Operation == dv.Molar {
			return s.v(0)
		}
		return 0
	},
	"volumes-swapped": func(s step) float64 {
		if s.Step == "step.concentration" && s.two(dv.Quotient) {
			for _, n := range s.deep { // the titre in the place of the sample
				if n.ID == dv.TitreLitres {
					return s.v(0) / n.Quantity.Value
				}
			}
		}
		return 0
	},
	"upside-down": func(s step) float64 {
		if s.two(dv.Quotient) && s.Quantity.Unit != quantity.One && s.ID != dv.Answer {
			return s.v(1) / s.v(0)
		}
		return 0
	},
	"multiplied": func(s step) float64 {
		if s.two(dv.Quotient) && !s.factor(0) && !s.factor(1) && s.ID != dv.Answer {
			return s.v(0) * s.v(1)
		}
		return 0
	},
	"divided": func(s step) float64 {
		if s.two(dv.Product) && !s.factor(0) && !s.factor(1) {
			return s.v(0) / s.v(1)
		}
		return 0
	},
	"rough-included": func(s step) float64 {
		if s.ID == dv.MeanTitre && len(s.titres(rough)) > 0 {
			return mean(s.titres(counts), s.titres(rough))
		}
		return 0
	},
	"all-averaged": func(s step) float64 {
		all := s.titres(func(t evaluation.Trial) bool { return t.Type == journal.Accurate && t.Titre != nil })
		if s.ID == dv.MeanTitre && len(all) > len(s.titres(counts)) {
			return mean(all)
		}
		return 0
	},
	"not-divided": func(s step) float64 {
		if s.ID == dv.MeanTitre {
			n := s.titres(counts)
			return mean(n) * float64(len(n))
		}
		return 0
	},
	"one-alone": func(s step) float64 {
		if n := s.titres(counts); s.ID == dv.MeanTitre && math.Abs(n[0]-mean(n)) > 0.03 {
			return n[0]
		}
		return 0
	},
	"from-capacity": func(s step) float64 {
		if s.ID == dv.MeanTitre {
			return s.burette - mean(s.ends(false))
		}
		return 0
	},
	"start-left-out": func(s step) float64 {
		if s.ID == dv.MeanTitre {
			return mean(s.ends(false))
		}
		return 0
	},
	"read-upward": func(s step) float64 { // 26.4 for 25.6
		if s.ID == dv.MeanTitre {
			return mean(s.ends(true))
		}
		return 0
	},
	"remainder-taken": func(s step) float64 {
		if s.two(dv.Difference) && s.Step != "" {
			return s.v(1)
		}
		return 0
	},
	"not-subtracted": func(s step) float64 {
		if s.two(dv.Difference) && s.Step != "" {
			return s.v(0)
		}
		return 0
	},
	"purity-left-out": func(s step) float64 {
		if len(s.in) == 2 && s.in[1].Source.Kind == dv.Purity {
			return s.v(0)
		}
		return 0
	},
	"count-left-out": func(s step) float64 {
		if s.two(dv.Quotient) && s.in[1].Letter == "N" {
			return s.v(0)
		}
		return 0
	},
	"rounded-early": func(s step) float64 { // the figure before, to two figures
		if s.two(dv.Product) && s.in[1].Operation == dv.Ratio {
			v, _ := strconv.ParseFloat(strconv.FormatFloat(s.v(0), 'g', 2, 64), 64)
			return v * s.v(1)
		}
		return 0
	},
}

// ends are the end readings that count; upward with the titre as it is read from below.
func (s step) ends(upward bool) (out []float64) {
	up := func(v float64) float64 { return math.Floor(v) + 1 - (v - math.Floor(v)) }
	for _, t := range s.trials {
		if !t.Counts {
			continue
		}
		start, end := t.Start.Value.Float64(), t.End.Value.Float64()
		if upward {
			if start == math.Floor(start) || end == math.Floor(end) {
				return []float64{math.NaN()} // a whole number reads the same
			}
			end = up(end) - up(start)
		}
		out = append(out, end)
	}
	return out
}

// Each slip is named where a person makes it, in several kinds of titration.
func TestSlipsAreNamed(t *testing.T) {
	kinds := map[string]map[practical.Kind]bool{}
	tried := map[string]int{}
	for _, e := range practicaltest.Examples(t) {
		for seed := range uint64(6) {
			record, err := sim.Titrate(e.Ready, sim.Student{Seed: seed, Skill: sim.Hasty, Device: "sim", Author: "a", Begin: begin})
			require.NoError(t, err)
			d, _, ok := experiment.Begin(e.Ready, journal.Fold(record)).Working()
			if !ok || e.Ready.Each() {
				continue
			}
			ev := experiment.Evaluate(e.Ready, record, experiment.Record)
			for i, n := range d.Nodes {
				if !d.IsStep(i) {
					continue
				}
				s := step{Node: n, deep: d.Nodes, trials: ev.Trials, burette: e.Ready.Glass.Burette.Capacity.Float64()}
				for _, k := range n.Inputs {
					s.in = append(s.in, d.Nodes[k])
				}
				for slip, make := range made {
					v := make(s)
					if v == 0 || math.IsNaN(v) {
						continue
					}
					answer := journal.Entry{ID: "the-answer", Author: "a", Device: "sim", Clock: 9999, At: begin,
						Part: journal.Answer{Step: n.ID, Written: strconv.FormatFloat(v, 'g', 5, 64), Unit: string(n.Quantity.Unit)}}
					if _, err := journal.ParseNumber(answer.Part.(journal.Answer).Written); err != nil {
						continue
					}
					for _, w := range experiment.Evaluate(e.Ready, append(record[:len(record):len(record)], answer), evidence).Work {
						if w.Step != n.ID || w.Fits {
							continue
						}
						tried[slip]++
						if w.Slip == "slip."+slip {
							if kinds[slip] == nil {
								kinds[slip] = map[practical.Kind]bool{}
							}
							kinds[slip][e.Ready.Kind] = true
						}
					}
				}
			}
		}
	}
	enough := 0
	for slip := range made {
		assert.NotEmpty(t, kinds[slip], "%s is never named, in %d tries", slip, tried[slip])
		if len(kinds[slip]) >= 3 {
			enough++
		} else {
			t.Logf("%s: named in %d kinds only, in %d tries", slip, len(kinds[slip]), tried[slip])
		}
	}
	t.Logf("%d slips are named in three kinds of titration or more", enough)
	assert.GreaterOrEqual(t, enough, 18)
}
