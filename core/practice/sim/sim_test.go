package sim_test

import (
	"encoding/json"
	"math"
	"os"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/diagnosis"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/practice/sim"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

var begin = time.Date(2026, 11, 24, 10, 0, 0, 0, time.UTC)

// worked are the practicals that come with the program.
func worked(t testing.TB) map[string]*practical.Ready {
	out := map[string]*practical.Ready{}
	for _, e := range practicaltest.Examples(t) {
		out[e.Name] = e.Ready
	}
	return out
}

// Every practical can be worked through: the journal is one that the program takes,
// the titres agree, and the same seed writes the same.
func TestEveryPractical(t *testing.T) {
	for name, r := range worked(t) {
		s := sim.Student{Seed: 7, Skill: sim.Careful, Device: "sim", Author: "a", Begin: begin}
		got, err := sim.Titrate(r, s)
		require.NoError(t, err, name)
		again, err := sim.Titrate(r, s)
		require.NoError(t, err, name)
		assert.Equal(t, got, again, name)
		for _, e := range got {
			assert.Nil(t, e.Check(), name)
		}
		text, err := json.Marshal(got)
		require.NoError(t, err, name)
		var back []journal.Entry
		require.NoError(t, json.Unmarshal(text, &back), name)
		assert.Equal(t, len(got), len(back), name)
		ev := experiment.Evaluate(r, got, experiment.All)
		assert.True(t, ev.Stage.Done(), name)
		assert.True(t, ev.Result != nil || len(ev.Samples) > 0, name)
	}
}

// A careful student gets the truth within the stated uncertainty in about 95 % of runs, in every
// kind of titration: what the budget states is what its sources of error make. The truth lies
// anywhere between the steps of a scale.
func TestCarefulStudentsAreRight(t *testing.T) {
	each, least := 40, 0.80
	if os.Getenv("LONG") != "" {
		each, least = 1000, 0.93
	}
	within, runs := 0, 0
	for name, r := range worked(t) {
		if r.MadeOnly() || r.Probed() || len(r.Samples) > 0 { // of a solution the truth is what was weighed; the others have their own (core/model/series, experiment.TestProbeFindsTheTruth)
			continue
		}
		answer, second := trueAnswer(t, r)
		ok, few := 0, 0
		for seed := range uint64(each) {
			truth := answer * (1 + 0.03*math.Sin(float64(seed)))
			got, err := sim.Titrate(r, sim.Student{Seed: seed, Skill: sim.Careful, Answer: truth, Second: second * (1 + 0.03*math.Cos(float64(seed))), Device: "sim", Begin: begin})
			require.NoError(t, err, name)
			ev := experiment.Evaluate(r, got, experiment.All)
			require.NotNil(t, ev.Result, name)
			require.NotNil(t, ev.Result.Budget, name)
			if math.Abs(ev.Result.Derivation.Answer().Quantity.Value-truth) <= ev.Result.Budget.Expanded {
				ok++
			}
			if ev.Result.Budget.Freedom > 0 {
				few++
			}
		}
		t.Logf("%-22s %-16s %5.1f %% within the expanded uncertainty, %3.0f %% by Student's factor", r.ID, r.Kind, 100*float64(ok)/float64(each), 100*float64(few)/float64(each))
		assert.GreaterOrEqual(t, float64(ok)/float64(each), least, name)
		within, runs = within+ok, runs+each
	}
	share := float64(within) / float64(runs)
	t.Logf("together %.1f %%", 100*share)
	assert.GreaterOrEqual(t, share, 0.95)
}

// trueAnswer is what the practical expects, as an answer, and as that of the other component of a
// mixture.
func trueAnswer(t testing.TB, r *practical.Ready) (answer, second float64) {
	got, err := sim.Titrate(r, sim.Student{Seed: 1, Skill: sim.Careful, Device: "sim", Begin: begin})
	require.NoError(t, err)
	result := experiment.Evaluate(r, got, experiment.All).Result
	if result.Second != nil {
		second = result.Second.Answer.Value
	}
	return result.Derivation.Answer().Quantity.Value, second
}

// A planted fault moves the answer as its cause says; and where it is larger than the
// uncertainty, "why is mine off?" names it first, or one that does the same to the
// answer: by the answer alone those cannot be told apart.
func TestPlantedFaults(t *testing.T) {
	all := worked(t)
	seen := map[string]bool{}
	first, ranked := 0, 0
	for _, name := range []string{"descaling-acid.json", "naoh-by-aliquot.json", "shell-chalk.json", "algae-vinegar.json"} {
		truth, _ := trueAnswer(t, all[name])
		p := all[name].Practical
		p.Asked.Reference, _ = decimal.FromFloat(truth)
		r, fault := p.Check()
		require.Nil(t, fault)
		for _, code := range diagnosis.Codes() {
			if _, can := diagnosis.PlantedFault(r, code); !can {
				continue
			}
			var moved, told, n float64
			for seed := range uint64(40) {
				plain := sim.Student{Seed: seed, Skill: sim.Careful, Answer: truth, Device: "sim", Begin: begin}
				bad := plain
				bad.Faults = []string{code}
				a, b := answerOf(t, r, plain), answerOf(t, r, bad)
				if a.Result == nil || b.Result == nil {
					continue // titres that do not agree have no answer
				}
				effect := effectOf(a.Result.Causes, code)
				n++
				moved += b.Result.Derivation.Answer().Quantity.Value - a.Result.Derivation.Answer().Quantity.Value
				told += effect
				if code == "cause.read-upward" || math.Abs(effect) < 2*b.Result.Budget.Standard {
					continue
				}
				ranked++
				if like := b.Result.Causes[0].Answer / effect; like > 0.75 && like < 1.33 {
					first++
				}
			}
			if told == 0 {
				continue // it does nothing here
			}
			seen[code] = true
			if code == "cause.read-upward" { // its size depends on each reading
				assert.Positive(t, told*moved, "%s in %s", code, name)
				continue
			}
			assert.InDelta(t, told/n, moved/n, 0.25*math.Abs(told/n), "%s in %s", code, name)
		}
	}
	assert.Greater(t, len(seen), 10, "%v", seen)
	t.Logf("named first in %d of %d", first, ranked)
	assert.GreaterOrEqual(t, float64(first)/float64(ranked), 0.8)
}

func effectOf(causes []diagnosis.Cause, code string) float64 {
	for _, c := range causes {
		if c.Code == code {
			return c.Answer
		}
	}
	return 0
}

func answerOf(t testing.TB, r *practical.Ready, s sim.Student) evaluation.Evaluation {
	got, err := sim.Titrate(r, s)
	require.NoError(t, err)
	return experiment.Evaluate(r, got, experiment.All)
}

// Skills differ, a running trial stays open, and what cannot be is refused.
func TestStudents(t *testing.T) {
	r := worked(t)["descaling-acid.json"]
	trials := func(skill sim.Skill) (n int) {
		for seed := range uint64(60) {
			got, err := sim.Titrate(r, sim.Student{Seed: seed, Skill: skill, Device: "sim", Begin: begin})
			require.NoError(t, err)
			for _, e := range got {
				if o, ok := e.Part.(journal.Opening); ok && o.Type == journal.Accurate {
					n++
				}
			}
		}
		return n
	}
	careful, usual, hasty := trials(sim.Careful), trials(sim.Usual), trials(sim.Hasty)
	assert.Less(t, careful, usual)
	assert.Less(t, usual, hasty)

	got, err := sim.Titrate(r, sim.Student{Seed: 3, Skill: sim.Usual, Stop: 1, Running: true, Device: "sim", Begin: begin})
	require.NoError(t, err)
	assert.Equal(t, evaluation.Measuring, experiment.Evaluate(r, got, experiment.Record).Stage)
	_, err = sim.Titrate(r, sim.Student{Skill: "wizard"})
	assert.ErrorIs(t, err, finding.Declare("sim.skill", "skill").Fault("skill", finding.Text("wizard")))
	_, err = sim.Titrate(r, sim.Student{Skill: sim.Usual, Faults: []string{"cause.gravity"}})
	assert.ErrorIs(t, err, finding.Declare("sim.fault", "code").Fault("faults", finding.Text("cause.gravity")))
}

// Two end points with a burette that has to be filled within the trial: the record holds
// what was put in, wherever the first end lies.
func TestFilledWithinATrial(t *testing.T) {
	r := worked(t)["spent-lime.json"]
	p := r.Practical
	p.Glass.Burette.Capacity, p.Glass.Burette.Division = decimal.Must("10.00"), decimal.Must("0.02")
	small, fault := p.Check()
	require.Nil(t, fault)
	got, err := sim.Titrate(small, sim.Student{Seed: 5, Skill: sim.Careful, Device: "sim", Begin: begin})
	require.NoError(t, err)
	var order []journal.Place
	for _, e := range got {
		if s, ok := e.Part.(journal.Scale); ok {
			order = append(order, s.Place)
			v, err := decimal.Parse(s.Written)
			require.NoError(t, err)
			assert.LessOrEqual(t, v.Float64(), 10.0, s.Place)
		}
	}
	assert.Contains(t, order, journal.BeforeRefill)
	assert.Contains(t, order, journal.FirstEnd)
}

// What cannot be is refused, and a practical without any expectation has no titre.
func TestNoTitre(t *testing.T) {
	p := practicaltest.Plain()
	p.Chemistry.Analyte.Approximate = decimal.Decimal{}
	r, fault := p.Check()
	require.Nil(t, fault)
	_, err := sim.Titrate(r, sim.Student{Skill: sim.Careful, Begin: begin})
	assert.ErrorContains(t, err, "assay.nothing-expected")
	got, err := sim.Titrate(r, sim.Student{Skill: sim.Careful, Answer: 0.08, Begin: begin, Device: "sim"})
	require.NoError(t, err)
	ev := experiment.Evaluate(r, got, experiment.All)
	assert.InDelta(t, 0.08, ev.Result.Answer.Value, 0.0008)
	assert.True(t, begin.Before(got[0].At), "time goes on")
}
