package people

import (
	"context"
	"crypto/subtle"
	"errors"
	"fmt"
	"strings"
	"time"

	"exactflask/app/access"
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
func (a *People) SetupToken(ctx context.Context) (string, error) {
	n, err := a.Store.Read().CountPeople(ctx)
	if err != nil || n > 0 {
		return "", err
	}
	a.setup = Randomly(24)
	return a.setup, nil
}

// AwaitsSetup tells whether nobody is here yet, and the first person is waited for.
func (a *People) AwaitsSetup(ctx context.Context) (bool, error) {
	if a.setup == "" {
		return false, nil
	}
	n, err := a.Store.Read().CountPeople(ctx)
	return n == 0, err
}

// Setup makes the first person, an administrator who may make classes.
func (a *People) Setup(ctx context.Context, token string, n NewPerson) (access.Person, error) {
	if a.setup == "" || subtle.ConstantTimeCompare([]byte(token), []byte(a.setup)) != 1 {
		return access.Person{}, setupOver.Fault("token")
	}
	n.Standing, n.Once = access.AdministratesHere, false
	person, err := a.NewPerson(ctx, n)
	if err != nil {
		return access.Person{}, err
	}
	err = a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		if n, err := q.CountPeople(ctx); err != nil {
			return err
		} else if n > 0 {
			return setupOver.Fault("token")
		}
		return errors.Join(a.AddPerson(ctx, q, person), a.Did(ctx, q, access.ActPersonMade, access.Person{ID: person.ID}, "", person.ID, string(n.Standing)))
	})
	if err != nil {
		return access.Person{}, err
	}
	return a.Person(ctx, person.ID)
}

// Account is a person as an administrator sees them: no notebook of theirs.
type Account struct {
	ID       string              `json:"id"`
	Username string              `json:"username"`
	Name     string              `json:"name"`
	Standing access.Standing     `json:"standing" enum:",instructor,administrator"`
	Once     bool                `json:"once,omitempty" doc:"they have not chosen a password of their own yet"`
	Seen     *time.Time          `json:"seen,omitempty"`
	Classes  []access.Membership `json:"classes"`
}

// Accounts are all people of the installation.
func (a *People) Accounts(ctx context.Context, p access.Person) ([]Account, error) {
	if !access.May(p, access.Administrate, access.Thing{}) {
		return nil, access.ErrForbidden
	}
	all, err := a.Store.Read().Everyone(ctx)
	if err != nil {
		return nil, fmt.Errorf("reading people: %w", err)
	}
	out := make([]Account, len(all))
	for i, one := range all {
		out[i] = Account{ID: one.ID, Username: one.Username, Name: one.Name, Standing: access.Standing(one.Standing), Once: one.Once,
			Classes: []access.Membership{}}
		if !one.Seen.IsZero() {
			out[i].Seen = &one.Seen
		}
		for _, m := range one.Memberships {
			out[i].Classes = append(out[i].Classes, access.Membership{Class: m.Class, Name: m.Name, Role: access.Role(m.Role)})
		}
	}
	return out, nil
}

// AddAccount adds a person with a standing, and returns their one-time password.
func (a *People) AddAccount(ctx context.Context, p access.Person, name, username string, standing access.Standing) (Slip, error) {
	if !access.May(p, access.Administrate, access.Thing{}) {
		return Slip{}, access.ErrForbidden
	}
	if !standing.Known() {
		return Slip{}, noStanding.Fault("standing", finding.Text(string(standing)))
	}
	if username == "" {
		taken, err := a.Taken(ctx)
		if err != nil {
			return Slip{}, err
		}
		username = FreeUsername(name, taken)
	}
	slip := Slip{Username: strings.ToLower(strings.TrimSpace(username)), Password: StartPassword()}
	made, err := a.NewPerson(ctx, NewPerson{Username: slip.Username, Name: name, Password: slip.Password, Standing: standing, Once: true})
	if err != nil {
		return Slip{}, err
	}
	slip.Name = made.Name
	return slip, a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		if err := a.AddPerson(ctx, q, made); err != nil {
			return err
		}
		return a.Did(ctx, q, access.ActPersonMade, p, "", made.ID, string(standing))
	})
}

// SetStanding changes what a person may do in the installation.
func (a *People) SetStanding(ctx context.Context, p access.Person, person string, standing access.Standing) error {
	if !standing.Known() {
		return noStanding.Fault("standing", finding.Text(string(standing)))
	}
	return a.administer(ctx, p, person, func(ctx context.Context, q store.Queries, of store.Person) error {
		if err := lastOne(ctx, q, of, standing); err != nil {
			return err
		}
		return errors.Join(q.SetStanding(ctx, person, string(standing)), a.Did(ctx, q, access.ActStanding, p, "", person, string(standing)))
	})
}

// administer does something to an account, for an administrator.
func (a *People) administer(ctx context.Context, p access.Person, person string,
	do func(context.Context, store.Queries, store.Person) error) error {
	if !access.May(p, access.Administrate, access.Thing{}) {
		return access.ErrForbidden
	}
	kept, err := a.Store.Read().NotebooksOf(ctx, person) // they show the name
	if err != nil {
		return fmt.Errorf("looking for notebooks: %w", err)
	}
	defer a.forgetPerson(person)
	defer a.Persons.Purge()
	return a.Changing(ctx, kept, func(ctx context.Context, q store.Queries) error {
		of, err := q.Person(ctx, person)
		if err != nil {
			return access.NotFound(err)
		}
		return do(ctx, q, of)
	})
}

// lastOne refuses what would leave the installation without an administrator.
func lastOne(ctx context.Context, q store.Queries, of store.Person, after access.Standing) error {
	if access.Standing(of.Standing) != access.AdministratesHere || after == access.AdministratesHere {
		return nil
	}
	n, err := q.CountAdministrators(ctx)
	if err == nil && n < 2 {
		return lastAdministrator.Fault("standing")
	}
	return err
}

// NewPassword gives anybody a new one-time password, for an administrator.
func (a *People) NewPassword(ctx context.Context, p access.Person, person string) (Slip, error) {
	if !access.May(p, access.Administrate, access.Thing{}) {
		return Slip{}, access.ErrForbidden
	}
	of, err := a.Person(ctx, person)
	if err != nil {
		return Slip{}, err
	}
	slips := []Slip{{Name: of.Name, Username: of.Username}}
	err = a.NewPasswords(ctx, p, "", []string{person}, slips)
	return slips[0], err
}

// TakeOut takes a person out for good: their name, user name, password, sign-ins and
// answers. Their notebooks stay in their classes, as those of somebody without a
// name; what they wrote in them themselves is not read for names.
func (a *People) TakeOut(ctx context.Context, p access.Person, person string) error {
	if person == p.ID {
		return notOneself.Fault("person")
	}
	return a.administer(ctx, p, person, func(ctx context.Context, q store.Queries, of store.Person) error {
		if err := lastOne(ctx, q, of, access.NoStanding); err != nil {
			return err
		}
		for _, m := range of.Memberships {
			members, err := q.Members(ctx, m.Class)
			if err != nil {
				return err
			}
			if access.Role(m.Role) == access.Instructor && access.Instructors(members) < 2 && len(members) > 1 && !m.Archived {
				return classLeft.Fault("person", finding.Text(m.Name))
			}
			if m.Pair != "" {
				if err := q.Part(ctx, m.Class, m.Pair); err != nil {
					return err
				}
			}
			if err := a.Did(ctx, q, access.ActTakenOut, p, m.Class, person, ""); err != nil {
				return err
			}
		}
		return errors.Join(q.TakeOut(ctx, person, a.Now()), a.Did(ctx, q, access.ActTakenOut, p, "", person, ""))
	})
}
