// Package today is what waits for those who teach, and where each practical of their classes stands.
package today

import (
	"context"
	"fmt"
	"slices"
	"time"

	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/app/marking"
	"exactflask/app/practicals"
	"exactflask/core/practice/course"
	"exactflask/store"
	"exactflask/view"
	"exactflask/wording"
)

// Today is the room over the others: it counts, and changes nothing.
type Today struct {
	*access.Access
	practicals *practicals.Practicals
	bench      *bench.Bench
	marking    *marking.Marking
}

// New is the room over the practicals and the desk.
func New(p *practicals.Practicals, b *bench.Bench, m *marking.Marking) *Today {
	return &Today{p.Access, p, b, m}
}

// working is how long after their last entry somebody is still at work.
const working = 20 * time.Minute

// Home is the page of those who teach: what needs them, then everything.
type Home struct {
	Now     time.Time     `json:"now" doc:"by the server's clock"`
	Today   []WaitingTask `json:"today" doc:"what waits, most pressing first"`
	Classes []ClassCourse `json:"classes" doc:"of those where the reader teaches; archived ones without their practicals"`
}

// WaitingTask is one thing that waits, with the station where it is done.
type WaitingTask struct {
	Kind      string     `json:"kind" enum:"hands,runs,asked,to-mark,to-release,no-unknown,opens,due"`
	Class     string     `json:"class" doc:"id"`
	ClassName string     `json:"className"`
	Practical string     `json:"practical" doc:"id"`
	Title     string     `json:"title"`
	Text      string     `json:"text"`
	Station   string     `json:"station" enum:"plan,set,prepare,lesson,answers,marking,results"`
	At        *time.Time `json:"at,omitempty" doc:"since when it waits, or when it will be; left out: now"`
	Done      int        `json:"done,omitempty"`
	Of        int        `json:"of,omitempty" doc:"done of so many; left out where nothing is counted"`
}

// ClassCourse is a class with where its practicals stand.
type ClassCourse struct {
	Class      string       `json:"class" doc:"id"`
	Name       string       `json:"name"`
	Term       string       `json:"term"`
	Role       access.Role  `json:"role" enum:"student,assistant,instructor"`
	Archived   bool         `json:"archived,omitempty"`
	Students   int          `json:"students"`
	MaySet     bool         `json:"maySet,omitempty" doc:"the reader may set a practical to it"`
	MayManage  bool         `json:"mayManage,omitempty" doc:"the reader may add people"`
	Practicals []CourseLine `json:"practicals"`
}

// CourseLine is where a practical stands in a class.
type CourseLine struct {
	Practical string     `json:"practical" doc:"id"`
	Title     string     `json:"title"`
	Broken    string     `json:"broken,omitempty" doc:"said where it cannot be used; the others can"`
	Ended     bool       `json:"ended,omitempty" doc:"it is not set to the class any more"`
	Here      string     `json:"here" enum:"plan,set,prepare,lesson,answers,marking,results" doc:"the station where it stands"`
	Text      string     `json:"text,omitempty" doc:"what that station says"`
	At        *time.Time `json:"at,omitempty" doc:"fills {at} in the text, as the reader writes dates"`
	Needs     bool       `json:"needs,omitempty" doc:"somebody has to do something there"`
}

// StationLine is the line of a practical in a class, each station with its state.
type StationLine struct {
	CourseLine
	Class     string         `json:"class" doc:"id"`
	ClassName string         `json:"className"`
	Role      access.Role    `json:"role" enum:"student,assistant,instructor"`
	Now       time.Time      `json:"now" doc:"by the server's clock"`
	Stations  []StationState `json:"stations"`
}

// StationState is one of them.
type StationState struct {
	Station string     `json:"station" enum:"plan,set,prepare,lesson,answers,marking,results"`
	Text    string     `json:"text,omitempty" doc:"its state in a few words; left out: nothing yet"`
	At      *time.Time `json:"at,omitempty" doc:"fills {at} in the text, as the reader writes dates"`
	Needs   bool       `json:"needs,omitempty" doc:"somebody has to do something there"`
}

// Home is what the person's classes need, where they teach.
func (a *Today) Home(ctx context.Context, p access.Person) (Home, error) {
	now := a.Now()
	out := Home{Now: now, Today: []WaitingTask{}, Classes: []ClassCourse{}}
	var tasks []task
	for _, m := range p.Classes {
		if !m.Role.Teaches() {
			continue
		}
		class, mine, err := a.class(ctx, p, m, now)
		if err != nil {
			return Home{}, err
		}
		out.Classes = append(out.Classes, class)
		tasks = append(tasks, mine...)
	}
	slices.SortStableFunc(tasks, func(x, y task) int { return course.Before(x.of, y.of) })
	for _, t := range tasks {
		out.Today = append(out.Today, t.said)
	}
	return out, nil
}

// ClassPracticals is where the practicals of one class stand.
func (a *Today) ClassPracticals(ctx context.Context, p access.Person, class string) (ClassCourse, error) {
	if err := access.Allowed(p, access.SeeRoll, class); err != nil {
		return ClassCourse{}, err
	}
	m := p.In(class)
	m.Archived = false // looked at, it shows what is in it
	out, _, err := a.class(ctx, p, m, a.Now())
	out.Archived = p.In(class).Archived
	return out, err
}

// task is one that waits, with what it is ordered by.
type task struct {
	of   course.Task
	said WaitingTask
}

func (a *Today) class(ctx context.Context, p access.Person, m access.Membership, now time.Time) (ClassCourse, []task, error) {
	q := a.Store.Read()
	out := ClassCourse{Class: m.Class, Name: m.Name, Term: m.Term, Role: m.Role, Archived: m.Archived, Practicals: []CourseLine{},
		MaySet: access.May(p, access.AssignPractical, access.Thing{Class: m.Class}), MayManage: access.May(p, access.ManageClass, access.Thing{Class: m.Class})}
	var err error
	if out.Students, err = q.Students(ctx, m.Class); err != nil {
		return ClassCourse{}, nil, fmt.Errorf("counting students: %w", err)
	}
	if m.Archived {
		return out, nil, nil
	}
	set, err := q.AssignmentsOfClass(ctx, m.Class)
	if err != nil {
		return ClassCourse{}, nil, fmt.Errorf("reading practicals: %w", err)
	}
	counted, err := q.CourseOfClass(ctx, m.Class, now.Add(-working))
	if err != nil {
		return ClassCourse{}, nil, fmt.Errorf("counting what there is of the practicals: %w", err)
	}
	var tasks []task
	words := wording.For(p.Style())
	for _, item := range set {
		line := CourseLine{Practical: item.ID, Title: item.Practical.Title, Ended: !item.Set, Here: string(course.Plan)}
		known, err := a.known(ctx, m.Class, item, counted[item.ID], out.Students)
		if err != nil {
			a.Log("a practical cannot be used", "practical", item.ID, "err", err)
			line.Broken = view.Broken(p.Style())
			out.Practicals = append(out.Practicals, line)
			continue
		}
		line.stands(known, now, words)
		out.Practicals = append(out.Practicals, line)
		for _, t := range course.Tasks(known, now) {
			tasks = append(tasks, task{t, WaitingTask{Kind: string(t.Kind), Class: m.Class, ClassName: m.Name, Practical: item.ID, Title: line.Title, Text: words.Say(t.Says),
				Station: string(t.Station), At: momentOf(t.At), Done: t.Done, Of: t.Of}})
		}
	}
	return out, tasks, nil
}

// stands fills in where it stands.
func (l *CourseLine) stands(known course.Known, now time.Time, words wording.Writer) {
	here := course.Here(known, now)
	l.Here = string(here)
	for _, s := range course.Line(known, now) {
		if s.Station == here {
			said := saidOf(s, words)
			l.Text, l.At, l.Needs = said.Text, said.At, said.Needs
		}
	}
}

func saidOf(s course.Stand, words wording.Writer) StationState {
	out := StationState{Station: string(s.Station), At: momentOf(s.At), Needs: s.Needs}
	if s.Says != nil {
		out.Text = words.Say(*s.Says)
	}
	return out
}

func momentOf(t time.Time) *time.Time {
	if t.IsZero() {
		return nil
	}
	return &t
}

// known is what is known of a practical in a class.
func (a *Today) known(ctx context.Context, class string, item store.Assigned, c *store.Course, students int) (course.Known, error) {
	if item.Err != nil {
		return course.Known{}, item.Err
	}
	if c == nil {
		c = &store.Course{}
	}
	k := course.Known{Set: item.Set, Revision: item.Practical.Revision, Students: students, Begun: c.Begun, AtWork: c.AtWork, HandedBy: c.HandedBy, Hands: c.Hands, Handed: c.Handed,
		Released: c.Released, Requests: c.Requests, Unknowns: c.Unknowns, Dealt: c.Dealt, Opens: item.Times.Opens, Due: item.Times.Due,
		Ends: c.Ends, Asked: c.Asked, LastRelease: c.LastRelease}
	ready, err := a.practicals.Checked(item.Practical)
	if err != nil {
		return course.Known{}, err
	}
	if len(c.Unreleased) == 0 {
		return k, nil
	}
	whole, err := a.marking.Whole(ctx, class, ready)
	if err != nil {
		return course.Known{}, err
	}
	for _, r := range c.Unreleased { // the oldest first
		if whole(r.Awarded) {
			k.Marked++
		} else {
			k.ToMark++
		}
		if k.Oldest.IsZero() {
			k.Oldest = r.Handed
		}
	}
	return k, nil
}

// Stations is the line of a practical in a class.
func (a *Today) Stations(ctx context.Context, p access.Person, class, id string) (StationLine, error) {
	if err := access.Allowed(p, access.SeeRoll, class); err != nil {
		return StationLine{}, err
	}
	now, q := a.Now(), a.Store.Read()
	m := p.In(class)
	out := StationLine{Class: class, ClassName: m.Name, Role: m.Role, Now: now, Stations: []StationState{}}
	set, err := q.AssignmentsOfClass(ctx, class)
	if err != nil {
		return StationLine{}, fmt.Errorf("reading practicals: %w", err)
	}
	at := slices.IndexFunc(set, func(s store.Assigned) bool { return s.ID == id })
	if at < 0 {
		return StationLine{}, access.ErrNotFound
	}
	students, err := q.Students(ctx, class)
	if err != nil {
		return StationLine{}, fmt.Errorf("counting students: %w", err)
	}
	counted, err := q.CourseOfClass(ctx, class, now.Add(-working))
	if err != nil {
		return StationLine{}, fmt.Errorf("counting what there is of a practical: %w", err)
	}
	item := set[at]
	out.CourseLine = CourseLine{Practical: item.ID, Title: item.Practical.Title, Ended: !item.Set, Here: string(course.Plan)}
	known, err := a.known(ctx, class, item, counted[item.ID], students)
	if err != nil {
		a.Log("a practical cannot be used", "practical", item.ID, "err", err)
		out.Broken = view.Broken(p.Style())
		for _, s := range course.Stations {
			out.Stations = append(out.Stations, StationState{Station: string(s)})
		}
		return out, nil
	}
	words := wording.For(p.Style())
	out.stands(known, now, words)
	for _, s := range course.Line(known, now) {
		out.Stations = append(out.Stations, saidOf(s, words))
	}
	return out, nil
}
