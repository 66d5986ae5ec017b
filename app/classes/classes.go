package classes

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"
	"unicode/utf8"

	"exactflask/app/access"
	"exactflask/app/people"
	"exactflask/core/values/finding"
	"exactflask/core/values/plaintext"
	"exactflask/store"
)

var (
	termLength    = finding.Declare("app.term-length", "length")
	hasInstructor = finding.Declare("app.has-instructor")
	notTaught     = finding.Declare("app.not-taught")
)

// ListedClass is a class in a list.
type ListedClass struct {
	ID       string      `json:"id"`
	Name     string      `json:"name"`
	Term     string      `json:"term"`
	Archived bool        `json:"archived,omitempty"`
	Role     access.Role `json:"role" enum:",student,assistant,instructor" doc:"of who asks; empty for an administrator who is not in it"`
	Students int         `json:"students,omitempty" doc:"for those who teach in it, and administrators"`
	Orphan   bool        `json:"orphan,omitempty" doc:"it has no instructor any more: an administrator gives it one"`
}

// Classes are those of the person; for an administrator, all.
func (a *Classes) Classes(ctx context.Context, p access.Person) ([]ListedClass, error) {
	all, err := a.Store.Read().EveryClass(ctx)
	if err != nil {
		return nil, fmt.Errorf("reading classes: %w", err)
	}
	out := []ListedClass{}
	for _, c := range all {
		role := p.RoleIn(c.ID)
		administrator := access.May(p, access.Administrate, access.Thing{})
		if role == "" && !administrator {
			continue
		}
		listed := ListedClass{ID: c.ID, Name: c.Name, Term: c.Term, Archived: c.Archived, Role: role}
		if role.Teaches() || administrator {
			listed.Students, listed.Orphan = c.Students, c.Instructors == 0
		}
		out = append(out, listed)
	}
	return out, nil
}

// Member is a person in a class, for those who teach there.
type Member struct {
	ID        string      `json:"id"`
	Username  string      `json:"username"`
	Name      string      `json:"name"`
	Role      access.Role `json:"role" enum:"student,assistant,instructor"`
	Bench     string      `json:"bench" doc:"number of the bench"`
	Burette   string      `json:"burette" doc:"the burette's own number"`
	Sample    string      `json:"sample" doc:"code of the unknown"`
	Partner   string      `json:"partner,omitempty" doc:"id of who works with them"`
	Seen      *time.Time  `json:"seen,omitempty" doc:"when they were here last, to five minutes; left out: never"`
	Once      bool        `json:"once,omitempty" doc:"their password was made by somebody else, and they have not changed it yet"`
	Notebooks int         `json:"notebooks"`
}

// ClassPage is a class with its people.
type ClassPage struct {
	ListedClass
	MayManage bool      `json:"mayManage"`
	MayReopen bool      `json:"mayReopen,omitempty"`
	People    []Member  `json:"people"`
	Code      *JoinCode `json:"code,omitempty" doc:"while it is open"`
	Notices   []Notice  `json:"notices"`
}

// ClassPage shows a class to those who teach in it.
func (a *Classes) ClassPage(ctx context.Context, p access.Person, class string) (ClassPage, error) {
	if err := access.Allowed(p, access.SeeRoll, class); err != nil {
		return ClassPage{}, err
	}
	q := a.Store.Read()
	c, err := q.Class(ctx, class)
	if err != nil {
		return ClassPage{}, access.NotFound(err)
	}
	t := access.Thing{Class: class}
	out := ClassPage{ListedClass: ListedClass{ID: c.ID, Name: c.Name, Term: c.Term, Archived: c.Archived, Role: p.RoleIn(class)},
		MayManage: access.May(p, access.ManageClass, t), MayReopen: c.Archived && access.May(p, access.ArchiveClass, t), People: []Member{}}
	members, err := q.Members(ctx, class)
	if err != nil {
		return ClassPage{}, fmt.Errorf("reading the people of a class: %w", err)
	}
	for _, m := range members {
		shown := Member{ID: m.ID, Username: m.Username, Name: m.Name, Role: access.Role(m.Role), Bench: m.Bench, Burette: m.Burette,
			Sample: m.Sample, Once: m.Once, Notebooks: m.Notebooks, Partner: access.PartnerOf(members, m)}
		if !m.Seen.IsZero() {
			shown.Seen = &m.Seen
		}
		if shown.Role == access.Student {
			out.Students++
		}
		out.People = append(out.People, shown)
	}
	if out.Notices, err = a.NoticesOf(ctx, class); err != nil {
		return ClassPage{}, err
	}
	if out.MayManage {
		out.Code, err = a.openCode(ctx, class)
	}
	return out, err
}

// NewClass is what a class is made of.
type NewClass struct {
	Name string `json:"name" minLength:"1" maxLength:"80"`
	Term string `json:"term,omitempty" maxLength:"40" doc:"such as Autumn 2026"`
	From string `json:"from,omitempty" doc:"id of a class whose practicals are set to the new one too"`
}

// MakeClass makes a class of which the person is the instructor, and returns its id.
func (a *Classes) MakeClass(ctx context.Context, p access.Person, n NewClass) (string, error) {
	if !access.May(p, access.MakeClass, access.Thing{}) {
		return "", access.ErrForbidden
	}
	name, term, err := cleanClassAndTerm(n.Name, n.Term)
	if err != nil {
		return "", err
	}
	if n.From != "" {
		if err := access.Allowed(p, access.SeePlan, n.From); err != nil {
			return "", err
		}
	}
	id := access.NewID()
	defer a.Persons.Remove(p.ID)
	return id, a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		if err := q.AddClass(ctx, id, name, term, a.Now()); err != nil {
			return err
		}
		if err := q.Join(ctx, id, p.ID, string(access.Instructor), a.Now()); err != nil {
			return err
		}
		if n.From != "" {
			if err := q.CopyAssignments(ctx, n.From, id, a.Now()); err != nil {
				return err
			}
		}
		return a.Did(ctx, q, access.ActClassMade, p, id, "", name)
	})
}

// SetClass changes what a class is called, archives it or takes it up again.
func (a *Classes) SetClass(ctx context.Context, p access.Person, class, name, term string, archived bool) error {
	if err := access.Allowed(p, access.ArchiveClass, class); err != nil {
		return err
	}
	name, term, err := cleanClassAndTerm(name, term)
	if err != nil {
		return err
	}
	defer a.Persons.Purge()
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		before, err := q.Class(ctx, class)
		if err != nil {
			return access.NotFound(err)
		}
		now := store.Class{ID: class, Name: name, Term: term, Archived: archived}
		var what access.Act
		switch {
		case archived && !before.Archived:
			what = access.ActArchived
		case !archived && before.Archived:
			what = access.ActReopened
		case before.Name != name || before.Term != term:
			what = access.ActClassSet
		default:
			return nil
		}
		if archived {
			if err := q.CloseCode(ctx, class); err != nil {
				return err
			}
		}
		return errors.Join(q.SetClass(ctx, now, a.Now()), a.Did(ctx, q, what, p, class, "", strings.TrimSpace(name+" "+term)))
	})
}

func cleanClassAndTerm(name, term string) (string, string, error) {
	name, err := cleanClass("name", name)
	if err != nil {
		return "", "", err
	}
	term = strings.Join(strings.Fields(plaintext.Clean(term)), " ")
	if n := utf8.RuneCountInString(term); n > 40 {
		return "", "", termLength.Fault("term", finding.Count(n))
	}
	return name, term, nil
}

func cleanClass(field, name string) (string, error) {
	name = strings.Join(strings.Fields(plaintext.Clean(name)), " ")
	if n := utf8.RuneCountInString(name); n == 0 || n > 80 {
		return "", classLength.Fault(field, finding.Count(n))
	}
	return name, nil
}

// GiveClass gives a class that has no instructor any more a new one.
func (a *Classes) GiveClass(ctx context.Context, p access.Person, class, username string) error {
	if !access.May(p, access.Administrate, access.Thing{}) {
		return access.ErrNotFound
	}
	var person string
	defer func() { a.Persons.Remove(person) }()
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		members, err := q.Members(ctx, class)
		if err != nil {
			return err
		}
		if _, err := q.Class(ctx, class); err != nil {
			return access.NotFound(err)
		}
		if access.Instructors(members) > 0 {
			return hasInstructor.Fault("username")
		}
		row, err := q.PersonByUsername(ctx, username)
		if errors.Is(err, store.ErrNotFound) {
			return people.NoUser.Fault("username", finding.Text(username))
		}
		if err != nil {
			return err
		}
		if access.Standing(row.Standing) == access.NoStanding {
			return notTaught.Fault("username")
		}
		person = row.ID
		return errors.Join(q.Join(ctx, class, row.ID, string(access.Instructor), a.Now()), a.Did(ctx, q, access.ActGiven, p, class, row.ID, ""))
	})
}

var (
	classLength = finding.Declare("app.class-length", "length")
)
