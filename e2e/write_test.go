package e2e

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"

	"exactflask/e2e/browser"
)

// writer writes a practical as an instructor does, and counts what it takes.
type writer struct {
	*browser.Page
	inputs int
}

func (w *writer) fill(selector, text string) {
	w.inputs++
	w.opened(selector)
	refill(w.Page, selector, text)
}

func (w *writer) choose(selector, value string) {
	w.inputs++
	w.opened(selector)
	w.Until(fmt.Sprintf(`(() => { const s = document.querySelector(%q); s.value = %q; s.dispatchEvent(new Event("change", { bubbles: true })); return s.value === %[2]q })()`, selector, value))
}

func (w *writer) press(text string) {
	w.inputs++
	w.Click(text)
}

// opened opens the group or the vessel that a field stands in, which is an input of its own.
func (w *writer) opened(selector string) {
	w.Until(fmt.Sprintf("document.querySelector(%q) !== null", selector))
	if browser.Evaluate[bool](w.Page, fmt.Sprintf(`(() => {
		const f = document.querySelector(%q), d = f.closest("details:not([open])"), of = f.closest("[data-of]");
		if (d) d.querySelector("summary").click();
		const closed = of && of.style.display === "none";
		if (closed) document.getElementById(of.dataset.of).click();
		return !!d || !!closed })()`, selector)) {
		w.inputs++
	}
}

// pick types a part of what is sought into a field that finds it, and takes the first.
func (w *writer) pick(selector, text string) {
	w.inputs++
	w.Until(fmt.Sprintf("(document.querySelector(%q).focus(), document.activeElement === document.querySelector(%q))", selector, selector))
	w.Keys(text)
	w.Until(`document.querySelectorAll("[role=listbox] [role=option]:not([aria-disabled])").length === 1`)
	w.Keys("\r")
	w.Until(`document.querySelector("[role=listbox]") === null`)
}

// vessel adds a vessel at the end of the way.
func (w *writer) vessel(kind string) { w.added("vessel", kind) }

func (w *writer) added(row, kind string) {
	w.inputs += 2
	w.Until(fmt.Sprintf(`document.querySelector("[data-test=%s-row]") !== null`, row))
	n := browser.Evaluate[int](w.Page, fmt.Sprintf(`document.querySelectorAll("[data-test=%s-row] > li[data-test]").length`, row))
	tap(w.Page, fmt.Sprintf("[data-test=%s-row] > li:last-child button", row))
	tap(w.Page, fmt.Sprintf("[role=menu] [data-choice=%s]", kind))
	w.Until(fmt.Sprintf(`document.querySelector("[data-test=%s-%d]") !== null`, row, n))
}

// shell writes crushed shell in an excess of hydrochloric acid of a strength, up to its equation.
func (w *writer) shell(strength string) {
	w.fill("#edit-chemistry-analyte-name", "crushed shell")
	w.fill("#edit-chemistry-analyte-formula", "CaCO3")
	w.fill("#edit-chemistry-titrated", "HCl")
	w.fill("#plan-titrant", "0.1035")
	w.fill("#plan-analyte", "")
	w.choose("#vessel-kind-0", "weigh")
	w.fill("#edit-route-0-mass", "1.25")
	w.vessel("excess")
	w.fill("#edit-route-1-formula", "HCl")
	w.fill("#edit-route-1-concentration", strength)
}

// From an empty page to a set practical: one of each kind that is written by hand. The
// plan follows each key, and what is wrong is said at its field.
func TestPracticalsWritten(t *testing.T) {
	t.Parallel()
	s := serve(t)
	for _, c := range []struct {
		name, kind string
		within     time.Duration
		write      func(w *writer)
		see        []string
	}{
		{"direct", "direct titration", 2 * time.Minute, func(w *writer) {
			w.pick("#plan-reaction", "acetic acid with sodium hydroxide")
			w.fill("#plan-title", "Vinegar, written here")
			w.fill("#plan-analyte", "0.085")
		}, []string{"CH₃COOH"}},
		{"back", "back titration", 5 * time.Minute, func(w *writer) {
			w.fill("#plan-title", "Shell, written here")
			w.shell("0.9870")
			w.fill("#edit-route-1-equation", "CaCO3 + 2 HCl -> CaCl2 + H2O")
			// Said at its field, while it is written.
			w.Until(`document.querySelector("#edit-route-1-equation").getAttribute("aria-invalid") === "true"`)
			w.fill("#edit-route-1-equation", "CaCO3 + 2 HCl -> CaCl2 + H2O + CO2")
			w.vessel("make-up")
			w.vessel("aliquot")
			w.choose("#edit-asked-what", "purity")
			w.fill("#edit-asked-expectedTitre", "24.00")
		}, []string{"× 250.0/25.00"}},
		{"standardisation", "standardisation", 5 * time.Minute, func(w *writer) {
			w.fill("#plan-title", "Hydroxide, written here")
			w.fill("#edit-chemistry-equation", "KHC8H4O4 + NaOH -> KNaC8H4O4 + H2O")
			w.fill("#edit-chemistry-analyte-name", "potassium hydrogenphthalate")
			w.fill("#edit-chemistry-analyte-formula", "KHC8H4O4")
			w.press("The other one is the unknown")
			w.fill("#plan-analyte", "")
			w.choose("#vessel-kind-0", "weigh")
			w.fill("#edit-route-0-mass", "0.51")
			w.inputs++
			tap(w.Page, "#edit-route-0-eachTrial")
			w.choose("#edit-rules-agreement-kind", "relative")
		}, nil},
		{"two end points", "two end points", 5 * time.Minute, func(w *writer) {
			w.fill("#plan-title", "Buffer salt, written here")
			w.fill("#edit-chemistry-equation", "Na2CO3 + 2 HCl -> 2 NaCl + H2O + CO2")
			w.press("Exchange")
			w.fill("#edit-chemistry-analyte-name", "buffer salt")
			w.fill("#edit-chemistry-analyte-formula", "Na2CO3")
			w.choose("#edit-chemistry-endPoints", "carbonate-hydrogencarbonate")
			w.fill("#edit-chemistry-other", "NaHCO3")
		}, nil},
		{"redox", "direct titration", 4 * time.Minute, func(w *writer) {
			w.pick("#plan-reaction", "permanganate with iron")
			w.fill("#plan-title", "Iron, written here")
			w.fill("#plan-titrant", "0.0200")
		}, []string{"MnO₄"}},
		{"indirect", "indirect titration", 4 * time.Minute, func(w *writer) {
			w.pick("#plan-reaction", "iodine with thiosulfate")
			w.fill("#plan-title", "Bleach, written here")
			w.fill("#edit-chemistry-analyte-name", "pond bleach")
			w.fill("#edit-chemistry-analyte-formula", "NaOCl")
			w.fill("#edit-chemistry-titrated", "I2")
			w.press("Add a reaction in between")
			w.fill("#edit-chemistry-via-0-equation", "NaOCl + 2 KI + 2 HCl -> I2 + NaCl + 2 KCl + H2O")
			w.fill("#edit-chemistry-via-0-to", "NaOCl")
			w.fill("#plan-analyte", "0.0500")
		}, nil},
		{"back titration with a blank", "back titration", 4 * time.Minute, func(w *writer) {
			w.fill("#plan-title", "Shell by its blank, written here")
			w.shell("0.99")
			w.fill("#edit-route-1-equation", "CaCO3 + 2 HCl -> CaCl2 + H2O + CO2")
			w.inputs++
			tap(w.Page, "#edit-route-1-byBlank")
			w.vessel("make-up")
			w.vessel("aliquot")
			w.choose("#edit-asked-what", "purity")
			w.fill("#edit-asked-expectedTitre", "24.00")
		}, nil},
		{"tablets", "direct titration", 4 * time.Minute, func(w *writer) {
			w.fill("#edit-chemistry-equation", "C6H8O7 + 3 NaOH -> Na3C6H5O7 + 3 H2O")
			w.fill("#plan-title", "Fizzing tablets, written here")
			w.fill("#edit-chemistry-analyte-name", "citric acid")
			w.fill("#edit-chemistry-analyte-formula", "C6H8O7")
			w.fill("#plan-analyte", "")
			w.choose("#vessel-kind-0", "tablets")
			w.choose("#edit-asked-what", "mass-per-tablet")
			w.fill("#edit-asked-expectedTitre", "22.00")
		}, nil},
		{"with a probe", "direct titration", 4 * time.Minute, func(w *writer) {
			w.pick("#plan-reaction", "formic acid with sodium hydroxide")
			w.fill("#plan-title", "Scale remover, written here")
			w.choose("#edit-probe-shows", "pH")
			w.inputs++
			tap(w.Page, "#probe-alone")
		}, nil},
		{"several samples", "direct titration", 4 * time.Minute, func(w *writer) {
			w.fill("#plan-title", "Two bottles, written here")
			w.opened("#plan-samples")
			put(w.Page, "#plan-samples", "fresh acid\nold acid", "change")
			w.inputs++
		}, nil},
		{"a solution", "a solution made", 4 * time.Minute, func(w *writer) {
			w.pick("#plan-reaction", "a solution alone")
			w.fill("#plan-title", "Carbonate, written here")
			w.fill("#edit-chemistry-titrant-name", "sodium carbonate")
			w.fill("#edit-chemistry-titrant-formula", "Na2CO3")
			w.fill("#edit-chemistry-titrant-made-0-mass", "1.325")
		}, nil},
	} {
		t.Run(c.name, func(t *testing.T) {
			p := page(t, s, 1280, 800)
			p.SignIn("Dr Ondine Farrow")
			p.Click("Plan a new practical")
			p.Click("Begin with an empty one")
			p.Until(`document.querySelector("[data-test=titre]") !== null`)
			w, began := &writer{Page: p}, time.Now()
			c.write(w)
			for _, text := range c.see {
				p.See(text)
			}
			p.Until(`document.querySelector("form [role=alert]") === null`)
			w.press("Save for the class")
			p.See("Saved for the class. Notebooks that are begun")
			took := time.Since(began)
			t.Logf("%s: %d inputs, %v as fast as a program types", c.name, w.inputs, took.Round(time.Second))
			assert.Less(t, took, c.within)
			most := 25
			if c.name == "direct" {
				most = 8
			}
			assert.LessOrEqual(t, w.inputs, most, "fields, choices and buttons touched")
			accessible(t, p, "the editor, "+c.name)
			p.Visit("/library")
			p.See("written here")
			kind := browser.Evaluate[string](p, `[...document.querySelectorAll("main li")].find(l => l.querySelector("h2")?.innerText.endsWith("written here")).querySelector("span").innerText`)
			assert.NotEmpty(t, kind)
		})
	}
}

// A worked practical is used, changed, set again and compared with what it was.
func TestLibraryJourney(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	p.Click("Plan a new practical")
	p.See("Library of practicals")
	accessible(t, p, "the library")
	p.Fill("#library-search", "lime")
	p.Click("Use it")
	p.See("have not saved it for the class yet")
	refill(p, "#plan-title", "Our spent lime")
	p.Click("Save for the class")
	p.See("Saved for the class. Notebooks that are begun")
	refill(p, "#edit-purpose", "To see what the lime still takes up.")
	p.Click("Save for the class")
	p.See("Saved for the class. Notebooks that are begun")
	p.Visit("/library")
	p.Fill("#library-search", "our spent")
	p.Click("Compare revisions")
	p.See("To see what the lime still takes up.")
	p.See("Purpose")
	accessible(t, p, "two revisions")
	// A file goes out and comes in again.
	p.Reload()
	p.Fill("#library-search", "our spent")
	p.Until(`document.querySelectorAll("main a[download]").length === 1`)
	back := browser.Evaluate[string](p, `fetch(document.querySelector("main a[download]").href).then(r => r.text())`)
	assert.Contains(t, back, "Our spent lime")
	browser.Evaluate[bool](p, fmt.Sprintf(`(() => { const f = document.querySelector("input[type=file]"); const d = new DataTransfer(); d.items.add(new File([%q], "lime.json")); f.files = d.files; f.dispatchEvent(new Event("change")); return true })()`, back))
	p.Until(`document.querySelector("#plan-title")?.value === "Our spent lime"`)
	p.Visit("/library")
	p.Until(`document.querySelector("input[type=file]") !== null`)
	browser.Evaluate[bool](p, `(() => { const f = document.querySelector("input[type=file]"); const d = new DataTransfer(); d.items.add(new File(["no document"], "x.json")); f.files = d.files; f.dispatchEvent(new Event("change")); return true })()`)
	p.See("not JSON")
}

// A practical is set with unknowns and times, the reference titration is run, and its
// answer becomes the true value; the student gets a code and nothing else.
func TestSettingAPractical(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	course(p, "buffer-dosing")
	station(p, "set")
	setting := browser.Evaluate[string](p, `location.pathname`)
	p.See("5 students have begun.")
	accessible(t, p, "setting a practical")
	p.Click("Run it")
	p.See("No trial yet")
	for _, end := range []string{"22.60", "22.60", "22.60"} {
		record(p, "0.00", "")
		record(p, end, "")
	}
	p.See("2 titres agree")
	p.Sent()
	p.Visit(setting)
	p.See("Run by Dr Ondine Farrow:")
	answer := p.Text("strong.figure")
	assert.Contains(t, answer, "mol/L")
	p.Click("One more unknown")
	p.Click("One more unknown")
	p.Click("Use the reference")
	p.Fill("#unknown-value-1", "0,1234")
	p.Click("Deal at random")
	p.Until(`[...document.querySelectorAll("td select")].every(s => s.value !== "")`)
	p.Until(`(() => { const f = document.querySelector("#time-due"); f.value = "2031-03-04T15:30"; f.dispatchEvent(new Event("input")); return true })()`)
	p.See("Not kept yet.")
	p.Click("Save")
	p.See("Saved.")
	accessible(t, p, "a practical that is set")
	first := browser.Evaluate[string](p, `document.querySelector("#unknown-value-0").value`)
	assert.NotEmpty(t, first)
	p.Reload()
	p.Until(`document.querySelector("#unknown-value-1")?.value === "0.1234"`)

	q := page(t, s, 390, 844)
	q.SignIn("Bevan Thrale")
	q.See("Your unknown:")
	q.See("2031")
	accessible(t, q, "a shelf with an unknown")
	shelf := browser.Evaluate[string](q, `fetch("/api/shelf").then(r => r.text())`)
	assert.NotContains(t, shelf, "0.1234")

	// A new revision: who has begun keeps theirs until they are put under the new one.
	station(p, "plan")
	p.Until(`document.querySelector("#plan-title")?.value.includes("buffer")`)
	refill(p, "#plan-title", "Strength of the buffer, second edition")
	p.Click("As a student sees it")
	p.See("what is hidden is left out here too")
	accessible(t, p, "as a student sees it")
	p.Click("Close")
	p.Click("Save for the class")
	p.See("Saved for the class. Notebooks that are begun")
	station(p, "set")
	p.See("Put 5 notebooks under revision 2")
	p.Click("Put 5 notebooks under revision 2")
	p.Lose("Put 5 notebooks under revision 2")
	p.Click("Remove from the class")
	p.Click("Remove from the class: what was begun stays")
	p.Until(`location.pathname.match("^/classes/[^/]*$") !== null`)
	q.Reload()
	q.Lose("Strength of the buffer")
}

// What is typed on one device is there on another, until it is set.
func TestDraftOnTwoDevices(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p, q := page(t, s, 1280, 800), page(t, s, 390, 844)
	for _, one := range []*browser.Page{p, q} {
		one.SignIn("Dr Ondine Farrow")
	}
	p.Click("Plan a new practical")
	p.Click("Begin with an empty one")
	p.Fill("#plan-title", "Half an idea")
	q.Until(`fetch(document.querySelector("a[href*='/library/']").getAttribute("href").replace("/library/", "/api/classes/") + "/drafts/new").then(r => r.json()).then(d => d.practical?.title === "Half an idea")`)
	q.Click("Plan a new practical")
	q.Click("Begin with an empty one")
	q.See("have not saved it for the class yet")
	q.Until(`document.querySelector("#plan-title").value === "Half an idea"`)
	accessible(t, q, "the editor on a phone")
	w := &writer{Page: q}
	w.fill("#list-own-setup", "Fume cupboard on")
	w.Keys("\r")
	w.Until(`document.querySelector("[data-test=list-setup] ol").innerText.includes("Fume cupboard on")`)
	w.fill("#edit-purpose", "To see it on another device.")
	q.Click("Save for the class")
	q.See("Saved for the class. Notebooks that are begun")
	p.Visit("/shelf")
	p.See("Half an idea")

	// A student finds this school's own item on the list, and does it.
	m := page(t, s, 390, 844)
	m.SignIn("Bevan Thrale")
	m.Until(`[...document.querySelectorAll("article")].some(a => a.innerText.includes("Half an idea"))`)
	browser.Evaluate[bool](m, `([...document.querySelectorAll("article")].find(a => a.innerText.includes("Half an idea")).querySelector("li button").click(), true)`)
	m.See("Set up first")
	m.Until(`[...document.querySelectorAll("details button")].some(b => b.textContent.includes("Fume cupboard on"))`)
	browser.Evaluate[bool](m, `([...document.querySelectorAll("details button")].find(b => b.textContent.includes("Fume cupboard on")).click(), true)`)
	m.Until(`document.body.textContent.includes("1/11")`)
	m.Click("Journal")
	m.See("Fume cupboard on")
}

// A shelf of forty practicals says of each only what it has to: several fit on a screen.
func TestAFullShelf(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	assert.Equal(t, 200, browser.Evaluate[int](p, `(async () => {
		const shelf = (await (await fetch("/api/shelf")).json()).shelves[0];
		const { practical } = await (await fetch("/api/classes/" + shelf.class + "/practicals/" + shelf.practicals[0].practical + "/plan")).json();
		let status = 0;
		for (let i = 1; i <= 40; i++) {
			status = (await fetch("/api/classes/" + shelf.class + "/practicals", { method: "POST",
				headers: { "Content-Type": "application/json" },
				body: JSON.stringify({ practical: { ...practical, id: "again-" + i, title: "Dosing solution " + i } }) })).status;
		}
		return status;
	})()`))
	fits := func(p *browser.Page, state, title string, most int) {
		p.Visit("/shelf")
		p.See(title)
		height := fmt.Sprintf(`[...document.querySelectorAll("article")].find(a => a.querySelector("h3").innerText === %q).offsetHeight`, title)
		assert.LessOrEqual(t, browser.Evaluate[int](p, height), most, state)
		accessible(t, p, state)
	}
	p.Visit("/home")
	p.See("Dosing solution 40")
	assert.LessOrEqual(t, browser.Evaluate[int](p, `document.querySelectorAll("*").length`), 1500, "the home of who teaches: five classes, seventy practicals")
	accessible(t, p, "a home with forty practicals in a class")
	q := page(t, s, 390, 844)
	q.SignIn("Bevan Thrale")
	fits(q, "a student's shelf of forty", "Dosing solution 40", 280)
	q.Fill("#shelf-search", "solution 37")
	q.Until(`document.querySelectorAll("article").length === 1`)
	q.Click("Begin")
	q.See("No trial yet")
}

// What a class sees differently from common practice holds for what is written there from
// then on: the editor says so at once, and what contradicts is said at its field.
func TestRulesOfAClass(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	plan := func() {
		p.Visit("/")
		p.Click("Plan a new practical")
		p.Click("Begin with an empty one")
		(&writer{Page: p}).pick("#plan-reaction", "acetic acid with sodium hydroxide")
	}
	plan()
	p.See("in its best part")
	class := browser.Evaluate[string](p, `location.pathname.split("/")[2]`)
	p.Visit("/classes/" + class)
	tap(p, "[data-test=norms] > summary")
	tap(p, "[data-test=norms-plan] > summary")
	p.Fill("#norm-best-from", "70\r")
	p.See("has to be less than")
	assert.Equal(t, "true", browser.Evaluate[string](p, `document.querySelector("#norm-best-aim").getAttribute("aria-invalid")`))
	p.Fill("#norm-best-aim", "75\r")
	p.See("Practicals that are set from now on are judged by it")
	p.See("2 set here")
	accessible(t, p, "the rules of a class")
	plan()
	p.See("usable, rather small")
}

// Two who wrote in one notebook hand it in together: one asks, both are told, the other agrees; it is
// taken back, and the version stays.
func TestTwoHandInTogether(t *testing.T) {
	t.Parallel()
	s := serve(t)
	owner := atBench(t, s, "Anouk Brill", 1280, 800)
	owner.Click("Partner")
	owner.Fill("#partner", "jory")
	owner.Click("Let them write")
	owner.See("Also writing here: Jory Pellam")
	notebook := browser.Evaluate[string](owner, `location.pathname`)
	partner := page(t, s, 390, 844)
	partner.SignIn("Jory Pellam")
	partner.Visit(notebook)
	partner.Until(`document.activeElement?.id === "reading"`)
	partner.Keys("25.00\r")
	partner.See("the end should come near")
	partner.Sent()
	handIn := func(p *browser.Page, button string) {
		p.Click(button)
		p.Until(`document.querySelector("[data-test=hand-in-now]") !== null`)
		tap(p, "[data-test=hand-in-now]")
	}
	partner.Visit(notebook + "/report")
	handIn(partner, "Hand in")
	partner.See("Jory Pellam would hand this in as it stands")
	partner.See("when Anouk Brill agrees")
	accessible(t, partner, "waiting for the other")
	partner.Visit(notebook)
	partner.Until(`document.activeElement?.id === "reading"`)
	partner.Keys("26")
	owner.Visit(notebook + "/report")
	handIn(owner, "Agree, and hand it in")
	owner.See("Handed in: version 1")
	// At the bench of the other it is said, and no reading is offered any more.
	partner.See("Handed in: version 1")
	partner.Until(`getComputedStyle(document.querySelector("[data-test=pad]") ?? document.querySelector("[data-test=done]")).visibility === "hidden" || document.querySelector("[data-test=pad]") === null`)
	partner.Keys(".50\r")
	partner.Painted()
	partner.Sent()
	assert.Nil(t, notebookOf(t, owner).Trials[1].End)
	partner.Visit(notebook + "/report")
	partner.See("Handed in: version 1")
	partner.Click("Withdraw the hand-in")
	partner.See("taken back by those who handed it in")
	owner.Lose("Handed in: version 1")
}

// The row of vessels is the form: one between two, moved by keys and by drag, taken out, and each step
// taken back.
func TestTheRouteIsTheForm(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	p.Click("Plan a new practical")
	p.Click("Begin with an empty one")
	p.See("Expected titre 25.00")
	w := &writer{Page: p}
	row := func(want ...string) {
		p.Until(fmt.Sprintf(`[...document.querySelectorAll("[data-of^=vessel-lead] select[id^=vessel-kind]")].map(s => s.value).join(" ") === %q`, strings.Join(want, " ")))
	}
	row("pipette")
	w.vessel("make-up")
	w.vessel("aliquot")
	row("pipette", "make-up", "aliquot")
	p.See("× 250.0/25.00")
	tap(p, "[data-test=vessel-1] > span button") // between the first two
	tap(p, "[role=menu] [data-choice=aliquot]")
	row("pipette", "aliquot", "make-up", "aliquot")
	p.Until(`document.querySelector("#edit-route-1-by").offsetParent !== null`) // it is open at once
	accessible(t, p, "a row of vessels")
	browser.Evaluate[bool](p, `(document.querySelector("#vessel-lead-1").dispatchEvent(new KeyboardEvent("keydown", { key: "ArrowRight", altKey: true, bubbles: true })), true)`)
	row("pipette", "make-up", "aliquot", "aliquot")
	p.Until(`document.activeElement.id === "vessel-lead-2"`)
	browser.Evaluate[bool](p, `(() => { const [from, to] = [2, 0].map((i) => document.querySelector("[data-test=vessel-" + i + "] [draggable]"));
		from.dispatchEvent(new DragEvent("dragstart", { bubbles: true })); to.dispatchEvent(new DragEvent("drop", { bubbles: true })); return true })()`)
	row("aliquot", "pipette", "make-up", "aliquot")
	p.Until(`document.querySelector("form [role=alert]") !== null`) // no sample is an aliquot: said at once
	p.Until(`document.activeElement.id === "vessel-lead-0"`)
	p.Keys(kb.Delete)
	row("pipette", "make-up", "aliquot")
	p.Until(`document.querySelector("form [role=alert]") === null`)
	for _, want := range []string{"aliquot pipette make-up aliquot", "pipette make-up aliquot aliquot", "pipette aliquot make-up aliquot", "pipette make-up aliquot"} {
		p.Until(`!document.querySelector("[data-test=undo]").disabled`)
		tap(p, "[data-test=undo]")
		row(want)
	}
	p.Resize(390, 844)
	p.Until(`document.documentElement.scrollWidth <= 390`)
}
