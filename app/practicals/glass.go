package practicals

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"exactflask/app/access"
	"exactflask/core/chemistry/glass"
	"exactflask/store"
)

// Glassware is what a school has.
type Glassware struct {
	Own   []glass.Piece `json:"own" doc:"of the class, or of the installation"`
	Wider []glass.Piece `json:"wider" doc:"of a class: what the installation has"`
	// Burettes are all of them, as a practical uses them.
	Burettes []glass.Burette `json:"burettes" doc:"the burettes of all lists, as a practical uses them: own ones first, then what most schools have, which have no name"`
}

// Glass is what a class has, or the installation (class is empty). Everybody in a class chooses from
// its glassware, students at the bench; the installation's own list is for who may read its rules.
func (a *Practicals) Glass(ctx context.Context, p access.Person, class string) (Glassware, error) {
	err := mayReadNorms(p, class)
	if class != "" {
		err = access.Allowed(p, access.SeeClass, class)
	}
	if err != nil {
		return Glassware{}, err
	}
	out := Glassware{Own: []glass.Piece{}, Wider: []glass.Piece{}, Burettes: []glass.Burette{}}
	own, err := a.Store.Read().Glass(ctx, class)
	if err != nil {
		return Glassware{}, err
	}
	out.Own = append(out.Own, own...)
	if class != "" {
		wider, err := a.Store.Read().Glass(ctx, "")
		if err != nil {
			return Glassware{}, err
		}
		out.Wider = append(out.Wider, wider...)
	}
	for _, p := range slices.Concat(out.Own, out.Wider, glass.Usual) {
		if p.Kind == glass.Graduated {
			out.Burettes = append(out.Burettes, p.Burette())
		}
	}
	return out, nil
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
