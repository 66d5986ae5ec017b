package assay

import (
	"math"
	"strconv"

	"exactflask/core/chemistry/chem"
	dv "exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/quantity"
)

// put adds a node with its quantity and returns its place.
func (b *builder) put(n dv.Node) int {
	b.d.Nodes = append(b.d.Nodes, n)
	return len(b.d.Nodes) - 1
}

// share adds a node that several trials use, once.
func (b *builder) share(id string, add func() dv.Node) int {
	for _, s := range b.shared {
		if s.id == id {
			return s.at
		}
	}
	n := add()
	n.ID = id
	at := b.put(n)
	b.shared = append(b.shared, sharedLeaf{id, at})
	return at
}

// leaf is a node with the digits as written.
func leaf(n dv.Node, value decimal.Decimal, unit quantity.Unit) dv.Node {
	n.Quantity = quantity.Of(value, unit)
	if n.Operation == dv.Constant {
		n.Quantity.Figures = 0
	}
	if n.Written == "" {
		n.Written = value.String()
	}
	return n
}

// given is a node of a value that the practical gives, or of what was measured in its place.
func (b *builder) given(n dv.Node, key journal.OwnKey, value decimal.Decimal, unit quantity.Unit) dv.Node {
	if own, ok := b.held.Own[key]; ok {
		return instead(n, &own, value, unit)
	}
	return instead(n, nil, value, unit)
}

// instead is a node of what was measured in the place of a value; of the value where nothing was.
func instead(n dv.Node, own *journal.Reading, value decimal.Decimal, unit quantity.Unit) dv.Node {
	n.Operation = dv.Given
	if own != nil {
		n.Operation, n.Entry, n.Written, n.Source.Instead = dv.Read, own.Entry, own.Text, value
		value = own.Value
	}
	return leaf(n, value, unit)
}

// add computes a node from its inputs and adds it. A product deserves the
// fewest figures among those of its inputs that are not exact, a difference
// follows decimals (common practice).
func (b *builder) add(n dv.Node) int {
	places, out := 0, &n.Quantity
	for i, at := range n.Inputs {
		q := b.d.Nodes[at].Quantity
		if q.Figures > 0 {
			if p := decimals(q); i == 0 || p < places {
				places = p
			}
			if n.Operation != dv.Difference && (out.Figures == 0 || q.Figures < out.Figures) {
				out.Figures = q.Figures
			}
		}
		switch {
		case n.Operation == dv.Convert:
			out.Value = q.Value * (q.Unit.Scale() / out.Unit.Scale())
		case i == 0:
			out.Value = q.Value
		case n.Operation == dv.Quotient:
			out.Value /= q.Value
		case n.Operation == dv.Product:
			out.Value *= q.Value
		case n.Operation == dv.Difference && i%2 == 1:
			out.Value -= q.Value
		default: // the later terms of a difference, and of a mean
			out.Value += q.Value
		}
	}
	switch n.Operation {
	case dv.Mean:
		out.Value /= float64(len(n.Inputs))
	case dv.Difference:
		out.Figures = max(1, exponent(out.Value)+1+places)
	}
	return b.put(n)
}

// decimals is the number of decimals that a quantity shows at its figures.
func decimals(q quantity.Quantity) int { return max(0, q.Figures-1-exponent(q.Value)) }

// exponent is the place of the first figure: 1 for 23.8, -2 for 0.05.
func exponent(v float64) int {
	if v == 0 || math.IsNaN(v) || math.IsInf(v, 0) {
		return 0
	}
	return int(math.Floor(math.Log10(math.Abs(v)) + 1e-12))
}

func (b *builder) convert(id string, from int, unit quantity.Unit) int {
	n := b.d.Nodes[from]
	return b.add(dv.Node{ID: id, Letter: n.Letter, Of: n.Of, Where: n.Where, MadeUp: n.MadeUp, Trial: n.Trial,
		Operation: dv.Convert, Inputs: []int{from}, Quantity: quantity.Quantity{Unit: unit}})
}

func (b *builder) amount(id, of string, where dv.Where, op dv.Operation, step string, inputs ...int) int {
	return b.add(dv.Node{ID: id, Letter: "n", Of: of, Where: where, Operation: op, Inputs: inputs, Step: step,
		Trial: b.trialID(), Quantity: quantity.Quantity{Unit: quantity.Mole}})
}

// named says what a node is called: its id, where the amount is, the step that works it out.
type named struct {
	id    string
	where dv.Where
	step  string
}

// byRatio goes from an amount to another by whole numbers.
func (b *builder) byRatio(ratioID string, n named, from int, to chem.Formula, by [2]int) int {
	ratio := b.share(ratioID, func() dv.Node {
		return dv.Node{Letter: "r", Of: to.Plain(), Operation: dv.Ratio, Written: strconv.Itoa(by[0]) + "/" + strconv.Itoa(by[1]),
			Quantity: quantity.Quantity{Value: float64(by[0]) / float64(by[1]), Unit: quantity.One}}
	})
	return b.amount(n.id, to.Plain(), n.where, dv.Product, n.step, from, ratio)
}

// react goes from the amount of a reaction's From to its To, or the other way.
func (b *builder) react(ratioID string, n named, from int, r practical.Reaction, reversed bool) int {
	if reversed {
		return b.byRatio(ratioID, n, from, r.From, [2]int{r.NuFrom, r.NuTo})
	}
	return b.byRatio(ratioID, n, from, r.To, [2]int{r.NuTo, r.NuFrom})
}

// numbered is an id with its number, from the second on.
func numbered(id string, i int) string {
	if i == 0 {
		return id
	}
	return id + "-" + strconv.Itoa(i+1)
}

func routeID(i int) string { return "route-" + strconv.Itoa(i) }

func (b *builder) knownLeaf() int {
	if b.madeHere() {
		return b.made()
	}
	return b.share(dv.Known, func() dv.Node {
		of := b.ready.Titrant
		if b.ready.UnknownInBurette {
			of = b.ready.Analyte
		}
		n := dv.Node{Letter: "c", Of: of.Plain(), Operation: dv.Given,
			Source: dv.Source{Kind: dv.KnownSolution, Nominal: b.nominalKnown()}}
		if b.held.Known != nil {
			n.Entry = b.held.Known.Entry
		}
		n = leaf(n, b.Assay.known(), quantity.MolePerL)
		// How sure it is tells its figures, where that is known: a nominal "0.1"
		// is not a measurement to one figure.
		given := b.ready.Known().Uncertainty
		if b.held.Known != nil {
			given = b.held.Known.Uncertainty
		}
		if u, ok := b.KnownUncertainty(); ok && n.Quantity.Value > 0 && (given.Sign() > 0 || b.nominalKnown()) {
			n.Quantity.Figures = figuresBy(n.Quantity.Value, u)
			return n
		}
		return b.deserves(n, b.Assay.known())
	})
}

// byDifference adds two readings, the later one first, and what lies between them, which is n.
func (b *builder) byDifference(n dv.Node, source dv.Source, unit quantity.Unit, r [2]journal.Reading) int {
	n.Trial = b.trialID()
	id := n.ID
	read := func(suffix string, r journal.Reading, point dv.Point) int {
		n := n
		n.ID, n.Operation, n.Entry, n.Written, n.Source = id+suffix, dv.Read, r.Entry, r.Text, source
		n.Source.Point = point
		return b.put(leaf(n, r.Value, unit))
	}
	inputs := []int{read("-end", r[0], dv.End), read("-start", r[1], dv.Start)}
	n.Operation, n.Inputs, n.Quantity = dv.Difference, inputs, quantity.Of(r[0].Value.Sub(r[1].Value), unit)
	return b.put(n)
}

func (b *builder) molarMass(f chem.Formula) int {
	return b.share("molar-mass-"+f.Plain(), func() dv.Node {
		return leaf(dv.Node{Letter: "M", Of: f.Plain(), Operation: dv.Molar, Source: dv.Source{Kind: dv.AtomicWeights}},
			b.ready.MolarMass(f), quantity.GramPerMole)
	})
}
