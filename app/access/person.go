package access

import (
	"context"

	"exactflask/core/record/practical"
	"exactflask/store"
)

// In is what a person is in a class; without a role where they are not in it.
func (p Person) In(class string) Membership {
	for _, m := range p.Classes {
		if m.Class == class {
			return m
		}
	}
	return Membership{}
}

func (p Person) RoleIn(class string) Role { return p.In(class).Role }

func PartnerOf(members []store.Member, m store.Member) string {
	for _, o := range members {
		if m.Pair != "" && o.Pair == m.Pair && o.ID != m.ID {
			return o.ID
		}
	}
	return ""
}

func Member(members []store.Member, id string) (store.Member, bool) {
	for _, m := range members {
		if m.ID == id {
			return m, true
		}
	}
	return store.Member{}, false
}

func Instructors(members []store.Member) (n int) {
	for _, m := range members {
		if Role(m.Role) == Instructor {
			n++
		}
	}
	return n
}

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

// Person returns a person by id, or ErrNotFound.
func (a *Access) Person(ctx context.Context, id string) (Person, error) {
	if p, ok := a.Persons.Get(id); ok {
		return p, nil
	}
	p, err := a.readPerson(ctx, id)
	if err == nil {
		a.Persons.Add(id, p)
	}
	return p, err
}

func (a *Access) readPerson(ctx context.Context, id string) (Person, error) {
	row, err := a.Store.Read().Person(ctx, id)
	if err != nil {
		return Person{}, NotFound(err)
	}
	p := Person{ID: row.ID, Username: row.Username, Name: row.Name, Classes: []Membership{},
		Preferences: Preferences{practical.Words(row.Words), practical.Units(row.Units), row.Theme}, MustChange: row.Once,
		Standing: Standing(row.Standing)}
	for _, m := range row.Memberships {
		p.Classes = append(p.Classes, Membership{m.Class, m.Name, m.Term, Role(m.Role), m.Archived})
	}
	return p, nil
}
