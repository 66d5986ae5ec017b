package equilibrium

import (
	"cmp"
	"math"
	"slices"
)

// Couple is a redox couple by its half-reaction,
//
//	Ox·oxidised + Electrons·e⁻ (+ hydrogen ions) → Red·reduced,
//
// such as 1 iodine, 2 electrons, 2 iodide ions. The potential is the one in the
// medium of the titration: hydrogen ions that take part are counted in it.
type Couple struct {
	Potential float64 // V
	Electrons float64
	Ox, Red   float64 // how many of each form stand in the half-reaction; 0 is taken as 1
}

func (c Couple) numbers() (ox, red float64) {
	ox, red = c.Ox, c.Red
	if ox == 0 {
		ox = 1
	}
	if red == 0 {
		red = 1
	}
	return ox, red
}

// oxidised is how much of the oxidised form there is at a potential, mol/L,
// where total is what all of the couple would make in that form. It solves
//
//	E = E° − (S/n) log([red]^b/[ox]^a), [red] = (total − [ox]) · b/a.
//
// Source: Nernst's equation.
func (c Couple) oxidised(e, total float64) float64 {
	a, b := c.numbers()
	x := c.Electrons * (c.Potential - e) / nernst25 // log of [red]^b/[ox]^a
	switch {
	case total <= 0:
		return 0
	case a == 1 && b == 1:
		if x > 300 {
			return 0
		}
		return total / (1 + math.Pow(10, x))
	case x > 150:
		return 0
	case x < -150:
		return total
	case a == 1 && b == 2:
		// 4 r² = Q o with r = total − o: the root below total, written so that
		// nothing is lost where it is small.
		q := math.Pow(10, x)
		p := 2*total + q/4
		return 2 * total * total / (p + math.Sqrt(math.Max(p*p-4*total*total, 0)))
	}
	if a == 2 && b == 1 { // 2 Q o² + o = total
		return 2 * total / (1 + math.Sqrt(1+8*math.Pow(10, x)*total))
	}
	low, high := 0.0, total
	for range 100 {
		o := (low + high) / 2
		if b*math.Log10((total-o)*b/a)-a*math.Log10(o) > x {
			low = o
		} else {
			high = o
		}
	}
	return (low + high) / 2
}

var nernst25 = Nernst(25)

// RedoxTitration is an oxidant run into a reductant, or the other way round.
// Strengths are those of the substance that is there at first: of iodine, not
// of iodide.
type RedoxTitration struct {
	Sample, Titrant Couple
	Concentration   float64 // of the sample, mol/L
	Volume          float64 // of the sample, mL
	TitrantStrength float64 // mol/L
	Oxidant         bool    // the titrant is the oxidant
}

// totals are what each couple would make in its oxidised form after a volume of
// titrant, mol/L.
func (r RedoxTitration) totals(volume float64) (sample, titrant float64) {
	sample = r.Concentration * r.Volume / (r.Volume + volume)
	titrant = r.TitrantStrength * volume / (r.Volume + volume)
	if r.Oxidant {
		a, b := r.Sample.numbers()
		return sample * a / b, titrant
	}
	a, b := r.Titrant.numbers()
	return sample, titrant * a / b
}

// excess is the electrons that the reductant has given less those that the
// oxidant has taken at a potential, mol/L; it rises with the potential.
func (r RedoxTitration) excess(e, volume float64) float64 {
	s, t := r.totals(volume)
	a, _ := r.Sample.numbers()
	c, _ := r.Titrant.numbers()
	given := r.Sample.oxidised(e, s)
	taken := t - r.Titrant.oxidised(e, t)
	ng, nt := r.Sample.Electrons/a, r.Titrant.Electrons/c
	if !r.Oxidant {
		given, taken = r.Titrant.oxidised(e, t), s-r.Sample.oxidised(e, s)
		ng, nt = nt, ng
	}
	return ng*given - nt*taken
}

const lowestE, highestE = -1.5, 3.0 // V

// At returns the potential after some titrant has run in, V.
func (r RedoxTitration) At(volume float64) float64 {
	a, b := lowestE, highestE
	for range 60 {
		x := (a + b) / 2
		if r.excess(x, volume) < 0 {
			a = x
		} else {
			b = x
		}
	}
	return (a + b) / 2
}

// VolumeAt returns the volume of titrant at which a potential is reached, mL:
// infinite where it never is, 0 where it is from the beginning.
func (r RedoxTitration) VolumeAt(e float64) float64 {
	return r.volume(func(v float64) bool { return (r.excess(e, v) < 0) == r.Oxidant })
}

// VolumeWith returns the volume of titrant at which this much of an oxidised
// form is there, mol/L, of the titrant's couple or of the sample's: as it
// appears where the titrant is the oxidant, as it goes where it is titrated.
func (r RedoxTitration) VolumeWith(ofTitrant bool, concentration float64) float64 {
	return r.volume(func(v float64) bool {
		s, t := r.totals(v)
		c, total := r.Sample, s
		if ofTitrant {
			c, total = r.Titrant, t
		}
		there := c.oxidised(r.At(v), total)
		return (there > concentration) == r.Oxidant
	})
}

// volume finds where something has been reached, which once it is stays so.
func (r RedoxTitration) volume(reached func(float64) bool) float64 {
	low, high := 0.0, 100*r.Volume*math.Max(1, r.Concentration/r.TitrantStrength)
	if !reached(high) {
		return math.Inf(1)
	}
	for range 50 {
		if v := (low + high) / 2; reached(v) {
			high = v
		} else {
			low = v
		}
	}
	return (low + high) / 2
}

// Left is the part of the sample that has not reacted when the equivalent
// volume of titrant is in: near 1 where the reaction does not go.
func (r RedoxTitration) Left(equivalence float64) float64 {
	total, _ := r.totals(equivalence)
	if total <= 0 {
		return 0
	}
	part := r.Sample.oxidised(r.At(equivalence), total) / total
	if r.Oxidant {
		return 1 - part
	}
	return part
}

// Curve returns about n points from near 0 to a volume: evenly in volume, and
// close together where the curve is steep.
func (r RedoxTitration) Curve(to float64, n int) []Point {
	n = max(n, 4)
	from := to / 1000
	first, end := r.At(from), r.At(to)
	out := []Point{{from, first}, {to, end}}
	for i := 1; i < n/2; i++ {
		v := from + (to-from)*float64(i)/float64(n/2)
		e := first + (end-first)*float64(i)/float64(n/2)
		out = append(out, Point{v, r.At(v)})
		if steep := r.VolumeAt(e); steep > from && steep < to {
			out = append(out, Point{steep, e})
		}
	}
	slices.SortFunc(out, func(a, b Point) int { return cmp.Compare(a.Volume, b.Volume) })
	return slices.CompactFunc(out, func(a, b Point) bool { return a.Volume == b.Volume })
}
