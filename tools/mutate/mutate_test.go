package main

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What can be broken of a few lines, each once; a draw is the same each time.
func TestMutantsOf(t *testing.T) {
	path := filepath.Join(t.TempDir(), "rule.go")
	require.NoError(t, os.WriteFile(path, []byte(`package p

const most = 30

func rule(a, b int, s string) bool {
	if a < b {
		return false
	}
	return a+b == most && s != "x"+s
}
`), 0o600))
	found, err := mutantsOf(path)
	require.NoError(t, err)
	var said []string
	for _, m := range found {
		said = append(said, m.kind+" "+m.old+" -> "+m.new)
	}
	assert.ElementsMatch(t, []string{"number 30 -> 31", "limit < -> <=", "early return a < b -> (a < b) && false", "sign + -> -",
		"comparison == -> !=", "condition && -> ||", "comparison != -> =="}, said)
	assert.Equal(t, draw(found, 3, 7), draw(found, 3, 7))
	assert.LessOrEqual(t, len(draw(found, 9, 7)), 3, "one a line")
}

func TestLinesOf(t *testing.T) {
	lines := linesOf("mode: set\nexactflask/core/a.go:3.10,5.2 2 1\nexactflask/core/a.go:7.10,8.2 1 0\n")
	assert.Equal(t, map[string]map[int]int{"core/a.go": {3: 1, 4: 1, 5: 1}}, lines)
}
