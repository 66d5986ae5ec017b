package web_test

import (
	"context"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app"
	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/app/classes"
	"exactflask/app/people"
	"exactflask/app/practicals"
	"exactflask/app/today"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/store"
	"exactflask/web"
)

// want calls, wants a status and reads the answer.
func want[T any](s *school, c *http.Client, status int, method, path string, body any) (out T) {
	s.t.Helper()
	got, text := s.call(c, method, "/api"+path, body)
	require.Equal(s.t, status, got, "%s %s: %s", method, path, text)
	if status < 300 && text != "" {
		require.NoError(s.t, json.Unmarshal([]byte(text), &out), text)
	}
	return out
}

type problem struct {
	Type, Detail string
	Errors       []struct{ Location, Message string }
}

// refused calls and reads why it is refused.
func (s *school) refused(c *http.Client, method, path string, body any) problem {
	s.t.Helper()
	got, text := s.call(c, method, "/api"+path, body)
	require.GreaterOrEqual(s.t, got, 400, text)
	var p problem
	require.NoError(s.t, json.Unmarshal([]byte(text), &p))
	p.Type = strings.TrimPrefix(p.Type, "urn:exactflask:")
	return p
}

// add adds entries to a notebook.
func (s *school) add(c *http.Client, notebook string, all []journal.Entry) {
	s.t.Helper()
	want[any](s, c, 200, "POST", "/notebooks/"+notebook+"/entries", entries{all})
}

type slips struct{ Slips []people.Slip }

func byName(p classes.ClassPage) map[string]classes.Member {
	out := map[string]classes.Member{}
	for _, m := range p.People {
		out[m.Name] = m
	}
	return out
}

// From an empty data file to a class with students, without a terminal.
func TestFirstStart(t *testing.T) {
	ctx := context.Background()
	st, err := store.Open(ctx, filepath.Join(t.TempDir(), "new.db"))
	require.NoError(t, err)
	a, err := app.New(st, true)
	require.NoError(t, err)
	token, err := a.People.SetupToken(ctx)
	require.NoError(t, err)
	require.NotEmpty(t, token)
	server := httptest.NewServer(web.New(a, st.Sessions(), web.Options{Log: slog.New(slog.NewJSONHandler(io.Discard, nil))}))
	t.Cleanup(func() { server.Close(); assert.NoError(t, st.Close()) })
	s := &school{t: t, url: server.URL, store: st, app: a}

	first := map[string]string{"token": "guessed", "name": "Ada Marsh", "username": "marsh", "password": "four quiet words here"}
	assert.Equal(t, "app.setup-over", s.refused(s.client(""), "POST", "/setup", first).Type)
	first["token"] = token
	awaits := func() bool {
		return want[struct{ AwaitsSetup bool }](s, s.client(""), 200, "GET", "/about", nil).AwaitsSetup
	}
	assert.True(t, awaits())
	head := s.client("")
	who := want[struct{ Person access.Person }](s, head, 200, "POST", "/setup", first)
	assert.Equal(t, access.AdministratesHere, who.Person.Standing)
	assert.False(t, awaits(), "somebody is here")
	first["username"] = "second"
	assert.Equal(t, "app.setup-over", s.refused(s.client(""), "POST", "/setup", first).Type, "the link works once")
	over, err := a.People.SetupToken(ctx)
	require.NoError(t, err)
	assert.Empty(t, over)

	slip := want[people.Slip](s, head, 200, "POST", "/people", map[string]string{"name": "Bo Lind", "standing": "instructor"})
	bo := s.client("")
	want[any](s, bo, 200, "POST", "/session", map[string]string{"username": slip.Username, "password": slip.Password})
	assert.Equal(t, "web.change-password-first", s.refused(bo, "POST", "/classes", map[string]string{"name": "10b"}).Type)
	want[any](s, bo, 204, "PUT", "/me/password", map[string]string{"old": slip.Password, "new": "another four words"})
	class := want[classes.ClassPage](s, bo, 200, "POST", "/classes", map[string]string{"name": "10b", "term": "Autumn"})
	got := want[slips](s, bo, 200, "POST", "/classes/"+class.ID+"/people",
		map[string]any{"people": []classes.Added{{Name: "Cy Dahl", Bench: "1"}, {Name: "Cy Dahl"}}})
	assert.Equal(t, []string{"cy.dahl", "cy.dahl2"}, []string{got.Slips[0].Username, got.Slips[1].Username})
	want[any](s, s.client(""), 200, "POST", "/session", map[string]string{"username": "cy.dahl", "password": got.Slips[0].Password})

	// The administrator sees that the class is there, and nothing in it.
	all := want[struct{ Classes []classes.ListedClass }](s, head, 200, "GET", "/classes", nil)
	assert.Equal(t, []classes.ListedClass{{ID: class.ID, Name: "10b", Term: "Autumn", Students: 2}}, all.Classes)
	want[any](s, head, 404, "GET", "/classes/"+class.ID, nil)
	assert.Equal(t, "app.last-administrator", s.refused(head, "PUT", "/people/"+who.Person.ID+"/standing", map[string]string{"standing": ""}).Type)
	assert.Equal(t, "app.not-oneself", s.refused(head, "DELETE", "/people/"+who.Person.ID, nil).Type)
}

// A code gives a student's place in one class until it closes, and nothing else.
func TestJoiningWithACode(t *testing.T) {
	s := newSchool(t, nil)
	farrow, class := s.client("farrow"), "/classes/"+s.class
	page := want[classes.ClassPage](s, farrow, 200, "PUT", class+"/code", map[string]int{"minutes": 30})
	require.NotNil(t, page.Code)
	code := page.Code.Code
	assert.Regexp(t, `^[A-Z2-9]{4}-[A-Z2-9]{4}$`, code)
	typed := strings.ToLower(strings.ReplaceAll(code, "-", " "))
	assert.Equal(t, page.Name, want[classes.Invitation](s, s.client(""), 200, "GET", "/join/"+strings.ReplaceAll(typed, " ", "%20"), nil).Class)
	name := want[struct{ Username string }](s, s.client(""), 200, "GET", "/join/"+code+"/username?name=Mira+Quillon", nil)
	assert.Equal(t, "mira.quillon", name.Username)

	newcomer := s.client("")
	join := map[string]string{"code": typed, "name": " Nell  Varga ", "username": "mira", "password": "four quiet words"}
	assert.Equal(t, "app.name-taken", s.refused(newcomer, "POST", "/join", join).Type)
	join["username"], join["password"] = "nell", "nell1234"
	assert.Equal(t, "app.password-is-name", s.refused(newcomer, "POST", "/join", join).Type)
	join["password"] = "four quiet words"
	me := want[struct{ Person access.Person }](s, newcomer, 200, "POST", "/join", join).Person
	assert.Equal(t, "Nell Varga", me.Name)
	assert.Equal(t, []access.Membership{{Class: s.class, Name: page.Name, Role: access.Student}}, me.Classes)
	assert.Empty(t, me.Standing)
	want[any](s, newcomer, 403, "GET", class, nil)

	// Who is in the class already stays what they are; who is signed in joins as themselves.
	want[any](s, farrow, 200, "POST", "/join", map[string]string{"code": code})
	assert.True(t, want[classes.ClassPage](s, farrow, 200, "GET", class, nil).MayManage)
	stranger := s.client("stranger")
	assert.Len(t, want[struct{ Person access.Person }](s, stranger, 200, "POST", "/join", map[string]string{"code": code}).Person.Classes, 2)

	want[any](s, farrow, 200, "DELETE", class+"/code", nil)
	assert.Equal(t, "app.no-code", s.refused(s.client(""), "GET", "/join/"+code, nil).Type)
	want[any](s, farrow, 422, "PUT", class+"/code", map[string]int{"minutes": 20000})

	// Guessing from one address is held back.
	held := false
	for range 80 {
		got, _ := s.call(s.client(""), "GET", "/api/join/BBBB-BBBB", nil)
		held = held || got == http.StatusTooManyRequests
	}
	assert.True(t, held)
}

// A roster is looked at before it is taken, and taken whole or not at all.
func TestRoster(t *testing.T) {
	s := newSchool(t, nil)
	farrow, class := s.client("farrow"), "/classes/"+s.class
	read := func(text string) classes.Roster {
		return want[classes.Roster](s, farrow, 200, "POST", class+"/roster", map[string]string{"text": base64.StdEncoding.EncodeToString([]byte(text))})
	}
	list := read("Name;Bench;Username\nMira Quillon;1;\nAnna Bell;2;\nAnna  Bell;3;bell\nOdd One;4;Odd One\nTeo;5;teo")
	var got []string
	for _, r := range list.Rows {
		got = append(got, r.Username)
	}
	assert.Equal(t, []string{"mira", "anna.bell", "bell", "odd one", "teo"}, got)
	assert.True(t, list.Rows[0].Known && list.Rows[0].Here, "known by her name")
	assert.Contains(t, list.Rows[3].Problem, "small letters")
	assert.Contains(t, list.Rows[4].Problem, "taken", "the teo who is here has another name")
	assert.Equal(t, "roster.too-many", s.refused(farrow, "POST", class+"/roster",
		map[string]string{"text": base64.StdEncoding.EncodeToString([]byte(strings.Repeat("Anna Bell\n", 5000)))}).Type)
	assert.Equal(t, "web.body-too-large", s.refused(farrow, "POST", class+"/roster", map[string]string{"text": strings.Repeat("A", 10<<20)}).Type)

	before := len(want[classes.ClassPage](s, farrow, 200, "GET", class, nil).People)
	refused := s.refused(farrow, "POST", class+"/people", map[string]any{"people": []classes.Added{{Name: "Good One"},
		{Name: "Second", Username: "mira"}, {Name: "Third", Username: "third one"}, {Name: ""}}})
	assert.Equal(t, []string{"body.people[2].username", "body.people[3].name"}, []string{refused.Errors[0].Location, refused.Errors[1].Location})
	assert.Equal(t, "body.people[1].username", s.refused(farrow, "POST", class+"/people", map[string]any{"people": []classes.Added{{Name: "Good One"},
		{Name: "Second", Username: "mira"}}}).Errors[0].Location)
	assert.Len(t, want[classes.ClassPage](s, farrow, 200, "GET", class, nil).People, before, "nobody was added")

	made := want[classes.ClassPage](s, farrow, 200, "POST", "/classes", map[string]string{"name": "New term", "from": s.class})
	added := want[slips](s, farrow, 200, "POST", "/classes/"+made.ID+"/people",
		map[string]any{"people": []classes.Added{{Name: "Mira Quillon", Username: "mira"}, {Name: "Anna Bell", Bench: "2"}}})
	require.Len(t, added.Slips, 1, "mira keeps her password")
	assert.Equal(t, 2, want[classes.ClassPage](s, farrow, 200, "GET", "/classes/"+made.ID, nil).Students)
	shelf := want[bench.Shelf](s, s.client("mira"), 200, "GET", "/shelf", nil)
	require.Len(t, shelf.Shelves, 2)
	assert.Len(t, shelf.Shelves[0].Practicals, len(shelf.Shelves[1].Practicals), "with the practicals of the class before")

	// An instructor gives new passwords to students, and to nobody who may do more.
	everybody := byName(want[classes.ClassPage](s, farrow, 200, "GET", class, nil))
	again := want[slips](s, farrow, 200, "POST", class+"/passwords", map[string]any{"people": []string{everybody["Bevan Thrale"].ID}})
	want[any](s, s.client(""), 200, "POST", "/session", map[string]string{"username": "bevan", "password": again.Slips[0].Password})
	assert.Equal(t, "app.no-reset", s.refused(farrow, "POST", class+"/passwords",
		map[string]any{"people": []string{everybody["Wystan Moor"].ID}}).Type)
}

// Places, pairs, moving, removing, archiving, and the log of all of it.
func TestClassPage(t *testing.T) {
	s := newSchool(t, nil)
	farrow, mira, class := s.client("farrow"), s.client("mira"), "/classes/"+s.class
	page := want[classes.ClassPage](s, farrow, 200, "GET", class, nil)
	of := byName(page)
	teo, bevan, me := of["Teodor Vask"], of["Bevan Thrale"], of["Dr Ondine Farrow"]
	place := func(m classes.Member, p classes.Place) map[string]classes.Member {
		return byName(want[classes.ClassPage](s, farrow, 200, "PUT", class+"/people/"+m.ID, p))
	}
	of = place(teo, classes.Place{Role: access.Student, Bench: " 4 ", Burette: "B-17", Sample: "C", Partner: bevan.ID})
	assert.Equal(t, []string{"4", "B-17", "C", bevan.ID, teo.ID}, []string{of["Teodor Vask"].Bench, of["Teodor Vask"].Burette,
		of["Teodor Vask"].Sample, of["Teodor Vask"].Partner, of["Bevan Thrale"].Partner})
	// A pair's new notebook is written in by both; one that was begun before is not touched.
	id := s.notebook(s.client("teo"), withheldPractical).ID
	want[any](s, s.client("bevan"), 200, "GET", "/notebooks/"+id, nil)
	of = place(bevan, classes.Place{Role: access.Student, Partner: of["Anouk Brill"].ID})
	assert.Empty(t, of["Teodor Vask"].Partner, "a new pair parts the old one")
	for problem, p := range map[string]classes.Place{
		"app.own-pair": {Role: access.Student, Partner: teo.ID}, "app.not-in-class": {Role: access.Student, Partner: "nobody"},
		"app.only-students-pair": {Role: access.Student, Partner: me.ID},
	} {
		assert.Equal(t, problem, s.refused(farrow, "PUT", class+"/people/"+teo.ID, p).Type)
	}
	assert.Equal(t, "app.only-students-pair", s.refused(farrow, "PUT", class+"/people/"+bevan.ID,
		classes.Place{Role: access.Assistant, Partner: of["Anouk Brill"].ID}).Type, "who is one of a pair already is no exception")
	assert.Equal(t, "app.last-instructor", s.refused(farrow, "PUT", class+"/people/"+me.ID, classes.Place{Role: access.Student}).Type)
	assert.Equal(t, "app.last-instructor", s.refused(farrow, "DELETE", class+"/people/"+me.ID, nil).Type)

	// A notice is on every shelf of the class.
	page = want[classes.ClassPage](s, farrow, 200, "POST", class+"/notices", map[string]string{"text": "Goggles on."})
	assert.Equal(t, "Goggles on.", want[bench.Shelf](s, mira, 200, "GET", "/shelf", nil).Shelves[0].Notices[0].Text)
	want[any](s, farrow, 200, "DELETE", class+"/notices/"+page.Notices[0].ID, nil)
	assert.Empty(t, want[bench.Shelf](s, mira, 200, "GET", "/shelf", nil).Shelves[0].Notices)

	// Who moves takes the notebooks along, and is seen there and no longer here.
	other := want[classes.ClassPage](s, farrow, 200, "POST", "/classes", map[string]string{"name": "Wednesday group"})
	notebook := s.notebook(mira, "buffer-dosing").ID
	want[any](s, farrow, 200, "POST", class+"/people/"+of["Mira Quillon"].ID+"/move", map[string]string{"to": other.ID})
	assert.NotContains(t, byName(want[classes.ClassPage](s, farrow, 200, "GET", class, nil)), "Mira Quillon")
	moved := byName(want[classes.ClassPage](s, farrow, 200, "GET", "/classes/"+other.ID, nil))["Mira Quillon"]
	assert.Equal(t, 4, moved.Notebooks)
	kept := want[bench.Notebook](s, mira, 200, "GET", "/notebooks/"+notebook, nil)
	assert.Equal(t, "Wednesday group", kept.Class)
	shelf := want[bench.Shelf](s, mira, 200, "GET", "/shelf", nil)
	require.Len(t, shelf.Shelves, 1)
	require.Len(t, shelf.Shelves[0].Practicals, 4, "also what is not set to the new class")
	want[any](s, mira, 200, "POST", "/notebooks/"+notebook+"/entries", entries{run("in-the-new-class", 900, "accurate", "0.00", "22.00")})
	person, err := s.app.Person(context.Background(), moved.ID)
	require.NoError(t, err)
	require.True(t, s.app.Bench.Reads(context.Background(), person, notebook))
	want[any](s, farrow, 200, "DELETE", "/classes/"+other.ID+"/people/"+moved.ID, nil)
	want[any](s, mira, 403, "GET", "/notebooks/"+notebook, nil)
	person, err = s.app.Person(context.Background(), moved.ID)
	require.NoError(t, err)
	assert.False(t, s.app.Bench.Reads(context.Background(), person, notebook), "a stream that is open ends")
	// The instructor still finds what she left.
	left := want[today.ClassCourse](s, farrow, 200, "GET", "/classes/"+other.ID+"/practicals", nil)
	require.Equal(t, "Wednesday group", left.Name)
	require.Len(t, left.Practicals, 4)
	for _, p := range left.Practicals {
		there := want[bench.ClassNotebooks](s, farrow, 200, "GET", "/classes/"+other.ID+"/practicals/"+p.Practical+"/notebooks", nil)
		require.Len(t, there.Notebooks, 1)
		assert.True(t, there.Notebooks[0].Former)
		assert.Equal(t, "Mira Quillon", there.Notebooks[0].Student)
	}

	// Archived: read only, and the code is closed.
	want[any](s, farrow, 200, "PUT", class+"/code", map[string]int{"minutes": 30})
	archived := want[classes.ClassPage](s, farrow, 200, "PUT", class, map[string]any{"name": page.Name, "term": "Autumn 2026", "archived": true})
	assert.True(t, archived.Archived && archived.MayReopen && !archived.MayManage && archived.Code == nil)
	assert.Equal(t, "app.archived", s.refused(farrow, "POST", class+"/notices", map[string]string{"text": "x"}).Type)
	teos := s.client("teo")
	want[any](s, teos, 200, "GET", "/notebooks/"+id, nil)
	want[any](s, teos, 403, "POST", "/notebooks/"+id+"/entries", entries{run("too-late", 901, "accurate", "0.00", "22.00")})
	want[any](s, teos, 403, "POST", class+"/practicals/pond-bleach/notebook", nil)
	want[any](s, farrow, 200, "PUT", class, map[string]any{"name": page.Name, "term": "Autumn 2026", "archived": false})
	want[any](s, teos, 200, "POST", "/notebooks/"+id+"/entries", entries{run("in-time-again", 902, "accurate", "0.00", "22.00")})

	log := want[struct{ Acts []access.ActLine }](s, farrow, 200, "GET", class+"/acts", nil).Acts
	var all []string
	for _, a := range log {
		all = append(all, a.Text)
		assert.WithinDuration(t, time.Now(), a.At, time.Minute)
	}
	text := strings.Join(all, "\n")
	for _, line := range []string{"Dr Ondine Farrow let Teodor Vask and Bevan Thrale work as a pair", "Dr Ondine Farrow moved Mira Quillon to Wednesday group",
		"Dr Ondine Farrow archived the class", "Dr Ondine Farrow put up a notice: Goggles on."} {
		assert.Contains(t, text, line)
	}
}

// A person's data is all there, and goes with the person; what they wrote stays
// without a name.
func TestDataOfAPerson(t *testing.T) {
	s := newSchool(t, nil)
	mira, hale, farrow := s.client("mira"), s.client("hale"), s.client("farrow")
	id := s.notebook(mira, withheldPractical).ID
	own := want[app.PersonData](s, mira, 200, "GET", "/me/data", nil)
	assert.Len(t, own.Notebooks, 5)
	assert.NotEmpty(t, own.SignIns)
	for _, n := range own.Notebooks {
		if n.ID == id {
			assert.True(t, n.Document.Practical.Asked.Reference.IsZero() && n.Document.Practical.Asked.Expected.IsZero(), "what is withheld is withheld here too")
		}
	}
	text, _ := json.Marshal(own)
	assert.NotContains(t, string(text), "argon2")
	miraID := s.personID("mira")
	given := want[app.PersonData](s, hale, 200, "GET", "/people/"+miraID+"/data", nil)
	assert.Len(t, given.Notebooks, 5)

	assert.Equal(t, "app.class-left", s.refused(hale, "DELETE", "/people/"+s.personID("farrow"), nil).Type)
	want[any](s, hale, 204, "DELETE", "/people/"+miraID, nil)
	want[any](s, mira, 401, "GET", "/me", nil)
	want[any](s, s.client(""), 401, "POST", "/session", map[string]string{"username": "mira", "password": "tide-pool"})
	n := want[bench.Notebook](s, farrow, 200, "GET", "/notebooks/"+id, nil)
	assert.Equal(t, "somebody who was taken out", n.Student)
	_, there := s.call(farrow, "GET", "/api/classes/"+s.class+"/practicals/buffer-dosing/notebooks", nil)
	assert.NotContains(t, there, "Mira")
	assert.Contains(t, there, "somebody who was taken out")
	_, acts := s.call(farrow, "GET", "/api/classes/"+s.class+"/acts", nil)
	assert.NotContains(t, acts, "Mira")
	assert.Contains(t, acts, "Corvina Hale took out somebody who was taken out for good")
	_, acts = s.call(hale, "GET", "/api/acts", nil)
	assert.Contains(t, acts, "Corvina Hale took out a file of all that is held about somebody who was taken out")
}

// The library holds what comes with the program and what the person's own classes
// have; another class's practical is not there, nor its true value.
func TestLibrary(t *testing.T) {
	s := newSchool(t, nil)
	farrow, colleague := s.client("farrow"), s.client("colleague")
	type one struct{ Practical practical.Practical }
	list := want[struct{ Practicals []practicals.LibraryItem }](s, farrow, 200, "GET", "/library", nil).Practicals
	assert.Len(t, list, 26, "each once")
	kinds := map[practical.Kind]bool{}
	for _, item := range list {
		assert.NotEmpty(t, item.KindText, item.ID)
		assert.NotEmpty(t, item.Route, item.ID)
		assert.Equal(t, item.Kind == practical.SolutionMade, item.Titre == "", item.ID)
		kinds[item.Kind] = true
	}
	assert.Len(t, kinds, 6)
	own := want[one](s, farrow, 200, "GET", "/library/"+withheldPractical, nil).Practical
	assert.Equal(t, "0.8765", own.Asked.Reference.String())
	assert.True(t, want[one](s, colleague, 200, "GET", "/library/"+withheldPractical+"?revision=1", nil).Practical.Asked.Reference.IsZero())

	// Changed, it is a second revision, and both can be read; a copy is the class's own.
	own.Title = "Descaler, once more"
	want[any](s, farrow, 200, "POST", "/classes/"+s.class+"/practicals", one{own})
	assert.Equal(t, "Descaler, once more", want[one](s, farrow, 200, "GET", "/library/"+withheldPractical, nil).Practical.Title)
	assert.NotEqual(t, "Descaler, once more", want[one](s, farrow, 200, "GET", "/library/"+withheldPractical+"?revision=1", nil).Practical.Title)
	for _, item := range want[struct{ Practicals []practicals.LibraryItem }](s, farrow, 200, "GET", "/library", nil).Practicals {
		if item.ID == withheldPractical {
			assert.Equal(t, []int{2, 1}, item.Revisions)
		}
	}
	_, text := s.call(farrow, "GET", "/api/library/"+withheldPractical+"/document", nil)
	back := want[one](s, colleague, 200, "POST", "/library/read", map[string]string{"document": base64.StdEncoding.EncodeToString([]byte(text))})
	assert.Equal(t, "Descaler, once more", back.Practical.Title)
}

// A practical is set with times and unknowns: students see it when it opens, get a
// code and never a true value; the instructor's comparison is with the own unknown.
func TestSettings(t *testing.T) {
	s := newSchool(t, nil)
	farrow, mira, teo := s.client("farrow"), s.client("mira"), s.client("teo")
	set := "/classes/" + s.class + "/practicals/" + withheldPractical
	of := want[practicals.Settings](s, farrow, 200, "GET", set+"/settings", nil)
	require.Len(t, of.Seats, 6)
	ids := map[string]string{}
	for _, seat := range of.Seats {
		ids[seat.Name] = seat.Person
	}
	put := func(times practicals.Times, deals map[string]string) practicals.Settings {
		return want[practicals.Settings](s, farrow, 200, "PUT", set+"/settings", practicals.NewSettings{Times: times, Deals: deals,
			Unknowns: []practicals.Unknown{{Code: "A", Value: decimal.Must("0.4321")}, {Code: "B", Value: decimal.Must("0.6789")}}})
	}
	hour := func(n int) *time.Time { at := time.Now().Add(time.Duration(n) * time.Hour).UTC(); return &at }
	titles := func(c *http.Client) string {
		_, text := s.call(c, "GET", "/api/shelf", nil)
		return text
	}
	put(practicals.Times{Opens: hour(1), Due: hour(2)}, nil)
	assert.NotContains(t, titles(mira), withheldPractical)
	assert.Contains(t, titles(farrow), withheldPractical)
	want[any](s, mira, 404, "POST", set+"/notebook", nil)
	want[any](s, mira, 404, "GET", set+"/notebook", nil)
	want[any](s, mira, 404, "GET", set+"/plan", nil)
	assert.Equal(t, "app.times-order", s.refused(farrow, "PUT", set+"/settings", practicals.NewSettings{Times: practicals.Times{Due: hour(3), Late: hour(1)}, Unknowns: []practicals.Unknown{}}).Type)

	dealt := want[struct{ Deals map[string]string }](s, farrow, 200, "POST", set+"/deal", map[string]any{"codes": []string{"A", "B"}, "how": "at-random", "seed": 7}).Deals
	again := want[struct{ Deals map[string]string }](s, farrow, 200, "POST", set+"/deal", map[string]any{"codes": []string{"A", "B"}, "how": "at-random", "seed": 7}).Deals
	pairs := want[struct{ Pairs map[string]string }](s, farrow, 200, "POST", set+"/pair", map[string]any{"pairs": map[string]string{"a": "b", "b": "a"}, "person": "c", "partner": "b"}).Pairs
	assert.Equal(t, map[string]string{"b": "c", "c": "b"}, pairs)
	assert.Equal(t, dealt, again)
	assert.Len(t, dealt, 6)
	put(practicals.Times{Opens: hour(-1), Due: hour(2)}, map[string]string{ids["Mira Quillon"]: "A", ids["Teodor Vask"]: "B"})
	for problem, deals := range map[string]map[string]string{"app.unknown-none": {ids["Mira Quillon"]: "C"}, "app.not-in-class": {s.personID("farrow"): "A"}} {
		assert.Equal(t, problem, s.refused(farrow, "PUT", set+"/settings", practicals.NewSettings{Deals: deals,
			Unknowns: []practicals.Unknown{{Code: "A"}}}).Type)
	}
	item := func(c *http.Client) bench.ShelfItem {
		for _, i := range want[bench.Shelf](s, c, 200, "GET", "/shelf", nil).Shelves[0].Practicals {
			if i.Practical == withheldPractical {
				return i
			}
		}
		return bench.ShelfItem{}
	}
	assert.Equal(t, "A", item(mira).Sample)
	assert.Equal(t, "B", item(teo).Sample)

	id := s.notebook(mira, withheldPractical).ID
	for i := range 3 {
		s.add(mira, id, run(fmt.Sprintf("unknown-%d", i), int64(10*i+1), "accurate", "0.00", "22.00"))
	}
	var seen []string
	for _, path := range []string{"/shelf", "/notebooks/" + id, "/notebooks/" + id + "/report", "/notebooks/" + id + "/document", "/notebooks/" + id + "/journal", set + "/plan", "/me/data"} {
		_, text := s.call(mira, "GET", "/api"+path, nil)
		seen = append(seen, text)
	}
	all := strings.Join(seen, "")
	for _, hidden := range []string{"0.4321", "0.6789", "0.8765"} {
		assert.NotContains(t, all, hidden)
	}
	_, text := s.call(farrow, "GET", "/api/notebooks/"+id, nil)
	assert.Contains(t, text, "0.4321", "compared with the own unknown")
	assert.NotContains(t, text, "0.8765")

	// The reference titration of the instructor, and its answer as the true value.
	own := s.notebook(farrow, withheldPractical)
	require.True(t, own.MayWrite)
	for i := range 3 {
		s.add(farrow, own.ID, run(fmt.Sprintf("reference-%d", i), int64(10*i+1), "accurate", "0.00", "21.50"))
	}
	of = want[practicals.Settings](s, farrow, 200, "GET", set+"/settings", nil)
	require.NotNil(t, of.Reference)
	require.NotNil(t, of.Reference.Value)
	assert.Equal(t, 1, of.Begun, "the reference is no student's")
	want[any](s, mira, 404, "GET", "/notebooks/"+own.ID, nil)

	// A new revision: notebooks keep theirs until they are moved.
	p := want[struct{ Practical practical.Practical }](s, farrow, 200, "GET", "/library/"+withheldPractical, nil).Practical
	p.Title = "Descaler, with a new title"
	want[any](s, farrow, 200, "POST", "/classes/"+s.class+"/practicals", map[string]any{"practical": p})
	assert.NotEqual(t, p.Title, want[bench.Notebook](s, mira, 200, "GET", "/notebooks/"+id, nil).Practical.Title)
	of = want[practicals.Settings](s, farrow, 200, "POST", set+"/revision", map[string]any{"people": []string{ids["Mira Quillon"]}})
	moved := want[bench.Notebook](s, mira, 200, "GET", "/notebooks/"+id, nil)
	assert.Equal(t, p.Title, moved.Practical.Title)
	assert.Len(t, moved.Entries, 9)
	assert.Equal(t, "A", item(mira).Sample)

	// Over: nobody begins; not set any more: what was begun stays.
	put(practicals.Times{Opens: hour(-3), Due: hour(-2), Late: hour(-1)}, map[string]string{ids["Mira Quillon"]: "A"})
	assert.Equal(t, "app.over", s.refused(teo, "POST", set+"/notebook", nil).Type)
	want[any](s, mira, 200, "POST", set+"/notebook", nil)
	want[any](s, farrow, 204, "DELETE", set, nil)
	assert.NotContains(t, titles(teo), withheldPractical)
	assert.True(t, item(mira).Ended)

	// A draft is one's own, half done, and forgotten when it is set.
	want[any](s, farrow, 204, "PUT", "/classes/"+s.class+"/drafts/new", map[string]any{"practical": map[string]any{"title": 7}})
	assert.JSONEq(t, `{"title":7}`, string(want[practicals.Draft](s, farrow, 200, "GET", "/classes/"+s.class+"/drafts/new", nil).Practical))
	assert.Equal(t, "app.draft-large", s.refused(farrow, "PUT", "/classes/"+s.class+"/drafts/new",
		map[string]any{"practical": strings.Repeat("x", 70_000)}).Type)
	want[any](s, farrow, 204, "DELETE", "/classes/"+s.class+"/drafts/new", nil)
	assert.Empty(t, want[practicals.Draft](s, farrow, 200, "GET", "/classes/"+s.class+"/drafts/new", nil).Practical)

	preview := want[practicals.Planned](s, farrow, 200, "POST", "/plan/preview", map[string]any{"practical": p})
	assert.True(t, preview.Practical.Asked.Reference.IsZero())
}

// Pairs of a practical's own: who begins has the other beside them, there and nowhere
// else; a student who moves takes their unknown along, with its true value.
func TestPairsAndMovedUnknowns(t *testing.T) {
	s := newSchool(t, nil)
	farrow := s.client("farrow")
	set := "/classes/" + s.class + "/practicals/buffer-dosing"
	mira, teo, jory := s.personID("mira"), s.personID("teo"), s.personID("jory")
	keep := func(pairing practicals.Pairing, pairs map[string]string) practicals.NewSettings {
		return practicals.NewSettings{Unknowns: []practicals.Unknown{{Code: "A", Value: decimal.Must("0.0461")}, {Code: "B", Value: decimal.Must("0.0472")}},
			Deals: map[string]string{mira: "A", jory: "B"}, Pairing: pairing, Pairs: pairs}
	}
	for _, bad := range []map[string]string{{mira: mira}, {mira: "nobody"}, {mira: teo, jory: teo}} {
		p := s.refused(farrow, "PUT", set+"/settings", keep(practicals.OwnPairs, bad))
		assert.Contains(t, p.Errors[0].Message, "one pair at most")
	}
	now := want[practicals.Settings](s, farrow, 200, "PUT", set+"/settings", keep(practicals.OwnPairs, map[string]string{jory: teo}))
	for _, seat := range now.Seats {
		if seat.Person == teo {
			assert.Equal(t, jory, seat.Partner)
		}
	}
	fresh := func(who, practical string) bench.Notebook { return s.notebook(s.client(who), practical) }
	assert.Empty(t, fresh("teo", "algae-vinegar").Partners, "not in another practical")
	if n := fresh("jory", "buffer-dosing"); len(n.Partners) > 0 { // begun in the demo before
		assert.Equal(t, []string{"Teodor Vask"}, n.Partners)
	}
	p := practicalOf(t)
	p.ID = "paired-one"
	want[any](s, farrow, 200, "POST", "/classes/"+s.class+"/practicals", map[string]any{"practical": p})
	own := "/classes/" + s.class + "/practicals/paired-one"
	want[any](s, farrow, 200, "PUT", own+"/settings", practicals.NewSettings{Unknowns: []practicals.Unknown{}, Pairing: practicals.OwnPairs, Pairs: map[string]string{jory: teo}})
	assert.Equal(t, []string{"Teodor Vask"}, fresh("jory", "paired-one").Partners)
	assert.Empty(t, fresh("mira", "paired-one").Partners)
	want[any](s, farrow, 200, "PUT", own+"/settings", practicals.NewSettings{Unknowns: []practicals.Unknown{}, Pairing: practicals.Alone})
	assert.Empty(t, fresh("sanna", "paired-one").Partners)

	other := want[classes.ClassPage](s, farrow, 200, "POST", "/classes", map[string]string{"name": "Moved to"})
	buffer := fresh("jory", "buffer-dosing").ID
	status, text := s.call(farrow, "POST", "/api/classes/"+s.class+"/people/"+jory+"/move", map[string]string{"to": other.ID})
	require.Less(t, status, 300, text)
	_, text = s.call(farrow, "GET", "/api/notebooks/"+buffer, nil)
	assert.Contains(t, text, `"reference":"0.0472"`, "the true value goes with the notebook")
}
