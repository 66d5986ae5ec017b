package bench

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"
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

// handInFault is why a report is not taken: it was handed in already, the notebook is not as the page
// shows it, or it is too late.
func handInFault(b *Book, entries int, now time.Time, times store.Times) *finding.Fault {
	last, in := b.HandedIn()
	switch {
	case in:
		return handInAlready.Fault("", finding.Count(last.Version), finding.Text(view.Clock(last.Handed)))
	case len(b.Entries) == 0:
		return handInEmpty.Fault("entries")
	case len(b.Entries) != entries:
		return handInChanged.Fault("entries")
	case handin.Timed(now, times.Due, times.Late, len(b.Handed) > 0) == handin.TooLate:
		return handInTooLate.Fault("", finding.Text(view.Clock(times.Late)))
	}
	return nil
}

// handInOne freezes the report of a notebook as it stands, with so many entries as its page shows, and
// gives the receipt. What is handed in is not changed any more.
func (a *Bench) handInOne(ctx context.Context, p access.Person, id string, entries int, times store.Times) (view.Submission, error) {
	unlock := a.Locks.Lock(id)
	defer unlock()
	b, err := a.readLocked(ctx, id)
	if err != nil {
		return view.Submission{}, err
	}
	now := a.Now()
	if fault := handInFault(b, entries, now, times); fault != nil {
		return view.Submission{}, fault
	}
	awaits, err := a.awaited(ctx, b, p.ID)
	if err != nil {
		return view.Submission{}, err
	}
	if len(awaits) > 0 {
		return a.agree(ctx, p, b, awaits)
	}
	r, document, err := a.frozen(ctx, b)
	if err != nil {
		return view.Submission{}, err
	}
	r.Handed, r.Late = now, handin.Timed(now, times.Due, times.Late, len(b.Handed) > 0) == handin.Late
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
