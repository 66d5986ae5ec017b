// Command speed measures the page in a real browser, on a quick machine and on a poor
// phone: when the bench is painted and ready, the longest task, and the time from
// Enter to what is painted. Run it with make speed.
package main

import (
	"flag"
	"fmt"
	"log"
	"os"
	"path/filepath"
	"slices"
	"time"

	"exactflask/demo"
	"exactflask/e2e"
	"exactflask/e2e/browser"
)

// slower is how much slower the processor of the phone is. Where this machine is slow
// itself, as slow as four times another one is less.
var slower = flag.Float64("slower", 4, "how many times slower the phone's processor is than this machine's")

func main() {
	flag.Parse()
	dir, err := os.MkdirTemp("", "exactflask-speed-")
	if err != nil {
		log.Fatal("speed: ", err)
	}
	err = run(filepath.Join(dir, "speed.db"))
	_ = os.RemoveAll(dir)
	if err != nil {
		log.Fatal("speed: ", err)
	}
}

const (
	poorNet = 1_600_000 // bits a second
	latency = 150 * time.Millisecond
)

func run(data string) error {
	s, err := browser.StartDemo("bin/exactflask", data)
	if err != nil {
		return err
	}
	defer func() { _ = s.Stop() }()
	b, err := browser.Open()
	if err != nil {
		return err
	}
	defer b.Close()
	if err := cold(b, s); err != nil {
		return err
	}
	for _, writes := range []int{66, 600} { // three entries for every two
		if err := filled(s, writes); err != nil {
			return err
		}
		if err := enter(b, s, writes*3/2); err != nil {
			return err
		}
	}
	return nil
}

// observed keeps what a page does from its first moment.
const observed = `
	window.seen = { longest: 0, ready: 0, bench: 0 };
	new PerformanceObserver(l => l.getEntries().forEach(e => { seen.longest = Math.max(seen.longest, e.duration) })).observe({ type: "longtask", buffered: true });
	const look = () => { const f = document.querySelector("#reading"); if (f && !f.readOnly && document.activeElement === f) seen.ready ||= performance.now(); else requestAnimationFrame(look); };
	requestAnimationFrame(look);
	const wait = () => document.querySelector("[data-test=next]") ? requestAnimationFrame(() => setTimeout(() => { seen.bench = performance.now() })) : requestAnimationFrame(wait);
	requestAnimationFrame(wait);`

// cold opens a bench for the first time on a poor phone, and once more.
func cold(b *browser.Browser, s *browser.Server) error {
	p := b.Page(s, 390, 844, log.Fatalf)
	defer p.Close()
	p.SignIn("Anouk Brill")
	p.Click("Open the bench")
	p.See("Read the start")
	address := browser.Evaluate[string](p, `location.pathname`)
	p.Leave()
	p.Forget() // a browser that has never seen it, but for who is signed in
	p.Before(observed)
	p.Poor(*slower, poorNet, latency)
	for _, visit := range []string{"first", "second"} {
		p.Visit(address)
		p.Until(`window.seen?.ready > 0`)
		time.Sleep(12 * time.Second) // the core loads, and what is kept is kept
		m := browser.Evaluate[[]float64](p, `(() => { const fcp = performance.getEntriesByName("first-contentful-paint")[0]?.startTime ?? 0; const next = seen; return [fcp, next.bench, next.ready, next.longest] })()`)
		fmt.Printf("bench on a poor phone, %s visit: head painted after %.0f ms, bench painted after %.0f ms, ready after %.0f ms; longest task %.0f ms\n", visit, m[0], m[1], m[2], m[3])
	}
	return nil
}

// filled writes in Bevan's notebook until it holds so much.
func filled(s *browser.Server, writes int) error {
	w, err := e2e.SignIn(s.URL, "", "bevan", demo.Password, fmt.Sprintf("filler-%d", writes))
	if err != nil {
		return err
	}
	for range writes {
		if _, err := w.Write(); err != nil {
			return err
		}
	}
	return nil
}

// entered is the time from Enter until the frame that shows what follows has been painted.
const entered = `(async () => {
	[...document.querySelectorAll("button")].find(b => b.textContent.includes("One more trial"))?.click(); // where titres agree
	for (let i = 0; i < 50 && document.activeElement?.id !== "reading"; i++) await new Promise(r => setTimeout(r, 20));
	const box = document.querySelector("#reading"), next = document.querySelector("[data-test=next]");
	box.value = "12.35"; box.dispatchEvent(new Event("input"));
	await new Promise(r => setTimeout(r, 60));
	const state = () => next.textContent + document.querySelectorAll("tbody").length + document.querySelector("[data-test=undo]").textContent + document.querySelector("label[for=reading]").textContent;
	const was = state(), begun = performance.now();
	setTimeout(() => box.form.requestSubmit());
	await new Promise(r => { const look = () => state() !== was && document.querySelector("label[for=reading]") ? setTimeout(r) : requestAnimationFrame(look); look(); }); // what is seen in a frame is painted at its end
	return performance.now() - begun;
})()`

func enter(b *browser.Browser, s *browser.Server, entries int) error {
	p := b.Page(s, 1280, 800, log.Fatalf)
	defer p.Close()
	p.SignIn("Bevan Thrale")
	p.Click("Open the bench")
	p.See("All sent")
	time.Sleep(6 * time.Second) // the core has loaded
	measure := func(how string) {
		var took []float64
		for range 21 {
			took = append(took, browser.Evaluate[float64](p, entered))
			time.Sleep(150 * time.Millisecond)
		}
		slices.Sort(took)
		fmt.Printf("Enter to painted, about %d entries, %s: median %.0f ms, longest %.0f ms\n", entries, how, took[len(took)/2], took[len(took)-1])
	}
	measure("with the network")
	if err := s.Kill(); err != nil {
		return err
	}
	time.Sleep(time.Second)
	browser.Evaluate[float64](p, entered) // it has noticed
	time.Sleep(3 * time.Second)
	measure("without it")
	return s.Start()
}
