package sim

import (
	"math"
	"math/rand/v2"

	"exactflask/core/chemistry/equilibrium"
	"exactflask/core/record/journal"
)

// Instrument is a simulated probe: what it shows comes behind what is there, trembles,
// drifts, and has an error of slope and offset until it is calibrated. The sizes are those
// of a usual teaching probe; common practice, no source.
type Instrument struct {
	Shows   journal.ProbeUnit
	Lag     float64 // time constant of the answer, s
	Noise   float64 // standard deviation of what is shown, pH or mV
	Drift   float64 // an hour, pH or mV
	Slope   float64 // 1 is that of Nernst's equation
	Offset  float64 // at pH 7 or 0 mV
	Stirred bool    // without the stirrer the answer comes five times as late

	rand  *rand.Rand
	shown float64 // behind what is there
	at    float64 // s
	begun bool
}

// NewInstrument is one with errors drawn by a seed.
func NewInstrument(shows journal.ProbeUnit, seed uint64) *Instrument {
	r := rand.New(rand.NewPCG(seed, 0x9b0be))
	i := &Instrument{Shows: shows, Lag: 3 + 2*r.Float64(), Noise: 0.004, Drift: 0.02 * r.NormFloat64(), Slope: 0.98 + 0.008*r.NormFloat64(), Offset: 0.15 * r.NormFloat64(),
		Stirred: true, rand: r}
	if shows == journal.ShownMV {
		i.Noise, i.Drift, i.Slope, i.Offset = 0.3, 1*r.NormFloat64(), 1, 8*r.NormFloat64()
	}
	return i
}

// Calibrate takes the error of slope and offset out, as a meter does in its buffers.
func (i *Instrument) Calibrate() { i.Slope, i.Offset = 1, 0 }

const unstirred = 5

// Advance lets time pass over what is really there, s and pH or mV, and returns what is
// shown now.
func (i *Instrument) Advance(seconds, truth float64) float64 {
	lag := i.Lag
	if !i.Stirred {
		lag *= unstirred
	}
	if !i.begun {
		i.begun, i.shown = true, truth
	}
	i.at += seconds
	i.shown += (truth - i.shown) * (1 - math.Exp(-seconds/lag))
	middle := 0.0
	if i.Shows == journal.ShownPH {
		middle = 7
	}
	return middle + i.Offset + i.Slope*(i.shown-middle) + i.Drift*i.at/3600 + i.Noise*i.rand.NormFloat64()
}

// inUnit is what a curve's value is in the unit of the probe: pH, or mV for the volts of a
// redox curve and for a pH electrode that shows mV.
func inUnit(kind journal.ProbeUnit, acidBase bool, electrode, value float64) float64 {
	switch {
	case kind == journal.ShownPH:
		return value
	case acidBase:
		return (7 - value) * 1000 * equilibrium.Nernst(25)
	}
	return 1000*value - electrode
}
