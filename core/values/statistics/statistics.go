// Package statistics describes sets of numbers: mean and scatter, the robust ones, and what lies far out.
package statistics

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"
)

// Statistics describe the averaged titres, in mL.
type Statistics struct {
	N     int     `json:"n"`
	Mean  float64 `json:"mean"`
	Range float64 `json:"range" doc:"largest less smallest"`
	SD    float64 `json:"sd" doc:"sample standard deviation, n-1"`
	RSD   float64 `json:"rsd" doc:"relative standard deviation, %"`
	CI95  float64 `json:"ci95,omitempty" doc:"half width of the 95 % confidence interval of the mean; left out of fewer than three"`
	T     float64 `json:"t,omitempty" doc:"Student's t that it was made with"`
	// Resolved: so few values scatter less than they are read.
	Resolved bool `json:"resolved,omitempty" doc:"the values scatter less than they are read: sd is what the resolution gives"`
}

// fewToScatter are so few values that they may be equal by how they are read. Source:
// common practice, no source.
const fewToScatter = 3

// Resolving are the statistics of values that are read no finer than with this standard
// deviation: of two or three the scatter is never taken to be less.
func (s Statistics) Resolving(least float64) Statistics {
	if s.N > fewToScatter || s.SD >= least {
		return s
	}
	s.SD, s.Resolved = least, true
	s.RSD = 100 * s.SD / math.Abs(s.Mean)
	s.CI95 = s.T * s.SD / math.Sqrt(float64(s.N))
	return s
}

// Describe returns the statistics of at least two values; false for fewer.
func Describe(values []float64) (Statistics, bool) {
	n := len(values)
	if n < 2 {
		return Statistics{}, false
	}
	mean, sd := stat.MeanStdDev(values, nil)
	out := Statistics{N: n, Mean: mean, Range: slices.Max(values) - slices.Min(values), SD: sd, RSD: 100 * sd / math.Abs(mean)}
	if n >= fewToScatter { // of two the interval is wider than anybody would believe
		out.T = Student(n - 1)
		out.CI95 = out.T * sd / math.Sqrt(float64(n))
	}
	return out, true
}

// Student is the quantile of Student's t that 2.5 % lie above. Those of few
// degrees of freedom are computed once.
func Student(freedom int) float64 {
	if freedom < len(quantiles) {
		return quantiles[freedom]
	}
	return distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(freedom)}.Quantile(0.975)
}

var quantiles = func() (out [12]float64) {
	for freedom := 1; freedom < len(out); freedom++ {
		out[freedom] = distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(freedom)}.Quantile(0.975)
	}
	return out
}()

// Dixon is the Q test of the value that lies farthest out. It is information
// only: nothing is ever left out because of it.
type Dixon struct {
	Index    int     `json:"-"`
	Trial    string  `json:"trial" doc:"id of the trial that lies farthest out"`
	Q        float64 `json:"q"`
	Critical float64 `json:"critical" doc:"at 95 %"`
	Outlies  bool    `json:"outlies" doc:"q is larger than the critical value"`
}

// dixonCritical is Q at 95 % for 3 to 7 values. Source: D. B. Rorabacher, Anal.
// Chem. 1991, 63, 139 (from memory).
var dixonCritical = map[int]float64{3: 0.970, 4: 0.829, 5: 0.710, 6: 0.625, 7: 0.568}

// DixonQ tests the farthest of 3 to 7 values; false for other numbers, or when
// all are equal. Q is the gap to the nearest neighbour over the range. It says
// nothing where the gap is no more than a step of the scale (0 where that is not
// known): 23.80, 23.85 and 23.85 differ by how they were read.
func DixonQ(values []float64, step float64) (Dixon, bool) {
	critical, ok := dixonCritical[len(values)]
	sorted := slices.Sorted(slices.Values(values))
	if !ok || sorted[0] == sorted[len(sorted)-1] {
		return Dixon{}, false
	}
	n := len(sorted)
	whole := sorted[n-1] - sorted[0]
	low, high := (sorted[1]-sorted[0])/whole, (sorted[n-1]-sorted[n-2])/whole
	q, far := low, sorted[0]
	if high > low {
		q, far = high, sorted[n-1]
	}
	if q*whole <= step*(1+1e-9) {
		return Dixon{}, false
	}
	return Dixon{Index: slices.Index(values, far), Q: q, Critical: critical, Outlies: q > critical}, true
}

// Median is the middle value, or the mean of the two in the middle; 0 of none.
func Median(values []float64) float64 {
	s := slices.Sorted(slices.Values(values))
	n := len(s)
	if n == 0 {
		return 0
	}
	return (s[(n-1)/2] + s[n/2]) / 2
}

// RobustSpread is the robust standard deviation: 1.4826 makes the median absolute
// deviation that of a normal distribution.
func RobustSpread(values []float64) float64 {
	m := Median(values)
	from := make([]float64, len(values))
	for i, v := range values {
		from[i] = math.Abs(v - m)
	}
	return 1.4826 * Median(from)
}
