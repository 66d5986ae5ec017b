package bench

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"exactflask/app/access"
	"exactflask/app/practicals"
	"exactflask/core/judgement/handin"
	"exactflask/core/record/journal"
	"exactflask/core/values/finding"
	"exactflask/core/values/plaintext"
	"exactflask/formats"
	"exactflask/store"
	"exactflask/view"
	"exactflask/wording"
)

var (
	handInAlready = finding.Declare("app.handed-in-already", "version", "at")
	handInChanged = finding.Declare("app.hand-in-changed")
	handInTooLate = finding.Declare("app.hand-in-too-late", "until")
	handInEmpty   = finding.Declare("app.hand-in-empty")
	NotHandedIn   = finding.Declare("app.not-handed-in")
	reasonLength  = finding.Declare("app.return-reason", "most")
)

func SubmissionOf(p access.Person, s store.Submission) view.Submission {
	out := view.Submission{Version: s.Version, At: s.Handed, By: access.NameFor(p, s.By), Late: s.Late, Entries: s.Entries, Hash: s.Hash,
		Receipt: s.Receipt, ReturnedBy: s.ReturnedBy, Reason: s.Reason}
	if !s.Returned.IsZero() {
		out.Returned = &s.Returned
	}
	return out
}

// timesFor are the times of an opened notebook's practical; none where it is set no more.
func (a *Bench) timesFor(ctx context.Context, o Opened) (store.Times, error) {
	_, times, err := a.Store.Read().Assignment(ctx, o.Class, o.Practical.ID)
	if errors.Is(err, store.ErrNotFound) {
		return store.Times{}, nil
	}
	return times, err
}

// Report returns the notebook as a page of a report: as it stands (version 0), or as a
// version was handed in.
func (a *Bench) Report(ctx context.Context, p access.Person, id string, version int) (view.Report, error) {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return view.Report{}, err
	}
	return a.ReportOf(ctx, p, o, version)
}

func (a *Bench) ReportOf(ctx context.Context, p access.Person, o Opened, version int) (view.Report, error) {
	all := o.Handed
	chain, err := a.Chain(ctx, o)
	if err != nil {
		return view.Report{}, err
	}
	changes := []string{}
	if version > 0 {
		now, links, err := a.Frozen(ctx, o, version)
		if err != nil {
			return view.Report{}, err
		}
		if version > 1 {
			before, _, err := a.Frozen(ctx, o, version-1)
			if err != nil {
				return view.Report{}, err
			}
			changes = view.ChangesOf(o.Ready, journal.Fold(before.Entries), journal.Fold(now.Entries), p.Style())
		}
		o, chain = now, links
	}
	n, err := a.present(ctx, p, o, false)
	if err != nil {
		return view.Report{}, err
	}
	seal := ""
	if len(chain) > 0 {
		seal = chain[len(chain)-1].Hash
	}
	out := view.ReportOf(o.Ready, n.Sheet, view.About{Seal: seal, Far: journal.CountFar(chain, o.Entries), Student: n.Student, Class: n.Class, Partners: n.Partners,
		Begun: n.Started, People: n.People})
	out.Version, out.Changes, out.Submissions = version, changes, []view.Submission{}
	for _, s := range all {
		out.Submissions = append(out.Submissions, SubmissionOf(p, s))
	}
	times, err := a.timesFor(ctx, o)
	if err != nil {
		return view.Report{}, err
	}
	out.Due, out.Until = practicals.TimesOf(times).Due, practicals.TimesOf(times).Late
	return out, nil
}

// Frozen is a notebook as a version of its report was handed in.
func (a *Bench) Frozen(ctx context.Context, o Opened, version int) (Opened, []journal.Link, error) {
	document, err := a.Store.Read().SubmissionDocument(ctx, o.ID, version)
	if err != nil {
		return Opened{}, nil, access.NotFound(err)
	}
	f, err := formats.Thaw(document)
	if err != nil {
		return Opened{}, nil, err
	}
	ready, err := a.practicals.ReadyAsFrozen(f.Practical)
	if err != nil {
		return Opened{}, nil, err
	}
	then := *o.Book
	then.Ready, then.Practical, then.Entries, then.summary = ready, ready.Practical, f.Journal, nil
	o.Book, o.basis = &then, nil
	return o, f.Chain, nil
}

// HandIn freezes the report of one's own notebook as it stands, with so many entries as
// its page shows, and gives the receipt. What is handed in is not changed any more.
//
// Errors: ErrForbidden for whoever may not write in it; *finding.Fault where it was
// handed in already, where the notebook is not as the page shows it, or it is too late.
func (a *Bench) HandIn(ctx context.Context, p access.Person, id string, entries int) (view.Submission, error) {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return view.Submission{}, err
	}
	if !o.write {
		return view.Submission{}, fmt.Errorf("handing a report in: %w", o.refused)
	}
	if o.Role.Teaches() {
		return view.Submission{}, fmt.Errorf("handing another's report in: %w", access.ErrForbidden)
	}
	times, err := a.timesFor(ctx, o)
	if err != nil {
		return view.Submission{}, err
	}
	unlock := a.Locks.Lock(id)
	defer unlock()
	b, err := a.readLocked(ctx, id)
	if err != nil {
		return view.Submission{}, err
	}
	now := a.Now()
	timing := handin.Timed(now, times.Due, times.Late, len(b.Handed) > 0)
	last, in := b.HandedIn()
	switch {
	case in:
		return view.Submission{}, handInAlready.Fault("", finding.Count(last.Version), finding.Text(view.Clock(last.Handed)))
	case len(b.Entries) == 0:
		return view.Submission{}, handInEmpty.Fault("entries")
	case len(b.Entries) != entries:
		return view.Submission{}, handInChanged.Fault("entries")
	case timing == handin.TooLate:
		return view.Submission{}, handInTooLate.Fault("", finding.Text(view.Clock(times.Late)))
	}
	awaits, err := a.awaited(ctx, b, p.ID)
	if err != nil {
		return view.Submission{}, err
	}
	if len(awaits) > 0 {
		err := a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
			return q.Agree(ctx, id, store.Agreement{Person: p.ID, Entries: entries}, now)
		})
		if err != nil {
			return view.Submission{}, err
		}
		a.Around(b)
		return view.Submission{Awaits: a.named(p, b, awaits), At: now, By: p.Name, Entries: entries}, nil
	}
	r, document, err := a.frozen(ctx, b)
	if err != nil {
		return view.Submission{}, err
	}
	r.Handed, r.Late = now, timing == handin.Late
	s := store.Submission{Notebook: id, Version: r.Version, Person: p.ID, By: p.Name, Handed: now, Late: r.Late, Entries: r.Entries,
		Hash: formats.Hash(r.Text()), Receipt: r.Text()}
	err = a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return errors.Join(q.HandIn(ctx, s, document), q.LowerHand(ctx, id), q.EndAgreements(ctx, id))
	})
	if err != nil {
		return view.Submission{}, err
	}
	a.handedAnew(b, append(b.Handed[:len(b.Handed):len(b.Handed)], s))
	return SubmissionOf(p, s), nil
}

// belong are those whose notebook it is, its student first.
func (b *Book) belong() []string {
	out := []string{b.Student}
	for _, p := range b.Partners {
		out = append(out, p.ID)
	}
	return out
}

// awaited are those who have to agree before somebody hands the report in as it stands.
func (a *Bench) awaited(ctx context.Context, b *Book, asks string) ([]string, error) {
	if len(b.Partners) == 0 || b.Practical.Report.Either {
		return nil, nil
	}
	agreements, err := a.Store.Read().AgreedTo(ctx, b.ID)
	if err != nil {
		return nil, fmt.Errorf("reading who agreed: %w", err)
	}
	var agreed []string
	for _, g := range agreements {
		if g.Entries == len(b.Entries) { // to what stands there now
			agreed = append(agreed, g.Person)
		}
	}
	var wrote []string
	for _, e := range b.Entries {
		if !slices.Contains(wrote, e.Author) {
			wrote = append(wrote, e.Author)
		}
	}
	return handin.Together(b.Practical.Report.Either, b.belong(), wrote, agreed, asks), nil
}

// named are the names of some whose notebook it is, for a reader.
func (a *Bench) named(p access.Person, b *Book, who []string) []string {
	out := make([]string, len(who))
	for i, id := range who {
		if id == b.Student {
			out[i] = access.NameFor(p, b.StudentName)
		}
		for _, partner := range b.Partners {
			if id == partner.ID {
				out[i] = access.NameFor(p, partner.Name)
			}
		}
	}
	return out
}

// HandingIn says who agrees to hand a report in, and for whom it waits.
type HandingIn struct {
	Agreed []string `json:"agreed" doc:"names of those who agree to what stands there now"`
	Awaits []string `json:"awaits" doc:"names of those who have to agree"`
	Mine   bool     `json:"mine,omitempty" doc:"the reader agreed"`
}

// handingIn is that of a notebook; nil where nobody asked, or something was written since.
func (a *Bench) handingIn(ctx context.Context, p access.Person, b *Book) (*HandingIn, error) {
	if _, in := b.HandedIn(); in || len(b.Partners) == 0 || b.Practical.Report.Either {
		return nil, nil
	}
	agreements, err := a.Store.Read().AgreedTo(ctx, b.ID)
	if err != nil {
		return nil, fmt.Errorf("reading who agreed: %w", err)
	}
	var agreed []string
	for _, g := range agreements {
		if g.Entries == len(b.Entries) {
			agreed = append(agreed, g.Person)
		}
	}
	if len(agreed) == 0 {
		return nil, nil
	}
	awaits, err := a.awaited(ctx, b, agreed[0])
	return &HandingIn{a.named(p, b, agreed), a.named(p, b, awaits), slices.Contains(agreed, p.ID)}, err
}

// mayTakeBack tells whether those who handed a report in may take it back: it is not due yet, and
// nobody has begun to mark it.
func (a *Bench) mayTakeBack(ctx context.Context, o Opened) (bool, error) {
	last, in := o.HandedIn()
	if !in || !o.write || o.Role.Teaches() {
		return false, nil
	}
	times, err := a.timesFor(ctx, o)
	if err != nil || !times.Due.IsZero() && !a.Now().Before(times.Due) {
		return false, err
	}
	begun, err := a.Store.Read().Awarded(ctx, o.ID, last.Version)
	return !begun, err
}

// TakeBack takes the report that was handed in back, for another version; the version stays.
func (a *Bench) TakeBack(ctx context.Context, p access.Person, id string, version int) error {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return err
	}
	if !o.write {
		return fmt.Errorf("taking a report back: %w", o.refused)
	}
	if o.Role.Teaches() {
		return fmt.Errorf("taking another's report back: %w", access.ErrForbidden)
	}
	unlock := a.Locks.Lock(id)
	defer unlock()
	if o.Book, err = a.readLocked(ctx, id); err != nil {
		return err
	}
	if last, in := o.HandedIn(); !in || last.Version != version {
		return NotHandedIn.Fault("version")
	}
	may, err := a.mayTakeBack(ctx, o)
	if err != nil {
		return err
	}
	if !may {
		return noTakingBack.Fault("version")
	}
	return a.returned(ctx, p, o.Book, version, a.tookBack(p))
}

var (
	noTakingBack = finding.Declare("app.no-taking-back")
	takenBack    = finding.Declare("app.taken-back")
)

// tookBack is the reason that stands with a version that was taken back.
func (a *Bench) tookBack(p access.Person) string {
	return wording.For(p.Style()).Say(takenBack.Message())
}

// Part takes a partner out of one's own notebook; what they wrote stays.
func (a *Bench) Part(ctx context.Context, p access.Person, id, username string) (Notebook, error) {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return Notebook{}, err
	}
	if !access.May(p, access.ShareNotebook, o.thing()) {
		return Notebook{}, fmt.Errorf("parting in another's notebook: %w", access.ErrForbidden)
	}
	if err := a.part(ctx, o, username); err != nil {
		return Notebook{}, err
	}
	return a.Notebook(ctx, p, id)
}

func (a *Bench) part(ctx context.Context, o Opened, name string) error {
	unlock := a.Locks.Lock(o.ID)
	defer unlock()
	defer a.books.Remove(o.ID)
	i := slices.IndexFunc(o.Partners, func(r store.Partner) bool { return r.Name == name })
	if i < 0 {
		return noPartner.Fault("name", finding.Text(name))
	}
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		_, err := q.DropPartner(ctx, o.ID, o.Partners[i].ID)
		return errors.Join(err, q.EndAgreements(ctx, o.ID))
	})
}

var noPartner = finding.Declare("app.no-partner", "name")

// frozen is what a notebook holds now as a document that stays, and the receipt for it without its time.
func (a *Bench) frozen(ctx context.Context, b *Book) (formats.Receipt, []byte, error) {
	chain, err := a.Store.Read().Chain(ctx, b.ID)
	if err != nil {
		return formats.Receipt{}, nil, fmt.Errorf("reading the chain: %w", err)
	}
	type frozen struct {
		document   []byte
		evaluation string
		err        error
	}
	f, err := Safely(a.Log, b.ID, func() (f frozen) {
		f.document, f.evaluation, f.err = formats.Freeze(b.Ready, b.Entries, chain)
		return f
	})
	if err = errors.Join(err, f.err); err != nil {
		return formats.Receipt{}, nil, err
	}
	r := formats.Receipt{Notebook: b.ID, Version: len(b.Handed) + 1, Practical: b.Practical.ID, Revision: b.Practical.Revision,
		Entries: len(b.Entries), Chain: chain[len(chain)-1].Hash, Evaluation: f.evaluation}
	for _, l := range journal.Fold(b.Entries).Pictures {
		r.Pictures = append(r.Pictures, l.Part.(journal.Picture).Hash)
	}
	return r, f.document, nil
}

// handedAnew remembers what was handed in or returned, for a caller that holds the
// notebook's lock.
func (a *Bench) handedAnew(b *Book, handed []store.Submission) {
	after := *b
	after.Handed = handed
	a.books.Add(b.ID, &after)
	a.Around(&after)
}

// Return gives a report back for another version, with the reason. All versions stay.
func (a *Bench) Return(ctx context.Context, p access.Person, id string, version int, reason string) error {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return err
	}
	if err := access.Allowed(p, access.ManageClass, o.Class); err != nil {
		return err
	}
	reason = strings.TrimSpace(plaintext.Clean(reason))
	if n := utf8.RuneCountInString(reason); n == 0 || n > maxReason {
		return reasonLength.Fault("reason", finding.Count(maxReason))
	}
	unlock := a.Locks.Lock(id)
	defer unlock()
	b, err := a.readLocked(ctx, id)
	if err != nil {
		return err
	}
	last, in := b.HandedIn()
	if !in || last.Version != version {
		return NotHandedIn.Fault("version")
	}
	return a.returned(ctx, p, b, version, reason)
}

// returned returns the last version, for a caller that holds the notebook's lock.
func (a *Bench) returned(ctx context.Context, p access.Person, b *Book, version int, reason string) error {
	last, now := b.Handed[len(b.Handed)-1], a.Now()
	err := a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		done, err := q.ReturnSubmission(ctx, b.ID, version, p.ID, reason, now)
		if err == nil && !done {
			return NotHandedIn.Fault("version")
		}
		return errors.Join(err, a.Did(ctx, q, access.ActReturned, p, b.Class, b.Student, fmt.Sprintf("%s, %d: %s", b.Practical.Title, version, reason)))
	})
	if err != nil {
		return err
	}
	last.Returned, last.ReturnedBy, last.Reason = now, p.Name, reason
	a.handedAnew(b, append(b.Handed[:len(b.Handed)-1:len(b.Handed)-1], last))
	return nil
}

// HandedIn is the version that counts, if any does.
func (b *Book) HandedIn() (store.Submission, bool) {
	if n := len(b.Handed); n > 0 && b.Handed[n-1].Returned.IsZero() {
		return b.Handed[n-1], true
	}
	return store.Submission{}, false
}
