package e2e

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/e2e/browser"
)

const toMark = "pond-bleach-marked"

// markingDesk opens the desk of the demo's class whose reports are handed in.
func markingDesk(p *browser.Page) {
	tap(p, fmt.Sprintf("a[href$='%s/marking']", toMark))
	p.Until(`document.querySelector("[data-test=desk] table") !== null`)
}

// enter signs somebody in who does not stand on the demo's list.
func enter(p *browser.Page, username string) {
	p.Visit("/sign-in")
	p.Fill("#username", username)
	p.Fill("#password", "tide-pool\r")
	p.Until(`location.pathname === "/home" && document.querySelector("main h1") !== null`)
}

// opened are the criteria of the report on the desk that nobody awarded.
func openCriteria(p *browser.Page) int {
	return browser.Evaluate[int](p, `document.querySelectorAll("[data-criterion][data-open]").length`)
}

func onDesk(p *browser.Page) string {
	return browser.Evaluate[string](p, `document.querySelector("[data-test=whose]")?.innerText ?? ""`)
}

// Six reports are marked by keyboard alone, with a comment that comes again by itself, and
// released; a student sees the marks with the evidence and asks for another look; the
// answer is kept. The scheme is changed half-way: it says for whom, and awards stay.
func TestSixReportsByKeyboard(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	markingDesk(p)
	assert.Equal(t, 23, browser.Evaluate[int](p, `document.querySelectorAll("[data-report]").length`))
	assert.Contains(t, p.Text("[data-test=progress]"), "12 of 23 marked")
	accessible(t, p, "the desk")
	tap(p, "[data-test=begin-marking]")
	p.Until(`document.querySelector("[data-test=evidence]") !== null`)
	accessible(t, p, "a report on the desk")
	began, keys, names := time.Now(), 0, []string{}
	press := func(k string) { p.Keys(k); keys++ }
	for n := range 6 {
		name := onDesk(p)
		require.NotContains(t, names, name)
		names = append(names, name)
		press("a")
		switch n {
		case 0:
			press("c")
			p.Until(`document.activeElement?.id === "mark-comment"`)
			p.Keys("Which one, and how large?\r")
		case 3: // it was said before: chosen, and not typed
			press("c")
			p.Until(`document.activeElement?.id === "mark-comment"`)
			p.Keys("which o")
			keys += 7
			p.Until(`document.querySelector("[data-test=comment] li")?.innerText.includes("Which one, and how large?")`)
			press(kb.ArrowDown)
			press("\r")
			p.Until(`document.querySelector("[data-test=comment]") === null && document.querySelector("[data-test=evidence]").innerText.includes("Which one")`)
		}
		for openCriteria(p) > 0 {
			press("1")
		}
		press("\r")
		p.Until(fmt.Sprintf(`!(document.querySelector("[data-test=whose]")?.innerText ?? "").startsWith(%q)`, strings.SplitN(name, "\n", 2)[0]))
		p.Until(`document.querySelector("[data-test=evidence]") !== null`)
	}
	t.Logf("six reports: %.1f keys and %.1f s each, as a program types", float64(keys)/6, time.Since(began).Seconds()/6)

	// Back at the desk they are marked; the release is listed before it is done.
	p.Keys("\x1b")
	p.Until(`document.querySelector("[data-test=desk] table") !== null`)
	p.Until(`document.querySelector("[data-test=progress]").innerText.includes("18 of 23 marked")`)
	tap(p, "[data-test=scheme]")
	p.Until(`document.querySelectorAll("[data-scheme]").length > 20`)
	accessible(t, p, "the scheme")
	put(p, "[data-scheme=setup] input[inputmode=decimal]", "3", "input")
	tap(p, "[data-test=try-scheme]")
	p.Until(`document.querySelector("[data-test=effects]") !== null`)
	assert.Contains(t, p.Text("[data-test=effects]"), "5 reports change", "those that are marked keep what a person awarded")
	tap(p, "[data-test=keep-scheme]")
	p.Until(`document.querySelector("[data-test=effects]") === null`)
	tap(p, "[data-test=release]")
	p.See("It cannot be taken back")
	accessible(t, p, "what is released")
	tap(p, "[data-test=release-now]")
	p.See("18 reports are released")

	q := page(t, s, 390, 844)
	enter(q, "maud.ferrier")
	tap(q, "a[href$='/marks']")
	q.Until(`document.querySelector("[data-test=own-marks]") !== null`)
	lost := `[...document.querySelectorAll("[data-test=lost]")].find(l => l.innerText.includes("The rough trial left out"))`
	q.Until(lost + `.innerText.includes("The rough trial seems to be averaged too")`)
	accessible(t, q, "one's own marks")
	browser.Evaluate[bool](q, lost+`.querySelector("button").click(), true`)
	q.Fill("#in-words", "I left it out: I miscopied a figure.")
	q.Click("Write it down")
	q.See("The answer is still to come")

	p.Reload()
	p.See("Another look is asked for")
	put(p, "[data-test=request] input", "The figure is the mean with the rough. It stays.", "input")
	tap(p, "[data-test=request] button")
	p.Lose("Another look is asked for")
	q.See("The figure is the mean with the rough. It stays.")

	tap(p, "a[href$='/results']")
	p.Until(`document.querySelector("[data-test=slips]") !== null`)
	assert.Contains(t, p.Text("[data-test=slips]"), "Maud Ferrier")
	accessible(t, p, "the results")
}

// A criterion about the written answer gives by what the student wrote, beside one about the
// titration, which gives by the readings: a report whose answer is a thousand times off.
func TestTheWrittenAnswer(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	markingDesk(p)
	tap(p, "[data-test=scheme]")
	p.Until(`document.querySelectorAll("[data-scheme]").length > 10`)
	for _, rule := range []string{"answer", "result"} {
		p.Click("Add a criterion")
		last := `[...document.querySelectorAll("[data-scheme]")].at(-1)`
		p.Until(last + `.querySelector("select") !== null`)
		browser.Evaluate[bool](p, fmt.Sprintf(`(() => { const s = %s.querySelector("select");
			s.value = %q; s.dispatchEvent(new Event("change")); return true })()`, last, rule))
		p.Until(last + `.innerText.includes("%")`)
	}
	tap(p, "[data-test=try-scheme]")
	p.Until(`document.querySelector("[data-test=effects]") !== null`)
	tap(p, "[data-test=keep-scheme]")
	p.Until(`document.querySelector("[data-test=effects]") === null`)
	row := func(name string) []string {
		return strings.Split(browser.Evaluate[string](p, fmt.Sprintf(`[...[...document.querySelectorAll("[data-report]")].find(r => r.innerText.includes(%q)).querySelectorAll("td")].slice(-4, -2).map(c => c.innerText.trim()).join("|")`, name)), "|")
	}
	p.Until(`document.querySelector("[data-test=desk] thead").innerText.split("New criterion").length === 3`)
	assert.Equal(t, []string{"1", "1"}, row("Arlo Venn"), "a careful student")
	assert.Equal(t, []string{"0", "1"}, row("Corin Ashdown"), "millilitres taken for litres: the titration was as good")
	browser.Evaluate[bool](p, `([...document.querySelectorAll("[data-report]")].find(r => r.innerText.includes("Corin Ashdown")).querySelector("a").click(), true)`)
	p.Until(`document.querySelector("[data-test=evidence]") !== null`)
	browser.Evaluate[bool](p, `([...document.querySelectorAll("[data-criterion]")].at(-2).click(), true)`)
	p.See("The answer that was written is")
	p.See("from the true value")
}

// Without the network, behind a proxy that says no, over a kill of the program: no mark is
// lost, doubled or overwritten, and the next report is there before it is asked for.
func TestMarksOverACut(t *testing.T) {
	t.Parallel()
	p, between, s := behind(t, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	markingDesk(p)
	tap(p, "[data-test=begin-marking]")
	p.Until(`document.querySelector("[data-test=evidence]") !== null`)
	first := onDesk(p)
	id := browser.Evaluate[string](p, `location.pathname.split("/").at(-1)`)
	p.Until(`performance.getEntriesByType("resource").filter(r => /notebooks.*marking/.test(r.name) && r.responseEnd > 0).length > 1`) // the next one is ready
	between.Set(browser.Weather{Cut: true})
	p.Keys("a")
	p.Keys("1")
	p.Until(`document.querySelector("[data-test=marks-wait]") !== null`)
	between.Set(browser.Weather{Status: 403})
	p.Keys("1")
	p.Keys("u") // a second thought, before the first was sent
	p.Keys("2")
	p.Keys("n")
	p.Until(fmt.Sprintf(`!(document.querySelector("[data-test=whose]")?.innerText ?? "").startsWith(%q)`, strings.SplitN(first, "\n", 2)[0]))
	p.Keys("b")
	p.Until(fmt.Sprintf(`(document.querySelector("[data-test=whose]")?.innerText ?? "").startsWith(%q)`, strings.SplitN(first, "\n", 2)[0]))
	assert.LessOrEqual(t, openCriteria(p), 2, "what waits is shown")
	between.Set(browser.Weather{})
	p.Until(`document.querySelector("[data-test=marks-wait]") === null`)

	b, err := SignIn(s.URL, "", "farrow", "tide-pool", "looker")
	require.NoError(t, err)
	type sheet struct {
		Lines []struct {
			ID      string
			History []struct{ Marks *float64 }
		}
	}
	look := func() (awards int, marks map[string]float64) {
		var now sheet
		require.NoError(t, b.call("GET", "/api/notebooks/"+id+"/marking", nil, &now))
		marks = map[string]float64{}
		for _, l := range now.Lines {
			awards += len(l.History)
			if n := len(l.History); n > 0 && l.History[n-1].Marks != nil {
				marks[l.ID] = *l.History[n-1].Marks
			}
		}
		return awards, marks
	}
	// The second thought goes behind the first, as a batch of its own.
	require.Eventually(t, func() bool { _, marks := look(); return marks["text-explain"] == 2 }, 20*time.Second, 100*time.Millisecond)
	awards, marks := look()
	assert.GreaterOrEqual(t, awards, 22)
	for range 5 { // killed while marks are on their way
		p.Keys("1")
		require.NoError(t, s.Kill())
		require.NoError(t, s.Start())
	}
	p.Until(`document.querySelector("[data-test=marks-wait]") === null`)
	again, now := look()
	assert.Len(t, now, len(marks)+1, "and no other")
	assert.LessOrEqual(t, again-awards, 5)
	assert.GreaterOrEqual(t, again, awards+1)
}

// What those who teach say beside a trial is on the student's bench at once.
func TestSaidBesideATrial(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Mira Quillon")
	openBench(p)
	moor := page(t, s, 1280, 800)
	moor.SignIn("Wystan Moor")
	moor.Visit(browser.Evaluate[string](p, `location.pathname`))
	tap(moor, "[data-test=say-beside]")
	moor.Fill("#in-words", "Look again at this end.")
	moor.Click("Write it down")
	moor.See("Look again at this end.")
	p.Until(`document.querySelector("[data-test=said]")?.innerText.includes("Look again at this end.")`)
	p.Until(`document.querySelector("[data-test=entry-comment]") !== null`)
	accessible(t, p, "a bench with something said beside a trial")
}

// A held Enter, or twenty in a moment, awards nothing that nobody has seen; what Enter accepted in one
// run U takes back as one.
func TestAHeldEnterAwardsOnce(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	markingDesk(p)
	tap(p, "[data-test=begin-marking]")
	p.Until(`document.querySelector("[data-test=evidence]") !== null`)
	name := onDesk(p)
	require.Greater(t, openCriteria(p), 3)
	press := func(times int, held bool) {
		browser.Evaluate[bool](p, fmt.Sprintf(`(() => { for (let i = 0; i < %d; i++) window.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", repeat: %v && i > 0, bubbles: true, cancelable: true })); return true; })()`, times, held))
	}
	for _, held := range []bool{true, false} { // between the two a criterion may have been seen
		before := openCriteria(p)
		press(20, held)
		assert.GreaterOrEqual(t, openCriteria(p), before-1, "one at most")
	}
	assert.Equal(t, name, onDesk(p))
	now := openCriteria(p)
	p.Keys("a") // all that is certain
	p.Until(fmt.Sprintf(`document.querySelectorAll("[data-criterion][data-open]").length < %d`, now))
	p.Keys("u")
	p.Until(fmt.Sprintf(`document.querySelectorAll("[data-criterion][data-open]").length === %d`, now))
}
