package e2e

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"

	"exactflask/e2e/browser"
)

// Whatever is printed has nothing to press, no menu and nothing that goes past its edge, and needs
// few pages.
func TestPaper(t *testing.T) {
	t.Parallel()
	s := serve(t)
	teacher := page(t, s, 1280, 800)
	teacher.SignIn("Dr Ondine Farrow")
	student := page(t, s, 1280, 800)
	student.SignIn("Mira Quillon")
	notebook := browser.Evaluate[string](student, `fetch("/api/shelf").then(r => r.json()).then(s => s.shelves[0].practicals.flatMap(p => p.notebooks).find(n => n.id).id)`)
	course := func(practical, station string) string {
		return browser.Evaluate[string](teacher, `document.querySelector("a[href$='`+practical+`/plan']").pathname.replace(/plan$/, "`+station+`")`)
	}
	teacher.Until(`document.querySelector("[data-test=course]") !== null`)
	people := browser.Evaluate[string](teacher, `document.querySelector("a[href*='/classes/']").pathname.replace(/(classes\/[^/]+).*/, "$1")`)
	marks := page(t, s, 1280, 800)
	enter(marks, "dilys.marlowe")
	marks.Until(`document.querySelector("a[href$='/marks']") !== null`)
	marked := browser.Evaluate[string](marks, `document.querySelector("a[href$='/marks']").pathname`)
	for _, c := range []struct {
		what, address, there string
		page                 *browser.Page
		most                 int    // pages
		says                 string // what one prints it for
	}{
		{"the lesson", course("descaler", "lesson"), `[data-test=board] button`, teacher, 2, "Yara Holm"},
		{"results", course("pond-bleach-marked", "results"), `[data-test=results]`, teacher, 4, "Released"},
		{"preparation", course("buffer-dosing", "prepare"), `main h2`, teacher, 4, "What the class needs"},
		{"a class", people + "?show=people", `main table`, teacher, 2, "Alda Firth"},
		{"the bench", "/notebooks/" + notebook, `[data-test=next]`, student, 3, "45.05"},
		{"own working", "/notebooks/" + notebook + "/work", `#step-1`, student, 3, "mL"},
		{"the result", "/notebooks/" + notebook + "/result", `[data-test=answer]`, student, 3, "0.0451"},
		{"the report", "/notebooks/" + notebook + "/report", `[data-test=hand-in]`, student, 2, "45.05"},
		{"the marks", marked, `[data-test=full]`, marks, 4, "/"},
		{"the journal", "/notebooks/" + notebook + "/journal", `main h2`, student, 3, "45.05"},
	} {
		p := c.page
		p.Visit(c.address)
		p.Until(`document.querySelector("` + c.there + `") !== null`)
		p.Painted()
		p.OnPaper("print")
		assert.Empty(t, browser.Evaluate[[]string](p, `[...document.querySelectorAll("button:not(.print-keep), nav, summary:not(.print-keep), [role=dialog]")]
			.filter(e => e.checkVisibility() && e.getBoundingClientRect().height > 1).map(e => (e.innerText || e.tagName + e.className).slice(0, 40))`), c.what)
		assert.Contains(t, p.Text("body"), c.says, c.what)
		p.OnPaper("")
		pages := bytes.Count(p.Print(), []byte("/Type /Page\n"))
		t.Logf("%s: %d pages", c.what, pages)
		assert.LessOrEqual(t, pages, c.most, c.what)
	}
}
