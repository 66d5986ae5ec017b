// Package plan looks at a practical before it is done: the expected titre on
// its burette, the predicted curve, which indicators serve, how sure the
// result can be, and what would make it better. All of it comes from the model
// of package assay.
package plan

import (
	"math"

	"exactflask/core/assay"
	"exactflask/core/budget"
	"exactflask/core/catalog"
	"exactflask/core/chem"
	"exactflask/core/equilibrium"
	"exactflask/core/experiment"
	"exactflask/core/finding"
	"exactflask/core/practical"
	"exactflask/core/quantity"
)

// Range says how an expected titre lies on the burette.
type Range string

// The ranges: under 10 mL a titre is too small, beyond one fill too large; 40
// to 90 % of the burette is best. Source: common practice, no source.
const (
	RangeUnknown Range = "unknown"
	RangeSmall   Range = "small"
	RangeLow     Range = "low" // usable, below the best part
	RangeBest    Range = "best"
	RangeHigh    Range = "high" // usable, above the best part
	RangeLarge   Range = "large"
)

// Assessment is everything that is said about a plan.
type Assessment struct {
	Equation    string            `json:"equation" doc:"plain"`
	Ratio       [2]int            `json:"ratio" doc:"titrant to what it titrates"`
	Titre       float64           `json:"titre" doc:"expected, mL; 0 where it is not known"`
	First       float64           `json:"first,omitempty" doc:"to the first of two end points, mL"`
	Range       Range             `json:"range" enum:"unknown,small,low,best,high,large"`
	Fill        float64           `json:"fill" doc:"part of the burette that it takes, %"`
	Uncertainty float64           `json:"uncertainty" doc:"predicted relative standard uncertainty, %; 0 where it is not known"`
	Curve       *Curve            `json:"curve,omitempty"`
	Indicators  []Judged          `json:"indicators" doc:"the best first"`
	Chosen      *Judged           `json:"chosen,omitempty" doc:"the indicator of the practical"`
	Meter       bool              `json:"meter" doc:"no indicator serves: use a pH meter"`
	Proposals   []Proposal        `json:"proposals"`
	Findings    []finding.Finding `json:"findings"`
}

// Curve is the predicted titration curve.
type Curve struct {
	Kind        string              `json:"kind" enum:"pH,V"`
	Points      []equilibrium.Point `json:"points"`
	Equivalence []equilibrium.Point `json:"equivalence" doc:"the one of the equation first"`
	Half        []equilibrium.Point `json:"half" doc:"half-equivalence points, where pH is near pKa"`
	Before      equilibrium.Point   `json:"before" doc:"one drop before the equivalence"`
	After       equilibrium.Point   `json:"after" doc:"one drop after it"`
}

// Judged is an indicator with its verdict.
type Judged struct {
	ID       string               `json:"id"`
	Low      float64              `json:"low" doc:"pH, or V, at which the change begins"`
	High     float64              `json:"high"`
	Stop     float64              `json:"stop" doc:"where the eye stops"`
	Before   string               `json:"before" doc:"code of a colour"`
	After    string               `json:"after" doc:"code of a colour"`
	Acid     bool                 `json:"acid" doc:"the acid, or the oxidant, is in the burette"`
	End      equilibrium.EndPoint `json:"end"`
	Answer   float64              `json:"answer" doc:"what it does to the answer, %"`
	Selfmade bool                 `json:"self,omitempty" doc:"the titrant or starch shows the end; nothing is computed"`
}

// Proposal is one change that brings the titre into range.
type Proposal struct {
	What  string  `json:"what" enum:"aliquot,titrant,dilution"`
	Value float64 `json:"value" doc:"mL of the aliquot, mol/L of the titrant, or how many times the sample is diluted"`
	Titre float64 `json:"titre" doc:"that follows, mL"`
	// Practical is the plan with the change made.
	Practical practical.Practical `json:"practical"`
}

// outline is what the model says of a practical before anything is measured.
type outline struct {
	r      *practical.Ready
	assay  *assay.Assay
	titre  assay.Titres
	flask  assay.Flask
	strong float64 // concentration of what is titrated in the flask, mol/L
	ratio  float64 // amount of the titrated substance for one of titrant
}

// defaultFlask is the volume that is taken where the route does not say what is
// in the flask, mL.
const defaultFlask = 25

func outlineOf(r *practical.Ready) outline {
	first := r.Reactions[0]
	o := outline{r: r, assay: assay.New(r, assay.Held{}), ratio: float64(first.NuTo) / float64(first.NuFrom)}
	t, problem := o.assay.Expected(assay.Measured{Trial: "plan"})
	if problem != nil {
		return o
	}
	o.titre = t
	o.flask, _ = o.assay.InFlask(assay.Measured{Trial: "plan"}, t.Last)
	if o.flask.Volume <= 0 {
		o.flask.Volume = defaultFlask
	}
	o.strong = o.flask.Amount / o.flask.Volume * 1000
	return o
}

// Assess looks at a practical. Source of the advice: common practice, no
// source, where nothing else is said.
func Assess(r *practical.Ready) Assessment {
	o := outlineOf(r)
	capacity := r.Glass.Burette.Capacity.Float64()
	first := r.Reactions[0]
	a := Assessment{Equation: r.Equation.Plain(), Ratio: [2]int{first.NuFrom, first.NuTo}, Titre: o.titre.Last, First: o.titre.First, Range: RangeUnknown,
		Indicators: []Judged{}, Proposals: []Proposal{}, Findings: []finding.Finding{}}
	if a.Titre > 0 {
		a.Fill = 100 * a.Titre / capacity
		a.Range = rangeOf(a.Titre, capacity)
		a.propose(o, capacity)
		a.Uncertainty = o.uncertainty()
	}
	if !a.acidBase(o) {
		a.redox(o)
	}
	a.remarks(o)
	return a
}

// rangeOf says how a titre lies on a burette.
func rangeOf(titre, capacity float64) Range {
	switch fill := titre / capacity; {
	case titre < smallest:
		return RangeSmall
	case titre > capacity:
		return RangeLarge
	case fill < bestFrom:
		return RangeLow
	case fill > bestTo:
		return RangeHigh
	}
	return RangeBest
}

// Limits of a good titre: common practice, no source.
const (
	smallest = 10.0 // mL
	bestFrom = 0.4  // of the burette
	bestTo   = 0.9
	middle   = 0.55 // of it is aimed at
)

// Best is the best part of a burette of a capacity, mL.
func Best(capacity float64) (from, to float64) {
	return math.Max(bestFrom*capacity, smallest), bestTo * capacity
}

// uncertainty is the relative standard uncertainty of a result of three titres
// as they are expected, %; 0 where nothing can be said.
func (o outline) uncertainty() float64 {
	b := o.r.Glass.Burette
	if o.titre.Last > 4*b.Capacity.Float64() {
		return 0
	}
	a, trials := o.assay.Foreseen(o.titre, b.Step(o.r.Rules.Readings.Resolution), 3)
	d, problem := a.Derive(trials)
	if problem != nil {
		return 0
	}
	p := d.Program()
	return budget.Of(p, budget.Inputs(a, d), p.Last()).Relative
}

// Begin says which of a reaction's two substances is usually run in:
// hydroxides, oxidants and strong acids are, iodine is titrated with
// thiosulfate. Source: common practice, no source.
func Begin(r catalog.Reaction) (titrant, analyte chem.Formula) {
	find := func(id string, at int) chem.Formula {
		if s, ok := catalog.BuiltIn().SubstanceByID(id); ok {
			return chem.MustFormula(s.Formula)
		}
		eq, err := chem.ParseEquation(r.Equation)
		if err != nil || at >= len(eq.Reactants) {
			return chem.Formula{}
		}
		return eq.Reactants[at].Formula
	}
	first, second := find(r.Acid, 0), find(r.Base, 1)
	if second.Plain() == "NaOH" || second.Plain() == "KOH" || r.ID == "iodine-thiosulfate" {
		return second, first
	}
	return first, second
}

var (
	tooSmall      = finding.Declare("plan.titre-small", "titre")
	tooLarge      = finding.Declare("plan.titre-large", "titre", "capacity")
	low           = finding.Declare("plan.titre-low", "titre", "percent")
	high          = finding.Declare("plan.titre-high", "titre", "percent")
	unknownTitre  = finding.Declare("plan.titre-unknown")
	meterOnly     = finding.Declare("plan.meter")
	glassCylinder = finding.Declare("glass.cylinder")
	verdicts      = finding.Family("plan.indicator-", []string{"suits", "marginal", "early", "late", "slow", "never"}, "name", "error", "percent", "answer", "better")
	_             = finding.Family("plan.range.", []Range{RangeUnknown, RangeSmall, RangeLow, RangeBest, RangeHigh, RangeLarge}, "titre", "percent")
	_             = finding.Family("plan.proposal.", []string{"aliquot", "titrant", "dilution"}, "value", "titre")
)

// remarks adds what should be said of the plan as a whole.
func (a *Assessment) remarks(o outline) {
	add := func(f finding.Finding) { a.Findings = append(a.Findings, f) }
	titre, fill := finding.Number(a.Titre, 3, quantity.Millilitre), finding.Number(a.Fill, 2, quantity.Percent)
	switch a.Range {
	case RangeSmall:
		add(tooSmall.Finding(finding.Warning, "", titre))
	case RangeLarge:
		add(tooLarge.Finding(finding.Warning, "", titre, finding.Exact(o.r.Glass.Burette.Capacity, quantity.Millilitre)))
	case RangeLow:
		add(low.Finding(finding.Note, "", titre, fill))
	case RangeHigh:
		add(high.Finding(finding.Note, "", titre, fill))
	case RangeUnknown:
		add(unknownTitre.Finding(finding.Note, ""))
	}
	if c := a.Chosen; c != nil && !c.Selfmade {
		kind, severity := c.End.Reason, finding.Warning
		switch c.End.Verdict {
		case equilibrium.Suits:
			kind, severity = "suits", finding.Note
		case equilibrium.Marginal:
			kind, severity = "marginal", finding.Check
		}
		size := func(v float64, unit quantity.Unit) finding.Value { return finding.Number(math.Abs(v), 2, unit) }
		add(verdicts[kind].Finding(severity, "", indicatorName(c.ID), size(c.End.Error, quantity.Millilitre), size(c.End.Percent, quantity.Percent), size(c.Answer, quantity.Percent), a.better(c.ID)))
	}
	if a.Meter {
		add(meterOnly.Finding(finding.Warning, ""))
	}
	if tolerance := o.r.Rules.Agreement.Tolerance; tolerance.Sign() > 0 && a.Titre > 0 {
		if f, loose := experiment.Loose(tolerance, number(a.Titre, 2)); loose {
			add(f)
		}
	}
	for _, s := range o.r.Steps {
		if s.By == practical.ByCylinder && s.Kind != practical.MakeUp {
			add(glassCylinder.Finding(finding.Warning, ""))
			break
		}
	}
}

func indicatorName(id string) finding.Value {
	i, _ := catalog.BuiltIn().Indicator(id)
	return finding.Said(finding.Message{Code: i.NameCode()})
}

// most is how many better indicators are named.
const most = 3

// better names the best indicators but for this one.
func (a *Assessment) better(id string) finding.Value {
	var out []finding.Value
	for _, i := range a.Indicators {
		if i.ID != id && i.End.Verdict != equilibrium.Unsuitable && len(out) < most {
			out = append(out, indicatorName(i.ID))
		}
	}
	return finding.List(out...)
}
