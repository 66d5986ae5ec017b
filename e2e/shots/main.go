// Command shots makes docs/screenshots from the demo data: one picture of each
// main view. Run it with make shots.
package main

import (
	"flag"
	"fmt"
	"log"
	"os"
	"path/filepath"
	"strings"
	"time"

	"exactflask/e2e/browser"
)

func main() {
	binary := flag.String("binary", "bin/exactflask", "program to show")
	out := flag.String("out", "docs/screenshots", "folder for the pictures")
	only := flag.String("only", "", "make only pictures whose name contains this")
	flag.Parse()
	if err := os.MkdirAll(*out, 0o755); err != nil {
		log.Fatal(err)
	}
	dir, err := os.MkdirTemp("", "exactflask-shots-")
	if err != nil {
		log.Fatal(err)
	}
	defer os.RemoveAll(dir)
	server, err := browser.StartDemo(*binary, filepath.Join(dir, "shots.db"))
	if err != nil {
		log.Fatal(err)
	}
	defer func() { _ = server.Stop() }()
	b, err := browser.Open()
	if err != nil {
		log.Fatal(err)
	}
	defer b.Close()

	fail := func(format string, args ...any) { // the program must not outlive this one
		_ = server.Stop()
		log.Fatalf(format, args...)
	}
	for _, s := range shots {
		if !strings.Contains(s.name, *only) || s.name == gallery && *only != gallery {
			continue
		}
		p := b.Page(server, s.width, s.height, fail)
		if s.person != "" {
			p.SignIn(s.person)
		}
		s.show(p)
		p.Until(`document.fonts.status === "loaded"`)
		time.Sleep(300 * time.Millisecond) // transitions end
		if err := os.WriteFile(filepath.Join(*out, s.name+".png"), p.Picture(), 0o644); err != nil {
			log.Fatal(err)
		}
		p.Close()
	}
}

type shot struct {
	name          string
	width, height int
	person        string
	show          func(*browser.Page)
}

func bench(p *browser.Page) {
	p.Click("Open the bench")
	p.Until(`document.querySelector("[data-test=next]") !== null`)
}

// open opens a view of the notebook of a practical.
func open(p *browser.Page, title, view string) {
	p.Until(`document.querySelector("article") !== null`)
	browser.Evaluate[bool](p, fmt.Sprintf(`[...document.querySelectorAll("article")].find(a => a.innerText.includes(%q)).querySelector("a[href*=notebooks]").click(), true`, title))
	p.See("Journal")
	p.Click(view)
}

// planned opens the plan of the first practical, and changes it.
func planned(change func(*browser.Page)) func(*browser.Page) {
	return func(p *browser.Page) {
		p.Until(`document.querySelector("[data-test=course] a[href$='buffer-dosing/plan']") !== null`)
		browser.Evaluate[bool](p, `(document.querySelector("[data-test=course] a[href$='buffer-dosing/plan']").click(), true)`)
		p.See("Plan a practical")
		p.Visit(browser.Evaluate[string](p, `location.pathname`))
		p.See("Expected titre")
		if change != nil {
			change(p)
		}
	}
}

func tab(name, see string) func(*browser.Page) {
	return func(p *browser.Page) {
		bench(p)
		p.Click(name)
		p.See(see)
	}
}

// lesson opens the board of the class that is in the middle of a practical.
func lesson(p *browser.Page) {
	p.Until(`document.querySelector("a[href*='descaler/lesson']") !== null`)
	browser.Evaluate[bool](p, `(document.querySelector("a[href*='descaler/lesson']").click(), true)`)
	p.Until(`document.querySelector("[data-test=board] button") !== null`)
	p.Until(`document.body.innerText.includes("live")`)
}

// marked opens the desk of the class whose reports are handed in, and goes on from there.
func marked(on, until string) func(*browser.Page) {
	return func(p *browser.Page) {
		p.Until(`document.querySelector("a[href$='pond-bleach-marked/marking']") !== null`)
		browser.Evaluate[bool](p, `(document.querySelector("a[href$='pond-bleach-marked/marking']").click(), true)`)
		p.Until(`document.querySelector("[data-test=desk] table") !== null`)
		if on != "" {
			browser.Evaluate[bool](p, fmt.Sprintf("(%s.click(), true)", on))
			p.Until(fmt.Sprintf("document.querySelector(%q) !== null", until))
		}
	}
}

// shots are the main views, each from the demo data.
// gallery is for those who build it: it is made where it is asked for.
const gallery = "gallery"

var shots = []shot{
	{gallery, 1280, 1500, "Dr Ondine Farrow", func(p *browser.Page) {
		p.Visit("/gallery")
		p.Until(`document.querySelector("main h1") !== null`)
	}},
	{"shelf", 1280, 800, "Teodor Vask", func(*browser.Page) {}},
	{"home", 1280, 800, "Dr Ondine Farrow", func(p *browser.Page) {
		p.Until(`document.querySelector("[data-test=course]") !== null`)
	}},
	{"bench", 1280, 800, "Sanna Odell", bench},
	{"curve", 1280, 800, "", func(p *browser.Page) {
		p.Visit("/sign-in")
		p.Fill("#username", "tove.lanning")
		p.Fill("#password", "tide-pool\r")
		open(p, "Formic acid in the scale remover", "Bench")
		p.Until(`document.querySelector("[data-test=curve] svg") !== null && (document.querySelector("[data-test=curve-panel]").scrollIntoView(), true)`)
	}},
	{"marking", 1280, 800, "Dr Ondine Farrow", marked("", "")},
	{"mark", 1280, 800, "Dr Ondine Farrow", func(p *browser.Page) {
		marked(`document.querySelectorAll("[data-report] a")[3]`, "[data-criterion=step-ratio]")(p)
		browser.Evaluate[bool](p, `(document.querySelector("[data-criterion=step-ratio] button").click(), true)`)
	}},
	{"results", 1280, 800, "Dr Ondine Farrow", marked(`document.querySelector("a[href$='/results']")`, "[data-test=results] h2")},
	{"journal", 1280, 800, "Mira Quillon", tab("Journal", "The notebook in ink")},
	{"bench-phone", 390, 844, "Sanna Odell", bench},
	{"result", 1280, 800, "Mira Quillon", tab("Result", "Calculation in steps")},
	{"work", 1280, 800, "Mira Quillon", func(p *browser.Page) {
		open(p, "Calcium carbonate in oyster", "Working")
		for i, answer := range [][2]string{{"24.13", "mL"}, {"0.002497", "mol"}, {"0.002497", "mol"}, {"0.002497", "mol"}} {
			step := fmt.Sprintf("#step-%d", i+1)
			p.Fill(step, answer[0])
			p.Choose(step, answer[1])
			p.Keys("\r")
			p.Until(fmt.Sprintf(`document.querySelector(%q).closest("li").innerText.match(/Right|Not this|judged later/) !== null`, step))
		}
		browser.Evaluate[bool](p, `(scrollTo(0, 0), true)`)
	}},
	{"catalogue", 1280, 800, "Mira Quillon", func(p *browser.Page) {
		p.Click("Catalogue")
		p.See("Molar mass")
		p.Fill("#wanted", "oxal")
		p.See("oxalic acid dihydrate")
	}},
	{"plan", 1280, 800, "Dr Ondine Farrow", planned(nil)},
	{"report", 1280, 800, "Mira Quillon", tab("Report", "Made with")},
	{"class", 1280, 800, "Dr Ondine Farrow", func(p *browser.Page) {
		p.Click("Classes")
		p.See("Make the class")
		p.Click("Harbour Laboratory")
		p.Until(`document.querySelector("[data-test=class-practicals] li") !== null`)
	}},
	{"board", 1280, 800, "Dr Ondine Farrow", lesson},
	{"answers", 1280, 800, "Dr Ondine Farrow", func(p *browser.Page) {
		lesson(p)
		browser.Evaluate[bool](p, `(document.querySelector("[data-station=answers]").click(), true)`)
		p.See("robust standard deviation")
	}},
	{"library", 1280, 800, "Dr Ondine Farrow", func(p *browser.Page) {
		p.Until(`document.querySelector("h3 a") !== null`)
		browser.Evaluate[bool](p, `(document.querySelector("h3 a").click(), true)`)
		p.See("Plan a new practical")
		p.Click("Plan a new practical")
		p.See("two end points")
	}},
	{"setting", 1280, 800, "Dr Ondine Farrow", func(p *browser.Page) {
		lesson(p)
		browser.Evaluate[bool](p, `(document.querySelector("[data-station=set]").click(), true)`)
		p.See("Deal at random")
	}},
}
