package assay

import (
	"slices"
	"strconv"

	dv "exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// builder adds nodes to a derivation, from the titres back up the route.
type builder struct {
	*Assay
	d      dv.Derivation
	hollow bool // without the values of titres: for what is to be found forwards
	shared []sharedLeaf
	checks []check
	// problem is what cannot even be built.
	problem *Problem

	prefix string    // of the ids of a trial that is worked out by itself
	trial  *Measured // that trial
	at     *Measured // whose sample is used: the trial, or the first of all

	begun    map[string][]int // places of start and refill readings that two titres share, by trial
	titres   []int            // places of the titres that were put in
	strength int              // of the titrant's concentration, with the unknown in the burette
	inFlask  int              // of the amount of analyte in the flask
	portion  int              // of the volume that was measured into it
}

type sharedLeaf struct {
	id string
	at int
}

// check is a value that has to be more than zero, or not less than it.
type check struct {
	node  int
	zero  bool // it may be zero
	code  finding.Code
	args  []finding.Value
	trial string
}

func (c check) problem() *Problem { return &Problem{c.code.Message(c.args...), c.trial} }

// build makes the derivation of trials. A hollow one has titres of 1 mL: only
// what does not follow from them means something.
func (a *Assay) build(trials []Measured, hollow bool) *builder {
	if a.ready.MadeOnly() {
		b := &builder{Assay: a, hollow: hollow}
		b.strength = b.askStrength(b.made())
		return b
	}
	b := &builder{Assay: a, hollow: hollow, at: &trials[0]}
	b.d.Nodes = make([]dv.Node, 0, b.about(len(trials)))
	if len(a.held.Blanks) > 0 {
		b.meanOf(dv.Blank, a.held.Blanks, false, false)
	} else if a.ready.ByBlank() && !hollow {
		b.problem = &Problem{Message: noBlank.Message()}
	}
	if !a.ready.Each() {
		b.whole(trials)
		return b
	}
	// Every trial has its own sample: each gives an answer, and these are averaged.
	answers := make([]int, len(trials))
	for i := range trials {
		t := &trials[i]
		b.prefix, b.trial, b.at = t.Trial+"/", t, t
		titre := b.titre(*t, hollow, false)
		b.d.Nodes[titre].Own = b.ready.Rules.Subtractions
		b.require(titre, false, notPositive, finding.Exact(t.Titre(), quantity.Millilitre))
		answers[i] = b.from(titre)
	}
	b.prefix, b.trial = "", nil
	first := b.d.Nodes[answers[0]]
	b.add(dv.Node{ID: dv.Answer, Letter: first.Letter, Of: first.Of, Operation: dv.Mean, Inputs: answers,
		Step: "step.mean-answer", Quantity: quantity.Quantity{Unit: first.Quantity.Unit}})
	return b
}

// about is how many nodes a derivation of so many trials has, so that the list is rarely
// made anew: of each its readings and what follows from them alone.
func (b *builder) about(trials int) int {
	each := 3
	if b.ready.Each() {
		each = 12
	} else if b.ready.Chemistry.EndPoints != practical.OneEndPoint {
		each = 5
	}
	return each*(trials+len(b.held.Blanks)) + 20
}

func (b *builder) trialID() string {
	if b.trial == nil {
		return ""
	}
	return b.trial.Trial
}

func (b *builder) require(node int, zero bool, code finding.Code, args ...finding.Value) {
	if !b.hollow {
		b.checks = append(b.checks, check{node, zero, code, args, b.trialID()})
	}
}

// whole works out an answer from the mean titre.
func (b *builder) whole(trials []Measured) {
	titre := b.meanOf(dv.MeanTitre, trials, b.hollow, false)
	if len(b.held.Blanks) > 0 && !b.ready.ByBlank() {
		titre = b.lessBlank(titre)
	}
	if b.ready.Chemistry.EndPoints != practical.OneEndPoint {
		b.twoEndPoints(trials, titre)
		return
	}
	b.from(titre)
}

// titre adds the readings of a trial and their difference; over refills it is
// the sum of the fills.
func (b *builder) titre(m Measured, hollow, first bool) int {
	of := b.ready.Titrant.Plain()
	id, end := m.Trial+"/titre", m.Trial+"/end"
	v, last := m.Titre(), m.End
	if first {
		id, end = m.Trial+"/first-titre", m.Trial+"/first-end"
		if m.First != nil {
			last = *m.First
		}
		v = m.FirstTitre()
	}
	if hollow {
		at := b.put(dv.Node{ID: id, Letter: "V", Of: of, Operation: dv.Read, Trial: m.Trial,
			Source: dv.Source{Kind: dv.Burette, Point: dv.End}, Quantity: quantity.Quantity{Value: 1,
				Unit: quantity.Millilitre, Figures: 4}})
		b.titres = append(b.titres, at)
		return at
	}
	read := func(id string, r journal.Reading, point dv.Point, curve float64) int {
		return b.put(leaf(dv.Node{ID: id, Letter: "V", Of: of, Operation: dv.Read, Entry: r.Entry, Trial: m.Trial,
			Written: r.Text, Source: dv.Source{Kind: dv.Burette, Point: point, Curve: curve}}, r.Value, quantity.Millilitre))
	}
	inputs := make([]int, 0, 2+2*len(m.Burette.Fills))
	inputs = append(inputs, read(end, last, dv.End, m.Curve))
	if first { // the total has the others already
		inputs = append(inputs, b.begun[m.Trial][:1+2*m.FirstFills]...)
	} else {
		inputs = append(inputs, read(m.Trial+"/start", *m.Burette.Start, dv.Start, 0))
		for i, f := range m.Burette.Fills {
			n := strconv.Itoa(i + 1)
			inputs = append(inputs, read(m.Trial+"/before-refill-"+n, *f.Before, dv.Refill, 0),
				read(m.Trial+"/after-refill-"+n, *f.After, dv.Refill, 0))
		}
		if b.ready.Chemistry.EndPoints != practical.OneEndPoint {
			if b.begun == nil {
				b.begun = map[string][]int{}
			}
			b.begun[m.Trial] = slices.Clone(inputs[1:])
		}
	}
	if m.Burette.Rising { // start less end, and after filling less before it
		for i := 0; i+1 < len(inputs); i += 2 {
			inputs[i], inputs[i+1] = inputs[i+1], inputs[i]
		}
	}
	return b.put(dv.Node{ID: id, Letter: "V", Of: of, Operation: dv.Difference, Inputs: inputs, Trial: m.Trial,
		Quantity: quantity.Of(v, quantity.Millilitre)})
}

// meanOf adds titres and their mean. The figures of a sum or difference follow
// its decimals (common practice).
func (b *builder) meanOf(id string, trials []Measured, hollow, first bool) int {
	inputs, all, places := make([]int, len(trials)), make([]decimal.Decimal, len(trials)), -1
	for i, t := range trials {
		inputs[i], all[i] = b.titre(t, hollow, first), t.Titre()
		b.d.Nodes[inputs[i]].Own = b.ready.Rules.Subtractions && id != dv.Blank
		if first {
			all[i] = t.FirstTitre()
		}
		if p := all[i].Places(); places < 0 || p < places {
			places = p
		}
	}
	n := dv.Node{ID: id, Letter: "V", Of: b.ready.Titrant.Plain(), Operation: dv.Mean, Inputs: inputs,
		Quantity: quantity.Quantity{Value: 1, Unit: quantity.Millilitre, Figures: 4}}
	if hollow {
		return b.put(n)
	}
	mean, _ := decimal.Mean(all...)
	n.Quantity = quantity.Of(mean.Round(places), quantity.Millilitre)
	if !b.ready.Rules.RoundMean {
		n.Quantity.Value = mean.Float64()
	}
	at := b.put(n)
	b.require(at, false, notPositive, finding.Exact(mean.Round(places), quantity.Millilitre))
	return at
}

func (b *builder) lessBlank(titre int) int {
	blank, _ := b.d.Find(dv.Blank)
	t := b.d.Nodes[titre]
	at := b.add(dv.Node{ID: b.prefix + dv.Corrected, Letter: "V", Of: t.Of, Operation: dv.Difference,
		Inputs: []int{titre, blank}, Trial: t.Trial, Quantity: quantity.Quantity{Unit: quantity.Millilitre}})
	b.require(at, false, blankLarge)
	return at
}

// from goes from a titre in mL to the answer.
func (b *builder) from(titre int) int {
	p := b.prefix
	if p != "" && len(b.held.Blanks) > 0 && !b.ready.ByBlank() {
		titre = b.lessBlank(titre)
	}
	litres := b.convert(p+dv.TitreLitres, titre, quantity.Litre)
	if b.ready.UnknownInBurette {
		return b.burette(litres)
	}
	amount := b.amount(p+dv.KnownAmount, b.ready.Titrant.Plain(), dv.Nowhere, dv.Product, "step.amount-known",
		b.knownLeaf(), litres)
	for i, r := range b.reactions() {
		amount = b.react(numbered(dv.MoleRatio, i), named{p + numbered(dv.Amount, i), dv.Nowhere, "step.ratio"}, amount, r, false)
	}
	return b.up(amount)
}

// reactions lead from the titrant to what the route ends in. Where the number
// of protons is asked for the last ratio is what is looked for.
func (b *builder) reactions() []practical.Reaction {
	r := b.ready.Reactions
	if b.ready.Asked.What == practical.Protons && b.ready.Excess() < 0 {
		return r[:len(r)-1]
	}
	return r
}
