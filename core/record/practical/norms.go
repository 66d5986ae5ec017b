package practical

import (
	"cmp"
	"maps"
	"math"
	"slices"

	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

// Norm is a limit that is common practice: schools see some of them differently. What it is
// called, and what it changes, is said in the messages "norm.<name>" and "norm.why.<name>".
type Norm struct {
	Name    NormName
	Unit    quantity.Unit
	Usual   decimal.Decimal // what the program ships; common practice, no source
	Least   decimal.Decimal
	Most    decimal.Decimal
	Group   NormGroup
	Counted bool // a whole number
}

// NormName names a norm.
type NormName string

// NormGroup says what norms are about.
type NormGroup string

// The groups, in the order in which they are shown.
const (
	NormsBench   NormGroup = "bench"
	NormsJudging NormGroup = "judging"
	NormsProbe   NormGroup = "probe"
	NormsPlan    NormGroup = "plan"
	NormsPrepare NormGroup = "prepare"
	NormsLesson  NormGroup = "lesson"
	NormsMarks   NormGroup = "marks"
)

// NormGroups are all of them.
var NormGroups = []NormGroup{NormsBench, NormsJudging, NormsProbe, NormsPlan, NormsPrepare, NormsLesson, NormsMarks}

// The norms.
const (
	LeakSeconds    NormName = "leak-wait"      // the burette is watched for leaks
	StirMinutes    NormName = "stir"           // a dense solution is stirred
	RoughStep      NormName = "rough-step"     // a rough trial runs in steps of this
	RoughLead      NormName = "rough-lead"     // drops begin so long before the end of a rough trial
	SpareVolume    NormName = "spare"          // kept between an expected reading and the last mark
	UsualTitre     NormName = "usual-titre"    // taken where nothing is known of the next one
	RepeatOff      NormName = "repeat-off"     // a repeat without indicator may lie off the mean
	SmallTitre     NormName = "small-titre"    // a titre below it is small
	PastRough      NormName = "past-rough"     // above what the rough trial predicts: past the end
	LooseTolerance NormName = "loose"          // a tolerance above this part of the titre tells little
	DriftTrials    NormName = "drift-trials"   // so many trials that go one way drift
	FarExpected    NormName = "far-expected"   // an answer this far from the expected one
	FarNominal     NormName = "far-nominal"    // what is entered this far from what the practical says of it
	LeastExcess    NormName = "least-excess"   // of the reagent in excess that should be left
	MostExcess     NormName = "most-excess"    // of it that may be left
	OverHundred    NormName = "over-hundred"   // what a purity may exceed 100 % by
	Standardised   NormName = "standardised"   // standard uncertainty of a nominal concentration that is standardised
	NominalShare   NormName = "nominal-share"  // a strength written with few digits is sure to this part of it
	RoomKelvin     NormName = "room"           // a laboratory lies within this of 20 °C
	RoughFigures   NormName = "rough-figures"  // figures of an answer from a rough trial
	StepFigures    NormName = "step-figures"   // that a step of the working is written with at least
	ProbeSlope     NormName = "probe-slope"    // of Nernst's: a probe below it is worn
	ProbePause     NormName = "probe-pause"    // a pause that makes two pieces of a run
	ProbeWarm      NormName = "probe-warm"     // from 25 °C: table values are off
	ProbeDriftPH   NormName = "probe-drift-ph" // a buffer read afterwards may lie off
	ProbeDriftMV   NormName = "probe-drift-mv"
	ProbeStepPH    NormName = "probe-step-ph" // a step may change the reading by
	ProbeStepMV    NormName = "probe-step-mv"
	ProbeAhead     NormName = "probe-ahead"  // the predicted curve may lie off, of the volume
	ProbeCoarse    NormName = "probe-coarse" // a step in the jump, of the volume
	ProbeTailFrom  NormName = "probe-tail"   // behind the end, of its volume: there the tail begins
	ProbeTail      NormName = "probe-points" // points on the tail
	ProbeGone      NormName = "probe-gone"   // without a line the probe is gone
	ProbeWindow    NormName = "probe-window" // over which a value is looked at
	SmallestTitre  NormName = "smallest"     // that is planned
	BestFrom       NormName = "best-from"    // of the burette
	BestTo         NormName = "best-to"
	BestAim        NormName = "best-aim"
	EnoughFigures  NormName = "enough-figures" // of a concentration that three figures are to come from
	IndicatorDrops NormName = "drops"          // of indicator for each trial
	RinseBurette   NormName = "rinse-burette"  // for each rinsing
	RinsePipette   NormName = "rinse-pipette"
	FillJet        NormName = "jet"
	Rinses         NormName = "rinses"
	SpareShare     NormName = "spare-share" // of what a class needs
	WholeVolume    NormName = "whole"       // what is made is rounded up to this
	HandsOnMinutes NormName = "hands-on"    // a step takes beside its waiting
	CoolMinutes    NormName = "cool"        // a dried solid stands in a desiccator
	QuietMinutes   NormName = "quiet"       // a bench that writes nothing
	ManyTrials     NormName = "many-trials" // accurate ones without agreement
	FarOff         NormName = "far-off"     // an answer from the true value
	ShiftBench     NormName = "shift-bench" // of some benches against the others, worth naming
	ShiftClass     NormName = "shift-class" // of the whole class
	EconomyTrials  NormName = "economy"     // within which titres agree
)

func norm(group NormGroup, name NormName, unit quantity.Unit, usual, least, most string) Norm {
	return Norm{Name: name, Unit: unit, Usual: decimal.Must(usual), Least: decimal.Must(least), Most: decimal.Must(most), Group: group,
		Counted: unit == quantity.One}
}

const (
	seconds = quantity.Unit("s")
	minutes = quantity.Unit("min")
	kelvins = quantity.Unit("K")
	phs     = quantity.Unit("pH")
	mvs     = quantity.Unit("mV")
	parts   = quantity.Percent
	volume  = quantity.Millilitre
	counted = quantity.One
)

// Usual are the norms that the program ships: common practice, no source.
var Usual = []Norm{
	norm(NormsBench, LeakSeconds, seconds, "30", "5", "600"),
	norm(NormsBench, StirMinutes, minutes, "2", "1", "30"),
	norm(NormsBench, RoughStep, volume, "1", "0.2", "5"),
	norm(NormsBench, RoughLead, volume, "2.00", "0.20", "10"),
	norm(NormsBench, SpareVolume, volume, "1.00", "0", "10"),
	norm(NormsBench, UsualTitre, volume, "25", "1", "100"),
	norm(NormsBench, RepeatOff, volume, "0.10", "0.01", "2"),
	norm(NormsJudging, SmallTitre, volume, "5", "0.5", "50"),
	norm(NormsJudging, PastRough, volume, "1", "0.1", "10"),
	norm(NormsJudging, LooseTolerance, parts, "1", "0.1", "10"),
	norm(NormsJudging, DriftTrials, counted, "3", "3", "10"),
	norm(NormsJudging, FarExpected, parts, "10", "1", "100"),
	norm(NormsJudging, FarNominal, parts, "20", "2", "100"),
	norm(NormsJudging, LeastExcess, parts, "10", "1", "50"),
	norm(NormsJudging, MostExcess, parts, "90", "50", "99"),
	norm(NormsJudging, OverHundred, parts, "0.5", "0", "10"),
	norm(NormsJudging, Standardised, parts, "0.3", "0.05", "5"),
	norm(NormsJudging, NominalShare, parts, "1", "0.1", "20"),
	norm(NormsJudging, RoomKelvin, kelvins, "3", "0", "15"),
	norm(NormsJudging, RoughFigures, counted, "2", "1", "4"),
	norm(NormsJudging, StepFigures, counted, "3", "2", "5"),
	norm(NormsProbe, ProbeSlope, parts, "95", "80", "100"),
	norm(NormsProbe, ProbePause, minutes, "10", "1", "120"),
	norm(NormsProbe, ProbeWarm, kelvins, "5", "1", "30"),
	norm(NormsProbe, ProbeDriftPH, phs, "0.05", "0.01", "1"),
	norm(NormsProbe, ProbeDriftMV, mvs, "5", "0.5", "100"),
	norm(NormsProbe, ProbeStepPH, phs, "0.4", "0.1", "2"),
	norm(NormsProbe, ProbeStepMV, mvs, "25", "5", "200"),
	norm(NormsProbe, ProbeAhead, parts, "2", "0.5", "20"),
	norm(NormsProbe, ProbeCoarse, parts, "2", "0.2", "20"),
	norm(NormsProbe, ProbeTailFrom, parts, "3", "0.5", "30"),
	norm(NormsProbe, ProbeTail, counted, "3", "1", "20"),
	norm(NormsProbe, ProbeGone, seconds, "5", "1", "120"),
	norm(NormsProbe, ProbeWindow, seconds, "8", "2", "120"),
	norm(NormsPlan, SmallestTitre, volume, "10", "0.5", "50"),
	norm(NormsPlan, BestFrom, parts, "40", "5", "80"),
	norm(NormsPlan, BestTo, parts, "90", "50", "100"),
	norm(NormsPlan, BestAim, parts, "55", "20", "90"),
	norm(NormsPlan, EnoughFigures, counted, "3", "2", "5"),
	norm(NormsPrepare, IndicatorDrops, counted, "3", "1", "10"),
	norm(NormsPrepare, RinseBurette, volume, "10", "0", "100"),
	norm(NormsPrepare, RinsePipette, volume, "5", "0", "100"),
	norm(NormsPrepare, FillJet, volume, "5", "0", "50"),
	norm(NormsPrepare, Rinses, counted, "2", "0", "10"),
	norm(NormsPrepare, SpareShare, parts, "20", "0", "200"),
	norm(NormsPrepare, WholeVolume, volume, "500", "1", "5000"),
	norm(NormsPrepare, HandsOnMinutes, minutes, "5", "0", "60"),
	norm(NormsPrepare, CoolMinutes, minutes, "30", "5", "240"),
	norm(NormsLesson, QuietMinutes, minutes, "10", "1", "120"),
	norm(NormsLesson, ManyTrials, counted, "4", "2", "20"),
	norm(NormsLesson, FarOff, parts, "2", "0.1", "50"),
	norm(NormsLesson, ShiftBench, parts, "0.5", "0.05", "10"),
	norm(NormsLesson, ShiftClass, parts, "1.0", "0.05", "20"),
	norm(NormsMarks, EconomyTrials, counted, "4", "2", "20"),
}

// names are the names of all norms.
var names = func() []NormName {
	out := make([]NormName, len(Usual))
	for i, n := range Usual {
		out[i] = n.Name
	}
	return out
}()

var (
	// NormNames are what norms are called.
	NormNames = finding.Family("norm.", names)

	normUnknown = finding.Declare("norms.unknown", "name")
	normRange   = finding.Declare("norms.range", "norm", "least", "most")
	normWhole   = finding.Declare("norms.whole", "norm")
	normOrder   = finding.Declare("norms.order", "low", "high")
)

// Norms are what a school sees differently, by name; what is left out is as usual. An
// installation, a class and a practical may each have theirs (Over).
type Norms map[NormName]decimal.Decimal

// byName finds a norm.
var byName = func() map[NormName]Norm {
	out := make(map[NormName]Norm, len(Usual))
	for _, n := range Usual {
		out[n.Name] = n
	}
	return out
}()

// Value is a norm as it holds, in its unit.
func (n Norms) Value(name NormName) decimal.Decimal {
	if v, own := n[name]; own {
		return v
	}
	return byName[name].Usual
}

// Of is Value as a number.
func (n Norms) Of(name NormName) float64 { return n.Value(name).Float64() }

// Part is a norm in % as a fraction.
func (n Norms) Part(name NormName) float64 { return n.Of(name) / 100 }

// Count is a norm that counts.
func (n Norms) Count(name NormName) int { return int(n.Of(name)) }

// Said is a norm to be spoken, with its unit.
func (n Norms) Said(name NormName) finding.Value {
	if k := byName[name]; k.Counted {
		return finding.Count(n.Count(name))
	}
	return finding.Exact(n.Value(name), byName[name].Unit)
}

// Over are these norms where they are given, else those of a wider circle: a practical's over
// its class's, a class's over the installation's.
func (n Norms) Over(wider Norms) Norms {
	if len(n) == 0 && len(wider) == 0 {
		return nil
	}
	out := maps.Clone(wider)
	if out == nil {
		out = Norms{}
	}
	maps.Copy(out, n)
	return out
}

// Check finds a norm that there is not, or that is out of its range.
func (n Norms) Check(path string) *finding.Fault {
	for _, name := range slices.SortedFunc(maps.Keys(n), func(a, b NormName) int { return cmp.Compare(a, b) }) {
		k, known := byName[name]
		at := path + "." + string(name)
		switch v := n[name]; {
		case !known:
			return normUnknown.Fault(at, finding.Text(string(name)))
		case v.Cmp(k.Least) < 0 || v.Cmp(k.Most) > 0:
			return normRange.Fault(at, finding.Said(NormNames[name].Message()), finding.Exact(k.Least, k.Unit), finding.Exact(k.Most, k.Unit))
		case k.Counted && !v.MultipleOf(decimal.Whole(1)):
			return normWhole.Fault(at, finding.Said(NormNames[name].Message()))
		}
	}
	for _, pair := range [][2]NormName{{LeastExcess, MostExcess}, {BestFrom, BestAim}, {BestAim, BestTo}} {
		if n.Value(pair[0]).Cmp(n.Value(pair[1])) >= 0 {
			return normOrder.Fault(path+"."+string(pair[1]), finding.Said(NormNames[pair[0]].Message()), finding.Said(NormNames[pair[1]].Message()))
		}
	}
	return nil
}

// Norms are those that hold for the practical: its own over those of its school.
func (r *Ready) Norms() Norms { return r.norms }

// Sure is how far a strength may be off each way, as it is written: half a unit of its last digit,
// and no more than the norm's part of it. 0.1 as everybody writes it is the nominal strength of
// a solution that was made with some care, and not anything from 0.05 to 0.15. nominal tells
// that the norm says it. Common practice, no source.
func (r *Ready) Sure(c decimal.Decimal) (half float64, nominal bool) {
	digit := 0.5 * math.Pow(10, -float64(c.Places()))
	if share := r.Norms().Part(NominalShare) * math.Abs(c.Float64()); share <= digit {
		return share, true
	}
	return digit, false
}
