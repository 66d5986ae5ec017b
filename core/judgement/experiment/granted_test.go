package experiment_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/finding"
)

// What a reader is granted, by the practical's choice: a student never the true value.
func TestGranted(t *testing.T) {
	own := experiment.All &^ experiment.PartReference
	for _, c := range []struct {
		teaches, released bool
		show              practical.When
		attempted         bool
		want              experiment.Parts
	}{
		{false, false, practical.Always, false, own},
		{false, false, practical.AfterAttempt, false, experiment.Record},
		{false, false, practical.AfterAttempt, true, own},
		{false, true, practical.AfterAttempt, false, own},
		{false, false, practical.AfterMarking, false, experiment.Record},
		{false, false, practical.AfterMarking, true, experiment.Record},
		{false, true, practical.AfterMarking, false, own},
		{true, false, practical.AfterMarking, false, experiment.All},
		{true, false, practical.Always, true, experiment.All},
	} {
		reader := experiment.Reader{Teaches: c.teaches, Released: c.released}
		assert.Equal(t, c.want, experiment.Granted(reader, c.show, c.attempted), "%+v", c)
	}
}

// What a shelf shows of a notebook counts what the record says, and not what its result does:
// that can be withheld from whom it is shown to.
func TestSummaryTellsNothingOfTheResult(t *testing.T) {
	r, fault := ptr(practicaltest.Plain()).Check()
	require.Nil(t, fault)
	all := entries("R 0.00 35.00", "A 0.00 34.00", "A 0.00 34.00") // far from what is expected
	far := func(f finding.Finding) bool { return f.Code == "result.far-from-expected" }
	require.True(t, slices.ContainsFunc(experiment.Evaluate(r, all, experiment.All).Findings, far))
	s := experiment.Begin(r, journal.Fold(all)).Summary(all)
	require.Equal(t, evaluation.Agreed, s.Stage)
	assert.False(t, slices.ContainsFunc(s.Worst, far))
	assert.Zero(t, s.Checks)
}
