// Package stoich goes from titres to the answer, and keeps every step.
//
// The result is a Derivation: a list of named nodes, each computed from
// earlier ones, that reaches back to the readings in the notebook. Every way
// of writing the working, every "where from?", the uncertainty and the causes
// of a difference are read off it.
package stoich

import (
	"slices"

	"exactflask/core/quantity"
)

// Operation says how a node follows from its inputs.
type Operation string

// The operations. Given nodes are leaves that come from the practical,
// Reading nodes leaves that come from the notebook, Ratio nodes leaves that
// come from the equation, Molar nodes molar masses from the formula, and
// Constant nodes numbers of nature or definition.
const (
	Given      Operation = "given"
	Read       Operation = "reading"
	Ratio      Operation = "ratio"
	Molar      Operation = "molar-mass"
	Constant   Operation = "constant"
	Difference Operation = "difference" // first input less the second; more pairs are added
	Mean       Operation = "mean"
	Convert    Operation = "convert" // the same quantity in another unit
	Product    Operation = "product"
	Quotient   Operation = "quotient" // first input by the second
)

// Ids of nodes that derivations share. Those of titres and readings are made
// from their trial; where every trial is worked out by itself, its id stands
// before these too.
const (
	NodeMeanTitre   = "mean-titre"
	NodeBlank       = "mean-blank"
	NodeCorrected   = "corrected-titre" // mean titre less mean blank
	NodeTitreLitres = "titre-litres"
	NodeAliquot     = "aliquot"
	NodeKnown       = "known-concentration"
	NodeKnownAmount = "known-amount"
	NodeMoleRatio   = "mole-ratio"
	NodeAmount      = "unknown-amount"
	NodeFirst       = "first-titre"
	NodeSecond      = "second-answer" // the other component of a mixture
	NodeAnswer      = "answer"
)

// Node is one figure of the working.
type Node struct {
	ID        string            `json:"id"`
	Letter    string            `json:"letter" doc:"symbol: V, c, n, m, M and so on; r for a mole ratio, f for a dilution"`
	Of        string            `json:"of,omitempty" doc:"formula the symbol is about, in plain ASCII"`
	Where     string            `json:"where,omitempty" doc:"which portion: flask, or the volume it was made up to"`
	Quantity  quantity.Quantity `json:"quantity"`
	Operation Operation         `json:"operation" enum:"given,reading,ratio,molar-mass,constant,difference,mean,convert,product,quotient"`
	Inputs    []string          `json:"inputs,omitempty" doc:"ids of the nodes it follows from, in order"`
	Step      string            `json:"step,omitempty" doc:"code of the step of the working that this node is; empty for what lies between"`
	Source    string            `json:"source,omitempty" doc:"what measured a leaf, such as burette or pipette-25.0; leaves of one source share its error"`
	Entry     string            `json:"entry,omitempty" doc:"id of the notebook entry of a reading"`
	Trial     string            `json:"trial,omitempty" doc:"id of the trial it belongs to"`
	Written   string            `json:"written,omitempty" doc:"the digits as written, for leaves"`
}

// Leaf tells whether the node follows from nothing else.
func (n Node) Leaf() bool { return len(n.Inputs) == 0 }

// Derivation is a whole working. Nodes stand after their inputs; the last is
// the answer.
type Derivation struct {
	Nodes []Node `json:"nodes"`
}

// Node returns the node with this id.
func (d Derivation) Node(id string) (Node, bool) {
	for i := len(d.Nodes) - 1; i >= 0; i-- {
		if d.Nodes[i].ID == id {
			return d.Nodes[i], true
		}
	}
	return Node{}, false
}

// Answer returns the last node.
func (d Derivation) Answer() Node { return d.Nodes[len(d.Nodes)-1] }

// Recompute evaluates the derivation again with the values of some nodes (by
// id, in the node's own unit) replaced, computed ones included, and returns
// the value of one node; an empty id means the answer.
func (d Derivation) Recompute(replaced map[string]float64, id string) float64 {
	p := d.compile()
	at := len(d.Nodes) - 1
	for i, n := range d.Nodes {
		if v, ok := replaced[n.ID]; ok {
			p.values[i], p.steps[i] = v, step{}
		}
		if n.ID == id {
			at = i
		}
	}
	p.run()
	return p.values[at]
}

// Model is a derivation made ready for many evaluations with other leaves. It
// is for one goroutine.
type Model struct {
	program
	base  []float64
	index map[string]int
}

// Model makes one.
func (d Derivation) Model() *Model {
	m := &Model{program: *d.compile(), index: d.indices()}
	m.base = slices.Clone(m.values)
	return m
}

// At returns the place of a node; false for an id that is not there.
func (m *Model) At(id string) (int, bool) { i, ok := m.index[id]; return i, ok }

// Last is the place of the answer.
func (m *Model) Last() int { return len(m.values) - 1 }

// Reset brings all leaves back to their own values.
func (m *Model) Reset() { copy(m.values, m.base) }

// Shift adds to a leaf; Run computes, Value reads.
func (m *Model) Shift(at int, by float64) { m.values[at] += by }

// Run computes every node from the leaves as they are now.
func (m *Model) Run() { m.run() }

// Value is what a node has after Run.
func (m *Model) Value(at int) float64 { return m.values[at] }

// program is a derivation made ready to be evaluated many times.
type program struct {
	values []float64
	steps  []step
}

// step computes one value; a leaf has none.
type step struct {
	op     Operation
	inputs []int
	factor float64 // of Convert
}

func (d Derivation) compile() *program {
	index := make(map[string]int, len(d.Nodes))
	p := &program{values: make([]float64, len(d.Nodes)), steps: make([]step, len(d.Nodes))}
	for i, n := range d.Nodes {
		index[n.ID] = i
		p.values[i] = n.Quantity.Value
		if n.Leaf() {
			continue
		}
		s := step{op: n.Operation, inputs: make([]int, len(n.Inputs)), factor: 1}
		for j, id := range n.Inputs {
			s.inputs[j] = index[id]
		}
		if n.Operation == Convert {
			s.factor = d.Nodes[s.inputs[0]].Quantity.Unit.Scale() / n.Quantity.Unit.Scale()
		}
		p.steps[i] = s
	}
	return p
}

// run computes everything that is no leaf.
func (p *program) run() {
	for i := range p.steps {
		s := &p.steps[i]
		if s.inputs == nil {
			continue
		}
		v := p.values[s.inputs[0]]
		switch s.op {
		case Product:
			v *= p.values[s.inputs[1]]
		case Quotient:
			v /= p.values[s.inputs[1]]
		case Convert:
			v *= s.factor
		case Difference:
			for j, in := range s.inputs[1:] {
				if j%2 == 0 {
					v -= p.values[in]
				} else {
					v += p.values[in]
				}
			}
		case Mean:
			for _, in := range s.inputs[1:] {
				v += p.values[in]
			}
			v /= float64(len(s.inputs))
		}
		p.values[i] = v
	}
}
