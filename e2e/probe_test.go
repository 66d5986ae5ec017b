package e2e

import (
	"fmt"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/practice/sim"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/e2e/browser"
)

// probed is a practical that comes with the program.
func probed(t *testing.T, name string) *practical.Ready {
	for _, e := range practicaltest.Examples(t) {
		if e.Name == name+".json" {
			return e.Ready
		}
	}
	require.FailNow(t, "no example "+name)
	return nil
}

// beginRun begins the notebook of somebody who has not begun, and calibrates.
func beginRun(t *testing.T, p *browser.Page, title string, calibrate bool) {
	enter(p, "joss.penhale")
	p.Until(fmt.Sprintf(`[...document.querySelectorAll("main *")].some(e => e.textContent.includes(%q))`, title))
	p.Until(fmt.Sprintf(`(() => { const card = [...document.querySelectorAll("main li, main article, main section")].filter(e => e.textContent.includes(%q)).sort((a, b) => a.textContent.length - b.textContent.length)[0]; const b = card && [...card.querySelectorAll("button")].find(b => /Begin|Start/.test(b.textContent)); if (b) b.click(); return !!b })()`, title))
	p.Until(`document.querySelector("[data-test=pad]") !== null`)
	if !calibrate {
		return
	}
	p.See("Calibrate the probe in 4.01, 7.00, 10.01")
	tap(p, "[data-test=calibrate]")
	p.Until(`document.querySelectorAll("[role=dialog] input").length > 6 && document.activeElement.matches("[role=dialog] input")`)
	for i, shown := range []string{"4.03", "7.01", "9.99"} {
		p.Fill(fmt.Sprintf(`[role=dialog] input[aria-label="Shown in buffer %s"]`, []string{"4.01", "7.00", "10.01"}[i]), shown)
	}
	accessible(t, p, "calibration")
	p.Keys("\r")
	p.Until(`document.querySelector("[role=dialog]") === null`)
}

func proposed(p *browser.Page) string {
	return browser.Evaluate[string](p, `document.querySelector("#reading").placeholder`)
}

func pointsSeen(p *browser.Page) int {
	text := browser.Evaluate[string](p, `document.querySelector("[data-test=pad]").innerText.match(/Point (\d+) of/)?.[1] ?? "0"`)
	n, _ := strconv.Atoi(text)
	return n - 1
}

// A weak acid is followed from calibration to the end by the number pad alone: two fields a
// point, the burette as it is proposed. A point is struck and another corrected, in place; the
// pad does not move; the network is away for a while; the end lies where it was put.
func TestRunByNumberPad(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	beginRun(t, p, "Formic acid in the scale remover", true)
	p.CoreReady() // it goes on without the server
	truth, err := sim.Really(probed(t, "formic-curve"), 21.00)
	require.NoError(t, err)
	shown := func(v float64) string { return fmt.Sprintf("%.2f", (truth(v)-7)*0.995+7) } // as the probe answers
	p.Keys("0.00\r")
	p.Until(`document.querySelector("#shown") !== null`)
	top := browser.Evaluate[float64](p, `document.querySelector("#reading").getBoundingClientRect().top`)
	moved, n := 0.0, 0
	for ; n < 80; n++ {
		if strings.Contains(p.Text("[data-test=next]"), "the run can end") {
			break
		}
		p.Until(`document.querySelector("#reading").placeholder !== ""`)
		to := proposed(p)
		v, err := strconv.ParseFloat(to, 64)
		require.NoError(t, err)
		if n == 6 { // without the server the bench goes on
			require.NoError(t, s.Stop())
		}
		if n == 9 {
			require.NoError(t, s.Start())
		}
		p.Keys("\r" + shown(v) + "\r")
		p.Until(fmt.Sprintf(`document.querySelector("#reading").value === "" && document.querySelector("#reading").placeholder !== %q`, to))
		moved = max(moved, browser.Evaluate[float64](p, fmt.Sprintf(`Math.abs(document.querySelector("#reading").getBoundingClientRect().top - %f)`, top)))
	}
	assert.Less(t, n, 45, "points")
	assert.Zero(t, moved, "the pad does not move, px")
	accessible(t, p, "a run")
	p.Until(`document.querySelector("[data-test=curve] svg") !== null`)
	p.Until(`(document.querySelector("[data-test=curve]").focus(), true)`)
	press := func(key string) {
		p.Until(fmt.Sprintf(`(document.querySelector("[data-test=curve]").dispatchEvent(new KeyboardEvent("keydown", {key: %q, bubbles: true})), true)`, key))
	}
	press("Home")
	p.Until(`document.querySelector("[data-test=picked]")?.innerText.startsWith("0.00")`)
	press("ArrowRight")
	p.Until(`document.querySelector("[data-test=picked]")?.innerText.startsWith("2.00")`)
	p.Click("Withdraw")
	p.Until(`document.querySelector("[role=dialog]") !== null`)
	p.Keys("1")
	p.Until(`document.querySelector("[role=dialog]") === null`)
	press("End")
	p.Until(`document.querySelector("[data-test=picked]") !== null`)
	p.Sent()
	tap(p, "[data-test=pad-end]")
	p.Until(`document.querySelector("[data-test=ends]")?.innerText.includes("counts")`)
	p.Until(`document.querySelector("[data-test=ends] tr").innerText.includes("Model laid through all points") && document.querySelector("[data-test=ends] tr").innerText.includes("counts")`)
	end := strings.Fields(p.Text("[data-test=ends] td"))[0]
	v, err := strconv.ParseFloat(end, 64)
	require.NoError(t, err)
	assert.InDelta(t, 21.00, v, 0.03)
	p.See("the tables give a pKa of 3.75")
	assert.Equal(t, n, browser.Evaluate[int](p, `fetch(location.href.replace("/notebooks/", "/api/notebooks/")).then(r => r.json()).then(d => d.sheet.points.length)`))
	assert.Equal(t, 1, browser.Evaluate[int](p, `fetch(location.href.replace("/notebooks/", "/api/notebooks/")).then(r => r.json()).then(d => d.sheet.points.filter(p => p.withdrawn).length)`))
	accessible(t, p, "a run that has ended")
	p.Resize(390, 844)
	p.Until(`document.documentElement.scrollWidth <= 390`)
}

// The simulated instrument is joined, and a whole run noted by itself, volume by volume.
func TestSimulatedProbe(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	beginRun(t, p, "Iron(II) in the oxygen trap with cerium(IV)", false)
	p.Keys("0.00\r")
	p.Until(`document.querySelector("#shown") !== null`)
	tap(p, "[data-test=join]")
	p.Click("Simulated probe")
	p.Until(`/\d/.test(document.querySelector("[data-test=live]")?.innerText ?? "")`)
	tap(p, "[data-test=automatic]")
	p.Until(`document.activeElement?.id === "reading"`)
	began := time.Now()
	n := 0
	for ; n < 60 && !strings.Contains(p.Text("[data-test=next]"), "the run can end"); n++ {
		p.Until(`document.querySelector("#reading").placeholder !== ""`)
		p.Keys("\r")
		p.Until(fmt.Sprintf(`+(document.querySelector("[data-test=pad]").innerText.match(/Point (\d+) of/)?.[1] ?? 0) === %d`, n+2))
	}
	t.Logf("%d points noted by themselves in %.0f s", n, time.Since(began).Seconds())
	assert.Less(t, n, 45)
	tap(p, "[data-test=pad-end]")
	p.Until(`document.querySelector("[data-test=ends]")?.innerText.includes("counts")`)
	p.See("Formal potential of what is titrated")
	points := browser.Evaluate[string](p, `fetch(location.href.replace("/notebooks/", "/api/notebooks/")).then(r => r.json()).then(d => JSON.stringify(d.sheet.points.map(p => [p.source, !!p.unsteady])))`)
	assert.NotContains(t, points, "true", "each was steady")
	assert.Equal(t, n, strings.Count(points, "probe"))
	assert.Zero(t, pointsSeen(p)+1, "the run has ended")
}

// Points come from a table with a comment, a decimal comma and mistakes: it is looked at,
// its columns are put right, what cannot be taken is said by line, and the rest is a run.
func TestPointsFromAFile(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	beginRun(t, p, "Formic acid in the scale remover", true)
	truth, err := sim.Really(probed(t, "formic-curve"), 21.00)
	require.NoError(t, err)
	var file strings.Builder
	file.WriteString("# logged by hand\nTime;Buret reading;Value\n")
	comma := func(v float64) string { return strings.ReplaceAll(fmt.Sprintf("%.2f", v), ".", ",") }
	for i := range 260 { // more than are sent at once
		v := float64(i) / 10
		if i != 210 { // no point at the very end: neither does a pipette give one
			fmt.Fprintf(&file, "0;%s;%s\n", comma(v), comma(truth(v)))
		}
	}
	file.WriteString("0;26,00;none\n")
	for i := range 12 { // another run behind it
		fmt.Fprintf(&file, "0;%s;%s\n", comma(float64(2*i)), comma(truth(float64(2*i)+0.2)))
	}
	p.Until(`document.activeElement?.id === "reading"`)
	p.Click("Points from a file")
	p.Until(`document.querySelector("#points-text") !== null`)
	p.Until(fmt.Sprintf(`(() => { const t = document.querySelector("#points-text"); t.value = %q; t.dispatchEvent(new Event("input")); return true })()`, file.String()))
	p.Click("Look at them")
	p.Until(`document.querySelector("[data-test=points]") !== null`)
	pick := func(column, head string) {
		p.Until(fmt.Sprintf(`(() => { const s = document.querySelector("[data-test=column-%s]"); const o = [...s.options].find(o => o.text === %q); s.value = o.value; s.dispatchEvent(new Event("change")); return true })()`, column, head))
	}
	pick("volume", "Buret reading")
	pick("reading", "Value")
	p.Until(`document.querySelector("[data-test=points] tr:nth-child(2)").innerText.includes("0,10")`)
	p.See("1 comment left out")
	p.Until(`document.querySelector("[data-test=point-faults]")?.innerText.includes("none")`)
	assert.Contains(t, p.Text("[data-test=runs]"), "2 runs stand in it")
	assert.Contains(t, p.Text("[data-test=runs]"), "Run 2, from line 263")
	accessible(t, p, "points looked at")
	p.Click("Write")
	p.Until(`document.querySelector("[role=dialog]") === null`)
	p.Until(`document.querySelector("[data-test=ends]")?.innerText.includes("counts")`)
	end, err := strconv.ParseFloat(strings.Fields(p.Text("[data-test=ends] td"))[0], 64)
	require.NoError(t, err)
	assert.InDelta(t, 21.00, end, 0.05)
	p.Sent()
	csv := browser.Evaluate[string](p, `fetch(location.href.replace("/notebooks/", "/api/notebooks/") + "/report.points.csv").then(r => r.text())`)
	assert.Equal(t, 259, strings.Count(csv, ",file,"))
}
