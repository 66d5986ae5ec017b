package e2e

import (
	"os"
	"testing"
	"time"

	"exactflask/e2e/browser"
)

func TestZZ(t *testing.T) {
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	shot := func(name string) {
		_ = os.WriteFile("/tmp/zz-"+name+".png", p.Picture(), 0o600)
	}
	p.Click("Plan a new practical")
	p.Click("Begin with an empty one")
	p.Until(`document.querySelector("[data-test=titre]") !== null`)
	p.Until(`(document.querySelector("#plan-reaction").focus(), true)`)
	p.Keys("ethanoic acid")
	time.Sleep(500 * time.Millisecond)
	shot("pick")
	t.Log(browser.Evaluate[string](p, `document.querySelector("[role=listbox]")?.outerHTML ?? "none"`))
	p.Keys("\r")
	time.Sleep(500 * time.Millisecond)
	shot("picked")
}
