package e2e

import (
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/demo"
	"exactflask/e2e/browser"
	"exactflask/files"
)

// board opens the board of a practical from the shelf.
func board(p *browser.Page, practical string) {
	p.Until(fmt.Sprintf(`document.querySelector("a[href*='%s/lesson']") !== null`, practical))
	tap(p, fmt.Sprintf("a[href*='%s/lesson']", practical))
	p.Until(`document.querySelector("[data-test=board] button") !== null`)
}

// A lesson from the board: thirty benches would stand on it without scrolling; two of six
// are far off and stand first; a hand goes up, is taken and cleared; the class is told
// something; the projector shows no names and no judgement.
func TestALessonFromTheBoard(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Wystan Moor")
	board(p, "buffer-dosing")
	assert.Equal(t, 6, browser.Evaluate[int](p, `document.querySelectorAll("[data-test=board] li").length`))
	first := func() string {
		return browser.Evaluate[string](p, `[...document.querySelectorAll("[data-test=board] li")].slice(0, 2).map(b => b.innerText).join("|")`)
	}
	assert.Contains(t, first(), "from the true value", "who is far off stands first")
	// Thirty tiles as high as these have room under what stands above them.
	assert.LessOrEqual(t, browser.Evaluate[float64](p, `(() => { const b = document.querySelector("[data-test=board]"); const r = b.querySelector("li").getBoundingClientRect(); const columns = getComputedStyle(b).gridTemplateColumns.split(" ").length; return b.getBoundingClientRect().top + Math.ceil(30 / columns) * (r.height + 6) })()`), 800.0)
	accessible(t, p, "the board")

	mira := page(t, s, 390, 800)
	mira.SignIn("Mira Quillon")
	openBench(mira)
	tap(mira, "[data-test=hand]")
	p.Until(`document.querySelector("[data-state=hand]") !== null`)
	assert.Contains(t, first(), "Mira Quillon")
	tap(p, "[data-state=hand]")
	p.See("Hand is up")
	accessible(t, p, "one bench of the board")
	p.Click("I go")
	mira.Until(`document.querySelector("[data-test=hand]").title.includes("Wystan Moor comes")`)
	p.Click("Helped")
	mira.Until(`document.querySelector("[data-test=hand]").getAttribute("aria-pressed") === "false"`)
	p.Click("Close")

	end := time.Now().Add(12 * time.Minute)
	browser.Evaluate[bool](p, fmt.Sprintf(`(() => { const f = document.querySelector("#ends"); f.value = %q; f.dispatchEvent(new Event("input")); return true })()`,
		end.Format("15:04")))
	tap(p, "#ends ~ button[type=submit]")
	mira.See("The lesson ends at")
	mira.See("Still to do:")
	p.See("min left")

	farrow := page(t, s, 1280, 800)
	farrow.SignIn("Dr Ondine Farrow")
	board(farrow, "buffer-dosing")
	farrow.Fill(`input[aria-label="A notice to all benches"]`, "Goggles stay on while you rinse.\r")
	mira.See("Goggles stay on while you rinse.")
	accessible(t, mira, "a bench that is told something")
	farrow.Click("Projector")
	farrow.Lose("Mira Quillon")
	assert.False(t, browser.Evaluate[bool](farrow, `document.body.innerText.includes("from the true value")`))
	accessible(t, farrow, "the projector")
	farrow.Click("Projector")
	station(farrow, "answers")
	farrow.See("robust standard deviation")
	accessible(t, farrow, "answers of the class")
}

func openBench(p *browser.Page) {
	p.Click("Open the bench")
	p.Until(`document.querySelector("[data-test=next]") !== null`)
}

// reportOf goes from the shelf to the report of the first notebook.
func reportOf(p *browser.Page) {
	openBench(p)
	p.Click("Report")
	p.Until(`document.querySelector("[data-test=hand-in]") !== null && document.querySelector("article h2") !== null`)
}

func passage(p *browser.Page, text string) {
	refill(p, "[data-test=passage-explain]", text)
	browser.Evaluate[bool](p, `(document.activeElement.blur(), true)`)
}

// A report is written on two devices, one of them without the network: both texts stand
// beside each other until they are put together. It is handed in without the network,
// which is said, and is when the network is back; given back, and handed in again. Every
// file of it is read by something that is not this project's.
func TestAReportOnTwoDevices(t *testing.T) {
	t.Parallel()
	away, between, s := behind(t, 1280, 800)
	away.SignIn("Mira Quillon")
	here := page(t, s, 390, 800)
	here.SignIn("Mira Quillon")
	reportOf(away)
	reportOf(here)
	cached(away)
	between.Set(browser.Weather{Cut: true})
	passage(away, "A drop hung from the jet.")
	away.See("not sent, kept here")
	passage(here, "The acid was old.")
	here.See("Written into the notebook.")
	between.Set(browser.Weather{})
	away.Until(`document.querySelector("[data-test=both]") !== null`)
	assert.Contains(t, browser.Evaluate[string](away, `document.querySelector("[data-test=both]").innerText`), "The acid was old.")
	accessible(t, away, "two texts beside each other")
	away.Click("Put them together")
	here.Until(`document.querySelector("[data-test=passage-explain]")?.value.includes("A drop hung") && document.querySelector("[data-test=passage-explain]").value.includes("The acid was old.")`)

	between.Set(browser.Weather{Cut: true})
	away.Click("Hand in")
	away.Click("Hand in all the same")
	away.See("It is NOT handed in yet")
	between.Set(browser.Weather{})
	away.See("Handed in: version 1")
	here.See("Handed in: version 1")
	accessible(t, here, "a report that is handed in")
	here.Click("Bench")
	here.See("From now on the notebook takes notes only.")

	farrow := page(t, s, 1280, 800)
	farrow.SignIn("Dr Ondine Farrow")
	farrow.Visit(browser.Evaluate[string](away, "location.pathname"))
	farrow.Click("Give back for another version")
	farrow.Fill("#in-words", "How long did the colour last?")
	farrow.Click("Write it down")
	away.See("How long did the colour last?")
	passage(away, "A drop hung from the jet. The colour lasted a minute.")
	away.See("Written into the notebook.")
	away.Click("Hand in")
	away.Click("Hand in all the same")
	away.See("Handed in: version 2")
	away.Click("Version 2,")
	away.See("This is version 2, as it was handed in.")
	away.Until(`document.querySelector("[data-test=changes]")?.innerText.includes("The colour lasted a minute.")`)
	accessible(t, away, "a version as it was handed in")

	checkFiles(t, s, strings.Split(browser.Evaluate[string](away, "location.pathname"), "/")[2])
}

// checkFiles has the files of a report read by programs of others, where they are here.
func checkFiles(t *testing.T, s *browser.Server, notebook string) {
	b, err := SignIn(s.URL, "", "mira", demo.Password, "files")
	require.NoError(t, err)
	dir := t.TempDir()
	for _, ending := range []string{"pdf", "xlsx", "csv", "zip"} {
		res, err := b.Client.Get(s.URL + "/api/notebooks/" + notebook + "/report." + ending + "?version=2")
		require.NoError(t, err)
		content, err := io.ReadAll(res.Body)
		require.NoError(t, errors.Join(err, res.Body.Close()))
		require.Equal(t, http.StatusOK, res.StatusCode, ending)
		require.NoError(t, os.WriteFile(filepath.Join(dir, "report."+ending), content, 0o600))
	}
	archive, err := os.ReadFile(filepath.Join(dir, "report.zip"))
	require.NoError(t, err)
	_, err = files.ReadArchive(archive)
	require.NoError(t, err)
	for _, c := range []struct {
		program string
		args    []string
		finds   string
	}{
		{"pdftotext", []string{"-layout", "report.pdf", "-"}, "The colour lasted a minute."},
		{"unzip", []string{"-l", "report.zip"}, "ro-crate-metadata.json"},
		{"unzip", []string{"-p", "report.xlsx", "xl/worksheets/sheet2.xml"}, "<f>"},
		{"python3", []string{"-c", "import csv; print([r['volume / mL'] for r in csv.DictReader(open('report.csv'))][2])"}, "23.10"},
	} {
		if _, err := exec.LookPath(c.program); err != nil {
			t.Logf("%s is not here: what it would read is not checked", c.program)
			continue
		}
		cmd := exec.Command(c.program, c.args...)
		cmd.Dir = dir
		out, err := cmd.Output()
		require.NoError(t, err, c.program)
		assert.Contains(t, string(out), c.finds, c.program)
	}
}

// Readings are pasted, looked at, and written down; a line that is wrong is said and left
// out. A file of a notebook is taken in on the class page.
func TestReadingsFromAPaste(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Bevan Thrale")
	p.Click("Begin")
	p.Until(`document.querySelector("[data-test=next]") !== null`)
	p.Click("More")
	p.Click("Readings from a file or a paste")
	p.Fill("#readings-text", "trial;start;end\nrough;0,00;24,2\n1;0,00;23,85\n2;many;3\n3;0,05;23,85\n")
	p.Click("Look at them")
	p.See("Line 4:")
	accessible(t, p, "readings to be looked at")
	p.Click("Write 3 trials down")
	p.See("2 titres agree")
	p.See("What comes next:")
	accessible(t, p, "a bench that is done")
	ev := notebookOf(t, p)
	assert.Len(t, ev.Trials, 3)

	farrow := page(t, s, 1280, 800)
	farrow.SignIn("Dr Ondine Farrow")
	farrow.Click("Classes")
	farrow.Click("Tide Laboratory")
	farrow.Click("People")
	farrow.See("Teodor Vask")
	browser.Evaluate[bool](farrow, `([...document.querySelectorAll("td button")].find(b => b.textContent.includes("Teodor Vask")).click(), true)`)
	farrow.Until(`document.querySelector("[data-test=import]") !== null`)
	accessible(t, farrow, "a member of a class")
	browser.Evaluate[bool](farrow, `(async () => {
		const shelf = await (await fetch("/api/shelf")).json();
		const { class: id, practicals } = shelf.shelves[0];
		const { notebooks } = await (await fetch("/api/classes/" + id + "/practicals/" + practicals[0].practical + "/notebooks")).json();
		const n = notebooks.find(n => n.student === "Bevan Thrale" && n.id);
		const file = await (await fetch("/api/notebooks/" + n.id + "/report.zip")).blob();
		const data = new DataTransfer();
		data.items.add(new File([file], "bevan.zip"));
		const input = document.querySelector("[data-test=import]");
		input.files = data.files;
		input.dispatchEvent(new Event("change"));
		return true;
	})()`)
	farrow.See("Taken in, with")
}
