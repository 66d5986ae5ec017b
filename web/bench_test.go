package web_test

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"io"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"exactflask/app"
	"exactflask/core/journal"
	"exactflask/store"
	"exactflask/store/db"
)

// BenchmarkEntryToDisk sends single entries through the whole HTTP stack to
// durable storage, and commits bare rows of the same size to SQLite with the
// same settings in the same run. "ratio" is the first by the second; a request
// that writes nothing tells what of it is HTTP.
func BenchmarkEntryToDisk(b *testing.B) {
	s := newSchool(b, io.Discard)
	mira := s.client("mira")
	path := "/api/notebooks/" + s.notebook(mira, "buffer-dosing").ID + "/entries"
	bare, err := sql.Open("sqlite", "file:"+filepath.Join(b.TempDir(), "bare.db")+"?_txlock=immediate&_pragma=journal_mode(WAL)&_pragma=synchronous(FULL)")
	require.NoError(b, err)
	defer bare.Close()
	bare.SetMaxOpenConns(1)
	_, err = bare.Exec("CREATE TABLE row (id INTEGER PRIMARY KEY, document TEXT)")
	require.NoError(b, err)

	e := run("bench-entry", 1000, journal.Accurate, "0.00", "23.85")[0]
	e.Kind, e.Trial, e.Note = journal.KindNote, nil, &journal.Remark{Text: "swirled"}
	document, err := json.Marshal(e)
	require.NoError(b, err)
	var whole, alone, empty time.Duration
	n := 0
	for b.Loop() {
		// The benchmark's loop runs long; the notebook stays that of a lesson.
		if n%60 == 0 {
			path = "/api/notebooks/" + freshNotebook(b, s) + "/entries"
		}
		n++
		e.ID = fmt.Sprintf("bench-entry-%08d", n)
		begun := time.Now()
		status, body := s.call(mira, "POST", path, entries{[]journal.Entry{e}})
		whole += time.Since(begun)
		require.Equal(b, 200, status, body)
		begun = time.Now()
		tx, err := bare.Begin()
		require.NoError(b, err)
		_, err = tx.Exec("INSERT INTO row (document) VALUES (?)", string(document))
		require.NoError(b, err)
		require.NoError(b, tx.Commit())
		alone += time.Since(begun)
		begun = time.Now()
		s.call(mira, "GET", "/api/me", nil)
		empty += time.Since(begun)
	}
	b.ReportMetric(float64(empty.Microseconds())/float64(n), "µs/request-without-writing")
	b.ReportMetric(float64(whole.Microseconds())/float64(n), "µs/entry")
	b.ReportMetric(float64(alone.Microseconds())/float64(n), "µs/bare-commit")
	b.ReportMetric(float64(whole)/float64(alone), "ratio")
}

// freshNotebook gives Mira an empty notebook in a class of its own.
func freshNotebook(b *testing.B, s *school) string {
	ctx := context.Background()
	q := s.store.Read()
	person, err := q.PersonByUsername(ctx, "mira")
	require.NoError(b, err)
	class, err := s.app.AddClass(ctx, fmt.Sprintf("class %d", time.Now().UnixNano()))
	require.NoError(b, err)
	require.NoError(b, s.app.Join(ctx, class, person.ID, app.Student))
	id := fmt.Sprintf("notebook-%d", time.Now().UnixNano())
	require.NoError(b, s.store.Write(ctx, func(q *db.Queries) error {
		return q.AddNotebook(ctx, db.AddNotebookParams{ID: id, ClassID: class, PracticalID: "buffer-dosing", Revision: 1, StudentID: person.ID, Started: "2026-11-24T09:00:00Z"})
	}))
	return id
}

// BenchmarkStartUp opens a store that holds 10,000 notebooks of five entries,
// as the program does before it listens.
func BenchmarkStartUp(b *testing.B) {
	ctx := context.Background()
	path := filepath.Join(b.TempDir(), "large.db")
	s, err := store.Open(ctx, path)
	require.NoError(b, err)
	require.NoError(b, s.Write(ctx, func(q *db.Queries) error {
		must := func(err error) { require.NoError(b, err) }
		must(q.AddClass(ctx, db.AddClassParams{ID: "class", Name: "large"}))
		must(q.AddPractical(ctx, db.AddPracticalParams{ID: "practical", Revision: 1, Document: "{}"}))
		for i := range 10_000 {
			id := fmt.Sprintf("n-%06d", i)
			must(q.AddPerson(ctx, db.AddPersonParams{ID: id, Username: id, Name: id, Password: "-"}))
			must(q.AddNotebook(ctx, db.AddNotebookParams{ID: id, ClassID: "class", PracticalID: "practical", Revision: 1, StudentID: id}))
			for k := range 5 {
				_, err := q.AddEntry(ctx, db.AddEntryParams{ID: fmt.Sprintf("%s-%d", id, k), NotebookID: id, Document: `{"kind":"note"}`})
				must(err)
			}
		}
		return nil
	}))
	require.NoError(b, s.Close())
	for b.Loop() {
		s, err := store.Open(ctx, path)
		require.NoError(b, err)
		_, err = app.New(s, false)
		require.NoError(b, err)
		require.NoError(b, s.Close())
	}
}
