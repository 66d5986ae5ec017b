package practicals

import (
	"context"
	"errors"
	"fmt"
	"reflect"

	"exactflask/app/access"
	"exactflask/core/practice/prep"
	"exactflask/core/practice/sim"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/store"
	"exactflask/view"
)

var (
	otherRevision = finding.Declare("app.other-revision")
	ownedByOthers = finding.Declare("app.owned-by-others")
)

// Assign sets a practical to a class as it is: notebooks that are started from
// now on are under this revision, those already begun keep theirs. A revision
// that is already kept must be the same. For the administrator at the command
// line and for the demo.
func (a *Practicals) Assign(ctx context.Context, class string, p practical.Practical) error {
	if _, fault := p.Check(); fault != nil {
		return fault.In("practical")
	}
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error { return a.AssignIn(ctx, q, class, p) })
}

func (a *Practicals) AssignIn(ctx context.Context, q store.Queries, class string, p practical.Practical) error {
	kept, err := q.Practical(ctx, p.ID, p.Revision)
	switch {
	case errors.Is(err, store.ErrNotFound):
		if err := q.AddPractical(ctx, p, a.Now()); err != nil {
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
	return q.Assign(ctx, class, p.ID, p.Revision, a.Now())
}

// Planned is a practical with what is said of it before it is done.
type Planned struct {
	Practical practical.Practical `json:"practical" doc:"without what this reader must not see"`
	Plan      view.Plan           `json:"plan"`
	MayAssign bool                `json:"mayAssign" doc:"whether this reader may set practicals to the class"`
	Given     []view.Given        `json:"given" doc:"answers to the questions: a student's own, or for the instructor those of the class"`
}

// Plan looks at a practical that is set to one of the person's classes. A
// student gets the exercise before it, without what answers its questions.
func (a *Practicals) Plan(ctx context.Context, p access.Person, class, id string, group prep.Class) (Planned, error) {
	ready, err := a.Assigned(ctx, p, class, id)
	if err != nil {
		return Planned{}, err
	}
	shown, err := a.Before(ready, p.RoleIn(class))
	if err != nil {
		return Planned{}, err
	}
	out := Planned{Practical: shown.Practical}
	var given []store.ExerciseAnswer
	if access.May(p, access.SeePlan, access.Thing{Class: class}) {
		out.Plan, out.MayAssign = view.PlanOf(ready, group, p.Style()), true
		given, err = a.Store.Read().ExerciseOfClass(ctx, class, id)
	} else {
		out.Plan = view.Exercise(shown, p.Style())
		given, err = a.Store.Read().ExerciseAnswers(ctx, class, id, p.ID)
	}
	if err != nil {
		return Planned{}, fmt.Errorf("reading the answers: %w", err)
	}
	out.Given = make([]view.Given, len(given))
	for i, g := range given {
		out.Given[i] = view.Given{Name: g.Name, Code: g.Code, Answer: g.Answer, Right: g.Right, Tries: g.Tries}
	}
	view.SayGiven(ready, out.Given, p.Style())
	return out, nil
}

// SetPractical sets a practical to a class, for its instructor: notebooks that
// are begun from now on are under it. What is new becomes a new revision;
// notebooks that were begun keep theirs. A practical belongs to the class that
// wrote it, and only that class's instructors revise it; others set it as it is.
func (a *Practicals) AssignRevision(ctx context.Context, p access.Person, class string,
	written practical.Practical) (practical.Practical, error) {
	if err := access.Allowed(p, access.AssignPractical, class); err != nil {
		return written, err
	}
	written.Revision = max(written.Revision, 1)
	ready, fault := written.Check()
	if fault == nil { // before the writer is taken: with a probe it is a tenth of a second
		fault = sim.Rehearse(ready)
	}
	if fault != nil {
		return written, fault.In("practical")
	}
	err := a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		newest, err := q.NewestRevision(ctx, written.ID)
		if err != nil {
			return fmt.Errorf("looking for revisions: %w", err)
		}
		if written.Rules.School, err = schoolNorms(ctx, q, class); err != nil {
			return err
		}
		if _, fault := written.Check(); fault != nil { // together with the school's
			return fault.In("practical")
		}
		if fault := a.sequenceFault(ctx, q, class, written); fault != nil {
			return fault
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
				return a.assignBy(ctx, q, p, class, written)
			}
			owner, err := q.OwnerOf(ctx, written.ID)
			if err != nil && !errors.Is(err, store.ErrNotFound) {
				return err
			}
			if err == nil && !access.May(p, access.AssignPractical, access.Thing{Class: owner}) {
				return ownedByOthers.Fault("practical.id")
			}
		}
		return a.assignBy(ctx, q, p, class, written)
	})
	return written, err
}

func (a *Practicals) assignBy(ctx context.Context, q store.Queries, p access.Person, class string, written practical.Practical) error {
	return errors.Join(a.AssignIn(ctx, q, class, written),
		a.Did(ctx, q, access.ActPractical, p, class, "", fmt.Sprintf("%s, %d", written.Title, written.Revision)))
}
