package bench

import (
	"context"
	"errors"
	"fmt"

	"exactflask/app/access"
	"exactflask/core/practice/plan"
	"exactflask/core/values/finding"
	"exactflask/store"
	"exactflask/view"
)

var (
	noMoreTries  = finding.Declare("app.no-more-tries", "count")
	answerLength = finding.Declare("app.answer-length", "most")
)

// Answered is the judgement of an answer to a pre-laboratory question.
type Answered struct {
	Right bool   `json:"right"`
	Text  string `json:"text"`
}

const maxAnswer = 500

// AnswerQuestion judges an answer to a question of a practical's exercise, and
// keeps it where a student gave it.
func (a *Bench) AnswerQuestion(ctx context.Context, p access.Person, class, id, code, answer string) (Answered, error) {
	ready, err := a.practicals.Assigned(ctx, p, class, id)
	if err != nil {
		return Answered{}, err
	}
	if len(answer) > maxAnswer {
		return Answered{}, answerLength.Fault("answer", finding.Count(maxAnswer))
	}
	shown, err := a.practicals.Before(ready, p.RoleIn(class))
	if err != nil {
		return Answered{}, err
	}
	asked := *shown
	asked.Exercise = ready.Exercise // with the answers to the school's own questions
	checked, fault := plan.Check(&asked, code, answer)
	if fault != nil {
		return Answered{}, fault
	}
	if p.RoleIn(class) == access.Student {
		if err := a.beforeHandIn(ctx, class, id, p.ID); err != nil {
			return Answered{}, err
		}
		err := a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
			tries, right, err := q.ExerciseTries(ctx, class, id, p.ID, code)
			if err != nil {
				return err
			}
			if most := ready.Showing.Tries; !right && tries >= most {
				return noMoreTries.Fault("answer", finding.Count(most))
			}
			return q.KeepExerciseAnswer(ctx, class, id, store.ExerciseAnswer{Person: p.ID, Code: code, Answer: answer,
				Right: checked.Right}, a.Now())
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
func (a *Bench) beforeHandIn(ctx context.Context, class, id, student string) error {
	notebook, err := a.Store.Read().NotebookOf(ctx, class, id, student)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return fmt.Errorf("looking for the notebook: %w", err)
	}
	b, err := a.Read(ctx, notebook)
	if err != nil {
		return err
	}
	if _, in := b.HandedIn(); in {
		return questionsOver.Fault("answer")
	}
	return nil
}
