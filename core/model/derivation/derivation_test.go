package derivation_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"exactflask/core/model/derivation"
	"exactflask/core/values/quantity"
)

// random makes a derivation of leaves and of every operation over them. Each
// leaf is used once, so that there is one way back to it.
func random(t *rapid.T) derivation.Derivation {
	var d derivation.Derivation
	put := func(n derivation.Node) int {
		n.ID = fmt.Sprint("n", len(d.Nodes))
		d.Nodes = append(d.Nodes, n)
		return len(d.Nodes) - 1
	}
	leaf := func() int {
		v := rapid.Float64Range(0.5, 50).Draw(t, "leaf")
		return put(derivation.Node{Operation: derivation.Given, Quantity: quantity.Quantity{Value: v, Unit: quantity.One}})
	}
	at := leaf()
	for range rapid.IntRange(1, 6).Draw(t, "steps") {
		a := d.Nodes[at].Quantity.Value
		other := leaf()
		b := d.Nodes[other].Quantity.Value
		n := derivation.Node{Inputs: []int{at, other}, Quantity: quantity.Quantity{Unit: quantity.One}}
		switch rapid.IntRange(0, 3).Draw(t, "operation") {
		case 0:
			n.Operation, n.Quantity.Value = derivation.Product, a*b
		case 1:
			n.Operation, n.Quantity.Value = derivation.Quotient, a/b
		case 2:
			n.Operation, n.Quantity.Value = derivation.Mean, (a+b)/2
		default:
			n.Operation, n.Quantity.Value = derivation.Difference, a-b
		}
		at = put(n)
	}
	return d
}

// A program gives what the derivation says; its gradient is the slope that a
// small step shows; and solving for a leaf gives the leaf back.
func TestPrograms(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := random(t)
		p := d.Program()
		last := p.Last()
		p.Compute()
		want := d.Answer().Quantity.Value
		scale := 1.0
		for _, n := range d.Nodes {
			scale = math.Max(scale, math.Abs(n.Quantity.Value))
		}
		assert.InDelta(t, want, p.Values[last], 1e-9*scale)
		assert.InDelta(t, want, d.Recompute(nil, last), 1e-9*scale)
		gradient := append([]float64(nil), p.Gradient(last)...)
		for i, n := range d.Nodes {
			if !n.Leaf() {
				continue
			}
			step := 1e-6 * n.Quantity.Value
			up := d.Recompute(map[int]float64{i: n.Quantity.Value + step}, last)
			down := d.Recompute(map[int]float64{i: n.Quantity.Value - step}, last)
			slope := (up - down) / (2 * step)
			assert.InDelta(t, slope, gradient[i], 1e-4*math.Max(scale/n.Quantity.Value, math.Abs(slope)))
			if gradient[i] == 0 {
				continue // every value gives it, as that by which a difference of nothing is multiplied
			}
			p.Reset()
			back, err := p.Solve(last, want, i)
			require.NoError(t, err)
			assert.InEpsilon(t, n.Quantity.Value, back, 1e-6*math.Max(1, scale))
		}
	})
}

func ExampleProgram_Solve() {
	one := func(v float64) quantity.Quantity { return quantity.Quantity{Value: v, Unit: quantity.One} }
	d := derivation.Derivation{Nodes: []derivation.Node{
		{ID: "c", Operation: derivation.Given, Quantity: one(0.1)},
		{ID: "V", Operation: derivation.Given, Quantity: one(20)},
		{ID: "n", Operation: derivation.Product, Inputs: []int{0, 1}, Quantity: one(2)},
	}}
	p := d.Program()
	v, _ := p.Solve(2, 2.5, 1)
	fmt.Printf("%.1f", v)
	// Output: 25.0
}
