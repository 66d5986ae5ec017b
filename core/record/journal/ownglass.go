package journal

import (
	"exactflask/core/chemistry/glass"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// OwnGlass says which piece of glassware a bench works with, in the place of the practical's: its
// burette, or what measures a volume on the way. The piece is written as it was chosen, so that a list
// that changes later changes no record. Said again of the same place, the later counts.
type OwnGlass struct {
	Step  int         `json:"step,omitempty" minimum:"0" maximum:"13" doc:"which step of the route it measures, from 1; the burette when left out"`
	Piece glass.Piece `json:"piece"`
}

var (
	glassSaid      = finding.Declare("journal.own-glass", "name", "volume")
	glassPlace     = finding.Declare("own-glass.step", "step")
	glassOfBurette = finding.Declare("own-glass.burette")
	glassOfStep    = finding.Declare("own-glass.volume")
)

// Kind implements Part.
func (OwnGlass) Kind() Kind { return "own-glass" }

// Check implements Part. What is read off a scale is a burette; what measures one volume is none.
func (g OwnGlass) Check() *finding.Fault {
	if g.Step < 0 || g.Step > 13 {
		return glassPlace.Fault("step", finding.Count(g.Step))
	}
	switch graduated := g.Piece.Kind == glass.Graduated; {
	case g.Step == 0 && !graduated:
		return glassOfBurette.Fault("piece.kind")
	case g.Step > 0 && graduated:
		return glassOfStep.Fault("piece.kind")
	}
	if f := g.Piece.Check(); f != nil {
		return f.In("piece")
	}
	return nil
}

// Trial implements Part.
func (OwnGlass) Trial() string { return "" }

// Text implements Part: another piece is another entry.
func (OwnGlass) Text() string { return "" }

// With implements Part.
func (OwnGlass) With(string) (Part, *finding.Fault) { return nil, repeatFault.Fault("value") }

// Said implements Part.
func (g OwnGlass) Said() finding.Message {
	return glassSaid.Message(finding.Text(g.Piece.Burette().Name), finding.Exact(g.Piece.Capacity, quantity.Millilitre))
}

func (g OwnGlass) fold(c *folding, l *Line) {
	c.out.Lines = append(c.out.Lines, *l)
	if l.Withdrawn {
		return
	}
	if c.out.Glass == nil {
		c.out.Glass = map[int]Line{}
	}
	c.out.Glass[g.Step] = *l
}
