package store_test

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	_ "modernc.org/sqlite" // the driver "sqlite"

	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/store"
)

var ctx = context.Background()

func open(t testing.TB, path string) *store.Store {
	s, err := store.Open(ctx, path)
	require.NoError(t, err)
	return s
}

// fill puts one student with one notebook of one practical into a store.
func fill(t testing.TB, s *store.Store) {
	require.NoError(t, s.Write(ctx, func(ctx context.Context, q store.Queries) error {
		p := practical.Practical{ID: "x", Revision: 1}
		return errors.Join(
			q.AddPerson(ctx, store.Person{ID: "p1", Username: "mira", Name: "Mira", Password: "hash"}, now),
			q.AddClass(ctx, "c1", "Tuesday", "", now),
			q.Join(ctx, "c1", "p1", "student", now),
			q.AddPractical(ctx, p, now),
			q.Assign(ctx, "c1", "x", 1, now),
			q.AddNotebook(ctx, store.NewNotebook{ID: "n1", Class: "c1", Practical: "x", Revision: 1, Student: "p1", At: now}),
		)
	}))
}

var now = time.Date(2026, 11, 24, 10, 0, 0, 0, time.UTC)

func entry(id string) []journal.Entry {
	return []journal.Entry{{ID: id, Device: "d", Clock: 1, At: now, Part: journal.Remark{Written: "swirled"}}}
}

func add(s *store.Store, notebook string, entries []journal.Entry) error {
	return s.Write(ctx, func(ctx context.Context, q store.Queries) error {
		err := q.AddEntries(ctx, notebook, entries, now)
		return err
	})
}

func count(t testing.TB, s *store.Store) int {
	book, err := s.Read().Notebook(ctx, "n1")
	require.NoError(t, err)
	return len(book.Entries)
}

// What was written stays, in its order, when the file is opened again; paths
// with signs that mean something in an address are paths all the same.
func TestStaysOverOpenings(t *testing.T) {
	path := filepath.Join(t.TempDir(), "bench 1 & 2?#%20.db")
	s := open(t, path)
	fill(t, s)
	for i := range 5 {
		require.NoError(t, add(s, "n1", entry(fmt.Sprint("e", 9-i))))
	}
	require.NoError(t, s.Close())
	assert.FileExists(t, path)

	s = open(t, path)
	defer func() { assert.NoError(t, s.Close()) }()
	book, err := s.Read().Notebook(ctx, "n1")
	require.NoError(t, err)
	require.Len(t, book.Entries, 5)
	for i, e := range book.Entries {
		assert.Equal(t, fmt.Sprint("e", 9-i), e.ID, "entries come in the order of arrival")
	}
	assert.Equal(t, "Mira", book.StudentName)
	_, err = s.Read().Notebook(ctx, "n2")
	assert.ErrorIs(t, err, store.ErrNotFound)
}

// A transaction is kept whole or not at all.
func TestWholeOrNothing(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "s.db"))
	defer func() { assert.NoError(t, s.Close()) }()
	fill(t, s)
	stop := errors.New("stop")
	for _, c := range []struct {
		name string
		do   func(context.Context, store.Queries) error
	}{
		{"an error of the caller", func(context.Context, store.Queries) error { return stop }},
		{"a notebook that is not there", func(ctx context.Context, q store.Queries) error {
			err := q.AddEntries(ctx, "nowhere", entry("e2"), now)
			return err
		}},
		{"a username that is taken", func(ctx context.Context, q store.Queries) error {
			return q.AddPerson(ctx, store.Person{ID: "p2", Username: "mira"}, now)
		}},
		{"a person of no class's role", func(ctx context.Context, q store.Queries) error {
			return q.Join(ctx, "c1", "p1", "king", now)
		}},
	} {
		err := s.Write(ctx, func(ctx context.Context, q store.Queries) error {
			if err := q.AddEntries(ctx, "n1", entry("e1"), now); err != nil {
				return err
			}
			return c.do(ctx, q)
		})
		assert.Error(t, err, c.name)
		assert.NotErrorIs(t, err, store.ErrFull, c.name)
		assert.Zero(t, count(t, s), c.name)
	}
	assert.NoError(t, add(s, "n1", entry("e1")))
	assert.Equal(t, 1, count(t, s))
	err := s.Read().AddEntries(ctx, "n1", entry("e3"), now)
	assert.ErrorContains(t, err, "readonly", "readers cannot write")
	gone, cancel := context.WithCancel(ctx)
	cancel()
	assert.ErrorIs(t, s.Write(gone, func(context.Context, store.Queries) error { return nil }), context.Canceled)
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
				assert.NoError(t, add(s, "n1", entry(fmt.Sprintf("e%d-%d", w, i))))
			}
		})
		all.Go(func() {
			seen := 0
			for range 10 {
				book, err := s.Read().Notebook(ctx, "n1")
				assert.NoError(t, err)
				assert.GreaterOrEqual(t, len(book.Entries), seen, "what was there stays")
				seen = len(book.Entries)
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
	other, err := store.Beside(ctx, path)
	require.NoError(t, err)
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
		e[0].Part = journal.Remark{Written: strings.Repeat("a long remark ", 100)}
		if err = add(s, "n1", e); err == nil {
			kept++
		}
	}
	assert.ErrorIs(t, err, store.ErrFull)
	assert.Positive(t, kept)
	assert.Equal(t, kept, count(t, s))
}

// Writers that wait at the same time share a commit; what one of them fails at is
// taken back alone, and nobody is acknowledged for what is not there.
func TestWritersShareCommitsAtOnce(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "shared.db"))
	fill(t, s)
	before, _ := s.Commits()
	gate := make(chan struct{})
	held := make(chan error, 1)
	go func() { // while this one is being written the others come to wait
		held <- s.Write(context.Background(), func(context.Context, store.Queries) error { <-gate; return nil })
	}()
	time.Sleep(20 * time.Millisecond)
	const writers = 60
	results := make([]error, writers)
	var all sync.WaitGroup
	for i := range writers {
		all.Go(func() {
			results[i] = s.Write(context.Background(), func(ctx context.Context, q store.Queries) error {
				if err := q.AddEntries(context.Background(), "n1", entry(fmt.Sprintf("shared-%05d", i)), now); err != nil {
					return err
				}
				switch i % 10 {
				case 3:
					return errors.New("changed my mind")
				case 7:
					panic("a fault in one writer")
				}
				return nil
			})
		})
	}
	time.Sleep(50 * time.Millisecond)
	close(gate)
	all.Wait()
	require.NoError(t, <-held)
	kept := 0
	for i, err := range results {
		if i%10 == 3 || i%10 == 7 {
			assert.Error(t, err)
			continue
		}
		assert.NoError(t, err)
		kept++
	}
	assert.Equal(t, kept, count(t, s), "what was acknowledged, and nothing else")
	after, _ := s.Commits()
	assert.LessOrEqual(t, after-before, uint64(4), "the disk was waited for a few times, and not sixty")
	require.NoError(t, s.Close())
	assert.ErrorIs(t, s.Write(ctx, func(context.Context, store.Queries) error { return nil }), store.ErrClosed)
}

// Callers who go away in the middle of a write harm nobody who writes beside them.
func TestCallersWhoGoAwayAtOnce(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "s.db"))
	fill(t, s)
	defer func() { assert.NoError(t, s.Close()) }()
	var all sync.WaitGroup
	var stayed atomic.Int64
	for i := range 16 {
		all.Go(func() {
			for n := range 10 {
				given, cancel := context.WithCancel(ctx)
				some := entry(fmt.Sprintf("going-%02d-%02d", i, n))
				if i%2 == 0 {
					for k := range 100 {
						some = append(some, entry(fmt.Sprintf("going-%02d-%02d-%03d", i, n, k))...)
					}
					time.AfterFunc(time.Duration(rand.IntN(20_000))*time.Microsecond, cancel)
				}
				err := s.Write(given, func(ctx context.Context, q store.Queries) error {
					err := q.AddEntries(ctx, "n1", some, now)
					return err
				})
				if i%2 == 1 {
					assert.NoError(t, err, "nobody broke this one off")
					stayed.Add(1)
				}
				cancel()
			}
		})
	}
	all.Wait()
	assert.GreaterOrEqual(t, int64(count(t, s)), stayed.Load())
}

// The log of who changed what is only ever added to.
func TestActsAreKept(t *testing.T) {
	path := filepath.Join(t.TempDir(), "acts.db")
	s := open(t, path)
	fill(t, s)
	require.NoError(t, s.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return q.AddAct(ctx, store.Act{What: "added", Class: "c1", Who: "p1", At: now})
	}))
	require.NoError(t, s.Close())
	d, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	for _, change := range []string{"UPDATE acts SET what = 'removed'", "DELETE FROM acts"} {
		_, err := d.Exec(change)
		assert.ErrorContains(t, err, "only ever added", change)
	}
	require.NoError(t, d.Close())
}

// What was handed in cannot be changed or taken away, also by whoever has the file open;
// that it was returned is written once.
func TestHandedInIsFrozen(t *testing.T) {
	path := filepath.Join(t.TempDir(), "frozen.db")
	s := open(t, path)
	fill(t, s)
	sub := store.Submission{Notebook: "n1", Version: 1, Person: "p1", Handed: now, Late: true, Entries: 3, Hash: "h", Receipt: "r"}
	in := func(ctx context.Context, q store.Queries) error { return q.HandIn(ctx, sub, []byte(`{"journal":[]}`)) }
	require.NoError(t, s.Write(ctx, in))
	require.Error(t, s.Write(ctx, in), "the same version twice")
	document, err := s.Read().SubmissionDocument(ctx, "n1", 1)
	require.NoError(t, err)
	assert.Equal(t, `{"journal":[]}`, string(document))
	_, err = s.Read().SubmissionDocument(ctx, "n1", 2)
	require.ErrorIs(t, err, store.ErrNotFound)
	back := func(reason string) (done bool) {
		require.NoError(t, s.Write(ctx, func(ctx context.Context, q store.Queries) (err error) {
			done, err = q.ReturnSubmission(ctx, "n1", 1, "p1", reason, now)
			return err
		}))
		return done
	}
	assert.True(t, back("first"))
	assert.False(t, back("second"))
	kept, err := s.Read().Submissions(ctx, "n1")
	require.NoError(t, err)
	sub.By, sub.Returned, sub.ReturnedBy, sub.Reason = "Mira", now, "Mira", "first"
	assert.Equal(t, []store.Submission{sub}, kept)
	last, err := s.Read().HandedInOfClass(ctx, "c1", "x")
	require.NoError(t, err)
	assert.True(t, last["n1"].Returned)
	require.NoError(t, s.Close())
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	defer db.Close()
	for _, change := range []string{"UPDATE submissions SET document = x'00'", "UPDATE submissions SET handed = ''",
		"UPDATE submissions SET late = 0", "UPDATE submissions SET returned = ''", "DELETE FROM submissions"} {
		_, err := db.Exec(change)
		assert.Error(t, err, change)
	}
}

// The clock goes back: what comes in then is not older than what came in before, the chain holds,
// and other notebooks go by the clock.
func TestTheClockGoesBack(t *testing.T) {
	path := filepath.Join(t.TempDir(), "clock.db")
	s := open(t, path)
	fill(t, s)
	at := func(id string, now time.Time) {
		require.NoError(t, s.Write(ctx, func(ctx context.Context, q store.Queries) error { return q.AddEntries(ctx, "n1", entry(id), now) }))
	}
	at("entry-1", now)
	at("entry-2", now.Add(-3*time.Hour))
	at("entry-3", now.Add(time.Second))
	links, err := s.Read().Chain(ctx, "n1")
	require.NoError(t, err)
	for i, want := range []time.Time{now, now, now.Add(time.Second)} {
		assert.True(t, links[i].Received.Equal(want), "%d: %v", i, links[i].Received)
	}
	newest, err := s.Read().Newest(ctx)
	require.NoError(t, err)
	assert.True(t, newest.Equal(now.Add(time.Second)))
	require.NoError(t, s.Close())
	v, err := store.Verify(ctx, path)
	require.NoError(t, err)
	assert.Empty(t, v.Problems)
}
