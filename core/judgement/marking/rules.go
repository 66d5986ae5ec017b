package marking

import (
	"slices"
	"strings"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/working"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// rules are what the marks of a criterion are proposed by.
var rules = map[practical.MarkRule]func(*mark){
	practical.MarkSetup:       func(m *mark) { m.list(m.Evaluation.Setup) },
	practical.MarkCleanup:     func(m *mark) { m.list(m.Evaluation.Cleanup) },
	practical.MarkComplete:    (*mark).complete,
	practical.MarkCalibrated:  func(m *mark) { m.runs(whyCalibrated, "probe.uncalibrated", "probe.one-side", "probe.slope") },
	practical.MarkJump:        func(m *mark) { m.runs(whyJump, "series.coarse", "probe.no-end") },
	practical.MarkTail:        func(m *mark) { m.runs(whyTail, "series.no-tail", "probe.no-end") },
	practical.MarkResolution:  func(m *mark) { m.readings("reading.off-resolution", whyOnScale, whyBetween) },
	practical.MarkDecimals:    func(m *mark) { m.readings("reading.few-decimals", whyDecimals, whyShort) },
	practical.MarkSubtraction: (*mark).subtraction,
	practical.MarkRough:       func(m *mark) { m.mean(whyRoughOut) },
	practical.MarkAveraged:    (*mark).averaged,
	practical.MarkAgreement:   (*mark).agreement,
	practical.MarkEconomy:     (*mark).economy,
	practical.MarkTitre:       (*mark).titre,
	practical.MarkResult:      (*mark).result,
	practical.MarkAnswer:      (*mark).answer,
	practical.MarkStep:        (*mark).step,
	practical.MarkFigures:     func(m *mark) { m.last((*mark).figures) },
	practical.MarkUnit:        func(m *mark) { m.last((*mark).unit) },
	practical.MarkQuestions:   (*mark).questions,
	practical.MarkInTime:      (*mark).inTime,
	practical.MarkEvidence:    (*mark).evidence,
	practical.MarkPerson:      (*mark).person,
}

// trueValue is what an answer is compared with.
const trueValue Referred = "value"

var against = []Referred{ByTruth, ByTeacher, trueValue}

// Why something is proposed.
var (
	whyNeeds      = finding.Declare("mark.needs")
	whyDone       = finding.Declare("mark.done", "count")
	whyNothing    = finding.Declare("mark.no-list")
	whyUndone     = finding.Declare("mark.undone", "count")
	whyCalibrated = finding.Declare("mark.calibrated", "count")
	whyJump       = finding.Declare("mark.jump", "count")
	whyTail       = finding.Declare("mark.tail", "count")
	whyMade       = finding.Declare("mark.made")
	whyNotMade    = finding.Declare("mark.not-made")
	whyNoTrials   = finding.Declare("mark.no-trials")
	whyComplete   = finding.Declare("mark.complete", "count")
	whyOpen       = finding.Declare("mark.incomplete", "count")
	whyOnScale    = finding.Declare("mark.on-resolution", "count")
	whyDecimals   = finding.Declare("mark.same-decimals", "count")
	whyBetween    = finding.Declare("mark.readings-between", "count")
	whyShort      = finding.Declare("mark.readings-short", "count")
	whySubtracted = finding.Declare("mark.subtracted")
	whyRoughOut   = finding.Declare("mark.rough-out")
	whyAgreeing   = finding.Declare("mark.averaged")
	whyNoMean     = finding.Declare("mark.no-mean")
	whyUnclear    = finding.Declare("mark.mean-unclear")
	whyOneEnough  = finding.Declare("mark.one-enough")
	whyNoTime     = finding.Declare("mark.one-in-time")
	whyAgreed     = finding.Declare("mark.agreed", "count")
	whyDisagree   = finding.Declare("mark.disagree", "count")
	whyTrials     = finding.Declare("mark.trials", "count", "most")
	whyNoRef      = finding.Declare("mark.no-reference")
	whyNoAnswer   = finding.Declare("mark.no-answer")
	whyTitre      = finding.Family("mark.titre-", []Referred{ByTruth, ByTeacher}, "off")
	whyPercent    = finding.Declare("mark.percent", "percent")
	whyOwn        = finding.Declare("mark.own-answer", "percent")
	whyWithin     = finding.Family("mark.within-", against, "within")
	whyBeyond     = finding.Family("mark.beyond-", against, "within")
	whyNotWorked  = finding.Declare("mark.not-worked")
	whyRight      = finding.Declare("mark.step-right")
	whyCarried    = finding.Declare("mark.step-carried")
	whyApart      = finding.Declare("mark.step-apart")
	whyWrong      = finding.Declare("mark.step-wrong")
	whySlip       = finding.Declare("mark.step-slip", "slip")
	whyNoStep     = finding.Declare("mark.no-step")
	whyFigures    = finding.Family("mark.figures-", []string{"right", "few", "many"})
	whyUnit       = finding.Family("mark.unit-", []string{"right", "wrong"})
	whyQuestions  = finding.Declare("mark.questions", "right", "of")
	whyWords      = finding.Declare("mark.questions-words", "count")
	whyNoQuestion = finding.Declare("mark.no-questions")
	whyInTime     = finding.Declare("mark.in-time")
	whyLate       = finding.Declare("mark.late")
	whyPictures   = finding.Declare("mark.pictures", "count")
	whyNoPicture  = finding.Declare("mark.no-picture", "names")
	whyPerson     = finding.Declare("mark.person")
	whyEmpty      = finding.Declare("mark.nothing-written")
)

func (m *mark) list(items []evaluation.Item) {
	undone := len(evaluation.Undone(items))
	switch {
	case len(items) == 0:
		m.cannot(whyNothing.Message())
	case undone == 0:
		m.lose(0, whyDone.Message(finding.Count(len(items))))
	default:
		m.lose(undone, whyUndone.Message(finding.Count(undone)))
	}
}

// evidence looks whether every photograph that is asked for is there; what it shows a person sees.
func (m *mark) evidence() {
	var missing []finding.Value
	for _, e := range m.Evaluation.Evidence {
		if len(e.Pictures) == 0 {
			missing = append(missing, finding.Said(journal.EvidenceSaid(e.Code)))
		}
	}
	switch n := len(m.Evaluation.Evidence); {
	case n == 0:
		m.cannot(whyNothing.Message())
	case len(missing) == 0:
		m.lose(0, whyPictures.Message(finding.Count(n)))
	default:
		m.lose(len(missing), whyNoPicture.Message(finding.List(missing...)))
	}
}

// judged are the trials that are part of the measurement.
func (m *mark) judged() []evaluation.Trial {
	var out []evaluation.Trial
	for _, t := range m.Evaluation.Trials {
		if !t.Withdrawn && t.Type.Judged() {
			out = append(out, t)
		}
	}
	return out
}

func (m *mark) complete() {
	if m.Evaluation.MadeOnly {
		if m.Evaluation.Stage.Done() {
			m.lose(0, whyMade.Message())
		} else {
			m.give(0, true, whyNotMade.Message())
		}
		return
	}
	trials := m.judged()
	lacking := 0
	for _, t := range trials {
		switch t.Reason {
		case evaluation.OutOpen, evaluation.OutNoSample, evaluation.OutNoReagent, evaluation.OutNoMass, evaluation.OutNoFirst, evaluation.OutNegative:
			lacking++
			m.onTrial(t.ID)
		}
	}
	switch {
	case len(trials) == 0:
		m.give(0, true, whyNoTrials.Message())
	case lacking == 0:
		m.lose(0, whyComplete.Message(finding.Count(len(trials))))
	default:
		m.lose(lacking, whyOpen.Message(finding.Count(lacking)))
	}
}

// readings looks for findings of one code about readings.
func (m *mark) readings(code string, fine, wrong finding.Code) {
	off := 0
	for _, f := range m.Evaluation.Findings {
		if f.Code == code {
			off++
			m.onTrial(f.Subject)
		}
	}
	switch n := len(m.judged()); {
	case n == 0:
		m.give(0, true, whyNoTrials.Message())
	case off == 0:
		m.lose(0, fine.Message(finding.Count(n)))
	default:
		m.lose(off, wrong.Message(finding.Count(off)))
	}
}

// runs looks for findings of some codes about the runs of a probe, or about the probe: each
// run loses once, with what is the matter.
func (m *mark) runs(fine finding.Code, codes ...string) {
	counted := map[string]bool{}
	for _, t := range m.judged() {
		counted[t.ID] = t.SetAside == nil && t.Ran != nil
	}
	n := 0
	for _, run := range m.Evaluation.Runs {
		if counted[run.Trial] {
			n++
		}
	}
	off := map[string]bool{}
	for _, f := range m.Evaluation.Findings {
		if slices.Contains(codes, f.Code) && (f.Subject == "" || counted[f.Subject]) {
			if !off[f.Subject] {
				m.onTrial(f.Subject)
				m.because(f.Message)
			}
			off[f.Subject] = true
		}
	}
	switch {
	case m.Evaluation.Probe == nil:
		m.cannot(whyNothing.Message())
	case n == 0:
		m.give(0, true, whyNoTrials.Message())
	case len(off) == 0:
		m.lose(0, fine.Message(finding.Count(n)))
	default:
		m.lose(len(off))
	}
}

func (m *mark) agreement() {
	for _, t := range m.Evaluation.Trials {
		if t.Counts {
			m.onTrial(t.ID)
		}
	}
	agreed, n := m.agreed()
	switch rule := m.Ready.Rules.Agreement; {
	case agreed && rule.Need == 1:
		m.give(1, true, whyOneEnough.Message())
		return
	case agreed && m.alone(): // as time allowed
		m.cannot(whyNoTime.Message())
		return
	case agreed:
		m.lose(0, whyAgreed.Message(finding.Count(len(m.p.Evidence))))
		return
	}
	m.give(0, true, whyDisagree.Message(finding.Count(n)))
}

func (m *mark) economy() {
	most := m.c.Most
	if most == 0 {
		most = m.Ready.Norms().Count(practical.EconomyTrials)
	}
	most *= max(1, len(m.Evaluation.Samples))
	_, n := m.agreed()
	if n == 0 {
		m.give(0, true, whyNoTrials.Message())
		return
	}
	m.lose(max(0, n-most), whyTrials.Message(finding.Count(n), finding.Count(most)))
}

func (m *mark) titre() {
	agreed, _ := m.agreed()
	switch {
	case !agreed:
		m.cannot(whyNoAnswer.Message())
	case m.Referred == NoReference:
		m.cannot(whyNoRef.Message())
	default:
		m.banded(m.Titre, quantity.Millilitre, m.Referred, func(off finding.Value) finding.Message { return whyTitre[m.Referred].Message(off) })
	}
}

// result is how close what follows from the readings comes to the true value, whatever the
// student made of them.
func (m *mark) result() {
	r := m.Evaluation.Result
	switch {
	case r == nil || r.Single:
		m.cannot(whyNoAnswer.Message())
	case r.Reference == nil:
		m.cannot(whyNoRef.Message())
	default:
		m.banded(r.Reference.Percent, quantity.Percent, trueValue, func(off finding.Value) finding.Message { return whyPercent.Message(off) })
	}
}

// answer is how close the student's own final answer comes to the true value, in its unit.
func (m *mark) answer() {
	i := slices.IndexFunc(m.Evaluation.Work, func(s working.Step) bool { return s.Node.ID == working.Final })
	if r := m.Evaluation.Result; r == nil || r.Reference == nil {
		m.cannot(whyNoRef.Message())
		return
	} else if i >= 0 {
		s, truth := m.Evaluation.Work[i], r.Reference.Value
		m.onStep(s)
		switch {
		case s.Answer == nil || s.Verdict == "":
		case s.Unfit:
			m.give(0, true, whyUnit["wrong"].Message())
			return
		default:
			m.banded(100*(s.Given-truth)/truth, quantity.Percent, trueValue, func(off finding.Value) finding.Message { return whyOwn.Message(off) })
			return
		}
	}
	m.give(0, true, whyNotWorked.Message())
}

func (m *mark) questions() {
	judged, right, read := 0, 0, 0
	for _, q := range m.Questions {
		m.p.Evidence = append(m.p.Evidence, Evidence{Ask: &q.Ask, Answer: q.Given, Fits: q.Right})
		switch {
		case q.Judged && q.Right:
			judged, right = judged+1, right+1
		case q.Judged:
			judged++
		case q.Given != "":
			read++
		}
	}
	switch {
	case judged == 0 && read == 0:
		m.cannot(whyNoQuestion.Message())
		return
	case judged > 0:
		m.lose(judged-right, whyQuestions.Message(finding.Count(right), finding.Count(judged)))
	}
	if read > 0 { // answers in words are a person's to judge
		m.p.Certain = false
		m.because(whyWords.Message(finding.Count(read)))
	}
}

func (m *mark) inTime() {
	if m.Late {
		m.lose(1, whyLate.Message())
		return
	}
	m.lose(0, whyInTime.Message())
}

func (m *mark) person() {
	m.p.Prompt = m.c.Prompt
	for _, p := range m.Evaluation.Passages {
		if p.Prompt != m.c.Prompt {
			continue
		}
		if !slices.ContainsFunc(p.Stand, func(t evaluation.PassageText) bool { return strings.TrimSpace(t.Text) != "" }) {
			m.give(0, true, whyEmpty.Message())
			return
		}
		m.p.Evidence = append(m.p.Evidence, Evidence{Entry: p.Stand[len(p.Stand)-1].Entry})
	}
	m.because(whyPerson.Message())
}
