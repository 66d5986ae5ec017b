package calc_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/calc"
)

// titrationText is a titration of one titre, with these groups of its practical.
func titrationText(groups, titre string) string {
	return `{"practical":{"id":"x","revision":1,"title":"x",` + groups + `,"glass":{"burette":{"capacity":"50.00",
		"division":"0.1","class":"B"}},"rules":{"readings":{"resolution":"half"},"agreement":{"tolerance":"0.10","need":2}},
		"showing":{"results":"always"}},"titres":[{"titre":"` + titre + `","mass":"2.0000"}]}`
}

// What lies at the edge: answers beside faults with their path. By hand where
// nothing else is said.
func TestEdges(t *testing.T) {
	for _, c := range []struct{ name, in, path, want, fault string }{
		// A liquid that is weighed: 2.0000 g at 1.25 g/mL are 1.600 mL; 25.00 mL of 0.1 mol/L
		// are 2.5 mmol, 1.5625 mol/L. By hand.
		{"titration", titrationText(`"asked":{"density":"1.25"},"chemistry":{"equation":"HCl + NaOH -> NaCl + H2O","titrant":{"name":"t","formula":"NaOH",
			"concentration":"0.1"},"analyte":{"name":"a","formula":"HCl"},"indicator":"methyl-orange"},"route":[{"kind":"weigh","mass":"2.0000"}]`, "25.00"), "result.answer.value", "1.5625", ""},
		// An unknown diluted 10.00 to 250.0 mL before the burette: 25.00 mL of 0.1 mol/L
		// alkali took 20.00 mL, 0.125 mol/L there and 3.125 before. By hand.
		{"titration", titrationText(`"chemistry":{"equation":"HCl + NaOH -> NaCl + H2O","titrant":{"name":"t","formula":"HCl"},"analyte":{"name":"a",
			"formula":"NaOH","concentration":"0.1"},"indicator":"methyl-orange","diluted":{"taken":"10.00","madeUp":"250.0"}},"route":[{"kind":"pipette","volume":"25.00"}]`,
			"20.00"), "result.answer.value", "3.125", ""},
		{"propagate", `{"formula":"a*b/c","variables":[{"name":"a","value":2,"standard":0.1},{"name":"b","value":3},
			{"name":"c","value":4,"halfWidth":0.1}]}`, "value", "1.5", ""},
		{"propagate", `{"formula":"1/(a-2)","variables":[{"name":"a","value":2,"standard":0.1}]}`, "", "",
			"formula: calc.formula-value"},
		{"propagate", `{"formula":"a+q","variables":[{"name":"a","value":2}]}`, "", "", "formula: calc.formula-name"},
		{"propagate", `{"formula":"a+","variables":[{"name":"a","value":2}]}`, "", "", "formula: calc.formula-cut"},
		{"propagate", `{"formula":"a","variables":[{"name":"a","value":2,"standard":1,"halfWidth":1}]}`, "", "",
			"variables[0].halfWidth: calc.either-width"},
		{"weighing", `{"formula":"NaCl","volume":100,"full":12.8443,"emptied":12.2599}`, "mass", "0.5844", ""},
		{"weighing", `{"formula":"NaCl","volume":100,"full":12.2,"emptied":12.3}`, "", "", "emptied: calc.not-less"},
		{"weighing", `{"formula":"H2A","volume":100,"mass":1}`, "", "", "formula: chem.unnamed"},
		{"formula", `{"formula":"KHP"}`, "", "", "formula: chem.syntax"},
		{"convert", `{"value":1e308,"unit":"g/L","to":"mg/L"}`, "", "", "calc.not-finite"},
		{"ph", `{"mixture":[{"formula":"H2A","concentration":0.1,"own":{"pKa":["4.756"]}}]}`, "pH", "2.88", ""},
	} {
		out, err := calc.Calculate(c.name, []byte(c.in))
		if c.fault != "" {
			assert.ErrorContains(t, err, c.fault, "%s %s", c.name, c.in)
			continue
		}
		require.NoError(t, err, "%s %s", c.name, c.in)
		var got any
		require.NoError(t, json.Unmarshal(out, &got))
		for _, part := range strings.Split(c.path, ".") {
			got = got.(map[string]any)[part]
		}
		var want float64
		require.NoError(t, json.Unmarshal([]byte(c.want), &want))
		assert.InEpsilon(t, want, got, 2e-3, "%s %s", c.name, c.in)
	}
}

// The general propagation gives the figures of the published example as the product
// does. Source: EURACHEM/CITAC CG4 (QUAM:2012) A2, from memory: 0.10214 mol/L, u
// 0.00010; and to Monte Carlo what it gives to first order.
func TestPropagateAgainstCG4(t *testing.T) {
	out, err := calc.Calculate("propagate", []byte(`{"formula":"1000*m*P*rep/(M*V)","draws":100000,"variables":[
		{"name":"m","value":0.3888,"standard":0.00013},{"name":"P","value":1,"halfWidth":0.0005},
		{"name":"M","value":204.2212,"standard":0.0038},{"name":"V","value":18.64,"standard":0.013},
		{"name":"rep","value":1,"standard":0.0005}]}`))
	require.NoError(t, err)
	var got struct {
		Value, Standard float64
		Parts           []struct{ Name string }
		MonteCarlo      struct{ Standard float64 }
	}
	require.NoError(t, json.Unmarshal(out, &got))
	assert.InDelta(t, 0.10214, got.Value, 0.000005)
	assert.InDelta(t, 0.00010, got.Standard, 0.000005)
	assert.InEpsilon(t, got.Standard, got.MonteCarlo.Standard, 0.02)
	assert.Len(t, got.Parts, 5)
}

// No function gives anything but an answer or a fault, whatever the size of its
// numbers.
func FuzzNumbers(f *testing.F) {
	f.Add("dilution", 6.0, 8.5, 485.0)
	f.Add("hydrate", 1e308, 1e-308, 0.0)
	f.Add("convert", 1e300, 1e300, 1e300)
	f.Fuzz(func(t *testing.T, name string, a, b, c float64) {
		number := func(v float64) string { text, _ := json.Marshal(v); return string(text) }
		texts := map[string]string{
			"dilution": fmt.Sprintf(`{"c1":%s,"v1":%s,"v2":%s}`, number(a), number(b), number(c)),
			"hydrate":  fmt.Sprintf(`{"anhydrous":"Na2CO3","mass":%s,"amount":%s}`, number(a), number(b)),
			"convert":  fmt.Sprintf(`{"value":%s,"unit":"%% w/w","to":"mol/L","formula":"HCl","density":%s}`, number(a), number(b)),
			"weighing": fmt.Sprintf(`{"formula":"NaCl","volume":%s,"mass":%s}`, number(a), number(b)),
			"propagate": fmt.Sprintf(`{"formula":"a^b/c","variables":[{"name":"a","value":%s},{"name":"b","value":%s,"standard":1},
				{"name":"c","value":%s}]}`, number(a), number(b), number(c)),
			"ph": fmt.Sprintf(`{"mixture":[{"formula":"H3PO4","concentration":%s},{"formula":"NaOH","concentration":%s}],
				"davies":true}`, number(a), number(b)),
		}
		for name, text := range texts {
			out, err := calc.Calculate(name, []byte(text))
			assert.True(t, err != nil || json.Valid(out), "%s %s", name, text)
		}
	})
}
