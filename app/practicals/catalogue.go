package practicals

import (
	"context"
	"fmt"
	"strings"
	"unicode/utf8"

	"exactflask/app/access"
	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
	"exactflask/core/values/finding"
	"exactflask/store"
	"exactflask/view"
)

// maxOwnReactions is how many reactions one person may add.
const maxOwnReactions = 200

var (
	reactionName = finding.Declare("app.reaction-name", "length")
	tooManyOwn   = finding.Declare("app.too-many-reactions", "count")
)

// Catalogue returns the catalogue as a person sees it.
func (a *Practicals) Catalogue(ctx context.Context, p access.Person) (view.Catalogue, error) {
	kept, err := a.Store.Read().OwnReactions(ctx, p.ID)
	if err != nil {
		return view.Catalogue{}, fmt.Errorf("reading own reactions: %w", err)
	}
	own := make([]view.OwnReaction, len(kept))
	for i, r := range kept {
		own[i] = view.OwnReaction(r)
	}
	return view.CatalogueOf(catalog.BuiltIn(), own, p.Style()), nil
}

// AddReaction keeps a reaction of one's own, balanced.
func (a *Practicals) AddReaction(ctx context.Context, p access.Person, name, equation string) (view.Reaction, error) {
	name = strings.TrimSpace(name)
	if n := utf8.RuneCountInString(name); n == 0 || n > 120 {
		return view.Reaction{}, reactionName.Fault("name", finding.Count(n))
	}
	eq, err := chem.ParseEquation(equation)
	if err == nil && !eq.Balanced() {
		eq, err = catalog.BuiltIn().Balance(eq)
	}
	if err != nil {
		return view.Reaction{}, finding.FaultOf("equation", err)
	}
	own := store.OwnReaction{ID: access.NewID(), Name: name, Equation: eq.Plain()}
	err = a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		n, err := q.CountOwnReactions(ctx, p.ID)
		if err != nil {
			return err
		}
		if n >= maxOwnReactions {
			return tooManyOwn.Fault("", finding.Count(n))
		}
		return q.AddReaction(ctx, p.ID, own, a.Now())
	})
	return view.OwnReactionOf(view.OwnReaction(own), p.Style()), err
}

// DropReaction takes a reaction of one's own out.
func (a *Practicals) DropReaction(ctx context.Context, p access.Person, id string) error {
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return access.NotFound(q.DropReaction(ctx, p.ID, id))
	})
}
