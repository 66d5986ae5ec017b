package view

import (
	"strconv"

	"exactflask/core/chemistry/equilibrium"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/model/curve"
	"exactflask/core/model/followed"
	"exactflask/core/model/series"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
	"exactflask/wording"
)

// ProbeState is how the probe stands, in words.
type ProbeState struct {
	followed.Probing
	Text string `json:"text" doc:"whether it is calibrated, and how it answers"`
	Axis string `json:"axis" doc:"name and unit of what was analysed"`
	Unit string `json:"unit" doc:"of what the probe shows, as it is written: pH or mV"`
}

// Run is a run of the probe in words.
type Run struct {
	Trial     string            `json:"trial"`
	Name      string            `json:"name"`
	Open      bool              `json:"open,omitempty"`
	Count     int               `json:"count" doc:"of points"`
	Used      *RunEnd           `json:"used,omitempty" doc:"the way that counts"`
	Ends      []RunEnd          `json:"ends"`
	Jumps     []float64         `json:"jumps" doc:"every equivalence point by its steepest slope, mL"`
	Slopes    []series.Measured `json:"slopes" doc:"first derivative, at the middle of each step"`
	Residuals []series.Measured `json:"residuals" doc:"reading less model"`
	Gran      []series.Line     `json:"gran"`
	Colours   []series.Measured `json:"colours" doc:"where the colour of an indicator beside the probe was noted"`
	Found     []string          `json:"found" doc:"constants of the model, half-equivalence, residuals: a sentence each"`
	Next      *followed.Advance `json:"next,omitempty"`
}

// RunEnd is an end point by one way, in words.
type RunEnd struct {
	Method practical.Method `json:"method" enum:"steepest,second-derivative,gran-before,gran-after,fit"`
	Name   string           `json:"name"`
	Volume float64          `json:"volume,omitempty" doc:"mL"`
	Low    float64          `json:"low,omitempty" doc:"of the interval of 95 %, mL"`
	High   float64          `json:"high,omitempty"`
	Text   string           `json:"text" doc:"the end with its standard uncertainty, or why there is none"`
	Agrees bool             `json:"agrees,omitempty" doc:"with the one that counts"`
	Told   bool             `json:"told,omitempty" doc:"it gives an end"`
}

// probe puts the state of the probe into words.
func (m *maker) probe() *ProbeState {
	p := m.ev.Probe
	if p == nil {
		return nil
	}
	out := &ProbeState{Probing: *p, Axis: "pH", Unit: string(p.Shows)}
	if kindOf(m.ev, m.r) == series.MV {
		out.Axis = m.Text("probe.axis")
	}
	pairs := []any{"count", finding.Count(p.In), "percent", finding.Number(p.Slope, 3, quantity.Percent)}
	switch {
	case p.In == 0 && len(p.Buffers) == 0:
	case p.In == 0:
		out.Text = m.Text("probe.state-none")
	case p.Slope > 0:
		out.Text = m.Text("probe.state-slope", pairs...)
	default:
		out.Text = m.Text("probe.state", pairs...)
	}
	return out
}

// kindOf is what runs of a notebook are analysed in.
func kindOf(ev evaluation.Evaluation, r *practical.Ready) series.Kind {
	if len(ev.Runs) > 0 {
		return ev.Runs[0].Kind
	}
	return followed.KindOf(r)
}

func (m *maker) runs() []Run {
	var out []Run
	for _, run := range m.ev.Runs {
		a := run.Analysis
		s := Run{Trial: run.Trial, Name: m.names[run.Trial], Open: run.Open, Ends: make([]RunEnd, len(a.Ends)), Jumps: a.Jumps, Slopes: a.Slopes, Gran: a.Gran,
			Residuals: []series.Measured{}, Colours: run.Colours, Found: []string{}, Next: run.Advance}
		if s.Colours == nil {
			s.Colours = []series.Measured{}
		}
		for _, p := range m.ev.Points {
			if p.Trial == run.Trial && !p.Withdrawn {
				s.Count++
			}
		}
		for i, e := range a.Ends {
			s.Ends[i] = m.runEnd(e)
			if e.Method == a.Used && e.Why == nil {
				used := s.Ends[i]
				s.Used = &used
			}
		}
		if run.Half != nil {
			s.Found = append(s.Found, m.Say(*run.Half))
		}
		if h := a.Half; h != nil && h.Capacity > 0 {
			s.Found = append(s.Found, m.Text("series.capacity", "capacity", finding.Number(h.Capacity, 2, quantity.MolePerL)))
		}
		if f := a.Fit; f != nil {
			s.Residuals = f.Residuals
			s.Found = append(s.Found, m.fit(f, run.Kind)...)
		}
		out = append(out, s)
	}
	return out
}

func (m *maker) runEnd(e series.End) RunEnd {
	out := RunEnd{Method: e.Method, Name: m.Text("series.method." + string(e.Method)), Agrees: e.Agrees, Told: e.Why == nil}
	if e.Why != nil {
		out.Text = m.Say(*e.Why)
		return out
	}
	out.Volume, out.Low, out.High = e.Volume, e.Low, e.High
	places := 2
	if e.Standard < 0.01 {
		places = 3
	}
	fixed := func(v float64) string { return wording.Minus(strconv.FormatFloat(v, 'f', places, 64)) }
	out.Text = m.Text("series.end", "volume", fixed(e.Volume), "standard", fixed(e.Standard)+m.After(quantity.Millilitre), "low", fixed(e.Low), "high", fixed(e.High))
	return out
}

// fit says what the model found beside the end.
func (m *maker) fit(f *series.Fit, kind series.Kind) []string {
	var out []string
	unit := quantity.One
	if kind == series.MV {
		unit = quantity.Millivolt
	}
	for _, c := range f.Constants {
		of, figures := unit, 3
		if c.Kind == series.Carbonate {
			of = quantity.One
		}
		if c.Kind == series.SamplePotential || c.Kind == series.TitrantPotential {
			figures = 4
		}
		code := "series.found"
		if c.Table != 0 {
			code = "series.found-table"
		}
		name := m.Say(series.ConstantNames[c.Kind].Message(finding.Count(c.Number)))
		out = append(out, m.Text(code, "name", name, "value", finding.Number(c.Value, figures, of), "low", finding.Number(c.Low, figures, of), "high", finding.Number(c.High, figures, of),
			"table", finding.Number(c.Table, figures, of)))
	}
	if kind == series.PH {
		out = append(out, m.Text("series.offset", "offset", finding.Number(f.Offset, 2, ""), "standard", finding.Number(f.OffsetU, 1, "")))
	}
	code := "series.random"
	if !f.Random {
		code = "series.pattern"
	}
	return append(out, m.Text(code, "noise", finding.Number(f.Noise, 2, unit)))
}

// predicted is the curve that a run is expected to follow, in what it is analysed in; none
// where the practical keeps it from the bench.
func predicted(r *practical.Ready) []equilibrium.Point {
	if !r.Probed() || r.Showing.HideExpected {
		return nil
	}
	c := curve.Of(r).Curve
	if c == nil {
		return nil
	}
	if c.Kind == "pH" {
		return c.Points
	}
	out := make([]equilibrium.Point, len(c.Points))
	for i, p := range c.Points {
		out[i] = equilibrium.Point{Volume: p.Volume, Value: 1000*p.Value - r.Probe.Electrode.Float64()}
	}
	return out
}
