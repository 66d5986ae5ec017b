package practical

import "exactflask/core/values/quantity"

// What is asked of a titration.
type What string

// The answers that can be asked for. Concentration is of what was measured
// first on the route: the solution that was pipetted or, with the unknown in
// the burette, the titrant.
const (
	Concentration     What = "concentration"      // mol/L
	MassConcentration What = "mass-concentration" // g/L, % w/v, mg per 100 mL, mg/L, ppm
	MassFraction      What = "mass-fraction"      // % w/w of a solution, by its density
	AmountInSample    What = "amount"             // mol
	MassInSample      What = "mass"               // g, mg
	MassPerTablet     What = "mass-per-tablet"    // mg, g
	PurityOf          What = "purity"             // % of the mass that was weighed
	Water             What = "water"              // x in a hydrate
	MolarMass         What = "molar-mass"         // of an unknown acid, g/mol
	Protons           What = "protons"            // how many react
	VolumeStrength    What = "volume-strength"    // of hydrogen peroxide
	Factor            What = "factor"             // concentration by the nominal one
)

// Answers are all that can be asked for.
var Answers = []What{Concentration, MassConcentration, MassFraction, AmountInSample, MassInSample, MassPerTablet,
	PurityOf, Water, MolarMass, Protons, VolumeStrength, Factor}

// askUnits are the units that each answer can be given in; the first is the
// usual one.
var askUnits = map[What][]quantity.Unit{
	Concentration:     {quantity.MolePerL, quantity.MillimolePerL},
	MassConcentration: {quantity.GramPerL, quantity.MilligramPerL, quantity.PPM, quantity.PercentWV, quantity.MgPer100},
	MassFraction:      {quantity.PercentWW},
	AmountInSample:    {quantity.Mole, quantity.Millimole},
	MassInSample:      {quantity.Gram, quantity.Milligram},
	MassPerTablet:     {quantity.Milligram, quantity.Gram},
	PurityOf:          {quantity.Percent},
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

// ofVolume tells whether the answer is about a volume of sample, ofMass
// whether it is about a mass.
func (w What) ofVolume() bool {
	switch w {
	case Concentration, MassConcentration, MassFraction, VolumeStrength, Factor:
		return true
	}
	return false
}

func (w What) ofMass() bool {
	switch w {
	case PurityOf, Water, MolarMass, Protons:
		return true
	}
	return false
}
