package marking

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/core/judgement/marking"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/store"
	"exactflask/view"
)

var (
	requestOpen = finding.Declare("app.request-open")
	requestNone = finding.Declare("app.request-none")
)

// Released says for how many reports the marks were released, and which were left.
type Released struct {
	Count int      `json:"count"`
	Left  []string `json:"left" doc:"names of those that are not marked wholly"`
}

// Release lets students see the marks of these reports; one that is not marked wholly is
// left, and said. It is not taken back.
func (a *Marking) Release(ctx context.Context, p access.Person, class, id string, notebooks []string) (Released, error) {
	if err := access.Allowed(p, access.ReleaseMarks, class); err != nil {
		return Released{}, err
	}
	d, err := a.deskOf(ctx, p, class, id)
	if err != nil {
		return Released{}, err
	}
	var out Released
	var now []store.ToMark
	err = a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		out, now = Released{Left: []string{}}, nil
		// As they stand now: somebody may take one back meanwhile.
		if d.awards, err = q.AwardsOfClass(ctx, class, id); err != nil {
			return fmt.Errorf("reading awards: %w", err)
		}
		for _, s := range d.toMark {
			if !slices.Contains(notebooks, s.Notebook) || d.released[versionKey(s.Notebook, s.Version)] {
				continue
			}
			if _, whole := marking.Total(d.scheme, marksOf(d.inForce(s, First))); !whole {
				out.Left = append(out.Left, access.NameFor(p, s.Name))
				continue
			}
			done, err := q.Release(ctx, s.Notebook, s.Version, p.ID, a.Now())
			if err != nil {
				return fmt.Errorf("releasing marks: %w", err)
			}
			if done {
				out.Count++
				now = append(now, s)
			}
		}
		if out.Count == 0 {
			return nil
		}
		return a.Did(ctx, q, access.ActReleased, p, class, "", fmt.Sprintf("%s, %d", d.ready.Title, out.Count))
	})
	if err != nil {
		return Released{}, err
	}
	for _, s := range now {
		unlock := a.Locks.Lock(s.Notebook)
		a.Forgotten(s.Notebook) // it is read anew, with what is granted now
		unlock()
		a.Listeners.Tell(access.Change{Notebook: s.Notebook, Around: true}, class, id)
	}
	return out, nil
}

// MarkRequest is that a student asks for another look at a criterion.
type MarkRequest struct {
	ID         int64      `json:"id"`
	Notebook   string     `json:"notebook"`
	Criterion  string     `json:"criterion" doc:"id"`
	Title      string     `json:"title" doc:"of the criterion"`
	Reason     string     `json:"reason"`
	By         string     `json:"by"`
	At         time.Time  `json:"at"`
	Answer     string     `json:"answer,omitempty"`
	AnsweredBy string     `json:"answeredBy,omitempty"`
	Answered   *time.Time `json:"answered,omitempty"`
}

// OwnMarks are the marks of a report as its student sees them once they are released.
type OwnMarks struct {
	Version  int             `json:"version"`
	At       time.Time       `json:"at" doc:"when they were released"`
	Lines    []view.MarkLine `json:"lines"`
	Total    decimal.Number  `json:"total"`
	Possible decimal.Number  `json:"possible"`
	MayAsk   bool            `json:"mayAsk" doc:"for another look at a criterion"`
	Requests []MarkRequest   `json:"requests"`
}

// Marks are the marks of a report, released: for its student, and for those who teach
// there as the student sees them.
func (a *Marking) Marks(ctx context.Context, p access.Person, notebook string) (OwnMarks, error) {
	o, err := a.bench.Open(ctx, p, notebook)
	if err != nil {
		return OwnMarks{}, err
	}
	if !o.IsReleased() || !o.Role.Teaches() && o.Student != p.ID {
		return OwnMarks{}, access.ErrNotFound // also for a partner: marks are one's own
	}
	d, s, err := a.ownDesk(ctx, p, o)
	if err != nil {
		return OwnMarks{}, err
	}
	sheet, err := d.sheet(ctx, s, First)
	if err != nil {
		return OwnMarks{}, err
	}
	out := OwnMarks{Version: s.Version, Lines: sheet.Lines, Total: sheet.Total, Possible: sheet.Possible, Requests: sheet.Requests,
		MayAsk: o.Student == p.ID && !p.In(o.Class).Archived}
	if sheet.Released != nil {
		out.At = *sheet.Released
	}
	for i := range out.Lines {
		out.Lines[i].ForStudent()
	}
	return out, nil
}

// ownDesk is the desk for one released report, whoever reads it.
func (a *Marking) ownDesk(ctx context.Context, p access.Person, o bench.Opened) (*desk, store.ToMark, error) {
	ready, err := a.onceSet(ctx, o.Class, o.Practical.ID)
	if err != nil {
		return nil, store.ToMark{}, err
	}
	d := &desk{a: a, p: p, class: o.Class, ready: ready, released: map[string]bool{}}
	if d.scheme, d.revision, err = a.schemeOf(ctx, o.Class, ready); err != nil {
		return nil, store.ToMark{}, err
	}
	if err := d.read(ctx); err != nil {
		return nil, store.ToMark{}, err
	}
	for _, s := range d.toMark {
		if s.Notebook == o.ID {
			return d, s, nil
		}
	}
	return nil, store.ToMark{}, access.ErrNotFound
}

// AskAgain asks for another look at a criterion of one's own released report.
func (a *Marking) AskAgain(ctx context.Context, p access.Person, notebook, criterion, why string) error {
	marks, err := a.Marks(ctx, p, notebook)
	if err != nil {
		return err
	}
	if !marks.MayAsk {
		return fmt.Errorf("asking for another look: %w", access.ErrForbidden)
	}
	if !slices.ContainsFunc(marks.Lines, func(l view.MarkLine) bool { return l.ID == criterion }) {
		return awardCriterion.Fault("criterion", finding.Text(criterion))
	}
	why, fault := bench.Reason(why)
	if fault != nil {
		return fault
	}
	err = a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		done, err := q.AddRequest(ctx, store.Request{Notebook: notebook, Version: marks.Version, Criterion: criterion, Reason: why, Made: a.Now()}, p.ID)
		if err == nil && !done {
			return requestOpen.Fault("criterion")
		}
		return err
	})
	if err == nil {
		a.tellAround(ctx, notebook)
	}
	return err
}

// AnswerRequest answers a request; the answer is kept.
func (a *Marking) AnswerRequest(ctx context.Context, p access.Person, notebook string, request int64, text string) error {
	o, err := a.bench.Open(ctx, p, notebook)
	if err != nil {
		return err
	}
	if err := access.Allowed(p, access.ReleaseMarks, o.Class); err != nil {
		return err
	}
	text, fault := bench.Reason(text)
	if fault != nil {
		return fault
	}
	err = a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		done, err := q.AnswerRequest(ctx, notebook, request, p.ID, text, a.Now())
		if err == nil && !done {
			return requestNone.Fault("request")
		}
		return errors.Join(err, a.Did(ctx, q, access.ActAnswered, p, o.Class, o.Student, o.Practical.Title))
	})
	if err == nil {
		a.tellAround(ctx, notebook)
	}
	return err
}

// tellAround tells that something beside the entries of a notebook changed.
func (a *Marking) tellAround(ctx context.Context, notebook string) {
	if b, err := a.bench.Read(ctx, notebook); err == nil {
		a.bench.Around(b)
	}
}

func (d *desk) request(r store.Request) MarkRequest {
	out := MarkRequest{ID: r.ID, Notebook: r.Notebook, Criterion: r.Criterion, Title: r.Criterion, Reason: r.Reason, By: access.NameFor(d.p, r.By), At: r.Made,
		Answer: r.Answer, AnsweredBy: r.AnsweredBy}
	if !r.Answered.IsZero() {
		out.Answered = &r.Answered
	}
	for _, c := range view.Criteria(d.ready, d.scheme, d.p.Style()) {
		if c.ID == r.Criterion {
			out.Title = c.Title
		}
	}
	return out
}
