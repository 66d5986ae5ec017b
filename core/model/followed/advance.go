package followed

import (
	"math"

	"exactflask/core/chemistry/equilibrium"
	"exactflask/core/chemistry/glass"
	"exactflask/core/model/curve"
	"exactflask/core/model/series"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/statistics"
)

// most is by how much a step may change the reading, pH or mV, before it is too wide to show
// where the jump lies.
func (run *Run) most() float64 {
	if run.Kind == series.MV {
		return run.Series.Norms.Of(practical.ProbeStepMV)
	}
	return run.Series.Norms.Of(practical.ProbeStepPH)
}

// nearer is the part of the way to the end that one may go: after it a reading that goes
// as a logarithm has changed by most.
func (run *Run) nearer(decade float64) float64 { return 1 - math.Pow(10, -run.most()/decade) }

// mostPlanned is how many points a run is planned with.
const mostPlanned = 300

// PlannedRun is how a run of this practical goes by its predicted curve: how many points, and
// mL until its tail is long enough. False where there is no curve to predict.
func Planned(r *practical.Ready) (points int, ran float64, ok bool) {
	o := curve.OutlineOf(r)
	truth, ok := o.Really(o.Titre.Last, r.Probe.Flask.Float64())
	if !ok || o.Titre.Last <= 0 {
		return 0, 0, false
	}
	run := &Run{Open: true, Series: modelOf(r)}
	run.Series.Live, run.Kind = true, run.Series.Kind
	unit := 1.0
	if run.Kind == series.MV {
		unit = 1000
	}
	for points = 1; points < mostPlanned; points++ {
		run.Series.Points = append(run.Series.Points, series.Measured{Volume: ran, Reading: unit * truth(ran)})
		run.Analysis = series.Analyse(run.Series)
		next := run.advance(r, &journal.Trial{})
		if next.Past && next.Tail == 0 {
			return points, ran, true
		}
		ran += math.Max(0.01, next.Add.Float64())
	}
	return 0, 0, false
}

// early is the part of the titre in which nothing is expected of the curve: it begins steep
// where little of what is made is there.
const early = 0.1

// nice are the steps that are easily run, mL.
func nice(add, fine float64) float64 {
	for _, s := range [...]float64{20, 10, 5, 4, 3, 2.5, 2, 1.5, 1, 0.5, 0.25, 0.2, 0.1, 0.05} {
		if s <= add+1e-9 && s >= fine {
			return s
		}
	}
	return fine
}

// scaleAt is the reading of the burette where so much has run in all; nil below the last
// mark.
func scaleAt(r *practical.Ready, t *journal.Trial, ran float64) *decimal.Decimal {
	v, ok := decimal.FromFloat(ran)
	if !ok {
		return nil
	}
	b := r.Glass.Burette
	at, ok := t.Delivery(b.Rising).At(v, len(t.Refills))
	if !ok {
		return nil
	}
	at = at.Round(2)
	if over := b.Drawn(at); over.Sign() < 0 || over.Cmp(b.Capacity) > 0 {
		return nil
	}
	return &at
}

// step is how far to go to the next point: as far as the reading changes by no more than
// most, by the slope that was seen and by the one that is expected; never by the pH itself,
// which a jump that comes early would have passed.
func (run *Run) advance(r *practical.Ready, t *journal.Trial) *Advance {
	p := r.Probe
	points := run.Series.Points
	n := &Advance{Tail: p.Tail}
	if len(points) == 0 {
		return n
	}
	last := points[len(points)-1].Volume
	if a := run.Analysis; a.Used != "" && last > a.Volume+p.Fine.Float64() {
		n.Tail, n.Past = max(0, p.Tail-a.Past), true
	}
	wide, fine := p.Step.Float64(), p.Fine.Float64()
	add := math.Min(run.seen(wide, fine), run.expected(r, last, wide))
	switch fixed := p.Way == practical.InSteps; {
	case fixed && !n.Past && add < fine/2:
		fine = math.Max(fine/2, glass.Drop) // a whole one would run across the jump
	case fixed && add < wide:
		add = fine // of two steps one
	}
	add = math.Max(add, fine)
	n.Add, _ = decimal.FromFloat(nice(add, fine))
	n.Add = n.Add.Round(2)
	n.To = scaleAt(r, t, last+n.Add.Float64())
	return n
}

// seen is how far the slope of the last points lets one go. In a buffer, and between two
// couples, the reading goes as the logarithm of what has run by what is left to run: what
// the slope has more than its first part tells how much is left. Behind the end it falls; that
// an end was passed is believed from a fine step behind it, since noise looks like one before.
func (run *Run) seen(wide, fine float64) float64 {
	p := run.Series.Points
	n := len(p)
	if n < 2 || p[n-1].Volume <= p[n-2].Volume {
		return wide
	}
	gone := p[n-1].Volume - p[n-2].Volume
	slope := math.Abs(p[n-1].Reading-p[n-2].Reading) / gone
	if a := run.Analysis; a.Used != "" && p[n-1].Volume > a.Volume+math.Max(gone, fine) {
		return math.Min(wide, run.most()/math.Max(slope, 1e-9))
	}
	decade := 1.0
	if run.Kind == series.MV {
		decade = 1000 * equilibrium.Nernst(25)
		if x := run.Series.Redox; x != nil {
			decade /= math.Max(1, x.Sample.Electrons)
		}
	}
	full := decade
	decade /= math.Ln10
	slope -= decade / (p[n-1].Volume - gone/2)
	if slope <= decade/1000 {
		return wide
	}
	return math.Max(0, math.Min(wide, run.nearer(full)*(decade/slope-gone/2)))
}

// expected is how far the predicted curve lets one go, wherever within its uncertainty the
// real one lies. Where the expected answer is kept from the bench it says nothing.
func (run *Run) expected(r *practical.Ready, from, wide float64) float64 {
	c := curve.Of(r).Curve
	if c == nil || r.Showing.HideExpected || run.Analysis.Used != "" || from < early*c.Equivalence[0].Volume {
		return wide
	}
	unit, ahead := 1.0, r.Norms().Part(practical.ProbeAhead)
	if c.Kind == "V" {
		unit = 1000
	}
	along := func(v float64) float64 {
		return statistics.BetweenAt(len(c.Points), func(i int) (float64, float64) { return c.Points[i].Volume, c.Points[i].Value }, v)
	}
	for add := wide; add > 0.01; add /= 2 {
		worst := 0.0
		for off := 1 - ahead; off <= 1+ahead; off += ahead / 4 { // wherever it really lies
			worst = math.Max(worst, math.Abs(along((from+add)*off)-along(from*off))*unit)
		}
		if worst <= run.most() {
			return add
		}
	}
	return 0
}
