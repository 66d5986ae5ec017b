package store_test

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	_ "modernc.org/sqlite" // the driver "sqlite"

	"exactflask/store"
	"exactflask/store/db"
)

var ctx = context.Background()

func open(t testing.TB, path string) *store.Store {
	s, err := store.Open(ctx, path)
	require.NoError(t, err)
	return s
}

// fill puts one student with one notebook of one practical into a store.
func fill(t testing.TB, s *store.Store) {
	require.NoError(t, s.Write(ctx, func(q *db.Queries) error {
		return errors.Join(
			q.AddPerson(ctx, db.AddPersonParams{ID: "p1", Username: "mira", Name: "Mira", Password: "hash"}),
			q.AddClass(ctx, db.AddClassParams{ID: "c1", Name: "Tuesday"}),
			q.Join(ctx, db.JoinParams{ClassID: "c1", PersonID: "p1", Role: "student"}),
			q.AddPractical(ctx, db.AddPracticalParams{ID: "x", Revision: 1, Document: "{}"}),
			q.Assign(ctx, db.AssignParams{ClassID: "c1", PracticalID: "x", Revision: 1}),
			q.AddNotebook(ctx, db.AddNotebookParams{ID: "n1", ClassID: "c1", PracticalID: "x", Revision: 1, StudentID: "p1"}),
		)
	}))
}

func entry(id string) db.AddEntryParams {
	return db.AddEntryParams{ID: id, NotebookID: "n1", Document: `{"id":"` + id + `"}`}
}

func count(t testing.TB, s *store.Store) int {
	rows, err := s.Read().Entries(ctx, "n1")
	require.NoError(t, err)
	return len(rows)
}

// What was written stays, in its order, when the file is opened again; paths
// with signs that mean something in an address are paths all the same.
func TestStaysOverOpenings(t *testing.T) {
	path := filepath.Join(t.TempDir(), "bench 1 & 2?#%20.db")
	s := open(t, path)
	fill(t, s)
	for i := range 5 {
		require.NoError(t, s.Write(ctx, func(q *db.Queries) error { _, err := q.AddEntry(ctx, entry(fmt.Sprint("e", 9-i))); return err }))
	}
	require.NoError(t, s.Close())
	assert.FileExists(t, path)

	s = open(t, path)
	defer func() { assert.NoError(t, s.Close()) }()
	rows, err := s.Read().Entries(ctx, "n1")
	require.NoError(t, err)
	require.Len(t, rows, 5)
	for i, row := range rows {
		assert.Contains(t, row, fmt.Sprint("e", 9-i), "entries come in the order of arrival")
	}
	book, err := s.Read().Notebook(ctx, "n1")
	require.NoError(t, err)
	assert.Equal(t, "Mira", book.StudentName)
	_, err = s.Read().Notebook(ctx, "n2")
	assert.ErrorIs(t, store.Found(err), store.ErrNotFound)
	assert.NoError(t, store.Found(nil))
}

// A transaction is kept whole or not at all.
func TestWholeOrNothing(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "s.db"))
	defer func() { assert.NoError(t, s.Close()) }()
	fill(t, s)
	stop := errors.New("stop")
	for _, c := range []struct {
		name string
		do   func(*db.Queries) error
	}{
		{"an error of the caller", func(*db.Queries) error { return stop }},
		{"a notebook that is not there", func(q *db.Queries) error {
			e := entry("e2")
			e.NotebookID = "nowhere"
			_, err := q.AddEntry(ctx, e)
			return err
		}},
		{"a username that is taken", func(q *db.Queries) error {
			return q.AddPerson(ctx, db.AddPersonParams{ID: "p2", Username: "mira"})
		}},
		{"a person of no class's role", func(q *db.Queries) error {
			return q.Join(ctx, db.JoinParams{ClassID: "c1", PersonID: "p1", Role: "king"})
		}},
	} {
		err := s.Write(ctx, func(q *db.Queries) error {
			if _, err := q.AddEntry(ctx, entry("e1")); err != nil {
				return err
			}
			return c.do(q)
		})
		assert.Error(t, err, c.name)
		assert.NotErrorIs(t, err, store.ErrFull, c.name)
		assert.Zero(t, count(t, s), c.name)
	}
	// The same entry sent twice is kept once, and says so.
	for _, kept := range []int64{1, 0} {
		require.NoError(t, s.Write(ctx, func(q *db.Queries) error {
			n, err := q.AddEntry(ctx, entry("e1"))
			assert.Equal(t, kept, n)
			return err
		}))
	}
	assert.Equal(t, 1, count(t, s))

	_, err := s.Read().AddEntry(ctx, entry("e3"))
	assert.ErrorContains(t, err, "readonly", "readers cannot write")
	gone, cancel := context.WithCancel(ctx)
	cancel()
	assert.ErrorIs(t, s.Write(gone, func(*db.Queries) error { return nil }), context.Canceled)
}

// Twenty writers and twenty readers at once: none waits in vain, none is lost.
func TestWritersAndReadersAtOnce(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "s.db"))
	defer func() { assert.NoError(t, s.Close()) }()
	fill(t, s)
	var all sync.WaitGroup
	for w := range 20 {
		all.Go(func() {
			for i := range 10 {
				assert.NoError(t, s.Write(ctx, func(q *db.Queries) error {
					_, err := q.AddEntry(ctx, entry(fmt.Sprintf("e%d-%d", w, i)))
					return err
				}))
			}
		})
		all.Go(func() {
			seen := 0
			for range 10 {
				rows, err := s.Read().Entries(ctx, "n1")
				assert.NoError(t, err)
				assert.GreaterOrEqual(t, len(rows), seen, "what was there stays")
				seen = len(rows)
			}
		})
	}
	all.Wait()
	assert.Equal(t, 200, count(t, s))
}

// A session is found while it lasts, by this process and by the next, and is
// gone at once for both when it is ended.
func TestSessions(t *testing.T) {
	path := filepath.Join(t.TempDir(), "s.db")
	s := open(t, path)
	other := open(t, path)
	defer func() { assert.NoError(t, errors.Join(s.Close(), other.Close())) }()
	find := func(of *store.Store, token, want string) {
		data, found, err := of.Sessions().Find(token)
		require.NoError(t, err)
		assert.Equal(t, want != "", found, token)
		assert.Equal(t, want, string(data), token)
	}
	require.NoError(t, s.Sessions().Commit("t1", []byte("one"), time.Now().Add(time.Hour)))
	require.NoError(t, s.Sessions().Commit("t2", []byte("two"), time.Now().Add(-time.Second)))
	find(s, "t1", "one")
	find(other, "t1", "one")
	find(s, "t2", "") // is over
	find(s, "t3", "") // never was
	require.NoError(t, s.Sessions().Commit("t1", []byte("new"), time.Now().Add(time.Hour)))
	find(s, "t1", "new")
	find(other, "t1", "new")
	require.NoError(t, s.Sessions().Delete("t1"))
	find(s, "t1", "")
	find(other, "t1", "")
}

// A file that is no database, a folder that is not there, and a folder are
// refused with their names, and are left as they were.
func TestRefusals(t *testing.T) {
	dir := t.TempDir()
	text := filepath.Join(dir, "report.txt")
	require.NoError(t, os.WriteFile(text, []byte(strings.Repeat("not a database\n", 100)), 0o600))

	for _, path := range []string{text, filepath.Join(dir, "nowhere", "s.db"), dir} {
		_, err := store.Open(ctx, path)
		assert.ErrorContains(t, err, path)
	}
	kept, err := os.ReadFile(text)
	require.NoError(t, err)
	assert.Equal(t, strings.Repeat("not a database\n", 100), string(kept))
}

// Every table keeps its promises: the rows of one that goes away do not stay
// behind, and the file is sound after all that was done to it.
func TestTheFileIsSound(t *testing.T) {
	path := filepath.Join(t.TempDir(), "s.db")
	s := open(t, path)
	fill(t, s)
	require.NoError(t, s.Close())
	d, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	defer func() { assert.NoError(t, d.Close()) }()
	for pragma, want := range map[string]string{"integrity_check": "ok", "journal_mode": "wal"} {
		var got string
		require.NoError(t, d.QueryRow("PRAGMA "+pragma).Scan(&got))
		assert.Equal(t, want, got, pragma)
	}
	rows, err := d.Query("PRAGMA foreign_key_check")
	require.NoError(t, err)
	defer func() { assert.NoError(t, rows.Close()) }()
	assert.False(t, rows.Next(), "a row that belongs to nothing")
	assert.NoError(t, rows.Err())
}

// A disk without room is told apart from every other trouble, and what was
// acknowledged before stays.
func TestFull(t *testing.T) {
	path := filepath.Join(t.TempDir(), "s.db")
	s := open(t, path)
	defer func() { assert.NoError(t, s.Close()) }()
	fill(t, s)
	require.NoError(t, s.Limit(ctx, 8))
	var err error
	kept := 0
	for i := 0; i < 10_000 && err == nil; i++ {
		e := entry(fmt.Sprint("e", i))
		e.Document = `{"text":"` + strings.Repeat("a long remark ", 100) + `"}`
		if err = s.Write(ctx, func(q *db.Queries) error { _, err := q.AddEntry(ctx, e); return err }); err == nil {
			kept++
		}
	}
	assert.ErrorIs(t, err, store.ErrFull)
	assert.Positive(t, kept)
	assert.Equal(t, kept, count(t, s))
}
