package bench

import (
	"cmp"
	"context"
	"errors"
	"fmt"

	"exactflask/app/access"
	"exactflask/app/practicals"
	"exactflask/core/values/finding"
	"exactflask/store"
)

var isOver = finding.Declare("app.over")

// Blank is the person's own notebook of a practical as Begin would start it, without an
// id: what a bench needs to begin without the network.
func (a *Bench) Blank(ctx context.Context, p access.Person, class, practicalID string) (Notebook, error) {
	t := access.Thing{Class: class}
	if !access.May(p, access.SeeClass, t) {
		return Notebook{}, access.ErrNotFound
	}
	if !access.May(p, access.BeginNotebook, t) {
		return Notebook{}, fmt.Errorf("keeping a notebook: %w", access.ErrForbidden)
	}
	q := a.Store.Read()
	revision, times, err := q.Assignment(ctx, class, practicalID)
	if err != nil {
		return Notebook{}, access.NotFound(err)
	}
	if err := a.mayBeginNow(p, class, times); err != nil {
		return Notebook{}, err
	}
	prac, err := q.Practical(ctx, practicalID, revision)
	if err != nil {
		return Notebook{}, access.NotFound(err)
	}
	ready, err := a.practicals.Checked(prac)
	if err != nil {
		return Notebook{}, err
	}
	n := store.Notebook{Class: class, Student: p.ID, StudentName: p.Name, Started: a.Now(), Practical: ready.Practical}
	for _, m := range p.Classes {
		if m.Class == class {
			n.ClassName = m.Name
		}
	}
	return a.present(ctx, p, Opened{Book: &Book{Notebook: n, Ready: ready}, Role: p.RoleIn(class), write: true}, false)
}

// Begin starts the person's own notebook of a practical that is set to one of
// their classes, under its present revision, and returns its id: the one that is
// wanted, where that is not taken. Beginning again returns the same notebook.
func (a *Bench) Begin(ctx context.Context, p access.Person, class, practicalID, wanted string) (string, error) {
	t := access.Thing{Class: class}
	if !access.May(p, access.SeeClass, t) {
		return "", access.ErrNotFound
	}
	var id string
	err := a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		revision, times, err := q.Assignment(ctx, class, practicalID)
		if err != nil {
			return access.NotFound(err)
		}
		if !access.May(p, access.BeginNotebook, t) {
			return fmt.Errorf("keeping a notebook: %w", access.ErrForbidden)
		}
		if id, err = q.NotebookOf(ctx, class, practicalID, p.ID); err == nil {
			return nil
		}
		if err := a.mayBeginNow(p, class, times); err != nil {
			return err
		}
		for _, try := range []string{cmp.Or(wanted, access.NewID()), access.NewID()} { // the first may be another's
			if err := q.AddNotebook(ctx, store.NewNotebook{ID: try, Class: class, Practical: practicalID, Revision: revision, Student: p.ID, At: a.Now()}); err != nil {
				return fmt.Errorf("starting a notebook: %w", err)
			}
			if id, err = q.NotebookOf(ctx, class, practicalID, p.ID); err == nil {
				return a.withPartner(ctx, q, p, class, practicalID, id)
			} else if !errors.Is(err, store.ErrNotFound) {
				return err
			}
		}
		return err
	})
	if err == nil {
		a.Listeners.Tell(access.Change{Notebook: id, Around: true}, class, practicalID) // a board sees it
	}
	return id, err
}

// withPartner lets who works with the person in this practical write beside them.
func (a *Bench) withPartner(ctx context.Context, q store.Queries, p access.Person, class, practicalID, id string) error {
	members, err := q.Members(ctx, class)
	if err != nil {
		return err
	}
	partners, err := practicals.PartnersIn(ctx, q, class, practicalID, members)
	if err != nil || partners[p.ID] == "" {
		return err
	}
	return q.AddPartner(ctx, id, partners[p.ID], a.Now())
}

// mayBeginNow refuses students before a practical opens and after it is over. What
// does not open yet is not there for them.
func (a *Bench) mayBeginNow(p access.Person, class string, times store.Times) error {
	switch {
	case p.RoleIn(class).Teaches():
		return nil
	case !a.practicals.IsOpen(times):
		return access.ErrNotFound
	case a.practicals.IsOver(times):
		return isOver.Fault("")
	}
	return nil
}
