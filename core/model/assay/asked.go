package assay

import (
	"exactflask/core/chemistry/chem"
	dv "exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/quantity"
)

// molarVolume is the volume of a mole of gas at 273.15 K and 101.325 kPa, as
// the volume strength of peroxide takes it. Source: CODATA 2018 (from memory).
var molarVolume = decimal.Must("22.414")

var water = chem.MustFormula("H2O")

// finish names the last node: it is the answer.
func (b *builder) finish(n dv.Node) int {
	n.ID, n.Trial = b.prefix+dv.Answer, b.trialID()
	return b.add(n)
}

func unitOnly(u quantity.Unit) quantity.Quantity { return quantity.Quantity{Unit: u} }

// ask goes from the amount of analyte in the sample, and the sample's volume in
// mL or mass in g, to the answer.
func (b *builder) ask(amount, sample int) int {
	a, p, of := b.ready.Asked, b.prefix, b.ready.Analyte.Plain()
	as := b.ready.As
	switch a.What {
	case practical.AmountInSample:
		return b.finish(dv.Node{Letter: "n", Of: of, Operation: dv.Convert, Inputs: []int{amount}, Step: "step.amount",
			Quantity: unitOnly(a.Unit)})
	case practical.MassInSample, practical.MassPerTablet, practical.PurityOf:
		return b.askMass(b.inMassOf(amount), sample)
	case practical.MolarMass:
		return b.finish(dv.Node{Letter: "M", Operation: dv.Quotient, Inputs: []int{sample, amount}, Step: "step.molar-mass",
			Quantity: unitOnly(a.Unit)})
	case practical.Water:
		found := b.add(dv.Node{ID: p + "molar-mass-found", Letter: "M", Where: dv.OfHydrate, Operation: dv.Quotient,
			Inputs: []int{sample, amount}, Step: "step.molar-mass", Trial: b.trialID(), Quantity: unitOnly(quantity.GramPerMole)})
		rest := b.add(dv.Node{ID: p + "water-mass", Letter: "M", Where: dv.WaterInIt, Operation: dv.Difference,
			Inputs: []int{found, b.molarMass(as)}, Step: "step.water-mass", Trial: b.trialID(), Quantity: unitOnly(quantity.GramPerMole)})
		return b.finish(dv.Node{Letter: "x", Operation: dv.Quotient, Inputs: []int{rest, b.molarMass(water)},
			Step: "step.water", Quantity: unitOnly(a.Unit)})
	case practical.Protons:
		if z := b.ready.ReagentProtons; z > 1 {
			amount = b.byRatio("proton-ratio", named{p + "proton-amount", dv.Nowhere, "step.contained"}, amount, proton, [2]int{z, 1})
		}
		acid := b.amount(p+"acid-amount", as.Plain(), dv.Nowhere, dv.Quotient, "step.amount-weighed", sample,
			b.molarMass(as))
		// The acid of the whole sample is weighed, and so is what was titrated
		// of it: both are of the whole once the route has been walked up.
		return b.finish(dv.Node{Letter: "z", Operation: dv.Quotient, Inputs: []int{amount, acid}, Step: "step.protons",
			Quantity: unitOnly(a.Unit)})
	}
	if b.ready.Weighs() && sample >= 0 && !b.ready.UnknownInBurette { // a liquid that was weighed
		sample = b.add(dv.Node{ID: p + "sample-volume", Letter: "V", Where: dv.OfSample, Operation: dv.Quotient,
			Inputs: []int{sample, b.density()}, Step: "step.sample-volume", Trial: b.trialID(),
			Quantity: unitOnly(quantity.Millilitre)})
	}
	return b.askLitres(amount, b.convert(p+"sample-litres", sample, quantity.Litre))
}

var proton = chem.MustFormula("H^+")

// inMassOf goes from an amount of what is asked for to the amount of the
// substance in whose mass the answer is given.
func (b *builder) inMassOf(amount int) int {
	if r := b.ready.AsRatio; r[0] != r[1] {
		return b.byRatio("as-ratio", named{b.prefix + "as-amount", dv.Nowhere, "step.contained"}, amount, b.ready.As, r)
	}
	return amount
}

// askMass goes from an amount to a mass, and to what is asked about it.
func (b *builder) askMass(amount, sample int) int {
	a, p, as := b.ready.Asked, b.prefix, b.ready.As
	grams := b.add(dv.Node{ID: p + "substance-mass", Letter: "m", Of: as.Plain(), Operation: dv.Product,
		Inputs: []int{amount, b.molarMass(as)}, Step: "step.mass", Trial: b.trialID(), Quantity: unitOnly(quantity.Gram)})
	switch a.What {
	case practical.MassPerTablet:
		n := b.share("tablets", func() dv.Node {
			return leaf(dv.Node{Letter: "N", Operation: dv.Constant}, decimal.Whole(int64(b.ready.SampleStep().Count)), quantity.One)
		})
		each := b.add(dv.Node{ID: p + "tablet-mass", Letter: "m", Of: as.Plain(), Where: dv.OneTablet,
			Operation: dv.Quotient, Inputs: []int{grams, n}, Step: "step.tablet", Trial: b.trialID(), Quantity: unitOnly(quantity.Gram)})
		return b.finish(dv.Node{Letter: "m", Of: as.Plain(), Where: dv.OneTablet, Operation: dv.Convert,
			Inputs: []int{each}, Quantity: unitOnly(a.Unit)})
	case practical.PurityOf:
		w := b.add(dv.Node{ID: p + "fraction", Letter: "w", Of: as.Plain(), Operation: dv.Quotient,
			Inputs: []int{grams, sample}, Step: "step.fraction", Trial: b.trialID(), Quantity: unitOnly(quantity.One)})
		return b.finish(dv.Node{Letter: "w", Of: as.Plain(), Operation: dv.Convert, Inputs: []int{w},
			Quantity: unitOnly(a.Unit)})
	}
	return b.finish(dv.Node{Letter: "m", Of: as.Plain(), Operation: dv.Convert, Inputs: []int{grams},
		Quantity: unitOnly(a.Unit)})
}

// askLitres goes from an amount and the volume it is in, in L, to an answer
// about a solution.
func (b *builder) askLitres(amount, litres int) int {
	p, of := b.prefix, b.ready.AskedOf().Plain()
	concentration := dv.Node{ID: p + "concentration", Letter: "c", Of: of, Operation: dv.Quotient,
		Inputs: []int{amount, litres}, Step: "step.concentration", Trial: b.trialID(), Quantity: unitOnly(quantity.MolePerL)}
	plain := b.plainStrength()
	diluted := b.ready.UnknownInBurette && b.ready.Chemistry.Diluted != nil
	if plain && !diluted {
		b.strength = b.finish(concentration)
		return b.strength
	}
	c := b.add(concentration)
	b.strength = c
	if diluted {
		before := dv.Node{ID: p + "undiluted", Letter: "c", Of: of, Where: dv.Undiluted, Operation: dv.Product,
			Inputs: []int{c, b.dilutionFactor()}, Step: "step.undiluted", Trial: b.trialID(), Quantity: unitOnly(quantity.MolePerL)}
		if plain {
			return b.finish(before)
		}
		c = b.add(before)
	}
	return b.askStrength(c)
}

// plainStrength tells whether a concentration in mol/L is the answer as it is.
func (a *Assay) plainStrength() bool {
	return a.ready.Asked.What == practical.Concentration && a.ready.Asked.Unit == quantity.MolePerL
}

// askStrength goes from a concentration in mol/L to an answer about the solution.
func (b *builder) askStrength(c int) int {
	a, p, of := b.ready.Asked, b.prefix, b.ready.AskedOf().Plain()
	switch a.What {
	case practical.Factor:
		nominal := b.share("nominal", func() dv.Node {
			return leaf(dv.Node{Letter: "c", Of: of, Where: dv.NominalOne, Operation: dv.Constant}, a.Nominal, quantity.MolePerL)
		})
		return b.finish(dv.Node{Letter: "F", Of: of, Operation: dv.Quotient, Inputs: []int{c, nominal}, Step: "step.factor",
			Quantity: unitOnly(a.Unit)})
	case practical.VolumeStrength: // 2 H2O2 -> 2 H2O + O2
		volume := b.share("molar-volume", func() dv.Node {
			return leaf(dv.Node{Letter: "V_m", Of: "O2", Operation: dv.Constant}, molarVolume, quantity.LitrePerMole)
		})
		half := b.share("oxygen-ratio", func() dv.Node {
			return dv.Node{Letter: "r", Of: "O2", Operation: dv.Ratio, Written: "1/2",
				Quantity: quantity.Quantity{Value: 0.5, Unit: quantity.One}}
		})
		oxygen := b.add(dv.Node{ID: p + "oxygen", Letter: "c", Of: "O2", Operation: dv.Product, Inputs: []int{c, half},
			Step: "step.oxygen", Trial: b.trialID(), Quantity: unitOnly(quantity.MolePerL)})
		return b.finish(dv.Node{Letter: "VS", Operation: dv.Product, Inputs: []int{oxygen, volume},
			Step: "step.volume-strength", Quantity: unitOnly(a.Unit)})
	case practical.MassConcentration, practical.MassFraction:
		return b.askMassConcentration(c)
	}
	if b.ready.MadeOnly() && b.plainStrength() { // it was finished where it was made
		return c
	}
	return b.finish(dv.Node{Letter: "c", Of: of, Operation: dv.Convert, Inputs: []int{c}, Quantity: unitOnly(a.Unit)})
}

func (b *builder) askMassConcentration(c int) int {
	a, p, as := b.ready.Asked, b.prefix, b.ready.As
	if r := b.ready.AsRatio; r[0] != r[1] {
		ratio := b.share("as-ratio", func() dv.Node {
			return dv.Node{Letter: "r", Of: as.Plain(), Operation: dv.Ratio, Written: a.AsRatio,
				Quantity: quantity.Quantity{Value: float64(r[0]) / float64(r[1]), Unit: quantity.One}}
		})
		if b.d.Nodes[ratio].Written == "" {
			b.d.Nodes[ratio].Written = ratioText(r)
		}
		c = b.add(dv.Node{ID: p + "as-concentration", Letter: "c", Of: as.Plain(), Operation: dv.Product,
			Inputs: []int{c, ratio}, Step: "step.as-concentration", Trial: b.trialID(), Quantity: unitOnly(quantity.MolePerL)})
	}
	grams := dv.Node{ID: p + "mass-concentration", Letter: "ρ", Of: as.Plain(), Operation: dv.Product,
		Inputs: []int{c, b.molarMass(as)}, Step: "step.mass-concentration", Trial: b.trialID(), Quantity: unitOnly(quantity.GramPerL)}
	if a.What == practical.MassConcentration && a.Unit == quantity.GramPerL {
		return b.finish(grams)
	}
	g := b.add(grams)
	if a.What == practical.MassConcentration {
		return b.finish(dv.Node{Letter: "ρ", Of: as.Plain(), Operation: dv.Convert, Inputs: []int{g}, Step: "step.convert",
			Quantity: unitOnly(a.Unit)})
	}
	perLitre := b.convert(p+"density-per-litre", b.density(), quantity.GramPerL)
	w := b.add(dv.Node{ID: p + "fraction", Letter: "w", Of: as.Plain(), Operation: dv.Quotient,
		Inputs: []int{g, perLitre}, Step: "step.fraction", Trial: b.trialID(), Quantity: unitOnly(quantity.One)})
	return b.finish(dv.Node{Letter: "w", Of: as.Plain(), Operation: dv.Convert, Inputs: []int{w},
		Quantity: unitOnly(a.Unit)})
}

func (b *builder) density() int {
	return b.share("density", func() dv.Node {
		return b.given(dv.Node{Letter: "ρ", Where: dv.OfSolution, Source: dv.Source{Kind: dv.Density}},
			journal.OwnKey{What: journal.OwnDensity}, b.ready.Asked.Density, quantity.GramPerML)
	})
}

// dilutionFactor is how many times the unknown was diluted before it came into
// the burette.
func (b *builder) dilutionFactor() int {
	d, of := b.ready.Chemistry.Diluted, b.ready.Titrant.Plain()
	volume := func(id string, where dv.Where, kind dv.SourceKind, v decimal.Decimal) int {
		return b.share(id, func() dv.Node {
			return leaf(dv.Node{Letter: "V", Of: of, Where: where, Operation: dv.Given,
				Source: dv.Source{Kind: kind, Volume: v, Class: d.Class}}, v, quantity.Millilitre)
		})
	}
	made := volume("diluted-made", dv.FromMakeUp, dv.Flask, d.MadeUp)
	taken := volume("diluted-taken", dv.FromPipette, dv.Pipette, d.Taken)
	return b.add(dv.Node{ID: b.prefix + "dilution-factor", Letter: "f", Operation: dv.Quotient, Inputs: []int{made, taken},
		Step: "step.dilution-factor", Trial: b.trialID(), Quantity: unitOnly(quantity.One)})
}
