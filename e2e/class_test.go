package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/e2e/browser"
)

// course goes to a practical of the class that stands first on the home of somebody who teaches.
func course(p *browser.Page, practical string) {
	tap(p, fmt.Sprintf("[data-test=course] a[href$='/practicals/%s/plan']", practical))
	p.Until(`document.querySelector(".stations") !== null`)
}

// station goes to one of the stations of the practical or notebook that is open.
func station(p *browser.Page, name string) {
	tap(p, fmt.Sprintf("[data-station=%s]", name))
	p.Until(fmt.Sprintf(`document.querySelector("[data-station=%s]")?.getAttribute("aria-current") === "page"`, name))
}

// tap clicks what a CSS selector finds.
func tap(p *browser.Page, selector string) {
	p.Until(fmt.Sprintf("document.querySelector(%q) !== null && !document.querySelector(%[1]q).disabled", selector))
	browser.Evaluate[bool](p, fmt.Sprintf("(document.querySelector(%q).click(), true)", selector))
}

// refill types into a field in the place of what stands in it.
func refill(p *browser.Page, selector, text string) {
	p.Until(fmt.Sprintf("document.querySelector(%q) !== null", selector))
	browser.Evaluate[bool](p, fmt.Sprintf(`(() => { const f = document.querySelector(%q); f.focus(); f.value = ""; f.dispatchEvent(new Event("input", { bubbles: true })); return true })()`, selector))
	p.Fill(selector, text)
}

// Names of a made-up class of thirty.
func thirty() string {
	first := strings.Fields("Ada Bram Cleo Dario Edda Finn")
	last := strings.Fields("Alder Brook Cairn Dale Esk")
	var out []string
	for _, f := range first {
		for _, l := range last {
			out = append(out, f+" "+l)
		}
	}
	return strings.Join(out, "\n")
}

// From an empty data file to a class of thirty, and a student at a bench, without a
// terminal but for the link of the first start.
func TestAClassFromNothing(t *testing.T) {
	t.Parallel()
	s, err := browser.StartServer(binary, filepath.Join(t.TempDir(), "school.db"))
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Stop() })
	p := page(t, s, 1280, 800)
	p.Visit(s.SetupPath())
	p.See("Set up Exact Flask")
	accessible(t, p, "set-up")
	p.Fill("#new-name", "Ada Marsh")
	p.Fill("#new-username", "marsh")
	p.Fill("#new-password", "marsh")
	p.Click("Begin")
	refill(p, "#new-password", "marsh-and-more")
	p.Click("Begin")
	p.See("The user name stands in it")
	refill(p, "#new-password", "four quiet words here")
	p.Click("Begin")
	p.See("A first practical")
	accessible(t, p, "the first steps")

	began := time.Now()
	p.Fill("#first-class", "10b Chemistry")
	p.Click("Make the class")
	p.See("10b Chemistry")
	p.See("Choose a practical")
	accessible(t, p, "an empty class")
	p.Click("Add people")
	p.Fill("#roster-text", thirty()+"\nAda Alder")
	p.Click("Look at them first")
	p.See("31 people were found.")
	p.See("1 cannot be taken as it is.")
	p.See("the same person stands in line 1")
	accessible(t, p, "a list of people")
	p.Click("Add 30 people")
	p.See("30 slips")
	took := time.Since(began)
	assert.Less(t, took, 2*time.Minute)
	t.Logf("thirty students in a class after %v", took.Round(time.Second))
	assert.Equal(t, 30, browser.Evaluate[int](p, `document.querySelectorAll("[data-test=slip]").length`))
	accessible(t, p, "slips")
	word := browser.Evaluate[string](p, `document.querySelectorAll("[data-test=slip]")[0].querySelectorAll("dd")[2].innerText`)
	p.PrintMedia()
	assert.NoError(t, os.WriteFile(filepath.Join(t.TempDir(), "slips.pdf"), p.Print(), 0o600))
	p.Like("prefers-color-scheme", "light")
	p.Click("Done")
	p.See("30 students")

	// A student with a slip, on a phone: a new password first, then the shelf.
	q := page(t, s, 390, 844)
	q.Visit("/sign-in")
	q.Fill("#username", "ada.alder")
	q.Fill("#password", word)
	q.Click("Sign in")
	q.See("Your password was made by somebody else")
	q.Fill("#password-old", word)
	q.Fill("#password-new", "my own four words")
	q.Fill("#password-again", "my own four words")
	q.Click("Change the password")
	q.See("Changed.")
	q.Click("Home")
	q.See("10b Chemistry")

	// One who comes late joins with the code; the user name is made of the name.
	p.Click("People")
	p.Click("Join code")
	p.Click("Open a code")
	p.See("Closes by itself")
	p.Until(`document.querySelector("img[src^='data:image/svg']")?.complete === true`)
	accessible(t, p, "the join code")
	code := p.Text("[data-test=join-code]")
	r := page(t, s, 390, 844)
	r.Visit("/sign-in")
	r.Click("I have a code for a class")
	r.Fill("#join-code", strings.ToLower(strings.ReplaceAll(code, "-", "")))
	r.Click("Go on")
	r.See("10b Chemistry")
	r.Fill("#new-name", "Gro Fell")
	r.Until(`(document.querySelector("#new-name").dispatchEvent(new Event("change")), document.querySelector("#new-username").value === "gro.fell")`)
	accessible(t, r, "joining")
	r.Fill("#new-password", "words of my own")
	r.Click("Join")
	r.Until(`location.pathname === "/home" && document.body.innerText.includes("10b Chemistry")`)
	p.Reload()
	p.See("31 students")
	p.See("Gro Fell")

	// Her place, her partner, a new password, and the log of it.
	browser.Evaluate[bool](p, `([...document.querySelectorAll("tr")].find(r => r.innerText.includes("Gro Fell")).querySelector("button").click(), true)`)
	p.Fill("#place-bench", "12")
	p.Fill("#place-sample", "C")
	accessible(t, p, "a person of a class")
	p.Click("Save")
	p.Lose("Remove from the class")
	p.Until(`[...document.querySelectorAll("tr")].some(r => r.innerText.includes("Gro Fell") && r.innerText.includes("12"))`)
	p.Click("Practicals")
	p.Fill("#notice", "Goggles on before you enter.")
	p.Click("Put up")
	p.Until(`[...document.querySelectorAll("button")].some(b => b.innerText === "Remove")`)
	r.Reload()
	r.See("Goggles on before you enter.")
	p.Click("Log")
	p.Click("Archive")
	p.See("Archived: everything can be read")
	p.Click("Reopen")
	p.Lose("Archived: everything can be read")
	p.Until(`(document.querySelector("[data-test=log] > summary").click(), true)`)
	p.See("Ada Marsh archived the class")
	p.See("Gro Fell joined with the code")
	accessible(t, p, "a class")
}

// What is wrong with a list is said at its row, and nothing is taken half.
func TestARosterWithMistakes(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	p.Click("Classes")
	p.Click("Tide Laboratory")
	p.Click("People")
	p.See("Teodor Vask")
	accessible(t, p, "a full class")
	p.Click("Add people")
	p.Fill("#roster-text", "Name;Bench;User name\n=cmd();1;\nTeo Vann;2;teo\nNell Varga;3;\nMira Quillon;4;")
	p.Click("Look at them first")
	p.See("looks like a formula")
	p.See("the user name “teo” is taken")
	p.See("in this class already")
	p.See("Add 1 person")
	refill(p, `input[aria-label="User name of Teo Vann"]`, "mira")
	p.Click("Add 2 people")
	p.See("is taken; choose another")
	refill(p, `input[aria-label="User name of Teo Vann"]`, "teo.vann")
	p.Click("Add 2 people")
	p.See("2 slips")
	p.See("teo.vann")

	// An administrator sees people and classes, and nothing in them.
	q := page(t, s, 1280, 800)
	q.SignIn("Corvina Hale")
	q.See("A first practical")
	q.Click("Classes")
	q.See("8 students")
	q.Click("People")
	q.See("Wystan Moor")
	accessible(t, q, "people")
	q.Fill("#account-name", "Ivo Stead")
	tap(q, "form.sheet button[type=submit]")
	q.See("ivo.stead")
	q.Click("Done")
	browser.Evaluate[bool](q, `([...document.querySelectorAll("tr")].find(r => r.innerText.includes("Bevan Thrale")).querySelector("button").click(), true)`)
	q.Click("Remove for good")
	q.See("Their notebooks stay, without a name")
	accessible(t, q, "an account")
	browser.Evaluate[bool](q, `([...document.querySelectorAll("[role=dialog] button")].at(-1).click(), true)`)
	q.Lose("Bevan Thrale")

	// One's own data and name.
	m := page(t, s, 390, 844)
	m.SignIn("Anouk Brill")
	m.Visit("/account")
	m.See("My data as a file")
	accessible(t, m, "account")
	data := browser.Evaluate[string](m, `fetch(document.querySelector("a[download]").href).then(r => r.text())`)
	assert.Contains(t, data, `"username":"anouk"`)
	refill(m, "#my-name", "Anouk Brill-Ames")
	m.Click("Save")
	// A name is the roster's: it is asked for, read in the class's log, and granted there.
	m.See("your instructor sees there what you wish")
	assert.Equal(t, "Anouk Brill", m.Text("[data-test=who]"))
	p.Reload()
	p.See("Teodor Vask")
	browser.Evaluate[bool](p, `([...document.querySelectorAll("tr")].find(r => r.innerText.includes("Anouk Brill")).querySelector("button").click(), true)`)
	p.Until(`document.querySelector("#member-name, [name=member-name]") !== null`)
	refill(p, "#member-name", "Anouk Brill-Ames")
	p.Click("Change the name")
	p.Until(`document.querySelector("[role=dialog]") === null`)
	p.See("Anouk Brill-Ames")
	m.Reload()
	m.Until(`document.querySelector("[data-test=who]")?.innerText === "Anouk Brill-Ames"`)
}

// An assistant prepares and runs the reference titration, and changes nothing of the
// class.
func TestAnAssistantsDay(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Wystan Moor")
	p.Until(`document.querySelector("[data-test=course]") !== null`)
	assert.False(t, browser.Evaluate[bool](p, `document.body.innerText.includes("Plan a new practical")`))
	course(p, "buffer-dosing")
	assert.False(t, browser.Evaluate[bool](p, `document.body.innerText.includes("Save for the class")`))
	station(p, "prepare")
	p.See("Preparation sheet")
	p.See("Order of work")
	p.See("Each step is reckoned as 5\u202fmin")
	p.Until(`!document.body.innerText.includes("Let it cool in a desiccator")`) // it is the sample
	p.See("The lesson begins.")
	// The lesson may begin at another hour: what is begun before moves with it.
	first := func() string {
		return browser.Evaluate[string](p, `document.querySelector("#lesson-begins").closest("section").querySelector("ol span").innerText`)
	}
	before := first()
	browser.Evaluate[bool](p, `(() => { const f = document.querySelector("#lesson-begins"); f.value = "08:00"; f.dispatchEvent(new Event("input")); return true })()`)
	p.Until(fmt.Sprintf(`document.querySelector("#lesson-begins").closest("section").querySelector("ol span").innerText !== %q`, before))
	refill(p, "#group-students", "24")
	p.See("in 24 bottles")
	accessible(t, p, "an assistant's plan")

	station(p, "set")
	p.See("Reference titration")
	assert.True(t, browser.Evaluate[bool](p, `document.querySelector("#time-due").matches(":disabled")`))
	accessible(t, p, "settings that one may only look at")
	p.Click("Run it")
	record(p, "0.00", "Run in")
	p.Visit("/classes")
	p.Click("Tide Laboratory")
	p.Click("People")
	p.See("Teodor Vask")
	assert.False(t, browser.Evaluate[bool](p, `document.body.innerText.includes("Add people")`))
	accessible(t, p, "a class that one may only look at")
}
