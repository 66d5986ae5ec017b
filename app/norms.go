package app

import (
	"context"
	"errors"
	"fmt"

	"exactflask/core/record/practical"
	"exactflask/store"
	"exactflask/view"
)

// mayReadNorms tells who may see the norms of a class, or of the installation (class is
// empty): those who teach there; for the installation whoever writes practicals.
func mayReadNorms(p Person, class string) error {
	switch {
	case class != "":
		return allowed(p, SeePlan, class)
	case !May(p, Administrate, Thing{}) && !mayWrite(p):
		return ErrForbidden
	}
	return nil
}

// Norms are the limits of common practice as a class sees them, or the installation (class
// is empty), by groups.
func (a *App) Norms(ctx context.Context, p Person, class string) ([]view.NormGroup, error) {
	if err := mayReadNorms(p, class); err != nil {
		return nil, err
	}
	own, err := a.store.Read().Norms(ctx, class)
	if err != nil {
		return nil, err
	}
	var wider practical.Norms
	if class != "" {
		if wider, err = a.store.Read().Norms(ctx, ""); err != nil {
			return nil, err
		}
	}
	return view.NormsOf(p.Style(), own, wider), nil
}

// SetNorms says what a class sees differently, or the installation. Practicals that are set
// afterwards are judged by it; those that are set keep theirs until they are set anew.
func (a *App) SetNorms(ctx context.Context, p Person, class string, norms practical.Norms) error {
	if class != "" {
		if err := allowed(p, SetPractical, class); err != nil {
			return err
		}
	} else if !May(p, Administrate, Thing{}) {
		return ErrForbidden
	}
	if fault := norms.Check("norms"); fault != nil {
		return fault
	}
	return a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return errors.Join(q.KeepNorms(ctx, class, norms), a.did(ctx, q, actNorms, p, class, "", fmt.Sprint(len(norms))))
	})
}

// schoolNorms are those that hold in a class for a practical that says nothing itself.
func schoolNorms(ctx context.Context, q store.Queries, class string) (practical.Norms, error) {
	wide, err := q.Norms(ctx, "")
	if err != nil {
		return nil, err
	}
	own, err := q.Norms(ctx, class)
	return own.Over(wide), err
}
