package experiment_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/model/followed"
	"exactflask/core/practice/sim"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

// A careful student who goes from point to point as the bench says finds the truth within
// the stated uncertainty, by every kind of probe practical, and is blamed for nothing.
func TestProbeFindsTheTruth(t *testing.T) {
	for name, p := range practicaltest.Probes() {
		r, fault := p.Check()
		require.Nil(t, fault, "%s: %v", name, fault)
		inside, runs, points := 0, 40, 0
		var blamed []string
		for seed := range uint64(runs) {
			truth := p.Chemistry.Analyte.Approximate.Float64() * (0.95 + 0.1*float64(seed)/float64(runs))
			entries, err := sim.Titrate(r, sim.Student{Seed: seed, Skill: sim.Careful, Answer: truth, Author: "a", Device: "d", Begin: time.Unix(1.79e9, 0)})
			require.NoError(t, err)
			ev := experiment.Evaluate(r, entries, experiment.All)
			require.NotNil(t, ev.Result, "%s %d: %+v", name, seed, ev.Trials)
			require.NotNil(t, ev.Result.Budget)
			if math.Abs(ev.Result.Answer.Value-truth) <= ev.Result.Budget.Expanded {
				inside++
			}
			for _, f := range ev.Findings {
				if f.Severity == finding.Warning {
					blamed = append(blamed, f.Message.String())
				}
			}
			points += len(ev.Points) / len(ev.Runs)
			for _, run := range ev.Runs {
				assert.False(t, run.Open)
				assert.NotEmpty(t, run.Analysis.Used)
			}
		}
		t.Logf("%-10s %d of %d within the stated uncertainty, %d points a run", name, inside, runs, points/runs)
		assert.LessOrEqual(t, len(blamed), runs/20, "%s: %v", name, blamed) // a step that turned out too wide, in one run of twenty
		assert.GreaterOrEqual(t, inside, runs*9/10, name)
		assert.Less(t, points/runs, 70, name)
	}
}

// probed is a run of the weak acid with its points, which a row can change.
func probed(change func(all []journal.Entry) []journal.Entry) evaluation.Evaluation {
	p := practicaltest.Probes()["weak acid"]
	r, _ := p.Check()
	all, _ := sim.Titrate(r, sim.Student{Seed: 3, Skill: sim.Careful, Answer: 0.085, Stop: 1, Author: "a", Device: "d", Begin: time.Unix(1.79e9, 0)})
	for i := range all { // a calibrated meter
		if k, ok := all[i].Part.(journal.Calibration); ok {
			k.Shown = k.Buffer
			all[i].Part = k
		}
	}
	return experiment.Evaluate(r, change(all), experiment.All)
}

func each[P journal.Part](change func(n int, p P) journal.Part) func([]journal.Entry) []journal.Entry {
	return func(all []journal.Entry) []journal.Entry {
		n := 0
		out := []journal.Entry{}
		for _, e := range all {
			if p, ok := e.Part.(P); ok {
				if e.Part = change(n, p); e.Part == nil {
					n++
					continue
				}
				n++
			}
			out = append(out, e)
		}
		return out
	}
}

// What goes wrong with a probe is said, and what is just right is not. Limits: common
// practice, no source.
func TestProbeFindings(t *testing.T) {
	last := func(all []journal.Entry) journal.Entry { return all[len(all)-1] }
	after := func(more ...journal.Part) func([]journal.Entry) []journal.Entry {
		return func(all []journal.Entry) []journal.Entry {
			for _, p := range more {
				all = append(all, journal.Entry{ID: "later-" + string(rune('a'+len(all)-40)) + "0000000", Device: "d", Clock: last(all).Clock + 1, At: last(all).At, Part: p})
			}
			return all
		}
	}
	shown := func(of map[string]string, unit journal.ProbeUnit) func([]journal.Entry) []journal.Entry {
		return each(func(_ int, k journal.Calibration) journal.Part {
			text, ok := of[k.Buffer]
			if !ok {
				return nil
			}
			k.Shown, k.Unit = text, unit
			return k
		})
	}
	point := func(change func(n int, p *journal.ProbePoint)) func([]journal.Entry) []journal.Entry {
		return each(func(n int, p journal.ProbePoint) journal.Part { change(n, &p); return p })
	}
	for _, c := range []struct {
		says, fine string
		change     func([]journal.Entry) []journal.Entry
	}{
		{"probe.uncalibrated", "", each(func(int, journal.Calibration) journal.Part { return nil })},
		{"probe.one-side", "", shown(map[string]string{"4.01": "4.01", "7.00": "7.00"}, journal.ShownPH)},
		{"", "probe.one-side", shown(map[string]string{"7.00": "7.00", "10.01": "10.01"}, journal.ShownPH)},
		{"probe.slope", "", shown(map[string]string{"4.01": "167.0", "7.00": "0", "10.01": "-167.0"}, journal.ShownMV)}, // 94 %
		{"", "probe.slope", shown(map[string]string{"4.01": "170.0", "7.00": "0", "10.01": "-170.0"}, journal.ShownMV)}, // 95.8 %
		{"probe.drift", "", after(journal.Calibration{Buffer: "7.00", Shown: "7.06", Unit: journal.ShownPH, Afterwards: true})},
		{"", "probe.drift", after(journal.Calibration{Buffer: "7.00", Shown: "7.05", Unit: journal.ShownPH, Afterwards: true})},
		{"probe.unsteady", "", point(func(n int, p *journal.ProbePoint) { p.Unsteady = n == 4 })},
		{"probe.temperature", "", point(func(_ int, p *journal.ProbePoint) { p.Temperature = "18.5" })},
		{"", "probe.temperature", point(func(_ int, p *journal.ProbePoint) { p.Temperature = "20.5" })},
		{"probe.indicator-beside", "", point(func(n int, p *journal.ProbePoint) {
			if n == 12 {
				p.Colour = "pink"
			}
		})},
		{"series.no-tail", "", each(func(n int, p journal.ProbePoint) journal.Part {
			if number(p.Burette) > 21.15 {
				return nil
			}
			return p
		})},
		{"probe.no-end", "", each(func(n int, p journal.ProbePoint) journal.Part {
			if number(p.Burette) > 15 {
				return nil
			}
			return p
		})},
		{"series.outlying", "", point(func(n int, p *journal.ProbePoint) {
			if n == 3 {
				p.Shown = "9.00"
			}
		})},
		{"", "series.outlying", func(all []journal.Entry) []journal.Entry { // struck out it counts nowhere
			n := 0
			for i := range all {
				if p, ok := all[i].Part.(journal.ProbePoint); ok {
					if n++; n == 4 {
						p.Shown = "9.00"
						all[i].Part = p
						return append(all, journal.Entry{ID: "struck-out", Device: "d", Clock: last(all).Clock + 1, At: last(all).At, Part: journal.Correction{Replaces: all[i].ID, Withdraw: true, Reason: "not steady"}})
					}
				}
			}
			return all
		}},
		{"probe.direction", "", point(func(_ int, p *journal.ProbePoint) { p.Shown = decimal.Must("14").Sub(decimal.Must(p.Shown)).String() })},
		{"probe.gap", "", func(all []journal.Entry) []journal.Entry {
			for i := len(all) - 6; i < len(all); i++ {
				all[i].At = all[i].At.Add(10 * time.Minute)
			}
			return all
		}},
	} {
		var codes []string
		for _, f := range probed(c.change).Findings {
			codes = append(codes, f.Code)
		}
		if c.says != "" {
			assert.Contains(t, codes, c.says)
		}
		if c.fine != "" {
			assert.NotContains(t, codes, c.fine)
		}
	}
	for _, f := range probed(func(all []journal.Entry) []journal.Entry { return all }).Findings {
		assert.Equal(t, finding.Note, f.Severity, "%s: nothing is wrong with the one that was changed", f.Message)
	}
}

func number(text string) float64 {
	d, _ := decimal.Parse(text)
	return d.Float64()
}

// Points are in ink: struck and corrected they stay, and count as they stand now; the start
// reading counts, and a filling within the run.
func TestPointsAreARecord(t *testing.T) {
	p := practicaltest.Probes()["weak acid"]
	r, _ := p.Check()
	at := time.Unix(1.79e9, 0)
	var all []journal.Entry
	put := func(part journal.Part) string {
		id := "entry-" + string(rune('a'+len(all)/26)) + string(rune('a'+len(all)%26)) + "00"
		all = append(all, journal.Entry{ID: id, Device: "d", Clock: int64(len(all) + 1), At: at, Part: part})
		return id
	}
	run := put(journal.Opening{Type: journal.Accurate})
	ev := experiment.Evaluate(r, all, experiment.All)
	assert.Equal(t, "next.read-start", ev.Next.Code())
	put(journal.Scale{Of: run, Place: journal.Start, Written: "0.50"})
	ev = experiment.Evaluate(r, all, experiment.All)
	assert.Equal(t, "next.probe-first", ev.Next.Code())
	assert.True(t, ev.Next.Entry.Point)
	assert.Equal(t, "0.50", ev.Next.Entry.Proposal)
	put(journal.ProbePoint{Of: run, Burette: "0.50", Shown: "2.45"})
	second := put(journal.ProbePoint{Of: run, Burette: "2.50", Shown: "3.05"})
	ev = experiment.Evaluate(r, all, experiment.All)
	assert.Equal(t, "next.probe-step", ev.Next.Code())
	require.Len(t, ev.Points, 2)
	assert.InDelta(t, 2.0, ev.Points[1].V, 1e-12)
	assert.Equal(t, "4.50", ev.Next.Entry.Proposal, "2 mL on the flat")
	put(journal.Correction{Replaces: second, Value: "2.55 3.07", Reason: "read again"})
	put(journal.Scale{Of: run, Place: journal.BeforeRefill, Written: "2.55"})
	put(journal.Scale{Of: run, Place: journal.AfterRefill, Written: "0.00"})
	third := put(journal.ProbePoint{Of: run, Burette: "1.00", Shown: "3.30"})
	put(journal.Correction{Replaces: third, Withdraw: true, Reason: "not steady"})
	put(journal.ProbePoint{Of: run, Burette: "1,10 mL", Shown: "3,31"})
	ev = experiment.Evaluate(r, all, experiment.All)
	require.Len(t, ev.Points, 4)
	assert.InDelta(t, 2.05, ev.Points[1].V, 1e-12, "as it was corrected")
	assert.Equal(t, "2.50 3.05", ev.Points[1].Struck[0].Text)
	assert.True(t, ev.Points[2].Withdrawn)
	assert.InDelta(t, 3.15, ev.Points[3].V, 1e-12, "over the filling")
	for _, bad := range []journal.Part{journal.ProbePoint{Of: run, Burette: "x", Shown: "3"}, journal.ProbePoint{Of: run, Burette: "1", Shown: ""},
		journal.ProbePoint{Of: run, Burette: "1", Shown: "3", Source: "guess"}, journal.Calibration{Buffer: "7", Shown: "7"}} {
		assert.NotNil(t, bad.Check(), "%+v", bad)
	}
	_, fault := journal.ProbePoint{Of: run, Burette: "1", Shown: "3"}.With("1.00")
	require.NotNil(t, fault)
	assert.Equal(t, "entry.point-pair", fault.Code)
}

// A run without an end gives no titre and is no open trial; constants are kept from a student
// from whom results are withheld.
func TestRunsEndAndWithhold(t *testing.T) {
	p := practicaltest.Probes()["weak acid"]
	r, _ := p.Check()
	all, err := sim.Titrate(r, sim.Student{Seed: 5, Skill: sim.Careful, Answer: 0.085, Stop: 1, Author: "a", Device: "d", Begin: time.Unix(1.79e9, 0)})
	require.NoError(t, err)
	ev := experiment.Evaluate(r, all, experiment.All)
	require.Len(t, ev.Runs, 1)
	require.NotNil(t, ev.Runs[0].Analysis.Fit)
	assert.Equal(t, practical.Fitted, ev.Runs[0].Analysis.Used)
	assert.InDelta(t, 3.75, ev.Runs[0].Analysis.Fit.Constants[0].Value, 0.1, "pKa of formic acid, CRC Handbook (from memory); the probe's error is calibrated out")
	assert.NotNil(t, ev.Runs[0].Half)
	assert.InDelta(t, 0.085*25/0.1012, ev.Trials[0].Titre.Float64(), 0.15)
	assert.Less(t, ev.Trials[0].Titre.Float64(), ev.Trials[0].Ran.Float64())
	own := experiment.Evaluate(r, all, experiment.Record)
	assert.Empty(t, own.Runs[0].Analysis.Fit.Constants)
	assert.Nil(t, own.Runs[0].Analysis.Half)
	assert.Nil(t, own.Runs[0].Half)
	assert.NotEmpty(t, experiment.Evaluate(r, all, experiment.All).Runs[0].Analysis.Fit.Constants, "only this reader's copy")
	short := each(func(n int, p journal.ProbePoint) journal.Part {
		if n > 5 {
			return nil
		}
		return p
	})(all)
	ev = experiment.Evaluate(r, short, experiment.All)
	assert.Equal(t, evaluation.OutNoEnd, ev.Trials[0].Reason)
	assert.Nil(t, ev.Trials[0].Titre)
	assert.NotEmpty(t, ev.Next.Entry.Opens, "the next one can begin")
}

// What a practical says of its probe is checked; defaults are explicit.
func TestProbeOfAPractical(t *testing.T) {
	d := decimal.Must
	for _, c := range []struct {
		at     string
		change func(p *practical.Practical)
	}{
		{"probe.fine", func(p *practical.Practical) { p.Probe.Fine = d("3") }},
		{"probe.step", func(p *practical.Practical) { p.Probe.Step = d("20.01") }},
		{"probe.steady", func(p *practical.Practical) { p.Probe.Steady = d("1000.1") }},
		{"probe.flask", func(p *practical.Practical) { p.Probe.Flask = d("-1") }},
		{"probe.tail", func(p *practical.Practical) { p.Probe.Tail = 21 }},
		{"probe.way", func(p *practical.Practical) { p.Probe.Way = "often" }},
		{"probe.use", func(p *practical.Practical) { p.Probe.Use = "ruler" }},
		{"probe.shows", func(p *practical.Practical) { p.Probe.Shows = "V" }},
		{"probe.shows", func(p *practical.Practical) { p.Probe = practical.Probe{Tail: 3} }},
		{"probe.buffers[0]", func(p *practical.Practical) { p.Probe.Buffers = []decimal.Decimal{d("15")} }},
	} {
		p := practicaltest.Probes()["weak acid"]
		c.change(&p)
		_, fault := p.Check()
		require.NotNil(t, fault, c.at)
		assert.Equal(t, c.at, fault.Path)
	}
	edge := practicaltest.Probes()["weak acid"]
	edge.Probe.Step, edge.Probe.Fine, edge.Probe.Steady, edge.Probe.Tail = d("20"), d("20"), d("1000"), 20
	_, fault := edge.Check()
	require.Nil(t, fault, "on the limits")
	r, fault := practicaltest.Probes()["carbonate"].Check()
	require.Nil(t, fault)
	assert.Equal(t, []any{"0.50", "0.20", 3, "0.05"}, []any{r.Probe.Step.String(), r.Probe.Fine.String(), r.Probe.Tail, r.Probe.Steady.String()})
	plain, _ := practicaltest.Plain().Check()
	assert.False(t, plain.Probed())
}

// A plan says how many points a run takes and how much titrant: what a careful student then
// needs.
func TestPlannedRun(t *testing.T) {
	for name, p := range practicaltest.Probes() {
		r, _ := p.Check()
		points, ran, ok := followed.Planned(r)
		require.True(t, ok, name)
		all, err := sim.Titrate(r, sim.Student{Seed: 1, Skill: sim.Careful, Stop: 1, Author: "a", Device: "d", Begin: time.Unix(1.79e9, 0)})
		require.NoError(t, err)
		ev := experiment.Evaluate(r, all, experiment.Record)
		assert.InDelta(t, len(ev.Points), points, 10, name)
		assert.InDelta(t, ev.Trials[0].Ran.Float64(), ran, 3, name)
	}
}

// A calibration counts for the runs after it; a run keeps the one that it was made with.
func TestCalibrationsInOrder(t *testing.T) {
	p := practicaltest.Probes()["weak acid"]
	r, _ := p.Check()
	var all []journal.Entry
	put := func(part journal.Part) string {
		id := "entry-" + string(rune('a'+len(all))) + "000"
		all = append(all, journal.Entry{ID: id, Device: "d", Clock: int64(len(all) + 1), At: time.Unix(1.79e9, 0), Part: part})
		return id
	}
	run := func() {
		id := put(journal.Opening{Type: journal.Accurate})
		put(journal.Scale{Of: id, Place: journal.Start, Written: "0.00"})
		put(journal.ProbePoint{Of: id, Burette: "0.00", Shown: "3.00"})
		put(journal.Scale{Of: id, Place: journal.End, Written: "0.00"})
	}
	buffer := func(shown string) { put(journal.Calibration{Buffer: "7.00", Shown: shown, Unit: journal.ShownPH}) }
	values := func() (out []float64) {
		for _, q := range experiment.Evaluate(r, all, experiment.Record).Points {
			out = append(out, q.Y)
		}
		return out
	}
	run()
	assert.Equal(t, []float64{3}, values(), "as it was shown")
	buffer("7.10")
	assert.InDeltaSlice(t, []float64{2.90}, values(), 1e-9, "written later, but the only one")
	run()
	buffer("7.20")
	run()
	assert.InDeltaSlice(t, []float64{2.90, 2.90, 2.80}, values(), 1e-9)
}

// The calibration backwards is what the probe shows.
func TestUncorrected(t *testing.T) {
	ev := probed(func(all []journal.Entry) []journal.Entry {
		return each(func(_ int, k journal.Calibration) journal.Part {
			k.Shown = map[string]string{"4.01": "4.11", "7.00": "7.05", "10.01": "9.99"}[k.Buffer]
			return k
		})(all)
	})
	require.True(t, ev.Probe.Corrects)
	for _, p := range ev.Points {
		assert.InDelta(t, number(p.Shown), ev.Probe.Uncorrected(p.Y), 1e-9)
	}
}

// A probe that shows mV and was read in one buffer is turned into pH by Nernst's slope; a drift
// is looked for behind the calibration; a slope goes with its temperature.
func TestCalibrationsByTheChemistry(t *testing.T) {
	at := func(shows journal.ProbeUnit, parts ...journal.Part) evaluation.Evaluation {
		p := practicaltest.Probes()["weak acid"]
		p.Probe.Shows = shows
		r, fault := p.Check()
		require.Nil(t, fault)
		var all []journal.Entry
		for i, part := range parts {
			all = append(all, journal.Entry{ID: "entry-" + string(rune('a'+i)) + "00", Device: "d", Clock: int64(i + 1), At: time.Unix(1.79e9, 0), Part: part})
		}
		return experiment.Evaluate(r, all, experiment.All)
	}
	buffer := func(buffer, shown string, unit journal.ProbeUnit, celsius string, afterwards bool) journal.Part {
		return journal.Calibration{Buffer: buffer, Shown: shown, Unit: unit, Temperature: celsius, Afterwards: afterwards}
	}
	one := at(journal.ShownMV, buffer("7.00", "10", journal.ShownMV, "", false), journal.Opening{Type: journal.Accurate},
		journal.Scale{Of: "entry-b00", Place: journal.Start, Written: "0.00"}, journal.ProbePoint{Of: "entry-b00", Burette: "0.00", Shown: "187.48"})
	assert.InDelta(t, 4.00, one.Points[0].Y, 0.001, "177.48 mV are three pH at 25 °C")
	codes := func(ev evaluation.Evaluation) (out []string) {
		for _, f := range ev.Findings {
			out = append(out, f.Code)
		}
		return out
	}
	assert.NotContains(t, codes(at(journal.ShownPH, buffer("7.00", "7.15", journal.ShownPH, "", false), buffer("7.00", "7.16", journal.ShownPH, "", true))), "probe.drift",
		"it lay off by as much before")
	assert.Contains(t, codes(at(journal.ShownPH, buffer("7.00", "7.15", journal.ShownPH, "", false), buffer("7.00", "7.00", journal.ShownPH, "", true))), "probe.drift")
	cold := at(journal.ShownPH, buffer("7.00", "0", journal.ShownMV, "10", false), buffer("4.00", "164.3", journal.ShownMV, "10", false))
	assert.InDelta(t, 97.5, cold.Probe.Slope, 0.1, "of 56.18 mV at 10 °C")
	assert.NotContains(t, codes(cold), "probe.slope")
}

// A filling of which one reading is missing takes the points behind it out, and says so: they
// lie at no volume that is known. Without a calibration no constant is told.
func TestWhatIsNotToldOfARun(t *testing.T) {
	half := probed(func(all []journal.Entry) []journal.Entry {
		out, n := []journal.Entry{}, 0
		for _, e := range all {
			if p, ok := e.Part.(journal.ProbePoint); ok {
				if n++; n == 8 {
					out = append(out, journal.Entry{ID: "half-a-filling", Device: "d", Clock: e.Clock, At: e.At, Part: journal.Scale{Of: p.Of, Place: journal.AfterRefill, Written: "0.00"}})
					e.Clock++
				}
			}
			if n > 8 {
				e.Clock++
			}
			out = append(out, e)
		}
		return out
	})
	found := false
	for _, f := range half.Findings {
		found = found || f.Code == "probe.volume-lost"
	}
	assert.True(t, found, "%+v", half.Findings)
	assert.Empty(t, half.Runs[0].Analysis.Used)
	blind := probed(each(func(int, journal.Calibration) journal.Part { return nil }))
	assert.NotEmpty(t, blind.Runs[0].Analysis.Used)
	assert.Empty(t, blind.Runs[0].Analysis.Fit.Constants)
	assert.Nil(t, blind.Runs[0].Half)
	aside := probed(func(all []journal.Entry) []journal.Entry {
		last := all[len(all)-1]
		trial := last.Part.Trial()
		return append(all[:len(all)-8], journal.Entry{ID: "set-aside", Device: "d", Clock: last.Clock + 1, At: last.At, Part: journal.Exclusion{Of: trial, Reason: "spilt"}})
	})
	assert.Empty(t, aside.Runs[0].Notes)
}

// The end on a curve brings its own uncertainty into the answer, in the place of the last drop:
// of the mean of two runs each counts by half.
func TestCurveInTheBudget(t *testing.T) {
	p := practicaltest.Probes()["weak acid"]
	r, _ := p.Check()
	all, err := sim.Titrate(r, sim.Student{Seed: 2, Skill: sim.Careful, Answer: 0.085, Author: "a", Device: "d", Begin: time.Unix(1.79e9, 0)})
	require.NoError(t, err)
	ev := experiment.Evaluate(r, all, experiment.All)
	require.NotNil(t, ev.Result)
	sum, n := 0.0, 0.0
	for _, trial := range ev.Trials {
		if trial.Counts {
			sum, n = sum+trial.Standard*trial.Standard, n+1
		}
	}
	want := math.Sqrt(sum) / n * ev.Result.Answer.Value / ev.Agreement.Mean.Float64()
	codes := map[string]float64{}
	for _, c := range ev.Result.Budget.Contributions {
		codes[c.Code] = math.Abs(c.Answer)
	}
	assert.InEpsilon(t, want, codes["curve"], 0.02)
	assert.NotContains(t, codes, "drop")
	assert.Contains(t, codes, "burette", "its tolerance stays")
}
