package prep_test

import (
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"exactflask/core/practice/prep"
)

// Source: common practice, no source; molar masses from the atomic weights.
func TestMake(t *testing.T) {
	khp, fault := prep.Make(prep.Solution{Formula: "KHC8H4O4", Concentration: 0.1, Volume: 250, Purity: 0.9995,
		Weighed: 5.1325})
	require.Nil(t, fault)
	assert.InEpsilon(t, 0.1*0.25*204.221/0.9995, khp.Mass, 1e-5)
	assert.InEpsilon(t, 5.1325*0.9995/204.221/0.25, khp.Exact, 1e-5)
	assert.True(t, khp.Primary)
	assert.Less(t, khp.Low, khp.Mass)
	codes := map[string]int{}
	for _, s := range khp.Instructions {
		codes[s.Say.Code] = s.Seconds
	}
	assert.Equal(t, 900, codes["prep.dissolve"], "it takes 15 minutes")
	assert.Contains(t, codes, "prep.transfer")
	assert.NotContains(t, codes, "prep.standardise")

	carbonate, _ := prep.Make(prep.Solution{Formula: "Na2CO3*10H2O", Concentration: 0.05, Volume: 1000})
	assert.InEpsilon(t, 0.05*286.138, carbonate.Mass, 1e-4, "the water of a hydrate is weighed too")
	naoh, _ := prep.Make(prep.Solution{Formula: "NaOH", Concentration: 0.1, Volume: 2000})
	assert.False(t, naoh.Primary, "hydroxide is never a primary standard")
	last := naoh.Instructions[len(naoh.Instructions)-3]
	assert.Equal(t, "prep.standardise", last.Say.Code)

	hcl, _ := prep.Make(prep.Solution{Formula: "HCl", Concentration: 0.1, Volume: 1000})
	assert.InDelta(t, 8.35, hcl.Stock, 0.05, "from 37 % w/w, 1.18 g/mL: 12.0 mol/L")
	assert.Equal(t, "prep.acid-to-water", hcl.Instructions[1].Say.Code)
	six, _ := prep.Make(prep.Solution{Formula: "HCl", Concentration: 0.105, Volume: 485, Stock: 6})
	assert.InDelta(t, 8.49, six.Stock, 0.01, "8.5 mL of 6 mol/L to 485 mL")
	assert.Equal(t, 120, six.Instructions[2].Seconds, "a dense stock is stirred for two minutes")
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

// What stands on the shelf may be a hydrate: the sheet asks for the jar, and reckons with what is on it.
func TestWaterOfCrystallisation(t *testing.T) {
	codes := func(p prep.Preparation) (out []string, others []string) {
		for _, i := range p.Instructions {
			out = append(out, i.Say.Code)
			if i.Say.Code == "prep.look-at-jar" {
				others = append(others, i.Say.Values["other"].Formula+" "+strconv.FormatFloat(*i.Say.Values["mass"].Number, 'f', 2, 64))
			}
		}
		return out, others
	}
	make := func(in prep.Solution) prep.Preparation {
		p, fault := prep.Make(in)
		require.Nil(t, fault)
		return p
	}
	// 0.100 mol/L, 500 mL: 5.30 g without water, 14.3 g of the decahydrate, 6.20 g of the monohydrate.
	said, others := codes(make(prep.Solution{Formula: "Na2CO3", Concentration: 0.1, Volume: 500}))
	assert.Contains(t, said, "prep.dry")
	assert.Equal(t, []string{"Na2CO3*10H2O 14.31", "Na2CO3*H2O 6.20"}, others)
	// Looking takes no time: the sheet begins as early as where there is nothing to look at.
	dry := make(prep.Solution{Formula: "Na2CO3", Jar: true, Concentration: 0.1, Volume: 500})
	asked := make(prep.Solution{Formula: "Na2CO3", Concentration: 0.1, Volume: 500})
	assert.Len(t, asked.Instructions, len(dry.Instructions)+2)
	assert.Equal(t, prep.Order(nil, []prep.Preparation{dry})[0].Before, prep.Order(nil, []prep.Preparation{asked})[0].Before)
	// The jar was said: nothing is asked, and crystals are never dried.
	soda := make(prep.Solution{Formula: "Na2CO3*10H2O", Jar: true, Concentration: 0.1, Volume: 500})
	said, others = codes(soda)
	assert.InDelta(t, 14.31, soda.Mass, 0.01)
	assert.NotContains(t, said, "prep.dry")
	assert.Empty(t, others)
	// A sample is never dried, though its substance is a standard elsewhere.
	said, _ = codes(make(prep.Solution{Formula: "Na2CO3", Sample: true, Concentration: 0.1, Volume: 500}))
	assert.NotContains(t, said, "prep.dry")
	// What has no hydrate is not asked about.
	_, others = codes(make(prep.Solution{Formula: "KIO3", Concentration: 0.1, Volume: 500}))
	assert.Empty(t, others)
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
		in := prep.Dilution{From: rapid.Float64Range(0.1, 12).Draw(t, "from"),
			To: rapid.Float64Range(1e-4, 0.09).Draw(t, "to")}
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
	needs := prep.Quantities(nil, []prep.Wanted{{What: "titrant", Name: "hydrochloric acid", Each: 24},
		{What: "analyte", Name: "sample", Each: 25}, {What: "indicator", Name: "methyl orange", Each: 3}},
		prep.Class{Students: 12, Trials: 4, Bottle: 110})
	assert.InDelta(t, 4*24+25, needs[0].Bench, 1e-9, "four trials, two rinses of 10 mL and the jet")
	assert.InDelta(t, 121*12*1.2, needs[0].Total, 1e-9)
	assert.Equal(t, 2000.0, needs[0].Make)
	assert.True(t, needs[0].Short)
	assert.Equal(t, 3, needs[0].Lasts)
	assert.False(t, needs[1].Short, "4 x 25 + 10 mL is just enough")
	assert.InDelta(t, 12*4*3*0.05*1.2, needs[2].Total, 1e-9)
}

// Concentrated reagents as they are bought. Source: the table of commercial
// acids and bases that handbooks and suppliers print (from memory); the volume
// is what makes one litre of 1 mol/L.
func TestConcentratedReagents(t *testing.T) {
	for _, c := range []struct {
		formula          string
		percent, density float64
		molarity, volume float64
	}{
		{"HCl", 37.2, 1.19, 12.1, 82.5},
		{"HNO3", 70.4, 1.42, 15.9, 63.0},
		{"H2SO4", 96.0, 1.84, 18.0, 55.5},
		{"H3PO4", 85.5, 1.70, 14.8, 67.5},
		{"HClO4", 70.5, 1.67, 11.7, 85.5},
		{"CH3COOH", 99.8, 1.05, 17.4, 57.5},
		{"HCOOH", 90.0, 1.20, 23.6, 42.5},
		{"NH3", 28.0, 0.90, 14.8, 67.5},
		{"NaOH", 50.5, 1.53, 19.4, 51.5},
		{"KOH", 45.0, 1.45, 11.7, 85.5},
	} {
		sheet, fault := prep.Make(prep.Solution{Formula: c.formula, Concentration: 1, Volume: 1000, StockPercent: c.percent,
			Density: c.density})
		require.Nil(t, fault, c.formula)
		assert.InEpsilon(t, c.volume, sheet.Stock, 0.012, c.formula)
		same, fault := prep.Make(prep.Solution{Formula: c.formula, Concentration: 1, Volume: 1000, Stock: c.molarity})
		require.Nil(t, fault, c.formula)
		assert.InEpsilon(t, sheet.Stock, same.Stock, 0.012, "%s: by its molarity as by its percentage", c.formula)
	}
}

// Ten times as much needs ten times the substance; a solution of half the
// strength, half; and impurity is made up for.
func TestMakeProperties(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		formula := rapid.SampledFrom([]string{"KHC8H4O4", "Na2CO3", "H2C2O4*2H2O", "K2Cr2O7", "KIO3", "NaOH",
			"Na2S2O3*5H2O"}).Draw(t, "formula")
		one := prep.Solution{Formula: formula, Concentration: rapid.Float64Range(0.001, 0.2).Draw(t, "c"),
			Volume: rapid.Float64Range(50, 200).Draw(t, "V"), Purity: 1}
		mass := func(change func(*prep.Solution)) float64 {
			s := one
			change(&s)
			made, fault := prep.Make(s)
			if fault != nil {
				t.Fatal(fault)
			}
			assert.LessOrEqual(t, made.Low, made.Mass)
			assert.GreaterOrEqual(t, made.High, made.Mass)
			return made.Mass
		}
		base := mass(func(*prep.Solution) {})
		assert.InEpsilon(t, 10*base, mass(func(s *prep.Solution) { s.Volume *= 10 }), 1e-9)
		assert.InEpsilon(t, base/2, mass(func(s *prep.Solution) { s.Concentration /= 2 }), 1e-9)
		assert.InEpsilon(t, base/0.8, mass(func(s *prep.Solution) { s.Purity = 0.8 }), 1e-9)
	})
}

// The order of work: what takes longest comes first, each at the latest moment from
// which the rest is done when the lesson begins.
func TestOrder(t *testing.T) {
	standard := prep.Preparation{Instructions: []prep.Instruction{{Seconds: 7200}, {}, {Seconds: 600}, {}}} // dry, weigh, dissolve, make up
	acid := prep.Preparation{Instructions: []prep.Instruction{{}, {Seconds: 120}, {}}}
	assert.Equal(t, []prep.Task{{Of: 0, Step: 0, Before: 150}, {Of: 0, Step: 2, Before: 20}, {Of: 1, Step: 0, Before: 17}, {Of: 1, Step: 1, Before: 12}},
		prep.Order(nil, []prep.Preparation{standard, acid}))
	assert.Empty(t, prep.Order(nil, nil))
}
