package journal

import (
	"strings"
	"unicode"

	"exactflask/core/values/decimal"
	"exactflask/core/values/quantity"
)

// mostPower is the largest power of ten that a figure of the working is written with.
const mostPower = 9

// raised are digits and signs of an exponent as they are typed above the line.
var raised = strings.NewReplacer("⁰", "0", "¹", "1", "²", "2", "³", "3", "⁴", "4", "⁵", "5", "⁶", "6", "⁷", "7", "⁸", "8", "⁹", "9", "⁻", "-", "⁺", "+", "\u2212", "-", "–", "-")

// typedUnits are units as they are typed behind a number, beside their codes.
var typedUnits = map[string]quantity.Unit{"M": quantity.MolePerL, "mM": quantity.MillimolePerL, "mol/l": quantity.MolePerL, "mmol/l": quantity.MillimolePerL,
	"g/l": quantity.GramPerL, "mg/l": quantity.MilligramPerL, "ml": quantity.Millilitre, "cc": quantity.Millilitre, "l": quantity.Litre}

// spelt writes the litre of a unit in one way: mol dm-3, mol·L-1 and mol/dm^3 are mol/l.
var spelt = strings.NewReplacer(" dm-3", "/l", "·dm-3", "/l", " l-1", "/l", "·l-1", "/l", " L-1", "/l", "·L-1", "/l", "dm3", "l", "dm^3", "l", "cm3", "ml", "cm^3", "ml")

// ParseFigure reads a figure of a working as it is typed: a number as ParseNumber reads it,
// or with a power of ten (2.533e-3, 2.533 x 10^-3, 2,533·10⁻³), and a unit behind it
// (2.533 mmol, 0.1 M), empty where there is none. The error is a *decimal.ParseError.
func ParseFigure(text string) (decimal.Decimal, quantity.Unit, error) {
	number, unit := strings.TrimSpace(text), quantity.Unit("")
	// The unit begins at the first letter or sign that no number has.
	if at := strings.IndexFunc(number, func(r rune) bool { return r == '%' || unicode.IsLetter(r) && !strings.ContainsRune("eExX", r) }); at > 0 {
		if known := typedUnit(strings.Join(strings.Fields(number[at:]), " ")); known != "" {
			number, unit = strings.TrimSpace(number[:at]), known
		}
	}
	if d, err := decimal.Parse(number); err == nil {
		return d, unit, nil
	}
	if d, ok := scientific(number); ok {
		return d, unit, nil
	}
	d, err := ParseNumber(text)
	return d, "", err
}

// typedUnit is the unit that is written so, in small letters too where it means nothing as it
// is; empty where there is none.
func typedUnit(text string) quantity.Unit {
	plain := spelt.Replace(raised.Replace(text))
	for _, written := range []string{plain, strings.ToLower(plain)} {
		if known, ok := typedUnits[written]; ok {
			return known
		}
		if known := quantity.Unit(written); known.Known() {
			return known
		}
	}
	return ""
}

// scientific reads a number with a power of ten.
func scientific(text string) (decimal.Decimal, bool) {
	plain := raised.Replace(strings.ReplaceAll(text, " ", ""))
	mantissa, power, found := "", "", false
	for _, times := range []string{"x10^", "X10^", "×10^", "·10^", "*10^", "x10", "X10", "×10", "·10", "*10", "e", "E"} {
		if mantissa, power, found = strings.Cut(plain, times); found {
			break
		}
	}
	exponent, err := decimal.Parse(power)
	if !found || err != nil || exponent.Places() > 0 || exponent.Float64() > mostPower || exponent.Float64() < -mostPower {
		return decimal.Decimal{}, false
	}
	d, err := decimal.Parse(mantissa)
	if err != nil {
		return decimal.Decimal{}, false
	}
	n := int(exponent.Float64())
	if n < 0 {
		d = d.Mul(decimal.Must("0." + strings.Repeat("0", -n-1) + "1"))
	} else { // what is moved behind the point stays as many figures: 2.50e1 is 25.0
		d = d.Mul(decimal.Must("1" + strings.Repeat("0", n))).Round(max(0, d.Places()-n))
	}
	_, err = decimal.Parse(d.String()) // it has to be a number that can be written out
	return d, err == nil
}
