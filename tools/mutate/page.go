package main

import (
	"errors"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
)

// pageSource is the page's own notebook: its queue, its copies, its judge.
type pageSource struct {
	dir    string
	copied string // of ui, where it is tested
}

const notebook = "ui/src/notebook"

var pageFaults = []struct {
	pattern *regexp.Regexp
	kind    string
	new     func(string) string
}{
	{regexp.MustCompile(` === `), "comparison", func(string) string { return " !== " }},
	{regexp.MustCompile(` !== `), "comparison", func(string) string { return " === " }},
	{regexp.MustCompile(` (<|>) `), "limit", func(s string) string { return strings.TrimRight(s, " ") + "= " }},
	{regexp.MustCompile(` (<=|>=) `), "limit", func(s string) string { return strings.ReplaceAll(s, "=", "") }},
	{regexp.MustCompile(` && `), "condition", func(string) string { return " || " }},
	{regexp.MustCompile(` \+ `), "sign", func(string) string { return " - " }},
	{regexp.MustCompile(`\bif \([^\n]*\) (return|continue|break)\b`), "early return", func(s string) string { return strings.Replace(s, "if (", "if (false && (", 1) + "" }},
	{regexp.MustCompile(`\b[0-9][0-9_]*\b`), "number", func(s string) string {
		n, _ := strconv.Atoi(strings.ReplaceAll(s, "_", ""))
		return strconv.Itoa(n + 1)
	}},
}

func (p *pageSource) mutants() ([]mutant, error) {
	files, err := filepath.Glob(notebook + "/*.ts")
	if err != nil {
		return nil, err
	}
	var out []mutant
	for _, path := range files {
		if strings.HasSuffix(path, ".test.ts") {
			continue
		}
		text, err := os.ReadFile(path)
		if err != nil {
			return nil, err
		}
		line, at := 0, 0
		for _, l := range strings.SplitAfter(string(text), "\n") {
			line++
			code, _, _ := strings.Cut(l, "//")
			if !strings.HasPrefix(strings.TrimSpace(code), "import") && !strings.HasPrefix(strings.TrimSpace(code), "*") && !strings.HasPrefix(strings.TrimSpace(code), "/*") {
				for _, f := range pageFaults {
					for _, m := range f.pattern.FindAllStringIndex(code, -1) {
						old := code[m[0]:m[1]]
						changed := f.new(old)
						if f.kind == "early return" { // the bracket that was opened
							i := strings.LastIndex(changed, ")")
							changed = changed[:i] + ")" + changed[i:]
						}
						out = append(out, mutant{path, line, at + m[0], at + m[1], changed, f.kind, old})
					}
				}
			}
			at += len(l)
		}
	}
	return out, nil
}

// survives tests a copy of the page, which is made once.
func (p *pageSource) survives(m mutant, broken []byte) (bool, string, error) {
	if p.copied == "" {
		p.copied = filepath.Join(p.dir, "page", "ui")
		if err := os.MkdirAll(filepath.Dir(p.copied), 0o755); err != nil {
			return false, "", err
		}
		for _, args := range [][]string{{"cp", "-r", "wording", filepath.Join(p.dir, "page", "wording")},
			{"rsync", "-a", "--exclude", "node_modules", "ui/", p.copied + "/"}} {
			if _, err := exec.LookPath(args[0]); err != nil && args[0] == "rsync" {
				args = []string{"sh", "-c", "mkdir -p " + p.copied + " && tar -C ui --exclude=node_modules -cf - . | tar -C " + p.copied + " -xf -"}
			}
			if out, err := exec.Command(args[0], args[1:]...).CombinedOutput(); err != nil {
				return false, "", errors.Join(err, errors.New(string(out)))
			}
		}
		modules, err := filepath.Abs("ui/node_modules")
		if err := errors.Join(err, os.Symlink(modules, filepath.Join(p.copied, "node_modules"))); err != nil {
			return false, "", err
		}
	}
	file := filepath.Join(p.dir, "page", m.file)
	text, err := os.ReadFile(m.file)
	if err := errors.Join(err, os.WriteFile(file, broken, 0o600)); err != nil {
		return false, "", err
	}
	defer func() { _ = os.WriteFile(file, text, 0o600) }()
	cmd := exec.Command("npx", "--no-install", "vitest", "run", "--silent", "--bail", "1", "src/notebook", "src/device", "src/api")
	cmd.Dir = p.copied
	if err := cmd.Run(); err != nil {
		return false, "vitest", nil
	}
	return true, "", nil
}
