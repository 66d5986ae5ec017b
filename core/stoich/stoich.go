// Package stoich goes from titres to the answer, and keeps every step.
//
// The result is a Derivation: a list of named nodes, each computed from
// earlier ones, that reaches back to the readings in the notebook. Every way
// of writing the working, and every "where from?", is read off it.
package stoich

import (
	"fmt"

	"exactflask/core/chem"
	"exactflask/core/decimal"
	"exactflask/core/quantity"
)

// Operation says how a node follows from its inputs.
type Operation string

// The operations. Given nodes are leaves that come from the practical,
// Reading nodes leaves that come from the notebook, Ratio nodes leaves that
// come from the equation.
const (
	Given      Operation = "given"
	Read       Operation = "reading"
	Ratio      Operation = "ratio"
	Difference Operation = "difference" // first input less the second; more pairs are added
	Mean       Operation = "mean"
	Convert    Operation = "convert" // the same quantity in another unit
	Product    Operation = "product"
	Quotient   Operation = "quotient" // first input by the second
)

// Ids of the nodes that every direct titration has. Titres and readings have
// ids made from their trial.
const (
	NodeMeanTitre    = "mean-titre"
	NodeBlank        = "mean-blank"
	NodeCorrected    = "corrected-titre" // mean titre less mean blank
	NodeMeanQuotient = "mean-quotient"   // of titre and sample, for unequal samples
	NodeScaled       = "scaled-concentration"
	NodeTitreLitres  = "titre-litres"
	NodeAliquot      = "aliquot"
	NodeAliquotL     = "aliquot-litres"
	NodeKnown        = "known-concentration"
	NodeKnownAmount  = "known-amount"
	NodeMoleRatio    = "mole-ratio"
	NodeAmount       = "unknown-amount"
	NodeAnswer       = "unknown-concentration"
)

// Node is one figure of the working.
type Node struct {
	ID        string            `json:"id"`
	Letter    string            `json:"letter" doc:"symbol: V, c or n; r for a mole ratio"`
	Of        string            `json:"of,omitempty" doc:"formula the symbol is about, in plain ASCII"`
	Quantity  quantity.Quantity `json:"quantity"`
	Operation Operation         `json:"operation" enum:"given,reading,ratio,difference,mean,convert,product,quotient"`
	Inputs    []string          `json:"inputs,omitempty" doc:"ids of the nodes it follows from, in order"`
	Entry     string            `json:"entry,omitempty" doc:"id of the notebook entry of a reading"`
	Trial     string            `json:"trial,omitempty" doc:"id of the trial it belongs to"`
	Written   string            `json:"written,omitempty" doc:"the digits as written, for leaves"`
}

// Derivation is a whole working. Nodes stand after their inputs; the last is
// the answer.
type Derivation struct {
	Nodes []Node `json:"nodes"`
}

// Node returns the node with this id.
func (d Derivation) Node(id string) (Node, bool) {
	for _, n := range d.Nodes {
		if n.ID == id {
			return n, true
		}
	}
	return Node{}, false
}

// Answer returns the last node.
func (d Derivation) Answer() Node { return d.Nodes[len(d.Nodes)-1] }

// Recompute evaluates the derivation again with the values of some leaves (by
// id, in the leaf's own unit) replaced, and returns the answer's value.
func (d Derivation) Recompute(leaves map[string]float64) float64 {
	values := make(map[string]float64, len(d.Nodes))
	units := make(map[string]quantity.Unit, len(d.Nodes))
	var last float64
	for _, n := range d.Nodes {
		v := n.Quantity.Value
		switch n.Operation {
		case Difference:
			v = 0
			for i, id := range n.Inputs { // first less second, and so on in pairs
				v += values[id] * float64(1-2*(i%2))
			}
		case Mean:
			v = 0
			for _, id := range n.Inputs {
				v += values[id]
			}
			v /= float64(len(n.Inputs))
		case Convert:
			q, err := quantity.Quantity{Value: values[n.Inputs[0]], Unit: units[n.Inputs[0]]}.In(n.Quantity.Unit)
			if err == nil {
				v = q.Value
			}
		case Product:
			v = values[n.Inputs[0]] * values[n.Inputs[1]]
		case Quotient:
			v = values[n.Inputs[0]] / values[n.Inputs[1]]
		default:
			if w, ok := leaves[n.ID]; ok {
				v = w
			}
		}
		values[n.ID], units[n.ID], last = v, n.Quantity.Unit, v
	}
	return last
}

// Reading is a burette reading with the entry it stands in.
type Reading struct {
	Entry string
	Value decimal.Decimal
	Text  string
}

// Titre is one averaged trial. Refills are pairs of readings before and after
// filling within the trial. Sample is filled where each sample was measured
// with a burette of its own.
type Titre struct {
	Trial      string
	Start, End Reading
	Refills    [][2]Reading
	Sample     *[2]Reading // start and end
}

// volume is the titre in mL, summed over the fills.
func (t Titre) volume() decimal.Decimal {
	v := t.End.Value.Sub(t.Start.Value)
	for _, r := range t.Refills {
		v = v.Add(r[0].Value).Sub(r[1].Value)
	}
	return v
}

// Direct describes a direct titration: what is in the flask reacts with what
// comes from the burette, and one of the two concentrations is known.
type Direct struct {
	Equation chem.Equation // balanced
	Titrant  chem.Formula  // in the burette
	Analyte  chem.Formula  // in the flask
	// UnknownInBurette tells which concentration is asked for.
	UnknownInBurette bool
	Known            decimal.Decimal // concentration of the other one, mol/L
	Aliquot          decimal.Decimal // volume in the flask, mL
	Titres           []Titre         // those that are averaged, at least one
	Blanks           []Titre         // their mean is subtracted from the mean titre
	// RoundMean rounds the mean titre to the decimals of the titres and uses
	// it so; otherwise it is carried unrounded.
	RoundMean bool
}

// Derive computes the unknown concentration in mol/L:
//
//	n(known) = c(known) · V(known)
//	n(unknown) = n(known) · ν(unknown)/ν(known)
//	c(unknown) = n(unknown) / V(unknown)
//
// with ν the coefficients of the equation (common practice). Errors: a
// substance that is not in the equation, no titre, a volume that is not more
// than zero.
func (in Direct) Derive() (Derivation, error) {
	nuTitrant, ok := in.Equation.Coefficient(in.Titrant)
	if !ok {
		return Derivation{}, fmt.Errorf("%s is not in the equation %s", in.Titrant, in.Equation)
	}
	nuAnalyte, ok := in.Equation.Coefficient(in.Analyte)
	if !ok {
		return Derivation{}, fmt.Errorf("%s is not in the equation %s", in.Analyte, in.Equation)
	}
	if len(in.Titres) == 0 {
		return Derivation{}, fmt.Errorf("there is no titre to average")
	}
	if in.Aliquot.Sign() <= 0 {
		return Derivation{}, fmt.Errorf("the volume in the flask is %s mL; it must be more than 0", in.Aliquot)
	}

	d := &Derivation{Nodes: make([]Node, 0, 3*len(in.Titres)+9)}
	meanTitre, err := d.titres(in)
	if err != nil {
		return Derivation{}, err
	}
	titrant, analyte := in.Titrant.Plain(), in.Analyte.Plain()
	if in.Titres[0].Sample != nil {
		return d.unequal(in, nuTitrant, nuAnalyte)
	}
	titre := d.add(Node{ID: NodeTitreLitres, Letter: "V", Of: titrant, Operation: Convert, Inputs: []string{meanTitre}}, quantity.Litre)
	d.leaf(Node{ID: NodeAliquot, Letter: "V", Of: analyte, Operation: Given}, in.Aliquot, quantity.Millilitre)
	aliquot := d.add(Node{ID: NodeAliquotL, Letter: "V", Of: analyte, Operation: Convert, Inputs: []string{NodeAliquot}}, quantity.Litre)

	known, unknown, knownVolume, unknownVolume, nuKnown, nuUnknown := titrant, analyte, titre, aliquot, nuTitrant, nuAnalyte
	if in.UnknownInBurette {
		known, unknown, knownVolume, unknownVolume, nuKnown, nuUnknown = analyte, titrant, aliquot, titre, nuAnalyte, nuTitrant
	}
	d.leaf(Node{ID: NodeKnown, Letter: "c", Of: known, Operation: Given}, in.Known, quantity.MolePerL)
	d.add(Node{ID: NodeKnownAmount, Letter: "n", Of: known, Operation: Product, Inputs: []string{NodeKnown, knownVolume}}, quantity.Mole)
	d.moleRatio(unknown, nuUnknown, nuKnown)
	d.add(Node{ID: NodeAmount, Letter: "n", Of: unknown, Operation: Product, Inputs: []string{NodeKnownAmount, NodeMoleRatio}}, quantity.Mole)
	d.add(Node{ID: NodeAnswer, Letter: "c", Of: unknown, Operation: Quotient, Inputs: []string{NodeAmount, unknownVolume}}, quantity.MolePerL)
	return *d, nil
}

func (d *Derivation) moleRatio(unknown string, nuUnknown, nuKnown int) {
	d.Nodes = append(d.Nodes, Node{ID: NodeMoleRatio, Letter: "r", Of: unknown, Operation: Ratio, Written: fmt.Sprintf("%d/%d", nuUnknown, nuKnown),
		Quantity: quantity.Quantity{Value: float64(nuUnknown) / float64(nuKnown), Unit: quantity.One}})
}

// unequal goes on where each sample has its own volume: the quotients of titre
// and sample are averaged, and
//
//	c(unknown) = c(known) · mean quotient · ν(unknown)/ν(known)
func (d *Derivation) unequal(in Direct, nuTitrant, nuAnalyte int) (Derivation, error) {
	titrant, analyte := in.Titrant.Plain(), in.Analyte.Plain()
	known, unknown, nuKnown, nuUnknown := titrant, analyte, nuTitrant, nuAnalyte
	if in.UnknownInBurette {
		known, unknown, nuKnown, nuUnknown = analyte, titrant, nuAnalyte, nuTitrant
	}
	var quotients []string
	sum := 0.0
	figures := 0
	for _, t := range in.Titres {
		if t.Sample == nil || t.Sample[1].Value.Cmp(t.Sample[0].Value) <= 0 {
			return Derivation{}, fmt.Errorf("the sample of trial %s has no volume", t.Trial)
		}
		start, end, sample := t.Trial+"/sample-start", t.Trial+"/sample-end", t.Trial+"/sample"
		d.reading(end, analyte, t.Trial, t.Sample[1])
		d.reading(start, analyte, t.Trial, t.Sample[0])
		d.Nodes = append(d.Nodes, Node{ID: sample, Letter: "V", Of: analyte, Operation: Difference, Inputs: []string{end, start}, Trial: t.Trial,
			Quantity: quantity.Of(t.Sample[1].Value.Sub(t.Sample[0].Value), quantity.Millilitre)})
		titre := t.Trial + "/titre"
		if len(in.Blanks) > 0 {
			titre = d.subtract(t.Trial+"/corrected", titrant, t.Trial, titre, NodeBlank)
		}
		inputs := []string{titre, sample}
		if in.UnknownInBurette {
			inputs = []string{sample, titre}
		}
		q := d.add(Node{ID: t.Trial + "/quotient", Letter: "q", Of: unknown, Operation: Quotient, Inputs: inputs, Trial: t.Trial}, quantity.One)
		n, _ := d.Node(q)
		sum += n.Quantity.Value
		if figures == 0 || n.Quantity.Figures < figures {
			figures = n.Quantity.Figures
		}
		quotients = append(quotients, q)
	}
	d.Nodes = append(d.Nodes, Node{ID: NodeMeanQuotient, Letter: "q", Of: unknown, Operation: Mean, Inputs: quotients,
		Quantity: quantity.Quantity{Value: sum / float64(len(quotients)), Unit: quantity.One, Figures: figures}})
	d.leaf(Node{ID: NodeKnown, Letter: "c", Of: known, Operation: Given}, in.Known, quantity.MolePerL)
	d.add(Node{ID: NodeScaled, Letter: "c", Of: known, Operation: Product, Inputs: []string{NodeKnown, NodeMeanQuotient}}, quantity.MolePerL)
	d.moleRatio(unknown, nuUnknown, nuKnown)
	d.add(Node{ID: NodeAnswer, Letter: "c", Of: unknown, Operation: Product, Inputs: []string{NodeScaled, NodeMoleRatio}}, quantity.MolePerL)
	return *d, nil
}

// titres adds the readings, the titres, their mean and, with blanks, the mean
// less the mean blank. It returns the id of the titre to go on with. The
// figures of a sum or difference follow its decimals (common practice).
func (d *Derivation) titres(in Direct) (string, error) {
	of := in.Titrant.Plain()
	mean, err := d.meanOf(NodeMeanTitre, of, in.Titres, in.RoundMean)
	if err != nil || len(in.Blanks) == 0 {
		return NodeMeanTitre, err
	}
	blank, err := d.meanOf(NodeBlank, of, in.Blanks, in.RoundMean)
	if err != nil {
		return "", err
	}
	if mean.Cmp(blank) <= 0 {
		return "", fmt.Errorf("the mean blank is not less than the mean titre")
	}
	return d.subtract(NodeCorrected, of, "", NodeMeanTitre, NodeBlank), nil
}

// subtract adds the difference of two volumes in mL, with the figures that its
// decimals give.
func (d *Derivation) subtract(id, of, trial, from, less string) string {
	a, _ := d.Node(from)
	b, _ := d.Node(less)
	v := a.Quantity.Value - b.Quantity.Value
	places := min(decimals(a.Quantity), decimals(b.Quantity))
	figures := 1
	if shown, ok := decimal.FromFloat(v); ok {
		figures = shown.RoundFigures(12).Round(places).Figures()
	}
	d.Nodes = append(d.Nodes, Node{ID: id, Letter: "V", Of: of, Operation: Difference, Inputs: []string{from, less}, Trial: trial,
		Quantity: quantity.Quantity{Value: v, Unit: quantity.Millilitre, Figures: figures}})
	return id
}

// decimals is the number of decimals a quantity shows at its figures.
func decimals(q quantity.Quantity) int {
	d, err := decimal.Parse(q.String())
	if err != nil {
		return 0
	}
	return d.Places()
}

func (d *Derivation) meanOf(id, of string, titres []Titre, rounded bool) (decimal.Decimal, error) {
	var all []decimal.Decimal
	var ids []string
	places := -1
	for _, t := range titres {
		v := t.volume()
		d.titre(of, t, v)
		all, ids = append(all, v), append(ids, t.Trial+"/titre")
		if places < 0 || v.Places() < places {
			places = v.Places()
		}
	}
	mean, _ := decimal.Mean(all...)
	if mean.Sign() <= 0 {
		return mean, fmt.Errorf("the mean titre is %s mL; it must be more than 0", mean.Round(max(places, 0)))
	}
	q := quantity.Of(mean.Round(places), quantity.Millilitre)
	if !rounded {
		q.Value = mean.Float64()
	}
	d.Nodes = append(d.Nodes, Node{ID: id, Letter: "V", Of: of, Operation: Mean, Inputs: ids, Quantity: q})
	return mean, nil
}

// titre adds the readings of a trial and their difference; over refills it is
// the sum of the fills.
func (d *Derivation) titre(of string, t Titre, v decimal.Decimal) {
	start, end := t.Trial+"/start", t.Trial+"/end"
	inputs := []string{end, start}
	d.reading(end, of, t.Trial, t.End)
	d.reading(start, of, t.Trial, t.Start)
	for i, r := range t.Refills {
		before, after := fmt.Sprintf("%s/before-refill-%d", t.Trial, i+1), fmt.Sprintf("%s/after-refill-%d", t.Trial, i+1)
		d.reading(before, of, t.Trial, r[0])
		d.reading(after, of, t.Trial, r[1])
		inputs = append(inputs, before, after)
	}
	d.Nodes = append(d.Nodes, Node{ID: t.Trial + "/titre", Letter: "V", Of: of, Operation: Difference, Inputs: inputs, Trial: t.Trial, Quantity: quantity.Of(v, quantity.Millilitre)})
}

func (d *Derivation) reading(id, of, trial string, r Reading) {
	d.leaf(Node{ID: id, Letter: "V", Of: of, Operation: Read, Entry: r.Entry, Trial: trial, Written: r.Text}, r.Value, quantity.Millilitre)
}

func (d *Derivation) leaf(n Node, value decimal.Decimal, unit quantity.Unit) {
	n.Quantity = quantity.Of(value, unit)
	if n.Written == "" {
		n.Written = value.String()
	}
	d.Nodes = append(d.Nodes, n)
}

// add computes a node from its inputs; it deserves the fewest figures among
// those of them that are not exact. It returns the node's id.
func (d *Derivation) add(n Node, unit quantity.Unit) string {
	n.Quantity.Unit = unit
	for i, id := range n.Inputs {
		in, _ := d.Node(id)
		if f := in.Quantity.Figures; f > 0 && (n.Quantity.Figures == 0 || f < n.Quantity.Figures) {
			n.Quantity.Figures = f
		}
		v := in.Quantity.Value
		switch {
		case n.Operation == Convert:
			if q, err := in.Quantity.In(unit); err == nil {
				v = q.Value
			}
			n.Quantity.Value = v
		case i == 0:
			n.Quantity.Value = v
		case n.Operation == Quotient:
			n.Quantity.Value /= v
		default:
			n.Quantity.Value *= v
		}
	}
	d.Nodes = append(d.Nodes, n)
	return n.ID
}
