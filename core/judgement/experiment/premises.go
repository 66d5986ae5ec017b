package experiment

import (
	"strconv"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
)

// What an answer rests on and a person could doubt.
var (
	unusualEquation = finding.Declare("equation.unusual", "given", "usual")
	notPrimary      = finding.Declare("made.not-primary", "of")
	volumesOf       = finding.Declare("asked.volumes-of", "formula")
	asEquivalents   = finding.Declare("asked.by-equivalents", "analyte", "as", "ratio")
)

// peroxide is what volume strength is told of.
var peroxide = chem.MustFormula("H2O2")

// Premises says what a plan and an answer rest on that could be doubted: an equation that is
// balanced in atoms and charge and not in electrons; a density that no solution has; a strength by
// the mass of what is no primary standard; a substance in
// which the answer is given and that was related by equivalents.
func Premises(r *practical.Ready) []finding.Finding {
	return r.Kept("premises", func() any { return premises(r) }).([]finding.Finding)
}

func premises(r *practical.Ready) []finding.Finding {
	out := []finding.Finding{}
	reactions := append([]practical.Reaction{}, r.Reactions...)
	if i := r.Excess(); i >= 0 {
		reactions = append(reactions, r.Steps[i].Reaction)
	}
	for _, x := range reactions {
		if usual, other := catalog.BuiltIn().Usual(x.Equation); other {
			out = append(out, unusualEquation.Finding(finding.Warning, "", finding.Formula(x.Equation.Plain()), finding.Formula(usual.Plain())))
		}
	}
	if m, far := densityDoubt(r.Asked.Density); far {
		out = append(out, finding.Finding{Severity: finding.Check, Message: m})
	}
	if r.Asked.What == practical.VolumeStrength && !r.AskedOf().Same(peroxide) {
		out = append(out, volumesOf.Finding(finding.Warning, "", finding.Formula(r.AskedOf().Plain())))
	}
	if r.Unsure() {
		out = append(out, notPrimary.Finding(finding.Check, "", finding.Formula(r.Made[0].Salt.Plain())))
	}
	if r.AsBy == practical.AsByEquivalents {
		n := strconv.Itoa(r.AsRatio[0])
		if r.AsRatio[1] > 1 {
			n += "/" + strconv.Itoa(r.AsRatio[1])
		}
		out = append(out, asEquivalents.Finding(finding.Note, "", finding.Formula(r.AskedOf().Plain()), finding.Formula(r.As.Plain()), finding.Text(n)))
	}
	return out
}
