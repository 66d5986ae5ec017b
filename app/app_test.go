package app_test

import (
	"bytes"
	"context"
	"database/sql"
	"fmt"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app"
	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/app/people"
	"exactflask/core/record/chain"
	"exactflask/core/record/journal"
	"exactflask/demo"
	"exactflask/formats"
	"exactflask/store"
	"exactflask/view"
)

// school is the demo's, with one of its students and a notebook of hers.
func school(t *testing.T) (a *app.App, mira access.Person, id, path string) {
	ctx := context.Background()
	path = filepath.Join(t.TempDir(), "school.db")
	s, err := store.Open(ctx, path)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	a, err = app.New(s, true)
	require.NoError(t, err)
	require.NoError(t, demo.Fill(ctx, a))
	mira, err = a.People.SignIn(ctx, "mira", demo.Password)
	require.NoError(t, err)
	id, err = a.Bench.Begin(ctx, mira, mira.Classes[0].Class, "buffer-dosing", "")
	require.NoError(t, err)
	return a, mira, id, path
}

// The limits hold here as well, whoever calls: not only where a request is read.
func TestLimitsHoldWithoutTheWeb(t *testing.T) {
	a, mira, id, _ := school(t)
	ctx := context.Background()
	notes := func(n int) []journal.Entry {
		out := make([]journal.Entry, n)
		for i := range out {
			out[i] = journal.Entry{ID: fmt.Sprintf("limit-%06d", i), Device: "d", Clock: int64(500 + i), At: time.Now(),
				Part: journal.Remark{Written: "swirled"}}
		}
		return out
	}
	before, err := a.Bench.Notebook(ctx, mira, id)
	require.NoError(t, err)
	for _, n := range []int{0, journal.MostAtOnce + 1} {
		_, err := a.Bench.Append(ctx, mira, id, 0, notes(n))
		assert.ErrorContains(t, err, "notebook.batch", n)
	}
	after, err := a.Bench.Append(ctx, mira, id, 0, notes(journal.MostAtOnce))
	require.NoError(t, err)
	assert.Equal(t, strconv.Itoa(before.Sheet.Entries+journal.MostAtOnce), string(after.Sheet["entries"]))
	for _, c := range [][2]string{{"mira", "wrong"}, {"nobody", demo.Password}, {strings.Repeat("m", 65), demo.Password},
		{"mira", strings.Repeat("p", 257)}} {
		_, err := a.People.SignIn(ctx, c[0], c[1])
		assert.ErrorIs(t, err, people.ErrSignIn)
	}
}

// One notebook that cannot be read harms no other: the shelf shows it as broken,
// and the rest of the class as it is.
func TestABrokenNotebookStaysAlone(t *testing.T) {
	_, mira, id, path := school(t)
	ctx := context.Background()
	file, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	_, err = file.Exec(`INSERT INTO entries (id, notebook_id, document, received) VALUES ('spoilt-entry', ?, '{', '')`, id)
	require.NoError(t, err)
	_, err = file.Exec(`DELETE FROM summaries WHERE notebook_id = ?`, id)
	require.NoError(t, err)
	require.NoError(t, file.Close())

	s, err := store.Beside(ctx, path) // another program, which has nothing in memory yet
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	a, err := app.New(s, true)
	require.NoError(t, err)
	_, err = a.Bench.Notebook(ctx, mira, id)
	assert.Error(t, err)
	farrow, err := a.People.SignIn(ctx, "farrow", demo.Password)
	require.NoError(t, err)
	home, err := a.Today.Home(ctx, farrow)
	require.NoError(t, err)
	sound := 0
	for _, p := range home.Classes[0].Practicals {
		assert.Empty(t, p.Broken)
		there, err := a.Bench.ClassNotebooks(ctx, farrow, home.Classes[0].Class, p.Practical, 0)
		require.NoError(t, err)
		for _, n := range there.Notebooks {
			if n.ID == id {
				assert.NotEmpty(t, n.Broken)
				assert.NotContains(t, n.Broken, "json", "in a person's words")
				continue
			}
			assert.Empty(t, n.Broken, n.Student)
			if n.ID == "" {
				continue
			}
			_, err := a.Bench.Notebook(ctx, farrow, n.ID)
			assert.NoError(t, err, n.Student)
			sound++
		}
	}
	assert.Greater(t, sound, 6)
}

// A record says when each entry came in beside what the device wrote, and leaves
// the program with a chain that holds; the report says its end.
func TestWhenItCameIn(t *testing.T) {
	a, mira, id, _ := school(t)
	ctx := context.Background()
	at := time.Now().Add(-3 * time.Hour)
	note := func(id string, at time.Time) journal.Entry {
		return journal.Entry{ID: id, Device: "slow-device", Clock: 500, At: at, Part: journal.Remark{Written: "swirled"}}
	}
	_, err := a.Bench.Append(ctx, mira, id, 0, []journal.Entry{note("dated-early", at), note("dated-ahead", at.Add(6*time.Hour)), note("dated-right", time.Now())})
	require.NoError(t, err)
	lines, _, _, err := a.Bench.Journal(ctx, mira, id, 0)
	require.NoError(t, err)
	said := map[string]string{}
	for _, l := range lines {
		said[l.Entry] = l.Far
		assert.WithinDuration(t, time.Now(), l.Received, time.Minute)
	}
	assert.Equal(t, "dated 3 hours before it came in", said["dated-early"])
	assert.Equal(t, "dated 3 hours after it came in", said["dated-ahead"])
	assert.Empty(t, said["dated-right"])
	doc, student, err := a.Bench.Document(ctx, mira, id)
	assert.Equal(t, mira.Name, student)
	require.NoError(t, err)
	require.Len(t, doc.Chain, len(doc.Journal))
	assert.Nil(t, chain.Verify(doc.Chain, doc.Journal))
	report, err := a.Bench.Report(ctx, mira, id, 0)
	require.NoError(t, err)
	assert.NotEmpty(t, report.Seal)
	assert.True(t, strings.HasPrefix(doc.Chain[len(doc.Chain)-1].Hash, report.Seal))
	assert.Contains(t, report.Notes[0].Text, "2 entries are dated far")
	var file bytes.Buffer
	require.NoError(t, formats.Write(&file, doc))
	again, err := formats.Read(&file)
	require.NoError(t, err)
	assert.Nil(t, chain.Verify(again.Chain, again.Journal), "through the file")
}

// A notebook holds so many bytes and no more; what was written stays.
func TestNotebooksHaveASize(t *testing.T) {
	a, mira, id, _ := school(t)
	ctx := context.Background()
	text := strings.Repeat("swirled ", 240)
	var refused error
	kept := 0
	for batch := 0; refused == nil && batch < 10; batch++ {
		entries := make([]journal.Entry, journal.MostAtOnce)
		for i := range entries {
			entries[i] = journal.Entry{ID: fmt.Sprintf("large-%02d-%06d", batch, i), Device: "d", Clock: int64(500 + batch*journal.MostAtOnce + i), At: time.Now(),
				Part: journal.Remark{Written: text}}
		}
		if _, refused = a.Bench.Append(ctx, mira, id, 0, entries); refused == nil {
			kept += len(entries)
		}
	}
	assert.ErrorContains(t, refused, "notebook.large")
	n, err := a.Bench.Notebook(ctx, mira, id)
	require.NoError(t, err)
	assert.Greater(t, len(n.Entries), kept)
	read := 0
	for page, pages := 1, 2; page <= pages; page++ {
		var lines []view.JournalLine
		var at int
		lines, at, pages, err = a.Bench.Journal(ctx, mira, id, page)
		require.NoError(t, err)
		assert.Equal(t, page, at)
		assert.LessOrEqual(t, len(lines), bench.JournalPage)
		read += len(lines)
	}
	assert.Equal(t, len(n.Entries), read, "every line is on one page")
	_, err = a.Bench.Append(ctx, mira, id, 0, []journal.Entry{{ID: "small-entry", Device: "d", Clock: 5000, At: time.Now(), Part: journal.Remark{Written: "a reading is still taken"}}})
	require.NoError(t, err)
}
