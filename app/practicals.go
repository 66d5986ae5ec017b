package app

import (
	"context"
	"errors"
	"fmt"
	"reflect"

	"exactflask/core/finding"
	"exactflask/core/plan"
	"exactflask/core/practical"
	"exactflask/core/prep"
	"exactflask/store"
	"exactflask/view"
)

var (
	otherRevision = finding.Declare("app.other-revision")
	ownedByOthers = finding.Declare("app.owned-by-others")
	answerLength  = finding.Declare("app.answer-length", "most")
)

// Assign sets a practical to a class as it is: notebooks that are started from
// now on are under this revision, those already begun keep theirs. A revision
// that is already kept must be the same. For the administrator at the command
// line and for the demo.
func (a *App) Assign(ctx context.Context, class string, p practical.Practical) error {
	if _, fault := p.Check(); fault != nil {
		return fault.In("practical")
	}
	return a.store.Write(ctx, func(q store.Queries) error { return a.assign(ctx, q, class, p) })
}

func (a *App) assign(ctx context.Context, q store.Queries, class string, p practical.Practical) error {
	kept, err := q.Practical(ctx, p.ID, p.Revision)
	switch {
	case errors.Is(err, store.ErrNotFound):
		if err := q.AddPractical(ctx, p, a.now()); err != nil {
			return err
		}
	case err != nil:
		return err
	case !reflect.DeepEqual(kept, p):
		return otherRevision.Fault("practical.revision")
	}
	if err := q.Own(ctx, p.ID, class); err != nil {
		return err
	}
	return q.Assign(ctx, class, p.ID, p.Revision, a.now())
}

// Planned is a practical with what is said of it before it is done.
type Planned struct {
	Practical practical.Practical `json:"practical" doc:"without what this reader must not see"`
	Plan      view.Plan           `json:"plan"`
	MaySet    bool                `json:"maySet" doc:"whether this reader may set practicals to the class"`
}

// Plan looks at a practical that is set to one of the person's classes. A
// student gets the exercise before it, without what answers its questions.
func (a *App) Plan(ctx context.Context, p Person, class, id string, group prep.Class) (Planned, error) {
	ready, err := a.assigned(ctx, p, class, id)
	if err != nil {
		return Planned{}, err
	}
	seen := visible(ready.Practical, p.roleIn(class))
	if !May(p, SeePlan, Thing{Class: class}) {
		return Planned{seen, view.Exercise(ready, p.Style()), false}, nil
	}
	return Planned{seen, view.PlanOf(ready, group, p.Style()), true}, nil
}

// assigned is the practical that is set to a class.
func (a *App) assigned(ctx context.Context, p Person, class, id string) (*practical.Ready, error) {
	if !May(p, SeeClass, Thing{Class: class}) {
		return nil, ErrNotFound
	}
	q := a.store.Read()
	revision, err := q.Assignment(ctx, class, id)
	if err != nil {
		return nil, notFound(err)
	}
	written, err := q.Practical(ctx, id, revision)
	if err != nil {
		return nil, notFound(err)
	}
	return a.ready(written)
}

// TryPlan looks at a practical that is being written. Whoever is signed in may.
func (a *App) TryPlan(p Person, written practical.Practical, group prep.Class) (view.Plan, error) {
	r, fault := written.Check()
	if fault != nil {
		return view.Plan{}, fault.In("practical")
	}
	return view.PlanOf(r, group, p.Style()), nil
}

// SetPractical sets a practical to a class, for its instructor: notebooks that
// are begun from now on are under it. What is new becomes a new revision;
// notebooks that were begun keep theirs. A practical belongs to the class that
// wrote it, and only that class's instructors revise it; others set it as it is.
func (a *App) SetPractical(ctx context.Context, p Person, class string, written practical.Practical) (practical.Practical, error) {
	t := Thing{Class: class}
	if !May(p, SeeClass, t) {
		return written, ErrNotFound
	}
	if !May(p, SetPractical, t) {
		return written, fmt.Errorf("setting a practical: %w", ErrForbidden)
	}
	written.Revision = max(written.Revision, 1)
	if _, fault := written.Check(); fault != nil {
		return written, fault.In("practical")
	}
	err := a.store.Write(ctx, func(q store.Queries) error {
		newest, err := q.NewestRevision(ctx, written.ID)
		if err != nil {
			return fmt.Errorf("looking for revisions: %w", err)
		}
		written.Revision = newest + 1
		if newest > 0 {
			kept, err := q.Practical(ctx, written.ID, newest)
			if err != nil && !errors.Is(err, store.ErrUnreadable) {
				return err
			}
			same := written
			same.Revision = newest
			if err == nil && reflect.DeepEqual(kept, same) {
				written.Revision = newest
				return a.assign(ctx, q, class, written)
			}
			owner, err := q.OwnerOf(ctx, written.ID)
			if err != nil && !errors.Is(err, store.ErrNotFound) {
				return err
			}
			if err == nil && !May(p, SetPractical, Thing{Class: owner}) {
				return ownedByOthers.Fault("practical.id")
			}
		}
		return a.assign(ctx, q, class, written)
	})
	return written, err
}

// Answered is the judgement of an answer to a pre-laboratory question.
type Answered struct {
	Right bool   `json:"right"`
	Text  string `json:"text"`
}

const maxAnswer = 60

// AnswerQuestion judges an answer to a question of a practical's exercise.
func (a *App) AnswerQuestion(ctx context.Context, p Person, class, id, code, answer string) (Answered, error) {
	ready, err := a.assigned(ctx, p, class, id)
	if err != nil {
		return Answered{}, err
	}
	if len(answer) > maxAnswer {
		return Answered{}, answerLength.Fault("answer", finding.Count(maxAnswer))
	}
	checked, fault := plan.Check(ready, code, answer)
	if fault != nil {
		return Answered{}, fault
	}
	return Answered{checked.Right, view.Checked(ready, checked, p.Style())}, nil
}
