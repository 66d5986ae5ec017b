package main

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// Pieces in any order become one, zeros between them; what it is not sure of it refuses.
func TestJoined(t *testing.T) {
	head := []byte("\x00asm\x01\x00\x00\x00")
	module := func(sections ...string) []byte {
		out := append([]byte{}, head...)
		for _, s := range sections {
			out = append(out, s...)
		}
		return out
	}
	other := "\x06\x03abc"
	// At 200 "xy", at 64 "ab".
	two := "\x0b\x11" + "\x02" + "\x00\x41\xc8\x01\x0b\x02xy" + "\x00\x41\xc0\x00\x0b\x02ab"
	got, err := joined(module(other, two, other))
	assert.NoError(t, err)
	want := "\x01\x00\x41\xc0\x00\x0b\x8a\x01ab" + string(make([]byte, 134)) + "xy"
	assert.Equal(t, module(other, "\x0b\x92\x01"+want, other), got)
	again, err := joined(got)
	assert.NoError(t, err)
	assert.Equal(t, got, again)
	for says, bad := range map[string]string{
		"over each other": "\x0b\x0e" + "\x02" + "\x00\x41\x01\x0b\x02xy" + "\x00\x41\x02\x0b\x01a",
		"another kind":    "\x0b\x07" + "\x01" + "\x02\x41\x01\x0b\x01x",
		"no number":       "\x0b\x08" + "\x01" + "\x00\x41\x01\x6a\x0b\x01x",
		"too early":       "\x0b\x7f\x01",
	} {
		_, err := joined(module(bad))
		assert.ErrorContains(t, err, says)
	}
}
