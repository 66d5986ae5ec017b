package e2e

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/journal"
	"exactflask/demo"
	"exactflask/e2e/browser"
)

// hostile is a text that would run where it is taken for a page, with a word that no line holds.
var hostile = `<img src=x onerror="hit=1"><script>hit=1</script>` + strings.Repeat("Wx", 62)

// What people type is text wherever it is shown: nothing of it runs, and no long word makes a page
// wider than a phone. Each field of text is filled, and each page that shows one is opened.
func TestWhatPeopleTypeIsOnlyText(t *testing.T) {
	t.Parallel()
	s := serve(t)
	mira, err := SignIn(s.URL, "", "mira", demo.Password, "typed-mira")
	require.NoError(t, err)
	farrow, err := SignIn(s.URL, "", "farrow", demo.Password, "typed-farrow")
	require.NoError(t, err)
	pages := map[string]*browser.Page{"Mira Quillon": page(t, s, 390, 844), "Dr Ondine Farrow": page(t, s, 390, 844)}
	for name, p := range pages {
		p.SignIn(name)
	}
	room := "/api/classes/" + farrow.Class
	require.NoError(t, farrow.call("PUT", room, map[string]any{"name": hostile[:80], "term": hostile[60:100], "archived": false}, nil))
	require.NoError(t, farrow.call("POST", room+"/notices", map[string]string{"text": hostile}, nil))
	require.NoError(t, farrow.call("PUT", room+"/people/"+personOf(t, farrow, "Mira Quillon")+"/name", map[string]string{"name": hostile[:80]}, nil))
	notebook := "/api/notebooks/" + mira.Notebook
	for i, p := range []journal.Part{
		journal.Opening{Type: journal.Accurate},
		journal.Remark{Written: hostile},
		journal.Remark{Of: "typed-00000000", Written: hostile},
		journal.Observation{About: journal.Batch, Written: hostile},
		journal.Weighing{What: hostile[:80], Full: "2.5", Emptied: "1.2"},
		journal.Checked{Item: journal.OwnItem(hostile[:80])},
		journal.Exclusion{Of: "typed-00000000", Reason: hostile},
		journal.Known{Written: "0.1002", From: hostile[:120]},
		journal.Passage{Prompt: journal.Method, Written: hostile},
		journal.Passage{Prompt: journal.Explain, Written: hostile},
		journal.Correction{Replaces: "typed-00000001", Value: hostile, Reason: hostile},
	} {
		e := journal.Entry{ID: fmt.Sprintf("typed-%08d", i), Device: "typed", Clock: int64(2000 + i), At: time.Now().UTC(), Part: p}
		require.NoError(t, mira.call("POST", notebook+"/entries", map[string]any{"entries": []journal.Entry{e}}, nil), "%T", p)
	}
	require.NoError(t, farrow.call("POST", notebook+"/comments", map[string]string{"text": hostile, "entry": "typed-00000000"}, nil))
	require.NoError(t, farrow.call("POST", notebook+"/comments", map[string]string{"text": hostile}, nil))
	require.NoError(t, mira.call("PUT", notebook+"/hand", map[string]bool{"up": true}, nil))
	var now struct{ Sheet struct{ Entries int } }
	require.NoError(t, mira.call("GET", notebook, nil, &now))
	require.NoError(t, mira.call("POST", notebook+"/submissions", map[string]int{"entries": now.Sheet.Entries}, nil))

	class1 := "/classes/" + farrow.Class
	practical := class1 + "/practicals/" + mira.Practicals[0]
	own := "/notebooks/" + mira.Notebook
	for name, views := range map[string][]string{
		"Mira Quillon":     {"/shelf", own, own + "/work", own + "/result", own + "/report", own + "/journal", "/account"},
		"Dr Ondine Farrow": {"/shelf", class1, practical, practical + "/board", practical + "/answers", practical + "/marking", practical + "/marking/" + mira.Notebook, practical + "/results", class1 + "/marks", own, own + "/report", own + "/journal", "/library/" + farrow.Class, class1 + "/plan/" + mira.Practicals[0]},
	} {
		p := pages[name]
		for _, view := range views {
			p.Visit(view)
			p.Until(`document.querySelector("h1") !== null && ![...document.querySelectorAll("main [role=status]")].some(e => e.innerText.includes("Loading"))`)
			p.Painted()
			wide := browser.Evaluate[string](p, `document.documentElement.scrollWidth <= innerWidth ? "" : document.documentElement.scrollWidth + " " + [...document.querySelectorAll("main *, header *, nav *")].filter(e => e.getBoundingClientRect().right > innerWidth + 1 && !e.closest(".overflow-x-auto")).slice(0, 3).map(e => e.tagName + "." + e.className + ": " + e.textContent.slice(0, 40)).join(" | ")`)
			assert.Empty(t, wide, "%s for %s is too wide", view, name)
			assert.True(t, browser.Evaluate[bool](p, `typeof hit === "undefined"`), "%s for %s runs what was typed", view, name)
		}
	}
}
