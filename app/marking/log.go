package marking

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"time"

	"exactflask/app/access"
	"exactflask/core/values/finding"
	"exactflask/view"
)

// MarkingLine is a line of the log of marking.
type MarkingLine struct {
	At   time.Time `json:"at"`
	Text string    `json:"text"`
}

// MarkingLog is everything that was done in marking a practical, in order: awards with
// what stood before, schemes, releases, requests and their answers.
func (a *Marking) MarkingLog(ctx context.Context, p access.Person, class, id string) ([]MarkingLine, error) {
	if err := access.Allowed(p, access.SeeActs, class); err != nil {
		return nil, err
	}
	d, err := a.deskOf(ctx, p, class, id)
	if err != nil {
		return nil, err
	}
	words := view.Writer(d.ready, p.Style())
	title, whose := titlesOf(d, p), map[string]string{}
	all, err := a.Store.Read().SubmissionsToMark(ctx, class, id)
	if err != nil {
		return nil, fmt.Errorf("reading what was handed in: %w", err)
	}
	for _, s := range all {
		whose[s.Notebook] = access.NameFor(p, s.Name)
	}
	out := []MarkingLine{}
	say := func(at time.Time, m finding.Message) { out = append(out, MarkingLine{at, words.Say(m)}) }
	marks := func(kept string) finding.Value {
		if kept == "" {
			return finding.Said(noMarks.Message())
		}
		return finding.Text(kept)
	}
	before := map[int64]string{0: ""}
	for _, w := range d.awards {
		before[w.ID] = marksKept(w)
		say(w.Made, logAward.Message(finding.Text(access.NameFor(p, w.By)), finding.Text(whose[w.Notebook]), title(w.Criterion), marks(before[w.Follows]), marks(before[w.ID]), finding.Text(w.Comment)))
	}
	schemes, err := a.Store.Read().Schemes(ctx, class, id)
	if err != nil {
		return nil, fmt.Errorf("reading schemes: %w", err)
	}
	for _, s := range schemes {
		say(s.Made, logScheme.Message(finding.Text(access.NameFor(p, s.By)), finding.Count(s.Revision)))
	}
	released, err := a.Store.Read().ReleasesOfClass(ctx, class, id)
	if err != nil {
		return nil, fmt.Errorf("reading what was released: %w", err)
	}
	for _, r := range released {
		say(r.Made, logRelease.Message(finding.Text(access.NameFor(p, r.By)), finding.Text(whose[r.Notebook])))
	}
	for _, r := range d.requests {
		say(r.Made, logRequest.Message(finding.Text(access.NameFor(p, r.By)), title(r.Criterion), finding.Text(r.Reason)))
		if !r.Answered.IsZero() {
			say(r.Answered, logAnswer.Message(finding.Text(access.NameFor(p, r.AnsweredBy)), title(r.Criterion), finding.Text(r.Answer)))
		}
	}
	slices.SortStableFunc(out, func(x, y MarkingLine) int { return x.At.Compare(y.At) })
	return out, nil
}

// titlesOf names the criteria of a scheme; one of an earlier scheme by what it was kept under.
func titlesOf(d *desk, p access.Person) func(criterion string) finding.Value {
	titles := map[string]string{}
	for _, c := range view.Criteria(d.ready, d.scheme, p.Style()) {
		titles[c.ID] = c.Title
	}
	return func(criterion string) finding.Value {
		return finding.Text(cmp.Or(titles[criterion], criterion))
	}
}
