package e2e

import (
	"fmt"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/agreement"
	"exactflask/demo"
	"exactflask/e2e/browser"
)

// put types a value into a field of the plan, as a person does.
func put(p *browser.Page, field, value, event string) {
	browser.Evaluate[bool](p, fmt.Sprintf(`(() => { const i = document.querySelector(%q); i.value = %q;
		i.dispatchEvent(new Event(%q)); return true })()`, field, value, event))
}

// A concentration of one figure is asked about; two samples are compared; answers
// before the laboratory are kept and seen by the instructor; a mass belongs to the
// trial it is asked for.
func TestSamplesFromPlanToResult(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	p.Click("Plan a new practical")
	p.Click("Begin with an empty one")
	p.See("Expected titre 25.00")
	put(p, "#plan-titrant", "0.1", "input")
	p.See("has few digits")
	p.Click("if that is known")
	p.Until(`document.querySelector("#plan-titrant").value === "0.100"`)
	p.Lose("has few digits")
	put(p, "#plan-samples", "fresh acid\nold acid", "change")
	put(p, "#plan-title", "Two bottles of acid", "input")
	accessible(t, p, "a plan with samples")
	p.Click("Save for the class")
	p.See("Saved for the class. Notebooks that are begun")
	station(p, "prepare")
	p.See("Preparation sheet: Two bottles")

	q := page(t, s, 1280, 800)
	q.SignIn("Bevan Thrale")
	article := `[...document.querySelectorAll("article")].find(a => a.innerText.includes("Two bottles"))`
	q.Until(article + ` !== undefined`)
	browser.Evaluate[bool](q, article+`.querySelector("a").click(), true`)
	q.See("Before the laboratory")
	q.Fill("#q-ratio", "1\r")
	q.See("✓")
	q.Reload()
	q.See("Right, at the first try")
	q.Click("Home")
	q.Until(article + ` !== undefined`)
	browser.Evaluate[bool](q, article+`.querySelector("button").click(), true`)
	q.See("No trial yet")
	assert.Equal(t, "fresh acid", browser.Evaluate[string](q, `document.querySelector("#of-sample").value`))
	for _, r := range [][2]string{{"0.00", "Run in about 1"}, {"25.40", "Rough: steers"}, {"0.00", "drop by drop"},
		{"25.00", "One more"}, {"0.00", "drop by drop"}, {"25.05", "fresh acid: 2 titres agree"}} {
		record(q, r[0], r[1])
	}
	q.Until(`document.querySelector("#of-sample").value === "old acid"`)
	for _, r := range [][2]string{{"0.00", "Run in about 1"}, {"24.20", "Rough 2"}, {"0.00", "drop by drop"},
		{"23.90", "One more"}, {"0.00", "drop by drop"}, {"23.95", "All 2 samples"}} {
		record(q, r[0], r[1])
	}
	accessible(t, q, "a bench with samples")
	ev := notebookOf(t, q)
	require.Len(t, ev.Samples, 2)
	assert.Equal(t, agreement.Agreed, ev.Samples[1].Agreement.Status)
	assert.InDelta(t, -4.4, ev.Samples[1].Difference.Percent, 0.1)
	q.Click("Result")
	q.See("Samples compared")
	q.See("Less than fresh acid by")
	q.Click("Show its calculation")
	accessible(t, q, "samples compared")

	p.Reload()
	p.See("Answers of the class")
	p.See("Bevan Thrale")

	jory := page(t, s, 1280, 800)
	jory.SignIn("Jory Pellam")
	mass := `[...document.querySelectorAll("article")].find(a => a.innerText.includes("by mass"))`
	jory.Until(mass + ` !== undefined`)
	browser.Evaluate[bool](jory, mass+`.querySelector("a[href*=notebooks]").click(), true`)
	jory.Until(`document.querySelector("[data-test=done]") !== null`)
	jory.Keys("w")
	jory.See("The sample of a new accurate trial")
	jory.CoreReady()
	jory.Fill("#weigh-full", "25.1512")
	jory.Fill("#weigh-emptied", "20.0401\r")
	jory.See("Was 0.51111")
	jory.See("It is right: write it down")
	accessible(t, jory, "a mass that is asked about")
	refill(jory, "#weigh-full", "20.5512")
	refill(jory, "#weigh-emptied", "20.0401")
	jory.Keys("\r")
	jory.Until(`[...document.querySelectorAll("tbody th")].some(h => h.innerText.trim() === "Trial 4")`)
	jory.Keys("w")
	jory.See("It was weighed before: 0.5111 g")
	accessible(t, jory, "weighed again")
}

// A name is text wherever it is shown, and runs nothing.
func TestHostileNames(t *testing.T) {
	t.Parallel()
	s := serve(t)
	name := "<img src=x onerror=\"document.title='taken'\"> \u202e{{7*7}}"
	add := exec.Command(binary, "user", "add", "hostile", "--name", name, "--class", demo.Class, "--data", s.Data)
	add.Stdin = strings.NewReader("quiet harbour crane\n")
	out, err := add.CombinedOutput()
	require.NoError(t, err, "%s", out)
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	course(p, "buffer-dosing")
	station(p, "lesson")
	p.See(`<img src=x onerror="document.title='taken'"> {{7*7}}`)
	assert.True(t, browser.Evaluate[bool](p, `document.querySelector("img[src=x]") === null && document.title !== "taken"`))
}
