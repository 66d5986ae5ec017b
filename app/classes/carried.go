package classes

import (
	"context"
	"errors"

	"exactflask/core/practice/dealing"
	"exactflask/store"
)

// carryUnknowns takes the unknowns that a student was given into another class, with
// their true values: the notebooks that go there are of them.
func carryUnknowns(ctx context.Context, q store.Queries, person, from, to string) error {
	assigned, err := q.AssignmentsOfClass(ctx, from)
	if err != nil {
		return err
	}
	for _, s := range assigned {
		u, err := q.UnknownOf(ctx, from, s.ID, person)
		if errors.Is(err, store.ErrNotFound) {
			continue
		}
		if err != nil {
			return err
		}
		there, err := q.Unknowns(ctx, to, s.ID)
		if err != nil {
			return err
		}
		deals, err := q.Deals(ctx, to, s.ID)
		if err != nil {
			return err
		}
		if deals[person] != "" {
			continue // has been there before, with a notebook of its own
		}
		values := map[string]string{}
		for _, t := range there {
			values[t.Code] = t.Value
		}
		code := dealing.Carried(values, u.Code, u.Value)
		if _, known := values[code]; !known {
			there = append(there, store.Unknown{Code: code, Value: u.Value})
		}
		deals[person] = code
		if err := q.SetUnknowns(ctx, to, s.ID, there, deals); err != nil {
			return err
		}
	}
	return nil
}
