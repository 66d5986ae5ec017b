// Package probe understands what a probe says: an open line protocol, one JSON object a line
// (docs/formats.md), and what is to be thought of a stream of such lines: when the value is
// steady, where something is missing or stands twice, where it jumps.
package probe

import (
	"encoding/json"
	"math"
	"strconv"
	"strings"
	"time"

	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
)

// MaxLine is how long a line may be, bytes.
const MaxLine = 512

var (
	lineLong    = finding.Declare("probe.line-long", "most")
	lineNoJSON  = finding.Declare("probe.line-json")
	lineNothing = finding.Declare("probe.line-nothing")
	lineBoth    = finding.Declare("probe.line-both")
	lineRange   = finding.Declare("probe.line-range", "value")
	lineTime    = finding.Declare("probe.line-time")

	saysTwice = finding.Declare("probe.says-twice", "count")
	saysAnew  = finding.Declare("probe.says-anew", "count")
	saysGap   = finding.Declare("probe.says-gap", "seconds")
	saysJump  = finding.Declare("probe.says-jump", "from", "to")
	saysBad   = finding.Declare("probe.says-bad", "count", "why")
)

// Line is what a line says.
type Line struct {
	At          time.Time // by the probe's clock where it says one, else when it came
	Unit        journal.ProbeUnit
	Value       float64
	Text        string   // as it is to be written down
	Temperature *float64 // °C
	Moving      bool     // the probe itself says that the value is not steady
}

// ParseLine reads a line: {"time": "2026-11-26T10:00:00Z" or seconds, "pH": 4.76 or
// "mV": 182.4, "temperature": 21.5, "steady": true}. Of these only pH or mV has to be there;
// what else stands in it is passed over. received is when it came.
func ParseLine(text string, received time.Time) (Line, *finding.Fault) {
	if len(text) > MaxLine {
		return Line{}, lineLong.Fault("", finding.Count(MaxLine))
	}
	var in struct {
		Time        json.RawMessage `json:"time"`
		PH          *json.Number    `json:"pH"`
		MV          *json.Number    `json:"mV"`
		Temperature *float64        `json:"temperature"`
		Steady      *bool           `json:"steady"`
	}
	if err := json.Unmarshal([]byte(text), &in); err != nil {
		return Line{}, lineNoJSON.Fault("")
	}
	out := Line{At: received, Moving: in.Steady != nil && !*in.Steady}
	number, places, low, high := in.PH, 2, -2.0, 16.0
	out.Unit = journal.ShownPH
	switch {
	case in.PH != nil && in.MV != nil:
		return Line{}, lineBoth.Fault("")
	case in.MV != nil:
		number, places, low, high, out.Unit = in.MV, 1, -2500, 2500, journal.ShownMV
	case in.PH == nil:
		return Line{}, lineNothing.Fault("")
	}
	v, err := number.Float64()
	if err != nil || !(v >= low && v <= high) {
		return Line{}, lineRange.Fault("", finding.Text(number.String()))
	}
	if t := in.Temperature; t != nil {
		if !(*t >= -20 && *t <= 120) {
			return Line{}, lineRange.Fault("", finding.Text(strconv.FormatFloat(*t, 'g', -1, 64)))
		}
		out.Temperature = t
	}
	if len(in.Time) > 0 && string(in.Time) != "null" {
		at, ok := timeOf(string(in.Time))
		if !ok {
			return Line{}, lineTime.Fault("")
		}
		out.At = at
	}
	// As finely as it was said, but no finer than a probe reads.
	if _, after, _ := strings.Cut(number.String(), "."); len(after) < places && !strings.ContainsAny(number.String(), "eE") {
		places = len(after)
	}
	out.Value, out.Text = v, strconv.FormatFloat(v, 'f', places, 64)
	return out, nil
}

// timeOf is RFC 3339, or seconds from a beginning of the probe's own.
func timeOf(text string) (time.Time, bool) {
	if seconds, err := strconv.ParseFloat(text, 64); err == nil {
		if !(math.Abs(seconds) < 1e11) {
			return time.Time{}, false
		}
		whole, part := math.Modf(seconds)
		return time.Unix(int64(whole), int64(part*1e9)).UTC(), true
	}
	at, err := time.Parse(time.RFC3339Nano, strings.Trim(text, `"`))
	return at, err == nil
}

// Fresh is how many lines have to come after something ran in, before a steady value is one of
// what is there now and not of before. Source: common practice, no source.
const Fresh = 8

// Limits of a stream. Source: common practice, no source.
const (
	fewest   = 4                // lines in it, for anything to be called steady
	anew     = 10 * time.Second // back in time: its clock began again, or another probe sends
	pause    = 3.0              // times the usual interval that make a gap
	jumpPH   = 1.5              // from one line to the next
	jumpMV   = 90.0
	mostKept = 600
)

// Stream is what a probe said up to now. It is for one goroutine at a time.
type Stream struct {
	Unit   journal.ProbeUnit // that is expected
	Steady float64           // change a minute below which a value is steady
	Norms  practical.Norms   // the school's

	lines    []Line
	received time.Time
	total    int
	twice    int
	began    int
	bad      int
	why      finding.Message
	gap      time.Duration
	jump     *[2]string
}

// State is how a stream stands.
type State struct {
	Text        string            `json:"text" doc:"what the probe shows, to be written down; empty while nothing came"`
	Temperature string            `json:"temperature,omitempty"`
	Steady      bool              `json:"steady,omitempty"`
	Rate        float64           `json:"rate" doc:"change a minute, over the last seconds"`
	Gone        bool              `json:"gone,omitempty" doc:"nothing came for some seconds"`
	Lines       int               `json:"lines" doc:"how many are kept"`
	Total       int               `json:"total" doc:"how many were taken since it was joined"`
	Says        []finding.Message `json:"says" doc:"what was odd: lines that were no lines, that stand twice, gaps, jumps"`
}

var otherUnit = finding.Declare("probe.line-unit", "unit")

// Add takes a line in. A line that is none is counted and refused; one that stands twice or
// goes back in time is left out.
func (s *Stream) Add(text string, received time.Time) *finding.Fault {
	l, fault := ParseLine(strings.TrimSpace(text), received)
	if fault == nil && l.Unit != s.Unit {
		fault = otherUnit.Fault("", finding.Text(string(l.Unit)))
	}
	if fault != nil {
		s.bad, s.why = s.bad+1, fault.Message
		return fault
	}
	if n := len(s.lines); n > 0 && s.lines[n-1].At.Sub(l.At) > anew { // its clock began again
		s.lines, s.began = nil, s.began+1
	}
	if n := len(s.lines); n > 0 {
		last := s.lines[n-1]
		if !l.At.After(last.At) {
			s.twice++
			return nil
		}
		step := l.At.Sub(last.At)
		if usual := s.interval(); usual > 0 && step > time.Duration(pause*float64(usual)) && step > time.Second {
			s.gap = step
		}
		limit := jumpPH
		if s.Unit == journal.ShownMV {
			limit = jumpMV
		}
		if math.Abs(l.Value-last.Value) > limit {
			s.jump = &[2]string{last.Text, l.Text}
		}
	}
	s.received = received
	s.lines, s.total = append(s.lines, l), s.total+1
	if len(s.lines) > mostKept {
		s.lines = append([]Line(nil), s.lines[len(s.lines)-mostKept:]...)
	}
	return nil
}

// interval is the middle one between the last lines.
func (s *Stream) interval() time.Duration {
	n := min(len(s.lines), 10)
	if n < 3 {
		return 0
	}
	last := s.lines[len(s.lines)-n:]
	return last[n-1].At.Sub(last[0].At) / time.Duration(n-1)
}

// Now is how the stream stands.
func (s *Stream) Now(now time.Time) State {
	out := State{Lines: len(s.lines), Total: s.total, Says: []finding.Message{}}
	if s.bad > 0 {
		out.Says = append(out.Says, saysBad.Message(finding.Count(s.bad), finding.Said(s.why)))
	}
	if s.twice > 0 {
		out.Says = append(out.Says, saysTwice.Message(finding.Count(s.twice)))
	}
	if s.began > 0 {
		out.Says = append(out.Says, saysAnew.Message(finding.Count(s.began)))
	}
	if s.gap > 0 {
		out.Says = append(out.Says, saysGap.Message(finding.Number(s.gap.Seconds(), 2, "")))
	}
	if s.jump != nil {
		out.Says = append(out.Says, saysJump.Message(finding.Text(s.jump[0]), finding.Text(s.jump[1])))
	}
	if len(s.lines) == 0 {
		return out
	}
	last := s.lines[len(s.lines)-1]
	out.Text, out.Gone = last.Text, now.Sub(s.received) > s.within(practical.ProbeGone)
	if last.Temperature != nil {
		out.Temperature = strconv.FormatFloat(*last.Temperature, 'f', 1, 64)
	}
	rate, n, long := s.rate(last)
	out.Rate = rate
	out.Steady = !out.Gone && !last.Moving && n >= fewest && long && math.Abs(rate) < s.Steady
	return out
}

// within is a norm in seconds.
func (s *Stream) within(name practical.NormName) time.Duration {
	return time.Duration(s.Norms.Of(name) * float64(time.Second))
}

// rate is the slope of a straight line through the lines of the window, a minute, less what
// the noise alone makes of it; long tells whether they span at least half of it.
func (s *Stream) rate(last Line) (rate float64, n int, long bool) {
	var x, y []float64
	for i := len(s.lines) - 1; i >= 0; i-- {
		age := last.At.Sub(s.lines[i].At)
		if age > s.within(practical.ProbeWindow) {
			break
		}
		x, y = append(x, -age.Minutes()), append(y, s.lines[i].Value)
	}
	n = len(x)
	if n < fewest {
		return 0, n, false
	}
	mx, my := mean(x), mean(y)
	var xx, xy, yy float64
	for i := range x {
		xx, xy, yy = xx+(x[i]-mx)*(x[i]-mx), xy+(x[i]-mx)*(y[i]-my), yy+(y[i]-my)*(y[i]-my)
	}
	slope := xy / xx
	noise := math.Sqrt(math.Max(0, yy-slope*xy) / float64(n-2) / xx)
	long = last.At.Sub(s.lines[len(s.lines)-n].At) >= s.within(practical.ProbeWindow)/2
	return math.Copysign(math.Max(0, math.Abs(slope)-2*noise), slope), n, long
}

func mean(v []float64) float64 {
	sum := 0.0
	for _, x := range v {
		sum += x
	}
	return sum / float64(len(v))
}
