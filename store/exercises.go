package store

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"exactflask/store/db"
)

// ExerciseAnswer is the last answer of a person to a question before the
// laboratory, and whether one of theirs was right.
type ExerciseAnswer struct {
	Person, Name string // empty where one person's are asked for
	Code, Answer string
	Right        bool
	Tries        int
}

// KeepExerciseAnswer keeps an answer; one that was right once stays so.
func (q Queries) KeepExerciseAnswer(ctx context.Context, class, practical string, a ExerciseAnswer, at time.Time) error {
	return q.q.KeepExerciseAnswer(ctx, db.KeepExerciseAnswerParams{ClassID: class, PracticalID: practical,
		PersonID: a.Person, Code: a.Code, Answer: a.Answer, Correct: bit(a.Right), Answered: stamp(at)})
}

// ExerciseAnswers are those of one person.
func (q Queries) ExerciseAnswers(ctx context.Context, class, practical, person string) ([]ExerciseAnswer, error) {
	rows, err := q.q.ExerciseAnswers(ctx, db.ExerciseAnswersParams{ClassID: class, PracticalID: practical,
		PersonID: person})
	out := make([]ExerciseAnswer, len(rows))
	for i, r := range rows {
		out[i] = ExerciseAnswer{Code: r.Code, Answer: r.Answer, Right: r.Correct > 0, Tries: int(r.Tries)}
	}
	return out, err
}

// ExerciseAnswersOf are all of one person, each with its practical.
func (q Queries) ExerciseAnswersOf(ctx context.Context, person string) ([]AnswerOf, error) {
	rows, err := q.q.ExerciseAnswersOf(ctx, person)
	out := make([]AnswerOf, len(rows))
	for i, r := range rows {
		out[i] = AnswerOf{r.PracticalID, ExerciseAnswer{Code: r.Code, Answer: r.Answer, Right: r.Correct > 0, Tries: int(r.Tries)}}
	}
	return out, err
}

// AnswerOf is an answer with the practical that it is of.
type AnswerOf struct {
	Practical string
	ExerciseAnswer
}

// ExerciseOfClass are those of everybody in a class, by name and question.
func (q Queries) ExerciseOfClass(ctx context.Context, class, practical string) ([]ExerciseAnswer, error) {
	rows, err := q.q.ExerciseOfClass(ctx, db.ExerciseOfClassParams{ClassID: class, PracticalID: practical})
	out := make([]ExerciseAnswer, len(rows))
	for i, r := range rows {
		out[i] = ExerciseAnswer{r.ID, r.Name, r.Code, r.Answer, r.Correct > 0, int(r.Tries)}
	}
	return out, err
}

// ExerciseTries is how often a person answered a question, and whether it was
// right once.
func (q Queries) ExerciseTries(ctx context.Context, class, practical, person, code string) (tries int, right bool, err error) {
	row, err := q.q.ExerciseTries(ctx, db.ExerciseTriesParams{ClassID: class, PracticalID: practical, PersonID: person, Code: code})
	if errors.Is(err, sql.ErrNoRows) {
		return 0, false, nil
	}
	return int(row.Tries), row.Correct > 0, err
}
