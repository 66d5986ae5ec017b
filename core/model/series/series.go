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
	Sample      float64          // mol/L of what is in the flask, where that is known and the titrant is not; 0: not known
	Temperature float64          // °C; 25 when 0
	PKw         float64          // that of the temperature when 0
	Burette     float64          // standard uncertainty of a volume, mL; 0.02 when 0 (common practice)
	Expected    float64          // mL, about where the end lies; 0: not known. It only tells an earlier equivalence point from the end
	EndNumber   int              // which of several equivalence points is the end, counted from the first by what reacts up to it; 0: the last one
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

var (
	whyFew       = finding.Declare("series.few", "count")
	whyNoJump    = finding.Declare("series.no-jump")
	whyUnknown   = finding.Declare("series.unknown-analyte")
	whyNoFit     = finding.Declare("series.no-fit")
	whyNotPH     = finding.Declare("series.not-ph")
	saysCoarse   = finding.Declare("series.coarse", "step", "from", "to", "wanted")
	saysNoTail   = finding.Declare("series.no-tail", "count", "wanted")
	saysOrder    = finding.Declare("series.order", "volume")
	saysRuns     = finding.Declare("series.runs", "count", "points")
	saysLag      = finding.Declare("series.lag", "percent", "volume")
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
		a.none(whyFew.Message(finding.Count(fewestPoints)))
		return a
	}
	t := track{Series: r, all: r}
	t.Points = gathered(r.Points)
	a.Slopes = slopes(t.Points)
	peaks := t.peaks(a.Slopes)
	for _, i := range peaks {
		a.Jumps = append(a.Jumps, a.Slopes[i].Volume)
	}
	if len(peaks) == 0 {
		a.none(whyNoJump.Message())
		return a
	}
	which := a.which(t.Series)
	if which < 0 {
		a.none(whyEarlier.Message(finding.Volume(a.Jumps[0])))
		return a
	}
	t.slopes, t.at, t.jumps, t.last = a.Slopes, peaks[which], len(peaks), which == len(peaks)-1
	t.start = a.Slopes[t.at].Volume
	a.try(t)
	a.choose(r.Burette, r.Prefer)
	a.look(t.Series, t.at)
	if a.Used != "" && (r.Analyte == Weak || r.Kind == MV) && t.jumps == 1 {
		noise := t.noise()
		if a.Fit != nil {
			noise = a.Fit.Noise
		}
		a.Half = t.half(a.Volume, a.Standard, noise)
	}
	return a
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
	if x := r.AcidBase; x != nil && r.Analyte == Unknown { // it follows from what is in the flask
		switch len(x.Sample.PKa) {
		case 0:
			r.Analyte = Strong
		case 1:
			r.Analyte = Weak
		}
	}
	return r
}

func (a *Analysis) say(f finding.Finding) { a.Findings = append(a.Findings, f) }
