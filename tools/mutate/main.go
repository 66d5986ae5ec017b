// Command mutate breaks one rule at a time, drawn by a seed, and tells which breaks no
// test notices:
//
//	go run ./tools/mutate -n 300 -seed 1
//
// It changes a comparison, a limit, a sign, a default or an early return in the core, in
// what app/access decides, in the store and in the page's own notebook. No file of
// the project is touched: Go is built with an overlay, the page in a copy. Which tests run
// is told by coverage: those of its own package that pass through the line, then of
// three others, those first that pass through it most often. It stands outside make test, since
// it takes hours.
package main

import (
	"flag"
	"fmt"
	"log"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"time"
)

// mutant is one deliberate fault: a text in the place of what stands in a file.
type mutant struct {
	file     string // from the root of the project
	line     int
	from, to int // bytes
	new      string
	kind     string // what is broken
	old      string
}

func (m mutant) String() string {
	return fmt.Sprintf("%s:%d %s: %s -> %s", m.file, m.line, m.kind, strings.TrimSpace(m.old), strings.TrimSpace(m.new))
}

// source is a kind of code with its tests.
type source interface {
	// mutants are all that could be drawn.
	mutants() ([]mutant, error)
	// survives tells whether no test notices; by is the test that did.
	survives(m mutant, text []byte) (survived bool, by string, err error)
}

func main() {
	n := flag.Int("n", 300, "how many")
	seed := flag.Uint64("seed", 1, "of the draw")
	only := flag.String("only", "", "part of the name of a file")
	skip := flag.Int("skip", 0, "how many of the draw were tried before")
	list := flag.Bool("list", false, "show what would be tried")
	flag.Parse()
	log.SetFlags(0)

	dir, err := os.MkdirTemp("", "mutate-")
	check(err)
	defer os.RemoveAll(dir)
	var all []mutant
	by := map[string]source{}
	for ending, s := range map[string]source{".go": &goSource{dir: dir}, ".ts": &pageSource{dir: dir}} {
		found, err := s.mutants()
		check(err)
		for _, m := range found {
			if strings.Contains(m.file, *only) {
				all = append(all, m)
			}
		}
		by[ending] = s
	}
	drawn := draw(all, *n, *seed)[min(*skip, *n, len(all)):]
	fmt.Printf("%d of %d faults, seed %d\n", len(drawn), len(all), *seed)
	survivors := 0
	for i, m := range drawn {
		if *list {
			fmt.Println(m)
			continue
		}
		text, err := os.ReadFile(m.file)
		check(err)
		broken := append(append(append([]byte{}, text[:m.from]...), m.new...), text[m.to:]...)
		begun := time.Now()
		survived, test, err := by[filepath.Ext(m.file)].survives(m, broken)
		check(err)
		if survived {
			survivors++
			fmt.Printf("%3d SURVIVED %s\n", i+1, m)
		} else {
			fmt.Printf("%3d noticed  %s (%s, %.0f s)\n", i+1, m, test, time.Since(begun).Seconds())
		}
	}
	fmt.Printf("%d of %d survived\n", survivors, len(drawn))
}

// draw takes n by a seed, spread over the files by how much they hold.
func draw(all []mutant, n int, seed uint64) []mutant {
	order := rand.New(rand.NewPCG(seed, seed)).Perm(len(all))
	out := make([]mutant, 0, n)
	lines := map[string]bool{} // one fault a line
	for _, i := range order {
		at := fmt.Sprint(all[i].file, all[i].line)
		if len(out) < n && !lines[at] {
			lines[at] = true
			out = append(out, all[i])
		}
	}
	return out
}

func check(err error) {
	if err != nil {
		log.Fatal("mutate: ", err)
	}
}
