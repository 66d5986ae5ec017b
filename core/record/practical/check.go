package practical

import (
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

// What keeps a practical from being used.
var (
	needsTitle     = finding.Declare("practical.needs-title")
	needsName      = finding.Declare("practical.needs-name")
	badID          = finding.Declare("practical.id")
	badRevision    = finding.Declare("practical.revision", "revision")
	badText        = finding.Declare("practical.text")
	badTries       = finding.Declare("practical.tries", "given")
	badChoice      = finding.Declare("practical.choice", "given", "choices")
	kindContradict = finding.Declare("practical.kind", "given", "follows")
	notInEquation  = finding.Declare("practical.not-in-equation", "formula", "equation")
	leadsElsewhere = finding.Declare("practical.leads-elsewhere", "from", "to", "analyte")
	needsKnown     = finding.Declare("practical.needs-known")
	bothKnown      = finding.Declare("practical.both-known")
	negative       = finding.Declare("practical.negative")
	noIndicator    = finding.Declare("practical.indicator", "given")
	risingAlone    = finding.Declare("glass.rising-alone")
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
	routePortion   = finding.Declare("route.aliquot")
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
	ofStrengthOnly = finding.Declare("asked.of-solution")
	labelPercent   = finding.Declare("label.percent")
	labelUnit      = finding.Declare("label.unit", "label", "answer")
)

// Check parses a practical and makes every default explicit, or returns the
// first fault with its path.
func (p Practical) Check() (*Ready, *finding.Fault) {
	r := &Ready{Practical: p}
	titration := []func() *finding.Fault{r.checkChemistry, r.checkRoute, r.checkChain, r.checkKnown}
	if p.OnlySolution() {
		titration = []func() *finding.Fault{r.checkSolution}
	}
	for _, check := range slices.Concat([]func() *finding.Fault{r.checkNames}, titration, []func() *finding.Fault{
		r.checkGlass, r.checkRules, r.checkProbe, r.checkAsked, r.checkOwn, r.checkMade, r.checkSamples, r.checkLists,
		r.checkExercise, r.checkSequence, r.checkMarking, r.checkKind}) {
		if f := check(); f != nil {
			return nil, f
		}
	}
	r.kept = &kept{owner: r}
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
		named := t.path == "chemistry.titrant.name" || t.path == "chemistry.analyte.name" && !r.OnlySolution()
		switch {
		case !utf8.ValidString(t.text) || len(t.text) > 4000:
			return badText.Fault(t.path)
		case named && strings.TrimSpace(t.text) == "":
			return needsName.Fault(t.path)
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
		eq, err = catalog.BuiltIn().Balance(eq)
	}
	if err != nil {
		return eq, finding.FaultOf(path, err)
	}
	return eq, nil
}

// reactionAt relates two substances of an equation; each has a path of its own
// for the fault that it does not stand there.
func reactionAt(eq chem.Equation, from chem.Formula, fromPath string, to chem.Formula, toPath string) (Reaction,
	*finding.Fault) {
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
	if f := choice("chemistry.endPoints", &c.EndPoints, OneEndPoint, HydroxideCarbonate,
		CarbonateHydrogencarbonate); f != nil {
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
