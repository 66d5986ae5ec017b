package sim

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"exactflask/core/judgement/experiment"
	"exactflask/core/model/assay"
	"exactflask/core/model/curve"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

var (
	noAnswer  = finding.Declare("sim.no-answer", "why")
	nothing   = finding.Declare("sim.nothing")
	otherThan = finding.Declare("sim.other")
)

// Rehearse lets a careful student do a practical before it is set. It says at which field it
// fails where no answer follows, or not the one that is asked for; nil where all is well.
func Rehearse(r *practical.Ready) *finding.Fault {
	fault := rehearse(r)
	if fault == nil || !r.Weighs() || r.SampleStep().Mass.Sign() > 0 {
		return fault
	}
	// How much is weighed is not said: a student weighs something, as much as serves.
	for _, mass := range masses {
		p := r.Practical
		p.Route = slices.Clone(p.Route)
		p.Route[0].Mass = mass
		if weighed, wrong := p.Check(); wrong == nil && rehearse(weighed) == nil {
			return nil
		}
	}
	return fault
}

// masses are what a student may weigh, g.
var masses = []decimal.Decimal{decimal.Must("0.250"), decimal.Must("1.00"), decimal.Must("4.00"), decimal.Must("15.0")}

// mostFillings of the burette are simulated: what takes more, such as a slip of the decimal point, is
// foreseen from a usual titre, and said elsewhere.
const mostFillings = 4

func rehearse(r *practical.Ready) *finding.Fault {
	if endless(r) {
		return foreseen(r)
	}
	entries, err := Titrate(r, Student{Seed: 1, Skill: Careful, Device: "rehearsal", Begin: time.Unix(0, 0)})
	if err != nil {
		return stopped(r, err)
	}
	ev := experiment.Evaluate(r, entries, experiment.All)
	for i, s := range ev.Samples {
		if s.Result == nil {
			return noAnswer.Fault(fmt.Sprintf("samples[%d]", i), finding.Said(why(ev.Findings)))
		}
	}
	switch {
	case len(ev.Samples) > 0:
	case ev.Result == nil:
		return noAnswer.Fault("asked.what", finding.Said(why(ev.Findings)))
	case ev.Result.What != r.Asked.What:
		return otherThan.Fault("asked.what")
	}
	return nil
}

// endless tells whether a titre would take more fillings than are simulated.
func endless(r *practical.Ready) bool {
	return curve.OutlineOf(r).Titre.Last > mostFillings*r.Glass.Burette.Capacity.Float64()
}

// stopped says at which field a run that cannot be made fails.
func stopped(r *practical.Ready, err error) *finding.Fault {
	var problem *assay.Problem
	if !errors.As(err, &problem) {
		return noAnswer.Fault("asked.what", finding.Said(nothing.Message()))
	}
	path := "asked.what"
	switch problem.Message.Code {
	case "assay.nothing-expected": // nobody knows what a run would read: any titre serves
		return foreseen(r)
	case "assay.no-mass":
		path = "route[0].mass"
	case "assay.excess-used-up":
		path = "asked.expectedTitre"
	case "assay.no-titre-gives":
		path = fmt.Sprintf("route[%d].volume", len(r.Route)-1)
	case "assay.more-left-than-added":
		path = fmt.Sprintf("route[%d].concentration", r.Excess())
	}
	return noAnswer.Fault(path, finding.Said(problem.Message))
}

// foreseen says whether an answer follows of a titre as they usually are, to a first end point too
// where there are two.
func foreseen(r *practical.Ready) *finding.Fault {
	titre := r.Norms().Of(practical.UsualTitre)
	shares := []float64{0}
	if r.Chemistry.EndPoints != practical.OneEndPoint { // the first lies before the half or behind it, by what is in the mixture
		shares = []float64{0.4, 0.7}
	}
	var fault *finding.Fault
	for _, share := range shares {
		usual := assay.Titres{First: share * titre, Last: titre}
		a, trials := assay.New(r, assay.Held{}).Foreseen(usual, r.Glass.Burette.Step(r.Rules.Readings.Resolution), 1)
		_, problem := a.Derive(trials)
		if problem == nil {
			return nil
		}
		fault = noAnswer.Fault("asked.what", finding.Said(problem.Message))
	}
	return fault
}

// why is what an evaluation says of an answer that cannot be.
func why(all []finding.Finding) finding.Message {
	for _, f := range all {
		if f.Severity == finding.Warning && (strings.HasPrefix(f.Code, "result.") || strings.HasPrefix(f.Code, "titre.")) {
			return f.Message
		}
	}
	return nothing.Message()
}
