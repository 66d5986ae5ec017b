package app

import (
	"cmp"
	"context"
	"errors"
	"fmt"

	"exactflask/core/values/finding"
	"exactflask/store"
)

var isOver = finding.Declare("app.over")

// Blank is the person's own notebook of a practical as Begin would start it, without an
// id: what a bench needs to begin without the network.
func (a *App) Blank(ctx context.Context, p Person, class, practicalID string) (Notebook, error) {
	t := Thing{Class: class}
	if !May(p, SeeClass, t) {
		return Notebook{}, ErrNotFound
	}
	if !May(p, BeginNotebook, t) {
		return Notebook{}, fmt.Errorf("keeping a notebook: %w", ErrForbidden)
	}
	q := a.store.Read()
	revision, times, err := q.Assignment(ctx, class, practicalID)
	if err != nil {
		return Notebook{}, notFound(err)
	}
	if err := a.mayBeginNow(p, class, times); err != nil {
		return Notebook{}, err
	}
	prac, err := q.Practical(ctx, practicalID, revision)
	if err != nil {
		return Notebook{}, notFound(err)
	}
	ready, err := a.ready(prac)
	if err != nil {
		return Notebook{}, err
	}
	n := store.Notebook{Class: class, Student: p.ID, StudentName: p.Name, Started: a.now(), Practical: ready.Practical}
	for _, m := range p.Classes {
		if m.Class == class {
			n.ClassName = m.Name
		}
	}
	return a.present(ctx, p, opened{book: &book{Notebook: n, ready: ready}, role: p.roleIn(class), write: true}, false)
}

// Begin starts the person's own notebook of a practical that is set to one of
// their classes, under its present revision, and returns its id: the one that is
// wanted, where that is not taken. Beginning again returns the same notebook.
func (a *App) Begin(ctx context.Context, p Person, class, practicalID, wanted string) (string, error) {
	t := Thing{Class: class}
	if !May(p, SeeClass, t) {
		return "", ErrNotFound
	}
	var id string
	err := a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		revision, times, err := q.Assignment(ctx, class, practicalID)
		if err != nil {
			return notFound(err)
		}
		if !May(p, BeginNotebook, t) {
			return fmt.Errorf("keeping a notebook: %w", ErrForbidden)
		}
		if id, err = q.NotebookOf(ctx, class, practicalID, p.ID); err == nil {
			return nil
		}
		if err := a.mayBeginNow(p, class, times); err != nil {
			return err
		}
		for _, try := range []string{cmp.Or(wanted, newID()), newID()} { // the first may be another's
			if err := q.AddNotebook(ctx, try, class, practicalID, revision, p.ID, a.now()); err != nil {
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
		a.listeners.tell(Change{Notebook: id, Around: true}, class, practicalID) // a board sees it
	}
	return id, err
}

// withPartner lets who works with the person in this practical write beside them.
func (a *App) withPartner(ctx context.Context, q store.Queries, p Person, class, practicalID, id string) error {
	members, err := q.Members(ctx, class)
	if err != nil {
		return err
	}
	partners, err := partnersIn(ctx, q, class, practicalID, members)
	if err != nil || partners[p.ID] == "" {
		return err
	}
	return q.AddPartner(ctx, id, partners[p.ID], a.now())
}

// mayBeginNow refuses students before a practical opens and after it is over. What
// does not open yet is not there for them.
func (a *App) mayBeginNow(p Person, class string, times store.Times) error {
	switch {
	case p.roleIn(class).Teaches():
		return nil
	case !a.isOpen(times):
		return ErrNotFound
	case a.isOver(times):
		return isOver.Fault("")
	}
	return nil
}
