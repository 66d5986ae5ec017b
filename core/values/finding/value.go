package finding

import (
	"strconv"
	"strings"

	"exactflask/core/values/decimal"
	"exactflask/core/values/quantity"
)

// Value is one value of a message. Exactly one of its parts is filled: numbers
// stay numbers until somebody speaks them.
type Value struct {
	Text    string           `json:"text,omitempty" doc:"what a person typed"`
	Exact   *decimal.Decimal `json:"exact,omitempty" doc:"an exact number with its digits"`
	Number  *float64         `json:"number,omitempty" doc:"a computed number"`
	Figures int              `json:"figures,omitempty" doc:"significant figures that it is shown with; 0: as many as it has"`
	Unit    quantity.Unit    `json:"unit,omitempty" doc:"of the number"`
	Formula string           `json:"formula,omitempty" doc:"a chemical formula or equation, plain"`
	Message *Message         `json:"message,omitempty" doc:"something to be said in its place"`
	List    []Value          `json:"list,omitempty"`
}

// Text is a value that a person typed, or a name: it is shown as it is.
func Text(s string) Value { return Value{Text: s} }

// Exact is a number with its digits; the unit may be empty.
func Exact(d decimal.Decimal, unit quantity.Unit) Value { return Value{Exact: &d, Unit: unit} }

// Number is a computed number, shown with so many figures.
func Number(f float64, figures int, unit quantity.Unit) Value {
	return Value{Number: &f, Figures: figures, Unit: unit}
}

// Volume is a computed volume in mL, to a hundredth: as finely as a burette is read.
func Volume(ml float64) Value {
	d, ok := decimal.FromFloat(ml)
	if !ok {
		return Number(ml, 4, quantity.Millilitre)
	}
	return Exact(d.Round(2), quantity.Millilitre)
}

// Quantity is a computed value at the figures it deserves.
func Quantity(q quantity.Quantity) Value { return Number(q.Value, q.Figures, q.Unit) }

// Count is a number of things; it chooses the plural form.
func Count(n int) Value { return Exact(decimal.Whole(int64(n)), "") }

// Formula is a formula or an equation in plain ASCII.
func Formula(plain string) Value { return Value{Formula: plain} }

// Said is a message in the place of a value.
func Said(m Message) Value { return Value{Message: &m} }

// List is several values.
func List(values ...Value) Value { return Value{List: values} }

// String is for logs and tests; people are spoken to by package wording.
func (v Value) String() string {
	switch {
	case v.Exact != nil:
		return strings.TrimSpace(v.Exact.String() + " " + string(v.Unit))
	case v.Number != nil:
		return strings.TrimSpace(strconv.FormatFloat(*v.Number, 'g', 6, 64) + " " + string(v.Unit))
	case v.Formula != "":
		return v.Formula
	case v.Message != nil:
		return v.Message.String()
	case v.List != nil:
		parts := make([]string, len(v.List))
		for i, part := range v.List {
			parts[i] = part.String()
		}
		return strings.Join(parts, ", ")
	}
	return v.Text
}
