package experiment

import (
	"time"

	"exactflask/core/decimal"
	"exactflask/core/finding"
	"exactflask/core/journal"
	"exactflask/core/practical"
)

// SummaryVersion is the form of a Summary; one that was kept in another form is
// made anew.
const SummaryVersion = 2

// Summary is what a shelf or a board shows of a notebook: small, and kept with
// every append, so that looking at a class costs a read. It holds nothing that
// a practical withholds.
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
}

// Band is one trial on the burette: what had left before it and after it, mL.
type Band struct {
	From  decimal.Decimal `json:"from"`
	To    decimal.Decimal `json:"to"`
	State BandState       `json:"state" enum:"rough,counts,pending,aside"`
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
	if b.groups != nil { // of several samples, what is next follows from all their answers
		return Summarise(b.rec.r, b.Of(Record), entries)
	}
	ev := b.ev
	ev.Prepared, ev.Used = prepared(b.rec, nil), ownUsed(b.rec, b.j)
	return Summarise(b.rec.r, ev, entries)
}

// Summarise makes the summary of an evaluation, of which the record is enough.
func Summarise(r *practical.Ready, ev Evaluation, entries []journal.Entry) Summary {
	s := Summary{Stage: ev.Stage, Say: ev.Next.Say, Agreement: ev.Agreement, Bands: []Band{}, Entries: ev.Entries,
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
	for i := range ev.Trials {
		t := &ev.Trials[i]
		if t.Titre == nil || t.Withdrawn {
			continue
		}
		scale := r.Glass.Burette
		b := Band{From: scale.Ran(t.Start.Value), To: scale.Ran(t.End.Value), State: BandPending}
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
