package app

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"unicode/utf8"

	"exactflask/core/judgement/handin"
	"exactflask/core/record/journal"
	"exactflask/core/values/finding"
	"exactflask/core/values/plaintext"
	"exactflask/files"
	"exactflask/formats"
	"exactflask/store"
	"exactflask/view"
)

const maxReason = 500 // characters

var (
	handInAlready = finding.Declare("app.handed-in-already", "version", "at")
	handInChanged = finding.Declare("app.hand-in-changed")
	handInTooLate = finding.Declare("app.hand-in-too-late", "until")
	handInEmpty   = finding.Declare("app.hand-in-empty")
	notHandedIn   = finding.Declare("app.not-handed-in")
	reasonLength  = finding.Declare("app.return-reason", "most")
)

// handedIn is the version that counts, if any does.
func (b *book) handedIn() (store.Submission, bool) {
	if n := len(b.handed); n > 0 && b.handed[n-1].Returned.IsZero() {
		return b.handed[n-1], true
	}
	return store.Submission{}, false
}

func submissionOf(p Person, s store.Submission) view.Submission {
	out := view.Submission{Version: s.Version, At: s.Handed, By: nameFor(p, s.By), Late: s.Late, Entries: s.Entries, Hash: s.Hash,
		Receipt: s.Receipt, ReturnedBy: s.ReturnedBy, Reason: s.Reason}
	if !s.Returned.IsZero() {
		out.Returned = &s.Returned
	}
	return out
}

// timesFor are the times of an opened notebook's practical; none where it is set no more.
func (a *App) timesFor(ctx context.Context, o opened) (store.Times, error) {
	_, times, err := a.store.Read().Assignment(ctx, o.Class, o.Practical.ID)
	if errors.Is(err, store.ErrNotFound) {
		return store.Times{}, nil
	}
	return times, err
}

// Report returns the notebook as a page of a report: as it stands (version 0), or as a
// version was handed in.
func (a *App) Report(ctx context.Context, p Person, id string, version int) (view.Report, error) {
	o, err := a.open(ctx, p, id)
	if err != nil {
		return view.Report{}, err
	}
	return a.report(ctx, p, o, version)
}

func (a *App) report(ctx context.Context, p Person, o opened, version int) (view.Report, error) {
	all := o.handed
	chain, err := a.chain(ctx, o)
	if err != nil {
		return view.Report{}, err
	}
	changes := []string{}
	if version > 0 {
		now, links, err := a.frozen(ctx, o, version)
		if err != nil {
			return view.Report{}, err
		}
		if version > 1 {
			before, _, err := a.frozen(ctx, o, version-1)
			if err != nil {
				return view.Report{}, err
			}
			changes = view.ChangesOf(o.ready, journal.Fold(before.Entries), journal.Fold(now.Entries), p.Style())
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
	out := view.ReportOf(o.ready, n.Sheet, view.About{Seal: seal, Far: journal.CountFar(chain, o.Entries), Student: n.Student, Class: n.Class, Partners: n.Partners,
		Begun: n.Started, People: n.People})
	out.Version, out.Changes, out.Submissions = version, changes, []view.Submission{}
	for _, s := range all {
		out.Submissions = append(out.Submissions, submissionOf(p, s))
	}
	times, err := a.timesFor(ctx, o)
	if err != nil {
		return view.Report{}, err
	}
	out.Due, out.Until = timesOf(times).Due, timesOf(times).Late
	return out, nil
}

// frozen is a notebook as a version of its report was handed in.
func (a *App) frozen(ctx context.Context, o opened, version int) (opened, []journal.Link, error) {
	document, err := a.store.Read().SubmissionDocument(ctx, o.ID, version)
	if err != nil {
		return opened{}, nil, notFound(err)
	}
	f, err := formats.Thaw(document)
	if err != nil {
		return opened{}, nil, err
	}
	ready, err := a.readyAsFrozen(f.Practical)
	if err != nil {
		return opened{}, nil, err
	}
	then := *o.book
	then.ready, then.Practical, then.Entries, then.summary = ready, ready.Practical, f.Journal, nil
	o.book, o.basis = &then, nil
	return o, f.Chain, nil
}

// HandIn freezes the report of one's own notebook as it stands, with so many entries as
// its page shows, and gives the receipt. What is handed in is not changed any more.
//
// Errors: ErrForbidden for whoever may not write in it; *finding.Fault where it was
// handed in already, where the notebook is not as the page shows it, or it is too late.
func (a *App) HandIn(ctx context.Context, p Person, id string, entries int) (view.Submission, error) {
	o, err := a.open(ctx, p, id)
	if err != nil {
		return view.Submission{}, err
	}
	if !o.write || o.role.Teaches() {
		return view.Submission{}, fmt.Errorf("handing another's report in: %w", ErrForbidden)
	}
	times, err := a.timesFor(ctx, o)
	if err != nil {
		return view.Submission{}, err
	}
	unlock := a.locks.lock(id)
	defer unlock()
	b, err := a.readLocked(ctx, id)
	if err != nil {
		return view.Submission{}, err
	}
	now := a.now()
	timing := handin.Timed(now, times.Due, times.Late, len(b.handed) > 0)
	last, in := b.handedIn()
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
	chain, err := a.store.Read().Chain(ctx, id)
	if err != nil {
		return view.Submission{}, fmt.Errorf("reading the chain: %w", err)
	}
	type frozen struct {
		document   []byte
		evaluation string
		err        error
	}
	f, err := safely(a.log, id, func() (f frozen) {
		f.document, f.evaluation, f.err = formats.Freeze(b.ready, b.Entries, chain)
		return f
	})
	if err = errors.Join(err, f.err); err != nil {
		return view.Submission{}, err
	}
	r := formats.Receipt{Notebook: id, Version: len(b.handed) + 1, Practical: b.Practical.ID, Revision: b.Practical.Revision, Handed: now,
		Late: timing == handin.Late, Entries: len(b.Entries), Chain: chain[len(chain)-1].Hash, Evaluation: f.evaluation}
	for _, l := range journal.Fold(b.Entries).Pictures {
		r.Pictures = append(r.Pictures, l.Part.(journal.Picture).Hash)
	}
	s := store.Submission{Notebook: id, Version: r.Version, Person: p.ID, By: p.Name, Handed: now, Late: r.Late, Entries: r.Entries,
		Hash: formats.Hash(r.Text()), Receipt: r.Text()}
	err = a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return errors.Join(q.HandIn(ctx, s, f.document), q.LowerHand(ctx, id))
	})
	if err != nil {
		return view.Submission{}, err
	}
	a.handedAnew(b, append(b.handed[:len(b.handed):len(b.handed)], s))
	return submissionOf(p, s), nil
}

// handedAnew remembers what was handed in or returned, for a caller that holds the
// notebook's lock.
func (a *App) handedAnew(b *book, handed []store.Submission) {
	after := *b
	after.handed = handed
	a.books.Add(b.ID, &after)
	a.around(&after)
}

// Return gives a report back for another version, with the reason. All versions stay.
func (a *App) Return(ctx context.Context, p Person, id string, version int, reason string) error {
	o, err := a.open(ctx, p, id)
	if err != nil {
		return err
	}
	if err := allowed(p, ManageClass, o.Class); err != nil {
		return err
	}
	reason = strings.TrimSpace(plaintext.Clean(reason))
	if n := utf8.RuneCountInString(reason); n == 0 || n > maxReason {
		return reasonLength.Fault("reason", finding.Count(maxReason))
	}
	unlock := a.locks.lock(id)
	defer unlock()
	b, err := a.readLocked(ctx, id)
	if err != nil {
		return err
	}
	last, in := b.handedIn()
	if !in || last.Version != version {
		return notHandedIn.Fault("version")
	}
	now := a.now()
	err = a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		done, err := q.ReturnSubmission(ctx, id, version, p.ID, reason, now)
		if err == nil && !done {
			return notHandedIn.Fault("version")
		}
		return errors.Join(err, a.did(ctx, q, actReturned, p, o.Class, b.Student, fmt.Sprintf("%s, %d: %s", b.Practical.Title, version, reason)))
	})
	if err != nil {
		return err
	}
	last.Returned, last.ReturnedBy, last.Reason = now, p.Name, reason
	a.handedAnew(b, append(b.handed[:len(b.handed)-1:len(b.handed)-1], last))
	return nil
}

// Files is everything that the files of a report are made of, as its reader may see it:
// as it stands (version 0), or as a version was handed in.
func (a *App) Files(ctx context.Context, p Person, id string, version int) (files.Report, error) {
	o, err := a.open(ctx, p, id)
	if err != nil {
		return files.Report{}, err
	}
	report, err := a.report(ctx, p, o, version)
	if err != nil {
		return files.Report{}, err
	}
	out := files.Report{Report: report, Made: o.Started}
	then := o
	var links []journal.Link
	if version > 0 {
		if then, links, err = a.frozen(ctx, o, version); err != nil {
			return files.Report{}, err
		}
		out.Made = o.handed[version-1].Handed
	} else if links, err = a.chain(ctx, o); err != nil {
		return files.Report{}, err
	}
	if n := len(links); n > 0 && version == 0 {
		out.Made = links[n-1].Received
	}
	ev, err := then.evaluate(a.log)
	if err != nil {
		return files.Report{}, err
	}
	if ev.Result != nil {
		out.Derivation = &ev.Result.Derivation
	}
	if last, in := o.handedIn(); in && version == last.Version && o.isReleased() && (o.role.Teaches() || o.Student == p.ID) {
		marks, err := a.Marks(ctx, p, id)
		if err != nil {
			return files.Report{}, err
		}
		out.Marks = &files.Marks{Lines: marks.Lines, Total: marks.Total, Possible: marks.Possible}
	}
	if out.Document, _, err = a.document(ctx, p, then, links); err != nil {
		return files.Report{}, err
	}
	out.Document.Written = out.Made // the same file whenever it is made
	for _, shown := range report.Pictures {
		kept, err := a.store.Read().Picture(ctx, id, shown.Hash)
		if errors.Is(err, store.ErrNotFound) {
			continue // named, and never sent
		}
		if err != nil {
			return files.Report{}, fmt.Errorf("reading a picture: %w", err)
		}
		out.Pictures = append(out.Pictures, files.Picture{Hash: kept.Hash, Caption: shown.Caption, Kind: kept.Kind, Content: kept.Content})
	}
	return out, nil
}

// ClassReports are the notebooks of a practical in a class whose files may be taken, for
// its instructors; title is that of the practical.
func (a *App) ClassReports(ctx context.Context, p Person, class, id string) (title string, notebooks []string, err error) {
	if err := allowed(p, SeeActs, class); err != nil {
		return "", nil, err
	}
	ready, err := a.assigned(ctx, p, class, id)
	if err != nil {
		return "", nil, err
	}
	begun, err := a.store.Read().Begun(ctx, class, id)
	if err != nil {
		return "", nil, fmt.Errorf("reading who began: %w", err)
	}
	for _, n := range begun {
		notebooks = append(notebooks, n.Notebook)
	}
	return ready.Title, notebooks, nil
}

// NewestFiles are the files of a report as it was handed in last, or as it stands where it
// was not.
func (a *App) NewestFiles(ctx context.Context, p Person, id string) (files.Report, error) {
	o, err := a.open(ctx, p, id)
	if err != nil {
		return files.Report{}, err
	}
	return a.Files(ctx, p, id, len(o.handed))
}
