package view

import (
	"math"
	"strconv"

	"exactflask/core/record/probe"
	"exactflask/wording"
)

// LiveProbe is what a probe that is joined shows now.
type LiveProbe struct {
	Text        string   `json:"text" doc:"what the probe shows, to be written down; empty while nothing came"`
	Temperature string   `json:"temperature,omitempty"`
	Steady      bool     `json:"steady,omitempty"`
	Rate        string   `json:"rate" doc:"change a minute"`
	Gone        bool     `json:"gone,omitempty" doc:"nothing came for some seconds"`
	Total       int      `json:"total" doc:"lines that were taken since it was joined"`
	Fresh       int      `json:"fresh" doc:"so many have to come after something ran in, before a steady value is of what is there now"`
	Says        []string `json:"says" doc:"what was odd about what came"`
}

// rate is a change a minute, to a hundredth.
func rate(v float64) string {
	return wording.Minus(strconv.FormatFloat(math.Round(v*100)/100+0, 'f', -1, 64))
}

// Live puts the state of a stream into words.
func Live(w wording.Writer, s probe.State) LiveProbe {
	return LiveProbe{s.Text, s.Temperature, s.Steady, rate(s.Rate), s.Gone, s.Total, probe.Fresh, sayAll(w, s.Says)}
}
