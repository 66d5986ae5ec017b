package experiment_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"exactflask/core/judgement/experiment"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// codes are what findings are called, of those that are looked for.
func codes(all []finding.Finding, wanted ...string) []string {
	out := []string{}
	for _, f := range all {
		for _, w := range wanted {
			if f.Code == w {
				out = append(out, w)
			}
		}
	}
	return out
}

// An answer far from the approximate strength is said behind a dilution too, and whichever side
// is unknown: 23.85 mL of 0.100 mol/L for 25.0 mL are 0.0954 mol/L.
func TestFarFromExpected(t *testing.T) {
	diluted := func(p *practical.Practical) {
		p.Route = []practical.RouteStep{{Kind: practical.Pipette, Volume: decimal.Must("10.00")}, {Kind: practical.MakeUp, Volume: decimal.Must("100.0")}, {Kind: practical.Aliquot, Volume: decimal.Must("25.00")}}
	}
	other := func(p *practical.Practical) {
		p.Chemistry.Analyte.Concentration, p.Chemistry.Analyte.Approximate = decimal.Must("0.100"), decimal.Decimal{}
		p.Chemistry.Titrant.Concentration = decimal.Decimal{}
	}
	for _, c := range []struct {
		name, approximate string
		change            func(*practical.Practical)
		far               bool
	}{
		{"near", "0.0954", func(*practical.Practical) {}, false},
		{"a tenth above", "0.0868", func(*practical.Practical) {}, false},
		{"more", "0.0866", func(*practical.Practical) {}, true},
		{"behind a dilution", "0.0954", diluted, false},
		{"behind a dilution, far", "0.320", diluted, true},
		{"the titrant, near", "0.1048", other, false},
		{"the titrant, far", "0.320", other, true},
	} {
		p := practicaltest.Plain()
		p.Chemistry.Analyte.Approximate = decimal.Must(c.approximate)
		c.change(&p)
		if p.Chemistry.Titrant.Concentration.IsZero() {
			p.Chemistry.Titrant.Approximate = decimal.Must(c.approximate)
		}
		got := codes(of(t, p, entries("A 0.00 23.85", "A 0.00 23.85")).Findings, "result.far-from-expected")
		assert.Equal(t, c.far, len(got) > 0, c.name)
	}
}

// More than a hundred per cent in whatever it is told, and a volume strength of what gives no
// oxygen.
func TestWhatMeansNothing(t *testing.T) {
	p := practicaltest.Plain()
	p.Asked = practical.Asked{What: practical.MassConcentration, Unit: quantity.PercentWV}
	p.Route[0].Volume = decimal.Must("10.00")
	p.Chemistry.Titrant.Concentration = decimal.Must("10.48")
	assert.Empty(t, codes(of(t, p, entries("A 0.00 23.85", "A 0.00 23.85")).Findings, "result.over-hundred"), "99.97 % w/v")
	p.Chemistry.Titrant.Concentration = decimal.Must("10.49")
	assert.Len(t, codes(of(t, p, entries("A 0.00 23.85", "A 0.00 23.85")).Findings, "result.over-hundred"), 1, "100.07 % w/v")

	p = practicaltest.Plain()
	p.Asked = practical.Asked{What: practical.VolumeStrength}
	assert.Equal(t, []string{"asked.volumes-of"}, codes(of(t, p, entries("A 0.00 23.85", "A 0.00 23.85")).Findings, "asked.volumes-of"))
	ready, record := worked(t, "peroxide-strength.json")
	assert.Empty(t, codes(experiment.Evaluate(ready, record, experiment.All).Findings, "asked.volumes-of"))
}
