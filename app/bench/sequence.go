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

var partMissing = finding.Declare("handin.part", "title")

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
	if !o.Role.Teaches() { // what a student does not see yet is not named, and nobody waits for it
		assigned = slices.DeleteFunc(assigned, func(item store.Assigned) bool { return !a.practicals.IsOpen(item.Times) })
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
	summary := o.summary
	if summary == nil {
		if summary, err = a.summarise(ctx, o.Book); err != nil {
			return err
		}
	}
	shown := view.ShelfSummary{}.Of(o.Ready, *summary, p.Style())
	_, part.HandedIn = o.HandedIn()
	part.Notebook, part.Text, part.Done = notebook, shown.StageText, shown.Done
	return nil
}

// HandIn hands the report of one's own notebook in as it stands, with so many entries as its page
// shows: what is open or odd in it is said beforehand, and nothing is refused for it. One report of a
// sequence takes those before it along, by its own times; what is handed in already stays as it is.
// Where others have to agree, everything waits for them, and nothing is handed in before; who does not
// write in all of them agrees, and the student whose they are hands them in.
//
// Errors: ErrForbidden for whoever may not write in it; *finding.Fault as handInFault, and where a part
// is not begun.
func (a *Bench) HandIn(ctx context.Context, p access.Person, id string, entries int) (view.Submission, error) {
	o, err := a.Open(ctx, p, id)
	switch {
	case err != nil:
		return view.Submission{}, err
	case !o.write:
		return view.Submission{}, fmt.Errorf("handing a report in: %w", o.refused)
	case o.Role.Teaches():
		return view.Submission{}, fmt.Errorf("handing another's report in: %w", access.ErrForbidden)
	}
	times, err := a.timesFor(ctx, o)
	if err != nil {
		return view.Submission{}, err
	}
	if fault := handInFault(o.Book, entries, a.Now(), times); fault != nil { // then nothing goes along either
		return view.Submission{}, fault
	}
	parts, err := a.partsOf(ctx, o, p)
	if err != nil {
		return view.Submission{}, err
	}
	if slices.ContainsFunc(parts, func(part SequencePart) bool { return part.others }) {
		return a.agree(ctx, p, o.Book, []string{o.Student}) // who writes in all of them hands them in
	}
	all, err := a.together(ctx, parts, o)
	if err != nil {
		return view.Submission{}, err
	}
	var out view.Submission
	for _, waiting := range []bool{true, false} { // who has to agree is asked first
		for _, b := range all {
			awaits, err := a.awaited(ctx, b, p.ID)
			if err != nil {
				return view.Submission{}, err
			}
			if waiting && len(awaits) == 0 {
				continue
			}
			if out, err = a.handInOne(ctx, p, b.ID, len(b.Entries), times); err != nil {
				return view.Submission{}, err
			}
		}
		if len(out.Awaits) > 0 {
			break
		}
	}
	return out, nil
}

// together are the notebooks whose reports are handed in with one's, that one last.
func (a *Bench) together(ctx context.Context, parts []SequencePart, o Opened) ([]*Book, error) {
	var all []*Book
	for _, part := range parts {
		if part.HandedIn {
			continue
		}
		if part.Notebook == "" {
			return nil, partMissing.Fault("", finding.Text(part.Title))
		}
		b, err := a.Read(ctx, part.Notebook)
		if err != nil {
			return nil, err
		}
		if len(b.Entries) == 0 {
			return nil, partMissing.Fault("", finding.Text(part.Title))
		}
		all = append(all, b)
	}
	return append(all, o.Book), nil
}
