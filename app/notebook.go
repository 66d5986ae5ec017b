package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"exactflask/core/decimal"
	"exactflask/core/experiment"
	"exactflask/core/finding"
	"exactflask/core/journal"
	"exactflask/core/quantity"
	"exactflask/formats"
	"exactflask/store"
	"exactflask/store/db"
	"exactflask/wording"
)

// MaxBatch is the largest number of entries that are taken at once.
const MaxBatch = 200

// Notebook is a notebook as one person may see it.
type Notebook struct {
	ID        string               `json:"id"`
	Class     string               `json:"class" doc:"name of the class"`
	Student   string               `json:"student" doc:"name of the student it belongs to"`
	Started   time.Time            `json:"started"`
	MayWrite  bool                 `json:"mayWrite" doc:"whether this reader may add entries"`
	Partners  []string             `json:"partners" doc:"names of those who write beside the student"`
	Offer     *journal.Known       `json:"offer,omitempty" doc:"the concentration that was found by standardising, to be taken over"`
	Entries   []journal.Entry      `json:"entries,omitempty" doc:"the journal itself; left out of the answer to added entries"`
	Practical experiment.Practical `json:"practical" doc:"without what this reader must not see"`
	People    map[string]string    `json:"people" doc:"names of the authors, by id"`
	Sheet     wording.Sheet        `json:"sheet"`
}

// book is a notebook as it is kept; it is not changed once it is made.
type book struct {
	row       db.NotebookRow
	practical experiment.Practical
	entries   []journal.Entry
	partners  []db.PartnersRow
}

// access is what a person may do with a notebook.
type access struct {
	*book
	role Role
}

// read returns a notebook, from memory or from the store.
func (a *App) read(ctx context.Context, id string) (*book, error) {
	if b, ok := a.books.Get(id); ok {
		return b, nil
	}
	a.writing.Lock()
	defer a.writing.Unlock()
	return a.readLocked(ctx, id)
}

// readLocked is read for a caller that holds writing: nothing is written in
// between, or an older state could be remembered.
func (a *App) readLocked(ctx context.Context, id string) (*book, error) {
	if b, ok := a.books.Get(id); ok {
		return b, nil
	}
	b, err := a.load(ctx, id)
	if err == nil {
		a.books.Add(id, b)
	}
	return b, err
}

// load reads a notebook from the store.
func (a *App) load(ctx context.Context, id string) (*book, error) {
	q := a.store.Read()
	row, err := q.Notebook(ctx, id)
	if err := store.Found(err); err != nil {
		return nil, notFound(err)
	}
	b := &book{row: row}
	if err := json.Unmarshal([]byte(row.Practical), &b.practical); err != nil {
		return nil, fmt.Errorf("practical of notebook %s: %w", id, err)
	}
	texts, err := q.Entries(ctx, id)
	if err != nil {
		return nil, fmt.Errorf("reading entries: %w", err)
	}
	if b.partners, err = q.Partners(ctx, id); err != nil {
		return nil, fmt.Errorf("reading partners: %w", err)
	}
	b.entries = make([]journal.Entry, len(texts))
	for i, text := range texts {
		if err := json.Unmarshal([]byte(text), &b.entries[i]); err != nil {
			return nil, fmt.Errorf("entry %d of notebook %s: %w", i, id, err)
		}
	}
	return b, nil
}

// open finds a notebook and decides what the person may do with it: its
// student writes and reads, an instructor of its class reads. For everyone
// else it is not there.
func (a *App) open(ctx context.Context, p Person, id string) (access, error) {
	b, err := a.read(ctx, id)
	if err != nil {
		return access{}, err
	}
	acc := access{book: b}
	for _, m := range p.Classes {
		switch {
		case m.Class != b.row.ClassID:
		case m.Role == Instructor:
			acc.role = Instructor
		case b.row.StudentID == p.ID || slices.ContainsFunc(b.partners, func(r db.PartnersRow) bool { return r.PersonID == p.ID }):
			acc.role = Student
		}
	}
	if acc.role == "" {
		return access{}, ErrNotFound
	}
	return acc, nil
}

// visible is the practical without what this reader must not see.
func (acc access) visible() experiment.Practical {
	p := acc.practical
	if acc.role == Student {
		p.Reference = decimal.Decimal{}
	}
	return p
}

// evaluate evaluates the notebook for its reader, and takes out what the
// reader must not see: a student gets no result before marking, or before an
// own attempt, where the practical says so.
func (acc access) evaluate() (experiment.Evaluation, error) {
	ev, fault := experiment.Evaluate(acc.visible(), acc.entries)
	if fault != nil {
		return experiment.Evaluation{}, fmt.Errorf("notebook %s: %w", acc.row.ID, fault)
	}
	show := acc.practical.Result.Show
	if acc.role == Student && (show == experiment.AfterMarking || show == experiment.AfterAttempt && !ev.Attempted) {
		ev = ev.Redacted()
	}
	return ev, nil
}

// offer is the concentration that the student found in the practical in which
// the known solution is standardised, where there is one that this reader may
// see.
func (a *App) offer(ctx context.Context, p Person, acc access) (*journal.Known, error) {
	if acc.practical.Standard == "" {
		return nil, nil
	}
	id, err := a.store.Read().NotebookOf(ctx, db.NotebookOfParams{ClassID: acc.row.ClassID, PracticalID: acc.practical.Standard, StudentID: acc.row.StudentID})
	if err = store.Found(err); errors.Is(err, store.ErrNotFound) {
		return nil, nil
	} else if err != nil {
		return nil, fmt.Errorf("looking for the standardisation: %w", err)
	}
	from, ok := a.books.Get(id) // no lock: this may be asked while one is held
	if !ok {
		if from, err = a.load(ctx, id); err != nil {
			return nil, err
		}
	}
	ev, err := access{book: from, role: acc.role}.evaluate()
	if err != nil || ev.Result == nil || ev.Result.Answer.Unit != quantity.MolePerL {
		return nil, err
	}
	r := ev.Result
	return &journal.Known{Text: r.Answer.String(), Uncertainty: quantity.Show(r.Budget.Standard, 2), From: from.practical.Title}, nil
}

// Notebook returns a notebook, evaluated, in the reader's words.
func (a *App) Notebook(ctx context.Context, p Person, id string) (Notebook, error) {
	acc, err := a.open(ctx, p, id)
	if err != nil {
		return Notebook{}, err
	}
	n, err := a.present(ctx, p, acc, wording.Speak)
	n.Entries = acc.entries
	return n, err
}

func (a *App) present(ctx context.Context, p Person, acc access, speak func(experiment.Practical, experiment.Evaluation, experiment.Style) wording.Sheet) (Notebook, error) {
	ev, err := acc.evaluate()
	if err != nil {
		return Notebook{}, err
	}
	people, err := a.authors(ctx, p, acc)
	if err != nil {
		return Notebook{}, err
	}
	started, err := time.Parse(time.RFC3339Nano, acc.row.Started)
	if err != nil {
		return Notebook{}, fmt.Errorf("notebook %s: %w", acc.row.ID, err)
	}
	visible := acc.visible()
	offer, err := a.offer(ctx, p, acc)
	if err != nil {
		return Notebook{}, err
	}
	partners := make([]string, len(acc.partners))
	for i, r := range acc.partners {
		partners[i] = r.Name
	}
	return Notebook{Partners: partners, Offer: offer, ID: acc.row.ID, Class: acc.row.ClassName, Student: acc.row.StudentName, Started: started,
		MayWrite: acc.role == Student, Practical: visible, People: people, Sheet: speak(visible, ev, p.Style())}, nil
}

// authors returns the names of those who wrote in a notebook. Its student and
// the reader are known already; others are looked up.
func (a *App) authors(ctx context.Context, p Person, acc access) (map[string]string, error) {
	names := map[string]string{acc.row.StudentID: acc.row.StudentName, p.ID: p.Name}
	var class []db.NamesInClassRow
	for _, e := range acc.entries {
		if _, known := names[e.Author]; known {
			continue
		}
		if class == nil {
			var err error
			if class, err = a.store.Read().NamesInClass(ctx, acc.row.ClassID); err != nil {
				return nil, fmt.Errorf("reading names: %w", err)
			}
			for _, r := range class {
				names[r.ID] = r.Name
			}
		}
	}
	used := map[string]string{}
	for _, e := range acc.entries {
		if name, ok := names[e.Author]; ok {
			used[e.Author] = name
		}
	}
	return used, nil
}

// Append adds entries to a notebook, all of them or none, and returns it
// evaluated, in brief (wording.SpeakBrief). Entries that are there already are passed over, so that a request
// can be repeated. The author is the person who asks, whatever the entries say.
//
// Errors: ErrNotFound, ErrForbidden (an instructor does not write in a
// student's notebook), ErrConflict, *finding.Fault with a path such as
// entries[2].reading.text.
func (a *App) Append(ctx context.Context, p Person, id string, added []journal.Entry) (Notebook, error) {
	if len(added) == 0 || len(added) > MaxBatch {
		return Notebook{}, finding.Faultf("entries", "1 to %d entries are taken at once; these are %d", MaxBatch, len(added))
	}
	acc, err := a.open(ctx, p, id)
	if err != nil {
		return Notebook{}, err
	}
	if acc.role != Student {
		return Notebook{}, fmt.Errorf("writing in a student's notebook: %w", ErrForbidden)
	}
	for i := range added {
		added[i].Author, added[i].At = p.ID, added[i].At.UTC()
		if fault := added[i].Check(); fault != nil {
			return Notebook{}, fault.In(fmt.Sprintf("entries[%d]", i))
		}
	}

	a.writing.Lock()
	defer a.writing.Unlock()
	// Somebody may have written since it was opened.
	if acc.book, err = a.readLocked(ctx, id); err != nil {
		return Notebook{}, err
	}
	fresh, err := unseen(acc.entries, added)
	if err != nil {
		return Notebook{}, err
	}
	if len(fresh) == 0 {
		return a.present(ctx, p, acc, wording.SpeakBrief)
	}
	after := *acc.book
	after.entries = append(slices.Clip(after.entries), fresh...)
	acc.book = &after

	// While the disk works, the new state is evaluated; it is only shown, and
	// only remembered, once it is on the disk.
	type outcome struct {
		notebook Notebook
		err      error
	}
	evaluated := make(chan outcome, 1)
	go func() {
		n, err := a.present(ctx, p, acc, wording.SpeakBrief)
		evaluated <- outcome{n, err}
	}()
	err = a.store.Write(ctx, func(q *db.Queries) error { return addEntries(ctx, q, id, fresh, a.stamp()) })
	if err != nil {
		a.books.Remove(id)
		<-evaluated
		return Notebook{}, err
	}
	a.books.Add(id, &after)
	a.listeners.tell(id, Change{Entries: len(after.entries), Clock: after.entries[len(after.entries)-1].Clock})
	done := <-evaluated
	return done.notebook, done.err
}

func addEntries(ctx context.Context, q *db.Queries, notebook string, entries []journal.Entry, stamp string) error {
	for _, e := range entries {
		text, err := json.Marshal(e)
		if err != nil {
			return fmt.Errorf("writing entry %s: %w", e.ID, err)
		}
		n, err := q.AddEntry(ctx, db.AddEntryParams{ID: e.ID, NotebookID: notebook, Document: string(text), Received: stamp})
		if err != nil {
			return fmt.Errorf("keeping entry %s: %w", e.ID, err)
		}
		if n == 0 { // it stands in another notebook
			return fmt.Errorf("entry %s: %w", e.ID, ErrConflict)
		}
	}
	return nil
}

// maxClockLead is how far an entry's clock may run ahead of the notebook's. A
// device that was long without network counts its own entries only.
const maxClockLead = 100_000

// unseen returns the entries that are not in the notebook yet, checked
// against it.
func unseen(kept, added []journal.Entry) ([]journal.Entry, error) {
	known := make(map[string]journal.Entry, len(kept)+len(added))
	var clock int64
	for _, e := range kept {
		known[e.ID] = e
		clock = max(clock, e.Clock)
	}
	var fresh []journal.Entry
	for i, e := range added {
		at := fmt.Sprintf("entries[%d]", i)
		if old, ok := known[e.ID]; ok {
			old.Author = e.Author // the first one to send it is its author
			if !same(old, e) {
				return nil, finding.Faultf(at+".id", "entry %s: %w", e.ID, ErrConflict)
			}
			continue
		}
		if e.Clock > clock+maxClockLead {
			return nil, finding.Faultf(at+".clock", "the logical clock %d runs far ahead of the notebook's %d; load the notebook again", e.Clock, clock)
		}
		if fault := e.CheckAgainst(known); fault != nil {
			return nil, fault.In(at)
		}
		known[e.ID] = e
		fresh = append(fresh, e)
	}
	if len(kept)+len(fresh) > formats.MaxEntries {
		return nil, finding.Faultf("entries", "a notebook holds at most %d entries", formats.MaxEntries)
	}
	return fresh, nil
}

func same(a, b journal.Entry) bool {
	x, errX := json.Marshal(a)
	y, errY := json.Marshal(b)
	return errX == nil && errY == nil && string(x) == string(y)
}

// AddPartner lets a classmate write in one's notebook. Only its student may;
// the classmate has to be a student of the same class.
func (a *App) AddPartner(ctx context.Context, p Person, id, username string) (Notebook, error) {
	acc, err := a.open(ctx, p, id)
	if err != nil {
		return Notebook{}, err
	}
	if acc.row.StudentID != p.ID {
		return Notebook{}, fmt.Errorf("adding a partner to another's notebook: %w", ErrForbidden)
	}
	a.writing.Lock()
	err = a.store.Write(ctx, func(q *db.Queries) error {
		mate, err := q.ClassmateByUsername(ctx, db.ClassmateByUsernameParams{Username: strings.TrimSpace(username), ClassID: acc.row.ClassID})
		if err := store.Found(err); err != nil || mate.ID == p.ID {
			if errors.Is(err, store.ErrNotFound) || err == nil {
				return finding.Faultf("username", "no other student of this class has the user name %q; ask your partner for theirs", username)
			}
			return err
		}
		return q.AddPartner(ctx, db.AddPartnerParams{NotebookID: id, PersonID: mate.ID, Since: a.stamp()})
	})
	a.books.Remove(id)
	a.writing.Unlock()
	if err != nil {
		return Notebook{}, err
	}
	return a.Notebook(ctx, p, id)
}

// Journal returns the notebook's entries as lines to read, in order.
func (a *App) Journal(ctx context.Context, p Person, id string) ([]wording.JournalLine, error) {
	acc, err := a.open(ctx, p, id)
	if err != nil {
		return nil, err
	}
	n, err := a.present(ctx, p, acc, wording.SpeakBrief)
	if err != nil {
		return nil, err
	}
	return wording.Journal(acc.entries, n.Sheet, n.People), nil
}

// Listen tells of changes of a notebook until the context is done. A listener
// that is slow is told of the latest change only.
func (a *App) Listen(ctx context.Context, p Person, id string) (<-chan Change, error) {
	if _, err := a.open(ctx, p, id); err != nil {
		return nil, err
	}
	return a.listeners.add(ctx, id), nil
}

// Document returns a notebook as an open file, without what the reader must
// not see.
func (a *App) Document(ctx context.Context, p Person, id string) (formats.Document, error) {
	acc, err := a.open(ctx, p, id)
	if err != nil {
		return formats.Document{}, err
	}
	people, err := a.authors(ctx, p, acc)
	if err != nil {
		return formats.Document{}, err
	}
	doc := formats.New(acc.visible(), journal.Sort(acc.entries), people)
	doc.Written = a.now()
	return doc, nil
}

// Begin starts the person's own notebook of a practical that is set to one of
// their classes, under its present revision, and returns its id. Beginning
// again returns the same notebook.
func (a *App) Begin(ctx context.Context, p Person, classID, practicalID string) (string, error) {
	role := p.roleIn(classID)
	if role == "" {
		return "", ErrNotFound
	}
	var id string
	return id, a.store.Write(ctx, func(q *db.Queries) error {
		revision, err := q.Assignment(ctx, db.AssignmentParams{ClassID: classID, PracticalID: practicalID})
		if err := store.Found(err); err != nil {
			return notFound(err)
		}
		if role != Student {
			return fmt.Errorf("keeping a notebook: %w", ErrForbidden)
		}
		if err := q.AddNotebook(ctx, db.AddNotebookParams{ID: newID(), ClassID: classID, PracticalID: practicalID, Revision: revision, StudentID: p.ID, Started: a.stamp()}); err != nil {
			return fmt.Errorf("starting a notebook: %w", err)
		}
		id, err = q.NotebookOf(ctx, db.NotebookOfParams{ClassID: classID, PracticalID: practicalID, StudentID: p.ID})
		return err
	})
}

func (p Person) roleIn(classID string) Role {
	for _, m := range p.Classes {
		if m.Class == classID {
			return m.Role
		}
	}
	return ""
}

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
	Practical string          `json:"practical" doc:"id of the practical"`
	Title     string          `json:"title"`
	Purpose   string          `json:"purpose"`
	Setting   wording.Setting `json:"setting"`
	Notebooks []ShelfNotebook `json:"notebooks" doc:"the student's own, if begun; or those of the whole class, for an instructor"`
}

// ShelfNotebook says where a notebook stands.
type ShelfNotebook struct {
	ID        string           `json:"id,omitempty" doc:"empty while not begun"`
	Student   string           `json:"student"`
	Partner   bool             `json:"partner,omitempty" doc:"it is a classmate's, and this person writes beside them"`
	Stage     experiment.Stage `json:"stage" enum:"untouched,rough,measuring,disagreeing,agreed"`
	StageText string           `json:"stageText"`
	Next      string           `json:"next" doc:"what to do next in it"`
	Trials    int              `json:"trials" doc:"accurate trials with a titre"`
	Agreement string           `json:"agreement"`
	Checks    int              `json:"checks" doc:"findings that ask for a look"`
	Capacity  float64          `json:"capacity" doc:"of the burette, mL"`
	Bands     []Band           `json:"bands" doc:"the trials on the burette, in mL"`
}

// Band is one trial on the scale of the burette.
type Band struct {
	From  float64 `json:"from"`
	To    float64 `json:"to"`
	State string  `json:"state" enum:"rough,counts,pending,aside"`
}

// Shelf returns the person's shelf.
func (a *App) Shelf(ctx context.Context, p Person) (Shelf, error) {
	out := Shelf{Shelves: []ClassShelf{}}
	q := a.store.Read()
	for _, m := range p.Classes {
		shelf := ClassShelf{Class: m.Class, Name: m.Name, Role: m.Role, Practicals: []ShelfItem{}}
		rows, err := q.AssignmentsOfClass(ctx, m.Class)
		if err != nil {
			return Shelf{}, fmt.Errorf("reading practicals: %w", err)
		}
		for _, row := range rows {
			var practical experiment.Practical
			if err := json.Unmarshal([]byte(row.Document), &practical); err != nil {
				return Shelf{}, fmt.Errorf("practical %s: %w", row.PracticalID, err)
			}
			item, err := a.shelfItem(ctx, q, p, m, practical)
			if err != nil {
				return Shelf{}, err
			}
			shelf.Practicals = append(shelf.Practicals, item)
		}
		out.Shelves = append(out.Shelves, shelf)
	}
	return out, nil
}

func (a *App) shelfItem(ctx context.Context, q *db.Queries, p Person, m Membership, practical experiment.Practical) (ShelfItem, error) {
	untouched, fault := experiment.Evaluate(practical, nil)
	if fault != nil {
		return ShelfItem{}, fault
	}
	sheet := wording.Speak(practical, untouched, p.Style())
	item := ShelfItem{Practical: practical.ID, Title: practical.Title, Purpose: practical.Purpose, Setting: sheet.Setting, Notebooks: []ShelfNotebook{}}
	roll, err := q.RollOfClass(ctx, db.RollOfClassParams{ClassID: m.Class, PracticalID: practical.ID})
	if err != nil {
		return ShelfItem{}, fmt.Errorf("reading the roll: %w", err)
	}
	for _, r := range roll {
		if m.Role == Student && r.PersonID != p.ID {
			continue
		}
		n := shelfNotebook(practical, sheet)
		if r.NotebookID != "" {
			notebook, err := a.Notebook(ctx, p, r.NotebookID)
			if err != nil {
				return ShelfItem{}, err
			}
			n = shelfNotebook(notebook.Practical, notebook.Sheet)
		}
		n.ID, n.Student = r.NotebookID, r.Name
		item.Notebooks = append(item.Notebooks, n)
	}
	if m.Role == Student { // those of others, in which this person is a partner
		beside, err := q.PartnerNotebooks(ctx, db.PartnerNotebooksParams{PersonID: p.ID, ClassID: m.Class, PracticalID: practical.ID})
		if err != nil {
			return ShelfItem{}, fmt.Errorf("reading partners' notebooks: %w", err)
		}
		for _, r := range beside {
			notebook, err := a.Notebook(ctx, p, r.ID)
			if err != nil {
				return ShelfItem{}, err
			}
			n := shelfNotebook(notebook.Practical, notebook.Sheet)
			n.ID, n.Student, n.Partner = r.ID, r.StudentName, true
			item.Notebooks = append(item.Notebooks, n)
		}
	}
	return item, nil
}

func shelfNotebook(p experiment.Practical, s wording.Sheet) ShelfNotebook {
	ev := s.Evaluation
	n := ShelfNotebook{Stage: ev.Stage, StageText: s.Stage, Next: s.Next, Agreement: s.Agreement, Capacity: p.Burette.Capacity.Float64(), Bands: []Band{}}
	for _, f := range ev.Findings {
		if f.Severity != finding.Note {
			n.Checks++
		}
	}
	for _, t := range ev.Trials {
		if t.Titre == nil || t.Withdrawn {
			continue
		}
		band := Band{From: t.Start.Value.Float64(), To: t.End.Value.Float64(), State: "pending"}
		switch {
		case t.SetAside != nil:
			band.State = "aside"
		case t.Type == journal.Rough:
			band.State = "rough"
		case t.Counts:
			band.State = "counts"
		}
		if t.Type == journal.Accurate {
			n.Trials++
		}
		n.Bands = append(n.Bands, band)
	}
	return n
}
