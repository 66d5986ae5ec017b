package plan

import (
	"math"
	"slices"

	"exactflask/core/model/curve"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// propose finds what brings a titre into the best part of the burette.
func (a *Assessment) propose(o curve.Outline, capacity float64) {
	if a.Range == RangeBest {
		return
	}
	norms := o.Ready.Norms()
	aim := norms.Part(practical.BestAim) * capacity
	best := func(titre float64) bool { return rangeOf(norms, titre, capacity) == RangeBest }
	add := func(what string, value, titre float64, changed practical.Practical) {
		if changed.Asked.Titre.Sign() > 0 {
			changed.Asked.Titre = number(titre, 2)
		}
		said := proposals[what].Message(finding.Number(value, 3, proposalUnits[what]),
			finding.Volume(titre))
		if times, ok := decimal.FromFloat(value); ok && what == "dilution" { // a number of times is exact
			said.Values["value"] = finding.Exact(times, quantity.One)
		}
		a.Proposals = append(a.Proposals, Proposal{what, value, titre, said, changed})
	}
	last := len(o.Ready.Route) - 1
	if portion, ok := o.Ready.Aliquot(); ok && portion.By != practical.ByBurette {
		now, closest, value := portion.Volume.Float64(), math.Inf(1), 0.0
		for _, v := range portions {
			if titre := a.Titre * v / now; best(titre) && v != now && math.Abs(titre-aim) < closest {
				closest, value = math.Abs(titre-aim), v
			}
		}
		if value > 0 {
			changed := o.Ready.Practical
			changed.Route = slices.Clone(changed.Route)
			changed.Route[last].Volume = number(value, 2)
			add("aliquot", value, a.Titre*value/now, changed)
		}
	}
	known := o.Ready.Chemistry.Titrant.Concentration
	if d, ok := decimal.FromFloat(known.Float64() * a.Titre / aim); ok && known.Sign() > 0 {
		c := d.RoundFigures(1)
		if titre := a.Titre * known.Float64() / c.Float64(); best(titre) && c.Float64() <= 5 {
			for c.Figures() < known.Figures() { // as many figures as before
				c = c.Round(c.Places() + 1)
			}
			changed := o.Ready.Practical
			changed.Chemistry.Titrant.Concentration = c
			add("titrant", c.Float64(), titre, changed)
		}
	}
	if a.Titre > norms.Part(practical.BestTo)*capacity {
		diluted(o.Ready, a.Titre, best, add)
	}
}

// diluted proposes to dilute a sample that is pipetted straight into the flask.
func diluted(r *practical.Ready, now float64, best func(titre float64) bool, add func(what string, value, titre float64, changed practical.Practical)) {
	head := r.SampleStep()
	if r.UnknownInBurette || len(r.Route) != 1 || head.Kind != practical.Pipette ||
		head.By == practical.ByBurette {
		return
	}
	for _, way := range dilutions {
		times := way.flask / way.pipette
		if titre := now / times; best(titre) {
			changed := r.Practical
			portion := head.RouteStep
			portion.Kind = practical.Aliquot
			changed.Route = []practical.RouteStep{{Kind: practical.Pipette, What: changed.Chemistry.Analyte.Name,
				Volume: number(way.pipette, 2)},
				{Kind: practical.MakeUp, Volume: number(way.flask, 1)}, portion}
			if c, ok := changed.Chemistry.Analyte.Approximate.Div(number(times, 1)); ok && c.Sign() > 0 {
				changed.Chemistry.Analyte.Approximate = c.RoundFigures(3)
			}
			add("dilution", times, titre, changed)
			return
		}
	}
}

var (
	proposals       = finding.Family("plan.proposal.", []string{"aliquot", "titrant", "dilution"}, "value", "titre")
	proposalUnits   = map[string]quantity.Unit{"aliquot": quantity.Millilitre, "titrant": quantity.MolePerL}
	moreFigures     = finding.Declare("plan.proposal.figures", "of", "written", "low", "high", "offered")
	nominalStrength = finding.Declare("plan.nominal-strength", "of", "written", "percent")
	fewFigures      = finding.Declare("plan.few-figures", "of", "written", "low", "high")
)

// figures finds concentrations written with too few figures, whose last digit
// would be all of the uncertainty, and offers them with more.
func (a *Assessment) figures(r *practical.Ready) {
	enough := r.Norms().Count(practical.EnoughFigures) // that an answer of three is to come from
	look := func(of string, c decimal.Decimal, write func(*practical.Practical, decimal.Decimal)) {
		if c.Sign() <= 0 || c.Figures() >= enough {
			return
		}
		offered, changed := c, r.Practical
		for offered.Figures() < enough {
			offered = offered.Round(offered.Places() + 1)
		}
		write(&changed, offered)
		formula, written := finding.Formula(of), finding.Exact(c, quantity.MolePerL)
		half, nominal := r.Sure(c)
		off, _ := decimal.FromFloat(half)
		low, high := finding.Exact(c.Sub(off.RoundFigures(2)), quantity.MolePerL), finding.Exact(c.Add(off.RoundFigures(2)), quantity.MolePerL)
		said := fewFigures.Finding(finding.Check, "", formula, written, low, high)
		if nominal {
			said = nominalStrength.Finding(finding.Check, "", formula, written, r.Norms().Said(practical.NominalShare))
		}
		a.Findings = append(a.Findings, said)
		a.Proposals = append(a.Proposals, Proposal{"figures", c.Float64(), a.Titre, moreFigures.Message(formula, written, low,
			high, finding.Exact(offered, quantity.MolePerL)), changed})
	}
	if known := r.Known(); known.Uncertainty.IsZero() && r.Chemistry.Standard == "" {
		look(known.Formula, known.Concentration, func(p *practical.Practical, c decimal.Decimal) {
			if r.UnknownInBurette {
				p.Chemistry.Analyte.Concentration = c
				return
			}
			p.Chemistry.Titrant.Concentration = c
		})
	}
	if i := r.Excess(); i >= 0 && !r.ByBlank() {
		look(r.Steps[i].Reaction.From.Plain(), r.Steps[i].Concentration, func(p *practical.Practical, c decimal.Decimal) {
			p.Route = slices.Clone(p.Route)
			p.Route[i].Concentration = c
		})
	}
}

// portions are the volumes that pipettes come in, mL.
var portions = []float64{5, 10, 15, 20, 25, 50, 100}

func number(v float64, places int) decimal.Decimal {
	d, _ := decimal.FromFloat(v)
	return d.Round(places)
}

// dilutions are usual ways to make a sample weaker, the mildest first.
var dilutions = []struct{ pipette, flask float64 }{{50, 100}, {20, 50}, {25, 100}, {20, 100}, {25, 250}, {5, 100},
	{10, 250}, {10, 500}, {10, 1000}}
