package marking

import (
	"context"
	"slices"
	"strings"
	"time"

	"exactflask/app/access"
	"exactflask/core/judgement/marking"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/files"
	"exactflask/store"
	"exactflask/view"
	"exactflask/wording"
)

// Results are those of a practical in a class.
type Results struct {
	Class    string                `json:"class" doc:"name of the class"`
	Title    string                `json:"title"`
	Criteria []view.NamedCriterion `json:"criteria"`
	Rows     []ResultRow           `json:"rows"`
	Together marking.Together      `json:"together"`
	Slips    []NamedSlip           `json:"slips" doc:"the commonest first"`
	Unit     string                `json:"unit" doc:"of the answers"`
}

// ResultRow is a student's report with its marks.
type ResultRow struct {
	Notebook string            `json:"notebook"`
	Name     string            `json:"name"`
	Bench    string            `json:"bench,omitempty"`
	Unknown  string            `json:"unknown,omitempty"`
	Late     bool              `json:"late,omitempty"`
	Marks    []*decimal.Number `json:"marks" doc:"one for each criterion; null where nothing is awarded"`
	Total    decimal.Number    `json:"total"`
	Whole    bool              `json:"whole" doc:"every criterion was awarded"`
	Released bool              `json:"released,omitempty"`
	Answer   string            `json:"answer,omitempty"`
	Slips    []string          `json:"slips" doc:"in words"`
}

// NamedSlip is a slip in words, with who made it.
type NamedSlip struct {
	Text  string   `json:"text"`
	Names []string `json:"names"`
}

// Results shows what came out of a practical in a class, for those who teach there.
func (a *Marking) Results(ctx context.Context, p access.Person, class, id string) (Results, error) {
	d, err := a.deskOf(ctx, p, class, id)
	if err != nil {
		return Results{}, err
	}
	words := view.Writer(d.ready, p.Style())
	out := Results{Class: p.In(class).Name, Title: d.ready.Title, Criteria: view.Criteria(d.ready, d.scheme, p.Style()), Rows: []ResultRow{}, Slips: []NamedSlip{},
		Unit: words.Unit(d.ready.Asked.Unit)}
	names := map[string]string{}
	var marked []marking.Marked
	for _, s := range d.toMark {
		row, m, err := d.result(ctx, s, words)
		if err != nil {
			return Results{}, err
		}
		names[s.Notebook] = row.Name
		out.Rows, marked = append(out.Rows, row), append(marked, m)
	}
	out.Together = marking.ResultsOf(d.scheme, marked)
	for _, slip := range out.Together.Slips {
		named := NamedSlip{Text: words.Text(slip.Slip)}
		for _, n := range slip.Notebooks {
			named.Names = append(named.Names, names[n])
		}
		out.Slips = append(out.Slips, named)
	}
	return out, nil
}

// Rounding is how marks are rounded for a gradebook.
type Rounding string

// The roundings, half up: as they are, to halves, to whole marks.
const (
	AsTheyAre Rounding = "none"
	ToHalves  Rounding = "half"
	ToWhole   Rounding = "whole"
)

func (r Rounding) of(v decimal.Decimal) decimal.Decimal {
	switch r {
	case ToHalves:
		return v.Add(v).Round(0).Mul(decimal.Must("0.5")).Trimmed()
	case ToWhole:
		return v.Round(0)
	}
	return v
}

// percent is what marks are of those that can be had, unrounded; false where none can be had.
func percent(marks, possible decimal.Decimal) (decimal.Decimal, bool) {
	return decimal.Whole(100).Mul(marks).Div(possible)
}

// GradeColumns are the columns that a gradebook can have; criteria are one each.
var GradeColumns = []string{"name", "bench", "unknown", "late", "answer", "criteria", "total", "percent", "released", "slips"}

// Gradebook is the table of marks with these columns, for those who teach there. With it
// comes everything that was awarded, in order.
func (a *Marking) Gradebook(ctx context.Context, p access.Person, class, id string, columns []string, round Rounding) (files.Gradebook, error) {
	r, err := a.Results(ctx, p, class, id)
	if err != nil {
		return files.Gradebook{}, err
	}
	words := wording.For(p.Style())
	out := files.Gradebook{Title: r.Title, Class: r.Class, Made: a.Now(), History: [][]string{}}
	if len(columns) == 0 {
		columns = GradeColumns
	}
	for _, c := range GradeColumns {
		if !slices.Contains(columns, c) {
			continue
		}
		out.Head = append(out.Head, gradeHead(words, c, r.Criteria)...)
	}
	for _, row := range r.Rows {
		var cells []files.GradeCell
		for _, c := range GradeColumns {
			if slices.Contains(columns, c) {
				cells = append(cells, row.grade(c, r.Together.Possible.Decimal, round, words)...)
			}
		}
		out.Rows = append(out.Rows, cells)
	}
	lines, err := a.MarkingLog(ctx, p, class, id)
	for _, l := range lines {
		out.History = append(out.History, []string{l.At.UTC().Format(time.RFC3339), l.Text})
	}
	return out, err
}

// gradeHead is what stands over a column of a gradebook: over that of the criteria, each.
func gradeHead(words wording.Writer, column string, criteria []view.NamedCriterion) []string {
	if column != "criteria" {
		return []string{words.Text("grade." + column)}
	}
	out := make([]string, len(criteria))
	for i, k := range criteria {
		out[i] = words.Text("grade.criterion", "title", finding.Text(k.Title), "most", finding.Exact(k.Most.Decimal, ""))
	}
	return out
}

// grade is what a report has in a column of a gradebook.
func (r ResultRow) grade(column string, possible decimal.Decimal, round Rounding, words wording.Writer) []files.GradeCell {
	text := func(t string) []files.GradeCell { return []files.GradeCell{{Text: t}} }
	number := func(v decimal.Decimal) []files.GradeCell { return []files.GradeCell{{Number: &v}} }
	yes := func(v bool) []files.GradeCell {
		if v {
			return text(words.Text("grade.yes"))
		}
		return text("")
	}
	switch column {
	case "name":
		return text(r.Name)
	case "bench":
		return text(r.Bench)
	case "unknown":
		return text(r.Unknown)
	case "late":
		return yes(r.Late)
	case "answer":
		return text(r.Answer)
	case "criteria":
		out := make([]files.GradeCell, len(r.Marks))
		for i, m := range r.Marks {
			if m != nil {
				out[i].Number = &m.Decimal
			}
		}
		return out
	case "total":
		return number(round.of(r.Total.Decimal))
	case "percent":
		share, ok := percent(r.Total.Decimal, possible)
		switch {
		case !ok:
			return text("")
		case round != ToHalves && round != ToWhole: // rounded once: 89.45 % is 89 and not 90
			return number(share.Round(1).Trimmed())
		}
		return number(round.of(share))
	case "released":
		return yes(r.Released)
	}
	return text(strings.Join(r.Slips, " "))
}

var (
	logAward   = finding.Declare("marklog.award", "who", "whom", "criterion", "before", "after", "comment")
	logScheme  = finding.Declare("marklog.scheme", "who", "revision")
	logRelease = finding.Declare("marklog.release", "who", "whom")
	logRequest = finding.Declare("marklog.request", "who", "criterion", "text")
	logAnswer  = finding.Declare("marklog.answer", "who", "criterion", "text")
	noMarks    = finding.Declare("marklog.none")
)

// result is one report with its marks. What fails in it fails there alone.
func (d *desk) result(ctx context.Context, s store.ToMark, words wording.Writer) (ResultRow, marking.Marked, error) {
	row := ResultRow{Notebook: s.Notebook, Name: access.NameFor(d.p, s.Name), Unknown: d.codes[s.Student], Late: s.Late,
		Released: d.released[versionKey(s.Notebook, s.Version)], Marks: []*decimal.Number{}, Slips: []string{}}
	if m, ok := access.Member(d.members, s.Student); ok {
		row.Bench = m.Bench
	}
	marks := marksOf(d.inForce(s, First))
	row.Total.Decimal, row.Whole = marking.Total(d.scheme, marks)
	for _, c := range d.scheme.Criteria {
		if v, ok := marks[c.ID]; ok {
			row.Marks = append(row.Marks, view.Shown(&v))
		} else {
			row.Marks = append(row.Marks, nil)
		}
	}
	m := marking.Marked{Notebook: s.Notebook, Marks: marks, Unknown: row.Unknown, Bench: row.Bench}
	report, err := d.report(ctx, s)
	if err != nil {
		if ctx.Err() != nil {
			return row, m, err
		}
		return row, m, nil // it is said on the desk
	}
	ev := report.Evaluation
	for _, step := range ev.Work {
		if step.Slip != "" {
			m.Slips, row.Slips = append(m.Slips, step.Slip), append(row.Slips, words.Text(step.Slip))
		}
	}
	if r := ev.Result; r != nil && !r.Single {
		row.Answer = words.Value(finding.Quantity(r.Answer))
		if r.Reference != nil {
			m.Answer, m.Compared = r.Reference.Percent, true
		}
	}
	if spread := ev.Agreement.Spread; spread != nil && ev.Agreement.Unit == "mL" {
		m.Spread, m.Measured = spread.Float64(), true
	}
	return row, m, nil
}
