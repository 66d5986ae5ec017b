package app

import (
	"context"
	"errors"
	"fmt"
	"runtime/debug"
	"strings"
	"time"

	"exactflask/core/experiment"
	"exactflask/core/finding"
	"exactflask/core/journal"
	"exactflask/core/marking"
	"exactflask/core/practical"
	"exactflask/core/quantity"
	"exactflask/formats"
	"exactflask/store"
	"exactflask/view"
)

// MaxBatch is the largest number of entries that are taken at once.
const MaxBatch = 200

// Notebook is a notebook as one person may see it.
type Notebook struct {
	ID        string              `json:"id"`
	Class     string              `json:"class" doc:"name of the class"`
	Student   string              `json:"student" doc:"name of the student it belongs to"`
	Started   time.Time           `json:"started"`
	MayWrite  bool                `json:"mayWrite" doc:"whether this reader may add entries"`
	Partners  []string            `json:"partners" doc:"names of those who write beside the student"`
	Offer     *journal.Known      `json:"offer,omitempty" doc:"the concentration that was found by standardising, to be taken over"`
	Entries   []journal.Entry     `json:"entries,omitempty" doc:"the journal itself; left out of the answer to added entries"`
	Practical practical.Practical `json:"practical" doc:"without what this reader must not see"`
	People    map[string]string   `json:"people" doc:"names of the authors, by id"`
	Sheet     view.Sheet          `json:"sheet"`
}

// book is a notebook as it is kept in memory, its practical ready; it is not
// changed once it is made.
type book struct {
	store.Notebook
	ready *practical.Ready
}

func (b *book) thing() Thing {
	t := Thing{Class: b.Class, Student: b.Student}
	for _, p := range b.Partners {
		t.Partners = append(t.Partners, p.ID)
	}
	return t
}

// opened is a notebook with the role of whoever opened it.
type opened struct {
	*book
	role  Role
	write bool
}

var (
	tooManyEntries  = finding.Declare("app.batch", "most", "given")
	notebookFull    = finding.Declare("app.notebook-full", "most")
	clockAhead      = finding.Declare("app.clock-ahead")
	idTaken         = finding.Declare("app.id-taken")
	noClassmate     = finding.Declare("app.no-classmate", "username")
	unusable        = finding.Declare("app.unusable-practical", "problem")
	cannotEvaluated = finding.Declare("app.cannot-be-evaluated")
)

// read returns a notebook, from memory or from the store. Whoever holds the
// lock of the notebook finds it as it stands in the file.
func (a *App) read(ctx context.Context, id string) (*book, error) {
	if b, ok := a.books.Get(id); ok {
		return b, nil
	}
	unlock := a.locks.lock(id)
	defer unlock()
	return a.readLocked(ctx, id)
}

// readLocked is read for a caller that holds the notebook's lock: nothing is
// written in between, or an older state could be remembered.
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

func (a *App) load(ctx context.Context, id string) (*book, error) {
	n, err := a.store.Read().Notebook(ctx, id)
	if err != nil {
		return nil, notFound(err)
	}
	ready, err := a.ready(n.Practical)
	if err != nil {
		return nil, err
	}
	return &book{n, ready}, nil
}

// ready checks a practical once and keeps it.
func (a *App) ready(p practical.Practical) (*practical.Ready, error) {
	key := fmt.Sprintf("%s/%d", p.ID, p.Revision)
	if r, ok := a.practicals.Get(key); ok {
		return r, nil
	}
	r, fault := p.Check()
	if fault != nil {
		return nil, unusable.Fault("practical", finding.Said(fault.Message))
	}
	a.practicals.Add(key, r)
	return r, nil
}

// open finds a notebook and what the person is to it. For those who may not
// read it, it is not there.
func (a *App) open(ctx context.Context, p Person, id string) (opened, error) {
	b, err := a.read(ctx, id)
	if err != nil {
		return opened{}, err
	}
	t := b.thing()
	if !May(p, ReadNotebook, t) {
		return opened{}, ErrNotFound
	}
	return opened{b, p.roleIn(b.Class), May(p, WriteNotebook, t)}, nil
}

// evaluate evaluates the notebook for its reader. Whatever goes wrong in it
// stays with it.
func (o opened) evaluate(log func(string, ...any)) (ev experiment.Evaluation, err error) {
	c := journal.Fold(o.Entries)
	return safely(log, o.ID, func() experiment.Evaluation {
		return experiment.Of(o.ready, c, partsFor(o.role, o.ready.Showing.Results, marking.Attempted(c.Answers)))
	})
}

// safely turns a panic over one notebook into an error about that notebook.
func safely[T any](log func(string, ...any), notebook string, do func() T) (out T, err error) {
	defer func() {
		if v := recover(); v != nil {
			log("a notebook cannot be evaluated", "notebook", notebook, "what", v, "stack", string(debug.Stack()))
			err = cannotEvaluated.Fault("")
		}
	}()
	return do(), nil
}

// offer is the concentration that the student found in the practical in which
// the known solution is standardised, where there is one that this reader may
// see.
func (a *App) offer(ctx context.Context, o opened) (*journal.Known, error) {
	if o.Practical.Chemistry.Standard == "" {
		return nil, nil
	}
	id, err := a.store.Read().NotebookOf(ctx, o.Class, o.Practical.Chemistry.Standard, o.Student)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil
	} else if err != nil {
		return nil, fmt.Errorf("looking for the standardisation: %w", err)
	}
	from, ok := a.books.Get(id) // no lock: this may be asked while one is held
	if !ok {
		if from, err = a.load(ctx, id); err != nil {
			a.log("the standardisation cannot be read", "notebook", id, "err", err)
			return nil, nil // what fails there fails there alone
		}
	}
	ev, err := opened{book: from, role: o.role}.evaluate(a.log)
	if err != nil || ev.Result == nil || ev.Result.Budget == nil || ev.Result.Answer.Unit != quantity.MolePerL {
		return nil, nil
	}
	r := ev.Result
	return &journal.Known{Written: r.Answer.String(), Uncertainty: quantity.Show(r.Budget.Standard, 2), From: from.Practical.Title}, nil
}

// Notebook returns a notebook, evaluated, in the reader's words.
func (a *App) Notebook(ctx context.Context, p Person, id string) (Notebook, error) {
	o, err := a.open(ctx, p, id)
	if err != nil {
		return Notebook{}, err
	}
	n, err := a.present(ctx, p, o, view.Of)
	n.Entries = o.Entries
	return n, err
}

// speaking puts an evaluation into words: view.Of or view.Brief.
type speaking func(*practical.Ready, experiment.Evaluation, practical.Style) view.Sheet

func (a *App) present(ctx context.Context, p Person, o opened, speak speaking) (Notebook, error) {
	ev, err := o.evaluate(a.log)
	if err != nil {
		return Notebook{}, err
	}
	people, err := a.authors(ctx, p, o)
	if err != nil {
		return Notebook{}, err
	}
	offer, err := a.offer(ctx, o)
	if err != nil {
		return Notebook{}, err
	}
	partners := make([]string, len(o.Partners))
	for i, r := range o.Partners {
		partners[i] = r.Name
	}
	return Notebook{Partners: partners, Offer: offer, ID: o.ID, Class: o.ClassName, Student: o.StudentName, Started: o.Started,
		MayWrite: o.write, Practical: visible(o.Practical, o.role), People: people, Sheet: speak(o.ready, ev, p.Style())}, nil
}

// authors returns the names of those who wrote in a notebook. Its student and
// the reader are known already; others are looked up.
func (a *App) authors(ctx context.Context, p Person, o opened) (map[string]string, error) {
	names := map[string]string{o.Student: o.StudentName, p.ID: p.Name}
	used := map[string]string{}
	asked := false
	for _, e := range o.Entries {
		if _, known := names[e.Author]; !known && !asked {
			class, err := a.store.Read().NamesInClass(ctx, o.Class)
			if err != nil {
				return nil, fmt.Errorf("reading names: %w", err)
			}
			for id, name := range class {
				names[id] = name
			}
			asked = true
		}
		if name, ok := names[e.Author]; ok {
			used[e.Author] = name
		}
	}
	return used, nil
}

// AddPartner lets a classmate write in one's notebook. Only its student may;
// the classmate has to be a student of the same class.
func (a *App) AddPartner(ctx context.Context, p Person, id, username string) (Notebook, error) {
	o, err := a.open(ctx, p, id)
	if err != nil {
		return Notebook{}, err
	}
	if !May(p, ShareNotebook, o.thing()) {
		return Notebook{}, fmt.Errorf("adding a partner to another's notebook: %w", ErrForbidden)
	}
	if err := a.addPartner(ctx, p, o, strings.TrimSpace(username)); err != nil {
		return Notebook{}, err
	}
	return a.Notebook(ctx, p, id)
}

func (a *App) addPartner(ctx context.Context, p Person, o opened, username string) error {
	unlock := a.locks.lock(o.ID)
	defer unlock()
	defer a.books.Remove(o.ID)
	return a.store.Write(ctx, func(q store.Queries) error {
		mate, _, err := q.Classmate(ctx, o.Class, username)
		if errors.Is(err, store.ErrNotFound) || err == nil && mate == p.ID {
			return noClassmate.Fault("username", finding.Text(username))
		}
		if err != nil {
			return err
		}
		return q.AddPartner(ctx, o.ID, mate, a.now())
	})
}

// Journal returns the notebook's entries as lines to read, in order.
func (a *App) Journal(ctx context.Context, p Person, id string) ([]view.JournalLine, error) {
	o, err := a.open(ctx, p, id)
	if err != nil {
		return nil, err
	}
	n, err := a.present(ctx, p, o, view.Brief)
	if err != nil {
		return nil, err
	}
	return view.Journal(o.Entries, n.Sheet, n.People), nil
}

// Report returns the notebook as a page of a report.
func (a *App) Report(ctx context.Context, p Person, id string) (view.Report, error) {
	o, err := a.open(ctx, p, id)
	if err != nil {
		return view.Report{}, err
	}
	n, err := a.present(ctx, p, o, view.Of)
	if err != nil {
		return view.Report{}, err
	}
	return view.ReportOf(o.ready, n.Sheet, view.About{Student: n.Student, Class: n.Class, Partners: n.Partners, Begun: n.Started, People: n.People}), nil
}

// Listen tells of changes of a notebook until the context is done. A listener
// that is slow is told of the latest change only.
func (a *App) Listen(ctx context.Context, p Person, id string) (<-chan Change, error) {
	if _, err := a.open(ctx, p, id); err != nil {
		return nil, err
	}
	return a.listeners.add(ctx, id), nil
}

// ListenToClass tells of changes of every notebook of a class.
func (a *App) ListenToClass(ctx context.Context, p Person, class string) (<-chan Change, error) {
	if !May(p, SeeRoll, Thing{Class: class}) {
		return nil, ErrNotFound
	}
	return a.listeners.add(ctx, class), nil
}

// Document returns a notebook as an open file, without what the reader must
// not see.
func (a *App) Document(ctx context.Context, p Person, id string) (formats.Document, error) {
	o, err := a.open(ctx, p, id)
	if err != nil {
		return formats.Document{}, err
	}
	people, err := a.authors(ctx, p, o)
	if err != nil {
		return formats.Document{}, err
	}
	doc := formats.New(visible(o.Practical, o.role), journal.Sort(o.Entries), people)
	doc.Written = a.now()
	return doc, nil
}

// Begin starts the person's own notebook of a practical that is set to one of
// their classes, under its present revision, and returns its id. Beginning
// again returns the same notebook.
func (a *App) Begin(ctx context.Context, p Person, class, practicalID string) (string, error) {
	t := Thing{Class: class}
	if !May(p, SeeClass, t) {
		return "", ErrNotFound
	}
	var id string
	return id, a.store.Write(ctx, func(q store.Queries) error {
		revision, err := q.Assignment(ctx, class, practicalID)
		if err != nil {
			return notFound(err)
		}
		if !May(p, BeginNotebook, t) {
			return fmt.Errorf("keeping a notebook: %w", ErrForbidden)
		}
		if err := q.AddNotebook(ctx, newID(), class, practicalID, revision, p.ID, a.now()); err != nil {
			return fmt.Errorf("starting a notebook: %w", err)
		}
		id, err = q.NotebookOf(ctx, class, practicalID, p.ID)
		return err
	})
}
