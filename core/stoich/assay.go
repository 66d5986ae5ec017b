package stoich

import (
	"fmt"

	"exactflask/core/chem"
	"exactflask/core/decimal"
	"exactflask/core/quantity"
)

// Reaction relates the amounts of two substances by a balanced equation:
// n(To) = n(From) · ν(To)/ν(From).
type Reaction struct {
	Equation chem.Equation
	From, To chem.Formula
}

// StepKind is a kind of step of a sample's route to the flask.
type StepKind string

// The steps. Weigh, Tablets and Pipette measure the sample; MakeUp and
// Portion (an aliquot of what was made up) dilute; Excess adds a reagent that
// reacts with the analyte and whose remainder is titrated.
const (
	Weigh   StepKind = "weigh"
	Tablets StepKind = "tablets"
	Pipette StepKind = "pipette"
	MakeUp  StepKind = "make-up"
	Portion StepKind = "aliquot"
	Excess  StepKind = "excess"
)

// Step is one step from the sample to the flask.
type Step struct {
	Kind   StepKind
	Volume decimal.Decimal // mL; pipette, make-up, aliquot, excess
	Source string          // what measured the volume
	Mass   decimal.Decimal // g; weigh, tablets
	// Weighed is the mass by difference, from the notebook; it takes the place
	// of Mass.
	Weighed   *[2]Reading // vessel and solid, emptied vessel
	EachTrial bool        // every titre has its own mass
	Count     int         // tablets
	// Of an excess reagent.
	Reaction      Reaction        // from the reagent to the analyte
	Concentration decimal.Decimal // mol/L
	ByBlank       bool            // its amount is that of the mean blank titre
}

// EndPoints says which end points a titration has.
type EndPoints string

// The choices of EndPoints: one; or two in one flask, phenolphthalein first and
// methyl orange second, for mixtures with carbonate.
const (
	OneEndPoint                EndPoints = ""
	HydroxideCarbonate         EndPoints = "hydroxide-carbonate"
	CarbonateHydrogencarbonate EndPoints = "carbonate-hydrogencarbonate"
)

// Assay describes a titration from the sample to the titres that are averaged.
type Assay struct {
	// Reactions lead from the titrant to what it titrates: one for a direct
	// titration, more where substances stand between.
	Reactions        []Reaction
	Titrant, Analyte chem.Formula
	UnknownInBurette bool
	// Known is the concentration of the solution that is known, mol/L; zero
	// where a weighed standard is known by its mass and Purity (a fraction).
	Known  decimal.Decimal
	Purity decimal.Decimal
	Route  []Step
	Titres []Titre // at least one
	Blanks []Titre // their mean is subtracted from the mean titre
	// RoundMean rounds the mean titre to the decimals of the titres and uses
	// it so; otherwise it is carried unrounded.
	RoundMean bool
	EndPoints EndPoints
	Other     chem.Formula // the component beside the carbonate
	Ask       Ask
}

// Derive works the answer out. Errors: a substance that is not in its
// equation, no titre, a route that cannot be, a volume or an amount that is
// not more than zero. Source of the relations: common practice, no source.
func (in Assay) Derive() (Derivation, error) {
	b := &builder{in: in, index: map[string]int{}, sampleOf: in.Analyte.Plain()}
	b.d.Nodes = make([]Node, 0, 5*len(in.Titres)+24)
	if len(in.Titres) == 0 {
		return Derivation{}, fmt.Errorf("there is no titre to average")
	}
	each := false
	for _, s := range in.Route {
		each = each || s.EachTrial
	}
	each = each || in.Titres[0].Sample != nil
	if err := b.checkRoute(); err != nil {
		return Derivation{}, err
	}
	if len(in.Blanks) > 0 {
		if _, err := b.meanOf(NodeBlank, in.Blanks, last); err != nil {
			return Derivation{}, err
		}
	}
	if !each {
		err := b.whole()
		return b.d, err
	}
	// Every trial has its own sample: each gives an answer, and these are averaged.
	answers := make([]string, len(in.Titres))
	for i := range in.Titres {
		t := &in.Titres[i]
		b.prefix, b.trial = t.Trial+"/", t
		titre, err := b.titre(*t, last)
		if err != nil {
			return Derivation{}, err
		}
		if answers[i], err = b.from(titre); err != nil {
			return Derivation{}, err
		}
	}
	b.prefix, b.trial = "", nil
	first, _ := b.d.Node(answers[0])
	mean := Node{ID: NodeAnswer, Letter: first.Letter, Of: first.Of, Operation: Mean, Inputs: answers, Step: "step.mean-answer", Quantity: quantity.Quantity{Unit: first.Quantity.Unit}}
	b.add(mean)
	return b.d, nil
}

// builder adds nodes to a derivation.
type builder struct {
	in       Assay
	d        Derivation
	index    map[string]int
	prefix   string // of the ids of a trial that is worked out by itself
	trial    *Titre
	sampleOf string // formula of what the volumes of the route are about
}

func (b *builder) node(id string) Node { return b.d.Nodes[b.index[id]] }

// put adds a node with its quantity and returns its id.
func (b *builder) put(n Node) string {
	if n.ID == "" {
		panic("a node needs an id")
	}
	b.index[n.ID] = len(b.d.Nodes)
	b.d.Nodes = append(b.d.Nodes, n)
	return n.ID
}

// leaf adds a leaf with the digits as written, once.
func (b *builder) leaf(n Node, value decimal.Decimal, unit quantity.Unit) string {
	if _, there := b.index[n.ID]; there {
		return n.ID
	}
	n.Quantity = quantity.Of(value, unit)
	if n.Operation == Constant {
		n.Quantity.Figures = 0
	}
	if n.Written == "" {
		n.Written = value.String()
	}
	return b.put(n)
}

// add computes a node from its inputs and adds it. A product deserves the
// fewest figures among those of its inputs that are not exact, a difference
// follows decimals (common practice).
func (b *builder) add(n Node) string {
	places := -1
	for i, id := range n.Inputs {
		in := b.node(id)
		q := in.Quantity
		if f := q.Figures; f > 0 && n.Operation != Difference && (n.Quantity.Figures == 0 || f < n.Quantity.Figures) {
			n.Quantity.Figures = f
		}
		if n.Operation == Difference && q.Figures > 0 {
			if p := decimals(q); places < 0 || p < places {
				places = p
			}
		}
		switch {
		case n.Operation == Convert:
			n.Quantity.Value = q.Value * (q.Unit.Scale() / n.Quantity.Unit.Scale())
		case i == 0:
			n.Quantity.Value = q.Value
		case n.Operation == Quotient:
			n.Quantity.Value /= q.Value
		case n.Operation == Product:
			n.Quantity.Value *= q.Value
		case n.Operation == Difference && i%2 == 1:
			n.Quantity.Value -= q.Value
		default: // the later terms of a difference, and of a mean
			n.Quantity.Value += q.Value
		}
	}
	if n.Operation == Mean {
		n.Quantity.Value /= float64(len(n.Inputs))
	}
	if n.Operation == Difference && places >= 0 {
		n.Quantity.Figures = 1
		if shown, ok := decimal.FromFloat(n.Quantity.Value); ok {
			n.Quantity.Figures = shown.RoundFigures(12).Round(places).Figures()
		}
	}
	return b.put(n)
}

// decimals is the number of decimals a quantity shows at its figures.
func decimals(q quantity.Quantity) int {
	d, err := decimal.Parse(q.String())
	if err != nil {
		return 0
	}
	return d.Places()
}

func (b *builder) convert(id, from string, unit quantity.Unit) string {
	n := b.node(from)
	return b.add(Node{ID: id, Letter: n.Letter, Of: n.Of, Where: n.Where, Trial: n.Trial, Operation: Convert, Inputs: []string{from}, Quantity: quantity.Quantity{Unit: unit}})
}

// ratio adds ν(to)/ν(from) and the amount of to that belongs to an amount.
func (b *builder) ratio(id, amountID, from string, r Reaction, reversed bool, where, code string) (string, error) {
	source, target := r.From, r.To
	if reversed {
		source, target = target, source
	}
	nuFrom, ok := r.Equation.Coefficient(source)
	if !ok {
		return "", fmt.Errorf("%s is not in the equation %s", source, r.Equation)
	}
	nuTo, ok := r.Equation.Coefficient(target)
	if !ok {
		return "", fmt.Errorf("%s is not in the equation %s", target, r.Equation)
	}
	if _, there := b.index[id]; !there {
		b.put(Node{ID: id, Letter: "r", Of: target.Plain(), Operation: Ratio, Written: fmt.Sprintf("%d/%d", nuTo, nuFrom),
			Quantity: quantity.Quantity{Value: float64(nuTo) / float64(nuFrom), Unit: quantity.One}})
	}
	return b.add(Node{ID: amountID, Letter: "n", Of: target.Plain(), Where: where, Operation: Product, Inputs: []string{from, id}, Step: code, Quantity: quantity.Quantity{Unit: quantity.Mole}}), nil
}

// checkRoute finds what cannot be a route.
func (b *builder) checkRoute() error {
	for i, s := range b.in.Route {
		needs := s.Kind == Pipette || s.Kind == MakeUp || s.Kind == Portion || s.Kind == Excess
		if needs && s.Volume.Sign() <= 0 && !s.ByBlank {
			return fmt.Errorf("route[%d]: the volume in the flask is %s mL; it must be more than 0", i, s.Volume)
		}
		switch s.Kind {
		case Portion:
			if i > 0 && b.in.Route[i-1].Kind != MakeUp {
				return fmt.Errorf("route[%d]: an aliquot is taken of what was made up to a mark; put a make-up before it", i)
			}
			if i > 0 && s.Volume.Cmp(b.in.Route[i-1].Volume) > 0 {
				return fmt.Errorf("route[%d]: an aliquot of %s mL cannot be taken from %s mL", i, s.Volume, b.in.Route[i-1].Volume)
			}
		case Weigh, Tablets, Pipette:
			if i != 0 {
				return fmt.Errorf("route[%d]: the sample is measured first", i)
			}
		case MakeUp:
			if i == 0 {
				return fmt.Errorf("route[0]: what is made up has to be measured first")
			}
		}
		if s.Kind == Tablets && s.Count < 1 {
			return fmt.Errorf("route[%d]: say how many tablets", i)
		}
		if (s.Kind == Weigh || s.Kind == Tablets) && !s.EachTrial && s.Weighed == nil && s.Mass.Sign() <= 0 {
			return fmt.Errorf("route[%d]: nothing was weighed yet", i)
		}
	}
	return nil
}

// whole works out an answer from the mean titre.
func (b *builder) whole() error {
	titre, err := b.meanOf(NodeMeanTitre, b.in.Titres, last)
	if err != nil {
		return err
	}
	if len(b.in.Blanks) > 0 && !b.byBlank() {
		if titre, err = b.lessBlank(titre); err != nil {
			return err
		}
	}
	if b.in.EndPoints != OneEndPoint {
		return b.twoEndPoints(titre)
	}
	_, err = b.from(titre)
	return err
}

func (b *builder) byBlank() bool {
	for _, s := range b.in.Route {
		if s.ByBlank {
			return true
		}
	}
	return false
}

func (b *builder) lessBlank(titre string) (string, error) {
	id := b.prefix + NodeCorrected
	t := b.node(titre)
	b.add(Node{ID: id, Letter: "V", Of: t.Of, Operation: Difference, Inputs: []string{titre, NodeBlank}, Trial: t.Trial, Quantity: quantity.Quantity{Unit: quantity.Millilitre}})
	if b.node(id).Quantity.Value <= 0 {
		return "", fmt.Errorf("the mean blank is not less than the titre")
	}
	return id, nil
}

// from goes from a titre in mL to the answer and returns its node.
func (b *builder) from(titre string) (string, error) {
	p := b.prefix
	if p != "" && len(b.in.Blanks) > 0 && !b.byBlank() {
		var err error
		if titre, err = b.lessBlank(titre); err != nil {
			return "", err
		}
	}
	litres := b.convert(p+NodeTitreLitres, titre, quantity.Litre)
	if b.in.UnknownInBurette {
		return b.burette(litres)
	}
	known := b.leaf(Node{ID: NodeKnown, Letter: "c", Of: b.in.Titrant.Plain(), Operation: Given, Source: "known"}, b.in.Known, quantity.MolePerL)
	amount := b.add(Node{ID: p + NodeKnownAmount, Letter: "n", Of: b.in.Titrant.Plain(), Operation: Product, Inputs: []string{known, litres}, Step: "step.amount-known", Quantity: quantity.Quantity{Unit: quantity.Mole}})
	return b.up(amount)
}

// up walks from the amount of titrant back up the route to the sample.
func (b *builder) up(amount string) (string, error) {
	p := b.prefix
	code := "step.ratio"
	var err error
	reactions := b.in.Reactions
	if b.in.Ask.What == Protons {
		reactions = nil // the ratio is what is asked for
	}
	for i, r := range reactions {
		id, out := NodeMoleRatio, p+NodeAmount
		if i > 0 {
			id, out = fmt.Sprintf("%s-%d", id, i+1), fmt.Sprintf("%s-%d", out, i+1)
		}
		if amount, err = b.ratio(id, out, amount, r, false, "", code); err != nil {
			return "", err
		}
	}
	for i := len(b.in.Route) - 1; i >= 0; i-- {
		s := b.in.Route[i]
		id := fmt.Sprintf("%sroute-%d", p, i)
		switch s.Kind {
		case Portion:
			if i == 0 {
				return b.ask(amount, b.volume(i))
			}
			amount = b.diluted(id, amount, i, false)
		case Excess:
			if amount, err = b.excess(id, amount, i); err != nil {
				return "", err
			}
		case Pipette:
			return b.ask(amount, b.volume(i))
		case Weigh, Tablets:
			mass, err := b.mass(i)
			if err != nil {
				return "", err
			}
			return b.ask(amount, mass)
		}
	}
	if b.trial != nil && b.trial.Sample != nil {
		sample, err := b.sample()
		if err != nil {
			return "", err
		}
		return b.ask(amount, sample)
	}
	return b.ask(amount, "")
}

// excess computes what was used of a reagent in excess, and the analyte that
// used it.
func (b *builder) excess(id, left string, at int) (string, error) {
	s := b.in.Route[at]
	of := s.Reaction.From.Plain()
	var added string
	if s.ByBlank {
		litres := b.convert(id+"-blank-litres", NodeBlank, quantity.Litre)
		known := b.leaf(Node{ID: NodeKnown, Letter: "c", Of: b.in.Titrant.Plain(), Operation: Given, Source: "known"}, b.in.Known, quantity.MolePerL)
		titrant := b.add(Node{ID: id + "-blank-amount", Letter: "n", Of: b.in.Titrant.Plain(), Where: "blank", Operation: Product, Inputs: []string{known, litres}, Step: "step.blank-amount", Quantity: quantity.Quantity{Unit: quantity.Mole}})
		var err error
		if added, err = b.ratio(NodeMoleRatio, id+"-added", titrant, b.in.Reactions[0], false, "added", "step.added"); err != nil {
			return "", err
		}
	} else {
		c := b.leaf(Node{ID: fmt.Sprintf("route-%d-concentration", at), Letter: "c", Of: of, Operation: Given, Source: "excess"}, s.Concentration, quantity.MolePerL)
		v := b.leaf(Node{ID: fmt.Sprintf("route-%d-volume", at), Letter: "V", Of: of, Operation: Given, Source: s.Source}, s.Volume, quantity.Millilitre)
		litres := b.convert(id+"-litres", v, quantity.Litre)
		added = b.add(Node{ID: id + "-added", Letter: "n", Of: of, Where: "added", Operation: Product, Inputs: []string{c, litres}, Step: "step.added", Quantity: quantity.Quantity{Unit: quantity.Mole}})
	}
	used := b.add(Node{ID: id + "-used", Letter: "n", Of: of, Where: "used", Operation: Difference, Inputs: []string{added, left}, Step: "step.used", Quantity: quantity.Quantity{Unit: quantity.Mole}})
	if b.node(used).Quantity.Value <= 0 {
		return "", fmt.Errorf("more %s is left over than was added; check the concentrations, and that the aliquot is taken from what was made up", s.Reaction.From)
	}
	return b.ratio(id+"-ratio", id+"-analyte", used, s.Reaction, false, "", "step.ratio")
}

// diluted goes from the amount in an aliquot to that in the whole, or down.
func (b *builder) diluted(id, amount string, at int, down bool) string {
	whole, part := b.volume(at-1), b.volume(at)
	inputs, code := []string{whole, part}, "step.whole"
	where := b.in.Route[at-1].Volume.String() + " mL"
	if down {
		inputs, code, where = []string{part, whole}, "step.part", "aliquot"
	}
	n := b.node(amount)
	f := fmt.Sprintf("route-%d-factor", at)
	if _, there := b.index[f]; !there {
		b.add(Node{ID: f, Letter: "f", Operation: Quotient, Inputs: inputs, Quantity: quantity.Quantity{Unit: quantity.One}})
	}
	return b.add(Node{ID: id, Letter: "n", Of: n.Of, Where: where, Operation: Product, Inputs: []string{amount, f}, Step: code, Quantity: quantity.Quantity{Unit: quantity.Mole}})
}

// volume is the leaf of a step's volume, in mL.
func (b *builder) volume(at int) string {
	s := b.in.Route[at]
	id, of := fmt.Sprintf("route-%d-volume", at), b.sampleOf
	if s.Kind == Portion && at == len(b.in.Route)-1 {
		id = NodeAliquot
	}
	where := string(s.Kind)
	if len(b.in.Route) == 1 {
		where = "" // there is no other
	}
	return b.leaf(Node{ID: id, Letter: "V", Of: of, Where: where, Operation: Given, Source: s.Source}, s.Volume, quantity.Millilitre)
}

// sample is the volume of the trial's own sample, in mL.
func (b *builder) sample() (string, error) {
	t := b.trial
	if t.Sample[1].Value.Cmp(t.Sample[0].Value) <= 0 {
		return "", fmt.Errorf("the sample of trial %s has no volume", t.Trial)
	}
	return b.byDifference(t.Trial+"/sample", "V", b.in.Analyte.Plain(), "sample-burette", quantity.Millilitre, [2]Reading{t.Sample[1], t.Sample[0]}), nil
}

// byDifference adds two readings and what lies between them.
func (b *builder) byDifference(id, letter, of, source string, unit quantity.Unit, r [2]Reading) string {
	trial := ""
	if b.trial != nil {
		trial = b.trial.Trial
	}
	var inputs []string
	for i, name := range []string{"-end", "-start"} {
		inputs = append(inputs, b.leaf(Node{ID: id + name, Letter: letter, Of: of, Operation: Read, Entry: r[i].Entry, Trial: trial, Written: r[i].Text, Source: source}, r[i].Value, unit))
	}
	where := ""
	if of == "" {
		where = "sample"
	}
	return b.put(Node{ID: id, Letter: letter, Of: of, Where: where, Operation: Difference, Inputs: inputs, Trial: trial, Quantity: quantity.Of(r[0].Value.Sub(r[1].Value), unit)})
}

// mass is the mass of the sample in g: given, by difference, or the trial's own.
func (b *builder) mass(at int) (string, error) {
	s := b.in.Route[at]
	weighed, id := s.Weighed, "sample-mass"
	if s.EachTrial && b.trial != nil {
		if b.trial.Mass == nil {
			return "", fmt.Errorf("nothing was weighed for trial %s", b.trial.Trial)
		}
		weighed, id = b.trial.Mass, b.trial.Trial+"/mass"
	}
	if weighed == nil {
		return b.leaf(Node{ID: id, Letter: "m", Of: "", Where: "sample", Operation: Given, Source: "balance"}, s.Mass, quantity.Gram), nil
	}
	if weighed[0].Value.Cmp(weighed[1].Value) <= 0 {
		return "", fmt.Errorf("the emptied vessel is not lighter than the full one")
	}
	return b.byDifference(id, "m", "", "balance", quantity.Gram, *weighed), nil
}

func (b *builder) molarMass(f chem.Formula) string {
	return b.leaf(Node{ID: "molar-mass-" + f.Plain(), Letter: "M", Of: f.Plain(), Operation: Molar, Source: "molar-mass-" + f.Plain()}, f.MolarMass(), quantity.GramPerMole)
}

// burette works out the concentration of what is in the burette from a known
// amount in the flask.
func (b *builder) burette(litres string) (string, error) {
	p := b.prefix
	analyte := b.in.Analyte.Plain()
	var amount string
	start := 0
	switch {
	case len(b.in.Route) > 0 && (b.in.Route[0].Kind == Weigh || b.in.Route[0].Kind == Tablets):
		mass, err := b.mass(0)
		if err != nil {
			return "", err
		}
		if b.in.Purity.Sign() > 0 {
			purity := b.leaf(Node{ID: "purity", Letter: "w", Of: analyte, Operation: Given, Source: "purity"}, b.in.Purity, quantity.One)
			b.d.Nodes[b.index[purity]].Quantity.Figures = 0 // its spread speaks for it, not its digits
			mass = b.add(Node{ID: p + "pure-mass", Letter: "m", Of: analyte, Operation: Product, Inputs: []string{mass, purity}, Step: "step.pure-mass", Quantity: quantity.Quantity{Unit: quantity.Gram}})
		}
		amount = b.add(Node{ID: p + NodeKnownAmount, Letter: "n", Of: analyte, Operation: Quotient, Inputs: []string{mass, b.molarMass(b.in.Analyte)}, Step: "step.amount-weighed", Quantity: quantity.Quantity{Unit: quantity.Mole}})
		start = 1
	default:
		var volume string
		switch {
		case b.trial != nil && b.trial.Sample != nil:
			var err error
			if volume, err = b.sample(); err != nil {
				return "", err
			}
		case len(b.in.Route) > 0:
			volume = b.volume(0)
			start = 1
		default:
			return "", fmt.Errorf("the route does not say how much is in the flask")
		}
		v := b.convert(p+"known-litres", volume, quantity.Litre)
		known := b.leaf(Node{ID: NodeKnown, Letter: "c", Of: analyte, Operation: Given, Source: "known"}, b.in.Known, quantity.MolePerL)
		amount = b.add(Node{ID: p + NodeKnownAmount, Letter: "n", Of: analyte, Operation: Product, Inputs: []string{known, v}, Step: "step.amount-known", Quantity: quantity.Quantity{Unit: quantity.Mole}})
	}
	for i := start; i < len(b.in.Route); i++ {
		if b.in.Route[i].Kind == Portion {
			amount = b.diluted(fmt.Sprintf("%sroute-%d", p, i), amount, i, true)
		}
	}
	var err error
	for i := len(b.in.Reactions) - 1; i >= 0; i-- {
		id, out := NodeMoleRatio, p+NodeAmount
		if i > 0 {
			id, out = fmt.Sprintf("%s-%d", id, i+1), fmt.Sprintf("%s-%d", out, i+1)
		}
		if amount, err = b.ratio(id, out, amount, b.in.Reactions[i], true, "", "step.ratio"); err != nil {
			return "", err
		}
	}
	return b.askLitres(amount, litres)
}

// twoEndPoints separates a mixture with carbonate by its two titres. With V1
// to phenolphthalein and V2 to methyl orange (both from the start), the second
// part V2-V1 takes hydrogencarbonate to carbon dioxide. Source: common
// practice, no source.
func (b *builder) twoEndPoints(total string) error {
	first, err := b.meanOf(NodeFirst, b.in.Titres, middle)
	if err != nil {
		return err
	}
	if b.node(first).Quantity.Value > b.node(total).Quantity.Value {
		return fmt.Errorf("the first end point lies after the second")
	}
	known := b.leaf(Node{ID: NodeKnown, Letter: "c", Of: b.in.Titrant.Plain(), Operation: Given, Source: "known"}, b.in.Known, quantity.MolePerL)
	// The equation of the whole takes two protons a carbonate.
	r := b.in.Reactions[0]
	nuT, okT := r.Equation.Coefficient(b.in.Titrant)
	nuA, okA := r.Equation.Coefficient(b.in.Analyte)
	if !okT || !okA {
		return fmt.Errorf("%s and %s have to stand in the equation %s", b.in.Titrant, b.in.Analyte, r.Equation)
	}
	b.put(Node{ID: NodeMoleRatio, Letter: "r", Of: "H^+", Operation: Ratio, Written: fmt.Sprintf("%d/%d", 2*nuA, nuT), Quantity: quantity.Quantity{Value: 2 * float64(nuA) / float64(nuT), Unit: quantity.One}})
	protons := func(id, titre, where string) string {
		litres := b.convert(id+"-litres", titre, quantity.Litre)
		n := b.add(Node{ID: id + "-titrant", Letter: "n", Of: b.in.Titrant.Plain(), Where: where, Operation: Product, Inputs: []string{known, litres}, Step: "step.amount-known", Quantity: quantity.Quantity{Unit: quantity.Mole}})
		return b.add(Node{ID: id + "-protons", Letter: "n", Of: "H^+", Where: where, Operation: Product, Inputs: []string{n, NodeMoleRatio}, Quantity: quantity.Quantity{Unit: quantity.Mole}})
	}
	one, both := protons("first", first, "to the first end"), protons("both", total, "to the second end")
	second := b.add(Node{ID: "second-protons", Letter: "n", Of: "H^+", Where: "between the ends", Operation: Difference, Inputs: []string{both, one}, Step: "step.between-ends", Quantity: quantity.Quantity{Unit: quantity.Mole}})
	carbonate, more, less := second, one, second
	if b.in.EndPoints == CarbonateHydrogencarbonate {
		carbonate, more, less = one, second, one
	}
	other := b.add(Node{ID: "other-amount", Letter: "n", Of: b.in.Other.Plain(), Operation: Difference, Inputs: []string{more, less}, Step: "step.other", Quantity: quantity.Quantity{Unit: quantity.Mole}})
	if b.node(other).Quantity.Value < 0 {
		return fmt.Errorf("the titres do not fit a mixture of %s and %s; is it the other kind of mixture?", b.in.Analyte, b.in.Other)
	}
	n := b.add(Node{ID: NodeAmount, Letter: "n", Of: b.in.Analyte.Plain(), Operation: Convert, Inputs: []string{carbonate}, Step: "step.carbonate", Quantity: quantity.Quantity{Unit: quantity.Mole}})
	answer := b.in
	b.prefix = "other-"
	b.in.Analyte, b.in.Reactions = b.in.Other, nil
	id, err := b.up(other)
	if err != nil {
		return err
	}
	b.d.Nodes[b.index[id]].ID = NodeSecond
	b.index[NodeSecond] = b.index[id]
	b.prefix, b.in = "", answer
	b.in.Reactions = nil
	_, err = b.up(n)
	b.in = answer
	return err
}
