package curve

import (
	"slices"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/equilibrium"
	"exactflask/core/chemistry/glass"
	"exactflask/core/model/assay"
	"exactflask/core/model/series"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// A colour that the titrant itself or starch shows is seen from this
// concentration on, mol/L. Source: permanganate about 2e-6 to 1e-5, iodine with
// starch about 1e-5 (textbooks of analytical chemistry, from memory).
const (
	seenPermanganate = 5e-6
	seenIodine       = 1e-5
)

// gone is the part of the sample that may be left at the equivalence, for a
// reaction that is complete. Source: common practice, no source.
const gone = 0.005

var (
	doesNotGo       = finding.Declare("plan.does-not-go", "percent")
	mixedPotentials = finding.Declare("plan.mixed-potentials", "formal", "standard")
	_               = finding.Family("medium.", []string{"acid-1", "sulfuric-1"})
)

func couple(c catalog.Couple) equilibrium.Couple {
	half, ox, red := c.Reaction()
	return equilibrium.Couple{Potential: c.Potential.Float64(), Electrons: float64(half.Electrons), Ox: float64(ox),
		Red: float64(red)}
}

// couples are those of sample and titrant; false where they do not react.
func couples(r *practical.Ready) (sample, titrant catalog.Couple, oxidant, ok bool) {
	// Of one's own, which is the oxidant follows from the other.
	_, sampleOx, known := catalog.BuiltIn().Couple(r.Titrated)
	titrant, oxidant, okT := r.Couple(r.Titrant, !known || !sampleOx)
	sample, oxidised, okS := r.Couple(r.Titrated, !oxidant)
	return sample, titrant, oxidant, okT && okS && oxidant != oxidised
}

// electrons is the redox titration with its couples; false where it is none, or a strength
// is not known.
func (o Outline) electrons() (t equilibrium.RedoxTitration, sample, titrant catalog.Couple, ok bool) {
	sample, titrant, oxidant, ok := couples(o.Ready)
	if !ok || o.Flask.Titrant <= 0 || o.Strength <= 0 {
		return t, sample, titrant, false
	}
	return equilibrium.RedoxTitration{Sample: couple(sample), Titrant: couple(titrant), Concentration: o.Strength,
		Volume: o.Flask.Volume, TitrantStrength: o.Flask.Titrant, Oxidant: oxidant}, sample, titrant, true
}

// Really is what a faultless probe shows at a volume of titrant, pH or V, where the end
// lies at this titre, mL; false where nothing tells.
func (o Outline) Really(titre, flask float64) (func(volume float64) float64, bool) {
	o.Titre.Last = titre
	var known bool
	if o.Flask, known = o.Assay.InFlask(assay.Measured{Trial: "plan"}, titre); !known {
		return nil, false
	}
	if o.Flask.Volume <= 0 {
		o.Flask.Volume = DefaultFlask
	}
	if flask > 0 {
		o.Flask.Volume = flask
	}
	o.Strength = o.Flask.Amount / o.Flask.Volume * 1000
	if t, _, _, ok := o.inWater(); ok {
		return t.PH, true
	}
	if t, _, _, ok := o.electrons(); ok {
		return func(v float64) float64 { return t.At(max(v, 0.01)) }, true
	}
	return nil, false
}

// Couples are both couples of a redox titration for the model of a measured curve; nil
// where one is not known, or where one of its forms makes several.
func Couples(r *practical.Ready) *series.Redox {
	sample, titrant, _, ok := couples(r)
	if !ok {
		return nil
	}
	s, t := couple(sample), couple(titrant)
	if s.Ox != s.Red || t.Ox != t.Red || s.Ox != 1 || t.Ox != 1 {
		return nil
	}
	return &series.Redox{Sample: s, Titrant: t}
}

// redox fills in curve and indicators of a redox titration.
func (p *Prediction) redox(o Outline) {
	t, sample, titrant, ok := o.electrons()
	if !ok {
		return
	}
	oxidant := t.Oxidant
	eqv := o.Titre.Last
	if !(eqv > 0) || eqv > 1e6 {
		return
	}
	at := func(v float64) equilibrium.Point { return equilibrium.Point{Volume: v, Value: t.At(v)} }
	p.Curve = &Curve{Kind: "V", Points: t.Curve(2*eqv, points), Equivalence: []equilibrium.Point{at(eqv)},
		Half: []equilibrium.Point{at(eqv / 2)}, Before: at(eqv - glass.Drop), After: at(eqv + glass.Drop)}
	p.potentials(o.Ready, sample, titrant)
	left := t.Left(eqv)
	if left > gone {
		p.say(doesNotGo.Finding(finding.Warning, "", finding.Number(100*(1-left), 2,
			quantity.Percent)))
	}
	for _, i := range catalog.BuiltIn().Indicators {
		switch i.Kind {
		case catalog.Redox:
			e := i.Potential.Float64()
			j := Judged{ID: i.ID, Low: e - 0.06, High: e + 0.06, Stop: e, Before: i.Acid, After: i.Alkaline, Acid: true}
			if i.Seen.Sign() > 0 {
				j.Stop = i.Seen.Float64()
			}
			if !oxidant {
				j.Before, j.After = j.After, j.Before
			}
			j.End = equilibrium.Judge(t.VolumeAt, j.Stop, 0.05, eqv, o.limit())
			p.Indicators = append(p.Indicators, o.answered(j))
		case catalog.Self, catalog.Starch:
			inBurette := slices.Contains(titrant.Oxidised, "MnO4^-") && i.Kind == catalog.Self ||
				slices.Contains(titrant.Oxidised, "I2") && i.Kind == catalog.Starch && oxidant
			inFlask := slices.Contains(sample.Oxidised, "I2") && i.Kind == catalog.Starch && !oxidant
			if !inBurette && !inFlask {
				continue
			}
			seen := seenIodine
			if i.Kind == catalog.Self {
				seen = seenPermanganate
			}
			v := t.VolumeWith(inBurette, seen)
			j := Judged{ID: i.ID, Low: p.Curve.Before.Value, High: p.Curve.After.Value, Stop: t.At(v), Before: i.Acid,
				After: i.Alkaline, Acid: true, Selfmade: true, End: equilibrium.JudgeAt(v, 0, eqv, o.limit())}
			if inFlask {
				j.Before, j.After = j.After, j.Before
			}
			p.Indicators = append(p.Indicators, o.answered(j))
		}
	}
	if left > gone { // nothing can show an end that is not there
		for i := range p.Indicators {
			p.Indicators[i].End.Verdict, p.Indicators[i].End.Reason = equilibrium.Unsuitable, "never"
		}
	}
	p.rank(o.Ready.Chemistry.Indicator)
}

// potentials says what kind of potentials the curve rests on.
func (p *Prediction) potentials(r *practical.Ready, sample, titrant catalog.Couple) {
	p.Rests = append(p.Rests, Potential{Half: sample.Half, Value: sample.Potential, Kind: sample.Kind,
		Medium: sample.Medium}, Potential{Half: titrant.Half, Value: titrant.Potential, Kind: titrant.Kind,
		Medium: titrant.Medium})
	if sample.Kind == titrant.Kind {
		return
	}
	formalOf, standardOf := r.Titrant, r.Titrated
	if sample.Kind == catalog.FormalPotential {
		formalOf, standardOf = standardOf, formalOf
	}
	p.say(mixedPotentials.Finding(finding.Note, "", finding.Formula(formalOf.Plain()),
		finding.Formula(standardOf.Plain())))
}
