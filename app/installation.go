package app

import (
	"context"
	"crypto/subtle"
	"errors"
	"fmt"
	"strings"
	"time"

	"exactflask/core/values/finding"
	"exactflask/store"
)

var (
	setupOver         = finding.Declare("app.setup-over")
	lastAdministrator = finding.Declare("app.last-administrator")
	noStanding        = finding.Declare("app.no-standing", "given")
	classLeft         = finding.Declare("app.class-left", "class")
	notOneself        = finding.Declare("app.not-oneself")
)

// SetupToken is what the first person shows to become the administrator: made anew
// whenever the program starts, in memory only, and worthless once somebody is there.
// Empty where somebody is.
func (a *App) SetupToken(ctx context.Context) (string, error) {
	n, err := a.store.Read().CountPeople(ctx)
	if err != nil || n > 0 {
		return "", err
	}
	a.setup = randomly(24)
	return a.setup, nil
}

// AwaitsSetup tells whether nobody is here yet, and the first person is waited for.
func (a *App) AwaitsSetup(ctx context.Context) (bool, error) {
	if a.setup == "" {
		return false, nil
	}
	n, err := a.store.Read().CountPeople(ctx)
	return n == 0, err
}

// Setup makes the first person, an administrator who may make classes.
func (a *App) Setup(ctx context.Context, token string, n NewPerson) (Person, error) {
	if a.setup == "" || subtle.ConstantTimeCompare([]byte(token), []byte(a.setup)) != 1 {
		return Person{}, setupOver.Fault("token")
	}
	n.Standing, n.Once = AdministratesHere, false
	person, err := a.newPerson(ctx, n)
	if err != nil {
		return Person{}, err
	}
	err = a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		if n, err := q.CountPeople(ctx); err != nil {
			return err
		} else if n > 0 {
			return setupOver.Fault("token")
		}
		return errors.Join(a.addPerson(ctx, q, person), a.did(ctx, q, actPersonMade, Person{ID: person.ID}, "", person.ID, string(n.Standing)))
	})
	if err != nil {
		return Person{}, err
	}
	return a.Person(ctx, person.ID)
}

// Account is a person as an administrator sees them: no notebook of theirs.
type Account struct {
	ID       string       `json:"id"`
	Username string       `json:"username"`
	Name     string       `json:"name"`
	Standing Standing     `json:"standing" enum:",instructor,administrator"`
	Once     bool         `json:"once,omitempty" doc:"they have not chosen a password of their own yet"`
	Seen     *time.Time   `json:"seen,omitempty"`
	Classes  []Membership `json:"classes"`
}

// Accounts are all people of the installation.
func (a *App) Accounts(ctx context.Context, p Person) ([]Account, error) {
	if !May(p, Administrate, Thing{}) {
		return nil, ErrForbidden
	}
	all, err := a.store.Read().Everyone(ctx)
	if err != nil {
		return nil, fmt.Errorf("reading people: %w", err)
	}
	out := make([]Account, len(all))
	for i, one := range all {
		out[i] = Account{ID: one.ID, Username: one.Username, Name: one.Name, Standing: Standing(one.Standing), Once: one.Once,
			Classes: []Membership{}}
		if !one.Seen.IsZero() {
			out[i].Seen = &one.Seen
		}
		for _, m := range one.Memberships {
			out[i].Classes = append(out[i].Classes, Membership{Class: m.Class, Name: m.Name, Role: Role(m.Role)})
		}
	}
	return out, nil
}

// AddAccount adds a person with a standing, and returns their one-time password.
func (a *App) AddAccount(ctx context.Context, p Person, name, username string, standing Standing) (Slip, error) {
	if !May(p, Administrate, Thing{}) {
		return Slip{}, ErrForbidden
	}
	if !standing.Known() {
		return Slip{}, noStanding.Fault("standing", finding.Text(string(standing)))
	}
	if username == "" {
		taken, err := a.taken(ctx)
		if err != nil {
			return Slip{}, err
		}
		username = freeUsername(name, taken)
	}
	slip := Slip{Username: strings.ToLower(strings.TrimSpace(username)), Password: startPassword()}
	made, err := a.newPerson(ctx, NewPerson{Username: slip.Username, Name: name, Password: slip.Password, Standing: standing, Once: true})
	if err != nil {
		return Slip{}, err
	}
	slip.Name = made.Name
	return slip, a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		if err := a.addPerson(ctx, q, made); err != nil {
			return err
		}
		return a.did(ctx, q, actPersonMade, p, "", made.ID, string(standing))
	})
}

// SetStanding changes what a person may do in the installation.
func (a *App) SetStanding(ctx context.Context, p Person, person string, standing Standing) error {
	if !standing.Known() {
		return noStanding.Fault("standing", finding.Text(string(standing)))
	}
	return a.administer(ctx, p, person, func(ctx context.Context, q store.Queries, of store.Person) error {
		if err := lastOne(ctx, q, of, standing); err != nil {
			return err
		}
		return errors.Join(q.SetStanding(ctx, person, string(standing)), a.did(ctx, q, actStanding, p, "", person, string(standing)))
	})
}

// administer does something to an account, for an administrator.
func (a *App) administer(ctx context.Context, p Person, person string,
	do func(context.Context, store.Queries, store.Person) error) error {
	if !May(p, Administrate, Thing{}) {
		return ErrForbidden
	}
	kept, err := a.store.Read().NotebooksOf(ctx, person) // they show the name
	if err != nil {
		return fmt.Errorf("looking for notebooks: %w", err)
	}
	defer a.forgetPerson(person)
	defer a.people.Purge()
	return a.changing(ctx, kept, func(ctx context.Context, q store.Queries) error {
		of, err := q.Person(ctx, person)
		if err != nil {
			return notFound(err)
		}
		return do(ctx, q, of)
	})
}

// lastOne refuses what would leave the installation without an administrator.
func lastOne(ctx context.Context, q store.Queries, of store.Person, after Standing) error {
	if Standing(of.Standing) != AdministratesHere || after == AdministratesHere {
		return nil
	}
	n, err := q.CountAdministrators(ctx)
	if err == nil && n < 2 {
		return lastAdministrator.Fault("standing")
	}
	return err
}

// NewPassword gives anybody a new one-time password, for an administrator.
func (a *App) NewPassword(ctx context.Context, p Person, person string) (Slip, error) {
	if !May(p, Administrate, Thing{}) {
		return Slip{}, ErrForbidden
	}
	of, err := a.Person(ctx, person)
	if err != nil {
		return Slip{}, err
	}
	slips := []Slip{{Name: of.Name, Username: of.Username}}
	err = a.newPasswords(ctx, p, "", []string{person}, slips)
	return slips[0], err
}

// TakeOut takes a person out for good: their name, user name, password, sign-ins and
// answers. Their notebooks stay in their classes, as those of somebody without a
// name; what they wrote in them themselves is not read for names.
func (a *App) TakeOut(ctx context.Context, p Person, person string) error {
	if person == p.ID {
		return notOneself.Fault("person")
	}
	return a.administer(ctx, p, person, func(ctx context.Context, q store.Queries, of store.Person) error {
		if err := lastOne(ctx, q, of, NoStanding); err != nil {
			return err
		}
		for _, m := range of.Memberships {
			members, err := q.Members(ctx, m.Class)
			if err != nil {
				return err
			}
			if Role(m.Role) == Instructor && instructors(members) < 2 && len(members) > 1 && !m.Archived {
				return classLeft.Fault("person", finding.Text(m.Name))
			}
			if m.Pair != "" {
				if err := q.Part(ctx, m.Class, m.Pair); err != nil {
					return err
				}
			}
			if err := a.did(ctx, q, actTakenOut, p, m.Class, person, ""); err != nil {
				return err
			}
		}
		return errors.Join(q.TakeOut(ctx, person, a.now()), a.did(ctx, q, actTakenOut, p, "", person, ""))
	})
}
