//go:build !js

// The page does without this: practicals are written with the server.

package practical

import (
	"exactflask/core/chemistry/glass"
	"exactflask/core/values/decimal"
)

// UsualStrength is that of both solutions where nothing is said yet, mol/L. Source: common
// practice, no source.
var UsualStrength = decimal.Must("0.100")

// Fresh is what a practical of one's own begins with: a strong acid in the flask and a strong
// base in the burette, 25 mL of class B in a burette of 50 mL, two titres within 0.10 mL, and
// every result shown. It has no name and no title yet.
func Fresh() Practical {
	return Practical{
		Revision: 1,
		Chemistry: Chemistry{Equation: "HCl + NaOH -> NaCl + H2O",
			Titrant:   Solution{Name: "sodium hydroxide", Formula: "NaOH", Concentration: UsualStrength},
			Analyte:   Solution{Name: "hydrochloric acid", Formula: "HCl", Approximate: UsualStrength},
			Indicator: "phenolphthalein"},
		Route:   []RouteStep{{Kind: Pipette, Volume: decimal.Must("25.00"), Class: glass.ClassB}},
		Glass:   Glass{Burette: glass.Burette{Capacity: decimal.Must("50.00"), Division: decimal.Must("0.1"), Class: glass.ClassB}},
		Rules:   Rules{Readings: ReadingRule{Resolution: glass.HalfDivision}, Agreement: AgreementRule{Tolerance: decimal.Must("0.10"), Need: 2}},
		Showing: Showing{Results: Always},
	}
}
