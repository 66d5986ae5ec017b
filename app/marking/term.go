package marking

import (
	"context"
	"fmt"
	"math"
	"slices"

	"exactflask/app/access"
	"exactflask/core/judgement/marking"
	"exactflask/store"
)

// TermMarks are the marks of a class over a term.
type TermMarks struct {
	Practicals []TermPractical `json:"practicals"`
	Rows       []TermRow       `json:"rows"`
}

// TermPractical is a practical of the term.
type TermPractical struct {
	ID       string  `json:"id"`
	Title    string  `json:"title"`
	Possible float64 `json:"possible"`
}

// TermRow are a student's marks; null where there are none, or not for this reader.
type TermRow struct {
	Name    string     `json:"name"`
	Totals  []*float64 `json:"totals"`
	Percent *float64   `json:"percent,omitempty" doc:"mean of the practicals that have marks"`
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
			out.Rows = append(out.Rows, TermRow{Name: access.NameFor(p, m.Name), Totals: []*float64{}})
		}
	}
	sums, counts := make([]float64, len(out.Rows)), make([]float64, len(out.Rows))
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
		if !teaches && !d.anyReleased(p.ID) {
			continue
		}
		possible := d.scheme.Total().Float64()
		out.Practicals = append(out.Practicals, TermPractical{ready.ID, ready.Title, possible})
		totals := make([]*float64, len(out.Rows))
		for _, t := range d.toMark {
			i, there := rows[t.Student]
			sum, whole := marking.Total(d.scheme, marksOf(d.inForce(t, First)))
			if !there || !whole || !teaches && !d.released[versionKey(t.Notebook, t.Version)] {
				continue
			}
			totals[i] = &sum
			if possible > 0 {
				sums[i], counts[i] = sums[i]+100*sum/possible, counts[i]+1
			}
		}
		for i := range out.Rows {
			out.Rows[i].Totals = append(out.Rows[i].Totals, totals[i])
		}
	}
	for i := range out.Rows {
		if counts[i] > 0 {
			mean := math.Floor(10*sums[i]/counts[i]+0.5) / 10
			out.Rows[i].Percent = &mean
		}
	}
	return out, nil
}

func (d *desk) anyReleased(student string) bool {
	return slices.ContainsFunc(d.toMark, func(s store.ToMark) bool {
		return s.Student == student && d.released[versionKey(s.Notebook, s.Version)]
	})
}
