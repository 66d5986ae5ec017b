package web_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app/access"
)

// Nobody in a class takes another's name: a student's is a wish, which the log of the class shows and
// whoever leads it grants; the log keeps the name before. Five wishes a term.
func TestNamesAreTheRosters(t *testing.T) {
	s := newSchool(t, nil)
	mira, farrow := s.client("mira"), s.client("farrow")
	type me struct {
		Person access.Person
		Wished bool
	}
	wish := func(name string, status int) me {
		return want[me](s, mira, status, "PUT", "/me/name", map[string]string{"name": name})
	}
	now := wish("Dr Ondine Farrow", 200)
	assert.True(t, now.Wished)
	assert.Equal(t, "Mira Quillon", now.Person.Name)
	assert.Equal(t, "Mira Quillon", want[me](s, mira, 200, "GET", "/me", nil).Person.Name)
	room := "/classes/" + s.class
	_, acts := s.call(farrow, "GET", "/api"+room+"/acts", nil)
	assert.Contains(t, acts, "Mira Quillon asks to be called “Dr Ondine Farrow”")
	for _, name := range []string{"Mira Q", "Mira Qu", "Mira Qui", "Miri Quillon"} {
		wish(name, 200)
	}
	wish("One More", 422)
	named := room + "/people/" + s.personID("mira") + "/name"
	want[any](s, farrow, 422, "PUT", named, map[string]string{"name": " "})
	want[any](s, farrow, 200, "PUT", named, map[string]string{"name": "Miri Quillon"})
	assert.Equal(t, "Miri Quillon", want[me](s, mira, 200, "GET", "/me", nil).Person.Name)
	_, acts = s.call(farrow, "GET", "/api"+room+"/acts", nil)
	assert.Contains(t, acts, "changed a name: Mira Quillon → Miri Quillon")
	// Those who teach are called what they say; nobody else renames them, and no stranger.
	own := want[me](s, farrow, 200, "PUT", "/me/name", map[string]string{"name": "Dr O Farrow"})
	require.False(t, own.Wished)
	assert.Equal(t, "Dr O Farrow", own.Person.Name)
	want[any](s, farrow, 403, "PUT", room+"/people/"+s.personID("farrow")+"/name", map[string]string{"name": "X"})
	want[any](s, farrow, 404, "PUT", room+"/people/"+s.personID("stranger")+"/name", map[string]string{"name": "X"})
}
