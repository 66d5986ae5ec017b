package marking_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/diagnosis"
	"exactflask/core/judgement/experiment"
	"exactflask/core/judgement/working"
	dv "exactflask/core/model/derivation"
	"exactflask/core/practice/sim"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical/practicaltest"
)

// wrongFigures judges so many workings in which one step was given a figure that wrong makes of
// the right one, and counts the names that were given. Those of a mean titre are left out:
// what was averaged is not told by its figure alone.
func wrongFigures(t *testing.T, wrong func(d dv.Derivation, at int, r diagnosis.Record, chance *rand.Rand) (value float64, made []string)) (judged, named int) {
	wanted := 1000 // of make long, 8000
	if os.Getenv("LONG") != "" {
		wanted = 8000
	}
	examples := practicaltest.Examples(t)
	for seed := uint64(0); judged < wanted; seed++ {
		require.Less(t, seed, uint64(40000), "hardly any can be made any more")
		r := examples[seed%uint64(len(examples))].Ready
		if r.Probed() {
			continue // its working is that of any other; its record takes long to make
		}
		chance := rand.New(rand.NewPCG(seed, 0x1e))
		record, err := sim.Titrate(r, sim.Student{Seed: seed, Skill: sim.Usual, Device: "sim", Author: "a", Begin: begin})
		require.NoError(t, err)
		d, found, ok := experiment.Begin(r, journal.Fold(record)).Working()
		if !ok {
			continue
		}
		var steps []int
		for i, n := range d.Nodes {
			if d.IsStep(i) && n.ID != dv.MeanTitre {
				steps = append(steps, i)
			}
		}
		at := steps[chance.IntN(len(steps))]
		value, made := wrong(d, at, found, chance)
		if value <= 0 {
			continue
		}
		text := strconv.FormatFloat(value, 'g', 4+chance.IntN(2), 64)
		if _, err := journal.ParseNumber(text); err != nil {
			continue
		}
		n := d.Nodes[at]
		answer := journal.Entry{ID: fmt.Sprintf("wrong-%d", seed), Author: "a", Device: "sim", Clock: 9999, At: begin,
			Part: journal.Answer{Step: n.ID, Written: text, Unit: string(n.Quantity.Unit)}}
		for _, s := range experiment.Evaluate(r, append(record, answer), evidence).Work {
			if s.Step != n.ID || s.Verdict != working.Wrong {
				continue
			}
			if judged++; s.Slip != "" && !slices.Contains(made, strings.TrimPrefix(s.Slip, "slip.")) {
				named++
				t.Logf("%s for %v in %s of %s, seed %d", s.Slip, made, n.ID, r.ID, seed)
			}
		}
	}
	return judged, named
}

// An error that no slip makes has no name.
func TestRandomErrorsHaveNoName(t *testing.T) {
	judged, named := wrongFigures(t, func(d dv.Derivation, at int, _ diagnosis.Record, chance *rand.Rand) (float64, []string) {
		off := math.Exp(math.Log(0.002) + chance.Float64()*math.Log(0.5/0.002)) // 0.2 to 50 %
		if chance.IntN(2) == 0 {
			off = -off / (1 + off)
		}
		return d.Nodes[at].Quantity.Value * (1 + off), nil
	})
	t.Logf("%d of %d have a name", named, judged)
	most := 1.5 // a thousand scatter by 0.3 about the 0.8 of eight thousand
	if os.Getenv("LONG") != "" {
		most = 1.0
	}
	assert.LessOrEqual(t, pct(named, judged), most)
}

// Of two slips in one step none is named that was not made. Two that come to what one makes,
// such as a factor of 10 and an inverted dilution of 10, are left out: nobody can tell.
func TestTwoSlipsHaveNoFalseName(t *testing.T) {
	judged, named := wrongFigures(t, func(d dv.Derivation, at int, r diagnosis.Record, chance *rand.Rand) (float64, []string) {
		here, stray := diagnosis.Slippings(d, at, nil, r)
		all := append(here, stray...)
		a, b := all[chance.IntN(len(all))], all[chance.IntN(len(all))]
		right := d.Nodes[at].Quantity.Value
		shows := func(v float64) bool { return math.Abs(v/right-1) > 0.002 }
		if right == 0 || a.Slip == b.Slip || a.About != "" && a.About == b.About || !shows(a.Value) || !shows(b.Value) {
			return 0, nil // one of them does nothing, or both are made with one figure
		}
		both := a.Value * b.Value / right
		if slices.ContainsFunc(all, func(s diagnosis.Slipped) bool { return math.Abs(s.Value/both-1) < 1e-9 }) {
			return 0, nil
		}
		return both, []string{a.Slip, b.Slip}
	})
	t.Logf("%d of %d have a false name", named, judged)
	assert.LessOrEqual(t, pct(named, judged), 1.0)
}
