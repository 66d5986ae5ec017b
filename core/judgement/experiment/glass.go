package experiment

import (
	"maps"
	"slices"

	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
)

var (
	glassUnfit  = finding.Declare("glass.unfit", "name", "why")
	glassTurned = finding.Declare("glass.turned", "name")
)

// withGlass is the practical as a bench does it, with the glassware that was chosen there. A piece that
// does not fit is not used, and said; nor is one whose scale counts the other way than what was read
// before it was chosen, or at the same time on another device: those readings would mean something else.
func withGlass(r *practical.Ready, c journal.Contents) (*practical.Ready, []finding.Finding) {
	var out []finding.Finding
	for _, step := range slices.Sorted(maps.Keys(c.Glass)) {
		l := c.Glass[step]
		chosen := l.Part.(journal.OwnGlass)
		name := finding.Text(chosen.Piece.Burette().Name)
		before := func(t journal.Trial) bool { return t.Clock <= l.Entry.Clock && !t.Withdrawn }
		if step == 0 && chosen.Piece.Rising != r.Glass.Burette.Rising && slices.ContainsFunc(c.Trials, before) {
			out = append(out, glassTurned.Finding(finding.Warning, l.Entry.ID, name))
			continue
		}
		used, fault := r.Using(step, chosen.Piece)
		if fault != nil {
			out = append(out, glassUnfit.Finding(finding.Warning, l.Entry.ID, name, finding.Said(fault.Message)))
			continue
		}
		r = used
	}
	return r, out
}
