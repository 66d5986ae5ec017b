package e2e

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/journal"
	"exactflask/e2e/browser"
)

// behind opens a page of a program that stands behind something in between.
func behind(t *testing.T, width, height int) (*browser.Page, *browser.Between, *browser.Server) {
	s := serve(t)
	between := browser.Stand(s)
	t.Cleanup(between.Close)
	return device(t, &browser.Server{URL: between.URL}, width, height), between, s
}

// cached waits until the page and the core stand on the device.
func cached(p *browser.Page) {
	p.Until(`navigator.serviceWorker.controller !== null && caches.keys().then(async ks => (await Promise.all(ks.map(async k => (await (await caches.open(k)).keys()).map(r => r.url)))).flat().some(u => u.includes("device-")))`)
}

// readings are those of the notebook of a person, as the server has them, with who
// wrote them.
func readings(t *testing.T, s *browser.Server, username string) (texts, authors []string) {
	b, err := SignIn(s.URL, "", username, "tide-pool", "looker")
	require.NoError(t, err)
	var doc struct {
		Journal []journal.Entry
		People  map[string]string
	}
	require.NoError(t, b.call("GET", "/api/notebooks/"+b.Notebook+"/document", nil, &doc))
	for _, e := range doc.Journal {
		if r, ok := e.Part.(journal.Scale); ok {
			texts, authors = append(texts, r.Written), append(authors, doc.People[e.Author])
		}
	}
	return texts, authors
}

const who = `(document.querySelector("[data-test=who]")?.innerText ?? "")`

func signOut(p *browser.Page) {
	browser.Evaluate[bool](p, `([...document.querySelectorAll("header button")].at(-1).click(), true)`)
}

// Two people at one device, one after the other in a tab: each sees their own name
// and words, and what each typed without the network is written under their name.
func TestTwoPeopleInOneTab(t *testing.T) {
	t.Parallel()
	p, between, s := behind(t, 1280, 800)
	p.SignIn("Anouk Brill")
	p.Click("Open the bench")
	p.See("Read the start")
	p.CoreReady()
	between.Set(browser.Weather{Cut: true})
	record(p, "24.70", "Open freely")
	p.See("2 not sent, kept here")
	// Signing out warns, and works without the network.
	signOut(p)
	p.See("2 entries have not reached the server")
	accessible(t, p, "signing out with entries that wait")
	p.Click("Sign out all the same")
	p.Until(`location.pathname === "/sign-in"`)
	// Back is no way back.
	browser.Evaluate[bool](p, `(addEventListener("popstate", () => (window.wentBack = true)), history.back(), true)`)
	p.Until(`window.wentBack && location.pathname === "/sign-in"`)
	assert.NotContains(t, p.Text("body"), "24.70")
	between.Set(browser.Weather{})
	p.SignIn("Bevan Thrale")
	assert.Equal(t, "Bevan Thrale", browser.Evaluate[string](p, who))
	p.Lose("not sent")
	p.Click("Begin")
	record(p, "0.00", "Run in about 1")
	p.CoreReady()
	between.Set(browser.Weather{Cut: true})
	record(p, "24.40", "Rough: steers")
	between.Set(browser.Weather{})
	p.Sent()
	texts, authors := readings(t, s, "bevan")
	assert.Equal(t, []string{"0.00", "24.40"}, texts)
	assert.Equal(t, []string{"Bevan Thrale", "Bevan Thrale"}, authors)
	texts, _ = readings(t, s, "anouk")
	assert.NotContains(t, texts, "24.70", "it waits for Anouk")
	signOut(p)
	p.SignIn("Anouk Brill")
	p.Click("Open the bench")
	p.See("24.70")
	p.Sent()
	texts, authors = readings(t, s, "anouk")
	assert.Equal(t, 1, strings.Count(strings.Join(texts, " "), "24.70"))
	assert.NotContains(t, authors, "Bevan Thrale")
}

// Two tabs are one browser: when somebody else signs in in one, the other is theirs
// at once, and nothing of the first person is written or seen there.
func TestTwoPeopleInTwoTabs(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Anouk Brill")
	p.Click("Open the bench")
	p.See("Read the start")
	q := p.Tab(1280, 800)
	q.Visit("/shelf")
	q.See("Open the bench")
	signOut(q)
	q.Until(`location.pathname === "/sign-in"`)
	p.Until(`location.pathname === "/sign-in"`)
	q.SignIn("Bevan Thrale")
	p.Until(who + ` === "Bevan Thrale"`)
	p.Until(`location.pathname === "/home"`)
	assert.NotContains(t, p.Text("main"), "23.40")
}

// Reopened without the network, the state that is shown is the state: nothing can be
// typed before everything that was typed is in it. The shelf counts what waits, and a
// practical is begun on it without the network.
func TestReopenedWithoutTheNetwork(t *testing.T) {
	t.Parallel()
	p, between, s := behind(t, 390, 844)
	p.SignIn("Bevan Thrale")
	p.Until(`Object.keys(localStorage).some(k => k.includes(".blank."))`)
	cached(p)
	between.Set(browser.Weather{Cut: true})
	p.Reload()
	p.Click("Begin")
	p.Until(`document.activeElement?.id === "reading"`)
	record(p, "0.00", "Run in about 1")
	record(p, "24.40", "Rough: steers")
	p.Visit("/shelf")
	p.See("3 entries wait on this device")
	p.See("Read the start to begin the next accurate trial")
	accessible(t, p, "shelf without the network")
	p.Click("Open the bench")
	p.See("24.40")
	// While the core loads, the field takes nothing and says why.
	p.Until(`(() => { const f = document.querySelector("#reading"); return f && !f.readOnly && document.querySelector("[data-test=next]").innerText.includes("Read the start") })()`)
	p.Reload()
	seen := browser.Evaluate[string](p, `(async () => {
		for (let i = 0; i < 600; i++) {
			const f = document.querySelector("#reading"), next = document.querySelector("[data-test=next]")?.innerText ?? "";
			if (f && !next.includes("next accurate trial") && !f.readOnly) return "open while it shows: " + next;
			if (f && !f.readOnly) return "opened with the state";
			await new Promise(r => setTimeout(r, 5));
		}
		return "never opened";
	})()`)
	assert.Equal(t, "opened with the state", seen)
	between.Set(browser.Weather{})
	p.Sent()
	texts, _ := readings(t, s, "bevan")
	assert.Equal(t, []string{"0.00", "24.40"}, texts)
}

// What the server took just before the network went, when no copy that holds it was kept
// yet, is in what is shown when the page comes again without the network: what is typed
// on it is not judged as if it were not there.
func TestTakenJustBeforeTheNetworkWent(t *testing.T) {
	t.Parallel()
	p, between, s := behind(t, 1280, 800)
	p.SignIn("Bevan Thrale")
	cached(p)
	p.Click("Begin")
	record(p, "0.00", "Run in about 1")
	p.Sent()
	p.Until(`["shelf", "notebook"].every(of => Object.keys(localStorage).some(k => k.includes(".kept.") && k.includes("." + of) && localStorage[k].includes(location.pathname.split("/")[2])))`)
	browser.Evaluate[int](p, `(window.requestIdleCallback = () => 0)()`) // the page never comes to rest
	record(p, "24.40", "Rough: steers")
	record(p, "0.00", "Open freely to 21.40")
	p.Sent()
	between.Set(browser.Weather{Cut: true})
	record(p, "23.85", "One more titre")
	p.See("1 not sent, kept here")
	p.Visit("/shelf")
	p.See("1 entry waits on this device")
	p.See("begin the next accurate trial")
	p.Click("Open the bench")
	p.See("From one accurate trial")
	p.See("1 not sent, kept here")
	assert.NotContains(t, p.Text("body"), "not taken")
	between.Set(browser.Weather{})
	p.Sent()
	texts, _ := readings(t, s, "bevan")
	assert.Equal(t, []string{"0.00", "24.40", "0.00", "23.85"}, texts)
	const nothingWaits = `!Object.keys(localStorage).some(k => k.includes(".outbox."))`
	p.Until(nothingWaits)
	// On a device that others use nothing of it stays when its owner signs out.
	browser.Evaluate[int](p, `(window.requestIdleCallback = () => 0)()`)
	record(p, "23.85", "Open freely")
	p.Sent()
	signOut(p)
	p.Until(`location.pathname === "/sign-in"`)
	assert.True(t, browser.Evaluate[bool](p, nothingWaits))
}

// Whatever something in between answers, nothing is given up.
func TestProxiesTakeNothingAway(t *testing.T) {
	t.Parallel()
	p, between, s := behind(t, 1280, 800)
	p.SignIn("Anouk Brill")
	p.Click("Open the bench")
	p.See("Read the start")
	p.CoreReady()
	end := 24.70
	for i, status := range []int{403, 404, 408, 413, 502} {
		between.Set(browser.Weather{Status: status})
		record(p, fmt.Sprintf("%.2f", end), fmt.Sprintf("%.2f", end))
		p.See("not sent, kept here")
		// A start opens its trial with an entry of its own: all that was typed is in the queue.
		p.Until(fmt.Sprintf(`(document.body.innerText.match(/(\d+) not sent, kept here/)?.[1] ?? 0) == %d`, []int{2, 3, 5, 6, 8}[i]))
		assert.Equal(t, "Anouk Brill", browser.Evaluate[string](p, who), "%d", status)
		end += 1
	}
	between.Set(browser.Weather{})
	browser.Evaluate[bool](p, `(document.querySelector("[data-test=sent]").click(), true)`)
	p.Until(`(() => { const d = document.querySelector("[role=dialog]"); [...d?.querySelectorAll("button") ?? []].find(b => b.innerText === "Send now")?.click(); return d?.innerText.includes("Everything you recorded is with the server") ?? false })()`)
	texts, _ := readings(t, s, "anouk")
	for i := range 5 {
		assert.Equal(t, 1, strings.Count(strings.Join(texts, " "), fmt.Sprintf("%.2f", 24.70+float64(i))))
	}
}

// A new version under an open page: it works on and says so; a part that is gone is
// said, and no touch is lost in a reload.
func TestNewVersionUnderAnOpenPage(t *testing.T) {
	t.Parallel()
	p, between, _ := behind(t, 1280, 800)
	p.SignIn("Anouk Brill")
	p.Click("Open the bench")
	p.Until(`document.activeElement?.id === "reading"`)
	browser.Evaluate[bool](p, `navigator.serviceWorker.getRegistrations().then(rs => Promise.all(rs.map(r => r.unregister()))).then(() => true)`)
	between.Set(browser.Weather{Build: "a-newer-one", Lost: "/assets/Catalogue"})
	p.Keys("24.7")
	p.Click("Catalogue")
	p.See("This view could not be loaded")
	p.See("Load the new version")
	accessible(t, p, "a part that is missing")
	assert.Equal(t, "24.7", browser.Evaluate[string](p, `document.querySelector("#reading").value`))
	p.Until(`document.querySelector("#reading") !== null`)
	browser.Evaluate[bool](p, `(document.querySelector("#reading").focus(), true)`)
	record(p, "0", "Open freely")
	p.Keys("48")
	browser.Evaluate[bool](p, `window.old = true`)
	p.Click("Load the new version")
	p.Until(`window.old === undefined`)
	p.See("Open freely")
	p.Until(`document.querySelector("#reading")?.value === "48"`)
}

// What is half done is not lost: a reading, a note, an own value, a plan, a running
// timer, through another view, Back, a touch beside, a reload.
func TestNothingHalfDoneIsLost(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := atBench(t, s, "Anouk Brill", 390, 844)
	record(p, "24.70", "Open freely")
	p.Keys("48.")
	p.Click("Does the colour last?")
	p.See("Swirl:")
	p.Click("Journal")
	p.See("The notebook in ink")
	browser.Evaluate[bool](p, `(history.back(), true)`)
	p.Until(`document.querySelector("#reading")?.value === "48."`)
	p.See("Swirl:")
	p.Reload()
	p.Until(`document.querySelector("#reading")?.value === "48."`)
	p.See("Swirl:")
	p.Click("Add a note")
	p.Until(`document.activeElement?.id === "in-words"`)
	p.Keys("the flask was still wet")
	browser.Evaluate[bool](p, `(document.elementFromPoint(195, 10).dispatchEvent(new PointerEvent("pointerdown", { bubbles: true })), document.elementFromPoint(195, 10).click(), true)`)
	p.Painted()
	p.Until(`document.querySelector("#in-words")?.value === "the flask was still wet"`)
	browser.Evaluate[bool](p, `(history.back(), true)`) // closes the dialog, and not the bench
	p.Until(`document.querySelector("#in-words") === null`)
	p.Until(`document.querySelector("#reading")?.value === "48."`)
	p.Click("Add a note")
	p.Until(`document.querySelector("#in-words")?.value === "the flask was still wet"`)
	p.Click("Write it down")
	p.See("the flask was still wet")
	p.Click("Add a note")
	p.Until(`document.querySelector("#in-words")?.value === ""`)
	p.Keys("\x1b")

	q := page(t, s, 1280, 800)
	q.SignIn("Dr Ondine Farrow")
	q.Click("Plan a new practical")
	q.Click("Begin with an empty one")
	q.Until(`document.querySelector("#plan-title") !== null`)
	q.Fill("#plan-title", "Vinegar in the pantry")
	q.Click("Home")
	q.Click("Plan a new practical")
	q.Click("Begin with an empty one")
	q.Until(`document.querySelector("#plan-title")?.value === "Vinegar in the pantry"`)
	q.See("You were changing this")
	q.Click("Discard the changes")
	q.Until(`document.querySelector("#plan-title")?.value === ""`)
}

// positions watches where pad, field and Record stand, in every frame.
const positions = `(() => {
	const places = () => ["#reading", "[data-test=record]", "[data-test=pad]", "[data-test=next-line]"].map(s => { const r = document.querySelector(s)?.getBoundingClientRect(); return r ? [r.top + scrollY, r.left, r.bottom + scrollY].map(Math.round).join(",") : "gone" }).join(" ");
	window.seenPlaces = new Set();
	window.shifts = 0;
	new PerformanceObserver(l => l.getEntries().forEach(e => e.sources?.forEach(s => { if (s.node?.nodeType === 1 && s.node.closest?.("[data-test=pad]")) window.shifts += e.value; }))).observe({ type: "layout-shift" });
	const frame = () => { window.seenPlaces.add(places()); requestAnimationFrame(frame); };
	requestAnimationFrame(frame);
	return true;
})()`

// Nothing jumps while trials are recorded, on a slow network, at either size; on a
// phone the line, the field, the pad and Record are on the screen together.
func TestThePadStaysWhereItIs(t *testing.T) {
	t.Parallel()
	for _, size := range [][2]int{{1280, 800}, {390, 844}, {844, 390}} {
		t.Run(fmt.Sprint(size), func(t *testing.T) {
			t.Parallel()
			p, between, _ := behind(t, size[0], size[1])
			p.SignIn("Bevan Thrale")
			p.Click("Begin")
			p.Until(`document.activeElement?.id === "reading"`)
			between.Set(browser.Weather{Delay: 700 * time.Millisecond})
			browser.Evaluate[bool](p, positions)
			record(p, "0.00", "Run in about 1")
			record(p, "24.40", "Rough: steers")
			p.Sent() // else the server would be too late to say it at the field
			record(p, "twenty", "not a number")
			p.Click("Pale")
			browser.Evaluate[bool](p, `(() => { const i = document.querySelector("#reading"); i.value = ""; i.dispatchEvent(new Event("input")); i.focus(); return true })()`)
			record(p, "0.00", "Open freely")
			p.Keys("23.80+")
			p.See("23.80")
			record(p, "23.85", "One more titre")
			record(p, "", "Open freely")
			record(p, "47.70", "2 titres agree")
			p.Sent()
			assert.Equal(t, 1, browser.Evaluate[int](p, `window.seenPlaces.size`), browser.Evaluate[string](p, `[...window.seenPlaces].join("; ")`))
			assert.Zero(t, browser.Evaluate[float64](p, `window.shifts`))
			browser.Evaluate[bool](p, `(scrollTo(0, 0), true)`)
			assert.True(t, browser.Evaluate[bool](p, `["#reading", "[data-test=record]", "[data-test=next-line]"].every(s => { const r = document.querySelector(s).getBoundingClientRect(); return r.top >= 0 && r.bottom <= innerHeight })`),
				"all on the screen together")
		})
	}
}

// What is pressed while the last is on its way is recorded in its turn; undo is one
// key, in ink; colours, the end, the kind and the lists are chosen by digit.
func TestStrokesAndUndo(t *testing.T) {
	t.Parallel()
	p, between, s := behind(t, 1280, 800)
	p.SignIn("Bevan Thrale")
	p.Click("Begin")
	p.Until(`document.activeElement?.id === "reading"`)
	between.Set(browser.Weather{Delay: 600 * time.Millisecond})
	p.Keys("0.00\r24.40\r0.00\r") // without waiting
	p.See("Open freely")
	p.Sent()
	texts, _ := readings(t, s, "bevan")
	assert.Equal(t, []string{"0.00", "24.40", "0.00"}, texts)
	between.Set(browser.Weather{})
	p.Keys("32.85\r")
	p.See("more than the rough trial")
	p.Keys("-")
	p.Lose("more than the rough trial")
	p.See("Undone at once")
	p.Keys("23.70+")
	p.See("23.70")
	p.Keys("23.75\r")
	p.See("One more titre")
	choose(p, "Colour at the end", "Deep")
	p.See("The colour at the end was deep")
	choose(p, "Which reading is the end", "23.70")
	p.See("Took another of the readings")
	choose(p, "Type of the new trial", "Blank")
	p.See("Start reading of a blank")
	choose(p, "After: clean up", "Burette drained")
	p.Until(`[...document.querySelectorAll("[role=dialog] button[aria-pressed=true]")].length === 1`)
	accessible(t, p, "chosen by number")
	p.Keys("//")
	p.Until(`document.activeElement?.id === "reading"`)
	// Keys can be switched off.
	p.Click("Keys")
	p.Click("Keys and letters do something at the bench")
	p.Keys("\x1b")
	p.Until(`document.activeElement?.id === "reading"`)
	p.Keys("n-")
	p.Painted()
	assert.Equal(t, "n-", browser.Evaluate[string](p, `document.querySelector("#reading").value`))
}

// A stroke too many is no reading, and what is half typed when a reading comes back is
// not recorded: it comes back after it.
func TestStrokesTooMany(t *testing.T) {
	t.Parallel()
	p, between, s := behind(t, 1280, 800)
	p.SignIn("Anouk Brill")
	p.Click("Open the bench")
	p.See("Enter accepts 23.40")
	between.Set(browser.Weather{Delay: 500 * time.Millisecond})
	lost := `(document.activeElement.blur(), document.activeElement === document.body)` // nothing has the focus
	assert.True(t, browser.Evaluate[bool](p, lost))
	p.Keys("\r\r\r") // the start that is proposed, and no end of the same reading
	p.See("Open freely")
	p.Sent()
	texts, _ := readings(t, s, "anouk")
	assert.Equal(t, []string{"0.50", "23.40", "23.40"}, texts)
	assert.True(t, browser.Evaluate[bool](p, lost))
	p.Keys("4o.10\r46.3") // still being typed when the server refuses the other
	p.See("is not a number")
	p.See("stands in the field again after this one")
	assert.Equal(t, "46.3", browser.Evaluate[string](p, `document.querySelector("#reading").value`))
	p.Keys("0\r")
	p.Until(`document.querySelector("#reading").value === "4o.10"`)
	browser.Evaluate[bool](p, `(() => { const i = document.querySelector("#reading"); i.value = ""; i.dispatchEvent(new Event("input")); i.focus(); return true })()`)
	p.Keys("46.20+")
	p.See("46.20")
	p.Until(`document.querySelector("#reading").value === ""`)
	p.See("46.30")
	p.Sent()
	texts, _ = readings(t, s, "anouk")
	assert.Equal(t, []string{"0.50", "23.40", "23.40", "46.20", "46.30"}, texts)
}

// Wherever one is when the session ends, it is said, and one comes back there.
func TestSessionEndsAnywhere(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Anouk Brill")
	browser.Evaluate[int](p, `fetch("/api/session", { method: "DELETE" }).then(r => r.status)`)
	p.Click("Catalogue")
	p.See("The session of Anouk Brill has ended")
	p.Click("Anouk Brill")
	p.Until(`location.pathname === "/catalogue"`)
	p.See("Molar mass")
}

// Every dialog shows its title and its close button, whatever the height.
func TestDialogsFit(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := atBench(t, s, "Anouk Brill", 1280, 800)
	record(p, "24.70", "Open freely")
	for _, size := range [][2]int{{390, 500}, {844, 390}, {640, 400}, {320, 480}} {
		p.Resize(size[0], size[1])
		for _, open := range []string{"Correct last", "Add a note", "Cautions", "More", "Partner", "All sent"} {
			p.Click(open)
			p.Until(`document.querySelector("[role=dialog] h2") !== null`)
			inside := browser.Evaluate[bool](p, `[document.querySelector("[role=dialog] h2"), [...document.querySelectorAll("[role=dialog] button")].find(b => b.innerText.includes("Close") || b.querySelector(".sr-only")?.textContent === "Close")].every(e => { const r = e.getBoundingClientRect(); return r.top >= 0 && r.bottom <= innerHeight && r.left >= 0 && r.right <= innerWidth })`)
			assert.True(t, inside, "%s at %v", open, size)
			p.Keys("\x1b")
			p.Until(`document.querySelector("[role=dialog]") === null`)
		}
		assert.LessOrEqual(t, browser.Evaluate[int](p, `document.documentElement.scrollWidth`), size[0], "sideways at %v", size)
	}
}

// Every view, at both sizes, in both themes, and where the system forces its colours:
// reachable, one heading of the first order, a title, what is touched large enough,
// what is chosen seen.
func TestEveryViewIsReachable(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Mira Quillon")
	notebook := browser.Evaluate[string](p, `document.querySelector("a[href*=notebooks]").getAttribute("href")`)
	views := []string{"/shelf", "/catalogue", "/account", notebook, notebook + "/work", notebook + "/result",
		notebook + "/report", notebook + "/journal"}
	for _, view := range views {
		p.Visit(view)
		p.Until(`document.querySelector("h1") !== null && !document.querySelector("main [role=status]")?.innerText.includes("Loading")`)
		assert.Equal(t, 1, browser.Evaluate[int](p, `document.querySelectorAll("h1").length`), view)
		assert.Contains(t, browser.Evaluate[string](p, `document.title`), " · Exact Flask", view)
		for _, theme := range []string{"light", "dark"} {
			browser.Evaluate[bool](p, `(document.documentElement.dataset.theme = "`+theme+`", true)`)
			for _, size := range [][2]int{{1280, 800}, {390, 844}} {
				p.Resize(size[0], size[1])
				rules := allRules
				if theme == "dark" { // what a page is made of is the same in both
					rules = ofTheTheme
				}
				keepsTo(t, p, rules, fmt.Sprint(view, " ", theme, " ", size))
				small := browser.Evaluate[string](p, `[...document.querySelectorAll("main button, main a.button, main a.button-main, main select, main summary")].filter(e => e.checkVisibility() && !e.closest(".sr-only")).filter(e => { const r = e.getBoundingClientRect(); return r.height > 0 && r.height < 44 }).map(e => e.innerText.slice(0, 30) + " " + Math.round(e.getBoundingClientRect().height)).slice(0, 5).join("; ")`)
				assert.Empty(t, small, "too small to touch: %s %v", view, size)
			}
		}
		p.Resize(320, 640)
		assert.LessOrEqual(t, browser.Evaluate[int](p, `document.documentElement.scrollWidth`), 320, "%s at 320", view)
		p.Resize(1280, 800)
	}
	p.Like("forced-colors", "active")
	p.Visit(notebook)
	p.Until(`document.querySelector("[role=radiogroup] .chosen") !== null || document.querySelector(".station-here") !== null`)
	accessible(t, p, "forced colours")
	lined := func(station string) string {
		return browser.Evaluate[string](p, `getComputedStyle(document.querySelector("`+station+` .station-name > span")).textDecorationLine`)
	}
	assert.Equal(t, []string{"underline", "none"}, []string{lined(".station-here"), lined(".station:not(.station-here)")})
}

// A person who follows a first link is not told that a session ended.
func TestFirstLink(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.Visit("/catalogue")
	p.See("Demo: choose who you are")
	assert.NotContains(t, p.Text("main"), "has ended")
	assert.Equal(t, "Sign in · Exact Flask", browser.Evaluate[string](p, `document.title`))
	p.Click("Anouk Brill")
	p.Until(`location.pathname === "/catalogue"`)
	assert.Equal(t, "Catalogue · Exact Flask", browser.Evaluate[string](p, `document.title`))
}

// Two devices begin a trial each at the same time, one of them without the network: two stay two, each
// reading is of the trial that was shown where it was typed, and the page asks which is read.
func TestTwoTrialsBegunAtOnce(t *testing.T) {
	t.Parallel()
	p, between, s := behind(t, 390, 844)
	p.SignIn("Bevan Thrale")
	p.Click("Begin")
	record(p, "0.00", "Run in about 1")
	record(p, "22.50", "Read the start to begin")
	p.Sent()
	p.CoreReady()
	between.Set(browser.Weather{Cut: true})
	q := page(t, s, 1280, 800)
	q.SignIn("Bevan Thrale")
	q.Click("Open the bench")
	record(q, "3.00", "the end should come near")
	q.Sent()
	p.Keys("4.05\r26.45\r")
	p.See("3 not sent, kept here") // a trial, its start, and its end
	between.Set(browser.Weather{})
	p.Sent()
	p.See("the end should come near")
	ev := notebookOf(t, p)
	type ran struct{ start, end string }
	var got []ran
	for _, trial := range ev.Trials {
		r := ran{}
		if trial.Start != nil {
			r.start = trial.Start.Text
		}
		if trial.End != nil {
			r.end = trial.End.Text
		}
		got = append(got, r)
	}
	assert.ElementsMatch(t, []ran{{"0.00", "22.50"}, {"3.00", ""}, {"4.05", "26.45"}}, got)
}

// A bounce of Enter, and an Enter that is held, begin no trial with what was only proposed.
func TestABounceIsNoReading(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := atBench(t, s, "Bevan Thrale", 390, 844)
	record(p, "0.00", "the end should come near")
	p.CoreReady()
	p.Keys("22.50")
	browser.Evaluate[bool](p, `new Promise(done => { const press = () => document.querySelector("[data-test=record]").click();
		press(); for (const ms of [40, 150, 300]) setTimeout(press, ms); setTimeout(() => done(true), 350) })`)
	p.Sent()
	assert.Len(t, notebookOf(t, p).Trials, 1)
	record(p, "", "the end should come near")
	assert.Len(t, notebookOf(t, p).Trials, 2, "accepted by a key of its own")
}
