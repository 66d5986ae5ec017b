// Package curve predicts the titration curve of a practical, acid-base or redox,
// and says which indicators serve: where each makes one stop, and what that does
// to the answer. It asks the model of package assay for titre and flask, and
// package equilibrium for pH and potential.
package curve

import (
	"math"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/equilibrium"
	"exactflask/core/model/assay"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Prediction is what can be said of the end of a titration before it is done.
type Prediction struct {
	Curve      *Curve      `json:"curve,omitempty"`
	Indicators []Judged    `json:"indicators" doc:"the best first"`
	Chosen     *Judged     `json:"chosen,omitempty" doc:"the indicator of the practical; left out where it could not be checked"`
	Rests      []Potential `json:"rests,omitempty" doc:"the potentials that a redox curve rests on"`
	Meter      bool        `json:"meter" doc:"no indicator serves: use a pH meter"`

	said    []finding.Finding
	twoEnds bool
}

// Curve is the predicted titration curve.
type Curve struct {
	Kind        string              `json:"kind" enum:"pH,V"`
	Points      []equilibrium.Point `json:"points"`
	Equivalence []equilibrium.Point `json:"equivalence" doc:"the one of the equation first"`
	Half        []equilibrium.Point `json:"half" doc:"half-equivalence points, where pH is near pKa"`
	Boiled      []equilibrium.Point `json:"boiled,omitempty" doc:"of a carbonate: the same with the carbon dioxide boiled out"`
	Before      equilibrium.Point   `json:"before" doc:"one drop before the equivalence"`
	After       equilibrium.Point   `json:"after" doc:"one drop after it"`
}

// Potential is a potential that a curve rests on.
type Potential struct {
	Half   string                `json:"half" doc:"the half-reaction"`
	Value  decimal.Decimal       `json:"value" doc:"V"`
	Kind   catalog.PotentialKind `json:"kind" enum:"standard,formal"`
	Medium string                `json:"medium,omitempty" doc:"code of the medium of a formal potential"`
}

// Judged is an indicator with its verdict.
type Judged struct {
	ID     string               `json:"id"`
	Low    float64              `json:"low" doc:"pH, or V, at which the change begins"`
	High   float64              `json:"high"`
	Stop   float64              `json:"stop" doc:"where the eye stops"`
	Before string               `json:"before" doc:"code of a colour"`
	After  string               `json:"after" doc:"code of a colour"`
	Acid   bool                 `json:"acid" doc:"the acid, or the oxidant, is in the burette"`
	End    equilibrium.EndPoint `json:"end"`
	Answer float64              `json:"answer" doc:"what it does to the answer, %"`
	// Boiled is the end with the carbon dioxide boiled out.
	Boiled *equilibrium.EndPoint `json:"boiled,omitempty" doc:"of a carbonate: the end with the carbon dioxide boiled out"`
	// Activities tells that the verdict rests on activities (Davies), and would
	// be another by concentrations alone.
	Activities bool `json:"activities,omitempty" doc:"the verdict rests on activities (Davies); by concentrations it would be another"`
	Own        bool `json:"own,omitempty" doc:"it stops where the practical says, not the catalogue"`
	Selfmade   bool `json:"self,omitempty" doc:"the titrant itself or starch shows the end"`
}

// Outline is what the model says of a practical before anything is measured.
type Outline struct {
	Ready    *practical.Ready
	Assay    *assay.Assay
	Titre    assay.Titres
	Flask    assay.Flask
	Strength float64 // concentration of what is titrated in the flask, mol/L
	Ratio    float64 // amount of the titrated substance for one of titrant
}

// DefaultFlask is the volume that is taken where the route does not say what is
// in the flask, mL.
const DefaultFlask = 25

// OutlineOf asks the model what to expect; the titre is 0 where nothing is known.
func OutlineOf(r *practical.Ready) Outline {
	if r.MadeOnly() {
		return Outline{Ready: r, Assay: assay.New(r, assay.Held{}), Ratio: 1}
	}
	first := r.Reactions[0]
	o := Outline{Ready: r, Assay: assay.New(r, assay.Held{}), Ratio: float64(first.NuTo) / float64(first.NuFrom)}
	t, problem := o.Assay.Expected(assay.Measured{Trial: "plan"})
	if problem != nil {
		return o
	}
	o.Titre = t
	o.Flask, _ = o.Assay.InFlask(assay.Measured{Trial: "plan"}, t.Last)
	if o.Flask.Volume <= 0 {
		o.Flask.Volume = DefaultFlask
	}
	o.Strength = o.Flask.Amount / o.Flask.Volume * 1000
	return o
}

// Predict works curve and indicators out. Where the equilibrium data of a
// substance, or a concentration, are not known there is no curve.
func Predict(o Outline) Prediction {
	p := Prediction{Indicators: []Judged{}, twoEnds: o.Ready.Chemistry.EndPoints != practical.OneEndPoint}
	if o.Ready.MadeOnly() {
		return p
	}
	if !p.acidBase(o) {
		p.redox(o)
	}
	if p.Chosen == nil && o.Ready.Indicator.Kind != catalog.Meter {
		p.say(unchecked.Finding(finding.Note, "", IndicatorName(o.Ready.Indicator.ID)))
	}
	return p
}

// Of is Predict for a practical as it is set, worked out once.
func Of(r *practical.Ready) *Prediction {
	return r.Kept("curve", func() any { p := Predict(OutlineOf(r)); return &p }).(*Prediction)
}

func (p *Prediction) say(f finding.Finding) { p.said = append(p.said, f) }

var (
	meterOnly = finding.Declare("plan.meter")
	unchecked = finding.Declare("plan.indicator-unchecked", "name")
	verdicts  = finding.Family("plan.indicator-", []string{"suits", "marginal", "early", "late", "slow", "never"},
		"name", "error", "percent", "answer", "better")
	boilItOut  = finding.Declare("plan.indicator-boil", "name", "error")
	activities = finding.Declare("plan.indicator-activities", "name")
	lessThan   = finding.Declare("plan.less-than", "value")
	softFirst  = finding.Declare("plan.first-end-soft")
	betterOnes = finding.Declare("plan.better", "names")
	ownStop    = finding.Declare("plan.indicator-own", "name", "stop")
)

// Off is how far past the equivalence the chosen indicator stops, mL, where that
// is more than a drop and it stops at all; else 0.
func (p *Prediction) Off() float64 {
	if c := p.Chosen; c != nil && c.End.Verdict != equilibrium.Suits && c.End.Volume > 0 {
		return c.End.Error
	}
	return 0
}

// Remarks says what there is to say of the indicator and of the curve.
func (p *Prediction) Remarks() []finding.Finding {
	out := append([]finding.Finding{}, p.said...)
	if c := p.Chosen; c != nil {
		out = append(out, p.Verdict())
		if c.Activities {
			out = append(out, activities.Finding(finding.Note, "", IndicatorName(c.ID)))
		}
		if c.Own {
			out = append(out, ownStop.Finding(finding.Note, "", IndicatorName(c.ID), finding.Number(c.Stop, 2, "")))
		}
	}
	if p.twoEnds {
		out = append(out, softFirst.Finding(finding.Note, ""))
	}
	if p.Meter {
		out = append(out, meterOnly.Finding(finding.Warning, ""))
	}
	return out
}

// size is how far off something is: no finer than a hundredth, which is as fine as
// a burette is read.
func size(v float64, unit quantity.Unit) finding.Value {
	d, ok := decimal.FromFloat(math.Abs(v))
	hundredth := decimal.Must("0.01")
	if d = d.Round(2); !ok || d.Cmp(hundredth) < 0 {
		return finding.Said(lessThan.Message(finding.Exact(hundredth, unit)))
	}
	return finding.Exact(d, unit)
}

// Verdict says of the chosen indicator whether it serves.
func (p *Prediction) Verdict() finding.Finding {
	c := p.Chosen
	kind, severity := c.End.Reason, finding.Warning
	switch c.End.Verdict {
	case equilibrium.Suits:
		kind, severity = "suits", finding.Note
	case equilibrium.Marginal:
		kind, severity = "marginal", finding.Check
	default:
		if c.Boiled != nil && c.Boiled.Verdict == equilibrium.Suits {
			return boilItOut.Finding(finding.Check, "", IndicatorName(c.ID), size(c.End.Error, quantity.Millilitre))
		}
	}
	return verdicts[kind].Finding(severity, "", IndicatorName(c.ID), size(c.End.Error, quantity.Millilitre),
		size(c.End.Percent, quantity.Percent), size(c.Answer, quantity.Percent), p.better(c.ID))
}

// IndicatorName is the name of an indicator, to be spoken.
func IndicatorName(id string) finding.Value {
	i, _ := catalog.BuiltIn().Indicator(id)
	return finding.Said(finding.Message{Code: i.NameCode()})
}

// most is how many better indicators are named.
const most = 3

// better names the best indicators but for this one.
func (p *Prediction) better(id string) finding.Value {
	var out []finding.Value
	for _, i := range p.Indicators {
		if i.ID != id && i.End.Verdict != equilibrium.Unsuitable && len(out) < most {
			out = append(out, IndicatorName(i.ID))
		}
	}
	if len(out) == 0 {
		return finding.Text("")
	}
	return finding.Said(betterOnes.Message(finding.List(out...)))
}
