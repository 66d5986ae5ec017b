package view

import (
	"math"
	"strings"

	"exactflask/core/judgement/experiment"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
	"exactflask/wording"
)

// Bottle is one's own solution, in words.
type Bottle struct {
	Text string `json:"text"`
	Low  bool   `json:"low,omitempty" doc:"it does not last for two more trials"`
}

// BottleOf puts a bottle into words; nil for none.
func BottleOf(r *practical.Ready, b *experiment.Bottle, style practical.Style) *Bottle {
	if b == nil {
		return nil
	}
	w := wording.For(style, r.Showing.Style)
	var said []string
	for _, s := range b.Say {
		said = append(said, w.Say(s))
	}
	return &Bottle{strings.Join(said, " "), b.Low}
}

// products are sentences about one's own solution and about the salt that is made.
func (m *maker) products() []string {
	var out []string
	if p := m.ev.Prepared; p != nil {
		c := finding.Number(p.Concentration, p.Figures, quantity.MolePerL)
		if p.Found == nil {
			out = append(out, m.Text("prepared.expects", "concentration", c))
		} else {
			side := "side.above"
			if p.Found.Percent < 0 {
				side = "side.below"
			}
			out = append(out, m.Text("prepared.found", "concentration", c, "percent",
				finding.Number(math.Abs(p.Found.Percent), 2, quantity.Percent), "side", m.Text(side)))
		}
	}
	if s := m.ev.Salt; s != nil {
		expected, formula := finding.Number(s.Expected, 3, quantity.Gram), finding.Formula(s.Formula)
		switch {
		case s.Crystals != nil:
			out = append(out, m.Text("salt.yield", "crystals", finding.Exact(*s.Crystals, quantity.Gram), "expected", expected,
				"formula", formula, "yield", finding.Number(s.Yield, 3, quantity.Percent)))
		default:
			out = append(out, m.Text("salt.expects", "volume", finding.Exact(s.Volume, quantity.Millilitre), "expected", expected,
				"formula", formula))
		}
	}
	return out
}
