package experiment

import (
	"time"

	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// SummaryVersion is the form of a Summary; one that was kept in another form is
// made anew.
const SummaryVersion = 3

// Summary is what a shelf or a board shows of a notebook: small, and kept with
// every append, so that looking at a class costs a read. What a practical may
// withhold is in Found, which is for those who teach.
type Summary struct {
	Stage     Stage             `json:"stage"`
	Say       []finding.Message `json:"say"`
	Agreement Agreement         `json:"agreement"`
	Trials    int               `json:"trials"` // accurate ones with a titre
	Bands     []Band            `json:"bands"`
	Checks    int               `json:"checks"` // findings that ask for a look
	Warnings  int               `json:"warnings"`
	Last      time.Time         `json:"last"` // wall time of the newest entry
	Entries   int               `json:"entries"`
	Clock     int64             `json:"clock"`
	// Used is how much of one's own solution was used, Made how much of it was
	// prepared, mL; 0 where that was not written.
	Used decimal.Decimal `json:"used"`
	Made decimal.Decimal `json:"made"`
	// What a board shows beside.
	Open   *Running          `json:"open,omitempty"`   // the trial that is under way
	Undone int               `json:"undone"`           // items of the set-up that are not done
	Tidy   int               `json:"tidy"`             // items of the clean-up that are not done
	Worst  []finding.Finding `json:"worst,omitempty"`  // findings that ask for a look, the worst first
	Left   *SupplyLeft       `json:"left,omitempty"`   // of what the bench was given
	Bottle string            `json:"bottle,omitempty"` // label of the bottle that was used, as it was written
	Known  string            `json:"known,omitempty"`  // concentration found by standardising, mol/L, as it was written
	Leaks  bool              `json:"leaks,omitempty"`  // a leak was seen and nothing done about it
	Ends   int               `json:"ends"`             // accurate trials that were run past the end, or whose colour faded
	Found  *Found            `json:"found,omitempty"`  // where the titres agree
	Work   int               `json:"work"`             // steps of the own working without an answer, once the titres agree
	Seen   time.Time         `json:"seen,omitzero"`    // when the server received the newest entry
}

// mostWorst is how many findings a summary keeps.
const mostWorst = 3

// Running is a trial that is under way.
type Running struct {
	Type   journal.TrialType `json:"type"`
	Number int               `json:"number"`
	At     time.Time         `json:"at"` // when it was opened, by the device's clock
}

// Found is the answer that the agreeing titres give.
type Found struct {
	Value   float64       `json:"value"`
	Figures int           `json:"figures"`
	Unit    quantity.Unit `json:"unit"`
}

// Band is one trial on the burette: what had left before it and after it, mL.
type Band struct {
	From  decimal.Decimal `json:"from"`
	To    decimal.Decimal `json:"to"`
	State BandState       `json:"state" enum:"rough,counts,pending,aside"`
	Titre decimal.Decimal `json:"titre" doc:"mL; over all fillings"`
}

// BandState says what a trial on the burette is.
type BandState string

// The states.
const (
	BandRough   BandState = "rough"
	BandCounts  BandState = "counts"
	BandPending BandState = "pending"
	BandAside   BandState = "aside"
)

// Summary is that of the record, without what else its evaluation would work out.
func (b *Basis) Summary(entries []journal.Entry) Summary {
	ev := b.ev
	if b.groups != nil { // of several samples, what is next follows from all their answers
		ev = b.Of(Record)
	} else {
		ev.Prepared, ev.Used = prepared(b.rec, nil), ownUsed(b.rec, b.j)
		if ev.Stage == Agreed {
			ev.Result = result(b.rec, b.j, PartResult).whole
			ev.Work = work(b.rec, b.j, ev.Result, Record)
		}
	}
	s := Summarise(b.rec.r, ev, entries)
	if k := b.rec.c.Known; k != nil {
		s.Known = k.Part.(journal.Known).Written
	}
	for _, l := range b.rec.c.Lines {
		o, ok := l.Part.(journal.Observation)
		switch {
		case !ok || l.Withdrawn:
		case o.About == journal.Batch:
			s.Bottle = o.Written
		case o.About == journal.Leak:
			s.Leaks = o.Written == journal.Seen
		}
	}
	return s
}

// Summarise makes the summary of an evaluation, of which the record is enough.
func Summarise(r *practical.Ready, ev Evaluation, entries []journal.Entry) Summary {
	s := Summary{Stage: ev.Stage, Say: ev.Next.Say, Agreement: ev.Agreement, Bands: make([]Band, 0, len(ev.Trials)), Entries: ev.Entries,
		Clock: ev.Clock, Used: ev.Used}
	if ev.Prepared != nil {
		s.Made = ev.Prepared.Volume
	}
	for _, e := range entries {
		if e.At.After(s.Last) {
			s.Last = e.At
		}
	}
	for _, f := range ev.Findings {
		if f.Severity != finding.Note {
			s.Checks++
		}
		if f.Severity == finding.Warning {
			s.Warnings++
		}
	}
	s.board(ev)
	for i := range ev.Trials {
		t := &ev.Trials[i]
		if t.Titre == nil || t.Withdrawn {
			continue
		}
		scale := r.Glass.Burette
		b := Band{From: scale.Drawn(t.Start.Value), To: scale.Drawn(t.End.Value), State: BandPending, Titre: *t.Titre}
		switch {
		case t.SetAside != nil:
			b.State = BandAside
		case t.Type == journal.Rough:
			b.State = BandRough
		case t.Counts:
			b.State = BandCounts
		}
		if t.Type == journal.Accurate {
			s.Trials++
		}
		s.Bands = append(s.Bands, b)
	}
	return s
}

// board fills in what a board shows beside.
func (s *Summary) board(ev Evaluation) {
	if _, open := lastTrial(ev.Trials); open != nil {
		s.Open = &Running{open.Type, open.Number, open.At}
	}
	undone := func(items []Item) int {
		n := 0
		for _, i := range items {
			if i.Entry == "" {
				n++
			}
		}
		return n
	}
	s.Undone, s.Tidy, s.Left = undone(ev.Setup), undone(ev.Cleanup), ev.Supply
	for _, severity := range []finding.Severity{finding.Warning, finding.Check} {
		for _, f := range ev.Findings {
			if f.Severity == severity && len(s.Worst) < mostWorst {
				s.Worst = append(s.Worst, f)
			}
		}
	}
	for i := range ev.Trials {
		if t := &ev.Trials[i]; t.Type == journal.Accurate && (t.EndColour == journal.Deep || t.EndColour == journal.Fading) {
			s.Ends++
		}
	}
	for _, step := range ev.Work {
		if ev.Stage == Agreed && step.Answer == nil {
			s.Work++
		}
	}
	if r := ev.Result; r != nil && !r.Single {
		s.Found = &Found{r.Answer.Value, r.Answer.Figures, r.Answer.Unit}
	}
}

// Received is when the server received the newest entry; where that was not kept, the
// time of the device stands in.
func (s *Summary) Received() time.Time {
	if s.Seen.IsZero() {
		return s.Last
	}
	return s.Seen
}
