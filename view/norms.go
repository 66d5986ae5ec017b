//go:build !js

package view

import (
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/wording"
)

// NormGroup are the norms about one thing, to be seen and changed.
type NormGroup struct {
	Group practical.NormGroup `json:"group"`
	About string              `json:"about"`
	Norms []Norm              `json:"norms"`
}

// Norm is a limit of common practice with what it is called and what it changes.
type Norm struct {
	Name  practical.NormName `json:"name"`
	Label string             `json:"label"`
	Why   string             `json:"why" doc:"what it changes"`
	Unit  string             `json:"unit,omitempty"`
	Own   string             `json:"own,omitempty" doc:"where it is said here"`
	Else  string             `json:"else" doc:"what holds where it is not said here"`
	Range string             `json:"range" doc:"between which it may lie"`
}

var normBetween = finding.Declare("norms.between", "least", "most")

// NormsOf are all norms by groups: own are those that are said here, wider those of the
// class and the installation around.
func NormsOf(style practical.Style, own, wider practical.Norms) []NormGroup {
	w := wording.For(style)
	out := make([]NormGroup, len(practical.NormGroups))
	for i, g := range practical.NormGroups {
		out[i] = NormGroup{Group: g, About: w.Say(practical.NormsAbout[g].Message()), Norms: []Norm{}}
		for _, n := range practical.Usual {
			if n.Group != g {
				continue
			}
			shown := Norm{Name: n.Name, Label: w.Say(practical.NormNames[n.Name].Message()), Why: w.Say(practical.NormWhy[n.Name].Message()),
				Else: wider.Value(n.Name).String(), Range: w.Say(normBetween.Message(finding.Exact(n.Least, n.Unit), finding.Exact(n.Most, n.Unit)))}
			if !n.Counted {
				shown.Unit = w.Unit(n.Unit)
			}
			if v, said := own[n.Name]; said {
				shown.Own = v.String()
			}
			out[i].Norms = append(out[i].Norms, shown)
		}
	}
	return out
}
