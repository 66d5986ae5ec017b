package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"

	"exactflask/e2e/browser"
)

// tap is an action on what a selector finds.
func (c *counted) tap(selector string) {
	tap(c.Page, selector)
	c.actions++
}

// From signing in, what somebody comes for is at most three actions away, and found without a manual.
func TestThreeActionsAway(t *testing.T) {
	t.Parallel()
	s := serve(t)
	row := func(title string) string { // of the home of who teaches
		return `[data-test=course] a[href$="` + title + `/plan"]`
	}
	for _, c := range []struct {
		what, who string
		does      func(c *counted)
	}{
		{"hand in", "Teodor Vask", func(c *counted) {
			c.press("Write the report")
			c.press("Hand in")
			c.tap("[data-test=hand-in-now]")
			c.Until(`document.querySelector("[data-test=hash]") !== null`)
		}},
		{"see why a mark was lost", "dilys.marlowe", func(c *counted) {
			c.tap(`a[href$="/marks"]`)
			c.Until(`document.querySelector("[data-test=lost]") !== null`)
		}},
		{"who needs help now", "Dr Ondine Farrow", func(c *counted) {
			c.tap(`[data-test=today] a[href$="/lesson"]`)
			c.Until(`document.querySelector("[data-test=board] [data-state=hand]") !== null`)
		}},
		{"mark the next report", "Dr Ondine Farrow", func(c *counted) {
			c.tap(`[data-test=today] a[href$="/marking"]`)
			c.Until(`document.querySelector("[data-report] a") !== null`)
			c.tap("[data-report] a")
			c.Until(`document.querySelector("[data-criterion]") !== null`)
		}},
		{"change a due date", "Dr Ondine Farrow", func(c *counted) {
			c.tap(row("buffer-dosing"))
			station(c.Page, "set")
			c.actions++
			c.Until(`(() => { const f = document.querySelector("#time-due"); if (!f) return false; f.value = "2031-03-04T15:30"; f.dispatchEvent(new Event("input")); return true })()`)
			c.fields++
			c.press("Save")
			c.See("Saved")
		}},
		{"print the labels", "Dr Ondine Farrow", func(c *counted) {
			c.tap(row("buffer-dosing"))
			station(c.Page, "prepare")
			c.actions++
			browser.Evaluate[bool](c.Page, `(window.print = () => { window.printed = true }, true)`)
			c.press("Print")
			c.Until("window.printed === true")
		}},
		{"copy last year's class", "Dr Ondine Farrow", func(c *counted) {
			c.press("Classes")
			c.Until(`document.querySelectorAll("#class-from option").length > 1`)
			c.Fill("#class-name", "Tide Laboratory, next year")
			c.Until(`(() => { const s = document.querySelector("#class-from"); s.selectedIndex = 1; s.dispatchEvent(new Event("change")); return s.value !== "" })()`)
			c.fields += 2
			c.press("Make the class")
			c.Until(`document.querySelector("main").innerText.includes("Tide Laboratory, next year") && document.querySelector("[data-test=course]") !== null`)
		}},
	} {
		t.Run(c.what, func(t *testing.T) {
			p := &counted{Page: page(t, s, 1280, 800)}
			if strings.Contains(c.who, ".") {
				enter(p.Page, c.who)
			} else {
				p.SignIn(c.who)
			}
			c.does(p)
			t.Logf("%s: %d actions, %d fields", c.what, p.actions, p.fields)
			assert.LessOrEqual(t, p.actions, 3)
			p.Close()
		})
	}
}

// By keyboard alone neither the report that is marked next nor the editor's button is far.
func TestFewTabs(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	tabs := func(at string) int {
		for n := 1; n < 60; n++ {
			p.Keys("\t")
			if browser.Evaluate[bool](p, at) {
				return n
			}
		}
		return 60
	}
	tap(p, `[data-test=today] a[href$="/marking"]`)
	p.Until(`document.querySelector("[data-report] a") !== null`)
	assert.LessOrEqual(t, tabs(`document.activeElement.closest("[data-test=heads]") !== null`), 16, "to the heads of the desk")
	p.Keys(kb.End)
	p.Until(`document.activeElement === [...document.querySelectorAll("[data-test=heads] button:not(:disabled)")].at(-1)`)
	assert.Equal(t, 1, tabs(`document.activeElement.closest("[data-report]") !== null`), "from the heads to the first report")
	p.Visit("/home")
	tap(p, `[data-test=course] a[href$="buffer-dosing/plan"]`)
	p.Until(`document.querySelector("[data-test=titre]") !== null`)
	assert.LessOrEqual(t, tabs(`document.activeElement.innerText === "Save for the class"`), 12, "to the editor's button")
}
