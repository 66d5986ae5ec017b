package marking

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"exactflask/app/access"
	"exactflask/core/judgement/marking"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/store"
	"exactflask/view"
)

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
		e := SchemeEffect{Notebook: t.Notebook, Name: access.NameFor(d.p, t.Name), Criteria: []string{}, Kept: len(awards)}
		for id, v := range before {
			e.Was.Decimal = e.Was.Add(v)
			if now, there := after[id]; !there || now.Cmp(v) != 0 {
				e.Criteria = append(e.Criteria, titles[id])
			}
		}
		for id, v := range after {
			e.Is.Decimal = e.Is.Add(v)
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

// schemeOf is the scheme by which a class is marked, and its revision.
func (a *Marking) schemeOf(ctx context.Context, class string, ready *practical.Ready) (practical.Scheme, int, error) {
	kept, err := a.Store.Read().Schemes(ctx, class, ready.ID)
	if err != nil {
		return practical.Scheme{}, 0, fmt.Errorf("reading schemes: %w", err)
	}
	if len(kept) == 0 {
		return marking.Of(ready), 0, nil
	}
	last := kept[len(kept)-1]
	var s practical.Scheme
	if err := json.Unmarshal(last.Document, &s); err != nil {
		return practical.Scheme{}, 0, fmt.Errorf("reading a scheme: %w", err)
	}
	return s, last.Revision, nil
}

// Whole tells of reports of a practical in a class whether they are wholly marked, by the criteria that were
// awarded: a scheme may have been changed since.
func (a *Marking) Whole(ctx context.Context, class string, ready *practical.Ready) (func(awarded []string) bool, error) {
	scheme, _, err := a.schemeOf(ctx, class, ready)
	return func(awarded []string) bool {
		marks := map[string]decimal.Decimal{}
		for _, criterion := range awarded {
			marks[criterion] = decimal.Decimal{}
		}
		_, whole := marking.Total(scheme, marks)
		return whole
	}, err
}

// SchemeEffect is what another scheme would change of one report.
type SchemeEffect struct {
	Notebook string         `json:"notebook"`
	Name     string         `json:"name"`
	Was      decimal.Number `json:"was" doc:"awarded, and proposed where nothing is awarded"`
	Is       decimal.Number `json:"is"`
	Criteria []string       `json:"criteria" doc:"titles of those that change"`
	Kept     int            `json:"kept" doc:"awards by a person, which stay as they are"`
}

// TryScheme says what a scheme would change, for whom; nothing is kept.
func (a *Marking) TryScheme(ctx context.Context, p access.Person, class, id string, s practical.Scheme) ([]SchemeEffect, error) {
	d, err := a.deskOf(ctx, p, class, id)
	if err != nil {
		return nil, err
	}
	if fault := d.ready.CheckScheme(s); fault != nil {
		return nil, fault.In("scheme")
	}
	return d.effects(ctx, s)
}

// SetScheme changes the scheme by which a class is marked; awards stay as they are.
// revision is the one that was changed.
func (a *Marking) SetScheme(ctx context.Context, p access.Person, class, id string, s practical.Scheme, revision int) error {
	if err := access.Allowed(p, access.ReleaseMarks, class); err != nil {
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
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
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
		return errors.Join(q.AddScheme(ctx, class, id, p.ID, store.Scheme{Revision: revision + 1, Document: document, Made: a.Now()}),
			a.Did(ctx, q, access.ActScheme, p, class, "", fmt.Sprintf("%s, %d", ready.Title, revision+1)))
	})
}

// standing are the marks of a report: awarded, and proposed where nothing is awarded.
func standing(s practical.Scheme, r marking.Report, awards map[string]decimal.Decimal) map[string]decimal.Decimal {
	out := map[string]decimal.Decimal{}
	for _, p := range marking.Evaluate(s, r) {
		if v, ok := awards[p.Criterion]; ok {
			out[p.Criterion] = v
		} else if p.Marks != nil {
			out[p.Criterion] = *p.Marks
		} else {
			out[p.Criterion] = decimal.Decimal{}
		}
	}
	return out
}
