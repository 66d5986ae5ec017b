package marking

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/marking"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/store"
	"exactflask/view"
)

// Order is how the reports on a desk are ordered.
type Order string

// The orders: by name, by the code that stands for it, reports with the same slips
// together.
const (
	ByName  Order = "name"
	ByCode  Order = "code"
	Similar Order = "similar"
)

// DeskAsked is how somebody wants to mark.
type DeskAsked struct {
	Pass      Pass
	Anonymous bool
	Order     Order
}

// Desk is where a class is marked.
type Desk struct {
	Class      string                `json:"class" doc:"name of the class"`
	Title      string                `json:"title"`
	MayRelease bool                  `json:"mayRelease"`
	MayMark    bool                  `json:"mayMark"`
	Scheme     practical.Scheme      `json:"scheme"`
	Revision   int                   `json:"revision" doc:"of the scheme; 0: as the practical says, or as it follows from it"`
	Parts      view.SchemeParts      `json:"parts" doc:"what the scheme can be made of"`
	Criteria   []view.NamedCriterion `json:"criteria"`
	Possible   decimal.Number        `json:"possible"`
	Reports    []view.DeskRow        `json:"reports"`
	Requests   []MarkRequest         `json:"requests" doc:"that are open"`
	Missing    int                   `json:"missing" doc:"students whose report was not handed in, or was given back"`
}

// Desk shows where a class is marked.
func (a *Marking) Desk(ctx context.Context, p access.Person, class, id string, asked DeskAsked) (Desk, error) {
	d, err := a.deskOf(ctx, p, class, id)
	if err != nil {
		return Desk{}, err
	}
	out := Desk{Class: p.In(class).Name, Title: d.ready.Title, MayRelease: access.May(p, access.ReleaseMarks, access.Thing{Class: class}), MayMark: access.May(p, access.MarkReports, access.Thing{Class: class}),
		Scheme: d.scheme, Revision: d.revision, Criteria: view.Criteria(d.ready, d.scheme, p.Style()), Possible: decimal.Number{Decimal: d.scheme.Total()},
		Parts:   view.SchemePartsOf(d.ready, p.Style()),
		Reports: []view.DeskRow{}, Requests: []MarkRequest{}}
	for _, s := range d.toMark {
		row, err := d.row(ctx, s, asked)
		if err != nil {
			return Desk{}, err
		}
		out.Reports = append(out.Reports, row)
	}
	for _, m := range d.members {
		if access.Role(m.Role) == access.Student && !slices.ContainsFunc(d.toMark, func(s store.ToMark) bool { return s.Student == m.ID }) {
			out.Missing++
		}
	}
	for _, r := range d.requests {
		if r.Answered.IsZero() {
			out.Requests = append(out.Requests, d.request(r))
		}
	}
	slices.SortStableFunc(out.Reports, func(x, y view.DeskRow) int {
		switch {
		case asked.Order == Similar:
			return cmp.Or(-cmp.Compare(len(x.Slips), len(y.Slips)), strings.Compare(strings.Join(x.Slips, " "), strings.Join(y.Slips, " ")), y.Proposed.Cmp(x.Proposed.Decimal))
		case asked.Order == ByCode, asked.Anonymous: // names must not show in the order
			return strings.Compare(x.Code, y.Code)
		}
		return 0
	})
	return out, nil
}

// awardOf is an award as a reader sees it; nil where nothing is awarded.
func awardOf(w store.Award, p access.Person) *view.Award {
	if w.ID == 0 {
		return nil
	}
	out := &view.Award{ID: w.ID, Comment: w.Comment, How: w.How, By: access.NameFor(p, w.By), At: w.Made}
	out.Marks = view.Shown(w.Marks)
	return out
}

// MarkSheet is one report on the desk, with the evidence beside each criterion.
type MarkSheet struct {
	Notebook string          `json:"notebook"`
	Version  int             `json:"version"`
	Name     string          `json:"name" doc:"or the code that stands for it"`
	Released *time.Time      `json:"released,omitempty"`
	Lines    []view.MarkLine `json:"lines"`
	Total    decimal.Number  `json:"total" doc:"of what was awarded"`
	Whole    bool            `json:"whole" doc:"every criterion was awarded"`
	Possible decimal.Number  `json:"possible"`
	Revision int             `json:"revision" doc:"of the scheme"`
	Report   view.Report     `json:"report"`
	Requests []MarkRequest   `json:"requests"`
}

// toMarkOf finds a report that is to be marked, with its desk.
func (a *Marking) toMarkOf(ctx context.Context, p access.Person, notebook string) (*desk, store.ToMark, bench.Opened, error) {
	o, err := a.bench.Open(ctx, p, notebook)
	if err != nil {
		return nil, store.ToMark{}, o, err
	}
	if !o.Role.Teaches() {
		return nil, store.ToMark{}, o, fmt.Errorf("marking: %w", access.ErrForbidden)
	}
	d, err := a.deskOf(ctx, p, o.Class, o.Practical.ID)
	if err != nil {
		return nil, store.ToMark{}, o, err
	}
	for _, s := range d.toMark {
		if s.Notebook == notebook {
			return d, s, o, nil
		}
	}
	return nil, store.ToMark{}, o, bench.NotHandedIn.Fault("version")
}

// MarkSheet shows a report on the desk.
func (a *Marking) MarkSheet(ctx context.Context, p access.Person, notebook string, asked DeskAsked) (MarkSheet, error) {
	d, s, o, err := a.toMarkOf(ctx, p, notebook)
	if err != nil {
		return MarkSheet{}, err
	}
	out, err := d.sheet(ctx, s, asked.Pass)
	if err != nil {
		return MarkSheet{}, err
	}
	if out.Report, err = a.bench.ReportOf(ctx, p, o, s.Version); err != nil {
		return MarkSheet{}, err
	}
	if asked.Anonymous {
		out.Name = codeOf(notebook)
		out.Report.Anonymous(out.Name)
	}
	return out, nil
}

// CommentBank are comments that were used on a criterion.
func (a *Marking) CommentBank(ctx context.Context, p access.Person, class, id, criterion string) ([]store.UsedComment, error) {
	if err := access.Allowed(p, access.SeeRoll, class); err != nil {
		return nil, err
	}
	return a.Store.Read().CommentBank(ctx, p.ID, id, criterion)
}

// row is a report on the desk. What fails in one report fails there alone.
func (d *desk) row(ctx context.Context, s store.ToMark, asked DeskAsked) (view.DeskRow, error) {
	row := view.DeskRow{Notebook: s.Notebook, Version: s.Version, Name: access.NameFor(d.p, s.Name), Code: codeOf(s.Notebook), Late: s.Late,
		Released: d.released[versionKey(s.Notebook, s.Version)], Cells: []view.MarkCell{}, Slips: []string{}}
	if asked.Anonymous {
		row.Name = row.Code
	}
	for _, r := range d.requests {
		if r.Notebook == s.Notebook && r.Version == s.Version && r.Answered.IsZero() {
			row.Requests++
		}
	}
	proposals, report, err := d.proposals(ctx, s)
	if err != nil {
		return row, err
	}
	if report == nil {
		row.Broken = view.Broken(d.p.Style())
	}
	awards := d.inForce(s, asked.Pass)
	for i, c := range d.scheme.Criteria {
		row.Add(c, proposals[i], awardOf(awards[c.ID], d.p))
	}
	return row, nil
}

// sheet are the criteria of a report with their evidence and awards.
func (d *desk) sheet(ctx context.Context, s store.ToMark, pass Pass) (MarkSheet, error) {
	proposals, report, err := d.proposals(ctx, s)
	if err != nil {
		return MarkSheet{}, err
	}
	awards := d.inForce(s, pass)
	out := MarkSheet{Notebook: s.Notebook, Version: s.Version, Name: access.NameFor(d.p, s.Name), Possible: decimal.Number{Decimal: d.scheme.Total()}, Revision: d.revision, Requests: []MarkRequest{}}
	out.Total.Decimal, out.Whole = marking.Total(d.scheme, marksOf(awards))
	ready, ev := d.ready, evaluation.Evaluation{}
	if report != nil {
		ready, ev = report.Ready, report.Evaluation
	}
	out.Lines = view.MarkLines(ready, ev, d.scheme, proposals, d.p.Style())
	for i, c := range d.scheme.Criteria {
		out.Lines[i].Award = awardOf(awards[c.ID], d.p)
		for _, w := range d.awards {
			if w.Notebook == s.Notebook && w.Version == s.Version && w.Criterion == c.ID && w.Pass == int(pass) {
				out.Lines[i].History = append(out.Lines[i].History, *awardOf(w, d.p))
			}
		}
	}
	for _, r := range d.requests {
		if r.Notebook == s.Notebook && r.Version == s.Version {
			out.Requests = append(out.Requests, d.request(r))
		}
	}
	kept, err := d.a.Store.Read().Releases(ctx, s.Notebook)
	for _, r := range kept {
		if r.Version == s.Version {
			out.Released = &r.Made
		}
	}
	return out, err
}
