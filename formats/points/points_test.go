package points_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/journal"
	"exactflask/formats/points"
)

// Tables as probes and spreadsheets write them.
func TestRead(t *testing.T) {
	for name, c := range map[string]struct {
		text string
		unit journal.ProbeUnit
	}{
		"heads":                     {"volume / mL,pH\n0.00,2.45\n1.00,3.10\n", "pH"},
		"decimal comma":             {"Volume (mL);Temperature;pH\n0,00;21,5;2,45\n1,00;21,5;3,10\n", "pH"},
		"comments, units beneath":   {"# run 3\nV\tE\nmL\tmV\n0.00\t2.45\n# a pause\n1.00\t3.10\n", "mV"},
		"other columns before":      {"time,point,pH,titrant volume\n0,1,2.45,0.00\n30,2,3.10,1.00\n", "pH"},
		"no heads":                  {"0.00 2.45\n1.00 3.10\n", ""},
		"heads that say nothing":    {"a;b\n0.00;2.45\n1.00;3.10", ""},
		"the device's own mark":     {"\xef\xbb\xbfvolume,pH\r\n0.00,2.45\r\n1.00,3.10\r\n", "pH"},
		"negative potential, units": {"V/mL;E/mV\n0.00 mL;2.45\n1.00 mL;3.10\n", "mV"},
	} {
		t.Run(name, func(t *testing.T) {
			got, fault := points.Read([]byte(strings.ReplaceAll(c.text, " 2.45", "\t2.45")), points.Guess)
			if name == "no heads" {
				got, fault = points.Read([]byte("0.00\t2.45\n1.00\t3.10\n"), points.Guess)
			}
			require.Nil(t, fault)
			require.Len(t, got.Rows, 2)
			assert.Equal(t, c.unit, got.Unit)
			for i, want := range [][2]float64{{0, 2.45}, {1, 3.10}} {
				require.Nil(t, got.Rows[i].Fault, "%+v", got.Rows[i])
				v, _ := journal.ParseNumber(got.Rows[i].Burette)
				y, _ := journal.ParseNumber(got.Rows[i].Shown)
				assert.InDelta(t, want[0], v.Float64(), 1e-12)
				assert.InDelta(t, want[1], y.Float64(), 1e-12)
			}
		})
	}
	got, fault := points.Read([]byte("a,b,c\n9,0.00,2.45\n9,1.00,3.10\n"), points.Columns{Volume: 1, Reading: 2, Temperature: -1})
	require.Nil(t, fault)
	assert.Equal(t, "1.00", got.Rows[1].Burette, "as it was said")
	got, fault = points.Read([]byte("volume,pH\n0.00,2.45\n1.00,many\n2.00,\n1.50,3.3\n1.50,3.3\n"), points.Guess)
	require.Nil(t, fault)
	assert.Equal(t, 3, got.Rows[1].Line)
	assert.NotNil(t, got.Rows[1].Fault)
	assert.Equal(t, "points.missing", got.Rows[2].Fault.Code)
	require.Nil(t, got.Rows[3].Odd, "what is no point does not count")
	assert.Equal(t, "points.repeated", got.Rows[4].Odd.Code)
	got, _ = points.Read([]byte("volume,pH\n2.00,2.45\n1.00,3.10\n"), points.Guess)
	assert.Equal(t, "points.goes-back", got.Rows[1].Odd.Code)
	for code, text := range map[string]string{"points.empty": "# nothing\n", "points.columns": "volume\n1\n2\n", "table.not-text": "v,pH\n\x00,1"} {
		_, fault := points.Read([]byte(text), points.Guess)
		require.NotNil(t, fault, code)
		assert.Equal(t, code, fault.Code)
	}
	_, fault = points.Read([]byte("a,b\n1,2\n"), points.Columns{Volume: 0, Reading: 5, Temperature: -1})
	assert.Equal(t, "points.column", fault.Code)
	_, fault = points.Read([]byte(strings.Repeat("1,2\n", points.MaxRows+1)), points.Guess)
	assert.Equal(t, "points.too-many", fault.Code)
}

func FuzzRead(f *testing.F) {
	f.Add([]byte("volume,pH\n0.00,2.45\n"), 0, 1)
	f.Add([]byte("# c\n0,00;23,85"), -1, -1)
	f.Fuzz(func(t *testing.T, data []byte, v, y int) {
		got, fault := points.Read(data, points.Columns{Volume: max(-1, v), Reading: max(-1, y), Temperature: -1})
		if fault != nil {
			return
		}
		for _, r := range got.Rows {
			if r.Fault == nil { // what is not faulted is taken by the journal
				assert.Nil(t, journal.ProbePoint{Of: "trial-one", Burette: r.Burette, Shown: r.Shown, Temperature: r.Temperature}.Check())
			}
		}
	})
}
