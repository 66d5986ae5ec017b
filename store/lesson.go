package store

import (
	"context"
	"database/sql"
	"time"

	"exactflask/store/db"
)

// Hand is the call of a bench for help.
type Hand struct {
	Notebook string
	Raised   time.Time
	Taken    time.Time // zero while nobody goes there
	By       string    // name of who does
}

// RaiseHand notes that a hand is up; again: since the first time.
func (q Queries) RaiseHand(ctx context.Context, notebook string, at time.Time) error {
	return q.q.RaiseHand(ctx, db.RaiseHandParams{NotebookID: notebook, Raised: stamp(at)})
}

// TakeHand notes who goes there; false where somebody does already, or it is not up.
func (q Queries) TakeHand(ctx context.Context, notebook, person string, at time.Time) (bool, error) {
	n, err := q.q.TakeHand(ctx, db.TakeHandParams{TakenBy: sql.NullString{String: person, Valid: true}, Taken: stamp(at), NotebookID: notebook})
	return n > 0, err
}

// LowerHand notes that it is not up any more.
func (q Queries) LowerHand(ctx context.Context, notebook string) error {
	return q.q.LowerHand(ctx, notebook)
}

// Hand is that of a notebook; ErrNotFound where it is not up.
func (q Queries) Hand(ctx context.Context, notebook string) (Hand, error) {
	r, err := q.q.Hand(ctx, notebook)
	return Hand{notebook, moment(r.Raised), moment(r.Taken), r.TakenBy}, found(err)
}

// HandsOfClass are those that are up in a practical of a class.
func (q Queries) HandsOfClass(ctx context.Context, class, practical string) ([]Hand, error) {
	rows, err := q.q.HandsOfClass(ctx, db.HandsOfClassParams{ClassID: class, PracticalID: practical})
	out := make([]Hand, len(rows))
	for i, r := range rows {
		out[i] = Hand{r.NotebookID, moment(r.Raised), moment(r.Taken), r.TakenBy}
	}
	return out, err
}

// SetEnd says when the lesson of a practical ends; zero: nobody says.
func (q Queries) SetEnd(ctx context.Context, class, practical string, at time.Time) error {
	n, err := q.q.SetEnd(ctx, db.SetEndParams{Ends: stampOrNone(at), ClassID: class, PracticalID: practical})
	if err == nil && n == 0 {
		return ErrNotFound
	}
	return err
}

// EndOfLesson is when the lesson of a practical ends; zero: nobody said.
func (q Queries) EndOfLesson(ctx context.Context, class, practical string) (time.Time, error) {
	at, err := q.q.EndOfLesson(ctx, db.EndOfLessonParams{ClassID: class, PracticalID: practical})
	return moment(at), found(err)
}
