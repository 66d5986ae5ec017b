package budget_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"exactflask/core/model/budget"
	dv "exactflask/core/model/derivation"
	"exactflask/core/values/quantity"
)

// factor is one of a product of powers: name, value, standard uncertainty.
type factor struct {
	name     string
	value, u float64
	power    int
}

func product(scale float64, factors []factor) (dv.Derivation, []budget.Input) {
	one := func(v float64) quantity.Quantity { return quantity.Quantity{Value: v, Unit: quantity.One} }
	d := dv.Derivation{Nodes: []dv.Node{{ID: "scale", Operation: dv.Constant, Quantity: one(scale)}}}
	var inputs []budget.Input
	value := scale
	for _, f := range factors {
		at, op := len(d.Nodes)-1, dv.Product
		if f.power < 0 {
			op, value = dv.Quotient, value/f.value
		} else {
			value *= f.value
		}
		d.Nodes = append(d.Nodes, dv.Node{ID: f.name, Operation: dv.Given, Quantity: one(f.value)},
			dv.Node{ID: "to " + f.name, Operation: op, Inputs: []int{at, at + 1}, Quantity: one(value)})
		inputs = append(inputs, budget.Input{Code: f.name, Standard: f.u, Shape: budget.Normal,
			Effects: []budget.Effect{{Node: at + 1, Gain: 1}}})
	}
	return d, inputs
}

func of(d dv.Derivation, inputs []budget.Input) budget.Budget {
	p := d.Program()
	return budget.Of(p, inputs, p.Last())
}

// EURACHEM/CITAC Guide CG4 (QUAM:2012), examples A2 and A3, from memory: the
// standardisation of sodium hydroxide, and an acid by it. Of A3 only the value
// is remembered with certainty; its first-order uncertainty was computed
// independently.
func TestEurachemExamples(t *testing.T) {
	for _, c := range []struct {
		name     string
		factors  []factor
		value, u string
	}{
		{"A2", []factor{{"rep", 1, 0.0005, 1}, {"m", 0.3888, 0.00013, 1}, {"P", 1, 0.00029, 1}, {"M", 204.2212, 0.0038, -1},
			{"V", 18.64, 0.013, -1}}, "0.10214", "0.00010"},
		{"A3", []factor{{"rep", 1, 0.001, 1}, {"m", 0.3888, 0.00013, 1}, {"P", 1, 0.00029, 1}, {"V2", 14.89, 0.015, 1},
			{"V1", 18.64, 0.016, -1}, {"M", 204.2212, 0.0038, -1}, {"VHCl", 15, 0.011, -1}}, "0.10139", "0.00019"},
	} {
		d, inputs := product(1000, c.factors)
		b := of(d, inputs)
		value := d.Answer().Quantity.Value
		assert.Equal(t, c.value, quantity.Show(value, 5), c.name)
		assert.Equal(t, c.u, fmt.Sprintf("%.5f", b.Standard), "%s, as many decimals as are printed", c.name)
		mc := budget.MonteCarlo(d.Program(), inputs, 100_000, 7)
		assert.InEpsilon(t, b.Standard, mc.Standard, 0.02, "%s: nearly linear, so both ways agree", c.name)
		assert.InDelta(t, value, mc.Mean, b.Standard/20)
		assert.InDelta(t, 1.96*b.Standard, (mc.High-mc.Low)/2, 0.05*b.Standard)
	}
}

func TestBudgetProperties(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var factors []factor
		for i, v := range rapid.SliceOfN(rapid.Float64Range(0.01, 1000), 1, 8).Draw(t, "values") {
			u := v * rapid.Float64Range(1e-5, 0.01).Draw(t, "u")
			factors = append(factors, factor{string(rune('a' + i)), v, u, 1 - 2*(i%2)})
		}
		d, inputs := product(1, factors)
		b := of(d, inputs)
		sum, variance := 0.0, 0.0
		for _, c := range b.Contributions {
			sum += c.Share
		}
		for _, f := range factors { // relative uncertainties of a product add in squares
			variance += f.u / f.value * f.u / f.value
		}
		assert.InDelta(t, 1, sum, 1e-9, "shares sum to one")
		assert.InEpsilon(t, 100*math.Sqrt(variance), b.Relative, 1e-3)
		again := func() budget.Propagated { return budget.MonteCarlo(d.Program(), inputs, 500, 3) }
		assert.Equal(t, again(), again(), "a fixed seed gives the same figures")
	})
	d, _ := product(1, []factor{{"a", 2, 0, 1}, {"b", 4, 0, -1}})
	assert.Zero(t, of(d, nil).Standard)
	shared := []budget.Input{{Code: "one pipette", Standard: 0.1,
		Effects: []budget.Effect{{Node: 1, Gain: 2}, {Node: 3, Gain: 4}}}}
	assert.InDelta(t, 0, of(d, shared).Standard, 1e-9, "what both share cancels in their quotient")
	rectangle := []budget.Input{{Code: "a", Standard: 1, Shape: budget.Rectangular,
		Effects: []budget.Effect{{Node: 1, Gain: 1}}}}
	mc := budget.MonteCarlo(d.Program(), rectangle, 20_000, 1)
	assert.InDelta(t, (2-math.Sqrt(3)*0.95)/4, mc.Low, 0.01, "a rectangle has sharp edges")
	require.InDelta(t, 0.25, mc.Standard, 0.01)
}
