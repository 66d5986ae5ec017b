package journal

import "exactflask/core/values/finding"

// Belonging says which of several samples a trial is of. Said again, the later
// counts.
type Belonging struct {
	Of     string `json:"trial" maxLength:"64" doc:"id of the trial"`
	Sample string `json:"name" minLength:"1" maxLength:"60" doc:"name of the sample, as the practical gives it"`
}

var sampleSaid = finding.Declare("journal.sample", "name")

// Kind implements Part.
func (Belonging) Kind() Kind { return "sample" }

// Check implements Part.
func (b Belonging) Check() *finding.Fault {
	return first(checkID("trial", b.Of), checkText("name", b.Sample, 1, 60))
}

// Trial implements Part.
func (b Belonging) Trial() string { return b.Of }

// Text implements Part: the name is what a correction replaces.
func (b Belonging) Text() string { return b.Sample }

// With implements Part.
func (b Belonging) With(text string) (Part, *finding.Fault) {
	b.Sample = text
	return corrected(b)
}

// Said implements Part.
func (b Belonging) Said() finding.Message { return sampleSaid.Message(finding.Text(b.Sample)) }

func (b Belonging) fold(c *folding, l *Line) {
	if t := c.trialOf(l); t != nil && !l.Withdrawn {
		t.OfSample = b.Sample
	}
}
