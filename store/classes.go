package store

import (
	"context"
	"database/sql"
	"time"

	"exactflask/store/db"
)

// Class is a class as it is kept.
type Class struct {
	ID, Name, Term        string
	Archived              bool
	Students, Instructors int // counted by EveryClass only
}

// Member is a person in a class.
type Member struct {
	ID, Username, Name     string
	Once                   bool
	Seen                   time.Time // zero: never
	Standing, Role         string
	Bench, Burette, Sample string
	Pair                   string // the same for the two who work together
	Notebooks              int    // own ones, in this class
}

// moment reads a time as it is kept; zero where there is none.
func moment(text string) time.Time {
	at, err := time.Parse(time.RFC3339Nano, text)
	if err != nil {
		return time.Time{}
	}
	return at
}

// Class reads a class.
func (q Queries) Class(ctx context.Context, id string) (Class, error) {
	r, err := q.q.Class(ctx, id)
	return Class{ID: r.ID, Name: r.Name, Term: r.Term, Archived: r.Archived != ""}, found(err)
}

// EveryClass lists all classes, those in use first, the newest first.
func (q Queries) EveryClass(ctx context.Context) ([]Class, error) {
	rows, err := q.q.EveryClass(ctx)
	out := make([]Class, len(rows))
	for i, r := range rows {
		out[i] = Class{r.ID, r.Name, r.Term, r.Archived != "", int(r.Students), int(r.Instructors)}
	}
	return out, err
}

// SetClass changes what a class is called, and whether it is archived, since when.
func (q Queries) SetClass(ctx context.Context, c Class, at time.Time) error {
	archived := ""
	if c.Archived {
		archived = stamp(at)
	}
	return q.q.SetClass(ctx, db.SetClassParams{Name: c.Name, Term: c.Term, Archived: archived, ID: c.ID})
}

// Members are the people of a class.
func (q Queries) Members(ctx context.Context, class string) ([]Member, error) {
	rows, err := q.q.Members(ctx, class)
	out := make([]Member, len(rows))
	for i, r := range rows {
		out[i] = Member{ID: r.ID, Username: r.Username, Name: r.Name, Once: r.Once > 0, Seen: moment(r.Seen),
			Standing: r.Standing, Role: r.Role, Bench: r.Bench, Burette: r.Burette, Sample: r.Sample, Pair: r.Pair,
			Notebooks: int(r.Notebooks)}
	}
	return out, err
}

// CountMembers counts them.
func (q Queries) CountMembers(ctx context.Context, class string) (int, error) {
	n, err := q.q.CountMembers(ctx, class)
	return int(n), err
}

// SetMember changes a person's role and place in a class.
func (q Queries) SetMember(ctx context.Context, class string, m Member) error {
	n, err := q.q.SetMember(ctx, db.SetMemberParams{Role: m.Role, Bench: m.Bench, Burette: m.Burette, Sample: m.Sample,
		Pair: m.Pair, ClassID: class, PersonID: m.ID})
	if err == nil && n == 0 {
		return ErrNotFound
	}
	return err
}

// Part ends a pair.
func (q Queries) Part(ctx context.Context, class, pair string) error {
	return q.q.Part(ctx, db.PartParams{ClassID: class, Pair: pair})
}

// Leave takes a person out of a class. Their notebooks stay in it.
func (q Queries) Leave(ctx context.Context, class, person string) error {
	n, err := q.q.Leave(ctx, db.LeaveParams{ClassID: class, PersonID: person})
	if err == nil && n == 0 {
		return ErrNotFound
	}
	return err
}

// MoveNotebooks moves a student's notebooks into another class; where they have one
// of the same practical there, both stay where they are.
func (q Queries) MoveNotebooks(ctx context.Context, student, from, to string) error {
	return q.q.MoveNotebooks(ctx, db.MoveNotebooksParams{ToClass: to, FromClass: from, StudentID: student})
}

// JoinCode is the code with which students come into a class.
type JoinCode struct {
	Code   string
	Closes time.Time
}

// OpenCode keeps a class's code, in the place of the one before.
func (q Queries) OpenCode(ctx context.Context, class string, c JoinCode) error {
	return q.q.OpenCode(ctx, db.OpenCodeParams{ClassID: class, Code: c.Code, Closes: stamp(c.Closes)})
}

// CloseCode ends a class's code.
func (q Queries) CloseCode(ctx context.Context, class string) error { return q.q.CloseCode(ctx, class) }

// CodeOf reads a class's code.
func (q Queries) CodeOf(ctx context.Context, class string) (JoinCode, error) {
	r, err := q.q.CodeOf(ctx, class)
	return JoinCode{r.Code, moment(r.Closes)}, found(err)
}

// ClassOfCode finds the class that a code leads to, and until when.
func (q Queries) ClassOfCode(ctx context.Context, code string) (Class, time.Time, error) {
	r, err := q.q.ClassOfCode(ctx, code)
	return Class{ID: r.ID, Name: r.Name, Term: r.Term}, moment(r.Closes), found(err)
}

// Notice is what everyone in a class is told.
type Notice struct {
	ID, Text, By string // By is a name
	At           time.Time
}

// AddNotice keeps a notice.
func (q Queries) AddNotice(ctx context.Context, class, person string, n Notice) error {
	return q.q.AddNotice(ctx, db.AddNoticeParams{ID: n.ID, ClassID: class, PersonID: person, Text: n.Text, Created: stamp(n.At)})
}

// DropNotice takes a notice down.
func (q Queries) DropNotice(ctx context.Context, class, id string) error {
	n, err := q.q.DropNotice(ctx, db.DropNoticeParams{ID: id, ClassID: class})
	if err == nil && n == 0 {
		return ErrNotFound
	}
	return err
}

// Notices are those of a class, the newest first.
func (q Queries) Notices(ctx context.Context, class string) ([]Notice, error) {
	rows, err := q.q.Notices(ctx, class)
	out := make([]Notice, len(rows))
	for i, r := range rows {
		out[i] = Notice{r.ID, r.Text, r.Name, moment(r.Created)}
	}
	return out, err
}

// Act is something that somebody changed of people, classes or practicals.
type Act struct {
	Seq          int64
	What, Detail string
	Who, Whom    string // names when read, ids when added
	Class        string
	At           time.Time
}

// AddAct adds an act to the log.
func (q Queries) AddAct(ctx context.Context, a Act) error {
	return q.q.AddAct(ctx, db.AddActParams{What: a.What, ClassID: sql.NullString{String: a.Class, Valid: a.Class != ""},
		PersonID: a.Who, Whom: sql.NullString{String: a.Whom, Valid: a.Whom != ""}, Detail: a.Detail, At: stamp(a.At)})
}

// ActsOfClass are those in a class, and those of administrators on its people, before
// one of them, the newest first.
func (q Queries) ActsOfClass(ctx context.Context, class string, before int64) ([]Act, error) {
	rows, err := q.q.ActsOfClass(ctx, db.ActsOfClassParams{ClassID: sql.NullString{String: class, Valid: true}, Before: before})
	out := make([]Act, len(rows))
	for i, r := range rows {
		out[i] = Act{Seq: r.Seq, What: r.What, Detail: r.Detail, Who: r.Who, Whom: r.Whom, At: moment(r.At)}
	}
	return out, err
}

// ActsOfInstallation are those of administrators before one of them, the newest first.
func (q Queries) ActsOfInstallation(ctx context.Context, before int64) ([]Act, error) {
	rows, err := q.q.ActsOfInstallation(ctx, before)
	out := make([]Act, len(rows))
	for i, r := range rows {
		out[i] = Act{Seq: r.Seq, What: r.What, Detail: r.Detail, Who: r.Who, Whom: r.Whom, At: moment(r.At)}
	}
	return out, err
}

// ActsAbout are those that a person did, and those done to them.
func (q Queries) ActsAbout(ctx context.Context, person string) ([]Act, error) {
	rows, err := q.q.ActsAbout(ctx, person)
	out := make([]Act, len(rows))
	for i, r := range rows {
		out[i] = Act{Seq: r.Seq, What: r.What, Detail: r.Detail, Who: r.Who, Whom: r.Whom, At: moment(r.At)}
	}
	return out, err
}

// CopyAssignments sets the practicals of a class to another one too.
func (q Queries) CopyAssignments(ctx context.Context, from, to string, at time.Time) error {
	return q.q.CopyAssignments(ctx, db.CopyAssignmentsParams{ToClass: to, FromClass: from, Created: stamp(at)})
}
