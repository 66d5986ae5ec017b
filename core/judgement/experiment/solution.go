package experiment

import (
	"slices"

	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/model/assay"
	"exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

var (
	nextPrepare = finding.Declare("next.prepare", "of")
	nextSolid   = finding.Declare("next.weigh-solid", "of")
	nextMade    = finding.Declare("next.made", "of")
)

// made tells whether what the strength of one's own solution follows from stands in the notebook:
// what was weighed, or what was taken of a stock.
func (rec recorded) made() bool {
	held := rec.assay.Held()
	if rec.r.WeighsStandard() {
		return held.Standard != nil
	}
	return held.Stock != nil
}

// judgeSolution is the second stage where a solution is only made: nothing has to agree, and an
// answer follows as soon as it is made. Trials that stand there nevertheless are kept and say nothing.
func judgeSolution(rec recorded) judged {
	j := judged{trials: slices.Clone(rec.trials), agreement: evaluation.Agreement{Unit: quantity.Millilitre, Status: agreement.TooFew,
		Chosen: []string{}}}
	if rec.made() {
		j.agreement.Status = agreement.Agreed
		j.derive = func() (derivation.Derivation, *assay.Problem) { return rec.assay.Derive(nil) }
	}
	j.verdict.Status = j.agreement.Status
	return j
}

// madeOf is what the solution is made of, as it was written; nil before.
func madeOf(rec recorded) *finding.Message {
	l := rec.c.Prepared
	if rec.r.WeighsStandard() {
		l = rec.c.Standard
	}
	if l == nil {
		return nil
	}
	said := l.Part.Said()
	return &said
}

// nextOfSolution says what to do where a solution is only made: to weigh, or to take of the stock;
// then to work its strength out.
func nextOfSolution(rec recorded, setup []evaluation.Item) evaluation.Next {
	r := rec.r
	n := evaluation.Next{Say: []finding.Message{}}
	if r.WeighsStandard() {
		n.Weigh = &evaluation.Weigh{Standard: true}
		if m := rec.assay.Held().Standard; m != nil {
			before := m[0].Value.Sub(m[1].Value)
			n.Weigh.Before = &before
		}
	} else {
		n.Prepare = true
	}
	of := finding.Formula(r.Titrant.Plain())
	switch {
	case rec.made():
		n.Say = append(n.Say, nextMade.Message(of))
		return n
	case n.Prepare:
		n.Say = append(n.Say, nextPrepare.Message(of))
	default:
		n.Say = append(n.Say, nextSolid.Message(finding.Formula(r.Made[0].Salt.Plain())))
	}
	if undone := evaluation.Undone(setup); len(undone) > 0 {
		n.Say = append([]finding.Message{nextSetup.Message(finding.Said(journal.ItemSaid(undone[0].Code)))}, n.Say...)
	}
	return n
}

// stageOfSolution says where the making of a solution stands.
func stageOfSolution(rec recorded, j judged) evaluation.Stage {
	switch {
	case j.impossible() != nil:
		return evaluation.Making
	case rec.made():
		return evaluation.Made
	case rec.c.Entries > 0:
		return evaluation.Making
	}
	return evaluation.Untouched
}
