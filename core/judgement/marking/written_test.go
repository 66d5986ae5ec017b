package marking_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/chemistry/chem"
	"exactflask/core/judgement/experiment"
	"exactflask/core/judgement/marking"
	"exactflask/core/judgement/working"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
)

// changed is an example with something else asked for.
func changed(t *testing.T, name string, change func(*practical.Practical)) *practical.Ready {
	p := example(t, name).Practical
	change(&p)
	r, fault := p.Check()
	require.Nil(t, fault)
	return r
}

// Where titres are subtracted by the student, each is judged, and the mean follows from them.
func TestSubtractions(t *testing.T) {
	r := changed(t, "buffer-dosing.json", func(p *practical.Practical) { p.Rules.Subtractions = true })
	scheme := practical.Scheme{Criteria: []practical.Criterion{{ID: "s", Rule: practical.MarkSubtraction, Marks: decimal.Whole(3)},
		{ID: "m", Rule: practical.MarkStep, Step: "step.mean-titre", Marks: decimal.Whole(1)}}}
	for _, c := range []struct{ name, written, want, marks string }{
		// 1.00 to 24.85 and 2.30 to 26.10: 23.85 and 23.80.
		{"both right", "23.85 23.80 23.825", "r r r", "3 1"},
		{"to too few decimals", "23.9 23.80 23.825", "f r r", "2 1"},
		{"a digit", "22.85 23.80 23.325", "w r c", "2 1"},
		{"the start left out, twice", "24.85 26.10 25.475", "w:start-left-out s c", "1 1"},
		{"from the capacity", "25.15 23.80 24.475", "w:from-capacity r c", "2 1"},
		{"read upward", "24.15 23.80 23.975", "w:read-upward r c", "2 1"},
		{"digits swapped", "23.58 23.80 23.69", "w:digits-swapped r c", "2 1"},
		{"one not written", "- 23.80 23.825", "- r r", "2 1"},
		{"none written", "- - 23.825", "- - r", "1 1"},
	} {
		b := (&bench{}).trial(journal.Accurate, "1.00", "24.85").trial(journal.Accurate, "2.30", "26.10")
		steps := experiment.Evaluate(r, b.entries, evidence).Work
		require.Equal(t, []string{working.Subtraction, working.Subtraction, "step.mean-titre"}, []string{steps[0].Code, steps[1].Code, steps[2].Code})
		for i, text := range strings.Fields(c.written) {
			if text != "-" {
				b.answer(steps[i].Step, text, "mL")
			}
		}
		ev := experiment.Evaluate(r, b.entries, evidence)
		var got, marks []string
		for _, s := range ev.Work[:3] {
			got = append(got, seen(s))
		}
		for _, p := range marking.Evaluate(scheme, marking.Report{Ready: r, Evaluation: ev}) {
			marks = append(marks, p.Marks.String())
		}
		assert.Equal(t, c.want, strings.Join(got, " "), c.name)
		assert.Equal(t, c.marks, strings.Join(marks, " "), c.name)
	}
	assert.Contains(t, marking.Propose(r).Criteria, practical.Criterion{ID: "subtraction", Rule: practical.MarkSubtraction, Marks: decimal.Whole(1)})
	for _, c := range marking.Propose(r).Criteria {
		assert.NotEqual(t, working.Subtraction, c.Step, "it has its rule")
	}
	b := good().answer("mean-titre", "23.85", "mL")
	for _, s := range experiment.Evaluate(r, b.entries, evidence).Work {
		if s.Code == working.Subtraction {
			assert.Equal(t, working.LacksFigure, working.Lacks(experiment.Evaluate(r, b.entries, evidence).Work)[0], "and is part of an own attempt")
			return
		}
	}
	t.Fatal("no titre is asked for")
}

// The table of atomic weights that a practical names is what it works with; a student may
// take another.
func TestAtomicWeights(t *testing.T) {
	for _, c := range []struct {
		table chem.Weights
		want  string // mg of iron in a tablet, from 55.845, 55.85, 55.8 and 56
	}{{chem.Standard, "88.172"}, {chem.Hundredth, "88.180"}, {chem.Tenth, "88.101"}, {chem.Whole, "88.417"}} {
		r := changed(t, "iron-tablet.json", func(p *practical.Practical) { p.Rules.AtomicWeights = c.table })
		_, record := recordOf(t, "iron-tablet", "")
		answer := experiment.Evaluate(r, record, evidence).Result.Answer.Value
		got, _ := decimal.FromFloat(answer)
		assert.Equal(t, c.want, got.Round(3).String(), c.table)

		b := &bench{entries: record, n: 5000}
		b.answer("substance-mass", "0.2645", "g").answer("tablet-mass", "0.08817", "g")
		for _, s := range experiment.Evaluate(r, b.entries, evidence).Work {
			if s.Answer != nil {
				assert.True(t, s.Fits, "%s %s", c.table, s.Step)
			}
		}
	}
}

// Of two dilutions each is one slip of its own.
func TestSecondDilution(t *testing.T) {
	// 25 mL to 250 mL, 20 mL of that to 100 mL, 25 mL of that: 21.13 mL of 0.1012 mol/L.
	r := changed(t, "algae-vinegar.json", func(p *practical.Practical) {
		step := func(kind practical.StepKind, volume string) practical.RouteStep {
			return practical.RouteStep{Kind: kind, Volume: decimal.Must(volume)}
		}
		p.Route = []practical.RouteStep{step(practical.Pipette, "25.00"), step(practical.MakeUp, "250.0"), step(practical.Aliquot, "20.00"),
			step(practical.MakeUp, "100.0"), step(practical.Aliquot, "25.00")}
	})
	_, record := recordOf(t, "algae-vinegar", "")
	for _, c := range []struct{ name, written, want string }{
		{"as it should be", "21.13 0.002139 0.002139 0.008555 0.1069 4.277 256.9 25.69", "r r r r r r r r"},
		{"the second forgotten", "21.13 0.002139 0.002139 0.002139 0.02674 1.069 64.22 6.422", "r r r w:dilution-left-out c c c c"},
		{"the first forgotten", "21.13 0.002139 0.002139 0.008555 0.008555 0.3422 20.55 2.055", "r r r r w:dilution-left-out c c c"},
		{"both forgotten: two slips", "21.13 0.002139 0.002139 0.002139 0.002139 0.08555 5.137 0.5137", "r r r w:dilution-left-out w:dilution-left-out c c c"},
		{"the second inverted", "21.13 0.002139 0.002139 0.0005347 0.006683 0.2673 16.05 1.605", "r r r w:dilution-inverted c c c c"},
		{"one of ten forgotten in one formula", "21.13 - - - - - - 6.422", "r - - - - - - w:dilution-left-out"},
	} {
		b := &bench{entries: record, n: 5000}
		steps := experiment.Evaluate(r, record, evidence).Work
		written := strings.Fields(c.written)
		require.Len(t, written, len(steps), c.name)
		for i, text := range written {
			if text != "-" {
				b.answer(steps[i].Step, text, string(steps[i].Unit))
			}
		}
		var got []string
		for _, s := range experiment.Evaluate(r, b.entries, evidence).Work {
			got = append(got, seen(s))
		}
		assert.Equal(t, c.want, strings.Join(got, " "), c.name)
	}
}
