package prep_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"exactflask/core/prep"
)

// Source: common practice, no source; molar masses from the atomic weights.
func TestMake(t *testing.T) {
	khp, fault := prep.Make(prep.Solution{Formula: "KHC8H4O4", Concentration: 0.1, Volume: 250, Purity: 0.9995, Weighed: 5.1325})
	require.Nil(t, fault)
	assert.InEpsilon(t, 0.1*0.25*204.221/0.9995, khp.Mass, 1e-5)
	assert.InEpsilon(t, 5.1325*0.9995/204.221/0.25, khp.Exact, 1e-5)
	assert.True(t, khp.Primary)
	assert.Less(t, khp.Low, khp.Mass)
	codes := map[string]int{}
	for _, s := range khp.Steps {
		codes[s.Code] = s.Seconds
	}
	assert.Equal(t, 900, codes["prep.dissolve"], "it takes 15 minutes")
	assert.Contains(t, codes, "prep.transfer")
	assert.NotContains(t, codes, "prep.standardise")

	carbonate, _ := prep.Make(prep.Solution{Formula: "Na2CO3*10H2O", Concentration: 0.05, Volume: 1000})
	assert.InEpsilon(t, 0.05*286.138, carbonate.Mass, 1e-4, "the water of a hydrate is weighed too")
	naoh, _ := prep.Make(prep.Solution{Formula: "NaOH", Concentration: 0.1, Volume: 2000})
	assert.False(t, naoh.Primary, "hydroxide is never a primary standard")
	last := naoh.Steps[len(naoh.Steps)-3]
	assert.Equal(t, "prep.standardise", last.Code)

	hcl, _ := prep.Make(prep.Solution{Formula: "HCl", Concentration: 0.1, Volume: 1000})
	assert.InDelta(t, 8.35, hcl.Stock, 0.05, "from 37 % w/w, 1.18 g/mL: 12.0 mol/L")
	assert.Equal(t, "prep.acid-to-water", hcl.Steps[1].Code)
	six, _ := prep.Make(prep.Solution{Formula: "HCl", Concentration: 0.105, Volume: 485, Stock: 6})
	assert.InDelta(t, 8.49, six.Stock, 0.01, "8.5 mL of 6 mol/L to 485 mL")
	assert.Equal(t, 120, six.Steps[2].Seconds, "a dense stock is stirred for two minutes")
	for path, in := range map[string]prep.Solution{
		"formula":       {Formula: "Xy", Concentration: 1, Volume: 1},
		"concentration": {Formula: "HCl", Concentration: 7, Volume: 1, Stock: 6},
		"density":       {Formula: "HCl", Concentration: 1, Volume: 1, StockPercent: 37},
	} {
		_, fault := prep.Make(in)
		require.NotNil(t, fault)
		assert.Equal(t, path, fault.Path)
	}
}

func TestSerialDilution(t *testing.T) {
	ways, fault := prep.Serial(prep.Dilution{From: 1, To: 0.1})
	require.Nil(t, fault)
	assert.Len(t, ways[0].Steps, 1)
	assert.InDelta(t, 0.1, ways[0].Gives, 1e-12)
	ways, _ = prep.Serial(prep.Dilution{From: 1, To: 0.0016, Pipettes: []float64{10, 25}, Flasks: []float64{250}})
	require.NotEmpty(t, ways)
	assert.Len(t, ways[0].Steps, 2, "1 : 625 is 1 : 25 and 1 : 25 again")
	assert.InDelta(t, 0.0016, ways[0].Gives, 1e-9)
	_, fault = prep.Serial(prep.Dilution{From: 0.1, To: 1})
	assert.Equal(t, "to", fault.Path)
	_, fault = prep.Serial(prep.Dilution{From: 1, To: 0.37, Pipettes: []float64{10}, Flasks: []float64{100}, Steps: 1})
	assert.NotNil(t, fault)
	rapid.Check(t, func(t *rapid.T) {
		in := prep.Dilution{From: rapid.Float64Range(0.1, 12).Draw(t, "from"), To: rapid.Float64Range(1e-4, 0.09).Draw(t, "to")}
		ways, fault := prep.Serial(in)
		if fault != nil {
			return
		}
		for _, w := range ways {
			c := in.From
			for _, s := range w.Steps {
				c *= s.Pipette / s.Flask
			}
			assert.InEpsilon(t, c, w.Gives, 1e-9)
			assert.LessOrEqual(t, w.Off, 5.0)
			assert.Positive(t, w.Uncertainty)
		}
	})
}

func TestClass(t *testing.T) {
	needs := prep.Quantities("hydrochloric acid", "sample", "methyl orange", 24, 25, 3, prep.Class{Students: 12, Trials: 4, Bottle: 110})
	assert.InDelta(t, 4*24+25, needs[0].Bench, 1e-9, "four trials, two rinses of 10 mL and the jet")
	assert.InDelta(t, 121*12*1.2, needs[0].Total, 1e-9)
	assert.Equal(t, 2000.0, needs[0].Make)
	assert.True(t, needs[0].Short)
	assert.Equal(t, 3, needs[0].Lasts)
	assert.False(t, needs[1].Short, "4 x 25 + 10 mL is just enough")
	assert.InDelta(t, 12*4*3*0.05*1.2, needs[2].Total, 1e-9)
}
