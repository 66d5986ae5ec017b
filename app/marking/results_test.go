package marking

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/values/decimal"
	"exactflask/wording"
)

// A percentage is rounded once, half up, from what it is: 161/180 are 89.444 %, 1611/1800 89.5 %.
// By hand.
func TestPercentIsRoundedOnce(t *testing.T) {
	for _, c := range []struct {
		marks, of string
		round     Rounding
		want      string
	}{
		{"14", "15.5", AsTheyAre, "90.3"}, // 90.3226
		{"161", "180", ToWhole, "89"}, {"161", "180", ToHalves, "89.5"}, {"161", "180", AsTheyAre, "89.4"},
		{"17.89", "20", ToWhole, "89"}, // 89.45: 89.5 by way of a tenth would be 90
		{"17.9", "20", ToWhole, "90"},
		{"17.85", "20", ToHalves, "89.5"}, // 89.25
		{"3", "0", AsTheyAre, ""},
	} {
		row := ResultRow{}
		row.Total.Decimal = decimal.Must(c.marks)
		cells := row.grade("percent", decimal.Must(c.of), c.round, wording.For())
		require.Len(t, cells, 1)
		got := ""
		if cells[0].Number != nil {
			got = cells[0].Number.String()
		}
		assert.Equal(t, c.want, got, "%s of %s, %s", c.marks, c.of, c.round)
	}
}
