package view

import (
	"slices"
	"strings"

	"exactflask/core/model/derivation"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// GivenRow is something that the steps of a working are worked out from.
type GivenRow struct {
	Name string `json:"name"`
	Text string `json:"text,omitempty" doc:"as it is used, with its unit; left out where it is worked out by oneself"`
	Note string `json:"note,omitempty" doc:"that it is nominal, or where it is found"`
}

// given puts what a working is made from into rows, those of several samples under their names.
func (m *maker) given() []GivenRow {
	out := []GivenRow{}
	for _, g := range m.ev.Given {
		nodes := append(append([]derivation.Node{}, g.Readings...), g.Node)
		last := len(nodes) - 1
		for i := range g.Readings {
			nodes[last].Inputs = append(nodes[last].Inputs[:i:i], i)
		}
		// The last node of a derivation is its answer, which this is not.
		w := m.Working(derivation.Derivation{Nodes: append(nodes[:last+1:last+1], derivation.Node{})}, quantity.Quantity{}, m.names)
		row := GivenRow{Name: w.Name(last), Text: w.Figure(last)}
		switch {
		case g.Node.Operation == derivation.Ratio:
			row.Text, row.Note = "", m.Text("given.ratio")
		case g.Node.Operation == derivation.Molar:
			row.Text, row.Note = "", m.Text("given.molar")
		case g.Readings != nil:
			row.Text = m.spans(g.Readings)
		}
		for _, n := range nodes {
			switch {
			case n.Source.Curve > 0:
				row.Note = m.Text("given.on-curve")
			case n.Source.Nominal:
				row.Note = m.Text("given.nominal")
			case n.Operation == derivation.Read && n.Source.Point == derivation.NoPoint:
				row.Note = m.Text("given.measured-only")
				if n.Source.Instead.Sign() > 0 {
					row.Note = m.Text("given.measured", "nominal", finding.Exact(n.Source.Instead, n.Quantity.Unit))
				}
			}
		}
		if g.Sample != "" {
			row.Name = m.Text("work.of-sample", "sample", g.Sample, "title", row.Name)
		}
		if !slices.Contains(out, row) { // such as the ratios of two reactions
			out = append(out, row)
		}
	}
	return out
}

// spans writes pairs of readings, the later one first, as from the start to the end.
func (m *maker) spans(readings []derivation.Node) string {
	var out []string
	for i := 0; i+1 < len(readings); i += 2 {
		out = append(out, m.Text("given.span", "start", readings[i+1].Written, "end", readings[i].Written, "unit", m.After(readings[i].Quantity.Unit)))
	}
	return strings.Join(out, "; ")
}
