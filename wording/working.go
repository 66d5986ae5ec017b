package wording

import (
	"strings"

	"exactflask/core/chem"
	"exactflask/core/experiment"
	"exactflask/core/finding"
	"exactflask/core/quantity"
	"exactflask/core/stoich"
)

// Step is one line of the working.
type Step struct {
	Title  string  `json:"title"`
	Tokens []Token `json:"tokens"`
}

// Plain writes the step in one line of text.
func (s Step) Plain() string {
	parts := make([]string, len(s.Tokens))
	for i, t := range s.Tokens {
		parts[i] = t.Plain
	}
	return strings.Join(parts, " ")
}

// Token is a piece of a line: a symbol, a sign or a figure. A figure names
// its node, so that "where from?" can be asked of it.
type Token struct {
	LaTeX string `json:"latex"`
	Plain string `json:"plain"`
	Node  string `json:"node,omitempty"`
}

// Origin says where a figure comes from.
type Origin struct {
	Name  string  `json:"name" doc:"what the figure is"`
	Text  string  `json:"text" doc:"how it follows"`
	Line  []Token `json:"line" doc:"the computation with its inputs"`
	Entry string  `json:"entry,omitempty" doc:"id of the notebook entry of a reading"`
	Trial string  `json:"trial,omitempty"`
}

func (w writer) answer(p experiment.Practical, ev experiment.Evaluation, trials map[string]TrialText) *AnswerText {
	r := ev.Result
	d := r.Derivation
	answer := d.Answer()
	unknown := p.Analyte
	if p.UnknownInBurette() {
		unknown = p.Titrant
	}
	figures := quantity.Show(float64(r.Answer.Figures), 0)
	out := &AnswerText{
		Statement: w.say("answer.statement", finding.Values("name", unknown.Name, "formula", formula(answer.Of), "value", r.Answer.String())),
		Symbol:    symbolLaTeX(answer), Value: r.Answer.String(), Unit: w.unit(r.Answer.Unit), Unrounded: quantity.Show(r.Answer.Value, 8),
		Figures: w.say("figures.fixed", finding.Values("figures", figures)),
		Origins: map[string]Origin{},
	}
	if p.Result.Figures == 0 {
		out.Figures = w.say("figures.rule", finding.Values("figures", figures, "limit", w.limit(d)))
	}
	if c := r.Expected; c != nil {
		out.Comparison = w.comparison(*c)
	}
	node := func(id string) stoich.Node { n, _ := d.Node(id); return n }
	known, ratio := node(stoich.NodeKnownAmount), node(stoich.NodeMoleRatio)
	values := finding.Values("known", formula(known.Of), "unknown", formula(answer.Of), "ratio", strings.ReplaceAll(ratio.Written, "/", " : "))
	final := answer
	final.Quantity = r.Answer
	out.Steps = []Step{
		{w.say("step.amount-known", values), w.line(d, known, true)},
		{w.say("step.ratio", values), w.line(d, node(stoich.NodeAmount), true)},
		{w.say("step.concentration", values), w.line(d, final, false)},
	}
	if _, unequal := d.Node(stoich.NodeMeanQuotient); unequal {
		values["known"] = formula(node(stoich.NodeKnown).Of)
		out.Steps = []Step{
			{w.say("step.quotient", values), w.line(d, node(stoich.NodeMeanQuotient), true)},
			{w.say("step.scaled", values), w.line(d, node(stoich.NodeScaled), true)},
			{w.say("step.ratio", values), w.line(d, final, false)},
		}
	}
	for _, n := range d.Nodes {
		o := Origin{Name: w.nodeName(n, trials), Line: w.line(d, n, n.ID != answer.ID), Entry: n.Entry, Trial: n.Trial}
		code := "origin." + string(n.Operation)
		switch {
		case n.Operation == stoich.Given && n.ID == stoich.NodeKnown:
			code = "origin.given-known"
		case n.Operation == stoich.Given:
			code = "origin.given-volume"
		case n.Operation == stoich.Mean && p.Result.RoundMean:
			code = "origin.mean-rounded"
		}
		if n.ID == answer.ID {
			o.Line = w.line(d, final, false)
		}
		o.Text = w.say(code, finding.Values("written", n.Written, "place", o.Name, "ratio", strings.ReplaceAll(n.Written, "/", " : ")))
		out.Origins[n.ID] = o
	}
	return out
}

// line writes "symbol = inputs = value". Shown intermediates carry one guard
// figure; nothing is rounded inside.
func (w writer) line(d stoich.Derivation, n stoich.Node, guard bool) []Token {
	equals := Token{LaTeX: "=", Plain: "="}
	line := []Token{{LaTeX: symbolLaTeX(n), Plain: symbolPlain(n)}, equals}
	if n.Operation == stoich.Difference || n.Operation == stoich.Mean || n.Operation == stoich.Convert {
		line = line[:0] // the inputs have the same symbol; it would say nothing
	}
	inputs := make([]Token, len(n.Inputs))
	symbols := make([]string, len(n.Inputs))
	latex := make([]string, len(n.Inputs))
	for i, id := range n.Inputs {
		in, _ := d.Node(id)
		inputs[i] = w.figure(in, true)
		symbols[i], latex[i] = symbolPlain(in), symbolLaTeX(in)
	}
	sign := func(l, p string) Token { return Token{LaTeX: l, Plain: p} }
	switch n.Operation {
	case stoich.Difference:
		for i, in := range inputs {
			if i > 0 {
				line = append(line, []Token{sign("+", "+"), sign("-", "−")}[i%2])
			}
			line = append(line, in)
		}
		line = append(line, equals)
	case stoich.Product, stoich.Quotient:
		mark := sign(`\times`, "×")
		if n.Operation == stoich.Quotient {
			mark = sign(`\div`, "÷")
		}
		if n.Letter != "q" && n.ID != stoich.NodeScaled && n.Letter != "n" || n.ID == stoich.NodeKnownAmount {
			line = append(line, sign(latex[0], symbols[0]), mark, sign(latex[1], symbols[1]), equals)
		}
		line = append(line, inputs[0], mark, inputs[1], equals)
	case stoich.Mean:
		line = append(line, sign("(", "("))
		for i := range inputs {
			if i > 0 {
				line = append(line, sign("+", "+"))
			}
			line = append(line, inputs[i])
		}
		line = append(line, sign(")", ")"), sign(`\div`, "÷"), sign(quantity.Show(float64(len(inputs)), 0), quantity.Show(float64(len(inputs)), 0)), equals)
	case stoich.Convert:
		line = append(line, inputs[0], equals)
	}
	return append(line, w.figure(n, guard))
}

// figure writes a node's value with its unit. Leaves are written as they
// were; computed ones get a guard figure where asked.
func (w writer) figure(n stoich.Node, guard bool) Token {
	value := n.Written
	leaf := n.Operation == stoich.Given || n.Operation == stoich.Read || n.Operation == stoich.Ratio
	// A titre is an exact difference; converting adds no doubt either.
	exact := n.Operation == stoich.Difference || n.Operation == stoich.Convert && n.ID == stoich.NodeAliquotL
	switch {
	case leaf && value != "":
		value = strings.ReplaceAll(value, ",", ".")
	case guard && !exact && n.Quantity.Figures > 0:
		value = quantity.Show(n.Quantity.Value, n.Quantity.Figures+1)
	default:
		value = n.Quantity.String()
	}
	unit := w.unit(n.Quantity.Unit)
	t := Token{Node: n.ID, Plain: minus(value), LaTeX: value}
	if n.Operation == stoich.Ratio {
		top, bottom, _ := strings.Cut(value, "/")
		t.LaTeX = `\tfrac{` + top + `}{` + bottom + `}`
	}
	if unit != "" {
		t.Plain += thin + unit
		t.LaTeX += `\,\mathrm{` + strings.ReplaceAll(unit, "³", "^3") + `}`
	}
	return t
}

func formula(plain string) string {
	if f, err := chem.ParseFormula(plain); err == nil {
		return f.String()
	}
	return plain
}

func symbolPlain(n stoich.Node) string {
	if n.Letter == "r" {
		return "ratio"
	}
	return n.Letter + "(" + formula(n.Of) + ")"
}

func symbolLaTeX(n stoich.Node) string {
	if n.Letter == "r" {
		return `\text{ratio}`
	}
	of := n.Of
	if f, err := chem.ParseFormula(n.Of); err == nil {
		of = f.LaTeX()
	}
	return n.Letter + "(" + of + ")"
}

// limit names the measured value with the fewest figures, which sets those of
// the answer.
func (w writer) limit(d stoich.Derivation) string {
	var at *stoich.Node
	for i, n := range d.Nodes {
		candidate := n.Operation == stoich.Mean || n.Operation == stoich.Given
		if candidate && (at == nil || n.Quantity.Figures < at.Quantity.Figures) {
			at = &d.Nodes[i]
		}
	}
	if at == nil {
		return ""
	}
	return w.figure(*at, false).Plain
}

func (w writer) nodeName(n stoich.Node, trials map[string]TrialText) string {
	trial := trials[n.Trial].Name
	switch {
	case n.Operation == stoich.Read && strings.HasSuffix(n.ID, "/start"):
		return trial + ", start"
	case n.Operation == stoich.Read && strings.HasSuffix(n.ID, "/end"):
		return trial + ", end"
	case n.Operation == stoich.Read:
		return trial
	case n.ID == stoich.NodeBlank:
		return w.text("[Mean] blank")
	case n.ID == stoich.NodeCorrected:
		return w.text("[Mean] [titre] less the blank")
	case n.Letter == "q":
		return "Quotient of volumes"
	case strings.HasSuffix(n.ID, "/sample"):
		return "Sample of " + strings.ToLower(trial[:1]) + trial[1:]
	case n.Operation == stoich.Difference:
		return w.text("[Titre] of " + strings.ToLower(trial[:1]) + trial[1:])
	case n.Operation == stoich.Mean:
		return w.text("[Mean] [titre]")
	case n.Operation == stoich.Ratio:
		return "Mole ratio"
	case n.Letter == "n":
		return "Amount of " + formula(n.Of)
	case n.Letter == "c":
		return "Concentration of " + formula(n.Of)
	default:
		return "Volume of " + formula(n.Of)
	}
}
