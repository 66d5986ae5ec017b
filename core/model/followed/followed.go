// Package followed is a trial that is followed with a probe: how the probe stands, what
// its curve says of the end, and how far to go to the next point. It is above package
// series, which knows points and no practical.
package followed

import (
	"math"

	"exactflask/core/model/curve"
	"exactflask/core/model/series"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

// Run is a trial that is followed with a probe, as it was analysed.
type Run struct {
	Trial    string            `json:"trial"`
	Open     bool              `json:"open,omitempty" doc:"it still runs: the model is laid through the points when it has ended"`
	Kind     series.Kind       `json:"kind" enum:"pH,mV" doc:"what was analysed: readings in mV are turned into pH where the probe was calibrated in buffers"`
	Analysis series.Analysis   `json:"analysis"`
	Colours  []series.Measured `json:"colours,omitempty" doc:"where the colour of an indicator beside the probe was noted"`
	Half     *finding.Message  `json:"half,omitempty" doc:"what stands at half-equivalence"`
	Advance  *Advance          `json:"nextStep,omitempty"`
	Notes    []finding.Finding `json:"-"`

	Series series.Series    `json:"-"` // its points with what is known of it
	Titre  *decimal.Decimal `json:"-"` // where the curve gives one, mL
	Why    *finding.Message `json:"-"` // it gives none
}

// NextStep is how far to go to the next point.
type Advance struct {
	Add  decimal.Decimal  `json:"add" doc:"mL"`
	To   *decimal.Decimal `json:"to,omitempty" doc:"reading of the burette to run to, mL; left out where it lies below the last mark"`
	Tail int              `json:"tail" doc:"points that are still wanted past the jump"`
	Past bool             `json:"past,omitempty" doc:"the jump is behind"`
}

// RunPoint is a point of a run.
type RunPoint struct {
	Trial string `json:"trial"`
	journal.ReadPoint
	V float64 `json:"v" doc:"mL of titrant that had run"`
	Y float64 `json:"y" doc:"what was shown, put right by the calibration"`
}

var (
	probeUncalibrated = finding.Declare("probe.uncalibrated")
	probeOneSide      = finding.Declare("probe.one-side", "low", "high", "reading")
	probeSlope        = finding.Declare("probe.slope", "percent", "least")
	probeDrift        = finding.Declare("probe.drift", "buffer", "shown")
	probeUnsteady     = finding.Declare("probe.unsteady", "count")
	probeGap          = finding.Declare("probe.gap", "count", "volume")
	probeLost         = finding.Declare("probe.volume-lost", "count")
	probeWarm         = finding.Declare("probe.temperature", "temperature")
	probeFlask        = finding.Declare("probe.flask-guessed", "volume")
	probeBeside       = finding.Declare("probe.indicator-beside", "colour", "volume", "off")
	probeNoEnd        = finding.Declare("probe.no-end")
	probeDirection    = finding.Declare("probe.direction")
	probeRatio        = finding.Declare("probe.ratio", "first", "last", "ratio")
	probeNotUsed      = finding.Declare("probe.not-used")
	halfPKa           = finding.Declare("probe.half-pka", "reading", "table")
	halfPKaAlone      = finding.Declare("probe.half", "reading")
	halfPotential     = finding.Declare("probe.half-potential", "reading")
	halfPotentialBy   = finding.Declare("probe.half-potential-table", "reading", "table")
)

// driftNorm is how far a buffer that was read afterwards may lie off.
var driftNorm = map[journal.ProbeUnit]practical.NormName{journal.ShownPH: practical.ProbeDriftPH, journal.ShownMV: practical.ProbeDriftMV}

// modelOf is what the model of a run needs to know of the practical, worked out once.
func modelOf(r *practical.Ready) series.Series {
	return r.Kept("probe", func() any {
		o := curve.OutlineOf(r)
		p := r.Probe
		run := series.Series{Norms: r.Norms(), Kind: series.MV, Expected: o.Titre.Last, Flask: p.Flask.Float64(), Titrant: o.Flask.Titrant, Prefer: p.Use}
		if p.Flask.IsZero() {
			run.Flask = o.Flask.Volume
		}
		if run.Flask == 0 {
			run.Flask = curve.DefaultFlask
		}
		step := r.Glass.Burette.Step(r.Rules.Readings.Resolution).Float64()
		run.Burette = math.Max(step/math.Sqrt(6), 0.005) // of the difference of two readings, each within half a step
		sample, okS := r.InWater(r.Titrated)
		titrant, okT := r.InWater(r.Titrant)
		if okS && okT {
			run.Kind = series.PH
			run.AcidBase = &series.AcidBase{Sample: curve.Substance(sample), Titrant: curve.Substance(titrant), Ratio: o.Ratio, Carbonate: p.Carbonate && titrant.Strong > 0 && len(titrant.PKa) == 0}
			switch n := len(sample.PKa); {
			case n == 0:
				run.Analyte = series.Strong
			case n == 1 && sample.Units <= 1:
				run.Analyte = series.Weak
			case sample.Units <= 1 && o.Ratio > 0:
				gives, takes := titrant.Equivalents()
				run.EndNumber = int(math.Round(float64(max(gives, takes)) / o.Ratio))
			}
			return run
		}
		if p.Shows == journal.ShownPH {
			run.Kind = series.PH
			return run
		}
		run.Redox = curve.Couples(r)
		if e := p.Electrode.Float64(); run.Redox != nil && e != 0 {
			run.Redox.Sample.Potential -= e / 1000
			run.Redox.Titrant.Potential -= e / 1000
		} else if run.Redox != nil {
			run.Redox.Sample.Potential, run.Redox.Titrant.Potential = 0, 0
		}
		return run
	}).(series.Series)
}

// KindOf is what runs of a practical are analysed in, where the probe is calibrated.
func KindOf(r *practical.Ready) series.Kind { return modelOf(r).Kind }

// Room is what was measured at the bench beside the points of its runs.
type Room struct {
	Celsius float64 // of the solutions; 0 where it was not measured
	Flask   float64 // mL of what stands in it by the volumes that were measured; 0 for the practical's
}

// Of analyses the runs of a notebook.
func Of(r *practical.Ready, trials []journal.Trial, p *Probing, at Room) (map[string]*Run, []RunPoint) {
	if p == nil {
		return nil, nil
	}
	runs, points := map[string]*Run{}, []RunPoint{}
	for i := range trials {
		t := &trials[i]
		if t.Withdrawn {
			continue
		}
		by := p.before(t.Clock)
		right, calibrated := p.line(by)
		model := modelOf(r)
		model.Temperature = at.Celsius
		if at.Flask > 0 && r.Probe.Flask.IsZero() {
			model.Flask = at.Flask
		}
		if model.Kind == series.PH && p.Shows == journal.ShownMV && !calibrated { // potentials that nothing turns into pH
			model.Kind, model.AcidBase = series.MV, nil
		}
		run := &Run{Trial: t.ID, Open: t.End == nil && t.SetAside == nil, Kind: model.Kind, Series: model}
		run.Series.Live = run.Open
		points = append(points, run.follow(r, t, right)...)
		run.analyse(r, t, by)
		if t.SetAside != nil { // why is said already
			run.Notes = nil
		}
		runs[t.ID] = run
	}
	return runs, points
}

// follow takes up the points of a trial, each with what had run and what right makes of its
// reading, and says what is odd about them.
func (run *Run) follow(r *practical.Ready, t *journal.Trial, right func(float64) float64) []RunPoint {
	norms, points := r.Norms(), make([]RunPoint, 0, len(t.Points))
	warm, warmth, unsteady, lost := 0, 0.0, 0, 0
	var before *journal.ReadPoint
	for j := range t.Points {
		q := RunPoint{Trial: t.ID, ReadPoint: t.Points[j], Y: right(t.Points[j].Reading.Float64())}
		v, known := t.Delivery(r.Glass.Burette.Rising).Ran(t.Points[j].Volume, t.Points[j].Fills)
		q.V = v.Float64()
		points = append(points, q)
		if q.Withdrawn || t.Start == nil {
			continue
		}
		if !known { // half of a filling is missing: how much had run is not told
			lost++
			continue
		}
		run.Series.Points = append(run.Series.Points, series.Measured{Volume: q.V, Reading: q.Y})
		if q.Unsteady {
			unsteady++
		}
		if q.Temperature != nil {
			warm, warmth = warm+1, warmth+q.Temperature.Float64()
		}
		if q.Colour != "" {
			run.Colours = append(run.Colours, series.Measured{Volume: q.V, Reading: q.Y})
		}
		if before != nil && q.Source != journal.ByFile {
			if pause := int(q.At.Sub(before.At).Minutes()); pause >= norms.Count(practical.ProbePause) {
				run.say(probeGap.Finding(finding.Note, t.ID, finding.Count(pause), finding.Volume(q.V)))
			}
		}
		before = &t.Points[j]
	}
	if warm > 0 {
		run.Series.Temperature = math.Round(warmth/float64(warm)*10) / 10
	}
	if c := run.Series.Temperature; c != 0 && math.Abs(c-25) > norms.Of(practical.ProbeWarm) {
		run.say(probeWarm.Finding(finding.Note, t.ID, finding.Number(c, 3, "")))
	}
	if unsteady > 0 {
		run.say(probeUnsteady.Finding(finding.Check, t.ID, finding.Count(unsteady)))
	}
	if lost > 0 {
		run.say(probeLost.Finding(finding.Warning, t.ID, finding.Count(lost)))
	}
	return points
}

func (run *Run) say(f finding.Finding) { run.Notes = append(run.Notes, f) }

// analyse reads the run, and says what was done badly.
func (run *Run) analyse(r *practical.Ready, t *journal.Trial, by []CalibratedIn) {
	run.Analysis = series.Analyse(run.Series)
	a := &run.Analysis
	for _, f := range a.Findings {
		f.Subject = t.ID
		if run.Open && f.Code == "series.no-tail" {
			continue // what comes next says it
		}
		run.say(f)
	}
	a.Findings = []finding.Finding{}
	switch {
	case a.Used != "":
		if v, ok := decimal.FromFloat(a.Volume); ok {
			v = v.Round(2)
			run.Titre = &v
		}
	case !run.Open:
		why := probeNoEnd.Message()
		run.Why = &why
		run.say(probeNoEnd.Finding(finding.Warning, t.ID))
	}
	if pref := r.Probe.Use; pref != "" && a.Used != "" && a.Used != pref && !run.Open {
		run.say(probeNotUsed.Finding(finding.Note, t.ID))
	}
	if len(a.Jumps) > 1 {
		first, last := a.Jumps[0], a.Jumps[len(a.Jumps)-1]
		run.say(probeRatio.Finding(finding.Note, t.ID, finding.Volume(first), finding.Volume(last), finding.Number(last/first, 3, "")))
	}
	if c := curve.Of(r).Curve; a.Used != "" && c != nil {
		points := run.Series.Points
		seen := points[len(points)-1].Reading > points[0].Reading
		if expected := c.Points[len(c.Points)-1].Value > c.Points[0].Value; seen != expected && (run.Kind == series.PH) == (c.Kind == "pH") {
			run.say(probeDirection.Finding(finding.Warning, t.ID))
		}
	}
	if run.Kind == series.PH && len(run.Series.Points) > 0 {
		run.calibrated(t, by)
	}
	if r.Probe.Flask.IsZero() && curve.OutlineOf(r).Assay.FlaskVolume() == 0 && a.Fit != nil {
		run.say(probeFlask.Finding(finding.Note, t.ID, finding.Volume(run.Series.Flask)))
	}
	if n := len(run.Colours); n > 0 && a.Used != "" {
		c := run.Colours[n-1]
		run.say(probeBeside.Finding(finding.Note, t.ID, finding.Text(lastColour(t)), finding.Volume(c.Volume), finding.Volume(c.Volume-a.Volume)))
	}
	run.halfSaid()
	if run.Open {
		run.Advance = run.advance(r, t)
	}
}

// lastColour is the one that was noted last.
func lastColour(t *journal.Trial) string {
	last := ""
	for _, p := range t.Points {
		if p.Colour != "" && !p.Withdrawn {
			last = p.Colour
		}
	}
	return last
}

// calibrated says where the calibration does not hold for the run.
func (run *Run) calibrated(t *journal.Trial, by []CalibratedIn) {
	if len(by) == 0 { // the end does not hang on it; a constant does
		*run = run.Withheld()
		run.say(probeUncalibrated.Finding(finding.Warning, t.ID))
		return
	}
	low, high := math.Inf(1), math.Inf(-1)
	for _, c := range by {
		low, high = min(low, number(c.Buffer)), max(high, number(c.Buffer))
	}
	if run.Analysis.Used == "" {
		return
	}
	if y := run.Series.ReadingAt(run.Analysis.Volume); y < low || y > high {
		run.say(probeOneSide.Finding(finding.Check, t.ID, finding.Number(low, 3, ""), finding.Number(high, 3, ""), finding.Number(y, 3, "")))
	}
}

// halfSaid says what stands at half-equivalence, beside the table's value.
func (run *Run) halfSaid() {
	h := run.Analysis.Half
	if h == nil {
		return
	}
	var m finding.Message
	switch x := run.Series; {
	case run.Kind == series.PH && x.AcidBase != nil && len(x.AcidBase.Sample.PKa) == 1:
		m = halfPKa.Message(finding.Number(h.Reading, 3, ""), finding.Number(x.AcidBase.Sample.PKa[0], 3, ""))
	case run.Kind == series.PH:
		m = halfPKaAlone.Message(finding.Number(h.Reading, 3, ""))
	case x.Redox != nil && x.Redox.Sample.Potential != 0:
		m = halfPotentialBy.Message(finding.Number(h.Reading, 3, "mV"), finding.Number(1000*x.Redox.Sample.Potential, 3, "mV"))
	default:
		m = halfPotential.Message(finding.Number(h.Reading, 3, "mV"))
	}
	run.Half = &m
}

// Withheld is the run without what a student is to find: constants, and what stands half-way.
func (run Run) Withheld() Run {
	run.Half, run.Analysis.Half = nil, nil
	if f := run.Analysis.Fit; f != nil {
		own := *f
		own.Constants = []series.Constant{}
		run.Analysis.Fit = &own
	}
	return run
}
