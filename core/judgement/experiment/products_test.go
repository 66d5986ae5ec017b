package experiment_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
)

// sulfate makes sodium sulfate of 25.0 mL of alkali and sulfuric acid, 0.100 mol/L.
func sulfate(crystals string) practical.Practical {
	return changed(func(p *practical.Practical) {
		p.Chemistry = practical.Chemistry{Equation: "H2SO4 + 2 NaOH -> Na2SO4 + 2 H2O", Indicator: "phenolphthalein",
			Titrant: practical.Solution{Name: "t", Formula: "H2SO4", Concentration: decimal.Must("0.100")},
			Analyte: practical.Solution{Name: "a", Formula: "NaOH", Approximate: decimal.Must("0.2")}, Salt: crystals}
	})
}

// The repeat without indicator and its crystals. Source: stoichiometry, by hand:
// 25.00 mL of 0.100 mol/L acid are 2.50 mmol of Na2SO4·10H2O, 322.19 g/mol, 0.8055 g.
func TestMakingASalt(t *testing.T) {
	base := []string{"R 0.00 25.80", "A 0.00 25.00", "A 0.00 25.00"}
	repeat := func(end string) []journal.Entry {
		all := add(entries(base...), open(journal.Repeat))
		id := all[len(all)-1].ID
		return add(all, read(id, journal.Start, "0.00"), read(id, journal.End, end))
	}
	weighed := func(all []journal.Entry, full string) []journal.Entry {
		return add(all, journal.Entry{Part: journal.Weighing{What: "crystals", Full: full, Emptied: "20.000"}})
	}
	for _, c := range []struct {
		name        string
		all         []journal.Entry
		says, finds string
		yield       float64
	}{
		{"before the titres agree", entries("A 0.00 25.00"), "next.rough", "", 0},
		{"the volume is found", entries(base...), "next.repeat", "", 0},
		{"run in", repeat("25.00"), "next.crystals", "", 0},
		{"run past it", repeat("25.30"), "next.crystals", "salt.ran-off", 0},
		{"weighed", weighed(repeat("25.00"), "20.621"), "next.agreed", "", 77.1},
		{"weighed wet", weighed(repeat("25.00"), "20.900"), "next.agreed", "salt.wet", 111.7},
	} {
		ev := of(t, sulfate("Na2SO4*10H2O"), c.all)
		var says []string
		for _, m := range ev.Next.Say {
			says = append(says, m.Code)
		}
		if c.says != "next.rough" {
			assert.Contains(t, says, c.says, c.name)
			require.NotNil(t, ev.Salt, c.name)
			assert.InDelta(t, 0.8055, ev.Salt.Expected, 0.0005, c.name)
			assert.InDelta(t, c.yield, ev.Salt.Yield, 0.1, c.name)
			assert.Equal(t, "25.00", ev.Agreement.Mean.String(), "the repeat is not judged")
		} else {
			assert.Nil(t, ev.Salt, c.name)
		}
		found := ""
		for _, f := range ev.Findings {
			if f.Code == "salt.wet" || f.Code == "salt.ran-off" {
				found = f.Code
			}
		}
		assert.Equal(t, c.finds, found, c.name)
	}
	assert.Nil(t, of(t, sulfate(""), entries(base...)).Salt)
	for formula, code := range map[string]string{"Na2SO4*10H2O": "", "K2SO4": "salt.no-product", "Na2": "salt.no-product"} {
		_, fault := sulfate(formula).Check()
		if code == "" {
			assert.Nil(t, fault)
		} else if assert.NotNil(t, fault, formula) {
			assert.Equal(t, code, fault.Message.Code)
		}
	}
}

// A bottle of one's own: what it should hold by c1 V1 = c2 V2 beside what was found,
// what was drawn from it, and the warning before it runs out.
func TestOwnSolution(t *testing.T) {
	p := changed(func(p *practical.Practical) {
		p.Chemistry.Titrant, p.Chemistry.Analyte = practical.Solution{Name: "t", Formula: "HCl", Approximate: decimal.Must("0.1")},
			practical.Solution{Name: "a", Formula: "NaOH", Concentration: decimal.Must("0.1000")}
	})
	all := add(nil, journal.Entry{Part: journal.Prepared{Stock: "2.00", Taken: "25.0", MadeUp: "500.0"}})
	assert.InDelta(t, 0.1, of(t, p, all).Prepared.Concentration, 1e-12)
	assert.Nil(t, of(t, p, all).Prepared.Found, "nothing was found yet")
	titres := entries("A 0.00 25.00", "A 25.00 50.00")
	ev := of(t, p, add(titres, all[0]))
	require.NotNil(t, ev.Prepared.Found)
	assert.InDelta(t, 0, ev.Prepared.Found.Percent, 0.01)
	assert.Equal(t, "50.00", ev.Used.String())
	for _, bad := range []journal.Prepared{{Stock: "2", Taken: "600", MadeUp: "500"}, {Stock: "0", Taken: "1", MadeUp: "2"},
		{Stock: "two", Taken: "1", MadeUp: "2"}} {
		assert.NotNil(t, bad.Check(), "%+v", bad)
	}
	d := decimal.Must
	span := &evaluation.Span{Low: d("24.00"), High: d("24.00")}
	for _, c := range []struct {
		used, left string
		low        bool
		says       int
	}{{"100", "400", false, 1}, {"452", "48", false, 1}, {"453", "47", true, 2}, {"520", "-20", true, 2}} {
		b := experiment.BottleOf(nil, d("500"), []decimal.Decimal{d(c.used)}, span)
		assert.Equal(t, c.left, b.Left.String())
		assert.Equal(t, c.low, b.Low, c.used)
		assert.Len(t, b.Say, c.says)
	}
}
