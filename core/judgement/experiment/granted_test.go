package experiment_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"exactflask/core/judgement/experiment"
	"exactflask/core/record/practical"
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
