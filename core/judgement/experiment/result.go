package experiment

import (
	"math"
	"slices"

	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/diagnosis"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/working"
	"exactflask/core/model/assay"
	"exactflask/core/model/budget"
	"exactflask/core/model/curve"
	"exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// resulted is the fourth stage: the answer of the agreeing set, or what one
// trial says so far.
type resulted struct {
	whole    *evaluation.Result
	soFar    *evaluation.SoFar
	findings []finding.Finding
}

var (
	impossible      = finding.Declare("result.impossible", "problem")
	farOff          = finding.Declare("result.far-from-expected", "answer", "expected", "percent", "factor")
	smallExcess     = finding.Declare("result.small-excess", "percent")
	hardlyUsed      = finding.Declare("result.hardly-used", "percent")
	nominalStandard = finding.Declare("nominal.standard", "mass", "of")
	nominalKnown    = finding.Declare("nominal.known", "of", "value")
	nominalWritten  = finding.Declare("nominal.written", "of", "value", "percent")
	nominalMass     = finding.Declare("nominal.mass", "value")
)

func measuredOf(trials []*evaluation.Trial) []assay.Measured {
	out := make([]assay.Measured, len(trials))
	for i, t := range trials {
		out[i] = t.Measured
	}
	return out
}

func result(rec recorded, j judged, parts Parts) resulted {
	var out resulted
	from := "mean"
	if rec.r.MadeOnly() {
		from = "made"
	}
	var r *evaluation.Result
	if j.verdict.Status == agreement.Agreed {
		d, problem := j.derive()
		if problem != nil {
			out.findings = append(out.findings, impossible.Finding(finding.Warning, problem.Trial,
				finding.Said(problem.Message)))
			return out
		}
		r = answer(rec.assay, d, parts)
		analyse(rec, r, parts)
		out.whole = r
	} else {
		// As soon as there is one titre it tells whether all this can be right.
		one := first(j.trials, journal.Accurate)
		from = "accurate"
		if one == nil {
			one, from = first(j.trials, journal.Rough), "rough"
		}
		if one == nil {
			return out
		}
		d, problem := rec.assay.Derive([]assay.Measured{one.Measured})
		if problem != nil {
			return out // it may be that something is still to be recorded
		}
		r = answer(rec.assay, d, parts)
		switch {
		case from == "rough":
			r.Answer.Figures = min(r.Answer.Figures, rec.r.Norms().Count(practical.RoughFigures))
		case j.verdict.Status == agreement.TooFew && rec.loneAccurate(j):
			// One accurate trial has its working and its answer, and is told to be
			// one.
			r.Single = true
			analyse(rec, r, parts)
			out.whole = r
		}
	}
	out.soFar = &evaluation.SoFar{Answer: r.Answer, Of: r.Of, Letter: r.Derivation.Answer().Letter, From: from, Expected: r.Expected}
	out.findings = append(out.findings, enteredFindings(rec, j.worked())...)
	out.findings = append(out.findings, Premises(rec.r)...)
	out.findings = append(out.findings, protonFindings(rec, j, r)...)
	out.findings = append(out.findings, resultFindings(rec.r.Norms(), r)...)
	out.findings = append(out.findings, plausibility(rec.r, r)...)
	return out
}

// loneAccurate tells whether one accurate trial, and no more, gave a titre.
func (rec recorded) loneAccurate(j judged) bool {
	n := 0
	for i := range j.trials {
		if j.trials[i].Usable(journal.Accurate) {
			n++
		}
	}
	return n == 1
}

func first(trials []evaluation.Trial, kind journal.TrialType) *evaluation.Trial {
	for i := range trials {
		if trials[i].Usable(kind) {
			return &trials[i]
		}
	}
	return nil
}

// answer reads the result off a derivation.
func answer(a *assay.Assay, d derivation.Derivation, parts Parts) *evaluation.Result {
	p := a.Ready()
	last := d.Answer()
	r := &evaluation.Result{Of: last.Of, What: p.Asked.What, Answer: last.Quantity, Derivation: d}
	if second, ok := d.Node(derivation.Second); ok {
		r.Second = &evaluation.Second{Of: second.Of, Answer: second.Quantity}
	}
	if p.Rules.Figures > 0 {
		r.Answer.Figures = p.Rules.Figures
		if r.Second != nil {
			r.Second.Answer.Figures = p.Rules.Figures
		}
	}
	if r.What == practical.Water {
		whole := math.Round(last.Quantity.Value)
		r.Whole = &whole
	}
	if !p.Asked.Dealt {
		rough := p.Kept("rough-answer", func() any { return assay.New(p, assay.Held{}).RoughAnswer() }).(float64)
		r.Expected = compare(r.Answer.Value, rough)
	}
	if label := a.Label(); !label.IsZero() {
		if said, err := quantity.Of(label, p.Asked.Label.Unit).In(last.Quantity.Unit); err == nil {
			r.Label = compare(r.Answer.Value, said.Value)
		}
	}
	if parts.Has(PartReference) && p.Asked.Reference.Sign() > 0 {
		r.Reference = compare(r.Answer.Value, p.Asked.Reference.Float64())
	}
	return r
}

// compare sets a value beside another; nil where that is not known.
func compare(value, with float64) *evaluation.Comparison {
	if with <= 0 || math.IsNaN(value) || math.IsInf(value, 0) {
		return nil
	}
	percent := 100 * (value - with) / with
	if math.Abs(percent) < 1e-9 { // what is left of the arithmetic
		percent = 0
	}
	return &evaluation.Comparison{Value: with, Percent: percent}
}

// analyse adds the uncertainty and the causes, where they are asked for.
func analyse(rec recorded, r *evaluation.Result, parts Parts) {
	if !parts.Has(PartBudget) && !parts.Has(PartCauses) {
		return
	}
	p := r.Derivation.Program()
	target := r.Reference // for those who may know it
	if target == nil {
		target = r.Label
	}
	if target == nil {
		target = r.Expected
	}
	if parts.Has(PartBudget) {
		b := budget.Of(p, budget.Inputs(rec.assay, r.Derivation), p.Last())
		r.Budget = &b
		r.Within = target != nil && math.Abs(r.Answer.Value-target.Value) <= b.Expanded
	}
	if parts.Has(PartCauses) {
		var value *float64
		if target != nil {
			value = &target.Value
		}
		r.Causes = diagnosis.Causes(rec.assay, r.Derivation, p, curve.Of(rec.r).Off(), value)
	}
}

// resultFindings says when a result is hard to believe.
func resultFindings(norms practical.Norms, r *evaluation.Result) []finding.Finding {
	var out []finding.Finding
	if e := r.Expected; e != nil && math.Abs(e.Percent) > norms.Of(practical.FarExpected) {
		out = append(out, farOff.Finding(finding.Check, "", finding.Quantity(r.Answer),
			finding.Number(e.Value, 3, r.Answer.Unit),
			finding.Number(math.Abs(e.Percent), 2, quantity.Percent), finding.Number(r.Answer.Value/e.Value, 2, "")))
	}
	for _, n := range r.Derivation.Nodes {
		if n.Where != derivation.Used { // each trial has its own where samples differ
			continue
		}
		added := r.Derivation.Nodes[n.Inputs[0]]
		left := 1 - n.Quantity.Value/added.Quantity.Value
		switch {
		case left < norms.Part(practical.LeastExcess):
			out = append(out, smallExcess.Finding(finding.Warning, n.Trial, finding.Number(100*left, 2, quantity.Percent)))
		case left > norms.Part(practical.MostExcess):
			out = append(out, hardlyUsed.Finding(finding.Check, n.Trial, finding.Number(100*(1-left), 2, quantity.Percent)))
		}
	}
	return out
}

// nominalFindings say where a nominal value stands in for a missing measurement.
func nominalFindings(rec recorded, j judged) []finding.Finding {
	var out []finding.Finding
	r, held := rec.r, rec.assay.Held()
	if r.Chemistry.Standard != "" && held.Known == nil && !(r.UnknownInBurette && r.Weighs()) {
		known := r.Titrant
		if r.UnknownInBurette {
			known = r.Analyte
		}
		out = append(out, nominalKnown.Finding(finding.Note, "", finding.Formula(known.Plain()),
			finding.Exact(r.Known().Concentration, quantity.MolePerL)))
	}
	if known := r.Known(); held.Known == nil && r.Chemistry.Standard == "" && !r.MadeHere() && !(r.UnknownInBurette && r.Weighs()) && known.Uncertainty.IsZero() && known.Concentration.Sign() > 0 {
		if _, nominal := r.Sure(known.Concentration); nominal {
			out = append(out, nominalWritten.Finding(finding.Note, "", finding.Formula(known.Formula), finding.Exact(known.Concentration, quantity.MolePerL),
				r.Norms().Said(practical.NominalShare)))
		}
	}
	if r.MadeHere() && r.WeighsStandard() && held.Standard == nil && len(j.trials) > 0 {
		out = append(out, nominalStandard.Finding(finding.Note, "", finding.Exact(r.Made[0].Mass, quantity.Gram), finding.Formula(r.Made[0].Salt.Plain())))
	}
	if r.Weighs() && !r.MassEach() && held.Mass == nil && r.SampleStep().Mass.Sign() > 0 && len(j.trials) > 0 {
		out = append(out, nominalMass.Finding(finding.Note, "", finding.Exact(r.SampleStep().Mass, quantity.Gram)))
	}
	return out
}

// work lays out the steps of the student's own working and, where it is asked
// for, judges them. Without the result the steps are laid out with nothing in
// them.
func work(rec recorded, j judged, r *evaluation.Result, parts Parts) []working.Step {
	trials := measuredOf(j.worked())
	if len(trials) == 0 && !(rec.r.MadeOnly() && j.derive != nil) {
		return []working.Step{}
	}
	var d derivation.Derivation
	switch {
	case r != nil:
		d = r.Derivation
	case parts.Has(PartVerdicts) || parts.Has(PartResult):
		var problem *assay.Problem
		if d, problem = rec.assay.Derive(trials); problem != nil {
			return []working.Step{}
		}
	default:
		return working.Steps(rec.assay.Structure(trials), rec.c.Answers)
	}
	steps := working.Steps(d, rec.c.Answers)
	if parts.Has(PartVerdicts) {
		working.Judge(d, steps, rec.r.Rules.Figures, slipsOf(rec.r, j))
	}
	return steps
}

// given is what the own working is made from: nothing in it follows from the result.
func given(rec recorded, j judged) []working.Given {
	if j.derive != nil {
		if d, problem := j.derive(); problem == nil {
			return working.GivenIn(d)
		}
	}
	trials := measuredOf(j.worked())
	if len(trials) == 0 {
		return nil
	}
	if d, problem := rec.assay.Derive(trials); problem == nil {
		return working.GivenIn(d)
	}
	return nil // something is missing, which is said
}

// slipsOf is what slips of the mean titre are found from.
func slipsOf(r *practical.Ready, j judged) diagnosis.Record {
	step := r.Glass.Burette.Step(r.Rules.Readings.Resolution)
	out := diagnosis.Record{Places: step.Places(), Step: step.Float64(),
		Figures: r.Norms().Count(practical.StepFigures), Capacity: r.Glass.Burette.Capacity.Float64(), Nominal: nominalOf(r)}
	for _, m := range j.verdict.RivalMeans {
		out.Rivals = append(out.Rivals, m.Float64())
	}
	mine := j.worked()
	for i := range j.trials {
		t := &j.trials[i]
		if t.Titre == nil || t.Withdrawn || !t.Type.Judged() {
			continue
		}
		v := t.Titre.Float64()
		if t.Type == journal.Rough && !t.Counts {
			out.Rough = append(out.Rough, v)
			continue
		}
		out.All = append(out.All, v)
		if slices.Contains(mine, t) {
			out.Counted = append(out.Counted, v)
			if m := t.Measured.Burette; len(m.Fills) == 0 && !m.Rising {
				out.Starts, out.Ends = append(out.Starts, m.Start.Value.Float64()), append(out.Ends, t.Measured.End.Value.Float64())
			}
		}
	}
	return out
}

// nominalOf is what the practical gives of what is found or measured.
func nominalOf(r *practical.Ready) diagnosis.Nominal {
	out := diagnosis.Nominal{Known: r.Known().Concentration.Float64()}
	if r.Weighs() {
		out.Mass = r.SampleStep().Mass.Float64()
	}
	if r.WeighsStandard() {
		out.Standard = r.Made[0].Mass.Float64()
	}
	if head := r.SampleStep(); r.SampleBurette() {
		out.Sample = head.Volume.Float64()
	}
	if i := r.Excess(); i >= 0 && r.ReagentBurette() {
		out.Reagent = r.Steps[i].Volume.Float64()
	}
	return out
}

// Given is the result of titres that are averaged as they are, without judging
// whether they agree: for a computation that is no notebook.
func Given(a *assay.Assay, trials []assay.Measured, parts Parts) (*evaluation.Result, []finding.Finding, *assay.Problem) {
	d, problem := a.Derive(trials)
	if problem != nil {
		return nil, nil, problem
	}
	r := answer(a, d, parts)
	analyse(recorded{r: a.Ready(), assay: a}, r, parts)
	return r, append(resultFindings(a.Ready().Norms(), r), plausibility(a.Ready(), r)...), nil
}
