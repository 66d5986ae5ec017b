package journal

import (
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Prepared says that one's own solution was made by diluting a stock: a volume of
// it was taken and made up. What was made up is what the bottle holds.
type Prepared struct {
	Stock  string `json:"stock" maxLength:"24" doc:"concentration of the stock, mol/L, as written"`
	Taken  string `json:"taken" maxLength:"24" doc:"mL of the stock, as written"`
	MadeUp string `json:"madeUp" maxLength:"24" doc:"mL in all, as written"`
}

var (
	preparedSaid  = finding.Declare("journal.prepared", "taken", "stock", "whole", "concentration")
	notDiluted    = finding.Declare("prepared.not-diluted", "taken", "whole")
	notPositive   = finding.Declare("prepared.not-positive", "value")
	preparedParts = []string{"stock", "taken", "madeUp"}
)

// Kind implements Part.
func (Prepared) Kind() Kind { return "prepared" }

// Check implements Part.
func (p Prepared) Check() *finding.Fault {
	for i, text := range []string{p.Stock, p.Taken, p.MadeUp} {
		if f := CheckNumber(preparedParts[i], text); f != nil {
			return f
		}
		if v, _ := ParseNumber(text); v.Sign() <= 0 {
			return notPositive.Fault(preparedParts[i], finding.Text(text))
		}
	}
	if _, taken, whole := p.values(); taken.Cmp(whole) > 0 {
		return notDiluted.Fault("taken", finding.Exact(taken, quantity.Millilitre), finding.Exact(whole, quantity.Millilitre))
	}
	return nil
}

func (p Prepared) values() (stock, taken, whole decimal.Decimal) {
	stock, _ = ParseNumber(p.Stock)
	taken, _ = ParseNumber(p.Taken)
	whole, _ = ParseNumber(p.MadeUp)
	return stock, taken, whole
}

// Concentration is c1 V1 / V2, mol/L, and the volume that was made, mL.
func (p Prepared) Concentration() (c, made decimal.Decimal) {
	stock, taken, whole := p.values()
	c, _ = stock.Mul(taken).Div(whole)
	return c, whole
}

// Figures is how many figures the concentration deserves: the fewest of the three.
func (p Prepared) Figures() int {
	stock, taken, whole := p.values()
	return figuresOf(stock, taken, whole)
}

// Trial implements Part.
func (Prepared) Trial() string { return "" }

// Text implements Part.
func (Prepared) Text() string { return "" }

// With implements Part: a preparation is withdrawn and written again.
func (Prepared) With(string) (Part, *finding.Fault) { return nil, repeatFault.Fault("value") }

// Said implements Part.
func (p Prepared) Said() finding.Message {
	stock, taken, whole := p.values()
	c, _ := p.Concentration()
	return preparedSaid.Message(finding.Exact(taken, quantity.Millilitre), finding.Exact(stock, quantity.MolePerL),
		finding.Exact(whole, quantity.Millilitre), finding.Exact(c.RoundFigures(p.Figures()), quantity.MolePerL))
}

// figuresOf is the fewest figures among some values.
func figuresOf(values ...decimal.Decimal) int {
	n := values[0].Figures()
	for _, v := range values {
		n = min(n, v.Figures())
	}
	return max(n, 1)
}

func (p Prepared) fold(c *folding, l *Line) {
	c.out.Lines = append(c.out.Lines, *l)
	if !l.Withdrawn {
		c.out.Prepared = l
	}
}
