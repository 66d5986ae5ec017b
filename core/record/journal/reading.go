package journal

import (
	"strings"

	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

// Place says which reading of a trial was taken.
type Place string

// The readings of a trial. A provisional reading is noted before a further
// drop. When the burette is filled within a trial it is read before and after.
// Where the sample, or a reagent in excess, is run from a burette of its own,
// that is read at its start and end.
const (
	Start        Place = "start"
	End          Place = "end"
	FirstEnd     Place = "first-end"
	Provisional  Place = "provisional"
	BeforeRefill Place = "before-refill"
	AfterRefill  Place = "after-refill"
	SampleStart  Place = "sample-start"
	SampleEnd    Place = "sample-end"
	ReagentStart Place = "reagent-start"
	ReagentEnd   Place = "reagent-end"
)

var allPlaces = []Place{Start, End, FirstEnd, Provisional, BeforeRefill, AfterRefill, SampleStart, SampleEnd,
	ReagentStart, ReagentEnd}

// Scale is a reading of a burette, as it was written.
type Scale struct {
	Of      string `json:"trial" maxLength:"64" doc:"id of the trial"`
	Place   Place  `json:"mark" enum:"start,end,first-end,provisional,before-refill,after-refill,sample-start,sample-end,reagent-start,reagent-end" doc:"which reading it is"`
	Written string `json:"text" maxLength:"24" doc:"the reading in mL with the digits that were written; a decimal comma is understood"`
}

var (
	placeNames  = finding.Family("place.", allPlaces)
	readingSaid = finding.Declare("journal.reading", "place", "text")
)

// Kind implements Part.
func (Scale) Kind() Kind { return "reading" }

// Check implements Part.
func (s Scale) Check() *finding.Fault {
	return first(checkID("trial", s.Of), oneOf("mark", s.Place, allPlaces...), CheckNumber("text", s.Written))
}

// Trial implements Part.
func (s Scale) Trial() string { return s.Of }

// Text implements Part: the reading is what a correction replaces.
func (s Scale) Text() string { return s.Written }

// With implements Part.
func (s Scale) With(text string) (Part, *finding.Fault) {
	s.Written = text
	return corrected(s)
}

// Said implements Part.
func (s Scale) Said() finding.Message {
	return readingSaid.Message(finding.Said(placeNames[s.Place].Message()), finding.Text(s.Written))
}

// fold lets a reading stand in its place. A later one takes the place of an
// earlier: the start is read again when liquid was run off since.
func (s Scale) fold(c *folding, l *Line) {
	t := c.trialOf(l)
	if t == nil {
		return
	}
	value, err := ParseNumber(s.Written)
	if err != nil {
		c.unreadable(l, finding.FaultOf("text", err))
		return
	}
	r := &Reading{Entry: l.Entry.ID, Text: s.Written, Value: value, At: l.Entry.At, By: l.Entry.Author}
	if n := len(l.Struck); n > 0 {
		r.Why = l.Struck[n-1].Reason
	}
	place, struck := t.place(s.Place)
	if place == nil { // there may be many
		*struck = append(*struck, l.Struck...)
		switch {
		case l.Withdrawn:
		case s.Place == Provisional:
			t.Provisional = append(t.Provisional, *r)
		default:
			t.refill(s.Place, r)
		}
		return
	}
	if old := *place; old != nil && !l.Withdrawn {
		*struck = append(*struck, Struck{Text: old.Text, At: l.Entry.At, By: l.Entry.Author})
	}
	*struck = append(*struck, l.Struck...)
	if l.Withdrawn { // what stood before stands again
		return
	}
	*place = r
	if s.Place == FirstEnd {
		t.FirstFills = len(t.Refills)
	}
}

// place is where the reading of a place stands, and its history; nil where
// there may be many of them.
func (t *Trial) place(p Place) (**Reading, *[]Struck) {
	switch p {
	case Start:
		return &t.Start, &t.Struck.Start
	case End:
		return &t.End, &t.Struck.End
	case FirstEnd:
		return &t.FirstEnd, &t.Struck.Others
	case SampleStart:
		return &t.SampleStart, &t.Struck.Others
	case SampleEnd:
		return &t.SampleEnd, &t.Struck.Others
	case ReagentStart:
		return &t.ReagentStart, &t.Struck.Others
	case ReagentEnd:
		return &t.ReagentEnd, &t.Struck.Others
	}
	return nil, &t.Struck.Others
}

// refill puts a reading into the first refill that still lacks it.
func (t *Trial) refill(p Place, r *Reading) {
	at := &t.befores
	if p == AfterRefill {
		at = &t.afters
	}
	if *at == len(t.Refills) {
		t.Refills = append(t.Refills, Refill{})
	}
	if p == AfterRefill {
		t.Refills[*at].After = r
	} else {
		t.Refills[*at].Before = r
	}
	*at++
}

// CheckNumber returns a fault when a text cannot be read as a number.
func CheckNumber(path, text string) *finding.Fault {
	if f := checkText(path, text, 1, 24); f != nil {
		return f
	}
	if _, err := ParseNumber(text); err != nil {
		return finding.FaultOf(path, err)
	}
	return nil
}

// writtenUnits may stand behind a number and are dropped, the longest first.
var writtenUnits = [...]string{"mol/l", "cm3", "cm³", "ml", "cc", "g"}

// ParseNumber reads a number as people write, paste or dictate a reading:
// "21.30", "21,30", "21,30 ml", "21.30 cm3", "1.2345 g". The unit is dropped.
// The error is a *decimal.ParseError.
func ParseNumber(text string) (decimal.Decimal, error) {
	d, err := decimal.Parse(text)
	if err == nil {
		return d, nil
	}
	number := strings.ToLower(strings.TrimSpace(text))
	for _, unit := range writtenUnits {
		if cut, ok := strings.CutSuffix(number, unit); ok {
			if d, inner := decimal.Parse(cut); inner == nil {
				return d, nil
			}
			break
		}
	}
	return d, err // the fault speaks of what was written
}
