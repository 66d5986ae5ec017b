package app

import (
	"slices"

	"exactflask/core/decimal"
	"exactflask/core/experiment"
	"exactflask/core/practical"
)

// Role is what a person is in a class.
type Role string

// The roles.
const (
	Student    Role = "student"
	Instructor Role = "instructor"
)

// Action is something that a person may or may not do.
type Action int

// The actions. The first three are about a notebook, the others about a class.
const (
	ReadNotebook  Action = iota
	WriteNotebook        // add entries
	ShareNotebook        // let a partner write
	SeeClass             // its practicals, each as far as the role goes
	BeginNotebook        // an own one
	SeePlan              // with everything that answers the questions
	SetPractical         // to the class, and revise the class's own
	SeeRoll              // who is in the class, and their notebooks
)

// Thing is what is acted on. For a notebook, its student and partners are
// filled.
type Thing struct {
	Class    string
	Student  string
	Partners []string
}

// May tells whether a person may do something with a thing. It is decided here
// and nowhere else; what nobody may see is not there for them.
func May(p Person, a Action, t Thing) bool {
	role := p.roleIn(t.Class)
	if role == "" {
		return false
	}
	owner := t.Student == p.ID && role == Student
	switch a {
	case ReadNotebook:
		return role == Instructor || owner || slices.Contains(t.Partners, p.ID)
	case WriteNotebook:
		return owner || role == Student && slices.Contains(t.Partners, p.ID)
	case ShareNotebook:
		return owner
	case SeeClass:
		return true
	case BeginNotebook:
		return role == Student
	case SeePlan, SetPractical, SeeRoll:
		return role == Instructor
	}
	return false
}

// partsFor are the parts of an evaluation that a role is granted: what is
// withheld is not computed. A student gets no result before marking, or before
// an own attempt, where the practical says so, and never the true value.
func partsFor(role Role, show practical.When, attempted bool) experiment.Parts {
	if role == Instructor {
		return experiment.All
	}
	switch {
	case show == practical.AfterMarking:
		return experiment.Record
	case show == practical.AfterAttempt && !attempted:
		return experiment.PartVerdicts // own steps are judged as they are given
	}
	return experiment.All &^ experiment.PartReference
}

// visible is a practical without what a role must not see.
func visible(p practical.Practical, role Role) practical.Practical {
	if role != Instructor {
		p.Asked.Reference = decimal.Decimal{}
	}
	return p
}

func (p Person) roleIn(class string) Role {
	for _, m := range p.Classes {
		if m.Class == class {
			return m.Role
		}
	}
	return ""
}
