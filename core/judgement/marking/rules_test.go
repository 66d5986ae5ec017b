package marking_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/experiment"
	"exactflask/core/judgement/marking"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
)

// bench writes a record by hand: each line is a kind of entry and what it says.
type bench struct {
	entries []journal.Entry
	n       int
}

func (b *bench) add(p journal.Part) string {
	b.n++
	id := fmt.Sprintf("e-%04d", b.n)
	b.entries = append(b.entries, journal.Entry{ID: id, Author: "a", Device: "d", Clock: int64(b.n), At: begin, Part: p})
	return id
}

func (b *bench) trial(kind journal.TrialType, start, end string) *bench {
	id := b.add(journal.Opening{Type: kind})
	b.add(journal.Scale{Of: id, Place: journal.Start, Written: start})
	if end != "" {
		b.add(journal.Scale{Of: id, Place: journal.End, Written: end})
	}
	return b
}

func (b *bench) answer(step, text, unit string) *bench {
	b.add(journal.Answer{Step: step, Written: text, Unit: unit})
	return b
}

// without leaves out the last entries.
func (b *bench) without(n int) *bench {
	b.entries = b.entries[:len(b.entries)-n]
	return b
}

// more are further accurate trials like the others.
func (b *bench) more(n int) *bench {
	for range n {
		b.trial(journal.Accurate, "0.00", "23.85")
	}
	return b
}

// aside sets the last trial aside.
func (b *bench) aside() *bench {
	for _, e := range slices.Backward(b.entries) {
		if _, opens := e.Part.(journal.Opening); opens {
			b.add(journal.Exclusion{Of: e.ID, Reason: "overshot"})
			return b
		}
	}
	return b
}

// good are three trials of buffer-dosing whose accurate two agree at 23.85 mL.
func good() *bench {
	b := &bench{}
	return b.trial(journal.Rough, "0.00", "24.90").trial(journal.Accurate, "0.00", "23.85").trial(journal.Accurate, "0.00", "23.85")
}

// apart are two accurate trials that do not agree.
func apart() *bench {
	return (&bench{}).trial(journal.Accurate, "0.00", "20.00").trial(journal.Accurate, "0.00", "21.00")
}

// tied are three of which the first two agree as well as the last two.
func tied() *bench {
	return (&bench{}).trial(journal.Accurate, "0.00", "23.80").trial(journal.Accurate, "0.00", "23.90").trial(journal.Accurate, "0.00", "24.00")
}

func example(t *testing.T, name string) *practical.Ready {
	for _, e := range practicaltest.Examples(t) {
		if e.Name == name {
			return e.Ready
		}
	}
	t.Fatal(name)
	return nil
}

// Every rule: what is full, what is lost, what cannot be told.
func TestRules(t *testing.T) {
	r := example(t, "buffer-dosing.json")
	all := func(b *bench) *bench {
		for _, item := range r.Setup() {
			if item == practical.LeakWait {
				b.add(journal.Timer{For: journal.ForLeak, Seconds: 60})
			} else {
				b.add(journal.Checked{Item: item})
			}
		}
		return b
	}
	bands := []practical.MarkBand{{Within: decimal.Must("0.20"), Marks: decimal.Whole(3)}, {Within: decimal.Must("0.40"), Marks: decimal.Whole(2)}}
	off := func(by float64, from marking.Referred) func(*marking.Report) {
		return func(m *marking.Report) { m.Titre, m.Referred = by, from }
	}
	said := func(text string) *bench {
		b := good()
		b.add(journal.Passage{Prompt: "explain", Written: text})
		return b
	}
	asked := func(right ...bool) func(*marking.Report) {
		return func(m *marking.Report) {
			for _, r := range right {
				m.Questions = append(m.Questions, marking.Question{Given: "2", Right: r, Judged: true})
			}
		}
	}
	none := func(*marking.Report) {}
	for _, c := range []struct {
		name  string
		rule  practical.Criterion
		bench *bench
		set   func(*marking.Report)
		want  string // marks and the code of why; - for cannot tell, ! for a person to look at
	}{
		{"set up", practical.Criterion{Rule: practical.MarkSetup}, all(&bench{}), none, "3 mark.done"},
		{"not set up", practical.Criterion{Rule: practical.MarkSetup, Lose: decimal.Must("0.25")}, good(), none, "0.50 mark.undone"},
		{"one thing undone", practical.Criterion{Rule: practical.MarkSetup}, all(&bench{}).without(1), none, "2 mark.undone"},
		{"two things undone", practical.Criterion{Rule: practical.MarkSetup}, all(&bench{}).without(2), none, "1 mark.undone"},
		{"nothing tidied", practical.Criterion{Rule: practical.MarkCleanup}, good(), none, "0 mark.undone"},
		{"all readings", practical.Criterion{Rule: practical.MarkComplete}, good(), none, "3 mark.complete"},
		{"an end is lacking", practical.Criterion{Rule: practical.MarkComplete}, good().trial(journal.Accurate, "1.00", ""), none, "2 mark.incomplete"},
		{"end below start", practical.Criterion{Rule: practical.MarkComplete}, good().trial(journal.Accurate, "9.00", "1.00"), none, "2 mark.incomplete"},
		{"no trial", practical.Criterion{Rule: practical.MarkComplete}, &bench{}, none, "0 mark.no-trials"},
		{"on the scale", practical.Criterion{Rule: practical.MarkResolution}, good(), none, "3 mark.on-resolution"},
		{"between", practical.Criterion{Rule: practical.MarkResolution, Lose: decimal.Whole(2)}, good().trial(journal.Accurate, "0.00", "23.82"), none, "1 mark.readings-between"},
		{"decimals", practical.Criterion{Rule: practical.MarkDecimals}, good(), none, "3 mark.same-decimals"},
		{"24.4 for 24.40", practical.Criterion{Rule: practical.MarkDecimals}, good().trial(journal.Accurate, "0.00", "23.8"), none, "2 mark.readings-short"},
		{"agreed", practical.Criterion{Rule: practical.MarkAgreement}, good(), none, "3 mark.agreed"},
		{"two sets that tie", practical.Criterion{Rule: practical.MarkAgreement}, tied(), none, "3 mark.agreed"},
		{"the mean of either", practical.Criterion{Rule: practical.MarkAveraged}, tied().answer("mean-titre", "23.85", "mL"), none, "3 mark.averaged"},
		{"the mean of the other", practical.Criterion{Rule: practical.MarkAveraged}, tied().answer("mean-titre", "23.95", "mL"), none, "3 mark.averaged"},
		{"the step of either", practical.Criterion{Rule: practical.MarkStep, Step: "step.mean-titre"}, tied().answer("mean-titre", "23.85", "mL"), none, "3 mark.step-right"},
		{"the mean of all that tie", practical.Criterion{Rule: practical.MarkAveraged}, tied().answer("mean-titre", "23.90", "mL"), none, "- mark.mean-unclear"},
		{"not agreed", practical.Criterion{Rule: practical.MarkAgreement}, apart(), none, "0 mark.disagree"},
		{"two trials", practical.Criterion{Rule: practical.MarkEconomy}, good(), none, "3 mark.trials"},
		{"one too many", practical.Criterion{Rule: practical.MarkEconomy, Most: 2}, good().trial(journal.Accurate, "0.00", "23.85"), none, "2 mark.trials"},
		{"four trials, as usual", practical.Criterion{Rule: practical.MarkEconomy}, good().more(2), none, "3 mark.trials"},
		{"five trials", practical.Criterion{Rule: practical.MarkEconomy}, good().more(3), none, "2 mark.trials"},
		{"six trials", practical.Criterion{Rule: practical.MarkEconomy}, good().more(4), none, "1 mark.trials"},
		{"a fifth that was set aside", practical.Criterion{Rule: practical.MarkEconomy}, good().more(3).aside(), none, "3 mark.trials"},
		{"only what was set aside", practical.Criterion{Rule: practical.MarkEconomy}, (&bench{}).trial(journal.Accurate, "0.00", "23.85").aside(), none, "0 mark.no-trials"},
		{"two ends are lacking", practical.Criterion{Rule: practical.MarkComplete}, good().trial(journal.Accurate, "1.00", "").trial(journal.Accurate, "9.00", "1.00"), none, "1 mark.incomplete"},
		{"no mean", practical.Criterion{Rule: practical.MarkRough}, good(), none, "- mark.no-mean"},
		{"rough out", practical.Criterion{Rule: practical.MarkRough}, good().answer("mean-titre", "23.85", "mL"), none, "3 mark.rough-out"},
		{"rough in", practical.Criterion{Rule: practical.MarkRough}, good().answer("mean-titre", "24.20", "mL"), none, "2 mark.step-slip"},
		{"another mean", practical.Criterion{Rule: practical.MarkRough}, good().answer("mean-titre", "19.00", "mL"), none, "- mark.mean-unclear"},
		{"only agreeing", practical.Criterion{Rule: practical.MarkAveraged}, good().answer("mean-titre", "23.85", "mL"), none, "3 mark.averaged"},
		{"all averaged", practical.Criterion{Rule: practical.MarkAveraged}, good().trial(journal.Accurate, "0.00", "24.60").answer("mean-titre", "24.10", "mL"), none, "2 mark.step-slip"},
		{"averaged though nothing agrees", practical.Criterion{Rule: practical.MarkAveraged}, apart().answer("mean-titre", "20.50", "mL"), none, "0 mark.disagree"},
		{"worked though nothing agrees", practical.Criterion{Rule: practical.MarkStep, Step: "step.amount-known"}, apart().answer("mean-titre", "20.50", "mL").answer("known-amount", "2.050", "mmol"), none, "3 mark.step-right"},
		{"the mean of those is a sum as well", practical.Criterion{Rule: practical.MarkStep, Step: "step.mean-titre"}, apart().answer("mean-titre", "20.50", "mL"), none, "3 mark.step-right"},
		{"a slip behind one formula", practical.Criterion{Rule: practical.MarkStep, Step: "step.ratio"}, good().answer("answer", "0.1908", "mol/L"), none, "3 mark.step-skipped"},
		{"a figure behind which nobody sees", practical.Criterion{Rule: practical.MarkStep, Step: "step.ratio"}, good().answer("answer", "0.0777", "mol/L"), none, "- mark.step-hidden"},
		{"subtracted", practical.Criterion{Rule: practical.MarkSubtraction}, good().answer("mean-titre", "23.85", "mL"), none, "3 mark.subtracted"},
		{"from the capacity", practical.Criterion{Rule: practical.MarkSubtraction}, good().answer("mean-titre", "26.15", "mL"), none, "2 mark.step-slip"},
		{"close", practical.Criterion{Rule: practical.MarkTitre, Bands: bands}, good(), off(-0.2, marking.ByTruth), "3 mark.within-truth"},
		{"as it comes out of the arithmetic", practical.Criterion{Rule: practical.MarkTitre, Bands: bands}, good(), off(23.85-23.65, marking.ByTruth), "3 mark.within-truth"},
		{"not rounded to be close", practical.Criterion{Rule: practical.MarkTitre, Bands: bands}, good(), off(-0.2001, marking.ByTruth), "2 mark.within-truth"},
		{"less close", practical.Criterion{Rule: practical.MarkTitre, Bands: bands}, good(), off(0.4, marking.ByTeacher), "2 mark.within-teacher"},
		{"far", practical.Criterion{Rule: practical.MarkTitre, Bands: bands}, good(), off(0.4001, marking.ByTruth), "0 mark.beyond-truth"},
		{"nothing to compare with", practical.Criterion{Rule: practical.MarkTitre, Bands: bands}, good(), none, "- mark.no-reference"},
		{"no true value", practical.Criterion{Rule: practical.MarkAnswer, Bands: bands}, good(), none, "- mark.no-reference"},
		{"no true value of the titration", practical.Criterion{Rule: practical.MarkResult, Bands: bands}, good(), none, "- mark.no-reference"},
		{"no titration", practical.Criterion{Rule: practical.MarkResult, Bands: bands}, &bench{}, none, "- mark.no-answer"},
		{"a step", practical.Criterion{Rule: practical.MarkStep, Step: "step.amount-known"}, good().answer("known-amount", "2.385", "mmol"), none, "3 mark.step-right"},
		{"a slip", practical.Criterion{Rule: practical.MarkStep, Step: "step.amount-known"}, good().answer("known-amount", "2.385", "mol"), none, "2 mark.step-slip"},
		{"carried", practical.Criterion{Rule: practical.MarkStep, Step: "step.concentration"}, good().answer("known-amount", "2.385", "mol").answer("unknown-amount", "2.385", "mol").answer("answer", "95.4", "mol/L"), none, "3 mark.step-carried"},
		{"right apart", practical.Criterion{Rule: practical.MarkStep, Step: "step.ratio"}, good().answer("known-amount", "2.385", "mol").answer("unknown-amount", "1.1925", "mmol"), none, "3! mark.step-apart"},
		{"nothing fits", practical.Criterion{Rule: practical.MarkStep, Step: "step.amount-known"}, good().answer("known-amount", "7.7", "mmol"), none, "2 mark.step-wrong"},
		{"one formula", practical.Criterion{Rule: practical.MarkStep, Step: "step.ratio"}, good().answer("answer", "0.0477", "mol/L"), none, "3 mark.step-skipped"},
		{"not worked", practical.Criterion{Rule: practical.MarkStep, Step: "step.ratio"}, good(), none, "2 mark.not-worked"},
		{"no such step", practical.Criterion{Rule: practical.MarkStep, Step: "step.water"}, good(), none, "- mark.no-step"},
		{"figures", practical.Criterion{Rule: practical.MarkFigures}, good().answer("answer", "0.0954", "mol/L"), none, "3 mark.figures-right"},
		{"few figures", practical.Criterion{Rule: practical.MarkFigures}, good().answer("answer", "0.1", "mol/L"), none, "2 mark.figures-few"},
		{"many figures", practical.Criterion{Rule: practical.MarkFigures}, good().answer("answer", "0.09540001", "mol/L"), none, "2 mark.figures-many"},
		{"a unit", practical.Criterion{Rule: practical.MarkUnit}, good().answer("answer", "95.4", "mmol/L"), none, "3 mark.unit-right"},
		{"another unit", practical.Criterion{Rule: practical.MarkUnit}, good().answer("answer", "0.0954", "g"), none, "2 mark.unit-wrong"},
		{"the step does not lose for the unit", practical.Criterion{Rule: practical.MarkStep, Step: "step.concentration"}, good().answer("answer", "0.0477", "g"), none, "3 mark.step-right"},
		{"questions", practical.Criterion{Rule: practical.MarkQuestions}, good(), asked(true, true, false, false), "1 mark.questions"},
		{"written answers are read", practical.Criterion{Rule: practical.MarkQuestions}, good(), func(m *marking.Report) { m.Questions = []marking.Question{{Given: "because"}} }, "- mark.questions-words"},
		{"none asked", practical.Criterion{Rule: practical.MarkQuestions}, good(), none, "- mark.no-questions"},
		{"in time", practical.Criterion{Rule: practical.MarkInTime}, good(), none, "3 mark.in-time"},
		{"late", practical.Criterion{Rule: practical.MarkInTime}, good(), func(m *marking.Report) { m.Late = true }, "2 mark.late"},
		{"to be read", practical.Criterion{Rule: practical.MarkPerson, Prompt: "explain"}, said("A drop is 0.05 mL."), none, "- mark.person"},
		{"nothing written", practical.Criterion{Rule: practical.MarkPerson, Prompt: "explain"}, said("  "), none, "0 mark.nothing-written"},
	} {
		c.rule.ID, c.rule.Marks = "c", decimal.Whole(3)
		require.Nil(t, r.CheckScheme(practical.Scheme{Criteria: []practical.Criterion{c.rule}}), c.name)
		m := marking.Report{Ready: r, Evaluation: experiment.Evaluate(r, c.bench.entries, evidence)}
		c.set(&m)
		p := marking.Evaluate(practical.Scheme{Criteria: []practical.Criterion{c.rule}}, m)[0]
		marks := "-"
		if p.Marks != nil {
			marks = p.Marks.String()
			if !p.Certain {
				marks += "!" // a person has to look
			}
		}
		require.NotEmpty(t, p.Why, c.name)
		assert.Equal(t, c.want, marks+" "+p.Why[0].Code, c.name)
		assert.Equal(t, marks == "3", p.Full(c.rule), c.name)
	}
}

// A slip of the mean loses once where a criterion of its own is about it, and a criterion
// that hangs on another gives nothing without it.
func TestSchemesHangTogether(t *testing.T) {
	r := example(t, "buffer-dosing.json")
	one := decimal.Whole(1)
	s := practical.Scheme{Criteria: []practical.Criterion{{ID: "rough", Rule: practical.MarkRough, Marks: one}, {ID: "mean", Rule: practical.MarkStep, Step: "step.mean-titre", Marks: one},
		{ID: "late", Rule: practical.MarkInTime, Marks: one, Needs: "rough"}}}
	m := marking.Report{Ready: r, Evaluation: experiment.Evaluate(r, good().answer("mean-titre", "24.20", "mL").entries, evidence)}
	var got []string
	for _, p := range marking.Evaluate(s, m) {
		got = append(got, p.Marks.String()+" "+p.Why[len(p.Why)-1].Code)
	}
	assert.Equal(t, []string{"0 mark.step-slip", "1 mark.step-elsewhere", "0 mark.needs"}, got)
	s.Criteria = s.Criteria[1:2]
	assert.Equal(t, "0", marking.Evaluate(s, m)[0].Marks.String(), "nothing else is about it")
}

// A first scheme follows from every practical, is one that is taken, and gives a careful
// student everything but what a person reads.
func TestProposedSchemes(t *testing.T) {
	for _, e := range practicaltest.Examples(t) {
		s := marking.Propose(e.Ready)
		require.Nil(t, e.Ready.CheckScheme(s), e.Name)
		assert.Positive(t, s.Total().Sign(), e.Name)
		for _, step := range marking.StepsOf(e.Ready) {
			assert.True(t, slices.ContainsFunc(s.Criteria, func(c practical.Criterion) bool { return c.Step == step.Key }), "%s: %s", e.Name, step.Key)
		}
		e.Ready.Marking = practical.Scheme{Criteria: s.Criteria[:1]}
		assert.Len(t, marking.Of(e.Ready).Criteria, 1, "its own goes before")
	}
}

// What is no scheme is refused where it is wrong.
func TestSchemesAreChecked(t *testing.T) {
	r := example(t, "buffer-dosing.json")
	good := practical.Criterion{ID: "a", Rule: practical.MarkInTime, Marks: decimal.Whole(1)}
	with := func(change func(*practical.Criterion)) practical.Criterion {
		c := good
		c.ID = "b"
		change(&c)
		return c
	}
	band := func(within, marks string) practical.MarkBand {
		return practical.MarkBand{Within: decimal.Must(within), Marks: decimal.Must(marks)}
	}
	for want, c := range map[string]practical.Criterion{
		"":                     with(func(*practical.Criterion) {}),
		"criteria[1].id":       with(func(c *practical.Criterion) { c.ID = "a" }),
		"criteria[1].id ":      with(func(c *practical.Criterion) { c.ID = "Not so" }),
		"criteria[1].marks":    with(func(c *practical.Criterion) { c.Marks = decimal.Must("0.3") }),
		"criteria[1].marks ":   with(func(c *practical.Criterion) { c.Marks = decimal.Whole(101) }),
		"criteria[1].lose":     with(func(c *practical.Criterion) { c.Lose = decimal.Whole(-1) }),
		"criteria[1].needs":    with(func(c *practical.Criterion) { c.Needs = "b" }),
		"criteria[1].step":     with(func(c *practical.Criterion) { c.Rule = practical.MarkStep }),
		"criteria[1].prompt":   with(func(c *practical.Criterion) { c.Rule, c.Prompt = practical.MarkPerson, "poem" }),
		"criteria[1].bands":    with(func(c *practical.Criterion) { c.Rule = practical.MarkTitre }),
		"criteria[1].bands[1]": with(func(c *practical.Criterion) { c.Bands = []practical.MarkBand{band("0.2", "1"), band("0.1", "1")} }),
		"criteria[1].bands[0]": with(func(c *practical.Criterion) { c.Bands = []practical.MarkBand{band("0.2", "2")} }),
		"criteria[1].rule":     with(func(c *practical.Criterion) { c.Rule = "by-looks" }),
		"criteria[1].text":     with(func(c *practical.Criterion) { c.Text = strings.Repeat("x", 201) }),
	} {
		fault := r.CheckScheme(practical.Scheme{Criteria: []practical.Criterion{good, c}})
		if want == "" {
			assert.Nil(t, fault)
		} else if assert.NotNil(t, fault, want) {
			assert.Equal(t, strings.TrimSpace(want), fault.Path)
		}
	}
}

// What a class's reports say together, computed by hand.
func TestResultsOf(t *testing.T) {
	s := practical.Scheme{Criteria: []practical.Criterion{{ID: "x", Marks: decimal.Whole(2)}, {ID: "y", Marks: decimal.Whole(2)}}}
	both := func(x, y int64) map[string]decimal.Decimal {
		return map[string]decimal.Decimal{"x": decimal.Whole(x), "y": decimal.Whole(y)}
	}
	answers := []float64{-0.4, -0.2, 0, 0.2, 0.4, 4} // median 0.1, deviations .5 .3 .1 .1 .3 3.9: MAD 0.3
	var all []marking.Marked
	for i, a := range answers {
		all = append(all, marking.Marked{Notebook: fmt.Sprint(i), Marks: both(1, 2), Answer: a, Compared: true, Unknown: []string{"A", "B"}[i%2]})
	}
	all[0].Marks, all[1].Marks, all[2].Marks = both(0, 0), both(2, 2), map[string]decimal.Decimal{"x": decimal.Whole(2)}
	all[3].Slips, all[4].Slips, all[5].Slips = []string{"slip.ten", "slip.ten"}, []string{"slip.ten", "slip.thousand"}, nil
	r := marking.ResultsOf(s, all)
	assert.Equal(t, "4", r.Possible.String())
	assert.Equal(t, 5, r.Count, "one is not marked wholly")
	assert.InDelta(t, (0+4+3+3+3)/5.0, r.Mean, 1e-12)
	assert.Equal(t, 3.0, r.Median)
	assert.InDelta(t, 1.51658, r.Spread, 1e-5)
	assert.Equal(t, []int{1, 0, 0, 0, 0, 0, 0, 3, 0, 1}, r.Bins)
	assert.Equal(t, marking.Facility{Criterion: "x", Count: 6, Mean: 7.0 / 6, Facility: 7.0 / 12}, r.Criteria[0])
	require.Len(t, r.Slips, 2)
	assert.Equal(t, marking.SlippedBy{Slip: "slip.ten", Notebooks: []string{"3", "4"}}, r.Slips[0])
	assert.InDelta(t, 0.1, r.AnswerMid, 1e-12)
	assert.InDelta(t, 1.4826*0.3, r.Robust, 1e-9)
	assert.Equal(t, marking.Unsatisfactory, r.Answers[5].Judged)
	assert.InDelta(t, 4/(1.4826*0.3), r.Answers[5].Z, 1e-9)
	assert.Equal(t, marking.Satisfactory, r.Answers[0].Judged)
	require.Len(t, r.ByUnknown, 2)
	assert.Equal(t, 3, r.ByUnknown[0].Count)
	assert.Empty(t, r.ByBench)
	assert.Zero(t, marking.ResultsOf(s, nil).Count)
}

// A score of 2 is satisfactory still, and of 3 unsatisfactory already. Source: ISO 13528:2022
// (from memory).
func TestScores(t *testing.T) {
	robust := 1.4826 // of 1 each way
	var all []marking.Marked
	for _, a := range []float64{-1, -1, -1, 1, 1, 1, 2 * robust, -2 * robust, 2.01 * robust, 2.99 * robust, 3 * robust, -3 * robust, -2.01 * robust} {
		all = append(all, marking.Marked{Answer: a, Compared: true})
	}
	all = append(all, marking.Marked{Answer: -2.99 * robust, Compared: true}, marking.Marked{Answer: 1, Compared: true}, marking.Marked{Answer: -1, Compared: true},
		marking.Marked{Answer: 1, Compared: true}, marking.Marked{Answer: -1, Compared: true}, marking.Marked{Answer: 1, Compared: true}, marking.Marked{Answer: -1, Compared: true}, marking.Marked{Answer: 99})
	r := marking.ResultsOf(practical.Scheme{}, all)
	require.InDelta(t, robust, r.Robust, 1e-12)
	require.Len(t, r.Answers, len(all)-1, "one is compared with nothing")
	for _, a := range r.Answers {
		want := marking.Satisfactory
		switch z := a.Percent / robust; {
		case z >= 3 || z <= -3:
			want = marking.Unsatisfactory
		case z > 2 || z < -2:
			want = marking.Questionable
		}
		assert.Equal(t, want, a.Judged, a.Z)
	}
}

// Close to the true value is the answer that was written; what the readings give is another
// criterion. Of 23.85 mL follow 0.04770 mol/L; the true value is 0.04760 (0.21 % less).
func TestCloseToTheTrueValue(t *testing.T) {
	p := example(t, "buffer-dosing.json").Practical
	p.Asked.Reference = decimal.Must("0.04760")
	r, fault := p.Check()
	require.Nil(t, fault)
	bands := []practical.MarkBand{{Within: decimal.Must("0.5"), Marks: decimal.Whole(3)}, {Within: decimal.Must("2"), Marks: decimal.Whole(1)}}
	for _, c := range []struct {
		written, unit string
		want          string // of the answer and of the titration, with how far the answer is said to be off
	}{
		{"0.0477", "mol/L", "3 3 0.21 %"},
		{"47.7", "mmol/L", "3 3 0.21 %"},
		{"0.04784", "mol/L", "1 3 0.50 %"}, // 0.504
		{"0.04783", "mol/L", "3 3 0.48 %"},
		{"0.0486", "mol/L", "0 3 2.10 %"},
		{"0.0500", "mol/L", "0 3 5.04 %"},
		{"100", "mol/L", "0 3 209984.03 %"},
		{"0", "mol/L", "0 3 100.00 %"},
		{"0.0477", "g", "0 3 mark.unit-wrong"},
		{"", "", "0 3 mark.not-worked"},
	} {
		b := good()
		if c.written != "" {
			b.answer("answer", c.written, c.unit)
		}
		scheme := practical.Scheme{Criteria: []practical.Criterion{{ID: "a", Rule: practical.MarkAnswer, Marks: decimal.Whole(3), Bands: bands}, {ID: "b", Rule: practical.MarkResult, Marks: decimal.Whole(3), Bands: bands}}}
		got := marking.Evaluate(scheme, marking.Report{Ready: r, Evaluation: experiment.Evaluate(r, b.entries, evidence)})
		said := got[0].Why[0].Code
		if len(got[0].Exact) > 0 {
			said = fmt.Sprint(got[0].Exact[0].Values["percent"].Exact, " %")
		}
		assert.Equal(t, c.want, fmt.Sprint(got[0].Marks, " ", got[1].Marks, " ", said), c.written)
		assert.True(t, got[0].Certain, c.written)
	}
}

// The first scheme gives closeness its bands, and agreement marks only where something has to
// agree.
func TestProposedScheme(t *testing.T) {
	p := practicaltest.Plain()
	r, fault := p.Check()
	require.Nil(t, fault)
	bands, agree := "", false
	for _, c := range marking.Propose(r).Criteria {
		if c.Rule == practical.MarkTitre {
			for _, b := range c.Bands {
				bands += b.Within.String() + "=" + b.Marks.String() + " "
			}
		}
		agree = agree || c.Rule == practical.MarkAgreement
	}
	assert.Equal(t, "0.20=3 0.40=2 0.60=1 ", bands)
	assert.True(t, agree)
	p.Rules.Agreement.Need = 1
	r, fault = p.Check()
	require.Nil(t, fault)
	for _, c := range marking.Propose(r).Criteria {
		assert.NotEqual(t, practical.MarkAgreement, c.Rule)
	}
}

// Where one is enough nothing has to agree, but there has to be one; a single titre for which
// there was no time to find another is left to a person.
func TestAgreementOfOne(t *testing.T) {
	one := func(rule practical.AgreementRule, r *bench) string {
		p := practicaltest.Plain()
		rule.Tolerance = p.Rules.Agreement.Tolerance
		p.Rules.Agreement = rule
		ready, fault := p.Check()
		require.Nil(t, fault)
		m := marking.Report{Ready: ready, Evaluation: experiment.Evaluate(ready, r.entries, experiment.All)}
		got := marking.Evaluate(practical.Scheme{Criteria: []practical.Criterion{{ID: "a", Rule: practical.MarkAgreement, Marks: decimal.Whole(2)}}}, m)[0]
		if got.Marks == nil {
			return "?"
		}
		return got.Marks.String()
	}
	enough, short := practical.AgreementRule{Need: 1}, practical.AgreementRule{Need: 2, AsTimeAllows: true}
	none := &bench{}
	assert.Equal(t, "0", one(enough, none), "no trial at all")
	assert.Equal(t, "0", one(short, none))
	single := (&bench{}).trial(journal.Accurate, "0.00", "23.80")
	assert.Equal(t, "2", one(enough, single))
	assert.Equal(t, "?", one(short, single))
	two := (&bench{}).trial(journal.Accurate, "0.00", "23.80").trial(journal.Accurate, "0.00", "23.85")
	assert.Equal(t, "2", one(short, two))
}
