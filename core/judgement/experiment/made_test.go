package experiment_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/experiment"
	"exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
)

// oxalic is a hydroxide of unknown strength, titrated with oxalic acid that students weigh as
// its dihydrate (126.065 g/mol) and make up.
func oxalic(made ...practical.RouteStep) practical.Practical {
	p := practicaltest.Plain()
	p.Chemistry.Equation = "H2C2O4 + 2 NaOH -> Na2C2O4 + 2 H2O"
	p.Chemistry.Titrant = practical.Solution{Name: "oxalic acid", Formula: "H2C2O4", Concentration: decimal.Must("0.0635"), Made: made}
	p.Chemistry.Analyte.Approximate = decimal.Must("0.12")
	p.Chemistry.Indicator = "phenolphthalein"
	return p
}

func weighedSolid(mass string) practical.RouteStep {
	return practical.RouteStep{Kind: practical.Weigh, Mass: decimal.Must(mass), Formula: "H2C2O4*2H2O"}
}

func volumeOf(kind practical.StepKind, mL string) practical.RouteStep {
	return practical.RouteStep{Kind: kind, Volume: decimal.Must(mL)}
}

// The strength of a titrant that students make follows from what they weighed, and each dilution
// of it: 23.80 mL for 25.0 mL of the hydroxide, by hand.
func TestTitrantMadeByStudents(t *testing.T) {
	weighed := func(full, emptied string) journal.Entry {
		return journal.Entry{Part: journal.Weighing{What: "oxalic acid", Full: full, Emptied: emptied, Standard: true}}
	}
	once := []practical.RouteStep{weighedSolid("2.00"), volumeOf(practical.MakeUp, "250.0")}
	twice := []practical.RouteStep{weighedSolid("20.0"), volumeOf(practical.MakeUp, "250.0"), volumeOf(practical.Aliquot, "25.00"), volumeOf(practical.MakeUp, "250.0")}
	thrice := slices.Concat([]practical.RouteStep{weighedSolid("200")}, []practical.RouteStep{volumeOf(practical.MakeUp, "250.0"),
		volumeOf(practical.Aliquot, "25.00"), volumeOf(practical.MakeUp, "250.0"), volumeOf(practical.Aliquot, "25.00"), volumeOf(practical.MakeUp, "250.0")})
	stock := []practical.RouteStep{{Kind: practical.Pipette, Volume: decimal.Must("5.00"), Concentration: decimal.Must("0.635")}, volumeOf(practical.MakeUp, "50.0")}
	const m = 126.065
	for _, c := range []struct {
		name     string
		made     []practical.RouteStep
		own      []journal.Entry
		strength float64 // mol/L
		said     bool    // that nothing was weighed
	}{
		{"as the practical says", once, nil, 2.00 / m / 0.2500, true},
		{"2.05 g were weighed", once, []journal.Entry{weighed("14.55", "12.50")}, 2.05 / m / 0.2500, false},
		{"weighed again", once, []journal.Entry{weighed("14.55", "12.50"), weighed("14.48", "12.50")}, 1.98 / m / 0.2500, false},
		{"diluted once", twice, []journal.Entry{weighed("33.00", "12.50")}, 20.50 / m / 0.2500 / 10, false},
		{"diluted twice", thrice, []journal.Entry{weighed("217.50", "12.50")}, 205.0 / m / 0.2500 / 100, false},
		{"from a stock", stock, nil, 0.635 * 5 / 50, false},
		{"from a stock, as it was done", stock, []journal.Entry{{Part: journal.Prepared{Stock: "0.650", Taken: "4.90", MadeUp: "50.0"}}}, 0.650 * 4.90 / 50, false},
		{"ready made, though something was prepared", nil, []journal.Entry{{Part: journal.Prepared{Stock: "0.650", Taken: "4.90", MadeUp: "50.0"}}}, 0.0635, false},
		{"given ready made", nil, nil, 0.0635, false},
	} {
		p := oxalic(c.made...)
		ev := of(t, p, add(entries("A 0.00 23.80", "A 0.00 23.80"), c.own...))
		require.NotNil(t, ev.Result, c.name)
		assert.InEpsilon(t, c.strength*23.80*2/25.0, ev.Result.Answer.Value, 2e-5, c.name)
		known, ok := ev.Result.Derivation.Node(derivation.Known)
		require.True(t, ok, c.name)
		assert.InEpsilon(t, c.strength, known.Quantity.Value, 2e-5, c.name)
		said := false
		for _, f := range ev.Findings {
			said = said || f.Code == "nominal.standard"
			assert.NotEqual(t, "nominal.written", f.Code, c.name)
		}
		assert.Equal(t, c.said, said, c.name)
		steps := 0
		for _, s := range ev.Work {
			if s.Code == "step.diluted" || s.Code == "step.concentration" {
				steps++
			}
		}
		if len(c.made) > 0 { // its strength and that of the unknown are steps of the working
			assert.Equal(t, len(c.made)/2+1, steps, c.name)
		}
	}
}

// How it is made has an order, and comes to what is said of its strength within one part in twenty.
func TestHowATitrantIsMade(t *testing.T) {
	up, part := volumeOf(practical.MakeUp, "250.0"), volumeOf(practical.Aliquot, "25.00")
	for _, c := range []struct {
		made []practical.RouteStep
		path string
	}{
		{[]practical.RouteStep{weighedSolid("2.00"), up}, ""},
		{[]practical.RouteStep{weighedSolid("2.10"), up}, ""}, // 0.06663: 4.7 % less is said
		{[]practical.RouteStep{weighedSolid("2.11"), up}, "chemistry.titrant.concentration"},
		{[]practical.RouteStep{weighedSolid("1.91"), up}, ""}, // 0.0606: 4.8 % more is said
		{[]practical.RouteStep{weighedSolid("1.90"), up}, "chemistry.titrant.concentration"},
		{[]practical.RouteStep{weighedSolid("2.00")}, "chemistry.titrant.made[0].kind"},
		{[]practical.RouteStep{up}, "chemistry.titrant.made[0].kind"},
		{[]practical.RouteStep{weighedSolid("2.00"), part}, "chemistry.titrant.made[1].kind"},
		{[]practical.RouteStep{weighedSolid("2.00"), up, up}, "chemistry.titrant.made[2].kind"},
		{[]practical.RouteStep{weighedSolid("2.00"), up, part}, "chemistry.titrant.made[2].kind"},
		{[]practical.RouteStep{weighedSolid("2.00"), up, volumeOf(practical.Aliquot, "251"), up}, "chemistry.titrant.made[2]"},
		{[]practical.RouteStep{{Kind: practical.Weigh}, up}, "chemistry.titrant.made[0].mass"},
		{[]practical.RouteStep{{Kind: practical.Weigh, Mass: decimal.Must("2"), Formula: "NaCl"}, up}, "chemistry.titrant.made[0].formula"},
		{[]practical.RouteStep{volumeOf(practical.Pipette, "10.00"), up}, "chemistry.titrant.made[0].concentration"},
	} {
		_, fault := oxalic(c.made...).Check()
		if c.path == "" {
			assert.Nil(t, fault)
		} else if assert.NotNil(t, fault, c.path) {
			assert.Equal(t, c.path, fault.Path)
		}
	}
	// Of what has no name nothing follows before its molar mass is said.
	unnamed := oxalic([]practical.RouteStep{{Kind: practical.Weigh, Mass: decimal.Must("2")}, up}...)
	unnamed.Chemistry.Equation, unnamed.Chemistry.Titrant.Formula = "H2A + 2 NaOH -> Na2A + 2 H2O", "H2A"
	_, fault := unnamed.Check()
	require.NotNil(t, fault)
	assert.NotContains(t, fault.Error(), "Inf")
	p := oxalic()
	p.Chemistry.Analyte.Made = []practical.RouteStep{weighedSolid("2.00"), up}
	_, fault = p.Check()
	require.NotNil(t, fault)
	assert.Equal(t, "chemistry.analyte.made", fault.Path)
}

// Its weighing is asked for first, and a slip of the point in it is asked about.
func TestWeighingTheStandard(t *testing.T) {
	p := oxalic(weighedSolid("2.00"), volumeOf(practical.MakeUp, "250.0"))
	r, fault := p.Check()
	require.Nil(t, fault)
	next := experiment.Evaluate(r, nil, experiment.All).Next
	require.NotNil(t, next.Weigh)
	assert.True(t, next.Weigh.Standard)
	assert.Equal(t, "next.weigh-standard", next.Say[0].Code)
	weighing := journal.Weighing{What: "acid", Full: "12.70", Emptied: "12.50", Standard: true}
	m, _ := experiment.Doubt(r, weighing)
	assert.Equal(t, "entered.slipped", m.Code)
	weighing.Full = "14.50"
	_, doubtful := experiment.Doubt(r, weighing)
	assert.False(t, doubtful)
	ev := of(t, p, add(entries(), journal.Entry{Part: weighing}))
	assert.Nil(t, ev.Next.Weigh)
}
