package app

import (
	"context"
	"errors"
	"fmt"
	"reflect"

	"exactflask/core/judgement/experiment"
	"exactflask/core/practice/plan"
	"exactflask/core/practice/prep"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/store"
	"exactflask/view"
)

var (
	otherRevision = finding.Declare("app.other-revision")
	ownedByOthers = finding.Declare("app.owned-by-others")
	noMoreTries   = finding.Declare("app.no-more-tries", "count")
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
	return a.store.Write(ctx, func(ctx context.Context, q store.Queries) error { return a.assign(ctx, q, class, p) })
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
	Given     []view.Given        `json:"given" doc:"answers to the questions: a student's own, or for the instructor those of the class"`
}

// Plan looks at a practical that is set to one of the person's classes. A
// student gets the exercise before it, without what answers its questions.
func (a *App) Plan(ctx context.Context, p Person, class, id string, group prep.Class) (Planned, error) {
	ready, err := a.assigned(ctx, p, class, id)
	if err != nil {
		return Planned{}, err
	}
	shown, err := a.before(ready, p.roleIn(class))
	if err != nil {
		return Planned{}, err
	}
	out := Planned{Practical: shown.Practical}
	var given []store.ExerciseAnswer
	if May(p, SeePlan, Thing{Class: class}) {
		out.Plan, out.MaySet = view.PlanOf(ready, group, p.Style()), true
		given, err = a.store.Read().ExerciseOfClass(ctx, class, id)
	} else {
		out.Plan = view.Exercise(shown, p.Style())
		given, err = a.store.Read().ExerciseAnswers(ctx, class, id, p.ID)
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

// before is a practical as a role sees it before it is done; the questions are
// about what is seen.
func (a *App) before(r *practical.Ready, role Role) (*practical.Ready, error) {
	return a.seen(r, role, experiment.Granted(role.reader(), r.Showing.Results, false))
}

// seen is a practical as a role sees it with these parts granted (visible), made
// ready once.
func (a *App) seen(r *practical.Ready, role Role, granted experiment.Parts) (*practical.Ready, error) {
	if role.Teaches() {
		return r, nil
	}
	key := fmt.Sprintf("%s/%d %t", r.ID, r.Revision, granted.Has(experiment.PartResult))
	if shown, ok := a.practicals.Get(key); ok {
		return shown, nil
	}
	shown, fault := experiment.Visible(r.Practical, role.reader(), granted).Check()
	if fault != nil {
		return nil, unusable.Fault("practical", finding.Said(fault.Message))
	}
	a.practicals.Add(key, shown)
	return shown, nil
}

// assigned is the practical that is set to a class.
func (a *App) assigned(ctx context.Context, p Person, class, id string) (*practical.Ready, error) {
	if !May(p, SeeClass, Thing{Class: class}) {
		return nil, ErrNotFound
	}
	q := a.store.Read()
	revision, times, err := q.Assignment(ctx, class, id)
	if err != nil {
		return nil, notFound(err)
	}
	if !p.roleIn(class).Teaches() && !a.isOpen(times) {
		return nil, ErrNotFound
	}
	written, err := q.Practical(ctx, id, revision)
	if err != nil {
		return nil, notFound(err)
	}
	return a.ready(written)
}

// SetPractical sets a practical to a class, for its instructor: notebooks that
// are begun from now on are under it. What is new becomes a new revision;
// notebooks that were begun keep theirs. A practical belongs to the class that
// wrote it, and only that class's instructors revise it; others set it as it is.
func (a *App) SetPractical(ctx context.Context, p Person, class string,
	written practical.Practical) (practical.Practical, error) {
	if err := allowed(p, SetPractical, class); err != nil {
		return written, err
	}
	written.Revision = max(written.Revision, 1)
	if _, fault := written.Check(); fault != nil {
		return written, fault.In("practical")
	}
	err := a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
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
				return a.setBy(ctx, q, p, class, written)
			}
			owner, err := q.OwnerOf(ctx, written.ID)
			if err != nil && !errors.Is(err, store.ErrNotFound) {
				return err
			}
			if err == nil && !May(p, SetPractical, Thing{Class: owner}) {
				return ownedByOthers.Fault("practical.id")
			}
		}
		return a.setBy(ctx, q, p, class, written)
	})
	return written, err
}

func (a *App) setBy(ctx context.Context, q store.Queries, p Person, class string, written practical.Practical) error {
	return errors.Join(a.assign(ctx, q, class, written),
		a.did(ctx, q, actPractical, p, class, "", fmt.Sprintf("%s, %d", written.Title, written.Revision)))
}

// Answered is the judgement of an answer to a pre-laboratory question.
type Answered struct {
	Right bool   `json:"right"`
	Text  string `json:"text"`
}

const maxAnswer = 500

// AnswerQuestion judges an answer to a question of a practical's exercise, and
// keeps it where a student gave it.
func (a *App) AnswerQuestion(ctx context.Context, p Person, class, id, code, answer string) (Answered, error) {
	ready, err := a.assigned(ctx, p, class, id)
	if err != nil {
		return Answered{}, err
	}
	if len(answer) > maxAnswer {
		return Answered{}, answerLength.Fault("answer", finding.Count(maxAnswer))
	}
	shown, err := a.before(ready, p.roleIn(class))
	if err != nil {
		return Answered{}, err
	}
	asked := *shown
	asked.Exercise = ready.Exercise // with the answers to the school's own questions
	checked, fault := plan.Check(&asked, code, answer)
	if fault != nil {
		return Answered{}, fault
	}
	if p.roleIn(class) == Student {
		if err := a.beforeHandIn(ctx, class, id, p.ID); err != nil {
			return Answered{}, err
		}
		err := a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
			tries, right, err := q.ExerciseTries(ctx, class, id, p.ID, code)
			if err != nil {
				return err
			}
			if most := ready.Showing.Tries; !right && tries >= most {
				return noMoreTries.Fault("answer", finding.Count(most))
			}
			return q.KeepExerciseAnswer(ctx, class, id, store.ExerciseAnswer{Person: p.ID, Code: code, Answer: answer,
				Right: checked.Right}, a.now())
		})
		if err != nil {
			return Answered{}, fmt.Errorf("keeping the answer: %w", err)
		}
	}
	return Answered{checked.Right, view.Checked(ready, checked, p.Style())}, nil
}

var questionsOver = finding.Declare("app.questions-after-hand-in")

// beforeHandIn refuses an answer to a question before the laboratory once the report is
// handed in: it is marked with the answers that were given.
func (a *App) beforeHandIn(ctx context.Context, class, id, student string) error {
	notebook, err := a.store.Read().NotebookOf(ctx, class, id, student)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return fmt.Errorf("looking for the notebook: %w", err)
	}
	b, err := a.read(ctx, notebook)
	if err != nil {
		return err
	}
	if _, in := b.handedIn(); in {
		return questionsOver.Fault("answer")
	}
	return nil
}
