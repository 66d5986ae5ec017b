package assay

import (
	"strconv"

	dv "exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/quantity"
)

// The titrant that students make: its strength follows from what was weighed, or taken of a stock,
// and what it was made up to, and from each aliquot of it that was made up again. Source: common
// practice, no source.

// madeHere tells whether the known strength follows from how the titrant is made.
func (a *Assay) madeHere() bool { return a.ready.MadeHere() && a.held.Known == nil }

// made works the strength of the titrant out. All trials share it.
func (b *builder) made() int {
	for _, s := range b.shared {
		if s.id == dv.Known {
			return s.at
		}
	}
	// It belongs to no trial, though the first that needs it may be worked out by itself.
	prefix, trial := b.prefix, b.trial
	b.prefix, b.trial = "", nil
	steps, of := b.ready.Made, b.ready.Titrant.Plain()
	last := len(steps) - 2
	named := func(i int) (string, dv.Where) {
		if i == last && b.ready.MadeOnly() && b.plainStrength() {
			return dv.Answer, dv.Nowhere
		}
		if i == last {
			return dv.Known, dv.Nowhere
		}
		return "made-strength-" + strconv.Itoa(i/2+1), dv.Stock
	}
	var c int
	id, where := named(0)
	strength := dv.Node{ID: id, Letter: "c", Of: of, Where: where, Quantity: unitOnly(quantity.MolePerL)}
	if steps[0].Kind == practical.Weigh {
		amount := b.madeAmount()
		volume := b.convert("made-litres", b.madeVolume(1), quantity.Litre)
		strength.Operation, strength.Step, strength.Inputs = dv.Quotient, "step.concentration", []int{amount, volume}
		c = b.add(strength)
	} else {
		var own *journal.Reading
		if s := b.held.Stock; s != nil {
			own = &s.Strength
		}
		stock := b.put(b.deserves(instead(dv.Node{ID: "made-stock", Letter: "c", Of: of, Where: dv.Stock, Source: dv.Source{Kind: dv.StockSolution}},
			own, steps[0].Concentration, quantity.MolePerL), b.StockStrength()))
		c = b.weaker(strength, stock, 0)
	}
	for i := 2; i+1 < len(steps); i += 2 {
		id, where = named(i)
		c = b.weaker(dv.Node{ID: id, Letter: "c", Of: of, Where: where, Quantity: unitOnly(quantity.MolePerL)}, c, i)
	}
	b.prefix, b.trial = prefix, trial
	b.shared = append(b.shared, sharedLeaf{dv.Known, c})
	return c
}

// weaker is the strength of what an aliquot was made up to.
func (b *builder) weaker(n dv.Node, strength, aliquot int) int {
	f := b.add(dv.Node{ID: "made-factor-" + strconv.Itoa(aliquot/2+1), Letter: "f", Operation: dv.Quotient,
		Inputs: []int{b.madeVolume(aliquot), b.madeVolume(aliquot + 1)}, Quantity: unitOnly(quantity.One)})
	n.Operation, n.Step, n.Inputs = dv.Product, "step.diluted", []int{strength, f}
	return b.add(n)
}

// madeAmount is the amount of the titrant's substance in what was weighed.
func (b *builder) madeAmount() int {
	head, salt := b.ready.Made[0], b.ready.Made[0].Salt
	mass := b.standardMass()
	if purity := b.ready.Chemistry.Titrant.Purity; purity.Sign() > 0 {
		mass = b.pure("made-pure-mass", mass, salt, purity)
	}
	id := "made-amount"
	if !salt.Same(b.ready.Titrant) {
		id = "made-weighed-amount"
	}
	amount := b.amount(id, salt.Plain(), dv.Nowhere, dv.Quotient, "step.amount-weighed", mass, b.molarMass(salt))
	if salt.Same(b.ready.Titrant) {
		return amount
	}
	return b.byRatio("made-ratio", named{"made-amount", dv.Nowhere, "step.contained"}, amount, b.ready.Titrant, head.SaltRatio)
}

// standardMass is the mass of the solid that the titrant is made of, g: by difference, or the
// practical's where it was not weighed.
func (b *builder) standardMass() int {
	n := dv.Node{ID: dv.MadeMass, Letter: "m", Of: b.ready.Made[0].Salt.Plain()}
	if w := b.held.Standard; w != nil {
		at := b.byDifference(n, dv.Source{Kind: dv.Balance}, quantity.Gram, *w)
		b.require(at, false, noMass)
		return at
	}
	n.Operation, n.Source = dv.Given, dv.Source{Kind: dv.Balance, Point: dv.End, Nominal: true}
	return b.put(leaf(n, b.ready.Made[0].Mass, quantity.Gram))
}

// madeVolume is the volume of a step of its making, mL.
func (b *builder) madeVolume(step int) int {
	s := b.ready.Made[step]
	var own *journal.Reading
	if v, is := b.held.Own[journal.OwnKey{What: journal.OwnVolume, Step: step + 1}]; is && b.ready.MadeOnly() {
		own = &v
	}
	if w := b.held.Stock; w != nil && step < 2 {
		own = []*journal.Reading{&w.Taken, &w.MadeUp}[step]
	}
	return b.put(instead(dv.Node{ID: "made-volume-" + strconv.Itoa(step+1), Letter: "V", Of: b.ready.Titrant.Plain(), Where: portionOf[s.Kind],
		Source: dv.Source{Kind: dv.SourceKind(s.By), Volume: s.Volume, Class: s.Class, Within: s.Within}}, own, s.Volume, quantity.Millilitre))
}

// MadeVolume is how much of the solution that is made there is, mL: what it was made up to last, as it
// was measured, else as the practical gives it.
func (a *Assay) MadeVolume() decimal.Decimal {
	last := len(a.ready.Made) - 1
	if last < 0 {
		return decimal.Decimal{}
	}
	if s := a.held.Stock; s != nil && last == 1 {
		return s.MadeUp.Value
	}
	if v, is := a.held.Own[journal.OwnKey{What: journal.OwnVolume, Step: last + 1}]; is && a.ready.MadeOnly() {
		return v.Value
	}
	return a.ready.Made[last].Volume
}

// StockStrength is the strength of the stock that the titrant is made of, mol/L: as it was written
// down, else as the practical gives it.
func (a *Assay) StockStrength() decimal.Decimal {
	if s := a.held.Stock; s != nil {
		return s.Strength.Value
	}
	return a.ready.Made[0].Concentration
}

// strengthMade is the strength of the titrant by how it was made, mol/L.
func (a *Assay) strengthMade() decimal.Decimal {
	b := &builder{Assay: a}
	at := b.made()
	c, _ := decimal.FromFloat(b.d.Nodes[at].Quantity.Value)
	return c.RoundFigures(6)
}
