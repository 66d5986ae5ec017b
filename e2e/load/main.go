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

// plan says what is measured.
type plan struct {
	binary              string
	benches, boards     int
	fill, size          int // writes of a bench before the time begins, and until it goes on to the next practical
	every, last         time.Duration
	practicals, classes int // of the school that is made
}

func main() {
	var p plan
	flag.StringVar(&p.binary, "binary", "bin/exactflask", "program to measure")
	flag.IntVar(&p.benches, "benches", 1000, "benches that write, at most 1000")
	flag.IntVar(&p.boards, "boards", 30, "class boards that look on, at most 50")
	flag.DurationVar(&p.every, "every", 5*time.Second, "time between two entries of a bench")
	flag.DurationVar(&p.last, "for", 10*time.Minute, "how long, at most 10 minutes")
	flag.IntVar(&p.fill, "fill", 0, "how often each bench writes before the time begins")
	flag.IntVar(&p.size, "notebook", 40, "writes of a bench until it goes on to the next practical, about what one takes; 0: never")
	hostile := flag.Bool("hostile", false, "time the benches beside one student who does the worst that the routes allow")
	flag.Parse()
	if p.benches > 1000 || p.boards > 50 || p.last > 10*time.Minute {
		log.Fatal("load: that is more than this program gives")
	}
	p.practicals, p.classes = 1, (p.benches+29)/30
	if p.size > 0 {
		p.practicals += int(p.last/p.every) / p.size
	}
	run := p.run
	if *hostile {
		run = p.hostile
	}
	if err := run(); err != nil {
		log.Fatal("load: ", err)
	}
}

func (p plan) run() (err error) {
	dir, err := os.MkdirTemp("", "exactflask-load-")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
	data := filepath.Join(dir, "load.db")
	if err := school(data, p.benches, p.practicals); err != nil {
		return err
	}
	s, err := browser.StartServer(p.binary, data)
	if err != nil {
		return err
	}
	m, lost, twice, err := p.measure(s)
	memory := s.Memory()
	if err := errors.Join(err, s.Stop()); err != nil {
		return err
	}
	m.print(p, lost, twice)
	fmt.Printf("%d messages on %d event streams; the server had at most %d MB resident\n", m.messages, p.benches, memory)
	bare, err := bareCommit(filepath.Join(dir, "bare.db"))
	if err != nil {
		return err
	}
	fmt.Printf("a bare commit of one row in the same run: median %s\n", bare)
	if lost+twice+len(m.failed) > 0 {
		return errors.Join(append(m.failed[:min(3, len(m.failed))], fmt.Errorf("%d lost, %d twice", lost, twice))...)
	}
	return nil
}

// hostile is a run beside one student.
func (p plan) hostile() (err error) {
	dir, err := os.MkdirTemp("", "exactflask-hostile-")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
	return p.besideOne(dir)
}

// measure lets everybody in, lets them work, and counts what of it is there afterwards.
func (p plan) measure(s *browser.Server) (m *measured, lost, twice int, err error) {
	writers, lookers, err := p.signIn(s.URL)
	if err != nil {
		return nil, 0, 0, err
	}
	if err := filled(writers, p.fill); err != nil {
		return nil, 0, 0, err
	}
	ctx, cancel := context.WithTimeout(context.Background(), p.last)
	defer cancel()
	m = &measured{plan: p, ctx: ctx, began: map[string]time.Time{}}
	for _, b := range lookers[:min(len(lookers), p.classes)] { // one board for each practical of a class
		for _, practical := range b.Practicals {
			m.watch(b, practical)
		}
	}
	acknowledged := make([]map[string][]string, p.benches) // by notebook
	for i, b := range writers {
		acknowledged[i] = map[string][]string{}
		m.work(i, b, acknowledged[i])
	}
	for i, b := range lookers {
		m.repeat(p.every*time.Duration(i)/time.Duration(p.boards), b.Look)
	}
	m.wg.Wait()
	for i, b := range writers {
		for notebook, ids := range acknowledged[i] {
			there, err := b.Entries(notebook)
			if err != nil {
				return m, lost, twice, err
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
	return m, lost, twice, nil
}

func (p plan) signIn(url string) (writers, lookers []*e2e.Bench, err error) {
	for i := range p.benches {
		name := fmt.Sprintf("bench-%d", i)
		b, err := e2e.SignIn(url, fmt.Sprintf("127.0.%d.%d", 1+i/200, 1+i%200), name, demo.Password, name)
		if err != nil {
			return nil, nil, err
		}
		writers = append(writers, b)
	}
	for i := range p.boards {
		b, err := e2e.SignIn(url, "", fmt.Sprintf("board-%d", i%p.classes), demo.Password, "board")
		if err != nil {
			return nil, nil, err
		}
		lookers = append(lookers, b)
	}
	return writers, lookers, nil
}

// measured is what was seen while they worked.
type measured struct {
	plan
	ctx context.Context
	wg  sync.WaitGroup

	mu           sync.Mutex
	times, heard []time.Duration
	failed       []error
	messages     int
	began        map[string]time.Time // the write that a board has not heard of yet, by notebook
}

func (m *measured) note(err error) {
	if err != nil {
		m.mu.Lock()
		m.failed = append(m.failed, err)
		m.mu.Unlock()
	}
}

// repeat does something every so often, from an offset on.
func (m *measured) repeat(offset time.Duration, do func() error) {
	m.wg.Go(func() {
		tick := time.NewTimer(offset)
		for {
			select {
			case <-m.ctx.Done():
				return
			case <-tick.C:
			}
			tick.Reset(m.every)
			m.note(do())
		}
	})
}

// watch notes when a board hears of what was written.
func (m *measured) watch(b *e2e.Bench, practical string) {
	m.wg.Go(func() {
		m.note(b.Watch(m.ctx, practical, func(notebook string) {
			m.mu.Lock()
			defer m.mu.Unlock()
			if at, ok := m.began[notebook]; ok {
				m.heard = append(m.heard, time.Since(at))
				delete(m.began, notebook)
			}
		}))
	})
}

func (m *measured) listen(b *e2e.Bench) (stop func()) {
	ctx, stop := context.WithCancel(m.ctx)
	notebook := b.Notebook
	m.wg.Go(func() {
		n, err := b.Listen(ctx, notebook)
		m.mu.Lock()
		m.messages += n
		m.mu.Unlock()
		m.note(err)
	})
	return stop
}

// work lets a bench write, and go on to the next practical after so much.
func (m *measured) work(i int, b *e2e.Bench, acknowledged map[string][]string) {
	stop, written, at := m.listen(b), 0, 0
	goesOn := m.size - i%11 // not all at one moment
	if m.size == 0 {
		goesOn = -1
	}
	m.repeat(m.every*time.Duration(i)/time.Duration(m.benches), func() error {
		begun := time.Now()
		m.mu.Lock()
		m.began[b.Notebook] = begun
		m.mu.Unlock()
		ids, err := b.Write()
		took := time.Since(begun)
		m.mu.Lock()
		m.times = append(m.times, took)
		m.mu.Unlock()
		if err != nil {
			return err
		}
		acknowledged[b.Notebook] = append(acknowledged[b.Notebook], ids...)
		if written++; written != goesOn {
			return nil
		}
		stop()
		at++
		if err := b.Begin(b.Practicals[at%len(b.Practicals)]); err != nil {
			return err
		}
		stop, goesOn = m.listen(b), written+m.size
		return nil
	})
}

func (m *measured) print(p plan, lost, twice int) {
	slices.Sort(m.times)
	at := func(q float64) time.Duration {
		return m.times[int(q*float64(len(m.times)-1))].Round(10 * time.Microsecond)
	}
	fmt.Printf("%d benches, one entry every %s, %d boards, %s: %d requests, %d failed\n", p.benches, p.every, p.boards, p.last,
		len(m.times), len(m.failed))
	fmt.Printf("median %s, 95 %% %s, 99 %% %s, longest %s; lost %d, twice %d\n", at(0.5), at(0.95), at(0.99), at(1),
		lost, twice)
	slices.Sort(m.heard)
	if n := len(m.heard); n > 0 {
		fmt.Printf("on the board from the stroke: median %s, 99 %% %s, of %d\n", m.heard[n/2].Round(time.Millisecond), m.heard[n*99/100].Round(time.Millisecond), n)
	}
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
