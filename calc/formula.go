package calc

import (
	"math"
	"regexp"
	"strconv"
	"strings"

	"exactflask/core/values/finding"
)

// formula is a formula that was read: its value for the values of its names, in their order.
type formula func(at []float64) float64

// functionsOf are what a formula may call.
var functionsOf = map[string]func(float64) float64{"sqrt": math.Sqrt, "exp": math.Exp, "ln": math.Log, "log10": math.Log10}

var (
	badFormula  = finding.Declare("calc.formula", "at", "sign")
	cutFormula  = finding.Declare("calc.formula-cut")
	deepFormula = finding.Declare("calc.formula-deep")
	unknownName = finding.Declare("calc.formula-name", "name")
)

// mostDeep is how deep brackets, powers and signs may stand in each other.
const mostDeep = 100

// readFormula reads a formula with + - * / ^ (a power binds to the right, and stronger than a
// sign before it), brackets, numbers, the names that are given and functionsOf.
func readFormula(text string, names []string) (formula, *finding.Fault) {
	r := &reading{text: text, names: names}
	f := r.sum()
	if r.fault == nil && r.next() != 0 {
		r.refuse()
	}
	return f, r.fault
}

// reading is a formula while it is read, from left to right; nothing is read after a fault.
type reading struct {
	text  string
	at    int
	deep  int
	names []string
	fault *finding.Fault
}

// next is the sign that comes, blanks passed over; 0 at the end and after a fault.
func (r *reading) next() byte {
	for r.at < len(r.text) && strings.IndexByte(" \t\n\r", r.text[r.at]) >= 0 {
		r.at++
	}
	if r.fault != nil || r.at == len(r.text) {
		return 0
	}
	return r.text[r.at]
}

// refuse notes that what comes cannot stand here.
func (r *reading) refuse() formula {
	switch {
	case r.fault != nil:
	case r.next() == 0:
		r.fault = cutFormula.Fault("formula")
	default:
		sign := string([]rune(r.text[r.at:])[:1])
		r.fault = badFormula.Fault("formula", finding.Count(len([]rune(r.text[:r.at]))+1), finding.Text(sign))
	}
	return func([]float64) float64 { return math.NaN() }
}

// joined reads parts that stand side by side with one of these signs between them.
func (r *reading) joined(signs string, part func() formula) formula {
	left := part()
	for c := r.next(); c != 0 && strings.IndexByte(signs, c) >= 0; c = r.next() {
		r.at++
		a, b := left, part()
		switch c {
		case '+':
			left = func(at []float64) float64 { return a(at) + b(at) }
		case '-':
			left = func(at []float64) float64 { return a(at) - b(at) }
		case '*':
			left = func(at []float64) float64 { return a(at) * b(at) }
		case '/':
			left = func(at []float64) float64 { return a(at) / b(at) }
		}
	}
	return left
}

func (r *reading) sum() formula     { return r.joined("+-", r.product) }
func (r *reading) product() formula { return r.joined("*/", r.signed) }

func (r *reading) signed() formula {
	if r.deep++; r.deep > mostDeep && r.fault == nil {
		r.fault = deepFormula.Fault("formula")
	}
	defer func() { r.deep-- }()
	switch r.next() {
	case '-':
		r.at++
		f := r.signed()
		return func(at []float64) float64 { return -f(at) }
	case '+':
		r.at++
		return r.signed()
	}
	base := r.atom()
	if r.next() != '^' {
		return base
	}
	r.at++
	power := r.signed()
	return func(at []float64) float64 { return math.Pow(base(at), power(at)) }
}

// atom reads a number, a name, a function of something, or what stands in brackets.
func (r *reading) atom() formula {
	switch c := r.next(); {
	case c == '(':
		return r.bracket()
	case c >= '0' && c <= '9' || c == '.':
		return r.number()
	case letter(c):
		return r.named()
	}
	return r.refuse()
}

func (r *reading) bracket() formula {
	r.at++
	f := r.sum()
	if r.next() != ')' {
		return r.refuse()
	}
	r.at++
	return f
}

var numberPattern = regexp.MustCompile(`^[0-9]*\.?[0-9]*([eE][+-]?[0-9]+)?`)

func (r *reading) number() formula {
	text := numberPattern.FindString(r.text[r.at:])
	v, err := strconv.ParseFloat(text, 64)
	if err != nil {
		return r.refuse()
	}
	r.at += len(text)
	return func([]float64) float64 { return v }
}

func (r *reading) named() formula {
	from := r.at
	for r.at < len(r.text) && (letter(r.text[r.at]) || r.text[r.at] >= '0' && r.text[r.at] <= '9') {
		r.at++
	}
	name := r.text[from:r.at]
	if call, ok := functionsOf[name]; ok {
		if r.next() != '(' {
			return r.refuse()
		}
		of := r.bracket()
		return func(at []float64) float64 { return call(of(at)) }
	}
	for i, n := range r.names {
		if n == name {
			return func(at []float64) float64 { return at[i] }
		}
	}
	r.fault = unknownName.Fault("formula", finding.Text(name))
	return r.refuse()
}

func letter(c byte) bool { return c == '_' || c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' }
