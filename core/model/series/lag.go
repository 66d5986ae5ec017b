package series

import "math"

// lags are the parts of a step that are tried for what a slow probe had not followed.
var lags = []float64{0.02, 0.05, 0.1, 0.15, 0.2, 0.3, 0.45}

// surely is by how much twice the logarithm of the likelihood has to grow for a lag to be told: a
// chance of less than one in ten thousand (chi-squared of one degree of freedom).
const surely = 15.1

// denselyRead are so many points that a step is no longer what a probe had to follow: a logger's.
const denselyRead = 300

// lag is the part of each step that the probe had not followed when it was read, and where the end
// lies then: a reading is so much nearer to the one before it. 0 where that does not make the
// readings much likelier.
func (m model) lag(theta []float64) (part, end float64) {
	whole := m.points
	if len(whole) > denselyRead {
		return 0, 0
	}
	of := func(lag float64) model {
		x := m
		x.theta, x.points = theta, make([]Measured, 0, len(whole)-1)
		for i := 1; i < len(whole); i++ {
			x.points = append(x.points, Measured{whole[i].Volume, (whole[i].Reading - lag*whole[i-1].Reading) / (1 - lag)})
		}
		return x
	}
	least := of(0).deviance(theta, 0) - surely
	for _, lag := range lags {
		x := of(lag)
		found, _, _, _ := x.solve()
		if found == nil {
			continue
		}
		if d := x.deviance(found, lag); d < least {
			least, part, end = d, lag, found[0]
		}
	}
	return part, end
}

// deviance is minus twice the logarithm of the likelihood of readings that lag, with the scatter
// that makes it largest, but for a constant.
func (m model) deviance(theta []float64, lag float64) float64 {
	n, sum, spreads := float64(len(m.points)), 0.0, 0.0
	volume := m.laid(theta)
	for _, p := range m.points {
		d, s := m.residual(p, theta, volume)
		d *= 1 - lag // of the reading itself
		sum, spreads = sum+(d/s)*(d/s), spreads+2*math.Log(s)
	}
	return n*math.Log(sum/n) + spreads
}
