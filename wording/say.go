package wording

import (
	"math"
	"strings"

	"exactflask/core/chemistry/chem"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Thin is the narrow no-break space between a value and its unit.
const Thin = "\u202f"

// Writer speaks to one reader.
type Writer struct {
	lang  *Language
	style practical.Style
}

// For returns the writer of a reader's style; what it leaves open is taken from
// the others in turn, and from practical.DefaultStyle at the end.
func For(styles ...practical.Style) Writer {
	s := practical.Style{}
	for _, next := range styles {
		s = s.Or(next)
	}
	return Writer{English, s.Or(practical.DefaultStyle)}
}

// Style is the reader's.
func (w Writer) Style() practical.Style { return w.style }

// Say speaks a message. One without a sentence is shown by its code: tests see
// to it that there is none.
func (w Writer) Say(m finding.Message) string {
	return w.say(m.Code, func(name string) finding.Value { return m.Values[name] })
}

func (w Writer) say(code string, value func(name string) finding.Value) string {
	count := ""
	if v := value("count"); v.Exact != nil {
		count = v.Exact.String()
	}
	s, ok := w.sentence(code, count)
	if !ok {
		return code
	}
	return w.fill(s, value)
}

// fill puts values in place of {name}.
func (w Writer) fill(s string, value func(name string) finding.Value) string {
	if !strings.Contains(s, "{") {
		return s
	}
	var b strings.Builder
	for {
		before, rest, ok := strings.Cut(s, "{")
		b.WriteString(before)
		name, after, closed := strings.Cut(rest, "}")
		if !ok || !closed {
			return b.String()
		}
		b.WriteString(w.Value(value(name)))
		s = after
	}
}

// Text speaks one of this program's own codes with values given in turn: a
// name and a finding.Value or a text.
func (w Writer) Text(code string, pairs ...any) string {
	return w.say(code, func(name string) finding.Value {
		for i := len(pairs) - 2; i >= 0; i -= 2 { // the later one counts
			if pairs[i].(string) != name {
				continue
			}
			switch v := pairs[i+1].(type) {
			case finding.Value:
				return v
			case string:
				return finding.Text(v)
			}
		}
		return finding.Value{}
	})
}

// Has tells whether a code has a sentence.
func (w Writer) Has(code string) bool {
	_, ok := w.lang.messages[code]
	return ok
}

// Value speaks one value.
func (w Writer) Value(v finding.Value) string {
	switch {
	case v.Exact != nil:
		return Minus(v.Exact.String()) + w.After(v.Unit)
	case v.Number != nil:
		return Minus(Show(*v.Number, v.Figures)) + w.After(v.Unit)
	case v.Formula != "":
		return Formula(v.Formula)
	case v.Message != nil:
		return w.Say(*v.Message)
	case v.List != nil:
		parts := make([]string, len(v.List))
		for i, part := range v.List {
			parts[i] = w.Value(part)
		}
		return strings.Join(parts, w.Text("list.and"))
	}
	return v.Text
}

// Show writes a number at its figures; one that is not finite is a dash.
func Show(v float64, figures int) string {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		return "–"
	}
	return quantity.Show(v, figures)
}

// Signed writes a number with its sign.
func Signed(v float64, figures int) string {
	s := Show(math.Abs(v), figures)
	if v < 0 {
		return "−" + s
	}
	return "+" + s
}

// Minus writes a typographic minus before a number.
func Minus(s string) string {
	if strings.HasPrefix(s, "-") {
		return "−" + s[1:]
	}
	return s
}

// Formula writes a formula or an equation in Unicode.
func Formula(plain string) string {
	if f, err := chem.ParseFormula(plain); err == nil {
		return f.String()
	}
	if eq, err := chem.ParseEquation(plain); err == nil {
		return eq.String()
	}
	return plain
}

// cubic are the units that the other school writes with cubic lengths.
var cubic = map[quantity.Unit]string{quantity.Millilitre: "cm³", quantity.Litre: "dm³", quantity.MolePerL: "mol/dm³",
	quantity.GramPerL:      "g/dm³",
	quantity.MillimolePerL: "mmol/dm³", quantity.MilligramPerL: "mg/dm³", quantity.MgPer100: "mg/100 cm³", quantity.GramPerML: "g/cm³", quantity.LitrePerMole: "dm³/mol"}

// Unit writes a unit as the reader does; pure numbers have none.
func (w Writer) Unit(u quantity.Unit) string {
	if text, ok := cubic[u]; ok && w.style.Units == practical.UnitsCM3 {
		return text
	}
	if u == quantity.One {
		return ""
	}
	return string(u)
}

// After writes a unit behind a value, with the space between.
func (w Writer) After(u quantity.Unit) string {
	if text := w.Unit(u); text != "" {
		return Thin + text
	}
	return ""
}

func unitOf(name string) quantity.Unit { return quantity.Unit(name) }
