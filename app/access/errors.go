package access

import (
	"errors"

	"exactflask/store"
)

// Errors that a caller decides on. Faults of input are *finding.Fault.
var (
	// ErrNotFound: it is not there, or not for this person. The two are not
	// told apart, so that nobody can find out what others have.
	ErrNotFound = errors.New("not there, or not for this person")
	// ErrForbidden: it is there and visible, but this is not for this role.
	ErrForbidden = errors.New("not for this role")
)

// NotFound makes the store's "not found" the one that callers know.
func NotFound(err error) error {
	if errors.Is(err, store.ErrNotFound) {
		return ErrNotFound
	}
	return err
}
