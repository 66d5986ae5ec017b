package wording

import (
	"strings"

	dv "exactflask/core/model/derivation"
	"exactflask/core/record/practical"
)

// Origin says where a figure comes from.
type Origin struct {
	Name  string  `json:"name" doc:"what the figure is"`
	Text  string  `json:"text" doc:"how it follows"`
	Line  []Token `json:"line" doc:"the computation with its inputs"`
	Entry string  `json:"entry,omitempty" doc:"id of the notebook entry of a reading"`
	Trial string  `json:"trial,omitempty"`
}

// Origins says of every node where it comes from, by its id.
func (w Working) Origins(r *practical.Ready) map[string]Origin {
	out := make(map[string]Origin, len(w.d.Nodes))
	for i, n := range w.d.Nodes {
		o := Origin{Name: w.Name(i), Line: w.Line(i), Entry: n.Entry, Trial: n.Trial}
		o.Text = w.Text(w.originCode(i, r), "written", w.Figure(i), "place", o.Name, "ratio",
			strings.ReplaceAll(n.Written, "/", " : "))
		out[n.ID] = o
	}
	return out
}

func (w Working) originCode(i int, r *practical.Ready) string {
	n := w.d.Nodes[i]
	switch {
	case n.Source.Nominal:
		return "origin.nominal"
	case n.Operation == dv.Read && n.Source.Point == dv.NoPoint:
		return "origin.measured"
	case n.Operation == dv.Given:
		if code := "origin.given-" + string(n.Source.Kind); w.Has(code) {
			return code
		}
	case n.Operation == dv.Mean && w.last(i):
		return "origin.mean-answer"
	case n.Operation == dv.Mean && r.Rules.RoundMean:
		return "origin.mean-rounded"
	case n.Operation == dv.Difference && n.Step != "":
		return "origin.difference-amount"
	}
	return "origin." + string(n.Operation)
}

var letterNames = map[string]string{"r": "name.ratio", "n": "name.amount", "c": "name.concentration",
	"m": "name.mass", "M": "name.molar-mass", "f": "name.dilution",
	"w": "name.fraction", "ρ": "name.mass-concentration", "V": "name.volume", "x": "name.water", "z": "name.protons", "F": "name.factor",
	"N": "name.count", "V_m": "name.molar-volume"}

// Name says what a figure is.
func (w Working) Name(i int) string {
	n := w.node(i)
	trial := w.trials[n.Trial]
	switch {
	case n.Operation == dv.Read && n.Source.Point == dv.NoPoint: // by its letter
	case n.Operation == dv.Read && trial == "":
		return w.Text("name.weighing")
	case n.Operation == dv.Read && n.Source.Point == dv.Start:
		return w.Text("reading-of.start", "trial", trial)
	case n.Operation == dv.Read && n.Source.Point == dv.End:
		return w.Text("reading-of.end", "trial", trial)
	case n.Operation == dv.Read:
		return trial
	case n.ID == dv.Blank:
		return w.Text("name.blank")
	case n.ID == dv.Corrected:
		return w.Text("name.corrected")
	case n.ID == dv.First:
		return w.Text("name.first")
	case n.ID == dv.MeanTitre:
		return w.Text("name.mean-titre")
	case n.ID == n.Trial+"/first-titre":
		return w.Text("name.first-of", "trial", lower(trial))
	case n.Operation == dv.Difference && n.Step == "" && trial != "":
		if w.d.Nodes[n.Inputs[0]].Source.Titration() {
			return w.Text("name.titre-of", "trial", lower(trial))
		}
		return w.Text("name.sample-of", "trial", lower(trial))
	}
	of := Formula(n.Of)
	if where := w.Where(n); where != "" && of != "" {
		of = w.Text("working.of-portion", "of", of, "where", where)
	} else if where != "" {
		of = where
	}
	if code, ok := letterNames[n.Letter]; ok {
		return w.Text(code, "of", of)
	}
	return strings.TrimSpace(w.Text("name.other", "letter", n.Letter, "of", of))
}

func lower(s string) string {
	if s == "" {
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}
