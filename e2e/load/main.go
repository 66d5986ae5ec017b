// Command load measures the program under the load of a large school: benches
// that write one entry every few seconds beside class boards that look on. It
// talks to this machine only and stops by itself. Run it with make load.
package main

import (
	"context"
	"database/sql"
	"errors"
	"flag"
	"fmt"
	"log"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"

	_ "modernc.org/sqlite" // the driver "sqlite"

	"exactflask/app"
	"exactflask/app/access"
	"exactflask/app/people"
	"exactflask/demo"
	"exactflask/e2e"
	"exactflask/e2e/browser"
	"exactflask/formats"
	"exactflask/store"
)

func main() {
	binary := flag.String("binary", "bin/exactflask", "program to measure")
	benches := flag.Int("benches", 1000, "benches that write, at most 1000")
	boards := flag.Int("boards", 30, "class boards that look on, at most 50")
	every := flag.Duration("every", 5*time.Second, "time between two entries of a bench")
	last := flag.Duration("for", 10*time.Minute, "how long, at most 10 minutes")
	fill := flag.Int("fill", 0, "how often each bench writes before the time begins")
	size := flag.Int("notebook", 40, "writes of a bench until it goes on to the next practical, about what one takes; 0: never")
	flag.Parse()
	if *benches > 1000 || *boards > 50 || *last > 10*time.Minute {
		log.Fatal("load: that is more than this program gives")
	}
	if err := run(*binary, *benches, *boards, *fill, *size, *every, *last); err != nil {
		log.Fatal("load: ", err)
	}
}

func run(binary string, benches, boards, fill, size int, every, last time.Duration) (err error) {
	dir, err := os.MkdirTemp("", "exactflask-load-")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
	data := filepath.Join(dir, "load.db")
	practicals := 1
	if size > 0 {
		practicals += int(last/every) / size
	}
	if err := school(data, benches, practicals); err != nil {
		return err
	}
	s, err := browser.StartServer(binary, data)
	if err != nil {
		return err
	}
	var writers, lookers []*e2e.Bench
	for i := range benches {
		name := fmt.Sprintf("bench-%d", i)
		b, err := e2e.SignIn(s.URL, fmt.Sprintf("127.0.%d.%d", 1+i/200, 1+i%200), name, demo.Password, name)
		if err != nil {
			return errors.Join(err, s.Stop())
		}
		writers = append(writers, b)
	}
	for i := range boards {
		b, err := e2e.SignIn(s.URL, "", fmt.Sprintf("board-%d", i%((benches+29)/30)), demo.Password, "board")
		if err != nil {
			return errors.Join(err, s.Stop())
		}
		lookers = append(lookers, b)
	}

	if err := filled(writers, fill); err != nil {
		return errors.Join(err, s.Stop())
	}
	ctx, cancel := context.WithTimeout(context.Background(), last)
	defer cancel()
	var mu sync.Mutex
	var times []time.Duration
	var failed []error
	acknowledged := make([]map[string][]string, benches) // by notebook
	var wg sync.WaitGroup
	repeat := func(offset time.Duration, do func() error) {
		wg.Go(func() {
			tick := time.NewTimer(offset)
			for {
				select {
				case <-ctx.Done():
					return
				case <-tick.C:
				}
				tick.Reset(every)
				if err := do(); err != nil {
					mu.Lock()
					failed = append(failed, err)
					mu.Unlock()
				}
			}
		})
	}
	messages := 0
	began := map[string]time.Time{} // the write that a board has not heard of yet, by notebook
	var heard []time.Duration
	for _, b := range lookers[:min(len(lookers), (benches+29)/30)] { // one board for each practical of a class
		for _, practical := range b.Practicals {
			wg.Go(func() {
				err := b.Watch(ctx, practical, func(notebook string) {
					mu.Lock()
					defer mu.Unlock()
					if at, ok := began[notebook]; ok {
						heard = append(heard, time.Since(at))
						delete(began, notebook)
					}
				})
				if err != nil {
					mu.Lock()
					failed = append(failed, err)
					mu.Unlock()
				}
			})
		}
	}
	listen := func(b *e2e.Bench) (stop func()) {
		ctx, stop := context.WithCancel(ctx)
		notebook := b.Notebook
		wg.Go(func() {
			n, err := b.Listen(ctx, notebook)
			mu.Lock()
			messages += n
			if err != nil {
				failed = append(failed, err)
			}
			mu.Unlock()
		})
		return stop
	}
	for i, b := range writers {
		acknowledged[i] = map[string][]string{}
		stop, written, at := listen(b), 0, 0
		goesOn := size - i%11 // not all at one moment
		if size == 0 {
			goesOn = -1
		}
		repeat(every*time.Duration(i)/time.Duration(benches), func() error {
			begun := time.Now()
			mu.Lock()
			began[b.Notebook] = begun
			mu.Unlock()
			ids, err := b.Write()
			took := time.Since(begun)
			mu.Lock()
			times = append(times, took)
			mu.Unlock()
			if err != nil {
				return err
			}
			acknowledged[i][b.Notebook] = append(acknowledged[i][b.Notebook], ids...)
			if written++; written != goesOn {
				return nil
			}
			stop()
			at++
			if err := b.Begin(b.Practicals[at%len(b.Practicals)]); err != nil {
				return err
			}
			stop, goesOn = listen(b), written+size
			return nil
		})
	}
	for i, b := range lookers {
		repeat(every*time.Duration(i)/time.Duration(boards), b.Look)
	}
	wg.Wait()

	lost, twice := 0, 0
	for i, b := range writers {
		for notebook, ids := range acknowledged[i] {
			there, err := b.Entries(notebook)
			if err != nil {
				return errors.Join(err, s.Stop())
			}
			for _, id := range ids {
				switch n := there[id]; {
				case n == 0:
					lost++
				case n > 1:
					twice++
				}
			}
		}
	}
	slices.Sort(times)
	at := func(q float64) time.Duration { return times[int(q*float64(len(times)-1))].Round(10 * time.Microsecond) }
	fmt.Printf("%d benches, one entry every %s, %d boards, %s: %d requests, %d failed\n", benches, every, boards, last,
		len(times), len(failed))
	fmt.Printf("median %s, 95 %% %s, 99 %% %s, longest %s; lost %d, twice %d\n", at(0.5), at(0.95), at(0.99), at(1),
		lost, twice)
	slices.Sort(heard)
	if n := len(heard); n > 0 {
		fmt.Printf("on the board from the stroke: median %s, 99 %% %s, of %d\n", heard[n/2].Round(time.Millisecond), heard[n*99/100].Round(time.Millisecond), n)
	}
	fmt.Printf("%d messages on %d event streams; the server had at most %d MB resident\n", messages, benches, s.Memory())
	if err := s.Stop(); err != nil {
		return err
	}
	bare, err := bareCommit(filepath.Join(dir, "bare.db"))
	if err != nil {
		return err
	}
	fmt.Printf("a bare commit of one row in the same run: median %s\n", bare)
	if lost+twice+len(failed) > 0 {
		return errors.Join(append(failed[:min(3, len(failed))], fmt.Errorf("%d lost, %d twice", lost, twice))...)
	}
	return nil
}

// filled lets each bench write so often, sixteen at a time.
func filled(writers []*e2e.Bench, times int) error {
	work := make(chan *e2e.Bench)
	failed := make(chan error, 16)
	for range cap(failed) {
		go func() {
			var err error
			for b := range work {
				for range times {
					_, failure := b.Write()
					err = errors.Join(err, failure)
				}
			}
			failed <- err
		}()
	}
	for _, b := range writers {
		work <- b
	}
	close(work)
	var err error
	for range cap(failed) {
		err = errors.Join(err, <-failed)
	}
	return err
}

// school fills the data file with classes of thirty, their practicals and an instructor
// for each.
func school(data string, benches, practicals int) (err error) {
	ctx := context.Background()
	st, err := store.Open(ctx, data)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, st.Close()) }()
	a, err := app.New(st, true)
	if err != nil {
		return err
	}
	file, err := os.Open("docs/examples/buffer-dosing.json")
	if err != nil {
		return err
	}
	doc, err := formats.Read(file)
	if err := errors.Join(err, file.Close()); err != nil {
		return err
	}
	var class string
	add := func(username string, role access.Role) error {
		id, err := a.Classes.AddPerson(ctx, people.NewPerson{Username: username, Name: username, Password: demo.Password})
		if err != nil {
			return err
		}
		return a.Classes.Join(ctx, class, id, role)
	}
	for i := range benches {
		if i%30 == 0 {
			if class, err = a.Classes.AddClass(ctx, fmt.Sprintf("Group %d", i/30)); err != nil {
				return err
			}
			for k := range practicals {
				doc.Practical.ID = fmt.Sprintf("practical-%d", 1+k)
				if err := a.Practicals.Assign(ctx, class, doc.Practical); err != nil {
					return err
				}
			}
			if err := add(fmt.Sprintf("board-%d", i/30), access.Instructor); err != nil {
				return err
			}
		}
		if err := add(fmt.Sprintf("bench-%d", i), access.Student); err != nil {
			return err
		}
	}
	return nil
}

// bareCommit is the median time of committing one row of an entry's size.
func bareCommit(path string) (time.Duration, error) {
	db, err := sql.Open("sqlite", "file:"+path+"?_pragma=journal_mode(WAL)&_pragma=synchronous(FULL)")
	if err != nil {
		return 0, err
	}
	defer db.Close()
	if _, err := db.Exec("CREATE TABLE rows (id INTEGER PRIMARY KEY, document TEXT NOT NULL)"); err != nil {
		return 0, err
	}
	text := strings.Repeat("x", 260)
	var times []time.Duration
	for range 300 {
		begun := time.Now()
		if _, err := db.Exec("INSERT INTO rows (document) VALUES (?)", text); err != nil {
			return 0, err
		}
		times = append(times, time.Since(begun))
	}
	slices.Sort(times)
	return times[len(times)/2].Round(10 * time.Microsecond), nil
}
