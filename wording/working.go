package wording

import (
	"strings"

	"exactflask/core/chemistry/chem"
	dv "exactflask/core/model/derivation"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Step is one line of the working.
type Step struct {
	Title  string  `json:"title"`
	Tokens []Token `json:"tokens"`
}

// Plain writes the step in one line of text.
func (s Step) Plain() string { return join(s.Tokens, func(t Token) string { return t.Plain }) }

// LaTeX writes the step for a mathematical typesetter.
func (s Step) LaTeX() string { return join(s.Tokens, func(t Token) string { return t.LaTeX }) }

func join(tokens []Token, part func(Token) string) string {
	parts := make([]string, len(tokens))
	for i, t := range tokens {
		parts[i] = part(t)
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

// Working writes a derivation for one reader.
type Working struct {
	Writer
	d      dv.Derivation
	answer quantity.Quantity
	trials map[string]string // names by id
}

// Working returns the writer of a dv. answer is the last value at the
// figures of the practical; trials are the names of trials by id.
func (w Writer) Working(d dv.Derivation, answer quantity.Quantity, trials map[string]string) Working {
	return Working{w, d, answer, trials}
}

// node is a node as it is shown: the answer at the figures of the practical.
func (w Working) node(i int) dv.Node {
	n := w.d.Nodes[i]
	if i == len(w.d.Nodes)-1 {
		n.Quantity = w.answer
	}
	return n
}

func (w Working) last(i int) bool { return i == len(w.d.Nodes)-1 }

// Steps writes the working in one of the three styles.
func (w Working) Steps(style practical.Working) []Step {
	if style == practical.BySteps {
		var out []Step
		for i, n := range w.d.Nodes {
			if n.Step != "" || n.ID == dv.Second || w.last(i) {
				out = append(out, Step{w.Title(i), w.Line(i)})
			}
		}
		return out
	}
	heads := []int{len(w.d.Nodes) - 1}
	if second, ok := w.d.Find(dv.Second); ok {
		heads = append(heads, second)
	}
	var out []Step
	seen := map[int]bool{}
	for len(heads) > 0 {
		i := heads[0]
		heads = heads[1:]
		if seen[i] {
			continue
		}
		seen[i] = true
		write := w.inOneFormula
		if style == practical.ByFactors {
			write = w.factors
		}
		line, more := write(i)
		out = append([]Step{{w.Title(i), line}}, out...) // what it is made of stands before it
		heads = append(heads, more...)
	}
	return out
}

// Title names a step.
func (w Working) Title(i int) string {
	n := w.node(i)
	code := n.Step
	if code == "" {
		code = "step.convert"
	}
	of, where := Formula(n.Of), w.Where(n)
	if code == "step.amount-known" && where != "" {
		of = w.Text("working.of-portion", "of", of, "where", where)
	}
	from, ratio := "", ""
	for _, at := range n.Inputs {
		switch in := w.d.Nodes[at]; {
		case in.Operation == dv.Ratio:
			from, ratio = Formula(w.d.Nodes[n.Inputs[0]].Of), strings.ReplaceAll(in.Written, "/", " : ")
		case in.Letter == "f":
			ratio = w.figure(at, false).Plain
		}
	}
	return w.ofTrial(n, w.Text(code, "of", of, "where", where, "from", from, "ratio", ratio))
}

// OwnTitle names a step of the student's own working: the way is not given away.
func (w Working) OwnTitle(n dv.Node, code string) string {
	return w.ofTrial(n, w.Text(code+".own", "of", Formula(n.Of), "where", w.Where(n)))
}

func (w Working) ofTrial(n dv.Node, text string) string {
	if name := w.trials[n.Trial]; name != "" {
		return w.Text("working.of-trial", "trial", name, "text", text)
	}
	return text
}

// Where names a portion, in the reader's units.
func (w Writer) Where(n dv.Node) string {
	switch n.Where {
	case dv.Nowhere:
		return ""
	case dv.OfVolume:
		return w.Value(finding.Exact(n.MadeUp, quantity.Millilitre))
	}
	return w.Text("where." + string(n.Where))
}

// Line writes "symbol = inputs = value". Shown intermediates carry one guard
// figure; nothing is rounded inside.
func (w Working) Line(i int) []Token {
	n := w.node(i)
	symbol := w.symbol(n)
	line := []Token{symbol, sign("=")}
	inputs, symbols := make([]Token, len(n.Inputs)), make([]Token, len(n.Inputs))
	same, telling := len(n.Inputs) > 0, true
	for j, at := range n.Inputs {
		in := w.d.Nodes[at]
		inputs[j], symbols[j] = w.figure(at, true), w.symbol(in)
		same = same && symbols[j].Plain == symbol.Plain
		telling = telling && in.Letter != "r" && in.Letter != "f"
	}
	if same && n.Step == "" {
		line = line[:0] // the inputs have the same symbol; it would say nothing
	}
	switch n.Operation {
	case dv.Difference:
		for j, in := range inputs {
			if j > 0 {
				line = append(line, sign([]string{"+", "−"}[j%2]))
			}
			line = append(line, in)
		}
		line = append(line, sign("="))
	case dv.Product, dv.Quotient:
		mark := sign("×")
		if n.Operation == dv.Quotient {
			mark = sign("÷")
		}
		if telling {
			line = append(line, symbols[0], mark, symbols[1], sign("="))
		}
		line = append(line, inputs[0], mark, inputs[1], sign("="))
	case dv.Mean:
		line = append(line, sign("("))
		for j := range inputs {
			if j > 0 {
				line = append(line, sign("+"))
			}
			line = append(line, inputs[j])
		}
		line = append(line, sign(")"), sign("÷"), sign(quantity.Show(float64(len(inputs)), 0)), sign("="))
	case dv.Convert:
		line = append(line, inputs[0], sign("="))
	}
	return append(line, w.figure(i, !w.last(i)))
}

var signsLaTeX = map[string]string{"×": `\times`, "÷": `\div`, "−": "-"}

func sign(plain string) Token {
	if latex, ok := signsLaTeX[plain]; ok {
		return Token{LaTeX: latex, Plain: plain}
	}
	return Token{LaTeX: plain, Plain: plain}
}

// digits writes the digits of a node: leaves as they were written, computed
// ones with a guard figure where asked.
func (w Working) digits(i int, guard bool) string {
	n := w.node(i)
	// A titre is an exact difference; converting adds no doubt either.
	switch {
	case n.Operation == dv.Molar:
		return quantity.Show(n.Quantity.Value, 5)
	case n.Leaf() && n.Written != "":
		return strings.ReplaceAll(n.Written, ",", ".")
	case guard && !w.exact(i) && n.Quantity.Figures > 0:
		return Show(n.Quantity.Value, n.Quantity.Figures+1)
	default:
		return Show(n.Quantity.Value, n.Quantity.Figures)
	}
}

// exact tells whether a value is a reading, a given one, their difference, or
// one of these in another unit.
func (w Working) exact(i int) bool {
	switch n := w.d.Nodes[i]; n.Operation {
	case dv.Difference:
		return n.Step == ""
	case dv.Convert:
		from := n.Inputs[0]
		return w.d.Nodes[from].Leaf() || w.exact(from)
	}
	return false
}

// figure writes a node's value with its unit.
func (w Working) figure(i int, guard bool) Token {
	n := w.node(i)
	value, unit := w.digits(i, guard), w.Unit(n.Quantity.Unit)
	t := Token{Node: n.ID, Plain: Minus(value), LaTeX: value}
	if n.Operation == dv.Ratio {
		top, bottom, _ := strings.Cut(value, "/")
		t.LaTeX = `\tfrac{` + top + `}{` + bottom + `}`
	}
	if unit != "" {
		t.Plain += Thin + unit
		t.LaTeX += `\,` + texUnit(unit)
	}
	return t
}

// Figure is a node's value with its unit, without a guard figure.
func (w Working) Figure(i int) string { return w.figure(i, false).Plain }

// symbol writes the symbol of a node.
func (w Writer) symbol(n dv.Node) Token {
	if n.Letter == "r" {
		return Token{LaTeX: `\text{ratio}`, Plain: "ratio"}
	}
	letter := n.Letter
	switch {
	case letter == "ρ":
		letter = `\rho`
	case len([]rune(letter)) == 2:
		letter = `\mathrm{` + letter + `}`
	}
	var plain, latex []string
	if n.Of != "" {
		plain, latex = append(plain, Formula(n.Of)), append(latex, texFormula(n.Of))
	}
	if where := w.Where(n); where != "" {
		plain = append(plain, where)
		tex := `\text{` + where + `}`
		if volume, unit, ok := strings.Cut(where, Thin); ok { // such as 250.0 mL
			tex = volume + `\,` + texUnit(unit)
		}
		latex = append(latex, tex)
	}
	if n.Letter == "f" || len(plain) == 0 {
		return Token{LaTeX: letter, Plain: n.Letter}
	}
	return Token{LaTeX: letter + "(" + strings.Join(latex, `,\,`) + ")",
		Plain: n.Letter + "(" + strings.Join(plain, ", ") + ")"}
}

// Symbol is the symbol of a node, in plain text and in LaTeX.
func (w Writer) Symbol(n dv.Node) (plain, latex string) {
	t := w.symbol(n)
	return t.Plain, t.LaTeX
}

var texSigns = strings.NewReplacer("³", "^3", "%", `\%`)

func texUnit(unit string) string {
	unit = texSigns.Replace(unit)
	for _, of := range []string{"mol ", "g "} {
		if formula, ok := strings.CutPrefix(unit, of); ok && formula != "" {
			return `\mathrm{` + strings.TrimSpace(of) + `}\,` + texFormula(formula)
		}
	}
	return `\mathrm{` + strings.ReplaceAll(unit, " ", `\,`) + `}`
}

func texFormula(text string) string {
	if f, err := chem.ParseFormula(text); err == nil {
		return f.LaTeX()
	}
	return `\text{` + text + `}`
}
