package quantity_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/values/decimal"
	"exactflask/core/values/quantity"
)

func TestConversionKeepsFiguresAndRefusesNonsense(t *testing.T) {
	v := quantity.Of(decimal.Must("25.0"), quantity.Millilitre)
	l, err := v.In(quantity.Litre)
	require.NoError(t, err)
	assert.Equal(t, "0.0250", l.String())
	_, err = v.In(quantity.Mole)
	assert.ErrorContains(t, err, "mL")
	_, err = v.In("cubit")
	assert.ErrorContains(t, err, "cubit")
}

// Half up on the decimal: common practice, no source.
func TestShow(t *testing.T) {
	for _, c := range []struct {
		value   float64
		figures int
		want    string
	}{
		{0.27676, 2, "0.28"}, {0.27676, 3, "0.277"}, {1.005 * 0.1, 3, "0.101"}, {2, 0, "2"}, {0.5, 0, "0.5"}, {100, 0, "100"},
		{53.3274, 3, "53.3"}, {250, 3, "250"}, {0, 3, "0.00"}, {math.NaN(), 3, "–"}, {math.Inf(1), 3, "–"},
	} {
		assert.Equal(t, c.want, quantity.Show(c.value, c.figures))
	}
}
