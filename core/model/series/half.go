package series

import (
	"math"
)

// Half is the reading half-way to the equivalence: the pKa of a weak acid, the formal
// potential of a redox couple.
type Half struct {
	Volume   float64 `json:"volume"`
	Reading  float64 `json:"reading"`
	Standard float64 `json:"standard"`
	Capacity float64 `json:"capacity,omitempty" doc:"of the buffer there, mol/L for one pH"`
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
