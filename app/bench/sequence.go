package bench

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"exactflask/app/access"
	"exactflask/app/practicals"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/store"
	"exactflask/view"
)

var (
	partMissing  = finding.Declare("handin.part", "title")
	partOfOthers = finding.Declare("handin.part-of-others", "title")
)

// SequencePart is a practical of a sequence, and where the reader's own notebook of it stands.
type SequencePart struct {
	Practical string `json:"practical" doc:"id of the practical"`
	Title     string `json:"title"`
	Text      string `json:"text,omitempty" doc:"where one's own notebook stands; left out for those who teach"`
	Done      bool   `json:"done,omitempty" doc:"the bench work is done"`
	HandedIn  bool   `json:"handedIn,omitempty"`
	Notebook  string `json:"notebook,omitempty" doc:"id of one's own; left out where it is not begun, or is not for this reader"`

	others bool // there is one, and this person does not write in it
}

// inSequence says of each practical on a shelf which of the others belong together with it. What a
// student does not see yet is not named.
func (s *ClassShelf) inSequence(all []practical.Practical) {
	for i := range s.Practicals {
		var parts []SequencePart
		for _, id := range practical.Sequence(all, s.Practicals[i].Practical) {
			at := slices.IndexFunc(s.Practicals, func(other ShelfItem) bool { return other.Practical == id })
			if at < 0 {
				continue
			}
			other := s.Practicals[at]
			part := SequencePart{Practical: id, Title: other.Title}
			mine := slices.IndexFunc(other.Notebooks, func(n view.ShelfSummary) bool { return !n.Partner })
			if !s.Role.Teaches() && mine >= 0 {
				n := other.Notebooks[mine]
				part.Text, part.Done, part.HandedIn, part.Notebook = n.StageText, n.Done, n.HandedIn != nil && !n.Returned, n.ID
			}
			parts = append(parts, part)
		}
		if len(parts) > 1 {
			s.Practicals[i].Sequence = parts
		}
	}
}

// partsOf are the practicals whose reports are handed in together with a notebook's, the first of the
// sequence first, each with the notebook of the same student.
func (a *Bench) partsOf(ctx context.Context, o Opened, p access.Person) ([]SequencePart, error) {
	if !o.Practical.Report.Whole {
		return nil, nil
	}
	assigned, err := a.Store.Read().AssignmentsOfClass(ctx, o.Class)
	if err != nil {
		return nil, fmt.Errorf("reading practicals: %w", err)
	}
	all := practicals.OfClass(assigned)
	var out []SequencePart
	for _, id := range practical.Before(all, o.Practical.ID) {
		at := slices.IndexFunc(all, func(p practical.Practical) bool { return p.ID == id })
		part := SequencePart{Practical: id, Title: all[at].Title}
		notebook, err := a.Store.Read().NotebookOf(ctx, o.Class, id, o.Student)
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return nil, fmt.Errorf("looking for a part of the report: %w", err)
		}
		if err == nil {
			if err := a.stands(ctx, p, notebook, &part); err != nil {
				return nil, err
			}
		}
		out = append(out, part)
	}
	return out, nil
}

// stands fills in where a notebook stands; of one that this person may not read nothing but that.
func (a *Bench) stands(ctx context.Context, p access.Person, notebook string, part *SequencePart) error {
	o, err := a.Open(ctx, p, notebook)
	if errors.Is(err, access.ErrNotFound) || errors.Is(err, access.ErrForbidden) {
		part.others = true
		return nil
	} else if err != nil {
		return err
	}
	summary, err := a.summarise(ctx, o.Book)
	if err != nil {
		return err
	}
	shown := view.ShelfSummary{}.Of(o.Ready, *summary, p.Style())
	_, part.HandedIn = o.HandedIn()
	part.Notebook, part.Text, part.Done = notebook, shown.StageText, shown.Done
	return nil
}

// HandIn hands a report in as the notebook stands: what is open or odd in it is said beforehand, and
// nothing is refused for it. One report of a sequence takes those before it along, which are handed in
// first; one that is handed in already stays as it is. See handInOne.
func (a *Bench) HandIn(ctx context.Context, p access.Person, id string, entries int) (view.Submission, error) {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return view.Submission{}, err
	}
	if o.write && !o.Role.Teaches() && len(o.Entries) == entries { // else it is refused, and nothing goes along
		before, err := a.partsOf(ctx, o, p)
		if err != nil {
			return view.Submission{}, err
		}
		for _, part := range before {
			switch {
			case part.others:
				return view.Submission{}, partOfOthers.Fault("", finding.Text(part.Title))
			case part.Notebook == "":
				return view.Submission{}, partMissing.Fault("", finding.Text(part.Title))
			}
		}
		for _, part := range before {
			b, err := a.Read(ctx, part.Notebook)
			if err != nil {
				return view.Submission{}, err
			}
			if part.HandedIn {
				continue
			}
			if s, err := a.handInOne(ctx, p, part.Notebook, len(b.Entries)); err != nil || len(s.Awaits) > 0 {
				return s, err
			}
		}
	}
	return a.handInOne(ctx, p, id, entries)
}
