package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"runtime/debug"
	"sync/atomic"
)

// mostTogether is how many writes are committed together at most.
const mostTogether = 128

// job is one Write that waits for the writer.
type job struct {
	ctx  context.Context
	do   func(context.Context, Queries) error
	done chan error
}

// writer runs all writes, one after the other, in transactions that hold as many
// as were waiting: the disk is waited for once for all of them. Each is
// acknowledged after that commit, and never before. What one of them fails at is
// taken back to where it began, and the others stay.
type writer struct {
	db      *sql.DB
	jobs    chan job
	quit    chan struct{} // closed when nothing more is taken
	stopped chan struct{}
	queries func(*sql.Tx) Queries
	// How many transactions there were, and how many writes they held.
	commits, writes atomic.Uint64
	failing         atomic.Pointer[error] // of the last write, where it is the disk's or the file's
}

func newWriter(db *sql.DB, queries func(*sql.Tx) Queries) *writer {
	w := &writer{db: db, jobs: make(chan job, mostTogether), quit: make(chan struct{}), stopped: make(chan struct{}), queries: queries}
	go w.run()
	return w
}

// close lets what waits be written and ends the writer.
func (w *writer) close() {
	close(w.quit)
	<-w.stopped
}

// write waits for its turn and for the disk.
func (w *writer) write(ctx context.Context, do func(context.Context, Queries) error) error {
	j := job{ctx, do, make(chan error, 1)}
	select {
	case w.jobs <- j:
	case <-ctx.Done():
		return ctx.Err()
	case <-w.quit:
		return ErrClosed
	}
	select {
	case err := <-j.done:
		return err
	case <-w.stopped: // it may have come in at the last moment
		select {
		case err := <-j.done:
			return err
		default:
			return ErrClosed
		}
	}
}

func (w *writer) run() {
	defer close(w.stopped)
	for {
		var first job
		select {
		case first = <-w.jobs:
		case <-w.quit:
			select {
			case first = <-w.jobs: // what waited is still written
			default:
				return
			}
		}
		together := []job{first}
		for waiting := true; waiting && len(together) < mostTogether; {
			select {
			case next := <-w.jobs:
				together = append(together, next)
			default:
				waiting = false
			}
		}
		w.commit(together)
	}
}

// commit runs some writes in one transaction and tells each how it went.
func (w *writer) commit(jobs []job) {
	failed := make([]error, len(jobs))
	err := w.transact(jobs, failed)
	w.failing.Store(lasting(append([]error{err}, failed...)))
	for i, j := range jobs {
		switch {
		case failed[i] != nil:
			j.done <- failed[i]
		default:
			j.done <- err
		}
	}
}

func (w *writer) transact(jobs []job, failed []error) error {
	// A request that is given up does not take the others with it.
	ctx := context.WithoutCancel(jobs[0].ctx)
	tx, err := w.db.BeginTx(ctx, nil)
	if err != nil {
		return told(fmt.Errorf("beginning to write: %w", err))
	}
	alone, kept := len(jobs) == 1, 0
	for i, j := range jobs {
		var lost error
		if failed[i], lost = w.one(ctx, tx, j, alone); failed[i] == nil {
			kept++
		}
		if lost != nil { // SQLite has taken all of it back
			for later := i + 1; later < len(jobs); later++ {
				failed[later] = lost
			}
			return errors.Join(lost, tx.Rollback())
		}
	}
	if kept == 0 {
		if err := tx.Rollback(); err != nil && !errors.Is(err, sql.ErrTxDone) {
			return fmt.Errorf("taking back: %w", err)
		}
		return nil
	}
	if err := seal(ctx, tx); err != nil {
		return errors.Join(told(err), tx.Rollback())
	}
	if err := tx.Commit(); err != nil {
		return told(fmt.Errorf("writing to the disk: %w", err))
	}
	w.commits.Add(1)
	w.writes.Add(uint64(kept))
	return nil
}

// one runs a write; beside others it can be taken back by itself. lost tells that
// the whole transaction is gone: after an error of the disk SQLite rolls it back,
// and what came after would be written by itself.
func (w *writer) one(ctx context.Context, tx *sql.Tx, j job, alone bool) (err, lost error) {
	if err := j.ctx.Err(); err != nil {
		return err, nil
	}
	if !alone {
		if _, err := tx.ExecContext(ctx, "SAVEPOINT one"); err != nil {
			return told(err), told(err)
		}
	}
	err = told(safely(func() error { return j.do(context.WithoutCancel(j.ctx), w.queries(tx)) }))
	if alone || errors.Is(err, ErrFull) {
		return err, full(err)
	}
	end := "RELEASE one"
	if err != nil {
		end = "ROLLBACK TO one; RELEASE one"
	}
	if _, back := tx.ExecContext(ctx, end); back != nil {
		back = told(errors.Join(err, back))
		return back, back
	}
	return err, nil
}

// lasting is the first error that the next write will meet as well.
func lasting(all []error) *error {
	for _, err := range all {
		if errors.Is(err, ErrFull) || errors.Is(err, ErrReadOnly) || errors.Is(err, ErrDamaged) {
			return &err
		}
	}
	return nil
}

// full is the error where it says that the disk is.
func full(err error) error {
	if errors.Is(err, ErrFull) {
		return err
	}
	return nil
}

// safely turns a panic of one write into its error.
func safely(do func() error) (err error) {
	defer func() {
		if v := recover(); v != nil {
			err = fmt.Errorf("panic while writing: %v\n%s", v, debug.Stack())
		}
	}()
	return do()
}
