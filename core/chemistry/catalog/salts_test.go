package catalog_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
)

// Ions and salts of strong bases act as the acid or base that they are made of: what the charge of
// their other ions is follows by counting (general chemistry).
func TestSaltsInWater(t *testing.T) {
	c := catalog.BuiltIn()
	of := func(text string) (catalog.InWater, bool) { return c.InWater(chem.MustFormula(text)) }
	for _, s := range []struct {
		formula, acid string
		strong, units int
	}{
		{"KNO3", "HNO3", 0, 0}, {"NaBr", "HBr", 0, 0}, {"KI", "HI", 0, 0}, {"LiCl", "HCl", 0, 0}, {"CaCl2", "HCl", 0, 0}, {"BaCl2*2H2O", "HCl", 0, 0}, {"Ca(NO3)2", "HNO3", 0, 0},
		{"Cl^-", "HCl", 0, 0}, {"NO3^-", "HNO3", 0, 0}, {"OH^-", "NaOH", 1, 0}, {"Sr(OH)2", "NaOH", 2, 0},
		{"NaF", "HF", 1, 0}, {"F^-", "HF", 1, 0}, {"KCH3COO", "CH3COOH", 1, 0}, {"Ca(CH3COO)2", "CH3COOH", 2, 2}, {"CH3COO^-", "CH3COOH", 1, 0},
		{"K3PO4", "H3PO4", 3, 0}, {"HPO4^2-", "H3PO4", 2, 0}, {"H2PO4^-", "H3PO4", 1, 0}, {"LiHCO3", "H2CO3", 1, 0}, {"CO3^2-", "H2CO3", 2, 0},
		{"MgSO4", "H2SO4", 2, 0}, {"SO4^2-", "H2SO4", 2, 0}, {"HSO4^-", "H2SO4", 1, 0}, {"H2SO3", "NaHSO3", 0, 0},
		{"NH4^+", "NH3", -1, 0}, {"H3O^+", "NaOH", -1, 0}, {"H2O", "NaOH", 0, 0},
	} {
		got, ok := of(s.formula)
		if !assert.True(t, ok, s.formula) {
			continue
		}
		acid, ok := of(s.acid)
		require.True(t, ok, s.acid)
		assert.Equal(t, s.strong, got.Strong, s.formula)
		assert.Equal(t, s.units, got.Units, s.formula)
		assert.Equal(t, acid.PKa, got.PKa, s.formula)
		assert.Equal(t, acid.Top, got.Top, s.formula)
	}
	for _, text := range []string{"Fe^2+", "MnO4^-", "S2O3^2-", "I2", "H2O2", "O2", "CuSO4", "C2H5OH", "C6H12O6", "Na", "C2O6^4-"} {
		_, ok := of(text)
		assert.False(t, ok, text)
	}
	hydrogen, ok := of("H^+")
	assert.True(t, ok)
	assert.Equal(t, -1, hydrogen.Strong)
	// What the catalogue lists of a salt is what follows from its acid.
	for _, pair := range [][2]string{{"Na2CO3", "K2CO3"}, {"Na2HPO4", "K2HPO4"}, {"NaH2PO4", "KH2PO4"}, {"NaHCO3", "KHCO3"}, {"Na2SO4", "K2SO4"}, {"CH3COONa", "CH3COOK"}, {"NaHSO4", "KHSO4"}} {
		a, _ := of(pair[0])
		b, _ := of(pair[1])
		assert.Equal(t, a, b, pair)
	}
}
