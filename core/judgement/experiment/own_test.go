package experiment_test

import (
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/judgement/working"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
)

// A student's own figures, judged step by step. 23.80 and 23.90 mL of 0.100
// mol/L acid for 25.0 mL of alkali: mean 23.85 mL, 2.385 mmol, 0.0954 mol/L.
// Source of the slips: common practice, no source.
func TestOwnWorking(t *testing.T) {
	written := entries("R 0.00 24.90", "A 0.00 23.80", "A 0.00 23.90", "A 0.00 24.60")
	steps := evaluate(t, practicaltest.Plain(), "A 0.00 23.80", "A 0.00 23.90").Work
	ids := map[string]string{}
	for _, s := range steps {
		ids[strings.TrimPrefix(s.Code, "step.")] = s.Step
	}
	require.Contains(t, ids, "mean-titre")
	for _, c := range []struct {
		name, step, text, unit string
		verdict                working.Verdict
		slip                   string
	}{
		{"right", "mean-titre", "23.85", "mL", working.Right, ""},
		{"right in another unit, with a comma", "amount-known", "2,385", "mmol", working.Right, ""},
		{"millilitres taken for litres", "amount-known", "2.385", "mol", working.Wrong, "slip.thousand"},
		{"a unit of something else", "amount-known", "2.385", "g", working.WrongUnit, ""},
		{"the rough in the mean", "mean-titre", "24.20", "mL", working.Wrong, "slip.rough-included"},
		{"every accurate one in the mean", "mean-titre", "24.10", "mL", working.Wrong, "slip.all-averaged"},
		{"too few figures", "mean-titre", "24", "mL", working.Rounded, "slip.rounded-early"},
		{"nothing that fits", "concentration", "0.5", "mol/L", working.Wrong, ""},
	} {
		if ids[c.step] == "" {
			assert.Fail(t, "no step "+c.step, "%v", ids)
			continue
		}
		own := add(append([]journal.Entry{}, written...),
			journal.Entry{Part: journal.Answer{Step: ids[c.step], Written: c.text, Unit: c.unit}})
		for _, s := range of(t, practicaltest.Plain(), own).Work {
			if s.Step == ids[c.step] {
				assert.Equal(t, c.verdict, s.Verdict, c.name)
				assert.Equal(t, c.slip, s.Slip, c.name)
			}
		}
	}
	// A wrong figure loses once: what follows from it is right.
	carried := add(append([]journal.Entry{}, written...),
		journal.Entry{Part: journal.Answer{Step: ids["amount-known"], Written: "0.002000", Unit: "mol"}},
		journal.Entry{Part: journal.Answer{Step: ids["ratio"], Written: "0.002000", Unit: "mol"}})
	for _, s := range of(t, practicaltest.Plain(), carried).Work {
		if s.Step == ids["ratio"] {
			assert.Equal(t, working.Right, s.Verdict)
			assert.True(t, s.Carried)
		}
	}
}

// A mean to what is read of the burette is right, and to a hundredth; not to less. Of 23.80,
// 23.85 and 23.85 mL it is 23.8333.
func TestMeanAsItIsRead(t *testing.T) {
	for text, want := range map[string]working.Verdict{"23.83": working.Right, "23.85": working.Right, "23.833": working.Right,
		"23.8": working.Rounded, "24": working.Rounded, "23.80": working.Wrong, "23.90": working.Wrong, "23.84": working.Wrong, "23.850": working.Right} {
		own := add(entries("A 0.00 23.80", "A 0.00 23.85", "A 0.00 23.85"), journal.Entry{Part: journal.Answer{Step: "mean-titre", Written: text, Unit: "mL"}})
		for _, s := range of(t, practicaltest.Plain(), own).Work {
			if s.Answer != nil {
				assert.Equal(t, want, s.Verdict, text)
			}
		}
	}
}

// Two sets that agree as well: the later one counts, either mean is right, a mean of all is
// not, and what follows from the own one is right.
func TestEitherOfTwoSets(t *testing.T) {
	all := entries("A 0.00 23.80", "A 0.00 23.90", "A 0.00 24.00")
	ev := of(t, practicaltest.Plain(), all)
	assert.Equal(t, evaluation.Agreed, ev.Stage)
	assert.Equal(t, "23.95", ev.Agreement.Mean.String())
	require.Len(t, ev.Agreement.Rivals, 1)
	for mean, want := range map[string]string{"23.95": "right right", "23.85": "right right", "23.90": "wrong right", "23.70": "wrong right"} {
		known := decimal.Must(mean).Mul(decimal.Must("0.1")) // mmol
		own := add(append([]journal.Entry{}, all...), journal.Entry{Part: journal.Answer{Step: "mean-titre", Written: mean, Unit: "mL"}},
			journal.Entry{Part: journal.Answer{Step: "known-amount", Written: known.String(), Unit: "mmol"}})
		var got []string
		for _, s := range of(t, practicaltest.Plain(), own).Work {
			if s.Answer != nil {
				got = append(got, string(s.Verdict))
			}
		}
		assert.Equal(t, want, strings.Join(got, " "), mean)
	}
}

// A name is given for what was written, not for what lies within a reading of it: all three of
// 23.80, 23.85 and 24.00 make 23.883, and 23.90 is none of that.
func TestNoNameForWhatIsNear(t *testing.T) {
	for text, want := range map[string]string{"23.88": "slip.all-averaged", "23.90": ""} {
		own := add(entries("A 0.00 23.80", "A 0.00 23.85", "A 0.00 24.00"), journal.Entry{Part: journal.Answer{Step: "mean-titre", Written: text, Unit: "mL"}})
		for _, s := range of(t, practicaltest.Plain(), own).Work {
			if s.Answer != nil {
				assert.Equal(t, working.Wrong, s.Verdict, text)
				assert.Equal(t, want, s.Slip, text)
			}
		}
	}
}

// Of one accurate titre there is a working, which is judged; it opens nothing.
func TestWorkingOfOneTitre(t *testing.T) {
	all := entries("A 0.00 23.85")
	steps := of(t, practicaltest.Plain(), all).Work
	require.NotEmpty(t, steps)
	for _, s := range steps {
		all = add(all, journal.Entry{Part: journal.Answer{Step: s.Step, Written: strconv.FormatFloat(s.Node.Quantity.Value, 'g', 4, 64), Unit: string(s.Unit)}})
	}
	ev := of(t, practicaltest.Plain(), all)
	for _, s := range ev.Work {
		assert.True(t, s.Fits, s.Step)
	}
	assert.False(t, ev.Attempted)
	var samples [][2]string
	for _, name := range []string{"cold", "warm", "light"} {
		samples = append(samples, [2]string{"A 0.00 23.85", name})
	}
	assert.Len(t, compared(t, samples...).Work, 3*len(steps), "of each sample too")
	assert.Empty(t, of(t, practicaltest.Plain(), entries("R 0.00 24.90")).Work, "a rough one is for no working")
}

// Where results are shown after an own attempt, each step says what it lacks to be one.
func TestWhatAnAttemptLacks(t *testing.T) {
	p := practicaltest.Plain()
	p.Showing.Results = practical.AfterAttempt
	for name, c := range map[string]struct{ written, want string }{
		"all there":                  {"23.85mL 2.385mmol 2.385mmol 0.0954", ", , , "},
		"wrong ones are an attempt":  {"24.60mL 2.5mmol 25mmol 0.1", ", , , "},
		"one not given":              {"23.85mL - 2.385mmol 0.0954", ", figure, , "},
		"zero":                       {"23.85mL 2.385mmol 0.0mmol 0.0954", ", , value, "},
		"another kind of unit":       {"23.85mL 2.385g 2.385mmol 0.0954", ", unit, , "},
		"a thousand times, rounded":  {"23.85mL 2.385mol 2.385mmol 95.4", ", , , "},
		"more than a thousand times": {"23.85mL 2.385mmol 2.385mmol 96.0", ", , , size"},
		"the same in all":            {"1 1 1 1", "own, own, own, own"},
	} {
		all := entries("A 0.00 23.85", "A 0.00 23.85")
		steps := of(t, p, all).Work
		for i, text := range strings.Fields(c.written) {
			if text != "-" {
				all = add(all, journal.Entry{Part: journal.Answer{Step: steps[i].Step, Written: text, Unit: string(steps[i].Unit)}})
			}
		}
		var got []string
		for _, s := range evaluateParts(t, p, all, experiment.Record).Work {
			assert.Empty(t, s.Verdict, "nothing is judged before")
			got = append(got, string(s.Lacks))
		}
		assert.Equal(t, c.want, strings.Join(got, ", "), name)
		for _, s := range evaluateParts(t, p, all, experiment.All).Work {
			assert.Empty(t, s.Lacks, name)
		}
	}
	for _, s := range evaluateParts(t, practicaltest.Plain(), add(entries("A 0.00 23.85", "A 0.00 23.85"),
		journal.Entry{Part: journal.Answer{Step: "mean-titre", Written: "0"}}), experiment.Record).Work {
		assert.Empty(t, s.Lacks, "nothing hangs on it where results are not kept back for it")
	}
}

// What is thrown in is no attempt: nothing, or a thousand times off and more.
func TestAttempts(t *testing.T) {
	all := entries("A 0.00 23.85", "A 0.00 23.85")
	steps := of(t, practicaltest.Plain(), all).Work
	attempted := func(by float64, last string) bool {
		given := all
		for i, s := range steps {
			text := strconv.FormatFloat(s.Node.Quantity.Value*by, 'f', 6, 64)
			if i == len(steps)-1 && last != "" {
				text = last
			}
			given = add(append([]journal.Entry{}, given...), journal.Entry{Part: journal.Answer{Step: s.Step, Written: text, Unit: string(s.Unit)}})
		}
		return of(t, practicaltest.Plain(), given).Attempted
	}
	assert.True(t, attempted(1, ""))
	assert.False(t, attempted(1, "0"))
	assert.False(t, attempted(1, "0.0"))
	assert.False(t, attempted(1, "0.0000"))
	assert.True(t, attempted(1, "95.4"), "a thousand times off: millilitres for litres")
	assert.False(t, attempted(1, "96.0"), "more")
	assert.True(t, attempted(1, "0.0000954"))
	assert.False(t, attempted(1, "0.0000950"))
	assert.True(t, attempted(1, "0.1"), "few figures are an attempt")
}

// Where a notebook goes on to once its titres agree.
func TestThen(t *testing.T) {
	r, fault := practicaltest.Plain().Check()
	require.Nil(t, fault)
	agreed := entries("A 0.00 23.80", "A 0.00 23.90")
	worked := append([]journal.Entry{}, agreed...)
	for _, s := range experiment.Evaluate(r, agreed, experiment.Record).Work {
		worked = add(worked, journal.Entry{Part: journal.Answer{Step: s.Step, Written: "1", Unit: "mol"}})
	}
	for _, c := range []struct {
		name    string
		entries []journal.Entry
		parts   experiment.Parts
		then    evaluation.Onward
	}{
		{"before they agree", entries("A 0.00 23.80"), experiment.All, ""},
		{"the result is shown", agreed, experiment.All, evaluation.ToResult},
		{"it waits for the own working", agreed, experiment.Record, evaluation.ToWork},
		{"the own working is done", worked, experiment.Record, evaluation.ToReport},
	} {
		assert.Equal(t, c.then, experiment.Evaluate(r, c.entries, c.parts).Then(), c.name)
	}
	assert.Equal(t, evaluation.ToResult, compared(t, [2]string{"A 0.00 23.80", "cold"}, [2]string{"A 0.00 23.85", "cold"},
		[2]string{"A 0.00 21.80", "warm"}, [2]string{"A 0.00 21.85", "warm"}, [2]string{"A 0.00 20.80", "light"},
		[2]string{"A 0.00 20.85", "light"}).Then(), "several samples")
}

// Why is mine off: what each usual fault does, by the same model. An overshoot
// and a bubble make the titre large, whatever is unknown; the answer follows.
func TestCauses(t *testing.T) {
	high := changed(func(p *practical.Practical) { p.Asked.Expected = decimal.Must("0.0950") })
	ev := evaluate(t, high, "A 0.00 23.85", "A 0.00 23.85")
	require.NotNil(t, ev.Result)
	require.NotEmpty(t, ev.Result.Causes)
	byCode := map[string]float64{}
	for _, c := range ev.Result.Causes {
		byCode[c.Code] = c.Answer
		assert.NotZero(t, c.Size, c.Code)
		assert.True(t, strings.HasPrefix(c.Code, "cause."), c.Code)
		if c.Needed != 0 && c.Answer != 0 {
			// The fault of the needed size explains the difference to a hundredth.
			assert.InEpsilon(t, 0.0954-0.0950, c.Answer*c.Needed/c.Size, 0.1, c.Code)
		}
	}
	assert.Positive(t, byCode["cause.bubble"])
	swapped := changed(func(p *practical.Practical) {
		p.Chemistry.Titrant = practical.Solution{Name: "acid", Formula: "HCl", Approximate: decimal.Must("0.1")}
		p.Chemistry.Analyte = practical.Solution{Name: "alkali", Formula: "NaOH", Concentration: decimal.Must("0.1000")}
	})
	for _, c := range evaluate(t, swapped, "A 0.00 23.85", "A 0.00 23.85").Result.Causes {
		if c.Code == "cause.bubble" {
			assert.Negative(t, c.Answer, "the unknown in the burette: more of it means weaker")
		}
	}
}

// An intermediate figure that lost nothing but zeros is right without a remark: 25.00 mL of
// 0.100 mol/L are 0.0025 mol. One that lost a figure is not, and an answer is written with those
// it deserves.
func TestExactIntermediate(t *testing.T) {
	for _, c := range []struct {
		end, step, text string
		verdict         working.Verdict
	}{
		{"25.00", "step.amount-known", "0.0025", working.Right},
		{"25.00", "step.amount-known", "0.00250", working.Right},
		{"25.00", "step.ratio", "0.0025", working.Right},
		{"25.00", "step.concentration", "0.1", working.FewFigures},
		{"25.00", "step.concentration", "0.100", working.Right},
	} {
		r := changed(func(p *practical.Practical) { p.Rules.Agreement.Need = 1 })
		written := entries("A 0.00 " + c.end)
		for _, s := range of(t, r, written).Work {
			if s.Code != c.step {
				continue
			}
			for _, now := range of(t, r, add(append([]journal.Entry{}, written...), journal.Entry{Part: journal.Answer{Step: s.Step, Written: c.text, Unit: string(s.Unit)}})).Work {
				if now.Step == s.Step {
					assert.Equal(t, c.verdict, now.Verdict, "%s %s", c.step, c.text)
				}
			}
		}
	}
}
