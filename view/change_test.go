package view_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/view"
)

// apply does what the page does (ui/src/notebook/change.ts).
func apply(t *testing.T, held map[string]json.RawMessage, change view.SheetChange) map[string]json.RawMessage {
	out := map[string]json.RawMessage{}
	for name, text := range held {
		out[name] = text
	}
	for name, text := range change {
		var list []json.RawMessage
		var some view.ListChange
		switch {
		case string(text) == "null":
			delete(out, name)
			continue
		case json.Unmarshal(out[name], &list) == nil && text[0] == '{' && out[name][0] == '[':
			require.NoError(t, json.Unmarshal(text, &some))
			for len(list) < some.Length {
				list = append(list, nil)
			}
			list = list[:some.Length]
			for i, item := range some.Items {
				list[i] = item
			}
			joined, err := json.Marshal(list)
			require.NoError(t, err)
			text = joined
		}
		out[name] = text
	}
	return out
}

func fieldTexts(fields map[string]json.RawMessage) map[string]string {
	out := map[string]string{}
	for name, text := range fields {
		out[name] = string(text)
	}
	return out
}

// Whatever becomes of a sheet, the changes from one to the next give the next.
func TestChangesGiveTheNextSheet(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	var print view.SheetPrint
	held := map[string]json.RawMessage{}
	var s view.Sheet
	brief := 0
	for step := range 400 {
		switch random.IntN(6) {
		case 0:
			s.Remarks = nil
		case 1:
			s.Remarks = append(s.Remarks[:random.IntN(len(s.Remarks)+1):len(s.Remarks)], fmt.Sprint("remark ", step))
		case 2:
			if len(s.Remarks) > 0 {
				s.Remarks[random.IntN(len(s.Remarks))] = fmt.Sprint("changed ", step)
			}
		case 3:
			s.Entries++
		case 4:
			s.Withheld = !s.Withheld
		case 5:
			s.Remarks = append(s.Remarks, "one more")
		}
		change, now, err := view.Changes(s, print)
		require.NoError(t, err)
		if text := change["remarks"]; len(text) > 0 && text[0] == '{' {
			brief++
		}
		held, print = apply(t, held, change), now
		whole, _, err := view.Changes(s, nil)
		require.NoError(t, err)
		require.Equal(t, fieldTexts(apply(t, nil, whole)), fieldTexts(held), "step %d", step)
	}
	assert.Positive(t, brief, "lists were sent in brief")
}
