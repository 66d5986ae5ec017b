package journal

import "exactflask/core/values/finding"

// TrialType says what a trial is for.
type TrialType string

// The types of trial. A rough trial finds the end point to within a millilitre
// and steers the next ones; the mean titre of blank trials is subtracted; a
// practice trial counts nowhere; a repeat is run without indicator, to make the
// salt.
const (
	Rough    TrialType = "rough"
	Accurate TrialType = "accurate"
	Blank    TrialType = "blank"
	Practice TrialType = "practice"
	Repeat   TrialType = "repeat"
)

// Judged tells whether trials of the type look for the end point of a sample.
func (t TrialType) Judged() bool { return t == Rough || t == Accurate }

const trialKind Kind = "trial"

// Opening opens a trial; its id is the entry's.
type Opening struct {
	Type TrialType `json:"type" enum:"rough,accurate,blank,practice,repeat"`
}

var (
	types     = finding.Family("trial-type.", []TrialType{Rough, Accurate, Blank, Practice, Repeat})
	openSaid  = finding.Declare("journal.trial", "type")
	asideSaid = finding.Declare("journal.set-aside", "reason")
)

// Kind implements Part.
func (Opening) Kind() Kind { return trialKind }

// Check implements Part.
func (o Opening) Check() *finding.Fault {
	return oneOf("type", o.Type, Rough, Accurate, Blank, Practice, Repeat)
}

// Trial implements Part.
func (Opening) Trial() string { return "" }

// Text implements Part: the type is what a correction replaces.
func (o Opening) Text() string { return string(o.Type) }

// With implements Part.
func (o Opening) With(text string) (Part, *finding.Fault) {
	o.Type = TrialType(text)
	return corrected(o)
}

// Said implements Part.
func (o Opening) Said() finding.Message {
	return openSaid.Message(finding.Said(types[o.Type].Message()))
}

func (o Opening) fold(c *folding, l *Line) {
	t := c.trials[l.Entry.ID]
	t.Type, t.Withdrawn = o.Type, l.Withdrawn
	t.Struck.Type = l.Struck
	if !t.Withdrawn {
		c.numbers[t.Type]++
		t.Number = c.numbers[t.Type]
	}
}

// Exclusion sets a trial aside.
type Exclusion struct {
	Of     string `json:"trial" maxLength:"64" doc:"id of the trial"`
	Reason string `json:"reason" minLength:"1" maxLength:"300" doc:"what went wrong, in words"`
}

// Kind implements Part.
func (Exclusion) Kind() Kind { return "set-aside" }

// Check implements Part.
func (x Exclusion) Check() *finding.Fault {
	return first(checkID("trial", x.Of), checkText("reason", x.Reason, 1, 300))
}

// Trial implements Part.
func (x Exclusion) Trial() string { return x.Of }

// Text implements Part: the reason is what a correction replaces.
func (x Exclusion) Text() string { return x.Reason }

// With implements Part.
func (x Exclusion) With(text string) (Part, *finding.Fault) {
	x.Reason = text
	return corrected(x)
}

// Said implements Part.
func (x Exclusion) Said() finding.Message { return asideSaid.Message(finding.Text(x.Reason)) }

func (x Exclusion) fold(c *folding, l *Line) {
	t := c.trialOf(l)
	if t == nil {
		return
	}
	t.Struck.SetAside = append(t.Struck.SetAside, l.Struck...)
	if !l.Withdrawn {
		t.SetAside = &SetAside{l.Entry.ID, x.Reason, l.Entry.At, l.Entry.Author}
	}
}
