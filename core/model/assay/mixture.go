package assay

import (
	"strconv"

	dv "exactflask/core/model/derivation"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

func ratioText(r [2]int) string { return strconv.Itoa(r[0]) + "/" + strconv.Itoa(r[1]) }

// twoEndPoints separates a mixture with carbonate by its two titres. With V1
// to phenolphthalein and V2 to methyl orange (both from the start), the second
// part V2-V1 takes hydrogencarbonate to carbon dioxide. Source: common
// practice, no source.
func (b *builder) twoEndPoints(trials []Measured, total int) {
	first := b.meanOf(dv.First, trials, b.hollow, true)
	known, r := b.knownLeaf(), b.ready.Reactions[0]
	// The equation of the whole takes two protons a carbonate.
	ratio := b.share(dv.MoleRatio, func() dv.Node {
		n := [2]int{2 * r.NuTo, r.NuFrom}
		return dv.Node{Letter: "r", Of: proton.Plain(), Operation: dv.Ratio, Written: ratioText(n),
			Quantity: quantity.Quantity{Value: float64(n[0]) / float64(n[1]), Unit: quantity.One}}
	})
	protons := func(id string, titre int, where dv.Where) int {
		litres := b.convert(id+"-litres", titre, quantity.Litre)
		n := b.amount(id+"-titrant", b.ready.Titrant.Plain(), where, dv.Product, "step.amount-known", known, litres)
		return b.amount(id+"-protons", proton.Plain(), where, dv.Product, "", n, ratio)
	}
	one, both := protons("first", first, dv.ToFirstEnd), protons("both", total, dv.ToSecondEnd)
	second := b.amount("second-protons", proton.Plain(), dv.BetweenEnds, dv.Difference, "step.between-ends", both, one)
	b.require(second, true, firstLater)
	carbonate, more, less := second, one, second
	if b.ready.Chemistry.EndPoints == practical.CarbonateHydrogencarbonate {
		carbonate, more, less = one, second, one
	}
	other := b.amount("other-amount", b.ready.Other.Plain(), dv.Nowhere, dv.Difference, "step.other", more, less)
	b.require(other, true, wrongMix, finding.Formula(b.ready.Analyte.Plain()), finding.Formula(b.ready.Other.Plain()))
	n := b.amount(dv.Amount, b.ready.Analyte.Plain(), dv.Nowhere, dv.Convert, "step.carbonate", carbonate)

	// Both go back up the same route; the carbonate's is the answer.
	whole := b.Assay
	beside := *b.ready
	beside.Analyte, beside.As, beside.AsRatio = b.ready.Other, b.ready.Other, [2]int{1, 1}
	b.Assay, b.prefix = &Assay{&beside, b.held}, "other-"
	at := b.up(other)
	b.d.Nodes[at].ID = dv.Second
	b.Assay, b.prefix = whole, ""
	b.up(n)
}

// forwardMixture finds the two titres for the answers of both components.
func (b *builder) forwardMixture(p *dv.Program, answer, second float64) (Titres, *Problem) {
	place := func(id string) int {
		at, _ := b.d.Find(id)
		return at
	}
	carbonate, err := p.Solve(p.Last(), answer, place(dv.Amount))
	if err != nil {
		return Titres{}, &Problem{Message: noWay.Message()}
	}
	other, err := p.Solve(place(dv.Second), second, place("other-amount"))
	if err != nil {
		return Titres{}, &Problem{Message: noWay.Message()}
	}
	one := carbonate + other
	if b.ready.Chemistry.EndPoints == practical.CarbonateHydrogencarbonate {
		one = carbonate
	}
	first, err1 := p.Solve(place("first-protons"), one, b.titres[1])
	last, err2 := p.Solve(place("both-protons"), 2*carbonate+other, b.titres[0])
	if err1 != nil || err2 != nil || !(last > 0) {
		return Titres{}, &Problem{Message: noWay.Message()}
	}
	return Titres{Last: last, First: first}, nil
}
