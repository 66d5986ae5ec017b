package classes

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"golang.org/x/sync/errgroup"

	"exactflask/app/access"
	"exactflask/app/people"
	"exactflask/core/values/finding"
	"exactflask/formats/roster"
	"exactflask/schema"
	"exactflask/store"
)

var (
	twiceHere = finding.Declare("app.twice-here", "username")
	noReset   = finding.Declare("app.no-reset", "name")
)

// maxAdded is how many people are added at once.
const maxAdded = roster.MaxRows

// RosterRow is a person of a roster, as they would be added.
type RosterRow struct {
	Line     int    `json:"line" doc:"in the file, from 1"`
	Name     string `json:"name"`
	Username string `json:"username"`
	Bench    string `json:"bench"`
	Burette  string `json:"burette"`
	Sample   string `json:"sample"`
	Here     bool   `json:"here,omitempty" doc:"in the class already"`
	Known    bool   `json:"known,omitempty" doc:"has an account, in another class of who asks: added without a new password"`
	Problem  string `json:"problem,omitempty" doc:"why this row cannot be taken as it is"`
}

// Roster is what was understood of a list of people.
type Roster struct {
	Rows      []RosterRow   `json:"rows"`
	Columns   []roster.Used `json:"columns" doc:"what each column was taken for"`
	Separator string        `json:"separator" enum:",comma,semicolon,tab" doc:"empty: one name to a line"`
	Encoding  string        `json:"encoding" enum:"utf-8,utf-16,windows-1252"`
}

// ReadRoster reads a list of people; nothing is kept. say puts into words what is
// wrong with a row.
func (a *Classes) ReadRoster(ctx context.Context, p access.Person, class string, text []byte, say func(finding.Message) string) (Roster, error) {
	if err := access.Allowed(p, access.ManageClass, class); err != nil {
		return Roster{}, err
	}
	read, fault := roster.Read(text)
	if fault != nil {
		return Roster{}, fault
	}
	taken, err := a.people.Taken(ctx)
	if err != nil {
		return Roster{}, err
	}
	known, err := a.knownTo(ctx, a.Store.Read(), p)
	if err != nil {
		return Roster{}, err
	}
	out := Roster{Rows: []RosterRow{}, Columns: read.Columns, Separator: read.Separator, Encoding: read.Encoding}
	inFile := map[string]bool{}
	for _, r := range read.Rows {
		row := RosterRow{Line: r.Line, Name: r.Name, Username: strings.ToLower(r.Username), Bench: r.Bench, Burette: r.Burette, Sample: r.Sample}
		same := known.named(row.Username, row.Name)
		switch {
		case r.Fault != nil:
			row.Problem = say(r.Fault.Message)
		case same != nil:
			row.Username, row.Known, row.Here = same.Username, true, same.in(class)
			if inFile[row.Username] {
				row.Problem = say(twiceHere.Message(finding.Text(row.Username)))
			}
		case row.Username == "":
			row.Username = people.FreeUsername(row.Name, taken)
		default:
			var wrong *finding.Fault
			switch err := people.CheckUsername(row.Username); {
			case errors.As(err, &wrong):
				row.Problem = say(wrong.Message)
			case inFile[row.Username]:
				row.Problem = say(twiceHere.Message(finding.Text(row.Username)))
			case taken[row.Username]:
				row.Problem = say(people.NameTaken.Message(finding.Text(row.Username)))
			}
			taken[row.Username] = true
		}
		inFile[row.Username] = true
		out.Rows = append(out.Rows, row)
	}
	return out, nil
}

// acquaintances are the people in the classes that somebody is the instructor of:
// whom they may put into another one.
type acquaintances map[string]*acquaintance

type acquaintance struct {
	store.Member
	classes map[string]bool
}

func (k *acquaintance) in(class string) bool { return k.classes[class] }

// named finds one by user name, or by name where there is no user name and one only
// has that name.
func (ks acquaintances) named(username, name string) *acquaintance {
	if username != "" {
		if k := ks[username]; k != nil && strings.EqualFold(k.Name, name) {
			return k
		}
		return nil
	}
	var found *acquaintance
	for _, k := range ks {
		if strings.EqualFold(k.Name, name) {
			if found != nil {
				return nil
			}
			found = k
		}
	}
	return found
}

func (a *Classes) knownTo(ctx context.Context, q store.Queries, p access.Person) (acquaintances, error) {
	out := acquaintances{}
	for _, m := range p.Classes {
		if m.Role != access.Instructor {
			continue
		}
		members, err := q.Members(ctx, m.Class)
		if err != nil {
			return nil, fmt.Errorf("reading the people of a class: %w", err)
		}
		for _, member := range members {
			k := out[member.Username]
			if k == nil {
				k = &acquaintance{member, map[string]bool{}}
				out[member.Username] = k
			}
			k.classes[m.Class] = true
		}
	}
	return out, nil
}

// Added is somebody who is to be added to a class.
type Added struct {
	Name     string      `json:"name" maxLength:"200"`
	Username string      `json:"username,omitempty" maxLength:"64" doc:"empty: made of the name"`
	Bench    string      `json:"bench,omitempty" maxLength:"20"`
	Burette  string      `json:"burette,omitempty" maxLength:"20"`
	Sample   string      `json:"sample,omitempty" maxLength:"20"`
	Role     access.Role `json:"role,omitempty" enum:",student,assistant,instructor" doc:"empty: student"`
}

// AddPeople adds people to a class, all or none, each with a one-time password.
// Those who have an account in another class of the person are added without one.
func (a *Classes) AddPeople(ctx context.Context, p access.Person, class string, people []Added) ([]people.Slip, error) {
	if err := access.Allowed(p, access.ManageClass, class); err != nil {
		return nil, err
	}
	made, slips, err := a.prepare(ctx, p, people)
	if err != nil {
		return nil, err
	}
	defer a.Persons.Purge()
	return slips, a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		n, err := q.CountMembers(ctx, class)
		if err != nil {
			return err
		}
		if n+len(people) > maxMembers {
			return classIsFull.Fault("people", finding.Count(maxMembers))
		}
		var faults schema.Faults
		for i, one := range made {
			err := a.addMember(ctx, q, p, class, one, people[i])
			var fault *finding.Fault
			switch {
			case errors.As(err, &fault):
				faults = append(faults, fault.In(fmt.Sprintf("people[%d]", i)))
			case err != nil:
				return err
			}
		}
		if len(faults) > 0 {
			return faults
		}
		return nil
	})
}

// prepare checks everybody who is to be added, and makes their passwords.
func (a *Classes) prepare(ctx context.Context, p access.Person, wanted []Added) ([]store.Person, []people.Slip, error) {
	if len(wanted) == 0 || len(wanted) > maxAdded {
		return nil, nil, roster.TooMany(len(wanted))
	}
	taken, err := a.people.Taken(ctx)
	if err != nil {
		return nil, nil, err
	}
	known, err := a.knownTo(ctx, a.Store.Read(), p)
	if err != nil {
		return nil, nil, err
	}
	made, given := make([]store.Person, len(wanted)), make([]*people.Slip, len(wanted))
	faults := make([]*finding.Fault, len(wanted))
	names := map[string]bool{}
	work, ctx := errgroup.WithContext(ctx)
	for i := range wanted {
		one := &wanted[i]
		one.Username = strings.ToLower(strings.TrimSpace(one.Username))
		if one.Username == "" {
			one.Username = people.FreeUsername(one.Name, taken)
		}
		if names[one.Username] {
			faults[i] = twiceHere.Fault("username", finding.Text(one.Username))
			continue
		}
		names[one.Username] = true
		if k := known.named(one.Username, one.Name); k != nil {
			made[i] = store.Person{ID: k.ID, Name: k.Name, Username: k.Username}
			continue
		}
		work.Go(func() error {
			password := people.StartPassword()
			person, err := a.people.NewPerson(ctx, people.NewPerson{Username: one.Username, Name: one.Name, Password: password, Once: true})
			if errors.As(err, &faults[i]) {
				return nil
			}
			made[i], given[i] = person, &people.Slip{Name: person.Name, Username: person.Username, Password: password}
			return err
		})
	}
	if err := work.Wait(); err != nil {
		return nil, nil, err
	}
	var all schema.Faults
	slips := []people.Slip{}
	for i := range wanted {
		if faults[i] != nil {
			all = append(all, faults[i].In(fmt.Sprintf("people[%d]", i)))
		} else if given[i] != nil {
			slips = append(slips, *given[i])
		}
	}
	if len(all) > 0 {
		return nil, nil, all
	}
	return made, slips, nil
}

func (a *Classes) addMember(ctx context.Context, q store.Queries, p access.Person, class string, one store.Person, wanted Added) error {
	role := wanted.Role
	if role == "" {
		role = access.Student
	}
	if !role.Known() {
		return noRole.Fault("role", finding.Text(string(role)))
	}
	if one.Password == "" { // known already
		if members, err := q.Members(ctx, class); err != nil {
			return err
		} else if _, here := access.Member(members, one.ID); here {
			return nil
		}
	} else if err := a.people.AddPerson(ctx, q, one); err != nil {
		return err
	}
	if err := q.Join(ctx, class, one.ID, string(role), a.Now()); err != nil {
		return err
	}
	if err := q.SetMember(ctx, class, store.Member{ID: one.ID, Role: string(role), Bench: wanted.Bench, Burette: wanted.Burette,
		Sample: wanted.Sample}); err != nil {
		return err
	}
	return a.Did(ctx, q, access.ActAdded, p, class, one.ID, string(role))
}

// NewPasswords gives students of a class new one-time passwords, and ends their
// sign-ins. An instructor gives them to those who are nothing but students: with
// another's password one would do what they may do. The others ask an administrator.
func (a *Classes) NewPasswords(ctx context.Context, p access.Person, class string, chosen []string) ([]people.Slip, error) {
	if err := access.Allowed(p, access.ManageClass, class); err != nil {
		return nil, err
	}
	members, err := a.Store.Read().Members(ctx, class)
	if err != nil {
		return nil, fmt.Errorf("reading the people of a class: %w", err)
	}
	if len(chosen) == 0 || len(chosen) > maxAdded {
		return nil, roster.TooMany(len(chosen))
	}
	slips := make([]people.Slip, len(chosen))
	for i, id := range chosen {
		m, found := access.Member(members, id)
		if !found {
			return nil, access.ErrNotFound
		}
		person, err := a.Person(ctx, id)
		if err != nil {
			return nil, err
		}
		if !onlyStudent(person) {
			return nil, noReset.Fault(fmt.Sprintf("people[%d]", i), finding.Text(m.Name))
		}
		slips[i] = people.Slip{Name: m.Name, Username: m.Username}
	}
	return slips, a.people.NewPasswords(ctx, p, class, chosen, slips)
}

func onlyStudent(p access.Person) bool {
	for _, m := range p.Classes {
		if m.Role != access.Student {
			return false
		}
	}
	return p.Standing == access.NoStanding
}
