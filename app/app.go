// Package app is what people do and who may do it, a room for each kind of thing:
//
//	access      who asks, what they may do and see, what every room stands on
//	people      accounts, passwords, sign-ins
//	classes     classes, who is in them, what they are told
//	practicals  what is set to a class: practicals, unknowns, times, norms
//	bench       notebooks, probe, lesson, shelf, handing in
//	marking     marking, release, results, files
//	today       what waits for those who teach, where each practical stands
//
// A room asks those above it in this list, never those below. Every operation takes the
// person who asks; what that person may do and see is decided by access, before anything
// is computed or encoded.
package app

import (
	"fmt"

	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/app/classes"
	"exactflask/app/marking"
	"exactflask/app/people"
	"exactflask/app/practicals"
	"exactflask/app/today"
	"exactflask/store"
)

// App is every room over one store. It may be used by many goroutines.
type App struct {
	*access.Access
	People     *people.People
	Classes    *classes.Classes
	Practicals *practicals.Practicals
	Bench      *bench.Bench
	Marking    *marking.Marking
	Today      *today.Today
}

// New returns an App over an open store. cheap passwords are for tests and
// the demo, where seven people are made at every start.
func New(s *store.Store, cheap bool) (*App, error) {
	a := &App{Access: access.New(s)}
	var err error
	if a.People, err = people.New(a.Access, cheap); err != nil {
		return nil, fmt.Errorf("people: %w", err)
	}
	a.Classes = classes.New(a.Access, a.People)
	if a.Practicals, err = practicals.New(a.Access); err != nil {
		return nil, fmt.Errorf("practicals: %w", err)
	}
	if a.Bench, err = bench.New(a.Access, a.Classes, a.Practicals); err != nil {
		return nil, fmt.Errorf("bench: %w", err)
	}
	if a.Marking, err = marking.New(a.Practicals, a.Bench); err != nil {
		return nil, fmt.Errorf("marking: %w", err)
	}
	a.Today = today.New(a.Practicals, a.Bench, a.Marking)
	return a, nil
}
