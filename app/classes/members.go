package classes

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"unicode/utf8"

	"exactflask/app/access"
	"exactflask/core/values/finding"
	"exactflask/core/values/plaintext"
	"exactflask/store"
)

const maxPlace = 20 // characters

var (
	noRole         = finding.Declare("app.no-role", "given")
	placeLength    = finding.Declare("app.place-length", "most", "length")
	lastInstructor = finding.Declare("app.last-instructor")
	NotInClass     = finding.Declare("app.not-in-class")
	ownPair        = finding.Declare("app.own-pair")
	onlyStudents   = finding.Declare("app.only-students-pair")
)

// Place is what a person is in a class, and where.
type Place struct {
	Role    access.Role `json:"role" enum:"student,assistant,instructor"`
	Bench   string      `json:"bench" maxLength:"20"`
	Burette string      `json:"burette" maxLength:"20"`
	Sample  string      `json:"sample" maxLength:"20"`
	Partner string      `json:"partner,omitempty" doc:"id of who works with them; empty: nobody"`
}

// SetPlace changes what a person is in a class, and where.
func (a *Classes) SetPlace(ctx context.Context, p access.Person, class, person string, wanted Place) error {
	if err := access.Allowed(p, access.ManageClass, class); err != nil {
		return err
	}
	if !wanted.Role.Known() {
		return noRole.Fault("role", finding.Text(string(wanted.Role)))
	}
	for _, f := range []struct {
		name string
		text *string
	}{{"bench", &wanted.Bench}, {"burette", &wanted.Burette}, {"sample", &wanted.Sample}} {
		*f.text = strings.Join(strings.Fields(plaintext.Clean(*f.text)), " ")
		if n := utf8.RuneCountInString(*f.text); n > maxPlace {
			return placeLength.Fault(f.name, finding.Count(maxPlace), finding.Count(n))
		}
	}
	var touched []string
	defer func() {
		for _, id := range touched {
			a.Persons.Remove(id)
		}
	}()
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		touched = []string{person}
		members, err := q.Members(ctx, class)
		if err != nil {
			return err
		}
		now, found := access.Member(members, person)
		if !found {
			return access.ErrNotFound
		}
		if access.Role(now.Role) == access.Instructor && wanted.Role != access.Instructor && access.Instructors(members) < 2 {
			return lastInstructor.Fault("role")
		}
		before := now
		if err := a.pair(ctx, q, placing{p, class, members, &touched}, &now, wanted); err != nil {
			return err
		}
		now.Role, now.Bench, now.Burette, now.Sample = string(wanted.Role), wanted.Bench, wanted.Burette, wanted.Sample
		if err := q.SetMember(ctx, class, now); err != nil {
			return err
		}
		before.Pair = now.Pair
		if before == now {
			return nil
		}
		detail := []string{now.Role, now.Bench, now.Burette, now.Sample}
		return a.Did(ctx, q, access.ActPlaced, p, class, person, strings.Join(detail, " / "))
	})
}

// placing is a class whose places somebody changes; touched are those whose place changed.
type placing struct {
	p       access.Person
	class   string
	members []store.Member
	touched *[]string
}

// pair makes or parts a pair of students. Notebooks that the two share already stay
// shared: what was written together is theirs.
func (a *Classes) pair(ctx context.Context, q store.Queries, r placing, m *store.Member, wanted Place) error {
	if wanted.Partner != "" && wanted.Role != access.Student {
		return onlyStudents.Fault("partner")
	}
	if access.PartnerOf(r.members, *m) == wanted.Partner {
		return nil
	}
	if m.Pair != "" {
		if err := errors.Join(q.Part(ctx, r.class, m.Pair), a.Did(ctx, q, access.ActParted, r.p, r.class, m.ID, "")); err != nil {
			return err
		}
		*r.touched = append(*r.touched, access.PartnerOf(r.members, *m))
		m.Pair = ""
	}
	if wanted.Partner == "" {
		return nil
	}
	other, found := access.Member(r.members, wanted.Partner)
	switch {
	case !found:
		return NotInClass.Fault("partner")
	case other.ID == m.ID:
		return ownPair.Fault("partner")
	case access.Role(other.Role) != access.Student:
		return onlyStudents.Fault("partner")
	}
	if other.Pair != "" {
		if err := q.Part(ctx, r.class, other.Pair); err != nil {
			return err
		}
		*r.touched = append(*r.touched, access.PartnerOf(r.members, other))
	}
	m.Pair, other.Pair = access.NewID(), ""
	other.Pair = m.Pair
	*r.touched = append(*r.touched, other.ID)
	return errors.Join(q.SetMember(ctx, r.class, other), a.Did(ctx, q, access.ActPaired, r.p, r.class, m.ID, other.Name))
}

// Remove takes a person out of a class. What they wrote in it stays there.
func (a *Classes) Remove(ctx context.Context, p access.Person, class, person string) error {
	return a.leave(ctx, p, class, person, "")
}

// Move takes a student with their notebooks into another class of the same
// instructor.
func (a *Classes) Move(ctx context.Context, p access.Person, class, person, to string) error {
	if err := access.Allowed(p, access.ManageClass, to); err != nil {
		return err
	}
	return a.leave(ctx, p, class, person, to)
}

func (a *Classes) leave(ctx context.Context, p access.Person, class, person, to string) error {
	if err := access.Allowed(p, access.ManageClass, class); err != nil {
		return err
	}
	kept, err := a.Store.Read().NotebooksOf(ctx, person)
	if err != nil {
		return fmt.Errorf("looking for notebooks: %w", err)
	}
	defer a.Persons.Purge() // a partner's pair may end too
	return a.Changing(ctx, kept, func(ctx context.Context, q store.Queries) error {
		members, err := q.Members(ctx, class)
		if err != nil {
			return err
		}
		m, found := access.Member(members, person)
		switch {
		case !found:
			return access.ErrNotFound
		case access.Role(m.Role) == access.Instructor && access.Instructors(members) < 2:
			return lastInstructor.Fault("role")
		}
		if m.Pair != "" {
			if err := q.Part(ctx, class, m.Pair); err != nil {
				return err
			}
		}
		if err := q.Leave(ctx, class, person); err != nil {
			return err
		}
		if to == "" {
			return a.Did(ctx, q, access.ActRemoved, p, class, person, "")
		}
		there, err := q.Class(ctx, to)
		if err != nil {
			return access.NotFound(err)
		}
		if known, err := q.Members(ctx, to); err != nil {
			return err
		} else if _, in := access.Member(known, person); !in {
			if err := q.Join(ctx, to, person, m.Role, a.Now()); err != nil {
				return err
			}
		}
		return errors.Join(carryUnknowns(ctx, q, person, class, to), q.MoveNotebooks(ctx, person, class, to),
			a.Did(ctx, q, access.ActMovedOut, p, class, person, there.Name), a.Did(ctx, q, access.ActMovedIn, p, to, person, ""))
	})
}
