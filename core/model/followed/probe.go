package followed

import (
	"math"
	"slices"

	"exactflask/core/chemistry/equilibrium"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/statistics"
)

// Probing is how the probe stands.
type Probing struct {
	Shows      journal.ProbeUnit `json:"shows" enum:"pH,mV"`
	Buffers    []string          `json:"buffers" doc:"pH of those that it is calibrated in"`
	In         int               `json:"in" doc:"how many buffers it was read in"`
	Slope      float64           `json:"slope,omitempty" doc:"of the calibration, % of what Nernst's equation gives; left out where fewer than two buffers tell it"`
	Corrects   bool              `json:"corrects,omitempty" doc:"readings are put right by the calibration"`
	Steady     decimal.Decimal   `json:"steady" doc:"change a minute below which a value is steady"`
	Calibrated []CalibratedIn    `json:"calibrated"`

	pH    bool // it answers to hydrogen ions
	norms practical.Norms
}

// CalibratedIn is one buffer that the probe was read in.
type CalibratedIn struct {
	Entry      string            `json:"entry"`
	Buffer     string            `json:"buffer"`
	Shown      string            `json:"shown"`
	Unit       journal.ProbeUnit `json:"unit" enum:"pH,mV"`
	Afterwards bool              `json:"afterwards,omitempty"`

	clock   int64
	celsius float64
}

// probing makes of the calibrations how the probe stands.
func ProbeOf(r *practical.Ready, lines []journal.Line) (*Probing, []finding.Finding) {
	if !r.Probed() {
		return nil, nil
	}
	p := &Probing{Shows: r.Probe.Shows, Buffers: []string{}, Steady: r.Probe.Steady, Calibrated: []CalibratedIn{}, pH: inBuffers(r), norms: r.Norms()}
	for _, b := range r.Probe.Buffers {
		p.Buffers = append(p.Buffers, b.String())
	}
	var out []finding.Finding
	for _, l := range lines {
		k := l.Part.(journal.Calibration)
		c := CalibratedIn{l.Entry.ID, k.Buffer, k.Shown, k.Unit, k.Afterwards, l.Entry.Clock, celsius(k.Temperature)}
		p.Calibrated = append(p.Calibrated, c)
		if k.Afterwards && p.drifted(c) {
			out = append(out, probeDrift.Finding(finding.Check, l.Entry.ID, finding.Text(k.Buffer), finding.Text(k.Shown)))
		}
	}
	now := p.before(math.MaxInt64)
	p.In = len(now)
	if _, ok := p.line(now); ok {
		p.Corrects = true
	}
	if percent, ok := p.nernstian(now); ok {
		p.Slope = percent
		if percent < p.norms.Of(practical.ProbeSlope) {
			out = append(out, probeSlope.Finding(finding.Warning, "", finding.Number(percent, 3, "%"), p.norms.Said(practical.ProbeSlope)))
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

// drifted tells whether what was shown afterwards, put right by the calibration before it, lies
// off the buffer.
func (p *Probing) drifted(c CalibratedIn) bool {
	shown := number(c.Shown)
	limit := p.norms.Of(driftNorm[journal.ShownMV])
	if p.pH {
		limit = p.norms.Of(driftNorm[journal.ShownPH])
	}
	switch right, ok := p.line(p.before(c.clock)); {
	case c.Unit == p.Shows && ok:
		shown = right(shown)
	case p.pH && c.Unit == journal.ShownMV:
		return false // nothing turns it into pH
	}
	return math.Abs(shown-number(c.Buffer)) > limit+1e-9
}

// celsius is a temperature as written; 25 where none is.
func celsius(text string) float64 {
	d, err := journal.ParseNumber(text)
	if err != nil {
		return 25
	}
	return d.Float64()
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

// line puts readings right by calibrations in the unit that the probe shows; false where there
// are none.
func (p *Probing) line(by []CalibratedIn) (func(float64) float64, bool) {
	var x, y []float64
	for _, c := range by {
		if c.Unit == p.Shows {
			x, y = append(x, number(c.Shown)), append(y, number(c.Buffer))
		}
	}
	single := 1.0
	if p.pH && p.Shows == journal.ShownMV && len(by) > 0 { // one buffer does not tell it: that of Nernst's equation
		single = -1 / (1000 * equilibrium.Nernst(by[0].celsius))
	}
	if len(x) == 0 {
		return func(v float64) float64 { return v }, false
	}
	right, ok := statistics.LineThrough(x, y, nil)
	if !ok { // one place alone: through it, with the slope that is taken
		right = statistics.Line{A: statistics.Mean(y) - single*statistics.Mean(x), B: single}
	}
	if right.B == 0 {
		return func(v float64) float64 { return v }, false
	}
	return right.At, true
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
func (p *Probing) nernstian(by []CalibratedIn) (float64, bool) {
	if !p.pH {
		return 0, false
	}
	for _, unit := range []journal.ProbeUnit{journal.ShownMV, journal.ShownPH} {
		var x, y []float64
		warmth := 0.0
		for _, c := range by {
			if c.Unit == unit {
				warmth += c.celsius
				x, y = append(x, number(c.Buffer)), append(y, number(c.Shown))
			}
		}
		if len(x) < 2 {
			continue
		}
		through, ok := statistics.LineThrough(x, y, nil)
		if !ok {
			continue
		}
		slope := through.B
		if unit == journal.ShownMV {
			slope /= 1000 * equilibrium.Nernst(warmth/float64(len(x)))
		}
		percent := 100 * math.Abs(slope)
		return math.Round(percent*10) / 10, percent > 0 && percent < 1000
	}
	return 0, false
}
