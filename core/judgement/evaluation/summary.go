package evaluation

import (
	"time"

	"exactflask/core/record/journal"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// SummaryVersion is the form of a Summary; one that was kept in another form is
// made anew.
const SummaryVersion = 5

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

// Received is when the server received the newest entry; where that was not kept, the
// time of the device stands in.
func (s *Summary) Received() time.Time {
	if s.Seen.IsZero() {
		return s.Last
	}
	return s.Seen
}
