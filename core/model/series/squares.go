package series

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/blas"
	lapack "gonum.org/v1/gonum/lapack/gonum"
)

const mostIterations = 60

// cost is minus twice the logarithm of the likelihood, but for a constant: the squares of the
// residuals, each by its own spread, and what a large spread costs. Without that an end is best
// put upon a point, where the curve is so steep that any reading is one.
func (m model) cost(theta []float64) (sum float64) {
	volume := m.laid(theta)
	for _, p := range m.points {
		d, s := m.residual(p, theta, volume)
		sum += (d/s)*(d/s)/(m.usual*m.usual) + 2*math.Log(s)
	}
	return sum
}

// solve is the method of Levenberg and Marquardt (Marquardt 1963, from memory). Nothing
// where it does not settle. variances are of the parameters, chi is that of a reading.
func (m model) solve() (found, variances []float64, chi float64, iterations int) {
	theta := m.theta
	n, k := len(m.points), len(theta)
	if n <= k {
		return nil, nil, 0, 0
	}
	now, lambda := m.cost(theta), 1e-3
	slopes, res, spread := make([][]float64, k), make([]float64, n), make([]float64, n)
	for c := range slopes {
		slopes[c] = make([]float64, n)
	}
	var normal symmetric
	for iterations = 1; iterations <= mostIterations; iterations++ {
		m.linear(theta, res, spread, slopes)
		normal = products(slopes)
		gradient := make([]float64, k)
		for c := range k {
			gradient[c] = dot(slopes[c], res)
		}
		better := false
		for range 12 {
			step, ok := normal.damped(lambda).solve(gradient)
			if !ok {
				lambda *= 10
				continue
			}
			t := make([]float64, k)
			for c := range k {
				t[c] = theta[c] - step[c]
			}
			if next := m.cost(t); next < now && !math.IsNaN(next) {
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
	for i := range res {
		chi += res[i] * res[i]
	}
	chi /= float64(n - k)
	variances, ok := normal.inverseDiagonal()
	if !ok || math.IsNaN(now) {
		return nil, nil, 0, iterations
	}
	for c := range variances {
		variances[c] *= chi
	}
	return theta, variances, chi, iterations
}

// linear works out the residuals at theta by their spread, and how each parameter changes them.
func (m model) linear(theta, res, spread []float64, slopes [][]float64) {
	here := m.laid(theta)
	for i, p := range m.points {
		d, s := m.residual(p, theta, here)
		res[i], spread[i] = d/s, s
	}
	for c := range theta {
		step := 1e-5 * math.Max(1, math.Abs(theta[c]))
		t := slices.Clone(theta)
		t[c] += step
		there := m.laid(t)
		for i, p := range m.points {
			e, _ := m.residual(p, t, there)
			slopes[c][i] = e/spread[i]/step - res[i]/step
		}
	}
}

// symmetric is a symmetric matrix, row by row. Of gonum only the two routines of LAPACK
// are used and not its matrices: these alone were a tenth of the core on its way to a
// phone.
type symmetric struct {
	n  int
	at []float64
}

func dot(a, b []float64) (sum float64) {
	for i := range a {
		sum += a[i] * b[i]
	}
	return sum
}

// products are those of columns with each other.
func products(columns [][]float64) symmetric {
	s := symmetric{len(columns), make([]float64, len(columns)*len(columns))}
	for i := range columns {
		for j := range columns {
			s.at[i*s.n+j] = dot(columns[i], columns[j])
		}
	}
	return s
}

// damped has a diagonal that is larger by this part of itself.
func (s symmetric) damped(lambda float64) symmetric {
	d := symmetric{s.n, slices.Clone(s.at)}
	for i := range d.n {
		d.at[i*d.n+i] *= 1 + lambda
	}
	return d
}

// least is how much of a parameter the ones before it must leave open: below it they
// cannot be told apart.
const least = 1e-14

// factored is Cholesky's factor once the diagonal is scaled to 1, with that scale; false
// where the matrix is not positive definite, or hardly.
func (s symmetric) factored() (f symmetric, scale []float64, ok bool) {
	f, scale = symmetric{s.n, slices.Clone(s.at)}, make([]float64, s.n)
	for i := range scale {
		scale[i] = math.Sqrt(s.at[i*s.n+i])
	}
	for i := range f.at {
		f.at[i] /= scale[i/s.n] * scale[i%s.n]
		if !finite(f.at[i]) {
			return f, scale, false
		}
	}
	if !(lapack.Implementation{}).Dpotrf(blas.Upper, s.n, f.at, s.n) {
		return f, scale, false
	}
	for i := range f.n {
		if d := f.at[i*f.n+i]; d*d < least {
			return f, scale, false
		}
	}
	return f, scale, true
}

// solve is x of s·x = b; false where there is none.
func (s symmetric) solve(b []float64) ([]float64, bool) {
	f, scale, ok := s.factored()
	if !ok {
		return nil, false
	}
	x := make([]float64, s.n)
	for i := range x {
		x[i] = b[i] / scale[i]
	}
	lapack.Implementation{}.Dpotrs(blas.Upper, s.n, 1, f.at, s.n, x, 1)
	for i := range x {
		x[i] /= scale[i]
	}
	return x, true
}

// inverseDiagonal is the diagonal of the inverse; false where there is none.
func (s symmetric) inverseDiagonal() ([]float64, bool) {
	out := make([]float64, s.n)
	for i := range out {
		unit := make([]float64, s.n)
		unit[i] = 1
		x, ok := s.solve(unit)
		if !ok {
			return nil, false
		}
		out[i] = x[i]
	}
	return out, true
}
