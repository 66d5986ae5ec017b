package series

import (
	"math"
	"slices"

	"exactflask/core/values/finding"
	"exactflask/core/values/statistics"
)

// Parts are where one run ends and another begins in points that were put one behind the other: the
// place of the first point of each, of one run 0 alone. The volume goes back over more than half of
// what has run and runs over as much again, and each part has points enough to say anything.
func Parts(points []Measured) []int {
	out, low, high := []int{0}, math.Inf(1), math.Inf(-1)
	for i, p := range points {
		begun := i - out[len(out)-1]
		if begun >= fewestPoints && len(points)-i >= fewestPoints && high-p.Volume > (high-low)/2 && p.Volume < points[i-1].Volume && reaches(points[i:]) > (low+high)/2 {
			out, low, high = append(out, i), p.Volume, p.Volume
			continue
		}
		low, high = min(low, p.Volume), max(high, p.Volume)
	}
	return out
}

// reaches is up to where points go on rising, mL.
func reaches(points []Measured) float64 {
	most := points[0].Volume
	for i := 1; i < len(points) && points[i].Volume >= points[i-1].Volume; i++ {
		most = points[i].Volume
	}
	return most
}

// ordered are the points by volume, one for each; what is not is said.
func (a *Analysis) ordered(r Series) []Measured {
	in := r.Points
	if parts := Parts(in); len(parts) > 1 {
		a.say(saysRuns.Finding(finding.Warning, "", finding.Count(len(parts)), finding.Count(parts[1])))
		in = in[:parts[1]]
	}
	out := slices.Clone(in)
	for i := 1; i < len(in); i++ {
		if in[i].Volume < in[i-1].Volume {
			a.say(saysOrder.Finding(finding.Check, "", finding.Volume(in[i].Volume)))
			break
		}
	}
	slices.SortStableFunc(out, func(x, y Measured) int {
		switch {
		case x.Volume < y.Volume:
			return -1
		case x.Volume > y.Volume:
			return 1
		}
		return 0
	})
	// Of two readings at one volume the later one stands: the first was not steady yet.
	kept, left := out[:0], 0
	for _, p := range out {
		if r.Kind == MV && r.Redox != nil && p.Volume <= 0 {
			continue // the potential of one form alone is none
		}
		if !(math.Abs(p.Volume) <= mostVolume && math.Abs(p.Reading) <= mostReading) {
			left++
			continue
		}
		if n := len(kept); n > 0 && kept[n-1].Volume == p.Volume {
			kept[n-1] = p
			continue
		}
		kept = append(kept, p)
	}
	if left > 0 {
		a.say(saysLeft.Finding(finding.Check, "", finding.Count(left)))
	}
	return kept
}

// most is of how many points a derivative is taken: of more, neighbours lie within their
// own noise.
const most = 200

// gathered are means of neighbours where points lie closer than a derivative can use.
func gathered(p []Measured) []Measured {
	if len(p) <= most {
		return p
	}
	width := (p[len(p)-1].Volume - p[0].Volume) / most
	out := make([]Measured, 0, most+1)
	for i := 0; i < len(p); {
		sum, n := Measured{}, 0.0
		for j := i; i < len(p) && p[i].Volume-p[j].Volume < width; i++ {
			sum.Volume, sum.Reading, n = sum.Volume+p[i].Volume, sum.Reading+p[i].Reading, n+1
		}
		out = append(out, Measured{sum.Volume / n, sum.Reading / n})
	}
	return out
}

// slopes are the first derivative between neighbouring points.
func slopes(p []Measured) []Measured {
	out := make([]Measured, 0, len(p))
	for i := 1; i < len(p); i++ {
		out = append(out, Measured{(p[i].Volume + p[i-1].Volume) / 2, (p[i].Reading - p[i-1].Reading) / (p[i].Volume - p[i-1].Volume)})
	}
	return out
}

// peaks are the places of the steepest slopes, one for each equivalence point: local
// maxima that stand out from the valleys beside them, and from the noise of the readings.
func (r Series) peaks(s []Measured) []int {
	points := r.Points
	highest := 0.0
	for _, p := range s {
		highest = max(highest, math.Abs(p.Reading))
	}
	usual := statistics.Median(magnitudes(s))
	if highest == 0 {
		return nil
	}
	least := evenly(points)
	var out []int
	for i := range s {
		v := math.Abs(s[i].Reading)
		if v < prominence*highest || i > 0 && math.Abs(s[i-1].Reading) >= v || i+1 < len(s) && math.Abs(s[i+1].Reading) > v {
			continue
		}
		if i == 0 || i == len(s)-1 { // it may go on rising where nothing was read
			continue
		}
		step, noise := math.Abs(points[i+1].Reading-points[i].Reading), min(noiseOf(points, i), least)
		if step < jumps*noise || math.Abs(middle(points[i+1:min(len(points), i+1+beside)])-middle(points[max(0, i+1-beside):i+1])) < jumps*noise || v < stands*usual && !r.clear(s, i, step) {
			continue // readings that tremble, or climb evenly
		}
		if n := len(out); n > 0 && !valley(s, out[n-1], i) {
			if v > math.Abs(s[out[n-1]].Reading) {
				out[n-1] = i
			}
			continue
		}
		out = append(out, i)
	}
	return out
}

// evenly is the smallest step of readings that go one way throughout, which those that tremble do
// not: of a few points far apart the second differences are those of the curve, and not noise.
// Infinite where the readings turn.
func evenly(p []Measured) float64 {
	least, way := math.Inf(1), 0.0
	for i := 1; i < len(p); i++ {
		d := p[i].Reading - p[i-1].Reading
		if d == 0 || d*way < 0 {
			return math.Inf(1)
		}
		least, way = min(least, math.Abs(d)), d
	}
	return least
}

// clear tells of a step that is a jump by its size, between slopes that are less than half of its
// own at both ends: of a run that was read in the jump only.
func (r Series) clear(s []Measured, i int, step float64) bool {
	least, v := 0.5, math.Abs(s[i].Reading) // pH
	if r.Kind == MV {
		least = 30
	}
	return step >= least && math.Abs(s[0].Reading) < v/2 && math.Abs(s[len(s)-1].Reading) < v/2
}

func magnitudes(s []Measured) []float64 {
	out := make([]float64, len(s))
	for i, p := range s {
		out[i] = math.Abs(p.Reading)
	}
	return out
}

// middle is the median of some readings.
func middle(p []Measured) float64 {
	var near []float64
	for i := range p {
		near = append(near, p[i].Reading)
	}
	return statistics.Median(near)
}

// valley tells whether the slope falls to less than half of the smaller of two peaks
// between them.
func valley(s []Measured, i, j int) bool {
	least := math.Inf(1)
	for k := i; k <= j; k++ {
		least = min(least, math.Abs(s[k].Reading))
	}
	return least < 0.5*min(math.Abs(s[i].Reading), math.Abs(s[j].Reading))
}

// noise is the standard deviation of the readings, from the second differences of the
// flat parts: robust, so that the jump does not count.
func (r Series) noise() float64 { return noiseOf(r.Points, -besideJump-2) }

// besideJump are the points on each side of a step that tell nothing of the noise where that is a
// jump: there the curve itself bends.
const besideJump = 2

// noiseOf is the noise of points, without those about the step behind one of them.
func noiseOf(points []Measured, jump int) float64 {
	var d []float64
	for i := 1; i+1 < len(points); i++ {
		if i >= jump-besideJump && i <= jump+1+besideJump {
			continue
		}
		p, q, s := points[i-1], points[i], points[i+1]
		t := (q.Volume - p.Volume) / (s.Volume - p.Volume)
		// What is left of the middle one after a straight line has 1 + t² + (1-t)² of its variance.
		d = append(d, math.Abs(q.Reading-p.Reading-t*(s.Reading-p.Reading))/math.Sqrt(1+t*t+(1-t)*(1-t)))
	}
	slices.Sort(d)
	if len(d) == 0 {
		return 0
	}
	return 1.4826 * d[len(d)/4*2/2] * quarterToHalf
}

// quarterToHalf turns the lower quartile of absolute deviations of a normal distribution
// into their median: 0.6745 by 0.3186.
const quarterToHalf = 0.6745 / 0.3186

// ReadingAt is the reading at a volume, between its neighbours.
func (r Series) ReadingAt(v float64) float64 {
	return statistics.BetweenAt(len(r.Points), func(i int) (float64, float64) { return r.Points[i].Volume, r.Points[i].Reading }, v)
}
