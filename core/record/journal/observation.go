package journal

import "exactflask/core/values/finding"

// Observed says what an observation is about.
type Observed string

// What can be observed. EndColour has the values pale, deep and fading; Leak
// has seen, reseated and changed (the burette was changed); the others are in
// words: the label of the bottle that was used, the solution that was made,
// the aliquot that was pipetted, the waste a liquid went to, what is left of the
// titrant, and water that was added to the flask, which changes nothing.
const (
	EndColour Observed = "end-colour"
	Leak      Observed = "leak"
	Batch     Observed = "batch"
	Made      Observed = "solution-made"
	Aliquot   Observed = "aliquot"
	Waste     Observed = "waste"
	Left      Observed = "left"
	Water     Observed = "water-added"
	Glassware Observed = "glass" // by its name or the number that stands on it
)

// The values of those observations that have fixed ones.
const (
	Pale     = "pale"
	Deep     = "deep"
	Fading   = "fading"
	Seen     = "seen"
	Reseated = "reseated"
	Changed  = "changed"
)

var (
	fixedValues = map[Observed][]string{EndColour: {Pale, Deep, Fading}, Leak: {Seen, Reseated, Changed}}
	allObserved = []Observed{EndColour, Leak, Batch, Made, Aliquot, Waste, Left, Water, Glassware}

	observedNames = finding.Family("observation.", allObserved)
	colourNames   = finding.Family("end-colour.", fixedValues[EndColour])
	leakNames     = finding.Family("leak.", fixedValues[Leak])
	observedSaid  = finding.Declare("journal.observation", "about", "text")
)

// Observation is something seen, about a trial or about the whole.
type Observation struct {
	About   Observed `json:"about" enum:"end-colour,leak,batch,solution-made,aliquot,waste,left,water-added,glass"`
	Of      string   `json:"trial,omitempty" maxLength:"64"`
	Written string   `json:"text" minLength:"1" maxLength:"300" doc:"one of the fixed values, or words"`
}

// Kind implements Part.
func (Observation) Kind() Kind { return "observation" }

// Check implements Part.
func (o Observation) Check() *finding.Fault {
	if f := first(oneOf("about", o.About, allObserved...), checkTrial(o.Of),
		checkText("text", o.Written, 1, 300)); f != nil {
		return f
	}
	if fixed := fixedValues[o.About]; fixed != nil {
		return oneOf("text", o.Written, fixed...)
	}
	return nil
}

// Trial implements Part.
func (o Observation) Trial() string { return o.Of }

// Text implements Part: what was seen is what a correction replaces.
func (o Observation) Text() string { return o.Written }

// With implements Part.
func (o Observation) With(text string) (Part, *finding.Fault) {
	o.Written = text
	return corrected(o)
}

// Said implements Part.
func (o Observation) Said() finding.Message {
	text := finding.Text(o.Written)
	switch o.About {
	case EndColour:
		text = finding.Said(colourNames[o.Written].Message())
	case Leak:
		text = finding.Said(leakNames[o.Written].Message())
	}
	return observedSaid.Message(finding.Said(observedNames[o.About].Message()), text)
}

func (o Observation) fold(c *folding, l *Line) {
	c.out.Lines = append(c.out.Lines, *l)
	if t := c.trials[o.Of]; o.About == EndColour && !l.Withdrawn && t != nil {
		t.EndColour = o.Written
	}
}
