// Package browser drives the real program and the real page: it starts the
// binary, opens headless Chromium, and acts as a person would, with clicks,
// keys and looking for words. Tests and the screenshot maker share it.
package browser

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"strings"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// Patience is how long something may take to appear.
const Patience = 90 * time.Second

// Browser is a headless Chromium with a fresh profile.
type Browser struct {
	ctx    context.Context
	cancel func()
}

// executable finds Chromium: the one that EXACTFLASK_CHROMIUM names, else Debian's without
// windows, else the whole one.
func executable() (string, error) {
	names := []string{"chromium-headless-shell", "chromium"}
	if named := os.Getenv("EXACTFLASK_CHROMIUM"); named != "" {
		names = []string{named}
	}
	var missing error
	for _, name := range names {
		path, err := exec.LookPath(name)
		if err == nil {
			return path, nil
		}
		missing = errors.Join(missing, err)
	}
	return "", fmt.Errorf("no Chromium: install Debian's package \"chromium-headless-shell\": %w", missing)
}

// Open starts Chromium.
func Open() (*Browser, error) {
	path, err := executable()
	if err != nil {
		return nil, err
	}
	profile, err := os.MkdirTemp("", "exactflask-chromium-")
	if err != nil {
		return nil, err
	}
	options := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.ExecPath(path), chromedp.NoSandbox,
		chromedp.DisableGPU, chromedp.UserDataDir(profile),
		chromedp.WindowSize(1280, 800), chromedp.Flag("disable-component-update", true), chromedp.Flag("disable-quic",
			true), chromedp.Flag("disable-background-networking", true),
		chromedp.Flag("disable-sync", true), chromedp.Flag("font-render-hinting", "none"),
		// The core is compiled once, quickly: a journey asks it seldom.
		chromedp.Flag("js-flags", "--no-wasm-tier-up --no-wasm-dynamic-tiering"))
	alloc, cancelAlloc := chromedp.NewExecAllocator(context.Background(), options...)
	ctx, cancel := chromedp.NewContext(alloc)
	if err := chromedp.Do(ctx); err != nil {
		cancel()
		cancelAlloc()
		return nil, fmt.Errorf("starting Chromium: %w", err)
	}
	return &Browser{ctx: ctx, cancel: func() { cancel(); cancelAlloc(); _ = os.RemoveAll(profile) }}, nil
}

// Close ends Chromium and removes its profile.
func (b *Browser) Close() { b.cancel() }

// Page is one device: a tab with its own cookies and storage.
type Page struct {
	ctx    context.Context
	cancel context.CancelFunc
	base   string
	fail   func(format string, args ...any)
}

// Page opens a tab of this size on a server. fail is called when something
// does not happen; it must not return.
func (b *Browser) Page(server *Server, width, height int, fail func(format string, args ...any)) *Page {
	ctx, cancel := chromedp.NewContext(b.ctx, chromedp.WithNewBrowserContext())
	p := &Page{ctx: ctx, cancel: cancel, base: server.URL, fail: fail}
	p.Resize(width, height)
	// Several devices at once: each believes that it is the one in use.
	_, err := chromedp.Call(ctx, emulation.SetFocusEmulationEnabled,
		emulation.SetFocusEmulationEnabledParams{Enabled: true})
	p.check(err, "focusing the page")
	return p
}

// Tab opens another tab of the same browser: the same session, the same device.
func (p *Page) Tab(width, height int) *Page {
	ctx, cancel := chromedp.NewContext(p.ctx)
	q := &Page{ctx: ctx, cancel: cancel, base: p.base, fail: p.fail}
	q.Resize(width, height)
	_, err := chromedp.Call(ctx, emulation.SetFocusEmulationEnabled,
		emulation.SetFocusEmulationEnabledParams{Enabled: true})
	q.check(err, "focusing the tab")
	return q
}

// Resize changes the size of the page; under 600 it is a phone with a finger.
func (p *Page) Resize(width, height int) {
	phone := width < 600
	_, err := chromedp.Call(p.ctx, emulation.SetDeviceMetricsOverride,
		emulation.SetDeviceMetricsOverrideParams{Width: int64(width), Height: int64(height), DeviceScaleFactor: 1,
			Mobile: phone})
	if err == nil {
		_, err = chromedp.Call(p.ctx, emulation.SetTouchEmulationEnabled,
			emulation.SetTouchEmulationEnabledParams{Enabled: phone})
	}
	p.check(err, "setting the size of the page")
}

// Close closes the tab.
func (p *Page) Close() { p.cancel() }

func (p *Page) check(err error, what string, args ...any) {
	if err != nil {
		p.fail("waited for: %s: %v\npicture: %s\npage: %s", fmt.Sprintf(what, args...), err, p.kept(), p.excerpt())
	}
}

// kept is where a picture of the page was put, for whoever looks why it failed.
func (p *Page) kept() string {
	ctx, cancel := context.WithTimeout(p.ctx, 5*time.Second)
	defer cancel()
	png, err := chromedp.Run(ctx, chromedp.CaptureScreenshot())
	if err != nil {
		return err.Error()
	}
	f, err := os.CreateTemp("", "exactflask-failed-*.png")
	if err != nil {
		return err.Error()
	}
	_, err = f.Write(png)
	if err = errors.Join(err, f.Close()); err != nil {
		return err.Error()
	}
	return f.Name()
}

// excerpt is what can be read on the page, with what its device keeps that is not sent.
func (p *Page) excerpt() string {
	ctx, cancel := context.WithTimeout(p.ctx, 2*time.Second)
	defer cancel()
	text, err := chromedp.Run(ctx, chromedp.Evaluate[string](`location.pathname + "\n" +
		Object.keys(localStorage).filter(k => k.includes(".outbox.")).map(k => localStorage[k] + "\n").join("") +
		document.body.innerText.slice(0, 3000)`))
	if err != nil {
		return err.Error()
	}
	return text
}

func (p *Page) do(what string, actions ...chromedp.Action[chromedp.Void]) {
	ctx, cancel := context.WithTimeout(p.ctx, Patience)
	defer cancel()
	p.check(chromedp.Do(ctx, actions...), "%s", what)
}

// Visit opens a path of the application.
func (p *Page) Visit(path string) { p.do("visiting "+path, chromedp.Navigate(p.base+path)) }

// Reload loads the page again.
func (p *Page) Reload() { p.do("reloading", chromedp.Reload()) }

// Leave goes away from the application, as closing the tab would.
func (p *Page) Leave() { p.do("leaving", chromedp.Navigate("about:blank")) }

// See waits until a text can be read on the page.
func (p *Page) See(text string) {
	p.wait(fmt.Sprintf("document.body.innerText.includes(%q)", text), "seeing "+text)
}

// Lose waits until a text can no longer be read.
func (p *Page) Lose(text string) {
	p.wait(fmt.Sprintf("!document.body.innerText.includes(%q)", text), "no longer seeing "+text)
}

// Until waits until a JavaScript expression is true.
func (p *Page) Until(expression string) { p.wait(expression, expression) }

// waiting looks again whenever the page changes, and ten times a second: asking a page for
// its text costs it as much as drawing it.
const waiting = `(async () => {
	const changed = () => new Promise((done) => {
		const end = () => { seen.disconnect(); clearTimeout(later); done(); };
		const seen = new MutationObserver(() => { seen.disconnect(); setTimeout(end, 15); });
		const later = setTimeout(end, 100);
		seen.observe(document, { subtree: true, childList: true, characterData: true, attributes: true });
	});
	for (const until = Date.now() + 5000; Date.now() < until; await changed()) {
		try { if (await (%s)) return true; } catch { /* not there yet */ }
	}
	return false;
})()`

func (p *Page) wait(expression, what string) {
	ctx, cancel := context.WithTimeout(p.ctx, Patience)
	defer cancel()
	script := fmt.Sprintf(waiting, expression)
	for {
		there, err := chromedp.Run(ctx, chromedp.Evaluate[bool](script, chromedp.EvalAsValue,
			func(p *runtime.EvaluateParams) { p.AwaitPromise = new(true) }))
		switch {
		case err == nil && there:
			return
		case ctx.Err() != nil:
			p.check(ctx.Err(), "%s", what)
			return
		case err != nil:
			time.Sleep(50 * time.Millisecond) // the page was loaded anew meanwhile
		}
	}
}

// Sent waits until the server has all that was typed on the page.
func (p *Page) Sent() {
	p.wait(`document.querySelector("[data-test=sent]")?.dataset.state === "sent"`, "all of it being sent")
}

// Painted waits until what was done has been answered by the page: two frames on.
func (p *Page) Painted() {
	Evaluate[bool](p, `new Promise((then) => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(() => then(true)))))`)
}

// CoreReady waits until the page judges by itself, so that it needs no network.
func (p *Page) CoreReady() {
	p.wait(`document.documentElement.dataset.core === "ready"`, "the core in the page")
}

// Click clicks the first visible button, link or label with this text.
func (p *Page) Click(text string) {
	xpath := fmt.Sprintf(`//*[self::button or self::a or self::label][contains(normalize-space(.), %[1]q) or contains(@aria-label, %[1]q)]`, text)
	p.do("clicking "+text, chromedp.Click(chromedp.Search(xpath), chromedp.NodeVisible))
}

// Fill types into the field with this CSS selector.
func (p *Page) Fill(selector, text string) {
	p.do("typing into "+selector, chromedp.SendKeys(chromedp.CSS(selector), text, chromedp.NodeVisible))
}

// Choose takes an option of the list that stands beside a field.
func (p *Page) Choose(field, value string) {
	p.wait(fmt.Sprintf(`(() => { const s = document.querySelector(%q).closest("form").querySelector("select"); s.value = %q; s.dispatchEvent(new Event("change")); return s.value === %q })()`, field, value, value), "choosing "+value)
	p.wait(fmt.Sprintf(`(document.querySelector(%q).focus(), true)`, field), "the field again")
}

// Keys presses keys, wherever the focus is. A key writes its character as it
// goes down, as a keyboard does, so that the page can keep it from being written.
func (p *Page) Keys(keys string) {
	ctx, cancel := context.WithTimeout(p.ctx, Patience)
	defer cancel()
	for _, r := range keys {
		for _, k := range kb.Encode(r) {
			switch k.Type {
			case kb.KeyChar:
				continue
			case kb.KeyDown:
				if v := kb.Keys[r]; v != nil && v.Print {
					k.Text, k.UnmodifiedText = v.Text, v.Unmodified
				}
			}
			_, err := chromedp.Call(ctx, input.DispatchKeyEvent, *k)
			p.check(err, "pressing %q", r)
		}
	}
}

// Text returns the text of the element with this CSS selector.
func (p *Page) Text(selector string) string {
	ctx, cancel := context.WithTimeout(p.ctx, Patience)
	defer cancel()
	text, err := chromedp.Run(ctx, chromedp.Text(chromedp.CSS(selector)))
	p.check(err, "reading %s", selector)
	return strings.TrimSpace(text)
}

// Evaluate runs JavaScript and returns its value; a promise is awaited.
func Evaluate[T any](p *Page, expression string) T {
	ctx, cancel := context.WithTimeout(p.ctx, Patience)
	defer cancel()
	v, err := chromedp.Run(ctx, chromedp.Evaluate[T](expression, chromedp.EvalAsValue,
		func(p *runtime.EvaluateParams) { p.AwaitPromise = new(true) }))
	p.check(err, "evaluating %s", expression)
	return v
}

// Picture returns a PNG of what is on the screen now.
func (p *Page) Picture() []byte {
	ctx, cancel := context.WithTimeout(p.ctx, Patience)
	defer cancel()
	png, err := chromedp.Run(ctx, chromedp.CaptureScreenshot())
	p.check(err, "taking a picture")
	return png
}

// OnPaper shows the page as it is laid out for printing; with an empty medium it is a screen again.
func (p *Page) OnPaper(medium string) {
	ctx, cancel := context.WithTimeout(p.ctx, Patience)
	defer cancel()
	_, err := chromedp.Call(ctx, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Media: medium})
	p.check(err, "the medium")
}

// Print returns the page as it would be printed, a PDF.
func (p *Page) Print() []byte {
	ctx, cancel := context.WithTimeout(p.ctx, Patience)
	defer cancel()
	pdf, err := chromedp.Run(ctx, chromedp.PrintToPDF(chromedp.PDFPreferCSSPageSize()))
	p.check(err, "printing")
	return pdf
}

// SignIn signs a person of the demo in.
func (p *Page) SignIn(name string) {
	p.Visit("/sign-in")
	p.See(name)
	p.Click(name)
	p.wait(`location.pathname === "/home" && document.querySelector("main h1") !== null`, "signing in as "+name)
}
