package app

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"unicode/utf8"

	"github.com/alexedwards/argon2id"

	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/core/values/plaintext"
	"exactflask/store"
)

var (
	badPreference  = finding.Declare("app.preference", "given")
	nameLength     = finding.Declare("app.name-length", "length")
	nameTaken      = finding.Declare("app.name-taken", "username")
	noUser         = finding.Declare("app.no-user", "username")
	userLength     = finding.Declare("app.username-length", "length")
	userSign       = finding.Declare("app.username-sign", "sign")
	passwordLength = finding.Declare("app.password-length", "length")
	classLength    = finding.Declare("app.class-length", "length")
)

// Person is someone who signed in.
type Person struct {
	ID          string       `json:"id"`
	Username    string       `json:"username"`
	Name        string       `json:"name"`
	Preferences Preferences  `json:"preferences"`
	Classes     []Membership `json:"classes"`
	Standing    Standing     `json:"standing" enum:",instructor,administrator" doc:"in the whole installation: instructor makes classes, administrator looks after people"`
	MustChange  bool         `json:"mustChange,omitempty" doc:"the password was made by somebody else and has to be changed first"`
}

// Preferences are a person's own words, units and theme.
type Preferences struct {
	Words practical.Words `json:"words" enum:",titre,titer" doc:"empty: as the practical says"`
	Units practical.Units `json:"units" enum:",mL,cm3" doc:"empty: as the practical says"`
	Theme string          `json:"theme" enum:"system,light,dark"`
}

// Style is the person's own way of writing; empty parts follow the practical.
func (p Person) Style() practical.Style {
	return practical.Style{Words: p.Preferences.Words, Units: p.Preferences.Units}
}

// Membership is a class a person belongs to.
type Membership struct {
	Class    string `json:"class" doc:"id of the class"`
	Name     string `json:"name"`
	Term     string `json:"term"`
	Role     Role   `json:"role" enum:"student,assistant,instructor"`
	Archived bool   `json:"archived,omitempty" doc:"it is read only"`
}

// SignIn returns the person with this user name and password, or ErrSignIn.
// It takes the same time whether or not the person exists.
func (a *App) SignIn(ctx context.Context, username, password string) (Person, error) {
	if len(username) > 64 || len(password) > 256 {
		return Person{}, ErrSignIn
	}
	row, err := a.store.Read().PersonByUsername(ctx, strings.TrimSpace(username))
	hash := row.Password
	if errors.Is(err, store.ErrNotFound) {
		hash = a.decoy
	} else if err != nil {
		return Person{}, fmt.Errorf("looking for a person: %w", err)
	}
	release, err := a.mayHash(ctx)
	if err != nil {
		return Person{}, err
	}
	defer release()
	match, err := argon2id.ComparePasswordAndHash(password, hash)
	if err != nil || !match || row.ID == "" {
		return Person{}, ErrSignIn
	}
	return a.Person(ctx, row.ID)
}

// Person returns a person by id, or ErrNotFound.
func (a *App) Person(ctx context.Context, id string) (Person, error) {
	if p, ok := a.people.Get(id); ok {
		return p, nil
	}
	p, err := a.readPerson(ctx, id)
	if err == nil {
		a.people.Add(id, p)
	}
	return p, err
}

func (a *App) readPerson(ctx context.Context, id string) (Person, error) {
	row, err := a.store.Read().Person(ctx, id)
	if err != nil {
		return Person{}, notFound(err)
	}
	p := Person{ID: row.ID, Username: row.Username, Name: row.Name, Classes: []Membership{},
		Preferences: Preferences{practical.Words(row.Words), practical.Units(row.Units), row.Theme}, MustChange: row.Once,
		Standing: Standing(row.Standing)}
	for _, m := range row.Memberships {
		p.Classes = append(p.Classes, Membership{m.Class, m.Name, m.Term, Role(m.Role), m.Archived})
	}
	return p, nil
}

// SetPreferences keeps a person's words, units and theme.
func (a *App) SetPreferences(ctx context.Context, p Person, wanted Preferences) (Person, error) {
	if wanted.Words != "" && !wanted.Words.Known() {
		return Person{}, badPreference.Fault("words", finding.Text(string(wanted.Words)))
	}
	if wanted.Units != "" && !wanted.Units.Known() {
		return Person{}, badPreference.Fault("units", finding.Text(string(wanted.Units)))
	}
	if t := wanted.Theme; t != "system" && t != "light" && t != "dark" {
		return Person{}, badPreference.Fault("theme", finding.Text(t))
	}
	err := a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return q.SetPreferences(ctx, p.ID, string(wanted.Words), string(wanted.Units), wanted.Theme)
	})
	if err != nil {
		return Person{}, fmt.Errorf("keeping preferences: %w", err)
	}
	a.people.Remove(p.ID)
	return a.Person(ctx, p.ID)
}

// DemoPerson is someone who may be chosen on the sign-in page of the demo.
type DemoPerson struct {
	Username string `json:"username"`
	Name     string `json:"name"`
	Role     Role   `json:"role" enum:",student,assistant,instructor" doc:"empty: in no class"`
	Class    string `json:"class"`
}

// DemoPeople lists everyone, for the sign-in page of the demo only.
func (a *App) DemoPeople(ctx context.Context) ([]DemoPerson, error) {
	rows, err := a.store.Read().DemoPeople(ctx)
	if err != nil {
		return nil, fmt.Errorf("listing people: %w", err)
	}
	out := make([]DemoPerson, len(rows))
	for i, r := range rows {
		out[i] = DemoPerson{r.Username, r.Name, Role(r.Role), r.Class}
	}
	return out, nil
}

// Usernames lists everyone's. For whoever runs the program; no route reaches it.
func (a *App) Usernames(ctx context.Context) ([]string, error) { return a.store.Read().Usernames(ctx) }

// NewPerson is someone who is to be added.
type NewPerson struct {
	Username, Name, Password string
	Standing                 Standing
	Once                     bool // the password has to be changed at the first sign-in
	Class                    string
	Role                     Role // in the class; both may be empty
}

// AddPerson adds a person, with their place in a class, or neither; it returns the
// id. For whoever runs the program and for the demo; no route reaches it.
func (a *App) AddPerson(ctx context.Context, n NewPerson) (string, error) {
	person, err := a.newPerson(ctx, n)
	if err != nil {
		return "", err
	}
	return person.ID, a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		if err := a.addPerson(ctx, q, person); err != nil || n.Class == "" {
			return err
		}
		class, err := a.classNamed(ctx, q, n.Class)
		if err != nil {
			return err
		}
		return q.Join(ctx, class, person.ID, string(n.Role), a.now())
	})
}

// newPerson is a person as they will be kept, once what was given is found good.
func (a *App) newPerson(ctx context.Context, n NewPerson) (store.Person, error) {
	if err := checkUsername(n.Username); err != nil {
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
	return store.Person{ID: newID(), Username: n.Username, Name: name, Password: hash, Standing: string(n.Standing), Once: n.Once}, nil
}

func (a *App) addPerson(ctx context.Context, q store.Queries, p store.Person) error {
	switch _, err := q.PersonByUsername(ctx, p.Username); {
	case err == nil:
		return nameTaken.Fault("username", finding.Text(p.Username))
	case !errors.Is(err, store.ErrNotFound):
		return err
	}
	return q.AddPerson(ctx, p, a.now())
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
func (a *App) SetPassword(ctx context.Context, username, password string) error {
	hash, err := a.hashOf(ctx, username, password)
	if err != nil {
		return err
	}
	var row store.Person
	defer func() { a.forgetPerson(row.ID) }()
	return a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		row, err = q.PersonByUsername(ctx, username)
		if errors.Is(err, store.ErrNotFound) {
			return noUser.Fault("username", finding.Text(username))
		}
		if err != nil {
			return err
		}
		return errors.Join(q.SetPassword(ctx, row.ID, hash, true), q.EndOtherSignIns(ctx, row.ID, ""))
	})
}

// SetStandingOf gives a person a standing. For whoever runs the program.
func (a *App) SetStandingOf(ctx context.Context, username string, standing Standing) error {
	var row store.Person
	defer func() { a.people.Remove(row.ID) }()
	return a.store.Write(ctx, func(ctx context.Context, q store.Queries) (err error) {
		row, err = q.PersonByUsername(ctx, username)
		if errors.Is(err, store.ErrNotFound) {
			return noUser.Fault("username", finding.Text(username))
		}
		if err != nil {
			return err
		}
		return q.SetStanding(ctx, row.ID, string(standing))
	})
}

// forgetPerson lets a person and their sign-ins be looked for again.
func (a *App) forgetPerson(id string) {
	a.forget(id, "")
	a.people.Remove(id)
}

// SetName changes what the person is called.
func (a *App) SetName(ctx context.Context, p Person, name string) (Person, error) {
	name, err := cleanName(name)
	if err != nil {
		return p, err
	}
	kept, err := a.store.Read().NotebooksOf(ctx, p.ID) // they show it
	if err != nil {
		return p, fmt.Errorf("looking for notebooks: %w", err)
	}
	err = a.changing(ctx, kept, func(ctx context.Context, q store.Queries) error {
		return errors.Join(q.SetName(ctx, p.ID, name), a.did(ctx, q, actNamed, p, "", p.ID, ""))
	})
	if err != nil {
		return p, err
	}
	a.people.Remove(p.ID)
	return a.Person(ctx, p.ID)
}

// IsUsername tells whether a text could be a user name.
func IsUsername(text string) bool { return checkUsername(text) == nil }

func checkUsername(username string) error {
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

// AddClass adds a class, or finds the one with this name, and returns its id. For
// whoever runs the program and for the demo.
func (a *App) AddClass(ctx context.Context, name string) (id string, err error) {
	return id, a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		id, err = a.classNamed(ctx, q, name)
		return err
	})
}

func (a *App) classNamed(ctx context.Context, q store.Queries, name string) (string, error) {
	name, err := cleanClass("class", name)
	if err != nil {
		return "", err
	}
	if known, err := q.ClassByName(ctx, name); err == nil {
		return known, nil
	}
	id := newID()
	return id, q.AddClass(ctx, id, name, "", a.now())
}

// Join puts a person into a class with a role. For whoever runs the program and for
// the demo.
func (a *App) Join(ctx context.Context, classID, personID string, role Role) error {
	defer a.people.Remove(personID)
	return a.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return q.Join(ctx, classID, personID, string(role), a.now())
	})
}

// IsDemo tells whether the data file is the demo's.
func (a *App) IsDemo(ctx context.Context) (bool, error) { return a.store.Read().IsDemo(ctx) }

// MarkDemo notes that the data file is the demo's: who is in it now may be chosen on
// the sign-in page.
func (a *App) MarkDemo(ctx context.Context) error {
	return a.store.Write(ctx, func(ctx context.Context, q store.Queries) error { return q.DemoFilled(ctx, a.now()) })
}
