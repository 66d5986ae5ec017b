package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/chain"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/store/db"
)

// practicalVersion is the form in which practicals are written now. Earlier
// ones are read for ever.
const practicalVersion = 2

// ErrUnreadable is returned where a stored document cannot be read; it says
// which. Only what needs that document fails.
var ErrUnreadable = errors.New("a stored document cannot be read")

// ErrTaken is returned where an id was used before for something else.
var ErrTaken = errors.New("this id was used before for something else")

// decodePractical is the one place where stored practicals are read.
func decodePractical(id string, version int64, text string) (practical.Practical, error) {
	if version > practicalVersion {
		return practical.Practical{}, fmt.Errorf("practical %s is of version %d, this program reads up to %d: %w", id,
			version, practicalVersion, ErrUnreadable)
	}
	p, err := practical.Decode([]byte(text))
	if err != nil {
		return practical.Practical{}, fmt.Errorf("practical %s: %w: %w", id, ErrUnreadable, err)
	}
	return p, nil
}

// Practical reads one revision of a practical.
func (q Queries) Practical(ctx context.Context, id string, revision int) (practical.Practical, error) {
	r, err := q.q.Practical(ctx, db.PracticalParams{ID: id, Revision: int64(revision)})
	if err != nil {
		return practical.Practical{}, found(err)
	}
	return decodePractical(id, r.Version, r.Document)
}

// AddPractical keeps a revision of a practical, which is then never changed.
func (q Queries) AddPractical(ctx context.Context, p practical.Practical, at time.Time) error {
	text, err := json.Marshal(p)
	if err != nil {
		return fmt.Errorf("writing the practical: %w", err)
	}
	return q.q.AddPractical(ctx, db.AddPracticalParams{ID: p.ID, Revision: int64(p.Revision), Version: practicalVersion,
		Document: string(text), Created: stamp(at)})
}

// NewestRevision is the highest revision of a practical; 0 where there is none.
func (q Queries) NewestRevision(ctx context.Context, id string) (int, error) {
	n, err := q.q.NewestRevision(ctx, id)
	return int(n), err
}

// OwnerOf is the class that a practical belongs to.
func (q Queries) OwnerOf(ctx context.Context, practical string) (class string, err error) {
	class, err = q.q.OwnerOf(ctx, practical)
	return class, found(err)
}

// Own lets a practical belong to a class, where it belongs to none.
func (q Queries) Own(ctx context.Context, practical, class string) error {
	return q.q.Own(ctx, db.OwnParams{PracticalID: practical, ClassID: class})
}

// Assign sets a revision of a practical to a class.
func (q Queries) Assign(ctx context.Context, class, practical string, revision int, at time.Time) error {
	return q.q.Assign(ctx, db.AssignParams{ClassID: class, PracticalID: practical, Revision: int64(revision),
		Created: stamp(at)})
}

// Assignment is the revision of a practical that is set to a class, and when.
func (q Queries) Assignment(ctx context.Context, class, practical string) (int, Times, error) {
	r, err := q.q.Assignment(ctx, db.AssignmentParams{ClassID: class, PracticalID: practical})
	return int(r.Revision), Times{moment(r.Opens), moment(r.Due), moment(r.Late)}, found(err)
}

// Assigned is a practical that is set to a class. Err is set where it cannot be
// read; the others can.
type Assigned struct {
	ID        string
	Practical practical.Practical
	Err       error
	Times     Times
	Set       bool // false: it is not set any more, and there are notebooks of it
}

// AssignmentsOfClass are the practicals of a class, the oldest first, with those
// that are not set to it but of which there are notebooks in it.
func (q Queries) AssignmentsOfClass(ctx context.Context, class string) ([]Assigned, error) {
	rows, err := q.q.AssignmentsOfClass(ctx, class)
	out := make([]Assigned, len(rows))
	for i, r := range rows {
		p, err := decodePractical(r.PracticalID, r.Version, r.Document)
		out[i] = Assigned{r.PracticalID, p, err, Times{moment(r.Opens), moment(r.Due), moment(r.Late)}, r.IsSet > 0}
	}
	return out, err
}

// Notebook is a notebook with all of its entries.
type Notebook struct {
	ID, Class, ClassName string
	Student, StudentName string
	Started              time.Time
	Practical            practical.Practical
	Entries              []journal.Entry
	Size                 int // of the entries as they are kept, bytes
	Partners             []Partner
}

// Partner writes in a notebook beside its student.
type Partner struct{ ID, Name string }

// Notebook reads a notebook.
func (q Queries) Notebook(ctx context.Context, id string) (Notebook, error) {
	r, err := q.q.Notebook(ctx, id)
	if err != nil {
		return Notebook{}, found(err)
	}
	n := Notebook{ID: r.ID, Class: r.ClassID, ClassName: r.ClassName, Student: r.StudentID, StudentName: r.StudentName}
	if n.Started, err = time.Parse(time.RFC3339Nano, r.Started); err != nil {
		return n, fmt.Errorf("notebook %s: %w: %w", id, ErrUnreadable, err)
	}
	if n.Practical, err = decodePractical(r.PracticalID, r.Version, r.Practical); err != nil {
		return n, err
	}
	rows, err := q.q.Entries(ctx, id)
	if err != nil {
		return n, fmt.Errorf("reading entries: %w", err)
	}
	n.Entries = make([]journal.Entry, len(rows))
	for i, text := range rows {
		if err := json.Unmarshal([]byte(text), &n.Entries[i]); err != nil {
			return n, fmt.Errorf("entry %d of notebook %s: %w: %w", i+1, id, ErrUnreadable, err)
		}
		n.Size += len(text)
	}
	partners, err := q.q.Partners(ctx, id)
	for _, p := range partners {
		n.Partners = append(n.Partners, Partner{p.PersonID, p.Name})
	}
	return n, err
}

// Chain reads what binds the entries of a notebook together, in their order.
func (q Queries) Chain(ctx context.Context, id string) ([]journal.Link, error) {
	rows, err := q.q.Chain(ctx, id)
	if err != nil {
		return nil, fmt.Errorf("reading the chain: %w", err)
	}
	out := make([]journal.Link, len(rows))
	for i, row := range rows {
		received, err := time.Parse(time.RFC3339Nano, row.Received)
		if err != nil {
			return nil, fmt.Errorf("entry %d of notebook %s: %w: %w", i+1, id, ErrUnreadable, err)
		}
		out[i] = journal.Link{Entry: row.ID, Received: received, Hash: row.Hash}
	}
	return out, nil
}

// NewNotebook is a notebook that is begun under a revision of a practical.
type NewNotebook struct {
	ID, Class, Practical string
	Revision             int
	Student              string
	At                   time.Time
}

// AddNotebook begins a notebook; one that the student has already stays, and so does
// another of this id: NotebookOf tells.
func (q Queries) AddNotebook(ctx context.Context, n NewNotebook) error {
	return q.q.AddNotebook(ctx, db.AddNotebookParams{ID: n.ID, ClassID: n.Class, PracticalID: n.Practical,
		Revision: int64(n.Revision), StudentID: n.Student, Started: stamp(n.At)})
}

// NotebookOf finds a student's notebook of a practical.
func (q Queries) NotebookOf(ctx context.Context, class, practical, student string) (string, error) {
	id, err := q.q.NotebookOf(ctx, db.NotebookOfParams{ClassID: class, PracticalID: practical, StudentID: student})
	return id, found(err)
}

// AddEntries adds entries to a notebook, each bound to the one before it; ErrTaken
// where one of them stands in another notebook.
func (q Queries) AddEntries(ctx context.Context, notebook string, entries []journal.Entry, at time.Time) error {
	last, err := q.q.LastLink(ctx, notebook)
	if err != nil && !errors.Is(err, sql.ErrNoRows) {
		return fmt.Errorf("reading the end of the chain: %w", err)
	}
	// A clock that was set back makes no entry older than the one before it.
	if received, err := time.Parse(time.RFC3339Nano, last.Received); err == nil && received.After(at) {
		at = received
	}
	before := last.Hash
	for _, e := range entries {
		link, text, err := chain.Follow(before, e, at)
		if err != nil {
			return err
		}
		before = link.Hash
		n, err := q.q.AddEntry(ctx, db.AddEntryParams{ID: e.ID, NotebookID: notebook, Document: string(text),
			Received: stamp(at), Hash: before})
		if err != nil {
			return fmt.Errorf("keeping entry %s: %w", e.ID, err)
		}
		if n == 0 {
			return fmt.Errorf("entry %s: %w", e.ID, ErrTaken)
		}
	}
	return nil
}

// Newest is when the entry came in that was received last; zero where there is none.
func (q Queries) Newest(ctx context.Context) (time.Time, error) {
	received, err := q.q.NewestReceived(ctx)
	if errors.Is(err, sql.ErrNoRows) {
		return time.Time{}, nil
	}
	if err != nil {
		return time.Time{}, err
	}
	return time.Parse(time.RFC3339Nano, received)
}

// AddPartner lets a person write in a notebook.
func (q Queries) AddPartner(ctx context.Context, notebook, person string, at time.Time) error {
	return q.q.AddPartner(ctx, db.AddPartnerParams{NotebookID: notebook, PersonID: person, Since: stamp(at)})
}

// KeepSummary keeps what a shelf shows of a notebook.
func (q Queries) KeepSummary(ctx context.Context, notebook string, s evaluation.Summary) error {
	text, err := json.Marshal(s)
	if err != nil {
		return fmt.Errorf("writing the summary: %w", err)
	}
	return q.q.KeepSummary(ctx, db.KeepSummaryParams{NotebookID: notebook, Version: evaluation.SummaryVersion,
		Document: string(text)})
}

// Summarised is a student's notebook as a list shows it. Notebook is empty where
// it was not begun.
type Summarised struct {
	Person, Name string
	Notebook     string
	Revision     int
	Kept         KeptSummary
	Former       bool // has left the class; the notebook stays in it
}

// KeptSummary is a summary as it stands in the file. It is read when it is asked for: of a
// class of thirty most are not.
type KeptSummary struct {
	version int64
	text    string
}

// Summary is nil where none is kept in today's form.
func (k KeptSummary) Summary() *evaluation.Summary {
	var s evaluation.Summary
	if k.version != evaluation.SummaryVersion || json.Unmarshal([]byte(k.text), &s) != nil {
		return nil
	}
	return &s
}

// RollOfClass lists the students of a class with their notebooks of a practical, and
// behind them those who left and whose notebooks stay.
func (q Queries) RollOfClass(ctx context.Context, class, practical string) ([]Summarised, error) {
	rows, err := q.q.RollOfClass(ctx, db.RollOfClassParams{ClassID: class, PracticalID: practical})
	out := make([]Summarised, len(rows))
	for i, r := range rows {
		out[i] = Summarised{r.PersonID, r.Name, r.NotebookID, int(r.Revision), KeptSummary{r.SummaryVersion, r.Summary}, r.Former > 0}
	}
	return out, err
}

// Own is a notebook of one student.
type Own struct {
	ID, Practical string
	Revision      int
	Summary       *evaluation.Summary // nil where none is kept in today's form
}

// NotebooksOfStudent are those that a student began in a class.
func (q Queries) NotebooksOfStudent(ctx context.Context, class, student string) ([]Own, error) {
	rows, err := q.q.NotebooksOfStudent(ctx, db.NotebooksOfStudentParams{ClassID: class, StudentID: student})
	out := make([]Own, len(rows))
	for i, r := range rows {
		out[i] = Own{r.ID, r.PracticalID, int(r.Revision), KeptSummary{r.SummaryVersion, r.Summary}.Summary()}
	}
	return out, err
}

// PartnerNotebooks are those of others in which a person writes.
func (q Queries) PartnerNotebooks(ctx context.Context, person, class, practical string) ([]Summarised, error) {
	rows, err := q.q.PartnerNotebooks(ctx, db.PartnerNotebooksParams{PersonID: person, ClassID: class,
		PracticalID: practical})
	out := make([]Summarised, len(rows))
	for i, r := range rows {
		out[i] = Summarised{Name: r.StudentName, Notebook: r.ID, Revision: int(r.Revision), Kept: KeptSummary{r.SummaryVersion, r.Summary}}
	}
	return out, err
}

// Revisions are those that are kept of a practical, the newest first.
func (q Queries) Revisions(ctx context.Context, id string) ([]int, error) {
	rows, err := q.q.Revisions(ctx, id)
	out := make([]int, len(rows))
	for i, r := range rows {
		out[i] = int(r)
	}
	return out, err
}
