package wording

import (
	"slices"
	"strings"

	dv "exactflask/core/model/derivation"
	"exactflask/core/values/quantity"
)

// product is a node taken apart into what multiplies and what divides.
type product struct {
	at     int
	divide bool
}

// expand goes back through products, quotients and, where asked, conversions;
// what is a sum or a leaf stays. Amounts that are sums are also returned: each
// gets a line of its own.
func (w Working) expand(at int, divide, conversions bool, out *[]product, sums *[]int) {
	n := w.d.Nodes[at]
	switch {
	case n.Operation == dv.Product || n.Operation == dv.Quotient:
		w.expand(n.Inputs[0], divide, conversions, out, sums)
		w.expand(n.Inputs[1], divide != (n.Operation == dv.Quotient), conversions, out, sums)
	case n.Operation == dv.Convert && n.Quantity.Unit == quantity.Mole:
		w.expand(n.Inputs[0], divide, conversions, out, sums)
	case n.Operation == dv.Convert && conversions:
		w.expand(n.Inputs[0], divide, conversions, out, sums)
		*out = append(*out, product{at, divide})
	default:
		*out = append(*out, product{at, divide})
		if n.Step != "" && (n.Operation == dv.Difference || n.Operation == dv.Mean) {
			*sums = append(*sums, at)
		}
	}
}

// operands are what a sum is made of.
func (w Working) operands(n dv.Node) []int {
	var out []int
	for _, at := range n.Inputs {
		if in := w.d.Nodes[at]; !in.Leaf() && in.Operation != dv.Difference || in.Step != "" {
			out = append(out, at)
		}
	}
	return out
}

// half is the upper or the lower part of a unit factor; key tells which halves
// cancel.
type half struct{ value, unit, key string }

// unitFactor is one factor of a chain.
type unitFactor struct {
	above, below *half
	node         string
	// gone tells which halves' units cancel.
	aboveGone, belowGone bool
}

// factors writes a node as one chain of unit factors, units cancelling.
func (w Working) factors(i int) ([]Token, []int) {
	n := w.node(i)
	if n.Operation == dv.Difference || n.Operation == dv.Mean {
		return w.Line(i), w.operands(n)
	}
	var parts []product
	var sums []int
	w.expand(i, false, true, &parts, &sums)
	all := make([]unitFactor, len(parts))
	for k, p := range parts {
		above, below := w.halves(p.at)
		all[k] = unitFactor{above: above, below: below, node: w.d.Nodes[p.at].ID}
		if p.divide {
			all[k].above, all[k].below = below, above
		}
	}
	cancel(all)
	line := []Token{w.symbol(n), sign("=")}
	for k, f := range all {
		if k > 0 {
			line = append(line, sign("×"))
		}
		line = append(line, f.token())
	}
	return append(line, sign("="), w.figure(i, !w.last(i))), sums
}

// halves writes a node as what stands above and below in a chain; below is nil
// where nothing does.
func (w Working) halves(at int) (above, below *half) {
	in := w.node(at)
	of := Formula(in.Of)
	switch {
	case in.Operation == dv.Convert:
		a, b := w.d.Nodes[in.Inputs[0]].Quantity.Unit, in.Quantity.Unit
		above, below = &half{"1", w.Unit(b), w.Unit(b) + in.Of}, &half{"1", w.Unit(a), w.Unit(a) + in.Of}
		if ratio := b.Scale() / a.Scale(); ratio >= 1 {
			below.value = quantity.Show(ratio, 0)
		} else {
			above.value = quantity.Show(1/ratio, 0)
		}
		return above, below
	case in.Operation == dv.Ratio:
		top, bottom, _ := strings.Cut(in.Written, "/")
		amount := w.multipliedWith(at)
		return &half{top, "mol " + of, "mol" + in.Of}, &half{bottom, "mol " + Formula(amount), "mol" + amount}
	case in.Quantity.Unit == quantity.MolePerL:
		l := w.Unit(quantity.Litre)
		return &half{w.digits(at, true), "mol " + of, "mol" + in.Of}, &half{"1", l, l + in.Of}
	case in.Quantity.Unit == quantity.GramPerMole:
		return &half{w.digits(at, true), strings.TrimSpace("g " + of), "g" + in.Of},
			&half{"1", strings.TrimSpace("mol " + of), "mol" + in.Of}
	case in.Quantity.Unit == quantity.Mole:
		return &half{w.digits(at, true), "mol " + of, "mol" + in.Of}, nil
	}
	unit := w.Unit(in.Quantity.Unit)
	return &half{w.digits(at, true), unit, unit + in.Of}, nil
}

// multipliedWith is the substance whose amount a ratio is multiplied with.
func (w Working) multipliedWith(ratio int) string {
	of := ""
	for _, m := range w.d.Nodes {
		if m.Operation == dv.Product && m.Inputs[1] == ratio {
			of = w.d.Nodes[m.Inputs[0]].Of
		}
	}
	return of
}

// cancel lets each unit above cancel one below.
func cancel(all []unitFactor) {
	for i := range all {
		for j := range all {
			a, b := all[i].above, all[j].below
			if a != nil && b != nil && a.key == b.key && a.unit != "" && !all[i].aboveGone && !all[j].belowGone {
				all[i].aboveGone, all[j].belowGone = true, true
			}
		}
	}
}

func (f unitFactor) token() Token {
	top, topPlain := write(f.above, f.aboveGone)
	t := Token{LaTeX: top, Plain: topPlain, Node: f.node}
	if f.below != nil {
		bottom, bottomPlain := write(f.below, f.belowGone)
		t.LaTeX, t.Plain = `\dfrac{`+top+`}{`+bottom+`}`, "("+topPlain+" / "+bottomPlain+")"
	}
	return t
}

func write(h *half, gone bool) (latex, plain string) {
	if h == nil {
		return "1", "1"
	}
	if h.unit == "" {
		return h.value, h.value
	}
	tex := texUnit(h.unit)
	if gone {
		tex = `\cancel{` + tex + `}`
	}
	return h.value + `\,` + tex, h.value + Thin + h.unit
}

// inOneFormula writes a node as one formula, in symbols and then in numbers.
func (w Working) inOneFormula(i int) ([]Token, []int) {
	n := w.node(i)
	if n.Operation == dv.Difference || n.Operation == dv.Mean {
		return w.Line(i), w.operands(n)
	}
	if n.Operation == dv.Convert && !w.d.Nodes[n.Inputs[0]].Leaf() {
		// Another unit of the same is a line of its own: the formula gives it in its
		// usual one.
		return w.Line(i), n.Inputs
	}
	var parts []product
	var sums []int
	w.expand(i, false, false, &parts, &sums)
	var above, below, abovePlain, belowPlain []string
	for _, p := range parts {
		t := w.symbol(w.d.Nodes[p.at])
		if p.divide {
			below, belowPlain = append(below, t.LaTeX), append(belowPlain, t.Plain)
		} else {
			above, abovePlain = append(above, t.LaTeX), append(abovePlain, t.Plain)
		}
	}
	slices.SortStableFunc(parts, func(a, b product) int {
		switch {
		case a.divide == b.divide:
			return 0
		case b.divide:
			return -1
		}
		return 1
	})
	var numbers []Token
	for k, p := range parts {
		if k > 0 {
			mark := sign("×")
			if p.divide {
				mark = sign("÷")
			}
			numbers = append(numbers, mark)
		}
		numbers = append(numbers, w.figure(p.at, true))
	}
	symbols := Token{LaTeX: strings.Join(above, ` \cdot `), Plain: strings.Join(abovePlain, " · ")}
	if len(below) > 0 {
		symbols.LaTeX = `\dfrac{` + symbols.LaTeX + `}{` + strings.Join(below, ` \cdot `) + `}`
		symbols.Plain += " / (" + strings.Join(belowPlain, " · ") + ")"
	}
	line := append([]Token{w.symbol(n), sign("="), symbols, sign("=")}, numbers...)
	return append(line, sign("="), w.figure(i, !w.last(i))), sums
}
