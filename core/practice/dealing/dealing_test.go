package dealing_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"exactflask/core/practice/dealing"
)

func TestInTurn(t *testing.T) {
	assert.Equal(t, []string{"A", "B", "C", "A"}, dealing.InTurn([]string{"A", "B", "C"}, 4))
	assert.Equal(t, []string{"", ""}, dealing.InTurn(nil, 2))
}

// Every code is given as often as the others, or once more; the same seed gives the
// same; another one nearly always another.
func TestAtRandom(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		codes := rapid.SliceOfNDistinct(rapid.StringMatching(`[A-Z][0-9]?`), 1, 9, rapid.ID).Draw(t, "codes")
		n, seed := rapid.IntRange(0, 60).Draw(t, "n"), rapid.Uint64().Draw(t, "seed")
		got := dealing.AtRandom(codes, n, seed)
		assert.Equal(t, got, dealing.AtRandom(codes, n, seed))
		count := map[string]int{}
		for _, c := range got {
			count[c]++
		}
		for _, c := range codes {
			assert.InDelta(t, float64(n)/float64(len(codes)), count[c], 1)
		}
	})
	different := map[string]bool{}
	for seed := range uint64(50) {
		out := ""
		for _, c := range dealing.AtRandom([]string{"A", "B", "C"}, 12, seed) {
			out += c
		}
		different[out] = true
	}
	assert.Greater(t, len(different), 45)
}

// An unknown keeps its code in another class, unless that is another's there.
func TestCarried(t *testing.T) {
	there := map[string]string{"A": "0.46", "B": "0.50"}
	for _, c := range []struct{ code, value, want string }{
		{"A", "0.46", "A"}, {"C", "0.46", "C"}, {"A", "0.54", "C"}, {"17", "0.54", "17"},
	} {
		assert.Equal(t, c.want, dealing.Carried(there, c.code, c.value))
	}
	full := map[string]string{"1": "9"}
	for c := 'A'; c <= 'Z'; c++ {
		full[string(c)] = "9"
	}
	assert.Equal(t, "2", dealing.Carried(full, "A", "0.46"))
}

// Whoever is taken as a partner leaves whom they had, who is alone then.
func TestPaired(t *testing.T) {
	both := func(a, b string) map[string]string { return map[string]string{a: b, b: a} }
	for _, c := range []struct {
		name            string
		before          map[string]string
		person, partner string
		want            map[string]string
	}{
		{"two who are alone", nil, "a", "b", both("a", "b")},
		{"parted", both("a", "b"), "a", "", map[string]string{}},
		{"with another", both("a", "b"), "a", "c", both("a", "c")},
		{"one who has a partner", both("a", "b"), "c", "b", both("b", "c")},
		{"of two pairs", map[string]string{"a": "b", "b": "a", "c": "d", "d": "c"}, "a", "c", both("a", "c")},
		{"others stay", both("a", "b"), "c", "d", map[string]string{"a": "b", "b": "a", "c": "d", "d": "c"}},
		{"with oneself", both("a", "b"), "a", "a", map[string]string{}},
		{"nobody is none", map[string]string{"e": ""}, "a", "b", both("a", "b")},
	} {
		assert.Equal(t, c.want, dealing.Paired(c.before, c.person, c.partner), c.name)
	}
}
