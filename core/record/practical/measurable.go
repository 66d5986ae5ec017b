package practical

import (
	"exactflask/core/record/journal"
	"exactflask/core/values/decimal"
	"exactflask/core/values/quantity"
)

// Measurable is something that the practical gives and that a student may measure: what was
// measured takes its place.
type Measurable struct {
	journal.OwnKey
	Nominal decimal.Decimal // as the practical gives it; zero where it does not
	Unit    quantity.Unit   // empty for degrees Celsius
}

// Measurable are all of a practical, along the route and then what is known of the sample: the
// mass of one tablet, where no mass is weighed in every trial; each volume that no burette
// measures, also those of a solution that is only made; a density, where the answer uses it; what the label says, where the practical says in
// which unit; the temperature. Of several samples each has its own, and one value would be said of
// all of them: only the temperature is.
func (r *Ready) Measurable() []Measurable {
	var out []Measurable
	add := func(what journal.Quality, step int, nominal decimal.Decimal, unit quantity.Unit) {
		out = append(out, Measurable{journal.OwnKey{What: what, Step: step}, nominal, unit})
	}
	for i, s := range r.Steps {
		switch {
		case len(r.Samples) > 0:
		case s.Kind == Tablets && !s.EachTrial:
			each, _ := s.Mass.Div(decimal.Whole(int64(s.Count)))
			add(journal.OwnTablet, 0, each.RoundFigures(max(s.Mass.Figures(), 1)), quantity.Gram)
		case s.Measures() && s.By != ByBurette && !s.ByBlank:
			add(journal.OwnVolume, i+1, s.Volume, quantity.Millilitre)
		}
	}
	if r.MadeOnly() { // its volumes are the only ones; those of a stock that is made up first are written down with it
		for i, s := range r.Made {
			if s.Measures() && (i > 1 || r.WeighsStandard()) {
				add(journal.OwnVolume, i+1, s.Volume, quantity.Millilitre)
			}
		}
	}
	if r.usesDensity() && len(r.Samples) == 0 {
		add(journal.OwnDensity, 0, r.Asked.Density, quantity.GramPerML)
	}
	if l := r.Asked.Label; l.Unit != "" && l.Unit.SameDimension(r.Asked.Unit) && len(r.Samples) == 0 { // what it says is for students to read
		add(journal.OwnLabel, 0, decimal.Decimal{}, l.Unit)
	}
	if r.MadeOnly() { // nothing in the answer turns on how warm it is
		return out
	}
	add(journal.OwnTemperature, 0, decimal.Decimal{}, "")
	return out
}

// usesDensity tells whether the answer is worked out with the density of the sample: a mass
// fraction of a solution, and a liquid that was weighed and whose volume is asked about.
func (r *Ready) usesDensity() bool {
	return r.Asked.What == MassFraction || r.weighedLiquid()
}

// weighedLiquid tells whether the answer is about the volume of something that was weighed.
func (r *Ready) weighedLiquid() bool {
	return !r.UnknownInBurette && r.Asked.What.ofVolume() && r.Weighs()
}
