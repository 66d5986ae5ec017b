package derivation

import (
	"errors"
	"math"
	"slices"
)

// Program is a derivation made ready to be evaluated many times with other
// leaves. It is for one goroutine.
type Program struct {
	Values []float64 // of the nodes, in their order
	base   []float64
	steps  []step
}

// step computes one value; a leaf has no inputs.
type step struct {
	op     Operation
	inputs []int
	factor float64 // of Convert
}

// Program makes one; its values are those of the nodes.
func (d Derivation) Program() *Program {
	n := len(d.Nodes)
	both := make([]float64, 2*n)
	p := &Program{Values: both[:n:n], base: both[n:], steps: make([]step, n)}
	for i := range d.Nodes {
		node := &d.Nodes[i]
		p.Values[i] = node.Quantity.Value
		s := step{op: node.Operation, inputs: node.Inputs, factor: 1}
		if node.Operation == Convert {
			s.factor = d.Nodes[node.Inputs[0]].Quantity.Unit.Scale() / node.Quantity.Unit.Scale()
		}
		p.steps[i] = s
	}
	copy(p.base, p.Values)
	return p
}

// Last is the place of the answer.
func (p *Program) Last() int { return len(p.Values) - 1 }

// Base is a node's own value.
func (p *Program) Base(at int) float64 { return p.base[at] }

// Reset brings all nodes back to their own values.
func (p *Program) Reset() { copy(p.Values, p.base) }

// Run computes everything that is no leaf.
func (p *Program) Compute() {
	for i := range p.steps {
		s := &p.steps[i]
		if len(s.inputs) == 0 {
			continue
		}
		v := p.Values[s.inputs[0]]
		switch s.op {
		case Product:
			v *= p.Values[s.inputs[1]]
		case Quotient:
			v /= p.Values[s.inputs[1]]
		case Convert:
			v *= s.factor
		case Difference:
			for j, in := range s.inputs[1:] {
				if j%2 == 0 {
					v -= p.Values[in]
				} else {
					v += p.Values[in]
				}
			}
		case Mean:
			for _, in := range s.inputs[1:] {
				v += p.Values[in]
			}
			v /= float64(len(s.inputs))
		}
		p.Values[i] = v
	}
}

// Gradient returns the derivative of one node's value by that of every other,
// at the values as they are: the chain rule, from the node back to the leaves.
// What the node does not depend on has 0.
func (p *Program) Gradient(of int) []float64 {
	g := make([]float64, len(p.Values))
	g[of] = 1
	for i := of; i >= 0; i-- {
		s := &p.steps[i]
		if g[i] == 0 || len(s.inputs) == 0 {
			continue
		}
		a := s.inputs[0]
		switch s.op {
		case Product:
			b := s.inputs[1]
			g[a], g[b] = g[a]+g[i]*p.Values[b], g[b]+g[i]*p.Values[a]
		case Quotient:
			b := s.inputs[1]
			g[b] -= g[i] * p.Values[a] / (p.Values[b] * p.Values[b])
			g[a] += g[i] / p.Values[b]
		case Convert:
			g[a] += g[i] * s.factor
		case Difference:
			g[a] += g[i]
			for j, in := range s.inputs[1:] {
				if j%2 == 0 {
					g[in] -= g[i]
				} else {
					g[in] += g[i]
				}
			}
		case Mean:
			for _, in := range s.inputs {
				g[in] += g[i] / float64(len(s.inputs))
			}
		}
	}
	return g
}

// Reasons why a derivation cannot be run backwards.
var (
	ErrNoPath   = errors.New("the one does not follow from the other")
	ErrTwoPaths = errors.New("the one follows from the other in two ways")
	ErrNoValue  = errors.New("no value gives this")
)

// Solve runs the derivation backwards: it returns the value that the node at
// from must have, all else being as it is, for the node at to to have a value.
// Up to the amount every titration is a straight line in the titre, and what is
// asked for a monotonic function of the amount, so the way back is one
// inverse operation for each node on the path.
func (p *Program) Solve(to int, want float64, from int) (float64, error) {
	reaches := make([]bool, len(p.steps))
	reaches[from] = true
	for i := from + 1; i <= to; i++ {
		for _, in := range p.steps[i].inputs {
			reaches[i] = reaches[i] || reaches[in]
		}
	}
	if !reaches[to] {
		return 0, ErrNoPath
	}
	for at := to; at != from; {
		s := &p.steps[at]
		next, place := -1, 0
		for j, in := range s.inputs {
			if !reaches[in] {
				continue
			}
			if next >= 0 {
				return 0, ErrTwoPaths
			}
			next, place = in, j
		}
		want = p.undone(s, place, want)
		at = next
	}
	if math.IsNaN(want) || math.IsInf(want, 0) {
		return 0, ErrNoValue
	}
	return want, nil
}

// undone is what the input at place of a step has to be, for the step to come to want.
func (p *Program) undone(s *step, place int, want float64) float64 {
	switch s.op {
	case Product:
		want /= p.Values[s.inputs[1-place]]
	case Quotient:
		if place == 0 {
			want *= p.Values[s.inputs[1]]
		} else {
			want = p.Values[s.inputs[0]] / want
		}
	case Convert:
		want /= s.factor
	case Difference:
		rest := 0.0
		for j, in := range s.inputs {
			if j == place {
				continue
			}
			if j%2 == 1 {
				rest -= p.Values[in]
			} else {
				rest += p.Values[in]
			}
		}
		want -= rest
		if place%2 == 1 {
			want = -want
		}
	case Mean:
		want *= float64(len(s.inputs))
		for j, in := range s.inputs {
			if j != place {
				want -= p.Values[in]
			}
		}
	}
	return want
}

// Trimmed is the program cut down to what some leaves can change of the last
// node, and where each leaf stands in it (-1: it changes nothing).
func (p *Program) Trimmed(leaves []int) (*Program, []int) {
	touched, needed := make([]bool, len(p.steps)), make([]bool, len(p.steps))
	for _, at := range leaves {
		touched[at] = true
	}
	for i, s := range p.steps {
		for _, in := range s.inputs {
			touched[i] = touched[i] || touched[in]
		}
	}
	needed[len(needed)-1] = true
	for i := len(p.steps) - 1; i >= 0; i-- {
		if needed[i] && touched[i] {
			for _, in := range p.steps[i].inputs {
				needed[in] = true
			}
		}
	}
	out, moved := &Program{}, make([]int, len(p.steps))
	for i, s := range p.steps {
		moved[i] = -1
		if !needed[i] {
			continue
		}
		moved[i] = len(out.Values)
		if !touched[i] {
			s = step{}
		}
		s.inputs = slices.Clone(s.inputs)
		for j, in := range s.inputs {
			s.inputs[j] = moved[in]
		}
		out.Values, out.steps = append(out.Values, p.Values[i]), append(out.steps, s)
	}
	out.base = slices.Clone(out.Values)
	places := make([]int, len(leaves))
	for i, at := range leaves {
		places[i] = moved[at]
	}
	return out, places
}
