package journal

import (
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Quality is what of the sample or its way to the flask is measured.
type Quality string

// What may be measured where the practical gives a nominal value: the volume of a step of the
// route, the density of the sample, the mass of one tablet, the temperature of the solutions; and
// what the label says.
const (
	OwnVolume      Quality = "volume"
	OwnDensity     Quality = "density"
	OwnTablet      Quality = "tablet"
	OwnLabel       Quality = "label"
	OwnTemperature Quality = "temperature"
)

// Qualities are all of them, in the order in which they are asked.
var Qualities = []Quality{OwnTablet, OwnVolume, OwnDensity, OwnLabel, OwnTemperature}

// OwnValue is a value that was measured at the bench. It takes the place of the one that the
// practical gives; said again, the later counts.
type OwnValue struct {
	What    Quality `json:"what" enum:"tablet,volume,density,label,temperature"`
	Step    int     `json:"step,omitempty" minimum:"0" maximum:"13" doc:"of a volume: which step of the route, from 1"`
	Written string  `json:"value" maxLength:"24" doc:"as written: mL, g/mL, g, the label's unit, or degrees Celsius"`
}

// coldest and hottest are what a solution of the bench may have, degrees Celsius: between the
// freezing and the boiling of strong solutions.
var coldest, hottest = decimal.Must("-20"), decimal.Must("120")

var (
	measuredSaid = finding.Declare("journal.own-value", "what", "value")
	stepFault    = finding.Declare("own-value.step", "step")
	celsiusFault = finding.Declare("own-value.celsius", "value", "least", "most")
	qualityNames = finding.Family("own-value.", Qualities)
)

// Kind implements Part.
func (OwnValue) Kind() Kind { return "own-value" }

// Check implements Part. A temperature may be below zero; nothing else is.
func (m OwnValue) Check() *finding.Fault {
	if f := first(oneOf("what", m.What, Qualities...), CheckNumber("value", m.Written)); f != nil {
		return f
	}
	if (m.What == OwnVolume) != (m.Step > 0) || m.Step < 0 || m.Step > 13 {
		return stepFault.Fault("step", finding.Count(m.Step))
	}
	switch v, _ := ParseNumber(m.Written); {
	case m.What == OwnTemperature && (v.Cmp(coldest) < 0 || v.Cmp(hottest) > 0):
		return celsiusFault.Fault("value", finding.Text(m.Written), finding.Text(coldest.String()), finding.Text(hottest.String()))
	case m.What != OwnTemperature && v.Sign() <= 0:
		return notPositive.Fault("value", finding.Text(m.Written))
	}
	return nil
}

// Trial implements Part.
func (OwnValue) Trial() string { return "" }

// Text implements Part: the value is what a correction replaces.
func (m OwnValue) Text() string { return m.Written }

// With implements Part.
func (m OwnValue) With(text string) (Part, *finding.Fault) {
	m.Written = text
	return corrected(m)
}

// Unit is that of the value; empty for a label, whose unit the practical says, and for degrees.
func (m OwnValue) Unit() quantity.Unit {
	switch m.What {
	case OwnVolume:
		return quantity.Millilitre
	case OwnDensity:
		return quantity.GramPerML
	case OwnTablet:
		return quantity.Gram
	}
	return ""
}

// Value is what was measured.
func (m OwnValue) Value() decimal.Decimal {
	v, _ := ParseNumber(m.Written)
	return v
}

// Said implements Part.
func (m OwnValue) Said() finding.Message {
	value := finding.Text(m.Written)
	if u := m.Unit(); u != "" {
		value = finding.Exact(m.Value(), u)
	}
	return measuredSaid.Message(finding.Said(qualityNames[m.What].Message()), value)
}

// OwnKey names what a value takes the place of.
type OwnKey struct {
	What Quality
	Step int
}

func (m OwnValue) fold(c *folding, l *Line) {
	c.out.Lines = append(c.out.Lines, *l)
	if l.Withdrawn {
		return
	}
	if c.out.Measured == nil {
		c.out.Measured = map[OwnKey]Line{}
	}
	c.out.Measured[OwnKey{m.What, m.Step}] = *l
}
