package sim_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/model/assay"
	"exactflask/core/model/budget"
	"exactflask/core/practice/sim"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
)

// A practical that gives no answer is found before it is set, at the field that is to blame. What
// a student weighs is theirs: it need not be said how much.
// Common practice, no source.
func TestRehearse(t *testing.T) {
	by := map[string]*practical.Ready{}
	for _, e := range practicaltest.Examples(t) {
		by[e.Name] = e.Ready
	}
	route := func(i int, change func(*practical.RouteStep)) func(*practical.Practical) {
		return func(p *practical.Practical) { change(&p.Route[i]) }
	}
	noMass := func(s *practical.RouteStep) { s.Mass = decimal.Decimal{} }
	for _, c := range []struct {
		name, of string
		change   func(*practical.Practical)
		path     string // empty: it can be set
	}{
		{"tablets are counted, and mg per tablet asked", "iron-tablet.json", route(0, noMass), ""},
		{"tablets without a mass, % asked", "iron-tablet.json", func(p *practical.Practical) {
			p.Route[0].Mass, p.Asked.What, p.Asked.Unit, p.Asked.Label = decimal.Decimal{}, practical.PurityOf, "%", practical.Label{}
		}, ""},
		{"a solid without a mass, purity asked", "shell-chalk.json", route(0, noMass), ""},
		{"descaler without a mass", "citric-descaler.json", route(0, noMass), ""},
		{"a hydrate without a mass", "carbonate-hydrate.json", route(0, noMass), ""},
		{"an unknown acid without a mass", "unknown-acid.json", route(0, noMass), ""},
		{"protons without a mass", "phosphoric-protons.json", route(0, noMass), ""},
		{"a mixture without a mass", "buffer-mixture.json", route(0, noMass), ""},
		{"a standard without a mass", "naoh-by-aliquot.json", route(0, noMass), ""},
		{"less reagent than the sample uses", "shell-chalk.json", route(1, func(s *practical.RouteStep) { s.Concentration = decimal.Must("0.010") }), "route[1].concentration"},
		{"too little of it", "shell-chalk.json", route(1, func(s *practical.RouteStep) { s.Volume = decimal.Must("1.00") }), "route[1].concentration"},
		{"an aliquot of a hundredth of a millilitre", "pond-bleach.json", route(2, func(s *practical.RouteStep) { s.Volume = decimal.Must("0.01") }), "route[2].volume"},
		{"a titre that leaves nothing of the reagent", "shell-chalk.json", func(p *practical.Practical) { p.Asked.Titre = decimal.Must("0.01") }, "asked.expectedTitre"},
		{"a titre of more reagent than the blank has", "ammonium-feed.json", func(p *practical.Practical) { p.Asked.Titre = decimal.Must("60") }, "route[1].concentration"},
		{"a tenth of a milligram", "shell-chalk.json", route(0, func(s *practical.RouteStep) { s.Mass = decimal.Must("0.0001") }), "asked.what"},
		{"a milligram of an acid whose molar mass is asked", "unknown-acid.json", route(0, func(s *practical.RouteStep) { s.Mass = decimal.Must("0.001") }), "asked.what"},
		{"a mixture with hardly any of one", "buffer-mixture.json", func(p *practical.Practical) { p.Asked.Expected = decimal.Must("0.0001") }, "asked.what"},
		{"a mixture of which nothing is expected", "spent-lime.json", func(p *practical.Practical) {
			p.Asked.Expected, p.Asked.Second, p.Asked.Titre, p.Chemistry.Analyte.Approximate = decimal.Decimal{}, decimal.Decimal{}, decimal.Decimal{}, decimal.Decimal{}
		}, ""},
		{"hundreds of thousands of fillings", "buffer-dosing.json", func(p *practical.Practical) {
			p.Chemistry.Titrant.Concentration, p.Chemistry.Analyte.Approximate, p.Route[0].Volume = decimal.Must("0.0001"), decimal.Must("20"), decimal.Must("100")
			p.Asked.Titre = decimal.Decimal{}
		}, ""},
		{"nothing is expected", "algae-vinegar.json", func(p *practical.Practical) { p.Chemistry.Analyte.Approximate = decimal.Decimal{} }, ""},
	} {
		p := by[c.of].Practical
		p.Route = slices.Clone(p.Route)
		c.change(&p)
		r, fault := p.Check()
		require.Nil(t, fault, "%s: %v", c.name, fault)
		if fault = sim.Rehearse(r); c.path == "" {
			assert.Nil(t, fault, "%s: %v", c.name, fault)
		} else if assert.NotNil(t, fault, c.name) {
			assert.Equal(t, c.path, fault.Path, c.name)
		}
	}
	for name, r := range by {
		assert.Nil(t, sim.Rehearse(r), name)
	}
	for name, p := range practicaltest.Probes() {
		r, fault := p.Check()
		require.Nil(t, fault)
		assert.Nil(t, sim.Rehearse(r), name)
		// One run is enough, where the practical says so.
		p.Rules.Agreement.Need = 1
		r, fault = p.Check()
		require.Nil(t, fault)
		entries, err := sim.Titrate(r, sim.Student{Seed: 2, Skill: sim.Careful, Device: "sim", Begin: begin})
		require.NoError(t, err)
		ev := experiment.Evaluate(r, entries, experiment.All)
		require.NotNil(t, ev.Result, name)
		assert.Len(t, ev.Agreement.Chosen, 1, name)
		assert.Equal(t, evaluation.Agreed, ev.Stage, name)
		assert.Positive(t, ev.Result.Budget.Expanded, name)
	}
}

func BenchmarkRehearse(b *testing.B) {
	for _, e := range practicaltest.Examples(b) {
		if slices.Contains([]string{"algae-vinegar.json", "carbonate-curve.json"}, e.Name) {
			b.Run(e.Name, func(b *testing.B) {
				for b.Loop() {
					sim.Rehearse(e.Ready)
				}
			})
		}
	}
}

// One trial beside blanks: that the blanks scatter tells nothing of the trial, whose scatter is
// the rule's.
func TestOneTrialBesideBlanks(t *testing.T) {
	for _, e := range practicaltest.Examples(t) {
		if e.Name != "ammonium-feed.json" {
			continue
		}
		p := e.Ready.Practical
		p.Rules.Agreement.Need = 1
		r, fault := p.Check()
		require.Nil(t, fault)
		entries, err := sim.Titrate(r, sim.Student{Seed: 1, Skill: sim.Careful, Device: "sim", Begin: begin})
		require.NoError(t, err)
		ev := experiment.Evaluate(r, entries, experiment.All)
		require.Len(t, ev.Agreement.Chosen, 1)
		assumed := false
		for _, in := range budget.Inputs(assay.New(r, assay.Held{Blanks: blanksOf(ev)}), ev.Result.Derivation) {
			assumed = assumed || in.Code == "repeatability" && in.Estimated
		}
		assert.True(t, assumed)
	}
}

func blanksOf(ev evaluation.Evaluation) (out []assay.Measured) {
	for _, trial := range ev.Trials {
		if trial.Type == journal.Blank {
			out = append(out, trial.Measured)
		}
	}
	return out
}

// A titre that would take more fillings than are run, such as a slip of the point, has no dry run and
// says so; one that is refilled a few times has.
func TestDryRunHasAnEnd(t *testing.T) {
	for strength, runs := range map[string]bool{"0.095": true, "0.7": true, "0.8": true, "0.81": false, "95": false} {
		p := practicaltest.Plain()
		p.Chemistry.Analyte.Approximate = decimal.Must(strength) // 25.0 mL of it by 0.100 mol/L
		r, fault := p.Check()
		require.Nil(t, fault)
		moments, _, fault := sim.DryRun(r)
		assert.Equal(t, runs, fault == nil, strength)
		assert.Equal(t, runs, len(moments) > 0, strength)
	}
}
