package people

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/alexedwards/argon2id"

	"exactflask/app/access"
	"exactflask/core/values/finding"
	"exactflask/core/values/plaintext"
	"exactflask/store"
)

var (
	// ErrSignIn: wrong name or password; which of them is not said.
	ErrSignIn = errors.New("user name or password is wrong")
)

var (
	badPreference  = finding.Declare("app.preference", "given")
	nameLength     = finding.Declare("app.name-length", "length")
	NameTaken      = finding.Declare("app.name-taken", "username")
	NoUser         = finding.Declare("app.no-user", "username")
	userLength     = finding.Declare("app.username-length", "length")
	userSign       = finding.Declare("app.username-sign", "sign")
	passwordLength = finding.Declare("app.password-length", "length")
)

// SignIn returns the person with this user name and password, or ErrSignIn.
// It takes the same time whether or not the person exists.
func (a *People) SignIn(ctx context.Context, username, password string) (access.Person, error) {
	if len(username) > 64 || len(password) > 256 {
		return access.Person{}, ErrSignIn
	}
	row, err := a.Store.Read().PersonByUsername(ctx, strings.TrimSpace(username))
	hash := row.Password
	if errors.Is(err, store.ErrNotFound) {
		hash = a.decoy
	} else if err != nil {
		return access.Person{}, fmt.Errorf("looking for a person: %w", err)
	}
	release, err := a.mayHash(ctx)
	if err != nil {
		return access.Person{}, err
	}
	defer release()
	match, err := argon2id.ComparePasswordAndHash(password, hash)
	if err != nil || !match || row.ID == "" {
		return access.Person{}, ErrSignIn
	}
	return a.Person(ctx, row.ID)
}

// Has tells whether somebody has this user name.
func (a *People) Has(ctx context.Context, username string) (bool, error) {
	_, err := a.Store.Read().PersonByUsername(ctx, strings.TrimSpace(username))
	if errors.Is(err, store.ErrNotFound) {
		return false, nil
	}
	return err == nil, err
}

// SetPreferences keeps a person's words, units and theme.
func (a *People) SetPreferences(ctx context.Context, p access.Person, wanted access.Preferences) (access.Person, error) {
	if wanted.Words != "" && !wanted.Words.Known() {
		return access.Person{}, badPreference.Fault("words", finding.Text(string(wanted.Words)))
	}
	if wanted.Units != "" && !wanted.Units.Known() {
		return access.Person{}, badPreference.Fault("units", finding.Text(string(wanted.Units)))
	}
	if t := wanted.Theme; t != "system" && t != "light" && t != "dark" {
		return access.Person{}, badPreference.Fault("theme", finding.Text(t))
	}
	err := a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return q.SetPreferences(ctx, p.ID, string(wanted.Words), string(wanted.Units), wanted.Theme)
	})
	if err != nil {
		return access.Person{}, fmt.Errorf("keeping preferences: %w", err)
	}
	a.Persons.Remove(p.ID)
	return a.Person(ctx, p.ID)
}

// DemoPerson is someone who may be chosen on the sign-in page of the demo.
type DemoPerson struct {
	Username string      `json:"username"`
	Name     string      `json:"name"`
	Role     access.Role `json:"role" enum:",student,assistant,instructor" doc:"empty: in no class"`
	Class    string      `json:"class"`
}

// DemoPeople lists everyone, for the sign-in page of the demo only.
func (a *People) DemoPeople(ctx context.Context) ([]DemoPerson, error) {
	rows, err := a.Store.Read().DemoPeople(ctx)
	if err != nil {
		return nil, fmt.Errorf("listing people: %w", err)
	}
	out := make([]DemoPerson, len(rows))
	for i, r := range rows {
		out[i] = DemoPerson{r.Username, r.Name, access.Role(r.Role), r.Class}
	}
	return out, nil
}

// Usernames lists everyone's. For whoever runs the program; no route reaches it.
func (a *People) Usernames(ctx context.Context) ([]string, error) {
	return a.Store.Read().Usernames(ctx)
}

// NewPerson is someone who is to be added.
type NewPerson struct {
	Username, Name, Password string
	Standing                 access.Standing
	Once                     bool // the password has to be changed at the first sign-in
	Class                    string
	Role                     access.Role // in the class; both may be empty
}

// NewPerson is a person as they will be kept, once what was given is found good.
func (a *People) NewPerson(ctx context.Context, n NewPerson) (store.Person, error) {
	if err := CheckUsername(n.Username); err != nil {
		return store.Person{}, err
	}
	name, err := cleanName(n.Name)
	if err != nil {
		return store.Person{}, err
	}
	hash, err := a.hashOf(ctx, n.Username, n.Password)
	if err != nil {
		return store.Person{}, err
	}
	return store.Person{ID: access.NewID(), Username: n.Username, Name: name, Password: hash, Standing: string(n.Standing), Once: n.Once}, nil
}

func (a *People) AddPerson(ctx context.Context, q store.Queries, p store.Person) error {
	switch _, err := q.PersonByUsername(ctx, p.Username); {
	case err == nil:
		return NameTaken.Fault("username", finding.Text(p.Username))
	case !errors.Is(err, store.ErrNotFound):
		return err
	}
	return q.AddPerson(ctx, p, a.Now())
}

func cleanName(name string) (string, error) {
	name = strings.Join(strings.Fields(plaintext.Clean(name)), " ")
	if n := utf8.RuneCountInString(name); n == 0 || n > 80 {
		return "", nameLength.Fault("name", finding.Count(n))
	}
	return name, nil
}

// SetPassword gives a person a new password, which they have to change, and ends
// their sign-ins. For whoever runs the program.
func (a *People) SetPassword(ctx context.Context, username, password string) error {
	hash, err := a.hashOf(ctx, username, password)
	if err != nil {
		return err
	}
	var row store.Person
	defer func() { a.forgetPerson(row.ID) }()
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		row, err = q.PersonByUsername(ctx, username)
		if errors.Is(err, store.ErrNotFound) {
			return NoUser.Fault("username", finding.Text(username))
		}
		if err != nil {
			return err
		}
		return errors.Join(q.SetPassword(ctx, row.ID, hash, true), q.EndOtherSignIns(ctx, row.ID, ""))
	})
}

// SetStandingOf gives a person a standing. For whoever runs the program.
func (a *People) SetStandingOf(ctx context.Context, username string, standing access.Standing) error {
	var row store.Person
	defer func() { a.Persons.Remove(row.ID) }()
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) (err error) {
		row, err = q.PersonByUsername(ctx, username)
		if errors.Is(err, store.ErrNotFound) {
			return NoUser.Fault("username", finding.Text(username))
		}
		if err != nil {
			return err
		}
		return q.SetStanding(ctx, row.ID, string(standing))
	})
}

// forgetPerson lets a person and their sign-ins be looked for again.
func (a *People) forgetPerson(id string) {
	a.forget(id, "")
	a.Persons.Remove(id)
}

// mostWishes is how often somebody asks for another name within a term.
const (
	mostWishes = 5
	term       = 120 * 24 * time.Hour
)

var manyWishes = finding.Declare("app.many-wishes", "count")

// SetName changes what the person is called. The names of students are the roster's: theirs is a wish,
// which those who lead their classes read in its log and grant (Rename); wished tells so.
func (a *People) SetName(ctx context.Context, p access.Person, name string) (_ access.Person, wished bool, err error) {
	if name, err = cleanName(name); err != nil {
		return p, false, err
	}
	var classes []string
	for _, m := range p.Classes {
		if m.Role == access.Student && !m.Archived {
			classes = append(classes, m.Class)
		}
	}
	if len(classes) > 0 && p.Standing == access.NoStanding {
		return p, true, a.wish(ctx, p, classes, name)
	}
	p, err = a.rename(ctx, p, p, "", name)
	return p, false, err
}

// wish asks for another name in each of one's classes.
func (a *People) wish(ctx context.Context, p access.Person, classes []string, name string) error {
	if name == p.Name {
		return nil
	}
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		acts, err := q.ActsAbout(ctx, p.ID)
		if err != nil {
			return err
		}
		count := 0
		for _, act := range acts {
			if act.What == string(access.ActWished) && a.Now().Sub(act.At) < term {
				count++
			}
		}
		if count >= mostWishes*len(classes) {
			return manyWishes.Fault("name", finding.Count(mostWishes))
		}
		for _, class := range classes {
			err = errors.Join(err, a.Did(ctx, q, access.ActWished, p, class, p.ID, name))
		}
		return err
	})
}

// Rename changes what a student of one's class is called. The log keeps the name before.
func (a *People) Rename(ctx context.Context, p access.Person, class, person, name string) error {
	if err := access.Allowed(p, access.ManageClass, class); err != nil {
		return err
	}
	name, err := cleanName(name)
	if err != nil {
		return err
	}
	of, err := a.Person(ctx, person)
	if err != nil {
		return err
	}
	if of.RoleIn(class) == "" {
		return access.ErrNotFound
	}
	if of.RoleIn(class) != access.Student || of.Standing != access.NoStanding {
		return access.ErrForbidden
	}
	_, err = a.rename(ctx, p, of, class, name)
	return err
}

// rename gives somebody another name; the log keeps the one before.
func (a *People) rename(ctx context.Context, by, p access.Person, class, name string) (access.Person, error) {
	act := access.ActNamed
	if by.ID != p.ID {
		act = access.ActRenamed
	}
	kept, err := a.Store.Read().NotebooksOf(ctx, p.ID) // they show it
	if err != nil {
		return p, fmt.Errorf("looking for notebooks: %w", err)
	}
	err = a.Changing(ctx, kept, func(ctx context.Context, q store.Queries) error {
		return errors.Join(q.SetName(ctx, p.ID, name), a.Did(ctx, q, act, by, class, p.ID, p.Name+" → "+name))
	})
	if err != nil {
		return p, err
	}
	a.Persons.Remove(p.ID)
	return a.Person(ctx, p.ID)
}

// IsUsername tells whether a text could be a user name.
func IsUsername(text string) bool { return CheckUsername(text) == nil }

func CheckUsername(username string) error {
	if len(username) < 2 || len(username) > 40 {
		return userLength.Fault("username", finding.Count(len(username)))
	}
	for _, r := range username {
		if !(r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || strings.ContainsRune(".-_", r)) {
			return userSign.Fault("username", finding.Text(string(r)))
		}
	}
	return nil
}

// IsDemo tells whether the data file is the demo's.
func (a *People) IsDemo(ctx context.Context) (bool, error) { return a.Store.Read().IsDemo(ctx) }

// MarkDemo notes that the data file is the demo's: who is in it now may be chosen on
// the sign-in page.
func (a *People) MarkDemo(ctx context.Context) error {
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error { return q.DemoFilled(ctx, a.Now()) })
}
