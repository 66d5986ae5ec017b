package practical

import (
	"slices"
	"sync"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
	"exactflask/core/values/decimal"
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
	RouteStep
	// Reaction is that of a reagent in excess, from the reagent to the analyte.
	Reaction Reaction
	// Salt is what is weighed, and SaltRatio how many moles of the analyte one
	// of it gives.
	Salt      chem.Formula
	SaltRatio [2]int
}

// Ready is a practical that passed Check: parsed once, every default explicit.
// Nothing of it is ever changed, and it may be used by many goroutines.
type Ready struct {
	Practical
	Equation  chem.Equation
	Titrant   chem.Formula
	Analyte   chem.Formula
	Titrated  chem.Formula // what the titrant reacts with
	Crystals  chem.Formula // of the salt that is made; empty for none
	CrystalNu int          // how many of it stand in the equation
	Other     chem.Formula // the component beside the carbonate
	As        chem.Formula // in whose mass the answer is given
	AsBy      AsRule       // where that comes from
	AsRatio   [2]int       // how many moles of As one mole of the asked substance stands for
	Reactions []Reaction   // from the titrant to the analyte, or to the reagent in excess
	Steps     []ReadyStep
	Made      []ReadyStep // how students make the titrant, or the only solution; none where it is given to them
	Indicator catalog.Indicator
	// ReagentProtons is how many protons one unit of what reacts with the
	// analyte gives or takes, where the number of protons is asked for.
	ReagentProtons int
	// UnknownInBurette tells which of the two solutions is asked for.
	UnknownInBurette bool

	norms Norms // that hold: the practical's own over its school's

	kept *kept
}

// kept belongs to one Ready: a copy that was changed keeps nothing.
type kept struct {
	owner *Ready
	made  sync.Map
}

// Kept returns what follows from the practical alone and was worked out before
// under this name, or works it out now and keeps it. It may be called by many
// goroutines; what is made must not be changed.
func (r *Ready) Kept(name string, work func() any) any {
	if r.kept == nil || r.kept.owner != r {
		return work()
	}
	if v, ok := r.kept.made.Load(name); ok {
		return v
	}
	v, _ := r.kept.made.LoadOrStore(name, work())
	return v
}

// Unknown and Known are the two solutions by what is known of them; both the same where a solution is
// only made.
func (r *Ready) Unknown() Solution {
	if r.UnknownInBurette || r.MadeOnly() {
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
	if r.UnknownInBurette || r.MadeOnly() {
		return r.Titrant
	}
	return r.Analyte
}

// Excess is the step at which a reagent is added in excess; -1 for none.
func (r *Ready) Excess() int {
	return slices.IndexFunc(r.Steps, func(s ReadyStep) bool { return s.Kind == Excess })
}

// MadeOnly tells whether a solution is made and that is all: nothing is titrated, and its strength
// is what is asked for.
func (r *Ready) MadeOnly() bool { return r.OnlySolution() }

// SampleStep is the step that measures the sample; an empty one where nothing is titrated.
func (r *Ready) SampleStep() ReadyStep {
	if len(r.Steps) == 0 {
		return ReadyStep{}
	}
	return r.Steps[0]
}

// Volumes are the steps whose volumes may be measured, by the numbers that journal.OwnKey gives
// them: of the sample's route, or of how the only solution is made.
func (r *Ready) Volumes() []ReadyStep {
	if r.MadeOnly() {
		return r.Made
	}
	return r.Steps
}

// SampleBurette tells whether each sample is run from a burette of its own.
func (r *Ready) SampleBurette() bool {
	return r.SampleStep().By == ByBurette && r.SampleStep().Kind == Pipette
}

// ReagentBurette tells whether the reagent in excess is.
func (r *Ready) ReagentBurette() bool {
	i := r.Excess()
	return i >= 0 && r.Steps[i].By == ByBurette
}

// MassEach tells whether every trial has its own weighing.
func (r *Ready) MassEach() bool { return r.SampleStep().EachTrial }

// Weighs tells whether the sample is weighed at all.
func (r *Ready) Weighs() bool { return r.SampleStep().Kind == Weigh || r.SampleStep().Kind == Tablets }

// Each tells whether every trial is worked out by itself, since its sample, or
// its reagent in excess, is its own.
func (r *Ready) Each() bool { return r.MassEach() || r.SampleBurette() || r.ReagentBurette() }

// Aliquot is the step that measures what goes into each flask; false where all
// of the route does.
func (r *Ready) Aliquot() (ReadyStep, bool) {
	if len(r.Steps) == 0 {
		return ReadyStep{}, false
	}
	last := r.Steps[len(r.Steps)-1]
	return last, last.Kind == Aliquot || last.Kind == Pipette
}

// Seen tells whether an eye sees the end: a colour, and not a probe alone.
func (r *Ready) Seen() bool { return !r.MadeOnly() && r.Indicator.Kind != catalog.Meter }

// ByBlank tells whether the blank trials say how much reagent was added.
func (r *Ready) ByBlank() bool {
	i := r.Excess()
	return i >= 0 && r.Steps[i].ByBlank
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
	switch { // who makes a solution handles what it is made of
	case r.WeighsStandard():
		solution(r.Made[0].Salt, AsSolid)
	case len(r.Made) > 0:
		solution(r.Titrant, r.Made[0].Concentration)
	}
	for _, c := range r.Indicator.Cautions {
		add([]string{c.Code})
	}
	return out
}
