package web_test

import (
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"exactflask/app/today"
)

// Who looks for what, and what they are told: never a name or a title that they may not see elsewhere.
func TestFinding(t *testing.T) {
	s := newSchool(t, nil)
	for _, c := range []struct{ who, text, want string }{
		{"farrow", "tide", "class: Tide Laboratory, Tuesday group"},
		{"farrow", "buffer dos", "practical: Strength of the buffer dosing solution"},
		{"farrow", "dosing STRENGTH", "practical: Strength of the buffer dosing solution"},
		{"farrow", "mir", "person: Mira Quillon"},
		{"farrow", "ira", ""}, // no word begins so
		{"farrow", "phenolph", "indicator: phenolphthalein"},
		{"farrow", "k2cr", "substance: potassium dichromate"},
		{"farrow", "", ""},
		{"mira", "buffer", "practical: Strength of the buffer dosing solution"},
		{"mira", "teodor", ""},
		{"mira", "tide buffer", "practical: Strength of the buffer dosing solution"}, // of that class, which has no page for her
		{"stranger", "buffer", ""},
		{"moor", "teodor", "person: Teodor Vask"},
	} {
		got := want[struct{ Hits []today.Hit }](s, s.client(c.who), 200, "GET", "/find?text="+url.QueryEscape(c.text), nil).Hits
		var said []string
		for _, h := range got {
			said = append(said, h.Kind+": "+h.Title)
		}
		if c.want == "" {
			assert.Empty(t, said, "%s looks for %q", c.who, c.text)
		} else {
			assert.Contains(t, strings.Join(said, "\n"), c.want, "%s looks for %q", c.who, c.text)
		}
	}
	mine := want[struct{ Hits []today.Hit }](s, s.client("mira"), 200, "GET", "/find?text=buffer", nil).Hits
	assert.NotEmpty(t, mine[0].Notebook, "it leads to the own notebook")
}
