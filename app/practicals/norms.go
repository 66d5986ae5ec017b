package practicals

import (
	"context"
	"errors"
	"fmt"

	"exactflask/app/access"
	"exactflask/core/record/practical"
	"exactflask/store"
	"exactflask/view"
)

// mayReadNorms tells who may see the norms of a class, or of the installation (class is
// empty): those who teach there; for the installation whoever writes practicals.
func mayReadNorms(p access.Person, class string) error {
	switch {
	case class != "":
		return access.Allowed(p, access.SeePlan, class)
	case !access.May(p, access.Administrate, access.Thing{}) && !mayWrite(p):
		return access.ErrForbidden
	}
	return nil
}

// maySetNorms tells who may change them: whoever sets practicals in the class; for the installation
// whoever runs it.
func maySetNorms(p access.Person, class string) error {
	switch {
	case class != "":
		return access.Allowed(p, access.AssignPractical, class)
	case !access.May(p, access.Administrate, access.Thing{}):
		return access.ErrForbidden
	}
	return nil
}

// Norms are the limits of common practice as a class sees them, or the installation (class
// is empty), by groups.
func (a *Practicals) Norms(ctx context.Context, p access.Person, class string) ([]view.NormGroup, error) {
	if err := mayReadNorms(p, class); err != nil {
		return nil, err
	}
	own, err := a.Store.Read().Norms(ctx, class)
	if err != nil {
		return nil, err
	}
	var wider practical.Norms
	if class != "" {
		if wider, err = a.Store.Read().Norms(ctx, ""); err != nil {
			return nil, err
		}
	}
	return view.NormsOf(p.Style(), own, wider), nil
}

// SetNorms says what a class sees differently, or the installation. Practicals that are set
// afterwards are judged by it; those that are set keep theirs until they are set anew.
func (a *Practicals) SetNorms(ctx context.Context, p access.Person, class string, norms practical.Norms) error {
	if err := maySetNorms(p, class); err != nil {
		return err
	}
	if fault := norms.Check("norms"); fault != nil {
		return fault
	}
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return errors.Join(q.KeepNorms(ctx, class, norms), a.Did(ctx, q, access.ActNorms, p, class, "", fmt.Sprint(len(norms))))
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

// Under is a practical that is being written for a class, under what the school sees differently
// now: as it will be when it is set.
func (a *Practicals) Under(ctx context.Context, p access.Person, class string, written practical.Practical) (practical.Practical, error) {
	if err := mayReadNorms(p, class); err != nil {
		return written, err
	}
	var err error
	written.Rules.School, err = schoolNorms(ctx, a.Store.Read(), class)
	return written, err
}
