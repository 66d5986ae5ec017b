package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"exactflask/e2e/browser"
)

// Two practicals make a sequence: set together, one line of progress, one report.
func TestSequence(t *testing.T) {
	t.Parallel()
	s := serve(t)
	w := begun(t, s, "First the acid", func(w *writer) { w.vinegar("First the acid") })
	q := w.learn
	once(q, "22.50", "21.30")
	q.Sent()

	p := w.teach
	class := browser.Evaluate[string](p, `location.pathname.split("/")[2]`)
	p.Visit("/classes/" + class + "/plan")
	p.Until(`document.querySelector("[data-test=titre]") !== null`)
	v := &writer{Page: p}
	v.vinegar("Then the product")
	v.opened("#edit-after")
	p.Until(`(() => { const s = document.querySelector("#edit-after"); const o = [...s.options].find(o => o.text === "First the acid"); if (!o) return false; s.value = o.value; s.dispatchEvent(new Event("change", { bubbles: true })); return true })()`)
	tap(p, "#edit-report-whole")
	accessible(t, p, "a sequence in the editor")
	p.Until(`document.querySelector("form [role=alert]") === null`)
	v.press("Save for the class")
	p.See("Saved for the class. Notebooks that are begun")
	station(p, "set")
	p.Until(`document.querySelector("#together") !== null`)
	p.See("First the acid")
	p.Until(`(() => { const d = document.querySelector("#time-due"); d.value = "2031-03-04T10:00"; d.dispatchEvent(new Event("input", { bubbles: true })); return true })()`)
	tap(p, "#together")
	p.Click("Save")
	p.Until(`!document.querySelector("#together").checked`)

	q.Visit("/shelf")
	q.See("Then the product")
	line := `[...document.querySelectorAll("article")].find(a => a.querySelector("h3").innerText === "Then the product").querySelector("[data-test=sequence]").innerText.replace(/\s+/g, " ")`
	q.Until(line + `.includes("1. First the acid Titres agree → 2. Then the product Not begun")`)
	assert.Equal(t, 2, browser.Evaluate[int](q, `[...document.querySelectorAll("article")].filter(a => a.innerText.includes("2031")).length`))
	accessible(t, q, "a sequence on the shelf")
	browser.Evaluate[bool](q, `([...document.querySelectorAll("article")].find(a => a.querySelector("h3").innerText === "Then the product").querySelector("button").click(), true)`)
	q.Until(`document.activeElement?.id === "reading"`)
	once(q, "22.50", "21.40")
	q.Sent()
	q.Click("Report")
	q.See("This report is handed in together with:")
	q.Until(`document.querySelector("[data-test=hand-in] [data-test=sequence]").innerText.includes("First the acid")`)
	q.Click("Hand in")
	q.Click("Hand in all the same")
	q.See("Handed in: version 1")
	q.Visit("/shelf")
	q.Until(line + `.includes("1. First the acid handed in → 2. Then the product handed in")`)
	station(p, "marking")
	p.See("Bevan Thrale")
}

// A solution is a practical by itself: made, its strength worked out, handed in and marked. A later
// practical that names it by its title takes the strength over, with its uncertainty.
func TestASolutionAloneAndCarriedOn(t *testing.T) {
	t.Parallel()
	s := serve(t)
	w := begun(t, s, "Sodium carbonate, made", func(w *writer) {
		w.pick("#plan-reaction", "a solution alone")
		w.fill("#edit-chemistry-titrant-name", "sodium carbonate")
		w.fill("#edit-chemistry-titrant-formula", "Na2CO3")
		w.fill("#edit-chemistry-titrant-made-0-mass", "1.325")
		w.See("Strength by what is weighed or taken: 0.0500")
		accessible(t, w.Page, "the editor of a solution alone")
		tap(w.Page, "[data-test=dry]")
		w.Until(`document.querySelector("[data-test=dry-run]") !== null`)
		w.Keys("\x1b")
		w.Until(`document.querySelector("[data-test=dry-run]") === null`)
	})
	q := w.learn
	q.See("Weigh the Na₂CO₃, dissolve it")
	assert.NotContains(t, q.Text("body"), "Burette")
	tap(q, "[data-test=weigh-standard]")
	q.Until(`document.querySelector("#weigh-full") !== null`)
	q.Fill("#weigh-full", "12.845")
	q.Fill("#weigh-emptied", "11.505")
	q.Keys("\r")
	q.Until(`document.querySelector("#weigh-full") === null`)
	q.See("work its strength out")
	accessible(t, q, "the bench of a solution alone")
	// By hand: 1.340 g / 105.99 g/mol in 0.2500 L.
	w.works([][2]string{{"0.01264", "mol"}, {"0.05057", "mol/L"}}, "Right.")
	w.handsIn()
	w.marked()

	p := w.teach
	class := browser.Evaluate[string](p, `location.pathname.split("/")[2]`)
	p.Visit("/classes/" + class + "/plan")
	p.Until(`document.querySelector("[data-test=titre]") !== null`)
	v := &writer{Page: p}
	v.fill("#plan-title", "Acid by one's own carbonate")
	v.fill("#edit-chemistry-equation", "2 HCl + Na2CO3 -> 2 NaCl + CO2 + H2O")
	v.fill("#edit-chemistry-titrant-name", "hydrochloric acid")
	v.fill("#edit-chemistry-titrant-formula", "HCl")
	v.fill("#edit-chemistry-analyte-name", "sodium carbonate")
	v.fill("#edit-chemistry-analyte-formula", "Na2CO3")
	v.press("The other one is the unknown")
	v.fill("#plan-titrant", "0.100")
	v.fill("#plan-analyte", "0.0500")
	v.choose("#plan-need", "1")
	v.opened("#edit-chemistry-standardisedIn")
	browser.Evaluate[bool](p, `(() => { const s = document.querySelector("#edit-chemistry-standardisedIn"); s.value = [...s.options].find(o => o.text === "Sodium carbonate, made").value; s.dispatchEvent(new Event("change", { bubbles: true })); return true })()`)
	p.Until(`document.querySelector("form [role=alert]") === null`)
	v.press("Save for the class")
	p.See("Saved for the class. Notebooks that are begun")

	q.Visit("/shelf")
	q.See("Acid by one's own carbonate")
	browser.Evaluate[bool](q, `([...document.querySelectorAll("article")].find(a => a.innerText.includes("own carbonate")).querySelector("button").click(), true)`)
	q.Until(`document.activeElement?.id === "reading"`)
	q.See("0.05057 ±")
	q.CoreReady()
	browser.Evaluate[bool](q, `([...document.querySelectorAll("button")].find(b => b.innerText.includes("Use what you found")).click(), true)`)
	q.Until(`![...document.querySelectorAll("button")].some(b => b.innerText.includes("Use what you found"))`)
	browser.Evaluate[bool](q, `(document.querySelector("#reading").focus(), true)`)
	once(q, "26.00", "25.30")
	q.Sent()
	q.Click("Working")
	q.Until(`document.querySelector("[data-test=given]") !== null`)
	assert.Contains(t, browser.Evaluate[string](q, `document.querySelector("[data-test=given]").innerText`), "0.05057")
}
