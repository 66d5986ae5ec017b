// Package classes is classes and who is in them: rosters, codes with which students
// join, places and pairs, notices.
package classes

import (
	"exactflask/app/access"
	"exactflask/app/people"
)

// Classes is the room of the classes.
type Classes struct {
	*access.Access
	people *people.People
}

// New is the room over the accounts.
func New(a *access.Access, p *people.People) *Classes { return &Classes{a, p} }
