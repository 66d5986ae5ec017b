package app

import (
	"context"
	"errors"
	"fmt"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app/access"
	"exactflask/app/classes"
	"exactflask/app/people"
	"exactflask/app/practicals"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/store"
)

// room is a class with an instructor and students, whose clock can be set.
type room struct {
	t        *testing.T
	a        *App
	now      time.Time
	class    string
	teacher  access.Person
	students []access.Person
}

func newRoom(t *testing.T, students int) *room {
	ctx := context.Background()
	s, err := store.Open(ctx, filepath.Join(t.TempDir(), "room.db"))
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	a, err := New(s, true)
	require.NoError(t, err)
	r := &room{t: t, a: a, now: time.Now().UTC()}
	var clock sync.Mutex
	a.Now = func() time.Time { clock.Lock(); defer clock.Unlock(); return r.now }
	r.teacher = r.add("teacher", access.MayMakeClasses)
	r.class, err = a.Classes.MakeClass(ctx, r.teacher, classes.NewClass{Name: "10b"})
	require.NoError(t, err)
	r.teacher = r.again(r.teacher)
	for i := range students {
		p := r.add(fmt.Sprintf("pupil-%02d", i), access.NoStanding)
		require.NoError(t, a.Classes.Join(ctx, r.class, p.ID, access.Student))
		r.students = append(r.students, r.again(p))
	}
	return r
}

func (r *room) add(username string, standing access.Standing) access.Person {
	id, err := r.a.Classes.AddPerson(context.Background(), people.NewPerson{Username: username, Name: "Name of " + username,
		Password: "quiet harbour crane", Standing: standing})
	require.NoError(r.t, err)
	return r.again(access.Person{ID: id})
}

// again is a person as they are now.
func (r *room) again(p access.Person) access.Person {
	r.a.Persons.Remove(p.ID)
	p, err := r.a.Person(context.Background(), p.ID)
	require.NoError(r.t, err)
	return p
}

// set sets the plain practical to the class, with times from now.
func (r *room) set(opens, late time.Duration) string {
	ctx := context.Background()
	p, err := r.a.Practicals.AssignRevision(ctx, r.teacher, r.class, practicaltest.Plain())
	require.NoError(r.t, err)
	at := func(d time.Duration) *time.Time {
		if d == 0 {
			return nil
		}
		t := r.now.Add(d)
		return &t
	}
	require.NoError(r.t, r.a.Practicals.SetSettings(ctx, r.teacher, r.class, p.ID, practicals.NewSettings{Times: practicals.Times{Opens: at(opens), Late: at(late)}}))
	return p.ID
}

func faultCode(err error) string {
	var f *finding.Fault
	if errors.As(err, &f) {
		return f.Code
	}
	if err != nil {
		return err.Error()
	}
	return ""
}

// A code is good until the moment at which it closes, and a new one ends the old.
func TestACodeClosesByItself(t *testing.T) {
	ctx := context.Background()
	r := newRoom(t, 0)
	code, err := r.a.Classes.OpenCode(ctx, r.teacher, r.class, 30)
	require.NoError(t, err)
	r.now = r.now.Add(30*time.Minute - time.Second)
	_, err = r.a.Classes.Invitation(ctx, code.Code)
	require.NoError(t, err)
	late := r.add("late", access.NoStanding)
	r.now = r.now.Add(time.Second)
	_, err = r.a.Classes.Invitation(ctx, code.Code)
	assert.Equal(t, "app.no-code", faultCode(err))
	assert.Equal(t, "app.no-code", faultCode(r.a.Classes.JoinByCode(ctx, late, code.Code)))
	_, err = r.a.Classes.SignUp(ctx, code.Code, people.NewPerson{Username: "another", Name: "Another", Password: "quiet harbour crane"})
	assert.Equal(t, "app.no-code", faultCode(err))
	page, err := r.a.Classes.ClassPage(ctx, r.teacher, r.class)
	require.NoError(t, err)
	assert.Nil(t, page.Code)

	first, err := r.a.Classes.OpenCode(ctx, r.teacher, r.class, 30)
	require.NoError(t, err)
	second, err := r.a.Classes.OpenCode(ctx, r.teacher, r.class, 30)
	require.NoError(t, err)
	_, err = r.a.Classes.Invitation(ctx, first.Code)
	assert.Equal(t, "app.no-code", faultCode(err))
	require.NoError(t, r.a.Classes.JoinByCode(ctx, late, second.Code))
	assert.Equal(t, access.Student, r.again(late).RoleIn(r.class))
	for _, minutes := range []int{0, 4, 7*24*60 + 1} {
		_, err := r.a.Classes.OpenCode(ctx, r.teacher, r.class, minutes)
		assert.Equal(t, "app.code-time", faultCode(err), minutes)
	}
}

// Times are the server's: a practical is there from the moment at which it opens, and
// is begun until the moment at which it is over. Those who teach are not bound by them.
func TestTimesAreTheServers(t *testing.T) {
	ctx := context.Background()
	r := newRoom(t, 2)
	id := r.set(time.Hour, 2*time.Hour)
	begin := func(p access.Person) string {
		_, err := r.a.Bench.Begin(ctx, p, r.class, id, "")
		return faultCode(err)
	}
	seen := func() int {
		shelf, err := r.a.Bench.Shelf(ctx, r.students[0])
		require.NoError(t, err)
		return len(shelf.Shelves[0].Practicals)
	}
	for _, c := range []struct {
		after time.Duration
		begin string
		seen  int
	}{{0, access.ErrNotFound.Error(), 0}, {time.Hour - time.Second, access.ErrNotFound.Error(), 0}, {time.Second, "", 1}, {time.Hour, "", 1}} {
		r.now = r.now.Add(c.after)
		assert.Equal(t, c.begin, begin(r.students[0]), r.now)
		assert.Equal(t, c.seen, seen(), r.now)
	}
	r.now = r.now.Add(time.Second)
	assert.Equal(t, "", begin(r.students[0]), "it is begun already")
	assert.Equal(t, "app.over", begin(r.students[1]))
	_, err := r.a.Bench.Blank(ctx, r.students[1], r.class, id)
	assert.Equal(t, "app.over", faultCode(err))
	assert.Equal(t, "", begin(r.teacher))
}

// While a notebook is put under another revision, and its student into another class and
// back, what is written is kept, once, and shown under the class and revision of the file.
func TestNotebooksChangeWhileTheyAreWrittenAtOnce(t *testing.T) {
	ctx := context.Background()
	r := newRoom(t, 1)
	id := r.set(0, 0)
	other, err := r.a.Classes.MakeClass(ctx, r.teacher, classes.NewClass{Name: "10c"})
	require.NoError(t, err)
	r.teacher = r.again(r.teacher)
	pupil := r.students[0]
	notebook, err := r.a.Bench.Begin(ctx, pupil, r.class, id, "")
	require.NoError(t, err)

	const entries = 120
	var all sync.WaitGroup
	all.Go(func() {
		for i := range entries {
			e := journal.Entry{ID: fmt.Sprintf("note-%05d", i), Device: "d", Clock: int64(i + 1), At: r.a.Now(), Part: journal.Remark{Written: "swirled"}}
			for {
				p, err := r.a.Person(ctx, pupil.ID)
				if err == nil {
					_, err = r.a.Bench.Append(ctx, p, notebook, 0, []journal.Entry{e})
				}
				if err == nil {
					break
				}
				var left *finding.Fault
				between := errors.As(err, &left) && left.Code == "app.left-class" // of two classes
				if !between && !errors.Is(err, access.ErrNotFound) && !errors.Is(err, access.ErrForbidden) {
					t.Error(err)
					return
				}
			}
		}
	})
	all.Go(func() {
		at, to := r.class, other
		for range 10 {
			if err := r.a.Classes.Move(ctx, r.teacher, at, pupil.ID, to); err != nil {
				t.Error(err)
				return
			}
			at, to = to, at
		}
	})
	all.Go(func() {
		for i := range 10 {
			p := practicaltest.Plain()
			p.Title = fmt.Sprintf("revision %d", i)
			if _, err := r.a.Practicals.AssignRevision(ctx, r.teacher, r.class, p); err != nil {
				t.Error(err)
				return
			}
			if err := r.a.Practicals.MoveToRevision(ctx, r.teacher, r.class, id, nil); err != nil {
				t.Error(err)
				return
			}
		}
	})
	all.Wait()
	require.NoError(t, r.a.Practicals.MoveToRevision(ctx, r.teacher, r.class, id, nil))
	now, err := r.a.Bench.Notebook(ctx, r.again(pupil), notebook)
	require.NoError(t, err)
	assert.Len(t, now.Entries, entries)
	assert.Equal(t, "10b", now.Class)
	assert.Equal(t, "revision 9", now.Practical.Title)
	kept, err := r.a.Store.Read().Notebook(ctx, notebook)
	require.NoError(t, err)
	assert.Equal(t, r.class, kept.Class)
	assert.Len(t, kept.Entries, entries)
}

// Who has which unknown outlives a class list that changes: the notebook that somebody
// leaves behind stays one of their unknown.
func TestUnknownsOfThoseWhoLeft(t *testing.T) {
	ctx := context.Background()
	r := newRoom(t, 2)
	id := r.set(0, 0)
	set := func(deals map[string]string, codes ...string) error {
		wanted := practicals.NewSettings{Deals: deals}
		for i, c := range codes {
			wanted.Unknowns = append(wanted.Unknowns, practicals.Unknown{Code: c, Value: decimal.Whole(int64(i + 1))})
		}
		return r.a.Practicals.SetSettings(ctx, r.teacher, r.class, id, wanted)
	}
	stays, leaves := r.students[0].ID, r.students[1].ID
	require.NoError(t, set(map[string]string{stays: "A", leaves: "B"}, "A", "B"))
	notebook, err := r.a.Bench.Begin(ctx, r.students[1], r.class, id, "")
	require.NoError(t, err)
	truth := func() string {
		n, err := r.a.Bench.Notebook(ctx, r.teacher, notebook)
		require.NoError(t, err)
		return n.Practical.Asked.Reference.String()
	}
	assert.Equal(t, "2", truth())
	require.NoError(t, r.a.Classes.Remove(ctx, r.teacher, r.class, leaves))
	require.NoError(t, set(map[string]string{stays: "B"}, "A", "B"))
	assert.Equal(t, "2", truth(), "whoever left has it still")
	assert.Equal(t, "app.not-in-class", faultCode(set(map[string]string{leaves: "A"}, "A")))
	require.NoError(t, set(nil, "A"))
	assert.Equal(t, "0", truth(), "there is no unknown B any more")

	for want, wanted := range map[string]practicals.NewSettings{
		"app.unknown-twice":     {Unknowns: []practicals.Unknown{{Code: "A"}, {Code: " A "}}},
		"app.unknown-code":      {Unknowns: []practicals.Unknown{{Code: "ABCDEFGHI"}}},
		"app.unknown-value":     {Unknowns: []practicals.Unknown{{Code: "A", Value: decimal.Must("-1")}}},
		"app.unknown-none":      {Unknowns: []practicals.Unknown{{Code: "A"}}, Deals: map[string]string{stays: "Z"}},
		"app.too-many-unknowns": {Unknowns: make([]practicals.Unknown, practicals.MaxUnknowns+1)},
	} {
		assert.Equal(t, want, faultCode(r.a.Practicals.SetSettings(ctx, r.teacher, r.class, id, wanted)))
	}
}

// An installation keeps an administrator, and a class an instructor; one that has none
// any more is given one who may make classes, and no other.
func TestSomebodyAnswersForIt(t *testing.T) {
	ctx := context.Background()
	r := newRoom(t, 1)
	head, second := r.add("head", access.AdministratesHere), r.add("second", access.MayMakeClasses)
	assert.Equal(t, "app.last-administrator", faultCode(r.a.People.SetStanding(ctx, head, head.ID, access.NoStanding)))
	assert.Equal(t, "app.class-left", faultCode(r.a.People.TakeOut(ctx, head, r.teacher.ID)))
	assert.Equal(t, "app.has-instructor", faultCode(r.a.Classes.GiveClass(ctx, head, r.class, "second")))
	require.NoError(t, r.a.Classes.SetClass(ctx, r.teacher, r.class, "10b", "", true))
	require.NoError(t, r.a.People.TakeOut(ctx, head, r.teacher.ID), "the class is archived")
	all, err := r.a.Classes.Classes(ctx, head)
	require.NoError(t, err)
	require.Len(t, all, 1)
	assert.True(t, all[0].Orphan)
	for want, username := range map[string]string{"app.not-taught": "pupil-00", "app.no-user": "nobody-here"} {
		assert.Equal(t, want, faultCode(r.a.Classes.GiveClass(ctx, head, r.class, username)))
	}
	assert.ErrorIs(t, r.a.Classes.GiveClass(ctx, second, r.class, "second"), access.ErrNotFound, "only an administrator gives classes")
	require.NoError(t, r.a.Classes.GiveClass(ctx, head, r.class, "second"))
	assert.Equal(t, access.Instructor, r.again(second).RoleIn(r.class))
	require.NoError(t, r.a.Classes.SetClass(ctx, r.again(second), r.class, "10b", "", false), "and takes it up again")
	lines, err := r.a.Acts(ctx, r.again(second), r.class, 0)
	require.NoError(t, err)
	assert.Contains(t, lines[1].Text, "Name of head made Name of second")
	assert.Equal(t, "app.not-oneself", faultCode(r.a.People.TakeOut(ctx, head, head.ID)))
}

// What an installation and a class see differently from common practice holds for practicals
// that are set from then on; what was set before keeps its own.
func TestNormsOfInstallationAndClass(t *testing.T) {
	r, ctx := newRoom(t, 1), context.Background()
	before, err := r.a.Practicals.AssignRevision(ctx, r.teacher, r.class, practicaltest.Plain())
	require.NoError(t, err)
	head := access.Person{ID: r.teacher.ID, Standing: access.AdministratesHere}
	require.NoError(t, r.a.Practicals.SetNorms(ctx, head, "", practical.Norms{practical.LeakSeconds: decimal.Must("40"), practical.StirMinutes: decimal.Must("3")}))
	require.NoError(t, r.a.Practicals.SetNorms(ctx, r.teacher, r.class, practical.Norms{practical.LeakSeconds: decimal.Must("20")}))
	assert.ErrorIs(t, r.a.Practicals.SetNorms(ctx, r.teacher, "", nil), access.ErrForbidden)
	assert.ErrorContains(t, r.a.Practicals.SetNorms(ctx, r.teacher, r.class, practical.Norms{practical.LeakSeconds: decimal.Must("1")}), "norms.range")
	p := practicaltest.Plain()
	p.ID = "later"
	after, err := r.a.Practicals.AssignRevision(ctx, r.teacher, r.class, p)
	require.NoError(t, err)
	assert.Empty(t, before.Rules.School)
	ready, fault := after.Check()
	require.Nil(t, fault)
	assert.Equal(t, []string{"20", "3", "5"}, []string{ready.Norms().Value(practical.LeakSeconds).String(),
		ready.Norms().Value(practical.StirMinutes).String(), ready.Norms().Value(practical.SmallTitre).String()})
	groups, err := r.a.Practicals.Norms(ctx, r.teacher, r.class)
	require.NoError(t, err)
	require.Equal(t, practical.LeakSeconds, groups[0].Norms[0].Name)
	assert.Equal(t, []string{"20", "40"}, []string{groups[0].Norms[0].Own, groups[0].Norms[0].Else})
}
