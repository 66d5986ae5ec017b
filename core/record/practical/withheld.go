package practical

import (
	"slices"

	"exactflask/core/values/decimal"
)

// Withholding is the practical as a student receives it: without the true value, the scheme
// of marks and the answers to a school's own questions. While the expected end is hidden or
// results are withheld, also without what they can be computed from.
func (p Practical) Withholding(results bool) Practical {
	p.Asked.Reference, p.Marking = decimal.Decimal{}, Scheme{}
	p.Exercise.Own = slices.Clone(p.Exercise.Own)
	for i := range p.Exercise.Own {
		q := &p.Exercise.Own[i]
		q.Answer, q.Because, q.Within = "", "", decimal.Decimal{}
	}
	if p.Showing.HideExpected || results {
		p.Asked.Expected, p.Asked.Second, p.Asked.Titre = decimal.Decimal{}, decimal.Decimal{}, decimal.Decimal{}
		for _, s := range []*Solution{&p.Chemistry.Titrant, &p.Chemistry.Analyte} {
			s.Approximate = decimal.Decimal{}
		}
	}
	if results {
		p.Asked.Label = Label{Unit: p.Asked.Label.Unit} // a student may read it off the bottle
	}
	return p
}
