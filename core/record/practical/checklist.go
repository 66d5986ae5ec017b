package practical

import (
	"slices"
	"strings"
	"unicode/utf8"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
	"exactflask/core/record/journal"
	"exactflask/core/values/finding"
)

// The items of what is done before and after a titration. Source: common
// practice, no source.
var (
	weighed   = []string{"dried", "weigh-difference", "dissolved", "dissolved-slowly", "made-up"}
	BuretteUp = []string{"rinse-water", "rinse-solution", "fill-low", "funnel-out", "jet-filled", "no-bubble"}
	inFlask   = []string{"excess-reacted", "fizz-over", "acid-added", "warmed", "indicator", "starch-start", "starch-late",
		"own-colour", "calibrated", "probe-in"}
	after = []string{"drain", "nothing-back", "rinse-after", "tap-open", "waste-separate", "hands"}
	_     = finding.Family("item.", slices.Concat([]string{"goggles", LeakWait, "white-tile"}, weighed, BuretteUp, inFlask,
		after))
)

// LeakWait is the item that is done by waiting.
const LeakWait = "leak-wait"

// Setup lists what is done before a titration of this practical, in its order:
// the sample or standard, the burette, and what goes into the flask or belongs
// to the probe.
func (r *Ready) Setup() []string {
	out := []string{"goggles"}
	out = append(out, r.setupWeighed()...)
	if r.Indicator.Kind == catalog.Meter || r.Probe.Shows == journal.ShownPH {
		out = append(out, "calibrated")
	}
	out = append(out, BuretteUp...)
	out = append(out, LeakWait)
	if r.Indicator.Kind != catalog.Meter {
		out = append(out, "white-tile")
	}
	if r.Probed() && r.Indicator.Kind != catalog.Meter {
		out = append(out, "probe-in")
	}
	if r.Excess() >= 0 {
		out = append(out, "excess-reacted")
		if r.Analyte.Carbonate() {
			out = append(out, "fizz-over")
		}
	}
	if r.needsAcid() {
		out = append(out, "acid-added")
	}
	if r.takesPart("MnO4^-", "KMnO4") && r.takesPart("C2O4^2-", "H2C2O4", "H2C2O4*2H2O", "Na2C2O4") {
		out = append(out, "warmed")
	}
	return append(append(out, r.setupEnd()), own(r.Lists.Before)...)
}

func own(items []string) []string {
	out := make([]string, len(items))
	for i, text := range items {
		out[i] = journal.OwnItem(text)
	}
	return out
}

var (
	listLong  = finding.Declare("lists.length", "most", "length")
	listMany  = finding.Declare("lists.many", "most")
	listTwice = finding.Declare("lists.twice", "text")
	mostOwn   = 10
)

// checkLists looks at the items of one's own.
func (r *Ready) checkLists() *finding.Fault {
	for name, items := range map[string][]string{"lists.before": r.Lists.Before, "lists.after": r.Lists.After} {
		if len(items) > mostOwn {
			return listMany.Fault(name, finding.Count(mostOwn))
		}
		for i, text := range items {
			n := utf8.RuneCountInString(text)
			switch {
			case strings.TrimSpace(text) == "" || n > journal.MaxOwnItem:
				return listLong.Fault(name, finding.Count(journal.MaxOwnItem), finding.Count(n))
			case slices.Contains(items[:i], text):
				return listTwice.Fault(name, finding.Text(text))
			}
		}
	}
	return nil
}

// setupWeighed is what is done with a sample or a standard that is weighed.
func (r *Ready) setupWeighed() []string {
	if !r.Weighs() {
		return nil
	}
	var out []string
	salt := r.Steps[0].Salt
	if r.UnknownInBurette {
		if _, hydrate := salt.Anhydrous(); !hydrate && primary(salt) { // a hydrate would lose its water
			out = append(out, "dried")
		}
	}
	out = append(out, "weigh-difference")
	switch {
	case r.Excess() >= 0 && len(r.Steps) > 1 && r.Steps[1].Kind == Excess: // it dissolves in the reagent
	case salt.Same(phthalate):
		out = append(out, "dissolved-slowly")
	default:
		out = append(out, "dissolved")
	}
	if slices.ContainsFunc(r.Steps, func(s ReadyStep) bool { return s.Kind == MakeUp }) {
		out = append(out, "made-up")
	}
	return out
}

// setupEnd is what shows the end: nothing is added for permanganate or a probe.
func (r *Ready) setupEnd() string {
	switch r.Indicator.Kind {
	case catalog.Meter:
		return "probe-in"
	case catalog.Self:
		return "own-colour"
	case catalog.Starch:
		if r.Titrant.Same(iodine) || r.Titrant.Same(triiodide) {
			return "starch-start"
		}
		return "starch-late"
	}
	return "indicator"
}

// Cleanup lists what is done after a titration.
func (r *Ready) Cleanup() []string {
	if len(r.Lists.After) == 0 {
		return after
	}
	return slices.Concat(after, own(r.Lists.After))
}

var (
	phthalate = chem.MustFormula("KHC8H4O4")
	iodine    = chem.MustFormula("I2")
	triiodide = chem.MustFormula("I3^-")
	proton    = chem.MustFormula("H^+")
	sulfuric  = chem.MustFormula("H2SO4")
)

// needsAcid tells whether acid takes part that is neither of the two solutions.
func (r *Ready) needsAcid() bool {
	for _, s := range r.Equation.Reactants {
		acid := s.Formula.Same(proton) || s.Formula.Same(sulfuric)
		if acid && !s.Formula.Same(r.Titrant) && !s.Formula.Same(r.Titrated) {
			return true
		}
	}
	return false
}

// takesPart tells whether the titrant or what it titrates is one of these.
func (r *Ready) takesPart(formulas ...string) bool {
	return slices.ContainsFunc(formulas, func(text string) bool {
		f := chem.MustFormula(text)
		return f.Same(r.Titrant) || f.Same(r.Titrated)
	})
}

func primary(f chem.Formula) bool {
	s, ok := catalog.BuiltIn().Substance(f)
	return ok && slices.ContainsFunc(catalog.BuiltIn().Standards, func(st catalog.Standard) bool {
		return st.Substance == s.ID && st.Kind == "primary"
	})
}
