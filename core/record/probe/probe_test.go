package probe_test

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/journal"
	"exactflask/core/record/probe"
)

var begin = time.Date(2026, 11, 26, 10, 0, 0, 0, time.UTC)

// Lines are read, or refused with what is the matter.
func TestParseLine(t *testing.T) {
	for text, want := range map[string]string{
		`{"pH": 4.756}`:                         "4.76",
		`{"pH":7}`:                              "7",
		`{"pH":-0.5,"temperature":21.5}`:        "-0.5",
		`{"mV":-182.44,"time":12.5}`:            "-182.4",
		`{"mV":1e2,"time":"2026-11-26T10:00Z"}`: "probe.line-time",
		`{"pH":4.7,"time":"2026-11-26T10:00:00.5+01:00","other":1}`: "4.7",
		`{"pH":4,"mV":3}`:            "probe.line-both",
		`{"temperature":21}`:         "probe.line-nothing",
		`{"pH":16.1}`:                "probe.line-range",
		`{"mV":2501}`:                "probe.line-range",
		`{"pH":7,"temperature":900}`: "probe.line-range",
		`pH 4.7`:                     "probe.line-json",
		`{"pH":"4.7"}`:               "4.7",
		`{"pH":` + strings.Repeat(" ", 600) + `4}`: "probe.line-long",
	} {
		l, fault := probe.ParseLine(text, begin)
		if strings.HasPrefix(want, "probe.") {
			require.NotNil(t, fault, text)
			assert.Equal(t, want, fault.Code, text)
			continue
		}
		require.Nil(t, fault, text)
		assert.Equal(t, want, l.Text, text)
	}
}

func feed(s *probe.Stream, from time.Time, n int, every time.Duration, value func(seconds float64) float64) time.Time {
	at := from
	for i := range n {
		at = from.Add(time.Duration(i) * every)
		_ = s.Add(fmt.Sprintf(`{"time":"%s","pH":%.4f}`, at.Format(time.RFC3339Nano), value(at.Sub(from).Seconds())), at)
	}
	return at
}

// A value is steady once it changes by less than the limit a minute, and not before: behind a
// lag of 4 s it is not after 8 s, and is after 40; noise alone makes nothing unsteady.
func TestSteady(t *testing.T) {
	lagging := func(seconds float64) float64 { return 7 - 3*math.Exp(-seconds/4) + 0.004*math.Sin(97*seconds) }
	for _, c := range []struct {
		n      int
		steady bool
	}{{3, false}, {16, false}, {30, false}, {90, true}} {
		s := &probe.Stream{Unit: journal.ShownPH, Steady: 0.05}
		last := feed(s, begin, c.n, 500*time.Millisecond, lagging)
		assert.Equal(t, c.steady, s.Now(last).Steady, "%d lines: %+v", c.n, s.Now(last))
	}
	s := &probe.Stream{Unit: journal.ShownPH, Steady: 0.05}
	last := feed(s, begin, 40, 500*time.Millisecond, func(seconds float64) float64 { return 7 + 0.2*seconds/60 })
	assert.False(t, s.Now(last).Steady, "it drifts by 0.2 a minute")
	assert.InDelta(t, 0.2, s.Now(last).Rate, 0.02)
	s = &probe.Stream{Unit: journal.ShownPH, Steady: 0.05}
	last = feed(s, begin, 40, 500*time.Millisecond, func(float64) float64 { return 7 })
	require.True(t, s.Now(last).Steady)
	require.Nil(t, s.Add(`{"time":"`+last.Add(time.Second/2).Format(time.RFC3339Nano)+`","pH":7,"steady":false}`, last.Add(time.Second/2)))
	assert.False(t, s.Now(last.Add(time.Second/2)).Steady, "the probe itself says that it moves")
	assert.True(t, s.Now(last.Add(7*time.Second)).Gone)
	assert.False(t, s.Now(last.Add(4*time.Second)).Gone)
}

// What is odd about a stream is said, and nothing of it is lost or doubled.
func TestOddStreams(t *testing.T) {
	codes := func(s *probe.Stream, now time.Time) (out []string) {
		for _, m := range s.Now(now).Says {
			out = append(out, m.Code)
		}
		return out
	}
	s := &probe.Stream{Unit: journal.ShownPH, Steady: 0.05}
	last := feed(s, begin, 10, time.Second, func(float64) float64 { return 4 })
	assert.Empty(t, codes(s, last))
	require.Nil(t, s.Add(`{"time":"`+last.Format(time.RFC3339Nano)+`","pH":4}`, last))
	assert.Equal(t, 10, s.Now(last).Lines, "one that stands twice is left out")
	assert.Contains(t, codes(s, last), "probe.says-twice")
	require.NotNil(t, s.Add("nonsense", last))
	require.NotNil(t, s.Add(`{"mV":100}`, last), "another unit")
	assert.Contains(t, codes(s, last), "probe.says-bad")
	later := last.Add(9 * time.Second)
	require.Nil(t, s.Add(`{"time":"`+later.Format(time.RFC3339Nano)+`","pH":6.2}`, later))
	assert.Subset(t, codes(s, later), []string{"probe.says-gap", "probe.says-jump"})
	assert.Equal(t, "6.2", s.Now(later).Text)
	require.Nil(t, s.Add(`{"time":1,"pH":3}`, later), "its clock began again")
	assert.Equal(t, "3", s.Now(later).Text, "what it shows now, and not what it showed before")
	assert.Contains(t, codes(s, later), "probe.says-anew")
	require.Nil(t, s.Add(`{"time":1,"pH":3}`, later.Add(20*time.Second)))
	assert.True(t, s.Now(later.Add(20*time.Second)).Gone, "a line that only stands twice is no life")
	for i := range 2000 {
		at := later.Add(time.Duration(i+1) * time.Second)
		require.Nil(t, s.Add(fmt.Sprintf(`{"pH":%d}`, 5+i%2), at))
	}
	assert.LessOrEqual(t, s.Now(later).Lines, 600)
}

func FuzzStream(f *testing.F) {
	f.Add(`{"pH":4.7}` + "\n" + `{"mV":3,"time":1}`)
	f.Fuzz(func(t *testing.T, text string) {
		s := &probe.Stream{Unit: journal.ShownPH, Steady: 0.05}
		for i, line := range strings.Split(text, "\n") {
			if s.Add(line, begin.Add(time.Duration(i)*time.Second)) == nil && s.Now(begin).Text != "" {
				assert.Nil(t, journal.CheckNumber("shown", s.Now(begin).Text), "what is shown can be written down")
			}
		}
		_, err := json.Marshal(s.Now(begin))
		assert.NoError(t, err)
	})
}
