package experiment

import (
	"exactflask/core/judgement/evaluation"
	"exactflask/core/model/followed"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

// running says which reading the open trial waits for.
func (a advising) running(t *evaluation.Trial) evaluation.Next {
	r := a.rec.r
	waits := func(say finding.Message, place journal.Place) evaluation.Next {
		return evaluation.Next{Say: []finding.Message{say}, Entry: &evaluation.Expect{Trial: t.ID, Place: place}}
	}
	if t.Type != journal.Blank {
		head, excess := r.SampleStep(), r.Excess()
		switch {
		case r.SampleBurette() && t.SampleStart == nil:
			return waits(nextSample[journal.SampleStart].Message(), journal.SampleStart)
		case r.SampleBurette() && t.SampleEnd == nil:
			return waits(nextSampleEnd[journal.SampleEnd].Message(mL(head.Volume)), journal.SampleEnd)
		case r.ReagentBurette() && t.Measured.Reagent == nil && t.ReagentStart == nil:
			return waits(nextSample[journal.ReagentStart].Message(), journal.ReagentStart)
		case r.ReagentBurette() && t.Measured.Reagent == nil:
			return waits(nextSampleEnd[journal.ReagentEnd].Message(mL(r.Steps[excess].Volume)), journal.ReagentEnd)
		}
	}
	e, known := a.steer.expected(t.Measured)
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
		n.Say[0] = runRoughBlind.Message(r.Norms().Said(practical.RoughStep))
	}
	if !known || r.Showing.HideExpected || !t.Type.Judged() {
		return n
	}
	a.lookFor(&n, t, e)
	return n
}

// following says where to take the next point of a run.
func (a advising) following(t *evaluation.Trial, run *followed.Run) evaluation.Next {
	n := evaluation.Next{Entry: &evaluation.Expect{Trial: t.ID, Place: journal.End, Point: true}}
	s := run.Advance
	if s == nil || len(run.Series.Points) == 0 {
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
func (a advising) lookFor(n *evaluation.Next, t *evaluation.Trial, e expectation) {
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
		n.Say[0] = runRough.Message(a.rec.r.Norms().Said(practical.RoughStep), exact(low))
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
