package wording_test

import (
	"encoding/json"
	"fmt"
	"io/fs"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/catalog"
	"exactflask/core/decimal"
	"exactflask/core/experiment"
	"exactflask/core/plan"
	"exactflask/core/prep"
	"exactflask/docs/examples"
	"exactflask/wording"
)

var styles = []experiment.Style{
	{Words: experiment.WordsTitre, Units: experiment.UnitsML}, {Words: experiment.WordsTitre, Units: experiment.UnitsCM3},
	{Words: experiment.WordsTiter, Units: experiment.UnitsML}, {Words: experiment.WordsTiter, Units: experiment.UnitsCM3},
}

// unfinished finds what no reader should meet: a place that was not filled in,
// a code that was not put into words, or a number that is none.
var unfinished = regexp.MustCompile(`[{}\[\]]|%!|\bNaN\b|\bInf\b|<nil>|undefined|  |^(step|plan|prep|prelab|class|next|stage|cause|slip|in|out)\.[a-z.-]+$`)

// texts calls see with every text under value that people read.
func texts(value any, path string, see func(path, text string)) {
	switch v := value.(type) {
	case string:
		see(path, v)
	case []any:
		for i, x := range v {
			texts(x, fmt.Sprintf("%s[%d]", path, i), see)
		}
	case map[string]any:
		for name, x := range v {
			switch name {
			case "evaluation", "assessment", "style", "code", "step", "latex", "symbol", "node", "entry", "trial", "contribution", "cause", "equationLatex":
			default: // those are codes, ids and LaTeX
				texts(x, path+"."+name, see)
			}
		}
	}
}

func finished(t *testing.T, of string, sheet any, style experiment.Style) {
	text, err := json.Marshal(sheet)
	require.NoError(t, err, "%s", of)
	var tree any
	require.NoError(t, json.Unmarshal(text, &tree))
	seen := 0
	texts(tree, "", func(path, text string) {
		seen++
		assert.NotRegexp(t, unfinished, text, "%s, %v: %s", of, style, path)
		if style.Units == experiment.UnitsCM3 {
			assert.NotRegexp(t, `\d\s?m?L\b|(g|mol)/L`, text, "%s: %s keeps to cm³", of, path)
		}
		if style.Words == experiment.WordsTiter {
			assert.NotRegexp(t, `(?i)\btitres?\b|\bburettes?\b`, text, "%s: %s keeps to its own words", of, path)
		}
	})
	assert.Greater(t, seen, 10, of)
}

// Every example in every usage and every style of working says everything to
// the end, and its LaTeX closes what it opens.
func TestEveryExampleIsSaidToTheEnd(t *testing.T) {
	files, err := fs.Glob(examples.Files, "*.json")
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(files), 14)
	for _, file := range files {
		for _, style := range styles {
			_, sheet := speak(t, file, style)
			finished(t, file, sheet, style)
			if sheet.Answer == nil {
				continue
			}
			workings := map[experiment.Working][]wording.Step{sheet.Answer.Style: sheet.Answer.Steps}
			for style, steps := range sheet.Answer.Others {
				workings[style] = steps
			}
			assert.Len(t, workings, 3, "%s has three styles of working", file)
			for way, steps := range workings {
				require.NotEmpty(t, steps, "%s, %s", file, way)
				for _, s := range steps {
					assert.NotEmpty(t, s.Title, "%s, %s", file, way)
					assert.Contains(t, s.Plain(), "=", "%s, %s: %s", file, way, s.Title)
					assert.Equal(t, strings.Count(s.LaTeX(), "{"), strings.Count(s.LaTeX(), "}"), "%s, %s: %s", file, way, s.LaTeX())
					for _, token := range s.Tokens {
						if token.Node != "" {
							assert.Contains(t, sheet.Answer.Origins, token.Node, "%s, %s: every figure says where it comes from", file, way)
						}
					}
				}
				assert.Contains(t, steps[len(steps)-1].Plain(), sheet.Answer.Value, "%s, %s ends with the answer", file, way)
			}
		}
	}
}

// Every reaction of the catalogue, planned: dilute and strong, for few and for
// many.
func TestEveryPlanIsSaidToTheEnd(t *testing.T) {
	doc, _ := speak(t, "buffer-dosing.json", experiment.Style{})
	for i, r := range catalog.BuiltIn().Reactions {
		if strings.HasSuffix(r.ID, "-iodide") {
			continue // no titration
		}
		p := doc.Practical
		p.Equation, p.Indicator = r.Equation, r.Indicators[0]
		p.Titrant, p.Analyte = plan.Begin(r)
		for j, strength := range []string{"0.005", "0.1", "1.5"} {
			p.Titrant.Concentration, p.Analyte.Approximate = decimal.Must(strength), decimal.Must("0.1")
			a, fault := plan.Assess(p)
			require.Nil(t, fault, r.ID)
			style := styles[(i+j)%len(styles)]
			sheet := wording.SpeakPlan(p, a, prep.Class{Students: 1 + 37*j, Trials: 3 + j, Bottle: 100}, style)
			finished(t, r.ID+" at "+strength, sheet, style)
			assert.Len(t, sheet.Findings, len(a.Findings))
			assert.Len(t, sheet.Proposals, len(a.Proposals))
			assert.NotEmpty(t, sheet.Needs, r.ID)
			assert.NotEmpty(t, sheet.Labels, r.ID)
			assert.NotEmpty(t, sheet.Setting.Cautions, r.ID)
		}
	}
}
