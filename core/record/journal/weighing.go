package journal

import (
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Weighing is a mass by difference: vessel with solid, then the emptied vessel.
type Weighing struct {
	What    string `json:"of" minLength:"1" maxLength:"80" doc:"what was weighed"`
	Full    string `json:"full" maxLength:"24" doc:"vessel and solid, g, as written"`
	Emptied string `json:"emptied" maxLength:"24" doc:"the emptied vessel, g, as written"`
	// Standard is set for the solid that the titrant is made of.
	Standard bool   `json:"standard,omitempty" doc:"it is of the solid that the titrant is made of, and not of the sample"`
	Of       string `json:"trial,omitempty" maxLength:"64" doc:"id of the trial whose sample it is, where every trial has its own"`
}

var weighingSaid = finding.Declare("journal.weighing", "what", "full", "emptied", "mass")

// Kind implements Part.
func (Weighing) Kind() Kind { return "weighing" }

// Check implements Part.
func (w Weighing) Check() *finding.Fault {
	return first(checkTrial(w.Of), checkText("of", w.What, 1, 80), CheckNumber("full", w.Full),
		CheckNumber("emptied", w.Emptied))
}

// Trial implements Part.
func (w Weighing) Trial() string { return w.Of }

// Text implements Part.
func (Weighing) Text() string { return "" }

// With implements Part: a weighing is withdrawn and made again.
func (Weighing) With(string) (Part, *finding.Fault) { return nil, repeatFault.Fault("value") }

// Masses are the two readings of the balance, g; zero where one is no number.
func (w Weighing) Masses() (full, emptied decimal.Decimal) {
	full, _ = ParseNumber(w.Full)
	emptied, _ = ParseNumber(w.Emptied)
	return full, emptied
}

// Mass returns the mass in g, exact: vessel and solid less the emptied vessel.
func (w Weighing) Mass() decimal.Decimal {
	full, emptied := w.Masses()
	return full.Sub(emptied)
}

// Said implements Part: the readings as they were written.
func (w Weighing) Said() finding.Message {
	return weighingSaid.Message(finding.Text(w.What), finding.Text(w.Full), finding.Text(w.Emptied),
		finding.Exact(w.Mass(), quantity.Gram))
}

func (w Weighing) fold(c *folding, l *Line) {
	c.out.Lines = append(c.out.Lines, *l)
	switch {
	case l.Withdrawn:
	case w.Standard:
		c.out.Standard = c.again(c.out.Standard, l)
	case w.Of == "":
		c.out.Weighed = c.again(c.out.Weighed, l)
	default:
		if t := c.trialOf(l); t != nil {
			t.Weighed = c.again(t.Weighed, l)
		}
	}
}

var weighedAgain = finding.Declare("weighing.again", "before", "now")

// again takes the later of two weighings of one sample, and says so: the one
// before is corrected by it. Weighings of other things stand side by side.
func (c *folding) again(before, now *Line) *Line {
	if before == nil || before.Part.(Weighing).What != now.Part.(Weighing).What {
		return now
	}
	grams := func(l *Line) finding.Value { return finding.Exact(l.Part.(Weighing).Mass(), quantity.Gram) }
	c.out.Findings = append(c.out.Findings, weighedAgain.Finding(finding.Note, now.Part.Trial(), grams(before), grams(now)))
	return now
}
