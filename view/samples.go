package view

import (
	"math"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Sample is what was found for one of several samples, in words.
type Sample struct {
	Name      string  `json:"name"`
	Control   bool    `json:"control,omitempty" doc:"the others are compared with it"`
	Agreement string  `json:"agreement"`
	Answer    *Answer `json:"answer,omitempty"`
	// Value and Spread are what a plot shows.
	Value      float64 `json:"value,omitempty"`
	Spread     float64 `json:"spread,omitempty" doc:"its expanded uncertainty"`
	Difference string  `json:"difference,omitempty" doc:"from the control, with its uncertainty"`
	Clear      bool    `json:"clear,omitempty" doc:"the difference is larger than its uncertainty"`
}

func (m *maker) samples() []Sample {
	out := make([]Sample, 0, len(m.ev.Samples))
	control := ""
	for _, s := range m.ev.Samples {
		if s.Control {
			control = s.Name
		}
	}
	for _, s := range m.ev.Samples {
		own := *m
		own.ev.Agreement, own.ev.Result = s.Agreement, s.Result
		sample := Sample{Name: s.Name, Control: s.Control, Agreement: own.agreement()}
		if r := s.Result; r != nil {
			sample.Answer, sample.Value = own.answer(), r.Answer.Value
			if r.Budget != nil {
				sample.Spread = r.Budget.Expanded
			}
			if d := s.Difference; d != nil {
				sample.Difference, sample.Clear = m.difference(*d, r.Answer.Unit, control), d.Clear
			}
		}
		out = append(out, sample)
	}
	return out
}

func (m *maker) difference(d evaluation.Difference, unit quantity.Unit, control string) string {
	value, spread := withUncertainty(math.Abs(d.Value), d.Expanded)
	code := "sample.difference-unclear"
	switch {
	case d.Clear && d.Value > 0:
		code = "sample.difference-more"
	case d.Clear:
		code = "sample.difference-less"
	}
	return m.Text(code, "value", value, "spread", spread, "unit", m.After(unit), "percent",
		finding.Number(math.Abs(d.Percent), 2, quantity.Percent), "control", control)
}
