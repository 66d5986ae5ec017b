package store_test

import (
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/store"
)

// notOfRecord are tables and columns that nothing verifies, each with its reason.
var notOfRecord = map[string]string{
	"people.password": "a secret that its owner changes; whoever can write the file can sign in anyway",
	"people.words":    "a preference", "people.units": "a preference", "people.theme": "a preference",
	"people.once":      "whether the password is to be changed: as the password",
	"people.seen":      "when somebody was here last: changes with every visit, and proves nothing",
	"summaries":        "worked out from the journal; made anew where it is not there",
	"sessions":         "sign-ins: secrets that end by themselves",
	"sign_ins":         "sign-ins: they end by themselves",
	"join_codes":       "ends by itself; who joined stands in acts and memberships",
	"practical_drafts": "a draft of its author's",
	"agreements":       "what is agreed until a report is handed in; who handed it in stands there",
	"hands":            "a raised hand of the lesson that runs",
	"reactions":        "a person's own collection; a practical holds its reaction itself",
	"facts":            "when the demo was made, and the like",
	"entries.seq":      "the order of arrival, which the chain of the notebook holds",
	"entries.id":       "stands in the document, which the chain holds",
	"ledger":           "what binds the others, and is verified with them: see the rows below",
	"goose_db_version": "of the schema", "sqlite_sequence": "of SQLite",
	"pictures.content": "compared with its hash",
	"entries.document": "the chain of the notebook", "entries.received": "the chain of the notebook",
	"entries.hash": "the chain of the notebook", "entries.notebook_id": "the chain of the notebook",
}

// filled is a file with a row of every table of record.
func filled(t *testing.T) string {
	path := filepath.Join(t.TempDir(), "all.db")
	s := open(t, path)
	fill(t, s)
	for i := range 3 {
		require.NoError(t, add(s, "n1", entry(fmt.Sprint("entry-", i))))
	}
	require.NoError(t, s.Close())
	links := texts(t, path, "SELECT hash FROM entries ORDER BY seq")
	receipt := "format: exactflask.receipt 1\nentries: 2\nchain: " + links[1] + "\n"
	picture := []byte("picture")
	sum := func(b []byte) string { h := sha256.Sum256(b); return hex.EncodeToString(h[:]) }
	s = open(t, path)
	for _, statement := range []string{
		"INSERT INTO owners VALUES ('x', 'c1')",
		"INSERT INTO people (id, username, name, password, created) VALUES ('p2', 'tove', 'Tove', 'hash', '2026')",
		"INSERT INTO partners VALUES ('n1', 'p2', '2026')",
		fmt.Sprintf("INSERT INTO pictures VALUES ('n1', '%s', 'image/png', 3, 4, CAST('picture' AS BLOB), 'p1', '2026')", sum(picture)),
		fmt.Sprintf("INSERT INTO submissions (notebook_id, version, person_id, handed, late, entries, hash, receipt, document) VALUES ('n1', 1, 'p1', '2026', 0, 2, '%s', '%s', CAST('frozen' AS BLOB))", sum([]byte(receipt)), receipt),
		"INSERT INTO awards VALUES (1, 'n1', 1, 'titre', 1, '3', 'good', 'awarded', 'p2', '2026', 0)",
		"INSERT INTO releases VALUES ('n1', 1, 'p2', '2026')",
		"INSERT INTO requests (id, notebook_id, version, criterion, reason, person_id, made) VALUES (1, 'n1', 1, 'titre', 'why', 'p1', '2026')",
		"INSERT INTO comments (id, notebook_id, text, person_id, made) VALUES (1, 'n1', 'look', 'p2', '2026')",
		"INSERT INTO schemes VALUES ('c1', 'x', 1, '{}', 'p2', '2026')",
		"INSERT INTO unknowns VALUES ('c1', 'x', 'A', '0.1')",
		"INSERT INTO deals VALUES ('c1', 'x', 'p1', 'A')",
		"INSERT INTO practical_pairs VALUES ('c1', 'x', 'p1', 'p2')",
		"INSERT INTO exercise_answers VALUES ('c1', 'x', 'p1', 'ratio', '1', 1, 1, '2026')",
		"INSERT INTO notices VALUES ('i1', 'c1', 'p2', 'bring goggles', '2026')",
		"INSERT INTO acts (what, class_id, person_id, detail, at) VALUES ('class-made', 'c1', 'p2', '', '2026')",
		"INSERT INTO norms VALUES ('c1', '{}')",
		"INSERT INTO glass VALUES ('c1', '[]')",
	} {
		require.NoError(t, s.Statement(ctx, statement), statement)
	}
	require.NoError(t, s.Close())
	return path
}

// past changes a file past the program, with its triggers gone.
func past(t *testing.T, path string, statements ...string) {
	t.Helper()
	all := []string{"PRAGMA synchronous = OFF", "PRAGMA ignore_check_constraints = 1"}
	for _, name := range texts(t, path, "SELECT name FROM sqlite_master WHERE type = 'trigger'") {
		all = append(all, "DROP TRIGGER "+name)
	}
	d, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	d.SetMaxOpenConns(1)
	for _, s := range append(all, statements...) {
		_, err := d.Exec(s)
		require.NoError(t, err, s)
	}
	require.NoError(t, d.Close())
}

func texts(t *testing.T, path, query string) (out []string) {
	d, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	rows, err := d.Query(query)
	require.NoError(t, err)
	for rows.Next() {
		var text string
		require.NoError(t, rows.Scan(&text))
		out = append(out, text)
	}
	require.NoError(t, rows.Close())
	require.NoError(t, d.Close())
	return out
}

// Every column of every table, changed one by one past the program, is found; or it is not of record,
// for a reason. A row that is taken out or put in is found likewise.
func TestWhatIsVerifiedIsEverything(t *testing.T) {
	whole := filled(t)
	// Without its triggers, once for all.
	past(t, whole)
	sound, err := os.ReadFile(whole)
	require.NoError(t, err)
	tables := texts(t, whole, "SELECT name FROM sqlite_master WHERE type = 'table' ORDER BY name")
	changed := func(t *testing.T, statements ...string) store.Verified {
		path := filepath.Join(t.TempDir(), "changed.db")
		require.NoError(t, os.WriteFile(path, sound, 0o600))
		past(t, path, statements...)
		v, err := store.Verify(ctx, path)
		require.NoError(t, err)
		return v
	}
	assert.True(t, changed(t).OK(), "%v", changed(t).Problems)
	found, left := 0, 0
	for _, table := range tables {
		if notOfRecord[table] != "" {
			left++
			continue
		}
		for _, column := range texts(t, whole, "SELECT name || ' ' || type FROM pragma_table_info('"+table+"')") {
			name, kind, _ := strings.Cut(column, " ")
			to := map[string]string{"TEXT": "coalesce(" + name + ", '') || 'x'", "INTEGER": name + " + 7", "BLOB": "CAST('something else' AS BLOB)"}[kind]
			require.NotEmpty(t, to, column)
			v := changed(t, fmt.Sprintf("UPDATE %s SET %s = %s", table, name, to))
			reason, unbound := notOfRecord[table+"."+name]
			bound := strings.HasPrefix(reason, "the chain of the notebook") || strings.HasPrefix(reason, "compared with")
			assert.Equal(t, !unbound || bound, !v.OK(), "%s.%s: %v", table, name, v.Problems)
			found++
		}
		if table != "entries" {
			assert.False(t, changed(t, "DELETE FROM "+table).OK(), "%s emptied", table)
		}
	}
	assert.Greater(t, found, 120)
	t.Logf("%d columns changed one by one; %d tables not of record", found, left)
	for name := range notOfRecord {
		table, column, _ := strings.Cut(name, ".")
		if !slices.Contains(tables, table) || column != "" && !slices.Contains(texts(t, whole, "SELECT name FROM pragma_table_info('"+table+"')"), column) {
			assert.Equal(t, "sqlite_sequence", table, "%s is not there", name)
		}
	}

	assert.False(t, changed(t, "INSERT INTO awards VALUES (2, 'n1', 1, 'titre', 1, '9', '', 'awarded', 'p2', '2026', 1)").OK(), "an award put in")
	assert.False(t, changed(t, "DELETE FROM entries WHERE id <> 'entry-0'").OK(), "what was handed in was cut off")
	assert.False(t, changed(t, "DELETE FROM entries").OK(), "all of it")
	assert.False(t, changed(t, "UPDATE ledger SET digest = 'x' WHERE seq = 3").OK())
	assert.False(t, changed(t, "DELETE FROM ledger WHERE seq = 3").OK())
	assert.False(t, changed(t, "UPDATE ledger SET class_id = 'c2' WHERE class_id = 'c1'", "UPDATE ledger SET seq = seq + 1000 WHERE seq = 1").OK())
}

// What is cut off at the end, with all that speaks of it, is seen against a head that was kept; what
// came later is no fault.
func TestHeads(t *testing.T) {
	path := filled(t)
	v, err := store.Verify(ctx, path)
	require.NoError(t, err)
	kept := filepath.Join(t.TempDir(), "kept.head")
	require.NoError(t, v.Head.Keep(kept))
	head, err := store.ReadHead(kept)
	require.NoError(t, err)
	assert.Equal(t, v.Head.Sum(), head.Sum())
	since := func() (codes []string) {
		v, err := store.Verify(ctx, path)
		require.NoError(t, err)
		require.Empty(t, v.Problems)
		v.Since(head)
		for _, p := range v.Problems {
			codes = append(codes, p.Code)
		}
		return codes
	}
	s := open(t, path)
	require.NoError(t, add(s, "n1", entry("entry-later")))
	require.NoError(t, s.Close())
	assert.Empty(t, since(), "it went on")
	past(t, path, "DELETE FROM entries WHERE id IN ('entry-2', 'entry-later')", "DELETE FROM glass", "DELETE FROM ledger WHERE what = 'glass'")
	assert.Equal(t, []string{"store.cut-off-notebook", "store.cut-off-class"}, since())
	_, err = store.ReadHead(path)
	assert.ErrorContains(t, err, "store.no-head")
}

// Whatever the program itself changes is in the ledger: no column of record changes past it.
func TestTheLedgerMissesNothing(t *testing.T) {
	whole := filled(t)
	sound, err := os.ReadFile(whole)
	require.NoError(t, err)
	did := 0
	tried := func(statement string) {
		path := filepath.Join(t.TempDir(), "ours.db")
		require.NoError(t, os.WriteFile(path, sound, 0o600))
		s := open(t, path)
		refused := s.Statement(ctx, statement)
		require.NoError(t, s.Close())
		if refused != nil { // by a constraint, or a trigger that forbids it
			return
		}
		did++
		v, err := store.Verify(ctx, path)
		require.NoError(t, err)
		for _, p := range v.Problems {
			assert.NotContains(t, []string{"store.row-added", "store.row-changed", "store.row-gone", "store.ledger"}, p.Code, "%s: %s", statement, p)
		}
	}
	for _, table := range texts(t, whole, "SELECT DISTINCT what FROM ledger ORDER BY what") {
		tried("DELETE FROM " + table)
		for _, column := range texts(t, whole, "SELECT name || ' ' || type FROM pragma_table_info('"+table+"')") {
			name, kind, _ := strings.Cut(column, " ")
			if kind == "INTEGER" {
				tried(fmt.Sprintf("UPDATE %s SET %s = %s + 7", table, name, name))
			} else {
				tried(fmt.Sprintf("UPDATE %s SET %s = %s || 'x'", table, name, name))
			}
		}
	}
	assert.Greater(t, did, 40)
}
