package practical

import (
	"fmt"
	"slices"
	"sync"

	"exactflask/core/chemistry/glass"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

var glassNowhere = finding.Declare("glass.nowhere", "step")

// Using is the practical with another piece of glassware: in the place of its burette (step 0), or of
// what measures a step's volume (from 1, as Volumes). A fault where the step measures no volume, a
// burette of the sample's own does, or the practical is none with it.
func (r *Ready) Using(step int, piece glass.Piece) (*Ready, *finding.Fault) {
	all := r.Kept("using", func() any { return &usings{made: map[string]using{}} }).(*usings)
	key := fmt.Sprintf("%d %+v", step, piece)
	all.mu.Lock()
	u, known := all.made[key]
	all.mu.Unlock()
	if known {
		return u.ready, u.fault
	}
	u.ready, u.fault = r.using(step, piece)
	all.mu.Lock()
	defer all.mu.Unlock()
	if len(all.made) >= mostUsings { // nobody has so many; begun anew, it is only slower
		clear(all.made)
	}
	all.made[key] = u
	return u.ready, u.fault
}

// mostUsings are kept of one practical.
const mostUsings = 64

type usings struct {
	mu   sync.Mutex
	made map[string]using
}

type using struct {
	ready *Ready
	fault *finding.Fault
}

func (r *Ready) using(step int, piece glass.Piece) (*Ready, *finding.Fault) {
	p := r.Practical
	if step == 0 {
		p.Glass.Burette = piece.Burette()
		return p.Check()
	}
	steps := &p.Route
	if r.MadeOnly() {
		steps = &p.Chemistry.Titrant.Made
		p.Chemistry.Titrant.Concentration = decimal.Decimal{} // the strength aimed at is that of the practical's glass
	}
	if step > len(*steps) || !(*steps)[step-1].Measures() || (*steps)[step-1].By == ByBurette {
		return nil, glassNowhere.Fault("step", finding.Count(step))
	}
	*steps = slices.Clone(*steps)
	s := &(*steps)[step-1]
	s.Volume, s.Within, s.Class = piece.Capacity, piece.Tolerance, piece.Burette().Class
	s.By = map[glass.Kind]By{glass.OneMark: ByPipette, glass.Cylinder: ByCylinder, glass.Flask: ByFlask}[piece.Kind]
	return p.Check()
}
