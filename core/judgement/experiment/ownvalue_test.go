package experiment_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
	"exactflask/core/values/quantity"
)

func measured(what journal.Quality, step int, value string) journal.Entry {
	return journal.Entry{Part: journal.OwnValue{What: what, Step: step, Written: value}}
}

// What was measured at the bench takes the place of what the practical gives: the answer, worked
// out by hand with each value, changes by it and by nothing else.
func TestMeasuredTakesThePlaceOfNominal(t *testing.T) {
	cylinder := func(p *practical.Practical) { p.Route[0].By = practical.ByCylinder }
	fraction := func(p *practical.Practical) {
		cylinder(p)
		p.Asked = practical.Asked{What: practical.MassFraction, Density: decimal.Must("1.000")}
	}
	for _, c := range []struct {
		name   string
		change func(*practical.Practical)
		own    []journal.Entry
		answer float64
	}{
		// Hydroxide (39.997 g/mol) by 0.1000 mol/L acid, 23.80 mL: n = 2.380 mmol.
		{"nothing", cylinder, nil, 2.380 / 25.00},
		{"the cylinder read 25.6", cylinder, []journal.Entry{measured(journal.OwnVolume, 1, "25.6")}, 2.380 / 25.6},
		{"the later counts", cylinder, []journal.Entry{measured(journal.OwnVolume, 1, "25.6"), measured(journal.OwnVolume, 1, "24.8")}, 2.380 / 24.8},
		{"of a step that there is not", cylinder, []journal.Entry{measured(journal.OwnVolume, 2, "25.6")}, 2.380 / 25.00},
		{"a density that nothing uses", cylinder, []journal.Entry{measured(journal.OwnDensity, 0, "1.012")}, 2.380 / 25.00},
		{"density as given", fraction, nil, 2.380 / 25.00 * 39.997 / 1000 * 100},
		{"density measured", fraction, []journal.Entry{measured(journal.OwnDensity, 0, "1.012")}, 2.380 / 25.00 * 39.997 / 1012 * 100},
		{"both", fraction, []journal.Entry{measured(journal.OwnDensity, 0, "1.012"), measured(journal.OwnVolume, 1, "25.6")}, 2.380 / 25.6 * 39.997 / 1012 * 100},
	} {
		p := practicaltest.Plain()
		p.Chemistry.Titrant.Concentration = decimal.Must("0.1000")
		c.change(&p)
		ev := of(t, p, add(entries("A 0.00 23.80", "A 0.00 23.80"), c.own...))
		require.NotNil(t, ev.Result, c.name)
		assert.InEpsilon(t, c.answer, ev.Result.Answer.Value, 2e-5, c.name)
	}
}

// The mass of one tablet stands for all, times how many there are; a weighing of all of them is
// better, and counts.
func TestOneTablet(t *testing.T) {
	p := tablets(t)
	with := func(own ...journal.Entry) *evaluation.Result {
		return of(t, p, add(entries("A 0.00 20.00", "A 0.00 20.00"), own...)).Result
	}
	assert.Nil(t, with(), "no mass is known")
	one := with(measured(journal.OwnTablet, 0, "0.500"))
	require.NotNil(t, one)
	// 20.00 mL of 0.1000 mol/L hydroxide for 2 tablets of 0.500 g; HC9H7O4 is 180.158 g/mol.
	assert.InEpsilon(t, 2.000e-3*180.158/1.000*100, one.Answer.Value, 2e-5)
	all := with(measured(journal.OwnTablet, 0, "0.500"), journal.Entry{Part: journal.Weighing{What: "tablets", Full: "11.020", Emptied: "10.000"}})
	assert.InEpsilon(t, 2.000e-3*180.158/1.020*100, all.Answer.Value, 2e-5)
	assert.Nil(t, with(journal.Entry{Part: journal.OwnValue{What: journal.OwnTablet, Written: "0"}}), "nothing weighs nothing")
}

func tablets(t *testing.T) practical.Practical {
	p := practicaltest.Plain()
	p.Chemistry.Equation, p.Chemistry.Indicator = "C9H8O4 + NaOH -> NaC9H7O4 + H2O", "phenolphthalein"
	p.Chemistry.Titrant = practical.Solution{Name: "sodium hydroxide", Formula: "NaOH", Concentration: decimal.Must("0.1000")}
	p.Chemistry.Analyte = practical.Solution{Name: "aspirin", Formula: "C9H8O4"}
	p.Route = []practical.RouteStep{{Kind: practical.Tablets, Count: 2, What: "tablets"}}
	p.Asked = practical.Asked{What: practical.PurityOf, Titre: decimal.Must("20")}
	_, fault := p.Check()
	require.Nil(t, fault)
	return p
}

// What the label says, as it was read, is what the answer is compared with; how warm the
// solutions are takes the place of what is assumed of the room.
func TestLabelAndTemperature(t *testing.T) {
	p := practicaltest.Plain()
	p.Chemistry.Titrant.Concentration = decimal.Must("0.1000")
	p.Asked.Label = practical.Label{Value: decimal.Must("0.1000"), Unit: quantity.MolePerL}
	warm := func(own ...journal.Entry) (evaluation.Evaluation, float64) {
		ev := of(t, p, add(entries("A 0.00 20.00", "A 0.00 20.00"), own...))
		for _, c := range ev.Result.Budget.Contributions {
			if c.Code == "temperature" {
				return ev, c.Standard
			}
		}
		return ev, 0
	}
	ev, room := warm()
	assert.InDelta(t, -20, ev.Result.Label.Percent, 1e-6)
	ev, cold := warm(measured(journal.OwnLabel, 0, "0.0800"), measured(journal.OwnTemperature, 0, "20.0"))
	assert.InDelta(t, 0, ev.Result.Label.Percent, 1e-6)
	assert.InEpsilon(t, room/3, cold, 1e-6, "3 K are assumed; a thermometer is read to 1 K")
	_, hot := warm(measured(journal.OwnTemperature, 0, "26"))
	assert.InEpsilon(t, room/3*7, hot, 1e-6)
}

// A slip of the point is asked about before it is written.
func TestMeasuredFar(t *testing.T) {
	p := practicaltest.Plain()
	p.Route[0].By = practical.ByCylinder
	r, fault := p.Check()
	require.Nil(t, fault)
	for value, code := range map[string]string{"25.6": "", "30.0": "", "30.1": "entered.far", "2.56": "entered.slipped"} {
		m, _ := experiment.Doubt(r, journal.OwnValue{What: journal.OwnVolume, Step: 1, Written: value})
		assert.Equal(t, code, m.Code, value)
	}
	for _, c := range []struct {
		what  journal.Quality
		step  int
		value string
		ok    bool
	}{
		{journal.OwnVolume, 1, "25.6", true}, {journal.OwnVolume, 0, "25.6", false}, {journal.OwnDensity, 1, "1.01", false},
		{journal.OwnVolume, 14, "25.6", false}, {journal.OwnVolume, 13, "25.6", true}, {journal.OwnDensity, 0, "0", false},
		{journal.OwnDensity, 0, "0.001", true}, {journal.OwnTemperature, 0, "-20", true}, {journal.OwnTemperature, 0, "-20.1", false},
		{journal.OwnTemperature, 0, "120", true}, {journal.OwnTemperature, 0, "120.1", false}, {journal.OwnLabel, 0, "x", false},
		{"colour", 0, "1", false},
	} {
		fault := journal.OwnValue{What: c.what, Step: c.step, Written: c.value}.Check()
		assert.Equal(t, c.ok, fault == nil, "%v", c)
	}
}

// Who works on with the practical's value though another was measured is told that slip.
func TestNominalTakenForMeasured(t *testing.T) {
	p := practicaltest.Plain()
	p.Route[0].By = practical.ByCylinder
	p.Chemistry.Titrant.Concentration = decimal.Must("0.1000")
	answer := func(text string) (string, string) {
		ev := of(t, p, add(entries("A 0.00 23.80", "A 0.00 23.80"), measured(journal.OwnVolume, 1, "22.0"),
			journal.Entry{Part: journal.Answer{Step: "answer", Written: text, Unit: "mol/L"}}))
		last := ev.Work[len(ev.Work)-1]
		return string(last.Verdict), last.Slip
	}
	verdict, slip := answer("0.0952") // 2.380 mmol in 25.0 mL
	assert.Equal(t, "wrong", verdict)
	assert.Equal(t, "slip.nominal-taken", slip)
	verdict, _ = answer("0.108") // in 22.0 mL
	assert.Equal(t, "right", verdict)
}

// Of several samples one value would be said of all: only how warm they are is. What the label says
// may be read where results are withheld, and its value is not told.
func TestWhatMayBeMeasured(t *testing.T) {
	of := func(p practical.Practical) (out []journal.Quality) {
		r, fault := p.Check()
		require.Nil(t, fault)
		for _, m := range r.Measurable() {
			out = append(out, m.What)
			if m.What == journal.OwnLabel {
				assert.True(t, m.Nominal.IsZero())
			}
		}
		return out
	}
	p := practicaltest.Plain()
	p.Asked.Label = practical.Label{Value: decimal.Must("0.1"), Unit: quantity.MolePerL, Text: "0.1 M"}
	all := []journal.Quality{journal.OwnVolume, journal.OwnLabel, journal.OwnTemperature}
	assert.Equal(t, all, of(p))
	hidden := p.Withholding(true)
	assert.Equal(t, all, of(hidden), "the page has this one, and says the same")
	assert.Equal(t, practical.Label{Unit: quantity.MolePerL}, hidden.Asked.Label)
	p.Asked.Label = practical.Label{Unit: quantity.Percent} // of something else, and left over
	assert.Equal(t, []journal.Quality{journal.OwnVolume, journal.OwnTemperature}, of(p))
	p.Samples = []practical.Sample{{Name: "warm"}, {Name: "cold"}}
	p.Asked.Label = practical.Label{Unit: quantity.MolePerL}
	assert.Equal(t, []journal.Quality{journal.OwnTemperature}, of(p))
}
