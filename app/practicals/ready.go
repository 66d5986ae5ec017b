package practicals

import (
	"context"
	"encoding/json"
	"fmt"

	"exactflask/app/access"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/formats"
)

var (
	unusable = finding.Declare("app.unusable-practical", "problem")
)

// ready checks a practical once and keeps it.
func (a *Practicals) Checked(p practical.Practical) (*practical.Ready, error) {
	key := fmt.Sprintf("%s/%d", p.ID, p.Revision)
	if r, ok := a.checked.Get(key); ok {
		return r, nil
	}
	r, fault := p.Check()
	if fault != nil {
		return nil, unusable.Fault("practical", finding.Said(fault.Message))
	}
	a.checked.Add(key, r)
	return r, nil
}

// ReadyAsFrozen checks a practical as a report was handed in under it; those who had the
// same unknown share it.
func (a *Practicals) ReadyAsFrozen(p practical.Practical) (*practical.Ready, error) {
	text, err := json.Marshal(p)
	if err != nil {
		return nil, fmt.Errorf("writing a practical: %w", err)
	}
	key := "frozen " + formats.Hash(text)
	if r, ok := a.checked.Get(key); ok {
		return r, nil
	}
	r, fault := p.Check()
	if fault != nil {
		return nil, unusable.Fault("practical", finding.Said(fault.Message))
	}
	a.checked.Add(key, r)
	return r, nil
}

// Before is a practical as a role sees it before it is done; the questions are
// about what is seen.
func (a *Practicals) Before(r *practical.Ready, role access.Role) (*practical.Ready, error) {
	return a.Seen(r, role, experiment.Granted(role.Reader(), r.Showing.Results, false))
}

// Seen is a practical as a role sees it with these parts granted (visible), made
// ready once.
func (a *Practicals) Seen(r *practical.Ready, role access.Role, granted experiment.Parts) (*practical.Ready, error) {
	if role.Teaches() {
		return r, nil
	}
	key := fmt.Sprintf("%s/%d %t", r.ID, r.Revision, granted.Has(experiment.PartResult))
	if shown, ok := a.checked.Get(key); ok {
		return shown, nil
	}
	shown, fault := experiment.Visible(r.Practical, role.Reader(), granted).Check()
	if fault != nil {
		return nil, unusable.Fault("practical", finding.Said(fault.Message))
	}
	a.checked.Add(key, shown)
	return shown, nil
}

// Assigned is the practical that is set to a class.
func (a *Practicals) Assigned(ctx context.Context, p access.Person, class, id string) (*practical.Ready, error) {
	if !access.May(p, access.SeeClass, access.Thing{Class: class}) {
		return nil, access.ErrNotFound
	}
	q := a.Store.Read()
	revision, times, err := q.Assignment(ctx, class, id)
	if err != nil {
		return nil, access.NotFound(err)
	}
	if !p.RoleIn(class).Teaches() && !a.IsOpen(times) {
		return nil, access.ErrNotFound
	}
	written, err := q.Practical(ctx, id, revision)
	if err != nil {
		return nil, access.NotFound(err)
	}
	return a.Checked(written)
}
