package marking

import (
	"context"
	"fmt"
	"slices"

	"exactflask/app/access"
	"exactflask/core/judgement/marking"
	"exactflask/core/values/decimal"
	"exactflask/store"
	"exactflask/view"
)

// TermMarks are the marks of a class over a term.
type TermMarks struct {
	Practicals []TermPractical `json:"practicals"`
	Rows       []TermRow       `json:"rows"`
}

// TermPractical is a practical of the term.
type TermPractical struct {
	ID       string         `json:"id"`
	Title    string         `json:"title"`
	Possible decimal.Number `json:"possible"`
}

// TermRow are a student's marks; null where there are none, or not for this reader.
type TermRow struct {
	Name    string            `json:"name"`
	Totals  []*decimal.Number `json:"totals"`
	Percent *decimal.Number   `json:"percent,omitempty" doc:"mean of the practicals that have marks"`
}

// Term is what students were given in each practical of a class: for those who teach
// there of all; for a student the own marks that are released.
func (a *Marking) Term(ctx context.Context, p access.Person, class string) (TermMarks, error) {
	if err := access.Allowed(p, access.SeeClass, class); err != nil {
		return TermMarks{}, err
	}
	teaches := p.RoleIn(class).Teaches()
	assigned, err := a.Store.Read().AssignmentsOfClass(ctx, class)
	if err != nil {
		return TermMarks{}, fmt.Errorf("reading practicals: %w", err)
	}
	members, err := a.Store.Read().Members(ctx, class)
	if err != nil {
		return TermMarks{}, fmt.Errorf("reading the people of a class: %w", err)
	}
	out := TermMarks{Practicals: []TermPractical{}, Rows: []TermRow{}}
	rows := map[string]int{}
	for _, m := range members {
		if access.Role(m.Role) == access.Student && (teaches || m.ID == p.ID) {
			rows[m.ID] = len(out.Rows)
			out.Rows = append(out.Rows, TermRow{Name: access.NameFor(p, m.Name), Totals: []*decimal.Number{}})
		}
	}
	shares := make([][]decimal.Decimal, len(out.Rows))
	for _, s := range assigned {
		if s.Err != nil || !teaches && !a.practicals.IsOpen(s.Times) {
			continue
		}
		ready, err := a.practicals.Checked(s.Practical)
		if err != nil {
			continue // it is said where it is opened
		}
		d := &desk{a: a, p: p, class: class, ready: ready, released: map[string]bool{}}
		if d.scheme, d.revision, err = a.schemeOf(ctx, class, ready); err == nil {
			err = d.read(ctx)
		}
		if err != nil {
			return TermMarks{}, err
		}
		if teaches || d.anyReleased(p.ID) {
			out.add(d, rows, shares)
		}
	}
	for i, each := range shares {
		if mean, ok := decimal.Mean(each...); ok && len(each) > 0 {
			out.Rows[i].Percent = &decimal.Number{Decimal: mean.Round(1).Trimmed()}
		}
	}
	return out, nil
}

// add adds a practical with what each of the rows was given in it; shares collect what that
// is of what could be had, %.
func (out *TermMarks) add(d *desk, rows map[string]int, shares [][]decimal.Decimal) {
	possible := d.scheme.Total()
	out.Practicals = append(out.Practicals, TermPractical{d.ready.ID, d.ready.Title, decimal.Number{Decimal: possible}})
	totals := make([]*decimal.Number, len(out.Rows))
	for _, t := range d.toMark {
		i, there := rows[t.Student]
		sum, whole := marking.Total(d.scheme, marksOf(d.inForce(t, First)))
		if !there || !whole || !d.p.RoleIn(d.class).Teaches() && !d.released[versionKey(t.Notebook, t.Version)] {
			continue
		}
		totals[i] = view.Shown(&sum)
		if share, ok := percent(sum, possible); ok {
			shares[i] = append(shares[i], share)
		}
	}
	for i := range out.Rows {
		out.Rows[i].Totals = append(out.Rows[i].Totals, totals[i])
	}
}

func (d *desk) anyReleased(student string) bool {
	return slices.ContainsFunc(d.toMark, func(s store.ToMark) bool {
		return s.Student == student && d.released[versionKey(s.Notebook, s.Version)]
	})
}
