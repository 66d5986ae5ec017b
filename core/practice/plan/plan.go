// Package plan looks at a practical before it is done: the expected titre on
// its burette, the predicted curve, which indicators serve, how sure the
// result can be, and what would make it better. All of it comes from the model
// of package assay.
package plan

import (
	"math"
	"slices"

	"exactflask/core/judgement/experiment"
	"exactflask/core/model/assay"
	"exactflask/core/model/budget"
	"exactflask/core/model/curve"
	"exactflask/core/model/followed"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Range says how an expected titre lies on the burette.
type Range string

// The ranges: a titre is too small, or beyond one fill too large; the best part of the
// burette is said by the norms.
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
	Equation    string  `json:"equation" doc:"plain"`
	Ratio       [2]int  `json:"ratio" doc:"titrant to what it titrates"`
	Titre       float64 `json:"titre" doc:"expected, mL; 0 where it is not known"`
	First       float64 `json:"first,omitempty" doc:"to the first of two end points, mL"`
	Range       Range   `json:"range" enum:"unknown,small,low,best,high,large"`
	Fill        float64 `json:"fill" doc:"part of the burette that it takes, %"`
	Uncertainty float64 `json:"uncertainty" doc:"predicted relative standard uncertainty, %; 0 where it is not known"`
	Factor      float64 `json:"factor,omitempty" doc:"the coverage factor of it (budget.Cover)"`
	curve.Prediction
	Proposals []Proposal        `json:"proposals"`
	Findings  []finding.Finding `json:"findings"`
}

// Proposal is one change that brings the titre into range.
type Proposal struct {
	What  string          `json:"what" enum:"aliquot,titrant,dilution,figures"`
	Value float64         `json:"value" doc:"mL of the aliquot, mol/L of the titrant, how many times the sample is diluted, or the concentration that gets more figures, mol/L"`
	Titre float64         `json:"titre" doc:"that follows, mL"`
	Said  finding.Message `json:"said" doc:"the change, to be spoken"`
	// Practical is the plan with the change made.
	Practical practical.Practical `json:"practical"`
}

// TitreOf is the expected titre of a practical, mL, with the part of the burette that it takes, %, and how
// that is judged; 0 and RangeUnknown where none can be predicted, or nothing is titrated.
func TitreOf(r *practical.Ready) (titre, fill float64, judged Range) {
	if r.MadeOnly() {
		return 0, 0, RangeUnknown
	}
	if titre = curve.OutlineOf(r).Titre.Last; titre <= 0 {
		return 0, 0, RangeUnknown
	}
	fill, judged = filled(r, titre)
	return titre, fill, judged
}

// filled is the part of the burette that a titre takes, and how that is judged.
func filled(r *practical.Ready, titre float64) (fill float64, judged Range) {
	capacity := r.Glass.Burette.Capacity.Float64()
	return 100 * titre / capacity, rangeOf(r.Norms(), titre, capacity)
}

// Assess looks at a practical. Source of the advice: common practice, no
// source, where nothing else is said.
func Assess(r *practical.Ready) Assessment {
	o := curve.OutlineOf(r)
	if r.MadeOnly() {
		a := Assessment{Range: RangeUnknown, Prediction: curve.Predict(o), Proposals: []Proposal{}, Findings: slices.Clone(experiment.Premises(r))}
		a.Uncertainty, a.Factor = sureOf(o.Assay, nil)
		return a
	}
	capacity := r.Glass.Burette.Capacity.Float64()
	first := r.Reactions[0]
	a := Assessment{Equation: r.Equation.Plain(), Ratio: [2]int{first.NuFrom, first.NuTo}, Titre: o.Titre.Last,
		First: o.Titre.First, Range: RangeUnknown,
		Prediction: curve.Predict(o), Proposals: []Proposal{}, Findings: []finding.Finding{}}
	if a.Titre > 0 {
		a.Fill, a.Range = filled(r, a.Titre)
		a.propose(o, capacity)
		a.Uncertainty, a.Factor = uncertainty(o)
	}
	a.remarks(o)
	a.figures(r)
	return a
}

// rangeOf says how a titre lies on a burette.
func rangeOf(norms practical.Norms, titre, capacity float64) Range {
	switch fill := titre / capacity; {
	case titre < norms.Of(practical.SmallestTitre):
		return RangeSmall
	case titre > capacity:
		return RangeLarge
	case fill < norms.Part(practical.BestFrom):
		return RangeLow
	case fill > norms.Part(practical.BestTo):
		return RangeHigh
	}
	return RangeBest
}

// Best is the best part of a burette of a capacity, mL.
func Best(norms practical.Norms, capacity float64) (from, to float64) {
	return math.Max(norms.Part(practical.BestFrom)*capacity, norms.Of(practical.SmallestTitre)), norms.Part(practical.BestTo) * capacity
}

// uncertainty is the relative standard uncertainty of a result of three titres, where one is
// enough of one, as they are expected, %, with its coverage factor; 0 where nothing can be said.
func uncertainty(o curve.Outline) (relative, factor float64) {
	burette := o.Ready.Glass.Burette
	if o.Titre.Last > 4*burette.Capacity.Float64() {
		return 0, 0
	}
	a, trials := o.Assay.Foreseen(o.Titre, burette.Step(o.Ready.Rules.Readings.Resolution), min(3, 2*o.Ready.Rules.Agreement.Need-1))
	return sureOf(a, trials)
}

// sureOf is the relative standard uncertainty of what follows from trials, %, with its coverage
// factor; 0 where nothing does.
func sureOf(a *assay.Assay, trials []assay.Measured) (relative, factor float64) {
	d, problem := a.Derive(trials)
	if problem != nil {
		return 0, 0
	}
	p := d.Program()
	b := budget.Of(p, budget.Inputs(a, d), p.Last())
	return b.Relative, b.Factor
}

var (
	planProbe     = finding.Declare("plan.probe", "count", "volume")
	tooSmall      = finding.Declare("plan.titre-small", "titre")
	tooLarge      = finding.Declare("plan.titre-large", "titre", "capacity")
	low           = finding.Declare("plan.titre-low", "titre", "percent", "from", "to")
	high          = finding.Declare("plan.titre-high", "titre", "percent", "from", "to")
	unknownTitre  = finding.Declare("plan.titre-unknown")
	glassCylinder = finding.Declare("glass.cylinder")
	_             = finding.Family("plan.range.", []Range{RangeUnknown, RangeSmall, RangeLow, RangeBest, RangeHigh,
		RangeLarge}, "titre", "percent")
)

// remarks adds what should be said of the plan as a whole.
func (a *Assessment) remarks(o curve.Outline) {
	add := func(f finding.Finding) { a.Findings = append(a.Findings, f) }
	titre, fill, norms := finding.Volume(a.Titre), finding.Number(a.Fill, 2, quantity.Percent), o.Ready.Norms()
	switch a.Range {
	case RangeSmall:
		add(tooSmall.Finding(finding.Warning, "", titre))
	case RangeLarge:
		add(tooLarge.Finding(finding.Warning, "", titre, finding.Exact(o.Ready.Glass.Burette.Capacity, quantity.Millilitre)))
	case RangeLow:
		add(low.Finding(finding.Note, "", titre, fill, norms.Said(practical.BestFrom), norms.Said(practical.BestTo)))
	case RangeHigh:
		add(high.Finding(finding.Note, "", titre, fill, norms.Said(practical.BestFrom), norms.Said(practical.BestTo)))
	case RangeUnknown:
		add(unknownTitre.Finding(finding.Note, ""))
	}
	if o.Ready.Probed() {
		if n, ran, ok := followed.Planned(o.Ready); ok {
			add(planProbe.Finding(finding.Note, "", finding.Count(n), finding.Volume(ran)))
		}
	}
	a.Findings = append(a.Findings, experiment.Premises(o.Ready)...)
	a.Findings = append(a.Findings, a.Remarks()...)
	if tolerance := o.Ready.Rules.Agreement.Tolerance; tolerance.Sign() > 0 && a.Titre > 0 && o.Ready.Rules.Agreement.Need > 1 {
		if f, loose := experiment.Loose(o.Ready.Norms(), tolerance, number(a.Titre, 2)); loose {
			add(f)
		}
	}
	for _, s := range o.Ready.Steps {
		if s.By == practical.ByCylinder && s.Kind != practical.MakeUp {
			add(glassCylinder.Finding(finding.Warning, ""))
			break
		}
	}
}
