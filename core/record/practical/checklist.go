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
	inSyringe = []string{"rinse-water", "rinse-solution", "no-bubble"}
	bottled   = []string{"nothing-back", "labelled", "rinse-after", "waste-separate", "hands"}
	after     = []string{"drain", "nothing-back", "rinse-after", "tap-open", "waste-separate", "hands"}
	items     = slices.Concat([]string{"goggles", LeakWait, "white-tile", "rinse-burette"}, weighed, BuretteUp, inFlask, after, []string{"labelled"})
	// UsualItems are all that the program knows.
	UsualItems = slices.Clone(items)
	_          = finding.Family("item.", items)
)

// LeakWait is the item that is done by waiting.
const LeakWait = "leak-wait"

// Setup lists what is done before a titration of this practical, in its order: the school's own
// list, else what is usual.
func (r *Ready) Setup() []string {
	if len(r.Lists.Setup) > 0 {
		return r.Lists.Setup
	}
	return append(r.UsualSetup(), own(r.Lists.Before)...)
}

// UsualSetup is what is usual: the sample or standard, the burette, and what goes into the flask or
// belongs to the probe. Source: common practice, no source.
func (r *Ready) UsualSetup() []string {
	out := []string{"goggles"}
	out = append(out, r.setupWeighed()...)
	if r.MadeOnly() {
		return out
	}
	if !r.Seen() || r.Probe.Shows == journal.ShownPH {
		out = append(out, "calibrated")
	}
	for _, item := range BuretteUp {
		switch {
		case r.Glass.Burette.Rising && !slices.Contains(inSyringe, item): // it is drawn up, and has no funnel
		case item == "rinse-water" && !r.pipettes():
			out = append(out, "rinse-burette")
		default:
			out = append(out, item)
		}
	}
	out = append(out, LeakWait)
	if r.Seen() {
		out = append(out, "white-tile")
	}
	if r.Probed() && r.Seen() {
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
	return append(out, r.setupEnd())
}

// pipettes tells whether a pipette is used at all.
func (r *Ready) pipettes() bool {
	return slices.ContainsFunc(slices.Concat(r.Steps, r.Made), func(s ReadyStep) bool { return s.By == ByPipette })
}

func own(items []string) []string {
	out := make([]string, len(items))
	for i, text := range items {
		out[i] = journal.OwnItem(text)
	}
	return out
}

var (
	listLong    = finding.Declare("lists.length", "most", "length")
	listMany    = finding.Declare("lists.many", "most")
	listTwice   = finding.Declare("lists.twice", "text")
	listUnknown = finding.Declare("lists.unknown", "item")
)

// mostOwn is how many own items stand behind the usual ones, mostItems how long a whole list may be.
const mostOwn, mostItems = 10, 40

// checkLists looks at the items of one's own, and at the lists of a school.
func (r *Ready) checkLists() *finding.Fault {
	for _, list := range []struct {
		name  string
		texts []string
		whole bool // its items are codes
	}{{"lists.before", r.Lists.Before, false}, {"lists.after", r.Lists.After, false}, {"lists.setup", r.Lists.Setup, true},
		{"lists.cleanup", r.Lists.Cleanup, true}} {
		most := mostOwn
		if list.whole {
			most = mostItems
		}
		if len(list.texts) > most {
			return listMany.Fault(list.name, finding.Count(most))
		}
		for i, text := range list.texts {
			written, isOwn := text, !list.whole
			if list.whole {
				written, isOwn = journal.OwnText(text)
			}
			n := utf8.RuneCountInString(written)
			switch {
			case !isOwn && !slices.Contains(items, text):
				return listUnknown.Fault(list.name, finding.Text(text))
			case isOwn && (strings.TrimSpace(written) == "" || n > journal.MaxOwnItem):
				return listLong.Fault(list.name, finding.Count(journal.MaxOwnItem), finding.Count(n))
			case slices.Contains(list.texts[:i], text):
				return listTwice.Fault(list.name, finding.Text(written))
			}
		}
	}
	return nil
}

// setupWeighed is what is done with what is weighed, sample or standard, and with what is made up:
// once, also where the titrant is made so too.
func (r *Ready) setupWeighed() []string {
	done := map[string]bool{}
	weighs := func(salt chem.Formula, standard, dissolves bool) {
		_, hydrate := salt.Anhydrous()
		done["dried"] = done["dried"] || standard && !hydrate && primary(salt) // a hydrate would lose its water
		done["weigh-difference"] = true
		done["dissolved-slowly"] = done["dissolved-slowly"] || dissolves && salt.Same(phthalate)
		done["dissolved"] = done["dissolved"] || dissolves && !salt.Same(phthalate)
	}
	up := func(s ReadyStep) bool { return s.Kind == MakeUp }
	if r.Weighs() {
		inReagent := r.Excess() >= 0 && len(r.Steps) > 1 && r.Steps[1].Kind == Excess
		weighs(r.SampleStep().Salt, r.UnknownInBurette, !inReagent)
		done["made-up"] = slices.ContainsFunc(r.Steps, up)
	}
	if r.WeighsStandard() {
		weighs(r.Made[0].Salt, true, true)
	}
	done["made-up"] = done["made-up"] || len(r.Made) > 0
	var out []string
	for _, item := range weighed {
		if done[item] {
			out = append(out, item)
		}
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
	if len(r.Lists.Cleanup) > 0 {
		return r.Lists.Cleanup
	}
	return slices.Concat(r.UsualCleanup(), own(r.Lists.After))
}

// UsualCleanup is what is usual: a syringe has no tap that stays open, and a solution that was made
// is bottled.
func (r *Ready) UsualCleanup() []string {
	if r.MadeOnly() {
		return bottled
	}
	if !r.Glass.Burette.Rising {
		return after
	}
	return slices.DeleteFunc(slices.Clone(after), func(item string) bool { return item == "tap-open" })
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
