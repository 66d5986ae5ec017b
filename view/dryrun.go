//go:build !js

package view

import (
	"slices"
	"strings"

	"exactflask/core/judgement/handin"
	"exactflask/core/practice/plan"
	"exactflask/core/practice/sim"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
)

// DryRun is what a student will see and be asked, from the first question to the report, with a careful
// student's run through it.
type DryRun struct {
	Questions []string       `json:"questions" doc:"asked before the laboratory"`
	Setup     []string       `json:"setup"`
	Measured  []string       `json:"measured" doc:"what may be measured in the place of what the practical gives"`
	Bench     []DryRunMoment `json:"bench"`
	Work      []string       `json:"work" doc:"steps of the own working"`
	Report    []string       `json:"report" doc:"what is written and photographed for the report"`
	Lacks     []string       `json:"lacks" doc:"what the report lacks before the student has written anything"`
	Answer    string         `json:"answer,omitempty" doc:"what comes out; left out where several samples are compared"`
}

// DryRunMoment is what the bench says, and what is written then.
type DryRunMoment struct {
	Says   string `json:"says"`
	Writes string `json:"writes"`
}

// DryRunOf lets a careful student do a practical, in words; or says at which field no answer follows.
func DryRunOf(r *practical.Ready, style practical.Style) (DryRun, *finding.Fault) {
	moments, ev, fault := sim.DryRun(r)
	if fault != nil {
		return DryRun{}, fault
	}
	sheet := Of(r, ev, style)
	w, exercise := exercise(r, style)
	out := DryRun{Questions: []string{}, Setup: []string{}, Measured: []string{}, Bench: []DryRunMoment{}, Work: []string{}, Report: []string{}, Lacks: []string{}}
	asked := plan.Asked(r)
	for _, q := range exercise.Questions {
		if slices.ContainsFunc(asked, func(a plan.Question) bool { return a.Code == q.Code }) {
			out.Questions = append(out.Questions, q.Text)
		}
	}
	for _, i := range sheet.Setup {
		out.Setup = append(out.Setup, i.Text)
	}
	for _, m := range sheet.Measured {
		text := m.Name
		if m.Given != "" {
			text = w.Text("dry-run.given", "name", m.Name, "given", m.Given)
		}
		out.Measured = append(out.Measured, text)
	}
	for _, m := range moments {
		says, writes := []string{}, []string{}
		for _, s := range m.Next.Say {
			says = append(says, w.Say(s))
		}
		for _, e := range m.Written {
			if e.Kind() == "trial" {
				continue // its first reading stands behind it
			}
			writes = append(writes, w.Say(said(w, e.Part.Said())))
		}
		if len(writes) == 0 {
			writes = append(writes, w.Say(said(w, m.Written[0].Part.Said())))
		}
		switch n := finding.Count(len(m.Written)); m.Written[0].Part.(type) {
		case journal.Checked: // the list is shown above
			writes = []string{w.Text("dry-run.ticked", "count", n)}
		case journal.ProbePoint:
			writes = []string{w.Text("dry-run.points", "count", n)}
		}
		out.Bench = append(out.Bench, DryRunMoment{strings.Join(says, " "), strings.Join(writes, "; ")})
	}
	for _, s := range sheet.Work {
		out.Work = append(out.Work, s.Title)
	}
	for _, p := range sheet.Passages {
		out.Report = append(out.Report, w.Say(handin.Named(p.Passage)))
	}
	for _, e := range sheet.Evidence {
		out.Report = append(out.Report, w.Text("dry-run.photograph", "of", w.Say(journal.EvidenceSaid(e.Code))))
	}
	for _, l := range sheet.Lacks {
		out.Lacks = append(out.Lacks, l.Text)
	}
	if sheet.Answer != nil {
		out.Answer = sheet.Answer.Statement
	}
	return out, nil
}
