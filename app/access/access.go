package access

import (
	"slices"

	"exactflask/core/judgement/experiment"
	"exactflask/core/values/finding"
)

// Role is what a person is in a class.
type Role string

// The roles. An assistant prepares practicals and helps at the benches.
const (
	Student    Role = "student"
	Assistant  Role = "assistant"
	Instructor Role = "instructor"
)

// Known tells whether it is one of the roles.
func (r Role) Known() bool { return r == Student || r.Teaches() }

// Teaches tells whether nothing about the practicals of a class is hidden from it.
func (r Role) Teaches() bool { return r == Assistant || r == Instructor }

// Reader is somebody of this role before any marks are released.
func (r Role) Reader() experiment.Reader { return experiment.Reader{Teaches: r.Teaches()} }

// Standing is what a person may do in the whole installation; in each class they
// have a role beside it.
type Standing string

// The standings. An instructor makes classes; an administrator looks after people
// and the installation, and reads no notebook for that.
const (
	NoStanding        Standing = ""
	MayMakeClasses    Standing = "instructor"
	AdministratesHere Standing = "administrator"
)

// Known tells whether it is one of the standings.
func (s Standing) Known() bool {
	return s == NoStanding || s == MayMakeClasses || s == AdministratesHere
}

// Action is something that a person may or may not do.
type Action int

// The actions: about a notebook, about a class, about the installation.
const (
	ReadNotebook    Action = iota
	WriteNotebook          // add entries
	ShareNotebook          // let a partner write
	SeeClass               // its practicals, each as far as the role goes
	BeginNotebook          // an own one; of those who teach, the reference titration
	SeePlan                // with everything that answers the questions
	AssignPractical        // to the class, and revise the class's own
	SeeRoll                // who is in the class, and their notebooks
	HelpBenches            // take a hand that is up, say when the lesson ends
	ManageClass            // its people, codes, notices; give a report back
	MarkReports            // award marks, and say something beside an entry
	ReleaseMarks           // let students see them; change the scheme; answer requests
	ArchiveClass           // and take it up again
	SeeActs                // who changed what in the class
	MakeClass
	Administrate // people of the whole installation
)

// Thing is what is acted on. For a notebook, its student and partners are
// filled.
type Thing struct {
	Class    string
	Student  string
	Partners []string
}

// May tells whether a person may do something with a thing. It is decided here
// and nowhere else; what nobody may see is not there for them. In an archived class
// nothing is changed.
func May(p Person, a Action, t Thing) bool {
	switch a {
	case MakeClass:
		return p.Standing != NoStanding
	case Administrate:
		return p.Standing == AdministratesHere
	}
	m := p.In(t.Class)
	if m.Role == "" {
		return false
	}
	open := !m.Archived
	owner := t.Student == p.ID // those who teach run the reference titration
	switch a {
	case ReadNotebook:
		return m.Role.Teaches() || owner || slices.Contains(t.Partners, p.ID)
	case WriteNotebook:
		return open && (owner || m.Role == Student && slices.Contains(t.Partners, p.ID))
	case ShareNotebook:
		return open && owner && m.Role == Student
	case SeeClass:
		return true
	case BeginNotebook:
		return open
	case SeePlan, SeeRoll:
		return m.Role.Teaches()
	case HelpBenches, MarkReports:
		return open && m.Role.Teaches()
	case AssignPractical, ManageClass, ReleaseMarks:
		return open && m.Role == Instructor
	case ArchiveClass, SeeActs:
		return m.Role == Instructor
	}
	return false
}

// Allowed is May as an error: what a person may not see is not there.
func Allowed(p Person, a Action, class string) error {
	t := Thing{Class: class}
	if !May(p, SeeClass, t) {
		return ErrNotFound
	}
	return Refusal(p, a, t)
}

// Refusal is why a person may not do something with a thing that they may see, nil where they may:
// the class is archived, or it is not for them.
func Refusal(p Person, a Action, t Thing) error {
	m := p.In(t.Class)
	switch {
	case May(p, a, t):
		return nil
	case !m.Archived:
		return ErrForbidden
	case m.Role == Instructor:
		return isArchived.Fault("")
	case m.Role == Student && May(p, ReadNotebook, t):
		return closedBook.Fault("")
	}
	return ErrForbidden
}

var (
	isArchived = finding.Declare("app.archived")
	closedBook = finding.Declare("app.archived-notebook")
	leftClass  = finding.Declare("app.left-class")
)

// LeftClass is said of one's own notebook in a class that one is not in any more; nobody else hears
// that it is there.
func LeftClass(p Person, t Thing) error {
	if p.In(t.Class).Role == "" && t.Student == p.ID {
		return leftClass.Fault("")
	}
	return ErrNotFound
}
