package wording_test

import (
	"bytes"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/experiment"
	"exactflask/formats"
	"exactflask/wording"
)

func speak(t testing.TB, file string, style experiment.Style) (formats.Document, wording.Sheet) {
	f, err := os.Open(filepath.Join("..", "docs", "examples", file))
	require.NoError(t, err)
	defer f.Close()
	doc, err := formats.Read(f)
	require.NoError(t, err)
	ev, fault := experiment.Evaluate(doc.Practical, doc.Journal)
	require.Nil(t, fault)
	return doc, wording.Speak(doc.Practical, ev, style)
}

// Every code that the core can say has a sentence.
func TestEveryCodeHasItsSentence(t *testing.T) {
	code := regexp.MustCompile(`^(in|out|reading|titre|agreement|result|entry|next|stage|step|cause|slip|back|glass|plan|prep|prelab|class)\.[a-z][a-z-]*[a-z]$`)
	said := wording.Codes()
	for _, folder := range []string{"experiment", "agreement", "journal", "stoich", "plan", "prep"} {
		files, err := filepath.Glob("../core/" + folder + "/*.go")
		require.NoError(t, err)
		for _, file := range files {
			if strings.HasSuffix(file, "_test.go") {
				continue
			}
			tree, err := parser.ParseFile(token.NewFileSet(), file, nil, 0)
			require.NoError(t, err)
			ast.Inspect(tree, func(n ast.Node) bool {
				lit, ok := n.(*ast.BasicLit)
				if !ok || lit.Kind != token.STRING {
					return true
				}
				text, _ := strconv.Unquote(lit.Value)
				path := regexp.MustCompile(`^(reading|trial|correction|note|agreement|result)\.(text|mark|trial|type|value|reason|replaces|tolerance|need|kind|percent|average|figures|show|working)$`)
				if code.MatchString(text) && !path.MatchString(text) {
					assert.True(t, said[text] || said[text+".own"], "%s in %s has no sentence", text, file)
					if strings.HasPrefix(text, "step.") {
						assert.True(t, said[text+".own"], "%s in %s has no sentence for the student's own work", text, file)
					}
				}
				return true
			})
		}
	}
}

func TestBothUsages(t *testing.T) {
	_, british := speak(t, "buffer-dosing.json", experiment.Style{Words: experiment.WordsTitre, Units: experiment.UnitsCM3})
	assert.Equal(t, "3 titres agree: spread 0.10\u202fcm³, within 0.10\u202fcm³. Mean titre 23.83\u202fcm³.", british.Agreement)
	assert.Contains(t, british.Setting.Glass, "burette")
	assert.Equal(t, "mol/dm³", british.Answer.Unit)
	_, american := speak(t, "buffer-dosing.json", experiment.Style{Words: experiment.WordsTiter, Units: experiment.UnitsML})
	assert.Equal(t, "3 titers agree: spread 0.10\u202fmL, within 0.10\u202fmL. Average titer 23.83\u202fmL.", american.Agreement)
	assert.Contains(t, american.Setting.Glass, "buret ")
	assert.Equal(t, british.Answer.Value, american.Answer.Value, "words change no number")
	for _, s := range []wording.Sheet{british, american} {
		assert.NotContains(t, s.Next+s.Agreement+s.Stage, "[", "every term was replaced")
		assert.NotContains(t, s.Next+s.Agreement+s.Stage, "{", "every value was filled in")
	}
}

func TestWorkingReachesBackToTheReadings(t *testing.T) {
	doc, s := speak(t, "buffer-dosing.json", experiment.Style{})
	var lines []string
	for _, step := range s.Answer.Steps {
		lines = append(lines, strings.ReplaceAll(step.Plain(), "\u202f", " "))
	}
	assert.Equal(t, []string{
		"n(HCl) = c(HCl) × V(HCl) = 0.100 mol/L × 0.023833 L = 0.002383 mol",
		"n(Na₂CO₃) = 0.002383 mol × 1/2 = 0.001192 mol",
		"c(Na₂CO₃) = n(Na₂CO₃) ÷ V(Na₂CO₃) = 0.001192 mol ÷ 0.0250 L = 0.0477 mol/L",
	}, lines, "each intermediate with one guard figure")
	// From the answer, every way back ends at a reading or a given value.
	entries := map[string]bool{}
	for _, e := range doc.Journal {
		entries[e.ID] = true
	}
	readings := 0
	for _, n := range s.Evaluation.Result.Derivation.Nodes {
		origin, ok := s.Answer.Origins[n.ID]
		require.True(t, ok, n.ID)
		assert.NotEmpty(t, origin.Text, n.ID)
		if n.Entry != "" {
			readings++
			assert.True(t, entries[n.Entry], "%s names an entry of the notebook", n.ID)
		}
		for _, token := range origin.Line {
			if token.Node != "" {
				assert.Contains(t, s.Answer.Origins, token.Node)
			}
		}
	}
	assert.Equal(t, 6, readings, "three titres, two readings each")
}

func TestTextForATerminal(t *testing.T) {
	doc, s := speak(t, "buffer-dosing.json", experiment.Style{})
	var out bytes.Buffer
	require.NoError(t, wording.WriteText(&out, doc.Practical, s))
	for _, want := range []string{"Set aside: overshot: deep red", "3 titres agree", "0.0477", "2 NaCl"} {
		assert.Contains(t, out.String(), want)
	}
}

func BenchmarkSpeak(b *testing.B) {
	doc, s := speak(b, "buffer-dosing.json", experiment.Style{})
	b.ReportAllocs()
	for b.Loop() {
		wording.Speak(doc.Practical, s.Evaluation, experiment.Style{})
	}
}
