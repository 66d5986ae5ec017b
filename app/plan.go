package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"exactflask/core/decimal"
	"exactflask/core/experiment"
	"exactflask/core/finding"
	"exactflask/core/plan"
	"exactflask/core/prep"
	"exactflask/store"
	"exactflask/store/db"
	"exactflask/wording"
)

// Planned is a practical with what is said of it before it is done.
type Planned struct {
	Practical experiment.Practical `json:"practical" doc:"without what this reader must not see"`
	Plan      wording.PlanSheet    `json:"plan"`
	MaySet    bool                 `json:"maySet" doc:"whether this reader may set practicals to the class"`
}

// Plan looks at a practical that is set to one of the person's classes. A
// student gets the exercise before it, without what answers its questions.
func (a *App) Plan(ctx context.Context, p Person, classID, practicalID string, class prep.Class) (Planned, error) {
	practical, role, err := a.assigned(ctx, p, classID, practicalID)
	if err != nil {
		return Planned{}, err
	}
	if role == Student {
		return Planned{practical, wording.SpeakExercise(practical, p.Style()), false}, nil
	}
	sheet, err := planSheet(p, practical, class)
	return Planned{practical, sheet, true}, err
}

// assigned is the practical that is set to a class, as this person may see it.
func (a *App) assigned(ctx context.Context, p Person, classID, practicalID string) (experiment.Practical, Role, error) {
	var practical experiment.Practical
	role := p.roleIn(classID)
	if role == "" {
		return practical, "", ErrNotFound
	}
	q := a.store.Read()
	revision, err := q.Assignment(ctx, db.AssignmentParams{ClassID: classID, PracticalID: practicalID})
	if err := store.Found(err); err != nil {
		return practical, "", notFound(err)
	}
	text, err := q.Practical(ctx, db.PracticalParams{ID: practicalID, Revision: revision})
	if err := store.Found(err); err != nil {
		return practical, "", notFound(err)
	}
	if err := json.Unmarshal([]byte(text), &practical); err != nil {
		return practical, "", fmt.Errorf("practical %s: %w", practicalID, err)
	}
	if role == Student {
		practical.Reference = decimal.Decimal{}
	}
	return practical, role, nil
}

// TryPlan looks at a practical that is being written.
func (a *App) TryPlan(p Person, practical experiment.Practical, class prep.Class) (wording.PlanSheet, error) {
	return planSheet(p, practical, class)
}

func planSheet(p Person, practical experiment.Practical, class prep.Class) (wording.PlanSheet, error) {
	assessment, fault := plan.Assess(practical)
	if fault != nil {
		return wording.PlanSheet{}, fault.In("practical")
	}
	return wording.SpeakPlan(practical, assessment, class, p.Style()), nil
}

// SetPractical sets a practical to a class, for its instructor: notebooks that
// are begun from now on are under it. What is new becomes a new revision;
// notebooks that were begun keep theirs.
func (a *App) SetPractical(ctx context.Context, p Person, classID string, practical experiment.Practical) (experiment.Practical, error) {
	switch p.roleIn(classID) {
	case Instructor:
	case Student:
		return practical, fmt.Errorf("setting a practical: %w", ErrForbidden)
	default:
		return practical, ErrNotFound
	}
	practical.Revision = max(practical.Revision, 1)
	if fault := practical.Check(); fault != nil {
		return practical, fault.In("practical")
	}
	q := a.store.Read()
	newest, err := q.NewestRevision(ctx, practical.ID)
	if err != nil {
		return practical, fmt.Errorf("looking for revisions: %w", err)
	}
	practical.Revision = int(newest) + 1
	if newest > 0 {
		same := practical
		same.Revision = int(newest)
		text, err := json.Marshal(same)
		if err != nil {
			return practical, fmt.Errorf("writing the practical: %w", err)
		}
		kept, err := q.Practical(ctx, db.PracticalParams{ID: practical.ID, Revision: newest})
		if err = store.Found(err); err != nil && !errors.Is(err, store.ErrNotFound) {
			return practical, err
		}
		if kept == string(text) {
			practical.Revision = int(newest)
		}
	}
	return practical, a.Assign(ctx, classID, practical)
}

// Answered is the judgement of an answer to a pre-laboratory question.
type Answered struct {
	Right bool   `json:"right"`
	Text  string `json:"text"`
}

// AnswerQuestion judges an answer to a question of a practical's exercise.
func (a *App) AnswerQuestion(ctx context.Context, p Person, classID, practicalID, code, answer string) (Answered, error) {
	practical, _, err := a.assigned(ctx, p, classID, practicalID)
	if err != nil {
		return Answered{}, err
	}
	if len(answer) > 60 {
		return Answered{}, finding.Faultf("answer", "an answer has at most 60 characters")
	}
	checked, fault := plan.Check(practical, code, answer)
	if fault != nil {
		return Answered{}, fault
	}
	return Answered{checked.Right, wording.SpeakCheck(checked, p.Style().Or(practical.Style))}, nil
}
