package assay

import (
	"exactflask/core/chemistry/chem"
	dv "exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// up walks from the amount of what is titrated back up the route to the
// sample, and on to the answer.
func (b *builder) up(amount int) int {
	b.inFlask = amount
	for i := len(b.ready.Steps) - 1; i >= 0; i-- {
		s := b.ready.Steps[i]
		switch s.Kind {
		case practical.Aliquot:
			amount = b.diluted(b.prefix+routeID(i), amount, i, false)
		case practical.Excess:
			amount = b.excess(b.prefix+routeID(i), amount, i)
		case practical.Pipette:
			return b.ask(amount, b.volume(i))
		case practical.Weigh, practical.Tablets:
			if b.unweighed() {
				return b.ask(amount, -1)
			}
			return b.ask(amount, b.mass())
		}
	}
	return b.ask(amount, -1)
}

// unweighed tells whether the answer needs no mass of the sample and none is known: tablets are
// counted, and what is in all of them is not asked by their mass.
func (b *builder) unweighed() bool {
	s := b.ready.SampleStep()
	switch b.ready.Asked.What {
	case practical.MassPerTablet, practical.MassInSample, practical.AmountInSample:
		_, one := b.held.Own[tabletKey]
		return !s.EachTrial && s.Mass.Sign() <= 0 && b.held.Mass == nil && !one
	}
	return false
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
			return b.deserves(leaf(dv.Node{Letter: "c", Of: of, Operation: dv.Given, Route: at + 1,
				Source: dv.Source{Kind: dv.ExcessSolution}}, s.Concentration, quantity.MolePerL), s.Concentration)
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
	return b.react(id+"-ratio", named{id + "-analyte", dv.Nowhere, "step.ratio"}, used, s.Reaction, false)
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
		blank = b.put(leaf(dv.Node{ID: dv.Blank, Letter: "V", Of: b.ready.Titrant.Plain(), Operation: dv.Given,
			Source: dv.Source{Kind: dv.Burette, Nominal: true}}, b.nominalBlank(), quantity.Millilitre))
	}
	own := b.prefix
	b.prefix = ""
	trial := b.trial
	b.trial = nil
	litres := b.convert(id+"-blank-litres", blank, quantity.Litre)
	amount := b.amount(id+"-blank-amount", b.ready.Titrant.Plain(), dv.OfBlank, dv.Product, "step.blank-amount",
		b.knownLeaf(), litres)
	for i, r := range b.ready.Reactions {
		amount = b.react(numbered(dv.MoleRatio, i), named{numbered(id+"-blank", i+1), dv.OfBlank, "step.added"}, amount, r, false)
	}
	for i := len(b.ready.Steps) - 1; i > at; i-- {
		if b.ready.Steps[i].Kind == practical.Aliquot {
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
		n := dv.Node{Letter: "f", Operation: dv.Quotient, Inputs: inputs, Route: at + 1,
			Quantity: quantity.Quantity{Unit: quantity.One}}
		x, y := b.d.Nodes[inputs[0]].Quantity, b.d.Nodes[inputs[1]].Quantity
		n.Quantity.Value, n.Quantity.Figures = x.Value/y.Value, min(x.Figures, y.Figures)
		return n
	})
	n := b.amount(id, of, where, dv.Product, code, amount, f)
	if !down {
		b.d.Nodes[n].MadeUp = b.volumeOf(at - 1)
	}
	return n
}

var portionOf = map[practical.StepKind]dv.Where{practical.Pipette: dv.FromPipette, practical.MakeUp: dv.FromMakeUp,
	practical.Aliquot: dv.InAliquot, practical.Excess: dv.Nowhere}

// volume is what a step of the route measured, mL: the glass's nominal volume,
// or what ran from a burette.
func (b *builder) volume(at int) int {
	s := b.ready.Steps[at]
	of, where := b.sampleOf(), portionOf[s.Kind]
	if s.Kind == practical.Excess {
		of = s.Reaction.From.Plain()
	}
	if len(b.ready.Steps) == 1 {
		where = dv.Nowhere // there is no other
	}
	last := at == len(b.ready.Steps)-1
	if s.By == practical.ByBurette {
		id, kind, span := "/sample", dv.SampleBurette, b.at.Sample
		if s.Kind == practical.Excess {
			id, kind, span = "/reagent", dv.ReagentBurette, b.at.Reagent
		}
		if span != nil {
			n := b.byDifference(dv.Node{ID: b.at.Trial + id, Letter: "V", Of: of, Where: where}, dv.Source{Kind: kind}, quantity.Millilitre,
				[2]journal.Reading{span[1], span[0]})
			b.d.Nodes[n].Route = at + 1
			b.require(n, false, noVolume)
			b.portion = n
			return n
		}
		if !b.hollow && b.problem == nil {
			b.problem = &Problem{noVolume.Message(), b.at.Trial}
		}
		n := b.put(leaf(dv.Node{ID: b.at.Trial + id, Letter: "V", Of: of, Where: where, Operation: dv.Given, Route: at + 1,
			Source: dv.Source{Kind: kind, Point: dv.End, Nominal: true}}, s.Volume, quantity.Millilitre))
		b.portion = n
		return n
	}
	id := routeID(at) + "-volume"
	if last && (s.Kind == practical.Aliquot || s.Kind == practical.Pipette) {
		id = dv.Aliquot
	}
	n := b.share(id, func() dv.Node {
		source := dv.Source{Kind: dv.SourceKind(s.By), Volume: s.Volume, Class: s.Class, Within: s.Within}
		return b.given(dv.Node{Letter: "V", Of: of, Where: where, Route: at + 1, Source: source},
			journal.OwnKey{What: journal.OwnVolume, Step: at + 1}, s.Volume, quantity.Millilitre)
	})
	if last {
		b.portion = n
	}
	return n
}

// sampleOf is what the volumes of the route are about.
func (b *builder) sampleOf() string { return b.ready.Analyte.Plain() }

// mass is the mass of the sample in g: by difference, the trial's own or the
// one for all; where none was recorded the practical's stands in.
func (b *builder) mass() int {
	s := b.ready.SampleStep()
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
	if _, one := b.held.Own[tabletKey]; one && weighed == nil && s.Kind == practical.Tablets {
		n = b.tablets(id)
	} else if weighed != nil {
		n = b.byDifference(dv.Node{ID: id, Letter: "m", Where: dv.OfSample}, dv.Source{Kind: dv.Balance}, quantity.Gram, *weighed)
	} else {
		if !b.hollow && b.problem == nil && (s.EachTrial || s.Mass.Sign() <= 0) {
			b.problem = &Problem{noMass.Message(), b.trialID()}
		}
		n = b.put(leaf(dv.Node{ID: id, Letter: "m", Where: dv.OfSample, Operation: dv.Given,
			Source: dv.Source{Kind: dv.Balance, Point: dv.End, Nominal: true}}, s.Mass, quantity.Gram))
	}
	b.require(n, false, noMass)
	b.shared = append(b.shared, sharedLeaf{id, n})
	return n
}

var tabletKey = journal.OwnKey{What: journal.OwnTablet}

// tablets is the mass of all tablets by that of one, g.
func (b *builder) tablets(id string) int {
	s := b.ready.SampleStep()
	each := b.put(b.given(dv.Node{ID: "one-tablet", Letter: "m", Where: dv.OneTablet, Route: 1,
		Source: dv.Source{Kind: dv.Balance}}, tabletKey, decimal.Decimal{}, quantity.Gram))
	count := b.share("tablets", func() dv.Node {
		return leaf(dv.Node{Letter: "N", Operation: dv.Constant}, decimal.Whole(int64(s.Count)), quantity.One)
	})
	return b.add(dv.Node{ID: id, Letter: "m", Where: dv.OfSample, Operation: dv.Product, Inputs: []int{each, count},
		Step: "step.tablets", Trial: b.trialID(), Quantity: unitOnly(quantity.Gram)})
}

// burette works out the concentration of what is in the burette from a known
// amount in the flask.
func (b *builder) burette(litres int) int {
	p, analyte := b.prefix, b.ready.Analyte
	var amount int
	head := b.ready.SampleStep()
	if b.ready.Weighs() {
		amount = b.weighedStandard(head)
	} else {
		v := b.convert(p+"known-litres", b.volume(0), quantity.Litre)
		amount = b.amount(p+dv.KnownAmount, analyte.Plain(), dv.Nowhere, dv.Product, "step.amount-known", b.knownLeaf(), v)
	}
	for i := 1; i < len(b.ready.Steps); i++ {
		if b.ready.Steps[i].Kind == practical.Aliquot {
			amount = b.diluted(p+routeID(i), amount, i, true)
		}
	}
	for i := len(b.ready.Reactions) - 1; i >= 0; i-- {
		amount = b.react(numbered(dv.MoleRatio, i), named{p + numbered(dv.Amount, i), dv.Nowhere, "step.ratio"}, amount, b.ready.Reactions[i], true)
	}
	return b.askLitres(amount, litres)
}

// pure is the mass of the substance itself in a mass that was weighed, g.
func (b *builder) pure(id string, mass int, salt chem.Formula, purity decimal.Decimal) int {
	w := b.share("purity", func() dv.Node {
		n := leaf(dv.Node{Letter: "w", Of: salt.Plain(), Operation: dv.Given, Source: dv.Source{Kind: dv.Purity}}, purity, quantity.One)
		n.Quantity.Figures = 0 // its spread speaks for it, not its digits
		return n
	})
	return b.add(dv.Node{ID: id, Letter: "m", Of: salt.Plain(), Operation: dv.Product,
		Inputs: []int{mass, w}, Step: "step.pure-mass", Trial: b.trialID(), Quantity: quantity.Quantity{Unit: quantity.Gram}})
}

// weighedStandard is the amount of analyte in a standard that was weighed: of
// the pure part of its mass, by the molar mass of what was weighed, and the
// ions that one unit of it gives.
func (b *builder) weighedStandard(head practical.ReadyStep) int {
	p, salt := b.prefix, head.Salt
	mass := b.mass()
	if purity := b.ready.Chemistry.Analyte.Purity; purity.Sign() > 0 {
		mass = b.pure(p+"pure-mass", mass, salt, purity)
	}
	if salt.Same(b.ready.Analyte) {
		return b.amount(p+dv.KnownAmount, salt.Plain(), dv.Nowhere, dv.Quotient, "step.amount-weighed", mass,
			b.molarMass(salt))
	}
	weighed := b.amount(p+"weighed-amount", salt.Plain(), dv.Nowhere, dv.Quotient, "step.amount-weighed", mass,
		b.molarMass(salt))
	return b.byRatio("salt-ratio", named{p + dv.KnownAmount, dv.Nowhere, "step.contained"}, weighed, b.ready.Analyte, head.SaltRatio)
}
