package experiment_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/experiment"
	"exactflask/core/model/derivation"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
)

// Whatever a working is made from is given beside it, as it is used: every leaf of the
// derivation, with nothing that follows, also while the result is withheld.
func TestEveryLeafIsGiven(t *testing.T) {
	for _, e := range allExamples(t) {
		given := map[string]derivation.Node{}
		ev := experiment.Evaluate(e.ready, e.entries, experiment.Record)
		for _, g := range ev.Given {
			assert.True(t, g.Readings != nil || g.Node.Leaf(), "%s: %s", e.name, g.Node.ID)
			for _, r := range g.Readings {
				given[r.ID+" "+g.Sample] = r
			}
			given[g.Node.ID+" "+g.Sample] = g.Node
		}
		whole := experiment.Evaluate(e.ready, e.entries, experiment.All)
		leaves := func(d derivation.Derivation, sample string) {
			for _, n := range d.Nodes {
				if !n.Leaf() {
					continue
				}
				g, there := given[n.ID+" "+sample]
				if !there {
					g, there = given[n.ID+" "]
				}
				if assert.True(t, there, "%s: %s", e.name, n.ID) {
					assert.Equal(t, n.Quantity, g.Quantity, "%s: %s", e.name, n.ID)
				}
			}
		}
		if whole.Result != nil {
			require.NotEmpty(t, ev.Given, e.name)
			leaves(whole.Result.Derivation, "")
		}
		for _, s := range whole.Samples {
			if s.Result != nil {
				leaves(s.Result.Derivation, s.Name)
			}
		}
	}
}

// What was written is what stands there: the own weighing, and not the mass of the practical.
func TestGivenAsItIsUsed(t *testing.T) {
	r := changed(func(p *practical.Practical) {
		p.Chemistry.Titrant.Concentration = decimal.Must("0.1105")
	})
	written := map[string]string{}
	for _, g := range evaluate(t, r, "A 0.00 23.80").Given {
		written[g.Node.ID] = g.Node.Written
	}
	assert.Equal(t, "0.1105", written[derivation.Known])
	assert.Empty(t, evaluate(t, r, "R 0.00 23.80").Given, "of a rough one nothing is worked out")
}
