package catalog_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
)

// What is balanced in atoms and charge need not be balanced in electrons: in acid five peroxides
// are oxidised by two permanganates (any textbook), and 2 to 3 balances as well.
func TestUsualBalance(t *testing.T) {
	c := catalog.BuiltIn()
	for _, row := range []struct{ written, usual string }{
		{"2 MnO4- + 3 H2O2 + 6 H+ -> 2 Mn^2+ + 4 O2 + 6 H2O", "2 MnO4^- + 5 H2O2 + 6 H^+ -> 2 Mn^2+ + 5 O2 + 8 H2O"},
		{"2 MnO4- + H2O2 + 6 H+ -> 2 Mn^2+ + 3 O2 + 4 H2O", "2 MnO4^- + 5 H2O2 + 6 H^+ -> 2 Mn^2+ + 5 O2 + 8 H2O"},
		{"2 MnO4- + 5 H2O2 + 6 H+ -> 2 Mn^2+ + 5 O2 + 8 H2O", ""},
		{"4 MnO4- + 10 H2O2 + 12 H+ -> 4 Mn^2+ + 10 O2 + 16 H2O", ""},
		{"MnO4- + 5 Fe^2+ + 8 H+ -> Mn^2+ + 5 Fe^3+ + 4 H2O", ""},
		{"2 KMnO4 + 3 H2O2 + 3 H2SO4 -> K2SO4 + 2 MnSO4 + 4 O2 + 6 H2O", "2 KMnO4 + 5 H2O2 + 3 H2SO4 -> K2SO4 + 2 MnSO4 + 5 O2 + 8 H2O"},
		{"HCl + NaOH -> NaCl + H2O", ""},
	} {
		eq, err := chem.ParseEquation(row.written)
		require.NoError(t, err)
		require.True(t, eq.Balanced(), row.written)
		usual, other := c.Usual(eq)
		assert.Equal(t, row.usual != "", other, row.written)
		if other {
			assert.Equal(t, row.usual, usual.Plain(), row.written)
		}
	}
	eq, err := chem.ParseEquation("MnO4- + H2O2 + H+ -> Mn^2+ + O2 + H2O")
	require.NoError(t, err)
	assert.Equal(t, 2, eq.Freedom())
	by, err := c.Balance(eq)
	require.NoError(t, err, "half-reactions decide")
	assert.Equal(t, "2 MnO4^- + 5 H2O2 + 6 H^+ -> 2 Mn^2+ + 5 O2 + 8 H2O", by.Plain())
	eq, err = chem.ParseEquation("ClO3- + Cl- + H+ -> ClO2 + Cl2 + H2O")
	require.NoError(t, err)
	_, err = c.Balance(eq)
	assert.ErrorIs(t, err, chem.ErrNotUnique, "nothing is known that decides")
}
