package journal

import (
	"strings"
	"time"

	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

// Source says how a point came into the notebook.
type Source string

// The sources.
const (
	ByHand  Source = "hand"
	ByFile  Source = "file"
	ByProbe Source = "probe"
)

var allSources = []Source{ByHand, ByFile, ByProbe}

// ProbePoint is a reading of the burette with what the probe shows there.
type ProbePoint struct {
	Of          string `json:"trial" maxLength:"64" doc:"id of the trial: a run of the probe"`
	Burette     string `json:"burette" maxLength:"24" doc:"reading of the burette, mL, as written"`
	Shown       string `json:"shown" maxLength:"24" doc:"what the probe shows, pH or mV as the practical says, as written"`
	Temperature string `json:"temperature,omitempty" maxLength:"24" doc:"degrees Celsius, as written"`
	Colour      string `json:"colour,omitempty" maxLength:"60" doc:"what an indicator beside the probe looks like, in words"`
	Unsteady    bool   `json:"unsteady,omitempty" doc:"the value still moved when it was taken"`
	Source      Source `json:"source,omitempty" enum:"hand,file,probe" doc:"how it came here; by hand when left out"`
}

var (
	sourceNames = finding.Family("point-source.", allSources)
	pointSaid   = finding.Declare("journal.point", "burette", "shown", "source")
	pointPair   = finding.Declare("entry.point-pair", "text")
)

// Kind implements Part.
func (ProbePoint) Kind() Kind { return "point" }

// Check implements Part.
func (p ProbePoint) Check() *finding.Fault {
	f := first(checkID("trial", p.Of), CheckNumber("burette", p.Burette), CheckNumber("shown", p.Shown), checkText("colour", p.Colour, 0, 60))
	if f == nil && p.Temperature != "" {
		f = CheckNumber("temperature", p.Temperature)
	}
	if f == nil && p.Source != "" {
		f = oneOf("source", p.Source, allSources...)
	}
	return f
}

// Trial implements Part.
func (p ProbePoint) Trial() string { return p.Of }

// Text implements Part: both readings are what a correction replaces.
func (p ProbePoint) Text() string { return p.Burette + " " + p.Shown }

// With implements Part: "12.50 4.76", the burette first.
func (p ProbePoint) With(text string) (Part, *finding.Fault) {
	both := strings.Fields(strings.ReplaceAll(text, ";", " "))
	if len(both) != 2 {
		return nil, pointPair.Fault("value", finding.Text(text))
	}
	p.Burette, p.Shown = both[0], both[1]
	return corrected(p)
}

// Said implements Part.
func (p ProbePoint) Said() finding.Message {
	s := p.Source
	if s == "" {
		s = ByHand
	}
	return pointSaid.Message(finding.Text(p.Burette), finding.Text(p.Shown), finding.Said(sourceNames[s].Message()))
}

// ReadPoint is a point as it stands now.
type ReadPoint struct {
	Entry       string           `json:"entry" doc:"id of the entry to name in a correction"`
	Burette     string           `json:"burette" doc:"as it was written"`
	Shown       string           `json:"shown"`
	At          time.Time        `json:"at"`
	By          string           `json:"by,omitempty"`
	Temperature *decimal.Decimal `json:"temperature,omitempty" doc:"degrees Celsius"`
	Colour      string           `json:"colour,omitempty"`
	Unsteady    bool             `json:"unsteady,omitempty"`
	Source      Source           `json:"source,omitempty" enum:"hand,file,probe"`
	Withdrawn   bool             `json:"withdrawn,omitempty" doc:"struck through: it counts nowhere"`
	Struck      []Struck         `json:"struck,omitempty"`

	Volume  decimal.Decimal `json:"-"` // the burette's reading, mL
	Reading decimal.Decimal `json:"-"` // pH or mV
	Fills   int             `json:"-"` // refills of the trial before it
}

func (p ProbePoint) fold(c *folding, l *Line) {
	t := c.trialOf(l)
	if t == nil {
		return
	}
	out := ReadPoint{Entry: l.Entry.ID, Burette: p.Burette, Shown: p.Shown, At: l.Entry.At, By: l.Entry.Author, Colour: p.Colour,
		Unsteady: p.Unsteady, Source: p.Source, Withdrawn: l.Withdrawn, Struck: l.Struck, Fills: t.afters}
	var err, err2 error
	out.Volume, err = ParseNumber(p.Burette)
	out.Reading, err2 = ParseNumber(p.Shown)
	for _, e := range []error{err, err2} {
		if e != nil {
			c.unreadable(l, finding.FaultOf("text", e))
			return
		}
	}
	if p.Temperature != "" {
		if d, err := ParseNumber(p.Temperature); err == nil {
			out.Temperature = &d
		}
	}
	t.Points = append(t.Points, out)
}
