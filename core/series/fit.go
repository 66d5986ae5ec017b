package series

import (
	"math"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/stat/distuv"

	"exactflask/core/finding"
)

// Fit is the chemical model laid through the points: a strong titrant into a strong or
// weak acid or base, with the probe's offset.
type Fit struct {
	PKa        float64 `json:"pKa,omitempty" doc:"of a weak one, for the base of its conjugate acid"`
	PKaU       float64 `json:"pKaStandard,omitempty"`
	PKaLow     float64 `json:"pKaLow,omitempty" doc:"of the interval of 95 %"`
	PKaHigh    float64 `json:"pKaHigh,omitempty"`
	Offset     float64 `json:"offset" doc:"of the probe, pH"`
	OffsetU    float64 `json:"offsetStandard"`
	Noise      float64 `json:"noise" doc:"standard deviation of the residuals, pH"`
	Residuals  []Point `json:"residuals" doc:"reading less model, pH"`
	Random     bool    `json:"random" doc:"the residuals show no pattern"`
	Iterations int     `json:"iterations"`
}

const mostIterations = 60

// fitted lays the model through all points by least squares.
func (r Run) fitted(a *Analysis, start float64, one bool) End {
	switch {
	case r.Kind != PH:
		return cannot(Fitted, whyNotPH.Message())
	case r.Analyte == Unknown || r.Flask <= 0 || r.Titrant <= 0 || !one:
		return cannot(Fitted, whyUnknown.Message())
	}
	m := r.model()
	theta := []float64{start, 0}
	if r.Analyte == Weak {
		theta = append(theta, m.guess(start))
	}
	theta, covariance, chi, n := m.solve(theta)
	if theta == nil {
		return cannot(Fitted, whyNoFit.Message())
	}
	t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(len(m.points) - len(theta))}.Quantile(0.975)
	f := &Fit{Offset: theta[1], OffsetU: math.Sqrt(covariance.At(1, 1)), Noise: math.Sqrt(chi), Iterations: n, Residuals: []Point{}}
	if r.Analyte == Weak {
		f.PKa, f.PKaU = theta[2], math.Sqrt(covariance.At(2, 2))
		if !m.acid { // the model runs on pOH
			f.PKa = r.PKw - f.PKa
		}
		f.PKaLow, f.PKaHigh = f.PKa-t*f.PKaU, f.PKa+t*f.PKaU
	}
	for i := range m.points {
		res, _ := m.residual(i, theta)
		if !m.acid {
			res = -res
		}
		f.Residuals = append(f.Residuals, Point{m.points[i].Volume, res})
	}
	f.Random = f.Noise < finest || random(f.Residuals)
	a.Fit = f
	u := math.Sqrt(covariance.At(0, 0))
	if math.IsNaN(u) || u <= 0 || theta[0] <= 0 {
		return cannot(Fitted, whyNoFit.Message())
	}
	return End{Method: Fitted, Volume: theta[0], Standard: u, Low: theta[0] - t*u, High: theta[0] + t*u}
}

// model is the titration of an acid by a strong base, c in mol/L; a base by a strong acid
// is the same in pOH.
type model struct {
	points        []Point // reading turned into pOH where a base is titrated
	flask, c, pkw float64
	weak, acid    bool
	burette       float64
}

func (r Run) model() model {
	m := model{flask: r.Flask, c: r.Titrant, pkw: r.PKw, weak: r.Analyte == Weak, burette: r.Burette,
		acid: r.Points[len(r.Points)-1].Reading > r.Points[0].Reading}
	for _, p := range r.Points {
		if !m.acid {
			p.Reading = r.PKw - p.Reading
		}
		m.points = append(m.points, p)
	}
	return m
}

// guess is the reading half-way.
func (m model) guess(end float64) float64 {
	for i := 1; i < len(m.points); i++ {
		if m.points[i].Volume >= end/2 {
			return m.points[i].Reading
		}
	}
	return 7
}

// volume is the titrant that a pH takes: the charge balance solved for it (design of
// package equilibrium: the volume is explicit in pH).
func (m model) volume(pH float64, theta []float64) float64 {
	h := ten(-pH)
	delta := h - ten(-m.pkw)/h
	share := 1.0
	if m.weak {
		share = 1 / (1 + h*ten(theta[2]))
	}
	return (share*m.c*theta[0] - delta*m.flask) / (m.c + delta)
}

// ten is ten to a power: this is the inner loop.
func ten(x float64) float64 { return math.Exp(math.Ln10 * x) }

// residual is by how much a reading lies above the model, and its standard deviation in
// units of the reading's own. The model's pH at the volume is found by Newton's method from
// the reading: the volume is explicit in pH, and rises with it.
func (m model) residual(i int, theta []float64) (difference, spread float64) {
	p := m.points[i]
	pH := p.Reading - theta[1]
	slope := 0.0
	for range newtons {
		const d = 1e-4
		low := m.volume(pH-d, theta)
		slope = (m.volume(pH+d, theta) - low) / (2 * d) // mL for one pH
		if slope < 1e-9 || math.IsNaN(slope) {
			slope = 1e-9
		}
		step := (low + d*slope - p.Volume) / slope
		pH -= math.Copysign(min(math.Abs(step), 0.3), step)
		if math.Abs(step) < 1e-4 {
			break
		}
	}
	// Volume and reading are both uncertain; a reading to about 0.01.
	return p.Reading - theta[1] - pH, math.Hypot(1, m.burette/slope/usualNoise)
}

const newtons = 8

// finest is what a probe reads at best, pH; a pattern below it is none.
const finest = 0.002

// usualNoise is how finely a pH is read; it only weighs points in the jump against others.
const usualNoise = 0.01

// solve is the method of Levenberg and Marquardt (Marquardt 1963, from memory). Nothing
// where it does not settle. chi is the variance of a reading.
func (m model) solve(theta []float64) (found []float64, covariance *mat.Dense, chi float64, iterations int) {
	n, k := len(m.points), len(theta)
	if n <= k {
		return nil, nil, 0, 0
	}
	cost := func(t []float64) (sum float64) {
		for i := range m.points {
			d, s := m.residual(i, t)
			sum += (d / s) * (d / s)
		}
		return sum
	}
	now, lambda := cost(theta), 1e-3
	var normal *mat.Dense
	for iterations = 1; iterations <= mostIterations; iterations++ {
		j := mat.NewDense(n, k, nil)
		res := mat.NewVecDense(n, nil)
		for i := range m.points {
			d, s := m.residual(i, theta)
			res.SetVec(i, d/s)
			for c := range k {
				step := 1e-5 * math.Max(1, math.Abs(theta[c]))
				t := append([]float64(nil), theta...)
				t[c] += step
				e, _ := m.residual(i, t)
				j.Set(i, c, (e-d)/s/step)
			}
		}
		normal = mat.NewDense(k, k, nil)
		normal.Mul(j.T(), j)
		gradient := mat.NewVecDense(k, nil)
		gradient.MulVec(j.T(), res)
		better := false
		for range 12 {
			damped := mat.DenseCopyOf(normal)
			for c := range k {
				damped.Set(c, c, normal.At(c, c)*(1+lambda))
			}
			var step mat.VecDense
			if step.SolveVec(damped, gradient) != nil {
				lambda *= 10
				continue
			}
			t := make([]float64, k)
			for c := range k {
				t[c] = theta[c] - step.AtVec(c)
			}
			if next := cost(t); next < now && !math.IsNaN(next) {
				better = now-next > 1e-10*now
				theta, now, lambda = t, next, lambda/10
				break
			}
			lambda *= 10
		}
		if !better {
			break
		}
	}
	chi = now / float64(n-k)
	var inverse mat.Dense
	if inverse.Inverse(normal) != nil || math.IsNaN(now) {
		return nil, nil, 0, iterations
	}
	inverse.Scale(chi, &inverse)
	return theta, &inverse, chi, iterations
}

// random tells whether residuals change sign as often as chance does: the runs test of
// Wald and Wolfowitz, two-sided at 1 % (from memory).
func random(res []Point) bool {
	up, down, runs := 0, 0, 0
	last := 0
	for _, p := range res {
		sign := 1
		if p.Reading < 0 {
			sign = -1
		}
		if sign > 0 {
			up++
		} else {
			down++
		}
		if sign != last {
			runs++
		}
		last = sign
	}
	n, a, b := float64(up+down), float64(up), float64(down)
	if up == 0 || down == 0 || n < 10 {
		return n < 10
	}
	expected := 2*a*b/n + 1
	variance := (expected - 1) * (expected - 2) / (n - 1)
	return math.Abs(float64(runs)-expected) <= 2.576*math.Sqrt(variance)
}

// gran is where the straight line of Gran's function meets zero: of points before the
// end, or behind it, each weighed by the inverse of its square, since a pH is read to the
// same everywhere.
func (r Run) gran(start float64, before, one bool) End {
	method := GranAfter
	if before {
		method = GranBefore
	}
	switch {
	case r.Kind != PH:
		return cannot(method, whyNotPH.Message())
	case r.Analyte == Unknown && before || r.Flask <= 0 || !one:
		return cannot(method, whyUnknown.Message())
	}
	m := r.model()
	low, high := 0.3*start, 0.92*start
	if !before {
		low, high = 1.08*start, 2*start
	}
	var x, y, w []float64
	for _, p := range m.points {
		if p.Volume < low || p.Volume > high {
			continue
		}
		var g float64
		switch {
		case !before:
			g = (m.flask + p.Volume) * math.Pow(10, p.Reading-m.pkw)
		case r.Analyte == Weak:
			g = p.Volume * math.Pow(10, -p.Reading)
		default:
			g = (m.flask + p.Volume) * math.Pow(10, -p.Reading)
		}
		x, y, w = append(x, p.Volume), append(y, g), append(w, 1/(g*g))
	}
	if len(x) < 4 {
		return cannot(method, whyFew.Message(finding.Count(4)))
	}
	return line(method, x, y, w)
}

// line meets zero.
func line(method Method, x, y, w []float64) End {
	var s, sx, sy float64
	for i := range x {
		s, sx, sy = s+w[i], sx+w[i]*x[i], sy+w[i]*y[i]
	}
	mx, my := sx/s, sy/s
	var xx, xy float64
	for i := range x {
		xx, xy = xx+w[i]*(x[i]-mx)*(x[i]-mx), xy+w[i]*(x[i]-mx)*(y[i]-my)
	}
	b := xy / xx
	a := my - b*mx
	var rest float64
	for i := range x {
		d := y[i] - a - b*x[i]
		rest += w[i] * d * d
	}
	freedom := float64(len(x) - 2)
	variance := rest / freedom
	at := -a / b
	u := math.Sqrt(variance*(1/s+(at-mx)*(at-mx)/xx)) / math.Abs(b)
	if math.IsNaN(u) || math.IsInf(u, 0) || at <= 0 {
		return cannot(method, whyNoFit.Message())
	}
	t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: freedom}.Quantile(0.975)
	return End{Method: method, Volume: at, Standard: u, Low: at - t*u, High: at + t*u}
}
