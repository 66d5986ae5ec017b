package course_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"exactflask/core/practice/course"
)

var now = time.Date(2026, 11, 30, 10, 0, 0, 0, time.UTC)

const (
	hour = time.Hour
	day  = 24 * hour
)

// A class of 24: what a teacher would say of it, station by station. Common practice, no source.
func TestWhereItStands(t *testing.T) {
	class := func(change func(k *course.Known)) course.Known {
		k := course.Known{Set: true, Revision: 3, Students: 24}
		change(&k)
		return k
	}
	for _, c := range []struct {
		name  string
		known course.Known
		here  course.Station
		says  map[course.Station]string // code, ! where somebody is needed
		tasks []course.Kind
	}{
		{"just set", class(func(k *course.Known) {}), course.Set, map[course.Station]string{course.Set: "station.set.open"}, nil},
		{"opens in an hour", class(func(k *course.Known) { k.Opens = now.Add(hour) }), course.Set,
			map[course.Station]string{course.Set: "station.set.opens"}, []course.Kind{course.OpensSoon}},
		{"opens in a week", class(func(k *course.Known) { k.Opens = now.Add(7 * day) }), course.Set,
			map[course.Station]string{course.Set: "station.set.opens"}, []course.Kind{course.OpensSoon}},
		{"opens a second later than that", class(func(k *course.Known) { k.Opens = now.Add(7*day + time.Second) }), course.Set,
			map[course.Station]string{course.Set: "station.set.opens"}, nil},
		{"opens now", class(func(k *course.Known) { k.Opens = now }), course.Set, map[course.Station]string{course.Set: "station.set.open"}, nil},
		{"due tomorrow", class(func(k *course.Known) { k.Due, k.Begun, k.Handed, k.ToMark = now.Add(day), 20, 0, 0 }), course.Lesson,
			map[course.Station]string{course.Set: "station.set.due", course.Lesson: "station.lesson.begun"}, []course.Kind{course.DueSoon}},
		{"due a moment ago", class(func(k *course.Known) { k.Due, k.Begun = now, 20 }), course.Lesson,
			map[course.Station]string{course.Set: "station.set.was-due"}, nil},
		{"one has no unknown", class(func(k *course.Known) { k.Unknowns, k.Dealt = 3, 23 }), course.Set,
			map[course.Station]string{course.Set: "station.set.unknowns!"}, []course.Kind{course.NoUnknown}},
		{"everyone has one", class(func(k *course.Known) { k.Unknowns, k.Dealt = 3, 24 }), course.Set, map[course.Station]string{course.Set: "station.set.open"}, nil},
		{"there are none to deal", class(func(k *course.Known) { k.Dealt = 0 }), course.Set, map[course.Station]string{course.Set: "station.set.open"}, nil},
		{"six of twenty-four at work", class(func(k *course.Known) { k.Begun, k.AtWork = 12, 6 }), course.Lesson,
			map[course.Station]string{course.Lesson: "station.lesson.work"}, []course.Kind{course.Runs}},
		{"five of twenty-four at work", class(func(k *course.Known) { k.Begun, k.AtWork = 12, 5 }), course.Lesson,
			map[course.Station]string{course.Lesson: "station.lesson.work"}, nil},
		{"two of two at work", class(func(k *course.Known) { k.Students, k.Begun, k.AtWork = 2, 2, 2 }), course.Lesson,
			map[course.Station]string{course.Lesson: "station.lesson.work"}, nil},
		{"three of three at work", class(func(k *course.Known) { k.Students, k.Begun, k.AtWork = 3, 3, 3 }), course.Lesson,
			map[course.Station]string{course.Lesson: "station.lesson.work"}, []course.Kind{course.Runs}},
		{"twelve at work", class(func(k *course.Known) { k.Begun, k.AtWork = 12, 12 }), course.Lesson,
			map[course.Station]string{course.Lesson: "station.lesson.work"}, []course.Kind{course.Runs}},
		{"the lesson ends later", class(func(k *course.Known) { k.Ends = now.Add(time.Minute) }), course.Lesson,
			map[course.Station]string{course.Lesson: "station.lesson.until"}, []course.Kind{course.Runs}},
		{"it has just ended", class(func(k *course.Known) { k.Ends, k.Begun = now, 20 }), course.Lesson,
			map[course.Station]string{course.Lesson: "station.lesson.begun"}, nil},
		{"two hands, and reports from before", class(func(k *course.Known) {
			k.Begun, k.AtWork, k.Hands, k.Handed, k.ToMark = 20, 12, 2, 8, 8
		}), course.Lesson, map[course.Station]string{course.Lesson: "station.lesson.hands!", course.Marking: "station.marking.to-mark!"}, []course.Kind{course.HandsUp, course.ToMark}},
		{"half is marked", class(func(k *course.Known) { k.Begun, k.Handed, k.ToMark, k.Marked = 24, 24, 12, 12 }), course.Marking,
			map[course.Station]string{course.Answers: "station.answers.handed", course.Marking: "station.marking.to-mark!"}, []course.Kind{course.ToMark}},
		{"all is marked", class(func(k *course.Known) { k.Begun, k.Handed, k.Marked = 24, 24, 24 }), course.Marking,
			map[course.Station]string{course.Marking: "station.marking.to-release!"}, []course.Kind{course.ToRelease}},
		{"all is released", class(func(k *course.Known) { k.Begun, k.Handed, k.Released = 24, 24, 24 }), course.Results,
			map[course.Station]string{course.Marking: "station.marking.marked", course.Results: "station.results.released"}, nil},
		{"one asks for another look", class(func(k *course.Known) { k.Begun, k.Handed, k.Released, k.Requests = 24, 24, 24, 1 }), course.Marking,
			map[course.Station]string{course.Marking: "station.marking.asked!", course.Results: "station.results.released"}, []course.Kind{course.AskedFor}},
		{"who came later has no unknown of what is over", class(func(k *course.Known) { k.Begun, k.Handed, k.Released, k.Unknowns, k.Dealt = 23, 23, 23, 2, 23 }), course.Results,
			map[course.Station]string{course.Set: "station.set.unknowns!"}, nil},
		{"taken from the class", class(func(k *course.Known) { k.Set, k.Opens, k.Due, k.Begun = false, now.Add(hour), now.Add(day), 3 }), course.Lesson,
			map[course.Station]string{course.Set: "station.set.ended"}, nil},
	} {
		assert.Equal(t, c.here, course.Here(c.known, now), c.name)
		line := course.Line(c.known, now)
		assert.Len(t, line, len(course.Stations), c.name)
		for i, s := range line {
			assert.Equal(t, course.Stations[i], s.Station)
			said := ""
			if s.Says != nil {
				said = s.Says.Code
			}
			if s.Needs {
				said += "!"
			}
			if want, ok := c.says[s.Station]; ok {
				assert.Equal(t, want, said, "%s: %s", c.name, s.Station)
			}
		}
		var tasks []course.Kind
		for _, task := range course.Tasks(c.known, now) {
			tasks = append(tasks, task.Kind)
		}
		assert.Equal(t, c.tasks, tasks, c.name)
	}
}

// What presses more stands first: a hand before a desk, the report that has waited longer before the other.
func TestWhatPressesMore(t *testing.T) {
	at := func(k course.Kind, ago time.Duration) course.Task { return course.Task{Kind: k, At: now.Add(-ago)} }
	for _, c := range [][2]course.Task{
		{at(course.HandsUp, 0), at(course.Runs, 0)},
		{at(course.Runs, 0), at(course.AskedFor, day)},
		{at(course.AskedFor, 0), at(course.ToMark, day)},
		{at(course.ToMark, day+1), at(course.ToMark, day)},
		{at(course.ToMark, 0), at(course.ToRelease, day)},
		{at(course.NoUnknown, -day), at(course.OpensSoon, -hour)},
		{at(course.OpensSoon, -hour), at(course.OpensSoon, -day)},
		{at(course.OpensSoon, -day), at(course.DueSoon, -hour)},
	} {
		assert.Negative(t, course.Before(c[0], c[1]), "%v %v", c[0], c[1])
		assert.Positive(t, course.Before(c[1], c[0]))
	}
}
