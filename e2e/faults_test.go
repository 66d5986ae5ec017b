package e2e

import (
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/demo"
	"exactflask/e2e/browser"
)

var students = []string{"mira", "teo", "anouk", "jory", "sanna", "bevan"}

// The program is killed at a random moment under load, fifty times. Every
// entry that was acknowledged is there, once.
func TestFiftyPowerCutsLoseNothing(t *testing.T) {
	s := serve(t)
	var benches []*Bench
	for i, name := range students {
		b, err := SignIn(s.URL, "", name, demo.Password, fmt.Sprintf("cut-%d", i))
		require.NoError(t, err)
		benches = append(benches, b)
	}
	acknowledged := make([][]string, len(benches))
	const cuts = 50
	for cut := range cuts {
		stop := make(chan struct{})
		var wg sync.WaitGroup
		for i, b := range benches {
			wg.Go(func() {
				for {
					select {
					case <-stop:
						return
					default:
					}
					ids, err := b.Write()
					if err != nil {
						b.trial = "" // not known whether it was kept: a new trial
						return
					}
					acknowledged[i] = append(acknowledged[i], ids...)
				}
			})
		}
		time.Sleep(time.Duration(5+rand.IntN(40)) * time.Millisecond)
		require.NoError(t, s.Kill(), "cut %d", cut)
		close(stop)
		wg.Wait()
		require.NoError(t, s.Start(), "cut %d", cut)
	}
	total := 0
	for i, b := range benches {
		there, err := b.Entries()
		require.NoError(t, err)
		for _, id := range acknowledged[i] {
			require.Equal(t, 1, there[id], "entry %s of %s", id, b.Device)
		}
		total += len(acknowledged[i])
	}
	t.Logf("%d acknowledged entries, %d power cuts, none lost", total, cuts)
	assert.Greater(t, total, 2*cuts, "it was under load")
}

// The disk of the data file is full: a clear message, and nothing is lost on
// either side.
func TestFullDisk(t *testing.T) {
	dir := t.TempDir()
	if out, err := exec.Command("mount", "-t", "tmpfs", "-o", "size=1200k", "tmpfs", dir).CombinedOutput(); err != nil {
		t.Skipf("a small disk needs the right to mount one: %s", out)
	}
	t.Cleanup(func() { _ = exec.Command("umount", dir).Run() })
	s, err := browser.StartServer(binary, filepath.Join(dir, "small.db"))
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Stop() })
	p := atBench(t, s, "Anouk Brill", 1280, 800)
	b, err := SignIn(s.URL, "", "teo", demo.Password, "filler")
	require.NoError(t, err)
	ballast := filepath.Join(dir, "ballast")
	require.Error(t, os.WriteFile(ballast, make([]byte, 8<<20), 0o600), "the disk is full now")
	var full error
	for range 500 {
		if _, full = b.Write(); full != nil {
			break
		}
	}
	require.Error(t, full)
	assert.Contains(t, full.Error(), "The server’s disk is full")
	p.Keys("24.70\r")
	p.See("not yet sent")
	p.See("The server’s disk is full")
	accessible(t, p, "a full disk")
	require.NoError(t, os.Remove(ballast))
	p.Lose("not yet sent")
	there, err := b.Entries()
	require.NoError(t, err)
	for id, n := range there {
		assert.Equal(t, 1, n, id)
	}
	assert.Equal(t, "24.70", notebookOf(t, p).Trials[1].Start.Text)
}

// From Enter to the new evaluation on the screen, with 100 entries in the
// notebook, and the longest frame while typing.
func BenchmarkEnterToEvaluation(b *testing.B) {
	s, err := browser.StartServer(binary, filepath.Join(b.TempDir(), "bench.db"))
	require.NoError(b, err)
	defer func() { _ = s.Stop() }()
	writer, err := SignIn(s.URL, "", "bevan", demo.Password, "filler")
	require.NoError(b, err)
	for range 66 { // 99 entries: three for every two calls
		_, err := writer.Write()
		require.NoError(b, err)
	}
	p := chromium.Page(s, 1280, 800, b.Fatalf)
	defer p.Close()
	p.SignIn("Bevan Thrale")
	p.Click("Open the bench")
	p.Until(`document.activeElement?.id === "reading"`)
	time.Sleep(3 * time.Second) // the core for the time without network has loaded
	const measure = `(async () => {
		const box = document.querySelector("#reading"), next = document.querySelector("[data-test=next]");
		let longest = 0, last = performance.now(), on = true;
		const frame = (t) => { longest = Math.max(longest, t - last); last = t; if (on) requestAnimationFrame(frame); };
		await new Promise(r => requestAnimationFrame(t => { last = t; r(); })); requestAnimationFrame(frame);
		for (const c of "12.35") { box.value += c; box.dispatchEvent(new Event("input")); await new Promise(r => setTimeout(r, 30)); }
		const typing = longest, rows = document.querySelectorAll("tbody").length, was = next.textContent;
		const begun = performance.now();
		setTimeout(() => box.form.requestSubmit());
		// The change of the page, and the frame in which it is painted.
		await new Promise(r => { const seen = new MutationObserver(() => { if (next.textContent !== was || document.querySelectorAll("tbody").length !== rows) { seen.disconnect(); requestAnimationFrame(r); } }); seen.observe(document.body, { subtree: true, childList: true, characterData: true }); });
		const took = performance.now() - begun; on = false;
		return [took, typing];
	})()`
	var took, frames []float64
	for b.Loop() {
		p.Until(`!document.querySelector("button[type=submit]").disabled`)
		m := browser.Evaluate[[]float64](p, measure)
		took, frames = append(took, m[0]), append(frames, m[1])
		time.Sleep(50 * time.Millisecond)
	}
	slices.Sort(took)
	slices.Sort(frames)
	b.ReportMetric(took[len(took)/2], "median-ms")
	b.ReportMetric(frames[len(frames)-1], "longest-frame-ms")
}
