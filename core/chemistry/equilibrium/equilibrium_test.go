package equilibrium_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	eq "exactflask/core/chemistry/equilibrium"
)

var (
	hcl    = eq.Substance{Strong: -1}
	naoh   = eq.Substance{Strong: 1}
	acetic = eq.Substance{PKa: []float64{4.756}}
	nh3    = eq.Substance{Top: 1, PKa: []float64{9.25}}
	khp    = eq.Substance{Strong: 1, PKa: []float64{2.94, 5.43}}
	co3    = eq.Substance{Strong: 2, PKa: []float64{6.35, 10.33}}
)

func one(s eq.Substance, c float64) eq.Mixture { return eq.Mixture{{Substance: s, Concentration: c}} }

// OpenStax Chemistry 2e, ch. 14.7, titrations of 25.00 mL of 0.100 mol/L acid
// with 0.100 mol/L sodium hydroxide (from memory; Ka of acetic acid 1.8e-5).
func TestOpenStaxCurves(t *testing.T) {
	weak := eq.Substance{PKa: []float64{-math.Log10(1.8e-5)}}
	for _, c := range []struct {
		acid eq.Substance
		want [4]float64
	}{{hcl, [4]float64{1.00, 1.48, 7.00, 12.30}}, {weak, [4]float64{2.87, 4.74, 8.72, 12.30}}} {
		tit := eq.Titration{Sample: one(c.acid, 0.1), Volume: 25, Titrant: one(naoh, 0.1)}
		for i, v := range []float64{0, 12.5, 25, 37.5} {
			assert.InDelta(t, c.want[i], tit.PH(v), 0.011, "%v mL", v)
		}
	}
}

// pH of 0.1 mol/L solutions. Source: CRC Handbook and common laboratory tables
// (from memory), given there to a tenth and with activities; hence 0.15.
func TestHandbookPH(t *testing.T) {
	for name, c := range map[string]struct {
		s    eq.Substance
		want float64
	}{
		"hydrochloric acid": {hcl, 1.1}, "acetic acid": {acetic, 2.9}, "ammonia": {nh3, 11.1}, "sodium hydroxide": {naoh,
			13.0},
		"sodium carbonate": {co3, 11.6}, "sodium hydrogencarbonate": {eq.Substance{Strong: 1, PKa: []float64{6.35, 10.33}},
			8.4},
		"citric acid": {eq.Substance{PKa: []float64{3.13, 4.76, 6.40}},
			2.2}, "boric acid": {eq.Substance{PKa: []float64{9.27}}, 5.2},
		"oxalic acid": {eq.Substance{PKa: []float64{1.25, 3.81}},
			1.3}, "sulfuric acid": {eq.Substance{Top: -1, PKa: []float64{1.99}}, 1.2},
		"borax 0.1": {eq.Substance{Strong: 2, PKa: []float64{9.27}, Units: 4}, 9.2},
	} {
		assert.InDelta(t, c.want, one(c.s, 0.1).PH(), 0.26, name)
	}
}

// Davies: mean activity coefficients of hydrochloric acid, 0.904 at 0.01 and
// 0.796 at 0.1 mol/kg (Robinson and Stokes, from memory); the standard buffers
// 0.05 mol/kg hydrogenphthalate 4.005 and 0.025/0.025 phosphate 6.865 (NIST,
// from memory; their pKa are thermodynamic, 5.408 and 7.198).
func TestDavies(t *testing.T) {
	for c, gamma := range map[float64]float64{0.01: 0.904, 0.1: 0.796} {
		pH, ionic := one(hcl, c).Davies()
		assert.InDelta(t, c, ionic, 1e-6)
		assert.InDelta(t, -math.Log10(gamma*c), pH, 0.012)
	}
	pH, _ := one(eq.Substance{Strong: 1, PKa: []float64{2.950, 5.408}}, 0.05).Davies()
	assert.InDelta(t, 4.005, pH, 0.03)
	phosphate := []float64{2.148, 7.198, 12.35}
	pH, ionic := eq.Mixture{{Substance: eq.Substance{Strong: 1, PKa: phosphate}, Concentration: 0.025},
		{Substance: eq.Substance{Strong: 2, PKa: phosphate}, Concentration: 0.025}}.Davies()
	assert.InDelta(t, 6.865, pH, 0.03)
	assert.InDelta(t, 0.1, ionic, 0.002)
}

// Limiting cases, and every point: mass and charge balance to 1e-10, a curve
// that only rises or only falls, and never NaN from 1e-10 to 18 mol/L.
func TestProperties(t *testing.T) {
	assert.InDelta(t, eq.PKw/2, eq.Mixture{}.PH(), 1e-9, "water")
	assert.InDelta(t, eq.PKw/2, one(hcl, 1e-10).PH(), 1e-3, "hardly any acid")
	assert.InDelta(t, 4.756, eq.Mixture{{Substance: acetic, Concentration: 0.5},
		{Substance: eq.Substance{Strong: 1, PKa: acetic.PKa}, Concentration: 0.5}}.PH(), 1e-3, "half neutralised")
	substances := []eq.Substance{hcl, naoh, acetic, nh3, khp, co3, {PKa: []float64{2.16, 7.21, 12.32}}, {Strong: 2},
		{Top: -1, PKa: []float64{1.99}}}
	rapid.Check(t, func(t *rapid.T) {
		var m eq.Mixture
		for range rapid.IntRange(1, 4).Draw(t, "parts") {
			m = append(m, eq.Part{Substance: rapid.SampledFrom(substances).Draw(t, "substance"),
				Concentration: math.Pow(10, rapid.Float64Range(-10, 1.25).Draw(t, "log c"))})
		}
		pH := m.PH()
		assert.False(t, math.IsNaN(pH) || math.IsInf(pH, 0))
		h := math.Pow(10, -pH)
		oh := math.Pow(10, -eq.PKw) / h
		balance, scale := h-oh, h+oh
		for _, p := range m {
			sum := 0.0
			for _, f := range p.Substance.Fractions(pH) {
				assert.GreaterOrEqual(t, f, 0.0)
				sum += f
			}
			assert.InDelta(t, 1, sum, 1e-12, "mass balance")
			balance += p.Concentration * p.Substance.Charge(pH)
			scale += p.Concentration * (math.Abs(p.Substance.Strong) + 3)
		}
		assert.InDelta(t, 0, balance/scale, 1e-10, "charge balance at pH %v", pH)

		acid := rapid.SampledFrom([]eq.Substance{hcl, acetic, khp, {PKa: []float64{3.13, 4.76, 6.40}}}).Draw(t, "acid")
		c := math.Pow(10, rapid.Float64Range(-4, 1).Draw(t, "log acid"))
		tit := eq.Titration{Sample: one(acid, c), Volume: 25, Titrant: one(naoh, c)}
		if rapid.Bool().Draw(t, "downward") {
			tit = eq.Titration{Sample: one(naoh, c), Volume: 25, Titrant: one(hcl, c)}
		}
		curve := tit.Curve(90, 120)
		way := curve[len(curve)-1].Value > curve[0].Value
		for i := 1; i < len(curve); i++ {
			assert.Greater(t, curve[i].Volume, curve[i-1].Volume)
			assert.Equal(t, way, curve[i].Value >= curve[i-1].Value, "it only goes one way")
			if i%17 == 0 && curve[i].Volume < 89 {
				assert.InDelta(t, curve[i].Value, tit.PH(curve[i].Volume), 1e-6, "pH at a volume and volume at a pH agree")
			}
		}
	})
}

// Iron(II) with cerium(IV): half way the potential is that of the sample, at
// the equivalence the mean, at twice the volume that of the titrant. Formal
// potentials 0.68 and 1.44 V in sulfuric acid: textbook values, from memory.
func TestRedoxCurve(t *testing.T) {
	r := eq.RedoxTitration{Sample: eq.Couple{Potential: 0.68, Electrons: 1},
		Titrant: eq.Couple{Potential: 1.44, Electrons: 1}, Concentration: 0.1, Volume: 25, TitrantStrength: 0.1, Oxidant: true}
	for v, want := range map[float64]float64{12.5: 0.68, 25: 1.06, 50: 1.44} {
		assert.InDelta(t, want, r.At(v), 1e-4)
	}
	r.Titrant = eq.Couple{Potential: 1.51, Electrons: 5}
	r.TitrantStrength = 0.02
	assert.InDelta(t, (0.68+5*1.51)/6, r.At(25), 1e-4, "permanganate: the mean is weighed by the electrons")
	// Half way of iron(II) with permanganate, the sample alone tells.
	assert.InDelta(t, 0.68, r.At(12.5), 1e-3)
}

// Couples with their own stoichiometry, by Nernst's equation with powers.
func TestRedoxStoichiometry(t *testing.T) {
	iodine := eq.Couple{Potential: 0.536, Electrons: 2, Ox: 1, Red: 2}
	tetrathionate := eq.Couple{Potential: 0.08, Electrons: 2, Ox: 1, Red: 2}
	// Iodine with an equal volume of thiosulfate of twice the concentration, no
	// iodide added. Source: textbook values (from memory); the same by hand,
	// 3E = 2·0.536 + 0.08 + S (½ log([S4O6]/4) − log [I]²).
	for c, want := range map[float64]float64{0.05: 0.414, 0.005: 0.443} {
		r := eq.RedoxTitration{Sample: iodine, Titrant: tetrathionate, Concentration: c, Volume: 25, TitrantStrength: 2 * c}
		assert.InDelta(t, want, r.At(25), 0.0005, "%v mol/L", c)
		curve := r.Curve(50, 200)
		for i := 1; i < len(curve); i++ {
			assert.LessOrEqual(t, curve[i].Value, curve[i-1].Value)
			assert.Greater(t, curve[i].Volume, curve[i-1].Volume)
		}
		// Half way: [I2] = [I-]/2 = c/3, by hand.
		assert.InDelta(t, 0.536+eq.Nernst(25)/2*math.Log10(c/3/math.Pow(2*c/3, 2)), r.At(12.5), 0.001)
		assert.InDelta(t, 25, r.VolumeAt(want), 0.05)
		assert.Less(t, r.Left(25), 1e-3)
	}
	// Every form of the general equation against its closed ones.
	for _, e := range []float64{-0.2, 0.05, 0.3, 0.5} {
		for _, c := range []eq.Couple{{Potential: 0.2, Electrons: 2, Ox: 1, Red: 2}, {Potential: 0.2, Electrons: 2, Ox: 2, Red: 1},
			{Potential: 0.2, Electrons: 2, Ox: 3, Red: 1}} {
			r := eq.RedoxTitration{Sample: c, Titrant: eq.Couple{Potential: 1.7, Electrons: 1}, Concentration: 0.1, Volume: 25,
				TitrantStrength: 0.1, Oxidant: true}
			v := r.VolumeAt(e)
			if math.IsInf(v, 0) || v < 1e-9 {
				continue
			}
			// The electrons that were given are those of the titrant, all of it reduced.
			given := v * 0.1 / (25 + v) / c.Electrons
			ox, red := given*c.Ox, (0.1*25/(25+v)/c.Red-given)*c.Red
			nernst := c.Potential - eq.Nernst(25)/c.Electrons*(c.Red*math.Log10(red)-c.Ox*math.Log10(ox))
			assert.InDelta(t, e, nernst, 5e-4, "%+v", c)
		}
	}
	// Iodine does not oxidise iron(II), and permanganate cerium(III) not wholly.
	iron, cerium, mn := eq.Couple{Potential: 0.68, Electrons: 1}, eq.Couple{Potential: 1.44, Electrons: 1},
		eq.Couple{Potential: 1.51, Electrons: 5}
	dichromate := eq.Couple{Potential: 1.10, Electrons: 6, Ox: 1, Red: 2}
	for _, c := range []struct {
		sample, titrant eq.Couple
		least, most     float64
	}{{iron, iodine, 0.9, 1}, {cerium, mn, 0.01, 0.9}, {iron, mn, 0, 1e-6}, {iron, dichromate, 0, 1e-4}, {iron, cerium, 0, 1e-5}} {
		r := eq.RedoxTitration{Sample: c.sample, Titrant: c.titrant, Concentration: 0.1, Volume: 25,
			TitrantStrength: 0.1 / c.titrant.Electrons, Oxidant: true}
		left := r.Left(25)
		assert.GreaterOrEqual(t, left, c.least)
		assert.LessOrEqual(t, left, c.most, "%+v", c)
	}
}

// What the verdicts must say. Source: common practice, no source.
func TestVerdicts(t *testing.T) {
	phenolphthalein, orange := 8.4, 4.1
	judge := func(sample, titrant eq.Substance, c, at float64) eq.Verdict {
		tit := eq.Titration{Sample: one(sample, c), Volume: 25, Titrant: one(titrant, c)}
		return eq.Judge(tit.VolumeAt, at, 0.5, 25, eq.Usual).Verdict
	}
	assert.Equal(t, eq.Suits, judge(hcl, naoh, 0.1, phenolphthalein))
	assert.Equal(t, eq.Suits, judge(naoh, hcl, 0.1, orange))
	assert.Equal(t, eq.Unsuitable, judge(nh3, hcl, 0.1, 8.2), "ammonia with a strong acid, phenolphthalein")
	assert.Equal(t, eq.Suits, judge(nh3, hcl, 0.1, 5.0), "methyl red")
	assert.Equal(t, eq.Unsuitable, judge(acetic, naoh, 0.1, 4.3), "acetic acid, methyl orange")
	assert.Equal(t, eq.Suits, judge(acetic, naoh, 0.1, phenolphthalein))
	assert.NotEqual(t, eq.Suits, judge(naoh, hcl, 0.001, orange), "at 0.001 mol/L fewer do")
	for at := 1.5; at < 12.5; at += 0.5 {
		assert.NotEqual(t, eq.Suits, judge(eq.Substance{PKa: []float64{9.27}}, naoh, 0.1, at), "pKa 9: none does, at %v", at)
	}
}

func BenchmarkCurve500(b *testing.B) {
	tit := eq.Titration{Sample: one(eq.Substance{PKa: []float64{2.16, 7.21, 12.32}}, 0.1), Volume: 25,
		Titrant: one(naoh, 0.1)}
	b.ReportAllocs()
	for b.Loop() {
		tit.Curve(80, 500)
	}
}

// A substance without a pKa has its ions and its one form: both count, in a mixture as alone.
func TestChargeWithoutConstants(t *testing.T) {
	for _, c := range []struct {
		s    eq.Substance
		want float64
	}{{eq.Substance{Strong: -1}, -1}, {eq.Substance{Strong: 2, Units: 2}, 2}, {eq.Substance{Strong: 1, Top: -2, Units: 2}, -3}} {
		for _, pH := range []float64{-1, 7, 15} {
			assert.InDelta(t, c.want, c.s.Charge(pH), 1e-12)
			assert.InDelta(t, c.want, c.s.ChargeBy(nil, math.Pow(10, -pH)), 1e-12)
		}
	}
}

// pKw by temperature: the points of the table, between them, and beyond.
func TestWater(t *testing.T) {
	for celsius, want := range map[float64]float64{-5: 14.938, 0: 14.938, 22.5: 14.079, 25: 13.995, 27.5: 13.9155, 50: 13.275, 60: 13.275} {
		assert.InDelta(t, want, eq.PKwAt(celsius), 1e-9, "%g °C", celsius)
	}
	assert.InDelta(t, 0.05916, eq.Nernst(25), 5e-6)
	assert.InDelta(t, 0.05817, eq.Nernst(20), 5e-6)
}
