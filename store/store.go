// Package store keeps everything in one SQLite file: people, classes,
// practicals, notebooks and their entries, and sessions.
//
// Writing goes through a single connection and one goroutine, which commits
// together what waits together; reading through a pool. A commit is on the disk
// before it is acknowledged (WAL with synchronous=FULL).
package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"runtime"
	"syscall"
	"time"

	"github.com/alexedwards/scs/sqlite3store"
	lru "github.com/hashicorp/golang-lru/v2"
	"modernc.org/sqlite" // and the driver "sqlite"
	sqlite3 "modernc.org/sqlite/lib"

	"exactflask/core/values/finding"
	"exactflask/store/db"
)

// Store is an open database. Its methods may be used by many goroutines.
type Store struct {
	write, read      *sql.DB
	writing, reading *db.Queries // prepared on either
	writer           *writer
	lock             *lock
	sessions         *sessions
}

// ErrNotFound is returned where a row that was asked for is not there.
var ErrNotFound = errors.New("not found")

// ErrClosed is returned for a write after the file was closed.
var ErrClosed = errors.New("the data file is closed")

// ErrFull is returned where the disk has no room for what was to be written.
var ErrFull error = isFull.Fault("")

// ErrDamaged is returned where pages of the data file cannot be read.
var ErrDamaged error = isDamaged.Fault("")

// ErrReadOnly is returned where the data file cannot be written to any more.
var ErrReadOnly error = isReadOnly.Fault("")

// LogLostError is returned where the file beside the data file that holds what
// was written last (-wal) is not there, and should be.
type LogLostError struct{ Path string }

// Unwrap returns what is said of it.
func (e *LogLostError) Unwrap() error { return logIsLost.Fault("", finding.Text(e.Path)) }

func (e *LogLostError) Error() string { return e.Unwrap().Error() }

// Open opens the database file, creating it when it is not there, readable by
// its owner only, and brings it to the newest schema. No other process may have
// it open. Close it when done.
//
// Errors: *InUseError, *NewerError, *LogLostError, ErrDamaged, ErrReadOnly, ErrFull.
func Open(ctx context.Context, path string) (*Store, error) {
	l, err := hold(path)
	if err != nil {
		return nil, err
	}
	if err := halfway(path); err != nil {
		return nil, errors.Join(err, l.release())
	}
	if l.logLost(path) {
		return nil, errors.Join(&LogLostError{path}, l.release())
	}
	s, err := openHeld(ctx, path)
	if err != nil {
		return nil, errors.Join(told(err), l.release())
	}
	if err := l.sign(); err != nil {
		return nil, errors.Join(cannotOpen(path, err), s.Close(), l.release())
	}
	s.lock = l
	return s, nil
}

// Beside opens a data file that another process serves, for a short piece of work
// on people, classes and practicals; SQLite lets one of them write at a time.
// Notebooks are not written beside: the server remembers those that it has read.
//
// Errors: as Open, but for *InUseError; and where the file is not of this
// program's schema.
func Beside(ctx context.Context, path string) (*Store, error) {
	v, err := schemaOf(ctx, path)
	if err != nil {
		return nil, told(err)
	}
	if v != Schema {
		return nil, otherSchema.Fault("", finding.Text(path), finding.Count(int(v)), finding.Count(Schema))
	}
	s, err := openHeld(ctx, path)
	return s, told(err)
}

// private makes the files of a database readable by their owner only; SQLite
// gives those that it makes beside it the same mode.
func private(path string) error {
	f, err := os.OpenFile(path, os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return cannotOpen(path, err)
	}
	err = f.Close()
	for _, end := range []string{"", "-wal", "-shm"} {
		if was := os.Chmod(path+end, 0o600); was != nil && !errors.Is(was, fs.ErrNotExist) {
			err = errors.Join(err, cannotOpen(path, was))
		}
	}
	return err
}

func openHeld(ctx context.Context, path string) (*Store, error) {
	if err := private(path); err != nil {
		return nil, err
	}
	write, err := open(path, "_txlock=immediate", 1)
	if err != nil {
		return nil, err
	}
	if err := migrate(ctx, write, path); err != nil {
		return nil, errors.Join(err, write.Close())
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
	s.writer = newWriter(write, func(tx *sql.Tx) Queries { return Queries{s.writing.WithTx(tx)} })
	known, err := lru.New[string, kept](maxKnownSessions)
	if err != nil {
		s.writer.close()
		return nil, errors.Join(err, read.Close(), write.Close())
	}
	s.sessions = &sessions{known: known, write: sqlite3store.NewWithCleanupInterval(write, 10*time.Minute),
		read: sqlite3store.NewWithCleanupInterval(read, 0)}
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
	s.writer.close()
	if s.lock == nil {
		return errors.Join(s.read.Close(), s.write.Close())
	}
	return errors.Join(s.lock.unsign(), s.read.Close(), s.write.Close(), s.lock.release())
}

// Read returns the queries that only read.
func (s *Store) Read() Queries { return Queries{s.reading} }

// Write runs do in a transaction, which others that wait at the same time share.
// When do returns an error nothing of it is kept; otherwise all of it is on the
// disk when Write returns. do runs on the writer, one at a time: it does nothing
// but write, and never calls Write itself.
//
// Its context is not cancelled with the caller's once it runs: SQLite would take back
// what the others wrote as well.
func (s *Store) Write(ctx context.Context, do func(context.Context, Queries) error) error {
	return s.writer.write(ctx, do)
}

// Ready tells whether the file can be read, and whether what was written last
// failed because the disk is full, read-only or damaged.
func (s *Store) Ready(ctx context.Context) error {
	if _, err := s.reading.CountClasses(ctx); err != nil {
		return told(err)
	}
	if failing := s.writer.failing.Load(); failing != nil {
		return *failing
	}
	return nil
}

// Commits is how many transactions were committed since the file was opened, and
// how many writes they held.
func (s *Store) Commits() (transactions, writes uint64) {
	return s.writer.commits.Load(), s.writer.writes.Load()
}

// fullOr adds ErrFull to an error that says so in SQLite's or the system's way.
func fullOr(err error) error {
	var said *sqlite.Error
	full := errors.As(err, &said) && (said.Code()&0xff == sqlite3.SQLITE_FULL || said.Code() == sqlite3.SQLITE_IOERR_WRITE)
	if full || errors.Is(err, syscall.ENOSPC) {
		return errors.Join(ErrFull, err)
	}
	return err
}

// unreadable tells that pages of a file cannot be read as a database.
func unreadable(err error) bool {
	var said *sqlite.Error
	return errors.As(err, &said) && (said.Code()&0xff == sqlite3.SQLITE_CORRUPT || said.Code()&0xff == sqlite3.SQLITE_NOTADB)
}

// Why adds to an error of reading or writing what a person can do about it:
// ErrDamaged, ErrReadOnly or ErrFull where it is one.
func Why(err error) error { return told(err) }

// told adds to an error what a person can do about it.
func told(err error) error {
	var said *sqlite.Error
	switch {
	case unreadable(err):
		return errors.Join(ErrDamaged, err)
	case errors.As(err, &said) && (said.Code()&0xff == sqlite3.SQLITE_READONLY || said.Code()&0xff == sqlite3.SQLITE_CANTOPEN):
		return errors.Join(ErrReadOnly, err)
	}
	return fullOr(err)
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
	if err := s.write.Commit(token, data, expiry); err != nil && !errors.Is(told(err), ErrFull) && !errors.Is(told(err), ErrReadOnly) {
		s.known.Remove(token)
		return err
	} // a session that the disk has no room for lasts as long as the program: reading goes on
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
