package store

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"hash"
	"strings"
)

// What is verified beside the journals is in a ledger: each row of record that was added, changed or
// taken away stands in it, in order, bound to the ones before of its class by a hash. Triggers write
// into it (migration 14), so that no query can forget to; the writer seals what was written before it
// commits (decision 42).

// ofRecord is a table whose rows are of record: what identifies a row, and which columns bind.
// The others are listed in ledger_test.go, each with its reason.
type ofRecord struct {
	table       string
	key, bound  []string
	ofNotebooks bool // the class is that of its notebook
	ofAll       bool // of the installation, and no class's
}

// records are those tables. Their triggers stand in migrations/00014_ledger.sql; a test holds the two
// together.
var records = []ofRecord{
	{table: "people", key: list("id"), bound: list("username name standing created left_on"), ofAll: true},
	{table: "practicals", key: list("id revision"), bound: list("document created version"), ofAll: true},
	{table: "classes", key: list("id"), bound: list("name created term archived")},
	{table: "memberships", key: list("class_id person_id"), bound: list("role bench burette sample pair joined")},
	{table: "owners", key: list("practical_id"), bound: list("class_id")},
	{table: "assignments", key: list("class_id practical_id"), bound: list("revision created opens due late ends pairing")},
	{table: "notebooks", key: list("id"), bound: list("class_id practical_id revision student_id started")},
	{table: "partners", key: list("notebook_id person_id"), bound: list("since"), ofNotebooks: true},
	{table: "pictures", key: list("notebook_id hash"), bound: list("kind width height person_id added"), ofNotebooks: true},
	{table: "submissions", key: list("notebook_id version"),
		bound: list("person_id handed late entries hash receipt document returned returned_by reason"), ofNotebooks: true},
	{table: "awards", key: list("id"), bound: list("notebook_id version criterion reading marks comment how person_id made follows"), ofNotebooks: true},
	{table: "releases", key: list("notebook_id version"), bound: list("person_id made"), ofNotebooks: true},
	{table: "requests", key: list("id"), bound: list("notebook_id version criterion reason person_id made answer answered_by answered"), ofNotebooks: true},
	{table: "comments", key: list("id"), bound: list("notebook_id entry text person_id made withdrawn"), ofNotebooks: true},
	{table: "schemes", key: list("class_id practical_id revision"), bound: list("document person_id made")},
	{table: "unknowns", key: list("class_id practical_id code"), bound: list("value")},
	{table: "deals", key: list("class_id practical_id person_id"), bound: list("code")},
	{table: "practical_pairs", key: list("class_id practical_id person_id"), bound: list("partner_id")},
	{table: "exercise_answers", key: list("class_id practical_id person_id code"), bound: list("answer correct tries answered")},
	{table: "notices", key: list("id"), bound: list("class_id person_id text created")},
	{table: "acts", key: list("seq"), bound: list("what class_id person_id whom detail at")},
	{table: "norms", key: list("class_id"), bound: list("norms")},
	{table: "glass", key: list("class_id"), bound: list("pieces")},
}

func list(names string) []string { return strings.Fields(names) }

// gone is the digest of a row that is not there.
const gone = "-"

// class is the expression for the class of a row of this name, such as new.
func (r ofRecord) class(row string) string {
	switch {
	case r.ofAll:
		return "''"
	case r.ofNotebooks:
		return "(SELECT class_id FROM notebooks WHERE id = " + row + ".notebook_id)"
	case r.table == "classes":
		return row + ".id"
	case r.table == "acts":
		return "coalesce(" + row + ".class_id, '')"
	}
	return row + ".class_id"
}

// id is the expression for what identifies a row of this name.
func (r ofRecord) id(row string) string {
	return "json_array(" + row + "." + strings.Join(r.key, ", "+row+".") + ")"
}

// digest is the SHA-256 of a row as it stands, of its names and values.
func (r ofRecord) digest(values []any) string {
	sum := sha256.New()
	for i, name := range append(append([]string{}, r.key...), r.bound...) {
		write(sum, name)
		write(sum, fmt.Sprintf("%T", values[i]))
		switch v := values[i].(type) {
		case []byte:
			write(sum, string(v))
		default:
			write(sum, fmt.Sprint(v))
		}
	}
	return hex.EncodeToString(sum.Sum(nil))
}

// write adds a text with its length, so that no two lists of texts are the same.
func write(to hash.Hash, text string) { fmt.Fprintf(to, "%d:%s\n", len(text), text) }

// querying is what reads: a transaction, or a file.
type querying interface {
	QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error)
}

// each reads rows of the table, with what identifies each and its digest.
func (r ofRecord) each(ctx context.Context, q querying, where string, args []any, do func(class, id, digest string) error) (err error) {
	columns := append(append([]string{}, r.key...), r.bound...)
	rows, err := q.QueryContext(ctx, fmt.Sprintf("SELECT coalesce(%s, ''), %s, %s FROM %s AS new %s", r.class("new"), r.id("new"), strings.Join(columns, ", "), r.table, where), args...)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, rows.Close()) }()
	for rows.Next() {
		var class, id string
		values := make([]any, len(columns))
		into := []any{&class, &id}
		for i := range values {
			into = append(into, &values[i])
		}
		if err := rows.Scan(into...); err != nil {
			return err
		}
		if err := do(class, id, r.digest(values)); err != nil {
			return err
		}
	}
	return rows.Err()
}

// now is the digest of the row that is identified so.
func (r ofRecord) now(ctx context.Context, q querying, id string) (string, error) {
	var args []any
	if err := json.Unmarshal([]byte(id), &args); err != nil {
		return "", fmt.Errorf("reading the ledger: %w", err)
	}
	out := gone
	err := r.each(ctx, q, "WHERE "+strings.Join(r.key, " = ? AND ")+" = ?", args, func(_, _, digest string) error {
		out = digest
		return nil
	})
	return out, err
}

func recordOf(table string) (ofRecord, bool) {
	for _, r := range records {
		if r.table == table {
			return r, true
		}
	}
	return ofRecord{}, false
}

// sealed is the hash that follows one for a line of the ledger.
func sealed(before, table, id, digest string) string {
	sum := sha256.New()
	for _, text := range []string{before, table, id, digest} {
		write(sum, text)
	}
	return hex.EncodeToString(sum.Sum(nil))
}

// seal binds the lines of the ledger that were written since it was sealed last.
func seal(ctx context.Context, tx *sql.Tx) error {
	type line struct {
		seq              int64
		class, table, id string
	}
	rows, err := tx.QueryContext(ctx, "SELECT seq, class_id, what, row FROM ledger WHERE hash = '' ORDER BY seq")
	if err != nil {
		return fmt.Errorf("sealing: %w", err)
	}
	var open []line
	for rows.Next() {
		var l line
		if err := rows.Scan(&l.seq, &l.class, &l.table, &l.id); err != nil {
			return errors.Join(err, rows.Close())
		}
		open = append(open, l)
	}
	if err := errors.Join(rows.Err(), rows.Close()); err != nil {
		return fmt.Errorf("sealing: %w", err)
	}
	heads := map[string]string{}
	for _, l := range open {
		r, ok := recordOf(l.table)
		if !ok {
			return fmt.Errorf("sealing: %s is no table of record", l.table)
		}
		before, known := heads[l.class]
		if !known {
			err := tx.QueryRowContext(ctx, "SELECT hash FROM ledger WHERE class_id = ? AND hash <> '' ORDER BY seq DESC LIMIT 1", l.class).Scan(&before)
			if err != nil && !errors.Is(err, sql.ErrNoRows) {
				return fmt.Errorf("sealing: %w", err)
			}
		}
		digest, err := r.now(ctx, tx, l.id)
		if err != nil {
			return fmt.Errorf("sealing: %w", err)
		}
		heads[l.class] = sealed(before, l.table, l.id, digest)
		if _, err := tx.ExecContext(ctx, "UPDATE ledger SET digest = ?, hash = ? WHERE seq = ?", digest, heads[l.class], l.seq); err != nil {
			return fmt.Errorf("sealing: %w", err)
		}
	}
	return nil
}

// sealAll takes everything that is of record into the ledger: of a file that had none.
func sealAll(ctx context.Context, tx *sql.Tx) error {
	for _, r := range records {
		if _, err := tx.ExecContext(ctx, fmt.Sprintf("INSERT INTO ledger (class_id, what, row) SELECT %s, '%s', %s FROM %s AS new ORDER BY %s",
			r.class("new"), r.table, r.id("new"), r.table, strings.Join(r.key, ", "))); err != nil {
			return fmt.Errorf("taking %s into the ledger: %w", r.table, err)
		}
	}
	return seal(ctx, tx)
}
