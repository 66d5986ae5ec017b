package assay

import (
	"math"
	"strconv"

	"exactflask/core/chem"
	"exactflask/core/decimal"
	dv "exactflask/core/derivation"
	"exactflask/core/finding"
	"exactflask/core/practical"
	"exactflask/core/quantity"
)

// builder adds nodes to a derivation, from the titres back up the route.
type builder struct {
	*Assay
	d      dv.Derivation
	hollow bool // without the values of titres: for what is to be found forwards
	shared []sharedLeaf
	checks []check
	// problem is what cannot even be built.
	problem *Problem

	prefix string    // of the ids of a trial that is worked out by itself
	trial  *Measured // that trial
	at     *Measured // whose sample is used: the trial, or the first of all

	starts   map[string]int // places of start readings that two titres share
	titres   []int          // places of the titres that were put in
	strength int            // of the titrant's concentration, with the unknown in the burette
	inFlask  int            // of the amount of analyte in the flask
	portion  int            // of the volume that was measured into it
}

type sharedLeaf struct {
	id string
	at int
}

// check is a value that has to be more than zero, or not less than it.
type check struct {
	node  int
	zero  bool // it may be zero
	code  finding.Code
	args  []finding.Value
	trial string
}

func (c check) problem() *Problem { return &Problem{c.code.Message(c.args...), c.trial} }

// build makes the derivation of trials. A hollow one has titres of 1 mL: only
// what does not follow from them means something.
func (a *Assay) build(trials []Measured, hollow bool) *builder {
	b := &builder{Assay: a, hollow: hollow, at: &trials[0]}
	b.d.Nodes = make([]dv.Node, 0, 6*len(trials)+24)
	if len(a.held.Blanks) > 0 {
		b.meanOf(dv.Blank, a.held.Blanks, false, false)
	} else if a.ready.ByBlank() && !hollow {
		b.problem = &Problem{Message: noBlank.Message()}
	}
	if !a.ready.Each() {
		b.whole(trials)
		return b
	}
	// Every trial has its own sample: each gives an answer, and these are averaged.
	answers := make([]int, len(trials))
	for i := range trials {
		t := &trials[i]
		b.prefix, b.trial, b.at = t.Trial+"/", t, t
		titre := b.titre(*t, hollow, false)
		b.require(titre, false, notPositive, finding.Exact(t.Titre(), quantity.Millilitre))
		answers[i] = b.from(titre)
	}
	b.prefix, b.trial = "", nil
	first := b.d.Nodes[answers[0]]
	b.add(dv.Node{ID: dv.Answer, Letter: first.Letter, Of: first.Of, Operation: dv.Mean, Inputs: answers, Step: "step.mean-answer", Quantity: quantity.Quantity{Unit: first.Quantity.Unit}})
	return b
}

func (b *builder) trialID() string {
	if b.trial == nil {
		return ""
	}
	return b.trial.Trial
}

func (b *builder) require(node int, zero bool, code finding.Code, args ...finding.Value) {
	if !b.hollow {
		b.checks = append(b.checks, check{node, zero, code, args, b.trialID()})
	}
}

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
	return b.add(dv.Node{ID: id, Letter: n.Letter, Of: n.Of, Where: n.Where, MadeUp: n.MadeUp, Trial: n.Trial, Operation: dv.Convert, Inputs: []int{from}, Quantity: quantity.Quantity{Unit: unit}})
}

func (b *builder) amount(id, of string, where dv.Portion, op dv.Operation, step string, inputs ...int) int {
	return b.add(dv.Node{ID: id, Letter: "n", Of: of, Where: where, Operation: op, Inputs: inputs, Step: step, Trial: b.trialID(), Quantity: quantity.Quantity{Unit: quantity.Mole}})
}

// byRatio goes from an amount to another by whole numbers.
func (b *builder) byRatio(ratioID, id string, from int, to chem.Formula, num, den int, where dv.Portion, step string) int {
	ratio := b.share(ratioID, func() dv.Node {
		return dv.Node{Letter: "r", Of: to.Plain(), Operation: dv.Ratio, Written: strconv.Itoa(num) + "/" + strconv.Itoa(den),
			Quantity: quantity.Quantity{Value: float64(num) / float64(den), Unit: quantity.One}}
	})
	return b.amount(id, to.Plain(), where, dv.Product, step, from, ratio)
}

// react goes from the amount of a reaction's From to its To, or the other way.
func (b *builder) react(ratioID, id string, from int, r practical.Reaction, reversed bool, where dv.Portion, step string) int {
	if reversed {
		return b.byRatio(ratioID, id, from, r.From, r.NuFrom, r.NuTo, where, step)
	}
	return b.byRatio(ratioID, id, from, r.To, r.NuTo, r.NuFrom, where, step)
}

// numbered is an id with its number, from the second on.
func numbered(id string, i int) string {
	if i == 0 {
		return id
	}
	return id + "-" + strconv.Itoa(i+1)
}

func routeID(i int) string { return "route-" + strconv.Itoa(i) }

// whole works out an answer from the mean titre.
func (b *builder) whole(trials []Measured) {
	titre := b.meanOf(dv.MeanTitre, trials, b.hollow, false)
	if len(b.held.Blanks) > 0 && !b.ready.ByBlank() {
		titre = b.lessBlank(titre)
	}
	if b.ready.Chemistry.EndPoints != practical.OneEndPoint {
		b.twoEndPoints(trials, titre)
		return
	}
	b.from(titre)
}

// titre adds the readings of a trial and their difference; over refills it is
// the sum of the fills.
func (b *builder) titre(m Measured, hollow, first bool) int {
	of := b.ready.Titrant.Plain()
	id, end := m.Trial+"/titre", m.Trial+"/end"
	v, last := m.Titre(), m.End
	if first {
		id, end = m.Trial+"/first-titre", m.Trial+"/first-end"
		if m.First != nil {
			last = *m.First
		}
		v = last.Value.Sub(m.Start.Value)
	}
	if hollow {
		at := b.put(dv.Node{ID: id, Letter: "V", Of: of, Operation: dv.Read, Trial: m.Trial, Source: dv.Source{Kind: dv.Burette, Point: dv.End}, Quantity: quantity.Quantity{Value: 1, Unit: quantity.Millilitre, Figures: 4}})
		b.titres = append(b.titres, at)
		return at
	}
	read := func(id string, r Reading, point dv.Point) int {
		return b.put(leaf(dv.Node{ID: id, Letter: "V", Of: of, Operation: dv.Read, Entry: r.Entry, Trial: m.Trial, Written: r.Text, Source: dv.Source{Kind: dv.Burette, Point: point}}, r.Value, quantity.Millilitre))
	}
	inputs := make([]int, 0, 2+2*len(m.Refills))
	if first { // the total has the start already
		inputs = append(inputs, read(end, last, dv.End), b.starts[m.Trial])
	} else {
		inputs = append(inputs, read(end, last, dv.End), read(m.Trial+"/start", m.Start, dv.Start))
		if b.ready.Chemistry.EndPoints != practical.OneEndPoint {
			if b.starts == nil {
				b.starts = map[string]int{}
			}
			b.starts[m.Trial] = inputs[1]
		}
	}
	if !first {
		for i, r := range m.Refills {
			n := strconv.Itoa(i + 1)
			inputs = append(inputs, read(m.Trial+"/before-refill-"+n, r[0], dv.Refill), read(m.Trial+"/after-refill-"+n, r[1], dv.Refill))
		}
	}
	return b.put(dv.Node{ID: id, Letter: "V", Of: of, Operation: dv.Difference, Inputs: inputs, Trial: m.Trial, Quantity: quantity.Of(v, quantity.Millilitre)})
}

// meanOf adds titres and their mean. The figures of a sum or difference follow
// its decimals (common practice).
func (b *builder) meanOf(id string, trials []Measured, hollow, first bool) int {
	inputs, all, places := make([]int, len(trials)), make([]decimal.Decimal, len(trials)), -1
	for i, t := range trials {
		inputs[i], all[i] = b.titre(t, hollow, first), t.Titre()
		if first && t.First != nil {
			all[i] = t.First.Value.Sub(t.Start.Value)
		}
		if p := all[i].Places(); places < 0 || p < places {
			places = p
		}
	}
	n := dv.Node{ID: id, Letter: "V", Of: b.ready.Titrant.Plain(), Operation: dv.Mean, Inputs: inputs, Quantity: quantity.Quantity{Value: 1, Unit: quantity.Millilitre, Figures: 4}}
	if hollow {
		return b.put(n)
	}
	mean, _ := decimal.Mean(all...)
	n.Quantity = quantity.Of(mean.Round(places), quantity.Millilitre)
	if !b.ready.Rules.RoundMean {
		n.Quantity.Value = mean.Float64()
	}
	at := b.put(n)
	b.require(at, false, notPositive, finding.Exact(mean.Round(places), quantity.Millilitre))
	return at
}

func (b *builder) lessBlank(titre int) int {
	blank, _ := b.d.Find(dv.Blank)
	t := b.d.Nodes[titre]
	at := b.add(dv.Node{ID: b.prefix + dv.Corrected, Letter: "V", Of: t.Of, Operation: dv.Difference, Inputs: []int{titre, blank}, Trial: t.Trial, Quantity: quantity.Quantity{Unit: quantity.Millilitre}})
	b.require(at, false, blankLarge)
	return at
}

func (b *builder) knownLeaf() int {
	return b.share(dv.Known, func() dv.Node {
		of := b.ready.Titrant
		if b.ready.UnknownInBurette {
			of = b.ready.Analyte
		}
		n := dv.Node{Letter: "c", Of: of.Plain(), Operation: dv.Given, Source: dv.Source{Kind: dv.KnownSolution, Nominal: b.ready.Chemistry.Standard != "" && b.held.Known == nil}}
		if b.held.Known != nil {
			n.Entry = b.held.Known.Entry
		}
		return leaf(n, b.Assay.known(), quantity.MolePerL)
	})
}

// from goes from a titre in mL to the answer.
func (b *builder) from(titre int) int {
	p := b.prefix
	if p != "" && len(b.held.Blanks) > 0 && !b.ready.ByBlank() {
		titre = b.lessBlank(titre)
	}
	litres := b.convert(p+dv.TitreLitres, titre, quantity.Litre)
	if b.ready.UnknownInBurette {
		return b.burette(litres)
	}
	amount := b.amount(p+dv.KnownAmount, b.ready.Titrant.Plain(), dv.NoPortion, dv.Product, "step.amount-known", b.knownLeaf(), litres)
	for i, r := range b.reactions() {
		amount = b.react(numbered(dv.MoleRatio, i), p+numbered(dv.Amount, i), amount, r, false, dv.NoPortion, "step.ratio")
	}
	return b.up(amount)
}

// reactions lead from the titrant to what the route ends in. Where the number
// of protons is asked for the last ratio is what is looked for.
func (b *builder) reactions() []practical.Reaction {
	r := b.ready.Reactions
	if b.ready.Asked.What == practical.Protons && b.ready.Excess() < 0 {
		return r[:len(r)-1]
	}
	return r
}

// up walks from the amount of what is titrated back up the route to the
// sample, and on to the answer.
func (b *builder) up(amount int) int {
	b.inFlask = amount
	for i := len(b.ready.Steps) - 1; i >= 0; i-- {
		s := b.ready.Steps[i]
		switch s.Kind {
		case practical.Portion:
			amount = b.diluted(b.prefix+routeID(i), amount, i, false)
		case practical.Excess:
			amount = b.excess(b.prefix+routeID(i), amount, i)
		case practical.Pipette:
			return b.ask(amount, b.volume(i))
		case practical.Weigh, practical.Tablets:
			return b.ask(amount, b.mass())
		}
	}
	return b.ask(amount, -1)
}

// excess computes what was used of a reagent in excess, and the analyte that
// used it.
func (b *builder) excess(id string, left, at int) int {
	s := b.ready.Steps[at]
	of := s.Reaction.From.Plain()
	var added int
	if s.ByBlank {
		added = b.addedByBlank(at)
	} else {
		c := b.share(routeID(at)+"-concentration", func() dv.Node {
			return leaf(dv.Node{Letter: "c", Of: of, Operation: dv.Given, Route: at + 1, Source: dv.Source{Kind: dv.ExcessSolution}}, s.Concentration, quantity.MolePerL)
		})
		litres := b.convert(id+"-litres", b.volume(at), quantity.Litre)
		added = b.amount(id+"-added", of, dv.Added, dv.Product, "step.added", c, litres)
		b.d.Nodes[added].Route = at + 1
	}
	used := b.amount(id+"-used", of, dv.Used, dv.Difference, "step.used", added, left)
	b.d.Nodes[used].Route = at + 1
	b.require(used, false, moreLeft, finding.Formula(of))
	if b.ready.Asked.What == practical.Protons {
		return used
	}
	return b.react(id+"-ratio", id+"-analyte", used, s.Reaction, false, dv.NoPortion, "step.ratio")
}

// addedByBlank is the amount of reagent that the mean blank stands for: through
// all reactions and back up the same steps of the route as the titre itself.
// It is the same for every trial.
func (b *builder) addedByBlank(at int) int {
	id := routeID(at)
	for _, s := range b.shared {
		if s.id == id+"-added" {
			return s.at
		}
	}
	blank, ok := b.d.Find(dv.Blank)
	if !ok { // nothing is known of it yet: as much as would be titrated by half a burette
		blank = b.put(leaf(dv.Node{ID: dv.Blank, Letter: "V", Of: b.ready.Titrant.Plain(), Operation: dv.Given, Source: dv.Source{Kind: dv.Burette, Nominal: true}}, b.nominalBlank(), quantity.Millilitre))
	}
	own := b.prefix
	b.prefix = ""
	trial := b.trial
	b.trial = nil
	litres := b.convert(id+"-blank-litres", blank, quantity.Litre)
	amount := b.amount(id+"-blank-amount", b.ready.Titrant.Plain(), dv.OfBlank, dv.Product, "step.blank-amount", b.knownLeaf(), litres)
	for i, r := range b.ready.Reactions {
		amount = b.react(numbered(dv.MoleRatio, i), numbered(id+"-blank", i+1), amount, r, false, dv.OfBlank, "step.added")
	}
	for i := len(b.ready.Steps) - 1; i > at; i-- {
		if b.ready.Steps[i].Kind == practical.Portion {
			amount = b.diluted(id+"-blank-"+routeID(i), amount, i, false)
		}
	}
	b.d.Nodes[amount].ID, b.d.Nodes[amount].Where, b.d.Nodes[amount].Step = id+"-added", dv.Added, "step.added"
	b.d.Nodes[amount].Route = at + 1
	b.shared = append(b.shared, sharedLeaf{id + "-added", amount})
	b.prefix, b.trial = own, trial
	return amount
}

// nominalBlank is what a blank is taken to be before there is one: of a burette
// in its best part, twice the expected titre where one is given.
func (b *builder) nominalBlank() decimal.Decimal {
	if t := b.ready.Asked.Titre; t.Sign() > 0 {
		return t.Add(t)
	}
	return b.ready.Glass.Burette.Capacity.Mul(decimal.Must("0.9"))
}

// diluted goes from the amount in an aliquot to that in the whole, or down.
func (b *builder) diluted(id string, amount, at int, down bool) int {
	whole, part := b.volume(at-1), b.volume(at)
	inputs, code, where := []int{whole, part}, "step.whole", dv.OfVolume
	if down {
		inputs, code, where = []int{part, whole}, "step.part", dv.InAliquot
	}
	of := b.d.Nodes[amount].Of
	f := b.share(routeID(at)+"-factor", func() dv.Node {
		n := dv.Node{Letter: "f", Operation: dv.Quotient, Inputs: inputs, Route: at + 1, Quantity: quantity.Quantity{Unit: quantity.One}}
		x, y := b.d.Nodes[inputs[0]].Quantity, b.d.Nodes[inputs[1]].Quantity
		n.Quantity.Value, n.Quantity.Figures = x.Value/y.Value, min(x.Figures, y.Figures)
		return n
	})
	n := b.amount(id, of, where, dv.Product, code, amount, f)
	if !down {
		b.d.Nodes[n].MadeUp = b.ready.Steps[at-1].Volume
	}
	return n
}

var portionOf = map[practical.StepKind]dv.Portion{practical.Pipette: dv.FromPipette, practical.MakeUp: dv.FromMakeUp, practical.Portion: dv.InAliquot, practical.Excess: dv.NoPortion}

// volume is what a step of the route measured, mL: the glass's nominal volume,
// or what ran from a burette.
func (b *builder) volume(at int) int {
	s := b.ready.Steps[at]
	of, where := b.sampleOf(), portionOf[s.Kind]
	if s.Kind == practical.Excess {
		of = s.Reaction.From.Plain()
	}
	if len(b.ready.Steps) == 1 {
		where = dv.NoPortion // there is no other
	}
	last := at == len(b.ready.Steps)-1
	if s.By == practical.ByBurette {
		id, kind, span := "/sample", dv.SampleBurette, b.at.Sample
		if s.Kind == practical.Excess {
			id, kind, span = "/reagent", dv.ReagentBurette, b.at.Reagent
		}
		if span != nil {
			n := b.byDifference(b.at.Trial+id, "V", of, where, dv.Source{Kind: kind}, quantity.Millilitre, [2]Reading{span[1], span[0]})
			b.d.Nodes[n].Route = at + 1
			b.require(n, false, noVolume)
			b.portion = n
			return n
		}
		if !b.hollow && b.problem == nil {
			b.problem = &Problem{noVolume.Message(), b.at.Trial}
		}
		n := b.put(leaf(dv.Node{ID: b.at.Trial + id, Letter: "V", Of: of, Where: where, Operation: dv.Given, Route: at + 1, Source: dv.Source{Kind: kind, Point: dv.End, Nominal: true}}, s.Volume, quantity.Millilitre))
		b.portion = n
		return n
	}
	id := routeID(at) + "-volume"
	if last && (s.Kind == practical.Portion || s.Kind == practical.Pipette) {
		id = dv.Aliquot
	}
	n := b.share(id, func() dv.Node {
		source := dv.Source{Kind: dv.SourceKind(s.By), Volume: s.Volume, Class: s.Class}
		return leaf(dv.Node{Letter: "V", Of: of, Where: where, Operation: dv.Given, Route: at + 1, Source: source}, s.Volume, quantity.Millilitre)
	})
	if last {
		b.portion = n
	}
	return n
}

// sampleOf is what the volumes of the route are about.
func (b *builder) sampleOf() string { return b.ready.Analyte.Plain() }

// byDifference adds two readings and what lies between them.
func (b *builder) byDifference(id, letter, of string, where dv.Portion, source dv.Source, unit quantity.Unit, r [2]Reading) int {
	n := dv.Node{Letter: letter, Of: of, Where: where, Trial: b.trialID()}
	read := func(suffix string, r Reading, point dv.Point) int {
		n := n
		n.ID, n.Operation, n.Entry, n.Written, n.Source = id+suffix, dv.Read, r.Entry, r.Text, source
		n.Source.Point = point
		return b.put(leaf(n, r.Value, unit))
	}
	inputs := []int{read("-end", r[0], dv.End), read("-start", r[1], dv.Start)}
	n.ID, n.Operation, n.Inputs, n.Quantity = id, dv.Difference, inputs, quantity.Of(r[0].Value.Sub(r[1].Value), unit)
	return b.put(n)
}

// mass is the mass of the sample in g: by difference, the trial's own or the
// one for all; where none was recorded the practical's stands in.
func (b *builder) mass() int {
	s := b.ready.Steps[0]
	weighed, id := b.held.Mass, "sample-mass"
	if s.EachTrial {
		weighed, id = b.at.Mass, b.at.Trial+"/mass"
	}
	for _, k := range b.shared {
		if k.id == id {
			return k.at
		}
	}
	var n int
	if weighed != nil {
		n = b.byDifference(id, "m", "", dv.OfSample, dv.Source{Kind: dv.Balance}, quantity.Gram, *weighed)
	} else {
		if !b.hollow && b.problem == nil && (s.EachTrial || s.Mass.Sign() <= 0) {
			b.problem = &Problem{noMass.Message(), b.trialID()}
		}
		n = b.put(leaf(dv.Node{ID: id, Letter: "m", Where: dv.OfSample, Operation: dv.Given, Source: dv.Source{Kind: dv.Balance, Point: dv.End, Nominal: true}}, s.Mass, quantity.Gram))
	}
	b.require(n, false, noMass)
	b.shared = append(b.shared, sharedLeaf{id, n})
	return n
}

func (b *builder) molarMass(f chem.Formula) int {
	return b.share("molar-mass-"+f.Plain(), func() dv.Node {
		return leaf(dv.Node{Letter: "M", Of: f.Plain(), Operation: dv.Molar, Source: dv.Source{Kind: dv.AtomicWeights}}, f.MolarMass(), quantity.GramPerMole)
	})
}

// burette works out the concentration of what is in the burette from a known
// amount in the flask.
func (b *builder) burette(litres int) int {
	p, analyte := b.prefix, b.ready.Analyte
	var amount int
	head := b.ready.Steps[0]
	if b.ready.Weighs() {
		amount = b.weighedStandard(head)
	} else {
		v := b.convert(p+"known-litres", b.volume(0), quantity.Litre)
		amount = b.amount(p+dv.KnownAmount, analyte.Plain(), dv.NoPortion, dv.Product, "step.amount-known", b.knownLeaf(), v)
	}
	for i := 1; i < len(b.ready.Steps); i++ {
		if b.ready.Steps[i].Kind == practical.Portion {
			amount = b.diluted(p+routeID(i), amount, i, true)
		}
	}
	for i := len(b.ready.Reactions) - 1; i >= 0; i-- {
		amount = b.react(numbered(dv.MoleRatio, i), p+numbered(dv.Amount, i), amount, b.ready.Reactions[i], true, dv.NoPortion, "step.ratio")
	}
	return b.askLitres(amount, litres)
}

// weighedStandard is the amount of analyte in a standard that was weighed: of
// the pure part of its mass, by the molar mass of what was weighed, and the
// ions that one unit of it gives.
func (b *builder) weighedStandard(head practical.ReadyStep) int {
	p, salt := b.prefix, head.Salt
	mass := b.mass()
	if purity := b.ready.Chemistry.Analyte.Purity; purity.Sign() > 0 {
		w := b.share("purity", func() dv.Node {
			n := leaf(dv.Node{Letter: "w", Of: salt.Plain(), Operation: dv.Given, Source: dv.Source{Kind: dv.Purity}}, purity, quantity.One)
			n.Quantity.Figures = 0 // its spread speaks for it, not its digits
			return n
		})
		mass = b.add(dv.Node{ID: p + "pure-mass", Letter: "m", Of: salt.Plain(), Operation: dv.Product, Inputs: []int{mass, w}, Step: "step.pure-mass", Trial: b.trialID(), Quantity: quantity.Quantity{Unit: quantity.Gram}})
	}
	if salt.Same(b.ready.Analyte) {
		return b.amount(p+dv.KnownAmount, salt.Plain(), dv.NoPortion, dv.Quotient, "step.amount-weighed", mass, b.molarMass(salt))
	}
	weighed := b.amount(p+"weighed-amount", salt.Plain(), dv.NoPortion, dv.Quotient, "step.amount-weighed", mass, b.molarMass(salt))
	return b.byRatio("salt-ratio", p+dv.KnownAmount, weighed, b.ready.Analyte, head.SaltRatio[0], head.SaltRatio[1], dv.NoPortion, "step.ratio")
}
