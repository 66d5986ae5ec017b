package e2e

import (
	"bytes"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/demo"
	"exactflask/e2e/browser"
	"exactflask/store"
)

var students = []string{"mira", "teo", "anouk", "jory", "sanna", "bevan"}

// The program is killed at a random moment under load, fifty times (CUTS says
// otherwise). Every entry that was acknowledged is there, once, and the record is
// sound.
func TestPowerCutsLoseNothing(t *testing.T) {
	t.Parallel()
	s := serve(t)
	var benches []*Bench
	for i, name := range students {
		b, err := SignIn(s.URL, "", name, demo.Password, fmt.Sprintf("cut-%d", i))
		require.NoError(t, err)
		benches = append(benches, b)
	}
	acknowledged := make([][]string, len(benches))
	cuts := 50
	if n, err := strconv.Atoi(os.Getenv("CUTS")); err == nil {
		cuts = n
	}
	for cut := range cuts {
		stop := make(chan struct{})
		busy := make(chan struct{}, 1000) // tells of every acknowledgement
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
					select {
					case busy <- struct{}{}:
					default:
					}
				}
			})
		}
		for range 1 + rand.IntN(4) { // in the middle of writing, on a slow machine too
			select {
			case <-busy:
			case <-time.After(10 * time.Second):
			}
		}
		time.Sleep(time.Duration(rand.IntN(20)) * time.Millisecond)
		require.NoError(t, s.Kill(), "cut %d", cut)
		close(stop)
		wg.Wait()
		require.NoError(t, s.Start(), "cut %d", cut)
	}
	total := 0
	for i, b := range benches {
		there, err := b.Entries(b.Notebook)
		require.NoError(t, err)
		for _, id := range acknowledged[i] {
			require.Equal(t, 1, there[id], "entry %s of %s", id, b.Device)
		}
		total += len(acknowledged[i])
	}
	t.Logf("%d acknowledged entries, %d power cuts, none lost", total, cuts)
	assert.GreaterOrEqual(t, total, cuts, "it was under load")
	verified, err := store.Verify(context.Background(), s.Data)
	require.NoError(t, err)
	assert.Empty(t, verified.Problems)
}

// The disk of the data file is full: a clear message, and nothing is lost on
// either side.
func TestFullDisk(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	if out, err := exec.Command("mount", "-t", "tmpfs", "-o", "size=8m", "tmpfs", dir).CombinedOutput(); err != nil {
		t.Skipf("a small disk needs the right to mount one: %s", out)
	}
	t.Cleanup(func() { _ = exec.Command("umount", dir).Run() })
	s, err := browser.StartDemo(binary, filepath.Join(dir, "small.db"))
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Stop() })
	p := atBench(t, s, "Anouk Brill", 1280, 800)
	b, err := SignIn(s.URL, "", "teo", demo.Password, "filler")
	require.NoError(t, err)
	ballast := filepath.Join(dir, "ballast")
	require.Error(t, os.WriteFile(ballast, make([]byte, 16<<20), 0o600), "the disk is full now")
	var full error
	for range 500 {
		if _, full = b.Write(); full != nil {
			break
		}
	}
	require.Error(t, full)
	assert.Contains(t, full.Error(), "The server’s disk is full")
	for range 50 { // who signs in can read
		_, err = SignIn(s.URL, "", "mira", demo.Password, "late")
		require.NoError(t, err)
	}
	late := page(t, s, 1280, 800)
	late.SignIn("Mira Quillon")
	late.See("The server’s disk is full: everything can be read")
	late.Click("Open the bench")
	late.Until(`document.querySelector("[data-test=next-line]") !== null`)
	p.Keys("24.70\r")
	p.See("not sent, kept here")
	p.Click("not sent, kept here")
	p.See("The server’s disk is full")
	p.See("Send now")
	accessible(t, p, "a full disk")
	p.Keys("\x1b")
	require.NoError(t, os.Remove(ballast))
	p.Lose("not sent, kept here")
	there, err := b.Entries(b.Notebook)
	require.NoError(t, err)
	for id, n := range there {
		assert.Equal(t, 1, n, id)
	}
	assert.Equal(t, "24.70", notebookOf(t, p).Trials[1].Start.Text)
}

// From Enter to the new evaluation on the screen, with 100 entries in the
// notebook, and the longest frame while typing.
func BenchmarkEnterToEvaluation(b *testing.B) {
	s, err := browser.StartDemo(binary, filepath.Join(b.TempDir(), "bench.db"))
	require.NoError(b, err)
	defer func() { _ = s.Stop() }()
	writer, err := SignIn(s.URL, "", "bevan", demo.Password, "filler")
	require.NoError(b, err)
	for range 66 { // 99 entries: three for every two calls
		_, err := writer.Write()
		require.NoError(b, err)
	}
	p := chromium(b).Page(s, 1280, 800, b.Fatalf)
	defer p.Close()
	p.SignIn("Bevan Thrale")
	p.Click("Open the bench")
	p.Until(`document.activeElement?.id === "reading"`)
	p.CoreReady()
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

// What the program cannot serve it refuses at the start, and says why and what to
// do: a file that another serves, one of a newer program, one that is no data, a
// read-only disk.
func TestStoreFaultsAreSaid(t *testing.T) {
	t.Parallel()
	refused := func(data string, args ...string) string {
		out, err := exec.Command(binary, append([]string{"serve", "--port", "0", "--data", data}, args...)...).CombinedOutput()
		assert.Error(t, err, "%s", out)
		return string(out)
	}
	s := serve(t)
	assert.Contains(t, refused(s.Data, "--demo"), fmt.Sprintf("is in use by process %d on ", s.PID()))
	out, err := exec.Command(binary, "backup", "--data", s.Data, s.Data+".copy").CombinedOutput()
	require.NoError(t, err, "%s", out)
	assert.Contains(t, string(out), "SHA-256")
	out, err = exec.Command(binary, "verify", s.Data+".copy").CombinedOutput()
	require.NoError(t, err, "%s", out)
	assert.Contains(t, refused(s.Data+".copy"), "this is a file of the demo")

	newer := s.Data + ".copy"
	d, err := sql.Open("sqlite", newer)
	require.NoError(t, err)
	_, err = d.Exec("INSERT INTO goose_db_version (version_id, is_applied) VALUES (99, 1)")
	require.NoError(t, errors.Join(err, d.Close()))
	assert.Regexp(t, `schema 99.*knows up to \d+`, refused(newer, "--demo"))

	dir := t.TempDir()
	text := filepath.Join(dir, "report.txt")
	require.NoError(t, os.WriteFile(text, []byte(strings.Repeat("not a database\n", 100)), 0o600))
	assert.Contains(t, refused(text), "damaged")

	// A file that the program's own user may read and not write; root may write everything.
	closed, err := os.MkdirTemp("", "exactflask-closed-")
	require.NoError(t, err)
	t.Cleanup(func() { _ = os.Chmod(closed, 0o700); _ = os.RemoveAll(closed) })
	program, err := os.ReadFile(binary)
	require.NoError(t, err)
	school, err := os.ReadFile(s.Data + ".copy")
	require.NoError(t, err)
	own, file := filepath.Join(closed, "exactflask"), filepath.Join(closed, "school.db")
	require.NoError(t, errors.Join(os.WriteFile(own, program, 0o755), os.WriteFile(file, school, 0o444), os.Chmod(closed, 0o555)))
	cmd := exec.Command(own, "serve", "--port", "0", "--data", file)
	if os.Getuid() == 0 {
		cmd.SysProcAttr = &syscall.SysProcAttr{Credential: &syscall.Credential{Uid: 65534, Gid: 65534}}
	}
	out, err = cmd.CombinedOutput()
	assert.Error(t, err)
	assert.Contains(t, string(out), "writable")

	disk := t.TempDir()
	if out, err := exec.Command("mount", "-t", "tmpfs", "-o", "size=8m", "tmpfs", disk).CombinedOutput(); err != nil {
		t.Skipf("a read-only disk needs the right to mount one: %s", out)
	}
	t.Cleanup(func() { _ = exec.Command("umount", disk).Run() })
	require.NoError(t, exec.Command("mount", "-o", "remount,ro", disk).Run())
	assert.Contains(t, refused(filepath.Join(disk, "school.db")), "writable")
}

// A page of the file is damaged: the notebook whose entries stand there says so, and
// the others open as before.
func TestADamagedPageFailsAlone(t *testing.T) {
	t.Parallel()
	s := serve(t)
	benches := map[string]*Bench{}
	for _, name := range students[:4] {
		b, err := SignIn(s.URL, "", name, demo.Password, "damage-"+name)
		require.NoError(t, err)
		for range 12 { // enough that the first entries have pages of their own
			_, err = b.Write()
			require.NoError(t, err)
		}
		benches[name] = b
	}
	require.NoError(t, s.Stop())
	file, err := os.ReadFile(s.Data)
	require.NoError(t, err)
	const page = 4096
	hurt := -1
	for at := page; at < len(file); at += page { // a leaf of a table (type 13) with one of teo's first entries
		if file[at] == 13 && bytes.Contains(file[at:at+page], []byte(`"id":"demo-teo-0003"`)) {
			hurt = at
		}
	}
	require.Positive(t, hurt)
	whole := map[string]bool{}
	for _, name := range students[:4] {
		whole[name] = !bytes.Contains(file[hurt:hurt+page], []byte(`"id":"demo-`+name))
	}
	for i := range 64 {
		file[hurt+i] = 0xa5
	}
	require.NoError(t, os.WriteFile(s.Data, file, 0o600))
	out, err := exec.Command(binary, "verify", s.Data).CombinedOutput()
	assert.Error(t, err)
	assert.Contains(t, string(out), "damaged")
	require.NoError(t, s.Start())
	others := 0
	for name, b := range benches {
		_, err := b.Entries(b.Notebook)
		if whole[name] {
			require.NoError(t, err, name)
			others++
			continue
		}
		assert.ErrorContains(t, err, "cannot read a part of its data file", name)
	}
	assert.False(t, whole["teo"])
	assert.Positive(t, others, "the rest keeps working")
}

// What an instructor does beside the benches is killed at a random moment too: comments, reports handed
// in and given back, marks, releases, notebooks taken in. What was acknowledged is there, once.
func TestPowerCutsWhileMarking(t *testing.T) {
	t.Parallel()
	s := serve(t)
	student, err := SignIn(s.URL, "", "mira", demo.Password, "student")
	require.NoError(t, err)
	teacher, err := SignIn(s.URL, "", "farrow", demo.Password, "teacher")
	require.NoError(t, err)
	cuts := 8
	if n, err := strconv.Atoi(os.Getenv("CUTS")); err == nil {
		cuts = n / 5
	}
	var person string
	var page struct {
		People []struct{ ID, Username string }
	}
	require.NoError(t, teacher.call("GET", "/api/classes/"+teacher.Class, nil, &page))
	for _, p := range page.People {
		if p.Username == "bevan" {
			person = p.ID
		}
	}
	notebook, practical := "/api/notebooks/"+student.Notebook, "/api/classes/"+teacher.Class+"/practicals/"+student.Practicals[0]
	var document map[string]any
	require.NoError(t, student.call("GET", notebook+"/document", nil, &document))
	title := document["practical"].(map[string]any)["title"].(string)

	var mu sync.Mutex
	acknowledged := map[string]int{} // by what was done
	var comments, imported []string
	steps := [3]chan struct{}{make(chan struct{}), make(chan struct{}), make(chan struct{})}
	did := func(worker int, what string) {
		mu.Lock()
		acknowledged[what]++
		mu.Unlock()
		select {
		case steps[worker] <- struct{}{}:
		default:
		}
	}
	said := 0
	comment := func() error {
		said++
		text := fmt.Sprintf("Said %d of them.", said)
		if err := teacher.call("POST", notebook+"/comments", map[string]string{"text": text}, nil); err != nil {
			return err
		}
		comments = append(comments, text)
		did(0, "said")
		return nil
	}
	version := 0
	report := func() error { // handed in, marked, released, given back
		var r struct{ Submissions []struct{ Version int } }
		if err := student.call("GET", notebook+"/report", nil, &r); err != nil {
			return err
		}
		before := len(r.Submissions)
		var n struct{ Sheet struct{ Entries int } }
		if err := student.call("GET", notebook, nil, &n); err != nil {
			return err
		}
		if err := student.call("POST", notebook+"/submissions", map[string]int{"entries": n.Sheet.Entries}, nil); err != nil {
			if !strings.Contains(err.Error(), "handed in") { // from before the cut
				return err
			}
			before--
		}
		version = before + 1
		did(1, "handed in")
		var sheet struct {
			Lines []struct {
				ID    string
				Award *struct{ ID int64 }
			}
		}
		if err := teacher.call("GET", notebook+"/marking", nil, &sheet); err != nil {
			return err
		}
		var awards []map[string]any
		for _, l := range sheet.Lines {
			a := map[string]any{"criterion": l.ID, "marks": 1, "follows": 0}
			if l.Award != nil {
				a["follows"] = l.Award.ID
			}
			awards = append(awards, a)
		}
		if err := teacher.call("POST", notebook+"/awards", map[string]any{"awards": awards}, nil); err != nil {
			return err
		}
		did(1, "marked")
		if err := teacher.call("POST", practical+"/marking/released", map[string]any{"notebooks": []string{student.Notebook}}, nil); err != nil {
			return err
		}
		did(1, "released")
		if err := teacher.call("POST", fmt.Sprintf("%s/submissions/%d/return", notebook, version), map[string]string{"reason": "The units, please."}, nil); err != nil {
			return err
		}
		did(1, "given back")
		return nil
	}
	taken := 0
	takeIn := func() error {
		taken++
		document["practical"].(map[string]any)["title"] = fmt.Sprintf("%s, copy %d", title, taken)
		var in struct{ Notebook string }
		if err := teacher.call("POST", "/api/classes/"+teacher.Class+"/people/"+person+"/imports", document, &in); err != nil {
			return err
		}
		imported = append(imported, in.Notebook)
		did(2, "taken in")
		return nil
	}
	for _, once := range []func() error{comment, report, takeIn} {
		require.NoError(t, once())
	}
	for cut := range cuts {
		var wg sync.WaitGroup
		for _, work := range []func() error{comment, report, takeIn} {
			wg.Go(func() {
				for work() == nil {
				}
			})
		}
		// In the middle of whatever is being done, on a slow machine too.
		for range 1 + rand.IntN(4) {
			select {
			case <-steps[rand.IntN(len(steps))]:
			case <-time.After(10 * time.Second):
			}
		}
		time.Sleep(time.Duration(rand.IntN(30)) * time.Millisecond)
		require.NoError(t, s.Kill(), "cut %d", cut)
		wg.Wait()
		require.NoError(t, s.Start(), "cut %d", cut)
	}
	var n struct{ Comments []struct{ Text string } }
	require.NoError(t, student.call("GET", notebook, nil, &n))
	there := map[string]int{}
	for _, c := range n.Comments {
		there[c.Text]++
	}
	for _, text := range comments {
		assert.Equal(t, 1, there[text], text)
	}
	var r struct {
		Submissions []struct{ Returned *time.Time }
	}
	require.NoError(t, student.call("GET", notebook+"/report", nil, &r))
	back := 0
	for _, s := range r.Submissions {
		if s.Returned != nil {
			back++
		}
	}
	assert.GreaterOrEqual(t, len(r.Submissions), acknowledged["given back"])
	assert.GreaterOrEqual(t, back, acknowledged["given back"])
	for _, id := range imported {
		require.NoError(t, teacher.call("GET", "/api/notebooks/"+id, nil, nil), id)
	}
	t.Logf("%d cuts; %d comments; %v; versions %d", cuts, len(comments), acknowledged, len(r.Submissions))
	require.NoError(t, s.Stop())
	verified, err := store.Verify(context.Background(), s.Data)
	require.NoError(t, err)
	assert.Empty(t, verified.Problems)
	require.NoError(t, s.Start())
}
