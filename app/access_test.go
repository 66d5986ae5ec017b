package app

import (
	"bytes"
	"context"
	"fmt"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/app/limits"
	"exactflask/app/people"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/docs/examples"
	"exactflask/formats"
	"exactflask/store"
)

// Everybody and everything: what is not allowed here is not allowed anywhere.
func TestMay(t *testing.T) {
	in := func(id string, role access.Role, class string) access.Person {
		return access.Person{ID: id, Classes: []access.Membership{{Class: class, Role: role}}}
	}
	archived := func(p access.Person) access.Person { p.Classes[0].Archived = true; return p }
	people := []access.Person{in("owner", access.Student, "c"), in("partner", access.Student, "c"), in("mate", access.Student, "c"),
		in("teacher", access.Instructor, "c"), in("helper", access.Assistant, "c"),
		in("owner", access.Instructor, "c"), in("owner", access.Student, "d"), in("teacher", access.Instructor, "d"), {ID: "owner"},
		{ID: "head", Standing: access.AdministratesHere}, {ID: "new", Standing: access.MayMakeClasses},
		archived(in("owner", access.Student, "c")), archived(in("teacher", access.Instructor, "c"))}
	thing := access.Thing{Class: "c", Student: "owner", Partners: []string{"partner"}}
	for _, c := range []struct {
		name   string
		action access.Action
		want   string // one sign for each of people
	}{
		{"read a notebook", access.ReadNotebook, "++-+++-----++"},
		{"write in it", access.WriteNotebook, "++---+-------"},
		{"let a partner write", access.ShareNotebook, "+------------"},
		{"see the class", access.SeeClass, "++++++-----++"},
		{"begin a notebook", access.BeginNotebook, "++++++-------"},
		{"see the whole plan", access.SeePlan, "---+++------+"},
		{"set a practical", access.AssignPractical, "---+-+-------"},
		{"see the roll", access.SeeRoll, "---+++------+"},
		{"help at the benches", access.HelpBenches, "---+++-------"},
		{"manage the class", access.ManageClass, "---+-+-------"},
		{"archive it", access.ArchiveClass, "---+-+------+"},
		{"read its log", access.SeeActs, "---+-+------+"},
		{"make a class", access.MakeClass, "---------++--"},
		{"administrate", access.Administrate, "---------+---"},
		{"anything else", access.Action(99), "-------------"},
	} {
		got := ""
		for _, p := range people {
			got += map[bool]string{true: "+", false: "-"}[access.May(p, c.action, thing)]
		}
		assert.Equal(t, c.want, got, c.name)
	}
}

// A failure in one notebook is that notebook's, and its log line holds none of
// what was written.
func TestSafely(t *testing.T) {
	var said bytes.Buffer
	log := func(text string, args ...any) { fmt.Fprintln(&said, text, fmt.Sprint(args...)) }
	_, err := bench.Safely(log, "notebook-1", func() int { panic("24.40 mL of acid") })
	assert.Error(t, err)
	assert.Contains(t, said.String(), "notebook-1")
	got, err := bench.Safely(log, "notebook-1", func() int { return 7 })
	require.NoError(t, err)
	assert.Equal(t, 7, got)
}

// What the answer can be computed from goes with the answer.
func TestVisible(t *testing.T) {
	full := practical.Practical{}
	full.Asked.Reference, full.Asked.Expected, full.Asked.Second, full.Asked.Titre = decimal.Must("1"), decimal.Must("2"), decimal.Must("3"), decimal.Must("4")
	full.Asked.Label.Value = decimal.Must("5")
	full.Chemistry.Titrant.Concentration, full.Chemistry.Analyte.Approximate = decimal.Must("0.1"), decimal.Must("0.2")
	granted := experiment.All &^ experiment.PartReference
	for _, c := range []struct {
		name                                string
		role                                access.Role
		hidden                              bool
		parts                               experiment.Parts
		reference, expected, label, roughly bool
	}{
		{"instructor", access.Instructor, true, experiment.All, true, true, true, true},
		{"shown", access.Student, false, granted, false, true, true, true},
		{"end hidden", access.Student, true, granted, false, false, true, false},
		{"withheld", access.Student, false, experiment.Record, false, false, false, false},
	} {
		full.Showing.HideExpected = c.hidden
		got := experiment.Visible(full, c.role.Reader(), c.parts)
		assert.Equal(t, []bool{c.reference, c.expected, c.expected, c.expected, c.label, c.roughly},
			[]bool{!got.Asked.Reference.IsZero(), !got.Asked.Expected.IsZero(), !got.Asked.Second.IsZero(),
				!got.Asked.Titre.IsZero(), !got.Asked.Label.Value.IsZero(), !got.Chemistry.Analyte.Approximate.IsZero()}, c.name)
		assert.Equal(t, "0.1", got.Chemistry.Titrant.Concentration.String(), c.name)
		assert.Equal(t, "0.2", full.Chemistry.Analyte.Approximate.String(), "the practical itself stays")
	}
}

// What is left of any practical is still a practical.
func TestVisibleIsAPractical(t *testing.T) {
	files, err := examples.Files.ReadDir(".")
	require.NoError(t, err)
	for _, f := range files {
		text, err := examples.Files.Open(f.Name())
		require.NoError(t, err)
		doc, err := formats.Read(text)
		require.NoError(t, err)
		for _, hidden := range []bool{false, true} {
			doc.Practical.Showing.HideExpected = hidden
			_, fault := experiment.Visible(doc.Practical, access.Student.Reader(), experiment.Record).Check()
			assert.Nil(t, fault, f.Name())
		}
	}
}

// A sign-in that is used lasts; one that is not ends, and can be ended at once.
func TestSignInsEnd(t *testing.T) {
	ctx := context.Background()
	s, err := store.Open(ctx, filepath.Join(t.TempDir(), "signins.db"))
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	a, err := New(s, true)
	require.NoError(t, err)
	id, err := a.Classes.AddPerson(ctx, people.NewPerson{Username: "teo", Name: "Teodor", Password: "quiet harbour crane"})
	require.NoError(t, err)
	teo, err := a.Person(ctx, id)
	require.NoError(t, err)
	now := time.Now().UTC()
	a.Now = func() time.Time { return now }
	first, err := a.People.BeginSignIn(ctx, teo, "a browser")
	require.NoError(t, err)
	for range 4 {
		now = now.Add(people.Idle - time.Minute)
		_, err = a.People.PersonOf(ctx, first)
		require.NoError(t, err, "it is used")
	}
	second, err := a.People.BeginSignIn(ctx, teo, "another")
	require.NoError(t, err)
	all, err := a.People.SignIns(ctx, teo, second)
	require.NoError(t, err)
	require.Len(t, all, 2)
	assert.True(t, all[0].Mine)
	require.NoError(t, a.People.EndSignIn(ctx, teo, first))
	_, err = a.People.PersonOf(ctx, first)
	assert.ErrorIs(t, err, access.ErrNotFound)
	assert.ErrorIs(t, a.People.EndSignIn(ctx, access.Person{ID: "another"}, second), access.ErrNotFound, "not one's own")
	now = now.Add(people.Idle + time.Second)
	_, err = a.People.PersonOf(ctx, second)
	assert.ErrorIs(t, err, access.ErrNotFound)
}

// More than a person writes is held back, and taken later; what was refused costs
// nothing.
func TestQuotas(t *testing.T) {
	ctx := context.Background()
	s, err := store.Open(ctx, filepath.Join(t.TempDir(), "quota.db"))
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	a, err := New(s, true)
	require.NoError(t, err)
	require.NoError(t, a.Bench.Afford("mira", limits.Entries.AtOnce-1, 1000))
	var held *finding.Fault
	require.ErrorAs(t, a.Bench.Afford("mira", 200, 1000), &held)
	assert.Equal(t, "app.too-much", string(held.Code))
	require.NoError(t, a.Bench.Afford("mira", 1, 1000), "what was refused was not taken off")
	require.ErrorAs(t, a.Bench.Afford("teo", 1, limits.Kilobytes.AtOnce<<10+1), &held, "bytes count by themselves")
	require.NoError(t, a.Bench.Afford("teo", 1, 1000))
}
