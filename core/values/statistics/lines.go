package statistics

import (
	"math"
	"sort"

	"gonum.org/v1/gonum/stat"
)

// Point is one of a series that is joined by straight lines, in order of X.
type Point struct{ X, Y float64 }

// Between is the value at x of points that are joined by straight lines; before the first
// and behind the last, theirs. Of several at one place the last one counts. gonum's
// interpolation wants every place once, and panics where it is not.
func Between(points []Point, x float64) float64 {
	return BetweenAt(len(points), func(i int) (float64, float64) { return points[i].X, points[i].Y }, x)
}

// BetweenAt is Between for n points of any kind; at tells their places and values.
func BetweenAt(n int, at func(i int) (x, y float64), x float64) float64 {
	i := sort.Search(n, func(i int) bool { px, _ := at(i); return px > x })
	switch {
	case n == 0:
		return math.NaN()
	case i == 0:
		_, y := at(0)
		return y
	case i == n:
		_, y := at(n - 1)
		return y
	}
	x0, y0 := at(i - 1)
	x1, y1 := at(i)
	return y0 + (y1-y0)*(x-x0)/(x1-x0)
}

// Mean is the mean of some values; NaN of none.
func Mean(values []float64) float64 { return stat.Mean(values, nil) }

// Line is a straight line through points, y = A + B x.
type Line struct{ A, B float64 }

// At is its value at x.
func (l Line) At(x float64) float64 { return l.A + l.B*x }

// Zero is where it meets zero.
func (l Line) Zero() float64 { return -l.A / l.B }

// LineThrough is the line of least squares through points, each of a weight (nil: all the
// same); false where they do not tell one.
func LineThrough(x, y, weights []float64) (Line, bool) {
	if len(x) < 2 {
		return Line{}, false
	}
	a, b := stat.LinearRegression(x, y, weights, false)
	return Line{a, b}, !math.IsNaN(a) && !math.IsNaN(b) && !math.IsInf(a, 0) && !math.IsInf(b, 0)
}
