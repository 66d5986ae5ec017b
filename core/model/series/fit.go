package series

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/equilibrium"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
)

// Fit is the chemical model laid through the points: the charge balance of an acid or a
// base with its titrant, with the probe's offset; or Nernst's equation of two couples.
type Fit struct {
	Constants  []Constant `json:"constants" doc:"found with the end: the pKa values that the readings reach, the potentials of two couples, the share of carbonate"`
	Offset     float64    `json:"offset" doc:"of the probe, pH; 0 of a redox titration, where it lies in the potentials"`
	OffsetU    float64    `json:"offsetStandard"`
	Noise      float64    `json:"noise" doc:"standard deviation of the residuals, pH or mV"`
	Residuals  []Measured `json:"residuals" doc:"reading less model"`
	Random     bool       `json:"random" doc:"the residuals show no pattern"`
	Iterations int        `json:"iterations"`
	Lag        float64    `json:"lag,omitempty" doc:"part of each step that a slow probe had not followed when it was read; left out where none shows"`
	Later      float64    `json:"later,omitempty" doc:"how much later the end seems to lie for it, mL"`
}

func (f *Fit) finite() bool {
	ok := finite(f.Offset, f.OffsetU, f.Noise)
	for _, c := range f.Constants {
		ok = ok && finite(c.Value, c.Standard, c.Low, c.High)
	}
	return ok
}

// Constant is one that the model found, with 95 %.
type Constant struct {
	Kind     ConstantKind `json:"kind" enum:"pKa,sample-potential,titrant-potential,carbonate"`
	Number   int          `json:"number" doc:"of a pKa, the strongest is 1"`
	Value    float64      `json:"value" doc:"mV of a potential; fraction of the hydroxide that is carbonate"`
	Standard float64      `json:"standard"`
	Low      float64      `json:"low"`
	High     float64      `json:"high"`
	Table    float64      `json:"table,omitempty" doc:"what the tables say; left out where nothing was given"`
}

// ConstantKind names a constant of a model.
type ConstantKind string

// The constants.
const (
	PKa              ConstantKind = "pKa"
	SamplePotential  ConstantKind = "sample-potential"
	TitrantPotential ConstantKind = "titrant-potential"
	Carbonate        ConstantKind = "carbonate"
)

// ConstantNames are their names in words.
var ConstantNames = finding.Family("series.constant.", []ConstantKind{PKa, SamplePotential, TitrantPotential, Carbonate}, "number")

// fitted lays the model through all points by least squares.
type fitted struct{}

func (fitted) method() practical.Method { return practical.Fitted }

func (fitted) end(at track) (End, trace) {
	r := at.all
	if r.Live {
		return cannot(practical.Fitted, whyLive.Message()), trace{}
	}
	m, why := r.model(at.start, at.jumps)
	if why != nil {
		return cannot(practical.Fitted, *why), trace{}
	}
	theta, variances, chi, n := m.solve()
	// What the readings scatter tells how they weigh against the volumes; of so many points there are
	// enough on both sides.
	for _, starts := range [][]float64{at.beside(), nil} {
		scatter := max(math.Sqrt(chi), r.finest()/4)
		if theta == nil || len(m.points) > denselyRead || starts == nil && math.Abs(scatter/m.usual-1) < settled {
			break
		}
		m.theta, m.usual = theta, scatter
		again := 0
		theta, variances, chi, again = m.best(starts)
		n += again
	}
	if theta == nil {
		return cannot(practical.Fitted, whyNoFit.Message()), trace{}
	}
	t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(len(m.points) - len(theta))}.Quantile(0.975)
	f := &Fit{Constants: []Constant{}, Noise: math.Sqrt(chi), Iterations: n, Residuals: []Measured{}}
	if m.offset > 0 {
		f.Offset, f.OffsetU = theta[m.offset], math.Sqrt(variances[m.offset])
	}
	for i, c := range m.constants {
		j := len(theta) - len(m.constants) + i
		c.Value, c.Standard = theta[j], math.Sqrt(variances[j])
		c.Low, c.High = c.Value-t*c.Standard, c.Value+t*c.Standard
		f.Constants = append(f.Constants, c)
	}
	laid, outlying := m.laid(theta), false
	for _, p := range m.points {
		res, spread := m.residual(p, theta, laid)
		f.Residuals = append(f.Residuals, Measured{p.Volume, res})
		outlying = outlying || math.Abs(res) > farthest*spread*max(f.Noise, r.finest())
	}
	f.Random = (f.Noise < r.finest() || random(f.Residuals)) && !outlying
	u := math.Sqrt(variances[0])
	if math.IsNaN(u) || u <= 0 || theta[0] <= 0 {
		return cannot(practical.Fitted, whyNoFit.Message()), trace{fit: f}
	}
	if part, end := m.lag(theta); part > 0 {
		f.Lag, f.Later = part, theta[0]-end
		u = math.Hypot(u, f.Later)
	}
	return End{Method: practical.Fitted, Volume: theta[0], Standard: u, Low: theta[0] - t*u, High: theta[0] + t*u}, trace{fit: f}
}

// model is a titration as an equation for the volume. Of its parameters the first is the
// end, mL; the constants are the last.
type model struct {
	points    []Measured
	laid      func(theta []float64) func(reading float64) float64 // the volume at a reading
	theta     []float64                                           // where to begin
	offset    int                                                 // which parameter is the probe's offset; 0: none
	constants []Constant
	rising    bool
	burette   float64
	usual     float64 // how finely a probe is read: it only weighs points in the jump against others
	short     float64 // step of the reading over which the model's slope is taken
	long      float64 // step that is never exceeded
}

// model makes the one that fits what is known, or says why there is none.
func (r Series) model(start float64, jumps int) (model, *finding.Message) {
	m := model{points: r.Points, burette: r.Burette, rising: r.rising(), theta: []float64{start}}
	no := func(c finding.Code) (model, *finding.Message) { why := c.Message(); return m, &why }
	switch {
	case r.Kind == MV && r.Redox == nil:
		return no(whyNotPH)
	case r.Kind == MV && jumps != 1:
		return no(whyUnknown)
	case r.Kind == MV:
		m.usual, m.short, m.long = 1, 0.01, 20
		r.redoxModel(&m)
		return m, nil
	}
	m.usual, m.short, m.long = 0.01, 1e-4, 0.3
	chemistry := r.AcidBase
	if chemistry == nil {
		chemistry = r.assumed(start)
	}
	if chemistry == nil || r.Flask <= 0 || r.Titrant <= 0 && r.Sample <= 0 || jumps > max(1, len(chemistry.Sample.PKa)) {
		return no(whyUnknown)
	}
	r.acidBaseModel(&m, *chemistry)
	return m, nil
}

func (r Series) rising() bool { return r.Points[len(r.Points)-1].Reading > r.Points[0].Reading }

// assumed is the chemistry of a run of which only strong or weak is known: one for one.
func (r Series) assumed(end float64) *AcidBase {
	acid, base := equilibrium.Substance{Strong: -1}, equilibrium.Substance{Strong: 1}
	guess := r.guess(end)
	switch rising := r.rising(); {
	case r.Analyte == Strong && rising:
		return &AcidBase{Sample: acid, Titrant: base, Ratio: 1}
	case r.Analyte == Strong:
		return &AcidBase{Sample: base, Titrant: acid, Ratio: 1}
	case r.Analyte == Weak && rising:
		return &AcidBase{Sample: equilibrium.Substance{PKa: []float64{guess}}, Titrant: base, Ratio: 1, Guessed: true}
	case r.Analyte == Weak:
		return &AcidBase{Sample: equilibrium.Substance{Top: 1, PKa: []float64{guess}}, Titrant: acid, Ratio: 1, Guessed: true}
	}
	return nil
}

// guess is the reading half-way.
func (r Series) guess(end float64) float64 {
	for i := 1; i < len(r.Points); i++ {
		if r.Points[i].Volume >= end/2 {
			return r.Points[i].Reading
		}
	}
	return 7
}

// farthest is how many standard deviations of its own a reading may lie off a model that is
// believed. Source: common practice, no source.
const farthest = 6

// settled is the part by which the scatter may still change without the model being laid anew.
const settled = 0.05

// best lays the model from the steepest slope, and from both sides of a jump that was stepped
// over: of several ends the one that fits best.
func (m model) best(starts []float64) (found, variances []float64, chi float64, iterations int) {
	least := math.Inf(1)
	for _, start := range append([]float64{m.theta[0]}, starts...) {
		m.theta = slices.Clone(m.theta)
		m.theta[0] = start
		theta, v, c, n := m.solve()
		iterations += n
		if theta == nil {
			continue
		}
		if cost := m.cost(theta); cost < least {
			least, found, variances, chi = cost, theta, v, c
		}
	}
	return found, variances, chi, iterations
}

// beside are the volumes on both sides of a jump that was stepped over coarsely; none of a fine
// one, where there is one end only.
func (t track) beside() []float64 {
	low, high := t.Points[t.at].Volume, t.Points[t.at+1].Volume
	if high-low < t.Norms.Part(practical.ProbeCoarse)/4*high {
		return nil
	}
	return []float64{low, low + (high-low)/4, high - (high-low)/4, high}
}

// reach is how far beyond the readings a pKa may lie and still be found from them.
const reach = 1.5

// acidBaseModel is the charge balance, which is explicit in the volume (package
// equilibrium). Parameters: end, offset, the pKa values within reach, carbonate.
func (r Series) acidBaseModel(m *model, x AcidBase) {
	low, high := math.Inf(1), math.Inf(-1)
	for _, p := range r.Points {
		low, high = min(low, p.Reading), max(high, p.Reading)
	}
	m.theta, m.offset = append(m.theta, 0), 1
	free := make([]int, 0, len(x.Sample.PKa)) // of them
	for i, pKa := range x.Sample.PKa {
		if pKa > low-reach && pKa < high+reach {
			c := Constant{Kind: PKa, Number: i + 1, Table: pKa}
			if x.Guessed {
				c.Table = 0
			}
			m.constants, m.theta, free = append(m.constants, c), append(m.theta, pKa), append(free, i)
		}
	}
	if x.Carbonate {
		m.constants, m.theta = append(m.constants, Constant{Kind: Carbonate}), append(m.theta, 0)
	}
	constants := func(pKa []float64) []float64 {
		out := make([]float64, len(pKa))
		for i, p := range pKa {
			out[i] = ten(-p)
		}
		return out
	}
	fixed, carried, carbonic, kw := constants(x.Sample.PKa), constants(x.Titrant.PKa), constants(carbonicAcid()), ten(-r.PKw)
	m.laid = func(theta []float64) func(float64) float64 {
		k, share := slices.Clone(fixed), 0.0
		for at, i := range free {
			k[i] = ten(-theta[2+at])
		}
		if x.Carbonate {
			share = theta[len(theta)-1]
		}
		strength := r.Titrant
		if strength <= 0 { // what is in the flask tells it, with the end
			strength = r.Sample * r.Flask / (theta[0] * (1 - share/2) * x.Ratio)
		}
		amount := strength * theta[0] * (1 - share/2) * x.Ratio // mmol
		return func(pH float64) float64 {
			h := ten(-pH)
			delta := h - kw/h
			titrant := x.Titrant.ChargeBy(carried, h)
			if x.Carbonate {
				titrant -= share / 2 * equilibrium.Lost(carbonic, h)
			}
			return -(amount*x.Sample.ChargeBy(k, h) + r.Flask*delta) / (strength*titrant + delta)
		}
	}
}

// carbonicAcid is that of the catalogue: what carbonate in a hydroxide makes.
func carbonicAcid() []float64 {
	s, _ := catalog.BuiltIn().SubstanceByID("carbonic-acid")
	out := make([]float64, len(s.InWater.PKa))
	for i, pKa := range s.InWater.PKa {
		out[i] = pKa.Float64()
	}
	return out
}

// redoxModel is that of two couples of which one form makes one: what has reacted of the
// sample is what was used of the titrant, by Nernst's equation for both. Parameters: end,
// both potentials.
func (r Series) redoxModel(m *model) {
	slope := 1000 * equilibrium.Nernst(r.Temperature)
	s, t := slope/r.Redox.Sample.Electrons, slope/r.Redox.Titrant.Electrons
	beyond := m.points[len(m.points)-1].Reading
	m.theta = append(m.theta, r.guess(m.theta[0]), beyond)
	m.constants = []Constant{{Kind: SamplePotential, Table: 1000 * r.Redox.Sample.Potential}, {Kind: TitrantPotential, Table: 1000 * r.Redox.Titrant.Potential}}
	sign := 1.0 // the titrant oxidises
	if !m.rising {
		sign = -1
	}
	m.laid = func(theta []float64) func(float64) float64 {
		return func(e float64) float64 {
			return theta[0] * (1 + ten(sign*(e-theta[2])/t)) / (1 + ten(sign*(theta[1]-e)/s))
		}
	}
}

// ten is ten to a power: this is the inner loop.
func ten(x float64) float64 { return math.Exp(math.Ln10 * x) }

// residual is by how much a reading lies above the model, and its standard deviation in
// units of the reading's own. The model's reading at the volume is found by Newton's method
// from the one that was read: the volume is explicit in it, and goes one way with it.
func (m model) residual(p Measured, theta []float64, volume func(float64) float64) (difference, spread float64) {
	off := 0.0
	if m.offset > 0 {
		off = theta[m.offset]
	}
	y := p.Reading - off
	direction := 1.0
	if !m.rising {
		direction = -1
	}
	slope := 0.0
	for range newtons {
		low := volume(y - m.short)
		slope = direction * (volume(y+m.short) - low) / (2 * m.short) // mL for one unit
		if !(slope > 1e-9) {
			slope = 1e-9
		}
		step := direction * (low + direction*m.short*slope - p.Volume) / slope
		y -= math.Copysign(min(math.Abs(step), m.long), step)
		if math.Abs(step) < m.short {
			break
		}
	}
	return p.Reading - off - y, math.Hypot(1, m.burette/slope/m.usual)
}

// newtons are so many that the model's reading is found from the other side of a jump too.
const newtons = 40

// finest is what a probe reads at best, half of its last digit; a pattern below it is none.
func (r Series) finest() float64 {
	if r.Kind == MV {
		return 0.2
	}
	return 0.005
}

// random tells whether residuals change sign as often as chance does: the runs test of
// Wald and Wolfowitz, two-sided at 1 % (from memory).
func random(res []Measured) bool {
	up, down, runs := 0, 0, 0
	last := 0
	for _, p := range res {
		sign := 1
		if p.Reading < 0 {
			sign = -1
		}
		if sign > 0 {
			up++
		} else {
			down++
		}
		if sign != last {
			runs++
		}
		last = sign
	}
	n, a, b := float64(up+down), float64(up), float64(down)
	if up == 0 || down == 0 || n < 10 {
		return n < 10
	}
	expected := 2*a*b/n + 1
	variance := (expected - 1) * (expected - 2) / (n - 1)
	return math.Abs(float64(runs)-expected) <= 2.576*math.Sqrt(variance)
}
