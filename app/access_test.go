package app

import (
	"bytes"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/experiment"
	"exactflask/core/journal"
	"exactflask/core/practical"
	"exactflask/formats"
)

// Everybody and everything: what is not allowed here is not allowed anywhere.
func TestMay(t *testing.T) {
	in := func(id string, role Role, class string) Person {
		return Person{ID: id, Classes: []Membership{{Class: class, Role: role}}}
	}
	people := []Person{in("owner", Student, "c"), in("partner", Student, "c"), in("mate", Student, "c"), in("teacher", Instructor, "c"),
		in("owner", Instructor, "c"), in("owner", Student, "d"), in("teacher", Instructor, "d"), {ID: "owner"}}
	thing := Thing{Class: "c", Student: "owner", Partners: []string{"partner"}}
	for _, c := range []struct {
		name   string
		action Action
		want   string // one sign for each of people
	}{
		{"read a notebook", ReadNotebook, "++-++---"},
		{"write in it", WriteNotebook, "++------"},
		{"let a partner write", ShareNotebook, "+-------"},
		{"see the class", SeeClass, "+++++---"},
		{"begin a notebook", BeginNotebook, "+++-----"},
		{"see the whole plan", SeePlan, "---++---"},
		{"set a practical", SetPractical, "---++---"},
		{"see the roll", SeeRoll, "---++---"},
		{"anything else", Action(99), "--------"},
	} {
		got := ""
		for _, p := range people {
			got += map[bool]string{true: "+", false: "-"}[May(p, c.action, thing)]
		}
		assert.Equal(t, c.want, got, c.name)
	}
}

func TestPartsFor(t *testing.T) {
	own := experiment.All &^ experiment.PartReference
	for _, c := range []struct {
		role      Role
		show      practical.When
		attempted bool
		want      experiment.Parts
	}{
		{Student, practical.Always, false, own},
		{Student, practical.AfterAttempt, false, experiment.PartVerdicts},
		{Student, practical.AfterAttempt, true, own},
		{Student, practical.AfterMarking, false, experiment.Record},
		{Student, practical.AfterMarking, true, experiment.Record},
		{Instructor, practical.AfterMarking, false, experiment.All},
		{Instructor, practical.Always, true, experiment.All},
	} {
		assert.Equal(t, c.want, partsFor(c.role, c.show, c.attempted), "%s, %s, attempted: %v", c.role, c.show, c.attempted)
	}
}

// A notebook that is full takes nothing more, and says so; what comes again is
// not new; another content under a known id is refused.
func TestUnseen(t *testing.T) {
	note := func(i int, text string) journal.Entry {
		return journal.Entry{ID: fmt.Sprintf("entry-%06d", i), Device: "d", Clock: int64(i + 1), Part: journal.Remark{Written: text}}
	}
	kept := make([]journal.Entry, formats.MaxEntries-1)
	for i := range kept {
		kept[i] = note(i, "kept")
	}
	fresh, err := unseen(kept, []journal.Entry{note(3, "kept"), note(formats.MaxEntries, "the last that fits")})
	require.NoError(t, err)
	assert.Len(t, fresh, 1)
	_, err = unseen(kept, []journal.Entry{note(formats.MaxEntries, "one"), note(formats.MaxEntries+1, "too many")})
	assert.ErrorContains(t, err, "app.notebook-full")
	_, err = unseen(kept, []journal.Entry{note(3, "something else")})
	assert.Error(t, err)
}

// A failure in one notebook is that notebook's, and its log line holds none of
// what was written.
func TestSafely(t *testing.T) {
	var said bytes.Buffer
	log := func(text string, args ...any) { fmt.Fprintln(&said, text, fmt.Sprint(args...)) }
	_, err := safely(log, "notebook-1", func() int { panic("24.40 mL of acid") })
	assert.Error(t, err)
	assert.Contains(t, said.String(), "notebook-1")
	got, err := safely(log, "notebook-1", func() int { return 7 })
	require.NoError(t, err)
	assert.Equal(t, 7, got)
}
