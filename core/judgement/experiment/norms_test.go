package experiment_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

// A school that sees a limit differently is judged by its own: on the limit, and just beside
// it. Each row says the finding by the usual norm and by the school's.
func TestNormsOfASchool(t *testing.T) {
	blind, loose := practicaltest.Plain(), practicaltest.Plain()
	blind.Chemistry.Analyte.Approximate = decimal.Decimal{}
	loose.Chemistry.Analyte.Approximate = decimal.Decimal{}
	loose.Rules.Agreement.Tolerance = decimal.Must("0.20")
	for _, c := range []struct {
		norm          practical.NormName
		value         string
		p             practical.Practical
		lines         []string
		code          string
		usual, school bool
	}{
		{practical.SmallTitre, "4.95", blind, []string{"R 0.00 4.95"}, "titre.small", true, false},
		{practical.SmallTitre, "5.05", blind, []string{"R 0.00 5.00"}, "titre.small", false, true},
		{practical.PastRough, "1.05", practicaltest.Plain(), []string{"R 0.00 23.00", "A 0.00 24.05"}, "titre.beyond-rough", true, false},
		{practical.PastRough, "0.95", practicaltest.Plain(), []string{"R 0.00 23.00", "A 0.00 24.00"}, "titre.beyond-rough", false, true},
		{practical.LooseTolerance, "4", loose, []string{"R 0.00 5.00"}, "agreement.tolerance-loose", true, false},
		{practical.LooseTolerance, "3.9", loose, []string{"R 0.00 5.00"}, "agreement.tolerance-loose", true, true},
		{practical.DriftTrials, "4", blind, []string{"A 0.00 22.10", "A 0.00 22.15", "A 0.00 22.25"}, "titre.drift", true, false},
		{practical.FarExpected, "100", practicaltest.Plain(), []string{"R 0.00 47.00"}, "result.far-from-expected", true, false},
	} {
		said := func(norms practical.Norms) bool {
			p := c.p
			p.Rules.Norms = norms
			ev := evaluate(t, p, c.lines...)
			return slices.ContainsFunc(ev.Findings, func(f finding.Finding) bool { return f.Code == c.code })
		}
		assert.Equal(t, c.usual, said(nil), "%s as usual", c.norm)
		assert.Equal(t, c.school, said(practical.Norms{c.norm: decimal.Must(c.value)}), "%s of %s", c.norm, c.value)
	}
}

// The wait for leaks counts from so many seconds on; the readings to look for follow the
// norms of the bench.
func TestNormsAtTheBench(t *testing.T) {
	done := func(norms practical.Norms, seconds int) bool {
		p := practicaltest.Plain()
		p.Rules.Norms = norms
		ev := of(t, p, []journal.Entry{{ID: "waited-0001", Device: "d", Clock: 1, Part: journal.Timer{For: journal.ForLeak, Seconds: seconds}}})
		i := slices.IndexFunc(ev.Setup, func(i evaluation.Item) bool { return i.Code == practical.LeakWait })
		require.GreaterOrEqual(t, i, 0)
		return ev.Setup[i].Done()
	}
	ten := practical.Norms{practical.LeakSeconds: decimal.Must("10")}
	assert.Equal(t, []bool{false, true, false, true}, []bool{done(nil, 29), done(nil, 30), done(ten, 9), done(ten, 10)})

	dropAt := func(norms practical.Norms) string {
		p := practicaltest.Plain()
		p.Rules.Norms = norms
		ev := evaluate(t, p, "R 0.00 24.40", "A 0.00")
		require.NotNil(t, ev.Next.DropAt)
		return ev.Next.DropAt.String()
	}
	assert.Equal(t, "22.40", dropAt(nil), "two millilitres before a rough end")
	assert.Equal(t, "21.40", dropAt(practical.Norms{practical.RoughLead: decimal.Must("3")}))

	proposal := func(norms practical.Norms) string {
		p := practicaltest.Plain()
		p.Rules.Norms = norms
		return evaluate(t, p, "R 0.00 24.40").Next.Entry.Proposal
	}
	assert.Equal(t, "24.40", proposal(nil), "24.40 and 24.40 and a spare of 1.00 fit into 50.00")
	assert.Equal(t, "24.40", proposal(practical.Norms{practical.SpareVolume: decimal.Must("1.20")}))
	assert.Equal(t, "", proposal(practical.Norms{practical.SpareVolume: decimal.Must("1.25")}))
}
