package e2e

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"exactflask/e2e/browser"
)

// A run with few points has an end: thirteen points of a weak acid, typed on the pad. It lies between
// the two that enclose it, as wide as they are coarse; the run ends, is worked out, handed in and
// marked. The points are those of the issue that asked for it.
func TestAFewPointsHaveAnEnd(t *testing.T) {
	t.Parallel()
	s := serve(t)
	w := begun(t, s, "Vinegar with a pH meter", func(w *writer) {
		w.vinegar("Vinegar with a pH meter")
		w.choose("#edit-probe-shows", "pH")
		w.opened("#probe-alone")
		tap(w.Page, "#probe-alone")
		w.Until(`document.querySelector("#probe-alone").checked`)
		w.opened("#edit-rules-readings-noRough") // a run is no rough trial
		tap(w.Page, "#edit-rules-readings-noRough")
	})
	q := w.learn
	assert.NotContains(t, q.Text("body"), "colourless")
	q.CoreReady()
	q.Keys("0.00\r")
	q.Until(`document.querySelector("#shown") !== null`)
	points := [][2]string{{"0.21", "2.86"}, {"3.34", "3.80"}, {"6.69", "4.17"}, {"24.43", "5.62"}, {"27.31", "7.20"}, {"27.37", "7.51"}, {"27.46", "8.28"},
		{"27.51", "9.23"}, {"27.59", "9.61"}, {"30.30", "11.61"}, {"38.19", "12.13"}, {"41.29", "12.21"}, {"44.39", "12.28"}}
	for i, x := range points {
		q.Until(`document.activeElement?.id === "reading"`)
		q.Keys(x[0] + "\r" + x[1] + "\r")
		q.Until(fmt.Sprintf(`document.querySelector("[data-test=pad]").innerText.includes("Point %d of")`, i+2))
	}
	q.See("the run can end")
	q.Until(`document.querySelector("[data-test=pad-end]")?.disabled === false`)
	tap(q, "[data-test=pad-end]")
	q.Until(`document.querySelector("[data-test=then]") !== null`)
	q.Until(`document.querySelector("[data-test=ends]")?.innerText.includes("counts")`)
	end := browser.Evaluate[string](q, `[...document.querySelectorAll("[data-test=ends] tr")].find(r => r.innerText.includes("counts")).innerText`)
	assert.Contains(t, end, "27.4")
	accessible(t, q, "a run with few points")
	q.Sent()
	q.Click("Working")
	q.Until(`document.querySelector("#step-1") !== null`)
	w.handsIn()
	w.marked()
}

// Questions are seen by whom they are marked on: what hangs on the hidden end is not asked, the plan
// says which, and who answers all that is asked has all its marks.
func TestOnlyWhatIsAskedCounts(t *testing.T) {
	t.Parallel()
	s := serve(t)
	w := begun(t, s, "Vinegar, end hidden", func(w *writer) {
		w.vinegar("Vinegar, end hidden")
		w.Click("Hide the expected end until the end is read")
	})
	station(w.teach, "prepare")
	w.teach.See("Students are not asked this")
	station(w.teach, "plan")
	q := w.learn
	q.Visit("/shelf")
	q.See("Vinegar, end hidden")
	browser.Evaluate[bool](q, `([...document.querySelectorAll("article")].find(a => a.innerText.includes("end hidden")).querySelector("a[href*='/plan']").click(), true)`)
	q.See("Before the laboratory")
	assert.Equal(t, 0, browser.Evaluate[int](q, `document.querySelectorAll("#q-titre").length`))
	asked := browser.Evaluate[int](q, `document.querySelectorAll("[id^='q-']").length`)
	answers := map[string]string{"ratio": "1", "burette": "titrant", "indicator": "phenolphthalein"}
	for i := range asked {
		code := browser.Evaluate[string](q, fmt.Sprintf(`document.querySelectorAll("[id^='q-']")[%d].id.slice(2)`, i))
		q.Until(fmt.Sprintf(`(() => { const f = document.querySelector("#q-%[1]s"); f.value = %[2]q; f.dispatchEvent(new Event("input", { bubbles: true })); f.dispatchEvent(new Event("change", { bubbles: true })); f.closest("form").requestSubmit(); return true })()`, code, answers[code]))
		q.Until(fmt.Sprintf(`document.querySelector("#q-%s").closest("form").innerText.includes("✓")`, code))
	}
	accessible(t, q, "only what is asked")
	q.Visit("/shelf")
	q.See("Vinegar, end hidden")
	browser.Evaluate[bool](q, `([...document.querySelectorAll("article")].find(a => a.innerText.includes("end hidden")).querySelector("a[href*='/notebooks/']").click(), true)`)
	q.Until(`document.activeElement?.id === "reading"`)
	q.CoreReady()
	record(q, "0.00", "")
	record(q, "22.50", "Read the start to begin")
	record(q, "0.00", "")
	record(q, "21.30", "one is enough here")
	w.works([][2]string{{"21.30", "mL"}}, "Right.")
	w.handsIn()
	w.marked()
	assert.Equal(t, 2, asked)
	assert.Regexp(t, `Questions before the laboratory\s+✓ 2/2`, q.Text("[data-test=own-marks]"))
}
