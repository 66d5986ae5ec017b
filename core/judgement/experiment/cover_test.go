package experiment_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/model/budget"
	"exactflask/core/record/practical/practicaltest"
)

// What was repeated twice is known badly: Student's factor for the effective degrees of freedom
// (JCGM 100:2008, G.4); titres that are equal by chance scatter as a drop does.
func TestCoverage(t *testing.T) {
	part := func(trials ...string) (b *budget.Budget, repeated float64) {
		b = evaluate(t, practicaltest.Plain(), trials...).Result.Budget
		for _, c := range b.Contributions {
			if c.Code == "repeatability" {
				repeated = c.Standard
			}
		}
		return b, repeated
	}
	drop := 0.025 / math.Sqrt(3) // half of 0.05 mL, rectangular
	equal, repeated := part("A 0.00 23.85", "A 0.00 23.85")
	assert.InEpsilon(t, drop/math.Sqrt2, repeated, 1e-9)
	assert.Equal(t, 2.0, equal.Factor)
	assert.Zero(t, equal.Freedom)
	assert.InEpsilon(t, 2*equal.Standard, equal.Expanded, 1e-12)

	apart, repeated := part("A 0.00 23.80", "A 0.00 23.90")
	assert.InEpsilon(t, 0.05, repeated, 1e-9, "0.0707 mL by the root of two")
	require.Positive(t, apart.Freedom)
	variance, quartic := apart.Standard*apart.Standard, 0.0
	for _, c := range apart.Contributions {
		if c.Code == "repeatability" {
			quartic = math.Pow(c.Answer, 4)
		}
	}
	assert.Equal(t, math.Floor(variance*variance/quartic), apart.Freedom)
	// Student's t, two-sided, 95 %, as in any table.
	table := map[float64]float64{1: 12.706, 2: 4.303, 3: 3.182, 4: 2.776, 5: 2.571, 6: 2.447, 8: 2.306, 10: 2.228, 15: 2.131, 20: 2.086}
	require.Contains(t, table, apart.Freedom)
	assert.InDelta(t, table[apart.Freedom], apart.Factor, 5e-4)
	assert.InEpsilon(t, apart.Factor*apart.Standard, apart.Expanded, 1e-12)

	three, _ := part("A 0.00 23.80", "A 0.00 23.85", "A 0.00 23.90")
	assert.Less(t, three.Factor, apart.Factor)
}
