package app

import (
	"context"
	"fmt"

	"exactflask/core/experiment"
	"exactflask/core/practical"
	"exactflask/store"
	"exactflask/view"
)

// Shelf is what stands on a person's shelf: their own practicals, and for an
// instructor those of the class.
type Shelf struct {
	Shelves []ClassShelf `json:"shelves"`
}

// ClassShelf is one class's part of the shelf.
type ClassShelf struct {
	Class      string      `json:"class" doc:"id of the class"`
	Name       string      `json:"name"`
	Role       Role        `json:"role" enum:"student,instructor"`
	Practicals []ShelfItem `json:"practicals"`
}

// ShelfItem is a practical with the notebooks that the person may see.
type ShelfItem struct {
	Practical string              `json:"practical" doc:"id of the practical"`
	Title     string              `json:"title"`
	Purpose   string              `json:"purpose"`
	Setting   view.Setting        `json:"setting"`
	Broken    string              `json:"broken,omitempty" doc:"said where this practical cannot be used; the others can"`
	Notebooks []view.ShelfSummary `json:"notebooks" doc:"the student's own, if begun; or those of the whole class, for an instructor"`
}

// Shelf returns the person's shelf. It reads the summaries that are kept with
// the notebooks and evaluates none of them.
func (a *App) Shelf(ctx context.Context, p Person) (Shelf, error) {
	out := Shelf{Shelves: []ClassShelf{}}
	for _, m := range p.Classes {
		shelf := ClassShelf{Class: m.Class, Name: m.Name, Role: m.Role, Practicals: []ShelfItem{}}
		assigned, err := a.store.Read().AssignmentsOfClass(ctx, m.Class)
		if err != nil {
			return Shelf{}, fmt.Errorf("reading practicals: %w", err)
		}
		for _, item := range assigned {
			shelved, err := a.shelfItem(ctx, p, m, item)
			if err != nil {
				return Shelf{}, err
			}
			shelf.Practicals = append(shelf.Practicals, shelved)
		}
		out.Shelves = append(out.Shelves, shelf)
	}
	return out, nil
}

func (a *App) shelfItem(ctx context.Context, p Person, m Membership, item store.Assigned) (ShelfItem, error) {
	out := ShelfItem{Practical: item.ID, Title: item.Practical.Title, Purpose: item.Practical.Purpose, Notebooks: []view.ShelfSummary{}}
	out.Setting = view.NoSetting()
	ready, err := a.ready(item.Practical)
	if item.Err != nil {
		err = item.Err
	}
	if err != nil {
		a.log("a practical cannot be used", "practical", item.ID, "err", err)
		out.Broken = view.Broken(p.Style())
		return out, nil
	}
	words := view.Writer(ready, p.Style())
	out.Setting = view.SettingOf(words, ready)
	q := a.store.Read()
	roll, err := q.RollOfClass(ctx, m.Class, item.ID)
	if err != nil {
		return ShelfItem{}, fmt.Errorf("reading the roll: %w", err)
	}
	everyone := May(p, SeeRoll, Thing{Class: m.Class})
	for _, r := range roll {
		if everyone || r.Person == p.ID {
			out.Notebooks = append(out.Notebooks, a.shelved(ctx, ready, r, p, false))
		}
	}
	if everyone {
		return out, nil
	}
	beside, err := q.PartnerNotebooks(ctx, p.ID, m.Class, item.ID) // those of others, in which this person writes
	if err != nil {
		return ShelfItem{}, fmt.Errorf("reading partners' notebooks: %w", err)
	}
	for _, r := range beside {
		out.Notebooks = append(out.Notebooks, a.shelved(ctx, ready, r, p, true))
	}
	return out, nil
}

// shelved says where a notebook stands, from its summary. A notebook of another
// revision is spoken of by the rules of its own.
func (a *App) shelved(ctx context.Context, r *practical.Ready, n store.Summarised, p Person, partner bool) view.ShelfSummary {
	out := view.ShelfSummary{ID: n.Notebook, Student: n.Name, Partner: partner}
	s := n.Summary
	switch {
	case n.Notebook == "":
		s = a.untouched(r)
	case s == nil || n.Revision != r.Revision:
		b, err := a.read(ctx, n.Notebook)
		if err == nil {
			r = b.ready
			if s == nil {
				s, err = a.summarise(ctx, b)
			}
		}
		if err != nil {
			a.log("a notebook cannot be shown on the shelf", "notebook", n.Notebook, "err", err)
			out.Broken = view.Broken(p.Style())
			return out
		}
	}
	return out.Of(r, *s, p.Style())
}

func (a *App) untouched(r *practical.Ready) *experiment.Summary {
	s := experiment.Summarise(experiment.Evaluate(r, nil, experiment.Record), nil)
	return &s
}

// summarise makes the summary of a notebook that has none in today's form.
func (a *App) summarise(ctx context.Context, b *book) (*experiment.Summary, error) {
	s, err := safely(a.log, b.ID, func() experiment.Summary {
		return experiment.Summarise(experiment.Evaluate(b.ready, b.Entries, experiment.Record), b.Entries)
	})
	if err != nil || len(b.Entries) == 0 {
		return &s, err
	}
	unlock := a.locks.lock(b.ID)
	defer unlock()
	if now, ok := a.books.Get(b.ID); ok && len(now.Entries) != len(b.Entries) {
		return &s, nil // somebody wrote meanwhile, and kept a newer one
	}
	err = a.store.Write(ctx, func(q store.Queries) error { return q.KeepSummary(ctx, b.ID, s) })
	return &s, err
}
