package marking_test

import (
	"os"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/diagnosis"
	"exactflask/core/judgement/experiment"
	"exactflask/core/judgement/marking"
	"exactflask/core/practice/sim"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
)

var begin = time.Date(2026, 11, 24, 10, 0, 0, 0, time.UTC)

const evidence = experiment.PartResult | experiment.PartVerdicts | experiment.PartReference

// Of 2,000 simulated workings with one slip the slip is named, hardly ever a wrong one,
// and no marks are lost but those of its step.
func TestPlantedSlips(t *testing.T) {
	type count struct{ made, named, wrong, only int }
	all, bySlip := count{}, map[string]*count{}
	examples := practicaltest.Examples(t)
	wanted := 500 // of make long, 2000
	if os.Getenv("LONG") != "" {
		wanted = 2000
	}
	for seed := uint64(0); all.made < wanted; seed++ {
		require.Less(t, seed, uint64(20000), "slips can hardly be made any more")
		r := examples[seed%uint64(len(examples))].Ready
		if r.Probed() && seed%5 > 0 {
			continue // its working is that of any other; its record takes long to make
		}
		slip := diagnosis.Slips[(seed/uint64(len(examples)))%uint64(len(diagnosis.Slips))]
		s := sim.Student{Seed: seed, Skill: sim.Usual, Device: "sim", Author: "a", Begin: begin}
		record, err := sim.Titrate(r, s)
		require.NoError(t, err)
		worked := sim.Work(r, record, s, slip)
		if worked.Step == "" {
			continue // cannot be made in this practical
		}
		ev := experiment.Evaluate(r, append(record, worked.Entries...), evidence)
		scheme := marking.Propose(r)
		named, lost, mine, shows := "", 0, "", false
		for _, step := range ev.Work {
			if step.Step == worked.Step {
				named, mine, shows = step.Slip, step.Code, !step.Fits
			}
		}
		if !shows {
			continue // it makes no difference that can be seen
		}
		for i, p := range marking.Evaluate(scheme, marking.Report{Ready: r, Evaluation: ev}) {
			c := scheme.Criteria[i]
			ofWorking := c.Rule == practical.MarkStep || c.Rule == practical.MarkRough || c.Rule == practical.MarkAveraged
			here := slices.ContainsFunc(p.Evidence, func(e marking.Evidence) bool { return e.Step == worked.Step })
			if ofWorking && p.Marks != nil && p.Marks.Cmp(c.Marks) < 0 && (c.Rule != practical.MarkStep || !here) {
				lost++
			}
		}
		if mine == "step.mean-titre" { // it is lost by the criterion that is about it
			lost = max(0, lost-1)
		}
		one := bySlip[slip]
		if one == nil {
			one = &count{}
			bySlip[slip] = one
		}
		for _, c := range []*count{&all, one} {
			c.made++
			switch named {
			case "slip." + slip:
				c.named++
			case "":
				t.Logf("none for %s in %s of %s, seed %d", slip, worked.Step, r.ID, seed)
			default:
				t.Logf("%s for %s in %s of %s, seed %d", named, slip, worked.Step, r.ID, seed)
				c.wrong++
			}
			if lost == 0 {
				c.only++
			} else {
				t.Logf("%s in %s of %s, seed %d, loses elsewhere too", slip, worked.Step, r.ID, seed)
			}
		}
	}
	for slip, c := range bySlip {
		t.Logf("%-18s made %4d named %4d wrong %3d only %4d", slip, c.made, c.named, c.wrong, c.only)
	}
	t.Logf("of %d: named %.1f %%, another named %.2f %%, lost only there %.1f %%", all.made, pct(all.named, all.made), pct(all.wrong, all.made), pct(all.only, all.made))
	assert.GreaterOrEqual(t, pct(all.named, all.made), 95.0)
	assert.LessOrEqual(t, pct(all.wrong, all.made), 1.0)
	assert.GreaterOrEqual(t, pct(all.only, all.made), 99.0)
}

func pct(n, of int) float64 { return 100 * float64(n) / float64(of) }
