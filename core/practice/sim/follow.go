package sim

import (
	"math"
	"strconv"

	"exactflask/core/judgement/experiment"
	"exactflask/core/model/curve"
	"exactflask/core/model/followed"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

var noCurve = finding.Declare("sim.no-curve")

// Really is what a faultless probe shows in a titration whose end lies at a titre, mL, in
// the unit of the practical's probe; a fault where nothing tells.
func Really(r *practical.Ready, titre float64) (func(volume float64) float64, error) {
	at, ok := curve.OutlineOf(r).Really(titre, r.Probe.Flask.Float64())
	if !ok {
		return nil, noCurve.Fault("")
	}
	_, sample := r.InWater(r.Titrated)
	_, titrant := r.InWater(r.Titrant)
	return func(v float64) float64 {
		return inUnit(r.Probe.Shows, sample && titrant, r.Probe.Electrode.Float64(), at(v))
	}, nil
}

// wait is how long a student waits at a point, in time constants of the probe.
const wait = 8

// calibrate reads the buffers.
func (w *worker) calibrate() {
	if !w.r.Probed() {
		return
	}
	w.probe = NewInstrument(w.r.Probe.Shows, w.s.Seed)
	if w.s.Blind {
		return
	}
	for _, b := range w.r.Probe.Buffers {
		truth := b.Float64()
		if _, acidBase := w.r.InWater(w.r.Titrated); acidBase {
			truth = inUnit(w.r.Probe.Shows, true, 0, truth)
		}
		w.probe.begun = false // rinsed and blotted
		w.add(journal.Calibration{Buffer: b.String(), Shown: w.shown(w.probe.Advance(wait*w.probe.Lag, truth)), Unit: w.r.Probe.Shows})
	}
}

func (w *worker) shown(v float64) string {
	places := 2
	if w.r.Probe.Shows == journal.ShownMV {
		places = 1
	}
	return strconv.FormatFloat(v, 'f', places, 64)
}

// mostPoints is when a student gives up.
const mostPoints = 200

// follow runs one titration with the probe, going from point to point as the bench says.
func (w *worker) follow(id string, titre float64, begun bool) error {
	truth, err := Really(w.r, titre)
	if err != nil {
		return err
	}
	capacity := w.r.Glass.Burette.Capacity.Float64()
	scale := func(drawn float64) decimal.Decimal { return w.written(w.mark(max(0, w.eye(drawn)))) } // what the student reads
	zero := 0.0
	start := scale(zero)
	w.add(journal.Scale{Of: id, Place: journal.Start, Written: start.String()})
	w.probe.begun = false
	point := func(ran, at float64) {
		w.add(journal.ProbePoint{Of: id, Burette: scale(at).String(), Shown: w.shown(w.probe.Advance(wait*w.probe.Lag, truth(ran)))})
	}
	ran, filled := 0.0, 0.0
	point(0, zero)
	for n := 1; n < mostPoints; n++ {
		if begun && ran > 0.6*titre {
			return nil
		}
		run := w.open(id)
		if run == nil || run.Advance == nil {
			return nil
		}
		if run.Advance.Past && run.Advance.Tail == 0 {
			break
		}
		add := run.Advance.Add.Float64()
		if w.s.Coarse {
			add = math.Max(add, 2)
		}
		if ran-filled+add > capacity*0.98 {
			w.add(journal.Scale{Of: id, Place: journal.BeforeRefill, Written: scale(ran - filled).String()})
			w.add(journal.Scale{Of: id, Place: journal.AfterRefill, Written: scale(0).String()})
			filled = ran
		}
		ran += math.Max(0.01, add+0.02*w.rand.NormFloat64())
		point(ran, ran-filled)
	}
	w.add(journal.Scale{Of: id, Place: journal.End, Written: scale(ran - filled).String()})
	return nil
}

// open is the run of a trial, as the bench sees it now.
func (w *worker) open(id string) *followed.Run {
	var about []journal.Entry // only what says something of it: the others would be analysed each time
	for _, e := range w.out {
		if e.ID == id || e.Part.Trial() == id || e.Kind() == "calibration" {
			about = append(about, e)
		}
	}
	ev := experiment.Evaluate(w.r, about, experiment.Record)
	for i := range ev.Runs {
		if ev.Runs[i].Trial == id {
			return &ev.Runs[i]
		}
	}
	return nil
}
