package stoich

import (
	"fmt"

	"exactflask/core/chem"
	"exactflask/core/decimal"
	"exactflask/core/quantity"
)

// What is asked of a titration.
type What string

// The answers that can be asked for. Concentration (the zero value is taken as
// it) is of what was measured first on the route: the solution that was
// pipetted or, with the unknown in the burette, the titrant.
const (
	Concentration     What = "concentration"      // mol/L
	MassConcentration What = "mass-concentration" // g/L, % w/v, mg per 100 mL, mg/L, ppm
	MassFraction      What = "mass-fraction"      // % w/w of a solution, by its density
	AmountInSample    What = "amount"             // mol
	MassInSample      What = "mass"               // g, mg
	MassPerTablet     What = "mass-per-tablet"    // mg, g
	Purity            What = "purity"             // % of the mass that was weighed
	Water             What = "water"              // x in a hydrate
	MolarMass         What = "molar-mass"         // of an unknown acid, g/mol
	Protons           What = "protons"            // how many react
	VolumeStrength    What = "volume-strength"    // of hydrogen peroxide
	Factor            What = "factor"             // concentration by the nominal one
)

// Ask says what is asked for and in which unit.
type Ask struct {
	What What
	Unit quantity.Unit // where more than one is possible; empty for the first
	// As is the substance in whose mass the answer is given (chlorine, citric
	// acid); with Water the anhydrous substance, with Protons the acid. It is
	// the analyte, or the titrant, when it is empty.
	As      chem.Formula
	Density decimal.Decimal // g/mL, with MassFraction
	Nominal decimal.Decimal // mol/L, with Factor
}

// units that each answer can be given in; the first is the usual one.
var askUnits = map[What][]quantity.Unit{
	Concentration:     {quantity.MolePerL, quantity.MillimolePerL},
	MassConcentration: {quantity.GramPerL, quantity.MilligramPerL, quantity.PPM, quantity.PercentWV, quantity.MgPer100},
	MassFraction:      {quantity.PercentWW},
	AmountInSample:    {quantity.Mole, quantity.Millimole},
	MassInSample:      {quantity.Gram, quantity.Milligram},
	MassPerTablet:     {quantity.Milligram, quantity.Gram},
	Purity:            {quantity.Percent},
	Water:             {quantity.One},
	MolarMass:         {quantity.GramPerMole},
	Protons:           {quantity.One},
	VolumeStrength:    {quantity.Volumes},
	Factor:            {quantity.One},
}

// Units returns the units an answer can be given in, none for an unknown one.
func (w What) Units() []quantity.Unit {
	if w == "" {
		w = Concentration
	}
	return askUnits[w]
}

// unit is the one that is asked for.
func (a Ask) unit() (quantity.Unit, error) {
	units := a.What.Units()
	if len(units) == 0 {
		return "", fmt.Errorf("nothing is known about the answer %q", a.What)
	}
	if a.Unit == "" {
		return units[0], nil
	}
	for _, u := range units {
		if u == a.Unit {
			return u, nil
		}
	}
	return "", fmt.Errorf("%s is not given in %s; use one of %v", a.What, a.Unit, units)
}

// molarVolume is the volume of a mole of gas at 273.15 K and 101.325 kPa, as
// the volume strength of peroxide takes it. Source: CODATA 2018 (from memory).
var molarVolume = decimal.Must("22.414")

// finish names the last node: it is the answer.
func (b *builder) finish(n Node) string {
	n.ID = b.prefix + NodeAnswer
	return b.add(n)
}

// ask goes from the amount of analyte in the sample, and the sample's volume in
// mL or mass in g, to the answer.
func (b *builder) ask(amount, sample string) (string, error) {
	a, p, of := b.in.Ask, b.prefix, b.in.Analyte.Plain()
	unit, err := a.unit()
	if err != nil {
		return "", err
	}
	need := func(u quantity.Unit, measure string) error {
		if sample == "" || b.node(sample).Quantity.Unit != u {
			return fmt.Errorf("the route does not measure the %s of the sample, which %s needs", measure, a.What)
		}
		return nil
	}
	as := a.As
	if len(as.Atoms()) == 0 {
		as = b.in.Analyte
	}
	switch a.What {
	case "", Concentration, MassConcentration, MassFraction, VolumeStrength, Factor:
		if err := need(quantity.Millilitre, "volume"); err != nil {
			return "", err
		}
		litres := b.convert(p+"sample-litres", sample, quantity.Litre)
		return b.askLitres(amount, litres)
	case AmountInSample:
		return b.finish(Node{Letter: "n", Of: of, Operation: Convert, Inputs: []string{amount}, Step: "step.amount", Quantity: quantity.Quantity{Unit: unit}}), nil
	case MassInSample, MassPerTablet, Purity:
		grams := b.add(Node{ID: p + "substance-mass", Letter: "m", Of: as.Plain(), Operation: Product, Inputs: []string{amount, b.molarMass(as)}, Step: "step.mass", Quantity: quantity.Quantity{Unit: quantity.Gram}})
		switch a.What {
		case MassPerTablet:
			count := 0
			for _, s := range b.in.Route {
				count = max(count, s.Count)
			}
			if count < 1 {
				return "", fmt.Errorf("the route does not say how many tablets were taken")
			}
			n := b.leaf(Node{ID: "tablets", Letter: "N", Operation: Constant}, decimal.Whole(int64(count)), quantity.One)
			each := b.add(Node{ID: p + "tablet-mass", Letter: "m", Of: as.Plain(), Where: "one tablet", Operation: Quotient, Inputs: []string{grams, n}, Step: "step.tablet", Quantity: quantity.Quantity{Unit: quantity.Gram}})
			return b.finish(Node{Letter: "m", Of: as.Plain(), Where: "one tablet", Operation: Convert, Inputs: []string{each}, Quantity: quantity.Quantity{Unit: unit}}), nil
		case Purity:
			if err := need(quantity.Gram, "mass"); err != nil {
				return "", err
			}
			w := b.add(Node{ID: p + "fraction", Letter: "w", Of: as.Plain(), Operation: Quotient, Inputs: []string{grams, sample}, Step: "step.fraction", Quantity: quantity.Quantity{Unit: quantity.One}})
			return b.finish(Node{Letter: "w", Of: as.Plain(), Operation: Convert, Inputs: []string{w}, Quantity: quantity.Quantity{Unit: unit}}), nil
		default:
			return b.finish(Node{Letter: "m", Of: as.Plain(), Operation: Convert, Inputs: []string{grams}, Step: "", Quantity: quantity.Quantity{Unit: unit}}), nil
		}
	case MolarMass, Water:
		if err := need(quantity.Gram, "mass"); err != nil {
			return "", err
		}
		if a.What == MolarMass {
			return b.finish(Node{Letter: "M", Of: "", Operation: Quotient, Inputs: []string{sample, amount}, Step: "step.molar-mass", Quantity: quantity.Quantity{Unit: unit}}), nil
		}
		found := b.add(Node{ID: p + "molar-mass-found", Letter: "M", Where: "hydrate", Operation: Quotient, Inputs: []string{sample, amount}, Step: "step.molar-mass", Quantity: quantity.Quantity{Unit: quantity.GramPerMole}})
		water := b.add(Node{ID: p + "water-mass", Letter: "M", Where: "water in it", Operation: Difference, Inputs: []string{found, b.molarMass(as)}, Step: "step.water-mass", Quantity: quantity.Quantity{Unit: quantity.GramPerMole}})
		return b.finish(Node{Letter: "x", Operation: Quotient, Inputs: []string{water, b.molarMass(chem.MustFormula("H2O"))}, Step: "step.water", Quantity: quantity.Quantity{Unit: unit}}), nil
	case Protons:
		acid := p + "acid-amount"
		if sample != "" && b.node(sample).Quantity.Unit == quantity.Gram {
			b.add(Node{ID: acid, Letter: "n", Of: as.Plain(), Operation: Quotient, Inputs: []string{sample, b.molarMass(as)}, Step: "step.amount-weighed", Quantity: quantity.Quantity{Unit: quantity.Mole}})
		} else {
			return "", fmt.Errorf("the number of protons needs an acid that was weighed")
		}
		return b.finish(Node{Letter: "z", Operation: Quotient, Inputs: []string{amount, acid}, Step: "step.protons", Quantity: quantity.Quantity{Unit: unit}}), nil
	}
	return "", fmt.Errorf("nothing is known about the answer %q", a.What)
}

// askLitres goes from an amount and the volume it is in, in L, to an answer
// about a solution.
func (b *builder) askLitres(amount, litres string) (string, error) {
	a, p := b.in.Ask, b.prefix
	unit, err := a.unit()
	if err != nil {
		return "", err
	}
	of, as := b.in.Analyte, a.As
	if b.in.UnknownInBurette {
		of = b.in.Titrant
	}
	if len(as.Atoms()) == 0 {
		as = of
	}
	concentration := Node{Letter: "c", Of: of.Plain(), Operation: Quotient, Inputs: []string{amount, litres}, Step: "step.concentration", Quantity: quantity.Quantity{Unit: quantity.MolePerL}}
	if (a.What == "" || a.What == Concentration) && unit == quantity.MolePerL {
		return b.finish(concentration), nil
	}
	concentration.ID = p + "concentration"
	c := b.add(concentration)
	switch a.What {
	case "", Concentration:
		return b.finish(Node{Letter: "c", Of: of.Plain(), Operation: Convert, Inputs: []string{c}, Quantity: quantity.Quantity{Unit: unit}}), nil
	case Factor:
		if a.Nominal.Sign() <= 0 {
			return "", fmt.Errorf("a factor needs the nominal concentration")
		}
		nominal := b.leaf(Node{ID: "nominal", Letter: "c", Of: of.Plain(), Where: "nominal", Operation: Constant}, a.Nominal, quantity.MolePerL)
		return b.finish(Node{Letter: "F", Of: of.Plain(), Operation: Quotient, Inputs: []string{c, nominal}, Step: "step.factor", Quantity: quantity.Quantity{Unit: unit}}), nil
	case VolumeStrength: // 2 H2O2 -> 2 H2O + O2
		volume := b.leaf(Node{ID: "molar-volume", Letter: "V_m", Of: "O2", Operation: Constant}, molarVolume, quantity.LitrePerMole)
		half := b.put(Node{ID: "oxygen-ratio", Letter: "r", Of: "O2", Operation: Ratio, Written: "1/2", Quantity: quantity.Quantity{Value: 0.5, Unit: quantity.One}})
		oxygen := b.add(Node{ID: p + "oxygen", Letter: "c", Of: "O2", Operation: Product, Inputs: []string{c, half}, Step: "step.oxygen", Quantity: quantity.Quantity{Unit: quantity.MolePerL}})
		return b.finish(Node{Letter: "VS", Operation: Product, Inputs: []string{oxygen, volume}, Step: "step.volume-strength", Quantity: quantity.Quantity{Unit: unit}}), nil
	case MassConcentration, MassFraction:
		grams := Node{ID: p + "mass-concentration", Letter: "ρ", Of: as.Plain(), Operation: Product, Inputs: []string{c, b.molarMass(as)}, Step: "step.mass-concentration", Quantity: quantity.Quantity{Unit: quantity.GramPerL}}
		if a.What == MassConcentration && unit == quantity.GramPerL {
			return b.finish(grams), nil
		}
		g := b.add(grams)
		if a.What == MassConcentration {
			return b.finish(Node{Letter: "ρ", Of: as.Plain(), Operation: Convert, Inputs: []string{g}, Step: "step.convert", Quantity: quantity.Quantity{Unit: unit}}), nil
		}
		if a.Density.Sign() <= 0 {
			return "", fmt.Errorf("%% w/w needs the density of the solution")
		}
		density := b.leaf(Node{ID: "density", Letter: "ρ", Where: "solution", Operation: Given, Source: "density"}, a.Density, quantity.GramPerML)
		perLitre := b.convert("density-per-litre", density, quantity.GramPerL)
		w := b.add(Node{ID: p + "fraction", Letter: "w", Of: as.Plain(), Operation: Quotient, Inputs: []string{g, perLitre}, Step: "step.fraction", Quantity: quantity.Quantity{Unit: quantity.One}})
		return b.finish(Node{Letter: "w", Of: as.Plain(), Operation: Convert, Inputs: []string{w}, Quantity: quantity.Quantity{Unit: unit}}), nil
	}
	return "", fmt.Errorf("%s cannot be asked of a solution", a.What)
}
