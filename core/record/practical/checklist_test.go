package practical_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
)

// What is done before follows the practical. Source: common practice, no source.
func TestSetupFollowsThePractical(t *testing.T) {
	items := func(p practical.Practical) string {
		r, fault := p.Check()
		if fault != nil {
			require.Fail(t, fault.Error())
		}
		var out []string
		for _, item := range r.Setup() {
			if !strings.Contains(strings.Join(practical.BuretteUp, " ")+" goggles leak-wait white-tile", item) {
				out = append(out, item)
			}
		}
		return strings.Join(out, " ")
	}
	meter := practicaltest.Plain()
	meter.Chemistry.Indicator = "ph-meter"
	weighed := func(formula, equation string) practical.Practical {
		p := practicaltest.Plain()
		p.Chemistry = practical.Chemistry{Equation: equation, Indicator: "phenolphthalein",
			Titrant: practical.Solution{Name: "t", Formula: "NaOH", Approximate: decimal.Must("0.1")},
			Analyte: practical.Solution{Name: "s", Formula: formula}}
		p.Route = []practical.RouteStep{{Kind: practical.Weigh, Mass: decimal.Must("5.1")},
			{Kind: practical.MakeUp, Volume: decimal.Must("250.0")}, {Kind: practical.Aliquot, Volume: decimal.Must("25.00")}}
		return p
	}
	direct := practicaltest.Reaction(t, "iodine-ascorbic", "0.05")
	for name, c := range map[string]struct {
		p    practical.Practical
		want string
	}{
		"acid and alkali":            {practicaltest.Plain(), "indicator"},
		"a probe":                    {meter, "calibrated probe-in"},
		"permanganate with iron(II)": {practicaltest.Reaction(t, "permanganate-iron", "0.02"), "acid-added own-colour"},
		"permanganate with oxalate":  {practicaltest.Reaction(t, "permanganate-oxalate", "0.02"), "acid-added warmed own-colour"},
		"dichromate":                 {practicaltest.Reaction(t, "dichromate-iron", "0.02"), "acid-added indicator"},
		"iodine in the flask":        {practicaltest.Reaction(t, "iodine-thiosulfate", "0.05"), "starch-late"},
		"iodine in the burette":      {direct, "starch-start"},
		"hydrogenphthalate": {weighed("KHC8H4O4", "KHC8H4O4 + NaOH -> KNaC8H4O4 + H2O"),
			"dried weigh-difference dissolved-slowly made-up indicator"},
		"a hydrate is not dried": {weighed("H2C2O4*2H2O", "H2C2O4*2H2O + 2 NaOH -> Na2C2O4 + 4 H2O"),
			"weigh-difference dissolved made-up indicator"},
		"a titrant that is weighed": {made(practical.RouteStep{Kind: practical.Weigh, Mass: decimal.Must("2.00"), Formula: "H2C2O4*2H2O"}), "weigh-difference dissolved made-up indicator"},
		"a titrant from a stock":    {made(practical.RouteStep{Kind: practical.Pipette, Volume: decimal.Must("25.00"), Concentration: decimal.Must("0.635")}), "made-up indicator"},
		"shell in acid":             {shell(t), "weigh-difference excess-reacted fizz-over indicator"},
	} {
		assert.Equal(t, c.want, items(c.p), name)
	}
}

// made is a hydroxide by an oxalic acid that students make.
func made(of practical.RouteStep) practical.Practical {
	p := practicaltest.Plain()
	p.Chemistry = practical.Chemistry{Equation: "H2C2O4 + 2 NaOH -> Na2C2O4 + 2 H2O", Indicator: "phenolphthalein",
		Titrant: practical.Solution{Name: "t", Formula: "H2C2O4", Concentration: decimal.Must("0.0635"), Made: []practical.RouteStep{of, {Kind: practical.MakeUp, Volume: decimal.Must("250.0")}}},
		Analyte: practical.Solution{Name: "s", Formula: "NaOH", Approximate: decimal.Must("0.1")}}
	return p
}

func shell(t *testing.T) practical.Practical {
	p := practicaltest.Plain()
	p.Chemistry = practical.Chemistry{Equation: "HCl + NaOH -> NaCl + H2O", Titrated: "HCl", Indicator: "phenolphthalein",
		Titrant: practical.Solution{Name: "t", Formula: "NaOH", Concentration: decimal.Must("0.2")},
		Analyte: practical.Solution{Name: "shell", Formula: "CaCO3"}}
	p.Asked.What = practical.PurityOf
	p.Route = []practical.RouteStep{{Kind: practical.Weigh, Mass: decimal.Must("0.25")}, {Kind: practical.Excess, Formula: "HCl",
		Volume: decimal.Must("50.00"), Concentration: decimal.Must("0.2"), Equation: "CaCO3 + 2 HCl -> CaCl2 + H2O + CO2"}}
	return p
}

// Items of a school's own stand behind the usual ones, and name themselves; what is no
// item is refused at its list.
func TestOwnItems(t *testing.T) {
	p := practicaltest.Plain()
	p.Lists = practical.Lists{Before: []string{"Fume cupboard on"}, After: []string{"Silver waste into the brown bottle"}}
	r, fault := p.Check()
	require.Nil(t, fault)
	assert.Equal(t, "=Fume cupboard on", r.Setup()[len(r.Setup())-1])
	assert.Equal(t, "=Silver waste into the brown bottle", r.Cleanup()[len(r.Cleanup())-1])
	assert.Equal(t, "item.own text=Fume cupboard on", journal.ItemSaid("=Fume cupboard on").String())
	for want, items := range map[string][]string{"lists.length": {strings.Repeat("a", 81)}, "lists.twice": {"a", "a"}, "lists.many": make([]string, 11)} {
		p.Lists.Before = items
		_, fault = p.Check()
		require.NotNil(t, fault, want)
		assert.Equal(t, []string{want, "lists.before"}, []string{fault.Code, fault.Path})
	}
}

// A school's own list takes the place of the usual one, in its order; it names usual items by
// their code and its own in words.
func TestListsOfASchool(t *testing.T) {
	own := journal.OwnItem(strings.Repeat("a", 80))
	for _, c := range []struct {
		list  []string
		fault string
	}{
		{[]string{"rinse-solution", own, "goggles"}, ""},
		{[]string{"goggles", "goggles"}, "lists.twice"},
		{[]string{"gogles"}, "lists.unknown"},
		{[]string{"Lab coat on"}, "lists.unknown"},
		{[]string{own + "a"}, "lists.length"},
		{[]string{"= "}, "lists.length"},
		{make([]string, 41), "lists.many"},
	} {
		p := practicaltest.Plain()
		p.Lists.Setup = c.list
		r, fault := p.Check()
		if c.fault == "" {
			require.Nil(t, fault)
			assert.Equal(t, c.list, r.Setup())
			assert.Equal(t, r.UsualCleanup(), r.Cleanup(), "the other list is as usual")
			continue
		}
		require.NotNil(t, fault, c.fault)
		assert.Equal(t, []string{c.fault, "lists.setup"}, []string{fault.Code, fault.Path})
	}
}

// What is not there is not rinsed: no pipette where the sample is weighed or run from a burette, no
// funnel, jet or tap of a syringe.
func TestItemsOfTheGlass(t *testing.T) {
	of := func(change func(*practical.Practical)) []string {
		p := practicaltest.Plain()
		change(&p)
		r, fault := p.Check()
		require.Nil(t, fault)
		return append(r.Setup(), r.Cleanup()...)
	}
	pipette := of(func(*practical.Practical) {})
	assert.Contains(t, pipette, "rinse-water")
	assert.NotContains(t, pipette, "rinse-burette")
	burette := of(func(p *practical.Practical) {
		p.Route[0].By, p.Rules.Agreement.Kind = practical.ByBurette, practical.Relative
	})
	assert.NotContains(t, burette, "rinse-water")
	assert.Contains(t, burette, "rinse-burette")
	syringe := of(func(p *practical.Practical) { p.Glass.Burette.Rising = true })
	for _, item := range []string{"fill-low", "funnel-out", "jet-filled", "tap-open"} {
		assert.Contains(t, pipette, item)
		assert.NotContains(t, syringe, item)
	}
	assert.Contains(t, syringe, "no-bubble")
}
