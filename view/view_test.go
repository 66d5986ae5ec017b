package view_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/experiment"
	"exactflask/core/practice/prep"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/docs/examples"
	"exactflask/formats"
	"exactflask/view"
)

var styles = []practical.Style{
	{Words: "titre", Units: "mL"}, {Words: "titre", Units: "cm3"}, {Words: "titer", Units: "mL"},
	{Words: "titer", Units: "cm3"},
}

// read reads every example of docs/examples.
func read(t testing.TB, visit func(name string, r *practical.Ready, doc formats.Document)) {
	files, err := examples.Files.ReadDir(".")
	require.NoError(t, err)
	require.Greater(t, len(files), 15)
	for _, f := range files {
		text, err := examples.Files.ReadFile(f.Name())
		require.NoError(t, err)
		doc, err := formats.Read(bytes.NewReader(text))
		require.NoError(t, err, f.Name())
		r, fault := doc.Practical.Check()
		require.Nil(t, fault, f.Name())
		visit(f.Name(), r, doc)
	}
}

// Left in a sentence, these show that it was not said to its end: a place for a
// value, a term in brackets, a code, a number that is none.
var unsaid = regexp.MustCompile(`\{\w*\}|\[[a-zA-Z]+\]|NaN|\+Inf|%!|  |0\.0000000|\b(cause|finding|next|step|origin|source|setup|cleanup)\.[a-z-]+`)

// A unit that stands twice behind its number.
var twice = regexp.MustCompile(`(mL|cm³|mol/L|mol/dm³|[^a-zA-Z]g|%)[ \x{a0}\x{202f}](mL|cm³|mol/L|mol/dm³|g|%)([^a-z/]|$)`)

// texts are all strings of a value below keys that hold sentences.
func texts(v any, key string, visit func(key, text string)) {
	switch x := v.(type) {
	case map[string]any:
		for k, inner := range x {
			if k != "origins" { // by ids; what is inside is visited
				texts(inner, k, visit)
				continue
			}
			for _, o := range inner.(map[string]any) {
				texts(o, k, visit)
			}
		}
	case []any:
		for _, inner := range x {
			texts(inner, key, visit)
		}
	case string:
		visit(key, x)
	}
}

// oneOfMany is one of something that is said as many; tooSure a spread or a limit with four figures
// or more.
var (
	oneOfMany = regexp.MustCompile(`(^|[^.,\d])1 [a-z]{3,}[^s\W]s\b`)
	tooSure   = regexp.MustCompile(`(within|±|spread) 0\.0*[1-9]\d{3,}`)
)

// Every example, in every style, is said to its end: sheet, report and plan.
func TestEverythingIsSaid(t *testing.T) {
	codes := map[string]bool{"code": true, "step": true, "node": true, "entry": true, "trial": true, "reason": true,
		"latex": true, "symbol": true, "equationLatex": true, "subject": true, "plain": true}
	read(t, func(name string, r *practical.Ready, doc formats.Document) {
		ev := experiment.Evaluate(r, doc.Journal, experiment.All)
		for _, style := range styles {
			sheet := view.Of(r, ev, style)
			plan := view.PlanOf(r, prep.Class{Students: 12, Trials: 4}, style)
			for what, v := range map[string]any{"sheet": sheet,
				"report": view.ReportOf(r, sheet, view.About{Student: "Mira Quillon"}), "plan": plan} {
				text, err := json.Marshal(v)
				require.NoError(t, err)
				var tree any
				require.NoError(t, json.Unmarshal(text, &tree))
				texts(tree, "", func(key, said string) {
					if codes[key] {
						return
					}
					assert.NotRegexp(t, twice, said, "%s, %s of %s in %v", key, what, name, style)
					assert.NotRegexp(t, unsaid, said, "%s, %s of %s in %v", key, what, name, style)
					assert.NotRegexp(t, oneOfMany, said, "%s, %s of %s in %v", key, what, name, style)
					assert.NotRegexp(t, tooSure, said, "%s, %s of %s in %v", key, what, name, style)
					if style.Words == "titer" && key == "text" {
						assert.NotRegexp(t, regexp.MustCompile(`(?i)\b(titres?|burettes?|conical flask)\b`), said, "%s of %s", what, name)
					}
					if style.Units == "cm3" && key != "unit" { // a code in the own working
						assert.NotRegexp(t, regexp.MustCompile(`\d mL\b|mol/L`), said, "%s, %s of %s", key, what, name)
					}
				})
			}
			steps := map[string]string{}
			for _, w := range sheet.Work {
				assert.Empty(t, steps[w.Title], "%s: two steps %q", name, w.Title)
				steps[w.Title] = w.Symbol
			}
			said := map[string]bool{}
			for _, f := range sheet.Findings {
				assert.False(t, said[f.Text], "%s: twice %q", name, f.Text)
				said[f.Text] = true
			}
			assert.NotEmpty(t, sheet.Next.Text, name)
			assert.NotEmpty(t, sheet.StageText, name)
		}
	})
}

// What is withheld is not there to be said.
func TestRecordAlone(t *testing.T) {
	read(t, func(name string, r *practical.Ready, doc formats.Document) {
		sheet := view.Of(r, experiment.Evaluate(r, doc.Journal, experiment.Record), styles[0])
		assert.Nil(t, sheet.Answer, name)
		assert.True(t, sheet.Withheld, name)
		full := view.Of(r, experiment.Evaluate(r, doc.Journal, experiment.All), styles[0])
		if full.Answer == nil {
			return
		}
		text, err := json.Marshal(sheet)
		require.NoError(t, err)
		if value := full.Answer.Value; len(strings.Trim(value, "0.")) > 3 {
			assert.NotContains(t, string(text), `"`+value+`"`, name)
		}
		assert.Equal(t, len(full.Trials), len(sheet.Trials), name)
	})
}

// A unit that was typed behind a figure stands there once in the report.
func TestOwnFiguresAsTyped(t *testing.T) {
	e := practicaltest.Examples(t)
	for _, x := range e {
		if x.Name != "buffer-dosing.json" {
			continue
		}
		var all []journal.Entry
		add := func(p journal.Part) string {
			n := int64(len(all) + 1)
			id := fmt.Sprintf("entry-%03d", n)
			all = append(all, journal.Entry{ID: id, Author: "a", Device: "d", Clock: n, At: time.Date(2026, 11, 24, 9, 0, 0, 0, time.UTC), Part: p})
			return id
		}
		for range 2 {
			of := add(journal.Opening{Type: journal.Accurate})
			add(journal.Scale{Of: of, Place: journal.Start, Written: "0.00"})
			add(journal.Scale{Of: of, Place: journal.End, Written: "23.85"})
		}
		add(journal.Answer{Step: "known-amount", Written: "2.385 mmol", Unit: "mol"})
		add(journal.Answer{Step: "answer", Written: "0.0477", Unit: "mol/L"})
		ev := experiment.Evaluate(x.Ready, all, experiment.All)
		var got []string
		for _, own := range view.ReportOf(x.Ready, view.Of(x.Ready, ev, practical.Style{}), view.About{}).Own {
			got = append(got, own.Value)
		}
		assert.Equal(t, []string{"2.385 mmol", "0.0477\u202fmol/L"}, got)
	}
}
