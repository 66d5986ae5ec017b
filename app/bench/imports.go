package bench

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"

	"exactflask/app/access"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/files"
	"exactflask/formats"
	"exactflask/formats/readings"
	"exactflask/store"
	"exactflask/view"
	"exactflask/wording"
)

var (
	importEmpty   = finding.Declare("app.import-empty")
	importAlready = finding.Declare("app.import-already", "student")
	importStudent = finding.Declare("app.import-student")
)

// Imported is a notebook that was taken in.
type Imported struct {
	Notebook  string `json:"notebook"`
	Practical string `json:"practical" doc:"id of the copy of its practical"`
	Entries   int    `json:"entries"`
}

// Import takes an open document or an archive in, as a notebook of a student of the class
// and a copy of its practical, both marked as imported. Entries are a student's own only
// where they wrote them here: who wrote them says a note.
//
// Errors: a *finding.Fault of the archive, the schema.Faults of the document; ErrForbidden.
func (a *Bench) Import(ctx context.Context, p access.Person, class, student string, content []byte) (Imported, error) {
	if err := access.Allowed(p, access.ManageClass, class); err != nil {
		return Imported{}, err
	}
	return a.importAs(ctx, p, class, student, content)
}

// ImportFor is Import for the command line, into the class of a name for a user name.
func (a *Bench) ImportFor(ctx context.Context, class, username string, content []byte) (Imported, error) {
	q := a.Store.Read()
	id, err := q.ClassByName(ctx, class)
	if err != nil {
		return Imported{}, access.NotFound(err)
	}
	student, _, err := q.Classmate(ctx, id, username)
	if err != nil {
		return Imported{}, importStudent.Fault("")
	}
	return a.importAs(ctx, access.Person{ID: student}, id, student, content)
}

func (a *Bench) importAs(ctx context.Context, p access.Person, class, student string, content []byte) (Imported, error) {
	read, err := readFile(content)
	if err != nil {
		return Imported{}, err
	}
	doc := read.Document
	if len(doc.Journal) == 0 {
		return Imported{}, importEmpty.Fault("")
	}
	style := p.Style()
	copied := doc.Practical
	text, err := json.Marshal(copied)
	if err != nil {
		return Imported{}, fmt.Errorf("copying a practical: %w", err)
	}
	copied.ID, copied.Revision = "import-"+formats.Hash(text)[:16], 1
	copied.Title = view.ImportedTitle(copied.Title, style)
	ready, fault := copied.Check()
	if fault != nil {
		return Imported{}, fault.In("practical")
	}
	id := access.NewID()
	entries, err := renamed(id, student, doc.Journal)
	if err != nil {
		return Imported{}, err
	}
	note := journal.Entry{ID: access.NewID(), Author: p.ID, Device: "import", Clock: entries[len(entries)-1].Clock + 1, At: a.Now(),
		Part: journal.Remark{Written: view.ImportedNote(slices.Sorted(maps.Values(doc.People)), doc.Written, len(doc.Journal), style)}}
	entries = append(entries, note)
	if fault := journal.SizeFault(entries); fault != nil {
		return Imported{}, fault
	}
	err = a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return a.importInto(ctx, q, importing{p, class, student, id, ready, entries, read.Pictures})
	})
	if err != nil {
		return Imported{}, err
	}
	a.Listeners.TellClass(class)
	return Imported{id, copied.ID, len(entries)}, nil
}

type importing struct {
	by             access.Person
	class, student string
	notebook       string
	practical      *practical.Ready
	entries        []journal.Entry
	pictures       []files.Picture
}

func (a *Bench) importInto(ctx context.Context, q store.Queries, i importing) error {
	members, err := q.Members(ctx, i.class)
	if err != nil {
		return err
	}
	m, there := access.Member(members, i.student)
	if !there || access.Role(m.Role) != access.Student {
		return importStudent.Fault("person")
	}
	if err := a.practicals.AssignIn(ctx, q, i.class, i.practical.Practical); err != nil {
		return err
	}
	if _, err := q.NotebookOf(ctx, i.class, i.practical.ID, i.student); err == nil {
		return importAlready.Fault("person", finding.Text(m.Name))
	}
	now := a.Now()
	if err := q.AddNotebook(ctx, store.NewNotebook{ID: i.notebook, Class: i.class, Practical: i.practical.ID, Revision: 1, Student: i.student, At: now}); err != nil {
		return err
	}
	if err := q.AddEntries(ctx, i.notebook, i.entries, now); err != nil {
		return err
	}
	for _, p := range i.pictures {
		kept, err := reencode(p.Content) // it is only a picture where it can be decoded
		if err != nil {
			return err
		}
		kept.Hash, kept.Kind, kept.Content = p.Hash, p.Kind, p.Content
		if err := q.AddPicture(ctx, i.notebook, i.student, kept, now); err != nil {
			return err
		}
	}
	return a.Did(ctx, q, access.ActImported, i.by, i.class, i.student, i.practical.Title)
}

// readFile reads an archive, or an open document.
func readFile(content []byte) (files.Read, error) {
	if bytes.HasPrefix(content, []byte("PK")) {
		return files.ReadArchive(content)
	}
	doc, err := formats.Read(bytes.NewReader(content))
	return files.Read{Document: doc}, err
}

// renamed are the entries under ids of their own, which they name each other by; their
// author is the student. An id is one of a notebook only.
func renamed(notebook, student string, entries []journal.Entry) ([]journal.Entry, error) {
	sorted := journal.Sort(entries)
	text, err := json.Marshal(sorted)
	if err != nil {
		return nil, fmt.Errorf("copying entries: %w", err)
	}
	pairs := make([]string, 0, 2*len(sorted))
	for _, e := range sorted {
		own := "im-" + formats.Hash(notebook + e.ID)[:32]
		pairs = append(pairs, `"`+e.ID+`"`, `"`+own+`"`, `"`+e.ID+`/`, `"`+own+`/`) // a step of the working begins with its trial
	}
	var out []journal.Entry
	if err := json.Unmarshal([]byte(strings.NewReplacer(pairs...).Replace(string(text))), &out); err != nil {
		return nil, fmt.Errorf("copying entries: %w", err)
	}
	for i := range out {
		out[i].Author = student
	}
	if fault := errors.Join(checks(out)...); fault != nil {
		return nil, fault
	}
	return out, nil
}

func checks(entries []journal.Entry) (out []error) {
	for i, e := range entries {
		if fault := e.Check(); fault != nil {
			out = append(out, fault.In(fmt.Sprintf("journal[%d]", i)))
		}
	}
	return out
}

// ReadRow is a trial that was read out of a table of text.
type ReadRow struct {
	Line  int               `json:"line" doc:"in the text, from 1"`
	Type  journal.TrialType `json:"type" enum:"rough,accurate"`
	Start string            `json:"start"`
	End   string            `json:"end"`
	Fault string            `json:"fault,omitempty" doc:"why it cannot be taken as it is"`
}

// ReadReadings reads trials out of a file for whoever may write in a notebook. It
// writes nothing: what is seen to be right is recorded entry by entry.
func (a *Bench) ReadReadings(ctx context.Context, p access.Person, id string, file []byte) ([]ReadRow, error) {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return nil, err
	}
	if !o.write {
		return nil, fmt.Errorf("readings for another's notebook: %w", o.refused)
	}
	rows, fault := readings.Read(file)
	if fault != nil {
		return nil, fault
	}
	out := make([]ReadRow, len(rows))
	for i, r := range rows {
		out[i] = ReadRow{Line: r.Line, Type: r.Type, Start: r.Start, End: r.End}
		if r.Fault != nil {
			out[i].Fault = wording.For(p.Style()).Say(r.Fault.Message)
		}
	}
	return out, nil
}
