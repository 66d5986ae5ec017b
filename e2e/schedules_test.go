package e2e

import (
	"fmt"
	"math/rand/v2"
	"os"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"exactflask/core/record/journal"
	"exactflask/demo"
	"exactflask/e2e/browser"
)

// A stroke is what a person typed and recorded: where, as the page showed it at the first key.
type stroke struct {
	trial, mark string // of no trial: the first of one to open
	settled     bool   // else behind the stroke before it
	device      int
	gone        bool // taken out of the field again by the person
}

// A hand types at one device of a notebook that another types in as well.
type hand struct {
	p       *browser.Page
	between *browser.Between
	name    string
	half    string // what stands half typed in the field
	last    string // text of the stroke before
}

// A schedule is one random course of two people with a device each in one notebook.
type schedule struct {
	t     *testing.T
	rand  *rand.Rand
	s     *browser.Server
	owner *Bench
	hands [2]*hand
	typed map[string]*stroke // by text, which is used once in a notebook
	past  int                // entries of the record, before
	story []string
	// How often what was done, of all schedules.
	done map[string]int
}

func (c *schedule) did(what string, h int) {
	c.done[what]++
	c.story = append(c.story, fmt.Sprintf("%d: %s", h, what))
}

const fieldOf = `document.querySelector("#reading")?.value ?? ""`

// value is a reading that nobody has typed in this notebook, plausible at its mark.
func (c *schedule) value(mark string) string {
	for {
		from, n := 0, 150
		if mark != string(journal.Start) {
			from, n = 400, 500
		}
		v := float64(from+c.rand.IntN(n)) * 0.05
		text := strconv.FormatFloat(v, 'f', 2, 64)
		if _, used := c.typed[text]; !used {
			return text
		}
	}
}

// types types a reading at a device: whole, or half and the rest later.
func (c *schedule) types(h int) {
	d := c.hands[h]
	type pad struct {
		There, Settled     bool
		Trial, Mark, Field string
	}
	now := browser.Evaluate[pad](d.p, `(() => { const p = document.querySelector("[data-test=pad]"), f = document.querySelector("#reading");
		if (!p || !f || f.readOnly || document.querySelector("[role=dialog]")) return {};
		// What stands there when the first key goes down, not when it was looked at.
		window.firstKey = undefined;
		document.addEventListener("keydown", () => { const now = document.querySelector("[data-test=pad]")?.dataset ?? {};
			window.firstKey = { Settled: now.settled !== undefined, Trial: now.trial ?? "", Mark: now.mark ?? "start" } }, { capture: true, once: true });
		f.focus(); return { There: true, Settled: p.dataset.settled !== undefined, Trial: p.dataset.trial ?? "", Mark: p.dataset.mark ?? "start", Field: f.value } })()`)
	switch {
	case !now.There:
		c.did("nothing can be typed", h)
		return
	case now.Field != "" && d.half == "": // came back: given again as it stands, or taken out
		if c.rand.IntN(2) == 0 {
			c.did("given again", h)
			d.p.Keys("\r")
			if first := browser.Evaluate[*pad](d.p, `window.firstKey`); first != nil { // also what was half typed when another came back
				c.typed[now.Field] = &stroke{trial: first.Trial, mark: first.Mark, settled: first.Settled, device: h}
			}
			return
		}
		c.did("taken out", h)
		c.empties(h)
		return
	case now.Field != d.half: // what was half typed is no longer alone in the field
		c.did("mixed", h)
		d.half = ""
		return
	case d.half != "":
		rest := ""
		for text := range c.typed {
			if strings.HasPrefix(text, d.half) && c.typed[text].device == h && d.last == text {
				rest = strings.TrimPrefix(text, d.half)
			}
		}
		c.did("the rest", h)
		d.half = ""
		d.p.Keys(rest + "\r")
		return
	}
	text := c.value(now.Mark)
	d.last = text
	d.p.Keys(text[:2])
	first := browser.Evaluate[*pad](d.p, `window.firstKey`)
	if first == nil { // loaded anew just then
		c.did("went away", h)
		first = &pad{}
	}
	c.typed[text] = &stroke{trial: first.Trial, mark: first.Mark, settled: first.Settled, device: h}
	if c.rand.IntN(5) == 0 {
		c.did("half", h)
		d.half = text[:2]
		return
	}
	c.did("typed", h)
	if c.rand.IntN(3) > 0 {
		d.p.Keys(text[2:] + "\r")
		return
	}
	// A second one at once, before the first has been answered.
	second := c.value(string(journal.End))
	c.typed[second] = &stroke{device: h}
	d.last = second
	d.p.Keys(text[2:] + "\r" + second + "\r")
	c.did("two at once", h)
}

// back opens the bench again as whoever works there.
func (c *schedule) back(h int) {
	d := c.hands[h]
	d.between.Set(browser.Weather{})
	d.p.Visit("/notebooks/" + c.owner.Notebook)
	there := `document.querySelector("[data-test=pad]") !== null`
	d.p.Until(there + ` || document.body.innerText.includes("Demo: choose who you are")`)
	if browser.Evaluate[bool](d.p, `document.body.innerText.includes("Demo: choose who you are")`) {
		d.p.Click(d.name)
	}
	d.p.Until(there)
}

// event is what happens to a device, the server or the people meanwhile.
func (c *schedule) event(h int) {
	d := c.hands[h]
	switch c.rand.IntN(11) {
	case 0, 1:
		c.did("cut", h)
		d.between.Set(browser.Weather{Cut: true})
	case 2, 3:
		c.did("network", h)
		d.between.Set(browser.Weather{})
	case 4:
		c.did("slow", h)
		d.between.Set(browser.Weather{Delay: time.Duration(100+c.rand.IntN(600)) * time.Millisecond})
	case 5:
		c.did("too many, says something in between", h)
		d.between.Set(browser.Weather{Status: 429})
	case 6:
		c.did("reloaded", h)
		d.between.Set(browser.Weather{})
		d.p.Reload()
		d.p.Until(`document.querySelector("[data-test=pad]") !== null || document.querySelector("main h1") !== null`)
	case 7:
		c.did("restart", h)
		require.NoError(c.t, c.s.Kill())
		require.NoError(c.t, c.s.Start())
	case 8:
		c.did("expired", h)
		d.p.ForgetCookies()
		c.types(h) // into a session that is over
		c.back(h)
	case 9:
		c.did("a new version", h)
		d.between.Set(browser.Weather{Build: fmt.Sprint("build-", c.rand.IntN(1000))})
	case 10:
		c.did("partner taken away", h)
		partner := c.hands[1]
		require.NoError(c.t, c.owner.call("DELETE", "/api/notebooks/"+c.owner.Notebook+"/partners?name="+strings.ReplaceAll(partner.name, " ", "%20"), nil, nil))
		c.types(1)
		require.NoError(c.t, c.owner.call("POST", "/api/notebooks/"+c.owner.Notebook+"/partners", map[string]string{"username": "mira"}, nil))
	}
}

// run goes through it and compares the record with what was typed.
func (c *schedule) run() {
	for range 6 + c.rand.IntN(9) {
		h := c.rand.IntN(2)
		if c.rand.IntN(10) < 6 {
			c.types(h)
		} else {
			c.event(h)
		}
		time.Sleep(time.Duration(c.rand.IntN(120)) * time.Millisecond)
	}
	for h, d := range c.hands {
		c.back(h)
		// All of it is there, or is said not to be taken.
		d.p.Until(`["sent", "refused"].includes(document.querySelector("[data-test=sent]")?.dataset.state)`)
		if browser.Evaluate[string](d.p, `document.querySelector("[data-test=sent]").dataset.state`) == "refused" {
			c.did("said not to be taken", h)
		}
	}
	var doc struct{ Journal []journal.Entry }
	require.NoError(c.t, c.owner.call("GET", "/api/notebooks/"+c.owner.Notebook+"/document", nil, &doc))
	opened := map[string]journal.Entry{}
	found := map[string][]journal.Entry{}
	for _, e := range doc.Journal {
		if _, ok := e.Part.(journal.Opening); ok {
			opened[e.ID] = e
		}
		if r, ok := e.Part.(journal.Scale); ok {
			found[r.Written] = append(found[r.Written], e)
		}
	}
	tale := func() string { return strings.Join(c.story, "\n") }
	kept := [2]string{}
	for h, d := range c.hands {
		kept[h] = browser.Evaluate[string](d.p, `JSON.stringify({ ...localStorage, ...sessionStorage }) + " " + (`+fieldOf+`)`)
	}
	for text, s := range c.typed {
		there := found[text]
		delete(found, text)
		require.LessOrEqual(c.t, len(there), 1, "%s stands twice\n%s", text, tale())
		if len(there) == 0 {
			if os.Getenv("REFUSED") != "" && strings.Contains(kept[s.device], `"why"`) {
				c.t.Logf("%s: %s\n%s", text, kept[s.device], tale())
			}
			if !s.gone && !strings.Contains(kept[s.device], text) && !strings.Contains(kept[s.device], text[:2]) {
				strange := []string{} // what nobody typed: it may be this one, with a sign too many or too few
				for other := range found {
					if c.typed[other] == nil {
						strange = append(strange, other)
					}
				}
				require.Fail(c.t, "lost", "%s (%+v), nobody typed %v\n%s\n%s", text, *s, strange, kept[s.device], tale())
			}
			continue
		}
		r := there[0].Part.(journal.Scale)
		if s.settled && s.trial != "" {
			require.Equal(c.t, s.trial+" "+s.mark, r.Of+" "+string(r.Place), "%s is of another trial\n%s", text, tale())
		} else if r.Of != s.trial { // behind another: in the trial that was shown, or in one that was opened here
			require.Equal(c.t, there[0].Device, opened[r.Of].Device, "%s (%+v) is %s of a trial that was opened elsewhere\n%s", text, *s, r.Place, tale())
		}
	}
	c.done["in the record"] += len(doc.Journal) - c.past
	c.past = len(doc.Journal)
	for text := range found {
		require.Fail(c.t, "nobody typed it", "%s\n%s", text, tale())
	}
	for h, d := range c.hands { // the next begins with an empty field
		c.empties(h)
		d.half = ""
	}
}

// empties takes out of the field what stands there: it was given up.
func (c *schedule) empties(h int) {
	was := browser.Evaluate[string](c.hands[h].p, `(() => { const f = document.querySelector("#reading"), was = f?.value ?? "";
		if (f) { f.value = ""; f.dispatchEvent(new Event("input")) } return was })()`)
	if s := c.typed[was]; s != nil {
		s.gone = true
	}
}

// Two people with a device each type in one notebook, in the same trial too, while the network goes,
// pages are loaded anew, the server is killed, sessions end, a partner is taken away: every reading is
// of the trial and the field that were shown at its first key, once, or is kept where it was typed. SCHEDULES says how many, SEED which.
func TestRandomSchedules(t *testing.T) {
	t.Parallel()
	many, seed := 4, uint64(1)
	if n, err := strconv.Atoi(os.Getenv("SCHEDULES")); err == nil {
		many = n
	}
	if n, err := strconv.ParseUint(os.Getenv("SEED"), 10, 64); err == nil {
		seed = n
	}
	done := map[string]int{}
	var c *schedule
	for i := range many {
		if i%20 == 0 { // a notebook of its own, before it is long
			c = begunByTwo(t, done)
		}
		c.rand = rand.New(rand.NewPCG(seed, uint64(i)))
		c.story = []string{fmt.Sprintf("seed %d, schedule %d", seed, i)}
		c.run()
	}
	t.Logf("%d schedules: %v", many, done)
}

// begunByTwo is a notebook of two people, each with a device behind something in between.
func begunByTwo(t *testing.T, done map[string]int) *schedule {
	s := serve(t)
	owner, err := SignIn(s.URL, "", "bevan", demo.Password, "owner")
	require.NoError(t, err)
	require.NoError(t, owner.call("POST", "/api/notebooks/"+owner.Notebook+"/partners", map[string]string{"username": "mira"}, nil))
	c := &schedule{t: t, s: s, owner: owner, typed: map[string]*stroke{}, done: done}
	t.Cleanup(func() {
		if t.Failed() {
			t.Log(strings.Join(c.story, "\n"))
		}
	})
	for h, name := range []string{"Bevan Thrale", "Mira Quillon"} {
		between := browser.Stand(s)
		t.Cleanup(between.Close)
		p := page(t, &browser.Server{URL: between.URL}, 390+h*890, 844)
		c.hands[h] = &hand{p: p, between: between, name: name}
		p.SignIn(name)
		c.back(h)
		p.CoreReady()
	}
	return c
}
