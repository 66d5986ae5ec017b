package evaluation

import (
	"exactflask/core/record/journal"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

// Next is the one thing to do now.
type Next struct {
	// Say is what to do, and what should be known with it, in order.
	Say []finding.Message `json:"say"`
	// Entry describes the entry that the bench expects.
	Entry *Expect `json:"entry,omitempty"`
	// Others are what the bench expects for trials that are open beside that one, as where two
	// devices began one each at the same time.
	Others []Expect `json:"others,omitempty" doc:"what is expected for other trials that are open too"`
	// SlowAt, DropAt and ExpectAt are readings in mL to look for.
	SlowAt   *decimal.Decimal `json:"slowAt,omitempty" doc:"reading at which free flow ends, mL"`
	DropAt   *decimal.Decimal `json:"dropAt,omitempty" doc:"reading from which to go drop by drop, mL"`
	ExpectAt *decimal.Decimal `json:"expectAt,omitempty" doc:"reading at which the end is expected, mL; where trials differ the earliest"`
	ExpectTo *decimal.Decimal `json:"expectTo,omitempty" doc:"the latest, where trials differ, mL"`
	Weigh    *Weigh           `json:"weigh,omitempty" doc:"whose mass is to be written next; left out where nothing is weighed"`
	Prepare  bool             `json:"prepare,omitempty" doc:"a solution is to be made of a stock: what is taken, and what it is made up to"`
}

// Weigh says which sample a weighing is of: it belongs to the trial that it is
// asked for, and to none other.
type Weigh struct {
	Trial    string            `json:"trial,omitempty" doc:"id of the trial; empty where one is to be opened for it, or one weighing is for all"`
	Opens    journal.TrialType `json:"opens,omitempty" enum:"rough,accurate,practice" doc:"type of the trial to open for it"`
	Standard bool              `json:"standard,omitempty" doc:"the solid that the titrant is made of"`
	Before   *decimal.Decimal  `json:"before,omitempty" doc:"mass of the same sample that was written before, g: another takes its place"`
}

// Onward is where a notebook goes on to from the bench.
type Onward string

// The places.
const (
	ToWork   Onward = "work"   // the student's own working
	ToResult Onward = "result" // the answer with its working
	ToReport Onward = "report"
)

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
	May      []MayOpen         `json:"may,omitempty" doc:"the trials that may be opened now, each with what is written first; left out while one is open"`
}

// MayOpen is a trial that may be opened.
type MayOpen struct {
	Type   journal.TrialType `json:"type" enum:"rough,accurate,blank,practice,repeat"`
	Place  journal.Place     `json:"mark" enum:"start,sample-start,reagent-start" doc:"where its first reading stands"`
	Sample bool              `json:"sample,omitempty" doc:"of several samples it is said which it is of"`
}
