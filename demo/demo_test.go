package demo_test

import (
	"context"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app"
	"exactflask/app/access"
	"exactflask/app/people"
	"exactflask/core/judgement/evaluation"
	"exactflask/demo"
	"exactflask/store"
)

// The demo shows every state a visitor may wish to see: work that has not
// begun, work in hand, work that agrees, and results still withheld.
func TestFillShowsEveryState(t *testing.T) {
	ctx := context.Background()
	s, err := store.Open(ctx, filepath.Join(t.TempDir(), "demo.db"))
	require.NoError(t, err)
	defer func() { assert.NoError(t, s.Close()) }()
	a, err := app.New(s, true)
	require.NoError(t, err)
	require.NoError(t, demo.Fill(ctx, a))

	people, err := a.People.DemoPeople(ctx)
	require.NoError(t, err)
	stages, begun, withheld := map[evaluation.Stage]bool{}, 0, 0
	for _, known := range people {
		p, err := a.People.SignIn(ctx, known.Username, demo.Password)
		require.NoError(t, err, known.Username)
		if p.Standing == access.AdministratesHere {
			continue
		}
		shelf, err := a.Bench.Shelf(ctx, p)
		require.NoError(t, err)
		require.NotEmpty(t, shelf.Shelves, "%s has a class", known.Name)
		require.NotEmpty(t, shelf.Shelves[0].Practicals, "%s finds something to do", known.Name)
		for _, item := range shelf.Shelves[0].Practicals {
			for _, n := range item.Notebooks {
				stages[n.Stage] = true
				if n.ID == "" {
					continue
				}
				begun++
				book, err := a.Bench.Notebook(ctx, p, n.ID)
				require.NoError(t, err, "%s: %s", known.Name, item.Title)
				assert.NotEmpty(t, book.Sheet.Next.Text, "%s: %s", n.Student, item.Title)
				if book.Sheet.Withheld {
					withheld++
					assert.Nil(t, book.Sheet.Answer, "%s: %s is withheld", n.Student, item.Title)
				}
			}
		}
	}
	assert.GreaterOrEqual(t, len(people), 6)
	assert.Greater(t, begun, 6)
	assert.Positive(t, withheld)
	for _, stage := range []evaluation.Stage{evaluation.Untouched, evaluation.Measuring, evaluation.Disagreeing,
		evaluation.Agreed} {
		assert.True(t, stages[stage], stage)
	}
	assert.Error(t, demo.Fill(ctx, a), "a store is filled once")
}

// The demo never opens a school's file to everyone, and its own file, whose
// password is published, is never served as a school's.
func told(string) {}

func TestGuard(t *testing.T) {
	ctx := context.Background()
	start := func() *app.App {
		s, err := store.Open(ctx, filepath.Join(t.TempDir(), "guard.db"))
		require.NoError(t, err)
		t.Cleanup(func() { assert.NoError(t, s.Close()) })
		a, err := app.New(s, true)
		require.NoError(t, err)
		return a
	}
	a := start()
	var classes []string
	require.NoError(t, demo.Guard(ctx, a, true, func(class string) { classes = append(classes, class) }))
	assert.GreaterOrEqual(t, len(classes), 3, "each is told of before it is filled")
	assert.Equal(t, demo.Class, classes[0])
	require.NoError(t, demo.Guard(ctx, a, true, func(class string) { t.Error("filled twice: ", class) }), "again")
	assert.ErrorIs(t, demo.Guard(ctx, a, false, told), demo.ErrDemoFile)
	school := start()
	require.NoError(t, demo.Guard(ctx, school, false, told))
	_, err := school.Classes.AddPerson(ctx, people.NewPerson{Username: "somebody", Name: "Some Body", Password: "long-enough-7"})
	require.NoError(t, err)
	require.NoError(t, demo.Guard(ctx, school, false, told))
	assert.ErrorIs(t, demo.Guard(ctx, school, true, told), demo.ErrRealPeople)
}

// The other classes: twenty-four in the middle of a practical, with unknowns dealt out,
// and one of last year; every practical that is set can be opened by everyone.
func TestFillWhole(t *testing.T) {
	ctx := context.Background()
	s, err := store.Open(ctx, filepath.Join(t.TempDir(), "demo.db"))
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	a, err := app.New(s, true)
	require.NoError(t, err)
	require.NoError(t, demo.Guard(ctx, a, true, told))
	require.NoError(t, demo.Guard(ctx, a, true, told), "and again")
	assert.ErrorIs(t, demo.Guard(ctx, a, false, told), demo.ErrDemoFile)
	farrow, err := a.People.SignIn(ctx, "farrow", demo.Password)
	require.NoError(t, err)
	home, err := a.Today.Home(ctx, farrow)
	require.NoError(t, err)
	require.Len(t, home.Classes, 5)
	assert.NotEmpty(t, home.Today)
	stages, kinds := map[evaluation.Stage]int{}, map[string]bool{}
	for _, c := range home.Classes {
		if c.Name != demo.Thursday {
			continue
		}
		assert.Len(t, c.Practicals, 8)
		for _, p := range c.Practicals {
			assert.Empty(t, p.Broken)
			there, err := a.Bench.ClassNotebooks(ctx, farrow, c.Class, p.Practical, 0)
			require.NoError(t, err)
			assert.Len(t, there.Notebooks, 24)
			kinds[p.Practical] = true
			for _, n := range there.Notebooks {
				stages[n.Stage]++
			}
		}
	}
	for _, stage := range []evaluation.Stage{evaluation.Untouched, evaluation.Measuring, evaluation.Disagreeing, evaluation.Agreed} {
		assert.Positive(t, stages[stage], "%s in %v", stage, stages)
	}
	people, err := a.People.DemoPeople(ctx)
	require.NoError(t, err)
	assert.Len(t, people, 9, "the sign-in page lists a few")
}
