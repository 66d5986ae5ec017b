package experiment_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"exactflask/core/chemistry/glass"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
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

// Decimals and resolution follow the division: a burette of 10 mL in 0.02 mL, read to half of
// that, is written with two decimals; one in 1 mL, read to a tenth, with one.
func TestReadingsByTheDivision(t *testing.T) {
	for _, c := range []struct {
		capacity, division string
		resolution         glass.Resolution
		end, says          string
	}{
		{"10.00", "0.02", glass.HalfDivision, "8.22", ""},
		{"10.00", "0.02", glass.HalfDivision, "8.21", ""},
		{"10.00", "0.02", glass.HalfDivision, "8.2", "reading.few-decimals"},
		{"10.00", "0.02", glass.HalfDivision, "8.215", "reading.off-resolution"},
		{"10.00", "0.02", glass.WholeDivision, "8.21", "reading.off-resolution"},
		{"10.00", "0.02", glass.TenthDivision, "8.212", ""},
		{"5.00", "0.01", glass.HalfDivision, "4.215", ""},
		{"5.00", "0.01", glass.HalfDivision, "4.22", "reading.few-decimals"},
		{"25.00", "0.05", glass.HalfDivision, "8.225", ""},
		{"25.00", "0.05", glass.WholeDivision, "8.25", ""},
		{"50.00", "0.1", glass.HalfDivision, "8.25", ""},
		{"50.00", "0.1", glass.WholeDivision, "8.2", ""},
		{"50.0", "0.2", glass.HalfDivision, "8.3", ""},
		{"50.0", "0.2", glass.HalfDivision, "8", "reading.few-decimals"},
		{"50", "1", glass.TenthDivision, "8.3", ""},
		{"50", "1", glass.HalfDivision, "8.3", "reading.off-resolution"},
		{"50", "1", glass.HalfDivision, "8.5", ""},
	} {
		p := practicaltest.Plain()
		p.Glass.Burette = glass.Burette{Capacity: decimal.Must(c.capacity), Division: decimal.Must(c.division), Class: glass.ClassB}
		p.Rules.Readings.Resolution = c.resolution
		ev := of(t, p, entries("A 0.000 "+c.end))
		want := []string{}
		if c.says != "" {
			want = append(want, c.says)
		}
		assert.Equal(t, want, codes(ev.Findings, "reading.few-decimals", "reading.off-resolution"), "%s in %s, %s: %s", c.capacity, c.division, c.resolution, c.end)
	}
}
