// Package core_test holds the storeys of the core to their order.
package core_test

import (
	"go/parser"
	"go/token"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The storeys, the lowest first: an import never goes up.
var storeys = []string{"values", "chemistry", "record", "model", "judgement", "practice"}

// above are rooms of one storey that must not be reached into from these.
var above = map[string][]string{
	"judgement/experiment": {"judgement/marking", "judgement/diagnosis", "judgement/working", "judgement/evaluation", "judgement/agreement", "model/budget"},
}

// imports calls for every import of a file of the program within the core.
func imports(t *testing.T, each func(file, room, imported string)) {
	require.NoError(t, filepath.WalkDir(".", func(path string, d os.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") || strings.HasSuffix(path, "test/practicaltest.go") {
			return err
		}
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
		require.NoError(t, err)
		for _, i := range file.Imports {
			each(path, filepath.ToSlash(filepath.Dir(path)), strings.Trim(i.Path.Value, `"`))
		}
		return nil
	}))
}

func TestImportsGoDown(t *testing.T) {
	seen := 0
	imports(t, func(file, room, imported string) {
		within, inCore := strings.CutPrefix(imported, "exactflask/core/")
		if !inCore {
			assert.False(t, strings.HasPrefix(imported, "exactflask/"), "%s imports %s, which is above the core", file, imported)
			return
		}
		seen++
		here, there := slices.Index(storeys, strings.SplitN(room, "/", 2)[0]), slices.Index(storeys, strings.SplitN(within, "/", 2)[0])
		require.GreaterOrEqual(t, here, 0, "%s stands on no storey", file)
		require.GreaterOrEqual(t, there, 0, "%s imports %s, which stands on no storey", file, imported)
		assert.LessOrEqual(t, there, here, "%s imports %s, which stands higher", file, imported)
		assert.NotContains(t, above[within], room, "%s imports %s", file, imported)
	})
	assert.Greater(t, seen, 100)
}

// The core has no clock, no network, no files, no database and no sentences' templates.
func TestTheCoreKeepsToItself(t *testing.T) {
	imports(t, func(file, _, imported string) {
		for _, barred := range []string{"net", "net/http", "database/sql", "os", "text/template", "html/template", "log", "log/slog", "unsafe", "crypto/rand"} {
			assert.NotEqual(t, barred, imported, file)
		}
	})
}
