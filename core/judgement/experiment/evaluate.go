// Package experiment is the top of the core. A practical says what is to be
// done, a journal what was done, and Evaluate everything that follows from
// them. Nothing else computes.
//
//	ready, fault := practical.Check()
//	ev := experiment.Evaluate(ready, entries, experiment.All)
//
// It works in stages, each a value made from the ones before: the record, its
// titres, their agreement, the result, its analysis. A caller names the parts
// that it needs; what is not asked for is not computed.
package experiment

import (
	"slices"
	"sync"

	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/working"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
)

// Parts are what an evaluation is asked for, beside the record.
type Parts uint

// The parts. The record (trials, titres, their agreement, what to do next) and
// the steps of the student's own working are always there.
const (
	PartResult    Parts = 1 << iota // the answer, its working, and judgements made with it
	PartBudget                      // how sure it is
	PartCauses                      // what would put it off
	PartVerdicts                    // whether the student's own steps are right
	PartReference                   // against the true value
)

// Record asks for the record alone, All for everything.
const (
	Record Parts = 0
	All          = PartResult | PartBudget | PartCauses | PartVerdicts | PartReference
)

// Has tells whether all of these parts are asked for.
func (p Parts) Has(wanted Parts) bool { return p&wanted == wanted }

var _ = finding.Family("", []agreement.Reason{agreement.InSet, agreement.InOne, agreement.InAll, agreement.OutTooHigh, agreement.OutTooLow,
	agreement.OutNoSet, agreement.OutTied, agreement.Alone, agreement.NotClosest})
var _ = finding.Family("sofar.", []string{"rough", "accurate", "made"}, "symbol", "answer")
var _ = finding.Declare("sofar.mean", "mean", "trials", "symbol", "answer")
var _ = finding.Declare("sofar.mean-relative", "trials", "symbol", "answer")

// Evaluate says what follows from the entries of one notebook under a
// practical. It is pure: the same practical and entries, in any order, give
// the same evaluation. No entry makes it fail, and its cost grows in
// proportion to them.
func Evaluate(r *practical.Ready, entries []journal.Entry, parts Parts) evaluation.Evaluation {
	return Of(r, journal.Fold(entries), parts)
}

// Of is Evaluate for entries that are folded already.
func Of(r *practical.Ready, c journal.Contents, parts Parts) evaluation.Evaluation {
	return Begin(r, c).Of(parts)
}

// Basis is what every evaluation of the same entries begins with: the record, the
// titres and their judgement. It may be used by several goroutines.
type Basis struct {
	rec    recorded
	groups []group // of several samples; nil of one
	hand   int     // which of them is worked on
	j      judged
	ev     evaluation.Evaluation
	own    func() evaluation.Evaluation // with the verdicts of the own working, worked out once
}

// Begin lays the basis for evaluating a notebook, once for all parts.
func Begin(r *practical.Ready, c journal.Contents) *Basis {
	set := r
	r, otherGlass := withGlass(set, c)
	rec := record(r, c)
	groups := groupsOf(rec)
	var j judged
	var s steering
	hand := 0
	switch {
	case r.MadeOnly():
		j = judgeSolution(rec) // nothing is titrated: there is nothing to steer
	case groups == nil:
		j = judge(rec)
		s = steer(rec, j)
	default:
		hand = atHand(rec, groups)
		j, s = together(rec, groups, hand), groups[hand].steer
	}
	ev := evaluation.Evaluation{Trials: j.trials, Agreement: j.agreement, Notes: rec.notes, Amended: c.Amended, Setup: rec.setup, Cleanup: rec.cleanup,
		Log: rec.log, Clock: c.Clock, Entries: c.Entries, Stage: stage(rec, j, groups), MadeOnly: r.MadeOnly(), Blank: rec.meanBlank,
		Probe: rec.probe, Points: rec.points, Used: ownUsed(rec, j), Own: ownValues(rec)}
	ev.Passages, ev.Pictures = passages(rec)
	ev.Evidence = evidence(rec)
	if groups == nil { // of several samples they would be about one of them
		ev.Statistics, ev.Dixon = describe(rec, j)
	} else {
		ev.WorkedOn = groups[hand].name
	}
	if e := s.coming; s.known {
		ev.Expected = &evaluation.Span{Low: e.low, High: e.high}
	}
	ev.Supply = supply(rec, j, ev.Expected)
	ev.Findings = slices.Concat(c.Findings, readingFindings(rec, j, s, groups), agreementFindings(rec, j), indicatorFindings(rec, j), rec.probed, otherGlass)
	for i := range j.trials {
		if run := rec.runs[j.trials[i].ID]; run != nil {
			ev.Runs = append(ev.Runs, *run)
			ev.Findings = append(ev.Findings, run.Notes...)
		}
	}
	ev.Next = nextOf(advising{rec, j, s, groups, hand, ev.Supply, ev.Setup, ev.Stage})
	if r != set {
		ev.Ready = r
	}
	if ev.MadeOnly {
		ev.MadeOf = madeOf(rec)
		if rec.made() {
			ev.Made = rec.assay.MadeVolume()
		}
	}
	b := &Basis{rec: rec, groups: groups, hand: hand, j: j, ev: ev}
	b.own = sync.OnceValue(func() evaluation.Evaluation { return b.Of(PartVerdicts) })
	return b
}

// Attempted tells whether the student has answered every step of the own working
// (working.Attempted).
func (b *Basis) Attempted() bool { return len(b.rec.c.Answers) > 0 && b.own().Attempted }

// Of is the evaluation with these parts.
func (b *Basis) Of(parts Parts) evaluation.Evaluation {
	ev := b.ev
	ev.Withheld, ev.Judged = !parts.Has(PartResult), parts.Has(PartVerdicts)
	more := []finding.Finding{}
	if b.groups != nil {
		ev.Samples, more = answers(b.rec, b.groups, parts)
		ev.Work = ownWork(b.groups, ev.Samples, parts)
		ev.Given = givenOfAll(b.groups)
	} else {
		if parts.Has(PartResult) {
			res := result(b.rec, b.j, parts)
			ev.Result, ev.SoFar, more = res.whole, res.soFar, res.findings
			ev.Salt = makeSalt(b.rec, b.j)
			ev.Next = withSalt(ev.Next, ev.Salt)
		}
		ev.Work = work(b.rec, b.j, ev.Result, parts)
		ev.Given = given(b.rec, b.j)
	}
	ev.Findings = slices.Concat(ev.Findings, more, saltFindings(b.rec.r.Norms(), ev.Salt))
	if ev.Findings == nil {
		ev.Findings = []finding.Finding{}
	}
	ev.Attempted = parts.Has(PartVerdicts) && !b.ofOne() && working.Attempted(ev.Work)
	if len(b.rec.c.Answers) > 0 && !parts.Has(PartVerdicts) && b.rec.r.Showing.Results == practical.AfterAttempt {
		for i, lack := range working.Lacks(b.own().Work) {
			ev.Work[i].Lacks = lack
		}
	}
	ev.Prepared = prepared(b.rec, ev.Result)
	if !parts.Has(PartResult) { // constants can be what is asked for
		ev.Runs = slices.Clone(ev.Runs)
		for i, run := range ev.Runs {
			ev.Runs[i] = run.Withheld()
		}
	}
	return ev
}

// ofOne tells whether a working is of one titre alone: it is judged, and opens nothing. Of
// several samples one such is enough.
func (b *Basis) ofOne() bool {
	one := func(j judged) bool { return j.verdict.Status == agreement.TooFew && len(j.worked()) > 0 }
	return b.groups == nil && one(b.j) || slices.ContainsFunc(b.groups, func(g group) bool { return one(g.j) })
}

// stage says where a notebook stands; with several samples it has agreed when all have.
func stage(rec recorded, j judged, groups []group) evaluation.Stage {
	if rec.r.MadeOnly() {
		return stageOfSolution(rec, j)
	}
	complete, rough := 0, 0
	for i := range j.trials {
		switch t := &j.trials[i]; {
		case t.Titre == nil || t.Withdrawn || !t.Type.Judged():
		case t.Type == journal.Rough:
			rough++
		default:
			complete++
		}
	}
	switch {
	case len(j.trials) == 0:
		return evaluation.Untouched
	case j.verdict.Status == agreement.Agreed && !allAgreed(groups):
		return evaluation.Measuring
	case j.impossible() != nil: // they agree, and nothing follows from them
		return evaluation.Measuring
	case j.verdict.Status == agreement.Agreed:
		return evaluation.Agreed
	case complete >= 2 && j.verdict.Status != agreement.TooFew:
		return evaluation.Disagreeing
	case complete == 0 && rough > 0:
		return evaluation.RoughOnly
	}
	return evaluation.Measuring
}
