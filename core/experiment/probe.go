package experiment

import (
	"math"
	"slices"

	"exactflask/core/decimal"
	"exactflask/core/finding"
	"exactflask/core/journal"
	"exactflask/core/practical"
	"exactflask/core/series"
)

// Probing is how the probe stands.
type Probing struct {
	Shows      journal.ProbeUnit `json:"shows" enum:"pH,mV"`
	Buffers    []string          `json:"buffers" doc:"pH of those that it is calibrated in"`
	In         int               `json:"in" doc:"how many buffers it was read in"`
	Slope      float64           `json:"slope,omitempty" doc:"of the calibration, % of what Nernst's equation gives; left out where fewer than two buffers tell it"`
	Offset     float64           `json:"offset" doc:"what is added to a reading in the middle of the buffers"`
	Corrects   bool              `json:"corrects,omitempty" doc:"readings are put right by the calibration"`
	Steady     decimal.Decimal   `json:"steady" doc:"change a minute below which a value is steady"`
	Calibrated []CalibratedIn    `json:"calibrated"`
}

// CalibratedIn is one buffer that the probe was read in.
type CalibratedIn struct {
	Entry      string            `json:"entry"`
	Buffer     string            `json:"buffer"`
	Shown      string            `json:"shown"`
	Unit       journal.ProbeUnit `json:"unit" enum:"pH,mV"`
	Afterwards bool              `json:"afterwards,omitempty"`

	clock int64
}

// probing makes of the calibrations how the probe stands.
func probing(r *practical.Ready, lines []journal.Line) (*Probing, []finding.Finding) {
	if !r.Probed() {
		return nil, nil
	}
	p := &Probing{Shows: r.Probe.Shows, Buffers: []string{}, Steady: r.Probe.Steady, Calibrated: []CalibratedIn{}}
	for _, b := range r.Probe.Buffers {
		p.Buffers = append(p.Buffers, b.String())
	}
	var out []finding.Finding
	for _, l := range lines {
		k := l.Part.(journal.Calibration)
		c := CalibratedIn{l.Entry.ID, k.Buffer, k.Shown, k.Unit, k.Afterwards, l.Entry.Clock}
		p.Calibrated = append(p.Calibrated, c)
		limit := map[journal.ProbeUnit]decimal.Decimal{journal.ShownPH: driftPH, journal.ShownMV: driftMV}[k.Unit]
		if k.Afterwards && c.sameUnit(r) && c.off().Cmp(limit) > 0 {
			out = append(out, probeDrift.Finding(finding.Check, l.Entry.ID, finding.Text(k.Buffer), finding.Text(k.Shown)))
		}
	}
	now := p.before(math.MaxInt64)
	p.In = len(now)
	if right, ok := p.line(now); ok {
		p.Corrects = true
		middle := 0.0
		for _, c := range now {
			middle += number(c.Shown) / float64(len(now))
		}
		p.Offset = right(middle) - middle
	}
	if percent, ok := nernstian(r, now); ok {
		p.Slope = percent
		if percent < poorSlope {
			out = append(out, probeSlope.Finding(finding.Warning, "", finding.Number(percent, 3, "%")))
		}
	}
	return p, out
}

// before are the calibrations that count for a run that begins at a clock: of each buffer the
// last one written before it; where none was, the first that were written later, for they may
// have been made before.
func (p *Probing) before(clock int64) []CalibratedIn {
	var early, later []CalibratedIn
	for _, c := range p.Calibrated {
		same := func(o CalibratedIn) bool { return o.Buffer == c.Buffer && o.Unit == c.Unit }
		switch {
		case c.Afterwards:
		case c.clock < clock:
			early = append(slices.DeleteFunc(early, same), c)
		case !slices.ContainsFunc(later, same):
			later = append(later, c)
		}
	}
	if len(early) > 0 {
		return early
	}
	return later
}

func (c CalibratedIn) off() decimal.Decimal {
	a, _ := journal.ParseNumber(c.Buffer)
	b, _ := journal.ParseNumber(c.Shown)
	d := a.Sub(b)
	if d.Sign() < 0 {
		return decimal.Decimal{}.Sub(d)
	}
	return d
}

// sameUnit tells whether buffer and shown value can be compared: not where mV were shown
// in a pH buffer.
func (c CalibratedIn) sameUnit(r *practical.Ready) bool {
	return c.Unit == journal.ShownPH || !inBuffers(r)
}

// inBuffers tells whether the probe answers to hydrogen ions.
func inBuffers(r *practical.Ready) bool {
	_, a := r.InWater(r.Titrated)
	_, b := r.InWater(r.Titrant)
	return a && b || r.Probe.Shows == journal.ShownPH
}

func number(text string) float64 {
	d, _ := journal.ParseNumber(text)
	return d.Float64()
}

// fitLine is the straight line through points; the slope is 1 of a single one.
func fitLine(x, y []float64) (slope, intercept float64) {
	n := float64(len(x))
	if n == 0 {
		return 0, 0
	}
	mx, my, xx, xy := 0.0, 0.0, 0.0, 0.0
	for i := range x {
		mx, my = mx+x[i]/n, my+y[i]/n
	}
	for i := range x {
		xx, xy = xx+(x[i]-mx)*(x[i]-mx), xy+(x[i]-mx)*(y[i]-my)
	}
	if slope = 1; xx > 0 {
		slope = xy / xx
	}
	return slope, my - slope*mx
}

// line puts readings right by calibrations in the unit that the probe shows; false where there
// are none.
func (p *Probing) line(by []CalibratedIn) (func(float64) float64, bool) {
	var x, y []float64
	for _, c := range by {
		if c.Unit == p.Shows {
			x, y = append(x, number(c.Shown)), append(y, number(c.Buffer))
		}
	}
	slope, intercept := fitLine(x, y)
	if len(x) == 0 || slope == 0 {
		return func(v float64) float64 { return v }, false
	}
	return func(v float64) float64 { return slope*v + intercept }, true
}

// Uncorrected is what the probe shows where this is there: its calibration run backwards.
func (p *Probing) Uncorrected(truth float64) float64 {
	right, ok := p.line(p.before(math.MaxInt64))
	if !ok {
		return truth
	}
	at := right(0)
	return (truth - at) / (right(1) - at)
}

// nernstian is the slope of the calibration in % of Nernst's, where it was read in mV, or in
// pH, in two buffers.
func nernstian(r *practical.Ready, by []CalibratedIn) (float64, bool) {
	if !inBuffers(r) {
		return 0, false
	}
	for _, unit := range []journal.ProbeUnit{journal.ShownMV, journal.ShownPH} {
		var x, y []float64
		for _, c := range by {
			if c.Unit == unit {
				x, y = append(x, number(c.Buffer)), append(y, number(c.Shown))
			}
		}
		if len(x) < 2 {
			continue
		}
		slope, _ := fitLine(x, y)
		if unit == journal.ShownMV {
			slope /= series.Nernst(25)
		}
		percent := 100 * math.Abs(slope)
		return math.Round(percent*10) / 10, percent > 0 && percent < 1000
	}
	return 0, false
}
