package web_test

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"path/filepath"
	"runtime"
	"slices"
	"sync/atomic"
	"testing"
	"time"

	"exactflask/app/people"

	"github.com/stretchr/testify/require"

	"exactflask/app"
	"exactflask/app/access"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/demo"
	"exactflask/store"
)

// BenchmarkEntryToDisk sends single entries through the whole HTTP stack to
// durable storage, and commits bare rows of the same size to SQLite with the
// same settings in the same run. "ratio" is the first by the second; a request
// that writes nothing tells what of it is HTTP.
func BenchmarkEntryToDisk(b *testing.B) {
	s := newSchool(b, io.Discard)
	mira := s.client("mira")
	path := "/api/notebooks/" + s.notebook(mira, "buffer-dosing").ID + "/entries"
	bare, err := sql.Open("sqlite", "file:"+filepath.Join(b.TempDir(),
		"bare.db")+"?_txlock=immediate&_pragma=journal_mode(WAL)&_pragma=synchronous(FULL)")
	require.NoError(b, err)
	defer bare.Close()
	bare.SetMaxOpenConns(1)
	_, err = bare.Exec("CREATE TABLE row (id INTEGER PRIMARY KEY, document TEXT)")
	require.NoError(b, err)

	e := run("bench-entry", 1000, journal.Accurate, "0.00", "23.85")[0]
	e.Part = journal.Remark{Written: "swirled"}
	document, err := json.Marshal(e)
	require.NoError(b, err)
	var whole, alone, empty time.Duration
	n, held := 0, 0 // how many entries the sheet holds that was sent last
	for b.Loop() {
		// The benchmark's loop runs long; the notebook stays that of a lesson.
		if n%60 == 0 {
			held = 0
			path = "/api/notebooks/" + freshNotebook(b, s, "mira") + "/entries"
		}
		n++
		e.ID = fmt.Sprintf("bench-entry-%08d", n)
		begun := time.Now()
		status, body := s.call(mira, "POST", path, map[string]any{"base": held, "entries": []journal.Entry{e}})
		held++
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

// freshNotebook gives a person an empty notebook in a class of its own.
func freshNotebook(b *testing.B, s *school, username string) string {
	ctx := context.Background()
	q := s.store.Read()
	person, err := q.PersonByUsername(ctx, username)
	require.NoError(b, err)
	class, err := s.app.Classes.AddClass(ctx, fmt.Sprintf("class %d", time.Now().UnixNano()))
	require.NoError(b, err)
	require.NoError(b, s.app.Classes.Join(ctx, class, person.ID, access.Student))
	id := fmt.Sprintf("notebook-%d", time.Now().UnixNano())
	require.NoError(b, s.store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		return q.AddNotebook(ctx, store.NewNotebook{ID: id, Class: class, Practical: "buffer-dosing", Revision: 1, Student: person.ID, At: time.Now()})
	}))
	return id
}

// BenchmarkStartUp opens a store that holds 10,000 notebooks of three entries,
// as the program does before it listens.
func BenchmarkStartUp(b *testing.B) {
	ctx := context.Background()
	path := filepath.Join(b.TempDir(), "large.db")
	s, err := store.Open(ctx, path)
	require.NoError(b, err)
	require.NoError(b, s.Write(ctx, func(ctx context.Context, q store.Queries) error {
		must := func(err error) { require.NoError(b, err) }
		now := time.Now()
		must(q.AddClass(ctx, "class", "large", "", now))
		must(q.AddPractical(ctx, practical.Practical{ID: "practical", Revision: 1}, now))
		for i := range 10_000 {
			id := fmt.Sprintf("n-%06d", i)
			must(q.AddPerson(ctx, store.Person{ID: id, Username: id, Name: id, Password: "-"}, now))
			must(q.AddNotebook(ctx, store.NewNotebook{ID: id, Class: "class", Practical: "practical", Revision: 1, Student: id, At: now}))
			err := q.AddEntries(ctx, id, run("entry-"+id, 1, journal.Accurate, "0.00", "20.00"), now)
			must(err)
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

// BenchmarkManyWriters is how many entries a second are acknowledged when 64
// writers, each in a notebook of its own, write as fast as they are answered.
func BenchmarkManyWriters(b *testing.B) {
	s := newSchool(b, io.Discard)
	const writers = 64
	paths, writing := make([]string, writers), make([]*http.Client, writers)
	for i := range paths {
		username := fmt.Sprintf("writer-%d", i)
		_, err := s.app.Classes.AddPerson(context.Background(), people.NewPerson{Username: username, Name: username, Password: demo.Password})
		require.NoError(b, err)
		paths[i] = "/api/notebooks/" + freshNotebook(b, s, username) + "/entries"
		writing[i] = s.client(username)
	}
	before, _ := s.store.Commits()
	var number, at atomic.Int64
	b.SetParallelism(writers / runtime.GOMAXPROCS(0))
	begun := time.Now()
	b.ResetTimer()
	b.RunParallel(func(pb *testing.PB) {
		i, held := int(at.Add(1)-1)%writers, 0
		for pb.Next() {
			n := number.Add(1)
			e := journal.Entry{ID: fmt.Sprintf("many-%08d", n), Device: "d", Clock: 1, At: time.Now(),
				Part: journal.Remark{Written: "swirled"}}
			status, body := s.call(writing[i], "POST", paths[i], map[string]any{"base": held, "entries": []journal.Entry{e}})
			held++
			if status != 200 {
				b.Errorf("%d %s", status, body)
			}
		}
	})
	after, _ := s.store.Commits()
	b.ReportMetric(float64(b.N)/time.Since(begun).Seconds(), "entries/s")
	b.ReportMetric(float64(b.N)/float64(after-before), "entries/commit")
}

// A wrong password takes as long for a name that nobody has as for one that somebody has: names are not told
// apart by it. The middle time of each, in turn.
func BenchmarkWrongPassword(b *testing.B) {
	s := newSchool(b, nil)
	var known, unknown []time.Duration
	for b.Loop() {
		for name, times := range map[string]*[]time.Duration{"mira": &known, "nobody-here": &unknown} {
			begun := time.Now()
			_, err := s.app.People.SignIn(b.Context(), name, "a wrong password")
			require.Error(b, err)
			*times = append(*times, time.Since(begun))
		}
	}
	middle := func(all []time.Duration) float64 {
		slices.Sort(all)
		return float64(all[len(all)/2].Microseconds()) / 1000
	}
	b.ReportMetric(middle(known), "known-ms")
	b.ReportMetric(middle(unknown), "unknown-ms")
}
