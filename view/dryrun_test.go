//go:build !js

package view_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
	"exactflask/view"
)

// Every kind of practical has its dry run: what the bench says is said, what a careful student writes
// stands beside it, and the report lacks what only the student can write.
func TestDryRuns(t *testing.T) {
	kinds := map[practical.Kind]bool{}
	for _, e := range practicaltest.Examples(t) {
		run, fault := view.DryRunOf(e.Ready, practical.Style{})
		require.Nil(t, fault, e.Name)
		kinds[e.Ready.Kind] = true
		require.NotEmpty(t, run.Bench, e.Name)
		for i, m := range run.Bench {
			assert.NotEmpty(t, m.Says, "%s: %d", e.Name, i)
			assert.NotEmpty(t, m.Writes, "%s: %d", e.Name, i)
		}
		assert.NotEmpty(t, run.Setup, e.Name)
		assert.NotEmpty(t, run.Work, e.Name)
		assert.NotEmpty(t, run.Lacks, e.Name)
		if len(e.Ready.Samples) == 0 {
			assert.NotEmpty(t, run.Answer, e.Name)
			assert.NotContains(t, run.Answer, "()", e.Name)
		}
	}
	assert.Len(t, kinds, 6)
	p := practicaltest.Plain()
	p.Report.Evidence = []string{"label"}
	p.Chemistry.Titrant.Concentration = decimal.Must("0.1000")
	r, fault := p.Check()
	require.Nil(t, fault)
	run, fault := view.DryRunOf(r, practical.Style{})
	require.Nil(t, fault)
	assert.Contains(t, run.Report, "A photograph of the label")
	assert.Contains(t, run.Lacks[len(run.Lacks)-1]+run.Lacks[0]+run.Lacks[1], "photograph", "it is lacking")
	assert.Equal(t, "Goggles on", run.Setup[0])
}
