package experiment

import (
	"math"
	"slices"
	"sync"

	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/model/assay"
	"exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/quantity"
	"exactflask/core/values/statistics"
)

// judged is the second stage: which titres agree.
type judged struct {
	trials    []evaluation.Trial
	agreement evaluation.Agreement
	verdict   agreement.Verdict
	// compared are the values that were judged, in the order of the trials.
	compared []decimal.Decimal
	ids      []string
	// derive works the answer of the averaged trials out, once for all who ask; nil where
	// none are. What it returns is read and not changed.
	derive func() (derivation.Derivation, *assay.Problem)
}

// judge compares the candidates and gives every trial its reason.
func judge(rec recorded) judged {
	rule := rec.r.Rules.Agreement
	relative := rule.Kind == practical.Relative
	j := judged{trials: slices.Clone(rec.trials), agreement: evaluation.Agreement{Unit: quantity.Millilitre}}
	if relative {
		j.agreement.Unit = rec.r.Asked.Unit
	}
	// A rough titre may take part where it agrees. Where one is enough, or time allowed for no
	// more, it is nothing to agree with by itself, and keeps no accurate one out.
	if rule.Need == 1 || rule.AsTimeAllows && first(j.trials, journal.Accurate) == nil {
		j.withoutRough()
	}
	candidates := j.candidates(rec, relative)
	v := agreement.Judge(candidates, rule)
	if v.Status == agreement.Disagree && rule.AsTimeAllows && j.withoutRough() {
		candidates = j.candidates(rec, relative)
		v = agreement.Judge(candidates, rule)
	}
	j.verdict = v
	places := 0
	for i := range j.trials {
		t := &j.trials[i]
		if r, ok := v.Reasons[t.ID]; ok && t.Reason == "" {
			t.Reason, t.Counts = evaluation.Reason(r), r.In()
		}
		if t.Counts {
			places = max(places, t.Titre.Places())
		}
	}
	a := &j.agreement
	a.Status, a.Chosen, a.Rivals = v.Status, v.Chosen, v.Rivals
	if a.Chosen == nil {
		a.Chosen = []string{}
	}
	switch v.Status {
	case agreement.Agreed:
		spread := v.Spread
		a.Spread = &spread
		if relative {
			half, _ := v.Spread.Mul(decimal.Whole(50)).Div(v.Mean)
			half = half.RoundFigures(2)
			a.Relative = &half
		} else {
			mean := v.Mean.Round(places)
			a.Mean = &mean
		}
		a.Missing = max(0, rule.Need-len(candidates)) // where time allowed for no more
	case agreement.TooFew:
		a.Missing = rule.Need - len(candidates)
	default:
		a.Missing = 1
	}
	a.Allowed = allowed(rule, j.compared)
	if v.Status == agreement.Agreed {
		measured := measuredOf(j.averaged())
		j.derive = sync.OnceValues(func() (derivation.Derivation, *assay.Problem) { return rec.assay.Derive(measured) })
	}
	return j
}

// withoutRough leaves the rough trials out that would take part; false where there are none.
func (j *judged) withoutRough() (found bool) {
	for i := range j.trials {
		if t := &j.trials[i]; t.Type == journal.Rough && t.Reason == "" {
			t.Reason, found = evaluation.OutRough, true
		}
	}
	return found
}

// candidates are the trials that can be compared: by their titres, or by what each of them
// says of the answer.
func (j *judged) candidates(rec recorded, relative bool) []agreement.Candidate {
	var out []agreement.Candidate
	j.compared, j.ids = nil, nil
	for i := range j.trials {
		t := &j.trials[i]
		if t.Titre == nil || t.Titre.Sign() <= 0 || !t.Type.Judged() {
			continue
		}
		value := *t.Titre
		if relative {
			answer, problem := rec.assay.Answer(t.Measured)
			d, ok := decimal.FromFloat(answer.Value)
			if problem != nil || !ok {
				if t.Reason == "" {
					t.Reason, t.Why = evaluation.OutNoAnswer, nil
					if problem != nil {
						t.Why = &problem.Message
					}
				}
				continue
			}
			value = d.RoundFigures(12)
		}
		t.Compared = &value
		if t.Reason == "" {
			out = append(out, agreement.Candidate{ID: t.ID, Titre: value, Place: len(out)})
			j.compared, j.ids = append(j.compared, value), append(j.ids, t.ID)
		}
	}
	return out
}

// allowed is the largest spread of an agreeing set, in the unit of what is
// compared.
func allowed(rule practical.AgreementRule, compared []decimal.Decimal) *decimal.Decimal {
	if rule.Kind != practical.Relative {
		return &rule.Tolerance
	}
	mean, ok := decimal.Mean(compared...)
	if !ok {
		return nil
	}
	width, _ := mean.Mul(rule.Percent).Div(decimal.Whole(50))
	width = width.RoundFigures(4)
	return &width
}

// describe gives the statistics of the averaged titres, and Dixon's Q of all
// that were judged; none where samples differ.
func describe(rec recorded, j judged) (*statistics.Statistics, *statistics.Dixon) {
	if rec.r.Rules.Agreement.Kind == practical.Relative {
		return nil, nil
	}
	var averaged []float64
	values := make([]float64, len(j.compared))
	for i, v := range j.compared {
		values[i] = v.Float64()
		if j.verdict.Reasons[j.ids[i]].In() {
			averaged = append(averaged, values[i])
		}
	}
	var st *statistics.Statistics
	step := rec.r.Glass.Burette.Step(rec.r.Rules.Readings.Resolution).Float64()
	if s, ok := statistics.Describe(averaged); ok {
		s = s.Resolving(step / math.Sqrt(6)) // of two readings, each anywhere in its step
		st = &s
	}
	if q, ok := statistics.DixonQ(values, step); ok {
		q.Trial = j.ids[q.Index]
		return st, &q
	}
	return st, nil
}

// impossible is why titres that agree give no answer; nil where they give one.
func (j judged) impossible() *assay.Problem {
	if j.verdict.Status != agreement.Agreed {
		return nil
	}
	_, problem := j.derive()
	return problem
}

// averaged are the trials that count.
func (j judged) averaged() []*evaluation.Trial {
	var out []*evaluation.Trial
	for i := range j.trials {
		if j.trials[i].Counts {
			out = append(out, &j.trials[i])
		}
	}
	return out
}

// worked are the trials that the own working is about: those that are averaged; where
// titres do not agree, all accurate ones, so that a student who cannot
// go on has something to work out; before there are two, the only one.
func (j judged) worked() []*evaluation.Trial {
	switch j.verdict.Status {
	case agreement.Agreed:
		return j.averaged()
	case agreement.Disagree:
		var out []*evaluation.Trial
		for i := range j.trials {
			if j.trials[i].Usable(journal.Accurate) {
				out = append(out, &j.trials[i])
			}
		}
		return out
	}
	for i := range j.trials {
		if j.trials[i].Usable(journal.Accurate) {
			return []*evaluation.Trial{&j.trials[i]}
		}
	}
	return nil
}
