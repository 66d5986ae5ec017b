package calc_test

import (
	"encoding/json"
	"errors"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/calc"
	"exactflask/docs/examples"
	"exactflask/schema"
	"exactflask/wording"
)

// Each computation with an input whose answer is known. Sources as named;
// otherwise common practice, no source.
func TestRun(t *testing.T) {
	for _, c := range []struct{ name, in, path, want, source string }{
		{"formula", `{"formula":"H2C2O4*2H2O"}`, "molarMass", "126.064", "IUPAC/CIAAW 2021, abridged (from memory)"},
		{"balance", `{"equation":"MnO4- + Fe^2+ + H+ -> Mn^2+ + Fe^3+ + H2O"}`, "equation",
			"MnO₄⁻ + 5 Fe²⁺ + 8 H⁺ → Mn²⁺ + 5 Fe³⁺ + 4 H₂O", ""},
		{"half-reactions", `{"reduction":"MnO4- -> Mn^2+","oxidation":"C2O4^2- -> CO2"}`, "electrons", "10", ""},
		{"agreement", `{"titres":["23.85","24.40","23.80","23.80"],"rule":{"tolerance":"0.10","need":2}}`, "spread", "0.05",
			""},
		{"series", `{"analyte":"weak","flask":25,"titrant":0.1,"points":[{"volume":0,"reading":2.88},{"volume":5,"reading":4.14},{"volume":10,"reading":4.57},{"volume":12.5,"reading":4.74},{"volume":15,"reading":4.92},{"volume":20,"reading":5.35},{"volume":23,"reading":5.81},{"volume":24,"reading":6.12},{"volume":24.5,"reading":6.43},{"volume":24.9,"reading":7.14},{"volume":25.1,"reading":10.3},{"volume":25.5,"reading":10.99},{"volume":26,"reading":11.29},{"volume":28,"reading":11.75},{"volume":30,"reading":11.96},{"volume":35,"reading":12.22}]}`, "concentration", "0.1000", "OpenStax Chemistry 2e, 14.7: 25.00 mL of 0.100 mol/L acetic acid (the points by its constants; from memory)"},
		{"hydrate", `{"anhydrous":"Na2CO3","mass":1.08,"amount":0.00854}`, "whole", "1", ""},
		{"uncertainty", `{"scale":1000,"factors":[{"name":"m","value":0.3888,"standard":0.00013},{"name":"P","value":1,
			"standard":0.00029},{"name":"M","value":204.2212,"standard":0.0038,"power":-1},{"name":"V","value":18.64,
			"standard":0.013,"power":-1},{"name":"rep","value":1,"standard":0.0005}]}`, "value", "0.10213618", "EURACHEM/CITAC CG4 A2 (from memory)"},
		{"dilution", `{"c1":6,"v1":8.5,"v2":485}`, "c2", "0.10515", ""},
		{"dilution", `{"c1":0.250,"v1":25,"v2":250}`, "c2", "0.025", ""},
		{"weighing", `{"formula":"Na2CO3","volume":250,"mass":6.63}`, "concentration", "0.25021", ""},
		{"weighing", `{"formula":"KHC8H4O4","volume":250,"concentration":0.1}`, "mass", "5.1055", ""},
		{"convert", `{"value":0.888,"unit":"mol/L","to":"g/L","formula":"CH3COOH"}`, "value", "53.326", ""},
		{"convert", `{"value":5,"unit":"% w/v","to":"mol/L","formula":"CH3COOH"}`, "value", "0.8326", ""},
		{"ph", `{"mixture":[{"formula":"CH3COOH","concentration":0.1}]}`, "pH", "2.88",
			"OpenStax Chemistry 2e, ch. 14 (from memory): 2.87 with Ka 1.8e-5"},
		{"prepare", `{"formula":"Na2CO3","concentration":0.05,"volume":250}`, "mass", "1.3249", ""},
		{"convert", `{"value":37,"unit":"% w/w","to":"mol/L","formula":"HCl","density":1.19}`, "value", "12.077", ""},
	} {
		out, err := calc.Calculate(c.name, []byte(c.in))
		require.NoError(t, err, c.name)
		var got map[string]any
		require.NoError(t, json.Unmarshal(out, &got))
		switch v := got[c.path].(type) {
		case float64:
			var want float64
			require.NoError(t, json.Unmarshal([]byte(c.want), &want))
			assert.InEpsilon(t, want, v, 2e-3, "%s %s: %s", c.name, c.in, c.source)
		default:
			assert.Equal(t, c.want, v, c.name)
		}
	}
}

// A titration without a notebook gives what its notebook gives.
func TestTitration(t *testing.T) {
	text, err := examples.Files.ReadFile("shell-chalk.json")
	require.NoError(t, err)
	var doc struct{ Practical map[string]any }
	require.NoError(t, json.Unmarshal(text, &doc))
	doc.Practical["route"].([]any)[0].(map[string]any)["mass"] = "1.2511"
	in := map[string]any{"practical": doc.Practical, "titres": []map[string]any{{"titre": "24.15"},
		{"start": "24.15", "end": "48.25"}}, "draws": 2000}
	input, err := json.Marshal(in)
	require.NoError(t, err)
	for _, name := range []string{"titration", "back"} {
		out, err := calc.Calculate(name, input)
		require.NoError(t, err)
		assert.Contains(t, string(out), "97.52")
		assert.Contains(t, string(out), `"monteCarlo"`)
	}
	_, err = calc.Calculate("direct", input)
	assert.ErrorContains(t, err, "practical.kind")
	in["titres"] = []map[string]any{{"titre": "24.15", "start": "1"}}
	input, _ = json.Marshal(in)
	_, err = calc.Calculate("back", input)
	assert.NoError(t, err, "a titre and half a pair of readings: the titre counts")
	in["titres"] = []map[string]any{{"start": "1"}}
	input, _ = json.Marshal(in)
	_, err = calc.Calculate("back", input)
	assert.ErrorContains(t, err, "titres[0]")
}

func TestCurveFiles(t *testing.T) {
	for as, says := range map[string]string{"csv": "volume/mL,pH\\n0.0000,", "svg": "</svg>",
		"points": `"points":[{"v":0,`} {
		out, err := calc.Calculate("curve", []byte(`{"sample":[{"formula":"HCl","concentration":0.1}],"volume":25,
			"titrant":[{"formula":"NaOH","concentration":0.1}],"to":50,"points":100,"as":"`+as+`"}`))
		require.NoError(t, err)
		assert.Contains(t, strings.ReplaceAll(string(out), `\u003c`, "<")+strings.ReplaceAll(string(out), `\u003e`, ">"),
			strings.TrimSuffix(says, ">"), as)
	}
}

func TestRefusals(t *testing.T) {
	for _, c := range []struct{ name, in, says string }{
		{"formula", `{"formula":"Xx"}`, "formula: "},
		{"formula", `{}`, "formula"},
		{"formula", `{"formula":"H2O","more":1}`, "more"},
		{"formula", `{"formula"`, "line 1, column"},
		{"balance", `{"equation":"H2O -> H2O2"}`, "equation: "},
		{"half-reactions", `{"reduction":"Fe^2+ -> Fe^3+","oxidation":"H2O2 -> O2"}`, "reduction: "},
		{"agreement", `{"titres":["-1"],"rule":{"tolerance":"0.1","need":2}}`, "titres[0]"},
		{"dilution", `{"c1":1,"v1":1}`, "c2"},
		{"dilution", `{"c1":1,"v1":10,"v2":5}`, "stronger"},
		{"weighing", `{"formula":"NaCl","volume":100}`, "mass"},
		{"convert", `{"value":1,"unit":"mol/L","to":"g/L"}`, "formula"},
		{"convert", `{"value":1,"unit":"mol/L","to":"mL"}`, "to"},
		{"uncertainty", `{"factors":[{"name":"a","value":0,"standard":1,"power":-1}]}`, "factors[0].value"},
		{"uncertainty", `{"factors":[{"name":"a","value":2,"standard":1,"power":0}]}`, "factors[0].power"},
		{"half-reactions", `{"reduction":"Fe^3+ -> Fe^2+","oxidation":"Fe^2+ -> Fe^3+"}`, "oxidation"},
		{"hydrate", `{"anhydrous":"Na2CO3","mass":1,"amount":1}`, "amount"},
		{"ph", `{"mixture":[{"formula":"C2H5OH","concentration":0.1}]}`, "mixture[0].formula"},
		{"dilute", `{"from":0.1,"to":1}`, "to"},
		{"prepare", `{"formula":"HCl","concentration":9,"volume":10,"stock":6}`, "concentration"},
	} {
		_, err := calc.Calculate(c.name, []byte(c.in))
		var faults schema.Faults
		require.True(t, errors.As(err, &faults), "%s %s: %v", c.name, c.in, err)
		said := faults[0].Path + ": " + wording.For().Say(faults[0].Message)
		assert.Contains(t, said, c.says, c.in)
	}
	_, err := calc.Calculate("nothing", []byte(`{}`))
	assert.ErrorIs(t, err, calc.ErrUnknown)
	for _, f := range calc.Functions() {
		text, err := calc.Schema(f.Name, wording.For().Say)
		require.NoError(t, err)
		assert.True(t, json.Valid(text), f.Name)
	}
}

func FuzzRun(f *testing.F) {
	f.Add("balance", []byte(`{"equation":"H2 + O2 -> H2O"}`))
	f.Add("dilution", []byte(`{"c1":1,"v1":1,"c2":0.5}`))
	f.Add("convert", []byte(`{"value":1,"unit":"mol","to":"g","formula":"NaCl"}`))
	f.Fuzz(func(t *testing.T, name string, in []byte) {
		out, err := calc.Calculate(name, in)
		if err == nil && !json.Valid(out) {
			t.Fatalf("%s: no JSON: %s", name, out)
		}
	})
}

// A titrant of unknown strength is found from a sample that is known, and Gran's lines are drawn
// of a sample that is named: the points are those of 25.00 mL of 0.100 mol/L ethanoic acid by 0.100
// mol/L base (OpenStax Chemistry 2e, 14.7; from memory).
func TestUnknownTitrant(t *testing.T) {
	points := `"points":[{"volume":0,"reading":2.88},{"volume":5,"reading":4.14},{"volume":10,"reading":4.57},{"volume":12.5,"reading":4.74},{"volume":15,"reading":4.92},{"volume":20,"reading":5.35},{"volume":23,"reading":5.81},{"volume":24,"reading":6.12},{"volume":24.5,"reading":6.43},{"volume":24.9,"reading":7.14},{"volume":25.1,"reading":10.3},{"volume":25.5,"reading":10.99},{"volume":26,"reading":11.29},{"volume":28,"reading":11.75},{"volume":30,"reading":11.96},{"volume":35,"reading":12.22}]`
	type result struct {
		Concentration float64
		OfTitrant     bool
		Ends          []struct {
			Method string
			Volume float64
			Why    any
		}
	}
	run := func(in string) (got result) {
		out, err := calc.Calculate("series", []byte(`{"flask":25,"sample":"CH3COOH","titrantFormula":"NaOH",`+in+`,`+points+`}`))
		require.NoError(t, err)
		require.NoError(t, json.Unmarshal(out, &got))
		return got
	}
	got := run(`"sampleConcentration":0.1`)
	assert.True(t, got.OfTitrant)
	assert.InEpsilon(t, 0.1, got.Concentration, 2e-3)
	got = run(`"titrant":0.1`)
	assert.False(t, got.OfTitrant)
	assert.InEpsilon(t, 0.1, got.Concentration, 2e-3)
	for _, e := range got.Ends {
		if e.Method == "gran-after" {
			continue // three points behind the end are too few
		}
		assert.Nil(t, e.Why, e.Method)
		assert.InDelta(t, 25, e.Volume, 0.1, e.Method)
	}
}
