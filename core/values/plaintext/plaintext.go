// Package plaintext cleans text that people type or paste.
package plaintext

import (
	"strings"
	"unicode"
)

// Clean takes out of a text what does not show and changes how the rest reads:
// control characters but for line feeds and tabs, marks that turn the direction of
// writing (Unicode's property Bidi_Control), spaces without width, tags. Letters of
// every script, and what joins them, stay. Line ends become line feeds.
func Clean(text string) string {
	text = strings.ReplaceAll(text, "\r\n", "\n")
	return strings.Map(func(r rune) rune {
		switch {
		case r == '\n' || r == '\t':
			return r
		case r == '\r' || r == '\u2028' || r == '\u2029':
			return '\n'
		case unicode.IsControl(r), unicode.Is(unicode.Bidi_Control, r), r == '\u200b', r == '\u2060', r == '\ufeff',
			r >= 0xe0000 && r <= 0xe007f:
			return -1
		}
		return r
	}, text)
}

// Blank tells whether nothing of a text shows.
func Blank(text string) bool { return strings.TrimSpace(Clean(text)) == "" }
