package e2e

import (
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/e2e/browser"
)

// counted drives a page as a person does, and counts what it costs them.
type counted struct {
	*browser.Page
	actions, fields int
}

func (c *counted) press(text string) {
	c.Click(text)
	c.actions++
}

func (c *counted) fill(selector, text string) {
	c.Fill(selector, text)
	c.fields++
}

// The first ten minutes: from the link in the terminal to a student's first reading on a phone.
func TestTheFirstTenMinutes(t *testing.T) {
	t.Parallel()
	s, err := browser.StartServer(binary, filepath.Join(t.TempDir(), "school.db"))
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Stop() })
	p := &counted{Page: page(t, s, 1280, 800)}
	p.Visit(s.SetupPath())
	p.See("Set up Exact Flask")
	p.fill("#new-name", "Ada Marsh")
	p.fill("#new-username", "marsh")
	p.fill("#new-password", "four quiet words here")
	p.press("Begin")
	p.See("A first practical")
	p.fill("#first-class", "10b Chemistry")
	p.press("Make the class")
	p.press("Choose a practical")
	p.See("two end points")
	accessible(t, p.Page, "the library for a first practical")
	p.press("Use it")
	p.Until(`document.querySelector("#plan-title")?.value !== "" && document.querySelector("[data-test=titre]") !== null`)
	p.press("Save for the class")
	p.See("Saved for the class. Notebooks that are begun")
	p.press("10b Chemistry")
	p.press("Join code")
	p.press("Open a code")
	code := p.Text("[data-test=join-code]")
	assert.LessOrEqual(t, p.actions, 12)
	assert.LessOrEqual(t, p.fields, 12)

	q := &counted{Page: page(t, s, 390, 844)}
	q.Visit("/join/" + strings.ReplaceAll(code, "-", ""))
	q.See("10b Chemistry")
	q.fill("#new-name", "Gro Fell")
	q.fill("#new-password", "my own four words")
	q.press("Join")
	q.press("Begin")
	q.Until(`document.activeElement?.id === "reading"`)
	q.Keys("0.05\r")
	q.fields++
	q.See("the end should come near")
	q.Sent()
	assert.LessOrEqual(t, q.actions, 3)
	assert.LessOrEqual(t, q.fields, 3)
	t.Logf("%d actions and %d fields; %d and %d of the student", p.actions, p.fields, q.actions, q.fields)

	// Home says where it stands.
	p.Visit("/home")
	p.See("10b Chemistry")
	p.Until(`document.querySelector("[data-test=stands]")?.innerText.includes("1 at work")`)
}
