package series

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"

	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/statistics"
)

// Line is one of Gran's lines, its function made 1 at its largest.
type Line struct {
	Method practical.Method `json:"method" enum:"gran-before,gran-after"`
	Points []Measured       `json:"points" doc:"the function at the volumes that were taken for it"`
	Zero   float64          `json:"zero" doc:"where the line meets zero, mL"`
	At     float64          `json:"at" doc:"another volume, mL"`
	Value  float64          `json:"value" doc:"of the line there"`
}

// gran is where the straight line of Gran's function meets zero: of points before the
// end, or behind it, each weighed by the inverse of its square, since a pH is read to the
// same everywhere. A base is read in pOH.
type gran struct{ before bool }

func (g gran) method() practical.Method {
	if g.before {
		return practical.GranBefore
	}
	return practical.GranAfter
}

func (g gran) end(t track) (End, trace) {
	r, start, before, method := t.all, t.start, g.before, g.method()
	one := t.jumps == 1 || !before && t.last
	switch {
	case r.Kind != PH:
		return cannot(method, whyNotPH.Message()), trace{}
	case r.Analyte == Unknown && before || r.Flask <= 0 || !one || !before && r.AcidBase != nil && (len(r.AcidBase.Titrant.PKa) > 0 || len(r.AcidBase.Sample.PKa) > max(1, r.EndNumber)):
		return cannot(method, whyUnknown.Message()), trace{}
	}
	low, high := 0.3*start, 0.92*start
	if !before {
		low, high = 1.08*start, 2*start
	}
	var x, y, w []float64
	for _, p := range r.Points {
		if p.Volume < low || p.Volume > high {
			continue
		}
		reading := p.Reading
		if !r.rising() {
			reading = r.PKw - reading
		}
		var f float64
		switch {
		case !before:
			f = (r.Flask + p.Volume) * ten(reading-r.PKw)
		case r.Analyte == Weak:
			f = p.Volume * ten(-reading)
		default:
			f = (r.Flask + p.Volume) * ten(-reading)
		}
		x, y, w = append(x, p.Volume), append(y, f), append(w, 1/(f*f))
	}
	if len(x) < 4 {
		return cannot(method, whyFew.Message(finding.Count(4))), trace{}
	}
	end, at, value := line(method, x, y, w)
	if end.Why == nil {
		l := Line{Method: method, Points: []Measured{}, Zero: end.Volume, At: at}
		top := slices.Max(y)
		for i := range x {
			l.Points = append(l.Points, Measured{x[i], y[i] / top})
		}
		if l.Value = value / top; finite(l.Value, l.Zero, l.At) {
			return end, trace{line: &l}
		}
	}
	return end, trace{}
}

// line is where a straight line meets zero, and its value at the volume of its points that
// lies farthest from there.
func line(method practical.Method, x, y, w []float64) (end End, far, value float64) {
	l, ok := statistics.LineThrough(x, y, w)
	mx, s := 0.0, 0.0
	for i := range x {
		s, mx = s+w[i], mx+w[i]*x[i]
	}
	mx /= s
	var xx, rest float64
	for i := range x {
		d := y[i] - l.At(x[i])
		xx, rest = xx+w[i]*(x[i]-mx)*(x[i]-mx), rest+w[i]*d*d
	}
	freedom := float64(len(x) - 2)
	variance := rest / freedom
	at := l.Zero()
	u := math.Sqrt(variance*(1/s+(at-mx)*(at-mx)/xx)) / math.Abs(l.B)
	if !ok || math.IsNaN(u) || math.IsInf(u, 0) || at <= 0 {
		return cannot(method, whyNoFit.Message()), 0, 0
	}
	t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: freedom}.Quantile(0.975)
	if far = slices.Min(x); method == practical.GranAfter {
		far = slices.Max(x)
	}
	return End{Method: method, Volume: at, Standard: u, Low: at - t*u, High: at + t*u}, far, l.At(far)
}
