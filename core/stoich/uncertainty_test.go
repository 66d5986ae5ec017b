package stoich_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"exactflask/core/quantity"
	"exactflask/core/stoich"
)

// factors makes a derivation of a product of powers: name, value, standard
// uncertainty, power.
type factor struct {
	name     string
	value, u float64
	power    int
}

func product(scale float64, factors []factor) (stoich.Derivation, []stoich.Input) {
	d := stoich.Derivation{Nodes: []stoich.Node{{ID: "scale", Operation: stoich.Constant, Quantity: quantity.Quantity{Value: scale, Unit: quantity.One}}}}
	var inputs []stoich.Input
	at, value := "scale", scale
	for _, f := range factors {
		op := stoich.Product
		if f.power < 0 {
			op, value = stoich.Quotient, value/f.value
		} else {
			value *= f.value
		}
		d.Nodes = append(d.Nodes, stoich.Node{ID: f.name, Operation: stoich.Given, Quantity: quantity.Quantity{Value: f.value, Unit: quantity.One}},
			stoich.Node{ID: "to " + f.name, Operation: op, Inputs: []string{at, f.name}, Quantity: quantity.Quantity{Value: value, Unit: quantity.One}})
		at = "to " + f.name
		inputs = append(inputs, stoich.Input{Code: f.name, Standard: f.u, Shape: stoich.Normal, Effects: []stoich.Effect{{Leaf: f.name, Gain: 1}}})
	}
	return d, inputs
}

// EURACHEM/CITAC Guide CG4 (QUAM:2012), examples A2 and A3, from memory: the
// standardisation of sodium hydroxide, and an acid by it. Of A3 only the value
// is remembered with certainty; its first-order uncertainty was computed
// independently.
func TestEurachemExamples(t *testing.T) {
	for _, c := range []struct {
		name    string
		factors []factor
		value   string
		u       string
	}{
		{"A2", []factor{{"rep", 1, 0.0005, 1}, {"m", 0.3888, 0.00013, 1}, {"P", 1, 0.00029, 1}, {"M", 204.2212, 0.0038, -1}, {"V", 18.64, 0.013, -1}}, "0.10214", "0.00010"},
		{"A3", []factor{{"rep", 1, 0.001, 1}, {"m", 0.3888, 0.00013, 1}, {"P", 1, 0.00029, 1}, {"V2", 14.89, 0.015, 1}, {"V1", 18.64, 0.016, -1}, {"M", 204.2212, 0.0038, -1}, {"VHCl", 15, 0.011, -1}}, "0.10139", "0.00019"},
	} {
		d, inputs := product(1000, c.factors)
		b := d.Budget(inputs, "")
		assert.Equal(t, c.value, quantity.Show(d.Answer().Quantity.Value, 5), c.name)
		assert.Equal(t, c.u, fmt.Sprintf("%.5f", b.Standard), "%s, as many decimals as are printed", c.name)
		mc := d.MonteCarlo(inputs, 100_000, 7)
		assert.InEpsilon(t, b.Standard, mc.Standard, 0.02, "%s: nearly linear, so both ways agree", c.name)
		assert.InDelta(t, d.Answer().Quantity.Value, mc.Mean, b.Standard/20)
		assert.InDelta(t, 1.96*b.Standard, (mc.High-mc.Low)/2, 0.05*b.Standard)
	}
}

func TestBudgetProperties(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var factors []factor
		for i, v := range rapid.SliceOfN(rapid.Float64Range(0.01, 1000), 1, 8).Draw(t, "values") {
			factors = append(factors, factor{string(rune('a' + i)), v, v * rapid.Float64Range(1e-5, 0.01).Draw(t, "u"), 1 - 2*(i%2)})
		}
		d, inputs := product(1, factors)
		b := d.Budget(inputs, "")
		sum, variance := 0.0, 0.0
		for _, c := range b.Contributions {
			sum += c.Share
		}
		for _, f := range factors { // relative uncertainties of a product add in squares
			variance += f.u / f.value * f.u / f.value
		}
		assert.InDelta(t, 1, sum, 1e-9, "shares sum to one")
		assert.InEpsilon(t, 100*math.Sqrt(variance), b.Relative, 1e-3)
		assert.Equal(t, d.MonteCarlo(inputs, 500, 3), d.MonteCarlo(inputs, 500, 3), "a fixed seed gives the same figures")
		assert.InEpsilon(t, d.Answer().Quantity.Value, d.Recompute(nil, ""), 1e-9)
	})
	d, _ := product(1, []factor{{"a", 2, 0, 1}, {"b", 4, 0, -1}})
	assert.Zero(t, d.Budget(nil, "").Standard)
	shared := []stoich.Input{{Code: "one pipette", Standard: 0.1, Effects: []stoich.Effect{{Leaf: "a", Gain: 2}, {Leaf: "b", Gain: 4}}}}
	assert.InDelta(t, 0, d.Budget(shared, "").Standard, 1e-9, "what both share cancels in their quotient")
	mc := d.MonteCarlo([]stoich.Input{{Code: "a", Standard: 1, Shape: stoich.Rectangular, Effects: []stoich.Effect{{Leaf: "a", Gain: 1}}}}, 20_000, 1)
	assert.InDelta(t, (2-math.Sqrt(3)*0.95)/4, mc.Low, 0.01, "a rectangle has sharp edges")
	require.InDelta(t, 0.25, mc.Standard, 0.01)
}

func BenchmarkMonteCarlo100000(b *testing.B) {
	in := direct(b, "HCl + Na2CO3 -> NaCl + H2O + CO2", "HCl", "Na2CO3", "0.1000", "25.00", "0.00 23.85, 0.00 23.80, 0.05 23.85")
	d, err := in.Derive()
	require.NoError(b, err)
	var inputs []stoich.Input
	for _, n := range d.Nodes {
		if n.Leaf() && n.Operation != stoich.Ratio {
			inputs = append(inputs, stoich.Input{Code: n.ID, Standard: 0.02, Shape: stoich.Triangular, Effects: []stoich.Effect{{Leaf: n.ID, Gain: 1}}})
		}
	}
	b.ReportAllocs()
	for b.Loop() {
		d.MonteCarlo(inputs, 100_000, 1)
	}
}
