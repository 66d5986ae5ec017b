package evaluation

import (
	"cmp"
	"slices"

	"exactflask/core/values/finding"
)

// mostAtOnce is how many findings are shown at the bench at once: more are not read. Source:
// common practice, no source.
const mostAtOnce = 2

var weight = map[finding.Severity]int{finding.Warning: 0, finding.Check: 1, finding.Note: 2}

// Foremost are the places of the findings that are most useful now, in the order in which they are
// shown: warnings before what is to be checked, that before notes, and of equal ones the latest, which
// is what the person at the bench can still do something about.
func Foremost(all []finding.Finding) []int {
	places := make([]int, len(all))
	for i := range places {
		places[i] = i
	}
	slices.SortStableFunc(places, func(a, b int) int {
		return cmp.Or(cmp.Compare(weight[all[a].Severity], weight[all[b].Severity]), cmp.Compare(b, a))
	})
	return places[:min(mostAtOnce, len(places))]
}
