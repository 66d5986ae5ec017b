package assay_test

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"exactflask/core/model/assay"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
)

// ready reads a practical whose usual parts are left out.
func ready(t require.TestingT, text string) *practical.Ready {
	var p practical.Practical
	require.NoError(t, json.Unmarshal([]byte(text), &p))
	p.ID, p.Revision, p.Title = "test", 1, "Test"
	require.NoError(t, json.Unmarshal([]byte(`{"burette":{"capacity":"50.00","division":"0.1","class":"B"}}`), &p.Glass))
	if p.Chemistry.Indicator == "" {
		p.Chemistry.Indicator = "methyl-orange"
	}
	p.Rules.Readings.Resolution, p.Rules.Agreement.Need = "half", 2
	if p.Rules.Agreement.Kind == "" {
		p.Rules.Agreement.Tolerance = decimal.Must("0.10")
	}
	p.Showing.Results = practical.Always
	r, fault := p.Check()
	if fault != nil {
		require.Fail(t, fault.Error(), text)
	}
	return r
}

func at(text string) journal.Reading {
	return journal.Reading{Entry: "e", Text: text, Value: decimal.Must(text)}
}

func span(a, b string) *[2]journal.Reading { return &[2]journal.Reading{at(a), at(b)} }

// trial is "start end", with a sample "s0 s1", reagent or mass in further words:
// "0.00 30.00 m 1.0 0".
func trial(id, text string) assay.Measured {
	f := strings.Fields(text)
	m := assay.Measured{Trial: id}
	if len(f) > 1 && f[0] != "-" {
		m = assay.Ran(id, at(f[0]), at(f[1]))
		f = f[2:]
	} else {
		f = f[1:]
	}
	for ; len(f) >= 3; f = f[3:] {
		switch f[0] {
		case "m":
			m.Mass = span(f[1], f[2])
		case "s":
			m.Sample = span(f[1], f[2])
		case "r":
			m.Reagent = span(f[1], f[2])
		case "f": // first end, and a filler
			r := at(f[1])
			m.First = &r
		}
	}
	return m
}

const hclNaOH = `{"chemistry":{"equation":"HCl + NaOH -> NaCl + H2O","titrant":{"name":"acid","formula":"HCl",
			"concentration":"0.1000"},"analyte":{"name":"alkali","formula":"NaOH"}},`

// Every row is worked by hand in its comment; source of the relations: common
// practice, no source, unless another is named.
func TestAnswers(t *testing.T) {
	for _, c := range []struct {
		name, practical string
		trials          string // joined by ;
		held            assay.Held
		want            float64
	}{
		{"direct", hclNaOH + `"route":[{"kind":"pipette","volume":"25.00"}]}`, "0.00 24.00", assay.Held{}, 0.096},
		{"OpenStax Chemistry 2e, ch. 4.5, from memory: 0.176",
			`{"chemistry":{"equation":"HCl + NaOH -> NaCl + H2O","titrant":{"name":"t","formula":"NaOH",
			"concentration":"0.250"},"analyte":{"name":"a","formula":"HCl"}},"route":[{"kind":"pipette",
			"volume":"50.00"}]}`, "0.00 35.23", assay.Held{}, 0.25 * 35.23 / 50},
		{"OpenStax Chemistry 2e, ch. 4.5, from memory: 0.2648 from a rounded step",
			`{"chemistry":{"equation":"H2C2O4 + KMnO4 + H2SO4 -> CO2 + MnSO4 + K2SO4 + H2O","titrant":{"name":"t",
			"formula":"KMnO4","concentration":"0.09113"},"analyte":{"name":"a","formula":"H2C2O4"}},"route":[{"kind":"pipette",
			"volume":"20.00"}]}`, "0.00 23.24", assay.Held{}, 0.09113 * 23.24 / 20 * 2.5},
		{"blank subtracted", hclNaOH + `"route":[{"kind":"pipette","volume":"25.00"}]}`, "0.00 24.00",
			assay.Held{Blanks: []assay.Measured{trial("b", "0.00 0.10")}}, 0.0956},
		{"a concentration that was found counts", hclNaOH + `"route":[{"kind":"pipette","volume":"25.00"}]}`, "0.00 24.00",
			assay.Held{Known: &assay.Found{Concentration: decimal.Must("0.1027")}}, 0.1027 * 0.96},
		{"reagent by burette counts for each trial: 25.02 mL of 0.2000 less 10.00 of 0.1000, in 0.400 g",
			`{"chemistry":{"equation":"HCl + NaOH -> NaCl + H2O","titrated":"HCl","titrant":{"name":"t","formula":"NaOH",
			"concentration":"0.1000"},"analyte":{"name":"chalk","formula":"CaCO3"}},"asked":{"what":"purity"},
			"rules":{"agreement":{"kind":"relative"}},
			"route":[{"kind":"weigh","mass":"0.4","eachTrial":true},{"kind":"excess","formula":"HCl","volume":"25.00",
			"by":"burette","concentration":"0.2000","equation":"CaCO3 + 2 HCl -> CaCl2 + H2O + CO2"}]}`,
			"0.00 10.00 m 0.400 0 r 1.61 26.63", assay.Held{}, (0.2*25.02 - 0.1*10) / 2000 * 100.086 / 0.4 * 100},
		{"hydrazine: bromate in excess by blank, the rest by iodide: 10.00 mL of thiosulfate are 0.250 mmol of N2H4",
			hydrazine(""), "0.00 30.00", assay.Held{Blanks: []assay.Measured{trial("b", "0.00 40.00")}}, 0.25},
		{"sample and blank made up to 50 mL, 25 mL titrated: the difference counts twice",
			hydrazine(`,{"kind":"make-up","volume":"50.00"},{"kind":"aliquot",
			"volume":"25.00"}`), "0.00 30.00", assay.Held{Blanks: []assay.Measured{trial("b", "0.00 40.00")}}, 0.5},
		{"a standard weighed as a salt: 1.5685 g of the hexahydrate (392.13 g/mol) in 250 mL is 0.01600 mol/L Fe2+",
			`{"chemistry":{"equation":"MnO4- + 5 Fe^2+ + 8 H+ -> Mn^2+ + 5 Fe^3+ + 4 H2O","titrant":{"name":"t",
			"formula":"MnO4-"},"analyte":{"name":"a","formula":"Fe^2+"}},
			"route":[{"kind":"weigh","formula":"(NH4)2Fe(SO4)2·6H2O","mass":"1.5685"},{"kind":"make-up","volume":"250.0"},
			{"kind":"aliquot","volume":"25.00"}]}`, "0.00 20.00", assay.Held{}, 1.5685 / 392.13 / 10 / 5 / 0.02},
		{"iron told as Fe2O3: half as many moles", `{"chemistry":{"equation":"MnO4- + 5 Fe^2+ + 8 H+ -> Mn^2+ + 5 Fe^3+ + 4 H2O","titrant":{"name":"t","formula":"MnO4-","concentration":"0.02000"},"analyte":{"name":"ore","formula":"Fe^2+"}},"asked":{"what":"purity","as":"Fe2O3"},
			"route":[{"kind":"weigh","mass":"0.5000"}]}`, "0.00 20.00", assay.Held{Mass: span("0.5000",
			"0")}, 0.02 * 0.02 * 5 / 2 * 159.687 / 0.5 * 100},
		{"protons of an acid by barium hydroxide: 2 a base",
			`{"chemistry":{"equation":"H2C2O4 + Ba(OH)2 -> BaC2O4 + 2 H2O","titrant":{"name":"t","formula":"Ba(OH)2",
			"concentration":"0.0500"},"analyte":{"name":"a","formula":"H2C2O4"}},"asked":{"what":"protons"},
			"route":[{"kind":"weigh","mass":"0.09"}]}`, "0.00 20.00", assay.Held{Mass: span("0.0900", "0")}, 2 * 0.001 / (0.09 / 90.034)},
		{"protons of barium hydroxide by hydrochloric acid",
			`{"chemistry":{"equation":"Ba(OH)2 + 2 HCl -> BaCl2 + 2 H2O","titrant":{"name":"t","formula":"HCl",
			"concentration":"0.1000"},"analyte":{"name":"a","formula":"Ba(OH)2"}},"asked":{"what":"protons"},
			"route":[{"kind":"weigh","mass":"0.17"}]}`, "0.00 20.00", assay.Held{Mass: span("0.17134", "0")}, 0.002 / (0.17134 / 171.341)},
		{"available chlorine, one for one", `{"chemistry":{"equation":"I2 + 2 S2O3^2- -> 2 I- + S4O6^2-","titrated":"I2",
			"via":[{"equation":"ClO- + 2 I- + 2 H+ -> Cl- + I2 + H2O","to":"ClO-"}],"titrant":{"name":"t","formula":"S2O3^2-",
			"concentration":"0.1000"},"analyte":{"name":"bleach","formula":"ClO-"}},"asked":{"what":"mass-concentration",
			"as":"Cl2","asRatio":"1"},"route":[{"kind":"pipette","volume":"10.00"}]}`, "0.00 20.00", assay.Held{}, 0.1 * 70.9},
		{"chlorine by its electrons, where nothing is said", `{"chemistry":{"equation":"I2 + 2 S2O3^2- -> 2 I- + S4O6^2-","titrated":"I2",
			"via":[{"equation":"ClO- + 2 I- + 2 H+ -> Cl- + I2 + H2O","to":"ClO-"}],"titrant":{"name":"t","formula":"S2O3^2-",
			"concentration":"0.1000"},"analyte":{"name":"bleach","formula":"ClO-"}},"asked":{"what":"mass-concentration",
			"as":"Cl2"},"route":[{"kind":"pipette","volume":"10.00"}]}`, "0.00 20.00", assay.Held{}, 0.1 * 70.9},
	} {
		var trials []assay.Measured
		for i, text := range strings.Split(c.trials, ";") {
			trials = append(trials, trial(fmt.Sprint(i+1), text))
		}
		a := assay.New(ready(t, c.practical), c.held)
		d, problem := a.Derive(trials)
		require.Nil(t, problem, c.name)
		assert.InEpsilon(t, c.want, d.Answer().Quantity.Value, 2e-4, c.name)
		assert.InEpsilon(t, d.Answer().Quantity.Value, d.Recompute(nil, len(d.Nodes)-1), 1e-12, c.name)
	}
}

func hydrazine(more string) string {
	return `{"chemistry":{"equation":"I2 + 2 S2O3^2- -> 2 I- + S4O6^2-","titrated":"I2",
			"via":[{"equation":"BrO3- + 6 I- + 6 H+ -> Br- + 3 I2 + 3 H2O","to":"BrO3-"}],"titrant":{"name":"t",
			"formula":"S2O3^2-","concentration":"0.1000"},"analyte":{"name":"a","formula":"N2H4"}},
		"asked":{"what":"amount","unit":"mmol"},"route":[{"kind":"pipette","volume":"10.00"},{"kind":"excess",
			"formula":"BrO3-","byBlank":true,"equation":"3 N2H4 + 2 BrO3- -> 3 N2 + 2 Br- + 6 H2O"}` + more + `]}`
}

// The answers of trials with samples of their own. 1.0 g/30.00 mL and 1.5
// g/45.00 mL of titrant against 50.00 mL of 1.000 mol/L acid are 100.1 and
// 16.7 %; three samples of one purity agree.
func TestAnswersOfUnequalSamples(t *testing.T) {
	back := ready(t, `{"chemistry":{"equation":"HCl + NaOH -> NaCl + H2O","titrated":"HCl","titrant":{"name":"t",
			"formula":"NaOH","concentration":"1.000"},"analyte":{"name":"chalk","formula":"CaCO3"}},"asked":{"what":"purity"},
			"rules":{"agreement":{"kind":"relative"}},
		"route":[{"kind":"weigh","mass":"1.0","eachTrial":true},{"kind":"excess","formula":"HCl","volume":"50.00",
			"concentration":"1.000","equation":"CaCO3 + 2 HCl -> CaCl2 + H2O + CO2"}]}`)
	a := assay.New(back, assay.Held{})
	for text, want := range map[string]float64{"0.00 30.00 m 1.0 0": 100.1, "0.00 45.00 m 1.5 0": 16.7,
		"0.00 31.00 m 1.0 0": 95.1, "0.00 21.50 m 1.5 0": 95.1, "0.00 36.70 m 0.7 0": 95.1} {
		q, problem := a.Answer(trial("t", text))
		require.Nil(t, problem)
		assert.InDelta(t, want, q.Value, 0.06, text)
	}
	v, problem := a.Carry(trial("t", "0.00 31.00 m 1.0 0"), trial("u", "- m 0.7 0"))
	require.Nil(t, problem)
	assert.InDelta(t, 36.70, v, 0.005, "19.00 mL for 1.0 g are 13.30 for 0.7 g")
	_, problem = a.Forward(trial("u", "- m 3.0 0"), 95.1, 0)
	require.NotNil(t, problem)
	assert.Equal(t, "assay.excess-used-up", problem.Code)

	byBurette := ready(t, hclNaOH+`"rules":{"agreement":{"kind":"relative"}},"route":[{"kind":"pipette","volume":"25.00",
			"by":"burette"}]}`)
	v, problem = assay.New(byBurette, assay.Held{}).Carry(trial("t", "0.00 27.00 s 0.00 30.00"),
		trial("u", "- s 30.00 50.00"))
	require.Nil(t, problem)
	assert.InDelta(t, 18.00, v, 1e-9)
	byMass := ready(t, `{"chemistry":{"equation":"KHC8H4O4 + NaOH -> KNaC8H4O4 + H2O","titrant":{"name":"t",
			"formula":"NaOH"},"analyte":{"name":"KHP","formula":"KHC8H4O4"}},"rules":{"agreement":{"kind":"relative"}},
			"route":[{"kind":"weigh","mass":"0.5","eachTrial":true}]}`)
	v, problem = assay.New(byMass, assay.Held{}).Carry(trial("t", "0.00 20.10 m 0.4104 0"), trial("u", "- m 0.6000 0"))
	require.Nil(t, problem)
	assert.InDelta(t, 29.4, v, 0.05)
}

// Why nothing follows.
func TestProblems(t *testing.T) {
	direct := hclNaOH + `"route":[{"kind":"pipette","volume":"25.00"}]}`
	mixture := `{"chemistry":{"equation":"Na2CO3 + 2 HCl -> 2 NaCl + H2O + CO2","endPoints":"hydroxide-carbonate",
			"other":"NaOH","titrant":{"name":"t","formula":"HCl","concentration":"0.1"},"analyte":{"name":"a",
			"formula":"Na2CO3"}},"route":[{"kind":"pipette","volume":"25.00"}]}`
	weighed := `{"chemistry":{"equation":"HCl + NaOH -> NaCl + H2O","titrant":{"name":"t","formula":"HCl",
			"concentration":"0.1"},"analyte":{"name":"a","formula":"NaOH"}},"asked":{"what":"purity"},"route":[{"kind":"weigh",
			"mass":"0.1"}]}`
	for _, c := range []struct {
		code, practical, trial string
		held                   assay.Held
	}{
		{"assay.titre-not-positive", direct, "24.00 0.50", assay.Held{}},
		{"assay.titre-not-positive", direct, "1.00 1.00", assay.Held{}},
		{"assay.blank-too-large", direct, "0.00 1.00", assay.Held{Blanks: []assay.Measured{trial("b", "0.00 1.00")}}},
		{"assay.no-blank", hydrazine(""), "0.00 1.00", assay.Held{}},
		{"assay.more-left-than-added", hydrazine(""), "0.00 41.00",
			assay.Held{Blanks: []assay.Measured{trial("b", "0.00 40.00")}}},
		{"assay.not-this-mixture", mixture, "0.00 20.00 f 5.00 x", assay.Held{}},
		{"assay.first-after-second", mixture, "0.00 20.00 f 21.00 x", assay.Held{}},
		{"assay.no-mass", weighed, "0.00 20.00", assay.Held{Mass: span("1.0", "1.2")}},
	} {
		_, problem := assay.New(ready(t, c.practical), c.held).Derive([]assay.Measured{trial("t", c.trial)})
		require.NotNil(t, problem, c.code)
		assert.Equal(t, c.code, problem.Code)
	}
}

// Over random practicals of every kind: forwards of backwards is the titre.
func TestForwardsOfBackwards(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		number := func(name string, low, high, places int) string {
			n := rapid.IntRange(low, high).Draw(t, name)
			return decimal.Whole(int64(n)).Mul(decimal.Must("0." + strings.Repeat("0", places-1) + "1")).String()
		}
		text, held := randomPractical(t, number)
		a := assay.New(ready(t, text), held)
		m := trial("t", "0.00 "+number("titre", 500, 4900, 2)+" m "+number("mass", 5000, 30000,
			4)+" 0 s 0.00 "+number("sample", 1000, 4000, 2)+" r 0.00 "+number("reagent", 3000, 4900, 2)+" f "+number("first", 100, 4900, 2)+" x")
		d, problem := a.Derive([]assay.Measured{m})
		if problem != nil {
			t.Skip(problem.Code)
		}
		second := 0.0
		if n, ok := d.Node("second-answer"); ok {
			second = n.Quantity.Value
		}
		got, problem := a.Forward(m, d.Answer().Quantity.Value, second)
		require.Nil(t, problem, text)
		v := m.Titre().Float64()
		assert.InDelta(t, v, got.Last, 1e-12*math.Max(1, conditioning(d.Answer().Quantity.Value, v)), text)
		if second != 0 {
			assert.InDelta(t, m.First.Value.Float64(), got.First, 1e-10, text)
		}
	})
}

// conditioning allows for answers that are small differences of large numbers:
// the answer itself is only good to the last bits of what it is made of.
func conditioning(_, v float64) float64 { return 10 * v }

func randomPractical(t *rapid.T, number func(string, int, int, int) string) (string, assay.Held) {
	c := number("known", 50, 500, 3)
	held := assay.Held{}
	if rapid.Bool().Draw(t, "blank") {
		held.Blanks = []assay.Measured{trial("b", "0.00 "+number("blank titre", 1, 60, 2))}
	}
	routes := []string{
		`[{"kind":"pipette","volume":"20.00"}]`, `[{"kind":"pipette","volume":"25.00","by":"burette"}]`,
		`[{"kind":"pipette","volume":"10.00"},{"kind":"make-up","volume":"250.0"},{"kind":"aliquot","volume":"25.00"}]`,
	}
	weighed := []string{`[{"kind":"weigh","mass":"1.2"}]`, `[{"kind":"weigh","mass":"1.2","eachTrial":true}]`,
		`[{"kind":"weigh","mass":"1.2"},{"kind":"make-up","volume":"250.0"},{"kind":"aliquot","volume":"20.00"}]`}
	relative := func(route string) string {
		if strings.Contains(route, "eachTrial") || strings.Contains(route, "burette") {
			return `"rules":{"agreement":{"kind":"relative"}},`
		}
		return ""
	}
	of := func(chemistry, asked string, routes ...string) string {
		route := rapid.SampledFrom(routes).Draw(t, "route")
		return `{"chemistry":{` + chemistry + `},` + asked + relative(route) + `"route":` + route + `}`
	}
	asks := func(list ...string) string { return `"asked":` + rapid.SampledFrom(list).Draw(t, "asked") + `,` }
	solution := asks(`{}`, `{"unit":"mmol/L"}`, `{"what":"mass-concentration"}`,
		`{"what":"mass-concentration","unit":"% w/v"}`, `{"what":"mass-fraction","density":"1.05"}`, `{"what":"factor",
			"nominal":"0.1"}`, `{"what":"amount"}`, `{"what":"mass"}`)
	solid := asks(`{"what":"purity"}`, `{"what":"water"}`, `{"what":"molar-mass"}`, `{"what":"mass","unit":"mg"}`,
		`{"what":"amount"}`, `{"what":"protons"}`)
	carbonate := `"equation":"Na2CO3 + 2 HCl -> 2 NaCl + H2O + CO2","titrant":{"name":"t","formula":"HCl",
			"concentration":"` + c + `"},"analyte":{"name":"a","formula":"Na2CO3"}`
	switch rapid.IntRange(0, 6).Draw(t, "kind") {
	case 0:
		return of(carbonate, solution, routes...), held
	case 1:
		return of(carbonate, solid, weighed...), held
	case 2: // unknown in the burette
		return of(`"equation":"H2SO4 + 2 NaOH -> Na2SO4 + 2 H2O","titrant":{"name":"t","formula":"H2SO4"},
			"analyte":{"name":"a","formula":"NaOH","concentration":"`+c+`"}`, asks(`{}`, `{"what":"mass-concentration"}`, `{"what":"factor","nominal":"0.1"}`), routes...), held
	case 3: // standardisation by mass, as a salt
		return of(`"equation":"MnO4- + 5 Fe^2+ + 8 H+ -> Mn^2+ + 5 Fe^3+ + 4 H2O","titrant":{"name":"t","formula":"MnO4-"},
			"analyte":{"name":"a","formula":"Fe^2+","purity":"0.998"}`, "", `[{"kind":"weigh","formula":"(NH4)2Fe(SO4)2·6H2O",
			"mass":"0.4","eachTrial":true}]`, `[{"kind":"weigh","formula":"(NH4)2Fe(SO4)2·6H2O","mass":"9.8"},
			{"kind":"make-up","volume":"250.0"},{"kind":"aliquot","volume":"25.00"}]`), held
	case 4: // back, by pipette and by burette
		by := rapid.SampledFrom([]string{`"pipette"`, `"burette"`}).Draw(t, "by")
		excess := `{"kind":"excess","formula":"HCl","volume":"50.00","by":` + by +
			`,"concentration":"2.000","equation":"CaCO3 + 2 HCl -> CaCl2 + H2O + CO2"}`
		return of(`"equation":"HCl + NaOH -> NaCl + H2O","titrated":"HCl","titrant":{"name":"t","formula":"NaOH",
			"concentration":"`+c+`"},"analyte":{"name":"a","formula":"CaCO3"}`, asks(`{"what":"purity"}`, `{"what":"molar-mass"}`, `{"what":"mass"}`),
			`[{"kind":"weigh","mass":"1.2","eachTrial":true},`+excess+`]`, `[{"kind":"weigh","mass":"1.2",
			"eachTrial":true},`+excess+`,{"kind":"make-up","volume":"250.0"},{"kind":"aliquot","volume":"25.00"}]`), held
	case 5: // back, by blank, through two reactions
		held.Blanks = []assay.Measured{trial("b", "0.00 49.50")}
		return hydrazine(rapid.SampledFrom([]string{"", `,{"kind":"make-up","volume":"50.00"},{"kind":"aliquot",
			"volume":"25.00"}`}).Draw(t, "made up")), held
	default:
		kind := rapid.SampledFrom([]string{`"endPoints":"hydroxide-carbonate","other":"NaOH"`,
			`"endPoints":"carbonate-hydrogencarbonate","other":"NaHCO3"`}).Draw(t, "mixture")
		return of(carbonate+","+kind, asks(`{}`, `{"what":"mass-concentration"}`), routes[0], routes[2]), assay.Held{}
	}
}
