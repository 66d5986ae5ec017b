package practical

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
	"exactflask/core/chemistry/glass"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

func (r *Ready) checkGlass() *finding.Fault {
	g := &r.Glass
	if f := g.Burette.Check(); f != nil {
		return f.In("glass.burette")
	}
	if g.Burette.Rising && (r.SampleBurette() || r.ReagentBurette()) {
		return risingAlone.Fault("glass.burette.rising")
	}
	if g.Supply.Titrant.Sign() < 0 || g.Supply.Analyte.Sign() < 0 || g.Balance.Sign() < 0 {
		return negative.Fault("glass.supply")
	}
	if g.Balance.IsZero() {
		g.Balance = decimal.Must("0.001")
	}
	if portion, ok := r.Aliquot(); ok && portion.Volume.Cmp(decimal.Whole(200)) > 0 {
		return routeRange.Fault(fmt.Sprintf("route[%d].volume", len(r.Steps)-1))
	}
	return nil
}

func (r *Ready) checkRules() *finding.Fault {
	rules, reading := &r.Rules, &r.Rules.Readings
	if f := choice("rules.readings.resolution", &reading.Resolution, glass.HalfDivision, glass.TenthDivision,
		glass.WholeDivision); f != nil {
		return f
	}
	if reading.FreeFlow.Sign() < 0 || reading.Dropwise.Sign() < 0 {
		return negative.Fault("rules.readings.freeFlow")
	}
	if reading.Hold < 0 || reading.Hold > 300 {
		return badHold.Fault("rules.readings.hold", finding.Count(reading.Hold))
	}
	if reading.FreeFlow.IsZero() {
		reading.FreeFlow = decimal.Must("2.00")
	}
	if reading.Dropwise.IsZero() {
		reading.Dropwise = decimal.Must("1.00")
	}
	if reading.Hold == 0 {
		reading.Hold = 30
	}
	if f := rules.Norms.Check("rules.norms"); f != nil {
		return f
	}
	if f := rules.School.Check("rules.school"); f != nil {
		return f
	}
	r.norms = rules.Norms.Over(rules.School)
	if f := r.norms.Check("rules.norms"); f != nil { // together they may contradict
		return f
	}
	if f := choice("rules.atomicWeights", &rules.AtomicWeights, chem.AllWeights...); f != nil {
		return f
	}
	if rules.Figures < 0 || rules.Figures > 8 {
		return badFigures.Fault("rules.figures", finding.Count(rules.Figures))
	}
	if f := r.checkAgreement(); f != nil {
		return f
	}
	return r.checkShowing()
}

// checkAgreement checks when titres agree, and fills in what is left out.
func (r *Ready) checkAgreement() *finding.Fault {
	a := &r.Rules.Agreement
	if f := choice("rules.agreement.kind", &a.Kind, Spread, Relative); f != nil {
		return f
	}
	if f := choice("rules.agreement.average", &a.Average, AverageLargest, AverageAll, AverageClosest); f != nil {
		return f
	}
	switch {
	case a.Kind == Relative && (a.Percent.Sign() < 0 || a.Percent.Cmp(decimal.Whole(50)) > 0):
		return badPercent.Fault("rules.agreement.percent")
	case a.Kind == Spread && r.Each():
		return wantsRelative.Fault("rules.agreement.kind")
	case a.Tolerance.Sign() < 0, a.Kind == Spread && a.Tolerance.Sign() <= 0:
		return badTolerance.Fault("rules.agreement.tolerance")
	case a.Need < 1 || a.Need > 3:
		return badNeed.Fault("rules.agreement.need", finding.Count(a.Need))
	}
	a.Percent = a.PercentOr2()
	return nil
}

// checkShowing checks what is shown when and how, and fills in what is left out.
func (r *Ready) checkShowing() *finding.Fault {
	s := &r.Showing
	if s.Results == "" {
		return badChoice.Fault("showing.results", finding.Text(""),
			finding.List(finding.Text(string(Always)), finding.Text(string(AfterAttempt)), finding.Text(string(AfterMarking))))
	}
	if f := choice("showing.results", &s.Results, Always, AfterAttempt, AfterMarking); f != nil {
		return f
	}
	if s.Tries == 0 {
		s.Tries = 5
	}
	if s.Tries < 0 || s.Tries > 50 {
		return badTries.Fault("showing.tries", finding.Count(s.Tries))
	}
	if f := choice("showing.working", &s.Working, BySteps, ByFactors, ByFormula); f != nil {
		return f
	}
	if f := choice("showing.style.words", &s.Style.Words, WordsTitre, WordsTiter); f != nil {
		return f
	}
	return choice("showing.style.units", &s.Style.Units, UnitsML, UnitsCM3)
}

// checkAsked finds an answer that cannot be asked for, and a label in a unit
// that says something else.
func (r *Ready) checkAsked() *finding.Fault {
	a := &r.Asked
	if f := choice("asked.what", &a.What, Answers...); f != nil {
		return f
	}
	units := a.What.Units()
	if a.Unit == "" {
		a.Unit = units[0]
	}
	if !slices.Contains(units, a.Unit) {
		list := make([]finding.Value, len(units))
		for i, u := range units {
			list[i] = finding.Text(string(u))
		}
		return wrongUnit.Fault("asked.unit", finding.Text(string(a.Unit)), finding.List(list...))
	}
	head := r.SampleStep()
	switch {
	case r.MadeOnly() && a.What != Concentration && a.What != MassConcentration:
		return ofStrengthOnly.Fault("asked.what")
	case r.UnknownInBurette && !a.What.ofVolume():
		return ofTitrantOnly.Fault("asked.what")
	case r.weighedLiquid() && a.Density.Sign() <= 0:
		return needsVolume.Fault("asked.what")
	case a.What.ofMass() && !r.Weighs():
		return needsMass.Fault("asked.what")
	case a.What == MassPerTablet && head.Kind != Tablets:
		return needsTablets.Fault("asked.what")
	case a.What == MassFraction && a.Density.Sign() <= 0:
		return needsDensity.Fault("asked.density")
	case a.What == Factor && a.Nominal.Sign() <= 0:
		return needsNominal.Fault("asked.nominal")
	}
	if f := r.checkAs(); f != nil {
		return f
	}
	if a.What == Protons {
		reagent := r.Titrant
		if i := r.Excess(); i >= 0 {
			reagent = r.Steps[i].Reaction.From
		} else if n := len(r.Reactions); n > 1 {
			reagent = r.Reactions[n-1].From
		}
		if r.ReagentProtons = catalog.BuiltIn().ProtonsOf(reagent); r.ReagentProtons < 1 {
			return protonsUnknown.Fault("asked.what", finding.Formula(reagent.Plain()))
		}
	}
	if a.Label.Value.IsZero() {
		return nil
	}
	switch u := a.Label.Unit; {
	case u == quantity.Percent && a.Unit != quantity.Percent:
		return labelPercent.Fault("asked.label.unit")
	case !u.SameDimension(a.Unit):
		return labelUnit.Fault("asked.label.unit", finding.Text(string(u)), finding.Text(string(a.Unit)))
	}
	return nil
}

// checkAs relates the substance in whose mass the answer is given to the one
// that is asked for: by the ratio that is given, else by the electrons or protons that both
// exchange, else by the atoms they share.
func (r *Ready) checkAs() *finding.Fault {
	r.As, r.AsRatio = r.AskedOf(), [2]int{1, 1}
	if r.Asked.As == "" {
		return nil
	}
	var f *finding.Fault
	if r.As, f = formulaAt("asked.as", r.Asked.As); f != nil {
		return f
	}
	if r.Asked.What == Water || r.Asked.What == Protons { // the substance itself
		return nil
	}
	if text := r.Asked.AsRatio; text != "" {
		top, bottom, _ := strings.Cut(text, "/")
		n, err := strconv.Atoi(top)
		d := 1
		if err == nil && bottom != "" {
			d, err = strconv.Atoi(bottom)
		}
		if err != nil || n < 1 || d < 1 || n > 1000 || d > 1000 {
			return ratioUnclear.Fault("asked.asRatio", finding.Formula(r.As.Plain()), finding.Formula(r.AskedOf().Plain()))
		}
		r.AsRatio, r.AsBy = [2]int{n, d}, AsGiven
		return nil
	}
	if r.As.Same(r.AskedOf()) {
		return nil
	}
	if ratio, ok := r.byEquivalents(); ok {
		r.AsRatio, r.AsBy = ratio, AsByEquivalents
		return nil
	}
	n, d, ok := r.AskedOf().AtomRatio(r.As)
	if !ok {
		return ratioUnclear.Fault("asked.as", finding.Formula(r.As.Plain()), finding.Formula(r.AskedOf().Plain()))
	}
	r.AsRatio, r.AsBy = [2]int{n, d}, AsByAtoms
	return nil
}

// checkKind finds the kind of titration, or a contradiction to the one given.
func (r *Ready) checkKind() *finding.Fault {
	follows := r.follows()
	if r.Kind == "" {
		r.Kind = follows
	}
	// With the unknown in the burette it may be called either.
	either := follows == Standardisation && r.Kind == Direct
	if r.Kind != follows && !either {
		if f := choice("kind", &r.Kind, Direct, Indirect, Back, Standardisation, TwoEndPoints, SolutionMade); f != nil {
			return f
		}
		return kindContradict.Fault("kind", finding.Text(string(r.Kind)), finding.Text(string(follows)))
	}
	return nil
}

// follows is the kind that the content says.
func (r *Ready) follows() Kind {
	switch {
	case r.OnlySolution():
		return SolutionMade
	case r.Chemistry.EndPoints != OneEndPoint:
		return TwoEndPoints
	case r.Excess() >= 0:
		return Back
	case len(r.Chemistry.Via) > 0:
		return Indirect
	case r.UnknownInBurette:
		return Standardisation
	}
	return Direct
}
