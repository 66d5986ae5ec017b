package followed_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical/practicaltest"
)

// Fixed steps are taken until one would run across the jump: at pH 7.51 of a weak acid, 0.10 mL before
// the end, half a fine step is advised and not a whole one. On the flat it stays the wide one.
func TestFixedStepsStopBeforeTheJump(t *testing.T) {
	for _, c := range []struct {
		of     string
		points [][2]string
		add    string
	}{
		{"carbonate", [][2]string{{"0.00", "11.20"}, {"18.00", "6.20"}, {"20.00", "5.90"}}, "0.50"},
		{"carbonate", [][2]string{{"0.00", "11.20"}, {"18.00", "6.20"}, {"22.00", "5.20"}, {"22.20", "4.80"}}, "0.10"},
		{"weak acid", [][2]string{{"0.00", "2.70"}, {"5.00", "3.30"}, {"10.00", "3.70"}}, "0.50"},
		{"weak acid", [][2]string{{"0.00", "2.70"}, {"10.00", "3.70"}, {"20.00", "5.10"}, {"20.20", "5.22"}}, "0.20"},
		{"weak acid", [][2]string{{"0.00", "2.70"}, {"10.00", "3.70"}, {"20.70", "5.79"}, {"20.90", "6.55"}}, "0.10"},
		{"weak acid", [][2]string{{"0.00", "2.70"}, {"20.70", "5.79"}, {"20.90", "6.55"}, {"21.00", "8.30"}}, "0.10"},
	} {
		p := practicaltest.Probes()[c.of]
		p.Probe.Way = "fixed"
		r, fault := p.Check()
		require.Nil(t, fault)
		all := []journal.Entry{{ID: "trial", Part: journal.Opening{Type: journal.Accurate}},
			{ID: "start", Part: journal.Scale{Of: "trial", Place: journal.Start, Written: "0.00"}}}
		for _, x := range c.points {
			all = append(all, journal.Entry{ID: "p" + x[0], Part: journal.ProbePoint{Of: "trial", Burette: x[0], Shown: x[1]}})
		}
		for i := range all {
			all[i].Clock = int64(i + 1)
		}
		ev := experiment.Evaluate(r, all, experiment.All)
		require.NotEmpty(t, ev.Runs)
		require.NotNil(t, ev.Runs[0].Advance)
		assert.Equal(t, c.add, ev.Runs[0].Advance.Add.String(), "%v", c.points)
	}
}
