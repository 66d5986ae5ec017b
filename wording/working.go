package wording

import (
	"math"
	"slices"
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

// LaTeX writes the step for a mathematical typesetter.
func (s Step) LaTeX() string {
	parts := make([]string, len(s.Tokens))
	for i, t := range s.Tokens {
		parts[i] = t.LaTeX
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

// answer puts the result into words.
func (w writer) answer(p experiment.Practical, ev experiment.Evaluation, trials map[string]TrialText) *AnswerText {
	r := ev.Result
	d := r.Derivation
	w.derivation = d
	answer := d.Answer()
	answer.Quantity = r.Answer
	figures := quantity.Show(float64(r.Answer.Figures), 0)
	out := &AnswerText{
		Statement: w.statement(p, r),
		Symbol:    symbolLaTeX(answer), Value: r.Answer.String(), Unit: w.unit(r.Answer.Unit), Unrounded: quantity.Show(r.Answer.Value, 8),
		Figures: w.say("figures.fixed", finding.Values("figures", figures)),
		Origins: map[string]Origin{}, Style: p.Result.Working, Others: map[experiment.Working][]Step{},
	}
	if p.Result.Figures == 0 {
		out.Figures = w.say("figures.rule", finding.Values("figures", figures, "limit", w.limit(d)))
	}
	if out.Style == "" {
		out.Style = experiment.BySteps
	}
	out.Comparison = w.comparisons(p, r)
	for _, style := range []experiment.Working{experiment.BySteps, experiment.ByFactors, experiment.ByFormula} {
		if w.brief && style != out.Style {
			continue
		}
		steps := w.working(d, r.Answer, style, trials)
		if style == out.Style {
			out.Steps = steps
		} else {
			out.Others[style] = steps
		}
	}
	out.Causes = []CauseText{}
	if w.brief {
		return out
	}
	for _, n := range d.Nodes {
		if n.ID == answer.ID {
			n = answer
		}
		o := Origin{Name: w.nodeName(n, trials), Line: w.line(d, n, n.ID != answer.ID), Entry: n.Entry, Trial: n.Trial}
		code := "origin." + string(n.Operation)
		switch {
		case n.Operation == stoich.Given:
			code = "origin.given-" + kindOf(n.Source)
			if _, ok := sentences[code]; !ok {
				code = "origin.given"
			}
		case n.Operation == stoich.Mean && n.ID == answer.ID:
			code = "origin.mean-answer"
		case n.Operation == stoich.Mean && p.Result.RoundMean:
			code = "origin.mean-rounded"
		case n.Operation == stoich.Difference && n.Step != "":
			code = "origin.difference-amount"
		}
		o.Text = w.say(code, finding.Values("written", w.figure(n, false).Plain, "place", o.Name, "ratio", strings.ReplaceAll(n.Written, "/", " : ")))
		out.Origins[n.ID] = o
	}
	out.Uncertainty = w.uncertainty(r)
	out.Causes = w.causes(r)
	target := r.Label
	if target == nil {
		target = r.Expected
	}
	if target != nil && r.Budget != nil && math.Abs(r.Answer.Value-target.Value) <= r.Budget.Expanded {
		out.Within = w.say("cause.within", nil)
	}
	return out
}

func kindOf(source string) string {
	kind, _, _ := strings.Cut(source, "-")
	return kind
}

// statement is the answer as a sentence.
func (w writer) statement(p experiment.Practical, r *experiment.Result) string {
	unknown := p.Analyte
	if p.UnknownInBurette() {
		unknown = p.Titrant
	}
	name := unknown.Name
	if r.What != stoich.Concentration { // the sample is named beside its substance
		if f, err := chem.ParseFormula(r.Of); err == nil && r.Of != "" {
			if found, ok := catalogueName(f); ok {
				name = found
			}
		}
	}
	values := finding.Values("name", name, "formula", formula(r.Of), "value", r.Answer.String(), "unit", unitAfter(w.unit(r.Answer.Unit)), "sample", p.Analyte.Name)
	if r.Whole != nil {
		values["whole"] = quantity.Show(*r.Whole, 0)
	}
	text := w.say("answer."+string(r.What), values)
	if s := r.Second; s != nil {
		text += " " + w.say("answer.second", finding.Values("formula", formula(s.Of), "value", s.Answer.String(), "unit", unitAfter(w.unit(s.Answer.Unit))))
	}
	return text
}

func unitAfter(unit string) string {
	if unit == "" {
		return ""
	}
	return thin + unit
}

func (w writer) comparisons(p experiment.Practical, r *experiment.Result) string {
	var out []string
	for _, c := range []struct {
		code string
		with *experiment.Comparison
	}{{"answer.comparison", r.Expected}, {"answer.label", r.Label}, {"answer.reference", r.Reference}} {
		if c.with != nil {
			out = append(out, w.compared(c.code, *c.with, r.Answer.Unit, p.Label.Text))
		}
	}
	return strings.Join(out, " ")
}

// working writes the working in one of the three styles.
func (w writer) working(d stoich.Derivation, answer quantity.Quantity, style experiment.Working, trials map[string]TrialText) []Step {
	last := d.Answer()
	last.Quantity = answer
	if style == experiment.BySteps {
		var out []Step
		for i, n := range d.Nodes {
			final := i == len(d.Nodes)-1
			if final {
				n = last
			}
			if n.Step == "" && !final && n.ID != stoich.NodeSecond {
				continue
			}
			out = append(out, Step{w.title(d, n, trials), w.line(d, n, !final)})
		}
		return out
	}
	var out []Step
	heads := []stoich.Node{last}
	if second, ok := d.Node(stoich.NodeSecond); ok {
		heads = append(heads, second)
	}
	seen := map[string]bool{}
	for len(heads) > 0 {
		n := heads[0]
		heads = heads[1:]
		if seen[n.ID] {
			continue
		}
		seen[n.ID] = true
		var line []Step
		var more []string
		if style == experiment.ByFactors {
			line, more = w.factors(d, n, trials)
		} else {
			line, more = w.inOneFormula(d, n, trials)
		}
		out = append(line, out...) // what it is made of stands before it
		for _, id := range more {
			m, _ := d.Node(id)
			heads = append(heads, m)
		}
	}
	return out
}

// title names a step.
func (w writer) title(d stoich.Derivation, n stoich.Node, trials map[string]TrialText) string {
	code := n.Step
	if code == "" {
		code = "step.convert"
	}
	values := finding.Values("of", formula(n.Of), "where", n.Where)
	if code == "step.amount-known" && n.Where != "" {
		values["of"] += ", " + n.Where
	}
	for _, id := range n.Inputs {
		in, _ := d.Node(id)
		if in.Operation == stoich.Ratio {
			amount, _ := d.Node(n.Inputs[0])
			values["from"], values["ratio"] = formula(amount.Of), strings.ReplaceAll(in.Written, "/", " : ")
		}
		if in.Letter == "f" {
			values["ratio"] = w.figure(in, false).Plain
		}
	}
	text := w.say(code, values)
	if name := trials[n.Trial].Name; name != "" {
		text = name + ": " + text
	} else if at := strings.IndexByte(n.ID, '/'); at > 0 && trials[n.ID[:at]].Name != "" {
		text = trials[n.ID[:at]].Name + ": " + text
	}
	return text
}

// product is a node taken apart into what multiplies and what divides.
type product struct {
	node   stoich.Node
	divide bool
}

// expand goes back through products, quotients and, where asked, conversions;
// what is a sum or a leaf stays. Amounts that are sums are also returned: each
// gets a line of its own.
func expand(d stoich.Derivation, id string, divide, conversions bool, out *[]product, sums *[]string) {
	n, _ := d.Node(id)
	switch {
	case n.Operation == stoich.Product:
		expand(d, n.Inputs[0], divide, conversions, out, sums)
		expand(d, n.Inputs[1], divide, conversions, out, sums)
	case n.Operation == stoich.Quotient:
		expand(d, n.Inputs[0], divide, conversions, out, sums)
		expand(d, n.Inputs[1], !divide, conversions, out, sums)
	case n.Operation == stoich.Convert && n.Quantity.Unit == quantity.Mole:
		expand(d, n.Inputs[0], divide, conversions, out, sums)
	case n.Operation == stoich.Convert && conversions:
		expand(d, n.Inputs[0], divide, conversions, out, sums)
		*out = append(*out, product{n, divide})
	default:
		*out = append(*out, product{n, divide})
		if n.Operation == stoich.Difference && n.Step != "" || n.Operation == stoich.Mean && n.Step != "" {
			*sums = append(*sums, n.ID)
		}
	}
}

// operands are what a sum is made of.
func operands(d stoich.Derivation, n stoich.Node) []string {
	var out []string
	for _, id := range n.Inputs {
		if in, _ := d.Node(id); !in.Leaf() && in.Operation != stoich.Difference || in.Step != "" {
			out = append(out, id)
		}
	}
	return out
}

// factors writes a node as one chain of unit factors, units cancelling.
func (w writer) factors(d stoich.Derivation, n stoich.Node, trials map[string]TrialText) ([]Step, []string) {
	title := w.title(d, n, trials)
	if n.Operation == stoich.Difference || n.Operation == stoich.Mean {
		return []Step{{title, w.line(d, n, n.ID != d.Answer().ID)}}, operands(d, n)
	}
	var parts []product
	var sums []string
	id := n.ID
	expand(d, id, false, true, &parts, &sums)
	type half struct{ value, unit, key string }
	type factor struct {
		num, den []half
		node     string
	}
	var all []factor
	for _, p := range parts {
		in := p.node
		num, den := half{}, half{}
		of := formula(in.Of)
		switch {
		case in.Operation == stoich.Convert:
			from, _ := d.Node(in.Inputs[0])
			a, b := from.Quantity.Unit, in.Quantity.Unit
			num, den = half{"1", w.unit(b), w.unit(b) + in.Of}, half{"1", w.unit(a), w.unit(a) + in.Of}
			if ratio := b.Scale() / a.Scale(); ratio >= 1 {
				den.value = quantity.Show(ratio, 0)
			} else {
				num.value = quantity.Show(1/ratio, 0)
			}
		case in.Operation == stoich.Ratio:
			top, bottom, _ := strings.Cut(in.Written, "/")
			amount := ""
			for _, m := range d.Nodes { // whose amount it is multiplied with
				if m.Operation == stoich.Product && len(m.Inputs) == 2 && m.Inputs[1] == in.ID {
					a, _ := d.Node(m.Inputs[0])
					amount = a.Of
				}
			}
			num, den = half{top, "mol " + of, "mol" + in.Of}, half{bottom, "mol " + formula(amount), "mol" + amount}
		case in.Quantity.Unit == quantity.MolePerL:
			l := w.unit(quantity.Litre)
			num, den = half{w.value(in, true), "mol " + of, "mol" + in.Of}, half{"1", l, l + in.Of}
		case in.Quantity.Unit == quantity.GramPerMole:
			num, den = half{w.value(in, true), strings.TrimSpace("g " + of), "g" + in.Of}, half{"1", strings.TrimSpace("mol " + of), "mol" + in.Of}
		default:
			unit := w.unit(in.Quantity.Unit)
			key := unit + in.Of
			if in.Quantity.Unit == quantity.Mole {
				unit, key = "mol "+of, "mol"+in.Of
			}
			num = half{w.value(in, true), unit, key}
		}
		f := factor{node: in.ID}
		if p.divide {
			num, den = den, num
		}
		if num.value != "" {
			f.num = append(f.num, num)
		}
		if den.value != "" {
			f.den = append(f.den, den)
		}
		all = append(all, f)
	}
	// Each unit above cancels one below.
	gone := map[[3]int]bool{}
	for i := range all {
		for _, a := range all[i].num {
			for j := range all {
				for _, b := range all[j].den {
					if a.key == b.key && a.unit != "" && !gone[[3]int{i, 0, 0}] && !gone[[3]int{j, 1, 0}] {
						gone[[3]int{i, 0, 0}], gone[[3]int{j, 1, 0}] = true, true
					}
				}
			}
		}
	}
	write := func(hs []half, i, side int) (string, string) {
		if len(hs) == 0 {
			return "1", "1"
		}
		unit := hs[0].unit
		tex := texUnit(unit)
		if gone[[3]int{i, side, 0}] && unit != "" {
			tex = `\cancel{` + tex + `}`
		}
		space := ""
		if unit != "" {
			space = thin
			tex = `\,` + tex
		}
		return hs[0].value + tex, hs[0].value + space + unit
	}
	line := []Token{{LaTeX: symbolLaTeX(n), Plain: symbolPlain(n)}, {LaTeX: "=", Plain: "="}}
	for i, f := range all {
		if i > 0 {
			line = append(line, Token{LaTeX: `\times`, Plain: "×"})
		}
		top, topPlain := write(f.num, i, 0)
		t := Token{LaTeX: top, Plain: topPlain, Node: f.node}
		if len(f.den) > 0 {
			bottom, bottomPlain := write(f.den, i, 1)
			t.LaTeX, t.Plain = `\dfrac{`+top+`}{`+bottom+`}`, "("+topPlain+" / "+bottomPlain+")"
		}
		line = append(line, t)
	}
	final := n.ID == d.Answer().ID
	line = append(line, Token{LaTeX: "=", Plain: "="}, w.figure(n, !final))
	return []Step{{title, line}}, sums
}

// inOneFormula writes a node as one formula, in symbols and then in numbers.
func (w writer) inOneFormula(d stoich.Derivation, n stoich.Node, trials map[string]TrialText) ([]Step, []string) {
	title := w.title(d, n, trials)
	if n.Operation == stoich.Difference || n.Operation == stoich.Mean {
		return []Step{{title, w.line(d, n, n.ID != d.Answer().ID)}}, operands(d, n)
	}
	var parts []product
	var sums []string
	expand(d, n.ID, false, false, &parts, &sums)
	var above, below []string
	var numbers []Token
	equals := Token{LaTeX: "=", Plain: "="}
	var abovePlain, belowPlain []string
	for _, p := range parts {
		tex, plain := symbolLaTeX(p.node), symbolPlain(p.node)
		if p.divide {
			below, belowPlain = append(below, tex), append(belowPlain, plain)
		} else {
			above, abovePlain = append(above, tex), append(abovePlain, plain)
		}
	}
	slices.SortStableFunc(parts, func(a, b product) int {
		switch {
		case a.divide == b.divide:
			return 0
		case b.divide:
			return -1
		default:
			return 1
		}
	})
	for i, p := range parts {
		if i > 0 {
			sign := Token{LaTeX: `\times`, Plain: "×"}
			if p.divide {
				sign = Token{LaTeX: `\div`, Plain: "÷"}
			}
			numbers = append(numbers, sign)
		}
		numbers = append(numbers, w.figure(p.node, true))
	}
	symbols := Token{LaTeX: strings.Join(above, ` \cdot `), Plain: strings.Join(abovePlain, " · ")}
	if len(below) > 0 {
		symbols.LaTeX = `\dfrac{` + symbols.LaTeX + `}{` + strings.Join(below, ` \cdot `) + `}`
		symbols.Plain += " / (" + strings.Join(belowPlain, " · ") + ")"
	}
	final := n.ID == d.Answer().ID
	line := append([]Token{{LaTeX: symbolLaTeX(n), Plain: symbolPlain(n)}, equals, symbols, equals}, numbers...)
	line = append(line, equals, w.figure(n, !final))
	return []Step{{title, line}}, sums
}

var texSigns = strings.NewReplacer("³", "^3", "%", `\%`)

func texUnit(unit string) string {
	unit = texSigns.Replace(unit)
	if of, ok := strings.CutPrefix(unit, "mol "); ok && of != "" {
		return `\mathrm{mol}\,` + texFormula(of)
	}
	if of, ok := strings.CutPrefix(unit, "g "); ok && of != "" {
		return `\mathrm{g}\,` + texFormula(of)
	}
	return `\mathrm{` + strings.ReplaceAll(unit, " ", `\,`) + `}`
}

func texFormula(text string) string {
	if f, err := chem.ParseFormula(text); err == nil {
		return f.LaTeX()
	}
	return `\text{` + text + `}`
}

// line writes "symbol = inputs = value". Shown intermediates carry one guard
// figure; nothing is rounded inside.
func (w writer) line(d stoich.Derivation, n stoich.Node, guard bool) []Token {
	equals := Token{LaTeX: "=", Plain: "="}
	line := []Token{{LaTeX: symbolLaTeX(n), Plain: symbolPlain(n)}, equals}
	inputs := make([]Token, len(n.Inputs))
	symbols := make([]string, len(n.Inputs))
	latex := make([]string, len(n.Inputs))
	same := len(n.Inputs) > 0
	for i, id := range n.Inputs {
		in, _ := d.Node(id)
		inputs[i] = w.figure(in, true)
		symbols[i], latex[i] = symbolPlain(in), symbolLaTeX(in)
		same = same && symbols[i] == symbolPlain(n)
	}
	if same && n.Step == "" {
		line = line[:0] // the inputs have the same symbol; it would say nothing
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
		plain := true // symbols say something: none of them is a ratio or a factor
		for _, id := range n.Inputs {
			in, _ := d.Node(id)
			plain = plain && in.Letter != "r" && in.Letter != "f"
		}
		if plain {
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
		count := quantity.Show(float64(len(inputs)), 0)
		line = append(line, sign(")", ")"), sign(`\div`, "÷"), sign(count, count), equals)
	case stoich.Convert:
		line = append(line, inputs[0], equals)
	}
	return append(line, w.figure(n, guard))
}

// value writes the digits of a node: leaves as they were written, computed
// ones with a guard figure where asked.
func (w writer) value(n stoich.Node, guard bool) string {
	// A titre is an exact difference; converting adds no doubt either.
	exact := n.Operation == stoich.Difference && n.Step == "" || n.Operation == stoich.Convert && w.exact(n)
	switch {
	case n.Operation == stoich.Molar:
		return quantity.Show(n.Quantity.Value, 5)
	case n.Leaf() && n.Written != "":
		return strings.ReplaceAll(n.Written, ",", ".")
	case guard && !exact && n.Quantity.Figures > 0:
		return quantity.Show(n.Quantity.Value, n.Quantity.Figures+1)
	default:
		return n.Quantity.String()
	}
}

// exact tells whether a converted value comes from a reading or a given one.
func (w writer) exact(n stoich.Node) bool {
	from, ok := w.derivation.Node(n.Inputs[0])
	return ok && (from.Leaf() || from.Operation == stoich.Difference && from.Step == "" || from.Operation == stoich.Convert && w.exact(from))
}

// figure writes a node's value with its unit.
func (w writer) figure(n stoich.Node, guard bool) Token {
	value := w.value(n, guard)
	unit := w.unit(n.Quantity.Unit)
	t := Token{Node: n.ID, Plain: minus(value), LaTeX: value}
	if n.Operation == stoich.Ratio {
		top, bottom, _ := strings.Cut(value, "/")
		t.LaTeX = `\tfrac{` + top + `}{` + bottom + `}`
	}
	if unit != "" {
		t.Plain += thin + unit
		t.LaTeX += `\,` + texUnit(unit)
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
	inside := formula(n.Of)
	if n.Where != "" && inside != "" {
		inside += ", "
	}
	inside += n.Where
	switch {
	case n.Letter == "r":
		return "ratio"
	case n.Letter == "f" || inside == "":
		return n.Letter
	default:
		return n.Letter + "(" + inside + ")"
	}
}

func symbolLaTeX(n stoich.Node) string {
	if n.Letter == "r" {
		return `\text{ratio}`
	}
	letter := n.Letter
	if letter == "ρ" {
		letter = `\rho`
	}
	if len(n.Letter) == 2 && n.Letter != "ρ" {
		letter = `\mathrm{` + letter + `}`
	}
	var inside []string
	if n.Of != "" {
		inside = append(inside, texFormula(n.Of))
	}
	if n.Where != "" {
		where := `\text{` + n.Where + `}`
		if volume, unit, ok := strings.Cut(n.Where, thin); ok { // of a portion, such as 250.0 mL
			where = volume + `\,` + texUnit(unit)
		}
		inside = append(inside, where)
	}
	if n.Letter == "f" || len(inside) == 0 {
		return letter
	}
	return letter + "(" + strings.Join(inside, `,\,`) + ")"
}

// limit names the measured value with the fewest figures, which sets those of
// the answer.
func (w writer) limit(d stoich.Derivation) string {
	var at *stoich.Node
	for i, n := range d.Nodes {
		candidate := n.Operation == stoich.Mean && n.Step == "" || n.Operation == stoich.Given || n.Operation == stoich.Difference
		if candidate && n.Quantity.Figures > 0 && (at == nil || n.Quantity.Figures < at.Quantity.Figures) {
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
	lower := trial
	if trial != "" {
		lower = strings.ToLower(trial[:1]) + trial[1:]
	}
	of := formula(n.Of)
	if n.Where != "" {
		of = strings.TrimPrefix(of+", "+n.Where, ", ")
	}
	switch {
	case n.Operation == stoich.Read && strings.HasSuffix(n.ID, "/start"):
		return trial + ", start"
	case n.Operation == stoich.Read && strings.HasSuffix(n.ID, "/end"):
		return trial + ", end"
	case n.Operation == stoich.Read && trial != "":
		return trial
	case n.Operation == stoich.Read:
		return "Weighing"
	case n.ID == stoich.NodeBlank:
		return w.text("[Mean] blank")
	case n.ID == stoich.NodeCorrected:
		return w.text("[Mean] [titre] less the blank")
	case n.ID == stoich.NodeFirst:
		return w.text("[Mean] [titre] to the first end point")
	case strings.HasSuffix(n.ID, "/sample"):
		return "Sample of " + lower
	case strings.HasSuffix(n.ID, "/titre") || strings.HasSuffix(n.ID, "/first-titre"):
		return w.text("[Titre] of " + lower)
	case n.ID == stoich.NodeMeanTitre:
		return w.text("[Mean] [titre]")
	}
	switch n.Letter {
	case "r":
		return "Mole ratio"
	case "n":
		return "Amount of " + of
	case "c":
		return "Concentration of " + of
	case "m":
		return strings.TrimSuffix("Mass of "+of, " of ")
	case "M":
		return strings.TrimSuffix("Molar mass of "+of, " of ")
	case "f":
		return "Dilution"
	case "w":
		return "Fraction of " + of
	case "ρ":
		return "Mass concentration of " + of
	case "V":
		return "Volume of " + of
	case "x":
		return "Water of crystallisation"
	case "z":
		return "Number of protons"
	case "F":
		return "Factor"
	default:
		return strings.TrimSpace(n.Letter + " " + of)
	}
}
