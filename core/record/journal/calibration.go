package journal

import (
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// ProbeUnit is what a probe shows.
type ProbeUnit string

// The units.
const (
	ShownPH ProbeUnit = "pH"
	ShownMV ProbeUnit = "mV"
)

// Calibration is what the probe showed in a buffer, or in a solution of known potential.
type Calibration struct {
	Buffer      string    `json:"buffer" maxLength:"24" doc:"what it is by its label: pH, or mV of a redox standard"`
	Shown       string    `json:"shown" maxLength:"24" doc:"what the probe showed, as written"`
	Unit        ProbeUnit `json:"unit" enum:"pH,mV" doc:"of what it showed"`
	Temperature string    `json:"temperature,omitempty" maxLength:"24" doc:"degrees Celsius, as written"`
	Afterwards  bool      `json:"afterwards,omitempty" doc:"read afterwards, to see whether it has drifted: nothing is calibrated with it"`
}

var (
	calibrationSaid = finding.Declare("journal.calibration", "buffer", "shown", "unit")
	driftSaid       = finding.Declare("journal.drift", "buffer", "shown", "unit")
)

// Kind implements Part.
func (Calibration) Kind() Kind { return "calibration" }

// Check implements Part.
func (k Calibration) Check() *finding.Fault {
	f := first(CheckNumber("buffer", k.Buffer), CheckNumber("shown", k.Shown), oneOf("unit", k.Unit, ShownPH, ShownMV))
	if f == nil && k.Temperature != "" {
		f = CheckNumber("temperature", k.Temperature)
	}
	return f
}

// Trial implements Part.
func (Calibration) Trial() string { return "" }

// Text implements Part: what was shown is what a correction replaces.
func (k Calibration) Text() string { return k.Shown }

// With implements Part.
func (k Calibration) With(text string) (Part, *finding.Fault) {
	k.Shown = text
	return corrected(k)
}

// Said implements Part.
func (k Calibration) Said() finding.Message {
	unit := finding.Text("")
	if k.Unit == ShownMV {
		unit = finding.Text(string(quantity.Millivolt))
	}
	say := calibrationSaid
	if k.Afterwards {
		say = driftSaid
	}
	return say.Message(finding.Text(k.Buffer), finding.Text(k.Shown), unit)
}

func (k Calibration) fold(c *folding, l *Line) {
	c.out.Lines = append(c.out.Lines, *l)
	if !l.Withdrawn {
		c.out.Calibrations = append(c.out.Calibrations, *l)
	}
}
