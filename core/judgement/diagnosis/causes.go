// Package diagnosis explains figures that are off: which usual fault at the
// bench would explain the answer (the model, perturbed), and which usual slip a
// student's own figure.
package diagnosis

import (
	"cmp"
	"math"
	"slices"

	"exactflask/core/chemistry/glass"
	"exactflask/core/model/assay"
	dv "exactflask/core/model/derivation"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Cause is one usual fault with what it does to this titration.
type Cause struct {
	Code    string        `json:"code" doc:"such as cause.bubble"`
	Size    float64       `json:"size" doc:"usual size of the fault, in its unit"`
	Unit    quantity.Unit `json:"unit" doc:"mL, % or empty"`
	Titre   float64       `json:"titre" doc:"what it does to the titre, mL; 0 where it acts elsewhere"`
	Answer  float64       `json:"answer" doc:"what it does to the answer, in the answer's unit"`
	Percent float64       `json:"percent" doc:"the same in % of the answer"`
	Needed  float64       `json:"needed,omitempty" doc:"size the fault would need to explain the whole difference; 0 where it cannot"`
	Fits    bool          `json:"fits,omitempty" doc:"that size is a usual one: within half and twice"`
}

// fault is a usual fault: how large it is, and what it adds to leaves.
type fault struct {
	code  finding.Code
	size  float64
	unit  quantity.Unit
	apply func(r *practical.Ready, n *dv.Node, size float64) float64
	where func(r *practical.Ready) bool // whether it can happen here; nil: always
}

// effect is what a fault of a size adds to a leaf.
type effect = func(r *practical.Ready, n *dv.Node, size float64) float64

// onEnds acts on the end readings of the titration's burette.
func onEnds(sign float64) effect {
	return func(r *practical.Ready, n *dv.Node, size float64) float64 {
		if n.Source.Titration() && n.Source.Point == dv.End {
			if r.Glass.Burette.Rising { // more that ran is less on its scale
				return -sign * size
			}
			return sign * size
		}
		return 0
	}
}

// scaled changes the leaves of some sources by a part of themselves.
func scaled(of dv.SourceKind) effect {
	return func(_ *practical.Ready, n *dv.Node, size float64) float64 {
		if n.Source.Kind == of {
			return size / 100 * n.Quantity.Value
		}
		return 0
	}
}

// onAliquot changes what the last pipette delivers. More sample than the record
// says looks, in the record, like less volume for the same titre.
func onAliquot(r *practical.Ready, n *dv.Node, size float64) float64 {
	if _, ok := n.Source.Glass(); ok && n.Route == len(r.Steps) && hasPortion(r) {
		return -size
	}
	return 0
}

func hasPortion(r *practical.Ready) bool {
	_, ok := r.Aliquot()
	return ok
}

// upward is the end reading taken up the tube instead of down: 26.4 for 25.6.
// On a whole millilitre both are the same.
func upward(_ *practical.Ready, n *dv.Node, size float64) float64 {
	_, part := math.Modf(n.Quantity.Value)
	if !n.Source.Titration() || n.Source.Point != dv.End || part <= 0 {
		return 0
	}
	return size * 2 * (1 - part)
}

func onFlask(_ *practical.Ready, n *dv.Node, size float64) float64 {
	if n.Source.Kind == dv.Flask {
		return -size
	}
	return 0
}

func knownHydroxide(r *practical.Ready) bool {
	known := r.Titrant.Plain()
	if r.UnknownInBurette {
		known = r.Analyte.Plain()
	}
	return known == "NaOH" || known == "KOH"
}

func cause(code string) finding.Code { return finding.Declare("cause."+code, "size") }

// indicatorOff is the wrong indicator: its size follows from the curve.
var indicatorOff = cause("indicator")

// The usual faults and their usual sizes. Source: common practice, no source.
// The sign is that of what the fault makes of the record: a bubble that leaves
// the jet makes the titre look larger.
var faults = []fault{
	{cause("bubble"), 0.3, quantity.Millilitre, onEnds(1), nil},
	{cause("overshoot"), glass.Drop, quantity.Millilitre, onEnds(1), nil},
	{cause("leak"), 0.1, quantity.Millilitre, onEnds(1), nil},
	{cause("funnel"), 0.1, quantity.Millilitre, onEnds(-1), nil},
	{cause("top-of-meniscus"), 0.1, quantity.Millilitre, onEnds(-1), nil},
	{cause("read-upward"), 1, "", upward, nil},
	{cause("burette-wet"), 2, quantity.Percent, scaled(dv.Burette), nil},
	{cause("flask-with-sample"), 0.5, quantity.Millilitre, onAliquot,
		func(r *practical.Ready) bool { return !r.UnknownInBurette }},
	{cause("flask-with-standard"), 0.5, quantity.Millilitre, onAliquot,
		func(r *practical.Ready) bool { return r.UnknownInBurette }},
	{cause("pipette-wet"), 1, quantity.Percent, scaled(dv.Pipette), nil},
	{cause("blown-out"), glass.Drop, quantity.Millilitre, onAliquot, nil},
	{cause("mark-missed"), 0.5, quantity.Millilitre, onFlask, nil},
	{cause("old-hydroxide"), 1, quantity.Percent, scaled(dv.KnownSolution), knownHydroxide},
	{cause("standard-wet"), 1, quantity.Percent, scaled(dv.Balance),
		func(r *practical.Ready) bool { return r.UnknownInBurette }},
}

// Planted is a usual fault, to be made on purpose.
type Planted struct{ fault fault }

// PlantedFault finds a usual fault by its code, such as cause.bubble, for a practical
// in which it can happen.
func PlantedFault(r *practical.Ready, code string) (Planted, bool) {
	for _, f := range faults {
		if f.code.Name() == code && (f.where == nil || f.where(r)) {
			return Planted{f}, true
		}
	}
	return Planted{}, false
}

// Codes are those of the usual faults.
func Codes() []string {
	out := make([]string, len(faults))
	for i, f := range faults {
		out[i] = f.code.Name()
	}
	return out
}

// On is what the fault, at its usual size, adds to a leaf of the record. Where it acts
// on what the record takes for granted, the truth is that much less.
func (p Planted) On(r *practical.Ready, n *dv.Node) float64 { return p.fault.apply(r, n, p.fault.size) }

// model runs a derivation with a fault in it.
type model struct {
	a     *assay.Assay
	nodes []dv.Node
	p     *dv.Program
	base  float64
	titre int // place of the mean titre, or of the first; -1 for none
}

// with returns what a fault of a size does to the answer and to the titre.
func (m *model) with(f fault, size float64) (answer, titre float64) {
	m.p.Reset()
	changed := false
	for i := range m.nodes {
		if n := &m.nodes[i]; n.Source.Kind != "" {
			if by := f.apply(m.a.Ready(), n, size); by != 0 {
				m.p.Values[i] += by
				changed = true
			}
		}
	}
	if !changed {
		return 0, 0
	}
	m.p.Compute()
	if m.titre >= 0 {
		if titre = m.p.Values[m.titre] - m.p.Base(m.titre); math.Abs(titre) < noise*m.p.Base(m.titre) {
			titre = 0
		}
	}
	return m.p.Values[m.p.Last()] - m.base, titre
}

// Causes says for every usual fault what it does to this answer, by the same
// derivation as the result. Where the answer differs from a value that it
// should have (nil: none is known), those that explain the difference best come
// first. A fault that would leave no answer at all is not told.
// indicator is how far past the equivalence the indicator stops, mL; 0 where it
// serves or that is not known.
func Causes(a *assay.Assay, d dv.Derivation, p *dv.Program, indicator float64, target *float64) []Cause {
	p.Reset()
	p.Compute()
	m := &model{a, d.Nodes, p, p.Values[p.Last()], titreOf(d)}
	var out []Cause
	all := faults
	if indicator != 0 {
		all = append(slices.Clone(faults), fault{indicatorOff, math.Abs(indicator), quantity.Millilitre,
			onEnds(math.Copysign(1, indicator)), nil})
	}
	for _, f := range all {
		if f.where != nil && !f.where(a.Ready()) {
			continue
		}
		answer, titre := m.with(f, f.size)
		if math.Abs(answer) <= noise*math.Abs(m.base) || !finite(answer) {
			continue
		}
		c := Cause{Code: f.code.Name(), Size: f.size, Unit: f.unit, Titre: titre, Answer: answer,
			Percent: 100 * answer / m.base}
		if target != nil {
			c.Needed = needed(m.base-*target, f.size, answer, func(size float64) float64 { by, _ := m.with(f, size); return by })
		}
		c.Fits = c.Needed > 0.5*c.Size && c.Needed < 2*c.Size
		if finite(c.Percent) && finite(c.Titre) {
			out = append(out, c)
		}
	}
	rank := func(c Cause) float64 { return -math.Abs(c.Answer) }
	if target != nil {
		rank = func(c Cause) float64 { // how far the needed size is from the usual one
			if c.Needed <= 0 {
				return math.Inf(1)
			}
			return math.Abs(math.Log(c.Needed / c.Size))
		}
	}
	slices.SortStableFunc(out, func(a, b Cause) int { return cmp.Compare(rank(a), rank(b)) })
	return out
}

// noise is the part of an answer that is rounding and no effect.
const noise = 1e-10

func finite(v float64) bool { return !math.IsNaN(v) && !math.IsInf(v, 0) }

// titreOf is the mean titre, or the first trial's where each stands alone.
func titreOf(d dv.Derivation) int {
	if at, ok := d.Find(dv.MeanTitre); ok {
		return at
	}
	for i, n := range d.Nodes {
		if n.Operation == dv.Difference && len(n.Inputs) > 0 && d.Nodes[n.Inputs[0]].Source.Titration() {
			return i
		}
	}
	return -1
}

// needed is the size a fault would have to have for the whole difference; 0
// where it goes the other way, or would have to be absurd (over 100 times the
// usual size). Faults act almost in proportion; two steps of the secant rule
// settle the rest.
func needed(difference, size, effect float64, off func(float64) float64) float64 {
	if difference == 0 || difference*effect <= 0 || math.Abs(difference/effect) > 100 {
		return 0
	}
	guess := size * difference / effect
	for range 2 {
		if got := off(guess); got != 0 {
			guess *= difference / got
		}
	}
	if !finite(guess) || guess <= 0 {
		return 0
	}
	rounded, _ := decimal.FromFloat(guess)
	return rounded.RoundFigures(3).Float64()
}
