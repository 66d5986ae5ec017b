// Package equilibrium computes pH and potential of mixtures and of titrations.
//
// The charge balance is exact for any mixture of strong and weak, mono- and
// polyprotic acids and bases and water at 25 °C. A titration curve needs no
// root: the volume of titrant is explicit in pH,
//
//	V = V0 · (q(sample) + [H+] − [OH−]) / −(q(titrant) + [H+] − [OH−])
//
// with q the charge that the dissolved substances carry at that pH, per litre.
// Source: R. de Levie, J. Chem. Educ. 1993, 70, 209 (from memory).
package equilibrium

import "math"

// Limits of pH within which a solution is looked for: 18 mol/L of a strong
// acid or base lies well inside.
const (
	least = -3.0
	most  = 18.0
)

// Substance says what one formula unit brings into water.
type Substance struct {
	Strong float64   // net charge of its ions that take no part
	Top    float64   // charge of its most protonated form
	PKa    []float64 // the strongest first
	Units  float64   // groups in one formula unit; 0 is taken as 1
}

func (s Substance) units() float64 {
	if s.Units == 0 {
		return 1
	}
	return s.Units
}

// Fractions returns the fraction of each form at a pH, the most protonated
// first. They sum to one; none is negative or NaN at any pH.
func (s Substance) Fractions(pH float64) []float64 {
	// The logarithm of each term against the largest, so that nothing overflows.
	logs := make([]float64, len(s.PKa)+1)
	top := 0.0
	for i, pKa := range s.PKa {
		logs[i+1] = logs[i] + pH - pKa
		top = math.Max(top, logs[i+1])
	}
	sum := 0.0
	for i := range logs {
		logs[i] = math.Pow(10, logs[i]-top)
		sum += logs[i]
	}
	for i := range logs {
		logs[i] /= sum
	}
	return logs
}

// Charge returns the mean charge of one formula unit at a pH.
func (s Substance) Charge(pH float64) float64 {
	return s.charge(math.Pow(10, -pH))
}

// charge at a concentration of hydrogen ions.
func (s Substance) charge(h float64) float64 {
	var few [8]float64
	k := few[:0]
	for _, pKa := range s.PKa {
		k = append(k, math.Pow(10, -pKa))
	}
	return s.ChargeBy(k, h)
}

// ChargeBy is the mean charge of one formula unit where its constants, 10^-pKa, were worked
// out before, at a concentration of hydrogen ions, mol/L: for inner loops.
func (s Substance) ChargeBy(k []float64, h float64) float64 {
	return s.Strong + s.units()*(s.Top-Lost(k, h))
}

// Lost is how many protons an acid with these constants has lost on average.
func Lost(k []float64, h float64) float64 {
	term, sum, weighted := 1.0, 1.0, 0.0
	for i, ka := range k {
		term *= ka / h
		if term > 1e200 { // what stands before is nothing beside it
			sum, weighted, term = sum/1e200, weighted/1e200, term/1e200
		}
		sum += term
		weighted += float64(i+1) * term
	}
	return weighted / sum
}

// Part is a substance at its analytical concentration.
type Part struct {
	Substance     Substance
	Concentration float64 // mol/L
}

// Mixture is a solution.
type Mixture []Part

// charge is that of the mixture at 25 °C, without activities.
func (m Mixture) charge(h float64) float64 { return m.balance(h, math.Pow(10, -PKw)) }

// balance is the charge balance without its root, mol/L: positive when the pH is too
// low. Every term falls as the pH rises, so that there is one root.
func (m Mixture) balance(h, kw float64) float64 {
	q := h - kw/h
	for _, p := range m {
		if p.Concentration != 0 {
			q += p.Concentration * p.Substance.charge(h)
		}
	}
	return q
}

// PH returns −log10 of the concentration of hydrogen ions.
func (m Mixture) PH() float64 {
	return root(func(pH float64) float64 { return m.charge(math.Pow(10, -pH)) })
}

// root finds the zero of a falling function of pH by bisection with secant
// steps (the Illinois rule); it always stays inside its bracket.
func root(f func(float64) float64) float64 {
	a, b := least, most
	fa, fb := f(a), f(b)
	if fa <= 0 {
		return a
	}
	if fb >= 0 {
		return b
	}
	side := 0
	for range 200 {
		// The charge falls like 10^-pH: bisect while it spans decades.
		x := (a + b) / 2
		if b-a < 2 {
			x = b - fb*(b-a)/(fb-fa)
			if !(x > a && x < b) {
				x = (a + b) / 2
			}
		}
		fx := f(x)
		switch {
		case fx == 0:
			return x
		case fx > 0:
			a, fa = x, fx
			if side == 1 {
				fb /= 2
			}
			side = 1
		default:
			b, fb = x, fx
			if side == -1 {
				fa /= 2
			}
			side = -1
		}
		if b-a < 1e-12 {
			break
		}
	}
	return (a + b) / 2
}

// Titration is a mixture in the flask and one in the burette.
type Titration struct {
	Sample  Mixture
	Volume  float64 // of the sample, mL
	Titrant Mixture
}

// At returns the mixture after some titrant has run in.
func (t Titration) At(titrant float64) Mixture {
	total := t.Volume + titrant
	out := make(Mixture, 0, len(t.Sample)+len(t.Titrant))
	for _, p := range t.Sample {
		out = append(out, Part{p.Substance, p.Concentration * t.Volume / total})
	}
	for _, p := range t.Titrant {
		out = append(out, Part{p.Substance, p.Concentration * titrant / total})
	}
	return out
}

// PH returns the pH after some titrant has run in.
func (t Titration) PH(titrant float64) float64 { return t.At(math.Max(titrant, 0)).PH() }

// VolumeAt returns the volume of titrant at which a pH is reached, mL. It is
// negative, or infinite, where it never is.
func (t Titration) VolumeAt(pH float64) float64 {
	h := math.Pow(10, -pH)
	below := t.Titrant.charge(h)
	above := t.Sample.charge(h)
	if below == 0 || math.Signbit(below) == math.Signbit(above) && above != 0 {
		if math.Abs(above) > math.Abs(below) {
			return math.Inf(1)
		}
		return -t.Volume * above / below
	}
	return -t.Volume * above / below
}

// carbonDioxide is what stays dissolved in equilibrium with air, mol/L: 420 ppm
// at 25 °C. Source: Henry's constant 0.034 mol/(L atm), CRC Handbook (from
// memory).
const carbonDioxide = 1.4e-5

// Boiled is a titration of carbonate from whose flask the carbon dioxide is
// lost: no more of it stays dissolved than air keeps there. The carbonate is
// the first part of the sample.
func (t Titration) Boiled(pH float64) (volume float64) {
	volume = t.VolumeAt(pH)
	h := math.Pow(10, -pH)
	carbonate := t.Sample[0]
	f := carbonate.Substance.Fractions(pH)
	if !(volume >= 0) || f[0]*carbonate.Concentration*t.Volume/(t.Volume+volume) <= carbonDioxide {
		return volume
	}
	left := carbonDioxide / f[0] // of all its forms, mol/L
	q := h - math.Pow(10, -PKw)/h - left*(f[1]+2*f[2])
	return t.Volume * (carbonate.Concentration*carbonate.Substance.Strong + q) / -(t.Titrant.charge(h) + q - h +
		math.Pow(10, -PKw)/h)
}

// Point is one point of a curve.
type Point struct {
	Volume float64 `json:"v" doc:"of titrant, mL"`
	Value  float64 `json:"y" doc:"pH, or potential in V"`
}

// Curve returns about n points from 0 to a volume, close where the curve is
// steep, in order of volume.
func (t Titration) Curve(to float64, n int) []Point {
	n = max(n, 2)
	first, end := t.PH(0), t.PH(to)
	out := make([]Point, 0, n+1)
	out = append(out, Point{0, first})
	for i := 1; i < n; i++ {
		pH := first + (end-first)*float64(i)/float64(n)
		v := t.VolumeAt(pH)
		if v > out[len(out)-1].Volume && v < to {
			out = append(out, Point{v, pH})
		}
	}
	return append(out, Point{to, end})
}
