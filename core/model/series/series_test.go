package series_test

import (
	"encoding/json"
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/chemistry/equilibrium"
	"exactflask/core/model/series"
	"exactflask/core/record/practical"
)

// synthetic is a run whose truth is known.
type synthetic struct {
	end, pKa, offset float64
	weak, base       bool
	noise, burette   float64
	wide, near, fine float64 // steps
}

// readings are made by package equilibrium, which the analysis does not use.
func (s synthetic) run(r *rand.Rand) series.Series {
	const flask, c = 25.0, 0.1
	amount := c * s.end / flask
	t := s.titration(flask, c, amount)
	out := series.Series{Kind: series.PH, Flask: flask, Titrant: c, Burette: max(s.burette, 1e-6), Analyte: series.Strong}
	if s.weak {
		out.Analyte = series.Weak
	}
	v := r.Float64() * s.near
	for v < 1.5*s.end {
		out.Points = append(out.Points, series.Measured{Volume: v + s.burette*r.NormFloat64(), Reading: t.PH(v) + s.offset + s.noise*r.NormFloat64()})
		switch d := math.Abs(v - s.end); {
		case d < 4*s.fine:
			v += s.fine
		case d < 3:
			v += s.near
		default:
			v += s.wide
		}
	}
	return out
}

// The stated intervals of 95 % contain the truth in 93 to 97 % of 1,000 runs, by each way.
func TestCoverage(t *testing.T) {
	r := rand.New(rand.NewPCG(15, 2026))
	inside, told := map[practical.Method]int{}, map[practical.Method]int{}
	pKa, tried := 0, 0
	const runs = 1000
	for n := range runs {
		s := synthetic{end: 15 + 15*r.Float64(), pKa: 3.5 + 2*r.Float64(), offset: 0.05 * r.NormFloat64(), weak: n%2 == 0, base: n%4 >= 2, noise: 0.005 + 0.015*r.Float64(), burette: 0.01,
			wide: 1 + r.Float64(), near: 0.5, fine: 0.1 + 0.2*r.Float64()}
		run := s.run(r)
		a := series.Analyse(run)
		for _, e := range a.Ends {
			if e.Why == nil {
				told[e.Method]++
				if e.Low <= s.end && s.end <= e.High {
					inside[e.Method]++
				}
			}
		}
		if a.Fit != nil && s.weak {
			tried++
			want := s.pKa
			if s.base {
				want = equilibrium.PKw - s.pKa
			}
			if c := a.Fit.Constants[0]; c.Low <= want && want <= c.High {
				pKa++
			}
		}
	}
	for _, m := range practical.Methods {
		share := 100 * float64(inside[m]) / float64(told[m])
		t.Logf("%-18s %4d told, %.1f %% contain the truth", m, told[m], share)
		assert.Greater(t, told[m], runs*8/10, m)
		assert.InDelta(t, 95, share, 2, "%s", m)
	}
	t.Logf("pKa %d of %d", pKa, tried)
	assert.InDelta(t, 95, 100*float64(pKa)/float64(tried), 3)
}

// titration is that of an acid with a strong base, or the other way about.
func (s synthetic) titration(flask, c, amount float64) equilibrium.Titration {
	acid, base := equilibrium.Substance{Strong: -1}, equilibrium.Substance{Strong: 1}
	sample, titrant := acid, base
	if s.weak {
		sample = equilibrium.Substance{PKa: []float64{s.pKa}}
	}
	if s.base {
		sample, titrant = base, acid
		if s.weak {
			sample = equilibrium.Substance{Top: 1, PKa: []float64{equilibrium.PKw - s.pKa}}
		}
	}
	return equilibrium.Titration{Sample: equilibrium.Mixture{{Substance: sample, Concentration: amount}}, Volume: flask,
		Titrant: equilibrium.Mixture{{Substance: titrant, Concentration: c}}}
}

// A run without noise gives its end and pKa back, acid or base, whatever the probe's
// offset; the weak acid is that of OpenStax Chemistry 2e, chapter 14.7 (from memory:
// 25.00 mL of 0.100 mol/L acetic acid, Ka 1.8e-5, with 0.100 mol/L base: pH 4.74 half-way,
// 8.72 at 25.00 mL).
func TestWithoutNoise(t *testing.T) {
	for _, base := range []bool{false, true} {
		for _, weak := range []bool{false, true} {
			s := synthetic{end: 25, pKa: -math.Log10(1.8e-5), offset: 0.1, weak: weak, base: base, wide: 2, near: 0.5, fine: 0.1}
			run := s.run(rand.New(rand.NewPCG(1, 1)))
			run.Burette = 0.02
			a := series.Analyse(run)
			require.NotNil(t, a.Fit)
			assert.Equal(t, practical.Fitted, a.Used)
			assert.InDelta(t, 25, a.Volume, 1e-3)
			if weak && !base {
				assert.InDelta(t, 4.74, a.Fit.Constants[0].Value, 0.01)
				assert.InDelta(t, 4.74+0.1, a.Half.Reading, 0.02)
			}
			assert.InDelta(t, 0.1, a.Fit.Offset, 0.01)
			for _, e := range a.Ends {
				require.Nil(t, e.Why, e.Method)
				assert.InDelta(t, 25, e.Volume, 0.1, "%s base %v weak %v", e.Method, base, weak)
				assert.True(t, e.Agrees, e.Method)
			}
		}
	}
	assert.InDelta(t, 8.72, synthetic{end: 25, pKa: -math.Log10(1.8e-5), weak: true}.titration(25, 0.1, 0.1).PH(25), 0.01)
}

// What was done badly is said, with the volumes that should have been taken.
func TestFindings(t *testing.T) {
	good := synthetic{end: 20, pKa: 4.7, weak: true, noise: 0.003, wide: 2, near: 0.5, fine: 0.2}
	r := func() series.Series { return good.run(rand.New(rand.NewPCG(3, 3))) }
	codes := func(r series.Series) (out []string) {
		for _, f := range series.Analyse(r).Findings {
			out = append(out, f.Code)
		}
		return out
	}
	assert.Empty(t, codes(r()))
	coarse := good
	coarse.wide, coarse.near, coarse.fine = 2, 2, 2
	assert.Contains(t, codes(coarse.run(rand.New(rand.NewPCG(3, 3)))), "series.coarse")
	short := r()
	for i, p := range short.Points {
		if p.Volume > 20.3 {
			short.Points = short.Points[:i+1]
			break
		}
	}
	assert.Contains(t, codes(short), "series.no-tail")
	out := r()
	out.Points[5].Reading += 1
	assert.Contains(t, codes(out), "series.outlying")
	mixed := r()
	mixed.Points[2], mixed.Points[3] = mixed.Points[3], mixed.Points[2]
	assert.Contains(t, codes(mixed), "series.order")
	for _, c := range []struct {
		run  series.Series
		why  string
		none practical.Method
	}{
		{series.Series{Kind: series.PH, Points: r().Points[:4]}, "series.few", practical.Steepest},
		{series.Series{Kind: series.PH, Points: []series.Measured{{0, 7}, {1, 7}, {2, 7}, {3, 7}, {4, 7}, {5, 7}}}, "series.no-jump", practical.SecondZero},
		{series.Series{Kind: series.PH, Points: r().Points}, "series.unknown-analyte", practical.Fitted},
		{series.Series{Kind: series.MV, Points: r().Points, Analyte: series.Weak, Flask: 25, Titrant: 0.1}, "series.not-ph", practical.GranAfter},
	} {
		for _, e := range series.Analyse(c.run).Ends {
			if e.Method == c.none {
				require.NotNil(t, e.Why, c.why)
				assert.Equal(t, c.why, e.Why.Code)
			}
		}
	}
}

// Points logged so closely that neighbours lie within their own noise give the same.
func TestLoggedClosely(t *testing.T) {
	s := synthetic{end: 20, pKa: 4.7, weak: true, noise: 0.01, burette: 0.005, wide: 0.015, near: 0.015, fine: 0.015}
	a := series.Analyse(s.run(rand.New(rand.NewPCG(9, 1))))
	require.Len(t, a.Jumps, 1)
	require.Equal(t, practical.Fitted, a.Used)
	assert.InDelta(t, 20, a.Volume, 0.01)
	assert.InDelta(t, 4.7, a.Fit.Constants[0].Value, 0.005)
	for _, e := range a.Ends {
		require.Nil(t, e.Why)
		assert.InDelta(t, 20, e.Volume, 0.1, e.Method)
	}
}

// Readings that only tremble, or climb evenly, have no end: none is told.
func TestNoEndIsTold(t *testing.T) {
	told := 0
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 4))
		run := series.Series{Kind: series.PH, Analyte: series.Weak, Flask: 25, Titrant: 0.1}
		for v := 0.0; v < 40; v++ {
			run.Points = append(run.Points, series.Measured{Volume: v, Reading: 5 + 0.05*v*float64(seed%2) + 0.02*r.NormFloat64()})
		}
		if series.Analyse(run).Used != "" {
			told++
		}
	}
	assert.LessOrEqual(t, told, 3)
}

// A run of a few points has an end where one step of it is a jump, with an uncertainty as wide as
// the points are coarse; which way cannot be used says for want of what. Readings of a school's run
// with 0.1 mol/L hydroxide, between two of which the end lies.
func TestFewPointsHaveAnEnd(t *testing.T) {
	read := []series.Measured{{0.21, 2.86}, {3.34, 3.80}, {6.69, 4.17}, {24.43, 5.62}, {27.31, 7.20}, {27.37, 7.51}, {27.46, 8.28}, {27.51, 9.23},
		{27.59, 9.61}, {30.30, 11.61}, {38.19, 12.13}, {41.29, 12.21}, {44.39, 12.28}}
	a := series.Analyse(series.Series{Kind: series.PH, Analyte: series.Weak, Flask: 25, Titrant: 0.1, Points: read})
	require.Equal(t, practical.Fitted, a.Used)
	for _, e := range a.Ends {
		if e.Method == practical.GranBefore {
			require.NotNil(t, e.Why)
			assert.Equal(t, "series.few", e.Why.Code)
			continue
		}
		require.Nil(t, e.Why, e.Method)
		if e.Method != practical.GranAfter {
			assert.InDelta(t, 27.485, e.Volume, 0.025, e.Method)
			assert.InDelta(t, 0.045, (e.High-e.Low)/2, 0.02, e.Method)
		}
	}
	// Without the points that stand in the jump it is said to be as coarse as they are.
	coarse := series.Analyse(series.Series{Kind: series.PH, Flask: 25, Titrant: 0.1, Points: append(slices.Clone(read[:4]), read[9:]...)})
	for _, e := range coarse.Ends {
		if e.Method == practical.Steepest && e.Why == nil {
			assert.True(t, e.Low < 25 && e.High > 29, "%+v", e)
		}
	}
	// A buffer alone has none, however evenly it climbs.
	smooth := synthetic{end: 25, pKa: 4.7, weak: true}
	exact := smooth.titration(25, 0.1, 0.1)
	for _, last := range []float64{12, 18, 23} {
		run := series.Series{Kind: series.PH, Analyte: series.Weak, Flask: 25, Titrant: 0.1}
		for v := 1.0; v <= last; v += last / 10 {
			run.Points = append(run.Points, series.Measured{Volume: v, Reading: exact.PH(v)})
		}
		assert.Empty(t, series.Analyse(run).Jumps, "up to %g mL", last)
	}
}

// Two equivalence points are two jumps, and the model of one is not laid through them.
func TestTwoJumps(t *testing.T) {
	two := equilibrium.Titration{Sample: equilibrium.Mixture{{Substance: equilibrium.Substance{PKa: []float64{2.16, 7.21}}, Concentration: 0.08}}, Volume: 25,
		Titrant: equilibrium.Mixture{{Substance: equilibrium.Substance{Strong: 1}, Concentration: 0.1}}}
	run := series.Series{Kind: series.PH, Analyte: series.Weak, Flask: 25, Titrant: 0.1}
	for v := 0.0; v < 60; v += 0.4 {
		run.Points = append(run.Points, series.Measured{Volume: v, Reading: two.PH(v)})
	}
	a := series.Analyse(run)
	require.Len(t, a.Jumps, 2)
	assert.InDelta(t, 20, a.Jumps[0], 0.5)
	assert.InDelta(t, 40, a.Jumps[1], 0.5)
	assert.Equal(t, practical.SecondZero, a.Used)
	assert.Nil(t, a.Fit)
}

// Whatever is read, nothing that is said is no number.
func FuzzAnalyse(f *testing.F) {
	f.Add(uint64(1), 10, true)
	f.Fuzz(func(t *testing.T, seed uint64, n int, wild bool) {
		r := rand.New(rand.NewPCG(seed, 2))
		run := series.Series{Kind: series.PH, Analyte: series.Weak, Flask: 25, Titrant: 0.1}
		for range min(max(n, 0), 300) {
			p := series.Measured{Volume: 50 * r.Float64(), Reading: 14 * r.Float64()}
			if wild && r.IntN(5) == 0 {
				p = series.Measured{Volume: math.Exp(40 * r.NormFloat64()), Reading: []float64{math.NaN(), math.Inf(1), -1e300, 0}[r.IntN(4)]}
			}
			run.Points = append(run.Points, p)
		}
		a := series.Analyse(run)
		_, err := json.Marshal(a) // which takes no NaN and nothing infinite
		assert.NoError(t, err)
		for _, e := range a.Ends {
			if e.Why == nil {
				assert.LessOrEqual(t, e.Low, e.Volume, "%+v", e)
				assert.LessOrEqual(t, e.Volume, e.High, "%+v", e)
			}
		}
	})
}

// BenchmarkAnalyse reads 2,000 points, the fit with them.
func BenchmarkAnalyse(b *testing.B) {
	s := synthetic{end: 20, pKa: 4.7, weak: true, noise: 0.01, burette: 0.01, wide: 0.015, near: 0.015, fine: 0.015}
	run := s.run(rand.New(rand.NewPCG(9, 1)))
	require.NotNil(b, series.Analyse(run).Fit)
	for b.Loop() {
		series.Analyse(run)
	}
	b.ReportMetric(float64(len(run.Points)), "points")
	run.Analyte = series.Unknown
	begun := time.Now()
	series.Analyse(run)
	b.ReportMetric(float64(time.Since(begun).Microseconds())/1000, "ms/without-fit")
}

// The model takes several steps, a weak titrant, carbonate in the hydroxide and another
// temperature; each row has no noise, and gives back what it was made with.
func TestModels(t *testing.T) {
	strong, acid := equilibrium.Substance{Strong: 1}, equilibrium.Substance{Strong: -1}
	phosphoric := equilibrium.Substance{PKa: []float64{2.16, 7.21, 12.32}}
	carbonate := equilibrium.Substance{Strong: 2, PKa: []float64{6.35, 10.33}}
	phthalate := equilibrium.Substance{Strong: 1, PKa: []float64{2.95, 5.41}}
	for name, c := range map[string]struct {
		sample, titrant equilibrium.Substance
		ratio, c        float64 // moles of the sample for one of the titrant
		steps           int
		end             float64
		pKa             map[int]float64
	}{
		"phosphoric acid to its first end":  {phosphoric, strong, 1, 0.1, 1, 12, map[int]float64{1: 2.16, 2: 7.21}},
		"phosphoric acid to its second end": {phosphoric, strong, 0.5, 0.1, 2, 24, map[int]float64{1: 2.16, 2: 7.21}},
		"carbonate to carbonic acid":        {carbonate, acid, 0.5, 0.1, 2, 24, map[int]float64{1: 6.35, 2: 10.33}},
		"carbonate to hydrogencarbonate":    {carbonate, acid, 1, 0.1, 1, 12, map[int]float64{1: 6.35, 2: 10.33}},
		"phthalate into hydroxide":          {strong, phthalate, 1, 0.1, 1, 20, nil},
	} {
		t.Run(name, func(t *testing.T) {
			strength := c.c * c.end * c.ratio / 25
			real := equilibrium.Titration{Sample: equilibrium.Mixture{{Substance: c.sample, Concentration: strength}}, Volume: 25, Titrant: equilibrium.Mixture{{Substance: c.titrant, Concentration: c.c}}}
			start := c.sample
			start.PKa = nil
			for _, p := range c.sample.PKa {
				start.PKa = append(start.PKa, p+0.15)
			}
			run := series.Series{Kind: series.PH, Flask: 25, Titrant: c.c, EndNumber: c.steps, AcidBase: &series.AcidBase{Sample: start, Titrant: c.titrant, Ratio: c.ratio}}
			for v := 0.0; v < 32; v += 0.2 {
				run.Points = append(run.Points, series.Measured{Volume: v, Reading: real.PH(v) + 0.05})
			}
			a := series.Analyse(run)
			require.Equal(t, practical.Fitted, a.Used, "%+v", a.Ends)
			assert.InDelta(t, c.end, a.Volume, 0.002)
			assert.InDelta(t, 0.05, a.Fit.Offset, 0.002)
			for _, k := range a.Fit.Constants {
				if want, ok := c.pKa[k.Number]; ok {
					assert.InDelta(t, want, k.Value, 0.01, "pKa %d", k.Number)
					assert.InDelta(t, want+0.15, k.Table, 1e-9)
				}
			}
			assert.Empty(t, a.Findings)
		})
	}
	t.Run("carbonate in the hydroxide", func(t *testing.T) {
		const share, c, end = 0.04, 0.1, 20.0
		real := equilibrium.Titration{Sample: equilibrium.Mixture{{Substance: acid, Concentration: c * end * (1 - share/2) / 25}}, Volume: 25,
			Titrant: equilibrium.Mixture{{Substance: strong, Concentration: c}, {Substance: equilibrium.Substance{PKa: []float64{6.35, 10.33}}, Concentration: c * share / 2}}}
		run := series.Series{Kind: series.PH, Flask: 25, Titrant: c, AcidBase: &series.AcidBase{Sample: acid, Titrant: strong, Ratio: 1, Carbonate: true}}
		for v := 0.0; v < 30; v += 0.2 {
			run.Points = append(run.Points, series.Measured{Volume: v, Reading: real.PH(v)})
		}
		a := series.Analyse(run)
		require.NotNil(t, a.Fit)
		assert.InDelta(t, end, a.Ends[0].Volume, 0.005)
		assert.InDelta(t, share, a.Fit.Constants[0].Value, 0.001)
	})
	assert.InDelta(t, 14.2516, equilibrium.PKwAt(17.5), 1e-3)
	assert.InDelta(t, 59.16, 1000*equilibrium.Nernst(25), 0.005)
}

// Redox: of 1,000 noisy runs of two couples the intervals hold the truth; half-way stands
// the formal potential of the sample.
func TestRedoxCoverage(t *testing.T) {
	r := rand.New(rand.NewPCG(15, 7))
	inside, potential, told := 0, 0, 0
	for n := range 1000 {
		end, e1, e2 := 15+15*r.Float64(), 650+60*r.Float64(), 1400+60*r.Float64()
		if n%2 == 1 {
			e1, e2 = e2, e1
		}
		truth := equilibrium.RedoxTitration{Sample: equilibrium.Couple{Potential: e1 / 1000, Electrons: 1}, Titrant: equilibrium.Couple{Potential: e2 / 1000, Electrons: 1},
			Concentration: 0.1 * end / 25, Volume: 25, TitrantStrength: 0.1, Oxidant: n%2 == 0}
		run := series.Series{Kind: series.MV, Flask: 25, Titrant: 0.1, Burette: 0.01, Redox: &series.Redox{Sample: equilibrium.Couple{Electrons: 1}, Titrant: equilibrium.Couple{Electrons: 1}}}
		for v := 0.5 + r.Float64(); v < 1.4*end; {
			run.Points = append(run.Points, series.Measured{Volume: v + 0.01*r.NormFloat64(), Reading: 1000*truth.At(v) + r.NormFloat64()})
			v += map[bool]float64{true: 0.2, false: 1.2}[math.Abs(v-end) < 1]
		}
		a := series.Analyse(run)
		if a.Ends[0].Why != nil {
			continue
		}
		told++
		if a.Ends[0].Low <= end && end <= a.Ends[0].High {
			inside++
		}
		if c := a.Fit.Constants[0]; c.Low <= e1 && e1 <= c.High {
			potential++
		}
		assert.InDelta(t, e1, a.Half.Reading, 6)
	}
	t.Logf("redox: %d told, end %.1f %%, formal potential %.1f %%", told, 100*float64(inside)/float64(told), 100*float64(potential)/float64(told))
	assert.Greater(t, told, 950)
	assert.InDelta(t, 95, 100*float64(inside)/float64(told), 2.2)
	assert.InDelta(t, 95, 100*float64(potential)/float64(told), 3)
}

// The table of a strong and of a weak acid in OpenStax Chemistry 2e, 14.7 (from memory: 25.00
// mL of 0.100 mol/L with 0.100 mol/L sodium hydroxide; every pH agrees with the closed formula
// to 0.01) ends at 25.00 mL by every way, and the weak acid has a pKa of 4.74.
func TestPublishedTable(t *testing.T) {
	volumes := []float64{0, 5, 10, 15, 22, 24, 24.5, 24.9, 25, 25.1, 25.5, 26, 28, 30, 35, 40, 45, 50}
	for analyte, readings := range map[series.Analyte][]float64{
		series.Strong: {1.00, 1.18, 1.37, 1.60, 2.20, 2.69, 3.00, 3.70, 7.00, 10.30, 11.00, 11.29, 11.75, 11.96, 12.22, 12.36, 12.46, 12.52},
		series.Weak:   {2.87, 4.14, 4.57, 4.92, 5.61, 6.13, 6.44, 7.14, 8.72, 10.30, 11.00, 11.29, 11.75, 11.96, 12.22, 12.36, 12.46, 12.52},
	} {
		run := series.Series{Kind: series.PH, Analyte: analyte, Flask: 25, Titrant: 0.1, PKw: 14}
		for i, v := range volumes {
			run.Points = append(run.Points, series.Measured{Volume: v, Reading: readings[i]})
		}
		a := series.Analyse(run)
		for _, e := range a.Ends {
			if e.Method == practical.GranBefore {
				continue // too few of its points lie where the line is straight
			}
			require.Nil(t, e.Why, "%s %s: %v", analyte, e.Method, e.Why)
			assert.InDelta(t, 25.00, e.Volume, 0.06, "%s %s", analyte, e.Method)
		}
		assert.InDelta(t, 25.00, a.Volume, 0.01)
		if analyte == series.Weak {
			assert.InDelta(t, 4.74, a.Fit.Constants[0].Value, 0.02)
		}
	}
}

// Of carbonate, of which one jump alone was reached, it is not told which one where nothing
// says; half-way to the expected end it is the earlier one. An acid whose steps run together
// has one jump, and that is its end, however weak the sample is.
func TestOneJumpOfSeveralSteps(t *testing.T) {
	acid, base := equilibrium.Substance{Strong: -1}, equilibrium.Substance{Strong: 1}
	for _, c := range []struct {
		name            string
		sample, titrant equilibrium.Substance
		end, until      float64
		expected        float64
		used            bool
		says            bool
	}{
		{"carbonate, the first jump", equilibrium.Substance{Strong: 2, PKa: []float64{6.35, 10.33}}, acid, 24, 16, 24, false, false},
		{"carbonate, nothing expected", equilibrium.Substance{Strong: 2, PKa: []float64{6.35, 10.33}}, acid, 24, 16, 0, true, true},
		{"carbonate, three quarters", equilibrium.Substance{Strong: 2, PKa: []float64{6.35, 10.33}}, acid, 24, 16, 16, true, true},
		{"citric, a weak sample", equilibrium.Substance{PKa: []float64{3.13, 4.76, 6.40}}, base, 20, 28, 29, true, false},
	} {
		steps := len(c.sample.PKa)
		real := equilibrium.Titration{Sample: equilibrium.Mixture{{Substance: c.sample, Concentration: 0.1 * c.end / 25 / float64(steps)}}, Volume: 25, Titrant: equilibrium.Mixture{{Substance: c.titrant, Concentration: 0.1}}}
		run := series.Series{Kind: series.PH, Flask: 25, Titrant: 0.1, EndNumber: steps, Expected: c.expected, AcidBase: &series.AcidBase{Sample: c.sample, Titrant: c.titrant, Ratio: 1 / float64(steps)}}
		for v := 0.0; v < c.until; v += 0.2 {
			run.Points = append(run.Points, series.Measured{Volume: v, Reading: real.PH(v)})
		}
		a := series.Analyse(run)
		require.Len(t, a.Jumps, 1, c.name)
		assert.Equal(t, c.used, a.Used != "", c.name)
		says := false
		for _, f := range a.Findings {
			says = says || f.Code == "series.which"
		}
		assert.Equal(t, c.says, says, c.name)
	}
}

// A probe that drifts leaves a pattern behind the model: that is said, and the second
// derivative counts, unless the practical wants the model all the same.
func TestPattern(t *testing.T) {
	run := synthetic{end: 20, pKa: 4.7, weak: true, noise: 0.003, wide: 1, near: 0.5, fine: 0.1}.run(rand.New(rand.NewPCG(6, 6)))
	for i := range run.Points {
		run.Points[i].Reading += 0.15 * math.Sin(run.Points[i].Volume/4)
	}
	a := series.Analyse(run)
	require.NotNil(t, a.Fit)
	assert.False(t, a.Fit.Random)
	assert.Equal(t, practical.SecondZero, a.Used)
	said := false
	for _, f := range a.Findings {
		said = said || f.Code == "series.residuals"
	}
	assert.True(t, said)
	run.Prefer = practical.Fitted
	assert.Equal(t, practical.Fitted, series.Analyse(run).Used)
}

// A run in coarse steps, with one point in the jump or none, says how wide it is: of 200 such runs
// with errors of reading and burette at most one lies outside twice its interval (four were asked for).
func TestCoarseSteps(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 9))
	for _, c := range []struct{ wide, near, fine, noise, burette float64 }{{2, 2, 2, 0.01, 0.02}, {1, 1, 1, 0.01, 0.02}, {2, 1, 1, 0.005, 0.01}, {2, 1, 0.3, 0.005, 0.03}, {3, 3, 3, 0.02, 0.02}} {
		outside, beyond, worst, told := 0, 0, 0.0, 0
		for n := range 200 {
			s := synthetic{end: 15 + 15*r.Float64(), pKa: 3.5 + 2*r.Float64(), weak: n%2 == 0, noise: c.noise, burette: c.burette, wide: c.wide, near: c.near, fine: c.fine}
			a := series.Analyse(s.run(r))
			for _, e := range a.Ends {
				if e.Method != a.Used || a.Used == "" {
					continue
				}
				told++
				off := math.Abs(e.Volume - s.end)
				if half := (e.High - e.Low) / 2; off > 2*half {
					beyond++
					worst = max(worst, off)
				} else if off > half {
					outside++
				}
			}
		}
		t.Logf("steps of %g, %g and %g mL: of %d told %d lie outside their interval of 95 %%, %d outside twice of it (at most %.2f mL)", c.wide, c.near, c.fine, told, outside, beyond, worst)
		assert.LessOrEqual(t, beyond, 1)
		assert.GreaterOrEqual(t, told, 195)
		assert.LessOrEqual(t, outside, 20)
	}
}

// A run that was read in the jump only has one, however finely: exact pH values.
func TestReadInTheJump(t *testing.T) {
	for _, weak := range []bool{true, false} {
		s := synthetic{end: 25, pKa: 4.75, weak: weak}
		exact := s.titration(25, 0.1, 0.1)
		for _, from := range []float64{24.96, 24.9, 24.8} {
			run := series.Series{Kind: series.PH, Flask: 25, Titrant: 0.1, Analyte: series.Strong}
			for i := range int((25.1-from)/0.02) + 1 {
				v := from + 0.02*float64(i)
				run.Points = append(run.Points, series.Measured{Volume: v, Reading: exact.PH(v)})
			}
			a := series.Analyse(run)
			require.NotEmpty(t, a.Jumps, "weak %v from %g", weak, from)
			assert.InDelta(t, 25, a.Jumps[0], 0.03)
		}
	}
}

// Points of two runs, one behind the other, are two; a few that were noted late are not.
func TestRunsBehindEachOther(t *testing.T) {
	one := synthetic{end: 20, pKa: 4.7, weak: true, noise: 0.003, wide: 2, near: 0.5, fine: 0.2}
	a, b := one.run(rand.New(rand.NewPCG(1, 1))), one.run(rand.New(rand.NewPCG(2, 2)))
	both := append(append([]series.Measured{}, a.Points...), b.Points...)
	assert.Equal(t, []int{0}, series.Parts(a.Points))
	assert.Equal(t, []int{0, len(a.Points)}, series.Parts(both))
	assert.Equal(t, []int{0}, series.Parts(append(append([]series.Measured{}, a.Points...), b.Points[:5]...)), "five are none")
	late := append(append([]series.Measured{}, a.Points[8:]...), a.Points[:8]...)
	assert.Equal(t, []int{0}, series.Parts(late), "the first ones were noted late")
	assert.Equal(t, []int{0}, series.Parts(nil))
	run := a
	run.Points = both
	got := series.Analyse(run)
	assert.InDelta(t, series.Analyse(a).Volume, got.Volume, 1e-9, "only the first is worked out")
	assert.Equal(t, "series.runs", got.Findings[0].Code)
}

// A probe that lags is told from both sides of the steep steps, by how much, and one that does not is
// not; the end is then no surer than the lag.
func TestLaggingProbe(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 9))
	for _, c := range []struct {
		lag         float64
		least, most int // of 100 runs in which it is told
	}{{0, 0, 1}, {0.05, 40, 100}, {0.1, 95, 100}, {0.2, 99, 100}, {0.3, 99, 100}} {
		told, off, size := 0, 0, 0.0
		for n := range 100 {
			s := synthetic{end: 15 + 15*r.Float64(), pKa: 3.5 + 2*r.Float64(), weak: n%2 == 0, base: n%4 > 1, noise: 0.01, burette: 0.01, wide: 1.5, near: 0.5, fine: 0.1 + 0.2*r.Float64()}
			run := s.run(r)
			for i := 1; i < len(run.Points); i++ {
				run.Points[i].Reading = (1-c.lag)*run.Points[i].Reading + c.lag*run.Points[i-1].Reading
			}
			a := series.Analyse(run)
			require.NotNil(t, a.Fit)
			said := false
			for _, f := range a.Findings {
				said = said || f.Code == "series.lag"
			}
			assert.Equal(t, a.Fit.Lag > 0, said)
			if said {
				told, size = told+1, size+a.Fit.Lag
				if math.Abs(a.Volume-s.end) > 2*a.Standard {
					off++
				}
			}
		}
		t.Logf("%.2f of a step lags: told in %d of 100, as %.3f", c.lag, told, size/float64(max(1, told)))
		assert.GreaterOrEqual(t, told, c.least, "%g", c.lag)
		assert.LessOrEqual(t, told, c.most, "%g", c.lag)
		assert.LessOrEqual(t, off, 5, "%g", c.lag)
		if c.lag >= 0.1 {
			assert.InDelta(t, c.lag, size/float64(told), 0.01)
		}
	}
}
