package view

import (
	"slices"
	"strings"

	"exactflask/core/judgement/evaluation"
)

// findings are what should be looked at; the same about several trials stands once, with all of them.
func (m *maker) findings() (said []Sentence, foremost []int) {
	said, foremost = make([]Sentence, 0, len(m.ev.Findings)), []int{}
	places, at := map[string][]string{}, make([]int, len(m.ev.Findings))
	for i, f := range m.ev.Findings {
		s := Sentence{f.Code, f.Severity, f.Subject, m.place(f.Subject), m.Say(f.Message)}
		at[i] = slices.IndexFunc(said, func(o Sentence) bool { return o.Text == s.Text && o.Severity == s.Severity })
		if at[i] < 0 {
			at[i], said = len(said), append(said, s)
		}
		if s.Place != "" && !slices.Contains(places[s.Text], s.Place) {
			places[s.Text] = append(places[s.Text], s.Place)
		}
		said[at[i]].Place = strings.Join(places[s.Text], ", ")
	}
	for _, i := range evaluation.Foremost(m.ev.Findings) {
		if !slices.Contains(foremost, at[i]) {
			foremost = append(foremost, at[i])
		}
	}
	return said, foremost
}
