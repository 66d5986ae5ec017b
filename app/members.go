package app

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"unicode/utf8"

	"exactflask/core/values/finding"
	"exactflask/core/values/plaintext"
	"exactflask/store"
)

const maxPlace = 20 // characters

var (
	noRole         = finding.Declare("app.no-role", "given")
	placeLength    = finding.Declare("app.place-length", "most", "length")
	lastInstructor = finding.Declare("app.last-instructor")
	notInClass     = finding.Declare("app.not-in-class")
	ownPair        = finding.Declare("app.own-pair")
	onlyStudents   = finding.Declare("app.only-students-pair")
)

// Place is what a person is in a class, and where.
type Place struct {
	Role    Role   `json:"role" enum:"student,assistant,instructor"`
	Bench   string `json:"bench" maxLength:"20"`
	Burette string `json:"burette" maxLength:"20"`
	Sample  string `json:"sample" maxLength:"20"`
	Partner string `json:"partner,omitempty" doc:"id of who works with them; empty: nobody"`
}

// SetPlace changes what a person is in a class, and where.
func (a *App) SetPlace(ctx context.Context, p Person, class, person string, wanted Place) error {
	if err := allowed(p, ManageClass, class); err != nil {
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
			a.people.Remove(id)
		}
	}()
	return a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		touched = []string{person}
		members, err := q.Members(ctx, class)
		if err != nil {
			return err
		}
		now, found := member(members, person)
		if !found {
			return ErrNotFound
		}
		if Role(now.Role) == Instructor && wanted.Role != Instructor && instructors(members) < 2 {
			return lastInstructor.Fault("role")
		}
		before := now
		if err := a.pair(ctx, q, p, class, members, &now, wanted, &touched); err != nil {
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
		return a.did(ctx, q, actPlaced, p, class, person, strings.Join(detail, " / "))
	})
}

// pair makes or parts a pair of students. Notebooks that the two share already stay
// shared: what was written together is theirs.
func (a *App) pair(ctx context.Context, q store.Queries, p Person, class string, members []store.Member, m *store.Member,
	wanted Place, touched *[]string) error {
	if wanted.Partner != "" && wanted.Role != Student {
		return onlyStudents.Fault("partner")
	}
	if partnerOf(members, *m) == wanted.Partner {
		return nil
	}
	if m.Pair != "" {
		if err := errors.Join(q.Part(ctx, class, m.Pair), a.did(ctx, q, actParted, p, class, m.ID, "")); err != nil {
			return err
		}
		*touched = append(*touched, partnerOf(members, *m))
		m.Pair = ""
	}
	if wanted.Partner == "" {
		return nil
	}
	other, found := member(members, wanted.Partner)
	switch {
	case !found:
		return notInClass.Fault("partner")
	case other.ID == m.ID:
		return ownPair.Fault("partner")
	case Role(other.Role) != Student:
		return onlyStudents.Fault("partner")
	}
	if other.Pair != "" {
		if err := q.Part(ctx, class, other.Pair); err != nil {
			return err
		}
		*touched = append(*touched, partnerOf(members, other))
	}
	m.Pair, other.Pair = newID(), ""
	other.Pair = m.Pair
	*touched = append(*touched, other.ID)
	return errors.Join(q.SetMember(ctx, class, other), a.did(ctx, q, actPaired, p, class, m.ID, other.Name))
}

func member(members []store.Member, id string) (store.Member, bool) {
	for _, m := range members {
		if m.ID == id {
			return m, true
		}
	}
	return store.Member{}, false
}

func instructors(members []store.Member) (n int) {
	for _, m := range members {
		if Role(m.Role) == Instructor {
			n++
		}
	}
	return n
}

// Remove takes a person out of a class. What they wrote in it stays there.
func (a *App) Remove(ctx context.Context, p Person, class, person string) error {
	return a.leave(ctx, p, class, person, "")
}

// Move takes a student with their notebooks into another class of the same
// instructor.
func (a *App) Move(ctx context.Context, p Person, class, person, to string) error {
	if err := allowed(p, ManageClass, to); err != nil {
		return err
	}
	return a.leave(ctx, p, class, person, to)
}

func (a *App) leave(ctx context.Context, p Person, class, person, to string) error {
	if err := allowed(p, ManageClass, class); err != nil {
		return err
	}
	kept, err := a.store.Read().NotebooksOf(ctx, person)
	if err != nil {
		return fmt.Errorf("looking for notebooks: %w", err)
	}
	defer a.people.Purge() // a partner's pair may end too
	return a.changing(ctx, kept, func(ctx context.Context, q store.Queries) error {
		members, err := q.Members(ctx, class)
		if err != nil {
			return err
		}
		m, found := member(members, person)
		switch {
		case !found:
			return ErrNotFound
		case Role(m.Role) == Instructor && instructors(members) < 2:
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
			return a.did(ctx, q, actRemoved, p, class, person, "")
		}
		there, err := q.Class(ctx, to)
		if err != nil {
			return notFound(err)
		}
		if known, err := q.Members(ctx, to); err != nil {
			return err
		} else if _, in := member(known, person); !in {
			if err := q.Join(ctx, to, person, m.Role, a.now()); err != nil {
				return err
			}
		}
		return errors.Join(carryUnknowns(ctx, q, person, class, to), q.MoveNotebooks(ctx, person, class, to),
			a.did(ctx, q, actMovedOut, p, class, person, there.Name), a.did(ctx, q, actMovedIn, p, to, person, ""))
	})
}
