package experiment_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical/practicaltest"
)

// The bench work is done only when an answer follows: else it says what is impossible.
func TestNothingFollows(t *testing.T) {
	for _, c := range []struct{ name, of, from, to, problem string }{
		{"as it is", "spent-lime", "", "", ""},
		{"the other mixture", "spent-lime", "21.05=9.05,21.00=9.00", "", "assay.not-this-mixture"},
		{"a vessel heavier when it is empty", "citric-descaler", "16.2314=13.2314", "", "assay.no-mass"},
		{"nothing weighed in", "citric-descaler", "16.2314=14.9102", "", "assay.no-mass"},
		{"more left than was added", "shell-chalk", "", `"concentration": "0.9870"=>"concentration": "0.0870"`, "assay.more-left-than-added"},
	} {
		for _, e := range practicaltest.Examples(t) {
			if e.Name != c.of+".json" {
				continue
			}
			text := string(e.Journal)
			for one := range strings.SplitSeq(c.from, ",") {
				if from, to, ok := strings.Cut(one, "="); ok && strings.Contains(text, `"`+from+`"`) {
					text = strings.ReplaceAll(text, `"`+from+`"`, `"`+to+`"`)
				}
			}
			ready := e.Ready
			if before, after, ok := strings.Cut(c.to, "=>"); ok {
				whole, err := json.Marshal(e.Ready.Practical)
				require.NoError(t, err)
				p := e.Ready.Practical
				require.NoError(t, json.Unmarshal([]byte(strings.ReplaceAll(string(whole), strings.ReplaceAll(before, ": ", ":"), strings.ReplaceAll(after, ": ", ":"))), &p))
				r, fault := p.Check()
				require.Nil(t, fault, c.name)
				ready = r
			}
			var entries []journal.Entry
			require.NoError(t, json.Unmarshal([]byte(text), &entries))
			ev := experiment.Evaluate(ready, entries, experiment.All)
			if c.problem == "" {
				assert.Equal(t, evaluation.Agreed, ev.Stage, c.name)
				assert.Equal(t, "next.agreed", ev.Next.Code(), c.name)
				continue
			}
			assert.Equal(t, evaluation.Measuring, ev.Stage, c.name)
			if assert.Equal(t, "next.impossible", ev.Next.Code(), c.name) {
				assert.Equal(t, c.problem, ev.Next.Say[0].Values["problem"].Message.Code, c.name)
			}
			assert.True(t, ev.Result == nil, c.name)
		}
	}
}

// An excess that is known by a blank steers to nothing before there is one, and asks for it.
func TestNoBlankYet(t *testing.T) {
	ready, record := worked(t, "ammonium-feed.json")
	var without []journal.Entry
	blanks := map[string]bool{}
	for _, e := range record {
		if o, is := e.Part.(journal.Opening); is && o.Type == journal.Blank {
			blanks[e.ID] = true
		}
		if s, is := e.Part.(journal.Scale); blanks[e.ID] || is && blanks[s.Of] {
			continue
		}
		without = append(without, e)
	}
	ev := experiment.Evaluate(ready, without, experiment.All)
	assert.Equal(t, "next.blank", ev.Next.Code())
	var open []journal.Entry
	for _, e := range without {
		if s, is := e.Part.(journal.Scale); is && s.Place == journal.End {
			break // the first trial runs
		}
		open = append(open, e)
	}
	ev = experiment.Evaluate(ready, open, experiment.All)
	assert.Nil(t, ev.Next.ExpectAt)
	assert.Nil(t, ev.Expected)
}
