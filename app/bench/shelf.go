package bench

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"exactflask/app/access"
	"exactflask/app/classes"
	"exactflask/app/practicals"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/store"
	"exactflask/view"
)

// Shelf is what stands on a person's shelf: the practicals of their classes, with their own notebooks.
type Shelf struct {
	Shelves []ClassShelf `json:"shelves"`
}

// ClassShelf is one class's part of the shelf.
type ClassShelf struct {
	Class      string           `json:"class" doc:"id of the class"`
	Name       string           `json:"name"`
	Term       string           `json:"term"`
	Archived   bool             `json:"archived,omitempty" doc:"it is read only"`
	Role       access.Role      `json:"role" enum:"student,assistant,instructor"`
	Notices    []classes.Notice `json:"notices"`
	Practicals []ShelfItem      `json:"practicals"`
}

// ShelfItem is a practical with the person's own notebooks.
type ShelfItem struct {
	Practical string              `json:"practical" doc:"id of the practical"`
	Title     string              `json:"title"`
	Purpose   string              `json:"purpose"`
	Setting   view.Setting        `json:"setting"`
	Broken    string              `json:"broken,omitempty" doc:"said where this practical cannot be used; the others can"`
	Ended     bool                `json:"ended,omitempty" doc:"it is not set to the class any more: nobody begins it"`
	Times     practicals.Times    `json:"times"`
	Over      bool                `json:"over,omitempty" doc:"nobody begins it any more: its time is over"`
	Sequence  []SequencePart      `json:"sequence,omitempty" doc:"the practicals that it belongs together with, in order, itself among them; left out where it stands alone"`
	Sample    string              `json:"sample,omitempty" doc:"code of the unknown that a student was given"`
	Notebooks []view.ShelfSummary `json:"notebooks" doc:"the student's own, if begun, and those in which they write beside a classmate; empty for those who teach"`
}

// Shelf returns the person's shelf. It reads the summaries that are kept with
// the notebooks and evaluates none of them.
func (a *Bench) Shelf(ctx context.Context, p access.Person) (Shelf, error) {
	out := Shelf{Shelves: []ClassShelf{}}
	for _, m := range p.Classes {
		shelf := ClassShelf{Class: m.Class, Name: m.Name, Term: m.Term, Archived: m.Archived, Role: m.Role, Practicals: []ShelfItem{}}
		var err error
		if shelf.Notices, err = a.classes.NoticesOf(ctx, m.Class); err != nil {
			return Shelf{}, err
		}
		assigned, err := a.Store.Read().AssignmentsOfClass(ctx, m.Class)
		if err != nil {
			return Shelf{}, fmt.Errorf("reading practicals: %w", err)
		}
		for _, item := range assigned {
			shelved, err := a.shelfItem(ctx, p, m, item)
			if err == nil && len(shelved.Notebooks) > 0 {
				err = a.handedOnShelf(ctx, m.Class, &shelved)
			}
			if err != nil {
				return Shelf{}, err
			}
			if !m.Role.Teaches() && !a.practicals.IsOpen(item.Times) {
				shelved.begunOnly()
				if len(shelved.Notebooks) == 0 {
					continue // not there for them yet
				}
			}
			if !item.Set {
				shelved.begunOnly()
				if len(shelved.Notebooks) == 0 {
					continue
				}
			}
			shelf.Practicals = append(shelf.Practicals, shelved)
		}
		shelf.inSequence(practicals.OfClass(assigned))
		out.Shelves = append(out.Shelves, shelf)
	}
	return out, nil
}

// begunOnly leaves out who has not begun a practical that nobody begins any more.
func (i *ShelfItem) begunOnly() {
	i.Ended = true
	i.Notebooks = slices.DeleteFunc(i.Notebooks, func(n view.ShelfSummary) bool { return n.ID == "" })
}

func (a *Bench) shelfItem(ctx context.Context, p access.Person, m access.Membership, item store.Assigned) (ShelfItem, error) {
	out := ShelfItem{Practical: item.ID, Title: item.Practical.Title, Purpose: item.Practical.Purpose,
		Notebooks: []view.ShelfSummary{}}
	out.Setting = view.NoSetting()
	ready, err := a.practicals.Checked(item.Practical)
	if item.Err != nil {
		err = item.Err
	}
	if err != nil {
		a.Log("a practical cannot be used", "practical", item.ID, "err", err)
		out.Broken = view.Broken(p.Style())
		return out, nil
	}
	out.Times, out.Over = practicals.TimesOf(item.Times), a.practicals.IsOver(item.Times)
	if access.May(p, access.SeeRoll, access.Thing{Class: m.Class}) {
		return out, nil // where its notebooks stand is told by today, the board and the desk
	}
	words := view.Writer(ready, p.Style())
	shown, err := a.practicals.Before(ready, m.Role)
	if err != nil {
		return ShelfItem{}, err
	}
	out.Setting = view.SettingOf(words, shown)
	q := a.Store.Read()
	roll, err := q.RollOfClass(ctx, m.Class, item.ID)
	if err != nil {
		return ShelfItem{}, fmt.Errorf("reading the roll: %w", err)
	}
	for _, r := range roll {
		if r.Person == p.ID {
			out.Notebooks = append(out.Notebooks, a.shelved(ctx, ready, r, p, false))
		}
	}
	if u, err := q.UnknownOf(ctx, m.Class, item.ID, p.ID); err == nil {
		out.Sample = u.Code
	} else if !errors.Is(err, store.ErrNotFound) {
		return ShelfItem{}, fmt.Errorf("reading the unknown of a student: %w", err)
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

// ClassNotebooks are the notebooks of a practical in a class, a page of them.
type ClassNotebooks struct {
	Total     int                 `json:"total" doc:"students of the class, and who has left a notebook in it"`
	Notebooks []view.ShelfSummary `json:"notebooks" doc:"by name; who has left the class last"`
}

// MostNotebooks is how many notebooks a page of ClassNotebooks has.
const MostNotebooks = 100

// ClassNotebooks says where the notebooks of a practical in a class stand, from the one at that place on;
// also of a practical that is not set to the class any more. It reads summaries and evaluates none.
func (a *Bench) ClassNotebooks(ctx context.Context, p access.Person, class, id string, from int) (ClassNotebooks, error) {
	if err := access.Allowed(p, access.SeeRoll, class); err != nil {
		return ClassNotebooks{}, err
	}
	q := a.Store.Read()
	set, err := q.AssignmentsOfClass(ctx, class)
	if err != nil {
		return ClassNotebooks{}, fmt.Errorf("reading practicals: %w", err)
	}
	at := slices.IndexFunc(set, func(s store.Assigned) bool { return s.ID == id })
	if at < 0 {
		return ClassNotebooks{}, access.ErrNotFound
	}
	if set[at].Err != nil {
		return ClassNotebooks{}, set[at].Err
	}
	ready, err := a.practicals.Checked(set[at].Practical)
	if err != nil {
		return ClassNotebooks{}, err
	}
	roll, err := q.RollOfClass(ctx, class, id)
	if err != nil {
		return ClassNotebooks{}, fmt.Errorf("reading the roll: %w", err)
	}
	out := ShelfItem{Practical: id, Notebooks: []view.ShelfSummary{}}
	for _, r := range roll[min(from, len(roll)):min(from+MostNotebooks, len(roll))] {
		out.Notebooks = append(out.Notebooks, a.shelved(ctx, ready, r, p, false))
	}
	return ClassNotebooks{len(roll), out.Notebooks}, a.handedOnShelf(ctx, class, &out)
}

// handedOnShelf says which of the notebooks were handed in.
func (a *Bench) handedOnShelf(ctx context.Context, class string, item *ShelfItem) error {
	handed, err := a.Store.Read().HandedInOfClass(ctx, class, item.Practical)
	if err != nil {
		return fmt.Errorf("reading who handed in: %w", err)
	}
	for i := range item.Notebooks {
		n := &item.Notebooks[i]
		if h, in := handed[n.ID]; in && n.ID != "" {
			n.HandedIn, n.Late, n.Returned, n.Marked = &h.Handed, h.Late, h.Returned, h.Released && !h.Returned
		}
	}
	return nil
}

// shelved says where a notebook stands, from its summary. A notebook of another
// revision is spoken of by the rules of its own.
func (a *Bench) shelved(ctx context.Context, r *practical.Ready, n store.Summarised, p access.Person,
	partner bool) view.ShelfSummary {
	out := view.ShelfSummary{ID: n.Notebook, Student: access.NameFor(p, n.Name), Partner: partner, Former: n.Former}
	s := a.summaryOf(n)
	switch {
	case n.Notebook == "":
		s = a.untouched(r)
	case s == nil || n.Revision != r.Revision:
		b, err := a.Read(ctx, n.Notebook)
		if err == nil {
			r = b.Ready
			if s == nil {
				s, err = a.summarise(ctx, b)
			}
		}
		if err != nil {
			a.Log("a notebook cannot be shown on the shelf", "notebook", n.Notebook, "err", err)
			out.Broken = view.Broken(p.Style())
			return out
		}
	}
	return out.Of(r, *s, p.Style())
}

// summaryOf is what was kept of a notebook with its last entries; nil where nothing was
// in today's form. Of a notebook that is in use it is in memory.
func (a *Bench) summaryOf(n store.Summarised) *evaluation.Summary {
	if b, ok := a.books.Peek(n.Notebook); ok && b.summary != nil {
		return b.summary
	}
	return n.Kept.Summary()
}

// untouched is the summary of a notebook without entries.
func (a *Bench) untouched(r *practical.Ready) *evaluation.Summary {
	return r.Kept("untouched", func() any {
		s := experiment.Begin(r, journal.Fold(nil)).Summary(nil)
		return &s
	}).(*evaluation.Summary)
}

// summarise makes the summary of a notebook that has none in today's form.
func (a *Bench) summarise(ctx context.Context, b *Book) (*evaluation.Summary, error) {
	s, err := Safely(a.Log, b.ID, func() evaluation.Summary {
		return experiment.Begin(b.Ready, journal.Fold(b.Entries)).Summary(b.Entries)
	})
	if err != nil || len(b.Entries) == 0 {
		return &s, err
	}
	unlock := a.Locks.Lock(b.ID)
	defer unlock()
	if now, ok := a.books.Get(b.ID); ok && len(now.Entries) != len(b.Entries) {
		return &s, nil // somebody wrote meanwhile, and kept a newer one
	}
	err = a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error { return q.KeepSummary(ctx, b.ID, s) })
	return &s, err
}
