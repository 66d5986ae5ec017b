package practicals

import (
	"context"
	"fmt"
	"slices"

	"exactflask/core/record/practical"
	"exactflask/store"
)

// OfClass are the practicals that are set to a class, the oldest first, without those that cannot be
// used.
func OfClass(assigned []store.Assigned) []practical.Practical {
	var out []practical.Practical
	for _, item := range assigned {
		if item.Err == nil && item.Set {
			out = append(out, item.Practical)
		}
	}
	return out
}

// sequenceFault says why a practical cannot come after the one that it names; nil where it names none.
// One that is not set to the class any more is passed over.
func (a *Practicals) sequenceFault(ctx context.Context, q store.Queries, class string, p practical.Practical) error {
	if p.After == "" {
		return nil
	}
	assigned, err := q.AssignmentsOfClass(ctx, class)
	if err != nil {
		return fmt.Errorf("reading practicals: %w", err)
	}
	if fault := practical.SequenceFault(OfClass(assigned), p); fault != nil {
		return fault.In("practical")
	}
	return nil
}

// sequenceOf are the ids and titles of the other practicals of a class in one's sequence, in order.
func sequenceOf(all []practical.Practical, id string) (ids, titles []string) {
	for _, other := range practical.Sequence(all, id) {
		if other == id {
			continue
		}
		at := slices.IndexFunc(all, func(p practical.Practical) bool { return p.ID == other })
		ids, titles = append(ids, other), append(titles, all[at].Title)
	}
	return ids, titles
}
