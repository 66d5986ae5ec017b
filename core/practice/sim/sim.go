// Package sim is a student at a bench, without a bench: from a practical, a true value,
// a seed and a skill comes the journal that such a student would write. Every reading
// is the model run forwards, with the noise of glass, eye and drop that the uncertainty
// budget tells of.
package sim

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/diagnosis"
	"exactflask/core/judgement/experiment"
	"exactflask/core/model/assay"
	"exactflask/core/model/budget"
	dv "exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

// Skill is how well a student works.
type Skill string

// The skills. A careful one has the noise of the budget and no other; a usual one
// reads to the step beside now and then, and overshoots now and then; a hasty one often.
// Common practice, no source.
const (
	Careful Skill = "careful"
	Usual   Skill = "usual"
	Hasty   Skill = "hasty"
)

// habits are what a skill does: the spread of the eye in steps of the reading, and how
// often a trial is overshot, by how many drops at most.
var habits = map[Skill]struct{ eye, overshoot, drops float64 }{Careful: {0, 0, 0}, Usual: {0.5, 0.1, 3}, Hasty: {1.2, 0.4, 9}}

// Student is who is simulated.
type Student struct {
	Seed   uint64
	Skill  Skill
	Answer float64  // true, in the unit that is asked for; 0: what the practical expects
	Second float64  // of the other component of a mixture; with Answer
	Faults []string // usual faults that are made all the time, such as cause.bubble

	Stop    int  // accurate trials after which the student stops; 0: goes on until they agree
	Running bool // with Stop: one more trial has been begun
	Coarse  bool // with a probe: steps that are too wide where the curve is steep
	Blind   bool // with a probe: it is not calibrated
	Known   *journal.Known
	Author  string
	Device  string
	Begin   time.Time
}

// mostTrials is when a student gives up.
const mostTrials = 9

var (
	unknownFault = finding.Declare("sim.fault", "code")
	unknownSkill = finding.Declare("sim.skill", "skill")
)

// Run works a practical through and returns the journal.
//
// Errors: a *finding.Fault where a fault cannot be made in this practical; an
// *assay.Problem where no titre follows from the true value.
func Titrate(r *practical.Ready, s Student) ([]journal.Entry, error) {
	if _, ok := habits[s.Skill]; !ok {
		return nil, unknownSkill.Fault("skill", finding.Text(string(s.Skill)))
	}
	w := &worker{r: r, s: s, rand: rand.New(rand.NewPCG(s.Seed, 0x5eed)), shared: map[string]float64{}, at: s.Begin}
	for _, code := range s.Faults {
		f, ok := diagnosis.PlantedFault(r, code)
		if !ok {
			return nil, unknownFault.Fault("faults", finding.Text(code))
		}
		w.faults = append(w.faults, f)
	}
	if err := w.work(); err != nil {
		return nil, err
	}
	return w.out, nil
}

// worker is a student at work.
type worker struct {
	r      *practical.Ready
	s      Student
	rand   *rand.Rand
	faults []diagnosis.Planted
	held   assay.Held
	shared map[string]float64 // errors of glass and solutions, which last, in standard deviations
	out    []journal.Entry
	at     time.Time
	probe  *Instrument // where one is used
}

func (w *worker) add(p journal.Part) string {
	id := fmt.Sprintf("sim-%016x-%04d", w.s.Seed, len(w.out)+1)
	w.at = w.at.Add(time.Duration(20+w.rand.IntN(70)) * time.Second)
	w.out = append(w.out, journal.Entry{ID: id, Author: w.s.Author, Device: w.s.Device, Clock: int64(len(w.out) + 1), At: w.at, Part: p})
	return id
}

// setUp goes through the list; a hasty student leaves some of it out.
func (w *worker) setUp() {
	luck := w.rand // what happens in the trials does not hang on how the list is kept
	w.rand = rand.New(rand.NewPCG(w.s.Seed, 0x5e7))
	defer func() { w.rand = luck }()
	for _, item := range w.r.Setup() {
		switch {
		case w.s.Skill == Hasty && w.rand.Float64() < 0.15:
		case item == practical.LeakWait:
			w.add(journal.Timer{For: journal.ForLeak, Seconds: 60})
		default:
			w.add(journal.Checked{Item: item})
		}
	}
}

func (w *worker) work() error {
	w.setUp()
	w.calibrate()
	if w.s.Known != nil {
		w.add(*w.s.Known)
		value, err := decimal.Parse(w.s.Known.Written)
		if err != nil {
			return err
		}
		w.held.Known = &assay.Found{Concentration: value}
	}
	if w.r.WeighsStandard() {
		head := w.r.Made[0]
		w.held.Standard = w.weighed(journal.Weighing{What: cmp.Or(head.What, w.r.Chemistry.Titrant.Name), Standard: true}, head.Mass.Float64())
	}
	if w.r.MadeOnly() {
		if stock := w.r.Made[0]; !w.r.WeighsStandard() {
			w.add(journal.Prepared{Stock: stock.Concentration.String(), Taken: stock.Volume.String(), MadeUp: w.r.Made[1].Volume.String()})
		}
		return nil
	}
	if w.r.Weighs() && !w.r.SampleStep().EachTrial && w.r.SampleStep().Mass.Sign() > 0 {
		w.held.Mass = w.weigh("")
	}
	if w.r.ByBlank() {
		for range 2 {
			if err := w.blank(); err != nil {
				return err
			}
		}
	}
	samples := w.r.Samples
	if len(samples) == 0 {
		samples = []practical.Sample{{}}
	}
	for _, sample := range samples {
		if err := w.titrate(sample.Name); err != nil {
			return err
		}
	}
	return nil
}

// titrate works on one sample until its titres agree, or the student stops.
func (w *worker) titrate(sample string) error {
	if !w.r.Rules.Readings.NoRough {
		if err := w.trial(journal.Rough, sample, false); err != nil {
			return err
		}
	}
	for n := 1; n <= mostTrials; n++ {
		if w.s.Stop > 0 && n > w.s.Stop {
			if w.s.Running {
				return w.trial(journal.Accurate, sample, true)
			}
			return nil
		}
		if err := w.trial(journal.Accurate, sample, false); err != nil {
			return err
		}
		if w.s.Stop == 0 && w.agreed(sample) {
			return nil
		}
	}
	return nil
}

// agreed tells whether the titres agree by now, as the bench would say.
func (w *worker) agreed(sample string) bool {
	ev := experiment.Evaluate(w.r, w.out, experiment.Record)
	for _, s := range ev.Samples {
		if s.Name == sample {
			return s.Agreement.Status == agreement.Agreed
		}
	}
	return sample == "" && ev.Agreement.Status == agreement.Agreed
}

// trial is one titration; only begun: it is still running.
func (w *worker) trial(kind journal.TrialType, sample string, begun bool) error {
	id := w.add(journal.Opening{Type: kind})
	if sample != "" {
		w.add(journal.Belonging{Of: id, Sample: sample})
	}
	m := assay.Measured{Trial: id, Burette: journal.Delivery{Rising: w.r.Glass.Burette.Rising}}
	if w.r.Weighs() && w.r.SampleStep().EachTrial {
		m.Mass = w.weigh(id)
	}
	if w.r.SampleBurette() {
		m.Sample = w.pour(id, w.r.SampleStep().Volume.Float64(), journal.SampleStart, journal.SampleEnd)
	}
	if w.r.ReagentBurette() {
		m.Reagent = w.pour(id, w.r.Steps[w.r.Excess()].Volume.Float64(), journal.ReagentStart, journal.ReagentEnd)
	}
	titres, nodes, err := w.takes(m)
	if err != nil {
		return err
	}
	if kind == journal.Rough { // run past the end
		titres.Last += 0.3 + 0.7*w.rand.Float64()
	}
	if w.r.Probed() {
		return w.follow(id, titres.Last, begun)
	}
	w.read(id, titres, nodes, begun)
	return nil
}

// blank is a titration of the reagent in excess alone.
func (w *worker) blank() error {
	id := w.add(journal.Opening{Type: journal.Blank})
	if w.shared["blank"] == 0 { // how much reagent is there, nobody knows before
		nominal := w.r.Glass.Burette.Capacity.Float64() * 0.9
		if t := w.r.Asked.Titre.Float64(); t > 0 {
			nominal = min(nominal, 2*t)
		}
		w.shared["blank"] = nominal * (1 + 0.01*w.rand.NormFloat64())
	}
	start, end := w.read(id, assay.Titres{Last: w.shared["blank"]}, nil, false)
	w.held.Blanks = append(w.held.Blanks, assay.Measured{Trial: id, End: end,
		Burette: journal.Delivery{Start: &start, Rising: w.r.Glass.Burette.Rising}})
	return nil
}

// takes is what a trial really takes, and what its record is made of.
func (w *worker) takes(m assay.Measured) (assay.Titres, []dv.Node, error) {
	a := assay.New(w.r, w.really())
	d := a.Structure([]assay.Measured{m})
	off := make([]float64, len(d.Nodes))
	for _, in := range budget.Inputs(a, d) {
		if in.Code == "repeatability" { // follows from the others
			continue
		}
		z := w.draw(in)
		for _, e := range in.Effects {
			off[e.Node] += z * in.Standard * e.Gain
		}
	}
	for i := range d.Nodes {
		n := &d.Nodes[i]
		if !n.Leaf() || n.Source.Titration() {
			off[i] = 0 // a burette's own errors are made when it is read
			continue
		}
		for _, f := range w.faults {
			off[i] -= f.On(w.r, n)
		}
	}
	if w.s.Answer == 0 {
		t, problem := a.Expected(m)
		if problem != nil {
			return assay.Titres{}, nil, problem
		}
		switch w.r.Chemistry.EndPoints { // some of each component
		case practical.HydroxideCarbonate:
			t.First = 0.6 * t.Last
			return t, d.Nodes, nil
		case practical.CarbonateHydrogencarbonate:
			t.First = 0.4 * t.Last
			return t, d.Nodes, nil
		}
		if err := w.expects(a, m, t); err != nil {
			return assay.Titres{}, nil, err
		}
	}
	t, problem := a.Really(m, w.s.Answer, w.s.Second, off)
	if problem != nil {
		return assay.Titres{}, nil, problem
	}
	return t, d.Nodes, nil
}

// really is what is held with the reagent as it is, not as the blanks found it.
func (w *worker) really() assay.Held {
	held := w.held
	if b := w.shared["blank"]; b > 0 {
		all, _ := decimal.FromFloat(b) // a volume is finite
		held.Blanks = []assay.Measured{assay.Ran("blank", journal.Reading{Text: "0"}, journal.Reading{Value: all, Text: all.String()})}
	}
	return held
}

// expects takes what the practical expects for the true value.
func (w *worker) expects(a *assay.Assay, m assay.Measured, t assay.Titres) error {
	m.Burette = journal.Delivery{Start: &journal.Reading{}}
	m.End.Value, _ = decimal.FromFloat(t.Last) // a volume that was solved for is finite
	answer, problem := a.Answer(m)
	if problem != nil {
		return problem
	}
	w.s.Answer = answer.Value
	return nil
}

// draw is how far off a source of error is, in standard deviations: once for what
// lasts, anew for what comes anew.
func (w *worker) draw(in budget.Input) float64 {
	anew := func() float64 {
		switch in.Shape {
		case budget.Rectangular:
			return math.Sqrt(3) * (2*w.rand.Float64() - 1)
		case budget.Triangular:
			return math.Sqrt(6) * (w.rand.Float64() + w.rand.Float64() - 1)
		}
		return w.rand.NormFloat64()
	}
	switch in.Code {
	case "reading", "drop", "repeatability", "balance":
		return anew()
	}
	key := in.Code + " " + in.Of.String()
	if _, drawn := w.shared[key]; !drawn {
		w.shared[key] = anew()
	}
	return w.shared[key]
}
