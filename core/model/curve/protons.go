package curve

import (
	"math"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/equilibrium"
	"exactflask/core/model/assay"
	"exactflask/core/record/practical"
)

// AtTitre is the outline of a practical in which this titre was found, mL: what is in the
// flask follows from it by the equation.
func AtTitre(r *practical.Ready, titre float64) Outline {
	first := r.Reactions[0]
	o := Outline{Ready: r, Assay: assay.New(r, assay.Held{}), Titre: assay.Titres{Last: titre}, Ratio: float64(first.NuTo) / float64(first.NuFrom)}
	o.Flask, _ = o.Assay.InFlask(assay.Measured{Trial: "found"}, titre)
	if o.Flask.Volume <= 0 {
		o.Flask.Volume = DefaultFlask
	}
	o.Strength = o.Flask.Amount / o.Flask.Volume * 1000
	return o
}

// Ended is the verdict on the practical's own indicator alone, of an acid and a base; false
// where it cannot be checked.
func (o Outline) Ended() (Judged, bool) {
	t, _, _, ok := o.inWater()
	i, known := catalog.BuiltIn().Indicator(o.Ready.Chemistry.Indicator)
	if !ok || !known || i.Kind != catalog.AcidBase || o.Titre.Last <= 0 {
		return Judged{}, false
	}
	j := o.judged(i, t.Titrant.PH() < 7)
	j.End = equilibrium.Judge(t.VolumeAt, j.Stop, 0.5, o.Titre.Last, o.limit())
	o.withActivities(&j, t, o.Titre.Last)
	if o.Ready.Titrated.Carbonate() {
		end := equilibrium.Judge(t.Boiled, j.Stop, 0.5, o.Titre.Last, o.limit())
		j.Boiled = &end
	}
	return j, true
}

// judged takes an indicator over, as the practical uses it.
func (o Outline) judged(i catalog.Indicator, acid bool) Judged {
	j := judgedOf(i, acid)
	if own := o.Ready.Chemistry.StopsAt; i.ID == o.Ready.Chemistry.Indicator && own.Sign() > 0 {
		j.Stop, j.Own = own.Float64(), true
	}
	return j
}

// fits is how far from a titre an indicator may stop for a number of protons to explain it, as
// a part. Source: common practice, no source.
const fits = 0.08

// Protons are how many protons of each titrated particle the equation counts, and how many fit
// the indicator: at which of them it stops where the titre was found. False where that is
// not another number, or nothing fits.
func (o Outline) Protons() (counted, fitting int, ok bool) {
	t, sample, titrant, known := o.inWater()
	i, there := catalog.BuiltIn().Indicator(o.Ready.Chemistry.Indicator)
	acid := t.Titrant != nil && t.Titrant.PH() < 7
	gives, takes := sample.Equivalents()
	carriedGives, carriedTakes := titrant.Equivalents()
	most, carried := gives, carriedTakes
	if acid {
		most, carried = takes, carriedGives
	}
	first := o.Ready.Reactions[0]
	if !known || !there || carried < 1 || first.NuFrom*carried%first.NuTo != 0 {
		return 0, 0, false
	}
	counted = first.NuFrom * carried / first.NuTo
	stop, best := o.judged(i, acid).Stop, fits
	for k := 1; k <= most; k++ {
		// With another number of protons there is less, or more, of what was not known.
		other := t
		part := float64(counted) / float64(k)
		if o.Ready.UnknownInBurette {
			other.Titrant = scaled(t.Titrant, 1/part)
		} else {
			other.Sample = scaled(t.Sample, part)
		}
		if off := math.Abs(other.VolumeAt(stop)/o.Titre.Last - 1); off < best {
			best, fitting = off, k
		}
	}
	return counted, fitting, fitting > 0 && fitting != counted
}

// scaled is a mixture of so many times the strength.
func scaled(m equilibrium.Mixture, by float64) equilibrium.Mixture {
	out := append(equilibrium.Mixture{}, m...)
	for i := range out {
		out[i].Concentration *= by
	}
	return out
}
