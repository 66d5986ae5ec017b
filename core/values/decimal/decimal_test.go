package decimal_test

import (
	"fmt"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"exactflask/core/values/decimal"
)

func Example() {
	end, _ := decimal.Parse("24,40")
	start, _ := decimal.Parse("0.55")
	fmt.Println(end.Sub(start))
	// Output: 23.85
}

// Source of all rows: common practice, no source.
func TestParseKeepsWhatWasWritten(t *testing.T) {
	for _, c := range []struct {
		text, want      string
		places, figures int
		err             error
	}{
		{text: "24.40", want: "24.40", places: 2, figures: 4},
		{text: "24,40", want: "24.40", places: 2, figures: 4},
		{text: "  24.4 ", want: "24.4", places: 1, figures: 3},
		{text: "0.00", want: "0.00", places: 2, figures: 3},
		{text: "0.0950", want: "0.0950", places: 4, figures: 3},
		{text: "250", want: "250", figures: 3},
		{text: ".5", want: "0.5", places: 1, figures: 1},
		{text: "7.", want: "7", figures: 1},
		{text: "−0.10", want: "-0.10", places: 2, figures: 2},
		{text: "", err: decimal.ErrEmpty},
		{text: "  ", err: decimal.ErrEmpty},
		{text: "24.4.0", err: decimal.ErrTwoPoints},
		{text: "1,234.5", err: decimal.ErrTwoPoints},
		{text: "twenty", err: decimal.ErrNotANumber},
		{text: "1e3", err: decimal.ErrNotANumber},
		{text: "--1", err: decimal.ErrNotANumber},
		{text: ".", err: decimal.ErrNotANumber},
		{text: "NaN", err: decimal.ErrNotANumber},
		{text: "1234567890123", err: decimal.ErrTooLong},
		{text: ".000000000001", err: decimal.ErrTooLong}, // it would be written back with 13
		{text: ".00000000001", want: "0.00000000001", places: 11, figures: 1},
	} {
		d, err := decimal.Parse(c.text)
		if c.err != nil {
			assert.ErrorIs(t, err, c.err, c.text)
			continue
		}
		require.NoError(t, err, c.text)
		assert.Equal(t, c.want, d.String(), c.text)
		assert.Equal(t, c.places, d.Places(), "places of %s", c.text)
		assert.Equal(t, c.figures, d.Figures(), "figures of %s", c.text)
	}
}

// Half up, not half to even: common practice in schools, no source.
func TestRounding(t *testing.T) {
	for _, c := range []struct {
		text    string
		figures int
		want    string
	}{
		{"0.27675", 2, "0.28"}, {"0.27675", 3, "0.277"}, {"0.265", 2, "0.27"}, {"0.255", 2, "0.26"},
		{"9.96", 2, "10"}, {"99.96", 3, "100"}, {"0.0999", 1, "0.1"}, {"0", 3, "0.00"}, {"-0.265", 2, "-0.27"},
		{"53.328", 3, "53.3"},
	} {
		assert.Equal(t, c.want, decimal.Must(c.text).RoundFigures(c.figures).String(), c.text)
	}
	assert.Equal(t, "23.82", decimal.Must("23.816666").Round(2).String())
	assert.Equal(t, "23.9", decimal.Must("23.85").Round(1).String())
}

func TestArithmeticIsExact(t *testing.T) {
	diff := decimal.Must("23.90").Sub(decimal.Must("23.80"))
	assert.Zero(t, diff.Cmp(decimal.Must("0.10")), "23.90 - 23.80 is 0.10, not a little more")
	mean, ok := decimal.Mean(decimal.Must("23.85"), decimal.Must("23.80"), decimal.Must("23.80"))
	require.True(t, ok)
	assert.Equal(t, "23.82", mean.Round(2).String())
	_, ok = decimal.Mean()
	assert.False(t, ok)
	assert.True(t, decimal.Must("24.45").MultipleOf(decimal.Must("0.05")))
	assert.False(t, decimal.Must("24.43").MultipleOf(decimal.Must("0.05")))
	assert.False(t, decimal.Must("24.43").MultipleOf(decimal.Must("0")))

	number := rapid.Map(rapid.IntRange(-999999, 999999), func(n int) decimal.Decimal {
		d, _ := decimal.Whole(int64(n)).Div(decimal.Must("100"))
		return d.Round(2)
	})
	rapid.Check(t, func(t *rapid.T) {
		a, b := number.Draw(t, "a"), number.Draw(t, "b")
		assert.Equal(t, a.String(), a.Add(b).Sub(b).String())
		again, err := decimal.Parse(a.String())
		require.NoError(t, err)
		assert.Equal(t, a.String(), again.String())
	})
}

func FuzzParse(f *testing.F) {
	for _, s := range []string{"24.40", "24,40", "", "1e9", "−1", "..", "00000.1"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		d, err := decimal.Parse(text)
		if err != nil {
			return
		}
		again, err := decimal.Parse(d.String())
		require.NoError(t, err)
		assert.Equal(t, d.String(), again.String())
	})
}

// The quick way and the slow one agree with the nearest number that the text stands for.
func TestFloat64IsTheNearest(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.StringMatching(`-?[0-9]{1,9}(\.[0-9]{1,9})?`).Draw(t, "text")
		d, err := decimal.Parse(text)
		if err != nil {
			t.Skip("too long")
		}
		product := d.Mul(d).Mul(d) // longer than what is written
		for _, x := range []decimal.Decimal{d, product} {
			want, err := strconv.ParseFloat(x.String(), 64)
			require.NoError(t, err)
			require.Equal(t, want, x.Float64(), x.String())
		}
	})
}

// A number of JSON keeps its digits, and is read with an exponent too.
func TestNumber(t *testing.T) {
	for text, want := range map[string]string{"2.5": "2.5", "2.50": "2.50", "0": "0", "25e-1": "2.5", "1E1": "10", `"2"`: "", "1e999": "", "x": ""} {
		var x decimal.Number
		err := x.UnmarshalJSON([]byte(text))
		assert.Equal(t, want == "", err != nil, text)
		if err != nil {
			continue
		}
		out, err := x.MarshalJSON()
		require.NoError(t, err)
		assert.Equal(t, want, string(out), text)
	}
}
