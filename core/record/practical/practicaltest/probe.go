package practicaltest

import (
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
)

// Probes are practicals that are followed with a probe: a weak acid by the slope; carbonate
// downward in fixed steps, to carbonic acid; iron(II) with cerium(IV) in mV; a weak acid with
// a probe that shows mV.
func Probes() map[string]practical.Practical {
	d := decimal.Must
	base := func(equation, titrant, analyte string, c, about string, p practical.Probe) practical.Practical {
		out := Plain()
		out.Chemistry = practical.Chemistry{Equation: equation, Indicator: "ph-meter",
			Titrant: practical.Solution{Name: "t", Formula: titrant, Concentration: d(c)},
			Analyte: practical.Solution{Name: "a", Formula: analyte, Approximate: d(about)}}
		out.Rules.Readings.NoRough = true
		out.Probe = p
		return out
	}
	pH := practical.Probe{Shows: journal.ShownPH, Flask: d("75")}
	fixed := pH
	fixed.Way = practical.InSteps
	mV := practical.Probe{Shows: journal.ShownMV, Flask: d("75"), Electrode: d("197")}
	inMV := pH
	inMV.Shows, inMV.Buffers = journal.ShownMV, []decimal.Decimal{d("4.01"), d("7.00"), d("10.01")}
	return map[string]practical.Practical{
		"weak acid": base("HCOOH + NaOH -> HCOONa + H2O", "NaOH", "HCOOH", "0.1012", "0.085", pH),
		"carbonate": base("2 HCl + Na2CO3 -> 2 NaCl + H2O + CO2", "HCl", "Na2CO3", "0.1005", "0.045", fixed),
		"redox":     base("Ce^4+ + Fe^2+ -> Ce^3+ + Fe^3+", "Ce^4+", "Fe^2+", "0.1000", "0.080", mV),
		"in mV":     base("HCOOH + NaOH -> HCOONa + H2O", "NaOH", "HCOOH", "0.1012", "0.085", inMV),
	}
}
