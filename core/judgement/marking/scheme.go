package marking

import (
	"slices"
	"strconv"
	"strings"

	"exactflask/core/judgement/working"
	"exactflask/core/model/assay"
	dv "exactflask/core/model/derivation"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
)

// Of is the scheme of a practical: its own, or a first one that follows from it.
func Of(r *practical.Ready) practical.Scheme {
	if len(r.Marking.Criteria) > 0 {
		return r.Marking
	}
	return Propose(r)
}

// Propose makes a first scheme from any practical: the record, the working step by step,
// closeness where there is something to be close to, what is written. How many marks
// each has is common practice, no source.
func Propose(r *practical.Ready) practical.Scheme {
	var s practical.Scheme
	add := func(marks int64, c practical.Criterion) {
		if c.ID == "" {
			c.ID = string(c.Rule)
		}
		c.Marks = decimal.Whole(marks)
		s.Criteria = append(s.Criteria, c)
	}
	rule := func(marks int64, rules ...practical.MarkRule) {
		for _, x := range rules {
			add(marks, practical.Criterion{Rule: x})
		}
	}
	left := func(q string) bool { return slices.Contains(r.Exercise.Leave, q) }
	if len(r.Exercise.Own) > 0 || slices.ContainsFunc(r.OfPlan(), func(q string) bool { return !left(q) }) {
		add(2, practical.Criterion{Rule: practical.MarkQuestions})
	}
	add(1, practical.Criterion{Rule: practical.MarkSetup})
	add(2, practical.Criterion{Rule: practical.MarkComplete})
	steps, mean := stepsOf(r)
	if !r.MadeOnly() {
		proposeTitration(r, mean, add, rule)
	}
	for _, code := range steps {
		if strings.HasPrefix(code, working.Subtraction) {
			continue // has its rule
		}
		add(1, practical.Criterion{ID: "step-" + strings.NewReplacer(".", "-", "step.", "").Replace(code), Rule: practical.MarkStep, Step: code})
	}
	rule(1, practical.MarkFigures, practical.MarkUnit)
	for _, p := range r.Passages() {
		add(2, practical.Criterion{ID: "text-" + p.Prompt, Rule: practical.MarkPerson, Prompt: p.Prompt})
	}
	if len(r.Report.Evidence) > 0 {
		rule(1, practical.MarkEvidence)
	}
	rule(1, practical.MarkInTime, practical.MarkCleanup)
	return s
}

// proposeTitration makes the criteria of what is measured in a titration.
func proposeTitration(r *practical.Ready, mean bool, add func(int64, practical.Criterion), rule func(int64, ...practical.MarkRule)) {
	if r.Probed() {
		rule(1, practical.MarkCalibrated, practical.MarkTail)
		add(2, practical.Criterion{Rule: practical.MarkJump})
	}
	rule(1, practical.MarkResolution, practical.MarkDecimals)
	if r.Rules.Agreement.Need > 1 { // else nothing has to agree
		add(2, practical.Criterion{Rule: practical.MarkAgreement})
	}
	add(1, practical.Criterion{Rule: practical.MarkEconomy, Most: max(r.Norms().Count(practical.EconomyTrials), r.Rules.Agreement.Need+2)})
	if r.Rules.Subtractions {
		rule(1, practical.MarkSubtraction)
	}
	if mean {
		if !r.Rules.Readings.NoRough {
			rule(1, practical.MarkRough)
		}
		if r.Rules.Agreement.Need > 1 {
			rule(1, practical.MarkAveraged)
		}
	}
	if r.Chemistry.EndPoints == practical.OneEndPoint && len(r.Samples) == 0 {
		add(3, practical.Criterion{Rule: practical.MarkTitre, Bands: bands("0.20", 3, "0.40", 2, "0.60", 1)})
	}
}

func bands(first string, marks int64, more ...any) []practical.MarkBand {
	out := []practical.MarkBand{{Within: decimal.Must(first), Marks: decimal.Whole(marks)}}
	for i := 0; i+1 < len(more); i += 2 {
		out = append(out, practical.MarkBand{Within: decimal.Must(more[i].(string)), Marks: decimal.Whole(int64(more[i+1].(int)))})
	}
	return out
}

// stepsOf are the names of the steps of a working, in order, and whether one of them is a
// mean titre.
func stepsOf(r *practical.Ready) (codes []string, mean bool) {
	d := structure(r)
	steps := working.Steps(d, nil)
	for _, s := range steps {
		mean = mean || s.Node.ID == dv.MeanTitre
	}
	return keysOf(steps), mean
}

// keysOf name the steps of a working for a scheme: each by its code, the second of the
// same code with its number (step.ratio-2). Where there are several samples, or every
// trial is worked by itself, the same step of each has the same name.
func keysOf(steps []working.Step) []string {
	type place struct{ sample, trial, code string }
	seen := map[place]int{}
	out := make([]string, len(steps))
	for i, s := range steps {
		at := place{s.Sample, s.Trial, s.Code}
		seen[at]++
		if out[i] = s.Code; seen[at] > 1 {
			out[i] += "-" + strconv.Itoa(seen[at])
		}
	}
	return out
}

// NamedStep is a step that a criterion can be about, by its name in a scheme.
type NamedStep struct {
	Key  string
	Step working.Step
}

// StepsOf are the steps that a criterion of this practical can be about.
func StepsOf(r *practical.Ready) []NamedStep {
	steps := working.Steps(structure(r), nil)
	out := make([]NamedStep, len(steps))
	for i, key := range keysOf(steps) {
		out[i] = NamedStep{key, steps[i]}
	}
	return out
}

// structure is the working of one trial.
func structure(r *practical.Ready) dv.Derivation {
	return assay.New(r, assay.Held{}).Structure([]assay.Measured{{Trial: "t"}})
}
