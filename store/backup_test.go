package store_test

import (
	"bytes"
	"compress/gzip"
	"database/sql"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/store"
)

// change works on a data file behind the program's back.
func change(t testing.TB, path string, statements ...string) {
	d, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	for _, s := range statements {
		_, err := d.Exec(s)
		require.NoError(t, err, s)
	}
	require.NoError(t, d.Close())
}

func number(t testing.TB, path, query string) (n int) {
	d, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	require.NoError(t, d.QueryRow(query).Scan(&n))
	require.NoError(t, d.Close())
	return n
}

// kept unpacks the file that the program of an earlier schema wrote as its demo.
func kept(t testing.TB, schema int) string {
	packed, err := os.ReadFile(fmt.Sprintf("testdata/schema-%d.db.gz", schema))
	require.NoError(t, err)
	unpacked, err := gzip.NewReader(bytes.NewReader(packed))
	require.NoError(t, err)
	text, err := io.ReadAll(unpacked)
	require.NoError(t, err)
	path := filepath.Join(t.TempDir(), "kept.db")
	require.NoError(t, os.WriteFile(path, text, 0o644))
	return path
}

// Files that earlier programs wrote open under today's schema with all that was
// in them, chained, in ink, and readable by their owner only.
func TestEarlierSchemas(t *testing.T) {
	for schema := 1; schema <= 5; schema++ {
		path := kept(t, schema)
		before, err := store.Verify(ctx, path)
		require.NoError(t, err)
		require.Len(t, before.Problems, 1)
		assert.Equal(t, fmt.Sprintf("store.older file=%d known=%d", schema, store.Schema), before.Problems[0].String())
		entries, notebooks := number(t, path, "SELECT count(*) FROM entries"), number(t, path, "SELECT count(*) FROM notebooks")
		require.NoError(t, open(t, path).Close())
		after, err := store.Verify(ctx, path)
		require.NoError(t, err)
		assert.Empty(t, after.Problems, schema)
		assert.Equal(t, []int{store.Schema, entries, notebooks}, []int{int(after.Schema), after.Entries, after.Notebooks}, schema)
		assert.Positive(t, entries)
		d, err := sql.Open("sqlite", path)
		require.NoError(t, err)
		_, err = d.Exec("UPDATE entries SET received = ''")
		assert.ErrorContains(t, err, "only ever added")
		require.NoError(t, d.Close())
		mode, err := os.Stat(path)
		require.NoError(t, err)
		assert.Equal(t, fs.FileMode(0o600), mode.Mode().Perm())
	}
}

// What cannot be opened says why, and what to do; and is left as it is.
func TestWhatCannotBeOpened(t *testing.T) {
	made := func(t *testing.T) string {
		path := filepath.Join(t.TempDir(), "s.db")
		s := open(t, path)
		fill(t, s)
		for i := range 300 {
			require.NoError(t, add(s, "n1", entry(fmt.Sprintf("entry-%04d", i))))
		}
		require.NoError(t, s.Close())
		return path
	}
	t.Run("newer", func(t *testing.T) {
		path := made(t)
		change(t, path, "INSERT INTO goose_db_version (version_id, is_applied) VALUES (99, 1)")
		_, err := store.Open(ctx, path)
		var newer *store.NewerError
		require.ErrorAs(t, err, &newer)
		assert.Equal(t, []int64{99, store.Schema}, []int64{newer.File, newer.Known})
		assert.ErrorContains(t, err, "99")
		_, err = store.Beside(ctx, path)
		assert.Error(t, err)
		_, _, err = store.Restore(ctx, path, filepath.Join(t.TempDir(), "to.db"))
		assert.ErrorAs(t, err, &newer)
	})
	t.Run("in use", func(t *testing.T) {
		path := made(t)
		s := open(t, path)
		_, err := store.Open(ctx, path)
		var used *store.InUseError
		require.ErrorAs(t, err, &used)
		assert.Contains(t, used.Holder, fmt.Sprintf("process %d on ", os.Getpid()))
		_, _, err = store.Restore(ctx, path, path)
		require.ErrorAs(t, err, &used)
		require.NoError(t, s.Close())
		require.NoError(t, open(t, path).Close())
	})
	t.Run("damaged", func(t *testing.T) {
		path := made(t)
		text, err := os.ReadFile(path)
		require.NoError(t, err)
		for at := 4096 * 8; at < len(text); at += 4096 {
			copy(text[at:at+200], bytes.Repeat([]byte{0xa5}, 200))
		}
		require.NoError(t, os.WriteFile(path, text, 0o600))
		v, err := store.Verify(ctx, path)
		require.NoError(t, err)
		assert.NotEmpty(t, v.Problems)
		to := filepath.Join(t.TempDir(), "to.db")
		_, _, err = store.Restore(ctx, path, to)
		assert.ErrorContains(t, err, "store.not-restored")
		assert.NoFileExists(t, to)
		s, err := store.Open(ctx, path)
		if err == nil { // the first pages are sound: what lies in the others says so
			_, err = s.Read().Notebook(ctx, "n1")
			assert.ErrorIs(t, err, store.ErrDamaged)
			require.NoError(t, s.Close())
			return
		}
		assert.ErrorIs(t, err, store.ErrDamaged)
	})
	t.Run("no log", func(t *testing.T) {
		path := made(t)
		running := open(t, path)
		require.NoError(t, add(running, "n1", entry("only-in-the-log")))
		there := filepath.Join(t.TempDir(), "killed.db")
		for _, end := range []string{"", ".owner"} { // as it stands when the process is killed, less the log
			text, err := os.ReadFile(path + end)
			require.NoError(t, err)
			require.NoError(t, os.WriteFile(there+end, text, 0o600))
		}
		require.NoError(t, running.Close())
		_, err := store.Open(ctx, there)
		var lost *store.LogLostError
		require.ErrorAs(t, err, &lost)
		assert.EqualError(t, err, "store.log-lost path="+there)
		require.NoError(t, os.Remove(there+".owner"))
		require.NoError(t, open(t, there).Close())
	})
	t.Run("read-only", func(t *testing.T) {
		if os.Getuid() == 0 {
			t.Skip("root may write everywhere; the fault campaign mounts a read-only disk")
		}
		path := made(t)
		require.NoError(t, os.Chmod(filepath.Dir(path), 0o500))
		_, err := store.Open(ctx, path)
		assert.ErrorContains(t, err, "writable")
	})
}

// A backup made while entries are written holds every entry that was acknowledged
// before, is sound, and can be put in the place of what there is.
func TestBackup(t *testing.T) {
	dir := t.TempDir()
	path, to := filepath.Join(dir, "s.db"), filepath.Join(dir, "copy.db")
	s := open(t, path)
	fill(t, s)
	var written atomic.Int64
	stop, stopped := make(chan struct{}), make(chan struct{})
	go func() {
		defer close(stopped)
		for i := 0; ; i++ {
			select {
			case <-stop:
				return
			default:
			}
			if add(s, "n1", entry(fmt.Sprintf("entry-%06d", i))) == nil {
				written.Add(1)
			}
		}
	}()
	require.Eventually(t, func() bool { return written.Load() > 50 }, 10*time.Second, time.Millisecond)
	before := written.Load()
	saved, err := store.Backup(ctx, path, to)
	require.NoError(t, err)
	close(stop)
	<-stopped
	assert.Empty(t, saved.Problems)
	assert.GreaterOrEqual(t, int64(saved.Entries), before)
	info, err := os.Stat(to)
	require.NoError(t, err)
	assert.Equal(t, saved.Size, info.Size())
	assert.Equal(t, fs.FileMode(0o600), info.Mode().Perm())
	_, err = store.Backup(ctx, path, to)
	assert.ErrorContains(t, err, "store.is-there")
	require.NoError(t, s.Close())

	restored, aside, err := store.Restore(ctx, to, path)
	require.NoError(t, err)
	assert.Equal(t, saved.SHA256, restored.SHA256)
	was, err := store.Verify(ctx, aside)
	require.NoError(t, err)
	assert.Equal(t, written.Load(), int64(was.Entries), "what was there is kept")
	s = open(t, path)
	assert.Equal(t, saved.Entries, count(t, s))
	require.NoError(t, s.Close())

	left, err := filepath.Glob(filepath.Join(dir, "*restoring*"))
	require.NoError(t, err)
	parts, err := filepath.Glob(filepath.Join(dir, ".backup-*"))
	require.NoError(t, err)
	assert.Empty(t, append(left, parts...), "nothing half made stays")
}

// Scheduled backups keep the newest, and touch no other file.
func TestScheduleAtOnce(t *testing.T) {
	dir := t.TempDir()
	path := filepath.Join(dir, "s.db")
	s := open(t, path)
	fill(t, s)
	defer func() { assert.NoError(t, s.Close()) }()
	plan := store.Schedule{Folder: filepath.Join(dir, "backups"), Every: time.Hour, Keep: 2}
	require.NoError(t, os.MkdirAll(plan.Folder, 0o700))
	mine := filepath.Join(plan.Folder, "exactflask-of-mine.db")
	require.NoError(t, os.WriteFile(mine, nil, 0o600))
	for i := range 4 {
		_, err := plan.Once(ctx, path, now.Add(time.Duration(i)*time.Hour))
		require.NoError(t, err)
	}
	there, err := filepath.Glob(filepath.Join(plan.Folder, "*"))
	require.NoError(t, err)
	assert.Equal(t, []string{filepath.Join(plan.Folder, "exactflask-20261124-120000.db"), filepath.Join(plan.Folder, "exactflask-20261124-120000.db.head"),
		filepath.Join(plan.Folder, "exactflask-20261124-130000.db"), filepath.Join(plan.Folder, "exactflask-20261124-130000.db.head"), mine}, there)
}

// Whatever is done to the record behind the program's back shows.
func TestTampering(t *testing.T) {
	for what, statement := range map[string]string{
		"text":     `UPDATE entries SET document = replace(document, 'swirled', 'shaken') WHERE id = 'entry-2'`,
		"received": `UPDATE entries SET received = '2026-11-24T10:00:01Z' WHERE id = 'entry-2'`,
		"removed":  `DELETE FROM entries WHERE id = 'entry-2'`,
		"first":    `DELETE FROM entries WHERE id = 'entry-0'`,
		"moved":    `UPDATE entries SET seq = seq + 100 WHERE id = 'entry-2'`,
		"hash":     `UPDATE entries SET hash = '' WHERE id = 'entry-2'`,
		"added": `INSERT INTO entries (id, notebook_id, document, received)
			SELECT 'entry-9', notebook_id, replace(document, 'entry-2', 'entry-9'), received FROM entries WHERE id = 'entry-2'`,
		"other notebook": `UPDATE entries SET notebook_id = 'n2' WHERE id = 'entry-2'`,
	} {
		path := filepath.Join(t.TempDir(), "s.db")
		s := open(t, path)
		fill(t, s)
		for i := range 5 {
			require.NoError(t, add(s, "n1", entry(fmt.Sprint("entry-", i))))
		}
		require.NoError(t, s.Close())
		v, err := store.Verify(ctx, path)
		require.NoError(t, err)
		require.Empty(t, v.Problems)
		change(t, path, "DROP TRIGGER entries_no_update", "DROP TRIGGER entries_no_delete",
			`INSERT INTO people (id, username, name, password, created) VALUES ('p2', 'teo', 'Teo', '', '')`,
			`INSERT INTO notebooks SELECT 'n2', class_id, practical_id, revision, 'p2', started FROM notebooks`, statement)
		v, err = store.Verify(ctx, path)
		require.NoError(t, err)
		assert.NotEmpty(t, v.Problems, what)
		assert.Contains(t, fmt.Sprint(v.Problems), "entry-", what)
	}
}
