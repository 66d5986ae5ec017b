package wording_test

import (
	"bytes"
	"encoding/json"
	"io"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	_ "exactflask/app"
	_ "exactflask/calc"
	_ "exactflask/core/practice/sim"
	_ "exactflask/device"
	_ "exactflask/web"
	"exactflask/wording"
)

// bare are words that one usage has and the other has not: they stand in brackets.
var bare = regexp.MustCompile(`(?i)\b(titres?|titers?|burettes?|burets?|conical flasks?|Erlenmeyer)\b`)

var bracketed = regexp.MustCompile(`\[[^\]]*\]|\{[^}]*\}`)

var placeholder = regexp.MustCompile(`\{([^}]*)\}`)

// Every code that anything in the program can say has its message, no message
// is there without a code, and each names only values that its code has.
func TestMessagesAreThoseThatAreDeclared(t *testing.T) {
	codes, messages := wording.Codes(), wording.English.Messages()
	for code := range codes {
		if !wording.Optional(code) {
			assert.NotEmpty(t, messages[code], "%s: a code without a message", code)
		}
	}
	for code, forms := range messages {
		params, ok := codes[code]
		if !assert.True(t, ok, "%s: a message that nothing says", code) {
			continue
		}
		assert.Contains(t, forms, "other", code)
		for form, text := range forms {
			assert.NotEmpty(t, text, code)
			assert.Empty(t, bare.FindString(bracketed.ReplaceAllString(text, "")), "%s: a word of one usage only", code)
			assert.Contains(t, []string{"zero", "one", "two", "few", "many", "other"}, form, code)
			for _, p := range placeholder.FindAllStringSubmatch(text, -1) {
				assert.True(t, slices.Contains(params, p[1]), "%s: %s is none of its values %v", code, p[0], params)
			}
		}
		if len(forms) > 1 {
			assert.Contains(t, params, "count", "%s has plural forms and no count", code)
		}
	}
}

// many is a count with what is counted. Where it can be one it is said as one; where it never is, it
// stands in atLeastTwo.
var many = regexp.MustCompile(`\{count\} \[?([a-z]+s)\b`)

var atLeastTwo = []string{"agreement.", "next.agreed", "next.all", "common.", "series.runs", "curve.aria", "curve.keys", "app."}

func TestOneIsNotSaidAsMany(t *testing.T) {
	for code, forms := range wording.English.Messages() {
		if _, one := forms["one"]; one || slices.ContainsFunc(atLeastTwo, func(p string) bool { return strings.HasPrefix(code, p) }) {
			continue
		}
		assert.Empty(t, many.FindString(forms["other"]), "%s: %s", code, forms["other"])
	}
}

// A message that is written twice in a file says only the later: a code has one.
func TestNoMessageIsWrittenTwice(t *testing.T) {
	files, err := filepath.Glob("messages/en/*.json")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, name := range files {
		text, err := os.ReadFile(name)
		require.NoError(t, err)
		read, seen := json.NewDecoder(bytes.NewReader(text)), map[string]bool{}
		depth, key := 0, true
		for {
			token, err := read.Token()
			if err == io.EOF {
				break
			}
			require.NoError(t, err)
			switch token := token.(type) {
			case json.Delim:
				if token == '{' {
					depth++
				} else {
					depth--
				}
				key = true
				continue
			case string:
				if depth == 1 && key {
					assert.False(t, seen[token], "%s: %s", name, token)
					seen[token] = true
				}
			}
			key = !key
		}
		assert.NotEmpty(t, seen, name)
	}
}
