// Package derivation is a working as a graph: named nodes, each computed from
// earlier ones, back to the readings in the notebook. Every way of writing the
// working, every "where from?", the uncertainty, the causes of a difference
// and the judgement of a student's own steps are read off it; run backwards
// along its path it tells which titre to expect.
package derivation

import (
	"maps"
	"slices"

	"exactflask/core/chemistry/glass"
	"exactflask/core/values/decimal"
	"exactflask/core/values/quantity"
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
// before these too. A student's answers name steps by these ids, so they are
// never changed.
const (
	MeanTitre   = "mean-titre"
	Blank       = "mean-blank"
	Corrected   = "corrected-titre" // mean titre less mean blank
	TitreLitres = "titre-litres"
	Aliquot     = "aliquot"
	Known       = "known-concentration"
	KnownAmount = "known-amount"
	MoleRatio   = "mole-ratio"
	Amount      = "unknown-amount"
	First       = "first-titre"
	MadeMass    = "made-mass"     // of the solid that the titrant is made of
	Second      = "second-answer" // the other component of a mixture
	Answer      = "answer"
)

// SourceKind says what a leaf comes from.
type SourceKind string

// What a leaf can come from.
const (
	Burette        SourceKind = "burette"
	SampleBurette  SourceKind = "sample-burette"
	ReagentBurette SourceKind = "reagent-burette"
	Pipette        SourceKind = "pipette"
	Flask          SourceKind = "flask"
	Cylinder       SourceKind = "cylinder"
	Balance        SourceKind = "balance"
	KnownSolution  SourceKind = "known"
	ExcessSolution SourceKind = "excess"
	StockSolution  SourceKind = "stock"
	Purity         SourceKind = "purity"
	Density        SourceKind = "density"
	AtomicWeights  SourceKind = "molar-mass"
)

// Point says which end of a difference a reading is.
type Point string

// The ends: the larger reading, the smaller one, and those about a filling.
const (
	NoPoint Point = ""
	Start   Point = "start"
	End     Point = "end"
	Refill  Point = "refill"
)

// Source is what measured a leaf. Leaves of one source share its error.
type Source struct {
	Kind   SourceKind      `json:"kind"`
	Point  Point           `json:"point,omitempty" doc:"which reading of the scale it is"`
	Volume decimal.Decimal `json:"volume,omitzero" doc:"nominal volume of the glass, mL"`
	Class  glass.Class     `json:"class,omitempty" doc:"of the glass"`
	Within decimal.Decimal `json:"tolerance,omitzero" doc:"of the glass, mL, where it is known of itself"`
	// Nominal is set where a value stands in for something that was to be
	// measured: a mass that was not recorded, a solution not yet standardised.
	Nominal bool `json:"nominal,omitempty" doc:"it stands in for something that was not measured"`
	// Instead is the value of the practical in whose place a measured one stands.
	Instead decimal.Decimal `json:"instead,omitzero" doc:"what the practical gives, where something else was measured"`
	// Curve is the standard uncertainty of an end that was found on a measured curve and
	// not seen in the flask, mL.
	Curve float64 `json:"curve,omitempty" doc:"standard uncertainty of an end that was found on a measured curve, mL"`
}

// Glass tells whether the source is a vessel whose tolerance counts.
func (s Source) Glass() (glass.Kind, bool) {
	switch s.Kind {
	case Pipette:
		return glass.OneMark, true
	case Flask:
		return glass.Flask, true
	case Cylinder:
		return glass.Cylinder, true
	}
	return "", false
}

// Shares tells whether two leaves were measured by the same thing.
func (s Source) Shares(o Source) bool {
	return s.Kind == o.Kind && s.Class == o.Class && s.Volume.Cmp(o.Volume) == 0
}

// Titration tells whether the reading belongs to the titre.
func (s Source) Titration() bool { return s.Kind == Burette }

// Where says which part of the sample a node is about, to tell it from
// others of the same substance.
type Where string

// The places. OfVolume is the whole that was made up to a mark: its volume
// stands beside it.
const (
	Nowhere       Where = ""
	InAliquot     Where = "aliquot"
	OfVolume      Where = "made-up"
	OfBlank       Where = "blank"
	Added         Where = "added"
	Used          Where = "used"
	OneTablet     Where = "one-tablet"
	OfSample      Where = "sample"
	OfSolution    Where = "solution"
	Undiluted     Where = "undiluted"
	NominalOne    Where = "nominal"
	OfHydrate     Where = "hydrate"
	WaterInIt     Where = "water-in-it"
	ToFirstEnd    Where = "first-end"
	ToSecondEnd   Where = "second-end"
	BetweenEnds   Where = "between-ends"
	FromPipette   Where = "pipette"
	FromMakeUp    Where = "make-up"
	FromExcess    Where = "excess"
	WeighedSalt   Where = "weighed"
	InTheSample   Where = "in-sample"
	ReagentVolume Where = "reagent"
	Stock         Where = "stock"
)

// Node is one figure of the working.
type Node struct {
	ID        string            `json:"id"`
	Letter    string            `json:"letter" doc:"symbol: V, c, n, m, M and so on; r for a mole ratio, f for a dilution"`
	Of        string            `json:"of,omitempty" doc:"formula the symbol is about, in plain ASCII"`
	Where     Where             `json:"where,omitempty" doc:"which part of the sample"`
	MadeUp    decimal.Decimal   `json:"madeUp,omitzero" doc:"volume of an aliquot that was made up, mL"`
	Quantity  quantity.Quantity `json:"quantity"`
	Operation Operation         `json:"operation" enum:"given,reading,ratio,molar-mass,constant,difference,mean,convert,product,quotient"`
	Inputs    []int             `json:"inputs,omitempty" doc:"places in the list of the nodes it follows from, in order"`
	Step      string            `json:"step,omitempty" doc:"code of the step of the working that this node is; empty for what lies between"`
	Source    Source            `json:"source,omitzero" doc:"what measured a leaf"`
	Entry     string            `json:"entry,omitempty" doc:"id of the notebook entry of a reading"`
	Trial     string            `json:"trial,omitempty" doc:"id of the trial it belongs to"`
	Route     int               `json:"route,omitempty" doc:"step of the route it belongs to, from 1"`
	Own       bool              `json:"own,omitempty" doc:"students work it out themselves, though the working does not show it as a step"`
	Written   string            `json:"written,omitempty" doc:"the digits as written, for leaves"`
}

// Leaf tells whether the node follows from nothing else.
func (n Node) Leaf() bool { return len(n.Inputs) == 0 }

// Derivation is a whole working. Nodes stand after their inputs; the last is
// the answer.
type Derivation struct {
	Nodes []Node `json:"nodes"`
}

// Find returns the place of the node with this id; false where it is not.
func (d Derivation) Find(id string) (int, bool) {
	for i := len(d.Nodes) - 1; i >= 0; i-- {
		if d.Nodes[i].ID == id {
			return i, true
		}
	}
	return 0, false
}

// Node returns the node with this id.
func (d Derivation) Node(id string) (Node, bool) {
	i, ok := d.Find(id)
	if !ok {
		return Node{}, false
	}
	return d.Nodes[i], true
}

// Answer returns the last node.
func (d Derivation) Answer() Node { return d.Nodes[len(d.Nodes)-1] }

// IsStep tells whether a node is a step of the working that a person writes:
// one that has a code, a titre that students subtract themselves, the mean titre, the
// other component's answer, and the last.
func (d Derivation) IsStep(i int) bool {
	n := d.Nodes[i]
	return n.Step != "" || n.Own || n.ID == MeanTitre || n.ID == Second || i == len(d.Nodes)-1
}

// Within are the places of the nodes that a step is made of, in order, down to the leaves
// and to earlier steps for which there is a figure of one's own (own, by place): what was
// not written down belongs to the step.
func (d Derivation) Within(at int, own map[int]float64) []int {
	seen := map[int]bool{}
	var walk func(i int)
	walk = func(i int) {
		for _, in := range d.Nodes[i].Inputs {
			if !seen[in] {
				seen[in] = true
				if _, has := own[in]; !has || !d.IsStep(in) {
					walk(in)
				}
			}
		}
	}
	walk(at)
	return slices.Sorted(maps.Keys(seen))
}

// Recompute evaluates the derivation again with the values of some nodes (by
// place, in the node's own unit) replaced, computed ones included, and returns
// the value of one node.
func (d Derivation) Recompute(replaced map[int]float64, at int) float64 {
	p := d.Program()
	for i, v := range replaced {
		p.Values[i], p.steps[i] = v, step{}
	}
	p.Compute()
	return p.Values[at]
}
