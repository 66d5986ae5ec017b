package bench

import (
	"context"
	"fmt"

	"exactflask/app/access"
	"exactflask/app/practicals"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/store"
	"exactflask/view"
)

// Settings shows how a practical is set to a class, with the reference titration.
func (a *Bench) Settings(ctx context.Context, p access.Person, class, id string) (practicals.Settings, error) {
	out, reference, err := a.practicals.Setting(ctx, p, class, id)
	if err == nil && reference.Notebook != "" {
		out.Reference, err = a.referenceRun(ctx, p, reference)
	}
	return out, err
}

// referenceRun is what came out of a titration of somebody who teaches.
func (a *Bench) referenceRun(ctx context.Context, p access.Person, b store.Begun) (*practicals.ReferenceRun, error) {
	out := &practicals.ReferenceRun{Notebook: b.Notebook, By: b.Name}
	o, err := a.Open(ctx, p, b.Notebook)
	if err != nil {
		return nil, err
	}
	ev, err := o.Evaluate(a.Log)
	if err != nil || ev.Result == nil || ev.Result.Single {
		return out, nil // it says so itself where it is opened
	}
	words := view.Writer(o.Ready, p.Style())
	value, err := decimal.Parse(ev.Result.Answer.String())
	if err != nil {
		return nil, fmt.Errorf("the answer of the reference titration: %w", err)
	}
	out.Value, out.Answer = &value, words.Value(finding.Quantity(ev.Result.Answer))
	return out, nil
}
