package experiment_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical/practicaltest"
)

// A reading where the scale has no mark does not count until a person says with a reason that it
// stands.
func TestOffTheScale(t *testing.T) {
	for _, c := range []struct {
		name, third string
		correct     string // of its end; with a reason
		counts      bool
	}{
		{"on the last mark", "A 26.15 50.00", "", true},
		{"past it", "A 26.20 50.05", "", false},
		{"past it, with a reason", "A 26.20 50.05", "50.05", true},
		{"past it, corrected to another reading past it", "A 26.25 50.15", "50.10", true},
		{"on the zero mark", "A 0.00 23.85", "", true},
		{"above it", "A -0.05 23.80", "", false},
	} {
		all := entries("A 0.00 23.85", "A 0.00 23.85", c.third)
		if c.correct != "" {
			end := all[len(all)-1]
			all = add(all, journal.Entry{Part: journal.Correction{Replaces: end.ID, Value: c.correct, Reason: "the marks go on to 51"}})
		}
		ev := of(t, practicaltest.Plain(), all)
		third := ev.Trials[2]
		assert.Equal(t, c.counts, third.Counts, c.name)
		assert.Equal(t, !c.counts, third.Reason == evaluation.OutOffScale, c.name)
		assert.Equal(t, evaluation.Agreed, ev.Stage, "the others are not touched")
	}
	one := of(t, practicaltest.Plain(), entries("A 26.20 50.05"))
	assert.Nil(t, one.Result, "nothing is told of it")
}
