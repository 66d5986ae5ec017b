package practical

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"exactflask/core/agreement"
	"exactflask/core/catalog"
	"exactflask/core/chem"
	"exactflask/core/decimal"
	"exactflask/core/finding"
	"exactflask/core/glass"
	"exactflask/core/quantity"
)

// What keeps a practical from being used.
var (
	needsTitle     = finding.Declare("practical.needs-title")
	badID          = finding.Declare("practical.id")
	badRevision    = finding.Declare("practical.revision", "revision")
	badText        = finding.Declare("practical.text")
	badChoice      = finding.Declare("practical.choice", "given", "choices")
	kindContradict = finding.Declare("practical.kind", "given", "follows")
	notInEquation  = finding.Declare("practical.not-in-equation", "formula", "equation")
	leadsElsewhere = finding.Declare("practical.leads-elsewhere", "from", "to", "analyte")
	needsKnown     = finding.Declare("practical.needs-known")
	bothKnown      = finding.Declare("practical.both-known")
	negative       = finding.Declare("practical.negative")
	noIndicator    = finding.Declare("practical.indicator", "given")
	badHold        = finding.Declare("practical.hold", "seconds")
	badPercent     = finding.Declare("practical.percent")
	badTolerance   = finding.Declare("practical.tolerance")
	badNeed        = finding.Declare("practical.need", "given")
	badFigures     = finding.Declare("practical.figures", "given")
	wantsRelative  = finding.Declare("practical.wants-relative")
	routeEmpty     = finding.Declare("route.empty")
	routeRange     = finding.Declare("route.range")
	routeHead      = finding.Declare("route.head")
	routeFirst     = finding.Declare("route.first")
	routePortion   = finding.Declare("route.portion")
	routeTooMuch   = finding.Declare("route.too-much", "portion", "whole")
	routeCount     = finding.Declare("route.count")
	routeVolume    = finding.Declare("route.volume")
	routeBurette   = finding.Declare("route.by-burette")
	routeEach      = finding.Declare("route.each-trial")
	excessPlace    = finding.Declare("excess.unknown-in-burette")
	excessTwice    = finding.Declare("excess.twice")
	excessOther    = finding.Declare("excess.other-reagent", "leads", "given")
	excessStrength = finding.Declare("excess.concentration")
	saltUnrelated  = finding.Declare("route.salt", "salt", "analyte")
	ratioUnclear   = finding.Declare("asked.ratio", "as", "analyte")
	wrongUnit      = finding.Declare("asked.unit", "given", "units")
	needsDensity   = finding.Declare("asked.density")
	needsNominal   = finding.Declare("asked.nominal")
	needsVolume    = finding.Declare("asked.needs-volume")
	needsMass      = finding.Declare("asked.needs-mass")
	needsTablets   = finding.Declare("asked.needs-tablets")
	protonsUnknown = finding.Declare("asked.protons", "reagent")
	ofTitrantOnly  = finding.Declare("asked.of-titrant")
	labelPercent   = finding.Declare("label.percent")
	labelUnit      = finding.Declare("label.unit", "label", "answer")
)

// Reaction relates the amounts of two substances by a balanced equation:
// n(To) = n(From) · ν(To)/ν(From).
type Reaction struct {
	Equation chem.Equation
	From, To chem.Formula
	NuFrom   int
	NuTo     int
}

// ReadyStep is a step of the route, parsed.
type ReadyStep struct {
	Step
	// Reaction is that of a reagent in excess, from the reagent to the analyte.
	Reaction Reaction
	// Salt is what is weighed, and SaltRatio how many moles of the analyte one
	// of it gives.
	Salt      chem.Formula
	SaltRatio [2]int
}

// Ready is a practical that passed Check: parsed once, every default explicit.
// It is never changed and may be used by many goroutines.
type Ready struct {
	Practical
	Equation  chem.Equation
	Titrant   chem.Formula
	Analyte   chem.Formula
	Titrated  chem.Formula // what the titrant reacts with
	Other     chem.Formula // the component beside the carbonate
	As        chem.Formula // in whose mass the answer is given
	AsRatio   [2]int       // how many moles of As one mole of the asked substance stands for
	Reactions []Reaction   // from the titrant to the analyte, or to the reagent in excess
	Steps     []ReadyStep
	Indicator catalog.Indicator
	// ReagentProtons is how many protons one unit of what reacts with the
	// analyte gives or takes, where the number of protons is asked for.
	ReagentProtons int
	// UnknownInBurette tells which of the two solutions is asked for.
	UnknownInBurette bool
}

// Unknown and Known are the two solutions by what is known of them.
func (r *Ready) Unknown() Solution {
	if r.UnknownInBurette {
		return r.Chemistry.Titrant
	}
	return r.Chemistry.Analyte
}

// Known is the solution of known concentration, or the weighed standard.
func (r *Ready) Known() Solution {
	if r.UnknownInBurette {
		return r.Chemistry.Analyte
	}
	return r.Chemistry.Titrant
}

// AskedOf is the formula of the substance that is asked for.
func (r *Ready) AskedOf() chem.Formula {
	if r.UnknownInBurette {
		return r.Titrant
	}
	return r.Analyte
}

// Excess is the step at which a reagent is added in excess; -1 for none.
func (r *Ready) Excess() int {
	return slices.IndexFunc(r.Steps, func(s ReadyStep) bool { return s.Kind == Excess })
}

// SampleBurette tells whether each sample is run from a burette of its own.
func (r *Ready) SampleBurette() bool { return r.Steps[0].By == ByBurette && r.Steps[0].Kind == Pipette }

// ReagentBurette tells whether the reagent in excess is.
func (r *Ready) ReagentBurette() bool {
	i := r.Excess()
	return i >= 0 && r.Steps[i].By == ByBurette
}

// MassEach tells whether every trial has its own weighing.
func (r *Ready) MassEach() bool { return r.Steps[0].EachTrial }

// Weighs tells whether the sample is weighed at all.
func (r *Ready) Weighs() bool { return r.Steps[0].Kind == Weigh || r.Steps[0].Kind == Tablets }

// Each tells whether every trial is worked out by itself, since its sample, or
// its reagent in excess, is its own.
func (r *Ready) Each() bool { return r.MassEach() || r.SampleBurette() || r.ReagentBurette() }

// Portion is the step that measures what goes into each flask; false where all
// of the route does.
func (r *Ready) Portion() (ReadyStep, bool) {
	last := r.Steps[len(r.Steps)-1]
	return last, last.Kind == Portion || last.Kind == Pipette
}

// ByBlank tells whether the blank trials say how much reagent was added.
func (r *Ready) ByBlank() bool {
	i := r.Excess()
	return i >= 0 && r.Steps[i].ByBlank
}

// Check parses a practical and makes every default explicit, or returns the
// first fault with its path.
func (p Practical) Check() (*Ready, *finding.Fault) {
	r := &Ready{Practical: p}
	for _, check := range []func() *finding.Fault{r.checkNames, r.checkChemistry, r.checkRoute, r.checkChain, r.checkKnown,
		r.checkGlass, r.checkRules, r.checkAsked, r.checkKind} {
		if f := check(); f != nil {
			return nil, f
		}
	}
	return r, nil
}

func (r *Ready) checkNames() *finding.Fault {
	if r.ID == "" || strings.TrimSpace(r.Title) == "" {
		return needsTitle.Fault("title")
	}
	if len(r.ID) > 64 || strings.IndexFunc(r.ID, func(c rune) bool {
		return !(c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || c == '-' || c == '_')
	}) >= 0 {
		return badID.Fault("id")
	}
	if r.Revision < 1 {
		return badRevision.Fault("revision", finding.Count(r.Revision))
	}
	for _, t := range [...]struct{ path, text string }{{"title", r.Title}, {"purpose", r.Purpose},
		{"chemistry.titrant.name", r.Chemistry.Titrant.Name}, {"chemistry.analyte.name", r.Chemistry.Analyte.Name}} {
		if !utf8.ValidString(t.text) || len(t.text) > 4000 {
			return badText.Fault(t.path)
		}
	}
	return nil
}

// choice checks a value that has fixed ones; an empty one becomes the first.
func choice[T ~string](path string, value *T, choices ...T) *finding.Fault {
	if *value == "" {
		*value = choices[0]
	}
	if slices.Contains(choices, *value) {
		return nil
	}
	list := make([]finding.Value, 0, len(choices))
	for _, c := range choices {
		if c != "" {
			list = append(list, finding.Text(string(c)))
		}
	}
	return badChoice.Fault(path, finding.Text(string(*value)), finding.List(list...))
}

func formulaAt(path, text string) (chem.Formula, *finding.Fault) {
	f, err := chem.ParseFormula(text)
	if err != nil {
		return f, finding.FaultOf(path, err)
	}
	return f, nil
}

// balancedAt reads an equation and balances it where it is not.
func balancedAt(path, text string) (chem.Equation, *finding.Fault) {
	eq, err := chem.ParseEquation(text)
	if err == nil && !eq.Balanced() {
		eq, err = eq.Balance()
	}
	if err != nil {
		return eq, finding.FaultOf(path, err)
	}
	return eq, nil
}

// reactionAt relates two substances of an equation; each has a path of its own
// for the fault that it does not stand there.
func reactionAt(eq chem.Equation, from chem.Formula, fromPath string, to chem.Formula, toPath string) (Reaction, *finding.Fault) {
	out := Reaction{Equation: eq, From: from, To: to}
	var ok bool
	if out.NuFrom, ok = eq.Coefficient(from); !ok {
		return out, notInEquation.Fault(fromPath, finding.Formula(from.Plain()), finding.Formula(eq.Plain()))
	}
	if out.NuTo, ok = eq.Coefficient(to); !ok {
		return out, notInEquation.Fault(toPath, finding.Formula(to.Plain()), finding.Formula(eq.Plain()))
	}
	return out, nil
}

func (r *Ready) checkChemistry() *finding.Fault {
	c := &r.Chemistry
	var f *finding.Fault
	if r.Equation, f = balancedAt("chemistry.equation", c.Equation); f != nil {
		return f
	}
	if r.Titrant, f = formulaAt("chemistry.titrant.formula", c.Titrant.Formula); f != nil {
		return f
	}
	if r.Analyte, f = formulaAt("chemistry.analyte.formula", c.Analyte.Formula); f != nil {
		return f
	}
	at := "chemistry.titrated"
	if c.Titrated == "" {
		r.Titrated, at = r.Analyte, "chemistry.analyte.formula"
	} else if r.Titrated, f = formulaAt(at, c.Titrated); f != nil {
		return f
	}
	first, f := reactionAt(r.Equation, r.Titrant, "chemistry.titrant.formula", r.Titrated, at)
	if f != nil {
		return f
	}
	r.Reactions = []Reaction{first}
	from := r.Titrated
	for i, v := range c.Via {
		path := fmt.Sprintf("chemistry.via[%d].", i)
		eq, f := balancedAt(path+"equation", v.Equation)
		if f != nil {
			return f
		}
		to, f := formulaAt(path+"to", v.To)
		if f != nil {
			return f
		}
		next, f := reactionAt(eq, from, path+"equation", to, path+"to")
		if f != nil {
			return f
		}
		r.Reactions, from = append(r.Reactions, next), to
	}
	var known bool
	if r.Indicator, known = catalog.BuiltIn().Indicator(c.Indicator); !known {
		return noIndicator.Fault("chemistry.indicator", finding.Text(c.Indicator))
	}
	r.UnknownInBurette = c.Titrant.Concentration.IsZero()
	if f := choice("chemistry.endPoints", &c.EndPoints, OneEndPoint, HydroxideCarbonate, CarbonateHydrogencarbonate); f != nil {
		return f
	}
	if c.EndPoints != OneEndPoint {
		if r.Other, f = formulaAt("chemistry.other", c.Other); f != nil {
			return f
		}
	}
	return nil
}

var (
	maxVolume = decimal.Whole(100_000) // mL
	maxMass   = decimal.Whole(10_000)  // g
	maxKnown  = decimal.Whole(20)      // mol/L
)

// checkRoute parses the route and finds one that cannot be: this is the only
// place that says what a route may look like.
func (r *Ready) checkRoute() *finding.Fault {
	if len(r.Route) == 0 {
		return routeEmpty.Fault("route")
	}
	r.Route = slices.Clone(r.Route)
	for i := range r.Route {
		s := &r.Route[i]
		path := fmt.Sprintf("route[%d]", i)
		if f := choice(path+".kind", &s.Kind, Weigh, Tablets, Pipette, MakeUp, Portion, Excess); f != nil {
			return f
		}
		by := ByPipette
		if s.Kind == MakeUp {
			by = ByFlask
		}
		if s.By == "" && s.Measures() {
			s.By = by
		}
		if s.Measures() {
			if f := choice(path+".by", &s.By, ByPipette, ByFlask, ByCylinder, ByBurette); f != nil {
				return f
			}
			if s.Class == "" {
				s.Class = glass.ClassB
			}
			if s.Class != glass.ClassA && s.Class != glass.ClassB {
				return badChoice.Fault(path+".class", finding.Text(string(s.Class)), finding.List(finding.Text("A"), finding.Text("B")))
			}
		}
		if s.Volume.Sign() < 0 || s.Volume.Cmp(maxVolume) > 0 || s.Mass.Sign() < 0 || s.Mass.Cmp(maxMass) > 0 || s.Count < 0 || s.Count > 1000 {
			return routeRange.Fault(path)
		}
		switch {
		case s.Head() && i != 0:
			return routeHead.Fault(path)
		case !s.Head() && i == 0:
			return routeFirst.Fault(path)
		case s.Kind == Portion && r.Route[i-1].Kind != MakeUp:
			return routePortion.Fault(path)
		case s.Kind == Portion && s.Volume.Cmp(r.Route[i-1].Volume) > 0:
			return routeTooMuch.Fault(path, finding.Exact(s.Volume, quantity.Millilitre), finding.Exact(r.Route[i-1].Volume, quantity.Millilitre))
		case s.Kind == Tablets && s.Count < 1:
			return routeCount.Fault(path + ".count")
		case s.Measures() && s.Volume.Sign() <= 0 && !s.ByBlank:
			return routeVolume.Fault(path + ".volume")
		case s.By == ByBurette && (s.Kind == MakeUp || s.Kind == Portion):
			return routeBurette.Fault(path + ".by")
		case s.EachTrial && s.Kind != Weigh:
			return routeEach.Fault(path + ".eachTrial")
		}
		step := ReadyStep{Step: *s, Salt: r.Analyte, SaltRatio: [2]int{1, 1}}
		var f *finding.Fault
		switch {
		case s.Kind == Excess:
			f = r.checkExcess(path, &step)
		case (s.Kind == Weigh || s.Kind == Tablets) && s.Formula != "":
			f = r.checkSalt(path, &step)
		}
		if f != nil {
			return f
		}
		r.Steps = append(r.Steps, step)
	}
	return nil
}

func (r *Ready) checkExcess(path string, s *ReadyStep) *finding.Fault {
	if r.UnknownInBurette {
		return excessPlace.Fault(path)
	}
	if r.Excess() >= 0 {
		return excessTwice.Fault(path)
	}
	eq, f := balancedAt(path+".equation", s.Equation)
	if f != nil {
		return f
	}
	reagent, f := formulaAt(path+".formula", s.Formula)
	if f != nil {
		return f
	}
	if end := r.Reactions[len(r.Reactions)-1].To; !reagent.Same(end) {
		return excessOther.Fault(path+".formula", finding.Formula(end.Plain()), finding.Formula(reagent.Plain()))
	}
	if !s.ByBlank && s.Concentration.Sign() <= 0 {
		return excessStrength.Fault(path + ".concentration")
	}
	s.Reaction, f = reactionAt(eq, reagent, path+".equation", r.Analyte, path+".equation")
	return f
}

// checkSalt relates what is weighed to the analyte by the atoms they share.
func (r *Ready) checkSalt(path string, s *ReadyStep) *finding.Fault {
	var f *finding.Fault
	if s.Salt, f = formulaAt(path+".formula", s.Formula); f != nil {
		return f
	}
	n, d, ok := s.Salt.AtomRatio(r.Analyte)
	if !ok {
		return saltUnrelated.Fault(path+".formula", finding.Formula(s.Salt.Plain()), finding.Formula(r.Analyte.Plain()))
	}
	s.SaltRatio = [2]int{n, d}
	return nil
}

// checkChain sees that the reactions lead from the titrant to the analyte.
func (r *Ready) checkChain() *finding.Fault {
	end := r.Reactions[len(r.Reactions)-1].To
	if i := r.Excess(); i >= 0 {
		end = r.Steps[i].Reaction.To
	}
	if !end.Same(r.Analyte) {
		return leadsElsewhere.Fault("chemistry.analyte.formula", finding.Formula(r.Titrant.Plain()), finding.Formula(end.Plain()), finding.Formula(r.Analyte.Plain()))
	}
	return nil
}

func (r *Ready) checkKnown() *finding.Fault {
	known, unknown, knownAt, unknownAt := r.Known(), r.Unknown(), "chemistry.titrant", "chemistry.analyte"
	if r.UnknownInBurette {
		knownAt, unknownAt = unknownAt, knownAt
	}
	weighed := r.UnknownInBurette && r.Weighs() // known by its mass
	if !weighed && (known.Concentration.Sign() <= 0 || known.Concentration.Cmp(maxKnown) > 0) {
		return needsKnown.Fault(knownAt + ".concentration")
	}
	if !unknown.Concentration.IsZero() {
		return bothKnown.Fault(unknownAt + ".concentration")
	}
	for _, v := range [...]struct {
		path  string
		value decimal.Decimal
	}{{unknownAt + ".approximate", unknown.Approximate}, {knownAt + ".uncertainty", known.Uncertainty}, {knownAt + ".purity", known.Purity},
		{knownAt + ".puritySpread", known.PuritySpread}, {"asked.reference", r.Asked.Reference}, {"asked.expected", r.Asked.Expected},
		{"asked.expectedSecond", r.Asked.Second}, {"asked.expectedTitre", r.Asked.Titre}, {"asked.density", r.Asked.Density}, {"asked.nominal", r.Asked.Nominal}} {
		if v.value.Sign() < 0 {
			return negative.Fault(v.path)
		}
	}
	return nil
}

func (r *Ready) checkGlass() *finding.Fault {
	g := &r.Glass
	if f := g.Burette.Check(); f != nil {
		return f.In("glass.burette")
	}
	if g.Supply.Titrant.Sign() < 0 || g.Supply.Analyte.Sign() < 0 || g.Balance.Sign() < 0 {
		return negative.Fault("glass.supply")
	}
	if g.Balance.IsZero() {
		g.Balance = decimal.Must("0.001")
	}
	if portion, ok := r.Portion(); ok && portion.Volume.Cmp(decimal.Whole(200)) > 0 {
		return routeRange.Fault(fmt.Sprintf("route[%d].volume", len(r.Steps)-1))
	}
	return nil
}

func (r *Ready) checkRules() *finding.Fault {
	rules, reading := &r.Rules, &r.Rules.Readings
	if f := choice("rules.readings.resolution", &reading.Resolution, glass.HalfDivision, glass.TenthDivision, glass.WholeDivision); f != nil {
		return f
	}
	if reading.FreeFlow.Sign() < 0 || reading.Dropwise.Sign() < 0 {
		return negative.Fault("rules.readings.freeFlow")
	}
	if reading.Hold < 0 || reading.Hold > 300 {
		return badHold.Fault("rules.readings.hold", finding.Count(reading.Hold))
	}
	a := &rules.Agreement
	if f := choice("rules.agreement.kind", &a.Kind, agreement.Spread, agreement.Relative); f != nil {
		return f
	}
	if f := choice("rules.agreement.average", &a.Average, agreement.Largest, agreement.All, agreement.Closest); f != nil {
		return f
	}
	switch {
	case a.Kind == agreement.Relative && (a.Percent.Sign() < 0 || a.Percent.Cmp(decimal.Whole(50)) > 0):
		return badPercent.Fault("rules.agreement.percent")
	case a.Kind == agreement.Spread && r.Each():
		return wantsRelative.Fault("rules.agreement.kind")
	case a.Tolerance.Sign() < 0, a.Kind == agreement.Spread && a.Tolerance.Sign() <= 0:
		return badTolerance.Fault("rules.agreement.tolerance")
	case a.Need != 2 && a.Need != 3:
		return badNeed.Fault("rules.agreement.need", finding.Count(a.Need))
	case rules.Figures < 0 || rules.Figures > 8:
		return badFigures.Fault("rules.figures", finding.Count(rules.Figures))
	}
	a.Percent = a.PercentOr2()
	if reading.FreeFlow.IsZero() {
		reading.FreeFlow = decimal.Must("2.00")
	}
	if reading.Dropwise.IsZero() {
		reading.Dropwise = decimal.Must("1.00")
	}
	if reading.Hold == 0 {
		reading.Hold = 30
	}
	s := &r.Showing
	if s.Results == "" {
		return badChoice.Fault("showing.results", finding.Text(""), finding.List(finding.Text(string(Always)), finding.Text(string(AfterAttempt)), finding.Text(string(AfterMarking))))
	}
	if f := choice("showing.results", &s.Results, Always, AfterAttempt, AfterMarking); f != nil {
		return f
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
	head := r.Steps[0]
	switch {
	case r.UnknownInBurette && !a.What.ofVolume():
		return ofTitrantOnly.Fault("asked.what")
	case !r.UnknownInBurette && a.What.ofVolume() && r.Weighs():
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
// that is asked for: by the ratio that is given, else by the atoms they share.
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
		r.AsRatio = [2]int{n, d}
		return nil
	}
	n, d, ok := r.AskedOf().AtomRatio(r.As)
	if !ok {
		return ratioUnclear.Fault("asked.as", finding.Formula(r.As.Plain()), finding.Formula(r.AskedOf().Plain()))
	}
	r.AsRatio = [2]int{n, d}
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
		if f := choice("kind", &r.Kind, Direct, Indirect, Back, Standardisation, TwoEndPoints); f != nil {
			return f
		}
		return kindContradict.Fault("kind", finding.Text(string(r.Kind)), finding.Text(string(follows)))
	}
	return nil
}

// follows is the kind that the content says.
func (r *Ready) follows() Kind {
	switch {
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

// Cautions lists the codes of what to mind with the solutions and the
// indicator at their concentrations, without repeats. The concentration of the
// unknown is taken as the approximate one.
func (r *Ready) Cautions() []string {
	var out []string
	add := func(codes []string) {
		for _, c := range codes {
			if !slices.Contains(out, c) {
				out = append(out, c)
			}
		}
	}
	solution := func(f chem.Formula, c decimal.Decimal) {
		if substance, ok := catalog.BuiltIn().Substance(f); ok {
			add(substance.CautionsAt(c))
		}
	}
	for i, s := range []Solution{r.Chemistry.Titrant, r.Chemistry.Analyte} {
		c := s.Concentration
		if c.IsZero() {
			c = s.Approximate
		}
		solution([]chem.Formula{r.Titrant, r.Analyte}[i], c)
	}
	for _, s := range r.Steps {
		switch {
		case s.Kind == Excess:
			solution(s.Reaction.From, s.Concentration)
		case s.Formula != "":
			solution(s.Salt, decimal.Decimal{})
		}
	}
	for _, c := range r.Indicator.Cautions {
		add([]string{c.Code})
	}
	return out
}
