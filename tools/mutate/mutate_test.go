package main

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A fault that no longer finds its rule would be no check at all.
func TestEveryFaultFindsItsRule(t *testing.T) {
	for _, m := range mutations {
		text, err := os.ReadFile("../../" + m.file)
		require.NoError(t, err)
		assert.Equal(t, 1, strings.Count(string(text), m.old), "%s: %q in %s", m.name, m.old, m.file)
	}
}
