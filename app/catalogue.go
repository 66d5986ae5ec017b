package app

import (
	"context"
	"fmt"
	"strings"
	"unicode/utf8"

	"exactflask/core/catalog"
	"exactflask/core/chem"
	"exactflask/core/experiment"
	"exactflask/core/finding"
	"exactflask/core/plan"
	"exactflask/store/db"
)

// Catalogue is the built-in catalogue with a person's own reactions.
type Catalogue struct {
	Substances []Substance         `json:"substances"`
	Indicators []catalog.Indicator `json:"indicators"`
	Reactions  []Reaction          `json:"reactions"`
	Standards  []catalog.Standard  `json:"standards"`
	Own        []Reaction          `json:"own" doc:"reactions that this person added"`
}

// Substance is a substance with what follows from its formula.
type Substance struct {
	catalog.Substance
	Written   string  `json:"written" doc:"formula in Unicode"`
	MolarMass float64 `json:"molarMass" doc:"g/mol"`
}

// Reaction is a reaction with the way it is usually set up.
type Reaction struct {
	catalog.Reaction
	Titrant experiment.Solution `json:"titrant"`
	Analyte experiment.Solution `json:"analyte"`
}

// maxOwnReactions is how many reactions one person may add.
const maxOwnReactions = 200

// Catalogue returns the catalogue as a person sees it.
func (a *App) Catalogue(ctx context.Context, p Person) (Catalogue, error) {
	c := catalog.BuiltIn()
	out := Catalogue{Indicators: c.Indicators, Reactions: written(c.Reactions), Standards: c.Standards, Substances: make([]Substance, len(c.Substances))}
	for i, s := range c.Substances {
		f := chem.MustFormula(s.Formula)
		out.Substances[i] = Substance{s, f.String(), f.MolarMass().Float64()}
	}
	rows, err := a.store.Read().OwnReactions(ctx, p.ID)
	if err != nil {
		return Catalogue{}, fmt.Errorf("reading own reactions: %w", err)
	}
	own := make([]catalog.Reaction, len(rows))
	for i, r := range rows {
		own[i] = ownReaction(r.ID, r.Name, r.Equation)
	}
	out.Own = written(own)
	return out, nil
}

// written puts the equations into Unicode and says how each is set up.
func written(in []catalog.Reaction) []Reaction {
	out := make([]Reaction, len(in))
	for i, r := range in {
		titrant, analyte := plan.Begin(r)
		if eq, err := chem.ParseEquation(r.Equation); err == nil {
			r.Equation = eq.String()
		}
		out[i] = Reaction{r, titrant, analyte}
	}
	return out
}

func ownReaction(id, name, equation string) catalog.Reaction {
	return catalog.Reaction{ID: id, Name: name, Kind: "own", Equation: equation, Indicators: []string{}, Source: "typed; balanced here"}
}

// AddReaction keeps a reaction of one's own, balanced.
func (a *App) AddReaction(ctx context.Context, p Person, name, equation string) (Reaction, error) {
	name = strings.TrimSpace(name)
	if n := utf8.RuneCountInString(name); n == 0 || n > 120 {
		return Reaction{}, finding.Faultf("name", "a name has 1 to 120 characters; this has %d", n)
	}
	eq, err := chem.ParseEquation(equation)
	if err != nil {
		return Reaction{}, finding.Faultf("equation", "%w", err)
	}
	if !eq.Balanced() {
		if eq, err = eq.Balance(); err != nil {
			return Reaction{}, finding.Faultf("equation", "%w", err)
		}
	}
	r := ownReaction(newID(), name, eq.Plain())
	err = a.store.Write(ctx, func(q *db.Queries) error {
		if n, err := q.CountOwnReactions(ctx, p.ID); err != nil {
			return err
		} else if n >= maxOwnReactions {
			return finding.Faultf("", "you have %d reactions already; take one out first", n)
		}
		return q.AddReaction(ctx, db.AddReactionParams{ID: r.ID, PersonID: p.ID, Name: r.Name, Equation: r.Equation, Created: a.stamp()})
	})
	return written([]catalog.Reaction{r})[0], err
}

// DropReaction takes a reaction of one's own out.
func (a *App) DropReaction(ctx context.Context, p Person, id string) error {
	return a.store.Write(ctx, func(q *db.Queries) error {
		n, err := q.DropReaction(ctx, db.DropReactionParams{ID: id, PersonID: p.ID})
		if err == nil && n == 0 {
			return ErrNotFound
		}
		return err
	})
}
