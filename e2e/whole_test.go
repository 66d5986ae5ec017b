package e2e

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"exactflask/e2e/browser"
)

// A whole piece of work is done by clicking and typing alone: written from an empty editor and
// set, done at the bench, worked out, handed in, marked and released.
type whole struct {
	title         string
	teach, learn  *browser.Page
	notebook, set string
}

// begun writes a practical from an empty one and sets it; what a student finds on the shelf is
// opened.
func begun(t *testing.T, s *browser.Server, title string, write func(w *writer)) *whole {
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	p.Click("Plan a new practical")
	p.Click("Begin with an empty one")
	p.Until(`document.querySelector("[data-test=titre]") !== null`)
	w := &writer{Page: p}
	w.fill("#plan-title", title)
	write(w)
	p.Until(`document.querySelector("form [role=alert]") === null`)
	w.press("Save for the class")
	p.See("Saved for the class. Notebooks that are begun")

	q := page(t, s, 390, 844)
	q.SignIn("Bevan Thrale")
	q.See(title)
	browser.Evaluate[bool](q, fmt.Sprintf(`([...document.querySelectorAll("article")].find(a => a.innerText.includes(%q)).querySelector("button").click(), true)`, title))
	q.Until(`document.activeElement?.matches("#reading, [data-main]")`)
	return &whole{title: title, teach: p, learn: q}
}

// vinegar writes one determination of about 0.085 mol/L.
func (w *writer) vinegar(title string) {
	w.pick("#plan-reaction", "acetic acid with sodium hydroxide")
	w.fill("#plan-title", title)
	w.fill("#plan-analyte", "0.085")
	w.choose("#plan-need", "1")
}

// once runs a rough trial and an accurate one, of which one is enough, each from 0.00.
func once(q *browser.Page, rough, end string) {
	record(q, "0.00", "the end should come near")
	record(q, rough, "Read the start to begin")
	record(q, "0.00", "the end should come near")
	record(q, end, "one is enough here")
}

// works goes to the own working and answers its steps, each with its unit; says is what the
// page says of all of them.
func (w *whole) works(answers [][2]string, says string) {
	q := w.learn
	q.Sent()
	q.Click("Working")
	for i, a := range answers {
		field := fmt.Sprintf("#step-%d", i+1)
		q.Until(fmt.Sprintf(`document.querySelector(%q) !== null`, field))
		q.Fill(field, a[0])
		q.Choose(field, a[1])
		q.Keys("\r")
		q.Until(fmt.Sprintf(`document.querySelector(%q).closest("li").innerText.includes(%q)`, field, says))
	}
}

// handsIn writes the report's passages and hands it in, though something is missing.
func (w *whole) handsIn() {
	q := w.learn
	q.Click("Report")
	q.Until(`document.querySelector("[data-test=hand-in]") !== null`)
	passage(q, "The drop at the jet.")
	q.See("Written into the notebook.")
	q.Click("Hand in")
	q.Click("Hand in all the same")
	q.See("Handed in: version 1")
	w.notebook = browser.Evaluate[string](q, `location.pathname.split("/")[2]`)
}

// marked awards what is proposed and one mark for the rest, and releases it; the student
// sees the marks.
func (w *whole) marked() {
	p := w.teach
	w.set = browser.Evaluate[string](p, `location.pathname.split("/").slice(0, 5).join("/")`)
	p.Visit(w.set + "/marking/" + w.notebook)
	p.Until(`document.querySelector("[data-test=evidence]") !== null`)
	p.Keys("a")
	for openCriteria(p) > 0 {
		p.Keys("1")
	}
	p.Keys("\x1b") // back to the desk, which the marks reach by themselves
	p.Until(`document.querySelector("[data-test=desk] table") !== null && document.querySelector("[data-test=progress]").innerText.includes("1 of 1 marked")`)
	tap(p, "[data-test=release]")
	p.See("It cannot be taken back")
	tap(p, "[data-test=release-now]")
	p.See("released.")
	q := w.learn
	q.Reload()
	tap(q, "a[href$='/marks']")
	q.Until(`document.querySelector("[data-test=own-marks]") !== null`)
}

// One determination is enough, where the practical says so: it has its answer with an honest
// uncertainty, its working with what is given beside it, a report and marks.
func TestOneDeterminationIsEnough(t *testing.T) {
	t.Parallel()
	s := serve(t)
	w := begun(t, s, "Vinegar, once", func(w *writer) {
		w.vinegar("Vinegar, once")
	})
	q := w.learn
	once(q, "22.50", "21.30")
	q.See("Counts: the only one")
	w.works([][2]string{{"21.30", "mL"}}, "Right.")
	given := browser.Evaluate[string](q, `document.querySelector("[data-test=given]").innerText`)
	for _, has := range []string{"0.00 → 21.30", "0.100", "25.00"} {
		assert.Contains(t, given, has)
	}
	accessible(t, q, "own working with what is given")
	q.Click("Result")
	q.See("From one trial")
	q.See("it is taken from the rule")
	w.handsIn()
	w.marked()
}

// What a student measures takes the place of what the practical gives, at any time: the volume in a
// cylinder and the density of the sample are asked at their vessel, also after the first reading.
func TestOwnMeasuredValues(t *testing.T) {
	t.Parallel()
	s := serve(t)
	w := begun(t, s, "Vinegar by cylinder", func(w *writer) {
		w.vinegar("Vinegar by cylinder")
		w.opened("#edit-route-0-by")
		w.choose("#edit-route-0-by", "cylinder")
		w.choose("#edit-asked-what", "mass-fraction")
		w.fill("#edit-asked-density", "1.00")
	})
	q := w.learn
	once(q, "22.50", "21.30")
	measure := func(name, value string) {
		browser.Evaluate[bool](q, fmt.Sprintf(`([...document.querySelectorAll("[data-test=measure]")].find(b => b.innerText.includes(%q)).click(), true)`, name))
		q.Until(`document.activeElement?.id === "measured"`)
		q.Keys(value + "\r")
	}
	q.CoreReady()
	measure("Volume of", "2.56")
	q.See("Was 25.6")
	refill(q, "#measured", "25.6")
	q.Keys("\r")
	q.Until(`document.querySelector("#measured") === null`)
	measure("Density", "1.012")
	q.Until(`document.querySelector("#measured") === null && document.body.innerText.includes("1.012 g/mL")`)
	accessible(t, q, "measured values at the vessels")
	// By hand: 0.100 mol/L x 21.30 mL = 2.130 mmol in 25.6 mL of 1.012 g/mL, of 60.052 g/mol.
	w.works([][2]string{{"21.30", "mL"}, {"2.130e-3", "mol"}, {"2.130e-3", "mol"}, {"0.0832", "mol/L"}, {"4.997", "g/L"}, {"0.494", "% w/w"}}, "Right.")
	given := browser.Evaluate[string](q, `document.querySelector("[data-test=given]").innerText`)
	for _, has := range []string{"25.6", "the practical gives 25.00", "1.012", "the practical gives 1.00"} {
		assert.Contains(t, given, has)
	}
	w.handsIn()
	w.marked()
}

// A standard that students weigh and make up is the titrant: what they weighed changes the
// answer, and its strength is a step of their working.
func TestWeighedTitrant(t *testing.T) {
	t.Parallel()
	s := serve(t)
	w := begun(t, s, "Hydroxide by weighed acid", func(w *writer) {
		w.fill("#edit-chemistry-equation", "H2C2O4 + 2 NaOH -> Na2C2O4 + 2 H2O")
		w.fill("#edit-chemistry-titrant-name", "oxalic acid")
		w.fill("#edit-chemistry-titrant-formula", "H2C2O4")
		w.fill("#edit-chemistry-analyte-name", "sodium hydroxide")
		w.fill("#edit-chemistry-analyte-formula", "NaOH")
		w.fill("#plan-titrant", "0.0635")
		w.fill("#plan-analyte", "0.12")
		w.added("made", "weigh")
		w.fill("#edit-chemistry-titrant-made-0-mass", "2.00")
		w.fill("#edit-chemistry-titrant-made-0-formula", "H2C2O4*2H2O")
		w.added("made", "make-up")
		w.choose("#plan-need", "1")
	})
	q := w.learn
	q.See("Weigh the H₂C₂O₄·2H₂O for the titrant")
	tap(q, "[data-test=weigh-standard]")
	q.Until(`document.querySelector("#weigh-full") !== null`)
	q.Fill("#weigh-full", "14.55")
	q.Fill("#weigh-emptied", "12.50")
	q.Keys("\r")
	q.Until(`document.querySelector("#weigh-full") === null`)
	once(q, "24.50", "23.80")
	// By hand: 2.05 g / 126.065 g/mol in 250.0 mL, 0.06505 mol/L; twice that for 25.00 mL.
	w.works([][2]string{{"23.80", "mL"}, {"0.01626", "mol"}, {"0.01626", "mol"}, {"0.0650", "mol/L"}, {"1.548e-3", "mol"}, {"3.096e-3", "mol"}, {"0.124", "mol/L"}}, "Right.")
	given := browser.Evaluate[string](q, `document.querySelector("[data-test=given]").innerText`)
	assert.Contains(t, given, "12.50 → 14.55")
	accessible(t, q, "the working of a titrant that was made")
	w.handsIn()
	w.marked()
}

// What a school does before, in its own list, and what it wants to see photographed: asked at the
// bench, said once where it is missing, and marked.
func TestOwnListAndPhotographs(t *testing.T) {
	t.Parallel()
	s := serve(t)
	w := begun(t, s, "Vinegar with photographs", func(w *writer) {
		w.vinegar("Vinegar with photographs")
		w.opened("#list-own-setup")
		w.fill("#list-own-setup", "Fume cupboard on, sash down")
		w.Keys("\r")
		w.Until(`document.querySelector("[data-test=list-setup]").innerText.includes("Fume cupboard on")`)
		tap(w.Page, `[data-test=list-setup] button[aria-label="Leave out: Funnel taken out"]`)
		w.Until(`!document.querySelector("[data-test=list-setup] ol").innerText.includes("Funnel taken out")`)
		tap(w.Page, `[data-test=list-setup] button[aria-label="Earlier: Fume cupboard on, sash down"]`)
		accessible(t, w.Page, "the lists in the editor")
		w.opened("#evidence-label")
		tap(w.Page, "#evidence-label")
		tap(w.Page, "#evidence-end-colour")
	})
	q := w.learn
	q.See("Photographs that are asked for")
	list := browser.Evaluate[string](q, `[...document.querySelectorAll("details")].find(d => d.innerText.includes("set up the bench")).innerText`)
	assert.Contains(t, list, "Fume cupboard on, sash down")
	assert.NotContains(t, list, "Funnel taken out")
	tap(q, "[data-test=tick-all]")
	q.Until(`document.querySelector("[data-test=tick-all]") === null`)
	photograph := func(name string) {
		browser.Evaluate[bool](q, fmt.Sprintf(`new Promise(done => { const c = document.createElement("canvas"); c.width = 320; c.height = 240; c.getContext("2d").fillRect(9, 9, 99, 99);
			c.toBlob(b => { const l = [...document.querySelectorAll("[data-test=evidence-asked] label")].find(l => l.innerText.includes(%q)); const f = l.querySelector("input");
				const d = new DataTransfer(); d.items.add(new File([b], "label.jpg", { type: "image/jpeg" })); f.files = d.files; f.dispatchEvent(new Event("change", { bubbles: true })); done(true) }, "image/jpeg") })`, name))
		q.Until(fmt.Sprintf(`[...document.querySelectorAll("[data-test=evidence-asked] label")].some(l => l.innerText.includes(%q) && l.innerText.includes("✓"))`, name))
	}
	photograph("the label")
	accessible(t, q, "photographs at the bench")
	once(q, "22.50", "21.30")
	w.works([][2]string{{"21.30", "mL"}}, "Right.")
	q.Click("Report")
	q.See("No photograph yet of: the end colour")
	w.handsIn()
	w.marked()
	q.See("Photographs that are asked for")
}

// The glassware of the school is a list: a syringe with its own number and tolerance is chosen by
// its name in a plan, and read downwards at the bench.
func TestGlassOfTheSchool(t *testing.T) {
	t.Parallel()
	s := serve(t)
	teacher := page(t, s, 1280, 800)
	teacher.SignIn("Dr Ondine Farrow")
	class := browser.Evaluate[string](teacher, `fetch("/api/shelf").then(r => r.json()).then(b => b.shelves.find(s => s.name.includes("Tide Laboratory, Tuesday")).class)`)
	teacher.Visit("/classes/" + class)
	tap(teacher, "[data-test=glass] > summary")
	tap(teacher, "[data-test=glass] button[type=button]")
	teacher.Until(`document.querySelector("#glass-name-0") !== null`)
	refill(teacher, "#glass-name-0", "Syringe")
	refill(teacher, "#glass-serial-0", "17")
	refill(teacher, "#glass-capacity-0", "30.0")
	refill(teacher, "#glass-division-0", "31")
	tap(teacher, "[data-test=glass] input[type=checkbox]")
	tap(teacher, "[data-test=glass] form button:not([type])")
	teacher.Until(`document.querySelector("#glass-division-0").getAttribute("aria-invalid") === "true"`)
	refill(teacher, "#glass-division-0", "0.5")
	refill(teacher, "#glass-tolerance-0", "0.20")
	tap(teacher, "[data-test=glass] form button:not([type])")
	teacher.See("It can be chosen in a plan.")
	accessible(t, teacher, "the glassware of a class")
	w := begun(t, s, "Vinegar by syringe", func(w *writer) {
		w.vinegar("Vinegar by syringe")
		w.See("Syringe (17): 30.0 mL syringe in 0.5 mL")
		w.choose("#plan-burette", "Syringe (17)/30.0/0.5/true")
	})
	q := w.learn
	q.See("Syringe (17)")
	q.See("±0.20")
	q.CoreReady()
	record(q, "30.00", "")
	record(q, "8.00", "Read the start to begin")
	record(q, "29.50", "")
	record(q, "8.25", "one is enough here")
	q.See("21.25")
	w.works([][2]string{{"21.25", "mL"}}, "Right.")
	w.handsIn()
	w.marked()

	// The same syringe where the practical says a burette: chosen at the bench, and read as it counts.
	v := begun(t, s, "Vinegar, whatever is there", func(w *writer) {
		w.vinegar("Vinegar, whatever is there")
	})
	q = v.learn
	q.CoreReady()
	q.See("50.00\u202fmL burette")
	browser.Evaluate[bool](q, `([...document.querySelectorAll("details summary")].forEach(s => s.parentElement.open || s.click()), true)`)
	choose := func(label string) {
		browser.Evaluate[bool](q, `([...document.querySelectorAll("button")].find(b => b.innerText === "Glassware used").click(), true)`)
		q.Until(`document.querySelector("#glass-piece") !== null`)
		accessible(t, q, "choosing glassware")
		q.Until(fmt.Sprintf(`(() => { const s = document.querySelector("#glass-piece"); const o = [...s.options].find(o => o.text.includes(%q)); if (!o) return false; s.value = o.value; s.dispatchEvent(new Event("change", { bubbles: true })); return true })()`, label))
		q.Click("Use it")
		q.Until(`document.querySelector("#glass-piece") === null`)
	}
	choose("Syringe (17)")
	q.See("Syringe (17)")
	q.See("±0.20")
	browser.Evaluate[bool](q, `(document.querySelector("#reading").focus(), true)`)
	record(q, "30.00", "")
	record(q, "8.00", "Read the start to begin")
	record(q, "29.50", "")
	record(q, "8.25", "one is enough here")
	q.See("21.25")
	q.Sent()
	q.Reload()
	q.See("Syringe (17)")
	v.works([][2]string{{"21.25", "mL"}}, "Right.")
	v.handsIn()
	v.marked()
}

// What could give no answer is not set: the field that is to blame is named.
func TestNoAnswerIsNotSet(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	p.Click("Plan a new practical")
	p.Click("Begin with an empty one")
	p.Until(`document.querySelector("[data-test=titre]") !== null`)
	w := &writer{Page: p}
	w.fill("#plan-title", "Shell, hardly any acid")
	w.shell("0.0100")
	w.fill("#edit-route-1-equation", "CaCO3 + 2 HCl -> CaCl2 + H2O + CO2")
	w.choose("#edit-asked-what", "purity")
	w.fill("#edit-asked-expectedTitre", "24.00")
	p.Until(`document.querySelector("form [role=alert]") === null`)
	w.press("Save for the class")
	p.See("A careful student who does this gets no answer: more HCl is left over than was added")
	p.Until(`document.querySelector("#edit-route-1-concentration").getAttribute("aria-invalid") === "true"`)
	accessible(t, p, "a practical without an answer")
	tap(p, "[data-test=dry]")
	p.Until(`document.querySelector("[role=dialog] [role=alert]")?.innerText.includes("gets no answer")`)
	p.Keys("\x1b")
	w.fill("#edit-route-1-concentration", "0.9870")
	p.Until(`document.querySelector("form [role=alert]") === null`)
	// Dry run: what a student will see and be asked, to the end.
	tap(p, "[data-test=dry]")
	p.Until(`document.querySelector("[data-test=dry-run]") !== null`)
	p.See("what a careful student writes")
	p.See("What the report lacks")
	accessible(t, p, "a dry run")
	p.Keys("\x1b")
	p.Until(`document.querySelector("[data-test=dry-run]") === null`)
	w.press("Save for the class")
	p.See("Saved for the class. Notebooks that are begun")
}

// What can be recorded can be recorded at any time: the bottle, the solution, a weighing, after
// the first reading too, by key and by hand.
func TestRecordedAfterTheFirstReading(t *testing.T) {
	t.Parallel()
	s := serve(t)
	q := atBench(t, s, "Bevan Thrale", 390, 844)
	record(q, "0.00", "the end should come near")
	record(q, "22.50", "Read the start to begin the next accurate trial")
	choose(q, "What was weighed, made or used", "Bottle used")
	q.Until(`document.activeElement?.id === "in-words"`)
	q.Fill("#in-words", "NaOH 7, Monday")
	q.Click("Write it down")
	q.See("NaOH 7, Monday")
	q.Until(`document.activeElement?.id === "reading"`)
	browser.Evaluate[bool](q, `([...document.querySelectorAll("details")].find(d => d.textContent.includes("Weigh by difference")).open = true)`)
	for _, text := range []string{"Weigh", "Solution made", "Aliquot", "Stir"} {
		q.Until(fmt.Sprintf(`[...document.querySelectorAll("details button")].some(b => b.innerText.includes(%q))`, text))
	}
	accessible(t, q, "what was used, after the first reading")
}

// What a set practical is changed into is what it is: the other solution becomes the unknown, and its
// kind follows.
func TestASetPracticalIsChanged(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	course(p, "buffer-dosing")
	p.Until(`document.querySelector("#plan-titrant") !== null && document.querySelector("form [role=alert]") === null`)
	p.Click("The other one is the unknown")
	p.See("has few digits") // of what is known now
	p.Until(`document.querySelector("form [role=alert]") === null`)
	p.Click("Save for the class")
	p.See("Saved for the class. Notebooks that are begun")
}
