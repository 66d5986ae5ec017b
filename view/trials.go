package view

import (
	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/journal"
	"exactflask/core/values/finding"
)

// Trial is a trial with its name and why it is in or out.
type Trial struct {
	evaluation.Trial
	Name       string `json:"name"`
	Short      string `json:"short" doc:"for narrow places: R, 1, 2"`
	ReasonText string `json:"reasonText"`
}

// place is a reading of a trial. It is said where something is found there.
type place struct{ code, trial string }

// place is where a trial or a reading stands, in words.
func (m *maker) place(id string) string {
	if name, ok := m.names[id]; ok {
		return name
	}
	if p, ok := m.places[id]; ok {
		return m.Text(p.code, "trial", p.trial)
	}
	return ""
}

func (m *maker) trials() []Trial {
	out := make([]Trial, len(m.ev.Trials))
	reasons := map[evaluation.Reason]string{} // of a long notebook most are the same
	for i, t := range m.ev.Trials {
		name, short := m.trialName(t)
		why, said := reasons[t.Reason]
		if own := t.SetAside != nil || t.Why != nil; own || !said {
			why = m.reason(t)
			if !own {
				reasons[t.Reason] = why
			}
		}
		out[i] = Trial{t, name, short, why}
		m.names[t.ID] = name
		if t.Start != nil {
			m.places[t.Start.Entry] = place{"reading-of.start", name}
		}
		if t.End != nil {
			m.places[t.End.Entry] = place{"reading-of.end", name}
		}
	}
	return out
}

func (m *maker) trialName(t evaluation.Trial) (name, short string) {
	kind, n := string(t.Type), finding.Count(t.Number)
	switch {
	case t.Withdrawn:
		return m.Text("trial.withdrawn"), m.Text("trial.short-withdrawn")
	case t.Type == journal.Rough && t.Number == 1:
		return m.Text("trial.rough"), m.Text("trial.short-rough", "number", "")
	case t.Type == journal.Rough:
		kind = "rough-n"
	}
	return m.Text("trial."+kind, "number", n), m.Text("trial.short-"+string(t.Type), "number", n)
}

func (m *maker) reason(t evaluation.Trial) string {
	reason, why := "", finding.Value{}
	if t.SetAside != nil {
		reason = t.SetAside.Reason
	}
	if t.Why != nil {
		why = finding.Said(*t.Why)
	}
	return m.Text(string(t.Reason), "reason", reason, "why", why)
}
