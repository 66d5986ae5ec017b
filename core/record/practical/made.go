package practical

import (
	"fmt"
	"math"

	"exactflask/core/chemistry/chem"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// What can be wrong with how a solution is made.
var (
	madeAlone    = finding.Declare("made.alone")
	madeTitrant  = finding.Declare("made.titrant-only")
	madeFirst    = finding.Declare("made.first")
	madeOrder    = finding.Declare("made.order")
	madeMass     = finding.Declare("made.mass")
	madeStock    = finding.Declare("made.stock")
	madeStrength = finding.Declare("made.strength", "given", "made")
)

// madeAgrees is how far the strength of the known solution may lie from what it is made of, as a
// part of it: a label of 0.1 for what comes out at 0.098. Common practice, no source.
const madeAgrees = 0.05

// AsSolid is more concentrated than any solution, mol/L: a solid is handled with the cautions of its
// strongest ones.
var AsSolid = decimal.Whole(100)

// checkSolution checks what is said of a solution that is only made: its formula, and nothing of a
// titration.
func (r *Ready) checkSolution() *finding.Fault {
	c := &r.Chemistry
	var f *finding.Fault
	if r.Titrant, f = formulaAt("chemistry.titrant.formula", c.Titrant.Formula); f != nil {
		return f
	}
	for _, of := range [...]struct {
		path string
		said bool
	}{{"chemistry.endPoints", c.EndPoints != OneEndPoint}, {"chemistry.via", len(c.Via) > 0}, {"chemistry.standardisedIn", c.Standard != ""},
		{"chemistry.salt", c.Salt != ""}, {"chemistry.diluted", c.Diluted != nil}, {"samples", len(r.Samples) > 0}, {"probe", r.Probed()}} {
		if of.said {
			return madeAlone.Fault(of.path)
		}
	}
	c.Titrated, c.Other, c.Indicator = "", "", ""
	return nil
}

// checkMade parses how students make the titrant: a weighed solid or a stock, made up; and then an
// aliquot of it made up again, once or twice.
func (r *Ready) checkMade() *finding.Fault {
	if len(r.Chemistry.Analyte.Made) > 0 {
		return madeTitrant.Fault("chemistry.analyte.made")
	}
	steps := append([]RouteStep{}, r.Chemistry.Titrant.Made...)
	r.Chemistry.Titrant.Made = steps
	if len(steps) == 0 {
		r.Chemistry.Titrant.Made = nil
		return nil
	}
	for i := range steps {
		path, s := fmt.Sprintf("chemistry.titrant.made[%d]", i), &steps[i]
		if f := s.complete(path); f != nil {
			return f
		}
		step := ReadyStep{RouteStep: *s, Salt: r.Titrant, SaltRatio: [2]int{1, 1}}
		switch {
		case i == 0 && s.Kind != Weigh && s.Kind != Pipette, i == 0 && s.EachTrial:
			return madeFirst.Fault(path + ".kind")
		case i == 0 && s.Kind == Weigh && s.Mass.Sign() <= 0:
			return madeMass.Fault(path + ".mass")
		case i == 0 && s.Kind == Pipette && s.Concentration.Sign() <= 0:
			return madeStock.Fault(path + ".concentration")
		case i%2 == 1 && s.Kind != MakeUp, i > 0 && i%2 == 0 && s.Kind != Aliquot, s.By == ByBurette:
			return madeOrder.Fault(path + ".kind")
		case i > 0 && i%2 == 0 && s.Volume.Cmp(steps[i-1].Volume) > 0, i == 1 && steps[0].Kind == Pipette && steps[0].Volume.Cmp(s.Volume) > 0:
			return routeTooMuch.Fault(path, finding.Exact(s.Volume, quantity.Millilitre), finding.Exact(steps[i-1].Volume, quantity.Millilitre))
		}
		if s.Formula != "" && s.Kind == Weigh {
			f := r.saltOf(path, r.Titrant, &step)
			if f != nil {
				return f
			}
		}
		if letter, is := step.Salt.Unnamed(); i == 0 && s.Kind == Weigh && is && r.MolarMass(step.Salt).IsZero() {
			return noMolarMass.Fault(path+".formula", finding.Text(letter), finding.Formula(step.Salt.Plain()))
		}
		r.Made = append(r.Made, step)
	}
	if len(steps)%2 == 1 {
		return madeOrder.Fault(fmt.Sprintf("chemistry.titrant.made[%d].kind", len(steps)-1))
	}
	if given := r.Chemistry.Titrant.Concentration.Float64(); given > 0 {
		if made := r.StrengthMade(0); math.Abs(given/made-1) > madeAgrees+1e-9 {
			return madeStrength.Fault("chemistry.titrant.concentration", finding.Exact(r.Chemistry.Titrant.Concentration, quantity.MolePerL),
				finding.Number(made, 4, quantity.MolePerL))
		}
	}
	return nil
}

// saltOf relates what is weighed to what is wanted of it by the atoms they share.
func (r *Ready) saltOf(path string, wanted chem.Formula, s *ReadyStep) *finding.Fault {
	var f *finding.Fault
	if s.Salt, f = formulaAt(path+".formula", s.Formula); f != nil {
		return f
	}
	n, d, ok := s.Salt.AtomRatio(wanted)
	if !ok {
		return saltUnrelated.Fault(path+".formula", finding.Formula(s.Salt.Plain()), finding.Formula(wanted.Plain()))
	}
	s.SaltRatio = [2]int{n, d}
	return nil
}

// StrengthMade is the strength of what is made by its nominal values, mol/L: of the first solution
// that is made up (1), the second, or the last (0).
func (r *Ready) StrengthMade(which int) float64 {
	head := r.Made[0]
	c := head.Concentration.Float64() * head.Volume.Float64() // mmol
	if head.Kind == Weigh {
		c = 1000 * head.Mass.Float64() / r.MolarMass(head.Salt).Float64() * float64(head.SaltRatio[0]) / float64(head.SaltRatio[1])
		if w := r.Chemistry.Titrant.Purity; w.Sign() > 0 {
			c *= w.Float64()
		}
	}
	c /= r.Made[1].Volume.Float64()
	for i := 2; i+1 < len(r.Made) && (which == 0 || i/2 < which); i += 2 {
		c *= r.Made[i].Volume.Float64() / r.Made[i+1].Volume.Float64()
	}
	return c
}

// MadeHere tells whether the strength of the titrant follows from how students make it: it is the
// known one, and no other practical finds it.
func (r *Ready) MadeHere() bool {
	return len(r.Made) > 0 && !r.UnknownInBurette && r.Chemistry.Standard == ""
}

// Unsure tells whether a strength rests on the mass of a solid that is no primary standard, such as
// sodium hydroxide: it takes up water and carbon dioxide, and what was weighed is not what it holds.
func (r *Ready) Unsure() bool {
	return r.MadeHere() && r.WeighsStandard() && !primary(r.Made[0].Salt)
}

// WeighsStandard tells whether students weigh what the titrant is made of.
func (r *Ready) WeighsStandard() bool { return len(r.Made) > 0 && r.Made[0].Kind == Weigh }
