package series

import (
	"math"

	"exactflask/core/record/practical"
)

// zeroShare is the standard deviation of the zero of the second derivative from the true
// end, of the step, and zeroHalf the half width of 95 %: by simulation over strong and
// weak acids, steps of 0.1 to 1 mL (docs/truth.md).
const (
	zeroShare = 0.25
	zeroHalf  = 0.41
)

// secondZero is where the second derivative goes through zero, by a straight line between
// its values at both ends of the steepest step.
type secondZero struct{}

func (secondZero) method() practical.Method { return practical.SecondZero }

func (secondZero) end(r track) (End, trace) {
	s, at := r.slopes, r.at
	before := (s[at].Reading - s[at-1].Reading) / (s[at].Volume - s[at-1].Volume)
	after := (s[at+1].Reading - s[at].Reading) / (s[at+1].Volume - s[at].Volume)
	if before == after || before*after > 0 {
		return cannot(practical.SecondZero, whyNoJump.Message()), trace{}
	}
	low, h := r.Points[at].Volume, r.Points[at+1].Volume-r.Points[at].Volume
	v := low + h*before/(before-after)
	u, half := math.Hypot(zeroShare*h, r.Burette), math.Hypot(zeroHalf*h, 1.96*r.Burette)
	return End{Method: practical.SecondZero, Volume: v, Standard: u, Low: v - half, High: v + half}, trace{}
}
