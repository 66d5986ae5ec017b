package series

import (
	"math"

	"exactflask/core/record/practical"
)

// rectangle is the half width of 95 % of a uniform distribution, of its whole width.
const rectangle = 0.475

// steepest is the middle of the steepest step: the end lies somewhere in it.
type steepest struct{}

func (steepest) method() practical.Method { return practical.Steepest }

func (steepest) end(r track) (End, trace) {
	h := r.Points[r.at+1].Volume - r.Points[r.at].Volume
	v := (r.Points[r.at+1].Volume + r.Points[r.at].Volume) / 2
	u := math.Hypot(h/math.Sqrt(12), r.Burette)
	half := math.Hypot(rectangle*h, 1.96*r.Burette)
	return End{Method: practical.Steepest, Volume: v, Standard: u, Low: v - half, High: v + half}, trace{}
}
