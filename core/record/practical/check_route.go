package practical

import (
	"fmt"
	"slices"

	"exactflask/core/chemistry/glass"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// checkRoute parses the route and finds one that cannot be: this is the only
// place that says what a route may look like.
func (r *Ready) checkRoute() *finding.Fault {
	if len(r.Route) == 0 {
		return routeEmpty.Fault("route")
	}
	r.Route = slices.Clone(r.Route)
	for i := range r.Route {
		s := &r.Route[i]
		path := fmt.Sprintf("route[%d]", i)
		if f := s.complete(path); f != nil {
			return f
		}
		if f := r.checkPlace(path, i); f != nil {
			return f
		}
		step := ReadyStep{RouteStep: *s, Salt: r.Analyte, SaltRatio: [2]int{1, 1}}
		var f *finding.Fault
		switch {
		case s.Kind == Excess:
			f = r.checkExcess(path, &step)
		case (s.Kind == Weigh || s.Kind == Tablets) && s.Formula != "":
			f = r.checkSalt(path, &step)
		}
		if f != nil {
			return f
		}
		r.Steps = append(r.Steps, step)
	}
	return nil
}

// complete checks a step of the route by itself, and fills in what is left out.
func (s *RouteStep) complete(path string) *finding.Fault {
	if f := choice(path+".kind", &s.Kind, Weigh, Tablets, Pipette, MakeUp, Aliquot, Excess); f != nil {
		return f
	}
	by := ByPipette
	if s.Kind == MakeUp {
		by = ByFlask
	}
	if s.By == "" && s.Measures() {
		s.By = by
	}
	if s.Measures() {
		if f := choice(path+".by", &s.By, ByPipette, ByFlask, ByCylinder, ByBurette); f != nil {
			return f
		}
		if s.Class == "" {
			s.Class = glass.ClassB
		}
		if s.Class != glass.ClassA && s.Class != glass.ClassB {
			return badChoice.Fault(path+".class", finding.Text(string(s.Class)),
				finding.List(finding.Text("A"), finding.Text("B")))
		}
	}
	switch {
	case s.Volume.Sign() < 0, s.Volume.Cmp(maxVolume) > 0, s.Mass.Sign() < 0, s.Mass.Cmp(maxMass) > 0, s.Count < 0, s.Count > 1000:
		return routeRange.Fault(path)
	case s.Within.Sign() < 0, s.Within.Sign() > 0 && s.Within.Cmp(s.Volume) >= 0:
		return routeRange.Fault(path + ".tolerance")
	case s.Kind == Tablets && s.Count < 1:
		return routeCount.Fault(path + ".count")
	case s.Measures() && s.Volume.Sign() <= 0 && !s.ByBlank:
		return routeVolume.Fault(path + ".volume")
	case s.By == ByBurette && (s.Kind == MakeUp || s.Kind == Aliquot):
		return routeBurette.Fault(path + ".by")
	case s.EachTrial && s.Kind != Weigh:
		return routeEach.Fault(path + ".eachTrial")
	}
	return nil
}

// checkPlace checks a step of the route by those before it.
func (r *Ready) checkPlace(path string, i int) *finding.Fault {
	s := r.Route[i]
	switch {
	case s.Head() && i != 0:
		return routeHead.Fault(path)
	case !s.Head() && i == 0:
		return routeFirst.Fault(path)
	case s.Kind == Aliquot && r.Route[i-1].Kind != MakeUp:
		return routePortion.Fault(path)
	case s.Kind == Aliquot && s.Volume.Cmp(r.Route[i-1].Volume) > 0:
		return routeTooMuch.Fault(path, finding.Exact(s.Volume, quantity.Millilitre),
			finding.Exact(r.Route[i-1].Volume, quantity.Millilitre))
	}
	return nil
}

func (r *Ready) checkExcess(path string, s *ReadyStep) *finding.Fault {
	if r.UnknownInBurette {
		return excessPlace.Fault(path)
	}
	if r.Excess() >= 0 {
		return excessTwice.Fault(path)
	}
	eq, f := balancedAt(path+".equation", s.Equation)
	if f != nil {
		return f
	}
	reagent, f := formulaAt(path+".formula", s.Formula)
	if f != nil {
		return f
	}
	if end := r.Reactions[len(r.Reactions)-1].To; !reagent.Same(end) {
		return excessOther.Fault(path+".formula", finding.Formula(end.Plain()), finding.Formula(reagent.Plain()))
	}
	if !s.ByBlank && s.Concentration.Sign() <= 0 {
		return excessStrength.Fault(path + ".concentration")
	}
	s.Reaction, f = reactionAt(eq, reagent, path+".equation", r.Analyte, path+".equation")
	return f
}

// checkSalt relates what is weighed to the analyte by the atoms they share.
func (r *Ready) checkSalt(path string, s *ReadyStep) *finding.Fault {
	return r.saltOf(path, r.Analyte, s)
}

// checkChain sees that the reactions lead from the titrant to the analyte.
func (r *Ready) checkChain() *finding.Fault {
	end := r.Reactions[len(r.Reactions)-1].To
	if i := r.Excess(); i >= 0 {
		end = r.Steps[i].Reaction.To
	}
	if !end.Same(r.Analyte) {
		return leadsElsewhere.Fault("chemistry.analyte.formula", finding.Formula(r.Titrant.Plain()),
			finding.Formula(end.Plain()), finding.Formula(r.Analyte.Plain()))
	}
	return nil
}

func (r *Ready) checkKnown() *finding.Fault {
	known, unknown, knownAt, unknownAt := r.Known(), r.Unknown(), "chemistry.titrant", "chemistry.analyte"
	if r.UnknownInBurette {
		knownAt, unknownAt = unknownAt, knownAt
	}
	weighed := r.UnknownInBurette && r.Weighs() // known by its mass
	if !weighed && (known.Concentration.Sign() <= 0 || known.Concentration.Cmp(maxKnown) > 0) {
		return needsKnown.Fault(knownAt + ".concentration")
	}
	if !unknown.Concentration.IsZero() {
		return bothKnown.Fault(unknownAt + ".concentration")
	}
	for _, v := range [...]struct {
		path  string
		value decimal.Decimal
	}{{unknownAt + ".approximate", unknown.Approximate}, {knownAt + ".uncertainty",
		known.Uncertainty}, {knownAt + ".purity", known.Purity},
		{knownAt + ".puritySpread", known.PuritySpread}, {"asked.reference", r.Asked.Reference}, {"asked.expected",
			r.Asked.Expected},
		{"asked.expectedSecond", r.Asked.Second}, {"asked.expectedTitre", r.Asked.Titre}, {"asked.density",
			r.Asked.Density}, {"asked.nominal", r.Asked.Nominal}} {
		if v.value.Sign() < 0 {
			return negative.Fault(v.path)
		}
	}
	return nil
}
