package bench

import (
	"context"
	"runtime/debug"

	"exactflask/app/access"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
)

// Open finds a notebook and what the person is to it. For those who may not
// read it, it is not there.
func (a *Bench) Open(ctx context.Context, p access.Person, id string) (Opened, error) {
	b, err := a.Read(ctx, id)
	if err != nil {
		return Opened{}, err
	}
	t := b.thing()
	if !access.May(p, access.ReadNotebook, t) {
		return Opened{}, access.LeftClass(p, t)
	}
	refused := access.Refusal(p, access.WriteNotebook, t)
	return Opened{Book: b, Role: p.RoleIn(b.Class), write: refused == nil, refused: refused}, nil
}

// Safely turns a panic over one notebook into an error about that notebook.
func Safely[T any](log func(string, ...any), notebook string, do func() T) (out T, err error) {
	defer func() {
		if v := recover(); v != nil {
			log("a notebook cannot be evaluated", "notebook", notebook, "what", v, "stack", string(debug.Stack()))
			err = cannotEvaluated.Fault("")
		}
	}()
	return do(), nil
}

// Evaluate evaluates the notebook for its reader. Whatever goes wrong in it
// stays with it.
func (o Opened) Evaluate(log func(string, ...any)) (evaluation.Evaluation, error) {
	return o.evaluateBut(log, 0)
}

// evaluateBut leaves parts out of it that are not needed.
func (o Opened) evaluateBut(log func(string, ...any), unsaid experiment.Parts) (ev evaluation.Evaluation, err error) {
	return Safely(log, o.ID, func() evaluation.Evaluation {
		basis := o.basis
		if basis == nil {
			basis = experiment.Begin(o.Ready, journal.Fold(o.Entries))
		}
		return basis.Of(o.granted(basis) &^ unsaid)
	})
}

// granted are the parts of the evaluation that the reader may have.
func (o Opened) granted(basis *experiment.Basis) experiment.Parts {
	return basis.Granted(experiment.Reader{Teaches: o.Role.Teaches(), Released: o.IsReleased()})
}

// GrantedSafely is granted for a caller that evaluates nothing else.
func (o Opened) GrantedSafely(log func(string, ...any)) (experiment.Parts, error) {
	return Safely(log, o.ID, func() experiment.Parts { return o.granted(experiment.Begin(o.Ready, journal.Fold(o.Entries))) })
}
