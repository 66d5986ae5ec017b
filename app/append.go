package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"exactflask/core/experiment"
	"exactflask/core/finding"
	"exactflask/core/journal"
	"exactflask/formats"
	"exactflask/store"
	"exactflask/view"
)

// Append adds entries to a notebook, all of them or none, and returns it
// evaluated, in brief (view.Brief). Entries that are there already are passed
// over, so that a request can be repeated. The author is the person who asks,
// whatever the entries say.
//
// Errors: ErrNotFound, ErrForbidden (an instructor does not write in a
// student's notebook), *finding.Fault with a path such as
// entries[2].reading.text.
func (a *App) Append(ctx context.Context, p Person, id string, added []journal.Entry) (Notebook, error) {
	if len(added) == 0 || len(added) > MaxBatch {
		return Notebook{}, tooManyEntries.Fault("entries", finding.Count(MaxBatch), finding.Count(len(added)))
	}
	o, err := a.open(ctx, p, id)
	if err != nil {
		return Notebook{}, err
	}
	if !o.write {
		return Notebook{}, fmt.Errorf("writing in a student's notebook: %w", ErrForbidden)
	}
	for i := range added {
		added[i].Author, added[i].At = p.ID, added[i].At.UTC()
		if fault := added[i].Check(); fault != nil {
			return Notebook{}, fault.In(fmt.Sprintf("entries[%d]", i))
		}
	}
	if o.book, err = a.add(ctx, id, added); err != nil {
		return Notebook{}, err
	}
	return a.present(ctx, p, o, view.Brief)
}

// add writes entries that are not in a notebook yet, with its summary. It holds
// that notebook's lock and no other.
func (a *App) add(ctx context.Context, id string, added []journal.Entry) (*book, error) {
	unlock := a.locks.lock(id)
	defer unlock()
	b, err := a.readLocked(ctx, id)
	if err != nil {
		return nil, err
	}
	fresh, err := unseen(b.Entries, added)
	if err != nil || len(fresh) == 0 {
		return b, err
	}
	after := *b
	after.Entries = append(slices.Clip(after.Entries), fresh...)
	summary, failed := safely(a.log, id, func() experiment.Summary {
		return experiment.Summarise(experiment.Evaluate(after.ready, after.Entries, experiment.Record), after.Entries)
	})
	now := a.now()
	err = a.store.Write(ctx, func(q store.Queries) error {
		if err := q.AddEntries(ctx, id, fresh, now); err != nil || failed != nil {
			return err // what was written is kept, also where it cannot be judged
		}
		return q.KeepSummary(ctx, id, summary)
	})
	if err != nil {
		a.books.Remove(id)
		if errors.Is(err, store.ErrTaken) {
			return nil, idTaken.Fault("entries")
		}
		return nil, err
	}
	a.books.Add(id, &after)
	last := after.Entries[len(after.Entries)-1]
	a.listeners.tell(Change{Notebook: id, Entries: len(after.Entries), Clock: last.Clock}, id, after.Class)
	return &after, nil
}

// maxClockLead is how far an entry's clock may run ahead of the notebook's. A
// device that was long without network counts its own entries only.
const maxClockLead = 100_000

// unseen returns the entries that are not in the notebook yet, checked
// against it.
func unseen(kept, added []journal.Entry) ([]journal.Entry, error) {
	known := make(map[string]journal.Entry, len(kept)+len(added))
	var clock int64
	for _, e := range kept {
		known[e.ID] = e
		clock = max(clock, e.Clock)
	}
	var fresh []journal.Entry
	for i, e := range added {
		at := fmt.Sprintf("entries[%d]", i)
		if old, ok := known[e.ID]; ok {
			old.Author = e.Author // the first one to send it is its author
			if !same(old, e) {
				return nil, idTaken.Fault(at + ".id")
			}
			continue
		}
		if e.Clock > clock+maxClockLead {
			return nil, clockAhead.Fault(at + ".clock")
		}
		if fault := e.CheckAgainst(known); fault != nil {
			return nil, fault.In(at)
		}
		known[e.ID] = e
		fresh = append(fresh, e)
	}
	if len(kept)+len(fresh) > formats.MaxEntries {
		return nil, notebookFull.Fault("entries", finding.Count(formats.MaxEntries))
	}
	return fresh, nil
}

func same(a, b journal.Entry) bool {
	x, errX := json.Marshal(a)
	y, errY := json.Marshal(b)
	return errX == nil && errY == nil && string(x) == string(y)
}
