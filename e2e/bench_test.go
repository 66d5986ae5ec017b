package e2e

import (
	"encoding/json"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/journal"
	"exactflask/demo"
	"exactflask/e2e/browser"
)

// atBench signs a person in and opens their bench of the buffer practical.
func atBench(t *testing.T, s *browser.Server, person string, width, height int) *browser.Page {
	return atBenchOn(page(t, s, width, height), person)
}

func atBenchOn(p *browser.Page, person string) *browser.Page {
	p.SignIn(person)
	if person == "Bevan Thrale" {
		p.Click("Begin")
	} else {
		p.Click("Open the bench")
	}
	p.Until(`document.activeElement?.id === "reading"`)
	return p
}

// choose presses the digit under which the bench offers something.
func choose(p *browser.Page, what ...string) {
	p.Keys("/")
	for _, text := range what {
		button := `[...document.querySelectorAll("[role=dialog] li button")].find(b => b.innerText.includes("` + text + `"))`
		p.Until(button + ` !== undefined`)
		p.Keys(browser.Evaluate[string](p, button+`.innerText.trim()[0]`))
	}
}

// A whole practical with the number pad alone: provisional readings, the timer
// of the end colour, a refill's keys apart, a correction, a trial set aside.
func TestNumberPadAlone(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := atBench(t, s, "Bevan Thrale", 1280, 800)
	record(p, "0.00", "Run in about 1")
	record(p, "24.40", "Rough: steers")
	record(p, "", "Open freely to 45.80") // Enter accepts 24.40
	p.Keys("48.10+")
	p.See("48.10")
	p.Keys("48.15+")
	p.See("48.15")
	p.Keys("*")
	p.See("Swirl:")
	p.Keys("*") // it faded: stopped
	p.Lose("Swirl:")
	record(p, "48.20", "Take the last reading before")
	accessible(t, p, "the end with readings noted before")
	p.Click("48.15")
	p.See("Took another of the readings")
	p.Click("Deep")
	p.See("The colour at the end was deep")
	record(p, "0.05", "drop by drop")
	record(p, "23.85", "2 titres agree")
	choose(p, "Set aside Trial 2")
	p.See("Set aside trial 2")
	p.Keys("1")
	p.See("Set aside: Overshot")
	p.Lose("Press the digit")
	record(p, "0.00", "drop by drop")
	record(p, "23.75", "2 titres agree")
	ev := notebookOf(t, p)
	require.Len(t, ev.Trials, 4)
	assert.Equal(t, "23.75", ev.Trials[1].Titre.String(), "48.15 less 24.40")
	assert.Equal(t, "deep", ev.Trials[1].EndColour)
	assert.Len(t, ev.Trials[1].Provisional, 2)
	assert.Equal(t, "23.75", ev.Agreement.Mean.String())
	p.See("c(Na₂CO₃) = 0.0475")
	p.Click("Journal")
	p.See("The notebook in ink")
	p.See("noted before a further drop 48.15")
	accessible(t, p, "journal")
}

// Before and after: the lists with their times, a leak, a weighing, waste. And
// a burette that is filled within a trial, read again after a run-off.
func TestSetUpRefillAndCleanUp(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := atBench(t, s, "Bevan Thrale", 1280, 800)
	p.See("Set up first: Goggles on.")
	for _, item := range []string{"Goggles on", "rinsed with water", "Waited: no leak"} {
		p.Click(item)
		p.Until(`[...document.querySelectorAll("button[aria-pressed=true]")].some(b => b.innerText.includes("` + item + `"))`)
	}
	p.See("Set up first: Each rinsed")
	accessible(t, p, "setting up")
	p.Click("The tap leaks")
	accessible(t, p, "leak dialog")
	p.Click("It leaks: note it")
	p.Until(`![...document.querySelectorAll("button[aria-pressed=true]")].some(b => b.innerText.includes("Waited: no leak"))`)
	p.Lose("Reseat the tap")
	p.Click("Weigh by difference")
	p.Until(`document.activeElement?.id === "weigh-of"`)
	p.Keys("sodium carbonate\t14,2381 g\t12.9120\r")
	p.See("14,2381 g − 12.9120 = 1.3261")
	p.Lose("Vessel with the solid")
	p.Click("Bottle used")
	p.Until(`document.activeElement?.id === "in-words"`)
	p.Keys("HCl 0.100 mol/L, 24 November\r")
	p.See("HCl 0.100 mol/L, 24 November")

	p.Until(`document.activeElement?.id === "reading"`)
	record(p, "40.00", "Fill the burette first")
	p.Keys("40.20s") // something was run off: the start is taken again
	p.See("read again")
	p.Keys("49.00f")
	p.See("Fill it, wait, and read the new level")
	record(p, "0.50", "the end should come near 14.20")
	record(p, "15.50 ml", "Rough: steers") // pasted with its unit
	ev := notebookOf(t, p)
	assert.Equal(t, "23.80", ev.Trials[0].Titre.String(), "8.80 and 15.00")
	accessible(t, p, "bench after a refill")
	p.Click("Cautions")
	p.See("Follow your laboratory")
	accessible(t, p, "cautions")
	p.Keys("\x1b")
	p.Until(`document.activeElement?.id === "reading"`)
	browser.Evaluate[bool](p, `[...document.querySelectorAll("summary")].find(s => s.innerText.includes("After")).click() ?? true`)
	p.Click("Burette drained")
	p.Click("Where waste went")
	p.Until(`document.activeElement?.id === "in-words"`)
	p.Keys("all of it to the acid beaker\r")
	p.See("all of it to the acid beaker")
	// The order of focus: the reading, then what is done with it.
	p.Until(`document.activeElement?.id === "reading"`)
	p.Keys("\t")
	assert.Equal(t, "Record", browser.Evaluate[string](p, `document.activeElement.innerText`))
	assert.Equal(t, "polite", browser.Evaluate[string](p, `document.querySelector("[data-test=next]").ariaLive`))
}

// Two people, two devices, one notebook.
func TestTwoDevices(t *testing.T) {
	t.Parallel()
	s := serve(t)
	mira := atBench(t, s, "Anouk Brill", 1280, 800)
	mira.Click("Partner")
	mira.Until(`document.querySelector("#partner") !== null`)
	accessible(t, mira, "partner dialog")
	mira.Fill("#partner", "nobody-here\r")
	mira.See("No other student of this class")
	browser.Evaluate[bool](mira, `(() => { const i = document.querySelector("#partner"); i.value = ""; i.dispatchEvent(new Event("input")); return true })()`)
	mira.Fill("#partner", "bevan\r")
	mira.See("Also writing here: Bevan Thrale")
	mira.Keys("\x1b")
	bevan := page(t, s, 390, 844)
	bevan.SignIn("Bevan Thrale")
	bevan.Click("Open the bench")
	bevan.See("23.40")
	mira.Until(`document.activeElement?.id === "reading"`)
	// They write in turns, and at the same time.
	record(mira, "", "Open freely to 43.30")
	bevan.See("Open freely to 43.30")
	bevan.Keys("47.70\r")
	mira.See("47.70")
	record(mira, "0.00", "Open freely to 22.30")
	bevan.See("Open freely to 22.30")
	mira.Keys("24.25\r")
	bevan.Click("Add a note")
	bevan.Until(`document.activeElement?.id === "in-words"`)
	bevan.Keys("fizzed for long")
	bevan.Click("Write it down")
	for _, p := range []*browser.Page{mira, bevan} {
		p.See("2 titres agree")
		p.See("fizzed for long")
	}
	a, b := notebookOf(t, mira), notebookOf(t, bevan)
	assert.Equal(t, a, b)
	assert.Len(t, a.Trials, 3)
}

// The network goes while a trial runs: the bench goes on judging, keeps what
// is recorded through a closed window, and sends it once, in order.
func TestNetworkOffAndOn(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := atBenchOn(device(t, s, 390, 844), "Anouk Brill")
	cached(p)
	p.Reload() // the page now comes from the device
	p.Until(`document.activeElement?.id === "reading"`)
	require.NoError(t, s.Kill())
	record(p, "24.70", "Open freely to 44.60")
	p.See("2 not sent, kept here")
	record(p, "48.6o", "is not a number") // refused here, by the same core
	browser.Evaluate[bool](p, `(() => { const i = document.querySelector("#reading"); i.value = ""; i.dispatchEvent(new Event("input")); return true })()`)
	record(p, "48.60", "One more titre is needed")
	p.See("3 not sent, kept here")
	p.See("From one accurate trial")
	accessible(t, p, "bench without the network")
	p.Reload()
	p.See("3 not sent, kept here")
	p.See("Trial 1")
	record(p, "0.00", "Open freely to 21.90")
	record(p, "23.95", "2 titres agree")
	shown := p.Text("[data-test=result-line]")
	require.NoError(t, s.Start())
	p.Lose("not sent, kept here")
	p.See("2 titres agree")
	assert.Equal(t, shown, p.Text("[data-test=result-line]"), "what was judged here is what the server says")
	ev := notebookOf(t, p)
	assert.Equal(t, 9, ev.Entries, "each once: three for the rough, six since")
	assert.Equal(t, "23.93", ev.Agreement.Mean.String())
	assert.Equal(t, journal.Rough, ev.Trials[0].Type)
}

// Every example file evaluates at the command line, in words too.
func TestExamplesAtTheCommandLine(t *testing.T) {
	t.Parallel()
	for _, file := range []string{"buffer-dosing", "acid-in-burette", "descaling-acid", "disagreeing"} {
		out, err := exec.Command(binary, "evaluate", "../docs/examples/"+file+".json").Output()
		require.NoError(t, err, file)
		assert.True(t, json.Valid(out), file)
		text, err := exec.Command(binary, "evaluate", "--text", "../docs/examples/"+file+".json").Output()
		require.NoError(t, err, file)
		assert.True(t, strings.Contains(string(text), "Trial 1"), file)
	}
}

// When the server takes nothing more for a whole notebook, the bench says so at its line: why, that
// it is kept here, and offers it as a file; when it is taken again it is sent.
func TestNotTakenIsSaidAtTheLine(t *testing.T) {
	t.Parallel()
	s := serve(t)
	farrow, err := SignIn(s.URL, "", "farrow", demo.Password, "archives")
	require.NoError(t, err)
	room := "/api/classes/" + farrow.Class
	var class struct{ Name, Term string }
	require.NoError(t, farrow.call("GET", room, nil, &class))
	archived := func(is bool) {
		require.NoError(t, farrow.call("PUT", room, map[string]any{"name": class.Name, "term": class.Term, "archived": is}, nil))
	}
	p := atBench(t, s, "Bevan Thrale", 390, 844)
	record(p, "0.00", "the end should come near")
	p.Sent()
	archived(true)
	p.Keys("21.40\r")
	p.See("entry is not taken: This class is archived, and nothing is added to its notebooks any more: ask your instructor.")
	p.See("It is kept on this device")
	p.Until(`document.querySelector("[data-test=sent]").innerText.includes("1 not taken")`)
	p.See("Save as a file")
	archived(false)
	p.Click("Send now")
	p.Sent()
	p.Lose("not taken")
	require.NoError(t, farrow.call("DELETE", room+"/people/"+personOf(t, farrow, "Bevan Thrale"), nil, nil))
	record(p, "1.00", "entries are not taken")
	p.See("You are not in the class of this notebook any more")
}

// personOf is the id of somebody of a class.
func personOf(t *testing.T, by *Bench, name string) string {
	var class struct{ People []struct{ ID, Name string } }
	require.NoError(t, by.call("GET", "/api/classes/"+by.Class, nil, &class))
	for _, p := range class.People {
		if p.Name == name {
			return p.ID
		}
	}
	require.Fail(t, "nobody is called "+name)
	return ""
}
