package experiment

import (
	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

var (
	nextRough         = finding.Declare("next.rough")
	nextBlank         = finding.Declare("next.blank")
	nextSetup         = finding.Declare("next.setup", "item")
	nextAccurate      = finding.Declare("next.accurate", "count")
	nextDisagree      = finding.Declare("next.disagree", "tolerance")
	nextImpossible    = finding.Declare("next.impossible", "problem")
	nextApart         = finding.Declare("next.disagree-relative", "percent")
	nextCheck         = finding.Declare("next.check-readings")
	nextAgreed        = finding.Declare("next.agreed", "count", "mean")
	nextOne           = finding.Declare("next.one", "mean")
	nextAll           = finding.Declare("next.all", "count", "mean")
	nextOneSample     = finding.Declare("next.one-relative")
	nextAllSamples    = finding.Declare("next.all-relative", "count")
	nextIfTime        = finding.Declare("next.if-time", "count")
	nextAgreedSamples = finding.Declare("next.agreed-relative", "count")
	nextAllAgreed     = finding.Declare("next.agreed-samples", "count")
	nextNothingLeft   = finding.Declare("next.nothing-left")
	nextShort         = finding.Declare("next.short", "count")
	nextLeft          = finding.Declare("next.left", "count")
	nextRelative      = finding.Declare("next.relative", "percent")
	nextSample        = finding.Family("next.", []journal.Place{journal.SampleStart, journal.ReagentStart})
	nextSampleEnd     = finding.Family("next.", []journal.Place{journal.SampleEnd, journal.ReagentEnd}, "volume")
	nextFirstEnd      = finding.Declare("next.first-end")
	nextMassMissing   = finding.Declare("next.mass-missing", "trial")
	nextStandard      = finding.Declare("next.weigh-standard", "of")
	nextBoth          = finding.Declare("next.both-open", "names")
	nextWeigh         = finding.Declare("next.weigh")
	nextAfterRefill   = finding.Declare("next.after-refill", "before")
	nextReadStart     = finding.Declare("next.read-start")
	nextRefill        = finding.Declare("next.refill", "last")
	nextFillFirst     = finding.Declare("next.fill-first", "left", "need")
	nextFillWithin    = finding.Declare("next.fill-within", "need")
	nextBeyond        = finding.Declare("next.beyond", "capacity")
	runBlind          = finding.Declare("next.run-blind")
	runRoughBlind     = finding.Declare("next.run-rough-blind", "step")
	run               = finding.Declare("next.run", "slow", "drop", "expect")
	runRough          = finding.Declare("next.run-rough", "step", "expect")
	probeFirst        = finding.Declare("next.probe-first")
	probeStep         = finding.Declare("next.probe-step", "add", "to")
	probeTail         = finding.Declare("next.probe-tail", "count", "add", "to")
	probeEnough       = finding.Declare("next.probe-enough")
	probeFill         = finding.Declare("next.probe-fill", "add")
	probeCalibrate    = finding.Declare("next.probe-calibrate", "buffers")
	runSpan           = finding.Declare("next.run-span", "slow", "drop", "low", "high")
)

// advising collects what is looked at to find what to do now.
type advising struct {
	rec    recorded
	j      judged
	steer  steering
	groups []group // of several samples, and which of them is worked on
	hand   int
	supply *evaluation.SupplyLeft
	setup  []evaluation.Item
	stage  evaluation.Stage
}

// nextOf finds what to do now.
func nextOf(a advising) evaluation.Next {
	if a.rec.r.MadeOnly() {
		return nextOfSolution(a.rec, a.setup)
	}
	last, open := lastTrial(a.j.trials)
	var n evaluation.Next
	if open != nil {
		n = a.running(open)
		a.beginning(&n, open)
	} else {
		n = a.opening(last)
	}
	a.weigh(&n, open)
	if e := n.Entry; e != nil && e.Opens != "" {
		e.May = a.openings(e.Place)
	}
	if a.groups == nil {
		return n
	}
	if e := n.Entry; e != nil && e.Opens != "" {
		e.Sample = a.groups[a.hand].name
	}
	if a.stage.Done() {
		n.Say = []finding.Message{nextAllAgreed.Message(finding.Count(len(a.groups)))}
	}
	return n
}

// beginning says that other trials are open beside one, and what is expected for each: a reading is
// of the trial that was shown when it was typed.
func (a advising) beginning(n *evaluation.Next, open *evaluation.Trial) {
	names := []finding.Value{}
	for i := range a.j.trials {
		t := &a.j.trials[i]
		if !isOpen(t) {
			continue
		}
		names = append(names, finding.Said(trialName(t)))
		if t.ID != open.ID {
			n.Others = append(n.Others, *a.running(t).Entry)
		}
	}
	if len(n.Others) > 0 {
		n.Say = append([]finding.Message{nextBoth.Message(finding.List(names...))}, n.Say...)
	}
}

// isOpen tells whether a trial still waits for a reading.
func isOpen(t *evaluation.Trial) bool {
	return !t.Withdrawn && t.Titre == nil && t.Ran == nil && t.SetAside == nil
}

// openings are the trials that may be opened, where the first reading of one with a sample
// stands at a place: a blank has no sample to measure and is of none, and a repeat without
// indicator is for a salt.
func (a advising) openings(place journal.Place) []evaluation.MayOpen {
	types := []journal.TrialType{journal.Rough, journal.Accurate, journal.Blank, journal.Practice}
	if a.rec.r.Chemistry.Salt != "" {
		types = append(types, journal.Repeat)
	}
	out := make([]evaluation.MayOpen, len(types))
	for i, t := range types {
		out[i] = evaluation.MayOpen{Type: t, Place: place, Sample: a.groups != nil}
		if t == journal.Blank {
			out[i] = evaluation.MayOpen{Type: t, Place: journal.Start}
		}
	}
	return out
}

// weigh says whose mass is to be written: of a trial that ended without one, of
// the one that is open, or of the one to be opened.
func (a advising) weigh(n *evaluation.Next, open *evaluation.Trial) {
	r := a.rec.r
	if r.WeighsStandard() && a.rec.assay.Held().Standard == nil && open == nil {
		n.Weigh = &evaluation.Weigh{Standard: true}
		if len(a.j.trials) == 0 {
			n.Say = append([]finding.Message{nextStandard.Message(finding.Formula(r.Made[0].Salt.Plain()))}, n.Say...)
		}
		return
	}
	if !r.Weighs() {
		return
	}
	if !r.MassEach() {
		n.Weigh = &evaluation.Weigh{}
		if m := a.rec.assay.Held().Mass; m != nil {
			before := m[0].Value.Sub(m[1].Value)
			n.Weigh.Before = &before
		}
		return
	}
	for i := range a.j.trials {
		if t := &a.j.trials[i]; t.Reason == evaluation.OutNoMass {
			n.Weigh = &evaluation.Weigh{Trial: t.ID}
			n.Say = append([]finding.Message{nextMassMissing.Message(finding.Said(trialName(t)))}, n.Say...)
			return
		}
	}
	switch {
	case open != nil && open.Type != journal.Blank:
		n.Weigh = &evaluation.Weigh{Trial: open.ID, Before: open.Mass}
		if open.Mass == nil && open.Start == nil {
			n.Say = append([]finding.Message{nextWeigh.Message()}, n.Say...)
		}
	case open == nil && n.Entry != nil && n.Entry.Opens != journal.Blank:
		n.Weigh = &evaluation.Weigh{Opens: n.Entry.Opens}
	}
}

// trialName is spoken with the names that trials have everywhere.
func trialName(t *evaluation.Trial) finding.Message {
	return finding.Message{Code: "trial." + string(t.Type), Values: finding.Values{"number": finding.Count(t.Number)}}
}

// opening says which trial to begin.
func (a advising) opening(last *evaluation.Trial) evaluation.Next {
	r, status := a.rec.r, a.j.verdict.Status
	opens := journal.Accurate
	var say finding.Message
	switch {
	case r.ByBlank() && len(a.rec.assay.Held().Blanks) == 0:
		opens, say = journal.Blank, nextBlank.Message()
	case !r.Rules.Readings.NoRough && !hasRough(a.steer.rec.trials) && len(a.j.compared) == 0:
		opens, say = journal.Rough, nextRough.Message()
	case status == agreement.Agreed && a.j.impossible() != nil:
		say = nextImpossible.Message(finding.Said(a.j.impossible().Message))
	case status == agreement.Agreed && a.j.agreement.Missing > 0:
		say = nextIfTime.Message(finding.Count(a.j.agreement.Missing))
	case status == agreement.Agreed:
		return evaluation.Next{Entry: &evaluation.Expect{Opens: journal.Accurate, Place: journal.Start}, Say: []finding.Message{a.done()}}
	case status == agreement.Disagree && r.Rules.Agreement.Kind == practical.Relative:
		say = nextApart.Message(finding.Exact(r.Rules.Agreement.Percent, "%"))
	case status == agreement.Disagree:
		say = nextDisagree.Message(mL(r.Rules.Agreement.Tolerance))
	case last != nil && last.Reason == evaluation.OutNegative:
		say = nextCheck.Message()
	default:
		say = nextAccurate.Message(finding.Count(a.j.agreement.Missing))
	}
	n := evaluation.Next{Entry: &evaluation.Expect{Opens: opens, Place: journal.Start}}
	if len(a.j.trials) == 0 {
		if undone := evaluation.Undone(a.setup); len(undone) > 0 {
			n.Say = append(n.Say, nextSetup.Message(finding.Said(journal.ItemSaid(undone[0].Code))))
		}
	}
	if a.supply != nil && a.supply.Trials == 0 {
		say = nextNothingLeft.Message()
	}
	if p := a.rec.probe; p != nil && p.In == 0 && len(p.Buffers) > 0 {
		var named []finding.Value
		for _, b := range p.Buffers {
			named = append(named, finding.Text(b))
		}
		n.Say = append(n.Say, probeCalibrate.Message(finding.List(named...)))
	}
	n.Say = append(n.Say, say)
	a.beside(&n, opens, status)
	if r.MassEach() && opens != journal.Blank {
		n.Say = append(n.Say, nextWeigh.Message())
	}
	a.proposal(&n, opens, last)
	return n
}

// done says that the bench work is, and by how many titres.
func (a advising) done() finding.Message {
	chosen, mean := a.j.agreement.Chosen, a.j.agreement.Mean
	count := finding.Count(len(chosen))
	switch {
	case mean == nil && len(chosen) == 1:
		return nextOneSample.Message()
	case mean == nil && a.rec.r.Rules.Agreement.Need == 1:
		return nextAllSamples.Message(count)
	case mean == nil:
		return nextAgreedSamples.Message(count)
	case len(chosen) == 1:
		return nextOne.Message(mL(*mean))
	case a.rec.r.Rules.Agreement.Need == 1:
		return nextAll.Message(count, mL(*mean))
	}
	return nextAgreed.Message(count, mL(*mean))
}

// beside adds what should be known with it: how samples are compared, and for
// how many trials there is enough left.
func (a advising) beside(n *evaluation.Next, opens journal.TrialType, status agreement.Status) {
	rule := a.rec.r.Rules.Agreement
	if rule.Kind == practical.Relative && status != agreement.Disagree {
		n.Say = append(n.Say, nextRelative.Message(finding.Exact(rule.Percent, "%")))
	}
	if a.supply == nil || a.supply.Trials == 0 {
		return
	}
	left := finding.Count(a.supply.Trials)
	if opens == journal.Accurate && a.supply.Trials < a.j.agreement.Missing {
		n.Say = append(n.Say, nextShort.Message(left))
		return
	}
	n.Say = append(n.Say, nextLeft.Message(left))
}

// proposal finds the first reading of the trial to open, and proposes where the
// burette stands, if what is left in it suffices.
func (a advising) proposal(n *evaluation.Next, opens journal.TrialType, last *evaluation.Trial) {
	r := a.rec.r
	zero := r.Rules.Readings.StartAtZero
	own := func(place journal.Place, end func(*evaluation.Trial) *journal.Reading) {
		n.Entry.Place = place
		for i := range a.j.trials {
			if e := end(&a.j.trials[i]); e != nil && !zero {
				n.Entry.Proposal = e.Value.String()
			}
		}
	}
	switch {
	case r.SampleBurette() && opens != journal.Blank:
		own(journal.SampleStart, func(t *evaluation.Trial) *journal.Reading { return t.SampleEnd })
		return
	case r.ReagentBurette() && opens != journal.Blank:
		own(journal.ReagentStart, func(t *evaluation.Trial) *journal.Reading { return t.ReagentEnd })
		return
	case zero || last == nil || last.End == nil || a.drawn(last.End).Sign() < 0:
		return
	}
	e, known := a.steer.coming, a.steer.known
	if !known || opens == journal.Blank {
		return
	}
	if a.fits(a.drawn(last.End), e) {
		n.Entry.Proposal = last.End.Value.String()
	} else {
		n.Say = append(n.Say, nextRefill.Message(finding.Text(last.End.Text)))
	}
}

// ran is what had left the burette at a reading, mL.
func (a advising) drawn(r *journal.Reading) decimal.Decimal {
	return a.rec.r.Glass.Burette.Drawn(r.Value)
}

// fits tells whether the expected titre fits on the scale from what has left on.
func (a advising) fits(from decimal.Decimal, e expectation) bool {
	return from.Add(e.high).Add(a.rec.r.Norms().Value(practical.SpareVolume)).Cmp(a.rec.r.Glass.Burette.Capacity) <= 0
}

// lastTrial returns the last trial that was not withdrawn, and the last one
// that still waits for a reading.
func lastTrial(trials []evaluation.Trial) (last, open *evaluation.Trial) {
	for i := range trials {
		t := &trials[i]
		if t.Withdrawn {
			continue
		}
		last = t
		if isOpen(t) {
			open = t
		}
	}
	return last, open
}

// endBefore is the last end reading of the trials before this one.
func endBefore(trials []evaluation.Trial, id string) *journal.Reading {
	var last *journal.Reading
	for i := range trials {
		if trials[i].ID == id {
			break
		}
		if trials[i].End != nil && !trials[i].Withdrawn {
			last = trials[i].End
		}
	}
	return last
}

func hasRough(trials []evaluation.Trial) bool {
	for i := range trials {
		if t := &trials[i]; t.Type == journal.Rough && !t.Withdrawn && t.SetAside == nil && t.Titre != nil &&
			t.Titre.Sign() > 0 {
			return true
		}
	}
	return false
}
