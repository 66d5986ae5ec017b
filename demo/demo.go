// Package demo makes up a college: Kelpwick College runs a teaching laboratory
// that looks after a sea-water aquarium, and its practicals assay what keeps
// the tanks healthy. People, names and numbers are invented.
package demo

import (
	"bytes"
	"context"
	_ "embed"
	"errors"
	"fmt"
	"strings"
	"time"

	"exactflask/app"
	"exactflask/app/access"
	"exactflask/app/people"
	"exactflask/core/record/journal"
	"exactflask/docs/examples"
	"exactflask/formats"
)

// Password is everyone's password in the demo. It is shown on the sign-in page.
const Password = "tide-pool"

// Class is the name of the demo's class.
const Class = "Tide Laboratory, Tuesday group"

//go:embed buffer-dosing.json
var bufferDosing []byte

// student is a made-up student with a notebook, written as lines:
//
//	rough 0.00 23.10        a trial with its readings
//	accurate 0.00           one that is still running
//	aside: overshot         the last trial is set aside
//	correct end 22.60: why  a reading of the last trial is corrected
//	note: text
//	colour deep             the colour at the end of the last trial
//	drop 23.60              a reading of the last trial noted before a further drop
//	done rinse-water        an item of the lists
type student struct {
	username, name string
	begun          bool
	lines          []string
}

var students = []student{
	{"mira", "Mira Quillon", true, []string{
		"rough 0.00 23.10", "accurate 0.00 22.55", "accurate 22.55 45.15", "correct end 45.05: read the top of the meniscus", "accurate 0.10 22.65",
		"note: Swirled until the fizzing stopped before going drop by drop."}},
	{"teo", "Teodor Vask", true, []string{"rough 0.00 23.60", "accurate 0.00 22.75", "accurate 22.75 45.15",
		"accurate 0.00 23.00"}},
	{"anouk", "Anouk Brill", true, []string{"rough 0.50 23.40"}},
	{"jory", "Jory Pellam", true, []string{"done goggles", "done rinse-water", "done rinse-solution", "done fill-low",
		"done funnel-out", "done jet-filled", "done no-bubble", "done leak-wait", "done white-tile", "done indicator",
		"rough 0.00 22.80", "colour pale", "accurate 0.00 22.55", "colour pale", "accurate 0.20 23.65", "colour deep", "aside: Overshot: deep red before I closed the tap", "accurate 0.05 22.55", "drop 22.45", "drop 22.50"}},
	{"sanna", "Sanna Odell", true, []string{"rough 0.00 23.20", "accurate 0.00 22.5",
		"correct end 22.50: the last zero was read but not written", "accurate 0.00"}},
	{"bevan", "Bevan Thrale", false, nil},
}

// further are practicals beside the first, with the journals of those examples
// in the notebooks of these students.
var further = []struct {
	file string
	done []string
}{
	{"naoh-by-aliquot.json", []string{"mira", "teo"}},
	{"algae-vinegar.json", []string{"mira"}},
	{"shell-chalk.json", []string{"mira", "jory"}},
	{"pond-bleach.json", []string{"sanna"}},
	{"naoh-by-mass.json", []string{"jory"}},
	{"rosehip-storage.json", []string{"sanna"}},
}

// instructorName is the user name of the demo's instructor.
const instructorName = "farrow"

// staff are those of the college who are no students.
var staff = []people.NewPerson{
	{Username: instructorName, Name: "Dr Ondine Farrow", Standing: access.MayMakeClasses, Class: Class, Role: access.Instructor},
	{Username: "moor", Name: "Wystan Moor", Class: Class, Role: access.Assistant},
	{Username: "hale", Name: "Corvina Hale", Standing: access.AdministratesHere},
}

// ErrRealPeople is returned where the demo would open a file with other people in
// it to everyone.
var ErrRealPeople = errors.New("there are people in this file who are not of the demo, and --demo would let everyone sign in as any of them: start it without --demo, or choose another file with --data")

// ErrDemoFile is returned where a file with the demo's people, whose password is
// published, would be served as a school's own.
var ErrDemoFile = errors.New("this is a file of the demo, whose people all have a published password: start it with --demo, or choose another file with --data")

// Guard keeps the demo and a school apart, and fills an empty file with the demo
// where it is wanted; tell hears of each class before it is filled.
func Guard(ctx context.Context, a *app.App, wanted bool, tell func(class string)) error {
	ofDemo, err := a.People.IsDemo(ctx)
	if err != nil {
		return err
	}
	if !wanted {
		if ofDemo {
			return ErrDemoFile
		}
		_, err := a.People.SignIn(ctx, instructorName, Password) // a file that an earlier program filled
		switch {
		case err == nil:
			return ErrDemoFile
		case errors.Is(err, people.ErrSignIn):
			return nil
		}
		return err
	}
	if ofDemo {
		return nil // also with people who came later
	}
	ours := map[string]bool{}
	for _, s := range staff {
		ours[s.Username] = true
	}
	for _, s := range students {
		ours[s.username] = true
	}
	people, err := a.People.Usernames(ctx)
	if err != nil {
		return err
	}
	for _, username := range people {
		if !ours[username] {
			return ErrRealPeople
		}
	}
	if len(people) > 0 {
		return a.People.MarkDemo(ctx)
	}
	tell(Class)
	if err := Fill(ctx, a); err != nil {
		return err
	}
	return FillWhole(ctx, a, tell)
}

// Fill puts the demo's first class into an empty store: what most pages are looked at
// with.
func Fill(ctx context.Context, a *app.App) error {
	doc, err := formats.Read(bytes.NewReader(bufferDosing))
	if err != nil {
		return fmt.Errorf("demo practical: %w", err)
	}
	class, err := a.Classes.AddClass(ctx, Class)
	if err != nil {
		return fmt.Errorf("demo class: %w", err)
	}
	for _, s := range staff {
		s.Password = Password
		if _, err := a.Classes.AddPerson(ctx, s); err != nil {
			return fmt.Errorf("demo %s: %w", s.Username, err)
		}
	}
	// It was set before the others, what they did in other weeks comes after it, and then what they do now.
	now := a.Now
	defer func() { a.Now = now }()
	weeks := func(ago int) { a.Now = func() time.Time { return now().AddDate(0, 0, -7*ago) } }
	weeks(len(further) + 1)
	if err := a.Practicals.Assign(ctx, class, doc.Practical); err != nil {
		return fmt.Errorf("demo practical: %w", err)
	}
	ids := map[string]string{}
	for _, s := range students {
		if ids[s.username], err = a.Classes.AddPerson(ctx, people.NewPerson{Username: s.username, Name: s.name, Password: Password, Class: Class, Role: access.Student}); err != nil {
			return fmt.Errorf("demo student %s: %w", s.username, err)
		}
	}
	for i, f := range further {
		weeks(len(further) - i)
		if err := fillFurther(ctx, a, class, f.file, f.done); err != nil {
			return fmt.Errorf("demo practical %s: %w", f.file, err)
		}
	}
	a.Now = now
	for _, s := range students {
		if err := s.fill(ctx, a, class, doc.Practical.ID, ids[s.username]); err != nil {
			return fmt.Errorf("demo student %s: %w", s.username, err)
		}
	}
	return a.People.MarkDemo(ctx)
}

func fillFurther(ctx context.Context, a *app.App, class, file string, done []string) error {
	text, err := examples.Files.ReadFile(file)
	if err != nil {
		return err
	}
	doc, err := formats.Read(bytes.NewReader(text))
	if err != nil {
		return err
	}
	if err := a.Practicals.Assign(ctx, class, doc.Practical); err != nil {
		return err
	}
	for _, username := range done {
		person, err := a.People.SignIn(ctx, username, Password)
		if err != nil {
			return err
		}
		notebook, err := a.Bench.Begin(ctx, person, class, doc.Practical.ID, "")
		if err != nil {
			return err
		}
		if _, err := a.Bench.Append(ctx, person, notebook, 0, until(a.Now(), anonymous(renamed(doc.Journal, username)))); err != nil {
			return err
		}
	}
	return nil
}

// until dates a journal as one whose last entry is made then.
func until(now time.Time, in []journal.Entry) []journal.Entry {
	var last time.Time
	for _, e := range in {
		if e.At.After(last) {
			last = e.At
		}
	}
	shift := now.Truncate(time.Second).Sub(last)
	for i := range in {
		in[i].At = in[i].At.Add(shift)
	}
	return in
}

// anonymous takes the authors of an example's entries out: here another writes them.
func anonymous(in []journal.Entry) []journal.Entry {
	for i := range in {
		in[i].Author = ""
	}
	return in
}

// renamed gives entries ids of their own for each student.
func renamed(in []journal.Entry, username string) []journal.Entry {
	out := make([]journal.Entry, len(in))
	name := func(id string) string {
		if id == "" {
			return ""
		}
		return username + "-" + id
	}
	for i, e := range in {
		e.ID, e.Device = name(e.ID), "demo-"+username
		switch p := e.Part.(type) {
		case journal.Scale:
			p.Of = name(p.Of)
			e.Part = p
		case journal.Weighing:
			p.Of = name(p.Of)
			e.Part = p
		case journal.Belonging:
			p.Of = name(p.Of)
			e.Part = p
		}
		out[i] = e
	}
	return out
}

func (s student) fill(ctx context.Context, a *app.App, class, practical, id string) error {
	if !s.begun {
		return nil
	}
	person, err := a.Person(ctx, id)
	if err != nil {
		return err
	}
	notebook, err := a.Bench.Begin(ctx, person, class, practical, "")
	if err != nil {
		return err
	}
	entries, err := s.entries()
	if err != nil || len(entries) == 0 {
		return err
	}
	_, err = a.Bench.Append(ctx, person, notebook, 0, until(a.Now(), entries))
	return err
}

// entries turns the lines into entries, a minute apart.
func (s student) entries() ([]journal.Entry, error) {
	var out []journal.Entry
	var trial string
	readings := map[journal.Place]string{}
	add := func(e journal.Entry) string {
		e.Clock = int64(len(out) + 1)
		e.ID = fmt.Sprintf("demo-%s-%04d", s.username, e.Clock)
		e.Device = "demo-" + s.username
		e.At = time.Unix(0, 0).UTC().Add(time.Duration(len(out)) * time.Minute)
		out = append(out, e)
		return e.ID
	}
	for _, line := range s.lines {
		head, rest, _ := strings.Cut(line, ": ")
		words := strings.Fields(head)
		switch words[0] {
		case "aside":
			add(journal.Entry{Part: journal.Exclusion{Of: trial, Reason: rest}})
		case "colour":
			add(journal.Entry{Part: journal.Observation{About: journal.EndColour, Of: trial, Written: words[1]}})
		case "drop":
			add(journal.Entry{Part: journal.Scale{Of: trial, Place: journal.Provisional, Written: words[1]}})
		case "done":
			add(journal.Entry{Part: journal.Checked{Item: words[1]}})
		case "note":
			add(journal.Entry{Part: journal.Remark{Written: rest}})
		case "correct":
			add(journal.Entry{Part: journal.Correction{Replaces: readings[journal.Place(words[1])], Value: words[2],
				Reason: rest}})
		case "rough", "accurate":
			trial = add(journal.Entry{Part: journal.Opening{Type: journal.TrialType(words[0])}})
			for i, mark := range []journal.Place{journal.Start, journal.End} {
				if len(words) > i+1 {
					readings[mark] = add(journal.Entry{Part: journal.Scale{Of: trial, Place: mark, Written: words[i+1]}})
				}
			}
		default:
			return nil, fmt.Errorf("no such line: %q", line)
		}
	}
	return out, nil
}
