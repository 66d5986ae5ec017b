package people

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestUsernames(t *testing.T) {
	taken := map[string]bool{"anna.bell": true}
	for _, c := range [][2]string{
		{"Mira Quillon", "mira.quillon"}, {"Anna Bell", "anna.bell2"}, {"Anna  Maria  Bell", "anna.bell3"},
		{"José Muñoz-Ríos", "jose.munoz-rios"}, {"Søren Weiß", "soren.weiss"}, {"Łukasz", "lukasz"}, {"王小明", "student"},
		{"O'Neill, Éamon", "oneill.eamon"}, {"李娜", "student2"}, {"X", "student3"},
	} {
		got := FreeUsername(c[0], taken)
		assert.Equal(t, c[1], got, c[0])
		assert.NoError(t, CheckUsername(got))
	}
	long := FreeUsername("Aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa Bbbbbbbbbbbbbbb", taken)
	assert.NoError(t, CheckUsername(long))
}

// Codes and passwords use every letter, and none is likelier than another.
func TestRandomly(t *testing.T) {
	count := map[rune]int{}
	for range 2_000 {
		code := Randomly(CodeLength)
		assert.Len(t, code, CodeLength)
		assert.Equal(t, code, PlainCode(" "+Dashed(code)+" "))
		for _, r := range code {
			count[r]++
		}
	}
	assert.Len(t, count, len(codeLetters))
	for r, n := range count { // 16,000 draws from 31: 516 expected, standard deviation 22
		assert.InDelta(t, 516, n, 130, string(r))
	}
}
