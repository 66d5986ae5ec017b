package equilibrium

import "math"

// Nernst is RT ln 10 / F at 25 °C, V.
const Nernst = 0.05916

// Couple is a redox couple with its formal potential.
type Couple struct {
	Potential float64 // V, in the medium of the titration
	Electrons float64
}

// oxidised is the fraction of the couple in its oxidised form at a potential.
func (c Couple) oxidised(e float64) float64 {
	x := c.Electrons * (c.Potential - e) / Nernst
	switch {
	case x > 300:
		return 0
	case x < -300:
		return 1
	}
	return 1 / (1 + math.Pow(10, x))
}

// RedoxTitration is an oxidant run into a reductant, or the other way round.
// Each couple is taken as one ion to one ion: where two make one (iodine and
// iodide) the curve is right in its place and jump, and off by some hundredths
// of a volt in its arms. Source: Nernst's equation.
type RedoxTitration struct {
	Sample, Titrant Couple
	Concentration   float64 // of the sample, mol/L
	Volume          float64 // of the sample, mL
	TitrantStrength float64 // mol/L
	Oxidant         bool    // the titrant is the oxidant
}

// VolumeAt returns the volume of titrant at which a potential is reached: the
// electrons that one gave are those that the other took.
func (r RedoxTitration) VolumeAt(e float64) float64 {
	given, taken := r.Sample.oxidised(e), 1-r.Titrant.oxidised(e)
	if !r.Oxidant {
		given, taken = 1-given, 1-taken
	}
	if taken == 0 {
		return math.Inf(1)
	}
	return r.Volume * r.Concentration * r.Sample.Electrons * given / (r.TitrantStrength * r.Titrant.Electrons * taken)
}

// At returns the potential after some titrant has run in, V.
func (r RedoxTitration) At(volume float64) float64 {
	a, b := -1.5, 3.0
	for range 80 {
		x := (a + b) / 2
		if (r.VolumeAt(x) < volume) == r.Oxidant {
			a = x
		} else {
			b = x
		}
	}
	return (a + b) / 2
}

// Curve returns about n points from near 0 to a volume.
func (r RedoxTitration) Curve(to float64, n int) []Point {
	n = max(n, 2)
	from := to / 1000
	first, end := r.At(from), r.At(to)
	out := []Point{{from, first}}
	for i := 1; i < n; i++ {
		e := first + (end-first)*float64(i)/float64(n)
		if v := r.VolumeAt(e); v > out[len(out)-1].Volume && v < to {
			out = append(out, Point{v, e})
		}
	}
	return append(out, Point{to, end})
}
