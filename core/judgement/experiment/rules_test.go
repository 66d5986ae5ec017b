package experiment_test

import (
	"encoding/json"
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/chemistry/glass"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
)

// written makes a practical of its chemistry, question and route; the rest is that
// of plain.
func written(t testing.TB, chemistry, asked, route string) practical.Practical {
	p := practicaltest.Plain()
	p.Chemistry = practical.Chemistry{Indicator: "methyl-orange"}
	p.Route = nil
	require.NoError(t, json.Unmarshal([]byte(chemistry), &p.Chemistry))
	require.NoError(t, json.Unmarshal([]byte(asked), &p.Asked))
	require.NoError(t, json.Unmarshal([]byte(route), &p.Route))
	return p
}

func colour(trial, text string) journal.Entry {
	return journal.Entry{Part: journal.Observation{About: journal.EndColour, Written: text, Of: trial}}
}

// shell is calcium carbonate, 0.2500 g, in 50.00 mL of 0.2000 mol/L acid (10.00
// mmol); what is left is titrated with 0.2000 mol/L hydroxide: 50 mL is all.
func shell(t testing.TB, by string) practical.Practical {
	p := written(t, `{"equation":"HCl + NaOH -> NaCl + H2O","titrated":"HCl","titrant":{"name":"t","formula":"NaOH",
			"concentration":"0.2000"},"analyte":{"name":"shell","formula":"CaCO3"},"indicator":"phenolphthalein"}`,
		`{"what":"purity"}`,
		`[{"kind":"weigh","mass":"0.2500"},{"kind":"excess","formula":"HCl","volume":"50.00","by":"`+by+`",
			"concentration":"0.2000","equation":"CaCO3 + 2 HCl -> CaCl2 + H2O + CO2"}]`)
	return p
}

// What steers where trials differ, were overshot, or were noted on the way.
// Source: common practice, no source; docs/decisions/0005.
func TestSteering(t *testing.T) {
	running := func(all []journal.Entry) []journal.Entry {
		all = add(all, open(journal.Accurate))
		return add(all, read(all[len(all)-1].ID, journal.Start, "0.00"))
	}
	overshot := entries("R 0.00 24.50", "A 0.00 23.80")
	overshot = add(overshot, colour("e-000004", "deep"))
	noted := add(entries("R 0.00"), read("e-000001", journal.Provisional, "23.50"), read("e-000001", journal.End, "24.50"))
	early := add(entries("R 0.00"), read("e-000001", journal.Provisional, "20.00"), read("e-000001", journal.End, "24.50"))
	for _, c := range []struct {
		name                 string
		all                  []journal.Entry
		slow, drops, low, to string
	}{
		{"an accurate one", entries("R 0.00 24.50", "A 0.00 23.80"), "21.80", "22.80", "23.80", ""},
		{"an accurate one that was overshot tells less than the rough", overshot, "21.50", "22.50", "24.50", ""},
		{"two that differ: slow before the earlier, both said", entries("R 0.00 24.50", "A 0.00 24.20", "A 0.00 23.80"),
			"21.80", "22.80", "23.80", "24.20"},
		{"noted late: the end was not reached there", noted, "22.50", "23.50", "24.50", ""},
		{"noted early: two millilitres all the same", early, "21.50", "22.50", "24.50", ""},
	} {
		n := of(t, practicaltest.Plain(), running(c.all)).Next
		require.NotNil(t, n.ExpectAt, c.name)
		assert.Equal(t, []string{c.slow, c.drops, c.low},
			[]string{n.SlowAt.String(), n.DropAt.String(), n.ExpectAt.String()}, c.name)
		if c.to == "" {
			assert.Nil(t, n.ExpectTo, c.name)
		} else if assert.NotNil(t, n.ExpectTo, c.name) {
			assert.Equal(t, c.to, n.ExpectTo.String(), c.name)
		}
	}
}

// Findings of routes, and of values that stand in for missing measurements; each
// beside a row where it must not come. Source: common practice, no source.
func TestRouteFindings(t *testing.T) {
	nominal := practicaltest.Plain()
	nominal.Chemistry.Standard = "another-practical"
	found := add(entries("A 0.00 23.80"), journal.Entry{Part: journal.Known{Written: "0.1012"}})
	weighed := add(entries("A 0.00 25.00"), journal.Entry{Part: journal.Weighing{What: "shell", Full: "12.7500",
		Emptied: "12.5000"}})
	flask := shell(t, "flask")
	mixture := written(t, `{"equation":"Na2CO3 + 2 HCl -> 2 NaCl + H2O + CO2","titrant":{"name":"t","formula":"HCl",
			"concentration":"0.1"},"analyte":{"name":"a","formula":"Na2CO3"},"endPoints":"hydroxide-carbonate","other":"NaOH"}`,
		`{}`, `[{"kind":"pipette","volume":"25.00"}]`)
	first := func(end string) []journal.Entry {
		return add(nil, open(journal.Accurate), read("e-000001", journal.Start, "0.00"),
			read("e-000001", journal.FirstEnd, end), read("e-000001", journal.End, "20.00"))
	}
	for _, c := range []struct {
		name, code string
		p          practical.Practical
		all        []journal.Entry
		want       bool
	}{
		{"hardly any acid was left over", "result.small-excess", shell(t, "pipette"), entries("A 0.00 4.50"), true},
		{"a tenth was", "result.small-excess", shell(t, "pipette"), entries("A 0.00 5.50"), false},
		{"hardly any acid was used", "result.hardly-used", shell(t, "pipette"), entries("A 0.00 46.00"), true},
		{"a tenth was used", "result.hardly-used", shell(t, "pipette"), entries("A 0.00 44.00"), false},
		{"excess by cylinder", "glass.cylinder", shell(t, "cylinder"), nil, true},
		{"excess by flask", "glass.cylinder", flask, nil, false},
		{"a carbonate with acid", "back.carbon-dioxide", shell(t, "pipette"), nil, true},
		{"no carbonate", "back.carbon-dioxide", practicaltest.Plain(), nil, false},
		{"no weighing stands in the notebook", "nominal.mass", shell(t, "pipette"), entries("A 0.00 25.00"), true},
		{"one does", "nominal.mass", shell(t, "pipette"), weighed, false},
		{"the standardised concentration was not taken over", "nominal.known", nominal, entries("A 0.00 23.80"), true},
		{"it was", "nominal.known", nominal, found, false},
		{"it is not standardised elsewhere", "nominal.known", practicaltest.Plain(), entries("A 0.00 23.80"), false},
		{"small titre", "titre.small", practicaltest.Plain(), entries("A 0.00 4.95"), true},
		{"not small", "titre.small", practicaltest.Plain(), entries("A 0.00 5.00"), false},
		{"first end after the second", "titre.first-after-second", mixture, first("20.05"), true},
		{"before it", "titre.first-after-second", mixture, first("19.95"), false},
	} {
		got := false
		for _, f := range of(t, c.p, c.all).Findings {
			got = got || f.Code == c.code
		}
		assert.Equal(t, c.want, got, "%s: %s", c.code, c.name)
	}
}

// Every slip of a calculation, by the wrong figure that it gives. Sources:
// common practice, no source.
func TestEverySlip(t *testing.T) {
	direct := entries("R 0.00 24.90", "A 0.00 23.80", "A 0.00 23.90", "A 0.00 24.60")
	tied := entries("R 0.00 24.60", "A 0.00 23.80", "A 0.00 23.90", "A 0.00 24.60")
	carbonate := written(t, `{"equation":"Na2CO3 + 2 HCl -> 2 NaCl + H2O + CO2","titrant":{"name":"t","formula":"HCl",
			"concentration":"0.1000"},"analyte":{"name":"a","formula":"Na2CO3"}}`,
		`{}`, `[{"kind":"pipette","volume":"20.00"},{"kind":"make-up","volume":"250.0"},{"kind":"aliquot","volume":"25.00"}]`)
	// 1.5758 g of oxalic acid dihydrate (126.064 g/mol), 12.500 mmol, in 250 mL.
	oxalic := written(t, `{"equation":"H2C2O4 + 2 NaOH -> Na2C2O4 + 2 H2O","titrant":{"name":"t","formula":"NaOH"},
			"analyte":{"name":"oxalic acid","formula":"H2C2O4"},"indicator":"phenolphthalein"}`,
		`{}`, `[{"kind":"weigh","formula":"H2C2O4*2H2O","mass":"1.5758"},{"kind":"make-up","volume":"250.0"},
			{"kind":"aliquot","volume":"25.00"}]`)
	two := entries("A 0.00 24.00", "A 0.00 24.00")
	for _, c := range []struct {
		slip, step, text, unit string
		p                      practical.Practical
		all                    []journal.Entry
	}{
		{"thousand", "amount-known", "2.385", "mol", practicaltest.Plain(), direct},
		{"thousand", "amount-known", "0.000002385", "mol", practicaltest.Plain(), direct},
		{"ten", "amount-known", "0.02385", "mol", practicaltest.Plain(), direct},
		{"ten", "amount-known", "0.0002385", "mol", practicaltest.Plain(), direct},
		{"volumes-swapped", "amount-known", "0.002500", "mol", practicaltest.Plain(), direct},
		{"upside-down", "concentration", "10.482", "mol/L", practicaltest.Plain(), direct},
		{"", "concentration", "0.0960", "mol/L", practicaltest.Plain(), direct}, // near is no name
		{"", "concentration", "0.0990", "mol/L", practicaltest.Plain(), direct},
		{"rough-included", "mean-titre", "24.20", "mL", practicaltest.Plain(), direct},
		{"all-averaged", "mean-titre", "24.10", "mL", practicaltest.Plain(), direct},
		{"from-capacity", "mean-titre", "26.15", "mL", practicaltest.Plain(), direct},
		{"", "mean-titre", "24.10", "mL", practicaltest.Plain(), tied}, // the rough or all of them: that is not told apart
		{"ratio-inverted", "ratio", "0.00480", "mol", carbonate, two},
		{"ratio-left-out", "ratio", "0.00240", "mol", carbonate, two},
		{"dilution-left-out", "whole", "0.00120", "mol", carbonate, two},
		{"dilution-inverted", "whole", "0.000120", "mol", carbonate, two},
		{"dilution-left-out", "part", "0.012500", "mol", oxalic, two},
		{"dilution-inverted", "part", "0.12500", "mol", oxalic, two},
		{"water-left-out", "amount-weighed", "0.017502", "mol", oxalic, two},
		{"upside-down", "amount-weighed", "80.0", "mol", oxalic, two},
	} {
		id := ""
		for _, s := range of(t, c.p, c.all).Work {
			if s.Code == "step."+c.step {
				id = s.Step
			}
		}
		require.NotEmpty(t, id, "%s has the step %s", c.slip, c.step)
		own := add(append([]journal.Entry{}, c.all...), journal.Entry{Part: journal.Answer{Step: id, Written: c.text,
			Unit: c.unit}})
		want := c.slip
		if want != "" {
			want = "slip." + want
		}
		for _, s := range of(t, c.p, own).Work {
			if s.Step == id {
				assert.Equal(t, want, s.Slip, "%s for %s", c.text, c.step)
				assert.Equal(t, "wrong", string(s.Verdict), "%s for %s", c.text, c.step)
			}
		}
	}
}

// Every usual fault, with the sign of what it does: to an unknown in the flask,
// and to one in the burette. A plus makes the answer too high. Source: common
// practice, no source; the signs follow from c = n/V.
func TestEveryCause(t *testing.T) {
	alkali := func(p *practical.Practical) { // known hydroxide in the burette, a sample made up
		p.Chemistry.Titrant = practical.Solution{Name: "t", Formula: "NaOH", Concentration: decimal.Must("0.1000")}
		p.Chemistry.Analyte = practical.Solution{Name: "a", Formula: "HCl"}
		p.Chemistry.Indicator = "phenolphthalein"
		p.Route = []practical.RouteStep{{Kind: practical.Pipette, Volume: decimal.Must("10.00"), Class: glass.ClassB},
			{Kind: practical.MakeUp, Volume: decimal.Must("100.0"), Class: glass.ClassB}, {Kind: practical.Aliquot,
				Volume: decimal.Must("25.00"), Class: glass.ClassB}}
	}
	standard := written(t, `{"equation":"H2C2O4 + 2 NaOH -> Na2C2O4 + 2 H2O","titrant":{"name":"t","formula":"NaOH"},
			"analyte":{"name":"oxalic acid","formula":"H2C2O4"},"indicator":"phenolphthalein"}`,
		`{}`, `[{"kind":"weigh","formula":"H2C2O4*2H2O","mass":"1.5758"},{"kind":"make-up","volume":"250.0"},
			{"kind":"aliquot","volume":"25.00"}]`)
	signs := func(p practical.Practical) map[string]int {
		out := map[string]int{}
		ev := evaluate(t, p, "A 0.00 23.85", "A 0.00 23.85")
		require.NotNil(t, ev.Result)
		for _, c := range ev.Result.Causes {
			out[c.Code[len("cause."):]] = int(math.Copysign(1, c.Answer))
		}
		return out
	}
	assert.Equal(t, map[string]int{"bubble": 1, "overshoot": 1, "leak": 1, "funnel": -1, "top-of-meniscus": -1,
		"read-upward": 1, "burette-wet": 1,
		"flask-with-sample": 1, "pipette-wet": -1, "blown-out": 1, "mark-missed": -1, "old-hydroxide": 1}, signs(changed(alkali)))
	assert.Equal(t, map[string]int{"bubble": -1, "overshoot": -1, "leak": -1, "funnel": 1, "top-of-meniscus": 1,
		"read-upward": -1, "burette-wet": -1,
		"flask-with-standard": -1, "pipette-wet": 1, "blown-out": -1, "mark-missed": 1, "standard-wet": 1}, signs(standard))
}

// How sure: what a nominal concentration is taken to be worth, and what the
// temperature of the laboratory does. Sources: EURACHEM/CITAC CG4 (QUAM:2012)
// A2 for the expansion of water, 2.1e-4 a kelvin (from memory); common practice,
// no source, for 0.3 % and 3 K.
func TestBudgetSources(t *testing.T) {
	share := func(p practical.Practical, code string) (answer, standard float64) {
		ev := evaluate(t, p, "A 0.00 24.00", "A 0.00 24.00")
		require.NotNil(t, ev.Result)
		for _, c := range ev.Result.Budget.Contributions {
			if c.Code == code {
				return math.Abs(c.Answer) / ev.Result.Answer.Value, c.Standard
			}
		}
		return 0, 0
	}
	nominal := changed(func(p *practical.Practical) { p.Chemistry.Standard = "another-practical" })
	_, known := share(nominal, "known")
	assert.InEpsilon(t, 0.003*0.100, known, 1e-6)
	// The unknown in the burette, against a mass: only the titre grows.
	mass := written(t, `{"equation":"KHC8H4O4 + NaOH -> KNaC8H4O4 + H2O","titrant":{"name":"t","formula":"NaOH"},
			"analyte":{"name":"a","formula":"KHC8H4O4"},"indicator":"phenolphthalein"}`,
		`{}`, `[{"kind":"weigh","mass":"0.4901"}]`)
	warm, _ := share(mass, "temperature")
	assert.InEpsilon(t, 2.1e-4*3/math.Sqrt(3), warm, 1e-6)
	warm, _ = share(practicaltest.Plain(), "temperature")
	assert.InDelta(t, 0, warm, 1e-9, "burette and pipette grow alike")
}

// Where samples differ the expected end is that of the sample at hand: 30.00 mL
// took 27.00, so 20.00 mL take 18.00; 0.4104 g took 20.10, so 0.6000 g take 29.39.
func TestExpectedFollowsTheSample(t *testing.T) {
	byBurette := changed(func(p *practical.Practical) {
		p.Route[0].By = practical.ByBurette
		p.Rules.Agreement.Kind, p.Rules.Agreement.Tolerance = "relative", decimal.Decimal{}
	})
	all := add(nil, open(journal.Rough), read("e-000001", journal.SampleStart, "0.00"),
		read("e-000001", journal.SampleEnd, "30.00"),
		read("e-000001", journal.Start, "0.00"), read("e-000001", journal.End, "27.00"),
		open(journal.Accurate), read("e-000006", journal.SampleStart, "0.00"), read("e-000006", journal.SampleEnd,
			"20.00"), read("e-000006", journal.Start, "0.00"))
	n := of(t, byBurette, all).Next
	require.NotNil(t, n.ExpectAt)
	assert.Equal(t, "18.00", n.ExpectAt.String())

	each := written(t, `{"equation":"KHC8H4O4 + NaOH -> KNaC8H4O4 + H2O","titrant":{"name":"t","formula":"NaOH"},
			"analyte":{"name":"a","formula":"KHC8H4O4"},"indicator":"phenolphthalein"}`,
		`{}`, `[{"kind":"weigh","mass":"0.5","eachTrial":true}]`)
	each.Rules.Agreement.Kind, each.Rules.Agreement.Tolerance = "relative", decimal.Decimal{}
	weigh := func(trial, full string) journal.Entry {
		return journal.Entry{Part: journal.Weighing{What: "phthalate", Full: full, Emptied: "10.0000", Of: trial}}
	}
	all = add(nil, open(journal.Rough), weigh("e-000001", "10.4104"), read("e-000001", journal.Start, "0.00"),
		read("e-000001", journal.End, "20.10"),
		open(journal.Accurate), weigh("e-000005", "10.6000"), read("e-000005", journal.Start, "0.00"))
	n = of(t, each, all).Next
	require.NotNil(t, n.ExpectAt)
	assert.Equal(t, fmt.Sprintf("%.2f", 20.10*0.6/0.4104), n.ExpectAt.String())
}

// What is not asked for is not there.
func TestPartsOnDemand(t *testing.T) {
	p := changed(func(p *practical.Practical) { p.Asked.Reference = decimal.Must("0.0960") })
	r, fault := p.Check()
	require.Nil(t, fault)
	all := entries("A 0.00 23.80", "A 0.00 23.90")
	with := func(parts experiment.Parts) evaluation.Evaluation { return experiment.Evaluate(r, all, parts) }
	record := with(experiment.Record)
	assert.Nil(t, record.Result)
	assert.True(t, record.Withheld)
	result := with(experiment.PartResult).Result
	require.NotNil(t, result)
	assert.Nil(t, result.Budget)
	assert.Nil(t, result.Causes)
	assert.Nil(t, result.Reference)
	assert.NotNil(t, with(experiment.PartResult|experiment.PartBudget).Result.Budget)
	assert.NotEmpty(t, with(experiment.PartResult|experiment.PartCauses).Result.Causes)
	assert.NotNil(t, with(experiment.All).Result.Reference)
	judged := with(experiment.PartVerdicts)
	assert.Nil(t, judged.Result)
	assert.True(t, judged.Judged)
	assert.Len(t, judged.Work, len(with(experiment.All).Work))
}
