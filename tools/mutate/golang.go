package main

import (
	"bytes"
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
)

// goSource is the Go code whose rules are broken.
type goSource struct {
	dir    string
	covers []covered // by the packages of tests
	count  int
}

// covered is which lines the tests of a package pass through.
type covered struct {
	tests string
	lines map[string]map[int]int // how often, by file
}

// rules are the folders that hold them; of app, what decides about access.
var rules = []string{"core", "app/access", "store"}

func (g *goSource) holds(path string) bool {
	name := filepath.Base(path)
	switch {
	case !strings.HasSuffix(name, ".go"), strings.HasSuffix(name, "_test.go"), name == "doc.go", strings.Contains(path, "practicaltest"):
		return false
	case strings.HasPrefix(path, "store/db/"):
		return false // written by a tool
	}
	return true
}

func (g *goSource) mutants() ([]mutant, error) {
	var out []mutant
	for _, root := range rules {
		err := filepath.WalkDir(root, func(path string, d os.DirEntry, err error) error {
			if err != nil || d.IsDir() || !g.holds(filepath.ToSlash(path)) {
				return err
			}
			found, err := mutantsOf(filepath.ToSlash(path))
			out = append(out, found...)
			return err
		})
		if err != nil {
			return nil, err
		}
	}
	return out, nil
}

// others are what stands in the place of an operator.
var others = map[token.Token]struct{ kind, new string }{
	token.LSS: {"limit", "<="}, token.LEQ: {"limit", "<"}, token.GTR: {"limit", ">="}, token.GEQ: {"limit", ">"},
	token.EQL: {"comparison", "!="}, token.NEQ: {"comparison", "=="},
	token.ADD: {"sign", "-"}, token.SUB: {"sign", "+"}, token.MUL: {"sign", "/"}, token.QUO: {"sign", "*"},
	token.LAND: {"condition", "||"}, token.LOR: {"condition", "&&"},
}

// mutantsOf are the faults that a file could have.
func mutantsOf(path string) ([]mutant, error) {
	text, err := os.ReadFile(path)
	if err != nil {
		return nil, err
	}
	fs := token.NewFileSet()
	file, err := parser.ParseFile(fs, path, text, 0)
	if err != nil {
		return nil, err
	}
	var out []mutant
	add := func(from, to token.Pos, kind, new string) {
		a, b := fs.Position(from), fs.Position(to)
		out = append(out, mutant{path, a.Line, a.Offset, b.Offset, new, kind, string(text[a.Offset:b.Offset])})
	}
	for _, d := range file.Decls {
		ast.Inspect(d, func(n ast.Node) bool {
			switch n := n.(type) {
			case *ast.BinaryExpr:
				if o, ok := others[n.Op]; ok && !textual(n) {
					add(n.OpPos, n.OpPos+token.Pos(len(n.Op.String())), o.kind, o.new)
				}
			case *ast.BasicLit:
				if changed, ok := another(n); ok {
					add(n.Pos(), n.End(), "number", changed)
				}
			case *ast.CallExpr:
				if f, ok := n.Fun.(*ast.SelectorExpr); ok && f.Sel.Name == "Must" && len(n.Args) == 1 { // a decimal
					if lit, ok := n.Args[0].(*ast.BasicLit); ok {
						if v, err := strconv.ParseFloat(strings.Trim(lit.Value, `"`), 64); err == nil && v != 0 {
							add(lit.Pos(), lit.End(), "number", fmt.Sprintf("%q", strconv.FormatFloat(v*1.5, 'f', -1, 64)))
						}
					}
				}
			case *ast.IfStmt:
				if early(n.Body) {
					add(n.Cond.Pos(), n.Cond.End(), "early return", "("+string(text[fs.Position(n.Cond.Pos()).Offset:fs.Position(n.Cond.End()).Offset])+") && false")
				}
			}
			return true
		})
	}
	return out, nil
}

// textual tells of sums that join texts.
func textual(n *ast.BinaryExpr) bool {
	if n.Op != token.ADD {
		return false
	}
	found := false
	ast.Inspect(n, func(n ast.Node) bool {
		lit, ok := n.(*ast.BasicLit)
		found = found || ok && lit.Kind == token.STRING
		return true
	})
	return found
}

// another is a number that stands in the place of one.
func another(n *ast.BasicLit) (string, bool) {
	switch n.Kind {
	case token.INT:
		v, err := strconv.ParseInt(n.Value, 0, 64)
		return strconv.FormatInt(v+1, 10), err == nil
	case token.FLOAT:
		v, err := strconv.ParseFloat(n.Value, 64)
		return strconv.FormatFloat(v*1.5, 'g', -1, 64), err == nil && v != 0
	}
	return "", false
}

// early tells of a block that is only a return, or a way out of a loop.
func early(b *ast.BlockStmt) bool {
	if len(b.List) != 1 {
		return false
	}
	switch b.List[0].(type) {
	case *ast.ReturnStmt, *ast.BranchStmt:
		return true
	}
	return false
}

// tested are the packages whose tests may notice.
var tested = []string{"./core/...", "./app/...", "./store", "./device", "./view", "./calc", "./wording", "./web"}

// cover runs all tests once, to learn which pass through which lines.
func (g *goSource) cover() error {
	out, err := exec.Command("go", append([]string{"list", "-f", "{{if or .TestGoFiles .XTestGoFiles}}{{.ImportPath}}{{end}}"}, tested...)...).Output()
	if err != nil {
		return err
	}
	for _, pkg := range strings.Fields(string(out)) {
		profile := filepath.Join(g.dir, "cover.out")
		if out, err := exec.Command("go", "test", "-covermode=count", "-coverpkg=./core/...,./app/...,./store", "-coverprofile="+profile, pkg).CombinedOutput(); err != nil {
			return fmt.Errorf("the tests of %s do not pass as they are: %s", pkg, out)
		}
		text, err := os.ReadFile(profile)
		if err != nil {
			return err
		}
		g.covers = append(g.covers, covered{pkg, linesOf(string(text))})
	}
	return nil
}

// linesOf reads a profile of coverage.
func linesOf(profile string) map[string]map[int]int {
	out := map[string]map[int]int{}
	for line := range strings.Lines(profile) {
		var from, to, fromColumn, toColumn, statements, count int
		name, rest, ok := strings.Cut(strings.TrimSpace(line), ":")
		if _, err := fmt.Sscanf(rest, "%d.%d,%d.%d %d %d", &from, &fromColumn, &to, &toColumn, &statements, &count); !ok || err != nil || count == 0 {
			continue
		}
		name = strings.TrimPrefix(name, "exactflask/")
		if out[name] == nil {
			out[name] = map[int]int{}
		}
		for l := from; l <= to; l++ {
			out[name][l] = max(out[name][l], count)
		}
	}
	return out
}

// mostOthers is how many packages beside its own are asked of a fault, those first whose tests pass
// through the line most often:
// a rule that only tests far away hold is not held.
const mostOthers = 3

func boolToInt(b bool) int {
	if b {
		return 1
	}
	return 0
}

func (g *goSource) survives(m mutant, broken []byte) (bool, string, error) {
	if g.covers == nil {
		if err := g.cover(); err != nil {
			return false, "", err
		}
	}
	g.count++
	dir := filepath.Join(g.dir, fmt.Sprint(g.count))
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return false, "", err
	}
	file, overlay := filepath.Join(dir, filepath.Base(m.file)), filepath.Join(dir, "overlay.json")
	whole, err := filepath.Abs(m.file)
	if err != nil {
		return false, "", err
	}
	replaced, err := json.Marshal(map[string]map[string]string{"Replace": {whole: file}})
	if err := errors.Join(err, os.WriteFile(file, broken, 0o600), os.WriteFile(overlay, replaced, 0o600)); err != nil {
		return false, "", err
	}
	inFunction := false
	for _, c := range g.covers {
		inFunction = inFunction || c.lines[m.file][m.line] > 0
	}
	own := "exactflask/" + filepath.Dir(m.file)
	narrow := slices.Clone(g.covers) // those of its own package first
	slices.SortStableFunc(narrow, func(a, b covered) int {
		return cmp.Or(boolToInt(b.tests == own)-boolToInt(a.tests == own), b.lines[m.file][m.line]-a.lines[m.file][m.line])
	})
	left := mostOthers
	for _, c := range narrow {
		// What stands outside functions, such as a table, is in no profile: its own package.
		if c.lines[m.file][m.line] == 0 && (inFunction || len(c.lines[m.file]) == 0) {
			continue
		}
		if c.tests != own {
			if left--; left < 0 {
				break
			}
		}
		out, err := exec.Command("go", "test", "-overlay", overlay, "-timeout", "120s", c.tests).CombinedOutput()
		switch {
		case err == nil:
			continue
		case bytes.Contains(out, []byte("[build failed]")), bytes.Contains(out, []byte("[setup failed]")):
			return false, "does not build", nil
		}
		for line := range strings.Lines(string(out)) {
			if name, found := strings.CutPrefix(line, "--- FAIL: "); found {
				return false, strings.Fields(name)[0], nil
			}
		}
		return false, c.tests, nil
	}
	return true, "", nil
}
