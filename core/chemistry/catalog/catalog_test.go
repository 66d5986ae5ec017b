package catalog_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
	"exactflask/core/values/decimal"
)

func TestEveryEntryIsSound(t *testing.T) {
	c := catalog.BuiltIn()
	assert.GreaterOrEqual(t, len(c.Substances), 120)
	assert.GreaterOrEqual(t, len(c.Indicators), 20)
	assert.GreaterOrEqual(t, len(c.Reactions), 45)
	assert.GreaterOrEqual(t, len(c.Standards), 20)
	ids := map[string]chem.Formula{}
	for _, s := range c.Substances {
		assert.NotContains(t, ids, s.ID)
		f, err := chem.ParseFormula(s.Formula)
		require.NoError(t, err, s.ID)
		ids[s.ID] = f
		assert.NotEmpty(t, s.Source, s.ID)
		found, ok := c.Substance(f)
		require.True(t, ok)
		assert.Equal(t, s.ID, found.ID, "two substances with one formula")
	}
	for _, i := range c.Indicators {
		if i.Kind == catalog.AcidBase {
			assert.Negative(t, i.Low.Cmp(i.High), i.ID)
		}
		assert.NotEmpty(t, i.Source, i.ID)
	}
	for _, r := range c.Reactions {
		eq, err := chem.ParseEquation(r.Equation)
		require.NoError(t, err, r.ID)
		assert.True(t, eq.Balanced(), r.Equation)
		again, err := c.Balance(eq)
		require.NoError(t, err, r.ID)
		assert.Equal(t, eq.String(), again.String(), "smallest whole coefficients")
		_, other := c.Usual(eq)
		assert.False(t, other, r.ID)
		for _, id := range []string{r.Acid, r.Base} {
			_, ok := eq.Coefficient(ids[id])
			assert.True(t, ok, "%s takes part in %s", id, r.Equation)
		}
		for _, id := range r.Indicators {
			_, ok := c.Indicator(id)
			assert.True(t, ok, id)
		}
		assert.NotEmpty(t, r.Source, r.ID)
	}
	for _, s := range c.Standards {
		assert.Contains(t, ids, s.Substance)
		assert.Len(t, s.Purity, 2, s.Substance)
		assert.NotEmpty(t, s.Source, s.Substance)
	}
}

// pH ranges: CRC Handbook, from memory.
func TestIndicatorRanges(t *testing.T) {
	for id, want := range map[string][2]string{"methyl-orange": {"3.1", "4.4"}, "methyl-red": {"4.4", "6.2"},
		"bromothymol-blue": {"6.0", "7.6"}, "phenolphthalein": {"8.2", "10.0"}, "thymolphthalein": {"9.4", "10.6"}} {
		i, ok := catalog.BuiltIn().Indicator(id)
		require.True(t, ok, id)
		assert.Equal(t, want, [2]string{i.Low.String(), i.High.String()}, id)
	}
}

func TestCautionsDependOnConcentration(t *testing.T) {
	naoh, ok := catalog.BuiltIn().Substance(chem.MustFormula("NaOH"))
	require.True(t, ok)
	assert.Len(t, naoh.CautionsAt(decimal.Must("0.05")), 3)
	strong := naoh.CautionsAt(decimal.Must("2.0"))
	require.Len(t, strong, 6)
	assert.Contains(t, strong[0], "corrosive", "the gravest comes first")
}

// Limits by the harmonised classification's specific concentration limits, from
// memory: formic acid irritates from 2 % (0.44 mol/L) and burns from 10 % (2.2),
// propionic from 10 and 25 % (1.35, 3.4), hydrobromic from 10 and 40 % (1.3, 6.8),
// hydriodic from 10 and 25 % (0.84, 2.4), hydrochloric from 10 and 25 % (2.9, 7.7).
// Each is the stricter where in doubt.
func TestHazardLimits(t *testing.T) {
	for id, c := range map[string]struct{ mild, irritant, corrosive string }{
		"methanoic-acid": {"0.39", "0.44", "2.2"}, "propanoic-acid": {"1.2", "1.35", "3.4"},
		"hydrobromic-acid": {"1.2", "1.3", "6.8"}, "hydriodic-acid": {"0.7", "0.84", "2.4"},
		"hydrochloric-acid": {"1.9", "2.9", "7.7"},
	} {
		s, ok := catalog.BuiltIn().SubstanceByID(id)
		require.True(t, ok, id)
		assert.NotContains(t, s.CautionsAt(decimal.Must(c.mild)), "irritant-to-eyes", id)
		assert.Contains(t, s.CautionsAt(decimal.Must(c.irritant)), "irritant-to-eyes", id)
		assert.NotContains(t, s.CautionsAt(decimal.Must(c.irritant)), "corrosive-at-this", id)
		assert.Contains(t, s.CautionsAt(decimal.Must(c.corrosive)), "corrosive-at-this", id)
	}
}

// Source: the number of protons a molecule gives or takes, general chemistry.
func TestProtonsOf(t *testing.T) {
	for formula, want := range map[string]int{"HCl": 1, "NaOH": 1, "Ba(OH)2": 2, "H2SO4": 2, "KHC8H4O4": 1, "Na2CO3": 2,
		"NH3": 1, "C6H8O7": 3, "NaHSO4": 1, "KMnO4": 0} {
		assert.Equal(t, want, catalog.BuiltIn().ProtonsOf(chem.MustFormula(formula)), formula)
	}
}
