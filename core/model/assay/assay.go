// Package assay is the one model of a titration from the sample to the titre.
//
// A Ready practical with what holds for a notebook (the concentration that was
// found, the mass that was weighed, the blanks) makes an Assay. Run backwards
// it turns titres into the answer, as a derivation; run forwards it turns an
// answer into the titre to expect of a trial, with that trial's own sample and
// reagent. Whatever predicts, steers, compares, warns, plans or explains asks
// it; the chemistry is stated nowhere else.
//
// Up to the amount every kind of titration is a straight line in the titre:
// n(sample) = a + b·V, with a and b from what was measured for the trial. What
// is asked is a monotonic function of that amount, so that the way back is one
// inverse operation a node. Source of the relations: common practice, no
// source.
package assay

import (
	"exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Found is a concentration that was found by standardising.
type Found struct {
	Concentration decimal.Decimal // mol/L
	Uncertainty   decimal.Decimal // standard, mol/L; zero where it was not given
	Entry         string
}

// Held is what holds for all trials of a notebook.
type Held struct {
	Known  *Found
	Mass   *[2]journal.Reading // full and emptied vessel, g, where one weighing is for all
	Blanks []Measured          // with titres above zero
	// Own are values that were measured in the place of those that the practical gives.
	Own map[journal.OwnKey]journal.Reading
	// Stock is how the titrant was made of a stock, as it was written down.
	Stock *Stock
	// Standard is what was weighed of the solid that the titrant is made of.
	Standard *[2]journal.Reading
}

// Stock is a stock with the volume that was taken of it and made up.
type Stock struct {
	Strength journal.Reading // mol/L
	Taken    journal.Reading // mL
	MadeUp   journal.Reading // mL
}

// Assay is a practical with what holds for a notebook. It is not changed once
// it is made.
type Assay struct {
	ready *practical.Ready
	held  Held
}

// New makes one.
func New(r *practical.Ready, h Held) *Assay { return &Assay{r, h} }

// Ready is the practical that it was made of.
func (a *Assay) Ready() *practical.Ready { return a.ready }

// Held is what it was made with.
func (a *Assay) Held() Held { return a.held }

// Problem says why no answer follows from titres, or no titre from an answer.
type Problem struct {
	finding.Message
	Trial string // id of the trial it is about; empty for the whole
}

func (p *Problem) Error() string { return p.Message.String() }

// Why nothing follows.
var (
	noTitre     = finding.Declare("assay.no-titre")
	notPositive = finding.Declare("assay.titre-not-positive", "titre")
	blankLarge  = finding.Declare("assay.blank-too-large")
	noBlank     = finding.Declare("assay.no-blank")
	noVolume    = finding.Declare("assay.no-volume")
	noMass      = finding.Declare("assay.no-mass")
	moreLeft    = finding.Declare("assay.more-left-than-added", "reagent")
	wrongMix    = finding.Declare("assay.not-this-mixture", "one", "other")
	firstLater  = finding.Declare("assay.first-after-second")
	usedUp      = finding.Declare("assay.excess-used-up")
	noWay       = finding.Declare("assay.no-titre-gives")
	nothing     = finding.Declare("assay.nothing-expected")
)

// Derive works the answer out from the trials that are averaged; where a solution is only made, from
// how it was made.
func (a *Assay) Derive(trials []Measured) (derivation.Derivation, *Problem) {
	if len(trials) == 0 && !a.ready.MadeOnly() {
		return derivation.Derivation{}, &Problem{Message: noTitre.Message()}
	}
	for _, m := range trials {
		if m.Burette.Start == nil {
			return derivation.Derivation{}, &Problem{Message: noTitre.Message(), Trial: m.Trial}
		}
	}
	b := a.build(trials, false)
	for _, c := range b.checks {
		if v := b.d.Nodes[c.node].Quantity.Value; v < 0 || v == 0 && !c.zero || v != v {
			return derivation.Derivation{}, c.problem()
		}
	}
	return b.d, b.problem
}

// Structure is the derivation of trials without their values: which steps there
// are, for somebody who may not see what they come to.
func (a *Assay) Structure(trials []Measured) derivation.Derivation {
	if len(trials) == 0 && !a.ready.MadeOnly() {
		return derivation.Derivation{}
	}
	return a.build(trials, true).d
}

// Answer is what one trial gives by itself, in the unit that is asked for.
func (a *Assay) Answer(m Measured) (quantity.Quantity, *Problem) {
	d, problem := a.Derive([]Measured{m})
	if problem != nil {
		return quantity.Quantity{}, problem
	}
	return d.Answer().Quantity, nil
}

// Titres are the volumes that a trial takes, mL: to the end, and to the first
// of two end points.
type Titres struct{ Last, First float64 }

// Forward returns the titres that a trial with this sample takes for an answer
// in the unit that is asked for, and, of a mixture, for the other component's.
// What was not measured for the trial is taken at its nominal value. Where no
// titre gives the answer the problem says why.
func (a *Assay) Forward(m Measured, answer, second float64) (Titres, *Problem) {
	return a.Really(m, answer, second, nil)
}

// Really is Forward for a sample, glassware and solutions as they really are: off says
// by how much the true value of a node of Structure differs from what the record says.
func (a *Assay) Really(m Measured, answer, second float64, off []float64) (Titres, *Problem) {
	b := a.build([]Measured{m}, true)
	if b.problem != nil {
		return Titres{}, b.problem
	}
	p := b.d.Program()
	for i := range off {
		p.Values[i] += off[i]
	}
	p.Compute()
	if a.ready.Chemistry.EndPoints != practical.OneEndPoint {
		return b.forwardMixture(p, answer, second)
	}
	v, err := p.Solve(p.Last(), answer, b.titres[0])
	switch {
	case err != nil:
		return Titres{}, &Problem{Message: noWay.Message()}
	case v > 0:
		return Titres{Last: v}, nil
	case a.ready.Excess() >= 0:
		return Titres{}, &Problem{Message: usedUp.Message()}
	}
	return Titres{}, &Problem{Message: noWay.Message()}
}

// Carry returns the titre that a trial takes if its sample is what another
// trial found, from that trial's own titre. Where all trials have the same
// sample that is the titre itself.
func (a *Assay) Carry(from, to Measured) (float64, *Problem) {
	if !a.ready.Each() {
		return from.Titre().Float64(), nil
	}
	answer, problem := a.Answer(from)
	if problem != nil {
		return 0, problem
	}
	t, problem := a.Forward(to, answer.Value, 0)
	return t.Last, problem
}

// Expected is the titre that the practical's rough expectation gives for a
// trial: from the expected answer, else from the approximate concentration of
// the unknown, else the titre that is given, else from what the label says.
func (a *Assay) Expected(m Measured) (Titres, *Problem) {
	r := a.ready
	unknown := r.Unknown()
	switch {
	case r.MadeOnly():
	case r.Asked.Expected.Sign() > 0:
		return a.Forward(m, r.Asked.Expected.Float64(), r.Asked.Second.Float64())
	case unknown.Approximate.Sign() > 0 && r.Chemistry.EndPoints == practical.OneEndPoint &&
		(r.UnknownInBurette || a.portioned()):
		return a.fromStrength(m, unknown.Approximate.Float64())
	case r.Asked.Titre.Sign() > 0:
		t := Titres{Last: r.Asked.Titre.Float64()}
		if r.Chemistry.EndPoints != practical.OneEndPoint {
			t.First = t.Last / 2
		}
		return t, nil
	case a.Label().Sign() > 0 && r.Chemistry.EndPoints == practical.OneEndPoint:
		if label, err := quantity.Of(a.Label(), r.Asked.Label.Unit).In(r.Asked.Unit); err == nil {
			return a.Forward(m, label.Value, 0)
		}
	}
	return Titres{}, &Problem{Message: nothing.Message()}
}

// RoughAnswer is the answer that the practical roughly expects, in the unit that is asked for: it is
// given, or follows along the route from the approximate concentration of the unknown; 0 where
// neither is known.
func (a *Assay) RoughAnswer() float64 {
	r := a.ready
	if r.Asked.Expected.Sign() > 0 {
		return r.Asked.Expected.Float64()
	}
	if r.MadeOnly() {
		return a.build(nil, true).d.Answer().Quantity.Value
	}
	if r.Unknown().Approximate.Sign() <= 0 || r.Asked.Titre.Sign() > 0 && !r.UnknownInBurette && !a.portioned() {
		return 0
	}
	t, problem := a.Expected(Measured{Trial: "rough"})
	if problem != nil {
		return 0
	}
	of, trials := a.Foreseen(t, decimal.Must("0.0001"), 1)
	answer, problem := of.Answer(trials[0])
	if problem != nil {
		return 0
	}
	return answer.Value
}

// portioned tells whether a measured volume of one solution goes into each
// flask, and nothing happens to it there before it is titrated.
func (a *Assay) portioned() bool {
	_, ok := a.ready.Aliquot()
	return ok && a.ready.Excess() < 0
}

// fromStrength goes from the concentration of the unknown as it is titrated: of
// the titrant, or of what is measured into the flask.
func (a *Assay) fromStrength(m Measured, strength float64) (Titres, *Problem) {
	b := a.build([]Measured{m}, true)
	if b.problem != nil {
		return Titres{}, b.problem
	}
	p := b.d.Program()
	p.Compute()
	var v float64
	var err error
	if a.ready.UnknownInBurette {
		v, err = p.Solve(b.strength, strength, b.titres[0])
	} else {
		v, err = p.Solve(b.inFlask, strength*p.Values[b.portion]/1000, b.titres[0])
	}
	if err != nil || !(v > 0) {
		return Titres{}, &Problem{Message: noWay.Message()}
	}
	return Titres{Last: v}, nil
}

// Flask is what stands in the flask when a trial of a titre begins.
type Flask struct {
	Titrant float64 // concentration of what is in the burette, mol/L
	Amount  float64 // of what it titrates, mol
	Volume  float64 // mL; 0 where the route does not say
}

// FlaskVolume is what is in the flask by the route, mL; 0 where it does not say.
func (a *Assay) FlaskVolume() float64 { return a.flaskVolume() }

// InFlask returns it for a titre in mL: what the titrant meets follows from
// how much of it that takes.
func (a *Assay) InFlask(m Measured, titre float64) (Flask, bool) {
	r := a.ready
	if r.MadeOnly() {
		return Flask{}, false
	}
	reaction := r.Reactions[0]
	ratio := float64(reaction.NuTo) / float64(reaction.NuFrom)
	f := Flask{Volume: a.flaskVolume()}
	if !r.UnknownInBurette {
		f.Titrant = a.known().Float64()
		f.Amount = f.Titrant * titre / 1000 * ratio
		return f, f.Amount > 0
	}
	b := a.build([]Measured{m}, true)
	if b.problem != nil {
		return Flask{}, false
	}
	p := b.d.Program()
	p.Values[b.titres[0]] = titre
	p.Compute()
	f.Titrant = p.Values[b.strength]
	f.Amount = f.Titrant * titre / 1000 * ratio
	return f, f.Amount > 0
}

// flaskVolume is the volume before the titrant runs in, mL: what is measured
// into the flask, with what is added to it there.
func (a *Assay) flaskVolume() float64 {
	v := 0.0
	for i := len(a.ready.Steps) - 1; i >= 0; i-- {
		s := a.ready.Steps[i]
		if s.Measures() {
			v += a.volumeOf(i).Float64()
		}
		if s.Kind == practical.Aliquot || s.Kind == practical.Pipette {
			break
		}
		if s.Kind == practical.MakeUp {
			return a.volumeOf(i).Float64()
		}
	}
	return v
}

// Sample is how much of the unknown a trial takes from what a bench is given,
// mL; false where the sample is no liquid.
func (a *Assay) Sample(m Measured) (decimal.Decimal, bool) {
	s, at := a.ready.SampleStep(), 0
	if last, ok := a.ready.Aliquot(); ok && s.Kind != practical.Pipette {
		s, at = last, len(a.ready.Steps)-1
	}
	switch {
	case s.Kind != practical.Pipette && s.Kind != practical.Aliquot:
		return decimal.Decimal{}, false
	case s.By == practical.ByBurette && m.Sample != nil:
		return m.Sample[1].Value.Sub(m.Sample[0].Value), true
	}
	return a.volumeOf(at), true
}

// Foreseen is what would be measured if a practical went as it is expected to:
// trials of a titre that scatter by a step of the scale, as titres do, with
// everything else at its nominal value. It is for looking ahead only.
func (a *Assay) Foreseen(t Titres, step decimal.Decimal, trials int) (*Assay, []Measured) {
	r := a.ready
	zero := journal.Reading{Value: decimal.Whole(0).Round(step.Places()), Text: "0"}
	upTo := func(v decimal.Decimal) journal.Reading { return journal.Reading{Value: v, Text: v.String()} }
	rounded := func(v float64) decimal.Decimal {
		d, _ := decimal.FromFloat(v)
		return d.Round(step.Places())
	}
	held := a.held
	if r.ByBlank() && len(held.Blanks) == 0 {
		b := builder{Assay: a}
		held.Blanks = []Measured{Ran("foreseen-blank", zero, upTo(b.nominalBlank()))}
	}
	out := make([]Measured, trials)
	for i := range out {
		m := Ran("foreseen-"+string(rune('a'+i)), zero, upTo(rounded(t.Last)))
		if i == 1 {
			m.End = upTo(m.End.Value.Add(step))
		}
		if t.First > 0 {
			first := upTo(rounded(t.First))
			m.First = &first
		}
		head := r.SampleStep()
		if r.SampleBurette() {
			m.Sample = &[2]journal.Reading{zero, upTo(head.Volume)}
		}
		if r.ReagentBurette() {
			m.Reagent = &[2]journal.Reading{zero, upTo(r.Steps[r.Excess()].Volume)}
		}
		if r.MassEach() {
			m.Mass = &[2]journal.Reading{upTo(head.Mass), zero}
		}
		out[i] = m
	}
	return New(r, held), out
}
