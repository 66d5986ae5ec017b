package statistics_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"exactflask/core/values/statistics"
)

func TestBetween(t *testing.T) {
	points := []statistics.Point{{X: 1, Y: 10}, {X: 2, Y: 20}, {X: 2, Y: 30}, {X: 4, Y: 10}}
	for x, want := range map[float64]float64{0: 10, 1: 10, 1.5: 15, 2: 30, 3: 20, 4: 10, 5: 10} {
		assert.Equal(t, want, statistics.Between(points, x), "%g", x)
	}
	assert.True(t, math.IsNaN(statistics.Between(nil, 1)))
}

func TestLineThrough(t *testing.T) {
	l, ok := statistics.LineThrough([]float64{1, 2, 3}, []float64{3, 5, 7}, nil)
	assert.True(t, ok)
	assert.InDelta(t, 1, l.A, 1e-12)
	assert.InDelta(t, 2, l.B, 1e-12)
	assert.InDelta(t, -0.5, l.Zero(), 1e-12)
	l, ok = statistics.LineThrough([]float64{0, 1, 2}, []float64{0, 1, 9}, []float64{1, 1, 0})
	assert.True(t, ok)
	assert.InDelta(t, 1, l.B, 1e-12, "what weighs nothing does not count")
	for _, x := range [][]float64{nil, {1}, {1, 1}} {
		_, ok := statistics.LineThrough(x, make([]float64, len(x)), nil)
		assert.False(t, ok, "%v", x)
	}
}

// Two or three values scatter no less than what they are read with; of four they tell it themselves.
// By hand: of 23.85 and 23.85 read to 0.05 with 0.03, 100 x 0.03/23.85 = 0.12579 %.
func TestResolving(t *testing.T) {
	two, ok := statistics.Describe([]float64{23.85, 23.85})
	assert.True(t, ok)
	two = two.Resolving(0.03)
	assert.True(t, two.Resolved)
	assert.InDelta(t, 0.03, two.SD, 1e-12)
	assert.InDelta(t, 0.12579, two.RSD, 1e-4)
	assert.InDelta(t, two.T*0.03/math.Sqrt2, two.CI95, 1e-12)
	four, _ := statistics.Describe([]float64{23.85, 23.85, 23.85, 23.85})
	assert.False(t, four.Resolving(0.03).Resolved)
	wide, _ := statistics.Describe([]float64{23.80, 23.90})
	assert.False(t, wide.Resolving(wide.SD).Resolved, "as much is enough")
}
