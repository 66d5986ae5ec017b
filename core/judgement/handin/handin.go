// Package handin holds the rules of handing a report in: what it lacks, when it is late,
// what may be written afterwards.
package handin

import (
	"slices"
	"time"

	"exactflask/core/judgement/agreement"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
)

// Lack is something that a report lacks. Nothing is refused for it.
type Lack struct {
	finding.Message
	Where Where `json:"where" enum:"bench,work,report"`
}

// Where says on which of a notebook's pages something is done.
type Where string

// The pages.
const (
	OnBench  Where = "bench"
	OnWork   Where = "work"
	OnReport Where = "report"
)

var (
	lackTrials  = finding.Declare("lack.trials", "count")
	lackMade    = finding.Declare("lack.made")
	lackSamples = finding.Declare("lack.samples", "names")
	lackSetup   = finding.Declare("lack.setup", "count")
	lackCleanup = finding.Declare("lack.cleanup", "count")
	lackPicture = finding.Declare("lack.evidence", "names")
	lackOdd     = finding.Declare("lack.odd", "count")
	lackWork    = finding.Declare("lack.work", "count")
	lackPassage = finding.Declare("lack.passage", "passage")
	lackTwice   = finding.Declare("lack.twice", "passage")
)

// Lacks says what a report lacks, in the order of its pages.
func Lacks(ev evaluation.Evaluation) []Lack {
	out := []Lack{}
	add := func(where Where, m finding.Message) { out = append(out, Lack{m, where}) }
	if len(ev.Samples) > 0 {
		var open []finding.Value
		for _, s := range ev.Samples {
			if s.Agreement.Status != agreement.Agreed {
				open = append(open, finding.Text(s.Name))
			}
		}
		if len(open) > 0 {
			add(OnBench, lackSamples.Message(finding.List(open...)))
		}
	} else if !ev.Stage.Done() && ev.MadeOnly {
		add(OnBench, lackMade.Message())
	} else if !ev.Stage.Done() {
		add(OnBench, lackTrials.Message(finding.Count(max(1, ev.Agreement.Missing))))
	}
	undone := func(code finding.Code, items []evaluation.Item) {
		if n := len(evaluation.Undone(items)); n > 0 {
			add(OnBench, code.Message(finding.Count(n)))
		}
	}
	undone(lackSetup, ev.Setup)
	undone(lackCleanup, ev.Cleanup)
	var missing []finding.Value
	for _, e := range ev.Evidence {
		if len(e.Pictures) == 0 {
			missing = append(missing, finding.Said(journal.EvidenceSaid(e.Code)))
		}
	}
	if len(missing) > 0 {
		add(OnBench, lackPicture.Message(finding.List(missing...)))
	}
	if n := unexplained(ev); n > 0 {
		add(OnBench, lackOdd.Message(finding.Count(n)))
	}
	unanswered := 0
	for _, s := range ev.Work {
		if s.Answer == nil {
			unanswered++
		}
	}
	if unanswered > 0 {
		add(OnWork, lackWork.Message(finding.Count(unanswered)))
	}
	for _, p := range ev.Passages {
		name := finding.Said(Named(p.Passage))
		switch {
		case len(p.Stand) > 1:
			add(OnReport, lackTwice.Message(name))
		case len(p.Stand) == 0 || p.Stand[0].Text == "":
			add(OnReport, lackPassage.Message(name))
		}
	}
	return out
}

// Named names a passage: a school's own by its question.
func Named(p practical.Passage) finding.Message {
	if p.Text != "" {
		return asked.Message(finding.Text(p.Text))
	}
	return journal.PassageSaid(p.Prompt)
}

var asked = finding.Declare("passage.asked", "text")

// unexplained counts warnings about trials that no note speaks of.
func unexplained(ev evaluation.Evaluation) int {
	n := 0
	for _, f := range ev.Findings {
		if f.Severity == finding.Warning && f.Subject != "" &&
			!slices.ContainsFunc(ev.Notes, func(note journal.Note) bool { return note.Trial == "" || note.Trial == f.Subject }) {
			n++
		}
	}
	return n
}

// Timing says when a report comes, by the server's clock.
type Timing string

// The timings.
const (
	InTime  Timing = "in-time"
	Late    Timing = "late"     // after it was due: taken, and marked so
	TooLate Timing = "too-late" // after the last moment: not taken
)

// Timed compares a moment with when a report is due and until when a late one is taken;
// zero: nobody says. A second version that was asked for is taken at any time.
func Timed(now, due, until time.Time, again bool) Timing {
	switch {
	case !until.IsZero() && now.After(until) && !again:
		return TooLate
	case !due.IsZero() && now.After(due):
		return Late
	}
	return InTime
}
