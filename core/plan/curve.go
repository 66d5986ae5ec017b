package plan

import (
	"math"
	"slices"

	"exactflask/core/catalog"
	"exactflask/core/chem"
	"exactflask/core/equilibrium"
)

func substance(s *catalog.InWater) equilibrium.Substance {
	out := equilibrium.Substance{Strong: float64(s.Strong), Top: float64(s.Top), Units: float64(s.Units)}
	for _, k := range s.PKa {
		out.PKa = append(out.PKa, k.Float64())
	}
	return out
}

// InWater finds how a substance takes part in acid-base equilibria.
func InWater(f chem.Formula) (equilibrium.Substance, bool) {
	s, ok := catalog.BuiltIn().Substance(f)
	if !ok || s.InWater == nil {
		return equilibrium.Substance{}, false
	}
	return substance(s.InWater), true
}

const points = 240

// acidBase fills in curve and indicators of an acid-base titration; false
// where it is none.
func (a *Assessment) acidBase(o outline) bool {
	titrant, okT := InWater(o.r.Titrant)
	sample, okA := InWater(o.r.Titrated)
	if !okT || !okA || o.flask.Titrant <= 0 || o.strong <= 0 {
		return false
	}
	t := equilibrium.Titration{Sample: equilibrium.Mixture{{Substance: sample, Concentration: o.strong}}, Volume: o.flask.Volume,
		Titrant: equilibrium.Mixture{{Substance: titrant, Concentration: o.flask.Titrant}}}
	acid := equilibrium.Mixture{{Substance: titrant, Concentration: o.flask.Titrant}}.PH() < 7
	eqv := o.titre.Last
	if !(eqv > 0) || eqv > 1e6 {
		return false
	}
	to := math.Max(2*eqv, eqv+5)
	c := &Curve{Kind: "pH", Points: t.Curve(to, points), Equivalence: []equilibrium.Point{{Volume: eqv, Value: t.PH(eqv)}}, Half: []equilibrium.Point{},
		Before: equilibrium.Point{Volume: eqv - 0.05, Value: t.PH(eqv - 0.05)}, After: equilibrium.Point{Volume: eqv + 0.05, Value: t.PH(eqv + 0.05)}}
	// A polyprotic sample has an equivalence for each proton, and half way to
	// each the pH is near a pKa.
	one := eqv
	if n := len(sample.PKa); n > 0 {
		// One equivalent of the titrant carries this many protons or places for
		// them, so that the first of them is at this volume.
		carried := math.Abs(titrant.Charge(7) - titrant.Charge(map[bool]float64{true: -3, false: 18}[acid]))
		if strong := math.Abs(titrant.Strong); strong > carried {
			carried = strong
		}
		if carried > 0 {
			one = o.strong * o.flask.Volume * math.Max(sample.Units, 1) / o.flask.Titrant / carried
		}
		for k := 1; k <= n; k++ {
			v := one * float64(k)
			if v < to && math.Abs(v-eqv) > 0.01*eqv {
				c.Equivalence = append(c.Equivalence, equilibrium.Point{Volume: v, Value: t.PH(v)})
			}
			if h := one * (float64(k) - 0.5); h < to {
				c.Half = append(c.Half, equilibrium.Point{Volume: h, Value: t.PH(h)})
			}
		}
	}
	a.Curve = c
	for _, i := range catalog.BuiltIn().Indicators {
		if i.Kind != catalog.AcidBase {
			continue
		}
		j := Judged{ID: i.ID, Low: i.Low.Float64(), High: i.High.Float64(), Before: i.Acid, After: i.Alkaline, Acid: acid}
		j.Stop = (j.Low + j.High) / 2
		if i.Eye != nil {
			j.Stop = i.Eye.AlkaliInBurette.Float64()
		}
		if acid {
			j.Before, j.After = j.After, j.Before
			if i.Eye != nil {
				j.Stop = i.Eye.AcidInBurette.Float64()
			}
		}
		j.End = equilibrium.Judge(t.VolumeAt, j.Stop, 0.5, eqv)
		j.Answer = j.End.Percent
		if o.r.UnknownInBurette && j.End.Percent > -99 {
			j.Answer = 100 * (eqv/(eqv+j.End.Error) - 1)
		}
		a.Indicators = append(a.Indicators, j)
	}
	a.rank(o.r.Chemistry.Indicator)
	return true
}

// redox fills in curve and indicators of a redox titration.
func (a *Assessment) redox(o outline) {
	titrant, oxidant, okT := catalog.BuiltIn().Couple(o.r.Titrant)
	sample, oxidised, okA := catalog.BuiltIn().Couple(o.r.Titrated)
	if !okT || !okA || oxidant == oxidised || o.flask.Titrant <= 0 || o.strong <= 0 {
		return
	}
	couple := func(c catalog.Couple) equilibrium.Couple {
		return equilibrium.Couple{Potential: c.Potential.Float64(), Electrons: float64(c.Electrons)}
	}
	t := equilibrium.RedoxTitration{Sample: couple(sample), Titrant: couple(titrant), Concentration: o.strong, Volume: o.flask.Volume, TitrantStrength: o.flask.Titrant, Oxidant: oxidant}
	eqv := o.titre.Last
	if !(eqv > 0) || eqv > 1e6 {
		return
	}
	at := func(v float64) equilibrium.Point { return equilibrium.Point{Volume: v, Value: t.At(v)} }
	a.Curve = &Curve{Kind: "V", Points: t.Curve(2*eqv, points), Equivalence: []equilibrium.Point{at(eqv)}, Half: []equilibrium.Point{at(eqv / 2)}, Before: at(eqv - 0.05), After: at(eqv + 0.05)}
	for _, i := range catalog.BuiltIn().Indicators {
		switch i.Kind {
		case catalog.Redox:
			e := i.Potential.Float64()
			j := Judged{ID: i.ID, Low: e - 0.06, High: e + 0.06, Stop: e, Before: i.Acid, After: i.Alkaline, Acid: true}
			if !oxidant {
				j.Before, j.After = j.After, j.Before
			}
			j.End = equilibrium.Judge(t.VolumeAt, e, 0.05, eqv)
			j.Answer = j.End.Percent
			a.Indicators = append(a.Indicators, j)
		case catalog.Self, catalog.Starch:
			serves := i.Kind == catalog.Self && slices.Contains(titrant.Oxidised, "MnO4^-") ||
				i.Kind == catalog.Starch && (slices.Contains(titrant.Oxidised, "I2") || slices.Contains(sample.Oxidised, "I2"))
			if !serves {
				continue
			}
			// The colour of the titrant, or of iodine with starch, shows the
			// first small excess: about a drop.
			a.Indicators = append(a.Indicators, Judged{ID: i.ID, Low: a.Curve.Before.Value, High: a.Curve.After.Value, Stop: a.Curve.After.Value, Before: i.Acid, After: i.Alkaline, Acid: true, Selfmade: true,
				End: equilibrium.EndPoint{Volume: eqv, Verdict: equilibrium.Suits, Reason: "good"}})
		}
	}
	a.rank(o.r.Chemistry.Indicator)
}

// rank puts the best indicators first and finds the chosen one.
func (a *Assessment) rank(chosen string) {
	order := map[equilibrium.Verdict]int{equilibrium.Suits: 0, equilibrium.Marginal: 1, equilibrium.Unsuitable: 2}
	slices.SortStableFunc(a.Indicators, func(x, y Judged) int {
		if d := order[x.End.Verdict] - order[y.End.Verdict]; d != 0 {
			return d
		}
		if x.Selfmade != y.Selfmade {
			if x.Selfmade {
				return -1
			}
			return 1
		}
		switch d := math.Abs(x.End.Error) - math.Abs(y.End.Error); {
		case d < 0:
			return -1
		case d > 0:
			return 1
		}
		return 0
	})
	a.Meter = len(a.Indicators) > 0 && a.Indicators[0].End.Verdict == equilibrium.Unsuitable
	for i := range a.Indicators {
		if a.Indicators[i].ID == chosen {
			a.Chosen = &a.Indicators[i]
		}
	}
}
