package practical

import (
	"slices"

	"exactflask/core/values/finding"
)

// MostInSequence is how many practicals may follow each other.
const MostInSequence = 5

var (
	sequenceItself = finding.Declare("sequence.itself")
	sequenceRound  = finding.Declare("sequence.round")
	sequenceLong   = finding.Declare("sequence.long", "most")
	sequenceWhole  = finding.Declare("sequence.whole")
)

// checkSequence checks what can be seen of one practical alone.
func (r *Ready) checkSequence() *finding.Fault {
	switch {
	case r.After == "":
		if r.Report.Whole {
			return sequenceWhole.Fault("report.whole")
		}
	case r.After == r.ID:
		return sequenceItself.Fault("after")
	}
	return nil
}

// Sequence is the ids of the practicals that belong together with one of them, from the first on: each
// says which comes before it. What is not among them begins anew; nil of one that stands alone. Of
// several that come after the same one each follows in the order in which they are given.
func Sequence(all []Practical, id string) []string {
	after := map[string]string{}
	for _, p := range all {
		after[p.ID] = p.After
	}
	if _, there := after[id]; !there {
		return nil
	}
	root, seen := id, map[string]bool{id: true}
	for {
		before := after[root]
		if _, there := after[before]; !there || seen[before] {
			break
		}
		root, seen[before] = before, true
	}
	var out []string
	var add func(id string)
	add = func(id string) {
		if slices.Contains(out, id) {
			return
		}
		out = append(out, id)
		for _, p := range all {
			if p.After == id {
				add(p.ID)
			}
		}
	}
	add(root)
	if len(out) < 2 {
		return nil
	}
	return out
}

// Before are the ids of those that come before one, the first of them first.
func Before(all []Practical, id string) []string {
	var out []string
	for at := id; !slices.Contains(out, at); {
		k := slices.IndexFunc(all, func(p Practical) bool { return p.ID == at })
		if k < 0 {
			break
		}
		out = append(out, at)
		at = all[k].After
	}
	if len(out) == 0 {
		return nil
	}
	out = out[1:]
	slices.Reverse(out)
	return out
}

// SequenceFault says why a practical cannot come after the one that it names, among those of its
// class: they would go round in a circle, or be too many.
func SequenceFault(all []Practical, p Practical) *finding.Fault {
	if p.After == "" {
		return nil
	}
	all = append(slices.DeleteFunc(slices.Clone(all), func(o Practical) bool { return o.ID == p.ID }), p)
	if slices.Contains(Before(all, p.After), p.ID) {
		return sequenceRound.Fault("after")
	}
	if len(Sequence(all, p.ID)) > MostInSequence {
		return sequenceLong.Fault("after", finding.Count(MostInSequence))
	}
	return nil
}
