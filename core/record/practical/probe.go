package practical

import (
	"fmt"

	"exactflask/core/record/journal"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
) // Probe says how a titration is followed with a probe. It is any of the kinds of
// titration; what differs is what is noted, and how the end is found.
type Probe struct {
	Shows     journal.ProbeUnit `json:"shows,omitempty" enum:"pH,mV" doc:"what the probe shows; left out where no probe is used"`
	Way       ProbeWay          `json:"way,omitempty" enum:"slope,fixed" doc:"how far to go from point to point: by the slope, or in fixed steps with finer ones in the jump; by the slope when left out"`
	Step      decimal.Decimal   `json:"step,omitzero" doc:"mL from point to point on the flat; 2.00 when left out, 0.50 of fixed steps"`
	Fine      decimal.Decimal   `json:"fine,omitzero" doc:"mL from point to point in the jump; 0.10 when left out, 0.20 of fixed steps"`
	Tail      int               `json:"tail,omitempty" minimum:"0" maximum:"20" doc:"points wanted past the jump; 3 when left out"`
	Use       Method            `json:"use,omitempty" enum:"fit,second-derivative,steepest,gran-before,gran-after" doc:"which way to the end counts; where left out the model, if its residuals look random, else the second derivative"`
	Carbonate bool              `json:"carbonate,omitempty" doc:"the hydroxide in the burette may hold carbonate: the model finds its share"`
	Flask     decimal.Decimal   `json:"flask,omitzero" doc:"mL in the flask when a run begins, with the water that covers the probe; that of the sample when left out"`
	Buffers   []decimal.Decimal `json:"buffers,omitempty" maxItems:"5" doc:"pH of the buffers that the probe is calibrated in; 4.01, 7.00 and 10.01 when left out"`
	Steady    decimal.Decimal   `json:"steady,omitzero" doc:"a value is steady when it changes by less than this a minute, pH or mV; 0.05 pH or 2 mV when left out"`
	Electrode decimal.Decimal   `json:"electrode,omitzero" doc:"mV of the reference electrode against the standard hydrogen electrode, such as 197; potentials are compared with the tables when it is said"`
}                    // ProbeWay says how far to go from point to point.
type ProbeWay string // The ways.
const (
	BySlope ProbeWay = "slope"
	InSteps ProbeWay = "fixed"
)                             // Probed tells whether the titration is followed with a probe.
func (r *Ready) Probed() bool { return r.Probe.Shows != "" }

var (
	probeTwoEnds = finding.Declare("probe.two-ends")
	probeSteps   = finding.Declare("probe.steps", "fine", "step")
	probeRange   = finding.Declare("probe.range")
	probeBuffers = finding.Declare("probe.buffers")
	probeUnsaid  = finding.Declare("probe.unsaid")
) // Usual sizes of steps, mL. Source: common practice, no source.
var (
	usualStep = map[ProbeWay]decimal.Decimal{BySlope: decimal.Must("2.00"), InSteps: decimal.Must("0.50")}
	usualFine = map[ProbeWay]decimal.Decimal{BySlope: decimal.Must("0.10"), InSteps: decimal.Must("0.20")}
	steady    = map[journal.ProbeUnit]decimal.Decimal{journal.ShownPH: decimal.Must("0.05"), journal.ShownMV: decimal.Must("2")}
	buffers   = []decimal.Decimal{decimal.Must("4.01"), decimal.Must("7.00"), decimal.Must("10.01")}
)

func (r *Ready) checkProbe() *finding.Fault {
	p := &r.Probe
	if p.Shows == "" {
		if p.Way != "" || p.Use != "" || !p.Step.IsZero() || !p.Fine.IsZero() || p.Tail != 0 || len(p.Buffers) > 0 {
			return probeUnsaid.Fault("probe.shows")
		}
		return nil
	}
	if f := choice("probe.shows", &p.Shows, journal.ShownPH, journal.ShownMV); f != nil {
		return f
	}
	if f := choice("probe.way", &p.Way, BySlope, InSteps); f != nil {
		return f
	}
	if p.Use != "" {
		if f := choice("probe.use", &p.Use, Methods...); f != nil {
			return f
		}
	}
	if r.Chemistry.EndPoints != OneEndPoint {
		return probeTwoEnds.Fault("chemistry.endPoints")
	}
	for _, d := range []struct {
		at    string
		value *decimal.Decimal
		usual decimal.Decimal
		most  decimal.Decimal
	}{{"step", &p.Step, usualStep[p.Way], decimal.Whole(20)}, {"fine", &p.Fine, usualFine[p.Way], decimal.Whole(20)}, {"steady", &p.Steady, steady[p.Shows], decimal.Whole(1000)}} {
		if d.value.IsZero() {
			*d.value = d.usual
		}
		if d.value.Sign() < 0 || d.value.Cmp(d.most) > 0 {
			return probeRange.Fault("probe." + d.at)
		}
	}
	if p.Fine.Cmp(p.Step) > 0 {
		return probeSteps.Fault("probe.fine", finding.Exact(p.Fine, "mL"), finding.Exact(p.Step, "mL"))
	}
	if p.Flask.Sign() < 0 || p.Flask.Cmp(decimal.Whole(10_000)) > 0 {
		return probeRange.Fault("probe.flask")
	}
	if p.Tail == 0 {
		p.Tail = r.Norms().Count(ProbeTail)
	}
	if p.Tail < 0 || p.Tail > 20 {
		return probeRange.Fault("probe.tail")
	}
	if p.Shows == journal.ShownPH && len(p.Buffers) == 0 {
		p.Buffers = buffers
	}
	for i, b := range p.Buffers {
		if b.Cmp(decimal.Whole(-2000)) < 0 || b.Cmp(decimal.Whole(2000)) > 0 || p.Shows == journal.ShownPH && (b.Sign() < 0 || b.Cmp(decimal.Whole(14)) > 0) {
			return probeBuffers.Fault(fmt.Sprintf("probe.buffers[%d]", i))
		}
	}
	return nil
}

// Method is a way to an end point.
type Method string

// The ways.
const (
	Steepest   Method = "steepest"
	SecondZero Method = "second-derivative"
	GranBefore Method = "gran-before"
	GranAfter  Method = "gran-after"
	Fitted     Method = "fit"
)

// Methods are all of them, in the order in which one is used.
var Methods = []Method{Fitted, SecondZero, Steepest, GranBefore, GranAfter}
