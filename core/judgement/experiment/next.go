package experiment

import (
	"slices"

	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/working"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

// Next is the one thing to do now.
type Next struct {
	// Say is what to do, and what should be known with it, in order.
	Say []finding.Message `json:"say"`
	// Entry describes the entry that the bench expects.
	Entry *Expect `json:"entry,omitempty"`
	// SlowAt, DropAt and ExpectAt are readings in mL to look for.
	SlowAt   *decimal.Decimal `json:"slowAt,omitempty" doc:"reading at which free flow ends, mL"`
	DropAt   *decimal.Decimal `json:"dropAt,omitempty" doc:"reading from which to go drop by drop, mL"`
	ExpectAt *decimal.Decimal `json:"expectAt,omitempty" doc:"reading at which the end is expected, mL; where trials differ the earliest"`
	ExpectTo *decimal.Decimal `json:"expectTo,omitempty" doc:"the latest, where trials differ, mL"`
	Weigh    *Weigh           `json:"weigh,omitempty" doc:"whose mass is to be written next; left out where nothing is weighed"`
}

// Weigh says which sample a weighing is of: it belongs to the trial that it is
// asked for, and to none other.
type Weigh struct {
	Trial  string            `json:"trial,omitempty" doc:"id of the trial; empty where one is to be opened for it, or one weighing is for all"`
	Opens  journal.TrialType `json:"opens,omitempty" enum:"rough,accurate,practice" doc:"type of the trial to open for it"`
	Before *decimal.Decimal  `json:"before,omitempty" doc:"mass of the same sample that was written before, g: another takes its place"`
}

// Onward is where a notebook goes on to from the bench.
type Onward string

// The places.
const (
	ToWork   Onward = "work"   // the student's own working
	ToResult Onward = "result" // the answer with its working
	ToReport Onward = "report"
)

// Then is where it goes on to once the titres agree: to the own working while the result
// waits for it and a step of it has no answer, to the result where it is shown, else to
// the report; empty before.
func (ev Evaluation) Then() Onward {
	unanswered := func(s working.Step) bool { return s.Answer == nil }
	switch {
	case ev.Stage != Agreed:
		return ""
	case ev.Withheld && slices.ContainsFunc(ev.Work, unanswered):
		return ToWork
	case ev.Result != nil || !ev.Withheld && len(ev.Samples) > 0:
		return ToResult
	}
	return ToReport
}

// Code is that of the first thing to do.
func (n Next) Code() string { return n.Say[0].Code }

// Expect describes the entry the bench waits for: a reading of an open trial,
// or the start reading of a trial that is still to be opened.
type Expect struct {
	Trial    string            `json:"trial,omitempty" doc:"id of the open trial; empty when one is to be opened"`
	Opens    journal.TrialType `json:"opens,omitempty" enum:"rough,accurate,blank,practice,repeat" doc:"type of the trial to open"`
	Sample   string            `json:"sample,omitempty" doc:"of several samples the one that is proposed for the trial to open"`
	Point    bool              `json:"point,omitempty" doc:"a point is expected: a reading of the burette with what the probe shows; the proposal is of the burette"`
	Place    journal.Place     `json:"mark" enum:"start,end,first-end,after-refill,sample-start,sample-end,reagent-start,reagent-end"`
	Proposal string            `json:"proposal,omitempty" doc:"reading that is proposed, to be accepted by the person"`
}

// spare is kept between an expected reading and the last mark, mL.
var spare = decimal.Must("1.00")

var (
	nextRough         = finding.Declare("next.rough")
	nextBlank         = finding.Declare("next.blank")
	nextSetup         = finding.Declare("next.setup", "item")
	nextAccurate      = finding.Declare("next.accurate", "count")
	nextDisagree      = finding.Declare("next.disagree", "tolerance")
	nextApart         = finding.Declare("next.disagree-relative", "percent")
	nextAmbiguous     = finding.Declare("next.ambiguous")
	nextCheck         = finding.Declare("next.check-readings")
	nextAgreed        = finding.Declare("next.agreed", "count", "mean")
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
	nextWeigh         = finding.Declare("next.weigh")
	nextAfterRefill   = finding.Declare("next.after-refill", "before")
	nextReadStart     = finding.Declare("next.read-start")
	nextRefill        = finding.Declare("next.refill", "last")
	nextFillFirst     = finding.Declare("next.fill-first", "left", "need")
	nextFillWithin    = finding.Declare("next.fill-within", "need")
	nextBeyond        = finding.Declare("next.beyond", "capacity")
	runBlind          = finding.Declare("next.run-blind")
	runRoughBlind     = finding.Declare("next.run-rough-blind")
	run               = finding.Declare("next.run", "slow", "drop", "expect")
	runRough          = finding.Declare("next.run-rough", "expect")
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
	supply *SupplyLeft
	setup  []Item
}

// nextOf finds what to do now.
func nextOf(rec recorded, j judged, s steering, left *SupplyLeft, setup []Item) Next {
	a := advising{rec, j, s, left, setup}
	last, open := lastTrial(j.trials)
	var n Next
	if open != nil {
		n = a.running(open)
	} else {
		n = a.opening(last)
	}
	a.weigh(&n, open)
	return n
}

// weigh says whose mass is to be written: of a trial that ended without one, of
// the one that is open, or of the one to be opened.
func (a advising) weigh(n *Next, open *Trial) {
	r := a.rec.r
	if !r.Weighs() {
		return
	}
	if !r.MassEach() {
		n.Weigh = &Weigh{}
		if m := a.rec.assay.Held().Mass; m != nil {
			before := m[0].Value.Sub(m[1].Value)
			n.Weigh.Before = &before
		}
		return
	}
	for i := range a.j.trials {
		if t := &a.j.trials[i]; t.Reason == OutNoMass {
			n.Weigh = &Weigh{Trial: t.ID}
			n.Say = append([]finding.Message{nextMassMissing.Message(finding.Said(trialName(t)))}, n.Say...)
			return
		}
	}
	switch {
	case open != nil && open.Type != journal.Blank:
		n.Weigh = &Weigh{Trial: open.ID, Before: open.Mass}
		if open.Mass == nil && open.Start == nil {
			n.Say = append([]finding.Message{nextWeigh.Message()}, n.Say...)
		}
	case open == nil && n.Entry != nil && n.Entry.Opens != journal.Blank:
		n.Weigh = &Weigh{Opens: n.Entry.Opens}
	}
}

// trialName is spoken with the names that trials have everywhere.
func trialName(t *Trial) finding.Message {
	return finding.Message{Code: "trial." + string(t.Type), Values: finding.Values{"number": finding.Count(t.Number)}}
}

// opening says which trial to begin.
func (a advising) opening(last *Trial) Next {
	r, status := a.rec.r, a.j.verdict.Status
	opens := journal.Accurate
	var say finding.Message
	switch {
	case r.ByBlank() && len(a.rec.assay.Held().Blanks) == 0:
		opens, say = journal.Blank, nextBlank.Message()
	case !r.Rules.Readings.NoRough && !hasRough(a.steer.rec.trials) && len(a.j.compared) == 0:
		opens, say = journal.Rough, nextRough.Message()
	case status == agreement.Agreed:
		n := Next{Entry: &Expect{Opens: journal.Accurate, Place: journal.Start}}
		count := finding.Count(len(a.j.agreement.Chosen))
		if mean := a.j.agreement.Mean; mean != nil {
			n.Say = []finding.Message{nextAgreed.Message(count, mL(*mean))}
		} else {
			n.Say = []finding.Message{nextAgreedSamples.Message(count)}
		}
		return n
	case status == agreement.Ambiguous:
		say = nextAmbiguous.Message()
	case status == agreement.Disagree && r.Rules.Agreement.Kind == practical.Relative:
		say = nextApart.Message(finding.Exact(r.Rules.Agreement.Percent, "%"))
	case status == agreement.Disagree:
		say = nextDisagree.Message(mL(r.Rules.Agreement.Tolerance))
	case last != nil && last.Reason == OutNegative:
		say = nextCheck.Message()
	default:
		say = nextAccurate.Message(finding.Count(a.j.agreement.Missing))
	}
	n := Next{Entry: &Expect{Opens: opens, Place: journal.Start}}
	if len(a.j.trials) == 0 {
		for _, item := range a.setup {
			if item.Entry == "" {
				n.Say = append(n.Say, nextSetup.Message(finding.Said(journal.ItemSaid(item.Code))))
				break
			}
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

// beside adds what should be known with it: how samples are compared, and for
// how many trials there is enough left.
func (a advising) beside(n *Next, opens journal.TrialType, status agreement.Status) {
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
func (a advising) proposal(n *Next, opens journal.TrialType, last *Trial) {
	r := a.rec.r
	zero := r.Rules.Readings.StartAtZero
	own := func(place journal.Place, end func(*Trial) *journal.Reading) {
		n.Entry.Place = place
		for i := range a.j.trials {
			if e := end(&a.j.trials[i]); e != nil && !zero {
				n.Entry.Proposal = e.Value.String()
			}
		}
	}
	switch {
	case r.SampleBurette() && opens != journal.Blank:
		own(journal.SampleStart, func(t *Trial) *journal.Reading { return t.SampleEnd })
		return
	case r.ReagentBurette() && opens != journal.Blank:
		own(journal.ReagentStart, func(t *Trial) *journal.Reading { return t.ReagentEnd })
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
	return from.Add(e.high).Add(spare).Cmp(a.rec.r.Glass.Burette.Capacity) <= 0
}

// running says which reading the open trial waits for.
func (a advising) running(t *Trial) Next {
	r := a.rec.r
	waits := func(say finding.Message, place journal.Place) Next {
		return Next{Say: []finding.Message{say}, Entry: &Expect{Trial: t.ID, Place: place}}
	}
	if t.Type != journal.Blank {
		head, excess := r.Steps[0], r.Excess()
		switch {
		case r.SampleBurette() && t.SampleStart == nil:
			return waits(nextSample[journal.SampleStart].Message(), journal.SampleStart)
		case r.SampleBurette() && t.SampleEnd == nil:
			return waits(nextSampleEnd[journal.SampleEnd].Message(mL(head.Volume)), journal.SampleEnd)
		case r.ReagentBurette() && t.measured.Reagent == nil && t.ReagentStart == nil:
			return waits(nextSample[journal.ReagentStart].Message(), journal.ReagentStart)
		case r.ReagentBurette() && t.measured.Reagent == nil:
			return waits(nextSampleEnd[journal.ReagentEnd].Message(mL(r.Steps[excess].Volume)), journal.ReagentEnd)
		}
	}
	e, known := a.steer.expected(t.measured)
	if t.Start == nil {
		n := waits(nextReadStart.Message(), journal.Start)
		if last := endBefore(a.j.trials, t.ID); last != nil && known && !r.Rules.Readings.StartAtZero &&
			a.fits(a.drawn(last), e) {
			n.Entry.Proposal = last.Value.String()
		}
		return n
	}
	for _, f := range t.Refills {
		if f.After == nil && f.Before != nil {
			return waits(nextAfterRefill.Message(finding.Text(f.Before.Text)), journal.AfterRefill)
		}
	}
	if r.Chemistry.EndPoints != practical.OneEndPoint && t.FirstEnd == nil && t.Type != journal.Blank && t.End == nil {
		return waits(nextFirstEnd.Message(), journal.FirstEnd)
	}
	if run := a.rec.runs[t.ID]; run != nil {
		return a.following(t, run)
	}
	n := waits(runBlind.Message(), journal.End)
	if t.Type == journal.Rough {
		n.Say[0] = runRoughBlind.Message()
	}
	if !known || r.Showing.HideExpected || !t.Type.Judged() {
		return n
	}
	a.lookFor(&n, t, e)
	return n
}

// following says where to take the next point of a run.
func (a advising) following(t *Trial, run *Run) Next {
	n := Next{Entry: &Expect{Trial: t.ID, Place: journal.End, Point: true}}
	s := run.NextStep
	if s == nil || len(run.measured.Points) == 0 {
		n.Entry.Proposal = t.Start.Text
		n.Say = []finding.Message{probeFirst.Message()}
		return n
	}
	if s.To != nil {
		n.Entry.Proposal = s.To.String()
	}
	switch {
	case s.Past && s.Tail == 0:
		n.Say = []finding.Message{probeEnough.Message()}
	case s.To == nil:
		n.Say = []finding.Message{probeFill.Message(mL(s.Add))}
	case s.Past:
		n.Say = []finding.Message{probeTail.Message(finding.Count(s.Tail), mL(s.Add), finding.Text(s.To.String()))}
	default:
		n.Say = []finding.Message{probeStep.Message(mL(s.Add), finding.Text(s.To.String()))}
	}
	return n
}

// lookFor adds the readings to look for: each filling moves the end up the scale. It says
// nothing where it is not told how much has run.
func (a advising) lookFor(n *Next, t *Trial, e expectation) {
	scale, fills := a.rec.r.Glass.Burette, len(t.Refills)
	d := t.Delivery(scale.Rising)
	from := a.drawn(t.Start) // where what is in it begins
	if fills > 0 && t.Refills[fills-1].After != nil {
		from = a.drawn(t.Refills[fills-1].After)
	}
	begin, told := d.At(decimal.Decimal{}, fills)
	if !told {
		return
	}
	shift := scale.Drawn(begin)
	free, drops := a.steer.slow(e)
	place := func(v decimal.Decimal) *decimal.Decimal {
		at := v.Add(shift)
		if at.Cmp(from) < 0 {
			at = from
		}
		at = scale.Drawn(at)
		return &at
	}
	ranLow, ranHigh := e.low.Add(shift), e.high.Add(shift)
	capacity := scale.Capacity
	if ranLow.Cmp(capacity) > 0 { // what is in it does not reach: there is no reading to look for yet
		untouched := len(t.Provisional) == 0 && fills == 0
		left := capacity.Sub(from)
		if left.Sign() < 0 {
			left = decimal.Decimal{}
		}
		if untouched && e.low.Cmp(capacity) <= 0 {
			n.Say[0] = nextFillFirst.Message(mL(left), mL(e.low.Round(1)))
		} else {
			n.Say[0] = nextFillWithin.Message(mL(e.low.Round(1)))
		}
		return
	}
	low, high := scale.Drawn(ranLow), scale.Drawn(ranHigh)
	n.SlowAt, n.DropAt, n.ExpectAt = place(free), place(drops), &low
	exact := func(d decimal.Decimal) finding.Value { return finding.Exact(d.Round(2), "") }
	switch {
	case t.Type == journal.Rough:
		n.Say[0] = runRough.Message(exact(low))
	case low.Cmp(high) == 0:
		n.Say[0] = run.Message(exact(*n.SlowAt), exact(*n.DropAt), exact(low))
	default:
		n.ExpectTo = &high
		n.Say[0] = runSpan.Message(exact(*n.SlowAt), exact(*n.DropAt), exact(low), exact(high))
	}
	if ranHigh.Cmp(capacity) > 0 {
		n.Say = append(n.Say, nextBeyond.Message(mL(capacity)))
	}
}

// lastTrial returns the last trial that was not withdrawn, and the last one
// that still waits for a reading.
func lastTrial(trials []Trial) (last, open *Trial) {
	for i := range trials {
		t := &trials[i]
		if t.Withdrawn {
			continue
		}
		last = t
		if t.Titre == nil && t.Ran == nil && t.SetAside == nil {
			open = t
		}
	}
	return last, open
}

// endBefore is the last end reading of the trials before this one.
func endBefore(trials []Trial, id string) *journal.Reading {
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

func hasRough(trials []Trial) bool {
	for i := range trials {
		if t := &trials[i]; t.Type == journal.Rough && !t.Withdrawn && t.SetAside == nil && t.Titre != nil &&
			t.Titre.Sign() > 0 {
			return true
		}
	}
	return false
}
