package marking

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"exactflask/app/access"
	"exactflask/core/judgement/marking"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/plaintext"
	"exactflask/store"
	"exactflask/view"
)

const (
	maxComment = 1000 // characters
	maxAwards  = 60   // at once
)

var (
	awardNewer     = finding.Declare("app.award-newer", "by", "marks")
	awardCriterion = finding.Declare("app.award-criterion", "criterion")
	awardMarks     = finding.Declare("app.award-marks", "most")
	awardSecond    = finding.Declare("app.award-second")
	awardMany      = finding.Declare("app.award-many", "count")
	commentLength  = finding.Declare("app.comment-length", "count")
	schemeNewer    = finding.Declare("app.scheme-newer", "by")
)

// NewAward is what a marker gives for a criterion.
type NewAward struct {
	Criterion string          `json:"criterion" maxLength:"40"`
	Marks     *decimal.Number `json:"marks,omitempty" doc:"left out: what was awarded is taken back"`
	Comment   string          `json:"comment,omitempty" maxLength:"1000"`
	Undo      bool            `json:"undo,omitempty" doc:"an earlier award is put back"`
	Follows   int64           `json:"follows" doc:"id of the award that the marker sees; 0: none"`
}

// Award gives marks for criteria of a report, all or none of them.
//
// Errors: a *finding.Fault where somebody else awarded one of them meanwhile: nobody
// overwrites what they have not seen.
func (a *Marking) Award(ctx context.Context, p access.Person, notebook string, pass Pass, given []NewAward) (MarkSheet, error) {
	d, s, o, err := a.toMarkOf(ctx, p, notebook)
	if err != nil {
		return MarkSheet{}, err
	}
	if err := access.Allowed(p, access.MarkReports, o.Class); err != nil {
		return MarkSheet{}, err
	}
	if n := len(given); n == 0 || n > maxAwards {
		return MarkSheet{}, awardMany.Fault("awards", finding.Count(maxAwards))
	}
	proposals, _, err := d.proposals(ctx, s)
	if err != nil {
		return MarkSheet{}, err
	}
	var rows []store.Award
	for i, g := range given {
		row, err := d.award(s, pass, g, proposals)
		if err != nil {
			var f *finding.Fault
			if errors.As(err, &f) {
				err = f.In(fmt.Sprintf("awards[%d]", i))
			}
			return MarkSheet{}, err
		}
		rows = append(rows, row)
	}
	if err := a.keepAwards(ctx, d, rows); err != nil {
		return MarkSheet{}, err
	}
	if err := d.readAwards(ctx); err != nil {
		return MarkSheet{}, err
	}
	if pass == First && d.released[versionKey(notebook, s.Version)] {
		a.bench.Around(o.Book)
	}
	return d.sheet(ctx, s, pass)
}

func comment(text string) (string, *finding.Fault) {
	text = strings.TrimSpace(plaintext.Clean(text))
	if utf8.RuneCountInString(text) > maxComment {
		return "", commentLength.Fault("comment", finding.Count(maxComment))
	}
	return text, nil
}

// keepAwards keeps all of them, or none where one of them follows what is not there any
// more.
func (a *Marking) keepAwards(ctx context.Context, d *desk, rows []store.Award) error {
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		for i, row := range rows {
			done, err := q.AddAward(ctx, row)
			if err != nil {
				return fmt.Errorf("keeping an award: %w", err)
			}
			if done {
				continue
			}
			all, err := q.Awards(ctx, row.Notebook)
			if err != nil {
				return fmt.Errorf("reading awards: %w", err)
			}
			now := inForce(all, row.Notebook, row.Version, Pass(row.Pass))[row.Criterion]
			if now.Person == row.Person && now.Follows == row.Follows && sameMarks(now, row) && now.Comment == row.Comment {
				continue // sent again: the answer to it was lost on the way
			}
			return awardNewer.Fault(fmt.Sprintf("awards[%d].criterion", i), finding.Text(access.NameFor(d.p, now.By)), finding.Text(marksKept(now)))
		}
		return nil
	})
}

// sameMarks tells whether two awards give the same, or both nothing.
func sameMarks(a, b store.Award) bool {
	if a.Marks == nil || b.Marks == nil {
		return a.Marks == b.Marks
	}
	return a.Marks.Cmp(*b.Marks) == 0
}

// marksKept are the marks of an award as they are written; empty where they were taken back.
func marksKept(w store.Award) string {
	if w.Marks == nil {
		return ""
	}
	return w.Marks.String()
}

// Together accepts the proposals of a criterion for several reports at once: those that
// are full and certain, and that nobody awarded yet. It returns how many those are.
func (a *Marking) Together(ctx context.Context, p access.Person, class, id, criterion string, notebooks []string) (int, error) {
	if err := access.Allowed(p, access.MarkReports, class); err != nil {
		return 0, err
	}
	d, err := a.deskOf(ctx, p, class, id)
	if err != nil {
		return 0, err
	}
	at := slices.IndexFunc(d.scheme.Criteria, func(c practical.Criterion) bool { return c.ID == criterion })
	if at < 0 {
		return 0, awardCriterion.Fault("criterion", finding.Text(criterion))
	}
	var rows []store.Award
	for _, s := range d.toMark {
		last := d.inForce(s, First)[criterion]
		if !slices.Contains(notebooks, s.Notebook) || last.Marks != nil {
			continue
		}
		report, err := d.report(ctx, s)
		if err != nil {
			continue // what fails in one report fails there alone
		}
		proposal := marking.Evaluate(d.scheme, report)[at]
		if !proposal.Full(d.scheme.Criteria[at]) {
			continue
		}
		rows = append(rows, store.Award{Notebook: s.Notebook, Version: s.Version, Criterion: criterion, Pass: int(First), Marks: proposal.Marks,
			Comment: last.Comment, How: "together", Person: p.ID, Made: a.Now(), Follows: last.ID})
	}
	return len(rows), a.keepAwards(ctx, d, rows)
}

// Difference is a criterion to which two markers gave different marks.
type Difference struct {
	Notebook  string     `json:"notebook"`
	Name      string     `json:"name"`
	Criterion string     `json:"criterion" doc:"title"`
	First     view.Award `json:"first"`
	Second    view.Award `json:"second"`
}

// Differences are those between the marks that count and those of a second marker, where
// both are there.
func (a *Marking) Differences(ctx context.Context, p access.Person, class, id string) ([]Difference, error) {
	d, err := a.deskOf(ctx, p, class, id)
	if err != nil {
		return nil, err
	}
	out := []Difference{}
	for _, s := range d.toMark {
		first, second := d.inForce(s, First), d.inForce(s, Second)
		for _, c := range view.Criteria(d.ready, d.scheme, p.Style()) {
			one, other := first[c.ID], second[c.ID]
			if one.Marks != nil && other.Marks != nil && !sameMarks(one, other) {
				out = append(out, Difference{s.Notebook, access.NameFor(p, s.Name), c.Title, *awardOf(one, p), *awardOf(other, p)})
			}
		}
	}
	return out, nil
}

// award checks what is given for a criterion.
func (d *desk) award(s store.ToMark, pass Pass, g NewAward, proposals []marking.Proposal) (store.Award, error) {
	at := slices.IndexFunc(d.scheme.Criteria, func(c practical.Criterion) bool { return c.ID == g.Criterion })
	if at < 0 {
		return store.Award{}, awardCriterion.Fault("criterion", finding.Text(g.Criterion))
	}
	comment, fault := comment(g.Comment)
	if fault != nil {
		return store.Award{}, fault
	}
	out := store.Award{Notebook: s.Notebook, Version: s.Version, Criterion: g.Criterion, Pass: int(pass), Comment: comment, How: "awarded",
		Person: d.p.ID, By: d.p.Name, Made: d.a.Now(), Follows: g.Follows}
	first, second := d.inForce(s, First)[g.Criterion], d.inForce(s, Second)[g.Criterion]
	// Each of the two is another person; once both are there, the marks that count are changed
	// after talking.
	if pass == Second && first.Person == d.p.ID || pass == First && first.ID == 0 && second.Person == d.p.ID {
		return out, awardSecond.Fault("criterion")
	}
	if g.Marks != nil {
		marks := g.Marks.Trimmed()
		if c := d.scheme.Criteria[at]; marks.Sign() < 0 || marks.Cmp(c.Marks) > 0 || !marks.IsZero() && !marks.MultipleOf(decimal.Must("0.25")) {
			return out, awardMarks.Fault("marks", finding.Exact(c.Marks, ""))
		}
		out.Marks = &marks
		if p := proposals[at]; p.Marks != nil && p.Marks.Cmp(marks) == 0 {
			out.How = "accepted"
		}
	}
	if g.Undo {
		out.How = "undone"
	}
	return out, nil
}
