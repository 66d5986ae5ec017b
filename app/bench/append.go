package bench

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"exactflask/app/access"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/store"
	"exactflask/view"
)

var (
	// ErrKept: what was sent is on the disk; what follows from it cannot be told.
	ErrKept = errors.New("it was kept")
)

// Appended is what has changed by entries that were added.
type Appended struct {
	ID     string            `json:"id" doc:"of the notebook"`
	Base   int               `json:"base" doc:"number of entries of the sheet that this changes; 0: it is whole"`
	Sheet  view.SheetChange  `json:"sheet"`
	Offer  *journal.Known    `json:"offer,omitempty" doc:"as of a Notebook"`
	Bottle *view.Bottle      `json:"bottle,omitempty" doc:"as of a Notebook"`
	People map[string]string `json:"people" doc:"as of a Notebook"`
}

// shown is the sheet that a reader was sent last of a notebook.
type shown struct {
	entries int
	style   practical.Style
	print   view.SheetPrint
}

// Append adds entries to a notebook, all of them or none, and returns what of its
// sheet, in brief (view.Brief), differs from the one of base entries that the
// reader holds: all of it where that is not known here. Entries that are there
// already are passed over, so that a request can be repeated. The author is the
// person who asks; an entry that names another is refused.
//
// Errors: ErrNotFound, ErrForbidden (an instructor does not write in a
// student's notebook), *finding.Fault with a path such as
// entries[2].reading.text.
func (a *Bench) Append(ctx context.Context, p access.Person, id string, base int, added []journal.Entry) (Appended, error) {
	if fault := journal.BatchFault(added); fault != nil {
		return Appended{}, fault
	}
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return Appended{}, err
	}
	if !o.write {
		return Appended{}, fmt.Errorf("writing in a student's notebook: %w", o.refused)
	}
	if fault := journal.AuthorFault(added, p.ID); fault != nil {
		return Appended{}, fault
	}
	for i := range added {
		added[i].Author = p.ID
	}
	var out Appended
	var now shown
	unshown, err := a.add(ctx, id, added, func(after *Book, basis *experiment.Basis) error {
		o.Book, o.basis = after, basis
		n, err := a.present(ctx, p, o, true)
		if err != nil {
			return err
		}
		out, now, err = a.changed(p, n, base)
		return err
	})
	if err != nil {
		return Appended{}, err
	}
	if unshown != nil {
		return Appended{}, errors.Join(ErrKept, unshown)
	}
	a.shown.Add(shownKey(p, id), now)
	return out, nil
}

func shownKey(p access.Person, notebook string) string { return notebook + " " + p.ID }

// changed compares a sheet with the one that this reader was sent last, and returns
// what that one is from now on.
func (a *Bench) changed(p access.Person, n Notebook, base int) (Appended, shown, error) {
	last, known := a.shown.Get(shownKey(p, n.ID))
	if !known || last.entries != base || last.style != n.Sheet.Style {
		base, last.print = 0, nil
	}
	change, print, err := view.Changes(n.Sheet, last.print)
	return Appended{n.ID, base, change, n.Offer, n.Bottle, n.People}, shown{n.Sheet.Entries, n.Sheet.Style, print}, err
}

// quickly is up to how many entries a notebook is judged while the writer already writes
// the new ones: within the time that this takes.
const quickly = 150

// add writes entries that are not in a notebook yet, with its summary. It holds
// that notebook's lock and no other. While the disk is waited for, meanwhile works on
// what the notebook will be: nothing of that is told or remembered before the commit.
// Its error is returned beside that of the writing.
func (a *Bench) add(ctx context.Context, id string, added []journal.Entry, meanwhile func(*Book, *experiment.Basis) error) (unshown, err error) {
	unlock := a.Locks.Lock(id)
	defer unlock()
	b, err := a.readLocked(ctx, id)
	if err != nil {
		return nil, err
	}
	ledger := journal.NewLedger(b.Entries, b.Size)
	_, ledger.HandedIn = b.HandedIn()
	fresh, _, fault := ledger.Accept(added)
	if fault != nil {
		return nil, fault
	}
	if len(fresh) == 0 {
		return meanwhile(b, nil), nil
	}
	for i := range fresh {
		frugal(&fresh[i])
	}
	bytes := journal.Size(fresh...)
	if err := a.Afford(fresh[0].Author, len(fresh), bytes); err != nil {
		return nil, err
	}
	after := *b
	after.Size += bytes
	after.Entries = slices.Concat(b.Entries, fresh) // of just this length: a thousand notebooks are in memory
	now := a.Now()
	summarised, done := a.judged(&after, now, meanwhile)
	err = a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		err := q.AddEntries(ctx, id, fresh, now)
		summary := <-summarised
		summarised <- summary // the transaction may be tried again
		if err != nil || summary == nil {
			return err // what was written is kept, also where it cannot be judged
		}
		return q.KeepSummary(ctx, id, *summary)
	})
	unshown = <-done
	if err != nil {
		a.books.Remove(id)
		if errors.Is(err, store.ErrTaken) {
			return nil, journal.IDTaken.Fault("entries")
		}
		return nil, err
	}
	a.books.Add(id, &after)
	last := after.Entries[len(after.Entries)-1]
	a.Listeners.Tell(access.Change{Notebook: id, Entries: len(after.Entries), Clock: last.Clock}, after.Class, after.Practical.ID)
	return unshown, nil
}

// judged has a notebook judged and shown beside the commit: the summary comes on the first
// channel (nil where it cannot be judged), what showing came to on the second.
func (a *Bench) judged(after *Book, now time.Time, meanwhile func(*Book, *experiment.Basis) error) (chan *evaluation.Summary, chan error) {
	summarised, done := make(chan *evaluation.Summary, 1), make(chan error, 1)
	judge := func() (basis *experiment.Basis) {
		summary, failed := Safely(a.Log, after.ID, func() evaluation.Summary {
			basis = experiment.Begin(after.Ready, journal.Fold(after.Entries))
			return basis.Summary(after.Entries)
		})
		if after.summary = nil; failed == nil {
			summary.Seen = now
			after.summary = &summary
		}
		summarised <- after.summary
		return basis
	}
	show := func(basis *experiment.Basis) {
		told, crashed := Safely(a.Log, after.ID, func() error { return meanwhile(after, basis) })
		done <- errors.Join(told, crashed)
	}
	if len(after.Entries) > quickly { // the writer must not wait for it
		basis := judge()
		go show(basis)
	} else {
		go func() { show(judge()) }()
	}
	return summarised, done
}
