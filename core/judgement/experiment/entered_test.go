package experiment_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

// worked is an example with its own record.
func worked(t *testing.T, name string) (*practical.Ready, []journal.Entry) {
	for _, e := range practicaltest.Examples(t) {
		if e.Name == name {
			var entries []journal.Entry
			require.NoError(t, json.Unmarshal(e.Journal, &entries))
			return e.Ready, entries
		}
	}
	require.FailNow(t, name)
	return nil, nil
}

// What is entered for a known is asked about where it lies far from what the practical says,
// before it is written and beside the answer; by another place of the point where that fits.
func TestEntered(t *testing.T) {
	for _, c := range []struct{ written, code, meant string }{
		{"0.1013", "", ""},
		{"0.1199", "", ""},
		{"0.1200", "", ""},
		{"0.1201", "entered.far", ""},
		{"0.0800", "", ""},
		{"0.0799", "entered.far", ""},
		{"1.013", "entered.slipped", "0.1013"},
		{"0.0107", "entered.slipped", "0.107"},
		{"101.3", "entered.slipped", "0.1013"},
		{"0.000101", "entered.slipped", "0.101"},
		{"0.0000101", "entered.far", ""},
		{"0.5", "entered.far", ""},
	} {
		p := practicaltest.Plain()
		p.Chemistry.Titrant.Concentration, p.Chemistry.Standard = decimal.Must("0.1000"), "another"
		known := journal.Known{Written: c.written, Uncertainty: "0.0001", From: "another"}
		r, fault := p.Check()
		require.Nil(t, fault)
		m, doubtful := experiment.Doubt(r, known)
		assert.Equal(t, c.code != "", doubtful, c.written)
		assert.Equal(t, c.code, m.Code, c.written)
		if c.meant != "" {
			assert.Equal(t, c.meant, m.Values["meant"].Exact.String(), c.written)
		}
		ev := of(t, p, add(entries("A 0.00 23.85", "A 0.00 23.85"), journal.Entry{Part: known}))
		require.NotNil(t, ev.Result, "it is worked out all the same")
		var said []string
		for _, f := range ev.Findings {
			if f.Code == "entered.far" || f.Code == "entered.slipped" {
				assert.Equal(t, finding.Check, f.Severity)
				said = append(said, f.Code)
			}
		}
		if c.code == "" {
			assert.Empty(t, said, c.written)
		} else {
			assert.Equal(t, []string{c.code}, said, c.written)
		}
	}
	r, _ := practicaltest.Plain().Check()
	_, doubtful := experiment.Doubt(r, journal.Remark{Written: "12"})
	assert.False(t, doubtful)
}

// A mass, and the volumes of sample and reagent, likewise; a norm says how far is far.
func TestEnteredMass(t *testing.T) {
	_, record := worked(t, "citric-descaler.json")
	weighed := func(full string) []string {
		var out []string
		for i := range record {
			if w, is := record[i].Part.(journal.Weighing); is {
				w.Full = full
				record[i].Part = w
			}
		}
		ready, _ := worked(t, "citric-descaler.json")
		for _, f := range experiment.Evaluate(ready, record, experiment.All).Findings {
			if f.Code == "entered.far" || f.Code == "entered.slipped" {
				out = append(out, f.Code)
			}
		}
		return out
	}
	// 1.32 g are asked for; the vessel weighs 14.9102 g.
	assert.Empty(t, weighed("16.2314"))
	assert.Empty(t, weighed("16.4942"), "1.5840 g: a fifth more")
	assert.Equal(t, []string{"entered.far"}, weighed("16.4943"))
	assert.Equal(t, []string{"entered.slipped"}, weighed("28.1214"))

	p := practicaltest.Plain()
	p.Chemistry.Standard = "another"
	p.Rules.Norms = practical.Norms{practical.FarNominal: decimal.Whole(50)}
	r, fault := p.Check()
	require.Nil(t, fault)
	_, doubtful := experiment.Doubt(r, journal.Known{Written: "0.149"})
	assert.False(t, doubtful)
	_, doubtful = experiment.Doubt(r, journal.Known{Written: "0.151"})
	assert.True(t, doubtful)
}

// A density of a thousand is one in g/L.
func TestEnteredDensity(t *testing.T) {
	for written, want := range map[string]string{"1.010": "", "0.6": "", "0.5": "entered.density-far", "2.0": "", "2.1": "entered.density-far", "1010": "entered.density-slipped",
		"0.00101": "entered.density-slipped", "9": "entered.density-slipped", "": ""} {
		p := practicaltest.Plain()
		p.Asked = practical.Asked{What: practical.MassFraction, Density: decimal.Must("1.0")}
		if written != "" {
			p.Asked.Density = decimal.Must(written)
		}
		said := ""
		for _, f := range of(t, p, entries("A 0.00 23.85", "A 0.00 23.85")).Findings {
			if f.Code == "entered.density-far" || f.Code == "entered.density-slipped" {
				said = f.Code
			}
		}
		assert.Equal(t, want, said, written)
	}
}

// A reading is asked about before it is inked where it lies off the scale or has more decimals than
// are read; on the limit, with few decimals, and between two steps with as many, it is not.
func TestReadingsAreAskedAbout(t *testing.T) {
	r, fault := practicaltest.Plain().Check() // 50.00 mL, steps of 0.05 mL
	require.Nil(t, fault)
	for written, code := range map[string]string{"50.00": "", "50.05": "entered.past-scale", "0.00": "", "-0.05": "entered.before-scale", "-1.00": "entered.before-scale",
		"23.45": "", "23.43": "", "23.4": "", "23.450": "", "23.456": "entered.finer", "23,456": "entered.finer", "x": ""} {
		m, asked := experiment.Doubt(r, journal.Scale{Place: journal.End, Written: written})
		assert.Equal(t, code != "", asked, written)
		if asked {
			assert.Equal(t, code, m.Code, written)
		}
	}
}
