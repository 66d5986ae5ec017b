package experiment_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/judgement/handin"
	"exactflask/core/judgement/marking"
	"exactflask/core/judgement/working"
	"exactflask/core/practice/plan"
	"exactflask/core/practice/prep"
	"exactflask/core/practice/sim"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
	"exactflask/core/values/quantity"
)

func solution(name, formula string, made ...practical.RouteStep) practical.Practical {
	return practicaltest.Solution(name, formula, made...)
}

func grams(mass, formula string) practical.RouteStep {
	return practical.RouteStep{Kind: practical.Weigh, Mass: decimal.Must(mass), Formula: formula}
}

func stockOf(strength, mL string) practical.RouteStep {
	return practical.RouteStep{Kind: practical.Pipette, Volume: decimal.Must(mL), Concentration: decimal.Must(strength)}
}

// A solution is the whole practical. By hand: sodium carbonate 105.99 g/mol, copper sulfate 159.61,
// its pentahydrate 249.69 (IUPAC's standard atomic weights, from memory).
func TestASolutionAlone(t *testing.T) {
	weighed := journal.Entry{Part: journal.Weighing{What: "solid", Full: "12.845", Emptied: "11.505", Standard: true}} // 1.340 g
	flask := func(step int, mL string) journal.Entry {
		return journal.Entry{Part: journal.OwnValue{What: journal.OwnVolume, Step: step, Written: mL}}
	}
	up, part := volumeOf(practical.MakeUp, "250.0"), volumeOf(practical.Aliquot, "25.00")
	taken := journal.Entry{Part: journal.Prepared{Stock: "5.85", Taken: "24.6", MadeUp: "250.0"}}
	carbonate, copper, soda := grams("1.325", ""), grams("6.24", "CuSO4*5H2O"), stockOf("6.00", "25.0")
	for _, c := range []struct {
		name, formula string
		made          []practical.RouteStep
		unit          quantity.Unit
		own           []journal.Entry
		answer        float64
		strength      float64 // mol/L, for a later practical
		volume        string  // mL, of what it can take
		steps         int
	}{
		{"weighed", "Na2CO3", []practical.RouteStep{carbonate, up}, quantity.MolePerL, []journal.Entry{weighed}, 0.05057, 0.05057, "250.0", 2},
		{"in g/L", "Na2CO3", []practical.RouteStep{carbonate, up}, quantity.GramPerL, []journal.Entry{weighed}, 5.36, 0.05057, "250.0", 3},
		{"into another flask", "Na2CO3", []practical.RouteStep{carbonate, up}, quantity.MolePerL, []journal.Entry{weighed, flask(2, "200.0")}, 0.06321, 0.06321, "200.0", 2},
		{"diluted", "Na2CO3", []practical.RouteStep{carbonate, up, part, up}, quantity.MolePerL, []journal.Entry{weighed}, 0.005057, 0.005057, "250.0", 3},
		{"diluted with another pipette", "Na2CO3", []practical.RouteStep{carbonate, up, part, up}, quantity.MolePerL, []journal.Entry{weighed, flask(3, "20.00")}, 0.004046, 0.004046, "250.0", 3},
		{"a hydrate", "CuSO4", []practical.RouteStep{copper, up}, quantity.MillimolePerL,
			[]journal.Entry{{Part: journal.Weighing{What: "solid", Full: "18.20", Emptied: "12.00", Standard: true}}}, 99.32, 0.09932, "250.0", 4},
		{"of a stock, as it was done", "NaOH", []practical.RouteStep{soda, up}, quantity.MolePerL, []journal.Entry{taken}, 0.5756, 0.5756, "250.0", 1},
	} {
		p := solution("solution", c.formula, c.made...)
		if c.unit == quantity.GramPerL {
			p.Asked.What = practical.MassConcentration
		}
		p.Asked.Unit = c.unit
		r, fault := p.Check()
		require.Nil(t, fault, c.name)
		assert.Equal(t, practical.SolutionMade, r.Kind)
		for i := range c.own {
			c.own[i].ID, c.own[i].Clock = string(rune('a'+i)), int64(i+1)
		}

		none := experiment.Evaluate(r, nil, experiment.All)
		assert.Equal(t, evaluation.Untouched, none.Stage, c.name)
		assert.Empty(t, none.Work, c.name)
		assert.Nil(t, none.Result, c.name)
		assert.Nil(t, none.Next.Entry, "no reading is asked for")
		assert.Equal(t, r.WeighsStandard(), none.Next.Weigh != nil, c.name)
		assert.Equal(t, !r.WeighsStandard(), none.Next.Prepare, c.name)
		assert.Contains(t, lacking(none), "lack.made")

		ev := experiment.Evaluate(r, c.own, experiment.All)
		require.NotNil(t, ev.Result, c.name)
		assert.InEpsilon(t, c.answer, ev.Result.Answer.Value, 2e-4, c.name)
		assert.Equal(t, c.unit, ev.Result.Answer.Unit, c.name)
		assert.Equal(t, evaluation.Made, ev.Stage, c.name)
		assert.NotContains(t, lacking(ev), "lack.made", c.name)
		require.NotNil(t, ev.Result.Budget, c.name)
		strength, sure, ok := ev.Strength()
		require.True(t, ok, c.name)
		assert.InEpsilon(t, c.strength, strength.Value, 2e-4, c.name)
		assert.InEpsilon(t, ev.Result.Budget.Relative/100, sure/strength.Value, 1e-9, c.name)
		assert.Positive(t, ev.Result.Budget.Expanded, c.name)
		assert.Len(t, ev.Work, c.steps, c.name)
		assert.Equal(t, working.Final, ev.Work[len(ev.Work)-1].Step, c.name)
		assert.Equal(t, "next.made", ev.Next.Say[0].Code, c.name)
		assert.NotEmpty(t, ev.Given, c.name)
		assert.Equal(t, c.volume, experiment.Summarise(r, ev, c.own).Made.String(), c.name)
		assert.Zero(t, experiment.Summarise(r, none, nil).Made.Sign(), c.name)

		// Worked out by a student who makes no slip, every step is right; with one, it is not.
		for slip, fine := range map[string]bool{"": true, "digits-swapped": false} {
			var done sim.Worked
			for seed := uint64(1); seed < 20 && (seed == 1 || slip != "" && done.Step == ""); seed++ { // not every figure has digits to swap
				done = sim.Work(r, c.own, sim.Student{Seed: seed}, slip)
			}
			judged := experiment.Evaluate(r, append(c.own[:len(c.own):len(c.own)], done.Entries...), experiment.All)
			right := true
			for _, s := range judged.Work {
				right = right && (s.Answer == nil || s.Verdict != working.Wrong)
			}
			assert.Equal(t, fine, right, "%s %s", c.name, slip)
		}
	}
}

// A slip of the decimal point in what is weighed is asked about, and an answer far off is said.
func TestASolutionFarOff(t *testing.T) {
	r, fault := solution("sodium carbonate", "Na2CO3", grams("1.325", ""), volumeOf(practical.MakeUp, "250.0")).Check()
	require.Nil(t, fault)
	ten := journal.Weighing{What: "solid", Full: "25.095", Emptied: "11.845", Standard: true}
	m, doubtful := experiment.Doubt(r, ten)
	assert.True(t, doubtful)
	assert.Equal(t, "entered.slipped", m.Code)
	ev := experiment.Evaluate(r, []journal.Entry{{ID: "a", Clock: 1, Part: ten}}, experiment.All)
	var codes []string
	for _, f := range ev.Findings {
		codes = append(codes, f.Code)
	}
	assert.Contains(t, codes, "result.far-from-expected")
	assert.Contains(t, codes, "entered.slipped")
}

// What is no primary standard has no sure strength by its mass, and the plan and the answer say so; the
// stock of a school and what a standard is weighed for are as sure as they are.
func TestASolutionOfNoStandard(t *testing.T) {
	up := volumeOf(practical.MakeUp, "250.0")
	for _, c := range []struct {
		formula string
		head    practical.RouteStep
		said    bool
	}{{"NaOH", grams("1.000", ""), true}, {"Na2CO3", grams("1.325", ""), false}, {"CuSO4", grams("6.24", "CuSO4*5H2O"), true}, {"NaOH", stockOf("6.00", "25.0"), false}} {
		r, fault := solution("solution", c.formula, c.head, up).Check()
		require.Nil(t, fault)
		own := journal.Entry{ID: "a", Clock: 1, Part: journal.Weighing{What: "solid", Full: "13.000", Emptied: "12.000", Standard: true}}
		if !r.WeighsStandard() {
			own.Part = journal.Prepared{Stock: "6.00", Taken: "25.0", MadeUp: "250.0"}
		}
		assert.Equal(t, c.said, said(experiment.Evaluate(r, []journal.Entry{own}, experiment.All), "made.not-primary"), c.formula)
		assert.Equal(t, c.said, len(plan.Assess(r).Findings) > 0, c.formula)
	}
	// An acid whose strength is weighed into a titration is said in the same way.
	p := oxalic(weighedSolid("2.00"), up)
	assert.False(t, said(of(t, p, entries("A 0.00 23.80", "A 0.00 23.80")), "made.not-primary"))
}

// Of what is not pure more is weighed: 1.325 g of carbonate of 98 % make 0.0490 mol/L, and 1.325 g is right.
func TestMassToWeighOfWhatIsNotPure(t *testing.T) {
	p := solution("sodium carbonate", "Na2CO3", grams("1.325", ""), volumeOf(practical.MakeUp, "250.0"))
	p.Chemistry.Titrant.Purity = decimal.Must("0.98")
	r, fault := p.Check()
	require.Nil(t, fault)
	for answer, right := range map[string]bool{"1.325": true, "1.26": false} { // the pure part is not what is weighed
		checked, fault := plan.Check(r, "mass", answer)
		require.Nil(t, fault)
		assert.Equal(t, right, checked.Right, answer)
	}
}

func lacking(ev evaluation.Evaluation) []string {
	var out []string
	for _, l := range handin.Lacks(ev) {
		out = append(out, l.Code)
	}
	return out
}

// Nothing that a titration has is asked of a solution alone, and the other way round.
func TestASolutionHasNoTitration(t *testing.T) {
	good := solution("sodium carbonate", "Na2CO3", grams("1.325", ""), volumeOf(practical.MakeUp, "250.0"))
	for path, change := range map[string]func(*practical.Practical){
		"":                          func(*practical.Practical) {},
		"chemistry.standardisedIn":  func(p *practical.Practical) { p.Chemistry.Standard = "other" },
		"chemistry.salt":            func(p *practical.Practical) { p.Chemistry.Salt = "NaCl" },
		"samples":                   func(p *practical.Practical) { p.Samples = []practical.Sample{{Name: "a"}, {Name: "b"}} },
		"probe":                     func(p *practical.Practical) { p.Probe.Shows = journal.ShownPH },
		"asked.what":                func(p *practical.Practical) { p.Asked.What = practical.PurityOf },
		"chemistry.titrant.formula": func(p *practical.Practical) { p.Chemistry.Titrant.Formula = "" },
		"kind":                      func(p *practical.Practical) { p.Kind = practical.Direct },
		"chemistry.titrant.name":    func(p *practical.Practical) { p.Chemistry.Titrant.Name = " " },
		"chemistry.titrant.concentration": func(p *practical.Practical) {
			p.Chemistry.Titrant.Concentration = decimal.Must("0.06")
		},
		"chemistry.analyte.name": func(p *practical.Practical) { p.Route = []practical.RouteStep{volumeOf(practical.Pipette, "25.0")} },
		"marking.criteria[0].rule": func(p *practical.Practical) {
			p.Marking.Criteria = []practical.Criterion{{ID: "a", Marks: decimal.Whole(1), Rule: practical.MarkAgreement}}
		},
	} {
		p := good
		change(&p)
		_, fault := p.Check()
		if path == "" {
			assert.Nil(t, fault)
		} else if assert.NotNil(t, fault, path) {
			assert.Equal(t, path, fault.Path)
		}
	}
}

// Before the laboratory, in the preparation room and for the marker it is a practical like others.
func TestASolutionIsAPractical(t *testing.T) {
	for _, p := range []practical.Practical{
		solution("sodium carbonate", "Na2CO3", grams("1.325", ""), volumeOf(practical.MakeUp, "250.0")),
		solution("sodium hydroxide", "NaOH", stockOf("6.00", "25.0"), volumeOf(practical.MakeUp, "250.0")),
	} {
		r, fault := p.Check()
		require.Nil(t, fault)
		assert.Nil(t, sim.Rehearse(r))
		moments, ev, fault := sim.DryRun(r)
		require.Nil(t, fault)
		assert.NotEmpty(t, moments)
		assert.NotNil(t, ev.Result)
		assert.Positive(t, plan.Assess(r).Uncertainty)

		qs := plan.Questions(r)
		require.Len(t, qs, 1)
		answer := map[string]string{"mass": "1.325", "stock": "25.0"}[qs[0].Code]
		checked, fault := plan.Check(r, qs[0].Code, answer)
		require.Nil(t, fault)
		assert.True(t, checked.Right)

		out := plan.ForClass(r, prep.Class{Students: 20, Trials: 3, Spare: 10})
		if r.WeighsStandard() {
			assert.Empty(t, out.Needs)
			assert.Equal(t, 26.5, out.Solids[0].Total) // 20 times 1.325 g
		} else {
			assert.Equal(t, "stock", out.Needs[0].What)
			assert.Len(t, out.Needs, 1, "no indicator, nothing in the flask")
		}

		scheme := marking.Of(r)
		require.Nil(t, r.CheckScheme(scheme))
		var rules []practical.MarkRule
		for _, c := range scheme.Criteria {
			rules = append(rules, c.Rule)
		}
		assert.Contains(t, rules, practical.MarkStep)
		assert.Contains(t, rules, practical.MarkComplete)
		assert.NotContains(t, rules, practical.MarkTitre)
		assert.NotContains(t, r.Setup(), "leak-wait")
		assert.Contains(t, r.Cleanup(), "labelled")
		assert.NotEmpty(t, r.Cautions())
	}
}
