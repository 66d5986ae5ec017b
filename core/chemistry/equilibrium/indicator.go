package equilibrium

import (
	"math"

	"exactflask/core/chemistry/glass"
)

// Verdict says whether an indicator serves.
type Verdict string

// The verdicts: within one drop (0.05 mL) of the equivalence, within 0.5 % of
// the volume, or beyond. Source of the limits: common practice, no source.
const (
	Suits      Verdict = "suits"
	Marginal   Verdict = "marginal"
	Unsuitable Verdict = "unsuitable"
)

// Usual is the limit of a marginal indicator, % of the volume.
const Usual = 0.5

// EndPoint is where an indicator makes one stop.
type EndPoint struct {
	Volume  float64 `json:"volume" doc:"mL of titrant at which the eye stops"`
	Error   float64 `json:"error" doc:"mL past the equivalence"`
	Percent float64 `json:"percent" doc:"the same in % of the equivalence volume"`
	Width   float64 `json:"width" doc:"mL over which the colour turns: one unit of pH, or 0.1 V, about the end"`
	Verdict Verdict `json:"verdict" enum:"suits,marginal,unsuitable"`
	Reason  string  `json:"reason" enum:"good,early,late,slow,never" doc:"why it does not serve: it changes too early or too late, too slowly, or not at all"`
}

// Judge says where an indicator stops that changes at this value (pH or V),
// for an equivalence at a volume. volumeAt is the titration's. half is the
// half width over which the colour turns, limit what a marginal one may be off, %
// of the volume; Usual where a school has no other.
func Judge(volumeAt func(float64) float64, at, half, equivalence, limit float64) EndPoint {
	width := math.Abs(volumeAt(at+half) - volumeAt(at-half))
	return JudgeAt(volumeAt(at), width, equivalence, limit)
}

// JudgeAt is Judge for a volume at which the eye stops and the width over which
// the colour turns, mL.
func JudgeAt(v, width, equivalence, limit float64) EndPoint {
	if math.IsInf(v, 0) || math.IsNaN(v) || v < 0 || v > 20*equivalence {
		p := EndPoint{Verdict: Unsuitable, Reason: "never"}
		if v < 0 { // it has the end colour from the start
			p.Reason, p.Error, p.Percent = "early", -equivalence, -100
		}
		return p
	}
	p := EndPoint{Volume: v, Error: v - equivalence, Percent: 100 * (v - equivalence) / equivalence, Width: width,
		Verdict: Suits, Reason: "good"}
	if math.IsInf(width, 0) || math.IsNaN(width) {
		p.Width = 2 * equivalence
	}
	// A change that takes many drops cannot be stopped at, wherever it lies.
	slow := p.Width > math.Max(10*glass.Drop, 0.03*equivalence)
	switch {
	case math.Abs(p.Error) <= glass.Drop && !slow:
		return p
	case math.Abs(p.Percent) <= limit && !slow:
		p.Verdict = Marginal
	default:
		p.Verdict = Unsuitable
	}
	switch {
	case slow && math.Abs(p.Percent) <= limit:
		p.Reason = "slow"
	case p.Error < 0:
		p.Reason = "early"
	default:
		p.Reason = "late"
	}
	return p
}
