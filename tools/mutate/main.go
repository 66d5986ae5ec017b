// Command mutate breaks one rule at a time and tells which breaks no test of
// the Go packages notices. It changes no file: the tests are built with an
// overlay. Run it as: go run ./tools/mutate [part of a name]
//
// It stands outside make test, since it takes minutes.
package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"log"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
)

// mutation is one deliberate fault: in a file, one text in the place of another
// that stands there once.
type mutation struct{ name, file, old, new string }

// packages are tested against every mutation: those of the core first, which
// are quick, and the others where these notice nothing.
var packages = [][]string{{"./core/..."}, {"./app", "./calc", "./demo", "./device", "./files", "./formats/...", "./schema",
	"./store", "./view", "./web", "./wording"}}

func main() {
	dir, err := os.MkdirTemp("", "mutate-")
	if err != nil {
		log.Fatal(err)
	}
	defer os.RemoveAll(dir)
	for _, some := range packages {
		if out, err := exec.Command("go", append([]string{"test"}, some...)...).CombinedOutput(); err != nil {
			log.Fatalf("the tests do not pass as they are:\n%s", out)
		}
	}
	survivors, tried := 0, 0
	for i, m := range mutations {
		if len(os.Args) > 1 && !strings.Contains(m.name, os.Args[1]) {
			continue
		}
		tried++
		killed, by, err := try(filepath.Join(dir, fmt.Sprint(i)), m)
		switch {
		case err != nil:
			log.Fatalf("%s: %v", m.name, err)
		case killed:
			fmt.Printf("killed    %-34s %s\n", m.name, by)
		default:
			survivors++
			fmt.Printf("SURVIVED  %s\n", m.name)
		}
	}
	fmt.Printf("%d of %d survived\n", survivors, tried)
}

// try tells whether a test fails with the mutation in place, and which.
func try(dir string, m mutation) (killed bool, by string, err error) {
	text, err := os.ReadFile(m.file)
	if err != nil {
		return false, "", err
	}
	if n := bytes.Count(text, []byte(m.old)); n != 1 {
		return false, "", fmt.Errorf("%s holds %q %d times, and not once", m.file, m.old, n)
	}
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return false, "", err
	}
	broken, overlay := filepath.Join(dir, filepath.Base(m.file)), filepath.Join(dir, "overlay.json")
	if err := os.WriteFile(broken, bytes.Replace(text, []byte(m.old), []byte(m.new), 1), 0o600); err != nil {
		return false, "", err
	}
	whole, err := filepath.Abs(m.file)
	if err != nil {
		return false, "", err
	}
	replaced, err := json.Marshal(map[string]map[string]string{"Replace": {whole: broken}})
	if err != nil {
		return false, "", err
	}
	if err := os.WriteFile(overlay, replaced, 0o600); err != nil {
		return false, "", err
	}
	for _, some := range packages {
		out, err := exec.Command("go", append([]string{"test", "-overlay", overlay}, some...)...).CombinedOutput()
		switch {
		case err == nil:
			continue
		case bytes.Contains(out, []byte("[build failed]")), bytes.Contains(out, []byte("[setup failed]")):
			return false, "", fmt.Errorf("it does not build:\n%s", out)
		}
		for _, line := range strings.Split(string(out), "\n") {
			if name, found := strings.CutPrefix(line, "--- FAIL: "); found {
				return true, name, nil
			}
		}
		return true, "", nil
	}
	return false, "", nil
}
