package bench

import (
	"context"
	"errors"
	"fmt"
	"time"

	"exactflask/app/access"
	"exactflask/core/values/finding"
	"exactflask/store"
	"exactflask/view"
)

// Hand is a bench's call for help.
type Hand struct {
	Raised time.Time  `json:"raised"`
	Taken  *time.Time `json:"taken,omitempty" doc:"left out while nobody goes there"`
	By     string     `json:"by,omitempty" doc:"name of who does"`
}

var (
	handTaken   = finding.Declare("app.hand-taken", "by")
	handDown    = finding.Declare("app.hand-down")
	endOutRange = finding.Declare("app.lesson-end")
)

// handOf is the hand of a notebook, nil where it is not up.
func (a *Bench) handOf(ctx context.Context, notebook string) (*Hand, error) {
	h, err := a.Store.Read().Hand(ctx, notebook)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("reading a hand: %w", err)
	}
	out := &Hand{Raised: h.Raised, By: h.By}
	if !h.Taken.IsZero() {
		out.Taken = &h.Taken
	}
	return out, nil
}

func (a *Bench) endOf(ctx context.Context, class, id string) (*time.Time, error) {
	at, err := a.Store.Read().EndOfLesson(ctx, class, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && at.IsZero() {
		return nil, nil
	}
	return &at, err
}

// RaiseHand calls for help at one's own bench, or takes the call back.
func (a *Bench) RaiseHand(ctx context.Context, p access.Person, id string, up bool) (*Hand, error) {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return nil, err
	}
	if !o.write || o.Role.Teaches() {
		return nil, fmt.Errorf("raising another's hand: %w", access.ErrForbidden)
	}
	return a.hand(ctx, o, func(ctx context.Context, q store.Queries) error {
		if up {
			return q.RaiseHand(ctx, id, a.Now())
		}
		return q.LowerHand(ctx, id)
	})
}

// TakeHand says that one goes to a bench whose hand is up; or, once it is helped, that
// it is not up any more.
func (a *Bench) TakeHand(ctx context.Context, p access.Person, id string, cleared bool) (*Hand, error) {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return nil, err
	}
	if err := access.Allowed(p, access.HelpBenches, o.Class); err != nil {
		return nil, err
	}
	return a.hand(ctx, o, func(ctx context.Context, q store.Queries) error {
		if cleared {
			return q.LowerHand(ctx, id)
		}
		mine, err := q.TakeHand(ctx, id, p.ID, a.Now())
		if err != nil || mine {
			return err
		}
		there, err := q.Hand(ctx, id)
		if errors.Is(err, store.ErrNotFound) {
			return handDown.Fault("")
		}
		if err == nil && there.By != p.Name {
			return handTaken.Fault("", finding.Text(there.By))
		}
		return err
	})
}

func (a *Bench) hand(ctx context.Context, o Opened, do func(context.Context, store.Queries) error) (*Hand, error) {
	if err := a.Store.Write(ctx, do); err != nil {
		return nil, err
	}
	a.Around(o.Book)
	return a.handOf(ctx, o.ID)
}

// Around tells that something beside the entries of a notebook changed.
func (a *Bench) Around(b *Book) {
	change := access.Change{Notebook: b.ID, Entries: len(b.Entries), Around: true}
	if n := len(b.Entries); n > 0 {
		change.Clock = b.Entries[n-1].Clock
	}
	a.Listeners.Tell(change, b.Class, b.Practical.ID)
}

// EndLesson says when the lesson of a practical ends, nil: nobody says. Every bench
// shows it.
func (a *Bench) EndLesson(ctx context.Context, p access.Person, class, id string, at *time.Time) error {
	if err := access.Allowed(p, access.HelpBenches, class); err != nil {
		return err
	}
	var ends time.Time
	if at != nil {
		if ends = at.UTC(); ends.Before(a.Now().Add(-time.Minute)) || ends.After(a.Now().Add(24*time.Hour)) {
			return endOutRange.Fault("ends")
		}
	}
	err := a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return errors.Join(access.NotFound(q.SetEnd(ctx, class, id, ends)), a.Did(ctx, q, access.ActLesson, p, class, "", view.Clock(ends)))
	})
	if err != nil {
		return err
	}
	a.Listeners.TellClass(class)
	return nil
}
