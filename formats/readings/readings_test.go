package readings_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/journal"
	"exactflask/formats/readings"
)

func TestRead(t *testing.T) {
	for name, text := range map[string]string{
		"heads, comma":         "trial,start,end\nrough,0.00,24.0\n1,0.10,23.85\n",
		"semicolon and commas": "Initial reading / mL;Type;Final reading / mL\n0,00;Rough;24,0\n0,10;accurate;23,85\n",
		"tab, other columns":   "date\tTrial\tStart\tEnd\tnote\nmon\tR\t0.00\t24.0\t\nmon\tTrial 1\t0.10\t23.85\tpale\n",
	} {
		rows, fault := readings.Read([]byte(text))
		require.Nil(t, fault, name)
		require.Len(t, rows, 2, name)
		assert.Equal(t, journal.Rough, rows[0].Type, name)
		assert.Equal(t, journal.Accurate, rows[1].Type, name)
		assert.Regexp(t, `^23[.,]85$`, rows[1].End, name)
		for _, r := range rows {
			assert.Nil(t, r.Fault, name)
		}
	}
	rows, fault := readings.Read([]byte("0.00;23.85\n23.85;47.70"))
	require.Nil(t, fault)
	assert.Len(t, rows, 2, "two columns of figures need no heads")
	rows, fault = readings.Read([]byte("trial,start,end\nblue,0.00,24.0\n1,many,23.85\n2,0.00,\n"))
	require.Nil(t, fault)
	var codes []string
	for _, r := range rows {
		require.NotNil(t, r.Fault)
		codes = append(codes, r.Fault.Code)
	}
	assert.Equal(t, "readings.type", codes[0])
	assert.Equal(t, "readings.missing", codes[2])
	for code, text := range map[string]string{"readings.empty": " \n", "readings.columns": "a,b,c\n1,2,3\n", "table.quotes": "start,end\n\"1,2\n",
		"table.not-text": "start,end\n\x00,1"} {
		_, fault := readings.Read([]byte(text))
		require.NotNil(t, fault, code)
		assert.Equal(t, code, fault.Code)
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte("trial,start,end\nrough,0.00,24.0\n"))
	f.Add([]byte("0,00;23,85"))
	f.Fuzz(func(t *testing.T, data []byte) {
		rows, fault := readings.Read(data)
		if fault != nil {
			assert.Empty(t, rows)
			return
		}
		assert.LessOrEqual(t, len(rows), readings.MaxRows+1)
		for _, r := range rows {
			if r.Fault == nil { // what is not faulted is taken by the journal
				assert.Nil(t, journal.Scale{Of: "trial-one", Place: journal.Start, Written: r.Start}.Check())
				assert.Nil(t, journal.Scale{Of: "trial-one", Place: journal.End, Written: r.End}.Check())
			}
		}
	})
}
