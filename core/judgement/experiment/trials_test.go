package experiment_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

// Source of all: common practice, no source.
func TestRefillWithinATrial(t *testing.T) {
	all := add(nil, open(journal.Rough), read("e-000001", journal.Start, "40.00"),
		read("e-000001", journal.BeforeRefill, "49.00"))
	ev := of(t, practicaltest.Plain(), all)
	assert.Equal(t, "next.after-refill", ev.Next.Code())
	assert.Equal(t, journal.AfterRefill, ev.Next.Entry.Place)
	all = add(all, read("e-000001", journal.AfterRefill, "0.50"))
	ev = of(t, practicaltest.Plain(), all)
	assert.Equal(t, "15.25", ev.Next.ExpectAt.String(), "23.75 expected, 9.00 of it before the refill, on from 0.50")
	all = add(all, read("e-000001", journal.End, "15.30"))
	ev = of(t, practicaltest.Plain(), all)
	assert.Equal(t, "23.80", ev.Trials[0].Titre.String())
}

func TestBlankPracticeAndRoughThatCounts(t *testing.T) {
	all := entries("R 0.00 23.90", "A 0.00 23.80")
	all = add(all, open(journal.Blank), read("e-000007", journal.Start, "0.00"), read("e-000007", journal.End, "0.20"))
	all = add(all, open(journal.Practice), read("e-000010", journal.Start, "0.00"), read("e-000010", journal.End, "23.85"))
	ev := of(t, practicaltest.Plain(), all)
	assert.Equal(t, agreement.TooFew, ev.Agreement.Status, "a practice trial counts nowhere")
	assert.Equal(t, "0.20", ev.Blank.String())
	assert.Equal(t, evaluation.OutPractice, ev.Trials[3].Reason)
	assert.Equal(t, "accurate", ev.SoFar.From)
	p := practicaltest.Plain()
	p.Rules.Agreement.RoughCounts = true
	ev = of(t, p, all)
	require.NotNil(t, ev.Result)
	assert.Equal(t, "23.85", ev.Agreement.Mean.String())
	assert.InDelta(t, 0.1*23.65/25, ev.Result.Answer.Value, 1e-12, "the blank is subtracted")
	assert.InDelta(t, 0.0707107, ev.Statistics.SD, 1e-6)
	r, _ := p.Check()
	only := experiment.Evaluate(r, all, experiment.Record)
	assert.Nil(t, only.Result)
	assert.Nil(t, only.SoFar)
}

func TestUnequalSamples(t *testing.T) {
	p := practicaltest.Plain()
	p.Route[0].By = practical.ByBurette
	p.Rules.Agreement = practical.AgreementRule{Kind: practical.Relative, Need: 2}
	all := add(nil, open(journal.Accurate))
	ev := of(t, p, all)
	assert.Equal(t, "next.sample-start", ev.Next.Code())
	all = add(all, read("e-000001", journal.SampleStart, "0.00"), read("e-000001", journal.SampleEnd, "25.00"),
		read("e-000001", journal.Start, "0.00"), read("e-000001", journal.End, "23.80"))
	all = add(all, open(journal.Accurate), read("e-000006", journal.SampleStart, "25.00"),
		read("e-000006", journal.SampleEnd, "45.00"), read("e-000006", journal.Start, "23.80"))
	ev = of(t, p, all)
	assert.Equal(t, "42.84", ev.Next.ExpectAt.String(), "19.04 expected for 20.00 of sample")
	all = add(all, read("e-000006", journal.End, "42.90"))
	ev = of(t, p, all)
	require.NotNil(t, ev.Result)
	assert.Equal(t, "0.16", ev.Agreement.Relative.String(), "0.952 and 0.955 lie 0.157 % from their mean")
	assert.InDelta(t, 0.09535, ev.Result.Answer.Value, 1e-9)
	p.Rules.Agreement.Percent = decimal.Must("0.1")
	ev = of(t, p, all)
	assert.Equal(t, agreement.Disagree, ev.Agreement.Status)
	p.Rules.Agreement = practicaltest.Plain().Rules.Agreement
	_, fault := p.Check()
	assert.Equal(t, "rules.agreement.kind", fault.Path, "unequal samples cannot be compared by spread")
}

func TestSupplyAndLists(t *testing.T) {
	p := practicaltest.Plain()
	p.Glass.Supply = practical.Supply{Titrant: decimal.Must("100"), Analyte: decimal.Must("120")}
	all := entries("R 0.00 24.40", "A 0.00 23.80", "A 0.00 24.00")
	ev := of(t, p, all)
	assert.Equal(t, "27.80", ev.Supply.Titrant.String())
	assert.Equal(t, "45.0", ev.Supply.Analyte.String())
	assert.Equal(t, 1, ev.Supply.Trials)
	all = append(all, add(make([]journal.Entry, len(all)), open(journal.Accurate),
		read("e-000010", journal.Start, "0.00"), read("e-000010", journal.End, "24.20"))[len(all):]...)
	ev = of(t, p, all)
	assert.Equal(t, "next.nothing-left", ev.Next.Code())

	check := func(item string) journal.Entry {
		return journal.Entry{Part: journal.Checked{Item: item}}
	}
	leak := func(text string) journal.Entry {
		return journal.Entry{Part: journal.Observation{About: journal.Leak, Written: text}}
	}
	done := func(all []journal.Entry) (out string) {
		ev := of(t, practicaltest.Plain(), all)
		for _, i := range ev.Setup {
			if i.Entry != "" {
				out += i.Code + " "
			}
		}
		return out
	}
	bench := add(nil, check("rinse-water"), check("no-bubble"),
		journal.Entry{Part: journal.Timer{For: "leak", Seconds: 30}}, check("white-tile"))
	assert.Equal(t, "rinse-water no-bubble leak-wait white-tile ", done(bench))
	bench = add(bench, leak("seen"))
	assert.Equal(t, "rinse-water no-bubble white-tile ", done(bench), "a leak asks for the wait again")
	bench = add(bench, leak("reseated"), check("leak-wait"))
	assert.Equal(t, "rinse-water no-bubble leak-wait white-tile ", done(bench))
	bench = add(bench, leak("changed"))
	assert.Equal(t, "white-tile ", done(bench), "another burette is set up from the beginning")
	bench = add(bench, journal.Entry{Part: journal.Weighing{What: "sodium carbonate", Full: "14.2381 g",
		Emptied: "12.9120"}})
	ev = of(t, practicaltest.Plain(), bench)
	assert.Contains(t, fmt.Sprint(ev.Log[len(ev.Log)-1]), "1.3261")
}

// A weighing belongs to the trial that it is asked for: to one that ended without
// a mass first, then to the open one, then to the one to be opened. Source: common
// practice, no source.
func TestWhoseMassItIs(t *testing.T) {
	p := written(t, `{"equation":"KHC8H4O4 + NaOH -> KNaC8H4O4 + H2O","titrant":{"name":"t","formula":"NaOH"},
			"analyte":{"name":"KHP","formula":"KHC8H4O4"},"indicator":"phenolphthalein"}`, `{}`,
		`[{"kind":"weigh","mass":"0.5","eachTrial":true}]`)
	p.Rules.Agreement.Kind, p.Rules.Agreement.Tolerance = practical.Relative, decimal.Decimal{}
	weigh := func(trial, full string) journal.Entry {
		return journal.Entry{Part: journal.Weighing{What: "KHP", Full: full, Emptied: "10.0000", Of: trial}}
	}
	for _, c := range []struct {
		name   string
		all    []journal.Entry
		trial  string
		opens  journal.TrialType
		before string
		says   string
	}{
		{"nothing yet", nil, "", journal.Rough, "", "next.weigh"},
		{"opened by the weighing", add(entries("A"), weigh("e-000001", "10.5123")), "e-000001", "", "0.5123", "next.read-start"},
		{"opened, not weighed", entries("A"), "e-000001", "", "", "next.weigh"},
		{"ended without a mass", entries("A 0.00 24.00"), "e-000001", "", "", "next.mass-missing"},
		{"ended without a mass, and the next is open", entries("A 0.00 24.00", "A 24.00"), "e-000001", "", "", "next.mass-missing"},
		{"ended with a mass", add(entries("A 0.00 24.00"), weigh("e-000001", "10.5123")), "", journal.Accurate, "", "next.weigh"},
	} {
		n := of(t, p, c.all).Next
		require.NotNil(t, n.Weigh, c.name)
		assert.Equal(t, c.trial, n.Weigh.Trial, c.name)
		assert.Equal(t, c.opens, n.Weigh.Opens, c.name)
		if c.before == "" {
			assert.Nil(t, n.Weigh.Before, c.name)
		} else if assert.NotNil(t, n.Weigh.Before, c.name) {
			assert.Equal(t, c.before, n.Weigh.Before.String(), c.name)
		}
		var says []string
		for _, m := range n.Say {
			says = append(says, m.Code)
		}
		assert.Contains(t, says, c.says, c.name)
	}
	twice := of(t, p, add(entries("A 0.00 24.00"), weigh("e-000001", "10.5123"), weigh("e-000001", "10.5132")))
	assert.Equal(t, "0.5132", twice.Trials[0].Mass.String(), "the later one counts")
	var said []string
	for _, f := range twice.Findings {
		if f.Code == "weighing.again" {
			said = append(said, f.Subject+" "+f.Values["before"].String())
		}
	}
	assert.Equal(t, []string{"e-000001 0.5123 g"}, said)
	assert.Nil(t, of(t, practicaltest.Plain(), nil).Next.Weigh, "nothing is weighed")
}

// A scale that shows what is left, as that of a syringe: start less end, the
// readings to look for count down, and every rule looks at what has left. Source:
// common practice, no source.
func TestAScaleThatShowsWhatIsLeft(t *testing.T) {
	p := changed(func(p *practical.Practical) { p.Glass.Burette.Rising = true })
	ev := evaluate(t, p, "R 50.00 25.60", "A 50.00 26.20", "A 50.00 26.15")
	assert.Equal(t, []string{"24.40", "23.80", "23.85"}, []string{ev.Trials[0].Titre.String(), ev.Trials[1].Titre.String(),
		ev.Trials[2].Titre.String()})
	same := evaluate(t, practicaltest.Plain(), "R 0.00 24.40", "A 0.00 23.80", "A 0.00 23.85")
	assert.InDelta(t, same.Result.Answer.Value, ev.Result.Answer.Value, 1e-15)
	assert.InDelta(t, same.Result.Budget.Standard, ev.Result.Budget.Standard, 1e-12)
	for _, f := range ev.Findings {
		assert.NotEqual(t, finding.Warning, f.Severity, f.Code)
	}
	causes := func(ev evaluation.Evaluation) map[string]float64 {
		out := map[string]float64{}
		for _, c := range ev.Result.Causes {
			if c.Code != "cause.read-upward" {
				out[c.Code] = c.Answer
			}
		}
		return out
	}
	assert.InDeltaMapValues(t, causes(same), causes(ev), 1e-9, "a bubble makes the titre larger on either scale")
	n := evaluate(t, p, "R 50.00 25.60", "A 50.00").Next
	assert.Equal(t, []string{"28.60", "27.60", "25.60"}, []string{n.SlowAt.String(), n.DropAt.String(), n.ExpectAt.String()})
	swapped := evaluate(t, p, "A 26.20 50.00")
	assert.Equal(t, "titre.end-above-start", swapped.Findings[0].Code)
	going := evaluate(t, p, "R 50.00 25.60", "A 30.00 6.20")
	assert.Empty(t, going.Next.Entry.Proposal, "23.80 are not left")
	p.Route[0].By = practical.ByBurette
	p.Rules.Agreement.Kind = practical.Relative
	_, fault := p.Check()
	require.NotNil(t, fault)
	assert.Equal(t, "glass.rising-alone", fault.Message.Code)
}

// Two end points with a burette that is filled within the trial: what ran until the first
// end is summed over the fillings before it, and no others; the answers are those of a
// burette that held it all.
func TestFirstEndOverFillings(t *testing.T) {
	p := practicaltest.Plain()
	p.Chemistry.Equation, p.Chemistry.EndPoints, p.Chemistry.Other = "Na2CO3 + 2 HCl -> 2 NaCl + H2O + CO2", practical.HydroxideCarbonate, "NaOH"
	p.Chemistry.Analyte = practical.Solution{Name: "lime water", Formula: "Na2CO3"}
	p.Asked.Titre = decimal.Must("24.00")
	r, fault := p.Check()
	require.Nil(t, fault)
	trial := func(readings ...string) evaluation.Evaluation {
		var all []journal.Entry
		add := func(part journal.Part) string {
			id := fmt.Sprintf("entry-%04d", len(all))
			all = append(all, journal.Entry{ID: id, Device: "d", Clock: int64(len(all) + 1), Part: part})
			return id
		}
		for range 2 {
			id := add(journal.Opening{Type: journal.Accurate})
			for _, text := range readings {
				place, written, _ := strings.Cut(text, " ")
				add(journal.Scale{Of: id, Place: journal.Place(place), Written: written})
			}
		}
		return experiment.Evaluate(r, all, experiment.All)
	}
	whole := trial("start 0.00", "first-end 14.00", "end 24.00")
	for _, c := range []struct {
		name     string
		readings []string
	}{
		{"filled before the first end", []string{"start 0.00", "before-refill 10.00", "after-refill 1.00", "first-end 5.00", "end 15.00"}},
		{"filled after it", []string{"start 0.00", "first-end 14.00", "before-refill 20.00", "after-refill 0.00", "end 4.00"}},
		{"filled on both sides", []string{"start 1.00", "before-refill 11.00", "after-refill 0.00", "first-end 4.00", "before-refill 9.00", "after-refill 2.00", "end 7.00"}},
	} {
		got := trial(c.readings...)
		assert.Equal(t, "14.00", got.Trials[0].FirstTitre.String(), c.name)
		assert.Equal(t, "24.00", got.Trials[0].Titre.String(), c.name)
		require.NotNil(t, got.Result, "%s: %v %s %v", c.name, got.Agreement, got.Trials[0].Reason, got.Findings)
		assert.InEpsilon(t, whole.Result.Answer.Value, got.Result.Answer.Value, 1e-12, c.name)
		assert.InEpsilon(t, whole.Result.Second.Answer.Value, got.Result.Second.Answer.Value, 1e-12, c.name)
	}
	// While it is being filled, the reading after that is asked for first.
	next := func(readings ...string) journal.Place {
		ev := trial(readings...)
		require.NotNil(t, ev.Next.Entry)
		return ev.Next.Entry.Place
	}
	assert.Equal(t, journal.AfterRefill, next("start 0.00", "before-refill 10.00"))
	assert.Equal(t, journal.FirstEnd, next("start 0.00", "before-refill 10.00", "after-refill 0.00"))
	assert.Equal(t, journal.End, next("start 0.00", "before-refill 10.00", "after-refill 0.00", "first-end 4.00"))
	half := trial("start 0.00", "before-refill 10.00", "first-end 4.00")
	assert.Nil(t, half.Trials[0].FirstTitre, "it is being filled: what ran is not known")
	assert.Equal(t, journal.AfterRefill, half.Next.Entry.Place)
}
