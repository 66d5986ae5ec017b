package e2e

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/evaluation"
	"exactflask/e2e/browser"
	"exactflask/formats"
)

const binary = "../bin/exactflask"

var axe string

// browsers are the ones that are free: each journey has one to itself, since several pages
// of one browser get in each other's way.
var browsers = make(chan *browser.Browser, 64)

// inUse are the browsers of the journeys that run, by name.
var inUse sync.Map

// chromium is the browser of a journey, which is its own until it ends.
func chromium(t testing.TB) *browser.Browser {
	if b, ok := inUse.Load(t.Name()); ok {
		return b.(*browser.Browser)
	}
	var b *browser.Browser
	select {
	case b = <-browsers:
	default:
		var err error
		b, err = browser.Open()
		require.NoError(t, err)
	}
	inUse.Store(t.Name(), b)
	t.Cleanup(func() {
		inUse.Delete(t.Name())
		browsers <- b
	})
	return b
}

func TestMain(m *testing.M) {
	var err error
	if _, err = os.Stat(binary); err == nil {
		var text []byte
		text, err = os.ReadFile("../ui/node_modules/axe-core/axe.min.js")
		axe = string(text)
	}
	if err != nil {
		_, _ = os.Stderr.WriteString("browser tests: " + err.Error() + "; run: make test\n")
		os.Exit(1)
	}
	code := m.Run()
	close(browsers)
	for b := range browsers {
		b.Close()
	}
	os.Exit(code)
}

// demoFile is the data file of the demo, filled once for all journeys.
var demoFile = sync.OnceValues(func() ([]byte, error) {
	dir, err := os.MkdirTemp("", "exactflask-demo-")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	path := filepath.Join(dir, "demo.db")
	s, err := browser.StartDemo(binary, path)
	if err != nil {
		return nil, err
	}
	answer, err := http.Get(s.URL + "/api/about") // it is up once it answers
	if err != nil {
		return nil, errors.Join(err, s.Stop())
	}
	if err := errors.Join(answer.Body.Close(), s.Stop()); err != nil {
		return nil, err
	}
	return os.ReadFile(path)
})

func serve(t *testing.T) *browser.Server {
	data, err := demoFile()
	require.NoError(t, err)
	path := filepath.Join(t.TempDir(), "journey.db")
	require.NoError(t, os.WriteFile(path, data, 0o600))
	s, err := browser.StartDemo(binary, path)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Stop() })
	return s
}

// page opens a page for a journey with the network: it keeps no copy of the program on its
// device, which takes a second of each.
func page(t *testing.T, s *browser.Server, width, height int) *browser.Page {
	p := device(t, s, width, height)
	p.Before(`if ("serviceWorker" in navigator) navigator.serviceWorker.register = () => new Promise(() => {})`)
	return p
}

// device opens a page that keeps what it needs without the network.
func device(t *testing.T, s *browser.Server, width, height int) *browser.Page {
	p := chromium(t).Page(s, width, height, t.Fatalf)
	t.Cleanup(p.Close)
	return p
}

// The rules of axe-core: all of WCAG's, and those that hang on the theme.
const (
	allRules   = `["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]`
	ofTheTheme = `["color-contrast", "link-in-text-block"]`
)

// accessible runs axe-core over what is on the screen, and sees that the page
// does not scroll sideways on a phone.
func accessible(t *testing.T, p *browser.Page, state string) { keepsTo(t, p, allRules, state) }

func keepsTo(t *testing.T, p *browser.Page, rules, state string) {
	browser.Evaluate[bool](p, axe+"; true")
	found := browser.Evaluate[string](p, `(async () => {
		await Promise.all(document.getAnimations().map(a => a.finished.catch(() => 0)));
		const r = await axe.run(document, { runOnly: `+rules+`, resultTypes: ["violations"], preload: false, selectors: false, elementRef: false });
		return r.violations.map(v => v.id + ": " + v.nodes.map(n => n.html).join(" | ")).join("\n");
	})()`)
	assert.Empty(t, found, "axe-core, %s", state)
	size := browser.Evaluate[[]int](p, `[innerWidth, innerHeight]`)
	p.Resize(390, 844)
	assert.LessOrEqual(t, browser.Evaluate[int](p, `document.documentElement.scrollWidth`), 390, "width on a phone, %s",
		state)
	p.Resize(size[0], size[1])
}

// type and Enter, as on a number pad; next is what the bench says then.
func record(p *browser.Page, reading, next string) {
	// Where the bench work is done, another trial is asked for first.
	browser.Evaluate[bool](p, `(document.querySelector("[data-test=another]")?.click(), true)`)
	p.Until(`document.activeElement?.id === "reading" && !document.querySelector("button[type=submit]").disabled`)
	if reading == "" { // what is proposed is accepted once it has been seen
		p.Until(`document.querySelector("[data-test=pad][data-accepts] #reading").placeholder !== ""`)
	}
	p.Keys(reading + "\r")
	p.See(next)
}

// notebookOf evaluates the notebook that is open, with the core itself.
func notebookOf(t *testing.T, p *browser.Page) evaluation.Evaluation {
	p.Sent()
	text := browser.Evaluate[string](p, `fetch("/api/notebooks/" + location.pathname.split("/")[2] + "/document").then(r => r.text())`)
	// What is served is what the program's own command line reads.
	cmd := exec.Command(binary, "evaluate", "-")
	cmd.Stdin = strings.NewReader(withoutLinks(t, text))
	out, err := cmd.Output()
	require.NoError(t, err, text)
	var ev evaluation.Evaluation
	require.NoError(t, json.Unmarshal(out, &ev))
	return ev
}

func withoutLinks(t *testing.T, text string) string {
	doc, err := formats.Read(strings.NewReader(text))
	require.NoError(t, err)
	var out bytes.Buffer
	require.NoError(t, formats.Write(&out, doc))
	return out.String()
}

// The journey of a student: from nothing to a concentration, by number pad,
// with a wrong reading, its correction, a lost connection and a power cut.
func TestFromBuretteToConcentration(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Bevan Thrale")
	p.See("Not begun")
	accessible(t, p, "shelf")
	p.Click("Begin")
	p.See("No trial yet")
	accessible(t, p, "empty bench")

	record(p, "0,00", "Run in about 1")
	record(p, "twenty", "is not a number")
	assert.Equal(t, "twenty", browser.Evaluate[string](p, `document.querySelector("#reading").value`),
		"what was typed is kept")
	accessible(t, p, "a refused reading")
	browser.Evaluate[bool](p, `(() => { const i = document.querySelector("#reading"); i.value = ""; i.dispatchEvent(new Event("input")); return true })()`)
	record(p, "24.40", "Rough: steers")
	record(p, "0.00", "Open freely to 21.40")
	record(p, "32.85", "more than the rough trial")
	// Correct the last reading with the number pad alone: /, value, reason 1.
	choose(p, "Correct last")
	p.See("Written: 32.85")
	accessible(t, p, "correction dialog")
	p.Keys("23.85\r")
	p.See("Press the digit")
	p.Keys("1")
	p.Lose("Press the digit")
	p.Lose("more than the rough trial")
	p.See("struck: Misread the scale")
	// Enter alone accepts the proposed start.
	p.See("Enter accepts 23.85")
	record(p, "", "the end should come near 47.70")

	// A power cut with a trial running, and a reading typed meanwhile.
	require.NoError(t, s.Kill())
	p.Keys("47.65\r")
	p.See("1 not sent, kept here")
	p.Leave()
	require.NoError(t, s.Start())
	p.Visit("/shelf")
	p.See("Open the bench")
	p.Click("Open the bench")
	p.See("2 titres agree")
	p.Lose("not sent, kept here")

	p.Reload()
	p.See("2 titres agree: spread 0.05")
	p.Keys("0.10\r") // a third trial, set aside
	p.See("Open freely")
	p.Keys("24.90\r")
	p.See("2 titres agree, mean 23.83")
	choose(p, "Set aside Trial 3")
	p.See("Set aside trial 3")
	p.Keys("1")
	p.See("Set aside: Overshot the end point")
	p.Lose("Press the digit")
	accessible(t, p, "full bench")

	ev := notebookOf(t, p)
	require.NotNil(t, ev.Result)
	assert.Len(t, ev.Trials, 4)
	p.Click("Result")
	p.See("Calculation in steps")
	assert.Contains(t, p.Text("[data-test=answer]"), ev.Result.Answer.String(), "the screen shows what the core says")
	assert.Equal(t, "0.0477", ev.Result.Answer.String())
	accessible(t, p, "result")
	p.Click("0.0477")
	p.See("The first divided by the second")
	accessible(t, p, "where from?")
	p.Keys("\x1b")
	p.Lose("The first divided by the second")
	p.Click("Report")
	p.See("Made with Exact Flask")
	accessible(t, p, "report")
	pdf := p.Print()
	assert.Equal(t, 1, bytes.Count(pdf, []byte("/Type /Page\n")), "the report is one page")
}

// Sessions end; work does not. And words follow the person.
func TestStaleSessionAndWords(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 390, 844)
	p.SignIn("Anouk Brill")
	p.Click("Open the bench")
	p.See("Read the start")
	// The session ends somewhere else; a reading is typed with a finger.
	browser.Evaluate[int](p, `fetch("/api/session", { method: "DELETE" }).then(r => r.status)`)
	for _, key := range []string{"2", "4", ".", "7", "0"} {
		p.Click(key)
	}
	p.Click("Record")
	p.See("typed is kept on this device")
	p.Click("Anouk Brill")
	p.See("Open freely to 44.60")
	accessible(t, p, "bench on a phone")

	p.Click("Anouk Brill")
	p.See("Theme")
	p.Click("titer, buret")
	p.See("Saved.")
	p.Click("cm³ and")
	p.Click("Dark")
	p.Until(`document.documentElement.dataset.theme === "dark"`)
	accessible(t, p, "account, dark")
	p.Click("Home")
	p.Click("Open the bench")
	p.See("Titer / cm³")
	accessible(t, p, "bench on a phone, dark")

	// An instructor reads the same notebook and cannot write in it.
	q := page(t, s, 1280, 800)
	q.SignIn("Dr Ondine Farrow")
	accessible(t, q, "instructor's shelf")
	course(q, "buffer-dosing")
	station(q, "lesson")
	tap(q, "[data-test=notebooks] summary")
	tap(q, "[data-test=notebooks] a") // Anouk Brill is the first by name
	q.See("only they write in it")
	q.See("23.40")
	assert.False(t, browser.Evaluate[bool](q, `document.querySelector("#reading") !== null`))
	accessible(t, q, "a student's bench, read by the instructor")
}

// The command line: malformed files say where and what, with status 2.
func TestEvaluateFile(t *testing.T) {
	t.Parallel()
	out, err := exec.Command(binary, "evaluate", "../docs/examples/buffer-dosing.json").Output()
	require.NoError(t, err)
	var ev evaluation.Evaluation
	require.NoError(t, json.Unmarshal(out, &ev))
	assert.Equal(t, "22.53", ev.Agreement.Mean.String())
	bad := filepath.Join(t.TempDir(), "bad.json")
	text, err := os.ReadFile("../docs/examples/buffer-dosing.json")
	require.NoError(t, err)
	for name, spoilt := range map[string][]byte{
		"journal[1].reading.mark": bytes.Replace(text, []byte(`"start"`), []byte(`"middle"`), 1),
		"line 3":                  bytes.Replace(text, []byte(`"version": 2`), []byte(`"version" 2`), 1),
		"no such file":            nil,
	} {
		path := bad
		if spoilt == nil {
			path = bad + ".none"
		} else {
			require.NoError(t, os.WriteFile(bad, spoilt, 0o600))
		}
		cmd := exec.Command(binary, "evaluate", path)
		var out, said bytes.Buffer
		cmd.Stdout, cmd.Stderr = &out, &said
		var exit *exec.ExitError
		require.ErrorAs(t, cmd.Run(), &exit)
		assert.Equal(t, 2, exit.ExitCode())
		assert.Empty(t, out.String(), "no half answer")
		assert.Contains(t, said.String(), filepath.Base(path))
		assert.Contains(t, said.String(), name)
	}
}

// A student's own calculation, in a practical that shows the result only
// after it; and the catalogue.
func TestOwnWorkAndCatalogue(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Mira Quillon")
	browser.Evaluate[bool](p, `([...document.querySelectorAll("article")].find(a => a.innerText.includes("oyster shell")).querySelector("a[href*=notebooks]").click(), true)`)
	p.See("Journal")
	p.Click("Result")
	p.See("Results of this practical are shown later")
	p.Click("To your own working")
	p.Until(`document.querySelector("#step-1") !== null`)
	give := func(step int, value, unit, says string) {
		field := fmt.Sprintf("#step-%d", step)
		browser.Evaluate[bool](p, fmt.Sprintf(`(() => { const i = document.querySelector(%q); i.value = ""; i.dispatchEvent(new Event("input")); return true })()`, field))
		p.Fill(field, value)
		p.Choose(field, unit)
		p.Keys("\r")
		p.Until(fmt.Sprintf(`document.querySelector(%q).closest("li").innerText.includes(%q)`, field, says))
	}
	// Until every step has an answer, none is judged. From the wrong figure on:
	// right by the student's own.
	for i, own := range []string{"24,13", "0.0024969", "0.0024969", "0.0024969", "0.04935", "0.04685", "0.023425", "2.3445", "1.874"} {
		give(i+1, own, []string{"mL", "mol", "mol", "mol", "mol", "mol", "mol", "g", "1"}[i], "It is judged later.")
	}
	give(9, "0", "1", "Zero is no answer")
	give(9, "1.874", "1", "It is judged later.")
	accessible(t, p, "own working, not judged")
	p.Click("Result")
	p.See("shown later")
	p.Click("Working")
	p.Until(`document.querySelector("#step-10") !== null`)
	give(10, "187.5", "%", "Right with your own earlier figure.")
	says := func(step int, text string) {
		p.Until(fmt.Sprintf(`document.querySelector("#step-%d").closest("li").innerText.includes(%q)`, step, text))
	}
	says(1, "Right.")
	says(4, "dilution factor seems to be left out")
	says(5, "Right.")
	says(6, "Right with your own earlier figure.")
	give(2, "2.497", "mol", "were millilitres taken for litres?")
	give(2, "0.0024969", "mol", "Right.")
	accessible(t, p, "own working")
	p.Click("Result")
	p.See("97.52")
	p.See("How sure is it?")
	accessible(t, p, "result with uncertainty and causes")
	for _, way := range []string{"Unit factors", "One formula"} {
		p.Click(way)
		p.See("Calculation in one")
	}
	accessible(t, p, "working in one formula")

	p.Click("Catalogue")
	p.See("Molar mass")
	accessible(t, p, "the whole catalogue")
	p.Fill("#wanted", "H2C2O4")
	p.See("ethanedioic acid dihydrate")
	p.Lose("muriatic")
	accessible(t, p, "catalogue")
	p.Click("Reactions")
	p.Fill("#own-name", "reef salt")
	p.Fill("#own-equation", "ClO3- + Cl- + H+ -> ClO2 + Cl2 + H2O\r")
	p.See("half-reactions")
	browser.Evaluate[bool](p, `(() => { const i = document.querySelector("#own-equation"); i.value = ""; i.dispatchEvent(new Event("input")); const w = document.querySelector("#wanted"); w.value = ""; w.dispatchEvent(new Event("input")); return true })()`)
	p.Fill("#own-equation", "H3PO4 + NaOH -> Na3PO4 + H2O\r")
	p.See("H₃PO₄ + 3 NaOH → Na₃PO₄ + 3 H₂O")
	accessible(t, p, "own reaction")
}

// The week before: an instructor plans, mends a bad indicator and a titre out
// of range, sets the practical; a student prepares and runs it on the bench.
func TestPlanToBench(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	p.Click("Plan a new practical")
	p.Click("Begin with an empty one")
	p.See("Expected titre 25.00")
	w := &writer{Page: p}
	w.pick("#plan-reaction", "ammonia hydrochloric")
	p.See("methyl red suits")
	accessible(t, p, "a plan")
	tap(p, "[data-test=indicators]")
	p.Click("Show all indicators")
	p.Click("Use this phenolphthalein")
	p.See("phenolphthalein is unsuitable")
	tap(p, "[data-test=indicators]")
	p.Click("Use this methyl red")
	p.See("methyl red suits")
	strength := func(value string) {
		browser.Evaluate[bool](p, fmt.Sprintf(`(() => { const i = document.querySelector("#plan-analyte"); i.value = %q; i.dispatchEvent(new Event("input")); return true })()`, value))
	}
	strength("0.9")
	p.See("more than one fill")
	accessible(t, p, "a titre out of range")
	p.Click("Dilute the sample 5 times")
	p.See("in its best part")
	strength("ten")
	p.See("The approximate concentration: a number such as 21.35 is wanted")
	strength("0.09")
	p.See("in its best part")
	browser.Evaluate[bool](p, `(() => { const i = document.querySelector("#plan-title"); i.value = "Ammonia in the window cleaner"; i.dispatchEvent(new Event("input")); return true })()`)
	p.Painted()
	p.Click("Save for the class")
	p.See("Saved for the class. Notebooks that are begun")
	station(p, "prepare")
	p.See("Preparation sheet: Ammonia")
	p.See("of the concentrated reagent")

	q := page(t, s, 390, 844)
	q.SignIn("Bevan Thrale")
	browser.Evaluate[bool](q, `([...document.querySelectorAll("article")].find(a => a.innerText.includes("window cleaner")).querySelector("a").click(), true)`)
	q.See("Before the laboratory")
	q.Fill("#q-titre", "22.5\r")
	q.See("Slow down 2")
	q.Fill("#q-ratio", "3\r")
	q.See("Look at the coefficients")
	accessible(t, q, "preparing, on a phone")
	q.Click("Home")
	q.Until(`document.querySelector("article") !== null`)
	browser.Evaluate[bool](q, `([...document.querySelectorAll("article")].find(a => a.innerText.includes("window cleaner")).querySelector("button").click(), true)`)
	q.Until(`document.activeElement?.id === "reading"`)
	record(q, "0.00", "the end should come near 22.50")
}
