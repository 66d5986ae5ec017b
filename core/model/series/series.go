// Package series reads a titration that was followed with a probe: where it ended, by
// five ways that do not hang on each other, each with its standard uncertainty; which of
// them agree, and which one is used; the pKa at half-equivalence; what went wrong. Where
// package curve says what to expect, this one says what was measured.
//
// Sources: the function before and after the equivalence is that of G. Gran, Analyst 77
// (1952) 661 (from memory); the rest is common practice, and least squares by gonum.
package series

import (
	"math"
	"slices"

	"exactflask/core/chemistry/equilibrium"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/statistics"
)

// Kind is what the probe shows.
type Kind string

// The kinds.
const (
	PH Kind = "pH"
	MV Kind = "mV"
)

// Measured is what was read at a volume.
type Measured struct {
	Volume  float64 `json:"volume" doc:"mL of titrant that ran"`
	Reading float64 `json:"reading" doc:"pH or mV"`
}

// Analyte says what stands in the flask, for the ways that need to know.
type Analyte string

// The analytes: not known (derivatives only), one that is wholly dissociated, one with a
// single pKa. Acids and bases alike: the direction tells which.
const (
	Unknown Analyte = ""
	Strong  Analyte = "strong"
	Weak    Analyte = "weak"
)

// Series is points with what is known of them.
type Series struct {
	Kind        Kind
	Points      []Measured // in order of volume
	Analyte     Analyte    // for Gran's line before the end, and the model where nothing more is known
	AcidBase    *AcidBase  // what is known of both solutions
	Redox       *Redox
	Flask       float64          // mL in the flask before the first drop; 0: not known
	Titrant     float64          // mol/L of the titrant; 0: not known
	Temperature float64          // °C; 25 when 0
	PKw         float64          // that of the temperature when 0
	Burette     float64          // standard uncertainty of a volume, mL; 0.02 when 0 (common practice)
	Expected    float64          // mL, about where the end lies; 0: not known. It only tells an earlier equivalence point from the end
	Steps       int              // which of several equivalence points is the end, counted from the first by what reacts up to it; 0: the last one
	Prefer      practical.Method // the way that counts where it gives something; the first of Methods that does when empty
	Live        bool             // it still runs: what costs time is left out
	Norms       practical.Norms  // the school's
}

// AcidBase is what the model needs to know of an acid and a base.
type AcidBase struct {
	Sample    equilibrium.Substance // its constants from tables, which are found anew where the readings reach them
	Titrant   equilibrium.Substance
	Ratio     float64 // moles of the sample for one of the titrant, at the end
	Guessed   bool    // the sample's constants come from no table
	Carbonate bool    // the titrant, a strong base, may hold carbonate: its share is found
}

// Redox is what the model needs to know of two couples.
type Redox struct {
	// Of each one form makes one. Their potentials are those of the tables, V, against the
	// electrode that is used; 0: not known.
	Sample, Titrant equilibrium.Couple
}

var _ = finding.Family("series.method.", practical.Methods)

// End is an end point by one way. Low and High bound 95 %.
type End struct {
	Method   practical.Method `json:"method" enum:"steepest,second-derivative,gran-before,gran-after,fit"`
	Volume   float64          `json:"volume" doc:"mL"`
	Standard float64          `json:"standard" doc:"standard uncertainty, mL"`
	Low      float64          `json:"low" doc:"of the interval of 95 %, mL"`
	High     float64          `json:"high"`
	Agrees   bool             `json:"agrees" doc:"with the one that is used"`
	Why      *finding.Message `json:"why,omitempty" doc:"why this way gives nothing; then there is no volume"`
}

// Analysis is what a run says.
type Analysis struct {
	Ends     []End             `json:"ends" doc:"of the last equivalence point, one for each way"`
	Used     practical.Method  `json:"used,omitempty" doc:"the way that is used; left out where none gives anything"`
	Volume   float64           `json:"volume" doc:"by it, mL"`
	Standard float64           `json:"standard"`
	Jumps    []float64         `json:"jumps" doc:"every equivalence point by its steepest slope, mL"`
	Gran     []Line            `json:"gran" doc:"Gran's lines that meet zero"`
	Past     int               `json:"past" doc:"points on the tail, behind the jump"`
	Half     *Half             `json:"half,omitempty" doc:"at half-equivalence, of a weak acid or base"`
	Fit      *Fit              `json:"fit,omitempty"`
	Slopes   []Measured        `json:"slopes" doc:"first derivative, at the middle of each step"`
	Findings []finding.Finding `json:"findings"`
}

// Line is one of Gran's lines, its function made 1 at its largest.
type Line struct {
	Method practical.Method `json:"method" enum:"gran-before,gran-after"`
	Points []Measured       `json:"points" doc:"the function at the volumes that were taken for it"`
	Zero   float64          `json:"zero" doc:"where the line meets zero, mL"`
	At     float64          `json:"at" doc:"another volume, mL"`
	Value  float64          `json:"value" doc:"of the line there"`
}

// Half is the reading half-way to the equivalence: the pKa of a weak acid, the formal
// potential of a redox couple.
type Half struct {
	Volume   float64 `json:"volume"`
	Reading  float64 `json:"reading"`
	Standard float64 `json:"standard"`
	Capacity float64 `json:"capacity,omitempty" doc:"of the buffer there, mol/L for one pH"`
}

var (
	whyFew       = finding.Declare("series.few", "count")
	whyNoJump    = finding.Declare("series.no-jump")
	whyUnknown   = finding.Declare("series.unknown-analyte")
	whyNoFit     = finding.Declare("series.no-fit")
	whyNotPH     = finding.Declare("series.not-ph")
	saysCoarse   = finding.Declare("series.coarse", "step", "from", "to", "wanted")
	saysNoTail   = finding.Declare("series.no-tail", "count", "wanted")
	saysOrder    = finding.Declare("series.order", "volume")
	saysOutlying = finding.Declare("series.outlying", "volume")
	saysTurned   = finding.Declare("series.turned")
	saysLeft     = finding.Declare("series.left-out", "count")
	saysWhich    = finding.Declare("series.which", "count")
	whyEarlier   = finding.Declare("series.earlier", "volume")
	whyLive      = finding.Declare("series.live")
	saysPattern  = finding.Declare("series.residuals")
)

// What no burette and no probe shows, mL and pH or mV.
const (
	mostVolume  = 10_000
	mostReading = 10_000
)

const (
	fewestPoints = 6   // of which anything can be said
	prominence   = 0.2 // of the steepest slope, for another equivalence point
	jumps        = 8   // times the noise of the readings: less is no jump
	stands       = 4   // times the usual slope
	beside       = 3   // points on each side of a jump that must differ
)

// Analyse says what a run says. It never fails: what cannot be told says why.
func Analyse(r Series) Analysis {
	r = r.explicit()
	a := Analysis{Ends: []End{}, Jumps: []float64{}, Slopes: []Measured{}, Gran: []Line{}, Findings: []finding.Finding{}}
	r.Points = a.ordered(r)
	if len(r.Points) < fewestPoints {
		for _, m := range practical.Methods {
			a.Ends = append(a.Ends, cannot(m, whyFew.Message(finding.Count(fewestPoints))))
		}
		return a
	}
	all := r
	r.Points = gathered(r.Points)
	a.Slopes = slopes(r.Points)
	peaks := peaksOf(a.Slopes, r.Points, r.noise())
	for _, i := range peaks {
		a.Jumps = append(a.Jumps, a.Slopes[i].Volume)
	}
	if len(peaks) == 0 {
		for _, m := range practical.Methods {
			a.Ends = append(a.Ends, cannot(m, whyNoJump.Message()))
		}
		return a
	}
	which := a.which(r)
	if which < 0 {
		for _, m := range practical.Methods {
			a.Ends = append(a.Ends, cannot(m, whyEarlier.Message(finding.Volume(a.Jumps[0]))))
		}
		return a
	}
	last := peaks[which]
	start := a.Slopes[last].Volume
	one := len(peaks) == 1
	a.Ends = append(a.Ends, all.fitted(&a, start, len(peaks)), r.secondZero(a.Slopes, last), r.steepest(last), all.gran(&a, start, true, one), all.gran(&a, start, false, one || peaks[len(peaks)-1] == last))
	for i := range a.Ends {
		if e := &a.Ends[i]; e.Why == nil && !finite(e.Volume, e.Standard, e.Low, e.High) {
			*e = cannot(e.Method, whyNoFit.Message())
		}
	}
	if f := a.Fit; f != nil {
		ok := finite(f.Offset, f.OffsetU, f.Noise)
		for _, c := range f.Constants {
			ok = ok && finite(c.Value, c.Standard, c.Low, c.High)
		}
		if !ok {
			a.Fit = nil
		}
	}
	a.choose(r.Burette, r.Prefer)
	a.look(r, last)
	if a.Used != "" && (r.Analyte == Weak || r.Kind == MV) && one {
		noise := r.noise()
		if a.Fit != nil {
			noise = a.Fit.Noise
		}
		a.Half = r.half(a.Volume, a.Standard, noise)
	}
	return a
}

// Of one jump alone: how near to the place of an earlier equivalence point it is taken for
// that, and from where on for the end, of the expected volume; in between it is not told.
// Source: common practice, no source.
const (
	near = 0.1
	sure = 0.85
)

// apart is by how much two constants differ for the reading to jump between them. Source:
// common practice: four decades, and a half less for a jump that is only just seen.
const apart = 3.5

// earlier is the part of the end's volume at which the last earlier equivalence point shows as
// a jump of its own; 0 where none does.
func (r Series) earlier() float64 {
	if r.AcidBase == nil {
		return 0
	}
	k := r.AcidBase.Sample.PKa
	for i := min(r.Steps, len(k)) - 1; i > 0; i-- {
		lower, upper := i-1, i
		if !r.rising() { // a base takes up its protons from the other end
			lower, upper = len(k)-i-1, len(k)-i
		}
		if k[upper]-k[lower] >= apart {
			return float64(i) / float64(r.Steps)
		}
	}
	return 0
}

// whole is how far the volumes of two equivalence points may lie off a whole ratio.
const whole = 0.08

// which of the jumps is the end, where so many of what is titrated have reacted: the last
// one, unless the volumes of the others tell another; -1 where the only one is an earlier one.
func (a *Analysis) which(r Series) int {
	steps, last := r.Steps, len(a.Jumps)-1
	if steps > 1 && last == 0 {
		if share := r.earlier(); share > 0 {
			switch part := a.Jumps[0] / r.Expected; {
			case r.Expected > 0 && part <= share+near:
				return -1
			case r.Expected <= 0 || part < sure:
				a.say(saysWhich.Finding(finding.Warning, "", finding.Count(1)))
			}
		}
	}
	if steps == 0 || last == 0 {
		return last
	}
	for j := last; j >= 0; j-- {
		unit, fits := a.Jumps[j]/float64(steps), true
		for i, v := range a.Jumps {
			n := math.Round(v / unit)
			fits = fits && math.Abs(v/unit-n) <= whole*n && int(n) == steps+i-j
		}
		if fits {
			return j
		}
	}
	a.say(saysWhich.Finding(finding.Warning, "", finding.Count(len(a.Jumps))))
	return last
}

func finite(values ...float64) bool {
	return !slices.ContainsFunc(values, func(v float64) bool { return math.IsNaN(v) || math.IsInf(v, 0) })
}

func (r Series) explicit() Series {
	if r.Temperature == 0 {
		r.Temperature = 25
	}
	if r.PKw == 0 {
		r.PKw = equilibrium.PKwAt(r.Temperature)
	}
	if r.Burette == 0 {
		r.Burette = 0.02
	}
	return r
}

func cannot(m practical.Method, why finding.Message) End { return End{Method: m, Why: &why} }

// ordered are the points by volume, one for each; what is not is said.
func (a *Analysis) ordered(r Series) []Measured {
	in := r.Points
	out := slices.Clone(in)
	for i := 1; i < len(in); i++ {
		if in[i].Volume < in[i-1].Volume {
			a.say(saysOrder.Finding(finding.Check, "", finding.Volume(in[i].Volume)))
			break
		}
	}
	slices.SortStableFunc(out, func(x, y Measured) int {
		switch {
		case x.Volume < y.Volume:
			return -1
		case x.Volume > y.Volume:
			return 1
		}
		return 0
	})
	// Of two readings at one volume the later one stands: the first was not steady yet.
	kept, left := out[:0], 0
	for _, p := range out {
		if r.Kind == MV && r.Redox != nil && p.Volume <= 0 {
			continue // the potential of one form alone is none
		}
		if !(math.Abs(p.Volume) <= mostVolume && math.Abs(p.Reading) <= mostReading) {
			left++
			continue
		}
		if n := len(kept); n > 0 && kept[n-1].Volume == p.Volume {
			kept[n-1] = p
			continue
		}
		kept = append(kept, p)
	}
	if left > 0 {
		a.say(saysLeft.Finding(finding.Check, "", finding.Count(left)))
	}
	return kept
}

func (a *Analysis) say(f finding.Finding) { a.Findings = append(a.Findings, f) }

// most is of how many points a derivative is taken: of more, neighbours lie within their
// own noise.
const most = 200

// gathered are means of neighbours where points lie closer than a derivative can use.
func gathered(p []Measured) []Measured {
	if len(p) <= most {
		return p
	}
	width := (p[len(p)-1].Volume - p[0].Volume) / most
	out := make([]Measured, 0, most+1)
	for i := 0; i < len(p); {
		sum, n := Measured{}, 0.0
		for j := i; i < len(p) && p[i].Volume-p[j].Volume < width; i++ {
			sum.Volume, sum.Reading, n = sum.Volume+p[i].Volume, sum.Reading+p[i].Reading, n+1
		}
		out = append(out, Measured{sum.Volume / n, sum.Reading / n})
	}
	return out
}

// slopes are the first derivative between neighbouring points.
func slopes(p []Measured) []Measured {
	out := make([]Measured, 0, len(p))
	for i := 1; i < len(p); i++ {
		out = append(out, Measured{(p[i].Volume + p[i-1].Volume) / 2, (p[i].Reading - p[i-1].Reading) / (p[i].Volume - p[i-1].Volume)})
	}
	return out
}

// peaksOf are the places of the steepest slopes, one for each equivalence point: local
// maxima that stand out from the valleys beside them, and from the noise of the readings.
func peaksOf(s, points []Measured, noise float64) []int {
	highest := 0.0
	for _, p := range s {
		highest = max(highest, math.Abs(p.Reading))
	}
	usual := statistics.Median(magnitudes(s))
	if highest == 0 {
		return nil
	}
	var out []int
	for i := range s {
		v := math.Abs(s[i].Reading)
		if v < prominence*highest || i > 0 && math.Abs(s[i-1].Reading) >= v || i+1 < len(s) && math.Abs(s[i+1].Reading) > v {
			continue
		}
		if i == 0 || i == len(s)-1 { // it may go on rising where nothing was read
			continue
		}
		step := math.Abs(points[i+1].Reading - points[i].Reading)
		if step < jumps*noise || math.Abs(middle(points[i+1:min(len(points), i+1+beside)])-middle(points[max(0, i+1-beside):i+1])) < jumps*noise || v < stands*usual {
			continue // readings that tremble, or climb evenly
		}
		if n := len(out); n > 0 && !valley(s, out[n-1], i) {
			if v > math.Abs(s[out[n-1]].Reading) {
				out[n-1] = i
			}
			continue
		}
		out = append(out, i)
	}
	return out
}

func magnitudes(s []Measured) []float64 {
	out := make([]float64, len(s))
	for i, p := range s {
		out[i] = math.Abs(p.Reading)
	}
	return out
}

// middle is the median of some readings.
func middle(p []Measured) float64 {
	var near []float64
	for i := range p {
		near = append(near, p[i].Reading)
	}
	return statistics.Median(near)
}

// valley tells whether the slope falls to less than half of the smaller of two peaks
// between them.
func valley(s []Measured, i, j int) bool {
	least := math.Inf(1)
	for k := i; k <= j; k++ {
		least = min(least, math.Abs(s[k].Reading))
	}
	return least < 0.5*min(math.Abs(s[i].Reading), math.Abs(s[j].Reading))
}

// rectangle is the half width of 95 % of a uniform distribution, of its whole width.
const rectangle = 0.475

// steepest is the middle of the steepest step: the end lies somewhere in it.
func (r Series) steepest(at int) End {
	h := r.Points[at+1].Volume - r.Points[at].Volume
	v := (r.Points[at+1].Volume + r.Points[at].Volume) / 2
	u := math.Hypot(h/math.Sqrt(12), r.Burette)
	half := math.Hypot(rectangle*h, 1.96*r.Burette)
	return End{Method: practical.Steepest, Volume: v, Standard: u, Low: v - half, High: v + half}
}

// zeroShare is the standard deviation of the zero of the second derivative from the true
// end, of the step, and zeroHalf the half width of 95 %: by simulation over strong and
// weak acids, steps of 0.1 to 1 mL (docs/truth.md).
const (
	zeroShare = 0.25
	zeroHalf  = 0.41
)

// secondZero is where the second derivative goes through zero, by a straight line between
// its values at both ends of the steepest step.
func (r Series) secondZero(s []Measured, at int) End {
	before := (s[at].Reading - s[at-1].Reading) / (s[at].Volume - s[at-1].Volume)
	after := (s[at+1].Reading - s[at].Reading) / (s[at+1].Volume - s[at].Volume)
	if before == after || before*after > 0 {
		return cannot(practical.SecondZero, whyNoJump.Message())
	}
	low, h := r.Points[at].Volume, r.Points[at+1].Volume-r.Points[at].Volume
	v := low + h*before/(before-after)
	u, half := math.Hypot(zeroShare*h, r.Burette), math.Hypot(zeroHalf*h, 1.96*r.Burette)
	return End{Method: practical.SecondZero, Volume: v, Standard: u, Low: v - half, High: v + half}
}

// choose takes the way that is preferred, else the first that gives something, and says which others agree with it:
// those whose difference lies within both uncertainties and that of a volume, k = 2.
func (a *Analysis) choose(burette float64, prefer practical.Method) {
	var used *End
	for i := range a.Ends {
		if e := &a.Ends[i]; e.Why == nil && e.Method == prefer {
			used = e
		}
	}
	for i := range a.Ends {
		if e := &a.Ends[i]; e.Why == nil && used == nil && (e.Method != practical.Fitted || a.Fit == nil || a.Fit.Random) {
			used = e
		}
	}
	if used == nil {
		return
	}
	a.Used, a.Volume, a.Standard = used.Method, used.Volume, used.Standard
	for i := range a.Ends {
		e := &a.Ends[i]
		e.Agrees = e.Why == nil && math.Abs(e.Volume-used.Volume) <= 2*math.Hypot(math.Hypot(e.Standard, used.Standard), burette)
	}
}

// ReadingAt is the reading at a volume, between its neighbours.
func (r Series) ReadingAt(v float64) float64 {
	return statistics.BetweenAt(len(r.Points), func(i int) (float64, float64) { return r.Points[i].Volume, r.Points[i].Reading }, v)
}

// half is the reading half-way, between its neighbours.
func (r Series) half(end, standard, noise float64) *Half {
	v := end / 2
	for i := 1; i < len(r.Points); i++ {
		p, q := r.Points[i-1], r.Points[i]
		if p.Volume <= v && v <= q.Volume {
			slope := (q.Reading - p.Reading) / (q.Volume - p.Volume)
			h := &Half{Volume: v, Reading: r.ReadingAt(v), Standard: math.Hypot(noise, slope*standard/2)}
			if capacity := r.Titrant / (r.Flask + v) / math.Abs(slope); r.Kind == PH && r.Flask > 0 && finite(capacity) {
				h.Capacity = capacity
			}
			return h
		}
	}
	return nil
}

// noise is the standard deviation of the readings, from the second differences of the
// flat parts: robust, so that the jump does not count.
func (r Series) noise() float64 {
	var d []float64
	for i := 1; i+1 < len(r.Points); i++ {
		p, q, s := r.Points[i-1], r.Points[i], r.Points[i+1]
		t := (q.Volume - p.Volume) / (s.Volume - p.Volume)
		// What is left of the middle one after a straight line has 1 + t² + (1-t)² of its variance.
		d = append(d, math.Abs(q.Reading-p.Reading-t*(s.Reading-p.Reading))/math.Sqrt(1+t*t+(1-t)*(1-t)))
	}
	slices.Sort(d)
	if len(d) == 0 {
		return 0
	}
	return 1.4826 * d[len(d)/4*2/2] * quarterToHalf
}

// quarterToHalf turns the lower quartile of absolute deviations of a normal distribution
// into their median: 0.6745 by 0.3186.
const quarterToHalf = 0.6745 / 0.3186

// look says what was done badly.
func (a *Analysis) look(r Series, at int) {
	p := r.Points
	low, high := p[at].Volume, p[at+1].Volume
	coarse, tail := r.Norms.Part(practical.ProbeCoarse), r.Norms.Count(practical.ProbeTail)
	if step := high - low; step > coarse*high {
		a.say(saysCoarse.Finding(finding.Warning, "", finding.Volume(step), finding.Volume(max(0, low-step)), finding.Volume(high+step), finding.Volume(max(0.05, coarse/4*high))))
	}
	for _, q := range p {
		if q.Volume > high*(1+r.Norms.Part(practical.ProbeTailFrom)) {
			a.Past++
		}
	}
	if a.Past < tail {
		a.say(saysNoTail.Finding(finding.Warning, "", finding.Count(a.Past), finding.Count(tail)))
	}
	rising := p[len(p)-1].Reading > p[0].Reading
	noise := r.noise()
	turned := 0
	for i := 1; i < len(p); i++ {
		if d := p[i].Reading - p[i-1].Reading; rising && d < -6*noise || !rising && d > 6*noise {
			turned++
			if turned == 1 {
				a.say(saysOutlying.Finding(finding.Check, "", finding.Volume(p[i].Volume)))
			}
		}
	}
	if turned > len(p)/4 {
		a.say(saysTurned.Finding(finding.Warning, ""))
	}
	if a.Fit != nil && !a.Fit.Random {
		a.say(saysPattern.Finding(finding.Note, ""))
	}
}
