package practicals

import (
	"context"
	"errors"
	"fmt"

	"exactflask/app/access"
	"exactflask/core/chemistry/glass"
	"exactflask/store"
)

// Glassware is what a school has.
type Glassware struct {
	Own   []glass.Piece `json:"own" doc:"of the class, or of the installation"`
	Wider []glass.Piece `json:"wider" doc:"of a class: what the installation has"`
	Usual []glass.Piece `json:"usual" doc:"what most schools have"`
}

// Glass is what a class has, or the installation (class is empty); whoever may read the rules of
// the school there may see it.
func (a *Practicals) Glass(ctx context.Context, p access.Person, class string) (Glassware, error) {
	if err := mayReadNorms(p, class); err != nil {
		return Glassware{}, err
	}
	out := Glassware{Usual: glass.Usual, Own: []glass.Piece{}, Wider: []glass.Piece{}}
	own, err := a.Store.Read().Glass(ctx, class)
	if err != nil {
		return Glassware{}, err
	}
	out.Own = append(out.Own, own...)
	if class == "" {
		return out, nil
	}
	wider, err := a.Store.Read().Glass(ctx, "")
	out.Wider = append(out.Wider, wider...)
	return out, err
}

// SetGlass takes the place of the list that was there. Practicals that are set keep what was chosen.
func (a *Practicals) SetGlass(ctx context.Context, p access.Person, class string, pieces []glass.Piece) error {
	if err := maySetNorms(p, class); err != nil {
		return err
	}
	if fault := glass.CheckAll(pieces); fault != nil {
		return fault
	}
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return errors.Join(q.KeepGlass(ctx, class, pieces), a.Did(ctx, q, access.ActGlass, p, class, "", fmt.Sprint(len(pieces))))
	})
}
