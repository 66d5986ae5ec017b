package curve

import (
	"math"
	"slices"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/equilibrium"
	"exactflask/core/chemistry/glass"
)

// Substance is what a substance of the catalogue, or of one's own, is to the
// equilibria.
func Substance(w catalog.InWater) equilibrium.Substance {
	out := equilibrium.Substance{Strong: float64(w.Strong), Top: float64(w.Top), Units: float64(w.Units)}
	for _, k := range w.PKa {
		out.PKa = append(out.PKa, k.Float64())
	}
	return out
}

const points = 240

// inWater is the titration of an acid or a base, with what both are in water; false where
// it is none, or a strength is not known.
func (o Outline) inWater() (t equilibrium.Titration, sample, titrant catalog.InWater, ok bool) {
	titrant, okT := o.Ready.InWater(o.Ready.Titrant)
	sample, okA := o.Ready.InWater(o.Ready.Titrated)
	if !okT || !okA || o.Flask.Titrant <= 0 || o.Strength <= 0 {
		return t, sample, titrant, false
	}
	t = equilibrium.Titration{Sample: equilibrium.Mixture{{Substance: Substance(sample), Concentration: o.Strength}},
		Volume:  o.Flask.Volume,
		Titrant: equilibrium.Mixture{{Substance: Substance(titrant), Concentration: o.Flask.Titrant}}}
	return t, sample, titrant, true
}

// acidBase fills in curve and indicators of an acid-base titration; false
// where it is none.
func (p *Prediction) acidBase(o Outline) bool {
	t, sample, titrant, ok := o.inWater()
	if !ok {
		return false
	}
	eqv := o.Titre.Last
	if !(eqv > 0) || eqv > 1e6 {
		return false
	}
	acid := t.Titrant.PH() < 7
	to := math.Max(2*eqv, eqv+5)
	at := func(v float64) equilibrium.Point { return equilibrium.Point{Volume: v, Value: t.PH(v)} }
	p.Curve = &Curve{Kind: "pH", Points: t.Curve(to, points), Equivalence: []equilibrium.Point{at(eqv)},
		Half: []equilibrium.Point{}, Before: at(eqv - glass.Drop), After: at(eqv + glass.Drop)}
	p.Curve.mark(o, sample, titrant, acid, at, to)
	boiled := acid && o.Ready.Titrated.Carbonate() && len(sample.PKa) == 2
	if boiled {
		p.Curve.Boiled = boiledCurve(t, p.Curve.Points)
	}
	for _, i := range catalog.BuiltIn().Indicators {
		if i.Kind != catalog.AcidBase {
			continue
		}
		j := o.judged(i, acid)
		j.End = equilibrium.Judge(t.VolumeAt, j.Stop, 0.5, eqv, o.limit())
		o.withActivities(&j, t, eqv)
		if boiled {
			end := equilibrium.Judge(t.Boiled, j.Stop, 0.5, eqv, o.limit())
			j.Boiled = &end
		}
		if i.Many { // common practice: never an indicator of an end
			j.End.Verdict, j.End.Reason, j.Boiled = equilibrium.Unsuitable, "slow", nil
		}
		p.Indicators = append(p.Indicators, o.answered(j))
	}
	p.rank(o.Ready.Chemistry.Indicator)
	return true
}

// limit is the part of the titre that an end point may lie off, %.
func (o Outline) limit() float64 { return o.Ready.Rules.IndicatorLimit.Float64() }

// withActivities judges an indicator with activity coefficients too: it shows
// activities, as a pH meter does. Where that changes the verdict, it decides.
func (o Outline) withActivities(j *Judged, t equilibrium.Titration, eqv float64) {
	valid := true
	volume := func(pH float64) float64 {
		v, ok := t.VolumeAtActivity(pH)
		valid = valid && ok
		return v
	}
	end := equilibrium.Judge(volume, j.Stop, 0.5, eqv, o.limit())
	if valid && end.Verdict != j.End.Verdict {
		j.End, j.Activities = end, true
	}
}

// judgedOf takes an indicator over, with the pH at which the eye stops.
func judgedOf(i catalog.Indicator, acid bool) Judged {
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
	return j
}

// nearPKa is how near to its pKa the pH of a half-equivalence lies, for it to be
// called one.
const nearPKa = 0.3

// mark finds the equivalences of a sample with several protons that react, and
// the half-equivalences at which the pH is near a pKa.
func (c *Curve) mark(o Outline, sample, titrant catalog.InWater, acid bool, at func(float64) equilibrium.Point,
	to float64) {
	gives, takes := sample.Equivalents()
	carriedGives, carriedTakes := titrant.Equivalents()
	steps, carried := gives, carriedTakes
	if acid {
		steps, carried = takes, carriedGives
	}
	if carried == 0 || steps == 0 {
		return
	}
	one := o.Strength * o.Flask.Volume / o.Flask.Titrant / float64(carried)
	if sample.Units > 1 { // equal groups react together
		one, steps = one*float64(steps), 1
	}
	eqv := c.Equivalence[0].Volume
	for k := 1; k <= steps; k++ {
		v := one * float64(k)
		if v < to && math.Abs(v-eqv) > 0.01*eqv {
			c.Equivalence = append(c.Equivalence, at(v))
		}
		half := at(v - one/2)
		for _, pKa := range sample.PKa {
			if half.Volume < to && math.Abs(half.Value-pKa.Float64()) < nearPKa {
				c.Half = append(c.Half, half)
			}
		}
	}
}

// boiledCurve is a curve from whose flask the carbon dioxide is lost, at the pH
// values of the closed one.
func boiledCurve(t equilibrium.Titration, closed []equilibrium.Point) []equilibrium.Point {
	var out []equilibrium.Point
	for _, p := range closed {
		v := t.Boiled(p.Value)
		if v >= 0 && (len(out) == 0 || v > out[len(out)-1].Volume) {
			out = append(out, equilibrium.Point{Volume: v, Value: p.Value})
		}
	}
	return out
}

// answered says what an end point does to the answer.
func (o Outline) answered(j Judged) Judged {
	j.Answer = j.End.Percent
	if o.Ready.UnknownInBurette && j.End.Percent > -99 {
		j.Answer = 100 * (1/(1+j.End.Percent/100) - 1)
	}
	return j
}

// rank puts the best indicators first and finds the chosen one.
func (p *Prediction) rank(chosen string) {
	order := map[equilibrium.Verdict]int{equilibrium.Suits: 0, equilibrium.Marginal: 1, equilibrium.Unsuitable: 2}
	slices.SortStableFunc(p.Indicators, func(x, y Judged) int {
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
	p.Meter = len(p.Indicators) > 0 && p.Indicators[0].End.Verdict == equilibrium.Unsuitable
	for i := range p.Indicators {
		if p.Indicators[i].ID == chosen {
			p.Chosen = &p.Indicators[i]
		}
	}
}
