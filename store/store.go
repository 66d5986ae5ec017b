// Package store keeps everything in one SQLite file: people, classes,
// practicals, notebooks and their entries, and sessions.
//
// Writing goes through a single connection, so that two writers never wait on
// locks inside SQLite; reading through a pool. A commit is on the disk before
// it is acknowledged (WAL with synchronous=FULL).
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"runtime"
	"time"

	"github.com/alexedwards/scs/sqlite3store"
	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/pressly/goose/v3"
	"modernc.org/sqlite" // and the driver "sqlite"
	sqlite3 "modernc.org/sqlite/lib"

	"exactflask/store/db"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is an open database. Its methods may be used by many goroutines.
type Store struct {
	write, read      *sql.DB
	writing, reading *db.Queries // prepared on either
	sessions         *sessions
}

// ErrNotFound is returned where a row that was asked for is not there.
var ErrNotFound = errors.New("not found")

// ErrFull is returned where the disk has no room for what was to be written.
var ErrFull = errors.New("the disk is full")

// Open opens the database file, creating it when it is not there, and brings
// it to the newest schema. Close it when done.
func Open(ctx context.Context, path string) (*Store, error) {
	write, err := open(path, "_txlock=immediate", 1)
	if err != nil {
		return nil, err
	}
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, errors.Join(err, write.Close())
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, write, files)
	if err != nil {
		return nil, errors.Join(fmt.Errorf("reading the migrations: %w", err), write.Close())
	}
	if _, err := provider.Up(ctx); err != nil {
		return nil, errors.Join(fmt.Errorf("migrating %s: %w", path, err), write.Close())
	}
	read, err := open(path, "_pragma=query_only(1)", max(4, runtime.NumCPU()))
	if err != nil {
		return nil, errors.Join(err, write.Close())
	}
	s := &Store{write: write, read: read}
	if s.writing, err = db.Prepare(ctx, write); err == nil {
		s.reading, err = db.Prepare(ctx, read)
	}
	if err != nil {
		return nil, errors.Join(fmt.Errorf("preparing queries: %w", err), read.Close(), write.Close())
	}
	known, err := lru.New[string, kept](maxKnownSessions)
	if err != nil {
		return nil, errors.Join(err, read.Close(), write.Close())
	}
	s.sessions = &sessions{known: known, write: sqlite3store.NewWithCleanupInterval(write, 10*time.Minute), read: sqlite3store.NewWithCleanupInterval(read, 0)}
	return s, nil
}

func open(path, option string, connections int) (*sql.DB, error) {
	dsn := (&url.URL{Scheme: "file", Opaque: url.PathEscape(path), RawQuery: option +
		"&_pragma=busy_timeout(5000)&_pragma=journal_mode(WAL)&_pragma=synchronous(FULL)&_pragma=foreign_keys(1)"}).String()
	d, err := sql.Open("sqlite", dsn)
	if err != nil {
		return nil, fmt.Errorf("opening %s: %w", path, err)
	}
	d.SetMaxOpenConns(connections)
	d.SetMaxIdleConns(connections)
	return d, nil
}

// Close finishes what is being written and closes the file.
func (s *Store) Close() error {
	s.sessions.write.StopCleanup()
	return errors.Join(s.read.Close(), s.write.Close())
}

// Read returns the queries that only read.
func (s *Store) Read() Queries { return Queries{s.reading} }

// Write runs do in one transaction. When do returns an error nothing of it is
// kept; otherwise all of it is on the disk when Write returns.
func (s *Store) Write(ctx context.Context, do func(Queries) error) error {
	tx, err := s.write.BeginTx(ctx, nil)
	if err != nil {
		return fmt.Errorf("beginning to write: %w", err)
	}
	if err := do(Queries{s.writing.WithTx(tx)}); err != nil {
		return fullOr(errors.Join(err, tx.Rollback()))
	}
	if err := tx.Commit(); err != nil {
		return fullOr(fmt.Errorf("writing to the disk: %w", err))
	}
	return nil
}

// fullOr adds ErrFull to an error that says so in SQLite's way.
func fullOr(err error) error {
	var told *sqlite.Error
	if errors.As(err, &told) && (told.Code()&0xff == sqlite3.SQLITE_FULL || told.Code() == sqlite3.SQLITE_IOERR_WRITE) {
		return errors.Join(ErrFull, err)
	}
	return err
}

// found turns "no rows" into ErrNotFound and passes everything else on.
func found(err error) error {
	if errors.Is(err, sql.ErrNoRows) {
		return ErrNotFound
	}
	return err
}

// maxKnownSessions is how many sessions are remembered in memory.
const maxKnownSessions = 10_000

// kept is a session as it stands in the file.
type kept struct {
	data   []byte
	expiry time.Time
}

// sessions implements scs.Store: it finds through the readers, writes through
// the writer, and remembers what it wrote. Every change goes through here, so
// what is remembered is what the file holds.
type sessions struct {
	write, read *sqlite3store.SQLite3Store
	known       *lru.Cache[string, kept]
}

func (s *sessions) Find(token string) ([]byte, bool, error) {
	if k, ok := s.known.Get(token); ok && time.Now().Before(k.expiry) {
		return k.data, true, nil
	}
	return s.read.Find(token)
}

func (s *sessions) Commit(token string, data []byte, expiry time.Time) error {
	if err := s.write.Commit(token, data, expiry); err != nil {
		s.known.Remove(token)
		return err
	}
	s.known.Add(token, kept{data, expiry})
	return nil
}

func (s *sessions) Delete(token string) error {
	s.known.Remove(token)
	return s.write.Delete(token)
}

// Sessions returns where sessions are kept. It implements scs.Store.
func (s *Store) Sessions() interface {
	Find(token string) ([]byte, bool, error)
	Commit(token string, data []byte, expiry time.Time) error
	Delete(token string) error
} {
	return s.sessions
}
