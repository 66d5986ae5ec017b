package experiment_test

import (
	"fmt"
	"strings"

	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
)

func changed(change func(*practical.Practical)) practical.Practical {
	p := practicaltest.Plain()
	change(&p)
	return p
}

func of(t require.TestingT, p practical.Practical, entries []journal.Entry) evaluation.Evaluation {
	return evaluateParts(t, p, entries, experiment.All)
}

// evaluateParts is of for a reader who is granted some parts.
func evaluateParts(t require.TestingT, p practical.Practical, entries []journal.Entry, parts experiment.Parts) evaluation.Evaluation {
	r, fault := p.Check()
	if fault != nil {
		require.Fail(t, fault.Error())
	}
	return experiment.Evaluate(r, entries, parts)
}

// entries writes a notebook from lines such as "R 0.00 24.40", "A 0.00 23.85",
// "A 0.00" (open), "A" (no reading), "A 0.00 23.85 aside".
func entries(lines ...string) []journal.Entry {
	var out []journal.Entry
	add := func(e journal.Entry) string {
		e.Clock = int64(len(out) + 1)
		e.ID, e.Device = fmt.Sprintf("e-%06d", e.Clock), "bench-7"
		out = append(out, e)
		return e.ID
	}
	for _, line := range lines {
		f := strings.Fields(line)
		kind := journal.Accurate
		if f[0] == "R" {
			kind = journal.Rough
		}
		trial := add(journal.Entry{Part: journal.Opening{Type: kind}})
		for i, mark := range []journal.Place{journal.Start, journal.End} {
			if len(f) > i+1 {
				add(journal.Entry{Part: journal.Scale{Of: trial, Place: mark, Written: f[i+1]}})
			}
		}
		if len(f) > 3 {
			add(journal.Entry{Part: journal.Exclusion{Of: trial, Reason: f[3]}})
		}
	}
	return out
}

func evaluate(t require.TestingT, p practical.Practical, lines ...string) evaluation.Evaluation {
	return of(t, p, entries(lines...))
}

func ptr[T any](v T) *T { return &v }

// add appends entries to a notebook, numbering them on.
func add(all []journal.Entry, more ...journal.Entry) []journal.Entry {
	for _, e := range more {
		e.Clock = int64(len(all) + 1)
		e.ID, e.Device = fmt.Sprintf("e-%06d", e.Clock), "bench-7"
		all = append(all, e)
	}
	return all
}

func read(trial string, mark journal.Place, text string) journal.Entry {
	return journal.Entry{Part: journal.Scale{Of: trial, Place: mark, Written: text}}
}

func open(kind journal.TrialType) journal.Entry {
	return journal.Entry{Part: journal.Opening{Type: kind}}
}
