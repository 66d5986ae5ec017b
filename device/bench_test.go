package device_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/device"
)

// BenchmarkNextEntry is what the device works out for one more reading in a notebook of
// 900 entries that it holds already, beside the evaluation alone. In the browser it is
// WebAssembly, some five times as slow.
func BenchmarkNextEntry(b *testing.B) {
	text, _ := load(b, "buffer-dosing.json")
	p, err := practical.Decode(text)
	require.NoError(b, err)
	ready, fault := p.Check()
	require.Nil(b, fault)
	var entries []journal.Entry
	add := func(part journal.Part) string {
		n := len(entries) + 1
		entries = append(entries, journal.Entry{ID: fmt.Sprintf("bench-%06d", n), Device: "d", Clock: int64(n), Part: part})
		return entries[n-1].ID
	}
	for range 300 {
		trial := add(journal.Opening{Type: journal.Accurate})
		add(journal.Scale{Of: trial, Place: journal.Start, Written: "0.05"})
		add(journal.Scale{Of: trial, Place: journal.End, Written: "23.85"})
	}
	var j device.Judge
	j.Answer(device.Request{Notebook: "n", Basis: &device.Basis{Practical: text}, Entries: entries, Brief: true})
	b.Run("Evaluate", func(b *testing.B) {
		for b.Loop() {
			experiment.Evaluate(ready, entries, experiment.All&^experiment.PartCauses)
		}
	})
	b.Run("NextEntry", func(b *testing.B) {
		for n := 0; b.Loop(); n++ {
			one := journal.Entry{ID: fmt.Sprintf("remark-%06d", n), Device: "d", Clock: int64(1000 + n), Part: journal.Remark{Written: "swirled"}}
			request, err := json.Marshal(device.Request{Notebook: "n", Entries: []journal.Entry{one}, Brief: true})
			require.NoError(b, err)
			j.JSON(request)
			if n%50 == 49 { // the notebook stays what it is
				j.Answer(device.Request{Notebook: "n", Basis: &device.Basis{Practical: text}, Entries: entries, Brief: true})
			}
		}
	})
}
