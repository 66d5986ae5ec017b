package journal

import (
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Known is the concentration of the known solution as it was found, which
// takes the place of the one that the practical gives.
type Known struct {
	Written     string `json:"text" maxLength:"24" doc:"mol/L, with its digits"`
	Uncertainty string `json:"uncertainty,omitempty" maxLength:"24" doc:"standard uncertainty, mol/L"`
	From        string `json:"from,omitempty" maxLength:"120" doc:"where it comes from, such as the notebook of the standardisation"`
}

var (
	knownSaid     = finding.Declare("journal.known", "value", "spread", "from")
	positiveFault = finding.Declare("entry.concentration", "value")
	unitFault     = finding.Declare("entry.unit", "unit")
	answerSaid    = finding.Declare("journal.answer", "value", "unit")
)

// Kind implements Part.
func (Known) Kind() Kind { return "known" }

// Check implements Part.
func (k Known) Check() *finding.Fault {
	if f := CheckNumber("text", k.Written); f != nil {
		return f
	}
	if v, _ := ParseNumber(k.Written); v.Sign() <= 0 {
		return positiveFault.Fault("text", finding.Text(k.Written))
	}
	if k.Uncertainty != "" {
		if f := CheckNumber("uncertainty", k.Uncertainty); f != nil {
			return f
		}
	}
	return checkText("from", k.From, 0, 120)
}

// Trial implements Part.
func (Known) Trial() string { return "" }

// Text implements Part: the concentration is what a correction replaces.
func (k Known) Text() string { return k.Written }

// With implements Part.
func (k Known) With(text string) (Part, *finding.Fault) {
	k.Written = text
	return corrected(k)
}

// Said implements Part.
func (k Known) Said() finding.Message {
	value, _ := ParseNumber(k.Written)
	spread := finding.Text("")
	if u, err := ParseNumber(k.Uncertainty); err == nil {
		spread = finding.Exact(u, quantity.MolePerL)
	}
	return knownSaid.Message(finding.Exact(value, quantity.MolePerL), spread, finding.Text(k.From))
}

func (Known) fold(c *folding, l *Line) {
	c.out.Lines = append(c.out.Lines, *l)
	if !l.Withdrawn {
		c.out.Known = l
	}
}

// Answer is a value that the student worked out for a step.
type Answer struct {
	Step    string `json:"step" minLength:"1" maxLength:"120" doc:"id of the step's node in the derivation"`
	Written string `json:"text" maxLength:"24" doc:"the value with its digits, as it was typed: with a power of ten, or a unit behind it, too"`
	Unit    string `json:"unit,omitempty" maxLength:"20" doc:"unit code; empty for a pure number; a unit that stands behind the value goes before it"`
}

// Kind implements Part.
func (Answer) Kind() Kind { return "answer" }

// Check implements Part.
func (a Answer) Check() *finding.Fault {
	if f := checkText("step", a.Step, 1, 120); f != nil {
		return f
	}
	if a.Unit != "" && !quantity.Unit(a.Unit).Known() {
		return unitFault.Fault("unit", finding.Text(a.Unit))
	}
	if f := checkText("text", a.Written, 1, 24); f != nil {
		return f
	}
	if _, _, err := ParseFigure(a.Written); err != nil {
		return finding.FaultOf("text", err)
	}
	return nil
}

// Trial implements Part.
func (Answer) Trial() string { return "" }

// Text implements Part: the value is what a correction replaces.
func (a Answer) Text() string { return a.Written }

// With implements Part.
func (a Answer) With(text string) (Part, *finding.Fault) {
	a.Written = text
	return corrected(a)
}

// Said implements Part.
func (a Answer) Said() finding.Message {
	return answerSaid.Message(finding.Text(a.Written), finding.Text(a.Unit))
}

func (a Answer) fold(c *folding, l *Line) {
	if l.Withdrawn {
		return
	}
	answered := *l
	if old, again := c.out.Answers[a.Step]; again {
		was := old.Part.(Answer)
		if was == a {
			return // giving the same again is no second try
		}
		before := Struck{Text: was.Written, Unit: quantity.Unit(was.Unit), At: l.Entry.At, By: l.Entry.Author}
		answered.Struck = append(append(append([]Struck(nil), old.Struck...), before), l.Struck...)
	}
	if c.out.Answers == nil {
		c.out.Answers = map[string]Line{}
	}
	c.out.Answers[a.Step] = answered
}
