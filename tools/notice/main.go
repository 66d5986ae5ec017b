// Command notice writes NOTICE: the licences of everything that ships inside the
// program, from what the binary says it is made of and the front end's lock file.
// Run it with make notice.
package main

import (
	"bytes"
	"cmp"
	"debug/buildinfo"
	"encoding/json"
	"errors"
	"fmt"
	"log"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
)

// part is something of another's that ships inside.
type part struct{ name, version, text string }

func main() {
	binary := "bin/exactflask"
	if len(os.Args) > 1 {
		binary = os.Args[1]
	}
	parts, err := goParts(binary)
	if err == nil {
		var more []part
		more, err = pageParts("ui")
		parts = append(parts, more...)
	}
	if err == nil {
		err = os.WriteFile("NOTICE", notice(parts), 0o644)
	}
	if err != nil {
		log.Fatal("notice: ", err)
	}
}

// goParts are the Go distribution and the modules in the binary.
func goParts(binary string) ([]part, error) {
	info, err := buildinfo.ReadFile(binary)
	if err != nil {
		return nil, err
	}
	root, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		return nil, err
	}
	text, err := licence(strings.TrimSpace(string(root)))
	if err != nil {
		return nil, err
	}
	out := []part{{"Go (standard library)", info.GoVersion, text}}
	for _, m := range info.Deps {
		dir, err := exec.Command("go", "list", "-m", "-f", "{{.Dir}}", m.Path).Output()
		if err != nil {
			return nil, fmt.Errorf("%s: %w", m.Path, err)
		}
		text, err := licence(strings.TrimSpace(string(dir)))
		if err != nil {
			return nil, err
		}
		out = append(out, part{m.Path, m.Version, text})
	}
	return out, nil
}

// built are packages that a tool of the build puts into the page: of the service worker,
// and of the styles.
var built = []string{"workbox-core", "workbox-precaching", "workbox-routing", "workbox-strategies", "workbox-expiration",
	"idb", "tailwindcss"}

// pageParts are the packages of the page that are not for development only, or are built
// into it.
func pageParts(ui string) ([]part, error) {
	text, err := os.ReadFile(filepath.Join(ui, "package-lock.json"))
	if err != nil {
		return nil, err
	}
	var lock struct {
		Packages map[string]struct {
			Version       string
			Dev, Optional bool
		}
	}
	if err := json.Unmarshal(text, &lock); err != nil {
		return nil, err
	}
	var out []part
	for dir, p := range lock.Packages {
		if dir == "" || (p.Dev || p.Optional) && !slices.Contains(built, strings.TrimPrefix(dir, "node_modules/")) {
			continue
		}
		text, err := licence(filepath.Join(ui, dir))
		if err != nil {
			return nil, err
		}
		_, name, _ := strings.Cut(dir, "node_modules/")
		out = append(out, part{name, p.Version, text})
	}
	return out, nil
}

// licence is the text of the licence in a folder; of one that has none, what its
// package file says.
func licence(dir string) (string, error) {
	files, err := os.ReadDir(dir)
	if err != nil {
		return "", err
	}
	for _, f := range files {
		name := strings.ToUpper(f.Name())
		if !f.IsDir() && (strings.HasPrefix(name, "LICEN") || strings.HasPrefix(name, "COPYING")) {
			text, err := os.ReadFile(filepath.Join(dir, f.Name()))
			return strings.TrimSpace(strings.ReplaceAll(string(text), "\r\n", "\n")), err
		}
	}
	var about struct{ License any }
	text, err := os.ReadFile(filepath.Join(dir, "package.json"))
	if err = errors.Join(err, json.Unmarshal(text, &about)); err != nil || about.License == nil {
		return "", fmt.Errorf("%s has no licence: %w", dir, err)
	}
	return fmt.Sprintf("Licence: %v (as its package file says; it ships no text of it).", about.License), nil
}

// notice lists the parts under their licences, one text once.
func notice(parts []part) []byte {
	by := map[string][]string{}
	for _, p := range parts {
		by[p.text] = append(by[p.text], p.name+" "+p.version)
	}
	texts := make([]string, 0, len(by))
	for text, names := range by {
		slices.Sort(names)
		by[text] = slices.Compact(names)
		texts = append(texts, text)
	}
	slices.SortFunc(texts, func(a, b string) int { return cmp.Compare(by[a][0], by[b][0]) })
	var out bytes.Buffer
	out.WriteString("Exact Flask\n\nLicensed under the Apache License, Version 2.0; see LICENSE.\nWritten by make notice. These works of others ship inside the program:\n")
	for _, text := range texts {
		fmt.Fprintf(&out, "\n%s\n%s\n\n%s\n", strings.Repeat("-", 78), strings.Join(by[text], "\n"), text)
	}
	return out.Bytes()
}
