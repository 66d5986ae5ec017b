package app

import (
	"context"
	"encoding/json"
	"fmt"
	"runtime/debug"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/formats"
)

// ready checks a practical once and keeps it.
func (a *App) ready(p practical.Practical) (*practical.Ready, error) {
	key := fmt.Sprintf("%s/%d", p.ID, p.Revision)
	if r, ok := a.practicals.Get(key); ok {
		return r, nil
	}
	r, fault := p.Check()
	if fault != nil {
		return nil, unusable.Fault("practical", finding.Said(fault.Message))
	}
	a.practicals.Add(key, r)
	return r, nil
}

// readyAsFrozen checks a practical as a report was handed in under it; those who had the
// same unknown share it.
func (a *App) readyAsFrozen(p practical.Practical) (*practical.Ready, error) {
	text, err := json.Marshal(p)
	if err != nil {
		return nil, fmt.Errorf("writing a practical: %w", err)
	}
	key := "frozen " + formats.Hash(text)
	if r, ok := a.practicals.Get(key); ok {
		return r, nil
	}
	r, fault := p.Check()
	if fault != nil {
		return nil, unusable.Fault("practical", finding.Said(fault.Message))
	}
	a.practicals.Add(key, r)
	return r, nil
}

// open finds a notebook and what the person is to it. For those who may not
// read it, it is not there.
func (a *App) open(ctx context.Context, p Person, id string) (opened, error) {
	b, err := a.read(ctx, id)
	if err != nil {
		return opened{}, err
	}
	t := b.thing()
	if !May(p, ReadNotebook, t) {
		return opened{}, ErrNotFound
	}
	return opened{book: b, role: p.roleIn(b.Class), write: May(p, WriteNotebook, t)}, nil
}

// evaluate evaluates the notebook for its reader. Whatever goes wrong in it
// stays with it.
func (o opened) evaluate(log func(string, ...any)) (evaluation.Evaluation, error) {
	return o.evaluateBut(log, 0)
}

// evaluateBut leaves parts out of it that are not needed.
func (o opened) evaluateBut(log func(string, ...any), unsaid experiment.Parts) (ev evaluation.Evaluation, err error) {
	return safely(log, o.ID, func() evaluation.Evaluation {
		basis := o.basis
		if basis == nil {
			basis = experiment.Begin(o.ready, journal.Fold(o.Entries))
		}
		return basis.Of(o.granted(basis) &^ unsaid)
	})
}

// granted are the parts of the evaluation that the reader may have.
func (o opened) granted(basis *experiment.Basis) experiment.Parts {
	return basis.Granted(experiment.Reader{Teaches: o.role.Teaches(), Released: o.isReleased()})
}

// grantedSafely is granted for a caller that evaluates nothing else.
func (o opened) grantedSafely(log func(string, ...any)) (experiment.Parts, error) {
	return safely(log, o.ID, func() experiment.Parts { return o.granted(experiment.Begin(o.ready, journal.Fold(o.Entries))) })
}

// safely turns a panic over one notebook into an error about that notebook.
func safely[T any](log func(string, ...any), notebook string, do func() T) (out T, err error) {
	defer func() {
		if v := recover(); v != nil {
			log("a notebook cannot be evaluated", "notebook", notebook, "what", v, "stack", string(debug.Stack()))
			err = cannotEvaluated.Fault("")
		}
	}()
	return do(), nil
}
