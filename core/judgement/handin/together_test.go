package handin_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"exactflask/core/judgement/handin"
)

// Who has to agree: what a marker would say of a pair of whom one hands in.
func TestTogether(t *testing.T) {
	for _, c := range []struct {
		name, belong, wrote, agreed, asks string
		either                            bool
		missing                           string
	}{
		{"alone", "mira", "mira", "", "mira", false, ""},
		{"a pair, both wrote", "mira teo", "mira teo", "", "mira", false, "teo"},
		{"the partner asks", "mira teo", "mira teo", "", "teo", false, "mira"},
		{"the other agreed", "mira teo", "mira teo", "mira", "teo", false, ""},
		{"only one wrote", "mira teo", "mira", "", "mira", false, ""},
		{"the partner, who wrote nothing, asks", "mira teo", "mira", "", "teo", false, "mira"},
		{"parted since", "mira", "mira teo", "", "mira", false, ""},
		{"three", "mira teo jory", "jory mira teo", "jory", "mira", false, "teo"},
		{"either may", "mira teo", "mira teo", "", "teo", true, ""},
	} {
		got := handin.Together(c.either, strings.Fields(c.belong), strings.Fields(c.wrote), strings.Fields(c.agreed), c.asks)
		assert.Equal(t, c.missing, strings.Join(got, " "), c.name)
	}
}
