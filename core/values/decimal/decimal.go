// Package decimal holds the exact decimals of readings, masses and volumes.
//
// A burette reading of 21.30 is not 21.3: the zero was read. A Decimal keeps
// the digits that were written, adds and subtracts without error, and rounds
// half up, as schools do.
//
//	end, _ := decimal.Parse("21,30")
//	start, _ := decimal.Parse("0.55")
//	end.Sub(start).String() // "20.75"
package decimal

import (
	"errors"
	"fmt"
	"strconv"
	"strings"

	"github.com/cockroachdb/apd/v3"
)

// MaxDigits is the longest number that Parse accepts, counted in digits. No
// glass or balance of a teaching laboratory gives more than nine.
const MaxDigits = 12

// Reasons why a text is no number. A ParseError wraps one of them.
var (
	ErrEmpty      = errors.New("nothing was written")
	ErrNotANumber = errors.New("this is not a number")
	ErrTwoPoints  = errors.New("there are two decimal points")
	ErrTooLong    = fmt.Errorf("there are more than %d digits", MaxDigits)
)

// ParseError says which text could not be read as a number and why.
type ParseError struct {
	Text string // as given, cut to 40 characters
	Err  error  // one of the reasons above
}

func (e *ParseError) Error() string { return fmt.Sprintf("%q: %v", e.Text, e.Err) }
func (e *ParseError) Unwrap() error { return e.Err }

// Decimal is an exact decimal number with the decimals that were written. The
// zero value is 0. Decimals are values: no method changes its receiver.
type Decimal struct{ d apd.Decimal }

// exact is wide enough for every sum of admissible numbers; quotient gives 34
// digits, more than any unrounded mean needs.
var (
	exact    = apd.BaseContext.WithPrecision(60)
	quotient = apd.BaseContext.WithPrecision(34)
)

// Parse reads a decimal number as a person writes one: a point or a comma,
// an optional sign (also the typographic minus), blanks around it. Exponents
// and digit grouping are refused: in "1,234.5" nobody can tell what was meant.
// The error is a *ParseError.
func Parse(text string) (Decimal, error) {
	s := strings.TrimSpace(text)
	s = strings.Replace(s, "\u2212", "-", 1)
	fail := func(why error) (Decimal, error) {
		if r := []rune(text); len(r) > 40 {
			text = string(r[:40]) + "…"
		}
		return Decimal{}, &ParseError{Text: text, Err: why}
	}
	if s == "" {
		return fail(ErrEmpty)
	}
	body := strings.TrimLeft(s, "+-")
	if len(s)-len(body) > 1 {
		return fail(ErrNotANumber)
	}
	var coefficient int64 // MaxDigits fit
	digits, decimals, points := 0, 0, 0
	for _, r := range body {
		switch {
		case r >= '0' && r <= '9':
			if digits++; digits <= MaxDigits {
				coefficient = 10*coefficient + int64(r-'0')
			}
			decimals += points
		case r == '.' || r == ',':
			points++
		default:
			return fail(ErrNotANumber)
		}
	}
	switch {
	case points > 1:
		return fail(ErrTwoPoints)
	case digits == 0:
		return fail(ErrNotANumber)
	// A number without a digit before its point is written again with one.
	case digits > MaxDigits, digits == MaxDigits && decimals == digits:
		return fail(ErrTooLong)
	}
	var out Decimal
	out.d.SetFinite(coefficient, int32(-decimals))
	out.d.Negative = strings.HasPrefix(s, "-") && coefficient != 0
	return out, nil
}

// Must is Parse for numbers written in the program itself; it panics on a
// text that is no number.
func Must(text string) Decimal {
	d, err := Parse(text)
	if err != nil {
		panic(err)
	}
	return d
}

// Whole returns n as a Decimal without decimals.
func Whole(n int64) Decimal {
	var out Decimal
	out.d.SetInt64(n)
	return out
}

// String writes the number with all its decimals and a decimal point.
func (x Decimal) String() string { return x.d.Text('f') }

// Places returns the number of decimals that were written: 2 for 21.30.
func (x Decimal) Places() int {
	if x.d.Exponent >= 0 {
		return 0
	}
	return int(-x.d.Exponent)
}

// Figures returns the number of significant figures: every digit from the
// first that is not zero. 0.0950 has 3, 21.30 has 4, 250 has 3 (a zero that
// was written was meant: common practice for volumes of glassware). Zero has
// the figures of its decimals and one more: 0.00 has 3.
func (x Decimal) Figures() int {
	if x.d.IsZero() {
		return x.Places() + 1
	}
	n := int(x.d.NumDigits())
	if x.d.Exponent > 0 {
		n += int(x.d.Exponent)
	}
	return n
}

// Add returns x + y with the larger number of decimals of the two.
func (x Decimal) Add(y Decimal) Decimal {
	var out Decimal
	_, _ = exact.Add(&out.d, &x.d, &y.d)
	return out
}

// Sub returns x - y with the larger number of decimals of the two.
func (x Decimal) Sub(y Decimal) Decimal {
	var out Decimal
	_, _ = exact.Sub(&out.d, &x.d, &y.d)
	return out
}

// Mul returns x * y, exactly.
func (x Decimal) Mul(y Decimal) Decimal {
	var out Decimal
	_, _ = exact.Mul(&out.d, &x.d, &y.d)
	return out
}

// Div returns x / y to 34 digits. Division by zero returns zero and false.
func (x Decimal) Div(y Decimal) (Decimal, bool) {
	if y.d.IsZero() {
		return Decimal{}, false
	}
	var out Decimal
	_, _ = quotient.Quo(&out.d, &x.d, &y.d)
	return out, true
}

// Cmp returns -1, 0 or 1 as x is less than, equal to or greater than y by
// value: 21.3 and 21.30 are equal here.
func (x Decimal) Cmp(y Decimal) int { return x.d.Cmp(&y.d) }

// Sign returns -1, 0 or 1.
func (x Decimal) Sign() int { return x.d.Sign() }

// IsZero reports whether the value is nought.
func (x Decimal) IsZero() bool { return x.d.IsZero() }

// Round returns x with the given number of decimals, half away from zero
// ("half up", the school's rule; rounding half to even is not used).
func (x Decimal) Round(places int) Decimal {
	ctx := *exact
	ctx.Rounding = apd.RoundHalfUp
	var out Decimal
	_, _ = ctx.Quantize(&out.d, &x.d, int32(-places))
	return out
}

// RoundFigures returns x with the given number of significant figures (at
// least 1), half up. Zero is returned with figures-1 decimals.
func (x Decimal) RoundFigures(figures int) Decimal {
	figures = max(figures, 1)
	if x.d.IsZero() {
		return x.Round(figures - 1)
	}
	// The first digit stands for 10^lead; one more pass where rounding made a new digit.
	lead := int(x.d.NumDigits()) - 1 + int(x.d.Exponent)
	out := x.Round(figures - 1 - lead)
	if now := int(out.d.NumDigits()) - 1 + int(out.d.Exponent); now > lead {
		out = x.Round(figures - 1 - now)
	}
	return out
}

// Shift returns x with its point moved to the right by so many places, to the left where
// they are negative; its digits stay: 1.013 by -1 is 0.1013.
func (x Decimal) Shift(places int) Decimal {
	out := x
	out.d.Set(&x.d)
	out.d.Exponent += int32(places)
	return out
}

// Trimmed returns x without the zeros at the end of its decimals: 0.01 for 0.010.
func (x Decimal) Trimmed() Decimal {
	if x.Places() == 0 {
		return x
	}
	var out Decimal
	out.d.Reduce(&x.d)
	if out.d.Exponent > 0 {
		return out.Round(0)
	}
	return out
}

// MultipleOf reports whether x is a whole multiple of step. A step that is
// not positive has no multiples.
func (x Decimal) MultipleOf(step Decimal) bool {
	if step.Sign() <= 0 {
		return false
	}
	var rest apd.Decimal
	_, _ = exact.Rem(&rest, &x.d, &step.d)
	return rest.IsZero()
}

// powers of ten that are exact as floating-point numbers.
var powers = [...]float64{1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15, 1e16, 1e17, 1e18, 1e19, 1e20, 1e21, 1e22}

// Float64 returns the nearest float64, for computation past the mean titre.
func (x Decimal) Float64() float64 {
	// Both are exact as floating-point numbers then, and their quotient is rounded once.
	if e := -x.d.Exponent; x.d.Form == apd.Finite && e >= 0 && int(e) < len(powers) && x.d.Coeff.IsUint64() {
		if n := x.d.Coeff.Uint64(); n < 1<<53 {
			f := float64(n) / powers[e]
			if x.d.Negative {
				return -f
			}
			return f
		}
	}
	f, _ := x.d.Float64()
	return f
}

// FromFloat returns the shortest decimal that stands for f. It is used to
// round computed values for showing, never to make a reading. Infinities and
// NaN give zero and false.
func FromFloat(f float64) (Decimal, bool) {
	var out Decimal
	if _, err := out.d.SetFloat64(f); err != nil || out.d.Form != apd.Finite {
		return Decimal{}, false
	}
	return out, true
}

// Sum adds the numbers; of none the sum is zero.
func Sum(xs ...Decimal) Decimal {
	var total Decimal
	for _, x := range xs {
		total = total.Add(x)
	}
	return total
}

// Mean returns the unrounded mean to 34 digits; of none it is zero and false.
func Mean(xs ...Decimal) (Decimal, bool) {
	return Sum(xs...).Div(Whole(int64(len(xs))))
}

// MarshalText writes the digits as they are kept.
func (x Decimal) MarshalText() ([]byte, error) { return []byte(x.String()), nil }

// UnmarshalText reads what Parse reads.
func (x *Decimal) UnmarshalText(text []byte) error {
	d, err := Parse(string(text))
	if err != nil {
		return err
	}
	*x = d
	return nil
}

// Number is a decimal that JSON writes as a number: of marks, which are counted and compared
// and whose digits say nothing.
type Number struct{ Decimal }

// MarshalJSON writes the digits as they are kept.
func (x Number) MarshalJSON() ([]byte, error) { return []byte(x.String()), nil }

// UnmarshalJSON reads a number, as 1.5 or as 15e-1.
func (x *Number) UnmarshalJSON(text []byte) error {
	err := x.Decimal.UnmarshalText(text)
	if err == nil {
		return nil
	}
	if f, wrong := strconv.ParseFloat(string(text), 64); wrong == nil {
		if d, ok := FromFloat(f); ok {
			x.Decimal = d
			return nil
		}
	}
	return err
}
