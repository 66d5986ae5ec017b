package view

import (
	"exactflask/core/judgement/working"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

func (m *maker) work() []WorkStep {
	var units []Choice
	for _, u := range offered {
		text := m.Unit(u)
		if u == quantity.One {
			text = m.Text("unit.none")
		}
		units = append(units, Choice{string(u), text})
	}
	w := m.working()
	out := make([]WorkStep, len(m.ev.Work))
	titles := map[string]int{}
	for _, s := range m.ev.Work {
		titles[s.Sample+w.OwnTitle(s.Node, s.Code)]++
	}
	for i, s := range m.ev.Work {
		_, symbol := m.Symbol(s.Node)
		title := w.OwnTitle(s.Node, s.Code)
		if titles[s.Sample+title] > 1 { // which of them it is, is said
			which := w.Where(s.Node)
			if which == "" {
				which = m.Value(finding.Formula(s.Node.Of))
			}
			title = m.Text("work.of-which", "title", title, "which", which)
		}
		if s.Sample != "" {
			title = m.Text("work.of-sample", "sample", s.Sample, "title", title)
		}
		out[i] = WorkStep{Step: s, Title: title, Symbol: symbol, UnitText: m.Unit(s.Unit), Units: units}
		if s.Answer != nil && s.Lacks != "" {
			out[i].Hint = m.Text(s.Lacks.Code())
		}
		if s.Verdict == "" {
			continue
		}
		code := "verdict." + string(s.Verdict)
		switch {
		case s.Order:
			code = "verdict.order"
		case s.Without:
			code = "verdict.without"
		case s.School:
			code = "verdict.school"
		case s.Carried:
			code = "verdict.carried"
		case s.Apart:
			code = "verdict.apart"
		}
		out[i].VerdictText = m.Text(code)
		if s.Slip != "" && s.Verdict != working.Rounded { // the verdict says it
			out[i].Hint = m.Text(s.Slip)
		}
		if s.Again != "" {
			out[i].Hint = m.Text("work.again")
		}
	}
	return out
}
