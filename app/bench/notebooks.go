package bench

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"
	"unique"

	"exactflask/app/access"
	"exactflask/app/classes"
	"exactflask/app/practicals"
	"exactflask/core/chemistry/glass"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
	"exactflask/store"
	"exactflask/view"
)

// Notebook is a notebook as one person may see it.
type Notebook struct {
	ID        string              `json:"id"`
	Class     string              `json:"class" doc:"name of the class"`
	ClassID   string              `json:"classId"`
	Student   string              `json:"student" doc:"name of the student it belongs to"`
	Started   time.Time           `json:"started"`
	MayWrite  bool                `json:"mayWrite" doc:"whether this reader may add entries"`
	Role      access.Role         `json:"role" enum:"student,assistant,instructor" doc:"of this reader in the class"`
	Partners  []string            `json:"partners" doc:"names of those who write beside the student"`
	Awaits    string              `json:"awaits,omitempty" doc:"title of the practical in which the known solution is standardised, while the student has nothing to take over from it"`
	Parts     []SequencePart      `json:"parts,omitempty" doc:"of one report of a sequence: the practicals whose reports are handed in together with this one, in order"`
	Glass     []view.GlassPlace   `json:"glass,omitempty" doc:"glassware of the school that can be used in the place of the practical's; for who may write"`
	Offer     *journal.Known      `json:"offer,omitempty" doc:"the concentration that was found by standardising, to be taken over"`
	Bottle    *view.Bottle        `json:"bottle,omitempty" doc:"one's own solution that this notebook uses, where it was prepared"`
	Entries   []journal.Entry     `json:"entries,omitempty" doc:"the journal itself; left out of the answer to added entries"`
	Practical practical.Practical `json:"practical" doc:"without what this reader must not see"`
	People    map[string]string   `json:"people" doc:"names of the authors, by id"`
	Sheet     view.Sheet          `json:"sheet"`
	HandingIn *HandingIn          `json:"handingIn,omitempty" doc:"some of those who wrote agree to hand it in; left out while nobody does"`
	TakeBack  bool                `json:"takeBack,omitempty" doc:"the reader may take back what was handed in"`
	HandedIn  *view.Submission    `json:"handedIn,omitempty" doc:"the report as it was handed in; left out while it was not, or was returned"`
	Due       *time.Time          `json:"due,omitempty" doc:"when the report is due"`
	Hand      *Hand               `json:"hand,omitempty" doc:"left out while it is not up"`
	Ends      *time.Time          `json:"ends,omitempty" doc:"when the lesson ends, where the instructor said so"`
	Notices   []classes.Notice    `json:"notices,omitempty" doc:"what the class was told in the last day"`
	Comments  []store.Comment     `json:"comments,omitempty" doc:"of those who teach"`
	Marked    bool                `json:"marked,omitempty" doc:"the marks of the report are released"`
}

// Book is a notebook as it is kept in memory, its practical ready; it is not
// changed once it is made.
type Book struct {
	store.Notebook
	Ready *practical.Ready
	// handed are the versions of the report that were handed in; the last one counts
	// unless it was returned.
	Handed []store.Submission
	// released are the versions whose marks the student sees.
	released []store.Release
	// summary is what was kept with the last append; nil where none was made since the
	// notebook was read.
	summary *evaluation.Summary
}

func (b *Book) thing() access.Thing {
	t := access.Thing{Class: b.Class, Student: b.Student}
	for _, p := range b.Partners {
		t.Partners = append(t.Partners, p.ID)
	}
	return t
}

// Opened is a notebook with the role of whoever opened it.
type Opened struct {
	*Book
	Role    access.Role
	write   bool
	refused error             // why not
	basis   *experiment.Basis // of its evaluation, where that was begun already
}

var (
	noClassmate     = finding.Declare("app.no-classmate", "username")
	cannotEvaluated = finding.Declare("app.cannot-be-evaluated")
)

// Read returns a notebook, from memory or from the store. Whoever holds the
// lock of the notebook finds it as it stands in the file.
func (a *Bench) Read(ctx context.Context, id string) (*Book, error) {
	if b, ok := a.books.Get(id); ok {
		return b, nil
	}
	unlock := a.Locks.Lock(id)
	defer unlock()
	return a.readLocked(ctx, id)
}

// readLocked is read for a caller that holds the notebook's lock: nothing is
// written in between, or an older state could be remembered.
func (a *Bench) readLocked(ctx context.Context, id string) (*Book, error) {
	if b, ok := a.books.Get(id); ok {
		return b, nil
	}
	b, err := a.load(ctx, id)
	if err == nil {
		a.books.Add(id, b)
	}
	return b, err
}

func (a *Bench) load(ctx context.Context, id string) (*Book, error) {
	n, err := a.Store.Read().Notebook(ctx, id)
	if err != nil {
		return nil, access.NotFound(err)
	}
	ready, err := a.practicals.WithUnknown(ctx, n)
	if err != nil {
		return nil, err
	}
	n.Practical = ready.Practical // one for all
	for i := range n.Entries {
		frugal(&n.Entries[i])
	}
	handed, err := a.Store.Read().Submissions(ctx, id)
	if err != nil {
		return nil, fmt.Errorf("reading what was handed in: %w", err)
	}
	released, err := a.Store.Read().Releases(ctx, id)
	if err != nil {
		return nil, fmt.Errorf("reading what was released: %w", err)
	}
	return &Book{Notebook: n, Ready: ready, Handed: handed, released: released}, nil
}

// frugal lets entries share what most of them have in common.
func frugal(e *journal.Entry) {
	e.Author, e.Device = unique.Make(e.Author).Value(), unique.Make(e.Device).Value()
}

// offer is the concentration that the student found in the practical in which
// the known solution is standardised, where there is one that this reader may
// see.
func (a *Bench) offer(ctx context.Context, o Opened) (*journal.Known, error) {
	if o.Practical.Chemistry.Standard == "" {
		return nil, nil
	}
	id, err := a.Store.Read().NotebookOf(ctx, o.Class, o.Practical.Chemistry.Standard, o.Student)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil
	} else if err != nil {
		return nil, fmt.Errorf("looking for the standardisation: %w", err)
	}
	from, ok := a.books.Get(id) // no lock: this may be asked while one is held
	if !ok {
		if from, err = a.load(ctx, id); err != nil {
			a.Log("the standardisation cannot be read", "notebook", id, "err", err)
			return nil, nil // what fails there fails there alone
		}
	}
	ev, err := Opened{Book: from, Role: o.Role}.Evaluate(a.Log)
	if err != nil {
		return nil, nil
	}
	strength, sure, ok := ev.Strength()
	if !ok {
		return nil, nil
	}
	return &journal.Known{Written: strength.String(), Uncertainty: quantity.Show(sure, 2), From: from.Practical.Title}, nil
}

// titleOf is the title of a practical that is set to the class, as a reader may know it; empty where
// it is not, or not yet there for them.
func (a *Bench) titleOf(ctx context.Context, o Opened, practical string) (string, error) {
	assigned, err := a.Store.Read().AssignmentsOfClass(ctx, o.Class)
	if err != nil {
		return "", fmt.Errorf("reading practicals: %w", err)
	}
	for _, item := range assigned {
		if item.ID == practical && item.Err == nil && (o.Role.Teaches() || a.practicals.IsOpen(item.Times)) {
			return item.Practical.Title, nil
		}
	}
	return "", nil
}

// Notebook returns a notebook, evaluated, in the reader's words.
func (a *Bench) Notebook(ctx context.Context, p access.Person, id string) (Notebook, error) {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return Notebook{}, err
	}
	n, err := a.present(ctx, p, o, false)
	if err != nil {
		return Notebook{}, err
	}
	n.Entries = o.Entries
	if s, in := o.HandedIn(); in {
		shown := SubmissionOf(p, s)
		n.HandedIn = &shown
	}
	if n.TakeBack, err = a.mayTakeBack(ctx, o); err != nil {
		return Notebook{}, err
	}
	if n.HandingIn, err = a.handingIn(ctx, p, o.Book); err != nil {
		return Notebook{}, err
	}
	times, err := a.timesFor(ctx, o)
	if err != nil {
		return Notebook{}, err
	}
	n.Due = practicals.TimesOf(times).Due
	if n.Hand, err = a.handOf(ctx, o.ID); err != nil {
		return Notebook{}, err
	}
	if n.Ends, err = a.endOf(ctx, o.Class, o.Practical.ID); err != nil {
		return Notebook{}, err
	}
	if n.Comments, err = a.CommentsOf(ctx, p, o.ID); err != nil {
		return Notebook{}, err
	}
	n.Marked = o.IsReleased()
	if n.Parts, err = a.partsOf(ctx, o, p); err != nil {
		return Notebook{}, err
	}
	if n.MayWrite {
		has, err := a.practicals.Glass(ctx, p, o.Class)
		if err != nil {
			return Notebook{}, err
		}
		n.Glass = view.GlassPlaces(o.Ready, p.Style(), slices.Concat(has.Own, has.Wider, glass.Usual))
	}
	notices, err := a.classes.NoticesOf(ctx, o.Class)
	for _, notice := range notices {
		if a.Now().Sub(notice.At) < 24*time.Hour {
			n.Notices = append(n.Notices, notice)
		}
	}
	return n, err
}

// present evaluates a notebook and puts it into words, in brief (view.Brief) or whole.
func (a *Bench) present(ctx context.Context, p access.Person, o Opened, brief bool) (Notebook, error) {
	speak, unsaid := view.Of, experiment.Parts(0)
	if brief {
		speak, unsaid = view.Brief, view.Unsaid
	}
	ev, err := o.evaluateBut(a.Log, unsaid)
	if err != nil {
		return Notebook{}, err
	}
	granted := experiment.All
	if ev.Withheld {
		granted = experiment.Record
	}
	shown, err := a.practicals.Seen(o.Ready, o.Role, granted)
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
	awaits := ""
	if offer == nil && o.Practical.Chemistry.Standard != "" {
		if awaits, err = a.titleOf(ctx, o, o.Practical.Chemistry.Standard); err != nil {
			return Notebook{}, err
		}
	}
	if offer != nil { // what was taken over as it stands is offered no more
		if k := journal.Fold(o.Entries).Known; k != nil && k.Part == journal.Part(*offer) {
			offer = nil
		}
	}
	partners := make([]string, len(o.Partners))
	for i, r := range o.Partners {
		partners[i] = access.NameFor(p, r.Name)
	}
	bottle, err := a.bottle(ctx, o, ev)
	if err != nil {
		return Notebook{}, err
	}
	return Notebook{Partners: partners, Offer: offer, Awaits: awaits, Bottle: view.BottleOf(shown, bottle, p.Style()), ID: o.ID, Class: o.ClassName, ClassID: o.Notebook.Class, Student: access.NameFor(p, o.StudentName),
		Started:  o.Started,
		MayWrite: o.write, Role: o.Role, Practical: shown.Practical, People: people, Sheet: speak(shown, ev, p.Style())}, nil
}

// IsReleased tells whether the marks of the version that counts are released.
func (b *Book) IsReleased() bool {
	last, in := b.HandedIn()
	return in && slices.ContainsFunc(b.released, func(r store.Release) bool { return r.Version == last.Version })
}

// authors returns the names of those who wrote in a notebook. Its student and
// the reader are known already; others are looked up.
func (a *Bench) authors(ctx context.Context, p access.Person, o Opened) (map[string]string, error) {
	names := map[string]string{o.Student: access.NameFor(p, o.StudentName), p.ID: p.Name}
	for _, r := range o.Partners { // also who has left the class since
		names[r.ID] = access.NameFor(p, r.Name)
	}
	used := map[string]string{}
	asked := false
	for _, e := range o.Entries {
		if _, known := names[e.Author]; !known && !asked {
			class, err := a.Store.Read().NamesInClass(ctx, o.Class)
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
func (a *Bench) AddPartner(ctx context.Context, p access.Person, id, username string) (Notebook, error) {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return Notebook{}, err
	}
	if !access.May(p, access.ShareNotebook, o.thing()) {
		return Notebook{}, fmt.Errorf("adding a partner to another's notebook: %w", access.ErrForbidden)
	}
	if err := a.addPartner(ctx, p, o, strings.TrimSpace(username)); err != nil {
		return Notebook{}, err
	}
	return a.Notebook(ctx, p, id)
}

func (a *Bench) addPartner(ctx context.Context, p access.Person, o Opened, username string) error {
	unlock := a.Locks.Lock(o.ID)
	defer unlock()
	defer a.books.Remove(o.ID)
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		mate, _, err := q.Classmate(ctx, o.Class, username)
		if errors.Is(err, store.ErrNotFound) || err == nil && mate == p.ID {
			return noClassmate.Fault("username", finding.Text(username))
		}
		if err != nil {
			return err
		}
		return q.AddPartner(ctx, o.ID, mate, a.Now())
	})
}

// Listen tells of changes of a notebook until the context is done. A listener
// that is slow is told of the latest change only.
func (a *Bench) Listen(ctx context.Context, p access.Person, id string) (<-chan access.Change, error) {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return nil, err
	}
	return a.Listeners.Add(ctx, id, o.Class), nil
}

// Reads tells whether a person may read a notebook now.
func (a *Bench) Reads(ctx context.Context, p access.Person, id string) bool {
	_, err := a.Open(ctx, p, id)
	return err == nil
}
