package view

import (
	"math"
	"strings"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/model/derivation"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
	"exactflask/wording"
)

// Answer is the result in words.
type Answer struct {
	Statement   string                               `json:"statement" doc:"the answer as a sentence"`
	Symbol      string                               `json:"symbol" doc:"LaTeX"`
	Value       string                               `json:"value" doc:"at its figures"`
	Unit        string                               `json:"unit"`
	Unrounded   string                               `json:"unrounded" doc:"with more figures than it deserves, on request"`
	Figures     string                               `json:"figures" doc:"why it has these figures"`
	Comparison  string                               `json:"comparison,omitempty" doc:"against the expected value"`
	Style       practical.Working                    `json:"style" enum:"steps,factors,formula" doc:"of steps"`
	Steps       []wording.Step                       `json:"steps" doc:"the working in the style of the practical"`
	Others      map[practical.Working][]wording.Step `json:"others" doc:"the same in the other styles"`
	Uncertainty *Uncertainty                         `json:"uncertainty,omitempty"`
	Within      string                               `json:"within,omitempty" doc:"said when the difference needs no fault to explain it"`
	Causes      []Cause                              `json:"causes" doc:"why is mine off?"`
	Origins     map[string]wording.Origin            `json:"origins" doc:"where each figure comes from, by node id"`
}

// Uncertainty says how sure an answer is.
type Uncertainty struct {
	Sentence string `json:"sentence" doc:"for the report"`
	Improve  string `json:"improve" doc:"which single improvement would help most"`
	Bars     []Bar  `json:"bars" doc:"where it comes from, largest first"`
}

// Bar is one bar of the budget.
type Bar struct {
	Name  string  `json:"name"`
	Share float64 `json:"share" doc:"of the variance, 0 to 1"`
	Text  string  `json:"text" doc:"share in %, and what it adds to the answer"`
}

// Cause is a usual fault in words.
type Cause struct {
	Code   string `json:"code"`
	Name   string `json:"name"`
	Effect string `json:"effect" doc:"sign and size on the titre and the answer"`
	Needed string `json:"needed,omitempty" doc:"the size it would need to explain the whole difference"`
	Fits   bool   `json:"fits,omitempty" doc:"its usual size explains the difference"`
}

func symbolOf(w wording.Writer, letter, of string) string {
	plain, _ := w.Symbol(derivation.Node{Letter: letter, Of: of})
	return plain
}

// AnswerOf puts a result that is no notebook's into words.
func AnswerOf(r *practical.Ready, result *evaluation.Result) *Answer {
	m := &maker{Writer: wording.For(r.Showing.Style), r: r, ev: evaluation.Evaluation{Result: result},
		names: map[string]string{}}
	for _, n := range result.Derivation.Nodes {
		if n.Trial != "" {
			m.names[n.Trial] = m.Text("trial.accurate", "number", n.Trial)
		}
	}
	return m.answer()
}

// working is the writer of the result's derivation.
func (m *maker) working() wording.Working {
	if r := m.ev.Result; r != nil {
		return m.Working(r.Derivation, r.Answer, m.names)
	}
	return m.Working(derivation.Derivation{}, quantity.Quantity{}, m.names)
}

func (m *maker) answer() *Answer {
	r, w := m.ev.Result, m.working()
	last := r.Derivation.Answer()
	_, symbol := m.Symbol(last)
	figures := finding.Count(r.Answer.Figures)
	out := &Answer{Statement: m.statement(), Symbol: symbol, Value: wording.Show(r.Answer.Value, r.Answer.Figures),
		Unit: m.Unit(r.Answer.Unit), Unrounded: wording.Show(r.Answer.Value, 8),
		Figures: m.Text("figures.fixed", "count", figures), Style: m.r.Showing.Working, Others: map[practical.Working][]wording.Step{}, Causes: []Cause{}, Origins: map[string]wording.Origin{}}
	if m.r.Rules.Figures == 0 {
		out.Figures = m.Text("figures.rule", "count", figures, "limit", m.limit(w))
	}
	out.Comparison = m.comparisons()
	for _, style := range []practical.Working{practical.BySteps, practical.ByFactors, practical.ByFormula} {
		switch {
		case style == out.Style:
			out.Steps = w.Steps(style)
		case !m.brief:
			out.Others[style] = w.Steps(style)
		}
	}
	if m.brief {
		return out
	}
	out.Origins = w.Origins(m.r)
	out.Uncertainty = m.uncertainty()
	out.Causes = m.causes()
	if r.Within {
		out.Within = m.Text("cause.within")
	}
	return out
}

// limit names the measured value with the fewest figures, which sets those of
// the answer.
func (m *maker) limit(w wording.Working) string {
	at, fewest := -1, math.MaxInt
	for i, n := range m.ev.Result.Derivation.Nodes {
		measured := n.Operation == derivation.Mean && n.Step == "" || n.Operation == derivation.Given ||
			n.Operation == derivation.Difference
		if measured && n.Quantity.Figures > 0 && n.Quantity.Figures < fewest {
			at, fewest = i, n.Quantity.Figures
		}
	}
	if at < 0 {
		return ""
	}
	return w.Figure(at)
}

// statement is the answer as a sentence.
func (m *maker) statement() string {
	r := m.ev.Result
	name := m.r.Unknown().Name
	if r.What != practical.Concentration && r.Of != "" { // the sample is named beside its substance
		if f, err := chem.ParseFormula(r.Of); err == nil {
			if s, ok := catalog.BuiltIn().Substance(f); ok {
				name = m.Text(s.NameCode())
			}
		}
	}
	answer := m.Value(finding.Quantity(r.Answer))
	pairs := []any{"name", name, "formula", finding.Formula(r.Of), "value", answer, "unit", "", "sample",
		nameOf(m.r, "")}
	if r.Whole != nil {
		pairs = append(pairs, "count", finding.Count(int(*r.Whole)))
	}
	text := m.Text("answer."+string(r.What), pairs...)
	if s := r.Second; s != nil {
		text += " " + m.Text("answer.second", "formula", finding.Formula(s.Of), "value", finding.Quantity(s.Answer), "unit",
			"")
	}
	if m.ofOne() {
		text = m.Text("answer.single", "answer", text)
	}
	return text
}

// ofOne tells whether the answer comes of one trial.
func (m *maker) ofOne() bool {
	return m.ev.Result != nil && (m.ev.Result.Single || len(m.ev.Agreement.Chosen) == 1)
}

func (m *maker) comparisons() string {
	r := m.ev.Result
	var out []string
	for _, c := range []struct {
		code, label string
		with        *evaluation.Comparison
	}{{"answer.comparison", "", r.Expected}, {"answer.label", m.r.Asked.Label.Text, r.Label}, {"answer.reference", "",
		r.Reference}} {
		if c.with != nil {
			out = append(out, m.compared(c.code, *c.with, r.Answer.Unit, c.label))
		}
	}
	return strings.Join(out, " ")
}

// enough is the share of the variance below which a bar is not shown, once there
// are some.
const enough, someBars = 5e-4, 4

func (m *maker) uncertainty() *Uncertainty {
	r := m.ev.Result
	b := r.Budget
	if b == nil || b.Standard == 0 || len(b.Contributions) == 0 {
		return nil
	}
	unit := m.After(r.Answer.Unit)
	value, spread := withUncertainty(r.Answer.Value, b.Expanded)
	out := &Uncertainty{Sentence: m.Text("uncertainty.sentence", "value", value, "spread", spread, "unit", unit,
		"percent", wording.Show(b.Factor*b.Relative, 2), "factor", wording.Show(b.Factor, 2))}
	if b.Freedom > 0 {
		out.Sentence += " " + m.Text("uncertainty.few", "factor", wording.Show(b.Factor, 2), "freedom", wording.Show(b.Freedom, 0))
	}
	if rule := m.r.Rules.Agreement; m.ofOne() {
		code := "uncertainty.single"
		if rule.Kind == practical.Relative {
			code += "-relative"
		}
		out.Sentence += " " + m.Text(code, "tolerance", finding.Exact(rule.Tolerance, quantity.Millilitre), "percent", finding.Exact(rule.Percent, quantity.Percent))
	}
	for _, c := range b.Contributions {
		if c.Share < enough && len(out.Bars) >= someBars {
			continue
		}
		name := m.Text("source."+c.Code, "of", c.Of)
		if c.Code == "repeatability" && c.Estimated {
			name = m.Text("source.repeatability-assumed")
		} else if c.Estimated {
			name = m.Text("source.estimated", "source", name)
		}
		out.Bars = append(out.Bars, Bar{Name: name, Share: c.Share,
			Text: m.Text("uncertainty.bar", "percent", wording.Show(math.Round(1000*c.Share)/10, 0), "answer",
				wording.Show(math.Abs(c.Answer), 2), "unit", unit)})
	}
	first := b.Contributions[0]
	out.Improve = m.Text("improve."+first.Code, "percent", wording.Show(math.Round(100*first.Share), 0))
	return out
}

// withUncertainty writes a value to the last digit of its uncertainty, which
// is given to two figures.
func withUncertainty(value, spread float64) (string, string) {
	shown := wording.Show(spread, 2)
	places := 0
	if _, after, ok := strings.Cut(shown, "."); ok {
		places = len(after)
	}
	if value == 0 || math.IsNaN(value) || math.IsInf(value, 0) {
		return wording.Show(value, 1), shown
	}
	figures := max(1, int(math.Floor(math.Log10(math.Abs(value))))+1+places)
	return wording.Show(value, figures), shown
}

// maxCauses is how many causes are shown.
const maxCauses = 10

func (m *maker) causes() []Cause {
	r := m.ev.Result
	out := []Cause{}
	for _, c := range r.Causes {
		if len(out) == maxCauses {
			break
		}
		unit := m.After(r.Answer.Unit)
		t := Cause{Code: c.Code, Name: m.Text(c.Code, "size", finding.Number(c.Size, 0, c.Unit)), Fits: c.Fits}
		code := "cause.effect"
		if c.Titre != 0 {
			code = "cause.effect-titre"
		}
		t.Effect = m.Text(code, "titre", wording.Signed(c.Titre, 2)+m.After(quantity.Millilitre), "answer",
			wording.Signed(c.Answer, 2), "unit", unit, "percent", wording.Signed(c.Percent, 2))
		if c.Needed > 0 && c.Unit != "" {
			t.Needed = m.Text("cause.needed", "needed", finding.Number(c.Needed, 2, c.Unit), "unit", "")
		}
		out = append(out, t)
	}
	return out
}
