package plaintext_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"exactflask/core/values/plaintext"
)

func TestClean(t *testing.T) {
	for given, want := range map[string]string{
		"swirled, 21.30 mL":                 "swirled, 21.30 mL",
		"Zoë Ångström-Δ 滴定":                 "Zoë Ångström-Δ 滴定",
		"نمک و آب":                          "نمک و آب",
		"می\u200cخواهم":                     "می\u200cخواهم", // a joiner that Persian needs
		"one\ntwo\tthree":                   "one\ntwo\tthree",
		"one\r\ntwo\rthree":                 "one\ntwo\nthree",
		"safe\u202egnp.exe":                 "safegnp.exe",
		"a\u2066b\u2069c\u200e\u200f\u061c": "abc",
		"bell\a nul\x00 esc\x1b[31m":        "bell nul esc[31m",
		"\ufeffword\u200b":                  "word",
		"c1\u0085\u009b":                    "c1",
	} {
		assert.Equal(t, want, plaintext.Clean(given), "%q", given)
	}
	for text, blank := range map[string]bool{"": true, " \n\t": true, "\u200b\u202e ": true, "\u3000": true, ".": false} {
		assert.Equal(t, blank, plaintext.Blank(text), "%q", text)
	}
}

func FuzzClean(f *testing.F) {
	f.Add("a\r\r\n\u202eb")
	f.Fuzz(func(t *testing.T, text string) {
		once := plaintext.Clean(text)
		assert.Equal(t, once, plaintext.Clean(once), "cleaning again changes nothing")
	})
}
