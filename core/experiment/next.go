package experiment

import (
	"exactflask/core/agreement"
	"exactflask/core/decimal"
	"exactflask/core/finding"
	"exactflask/core/journal"
	"exactflask/core/stoich"
)

// Next is the one thing to do now.
type Next struct {
	Code   string            `json:"code" doc:"what to do, such as next.run"`
	Values map[string]string `json:"values,omitempty"`
	// Entry describes the entry that the bench expects. Nothing is expected
	// when the work at the bench is done.
	Entry *Expect `json:"entry,omitempty"`
	// SlowAt, DropAt and ExpectAt are readings in mL to look for.
	SlowAt   *decimal.Decimal `json:"slowAt,omitempty" doc:"reading at which free flow ends, mL"`
	DropAt   *decimal.Decimal `json:"dropAt,omitempty" doc:"reading from which to go drop by drop, mL"`
	ExpectAt *decimal.Decimal `json:"expectAt,omitempty" doc:"reading at which the end is expected, mL"`
}

// Expect describes the entry the bench waits for: a reading of an open trial,
// or the start reading of a trial that is still to be opened.
type Expect struct {
	Trial    string            `json:"trial,omitempty" doc:"id of the open trial; empty when one is to be opened"`
	Opens    journal.TrialType `json:"opens,omitempty" enum:"rough,accurate,blank,practice" doc:"type of the trial to open"`
	Mark     journal.Mark      `json:"mark" enum:"start,end,first-end,after-refill,sample-start,sample-end"`
	Proposal string            `json:"proposal,omitempty" doc:"reading that is proposed, to be accepted by the person"`
}

// spare is kept between an expected reading and the last mark, mL.
var spare = decimal.Must("1.00")

// next finds what to do now. expected is the titre to expect of a trial, if
// anything is known about it.
func (s setup) next(ev Evaluation, expected decimal.Decimal, known bool) Next {
	last, open := lastTrial(ev.Trials)
	if open != nil {
		return s.nextReading(ev, open, expected, known)
	}
	opens := journal.Accurate
	code := "next.accurate"
	switch {
	case !s.Readings.NoRough && !hasRough(ev.Trials) && len(candidatesOf(ev.Trials)) == 0:
		opens, code = journal.Rough, "next.rough"
	case ev.Agreement.Status == agreement.Agreed:
		return Next{Code: "next.agreed", Values: finding.Values("count", whole(len(ev.Agreement.Chosen)), "mean", ev.Agreement.Mean.String()),
			Entry: &Expect{Opens: journal.Accurate, Mark: journal.Start}}
	case ev.Agreement.Status == agreement.Ambiguous:
		code = "next.ambiguous"
	case ev.Agreement.Status == agreement.Disagree:
		code = "next.disagree"
	case last != nil && last.Reason == OutNegative:
		code = "next.check-readings"
	}
	n := Next{Code: code, Values: finding.Values("missing", whole(ev.Agreement.Missing), "tolerance", s.Agreement.Tolerance.String()), Entry: &Expect{Opens: opens, Mark: journal.Start}}
	if len(ev.Trials) == 0 {
		for _, item := range ev.Setup {
			if item.Entry == "" {
				n.Values["setup"] = item.Code
				break
			}
		}
	}
	if s.Agreement.Kind == agreement.Relative {
		n.Values["percent"] = s.Agreement.PercentOr2().String()
	}
	if ev.Supply != nil && ev.Agreement.Status != agreement.Agreed {
		n.Values["left"] = whole(ev.Supply.Trials)
		switch {
		case ev.Supply.Trials == 0:
			n.Code = "next.nothing-left"
		case opens == journal.Accurate && ev.Supply.Trials < ev.Agreement.Missing:
			n.Values["short"] = "yes"
		}
	}
	if s.massEach() {
		n.Values["weigh"] = "yes"
	}
	if s.SampleBy == ByBurette {
		n.Entry.Mark = journal.SampleStart
		for i := range ev.Trials {
			if e := ev.Trials[i].SampleEnd; e != nil && !s.Readings.StartAtZero {
				n.Entry.Proposal = e.Value.String()
			}
		}
		n.Values["sample"] = "yes"
		return n
	}
	if s.Readings.StartAtZero || last == nil || last.End == nil {
		return n
	}
	// The last end is where the burette stands, if what is left suffices.
	n.Values["last"] = last.End.Text
	if known && last.End.Value.Sign() >= 0 {
		if last.End.Value.Add(expected).Add(spare).Cmp(s.Burette.Capacity) <= 0 {
			n.Entry.Proposal = last.End.Value.String()
		} else {
			n.Values["refill"] = "yes"
		}
	}
	return n
}

// nextReading says which reading the open trial waits for.
func (s setup) nextReading(ev Evaluation, t *Trial, expected decimal.Decimal, known bool) Next {
	switch {
	case s.SampleBy == ByBurette && t.Type != journal.Blank && t.SampleStart == nil:
		return Next{Code: "next.sample-start", Entry: &Expect{Trial: t.ID, Mark: journal.SampleStart}}
	case s.SampleBy == ByBurette && t.Type != journal.Blank && t.SampleEnd == nil:
		return Next{Code: "next.sample-end", Values: finding.Values("volume", s.Aliquot.Volume.String()), Entry: &Expect{Trial: t.ID, Mark: journal.SampleEnd}}
	case t.Start == nil:
		n := Next{Code: "next.read-start", Entry: &Expect{Trial: t.ID, Mark: journal.Start}}
		if last := endBefore(ev.Trials, t.ID); last != nil && known && !s.Readings.StartAtZero && last.Value.Add(expected).Add(spare).Cmp(s.Burette.Capacity) <= 0 {
			n.Entry.Proposal = last.Value.String()
		}
		return n
	}
	if s.EndPoints != stoich.OneEndPoint && t.FirstEnd == nil && t.Type != journal.Blank && t.End == nil {
		return Next{Code: "next.first-end", Entry: &Expect{Trial: t.ID, Mark: journal.FirstEnd}}
	}
	for _, r := range t.Refills {
		if r.After == nil {
			return Next{Code: "next.after-refill", Values: finding.Values("before", r.Before.Text), Entry: &Expect{Trial: t.ID, Mark: journal.AfterRefill}}
		}
	}
	if t.Type == journal.Blank || t.Type == journal.Practice {
		known = false
	}
	n := Next{Code: "next.run", Values: finding.Values("start", t.Start.Text), Entry: &Expect{Trial: t.ID, Mark: journal.End}}
	if t.Type == journal.Rough {
		n.Code = "next.run-rough"
	}
	if !known || s.Readings.HideExpected {
		n.Code += "-blind"
		return n
	}
	at := t.Start.Value.Add(expected)
	if s.SampleBy == ByBurette && t.Sample != nil {
		// The expected titre is that of the nominal sample; this one has its own.
		scaled, _ := expected.Mul(*t.Sample).Div(s.Aliquot.Volume)
		at = t.Start.Value.Add(scaled.Round(2))
	}
	for _, r := range t.Refills { // each filling moves the end up the scale
		if r.Before != nil && r.After != nil {
			at = at.Sub(r.Before.Value).Add(r.After.Value)
		}
	}
	if at.Cmp(s.Burette.Capacity) > 0 {
		n.Values["beyond"] = s.Burette.Capacity.String()
	}
	slow, drop := at.Sub(s.Readings.FreeFlow), at.Sub(s.Readings.Dropwise)
	from := t.Start.Value
	if n := len(t.Refills); n > 0 {
		from = t.Refills[n-1].After.Value
	}
	if slow.Cmp(from) < 0 {
		slow = from
	}
	if drop.Cmp(from) < 0 {
		drop = from
	}
	n.SlowAt, n.DropAt, n.ExpectAt = &slow, &drop, &at
	return n
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
		if t.Titre == nil && t.SetAside == nil {
			open = t
		}
	}
	return last, open
}

// endBefore is the last end reading of the trials before this one.
func endBefore(trials []Trial, id string) *Reading {
	var last *Reading
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
	for _, t := range trials {
		if t.Type == journal.Rough && !t.Withdrawn && t.SetAside == nil && t.Titre != nil && t.Titre.Sign() > 0 {
			return true
		}
	}
	return false
}

// candidatesOf returns the trials that were judged for agreement.
func candidatesOf(trials []Trial) []Trial {
	var out []Trial
	for _, t := range trials {
		if !outside(t) {
			out = append(out, t)
		}
	}
	return out
}

func whole(n int) string { return decimal.Whole(int64(n)).String() }
