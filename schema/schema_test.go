package schema_test

import (
	"encoding/json"
	"reflect"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/practical"
	"exactflask/schema"
	"exactflask/wording"
)

// What does not fit its form is told with its place, what was wanted and what
// stands there, in our own words and in no library's.
func TestFaultsInWords(t *testing.T) {
	registry := schema.Registry("#/$defs/")
	form := registry.Schema(reflect.TypeFor[practical.Practical](), true, "Practical")
	good := `{"id":"x","revision":1,"title":"T","chemistry":{"equation":"HCl + NaOH -> NaCl + H2O","titrant":{"name":"a","formula":"HCl"},"analyte":{"name":"b","formula":"NaOH"},"indicator":"methyl-red"},
		"route":[{"kind":"pipette","volume":"25.0"}],"glass":{"burette":{"capacity":"50.00","division":"0.1","class":"B"}},
		"rules":{"readings":{"resolution":"half"},"agreement":{"tolerance":"0.10","need":2}},"showing":{"results":"always"}}`
	validate := func(change func(map[string]any)) schema.Faults {
		var tree map[string]any
		require.NoError(t, json.Unmarshal([]byte(good), &tree))
		change(tree)
		return schema.Validate(registry, form, tree)
	}
	assert.Empty(t, validate(func(map[string]any) {}))
	for _, c := range []struct {
		name, path, says string
		change           func(map[string]any)
	}{
		{"missing", "", "title is missing here", func(p map[string]any) { delete(p, "title") }},
		{"unexpected", "colour", "nothing of this name belongs here", func(p map[string]any) { p["colour"] = 1 }},
		{"kind of value", "title", "a text in quotes is wanted", func(p map[string]any) { p["title"] = 7 }},
		{"too long", "title", "at most 120 characters", func(p map[string]any) { p["title"] = string(make([]byte, 121)) }},
		{"too short", "title", "at least 1 characters", func(p map[string]any) { p["title"] = "" }},
		{"sign that is not taken", "id", "this does not look as it should", func(p map[string]any) { p["id"] = "a b" }},
		{"too small", "revision", "at least 1 is wanted", func(p map[string]any) { p["revision"] = 0 }},
		{"no decimal", "route[0].volume", "a decimal number in quotes",
			func(p map[string]any) { p["route"].([]any)[0].(map[string]any)["volume"] = "much" }},
		{"a rule of nothing", "rules.agreement.percent", "a number above 0 is wanted",
			func(p map[string]any) {
				p["rules"].(map[string]any)["agreement"].(map[string]any)["percent"] = "0.0"
			}},
		{"one of", "route[0].kind", "one of weigh, tablets, pipette",
			func(p map[string]any) { p["route"].([]any)[0].(map[string]any)["kind"] = "spoon" }},
		{"no list", "route", "a list is wanted", func(p map[string]any) { p["route"] = "25 mL" }},
	} {
		faults := validate(c.change)
		if assert.Len(t, faults, 1, c.name) {
			assert.Equal(t, c.path, faults[0].Path, c.name)
			assert.Contains(t, wording.For().Say(faults[0].Message), c.says, c.name)
		}
	}
}

// A text that is no JSON is told by line and column, counted from 1.
func TestSyntax(t *testing.T) {
	for text, want := range map[string]string{"{\n  \"a\": 1,,\n}": "line 2, column 10", "[1 2]": "line 1, column 4",
		"": "line 1, column 1"} {
		var v any
		err := json.Unmarshal([]byte(text), &v)
		require.Error(t, err)
		assert.Contains(t, wording.For().Say(schema.SyntaxFault([]byte(text), err).Message), want, text)
	}
	assert.LessOrEqual(t, len([]rune(schema.Short(string(make([]byte, 500))))), 61, "a long value is cut")
}
