package experiment

import (
	"math"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// What a result cannot be, each with the slip that is likeliest to have led
// there.
var (
	overHundred   = finding.Declare("result.over-hundred", "answer", "slip")
	noSuchWater   = finding.Declare("result.no-such-water", "answer", "slip")
	noSuchMass    = finding.Declare("result.no-such-molar-mass", "answer", "slip")
	beyondStock   = finding.Declare("result.beyond-stock", "answer", "most", "slip")
	beyondSoluble = finding.Declare("result.beyond-solubility", "answer", "most", "slip")
	wholeWithin   = finding.Declare("result.whole-within", "answer", "count")
	wholeBeyond   = finding.Declare("result.whole-beyond", "answer", "count", "uncertainty")
	likeliest     = finding.Family("result.slip-", []string{"thousand", "ten", "two", "route", "mass"})
)

// Limits of what is believed. A molar mass of an acid lies between those of
// hydrogen fluoride (20.0 g/mol) and of the large fatty and bile acids; no usual
// hydrate holds more than 12 molecules of water. Source: general chemistry.
const (
	mostWater     = 12.5
	leastAcidMass = 20.0   // g/mol
	mostAcidMass  = 1000.0 // g/mol
)

// plausibility finds answers that cannot be.
func plausibility(p *practical.Ready, r *evaluation.Result) []finding.Finding {
	v := r.Answer.Value
	answer := finding.Quantity(r.Answer)
	say := func(c finding.Code, by float64, values ...finding.Value) []finding.Finding {
		values = append(append([]finding.Value{answer}, values...), slip(by))
		return []finding.Finding{c.Finding(finding.Warning, "", values...)}
	}
	switch r.What {
	case practical.PurityOf, practical.MassFraction:
		if v > 100+p.Norms().Of(practical.OverHundred)+spread(r) {
			return say(overHundred, v/100)
		}
	case practical.Water:
		if v < -spread(r) || v > mostWater {
			return say(noSuchWater, 0)
		}
		return whole(r, answer)
	case practical.MolarMass:
		if v < leastAcidMass || v > mostAcidMass {
			by := leastAcidMass / v
			if v > mostAcidMass {
				by = v / mostAcidMass
			}
			return say(noSuchMass, by)
		}
	case practical.MassConcentration:
		if r.Answer.Unit == quantity.PercentWV && v > 100 {
			return say(overHundred, v/100)
		}
		return solution(p, r, say)
	case practical.Concentration:
		return solution(p, r, say)
	}
	return nil
}

// spread is the expanded uncertainty, where it was asked for.
func spread(r *evaluation.Result) float64 {
	if r.Budget == nil {
		return 0
	}
	return r.Budget.Expanded
}

// whole says of a hydrate's x whether the whole number lies within the
// uncertainty; nothing while that is not known.
func whole(r *evaluation.Result, answer finding.Value) []finding.Finding {
	if r.Budget == nil || r.Whole == nil {
		return nil
	}
	n := finding.Count(int(*r.Whole))
	if math.Abs(r.Answer.Value-*r.Whole) <= r.Budget.Expanded {
		r.Nearest = "within"
		return []finding.Finding{wholeWithin.Finding(finding.Note, "", answer, n)}
	}
	r.Nearest = "beyond"
	return []finding.Finding{wholeBeyond.Finding(finding.Check, "", answer, n,
		finding.Number(r.Budget.Expanded, 2, ""))}
}

// solution compares a concentration with what the bought reagent has, or with
// what dissolves at all.
func solution(p *practical.Ready, r *evaluation.Result, say func(finding.Code, float64, ...finding.Value) []finding.Finding,
) []finding.Finding {
	f, err := chem.ParseFormula(r.Of)
	if err != nil {
		return nil
	}
	s, ok := catalog.BuiltIn().Substance(f)
	molar := f.MolarMass().Float64()
	if !ok || molar <= 0 {
		return nil
	}
	c, err := r.Answer.In(quantity.MolePerL)
	if err != nil {
		g, err := r.Answer.In(quantity.GramPerL)
		if err != nil || p.Asked.As != "" {
			return nil
		}
		c = quantity.Quantity{Value: g.Value / molar}
	}
	most, code := s.Solubility.Float64()*10/molar, beyondSoluble
	if s.Stock != nil {
		most, code = s.Stock.Percent.Float64()*s.Stock.Density.Float64()*10/molar, beyondStock
	}
	if most > 0 && c.Value > most*1.05 {
		return say(code, c.Value/most, finding.Number(most, 2, quantity.MolePerL))
	}
	return nil
}

// slip names what is likeliest behind an answer that is this many times too
// large for what can be; 0 where it is no matter of a factor.
func slip(by float64) finding.Value {
	kind := "route"
	switch {
	case by == 0:
		kind = "mass"
	case by > 90:
		kind = "thousand"
	case by > 3:
		kind = "ten"
	case by > 1.3:
		kind = "two"
	}
	return finding.Said(likeliest[kind].Message())
}
