package marking_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/experiment"
	"exactflask/core/judgement/marking"
	"exactflask/core/practice/sim"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
)

// A run with a probe is marked by calibration, points in the jump, and its tail: each has its
// own criterion, and loses there only. Common practice, no source.
func TestProbeCriteria(t *testing.T) {
	r, fault := practicaltest.Probes()["weak acid"].Check()
	require.Nil(t, fault)
	propose := func(s sim.Student) map[practical.MarkRule]string {
		s.Author, s.Device, s.Begin, s.Skill, s.Seed, s.Answer = "a", "sim", begin, sim.Careful, 4, 0.085
		record, err := sim.Titrate(r, s)
		require.NoError(t, err)
		scheme, out := marking.Propose(r), map[practical.MarkRule]string{}
		for i, p := range marking.Evaluate(scheme, marking.Report{Ready: r, Evaluation: experiment.Evaluate(r, record, evidence)}) {
			if p.Marks != nil {
				out[scheme.Criteria[i].Rule] = p.Marks.String()
			}
		}
		return out
	}
	good := propose(sim.Student{})
	assert.Equal(t, []string{"1", "2", "1"}, []string{good[practical.MarkCalibrated], good[practical.MarkJump], good[practical.MarkTail]})
	blind := propose(sim.Student{Blind: true, Stop: 1})
	assert.Equal(t, []string{"0", "2", "1"}, []string{blind[practical.MarkCalibrated], blind[practical.MarkJump], blind[practical.MarkTail]})
	coarse := propose(sim.Student{Coarse: true, Stop: 2})
	assert.Equal(t, []string{"1", "0", "1"}, []string{coarse[practical.MarkCalibrated], coarse[practical.MarkJump], coarse[practical.MarkTail]}, "each of two runs loses one")
	plain, _ := practicaltest.Plain().Check()
	scheme := practical.Scheme{Criteria: []practical.Criterion{{ID: "c", Rule: practical.MarkCalibrated, Marks: decimal.Whole(1)}}}
	p := marking.Evaluate(scheme, marking.Report{Ready: plain, Evaluation: experiment.Evaluate(plain, nil, evidence)})
	assert.Nil(t, p[0].Marks, "without a probe it cannot be told")
}
