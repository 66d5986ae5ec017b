package store

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"exactflask/core/record/chain"
	"exactflask/core/record/journal"
	"exactflask/core/values/finding"
)

// Verified is what was found in a data file.
type Verified struct {
	Schema             int64
	Notebooks, Entries int
	Head               Head // where every chain ends
	Problems           []finding.Message

	hashes map[string][]string // of every chain, by what it is of
}

// OK tells whether nothing is wrong.
func (v Verified) OK() bool { return len(v.Problems) == 0 }

// Verify reads all of a data file, changing nothing: the pages, what refers to
// what, and the chain of every notebook. A server may have it open meanwhile.
func Verify(ctx context.Context, path string) (v Verified, err error) {
	d, err := openReadOnly(path)
	if err != nil {
		return v, err
	}
	defer func() { err = errors.Join(err, d.Close()) }()
	pages, err := texts(ctx, d, "PRAGMA integrity_check(20)")
	if err != nil {
		if unreadable(err) {
			v.Problems = append(v.Problems, noData.Message(finding.Text(err.Error())))
			return v, nil
		}
		return v, fmt.Errorf("reading %s: %w", path, err)
	}
	for _, p := range pages {
		if p != "ok" {
			v.Problems = append(v.Problems, damagedPage.Message(finding.Text(p)))
		}
	}
	if v.Schema, err = schemaIn(ctx, d); err != nil {
		v.Problems = append(v.Problems, notOurs.Message())
		return v, nil
	}
	switch {
	case v.Schema > Schema:
		return v, &NewerError{path, v.Schema, Schema}
	case v.Schema < Schema:
		v.Problems = append(v.Problems, olderSchema.Message(finding.Count(int(v.Schema)), finding.Count(Schema)))
		return v, nil
	}
	refer, err := texts(ctx, d, `SELECT "table" || ' ' || parent FROM pragma_foreign_key_check() LIMIT 20`)
	if err != nil {
		return v, fmt.Errorf("reading %s: %w", path, err)
	}
	for _, r := range refer {
		table, parent, _ := strings.Cut(r, " ")
		v.Problems = append(v.Problems, loose.Message(finding.Text(table), finding.Text(parent)))
	}
	v.Head, v.hashes = Head{map[string]Mark{}, map[string]Mark{}}, map[string][]string{}
	chains, err := v.chains(ctx, d)
	if err != nil {
		return v, err
	}
	for _, check := range []func() error{
		func() error { return v.ledger(ctx, d) },
		func() error { return v.handedIn(ctx, d, chains) },
		func() error { return v.seen(ctx, d) },
	} {
		if err := check(); err != nil {
			return v, fmt.Errorf("reading %s: %w", path, err)
		}
	}
	return v, nil
}

func schemaIn(ctx context.Context, d *sql.DB) (version int64, err error) {
	err = d.QueryRowContext(ctx, "SELECT coalesce(max(version_id), 0) FROM goose_db_version").Scan(&version)
	return version, err
}

func schemaOf(ctx context.Context, path string) (version int64, err error) {
	d, err := openReadOnly(path)
	if err != nil {
		return 0, err
	}
	defer func() { err = errors.Join(err, d.Close()) }()
	return schemaIn(ctx, d)
}

// chains goes along the chain of every notebook.
func (v *Verified) chains(ctx context.Context, d *sql.DB) (map[string][]journal.Link, error) {
	ids, err := texts(ctx, d, "SELECT id FROM notebooks ORDER BY id")
	if err != nil {
		return nil, err
	}
	all := map[string][]journal.Link{}
	for _, id := range ids {
		entries, links, err := journalOf(ctx, d, id)
		if err != nil {
			v.Problems = append(v.Problems, noReading.Message(finding.Text(id), finding.Text(err.Error())))
			continue
		}
		v.Notebooks++
		v.Entries += len(entries)
		if broken := chain.Verify(links, entries); broken != nil {
			v.Problems = append(v.Problems, badNotebook.Message(finding.Text(id), finding.Said(broken.Message())))
		}
		all[id] = links
		for _, l := range links {
			v.Head.Notebooks[id] = Mark{v.Head.Notebooks[id].Count + 1, l.Hash}
			v.hashes["notebook "+id] = append(v.hashes["notebook "+id], l.Hash)
		}
	}
	return all, nil
}

func journalOf(ctx context.Context, d *sql.DB, notebook string) (entries []journal.Entry, chain []journal.Link, err error) {
	rows, err := d.QueryContext(ctx, "SELECT document, received, hash FROM entries WHERE notebook_id = ? ORDER BY seq", notebook)
	if err != nil {
		return nil, nil, err
	}
	defer func() { err = errors.Join(err, rows.Close()) }()
	for rows.Next() {
		var document, received, hash string
		if err := rows.Scan(&document, &received, &hash); err != nil {
			return nil, nil, err
		}
		e, at, err := decodeEntry(document, received)
		if err != nil {
			return nil, nil, fmt.Errorf("entry %d: %w", len(entries)+1, err)
		}
		entries, chain = append(entries, e), append(chain, journal.Link{Entry: e.ID, Received: at, Hash: hash})
	}
	return entries, chain, rows.Err()
}

// decodeEntry is the one place where stored entries are read.
func decodeEntry(document, received string) (e journal.Entry, at time.Time, err error) {
	at, err = time.Parse(time.RFC3339Nano, received)
	return e, at, errors.Join(err, json.Unmarshal([]byte(document), &e))
}

func texts(ctx context.Context, d *sql.DB, query string) (out []string, err error) {
	rows, err := d.QueryContext(ctx, query)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, rows.Close()) }()
	for rows.Next() {
		var text string
		if err := rows.Scan(&text); err != nil {
			return nil, err
		}
		out = append(out, text)
	}
	return out, rows.Err()
}

func openReadOnly(path string) (*sql.DB, error) {
	if _, err := os.Stat(path); err != nil {
		return nil, cannotOpen(path, err)
	}
	dsn := (&url.URL{Scheme: "file", Opaque: url.PathEscape(path), RawQuery: "mode=ro&_pragma=busy_timeout(5000)"}).String()
	return sql.Open("sqlite", dsn)
}

// Saved is a copy of a data file.
type Saved struct {
	Path   string
	Size   int64
	SHA256 string
	Verified
}

// Backup writes a consistent copy of a data file, which may be in use, to a new
// file, and verifies it. The copy is there whole or not at all.
func Backup(ctx context.Context, path, to string) (s Saved, err error) {
	if _, err := os.Stat(to); !errors.Is(err, fs.ErrNotExist) {
		return s, errors.Join(isThere.Fault("", finding.Text(to)), err)
	}
	d, err := openReadOnly(path)
	if err != nil {
		return s, err
	}
	defer func() { err = errors.Join(err, d.Close()) }()
	part, err := os.CreateTemp(filepath.Dir(to), ".backup-*") // made for its owner only
	if err != nil {
		return s, cannotOpen(to, err)
	}
	defer os.Remove(part.Name())
	if err := part.Close(); err != nil {
		return s, err
	}
	if _, err := d.ExecContext(ctx, "VACUUM INTO ?", part.Name()); err != nil {
		return s, fmt.Errorf("writing the backup: %w", fullOr(err))
	}
	return settle(ctx, part.Name(), to)
}

// settle verifies a copy, sees it on the disk, and gives it its name.
func settle(ctx context.Context, part, to string) (Saved, error) {
	s, err := sound(ctx, part)
	s.Path = to
	if err != nil {
		return s, err
	}
	return s, renamed(part, to)
}

// sound verifies a copy and sees it on the disk.
func sound(ctx context.Context, part string) (Saved, error) {
	v, err := Verify(ctx, part)
	if err != nil {
		return Saved{}, err
	}
	s := Saved{Path: part, Verified: v}
	f, err := os.OpenFile(part, os.O_RDWR, 0)
	if err != nil {
		return s, err
	}
	sum := sha256.New()
	s.Size, err = io.Copy(sum, f)
	if err = errors.Join(err, f.Sync(), f.Close()); err != nil {
		return s, fmt.Errorf("writing %s: %w", part, fullOr(err))
	}
	s.SHA256 = hex.EncodeToString(sum.Sum(nil))
	return s, nil
}

// renamed gives a file its name, and sees that on the disk.
func renamed(from, to string) error {
	return errors.Join(os.Rename(from, to), syncFolder(filepath.Dir(to)))
}

func syncFolder(path string) error {
	d, err := os.Open(path)
	if err != nil {
		return err
	}
	return errors.Join(d.Sync(), d.Close())
}

// Restore puts a backup in the place of a data file that nobody has open. What
// stood there is kept beside it, under the name that is returned (empty where
// there was nothing). A backup in which something is wrong is refused.
func Restore(ctx context.Context, from, path string) (s Saved, kept string, err error) {
	v, err := Verify(ctx, from)
	if err != nil {
		return s, "", err
	}
	if v.Schema == 0 || !v.OK() && v.Schema == Schema {
		return Saved{Path: from, Verified: v}, "", notRestored.Fault("", finding.Text(from), finding.Said(v.Problems[0]))
	}
	l, err := hold(path)
	if err != nil {
		return s, "", err
	}
	defer func() { err = errors.Join(err, l.release()) }()
	if beside, _ := filepath.Glob(globbed(path) + before + "*"); len(beside) > 0 && !slices.ContainsFunc(beside, func(name string) bool { return sameFile(name, from) }) {
		if err := halfway(path); err != nil { // .restoring alone is this one's own, cut off before
			return s, "", err
		}
	}
	part := path + restoring
	if err := copyFile(from, part); err != nil {
		return s, "", errors.Join(err, os.Remove(part))
	}
	// At every moment the old file or the new one stands there, whole: the new one is verified and
	// on the disk, the old one has a second name and no log, and then one name changes hands.
	s, err = sound(ctx, part)
	if err == nil && (s.Schema == 0 || !s.OK() && s.Schema == Schema) {
		err = notRestored.Fault("", finding.Text(from), finding.Said(s.Problems[0]))
	}
	if err == nil {
		err = l.unsign()
	}
	if err == nil {
		kept, err = setAside(ctx, path)
	}
	if err != nil {
		return s, kept, errors.Join(err, os.Remove(part))
	}
	s.Path = path
	return s, kept, renamed(part, path)
}

func copyFile(from, to string) error {
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	out, err := os.OpenFile(to, os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o600)
	if err != nil {
		return cannotOpen(to, err)
	}
	_, err = io.Copy(out, in)
	return fullOr(errors.Join(err, out.Close()))
}

// What stands beside a data file while another is put in its place, and afterwards.
const (
	restoring = ".restoring"
	before    = ".before-"
)

// setAside gives a data file a second name beside its own, with what was not yet written back
// into it. Its own name stays until another file takes it.
func setAside(ctx context.Context, path string) (string, error) {
	if _, err := os.Stat(path); errors.Is(err, fs.ErrNotExist) {
		return "", nil
	}
	aside := path + before + time.Now().UTC().Format("20060102-150405.000")
	writeBack(ctx, path)
	if err := os.Link(path, aside); err != nil {
		if err = copyFile(path, aside); err != nil { // a disk without second names
			return aside, fmt.Errorf("keeping what is there: %w", err)
		}
	}
	// A file that cannot be opened keeps its log: it goes with it, and never to the new one.
	for _, end := range []string{"-wal", "-shm"} {
		if err := os.Rename(path+end, aside+end); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return aside, fmt.Errorf("keeping what is there: %w", err)
		}
	}
	return aside, syncFolder(filepath.Dir(path))
}

// writeBack writes the log of a data file back into it; where that cannot be done, it stays.
func writeBack(ctx context.Context, path string) {
	d, err := open(path, "", 1)
	if err != nil {
		return
	}
	_, _ = d.ExecContext(ctx, "PRAGMA wal_checkpoint(TRUNCATE)")
	_ = d.Close()
}

// halfway finds what a restoring that was cut off has left beside a data file that is not there:
// nobody makes an empty one in its place.
func halfway(path string) error {
	if _, err := os.Stat(path); !errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	beside, _ := filepath.Glob(globbed(path) + before + "*")
	if _, err := os.Stat(path + restoring); err == nil {
		beside = append(beside, path+restoring)
	}
	beside = slices.DeleteFunc(beside, func(name string) bool { return strings.HasSuffix(name, "-wal") || strings.HasSuffix(name, "-shm") })
	if len(beside) == 0 {
		return nil
	}
	return isHalfway.Fault("", finding.Text(path), finding.Text(beside[len(beside)-1]))
}

func sameFile(a, b string) bool {
	x, err := os.Stat(a)
	y, err2 := os.Stat(b)
	return err == nil && err2 == nil && os.SameFile(x, y)
}

// globbed is a path in which nothing stands for something else.
func globbed(path string) string {
	return strings.NewReplacer(`*`, `\*`, `?`, `\?`, `[`, `\[`, `\`, `\\`).Replace(path)
}
