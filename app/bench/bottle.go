package bench

import (
	"context"
	"errors"
	"fmt"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/values/decimal"
	"exactflask/store"
)

// bottle reckons what is left of the student's own solution: it was prepared in the
// notebook of the practical in which it is standardised, or made and nothing else, and every practical whose
// known solution that is draws on it. Nil where nothing was prepared. Other
// notebooks tell by their summaries what they used: that costs a read each.
func (a *Bench) bottle(ctx context.Context, o Opened, ev evaluation.Evaluation) (*experiment.Bottle, error) {
	root := o.Practical.Chemistry.Standard
	made := decimal.Decimal{}
	switch {
	case ev.MadeOnly:
		root, made = o.Practical.ID, ev.Made
	case ev.Prepared != nil:
		root, made = o.Practical.ID, ev.Prepared.Volume
	}
	if root == "" {
		return nil, nil
	}
	q := a.Store.Read()
	own, err := q.NotebooksOfStudent(ctx, o.Class, o.Student)
	if err != nil {
		return nil, fmt.Errorf("looking for the notebooks that use a bottle: %w", err)
	}
	used := []decimal.Decimal{ev.Used}
	for _, n := range own {
		if n.ID == o.ID || n.Summary == nil {
			continue
		}
		if n.Practical == root {
			used, made = append(used, n.Summary.Used), n.Summary.Made
			continue
		}
		draws, err := a.standardisedIn(ctx, q, n, root)
		if err != nil {
			return nil, err
		}
		if draws {
			used = append(used, n.Summary.Used)
		}
	}
	if made.Sign() <= 0 {
		return nil, nil
	}
	b := experiment.BottleOf(o.Ready.Norms(), made, used, ev.Expected)
	return &b, nil
}

// standardisedIn tells whether the known solution of a notebook's practical is
// standardised in another. One that cannot be read is passed over: it fails alone.
func (a *Bench) standardisedIn(ctx context.Context, q store.Queries, n store.Own, practical string) (bool, error) {
	p, err := q.Practical(ctx, n.Practical, n.Revision)
	switch {
	case errors.Is(err, store.ErrUnreadable):
		return false, nil
	case err != nil:
		return false, fmt.Errorf("reading a practical: %w", err)
	}
	return p.Chemistry.Standard == practical, nil
}
