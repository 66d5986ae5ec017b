package store

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"strings"
	"time"

	"github.com/gofrs/flock"

	"exactflask/core/values/finding"
)

// InUseError is returned where another process has the data file open.
type InUseError struct{ Path, Holder string }

// Unwrap returns what is said of it.
func (e *InUseError) Unwrap() error {
	if e.Holder == "" {
		return inUseUnnamed.Fault("", finding.Text(e.Path))
	}
	return inUse.Fault("", finding.Text(e.Path), finding.Text(e.Holder))
}

func (e *InUseError) Error() string { return e.Unwrap().Error() }

// lock is held by the one process that may have a data file open for writing. It
// ends with the process, however that ends.
type lock struct {
	held *flock.Flock
	note string
}

// hold takes the lock of a data file, and notes beside it who has it.
func hold(path string) (*lock, error) {
	l := &lock{flock.New(path+".lock", flock.SetPermissions(0o600)), path + ".owner"}
	got, err := l.held.TryLock()
	if err != nil {
		return nil, cannotOpen(path, err)
	}
	if !got {
		holder, _ := os.ReadFile(l.note)
		return nil, &InUseError{path, strings.TrimSpace(string(holder))}
	}
	return l, nil
}

// sign notes who has the file open. The note is there from when the log beside
// the file (-wal) is until before it is written back: a note without a log means
// that the log was lost.
func (l *lock) sign() error {
	host, _ := os.Hostname()
	who := fmt.Sprintf("process %d on %s, since %s\n", os.Getpid(), host, time.Now().Format(time.RFC3339))
	return os.WriteFile(l.note, []byte(who), 0o600)
}

// unsign takes the note away.
func (l *lock) unsign() error {
	if err := os.Remove(l.note); !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	return nil
}

func (l *lock) release() error { return l.held.Unlock() }

// logLost tells that a process ended without closing the file, and that what it
// had written last is not there.
func (l *lock) logLost(path string) bool {
	_, note := os.Stat(l.note)
	_, log := os.Stat(path + "-wal")
	_, file := os.Stat(path)
	return note == nil && file == nil && errors.Is(log, fs.ErrNotExist)
}

// cannotOpen says what is wrong with the place of a data file, and what to do.
func cannotOpen(path string, err error) error {
	switch {
	case errors.Is(err, fs.ErrPermission) || strings.Contains(err.Error(), "read-only"):
		return notWritable.Fault("", finding.Text(path), finding.Text(err.Error()))
	case errors.Is(err, fs.ErrNotExist):
		return noFolder.Fault("", finding.Text(path))
	}
	return fmt.Errorf("opening %s: %w", path, fullOr(err))
}
