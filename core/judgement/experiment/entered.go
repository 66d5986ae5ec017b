package experiment

import (
	"math"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// What was entered or measured and lies far from what the practical says of it; slipped
// where the decimal point in another place makes it fit.
var (
	enteredFar     = finding.Declare("entered.far", "what", "given", "nominal", "percent")
	enteredSlipped = finding.Declare("entered.slipped", "what", "given", "nominal", "meant")
	enteredWhat    = finding.Family("entered.", []string{"known", "mass", "sample", "reagent", "volume", "tablet", "density", "standard", "prepared"})
	enteredBefore  = finding.Declare("entered.before-scale", "reading")
	enteredPast    = finding.Declare("entered.past-scale", "reading", "capacity")
	enteredFine    = finding.Declare("entered.finer", "reading", "step")
	densityFar     = finding.Declare("entered.density-far", "density", "least", "most")
	densitySlipped = finding.Declare("entered.density-slipped", "density", "meant")
)

// entered is a value beside its nominal one.
type entered struct {
	what           string
	subject        string // entry, or trial
	value, nominal decimal.Decimal
	unit           quantity.Unit
}

// shifts are how far a decimal point slips.
var shifts = []int{-3, -2, -1, 1, 2, 3}

// doubt says that a value lies far from its nominal one.
func (e entered) doubt(norms practical.Norms) (finding.Message, bool) {
	value, nominal, within := e.value.Float64(), e.nominal.Float64(), norms.Part(practical.FarNominal)+1e-9
	if nominal <= 0 || value <= 0 || math.Abs(value/nominal-1) <= within {
		return finding.Message{}, false
	}
	what, given, said := finding.Said(enteredWhat[e.what].Message()), finding.Exact(e.value, e.unit), finding.Exact(e.nominal, e.unit)
	for _, shift := range shifts {
		if meant := e.value.Shift(shift); math.Abs(meant.Float64()/nominal-1) <= within {
			return enteredSlipped.Message(what, given, said, finding.Exact(meant, e.unit)), true
		}
	}
	return enteredFar.Message(what, given, said, finding.Number(100*math.Abs(value/nominal-1), 2, quantity.Percent)), true
}

// weighed is the mass that the practical asks for, g; zero where it asks for none.
func weighed(r *practical.Ready) decimal.Decimal {
	if !r.Weighs() {
		return decimal.Decimal{}
	}
	return r.SampleStep().Mass
}

// enteredBy makes it of what an entry says; false where that has no nominal value.
func enteredBy(r *practical.Ready, part journal.Part, subject string) (entered, bool) {
	switch p := part.(type) {
	case journal.Known:
		value, err := journal.ParseNumber(p.Written)
		return entered{"known", subject, value, r.Known().Concentration, quantity.MolePerL}, err == nil
	case journal.Weighing:
		if p.Standard && r.WeighsStandard() {
			return entered{"standard", subject, p.Mass(), r.Made[0].Mass, quantity.Gram}, true
		}
		return entered{"mass", subject, p.Mass(), weighed(r), quantity.Gram}, true
	case journal.Prepared:
		if r.MadeHere() && !r.WeighsStandard() {
			c, _ := p.Concentration()
			nominal, _ := decimal.FromFloat(r.StrengthMade(1))
			return entered{"prepared", subject, c.RoundFigures(p.Figures()), nominal.RoundFigures(r.Made[0].Concentration.Figures()), quantity.MolePerL}, true
		}
	case journal.OwnGlass:
		if steps := r.Volumes(); p.Step > 0 && p.Step <= len(steps) {
			return entered{"volume", subject, p.Piece.Capacity, steps[p.Step-1].Volume, quantity.Millilitre}, true
		}
	case journal.OwnValue:
		for _, m := range r.Measurable() {
			// What a label says, and how warm it is, is no matter of the practical: there is nothing to compare.
			if m.What == p.What && m.Step == p.Step && m.Nominal.Sign() > 0 {
				return entered{string(p.What), subject, p.Value(), m.Nominal, m.Unit}, true
			}
		}
	}
	return entered{}, false
}

// enteredFindings are about what the answer rests on: of the trials that count, and what is
// the same for all.
func enteredFindings(rec recorded, trials []*evaluation.Trial) []finding.Finding {
	var all []entered
	take := func(l *journal.Line) {
		if l != nil {
			if e, ok := enteredBy(rec.r, l.Part, l.Entry.ID); ok {
				all = append(all, e)
			}
		}
	}
	take(rec.c.Known)
	if rec.r.MadeHere() {
		take(rec.c.Standard)
		take(rec.c.Prepared)
	}
	for _, m := range rec.r.Measurable() {
		if l, ok := rec.c.Measured[m.OwnKey]; ok {
			take(&l)
		}
	}
	if rec.r.Weighs() && !rec.r.MassEach() {
		take(rec.c.Weighed)
	}
	for _, t := range trials {
		if rec.r.MassEach() {
			take(t.Weighed)
		}
		if t.Sample != nil && rec.r.SampleBurette() {
			all = append(all, entered{"sample", t.ID, *t.Sample, rec.r.SampleStep().Volume, quantity.Millilitre})
		}
		if i := rec.r.Excess(); t.Reagent != nil && i >= 0 && rec.r.ReagentBurette() {
			all = append(all, entered{"reagent", t.ID, *t.Reagent, rec.r.Steps[i].Volume, quantity.Millilitre})
		}
	}
	var out []finding.Finding
	for _, e := range all {
		if m, far := e.doubt(rec.r.Norms()); far {
			out = append(out, finding.Finding{Severity: finding.Check, Subject: e.subject, Message: m})
		}
	}
	return out
}

// ownValues are what may be measured, and what was.
func ownValues(rec recorded) []evaluation.OwnMeasured {
	out := []evaluation.OwnMeasured{}
	for _, m := range rec.r.Measurable() {
		o := evaluation.OwnMeasured{What: m.What, Step: m.Step, Nominal: m.Nominal, Unit: m.Unit}
		if at, ok := rec.assay.Held().Own[m.OwnKey]; ok {
			o.Entry, o.Written = at.Entry, at.Text
		}
		out = append(out, o)
	}
	return out
}

// Densities that aqueous solutions and usual liquids have, g/mL: from light alcohols to
// concentrated sulfuric acid. Source: general chemistry.
var leastDensity, mostDensity = decimal.Must("0.6"), decimal.Must("2.0")

// densityDoubt says that a density is none of a solution: g/L written for g/mL.
func densityDoubt(d decimal.Decimal) (finding.Message, bool) {
	believed := func(d decimal.Decimal) bool { return d.Cmp(leastDensity) >= 0 && d.Cmp(mostDensity) <= 0 }
	if d.Sign() <= 0 || believed(d) {
		return finding.Message{}, false
	}
	density := finding.Exact(d, quantity.One)
	for _, shift := range shifts {
		if meant := d.Shift(shift); believed(meant) {
			return densitySlipped.Message(density, finding.Exact(meant, quantity.One)), true
		}
	}
	return densityFar.Message(density, finding.Exact(leastDensity, quantity.One), finding.Exact(mostDensity, quantity.One)), true
}

// readingDoubt asks about a reading that lies off the scale, or has more decimals than are read.
func readingDoubt(r *practical.Ready, s journal.Scale) (finding.Message, bool) {
	v, err := journal.ParseNumber(s.Written)
	if err != nil {
		return finding.Message{}, false
	}
	text, step := finding.Text(s.Written), stepOf(r)
	switch beside(r, v) {
	case before:
		return enteredBefore.Message(text), true
	case past:
		return enteredPast.Message(text, mL(r.Glass.Burette.Capacity)), true
	case finer:
		return enteredFine.Message(text, mL(step)), v.Places() > step.Places()
	}
	return finding.Message{}, false
}

// Doubt is what a person is asked before an entry is written: what it says lies far from
// what the practical says of it.
func Doubt(r *practical.Ready, part journal.Part) (finding.Message, bool) {
	if s, ok := part.(journal.Scale); ok {
		return readingDoubt(r, s)
	}
	e, ok := enteredBy(r, part, "")
	if !ok {
		return finding.Message{}, false
	}
	return e.doubt(r.Norms())
}
