package classes

import (
	"context"

	"exactflask/app/access"
	"exactflask/app/people"
	"exactflask/store"
)

// AddPerson adds a person, with their place in a class, or neither; it returns the
// id. For whoever runs the program and for the demo; no route reaches it.
func (a *Classes) AddPerson(ctx context.Context, n people.NewPerson) (string, error) {
	person, err := a.people.NewPerson(ctx, n)
	if err != nil {
		return "", err
	}
	return person.ID, a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		if err := a.people.AddPerson(ctx, q, person); err != nil || n.Class == "" {
			return err
		}
		class, err := a.classNamed(ctx, q, n.Class)
		if err != nil {
			return err
		}
		return q.Join(ctx, class, person.ID, string(n.Role), a.Now())
	})
}

// AddClass adds a class, or finds the one with this name, and returns its id. For
// whoever runs the program and for the demo.
func (a *Classes) AddClass(ctx context.Context, name string) (id string, err error) {
	return id, a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		id, err = a.classNamed(ctx, q, name)
		return err
	})
}

func (a *Classes) classNamed(ctx context.Context, q store.Queries, name string) (string, error) {
	name, err := cleanClass("class", name)
	if err != nil {
		return "", err
	}
	if known, err := q.ClassByName(ctx, name); err == nil {
		return known, nil
	}
	id := access.NewID()
	return id, q.AddClass(ctx, id, name, "", a.Now())
}

// Join puts a person into a class with a role. For whoever runs the program and for
// the demo.
func (a *Classes) Join(ctx context.Context, classID, personID string, role access.Role) error {
	defer a.Persons.Remove(personID)
	return a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return q.Join(ctx, classID, personID, string(role), a.Now())
	})
}
