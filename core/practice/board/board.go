// Package board looks at many benches at once: which of them needs help, with what and
// how badly (Needs), what each still has to do (ToDo), and what the titres of a class
// say together (Plot). It works on summaries and evaluates no notebook.
package board

import (
	"cmp"
	"math"
	"slices"
	"time"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
)

// Bench is what is known of one bench.
type Bench struct {
	Summary   *evaluation.Summary // nil while it was not begun
	Reference float64             // true value of its unknown; 0 where it is not known
	Hand      *time.Time          // since when the hand is up; nil: it is not
	Broken    bool                // its notebook cannot be evaluated
}

// Need is something a bench needs help with.
type Need struct {
	Code string          `json:"code"`
	Rank int             `json:"rank" doc:"1 first"`
	Say  finding.Message `json:"say" doc:"what is the matter"`
	Tell finding.Message `json:"tell" doc:"what to say to the student"`
}

// The needs in the order of their ranks: a person who asks comes first, then what spoils
// the record now, then what will spoil the result, then what only takes time.
var ranks = []string{"hand", "broken", "reading", "leak", "short", "far", "drift", "disagree", "look", "setup", "quiet",
	"not-begun"}

var (
	needHand     = finding.Declare("need.hand", "minutes")
	needBroken   = finding.Declare("need.broken")
	needReading  = finding.Declare("need.reading", "finding")
	needLeak     = finding.Declare("need.leak")
	needShort    = finding.Declare("need.short", "left", "missing")
	needFar      = finding.Declare("need.far", "percent")
	needDrift    = finding.Declare("need.drift", "finding")
	needDisagree = finding.Declare("need.disagree", "count")
	needLook     = finding.Declare("need.look", "finding")
	needSetup    = finding.Declare("need.setup", "count")
	needQuiet    = finding.Declare("need.quiet", "minutes")
	needNotBegun = finding.Declare("need.not-begun")
	tell         = finding.Family("tell.", ranks)
)

// Needs says what a bench needs help with at a moment, the worst first. Nothing is said
// of a bench that is done and well.
func Needs(norms practical.Norms, b Bench, now time.Time) []Need {
	out := []Need{}
	add := func(code string, say finding.Message) {
		out = append(out, Need{code, slices.Index(ranks, code) + 1, say, tell[code].Message()})
	}
	if b.Hand != nil {
		add("hand", needHand.Message(minutes(now.Sub(*b.Hand))))
	}
	if b.Broken {
		add("broken", needBroken.Message())
	}
	s := b.Summary
	if s == nil || s.Entries == 0 {
		if !b.Broken {
			add("not-begun", needNotBegun.Message())
		}
		return sorted(out)
	}
	for _, f := range s.Worst {
		switch {
		case f.Severity == finding.Warning:
			add("reading", needReading.Message(finding.Said(f.Message)))
		case f.Code == "titre.drift":
			add("drift", needDrift.Message(finding.Said(f.Message)))
		default:
			add("look", needLook.Message(finding.Said(f.Message)))
		}
	}
	if s.Leaks {
		add("leak", needLeak.Message())
	}
	done := s.Stage.Done()
	if left := s.Left; left != nil && !done && left.Trials < s.Agreement.Missing {
		add("short", needShort.Message(finding.Count(left.Trials), finding.Count(s.Agreement.Missing)))
	}
	if percent, ok := b.Off(); ok && math.Abs(percent) > norms.Of(practical.FarOff) {
		add("far", needFar.Message(finding.Number(percent, 2, "%")))
	}
	if s.Stage == evaluation.Disagreeing && s.Trials >= norms.Count(practical.ManyTrials) {
		add("disagree", needDisagree.Message(finding.Count(s.Trials)))
	}
	if s.Undone > 0 && (s.Open != nil || len(s.Bands) > 0) && !done {
		add("setup", needSetup.Message(finding.Count(s.Undone)))
	}
	if quiet := now.Sub(s.Received()); !done && quiet.Minutes() > norms.Of(practical.QuietMinutes) {
		add("quiet", needQuiet.Message(minutes(quiet)))
	}
	return sorted(out)
}

func sorted(needs []Need) []Need {
	slices.SortStableFunc(needs, func(a, b Need) int { return cmp.Compare(a.Rank, b.Rank) })
	return needs
}

func minutes(d time.Duration) finding.Value { return finding.Count(max(0, int(d.Minutes()))) }

// Off is how far the bench's answer lies from the true value, % of it; not known where
// one of them is not.
func (b Bench) Off() (float64, bool) {
	if b.Summary == nil || b.Summary.Found == nil || b.Reference <= 0 {
		return 0, false
	}
	return 100 * (b.Summary.Found.Value - b.Reference) / b.Reference, true
}

var (
	todoBegin  = finding.Declare("todo.begin")
	todoMake   = finding.Declare("todo.make")
	todoRough  = finding.Declare("todo.rough")
	todoTrials = finding.Declare("todo.trials", "count")
	todoWork   = finding.Declare("todo.work", "count")
	todoTidy   = finding.Declare("todo.tidy", "count")
	todoHandIn = finding.Declare("todo.hand-in")
)

// ToDo is what a bench still has to do until it can go.
func ToDo(s *evaluation.Summary, handedIn bool) []finding.Message {
	out := []finding.Message{}
	if handedIn {
		return out
	}
	if s == nil || s.Entries == 0 {
		return append(out, todoBegin.Message())
	}
	if s.Stage == evaluation.Untouched {
		out = append(out, todoRough.Message())
	}
	switch {
	case s.Stage == evaluation.Making:
		out = append(out, todoMake.Message())
	case !s.Stage.Done():
		out = append(out, todoTrials.Message(finding.Count(max(1, s.Agreement.Missing))))
	}
	if s.Work > 0 {
		out = append(out, todoWork.Message(finding.Count(s.Work)))
	}
	if s.Tidy > 0 {
		out = append(out, todoTidy.Message(finding.Count(s.Tidy)))
	}
	return append(out, todoHandIn.Message())
}
