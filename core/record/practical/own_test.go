package practical_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/chemistry/chem"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
)

// What a school says itself is checked where it stands.
func TestOwnValuesAreChecked(t *testing.T) {
	numbers := func(texts ...string) (out []decimal.Decimal) {
		for _, text := range texts {
			out = append(out, decimal.Must(text))
		}
		return out
	}
	for _, c := range []struct {
		name, path, code string
		change           func(*practical.Practical)
	}{
		{"pKa out of order", "chemistry.analyte.own.pKa", "own.pka", func(p *practical.Practical) {
			p.Chemistry.Analyte.Own = &practical.Own{PKa: numbers("4.3", "3.0")}
		}},
		{"pKa beyond water", "chemistry.analyte.own.pKa", "own.pka", func(p *practical.Practical) {
			p.Chemistry.Analyte.Own = &practical.Own{PKa: numbers("17")}
		}},
		{"a kind that is none", "chemistry.titrant.own.kind", "practical.choice", func(p *practical.Practical) {
			p.Chemistry.Titrant.Own = &practical.Own{Kind: "salt"}
		}},
		{"a molar mass below hydrogen's", "chemistry.analyte.own.molarMass", "own.molar-mass", func(p *practical.Practical) {
			p.Chemistry.Analyte.Own = &practical.Own{MolarMass: decimal.Must("0.5")}
		}},
		{"a molar mass just below 1", "chemistry.analyte.own.molarMass", "own.molar-mass", func(p *practical.Practical) {
			p.Chemistry.Analyte.Own = &practical.Own{MolarMass: decimal.Must("0.999")}
		}},
		{"more electrons than 20", "chemistry.titrant.own.potential", "own.potential", func(p *practical.Practical) {
			p.Chemistry.Titrant.Own = &practical.Own{Potential: decimal.Must("0.8"), Electrons: 21}
		}},
		{"a potential past 4 V", "chemistry.titrant.own.potential", "own.potential", func(p *practical.Practical) {
			p.Chemistry.Titrant.Own = &practical.Own{Potential: decimal.Must("4.001"), Electrons: 1}
		}},
		{"a potential without electrons", "chemistry.titrant.own.potential", "own.potential", func(p *practical.Practical) {
			p.Chemistry.Titrant.Own = &practical.Own{Potential: decimal.Must("0.8")}
		}},
		{"an end beyond the scale", "chemistry.stopsAt", "practical.stops-at", func(p *practical.Practical) {
			p.Chemistry.StopsAt = decimal.Must("15")
		}},
		{"a limit that allows anything", "rules.indicatorLimit", "practical.indicator-limit", func(p *practical.Practical) {
			p.Rules.IndicatorLimit = decimal.Must("50")
		}},
		{"a known solution that was diluted", "chemistry.diluted", "diluted.known", func(p *practical.Practical) {
			p.Chemistry.Diluted = &practical.Diluted{Taken: decimal.Must("10"), MadeUp: decimal.Must("100")}
		}},
		{"another solid on the jar", "chemistry.titrant.solid", "solution.solid", func(p *practical.Practical) {
			p.Chemistry.Titrant.Solid = "Na2CO3*10H2O" // of NaOH
		}},
		{"all is right", "", "", func(p *practical.Practical) {
			p.Chemistry.Analyte.Own = &practical.Own{Kind: practical.OwnBase, PKa: numbers("9.25")}
			p.Chemistry.Analyte.Solid = "NaOH*H2O"
			p.Chemistry.StopsAt, p.Rules.IndicatorLimit = decimal.Must("3.1"), decimal.Must("2")
		}},
	} {
		p := practicaltest.Plain()
		c.change(&p)
		r, fault := p.Check()
		if c.code == "" {
			require.Nil(t, fault, c.name)
			w, ok := r.InWater(chem.MustFormula("NaOH"))
			assert.True(t, ok && w.Top == 1, "one's own counts, and not the catalogue")
			continue
		}
		require.NotNil(t, fault, c.name)
		assert.Equal(t, [2]string{c.path, c.code}, [2]string{fault.Path, fault.Message.Code}, c.name)
	}
	// On the limits all is right, and an own couple goes before the catalogue's.
	edge := practicaltest.Plain()
	edge.Chemistry.Analyte.Own = &practical.Own{MolarMass: decimal.Must("1"), PKa: numbers("-2", "16")}
	edge.Chemistry.Titrant.Own = &practical.Own{Potential: decimal.Must("4"), Electrons: 20}
	own, fault := edge.Check()
	require.Nil(t, fault)
	c, oxidised, ok := own.Couple(own.Titrant, true)
	assert.True(t, ok && oxidised && c.Own == 20 && c.Potential.String() == "4", "%+v", c)
	r, _ := practicaltest.Plain().Check()
	assert.Equal(t, "0.5", r.Rules.IndicatorLimit.String(), "the usual limit")
	once := 0
	for range 3 {
		r.Kept("test", func() any { once++; return once })
	}
	assert.Equal(t, 1, once, "worked out once")
	copied := *r
	copied.Kept("test", func() any { once++; return once })
	assert.Equal(t, 2, once, "a copy keeps nothing")
}
