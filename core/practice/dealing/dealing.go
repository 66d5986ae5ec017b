// Package dealing gives out unknowns: each as often as the others, and reproducibly.
package dealing

import (
	"math/rand/v2"
	"strconv"
)

// InTurn gives n people the codes one after another.
func InTurn(codes []string, n int) []string {
	out := make([]string, n)
	for i := range out {
		if len(codes) > 0 {
			out[i] = codes[i%len(codes)]
		}
	}
	return out
}

// AtRandom gives n people the codes at random: each code as often as the others, or
// once more, and the same for the same seed.
func AtRandom(codes []string, n int, seed uint64) []string {
	r := rand.New(rand.NewPCG(seed, uint64(len(codes))))
	shuffled := append([]string(nil), codes...)
	r.Shuffle(len(shuffled), func(i, j int) { shuffled[i], shuffled[j] = shuffled[j], shuffled[i] })
	out := InTurn(shuffled, n)
	r.Shuffle(n, func(i, j int) { out[i], out[j] = out[j], out[i] })
	return out
}

// Carried is the code that an unknown has in another class where a student brings it: its
// own, where nothing else is called so there; else the first letter or number that is
// free. there are the values by code.
func Carried(there map[string]string, code, value string) string {
	if v, taken := there[code]; !taken || v == value {
		return code
	}
	for c := 'A'; c <= 'Z'; c++ {
		if _, taken := there[string(c)]; !taken {
			return string(c)
		}
	}
	for n := 1; ; n++ {
		if _, taken := there[strconv.Itoa(n)]; !taken {
			return strconv.Itoa(n)
		}
	}
}

// Paired are the pairs, each by both of its people, once one of them works with another; with
// nobody where partner is empty. Whoever is taken leaves whom they had.
func Paired(pairs map[string]string, person, partner string) map[string]string {
	out := map[string]string{}
	for one, other := range pairs {
		if other != "" && one != person && one != partner && other != person && other != partner {
			out[one] = other
		}
	}
	if partner != "" && partner != person {
		out[person], out[partner] = partner, person
	}
	return out
}
