// Package marking proposes marks. A scheme says what is given marks and by which
// evidence; Evaluate says of a report what each criterion comes to, with the evidence it
// was read from, or that it cannot tell. It proposes: a person awards.
//
// The rules are common practice in teaching laboratories, no source.
package marking

import (
	"math"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Report is what is marked: a report as it was handed in, evaluated with everything.
type Report struct {
	Ready      *practical.Ready
	Evaluation evaluation.Evaluation
	Late       bool
	Questions  []Question // before the laboratory
	Titre      float64    // by how much the titres that count lie above the reference titre, mL; where Referred
	Referred   Referred
}

// Question is a question before the laboratory with the student's answer.
type Question struct {
	Ask    finding.Message
	Given  string // as it is read; empty: not answered
	Right  bool
	Judged bool // the program knows what is right; else a person reads the answer
}

// Referred says what the reference titre is.
type Referred string

// Where a reference titre comes from: nowhere, the true value of the unknown that the
// student had, or the titration of somebody who teaches.
const (
	NoReference Referred = ""
	ByTruth     Referred = "truth"
	ByTeacher   Referred = "teacher"
)

// Proposal is what the evidence says of a criterion.
type Proposal struct {
	Criterion string            `json:"criterion" doc:"id"`
	Marks     *decimal.Decimal  `json:"marks,omitempty" doc:"left out where the evidence cannot tell"`
	Certain   bool              `json:"certain,omitempty" doc:"nothing is left to a person's judgement"`
	Why       []finding.Message `json:"why"`
	Exact     []finding.Message `json:"exact,omitempty" doc:"what only markers are told: how far from the true value"`
	Evidence  []Evidence        `json:"evidence" doc:"where it is read"`
	Slips     []string          `json:"slips,omitempty" doc:"codes of the slips that were named"`
	Prompt    string            `json:"prompt,omitempty" doc:"the passage that a person reads"`
}

// Evidence is a place in the report: a trial, an entry, a step of the working.
type Evidence struct {
	Trial string `json:"trial,omitempty"`
	Entry string `json:"entry,omitempty"`
	Step  string `json:"step,omitempty"`
	// Of a step: the student's figure and the one that follows from their own earlier
	// ones, in the step's usual unit.
	Given   *finding.Value `json:"given,omitempty"`
	Follows *finding.Value `json:"follows,omitempty"`
	Fits    bool           `json:"fits,omitempty"`
	// Of a question before the laboratory, with what was answered.
	Ask    *finding.Message `json:"ask,omitempty"`
	Answer string           `json:"answer,omitempty"`
}

// Full tells whether all the marks are proposed and certain: what may be accepted for
// many reports at once.
func (p Proposal) Full(c practical.Criterion) bool {
	return p.Certain && p.Marks != nil && p.Marks.Cmp(c.Marks) == 0
}

// Evaluate proposes marks for each criterion of a scheme, in its order.
func Evaluate(s practical.Scheme, r Report) []Proposal {
	out := make([]Proposal, len(s.Criteria))
	for i, c := range s.Criteria {
		m := &mark{Report: r, scheme: s, c: c, p: Proposal{Criterion: c.ID, Why: []finding.Message{}, Evidence: []Evidence{}}}
		if rule, ok := rules[c.Rule]; ok {
			rule(m)
		}
		for k := range i {
			if s.Criteria[k].ID == c.Needs && out[k].Marks != nil && out[k].Marks.IsZero() && m.p.Marks != nil && !m.p.Marks.IsZero() {
				m.give(0, true, whyNeeds.Message())
			}
		}
		out[i] = m.p
	}
	return out
}

// mark is one criterion being looked at.
type mark struct {
	Report
	scheme practical.Scheme
	c      practical.Criterion
	p      Proposal
}

func (m *mark) because(why ...finding.Message) { m.p.Why = append(m.p.Why, why...) }

// give proposes a share of the marks, 0 or 1.
func (m *mark) give(share int, certain bool, why ...finding.Message) {
	marks := m.c.Marks.Mul(decimal.Whole(int64(share)))
	m.p.Marks, m.p.Certain = &marks, certain
	m.because(why...)
}

// lose proposes all marks less those for so many things that are not right.
func (m *mark) lose(things int, why ...finding.Message) {
	marks := m.c.Marks.Sub(m.c.Each().Mul(decimal.Whole(int64(things))))
	if marks.Sign() < 0 {
		marks = decimal.Decimal{}
	}
	m.p.Marks, m.p.Certain = &marks, true
	m.because(why...)
}

// banded proposes by how far something is off, compared as it is, without what is left of
// the arithmetic, and says from what; it is shown with one figure more than the bands have, half up. A student
// is told the band and not how far: the true value would follow from it, for
// those too whose marks are not released.
func (m *mark) banded(off float64, unit quantity.Unit, from Referred, exact func(finding.Value) finding.Message) {
	d, ok := decimal.FromFloat(math.Round(math.Abs(off)*1e9) / 1e9)
	if !ok || len(m.c.Bands) == 0 {
		m.cannot(whyNoRef.Message())
		return
	}
	places := 0
	for _, b := range m.c.Bands {
		places = max(places, b.Within.Places())
	}
	m.p.Exact = append(m.p.Exact, exact(finding.Exact(d.Round(places+1), unit)))
	for _, b := range m.c.Bands {
		if d.Cmp(b.Within) <= 0 {
			marks := b.Marks
			m.p.Marks, m.p.Certain = &marks, true
			m.because(whyWithin[from].Message(finding.Exact(b.Within, unit)))
			return
		}
	}
	m.give(0, true, whyBeyond[from].Message(finding.Exact(m.c.Bands[len(m.c.Bands)-1].Within, unit)))
}

// cannot says that the evidence cannot tell.
func (m *mark) cannot(why finding.Message) { m.because(why) }

func (m *mark) onTrial(id string) { m.p.Evidence = append(m.p.Evidence, Evidence{Trial: id}) }
