package main

import (
	"context"
	"fmt"
	"io"
	"net/http"
	"path/filepath"
	"sync"
	"sync/atomic"
	"time"

	"exactflask/e2e"
	"exactflask/e2e/browser"
)

// One student does the worst that the routes allow: a notebook of many hundred trials, then its files,
// reports and journal, many at once, for as long as it lasts. The others go on writing, and are timed
// before and meanwhile.
func (p plan) besideOne(dir string) error {
	data := filepath.Join(dir, "hostile.db")
	if err := school(data, p.benches, p.practicals); err != nil {
		return err
	}
	s, err := browser.StartServer(p.binary, data)
	if err != nil {
		return err
	}
	defer func() { _ = s.Stop() }()
	p.boards = 0
	writers, _, err := p.signIn(s.URL)
	if err != nil {
		return err
	}
	worst, others := writers[0], writers[1:]
	written, err := worst.Many(924)
	if err != nil {
		return err
	}
	fmt.Printf("one student has written %d entries\n", written)
	for _, at := range []int{0, 20, 100} {
		fmt.Printf("%d requests of theirs at once:\n", at)
		if err := p.timed(s, worst, others, at); err != nil {
			return err
		}
	}
	return nil
}

// timed lets the others write while the worst has so many requests under way.
func (p plan) timed(s *browser.Server, worst *e2e.Bench, others []*e2e.Bench, at int) error {
	ctx, cancel := context.WithTimeout(context.Background(), p.last)
	defer cancel()
	m := &measured{plan: p, ctx: ctx, began: map[string]time.Time{}}
	var asked, failed atomic.Int64
	var wg sync.WaitGroup
	routes := []string{"report.pdf", "report.xlsx", "report.zip", "report", "journal", "document", "report.csv", ""}
	for i := range at {
		wg.Go(func() {
			for k := i; ctx.Err() == nil; k++ {
				path := "/api/notebooks/" + worst.Notebook + "/" + routes[k%len(routes)]
				if routes[k%len(routes)] == "" {
					path = "/api/me/data"
				}
				request, err := http.NewRequestWithContext(ctx, http.MethodGet, s.URL+path, nil)
				if err != nil {
					return
				}
				answer, err := worst.Client.Do(request)
				if asked.Add(1); err != nil {
					continue
				}
				_, _ = io.Copy(io.Discard, answer.Body)
				_ = answer.Body.Close()
				if answer.StatusCode != http.StatusOK {
					failed.Add(1)
					time.Sleep(100 * time.Millisecond) // it is told to wait
				}
			}
		})
	}
	for i, b := range others {
		m.work(i, b, map[string][]string{})
	}
	m.wg.Wait()
	wg.Wait()
	m.print(p, 0, 0)
	fmt.Printf("%d requests asked, %d not answered; at most %d MB resident so far\n", asked.Load(), failed.Load(), s.Memory())
	return nil
}
