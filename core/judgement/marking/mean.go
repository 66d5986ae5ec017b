package marking

import (
	"slices"

	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/working"
	dv "exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/values/finding"
)

// means are the steps of the own working that average titres.
func (m *mark) means() []working.Step {
	var out []working.Step
	for _, s := range m.Evaluation.Work {
		if s.Node.ID == dv.MeanTitre {
			out = append(out, s)
		}
	}
	return out
}

// mean judges what the own mean titre shows: a slip that is one of these, another, or none.
func (m *mark) mean(fine finding.Code) {
	means, faults := m.means(), covers[m.c.Rule]
	answered, unclear, wrong := 0, 0, 0
	for _, s := range means {
		if s.Answer == nil {
			continue
		}
		answered++
		m.onStep(s)
		switch {
		case slices.Contains(faults, s.Slip):
			wrong++
			m.because(whySlip.Message(slipSaid(s.Slip)))
		case !s.Fits && s.Slip == "":
			unclear++
		}
	}
	switch {
	case answered == 0:
		m.cannot(whyNoMean.Message())
	case wrong > 0:
		m.lose(wrong)
	case unclear > 0:
		m.cannot(whyUnclear.Message())
	default:
		m.lose(0, fine.Message())
	}
}

// subtraction judges the titres that the student subtracted, where they are asked for; else
// what the own mean shows of it.
func (m *mark) subtraction() {
	asked, wrong := false, 0
	for _, s := range m.Evaluation.Work {
		if s.Code != working.Subtraction {
			continue
		}
		asked = true
		m.onStep(s)
		switch {
		case s.Answer == nil:
			wrong++
			m.because(whyNotWorked.Message())
		case s.Slip != "":
			wrong++
			m.p.Slips = append(m.p.Slips, s.Slip)
			m.because(whySlip.Message(slipSaid(s.Slip)))
		case !s.Fits:
			wrong++
			m.because(whyWrong.Message())
		}
	}
	switch {
	case !asked:
		m.mean(whySubtracted)
	case wrong > 0:
		m.lose(wrong)
	default:
		m.lose(0, whySubtracted.Message())
	}
}

// slipSaid is a slip as it is said. Who slipped is counted by the step that it is in.
func slipSaid(code string) finding.Value { return finding.Said(finding.Message{Code: code}) }

func (m *mark) averaged() {
	if agreed, n := m.agreed(); !agreed {
		for _, s := range m.means() {
			if s.Answer != nil { // whatever was averaged does not agree
				m.onStep(s)
				m.give(0, true, whyDisagree.Message(finding.Count(n)))
				return
			}
		}
		m.cannot(whyNoMean.Message())
		return
	}
	m.mean(whyAgreeing)
}

// agreed tells whether the titres agree, of several samples those of each, and how many
// accurate trials there are.
func (m *mark) agreed() (bool, int) {
	accurate := 0
	for _, t := range m.judged() {
		if t.Type == journal.Accurate && t.Titre != nil && t.Reason != evaluation.OutSetAside {
			accurate++
		}
	}
	for _, s := range m.Evaluation.Samples {
		if s.Agreement.Status != agreement.Agreed {
			return false, accurate
		}
	}
	return len(m.Evaluation.Samples) > 0 || m.Evaluation.Agreement.Status == agreement.Agreed, accurate
}

// alone tells whether an answer comes of a single titre, with which none agrees; of several
// samples, of one of them.
func (m *mark) alone() bool {
	for _, s := range m.Evaluation.Samples {
		if len(s.Agreement.Chosen) == 1 {
			return true
		}
	}
	return len(m.Evaluation.Agreement.Chosen) == 1
}
