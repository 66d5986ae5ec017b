package view

import (
	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/wording"
)

// MeasuredValue is a value that may be measured at the bench, in words.
type MeasuredValue struct {
	evaluation.OwnMeasured
	Name     string `json:"name"`
	Given    string `json:"given,omitempty" doc:"what the practical gives, with its unit"`
	UnitText string `json:"unitText"`
	Vessel   int    `json:"vessel" doc:"place in the route's picture where it is asked"`
}

// ownValues puts what may be measured into words.
func (m *maker) ownValues() []MeasuredValue {
	out := make([]MeasuredValue, len(m.ev.Own))
	for i, o := range m.ev.Own {
		v := MeasuredValue{OwnMeasured: o, Name: m.ownName(o), UnitText: m.Unit(o.Unit), Vessel: m.vesselOf(o)}
		if o.What == journal.OwnTemperature {
			v.UnitText = m.Text("unit.celsius")
		}
		if o.Nominal.Sign() > 0 {
			v.Given = m.Value(finding.Exact(o.Nominal, o.Unit))
		}
		out[i] = v
	}
	return out
}

func (m *maker) ownName(o evaluation.OwnMeasured) string {
	if o.What != journal.OwnVolume {
		return m.Text("own." + string(o.What))
	}
	s := m.r.Volumes()[o.Step-1]
	name := nameOf(m.r, s.What)
	if s.Kind == practical.Excess {
		name = wording.Formula(s.Reaction.From.Plain())
	}
	return m.Text("own.volume."+string(s.Kind), "name", name)
}

// vesselOf is where a value is asked in the picture of the route: a volume at its step, of which
// the last is the flask; how warm it is at the flask; what is known of the sample at its vessel.
func (m *maker) vesselOf(o evaluation.OwnMeasured) int {
	if m.r.MadeOnly() {
		return max(0, o.Step-1)
	}
	last := len(route(m.Writer, m.r)) - 1
	switch o.What {
	case journal.OwnTemperature:
		return last
	case journal.OwnVolume:
		if s := m.r.Steps[o.Step-1]; o.Step == len(m.r.Steps) && (s.Kind == practical.Aliquot || s.Kind == practical.Pipette) {
			return last
		}
		return o.Step - 1
	}
	return 0
}
