package experiment

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/working"
	"exactflask/core/model/budget"
	"exactflask/core/record/journal"
	"exactflask/core/values/finding"
)

// group is one sample's own stages.
type group struct {
	name  string
	rec   recorded
	j     judged
	steer steering
}

// groupsOf takes the record apart by samples: each is judged and steers by its
// own trials. Blanks and practice trials are everybody's. None where one sample
// is all there is.
func groupsOf(rec recorded) []group {
	if len(rec.r.Samples) == 0 {
		return nil
	}
	out := make([]group, len(rec.r.Samples))
	for k, s := range rec.r.Samples {
		g := group{name: s.Name, rec: rec}
		g.rec.trials = nil
		for i := range rec.trials {
			t := &rec.trials[i]
			if t.OfSample == s.Name || !t.Type.Judged() {
				g.rec.trials = append(g.rec.trials, *t)
			}
		}
		g.j = judge(g.rec)
		g.steer = steer(g.rec, g.j)
		out[k] = g
	}
	return out
}

// atHand is the group that is worked on: of the open trial, else the first that
// has not agreed, else the last.
func atHand(rec recorded, groups []group) int {
	if _, open := lastTrial(rec.trials); open != nil {
		if k := slices.IndexFunc(groups, func(g group) bool { return g.name == open.OfSample }); k >= 0 {
			return k
		}
	}
	if k := slices.IndexFunc(groups, func(g group) bool { return g.j.verdict.Status != agreement.Agreed }); k >= 0 {
		return k
	}
	return len(groups) - 1
}

// allAgreed tells whether the titres of every sample agree, and an answer follows from them.
func allAgreed(groups []group) bool {
	return !slices.ContainsFunc(groups, func(g group) bool { return g.j.verdict.Status != agreement.Agreed || g.j.impossible() != nil })
}

// together is the judgement of all groups: the trials of each with its reasons,
// and the agreement of the one at hand.
func together(rec recorded, groups []group, hand int) judged {
	j := groups[hand].j
	byID := map[string]evaluation.Trial{}
	for _, g := range groups {
		for _, t := range g.j.trials {
			byID[t.ID] = t
		}
	}
	j.trials = slices.Clone(rec.trials)
	for i := range j.trials {
		if t, ok := byID[j.trials[i].ID]; ok {
			j.trials[i] = t
		}
	}
	return j
}

// answers works each group's result out, and compares it with the control's.
func answers(rec recorded, groups []group, parts Parts) (out []evaluation.Sampled, findings []finding.Finding) {
	out = make([]evaluation.Sampled, len(groups))
	control := rec.r.Control()
	for k, g := range groups {
		out[k] = evaluation.Sampled{Name: g.name, Control: k == control, Agreement: g.j.agreement}
		if !parts.Has(PartResult) {
			continue
		}
		res := result(g.rec, g.j, parts|PartBudget)
		findings = append(findings, res.findings...)
		if res.whole != nil && !res.whole.Single {
			out[k].Result = res.whole
		}
	}
	c := out[control].Result
	for k := range out {
		if r := out[k].Result; k != control && r != nil && c != nil {
			out[k].Difference = difference(r, c)
		}
	}
	return out, findings
}

// independent are the sources of error that two samples do not share: each has
// its own scatter, readings, last drops and weighings. Source: common practice,
// no source.
var independent = []string{"repeatability", "reading", "drop", "balance"}

// difference compares two answers. What they share, such as the burette's
// tolerance or the concentration of the titrant, moves both: only the difference
// of its effects counts. To first order, as JCGM 100:2008, 5.2.
func difference(r, control *evaluation.Result) *evaluation.Difference {
	d := &evaluation.Difference{Value: r.Answer.Value - control.Answer.Value}
	if control.Answer.Value != 0 {
		d.Percent = 100 * d.Value / control.Answer.Value
	}
	shared := map[string]float64{}
	variance := 0.0
	var own []budget.Contribution
	add := func(b *budget.Budget, sign float64) {
		if b == nil {
			return
		}
		for _, c := range b.Contributions {
			if slices.Contains(independent, c.Code) {
				variance += c.Answer * c.Answer
				own = append(own, c)
				continue
			}
			shared[c.Code+" "+c.Of.String()] += sign * c.Answer
		}
	}
	add(r.Budget, 1)
	add(control.Budget, -1)
	for _, v := range shared {
		variance += v * v
	}
	factor, _ := budget.Cover(variance, own...)
	d.Expanded = factor * math.Sqrt(variance)
	d.Clear = math.Abs(d.Value) > d.Expanded
	return d
}

// ownWork lays out the student's working of every sample: the steps of the second
// one begin with "2:", and so on.
func ownWork(groups []group, sampled []evaluation.Sampled, parts Parts) []working.Step {
	out := []working.Step{}
	for k, g := range groups {
		prefix := strconv.Itoa(k+1) + ":"
		own := map[string]journal.Line{}
		for step, l := range g.rec.c.Answers {
			if rest, ok := strings.CutPrefix(step, prefix); ok {
				own[rest] = l
			}
		}
		rec := g.rec
		rec.c.Answers = own
		for _, s := range work(rec, g.j, sampled[k].Result, parts) {
			s.Step, s.Sample = prefix+s.Step, g.name
			out = append(out, s)
		}
	}
	return out
}

// givenOfAll is what the workings of all samples are made from: what all have stands once, without
// a sample.
func givenOfAll(groups []group) []working.Given {
	var out []working.Given
	seen := map[string]bool{}
	for _, g := range groups {
		for _, x := range given(g.rec, g.j) {
			if x.Node.Trial == "" {
				if key := x.Node.ID + " " + x.Node.Written; !seen[key] {
					seen[key] = true
					out = append(out, x)
				}
				continue
			}
			x.Sample = g.name
			out = append(out, x)
		}
	}
	return out
}
