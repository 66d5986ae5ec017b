package marking

import (
	"slices"
	"strings"

	"exactflask/core/judgement/diagnosis"
	"exactflask/core/judgement/working"
	dv "exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
)

// onStep shows a step as evidence.
func (m *mark) onStep(s working.Step) {
	e := Evidence{Step: s.Step, Fits: s.Fits}
	if s.Answer != nil {
		e.Entry = s.Answer.Entry
		if s.Verdict != "" {
			given, follows := finding.Number(s.Given, figuresShown, s.Unit), finding.Number(s.Follows, figuresShown, s.Unit)
			e.Given, e.Follows = &given, &follows
		}
	}
	m.p.Evidence = append(m.p.Evidence, e)
}

const figuresShown = 5 // of what follows: one more than is usually written

func (m *mark) step() {
	there, wrong, unclear, apart := 0, 0, 0, 0
	keys := keysOf(m.Evaluation.Work)
	for i, s := range m.Evaluation.Work {
		if keys[i] != m.c.Step {
			continue
		}
		there++
		m.onStep(s)
		shown, shows := m.find(s.Sample, s.ShownBy)
		switch {
		case shows && (shown.Fits || shown.Slip != ""): // its one slip is lost where it stands
			m.because(whySkipped.Message())
		case shows:
			unclear++
			m.because(whyHidden.Message())
		case s.Answer == nil:
			wrong++
			m.because(whyNotWorked.Message())
		case m.before(s):
			m.because(whyAgain.Message())
		case m.elsewhere(s):
			m.p.Slips = append(m.p.Slips, s.Slip)
			m.because(whyElsewhere.Message(slipSaid(s.Slip)))
		case s.Slip != "":
			wrong++
			m.p.Slips = append(m.p.Slips, s.Slip)
			m.because(whySlip.Message(slipSaid(s.Slip)))
		case !s.Fits:
			wrong++
			m.because(whyWrong.Message())
		case s.Order:
			apart++
			m.because(whyOrder.Message())
		case s.Without:
			apart++
			m.because(whyWithout.Message())
		case s.School:
			m.because(whySchool.Message())
		case s.Carried:
			m.because(whyCarried.Message())
		case s.Apart:
			apart++
			m.because(whyApart.Message())
		}
	}
	switch {
	case there == 0:
		m.cannot(whyNoStep.Message())
		return
	case unclear > 0:
		return
	case len(m.p.Why) == 0:
		m.because(whyRight.Message())
	}
	m.lose(wrong)
	if apart > 0 { // right by two wrongs, by what was not written down, in another order
		m.p.Certain = false
	}
}

// find is a step of a sample's working by its id.
func (m *mark) find(sample, id string) (working.Step, bool) {
	for _, s := range m.Evaluation.Work {
		if s.Sample == sample && id != "" && (s.Step == id || strings.HasSuffix(s.Step, ":"+id)) {
			return s, true
		}
	}
	return working.Step{}, false
}

// covers are the slips of a mean that criteria of their own are about: a slip loses once.
var covers = map[practical.MarkRule][]string{
	practical.MarkSubtraction: {"slip.from-capacity", "slip.start-left-out", "slip.read-upward"},
	practical.MarkRough:       {"slip.rough-included"},
	practical.MarkAveraged:    {"slip.all-averaged", "slip.two-closest", "slip.one-alone"},
}

// elsewhere tells whether another criterion of the scheme is about the slip of a step: too
// few figures of the answer are what its figures are about.
func (m *mark) elsewhere(s working.Step) bool {
	return slices.ContainsFunc(m.scheme.Criteria, func(c practical.Criterion) bool {
		return slices.Contains(covers[c.Rule], s.Slip) || c.Rule == practical.MarkFigures && s.Slip == diagnosis.RoundedEarly && isFinal(s)
	})
}

// before tells whether the slip of a step was lost already where it was made first: in a
// step that the scheme gives marks for.
func (m *mark) before(s working.Step) bool {
	first, ok := m.find(s.Sample, s.Again)
	if !ok {
		return false
	}
	keys := keysOf(m.Evaluation.Work)
	return m.elsewhere(first) || slices.ContainsFunc(m.scheme.Criteria, func(c practical.Criterion) bool {
		for i, step := range m.Evaluation.Work {
			if step.Step == first.Step && step.Sample == first.Sample {
				return c.Rule == practical.MarkStep && c.Step == keys[i]
			}
		}
		return false
	})
}

// isFinal tells whether a step is an answer itself: of one of several samples, and the other
// one of a mixture, too.
func isFinal(s working.Step) bool {
	return s.Node.ID == working.Final || s.Node.ID == dv.Second || strings.HasSuffix(s.Step, ":"+working.Final)
}

var (
	whyElsewhere = finding.Declare("mark.step-elsewhere", "slip")
	whySkipped   = finding.Declare("mark.step-skipped")
	whyHidden    = finding.Declare("mark.step-hidden")
	whyAgain     = finding.Declare("mark.step-again")
	whyOrder     = finding.Declare("mark.step-order")
	whyWithout   = finding.Declare("mark.step-without")
	whySchool    = finding.Declare("mark.step-school")
)

// last judges the answers themselves.
func (m *mark) last(look func(*mark, working.Step) bool) {
	there, wrong := 0, 0
	for _, s := range m.Evaluation.Work {
		if !isFinal(s) {
			continue
		}
		m.onStep(s)
		if s.Answer == nil || s.Verdict == "" {
			continue
		}
		there++
		if !look(m, s) {
			wrong++
		}
	}
	if there == 0 {
		m.give(0, true, whyNotWorked.Message())
		return
	}
	m.lose(wrong)
}

// figures judges the figures, also of a number that is wrong.
func (m *mark) figures(s working.Step) bool {
	deserved := s.Node.Quantity.Figures
	if n := m.Ready.Rules.Figures; n > 0 {
		deserved = n
	}
	digits, _, err := journal.ParseFigure(s.Answer.Text)
	switch {
	case err == nil && deserved > 0 && digits.Figures() < deserved:
		m.because(whyFigures["few"].Message())
	case err == nil && deserved > 0 && working.SureFigures(digits) > deserved:
		m.because(whyFigures["many"].Message())
	default:
		m.because(whyFigures["right"].Message())
		return true
	}
	return false
}

func (m *mark) unit(s working.Step) bool {
	if s.Unfit {
		m.because(whyUnit["wrong"].Message())
		return false
	}
	m.because(whyUnit["right"].Message())
	return true
}
