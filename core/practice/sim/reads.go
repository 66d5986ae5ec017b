package sim

import (
	"cmp"
	"math"

	"exactflask/core/chemistry/glass"
	"exactflask/core/model/assay"
	dv "exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/values/decimal"
)

// read reads the burette before and after, with the student's eye, glass and faults;
// what does not fit into one filling is filled within the trial.
func (w *worker) read(id string, t assay.Titres, nodes []dv.Node, begun bool) (start, end journal.Reading) {
	zero, ran := w.runs(t)
	start = w.write(id, journal.Start, zero)
	if begun {
		return start, end
	}
	fills := max(1, int(math.Ceil((zero+ran)/(w.r.Glass.Burette.Capacity.Float64()*0.96))))
	each := ran / float64(fills)
	first := t.First // what is left of it until the first end point
	if first > 0 {   // it is seen within a drop too, on the same burette
		first += glass.Drop*(w.rand.Float64()-0.5) + w.scale()
	}
	for fill, at := 1, zero; ; fill, at = fill+1, 0 {
		if first > 0 && (first <= each || fill == fills) {
			w.write(id, journal.FirstEnd, w.eye(at+first)+w.byFaults(nodes, at, at+first))
			first = 0
		}
		if fill == fills {
			final := at + each
			return start, w.write(id, journal.End, w.eye(final)+w.byFaults(nodes, at, final))
		}
		w.write(id, journal.BeforeRefill, w.eye(at+each))
		w.write(id, journal.AfterRefill, 0)
		first -= each
	}
}

// runs is where the burette stands before a trial, and how much the record will say ran
// from it: the titre, the last drop, what an overshoot adds, and the burette's own error.
func (w *worker) runs(t assay.Titres) (zero, ran float64) {
	b, habit := w.r.Glass.Burette, habits[w.s.Skill]
	ran = t.Last + glass.Drop*(w.rand.Float64()-0.5)
	if w.rand.Float64() < habit.overshoot {
		ran += glass.Drop * (1 + habit.drops*w.rand.Float64())
	}
	ran += w.scale()
	if capacity := b.Capacity.Float64(); !w.r.Rules.Readings.StartAtZero && ran < capacity*0.9 {
		zero = math.Round(20*w.rand.Float64()*min(1, capacity-ran)) * w.step()
	}
	return zero, ran
}

// scale is the burette's own error, mL: the same in all trials.
func (w *worker) scale() float64 {
	tolerance, _ := w.r.Glass.Burette.Tolerance()
	if tolerance.Sign() <= 0 {
		return 0
	}
	if _, drawn := w.shared["tolerance"]; !drawn {
		w.shared["tolerance"] = w.rand.Float64() + w.rand.Float64() - 1 // triangular, as the budget takes it
	}
	return w.shared["tolerance"] * tolerance.Float64()
}

func (w *worker) step() float64 {
	return w.r.Glass.Burette.Step(w.r.Rules.Readings.Resolution).Float64()
}

// eye is a reading as the student sees it.
func (w *worker) eye(v float64) float64 {
	return v + w.step()*habits[w.s.Skill].eye*w.rand.NormFloat64()
}

// write writes a reading of the titration's burette on its scale, to its step.
func (w *worker) write(id string, place journal.Place, v float64) journal.Reading {
	return w.put(id, place, w.mark(v))
}

// mark is where the scale stands when so much has been drawn from a full burette, mL.
func (w *worker) mark(drawn float64) float64 {
	v, _ := decimal.FromFloat(drawn) // readings are finite
	return max(0, w.r.Glass.Burette.Drawn(v).Float64())
}

// written is a reading to the step that is read.
func (w *worker) written(v float64) decimal.Decimal {
	value, _ := decimal.FromFloat(math.Round(v/w.step()) * w.step())
	return value.Round(w.places())
}

// put writes a reading to the step that is read.
func (w *worker) put(id string, place journal.Place, v float64) journal.Reading {
	value := w.written(v)
	e := w.add(journal.Scale{Of: id, Place: place, Written: value.String()})
	return journal.Reading{Entry: e, Text: value.String(), Value: value}
}

// places are the decimals that are written.
func (w *worker) places() int {
	return max(2, w.r.Glass.Burette.Step(w.r.Rules.Readings.Resolution).Places())
}

// byFaults is what the student's faults make of an end reading.
func (w *worker) byFaults(nodes []dv.Node, start, end float64) (by float64) {
	for i := range nodes {
		n := nodes[i]
		if !n.Leaf() || !n.Source.Titration() {
			continue
		}
		sign := 1.0
		n.Quantity.Value = end
		if n.Source.Point != dv.End {
			sign, n.Quantity.Value = -1, start
		}
		for _, f := range w.faults {
			by += sign * f.On(w.r, &n)
		}
	}
	return by
}

// pour runs about so much from a burette of its own.
func (w *worker) pour(id string, volume float64, from, to journal.Place) *[2]journal.Reading {
	return &[2]journal.Reading{w.put(id, from, 0), w.put(id, to, volume*(1+0.02*w.rand.NormFloat64()))}
}

// weigh takes about as much as the practical says, by difference.
func (w *worker) weigh(trial string) *[2]journal.Reading {
	step := w.r.SampleStep()
	return w.weighed(journal.Weighing{What: cmp.Or(step.What, w.r.Unknown().Name), Of: trial}, step.Mass.Float64())
}

// weighed takes about as much of a thing, g, by difference.
func (w *worker) weighed(e journal.Weighing, about float64) *[2]journal.Reading {
	balance := w.r.Glass.Balance.Float64()
	written := func(v float64) decimal.Decimal {
		value, _ := decimal.FromFloat(math.Round(v/balance) * balance)
		return value.Round(w.r.Glass.Balance.Places())
	}
	mass := about * (1 + 0.03*math.Max(-2, math.Min(2, w.rand.NormFloat64())))
	vessel := written(12 + 8*w.rand.Float64())
	full := vessel.Add(written(mass))
	e.Full, e.Emptied = full.String(), vessel.String()
	id := w.add(e)
	return &[2]journal.Reading{{Entry: id, Text: e.Full, Value: full}, {Entry: id, Text: e.Emptied, Value: vessel}}
}
