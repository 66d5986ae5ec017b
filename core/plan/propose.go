package plan

import (
	"math"
	"slices"

	"exactflask/core/decimal"
	"exactflask/core/practical"
)

// propose finds what brings a titre into the best part of the burette.
func (a *Assessment) propose(o outline, capacity float64) {
	if a.Range == RangeBest {
		return
	}
	best := func(titre float64) bool { return rangeOf(titre, capacity) == RangeBest }
	add := func(what string, value, titre float64, changed practical.Practical) {
		if changed.Asked.Titre.Sign() > 0 {
			changed.Asked.Titre = number(titre, 2)
		}
		a.Proposals = append(a.Proposals, Proposal{what, value, titre, changed})
	}
	last := len(o.r.Route) - 1
	if portion, ok := o.r.Portion(); ok && portion.By != practical.ByBurette {
		now, closest, value := portion.Volume.Float64(), math.Inf(1), 0.0
		for _, v := range portions {
			if titre := a.Titre * v / now; best(titre) && v != now && math.Abs(titre-middle*capacity) < closest {
				closest, value = math.Abs(titre-middle*capacity), v
			}
		}
		if value > 0 {
			changed := o.r.Practical
			changed.Route = slices.Clone(changed.Route)
			changed.Route[last].Volume = number(value, 2)
			add("aliquot", value, a.Titre*value/now, changed)
		}
	}
	known := o.r.Chemistry.Titrant.Concentration
	if d, ok := decimal.FromFloat(known.Float64() * a.Titre / (middle * capacity)); ok && known.Sign() > 0 {
		c := d.RoundFigures(1)
		if titre := a.Titre * known.Float64() / c.Float64(); best(titre) && c.Float64() <= 5 {
			for c.Figures() < known.Figures() { // as many figures as before
				c = c.Round(c.Places() + 1)
			}
			changed := o.r.Practical
			changed.Chemistry.Titrant.Concentration = c
			add("titrant", c.Float64(), titre, changed)
		}
	}
	head := o.r.Steps[0]
	if a.Titre <= bestTo*capacity || o.r.UnknownInBurette || last != 0 || head.Kind != practical.Pipette || head.By == practical.ByBurette {
		return
	}
	for _, way := range dilutions {
		times := way.flask / way.pipette
		if titre := a.Titre / times; best(titre) {
			changed := o.r.Practical
			portion := head.Step
			portion.Kind = practical.Portion
			changed.Route = []practical.Step{{Kind: practical.Pipette, What: changed.Chemistry.Analyte.Name, Volume: number(way.pipette, 2)},
				{Kind: practical.MakeUp, Volume: number(way.flask, 1)}, portion}
			if c, ok := changed.Chemistry.Analyte.Approximate.Div(number(times, 1)); ok && c.Sign() > 0 {
				changed.Chemistry.Analyte.Approximate = c.RoundFigures(3)
			}
			add("dilution", times, titre, changed)
			return
		}
	}
}

// portions are the volumes that pipettes come in, mL.
var portions = []float64{5, 10, 15, 20, 25, 50, 100}

func number(v float64, places int) decimal.Decimal {
	d, _ := decimal.FromFloat(v)
	return d.Round(places)
}

// dilutions are usual ways to make a sample weaker, the mildest first.
var dilutions = []struct{ pipette, flask float64 }{{50, 100}, {20, 50}, {25, 100}, {20, 100}, {25, 250}, {5, 100}, {10, 250}, {10, 500}, {10, 1000}}
