package bench

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"exactflask/app/access"
	"exactflask/calc"
	"exactflask/core/judgement/experiment"
	"exactflask/core/practice/prep"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/store"
	"exactflask/view"
)

var calculatorsClosed = finding.Declare("app.calculators-closed", "title")

// Calculate runs a computation without a notebook. Those that answer or plan a
// titration are closed to a student while one of their practicals withholds its
// result, unless its instructor leaves them open.
//
// Errors: calc.ErrUnknown, schema.Faults, *finding.Fault.
func (a *Bench) Calculate(ctx context.Context, p access.Person, name string, input []byte) (json.RawMessage, error) {
	if calc.Answering(name) {
		if err := a.mayCalculate(ctx, p); err != nil {
			return nil, err
		}
	}
	return calc.Calculate(name, input)
}

// TryPlan looks at a practical that is being written. Whoever is signed in may,
// under the same rule as Calculate.
func (a *Bench) TryPlan(ctx context.Context, p access.Person, written practical.Practical, group prep.Class) (view.Plan, error) {
	if err := a.mayCalculate(ctx, p); err != nil {
		return view.Plan{}, err
	}
	r, fault := written.Check()
	if fault != nil {
		return view.Plan{}, fault.In("practical")
	}
	return view.PlanOf(r, group, p.Style()), nil
}

// DryRun lets a careful student do a practical that is being written for a class; whoever may write
// practicals there sees it.
func (a *Bench) DryRun(ctx context.Context, p access.Person, class string, written practical.Practical) (view.DryRun, error) {
	if err := access.Allowed(p, access.SeePlan, class); err != nil {
		return view.DryRun{}, err
	}
	written, err := a.practicals.Under(ctx, p, class, written)
	if err != nil {
		return view.DryRun{}, err
	}
	r, fault := written.Check()
	if fault != nil {
		return view.DryRun{}, fault.In("practical")
	}
	out, fault := view.DryRunOf(r, p.Style())
	if fault != nil {
		return view.DryRun{}, fault.In("practical")
	}
	return out, nil
}

// mayCalculate is a fault that names a practical which still withholds its result
// from this person.
func (a *Bench) mayCalculate(ctx context.Context, p access.Person) error {
	for _, m := range p.Classes {
		if m.Role != access.Student {
			continue
		}
		assigned, err := a.Store.Read().AssignmentsOfClass(ctx, m.Class)
		if err != nil {
			return fmt.Errorf("reading practicals: %w", err)
		}
		for _, item := range assigned {
			if !a.practicals.IsOpen(item.Times) {
				continue // not there for them yet
			}
			withheld, err := a.withholds(ctx, p, m.Class, item)
			if err != nil {
				return err
			}
			if withheld {
				return calculatorsClosed.Fault("", finding.Text(item.Practical.Title))
			}
		}
	}
	return nil
}

// withholds tells whether a practical's result is still to be found by a student.
func (a *Bench) withholds(ctx context.Context, p access.Person, class string, item store.Assigned) (bool, error) {
	show := item.Practical.Showing
	if item.Err != nil || show.Calculators || experiment.Granted(access.Student.Reader(), show.Results, false).Has(experiment.PartResult) {
		return false, nil
	}
	id, err := a.Store.Read().NotebookOf(ctx, class, item.ID, p.ID)
	if errors.Is(err, store.ErrNotFound) {
		return true, nil
	} else if err != nil {
		return false, fmt.Errorf("looking for a notebook: %w", err)
	}
	o, err := a.Open(ctx, p, id)
	if err != nil {
		a.Log("a notebook cannot be read", "notebook", id, "err", err)
		return true, nil
	}
	granted, err := o.GrantedSafely(a.Log)
	return err != nil || !granted.Has(experiment.PartResult), nil
}
