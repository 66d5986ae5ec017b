package series

import (
	"math"

	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
)

// way is a way to an end.
type way interface {
	method() practical.Method
	// end is where it finds the end, or why it finds none, with what it leaves to be shown.
	end(track) (End, trace)
}

// ways are all of them, the one that counts first where nothing else is wanted.
var ways = []way{fitted{}, secondZero{}, steepest{}, gran{before: true}, gran{}}

// track is a run as the ways find it.
type track struct {
	Series        // its points gathered, so that a derivative can be taken
	all    Series // with every point
	slopes []Measured
	at     int     // which of the slopes is the steepest at the end
	start  float64 // mL, there
	jumps  int     // how many equivalence points show
	last   bool    // the end is the last of them
}

// trace is what a way leaves to be shown beside its end.
type trace struct {
	line *Line
	fit  *Fit
}

// try takes each way, and keeps what is a number of what it finds.
func (a *Analysis) try(t track) {
	for _, w := range ways {
		e, left := w.end(t)
		if e.Why == nil && !finite(e.Volume, e.Standard, e.Low, e.High) {
			e = cannot(e.Method, whyNoFit.Message())
		}
		a.Ends = append(a.Ends, e)
		if left.line != nil {
			a.Gran = append(a.Gran, *left.line)
		}
		if left.fit != nil && left.fit.finite() {
			a.Fit = left.fit
		}
	}
}

// none says of every way why it gives nothing.
func (a *Analysis) none(why finding.Message) {
	for _, w := range ways {
		a.Ends = append(a.Ends, cannot(w.method(), why))
	}
}

func cannot(m practical.Method, why finding.Message) End { return End{Method: m, Why: &why} }

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
