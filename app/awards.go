package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

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
	Criterion string   `json:"criterion" maxLength:"40"`
	Marks     *float64 `json:"marks,omitempty" doc:"left out: what was awarded is taken back"`
	Comment   string   `json:"comment,omitempty" maxLength:"1000"`
	Undo      bool     `json:"undo,omitempty" doc:"an earlier award is put back"`
	Follows   int64    `json:"follows" doc:"id of the award that the marker sees; 0: none"`
}

// Award gives marks for criteria of a report, all or none of them.
//
// Errors: a *finding.Fault where somebody else awarded one of them meanwhile: nobody
// overwrites what they have not seen.
func (a *App) Award(ctx context.Context, p Person, notebook string, reading Reading, given []NewAward) (MarkSheet, error) {
	d, s, o, err := a.toMarkOf(ctx, p, notebook)
	if err != nil {
		return MarkSheet{}, err
	}
	if err := allowed(p, MarkReports, o.Class); err != nil {
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
		row, err := d.award(s, reading, g, proposals)
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
	if err := d.read(ctx); err != nil {
		return MarkSheet{}, err
	}
	if reading == First && d.released[versionKey(notebook, s.Version)] {
		a.around(o.book)
	}
	return d.sheet(ctx, s, reading)
}

// award checks what is given for a criterion.
func (d *desk) award(s store.ToMark, reading Reading, g NewAward, proposals []marking.Proposal) (store.Award, error) {
	at := slices.IndexFunc(d.scheme.Criteria, func(c practical.Criterion) bool { return c.ID == g.Criterion })
	if at < 0 {
		return store.Award{}, awardCriterion.Fault("criterion", finding.Text(g.Criterion))
	}
	comment, fault := comment(g.Comment)
	if fault != nil {
		return store.Award{}, fault
	}
	out := store.Award{Notebook: s.Notebook, Version: s.Version, Criterion: g.Criterion, Reading: int(reading), Comment: comment, How: "awarded",
		Person: d.p.ID, By: d.p.Name, Made: d.a.now(), Follows: g.Follows}
	first, second := d.inForce(s, First)[g.Criterion], d.inForce(s, Second)[g.Criterion]
	// Each of the two is another person; once both are there, the marks that count are changed
	// after talking.
	if reading == Second && first.Person == d.p.ID || reading == First && first.ID == 0 && second.Person == d.p.ID {
		return out, awardSecond.Fault("criterion")
	}
	if g.Marks != nil {
		marks, ok := decimal.FromFloat(*g.Marks)
		if c := d.scheme.Criteria[at]; !ok || marks.Sign() < 0 || marks.Cmp(c.Marks) > 0 || !marks.IsZero() && !marks.MultipleOf(decimal.Must("0.25")) {
			return out, awardMarks.Fault("marks", finding.Exact(c.Marks, ""))
		}
		out.Marks = marks.String()
		if p := proposals[at]; p.Marks != nil && p.Marks.Cmp(marks) == 0 {
			out.How = "accepted"
		}
	}
	if g.Undo {
		out.How = "undone"
	}
	return out, nil
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
func (a *App) keepAwards(ctx context.Context, d *desk, rows []store.Award) error {
	return a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
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
			now := inForce(all, row.Notebook, row.Version, Reading(row.Reading))[row.Criterion]
			if now.Person == row.Person && now.Follows == row.Follows && now.Marks == row.Marks && now.Comment == row.Comment {
				continue // sent again: the answer to it was lost on the way
			}
			return awardNewer.Fault(fmt.Sprintf("awards[%d].criterion", i), finding.Text(nameFor(d.p, now.By)), finding.Text(now.Marks))
		}
		return nil
	})
}

// Together accepts the proposals of a criterion for several reports at once: those that
// are full and certain, and that nobody awarded yet. It returns how many those are.
func (a *App) Together(ctx context.Context, p Person, class, id, criterion string, notebooks []string) (int, error) {
	if err := allowed(p, MarkReports, class); err != nil {
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
		if !slices.Contains(notebooks, s.Notebook) || last.Marks != "" {
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
		rows = append(rows, store.Award{Notebook: s.Notebook, Version: s.Version, Criterion: criterion, Reading: int(First), Marks: proposal.Marks.String(),
			Comment: last.Comment, How: "together", Person: p.ID, Made: a.now(), Follows: last.ID})
	}
	return len(rows), a.keepAwards(ctx, d, rows)
}

// SchemeEffect is what another scheme would change of one report.
type SchemeEffect struct {
	Notebook string   `json:"notebook"`
	Name     string   `json:"name"`
	Was      float64  `json:"was" doc:"awarded, and proposed where nothing is awarded"`
	Is       float64  `json:"is"`
	Criteria []string `json:"criteria" doc:"titles of those that change"`
	Kept     int      `json:"kept" doc:"awards by a person, which stay as they are"`
}

// TryScheme says what a scheme would change, for whom; nothing is kept.
func (a *App) TryScheme(ctx context.Context, p Person, class, id string, s practical.Scheme) ([]SchemeEffect, error) {
	d, err := a.deskOf(ctx, p, class, id)
	if err != nil {
		return nil, err
	}
	if fault := d.ready.CheckScheme(s); fault != nil {
		return nil, fault.In("scheme")
	}
	return d.effects(ctx, s)
}

func (d *desk) effects(ctx context.Context, s practical.Scheme) ([]SchemeEffect, error) {
	out := []SchemeEffect{}
	titles := map[string]string{}
	for _, c := range append(view.Criteria(d.ready, d.scheme, d.p.Style()), view.Criteria(d.ready, s, d.p.Style())...) {
		titles[c.ID] = c.Title
	}
	for _, t := range d.toMark {
		report, err := d.report(ctx, t)
		if ctx.Err() != nil {
			return nil, err
		}
		if err != nil {
			continue // it is said on the desk
		}
		awards := marksOf(d.inForce(t, First))
		before, after := standing(d.scheme, report, awards), standing(s, report, awards)
		e := SchemeEffect{Notebook: t.Notebook, Name: nameFor(d.p, t.Name), Criteria: []string{}, Kept: len(awards)}
		for id, v := range before {
			e.Was += v
			if now, there := after[id]; !there || now != v {
				e.Criteria = append(e.Criteria, titles[id])
			}
		}
		for id, v := range after {
			e.Is += v
			if _, there := before[id]; !there {
				e.Criteria = append(e.Criteria, titles[id])
			}
		}
		slices.Sort(e.Criteria)
		if len(e.Criteria) > 0 {
			out = append(out, e)
		}
	}
	return out, nil
}

// standing are the marks of a report: awarded, and proposed where nothing is awarded.
func standing(s practical.Scheme, r marking.Report, awards map[string]float64) map[string]float64 {
	out := map[string]float64{}
	for _, p := range marking.Evaluate(s, r) {
		if v, ok := awards[p.Criterion]; ok {
			out[p.Criterion] = v
		} else if p.Marks != nil {
			out[p.Criterion] = p.Marks.Float64()
		} else {
			out[p.Criterion] = 0
		}
	}
	return out
}

// SetScheme changes the scheme by which a class is marked; awards stay as they are.
// revision is the one that was changed.
func (a *App) SetScheme(ctx context.Context, p Person, class, id string, s practical.Scheme, revision int) error {
	if err := allowed(p, ReleaseMarks, class); err != nil {
		return err
	}
	ready, err := a.onceSet(ctx, class, id)
	if err != nil {
		return err
	}
	if fault := ready.CheckScheme(s); fault != nil {
		return fault.In("scheme")
	}
	document, err := json.Marshal(s)
	if err != nil {
		return fmt.Errorf("writing a scheme: %w", err)
	}
	return a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		kept, err := q.Schemes(ctx, class, id)
		if err != nil {
			return fmt.Errorf("reading schemes: %w", err)
		}
		if n := len(kept); n != revision {
			by := ""
			if n > 0 {
				by = kept[n-1].By
			}
			return schemeNewer.Fault("revision", finding.Text(by))
		}
		return errors.Join(q.AddScheme(ctx, class, id, p.ID, store.Scheme{Revision: revision + 1, Document: document, Made: a.now()}),
			a.did(ctx, q, actScheme, p, class, "", fmt.Sprintf("%s, %d", ready.Title, revision+1)))
	})
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
func (a *App) Differences(ctx context.Context, p Person, class, id string) ([]Difference, error) {
	d, err := a.deskOf(ctx, p, class, id)
	if err != nil {
		return nil, err
	}
	out := []Difference{}
	for _, s := range d.toMark {
		first, second := d.inForce(s, First), d.inForce(s, Second)
		for _, c := range view.Criteria(d.ready, d.scheme, p.Style()) {
			one, other := first[c.ID], second[c.ID]
			if one.Marks != "" && other.Marks != "" && one.Marks != other.Marks {
				out = append(out, Difference{s.Notebook, nameFor(p, s.Name), c.Title, *awardOf(one, p), *awardOf(other, p)})
			}
		}
	}
	return out, nil
}
