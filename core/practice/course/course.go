// Package course says where a practical stands in a class: its stations from the plan to the results,
// each with its state, the one where somebody is needed, and what waits, most pressing first.
package course

import (
	"cmp"
	"slices"
	"time"

	"exactflask/core/values/finding"
)

// Station is one of the places where a practical is worked on, in the order of the work.
type Station string

// The stations.
const (
	Plan    Station = "plan"    // the practical itself
	Set     Station = "set"     // dates, unknowns, who with whom
	Prepare Station = "prepare" // quantities, recipes, labels
	Lesson  Station = "lesson"  // the benches
	Answers Station = "answers" // what the class found
	Marking Station = "marking" // the desk
	Results Station = "results" // spread, slips, gradebook
)

// Stations are all of them, in their order.
var Stations = []Station{Plan, Set, Prepare, Lesson, Answers, Marking, Results}

// Known is what is known of a practical in a class. Counts are of students who are in it.
type Known struct {
	Set      bool // to the class still
	Revision int
	Students int
	Begun    int // students; of two who write together both, as in the next two
	AtWork   int // in whose notebook something was written a short while ago, and not handed in
	HandedBy int // whose report counts
	Hands    int // of benches: up, and nobody goes there
	Handed   int // reports that count: the newest version was not given back
	ToMark   int // of them, with criteria that are not awarded
	Marked   int // of them, wholly marked and not released
	Released int
	Requests int // for another look, not answered
	Unknowns int // that there are
	Dealt    int // students who have one

	Opens, Due, Ends time.Time // zero: none is said
	Oldest           time.Time // report to mark: handed in
	Asked            time.Time // oldest request: made
	LastRelease      time.Time
}

// WithoutUnknown is how many students have no unknown though there are some.
func (k Known) WithoutUnknown() int {
	if k.Unknowns == 0 {
		return 0
	}
	return max(0, k.Students-k.Dealt)
}

// Running tells whether a lesson goes on: it was said to end later, or a quarter of the class and three at
// least are at work; fewer write something up. Common practice, no source.
func (k Known) Running(now time.Time) bool {
	return k.Ends.After(now) || k.AtWork >= 3 && 4*k.AtWork >= k.Students
}

// Stand is a station with its state. A message with the value at stands beside a moment.
type Stand struct {
	Station Station
	Says    *finding.Message // nil: nothing to say yet
	At      time.Time        // the moment that the message speaks of; zero: none
	Needs   bool             // somebody has to do something there
}

var (
	saysRevision  = finding.Declare("station.plan.revision", "revision")
	saysEnded     = finding.Declare("station.set.ended")
	saysUnknowns  = finding.Declare("station.set.unknowns", "count")
	saysOpens     = finding.Declare("station.set.opens", "at")
	saysDue       = finding.Declare("station.set.due", "at")
	saysWasDue    = finding.Declare("station.set.was-due", "at")
	saysOpen      = finding.Declare("station.set.open")
	saysBenches   = finding.Declare("station.prepare.benches", "count")
	saysHands     = finding.Declare("station.lesson.hands", "work", "count")
	saysUntil     = finding.Declare("station.lesson.until", "work", "at")
	saysAtWork    = finding.Declare("station.lesson.work", "work")
	saysBegun     = finding.Declare("station.lesson.begun", "begun", "students")
	saysHandedIn  = finding.Declare("station.answers.handed", "count")
	saysAsked     = finding.Declare("station.marking.asked", "count")
	saysToMark    = finding.Declare("station.marking.to-mark", "left", "count")
	saysToRelease = finding.Declare("station.marking.to-release", "count")
	saysMarked    = finding.Declare("station.marking.marked")
	saysReleased  = finding.Declare("station.results.released", "count")
)

// moment is the place of a moment in a message: the reader's own way of writing dates fills it.
func moment() finding.Value { return finding.Text("{at}") }

// Line is the stations of a practical, each as it stands now.
func Line(k Known, now time.Time) []Stand {
	out := make([]Stand, 0, len(Stations))
	for _, s := range Stations {
		stand := Stand{Station: s}
		switch s {
		case Plan:
			stand.say(saysRevision.Message(finding.Count(k.Revision)))
		case Set:
			k.set(&stand, now)
		case Prepare:
			stand.say(saysBenches.Message(finding.Count(k.Students)))
		case Lesson:
			k.lesson(&stand, now)
		case Answers:
			if k.Handed > 0 {
				stand.say(saysHandedIn.Message(finding.Count(k.Handed)))
			}
		case Marking:
			k.marking(&stand)
		case Results:
			if k.Released > 0 {
				stand.say(saysReleased.Message(finding.Count(k.Released)))
				stand.At = k.LastRelease
			}
		}
		out = append(out, stand)
	}
	return out
}

func (s *Stand) say(m finding.Message) { s.Says = &m }

func (k Known) set(s *Stand, now time.Time) {
	switch {
	case !k.Set:
		s.say(saysEnded.Message())
	case k.WithoutUnknown() > 0:
		s.say(saysUnknowns.Message(finding.Count(k.WithoutUnknown())))
		s.Needs = true
	case k.Opens.After(now):
		s.say(saysOpens.Message(moment()))
		s.At = k.Opens
	case k.Due.After(now):
		s.say(saysDue.Message(moment()))
		s.At = k.Due
	case !k.Due.IsZero():
		s.say(saysWasDue.Message(moment()))
		s.At = k.Due
	default:
		s.say(saysOpen.Message())
	}
}

func (k Known) lesson(s *Stand, now time.Time) {
	switch {
	case k.Hands > 0:
		s.say(saysHands.Message(finding.Count(k.AtWork), finding.Count(k.Hands)))
		s.Needs = true
	case k.Ends.After(now):
		s.say(saysUntil.Message(finding.Count(k.AtWork), moment()))
		s.At = k.Ends
	case k.AtWork > 0:
		s.say(saysAtWork.Message(finding.Count(k.AtWork)))
	case k.Begun > 0:
		s.say(saysBegun.Message(finding.Count(k.Begun), finding.Count(k.Students)))
	}
}

func (k Known) marking(s *Stand) {
	switch {
	case k.Requests > 0:
		s.say(saysAsked.Message(finding.Count(k.Requests)))
		s.Needs = true
	case k.ToMark > 0:
		s.say(saysToMark.Message(finding.Count(k.ToMark), finding.Count(k.Handed)))
		s.Needs = true
	case k.Marked > 0:
		s.say(saysToRelease.Message(finding.Count(k.Marked)))
		s.Needs = true
	case k.Released > 0 && k.Handed > 0:
		s.say(saysMarked.Message())
	}
}

// Here is the station where the practical stands: where somebody is needed first, else the furthest
// that it has come to.
func Here(k Known, now time.Time) Station {
	switch {
	case k.Hands > 0 || k.Running(now):
		return Lesson
	case k.Requests > 0 || k.ToMark > 0 || k.Marked > 0:
		return Marking
	case k.Released > 0:
		return Results
	case k.Handed > 0:
		return Marking
	case k.Begun > 0:
		return Lesson
	default:
		return Set
	}
}

// Kind is what waits for somebody who teaches.
type Kind string

// The kinds, the most pressing first.
const (
	HandsUp   Kind = "hands"
	Runs      Kind = "runs"
	AskedFor  Kind = "asked"
	ToMark    Kind = "to-mark"
	ToRelease Kind = "to-release"
	NoUnknown Kind = "no-unknown"
	OpensSoon Kind = "opens"
	DueSoon   Kind = "due"
)

var kinds = []Kind{HandsUp, Runs, AskedFor, ToMark, ToRelease, NoUnknown, OpensSoon, DueSoon}

// soon is how far ahead a thing is told: the week that a teacher looks at.
const soon = 7 * 24 * time.Hour

// Task is one thing that waits, with the station where it is done.
type Task struct {
	Kind    Kind
	Says    finding.Message
	Station Station
	At      time.Time // since when it waits, or when it will be; zero: now
	Done    int       // of Of; 0 of 0 where nothing is counted
	Of      int
}

var (
	taskHands     = finding.Declare("task.hands", "count", "work")
	taskRuns      = finding.Declare("task.runs", "work", "students")
	taskAsked     = finding.Declare("task.asked", "count")
	taskToMark    = finding.Declare("task.to-mark", "left", "count")
	taskToRelease = finding.Declare("task.to-release", "count")
	taskUnknown   = finding.Declare("task.no-unknown", "count")
	taskOpens     = finding.Declare("task.opens", "count")
	taskDue       = finding.Declare("task.due", "handed", "students")
)

// Tasks are the things of a practical that wait.
func Tasks(k Known, now time.Time) []Task {
	var out []Task
	within := func(t time.Time) bool { return t.After(now) && !t.After(now.Add(soon)) }
	if k.Hands > 0 {
		out = append(out, Task{Kind: HandsUp, Says: taskHands.Message(finding.Count(k.Hands), finding.Count(k.AtWork)), Station: Lesson})
	} else if k.Running(now) {
		out = append(out, Task{Kind: Runs, Says: taskRuns.Message(finding.Count(k.AtWork), finding.Count(k.Students)), Station: Lesson})
	}
	if k.Requests > 0 {
		out = append(out, Task{Kind: AskedFor, Says: taskAsked.Message(finding.Count(k.Requests)), Station: Marking, At: k.Asked})
	}
	if k.ToMark > 0 {
		out = append(out, Task{Kind: ToMark, Says: taskToMark.Message(finding.Count(k.ToMark), finding.Count(k.Handed)), Station: Marking, At: k.Oldest,
			Done: k.Handed - k.ToMark, Of: k.Handed})
	} else if k.Marked > 0 {
		out = append(out, Task{Kind: ToRelease, Says: taskToRelease.Message(finding.Count(k.Marked)), Station: Marking, At: k.Oldest})
	}
	if n := k.WithoutUnknown(); k.Set && n > 0 && k.Released == 0 {
		out = append(out, Task{Kind: NoUnknown, Says: taskUnknown.Message(finding.Count(n)), Station: Set, At: k.Opens})
	}
	if k.Set && within(k.Opens) {
		out = append(out, Task{Kind: OpensSoon, Says: taskOpens.Message(finding.Count(k.Students)), Station: Set, At: k.Opens})
	}
	if k.Set && within(k.Due) {
		out = append(out, Task{Kind: DueSoon, Says: taskDue.Message(finding.Count(k.HandedBy), finding.Count(k.Students)), Station: Lesson, At: k.Due,
			Done: k.HandedBy, Of: k.Students})
	}
	return out
}

// Before tells which of two tasks presses more: by kind, then the one that has waited longer or comes sooner.
func Before(a, b Task) int {
	return cmp.Or(slices.Index(kinds, a.Kind)-slices.Index(kinds, b.Kind), a.At.Compare(b.At))
}
