package app_test

import (
	"context"
	"database/sql"
	"fmt"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app"
	"exactflask/core/journal"
	"exactflask/demo"
	"exactflask/store"
)

// school is the demo's, with one of its students and a notebook of hers.
func school(t *testing.T) (a *app.App, mira app.Person, id, path string) {
	ctx := context.Background()
	path = filepath.Join(t.TempDir(), "school.db")
	s, err := store.Open(ctx, path)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	a, err = app.New(s, true)
	require.NoError(t, err)
	require.NoError(t, demo.Fill(ctx, a))
	mira, err = a.SignIn(ctx, "mira", demo.Password)
	require.NoError(t, err)
	id, err = a.Begin(ctx, mira, mira.Classes[0].Class, "buffer-dosing")
	require.NoError(t, err)
	return a, mira, id, path
}

// The limits hold here as well, whoever calls: not only where a request is read.
func TestLimitsHoldWithoutTheWeb(t *testing.T) {
	a, mira, id, _ := school(t)
	ctx := context.Background()
	notes := func(n int) []journal.Entry {
		out := make([]journal.Entry, n)
		for i := range out {
			out[i] = journal.Entry{ID: fmt.Sprintf("limit-%06d", i), Device: "d", Clock: int64(500 + i), At: time.Now(), Part: journal.Remark{Written: "swirled"}}
		}
		return out
	}
	before, err := a.Notebook(ctx, mira, id)
	require.NoError(t, err)
	for _, n := range []int{0, app.MaxBatch + 1} {
		_, err := a.Append(ctx, mira, id, notes(n))
		assert.ErrorContains(t, err, "app.batch", n)
	}
	after, err := a.Append(ctx, mira, id, notes(app.MaxBatch))
	require.NoError(t, err)
	assert.Equal(t, before.Sheet.Entries+app.MaxBatch, after.Sheet.Entries)
	for _, c := range [][2]string{{"mira", "wrong"}, {"nobody", demo.Password}, {strings.Repeat("m", 65), demo.Password}, {"mira", strings.Repeat("p", 257)}} {
		_, err := a.SignIn(ctx, c[0], c[1])
		assert.ErrorIs(t, err, app.ErrSignIn)
	}
}

// One notebook that cannot be read harms no other: the shelf shows it as broken,
// and the rest of the class as it is.
func TestABrokenNotebookStaysAlone(t *testing.T) {
	_, mira, id, path := school(t)
	ctx := context.Background()
	file, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	_, err = file.Exec(`INSERT INTO entries (id, notebook_id, document, received) VALUES ('spoilt-entry', ?, '{', '')`, id)
	require.NoError(t, err)
	_, err = file.Exec(`DELETE FROM summaries WHERE notebook_id = ?`, id)
	require.NoError(t, err)
	require.NoError(t, file.Close())

	s, err := store.Open(ctx, path) // another program, which has nothing in memory yet
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	a, err := app.New(s, true)
	require.NoError(t, err)
	_, err = a.Notebook(ctx, mira, id)
	assert.Error(t, err)
	farrow, err := a.SignIn(ctx, "farrow", demo.Password)
	require.NoError(t, err)
	shelf, err := a.Shelf(ctx, farrow)
	require.NoError(t, err)
	sound := 0
	for _, p := range shelf.Shelves[0].Practicals {
		assert.Empty(t, p.Broken)
		for _, n := range p.Notebooks {
			if n.ID == id {
				assert.NotEmpty(t, n.Broken)
				assert.NotContains(t, n.Broken, "json", "in a person's words")
				continue
			}
			assert.Empty(t, n.Broken, n.Student)
			if n.ID == "" {
				continue
			}
			_, err := a.Notebook(ctx, farrow, n.ID)
			assert.NoError(t, err, n.Student)
			sound++
		}
	}
	assert.Greater(t, sound, 6)
}
