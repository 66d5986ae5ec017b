package web_test

import (
	"context"
	"fmt"
	"io"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"exactflask/app"
	"exactflask/app/access"
	"exactflask/app/classes"
	"exactflask/app/marking"
	"exactflask/core/practice/sim"
	"exactflask/store"
)

// collected is a class of so many whose reports are handed in, over a store.
func collected(b *testing.B, n int) (*app.App, *store.Store, access.Person, string, string) {
	s := newSchool(b, io.Discard)
	ctx := context.Background()
	farrow, err := s.app.People.SignIn(ctx, "farrow", "tide-pool")
	require.NoError(b, err)
	class, err := s.app.Classes.MakeClass(ctx, farrow, classes.NewClass{Name: "Many"})
	require.NoError(b, err)
	farrow, err = s.app.Person(ctx, farrow.ID)
	require.NoError(b, err)
	p := practicalOf(b)
	p.ID += "-many"
	set, err := s.app.Practicals.AssignRevision(ctx, farrow, class, p)
	require.NoError(b, err)
	ready, fault := set.Check()
	require.Nil(b, fault)
	var added []classes.Added
	for i := range n {
		added = append(added, classes.Added{Name: fmt.Sprintf("Student %c%c", 'A'+i/26%26, 'a'+i%26), Username: fmt.Sprintf("many-%d", i)})
	}
	for k := 0; k < n; k += 100 {
		_, err = s.app.Classes.AddPeople(ctx, farrow, class, added[k:min(n, k+100)])
		require.NoError(b, err)
	}
	page, err := s.app.Classes.ClassPage(ctx, farrow, class)
	require.NoError(b, err)
	i := 0
	for _, m := range page.People {
		if m.Role != access.Student {
			continue
		}
		who, err := s.app.Person(ctx, m.ID)
		require.NoError(b, err)
		of := sim.Student{Seed: uint64(i), Skill: sim.Usual, Device: "sim", Begin: time.Now().Add(-time.Hour)}
		record, err := sim.Titrate(ready, of)
		require.NoError(b, err)
		record = append(record, sim.Work(ready, record, of, []string{"", "thousand", "ten"}[i%3]).Entries...)
		for k := range record {
			record[k].At = time.Now()
		}
		id, err := s.app.Bench.Begin(ctx, who, class, p.ID, "")
		require.NoError(b, err)
		_, err = s.app.Bench.Append(ctx, who, id, 0, record)
		require.NoError(b, err)
		_, err = s.app.Bench.HandIn(ctx, who, id, len(record))
		require.NoError(b, err)
		i++
	}
	return s.app, s.store, farrow, class, p.ID
}

// BenchmarkProposals makes the proposals of 30 reports that nobody looked at yet, and in
// the same run reads the 30 documents alone.
func BenchmarkProposals(b *testing.B) {
	_, st, farrow, class, id := collected(b, 30)
	ctx := context.Background()
	var whole, bare time.Duration
	n := 0
	for b.Loop() {
		a, err := app.New(st, true) // nothing in memory
		require.NoError(b, err)
		begun := time.Now()
		d, err := a.Marking.Desk(ctx, farrow, class, id, marking.DeskAsked{Pass: marking.First})
		whole += time.Since(begun)
		require.NoError(b, err)
		require.Len(b, d.Reports, 30)
		begun = time.Now()
		for _, r := range d.Reports {
			_, err := st.Read().SubmissionDocument(ctx, r.Notebook, r.Version)
			require.NoError(b, err)
		}
		bare += time.Since(begun)
		n++
	}
	b.ReportMetric(float64(whole.Milliseconds())/float64(n), "ms/desk")
	b.ReportMetric(float64(bare.Milliseconds())/float64(n), "ms/documents")
}

// BenchmarkResults makes the results of 200 reports, and of the same with nothing in memory.
func BenchmarkResults(b *testing.B) {
	a, st, farrow, class, id := collected(b, 200)
	ctx := context.Background()
	fresh, err := app.New(st, true)
	require.NoError(b, err)
	begun := time.Now()
	_, err = fresh.Marking.Results(ctx, farrow, class, id)
	require.NoError(b, err)
	cold := time.Since(begun)
	_, err = a.Marking.Results(ctx, farrow, class, id)
	require.NoError(b, err)
	for b.Loop() {
		r, err := a.Marking.Results(ctx, farrow, class, id)
		require.NoError(b, err)
		require.Len(b, r.Rows, 200)
	}
	b.ReportMetric(float64(cold.Milliseconds()), "ms/cold")
}
