package web_test

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"io"
	"net/http"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app/bench"
	"exactflask/app/practicals"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/files"
	"exactflask/formats"
	"exactflask/view"
)

// due sets when a practical is due and until when it is taken.
func (s *school) due(c *http.Client, practical string, due, late time.Duration) {
	at := func(d time.Duration) *time.Time { t := time.Now().Add(d).UTC(); return &t }
	status, text := s.call(c, "PUT", "/api/classes/"+s.class+"/practicals/"+practical+"/settings",
		practicals.NewSettings{Times: practicals.Times{Due: at(due), Late: at(late)}, Unknowns: []practicals.Unknown{}})
	require.Equal(s.t, 200, status, text)
}

func entry(id string, clock int64, part journal.Part) journal.Entry {
	return journal.Entry{ID: id, Device: "report-device", Clock: clock, At: time.Now().UTC(), Part: part}
}

func (s *school) report(c *http.Client, id string, version int) (r view.Report) {
	status, text := s.call(c, "GET", fmt.Sprintf("/api/notebooks/%s/report?version=%d", id, version), nil)
	require.Equal(s.t, 200, status, text)
	require.NoError(s.t, json.Unmarshal([]byte(text), &r))
	return r
}

// A report is handed in late, given back and handed in again: what was handed in stays as
// it was, its receipt can be computed from the open document, and the notebook takes
// notes only while it counts.
func TestHandingInAtOnce(t *testing.T) {
	s := newSchool(t, nil)
	mira, teo, moor, farrow := s.client("mira"), s.client("teo"), s.client("moor"), s.client("farrow")
	p := practicalOf(t)
	p.Asked.Reference, p.Showing.Results = decimal.Must("0.09871"), practical.AfterMarking
	status, text := s.call(farrow, "POST", "/api/classes/"+s.class+"/practicals", map[string]any{"practical": p})
	require.Equal(t, 200, status, text)
	n := s.notebook(mira, p.ID)
	path := "/api/notebooks/" + n.ID
	write := func(c *http.Client, e ...journal.Entry) (int, string) {
		return s.call(c, "POST", path+"/entries", entries{e})
	}
	hand := func(c *http.Client, known int) (int, string) {
		return s.call(c, "POST", path+"/submissions", map[string]int{"entries": known})
	}
	status, text = hand(mira, 0)
	assert.Equal(t, 422, status)
	assert.Contains(t, text, "nothing is recorded yet")
	status, text = write(mira, append(run("hand-in-trial", 1, journal.Accurate, "0.00", "23.45"),
		entry("passage-one", 10, journal.Passage{Prompt: journal.Method, Written: "I ran it in."}))...)
	require.Equal(t, 200, status, text)
	status, text = hand(mira, 3)
	assert.Equal(t, 422, status)
	assert.Contains(t, text, "has changed since")
	for _, other := range []*http.Client{teo, moor, farrow} {
		status, _ = hand(other, 4)
		assert.NotEqual(t, 200, status)
	}
	s.due(farrow, p.ID, -time.Hour, -time.Minute)
	status, text = hand(mira, 4)
	assert.Equal(t, 422, status)
	assert.Contains(t, text, "reports were taken until")
	s.due(farrow, p.ID, -time.Hour, time.Hour)

	// From two devices at once: one of them does it, the other is told so.
	var wg sync.WaitGroup
	var mu sync.Mutex
	answers := map[int]string{}
	for range 2 {
		wg.Go(func() {
			status, text := hand(mira, 4)
			mu.Lock()
			defer mu.Unlock()
			answers[status] = text
		})
	}
	wg.Wait()
	require.Contains(t, answers, 200)
	assert.Contains(t, answers[422], "handed in already: version 1")
	var receipt view.Submission
	require.NoError(t, json.Unmarshal([]byte(answers[200]), &receipt))
	assert.True(t, receipt.Late)
	assert.Equal(t, receipt.Hash, formats.Hash(receipt.Receipt))
	_, document := s.call(mira, "GET", path+"/document", nil)
	var doc formats.Document
	require.NoError(t, json.Unmarshal([]byte(document), &doc))
	assert.Contains(t, receipt.Receipt, "chain: "+doc.Chain[len(doc.Chain)-1].Hash+"\n")
	assert.Contains(t, receipt.Receipt, "late: true\n")

	// Afterwards: notes, and nothing else.
	status, text = write(mira, entry("after-the-fact", 20, journal.Scale{Of: "hand-in-trial-0", Place: journal.End, Written: "23.50"}))
	assert.Equal(t, 422, status)
	assert.Contains(t, text, "only notes are taken now")
	status, text = write(mira, entry("after-a-note", 21, journal.Remark{Written: "I forgot to say"}))
	assert.Equal(t, 200, status, text)
	_, lines := s.call(mira, "GET", path+"/journal", nil)
	assert.Contains(t, lines, `"after":true`, "the note is marked as after handing in")
	status, _ = s.call(mira, "POST", path+"/pictures", "x")
	assert.Equal(t, 422, status)

	// Given back, with the reason; only by an instructor, and once.
	back := func(c *http.Client, version int) (int, string) {
		return s.call(c, "POST", fmt.Sprintf("%s/submissions/%d/return", path, version), map[string]string{"reason": "Say what you rinsed with."})
	}
	status, _ = back(moor, 1)
	assert.Equal(t, 403, status)
	status, _ = back(farrow, 2)
	assert.Equal(t, 422, status)
	status, text = back(farrow, 1)
	require.Equal(t, 204, status, text)
	status, _ = back(farrow, 1)
	assert.Equal(t, 422, status)
	r := s.report(mira, n.ID, 0)
	require.Len(t, r.Submissions, 1)
	assert.Equal(t, "Say what you rinsed with.", r.Submissions[0].Reason)
	_, acts := s.call(farrow, "GET", "/api/classes/"+s.class+"/acts", nil)
	assert.Contains(t, acts, "gave the report of Mira Quillon back")

	status, text = write(mira, entry("passage-two", 30, journal.Passage{Prompt: journal.Method, Written: "Rinsed, then ran it in.", Over: []string{"passage-one"}}))
	require.Equal(t, 200, status, text)
	s.due(farrow, p.ID, -2*time.Hour, -time.Hour)
	status, text = hand(mira, 6)
	require.Equal(t, 200, status, "a version that was asked for is taken: %s", text)

	// Every version is there as it was, with what changed; and nothing that is withheld.
	first, second := s.report(mira, n.ID, 1), s.report(mira, n.ID, 2)
	assert.Equal(t, "I ran it in.", first.Passages[0].Stand[0].Text)
	assert.Equal(t, "Rinsed, then ran it in.", second.Passages[0].Stand[0].Text)
	assert.NotContains(t, strings.Join(texts(first.Notes), " "), "I forgot to say")
	assert.Contains(t, strings.Join(second.Changes, "|"), "was “I ran it in.”, is “Rinsed, then ran it in.”")
	for version := range 3 {
		_, text := s.call(mira, "GET", fmt.Sprintf("%s/report?version=%d", path, version), nil)
		assert.NotContains(t, text, "0.09871", "the true value, version %d", version)
		assert.Contains(t, text, `"withheld":true`, version)
	}
	assert.False(t, s.report(farrow, n.ID, 1).Withheld)
	// Its files are the same whenever they are made, and hold no more than the page.
	for _, ending := range []string{"pdf", "xlsx", "csv", "zip"} {
		file := path + "/report." + ending + "?version=2"
		status, one := s.call(mira, "GET", file, nil)
		require.Equal(t, 200, status, one)
		_, two := s.call(mira, "GET", file, nil)
		assert.Equal(t, one, two, ending)
		if ending == "zip" {
			back, err := files.ReadArchive([]byte(one))
			require.NoError(t, err)
			assert.True(t, back.Document.Practical.Asked.Reference.IsZero(), "the true value")
			assert.Equal(t, receipt.Receipt, back.Receipts["version-1.txt"])
		}
	}
	status, _ = s.call(teo, "GET", path+"/report?version=1", nil)
	assert.Equal(t, 404, status)
	status, _ = s.call(mira, "GET", path+"/report?version=3", nil)
	assert.Equal(t, 404, status)
}

// A picture is decoded and written anew: nothing of what was hidden in the file is kept;
// what is none, too large, or one too many is refused.
func TestPictures(t *testing.T) {
	s := newSchool(t, nil)
	mira, teo := s.client("mira"), s.client("teo")
	n := s.notebook(mira, "buffer-dosing")
	path := "/api/notebooks/" + n.ID
	drawn := image.NewRGBA(image.Rect(0, 0, 40, 30))
	drawn.Set(3, 4, color.RGBA{200, 0, 100, 255})
	var plain bytes.Buffer
	require.NoError(t, jpeg.Encode(&plain, drawn, nil))
	where := "\xff\xe1\x00\x14Exif\x00\x00GPS 54.1 10.1" // a segment as cameras write it, behind the first two bytes
	tagged := append(append(plain.Bytes()[:2:2], where...), plain.Bytes()[2:]...)
	_, err := jpeg.Decode(bytes.NewReader(tagged))
	require.NoError(t, err, "it is a picture")
	send := func(content []byte) (status int, out bench.NewPicture, text string) {
		status, text = s.call(mira, "POST", path+"/pictures", string(content))
		_ = json.Unmarshal([]byte(text), &out)
		return status, out, text
	}
	status, kept, text := send(tagged)
	require.Equal(t, 200, status, text)
	assert.Equal(t, [2]int{40, 30}, [2]int{kept.Width, kept.Height})
	res, err := mira.Get(s.url + path + "/pictures/" + kept.Hash)
	require.NoError(t, err)
	defer res.Body.Close()
	assert.Equal(t, "image/jpeg", res.Header.Get("Content-Type"))
	var back bytes.Buffer
	_, err = back.ReadFrom(res.Body)
	require.NoError(t, err)
	assert.Equal(t, kept.Hash, formats.Hash(back.Bytes()))
	assert.NotContains(t, back.String(), "GPS")
	status, _ = s.call(teo, "GET", path+"/pictures/"+kept.Hash, nil)
	assert.Equal(t, 404, status, "another student's")

	var wide bytes.Buffer
	require.NoError(t, png.Encode(&wide, image.NewGray(image.Rect(0, 0, 9000, 9000))))
	for name, bad := range map[string][]byte{"none": []byte("<svg onload=alert(1)>"), "half a one": plain.Bytes()[:60], "a bomb": wide.Bytes(),
		"a GIF": []byte("GIF89a\x01\x00\x01\x00\x80\x00\x00\x00\x00\x00\xff\xff\xff,\x00\x00\x00\x00\x01\x00\x01\x00\x00\x02\x02D\x01\x00;")} {
		status, _, text := send(bad)
		assert.Equal(t, 422, status, "%s: %s", name, text)
	}
	status, _, _ = send(make([]byte, 2<<20))
	assert.Equal(t, 413, status)
	for i := range 6 {
		status, text := s.call(mira, "POST", path+"/entries", entries{[]journal.Entry{
			entry(fmt.Sprintf("picture-%d", i), int64(100+i), journal.Picture{Hash: kept.Hash, Width: 40, Height: 30, Caption: "label"})}})
		require.Equal(t, 200, status, text)
	}
	assert.Len(t, s.report(mira, n.ID, 0).Pictures, 6)
	status, _, text = send(plain.Bytes())
	assert.Equal(t, 422, status)
	assert.Contains(t, text, "6 pictures at most")
}

// An archive becomes a notebook again: the same record under ids of its own, its pictures,
// a note that says where it came from; and a document alone does so too.
func TestImport(t *testing.T) {
	s := newSchool(t, nil)
	mira, teo, farrow := s.client("mira"), s.client("teo"), s.client("farrow")
	n := s.notebook(mira, "buffer-dosing")
	path := "/api/notebooks/" + n.ID
	var small bytes.Buffer
	require.NoError(t, png.Encode(&small, image.NewGray(image.Rect(0, 0, 8, 8))))
	status, text := s.call(mira, "POST", path+"/pictures", small.String())
	require.Equal(t, 200, status, text)
	var kept bench.NewPicture
	require.NoError(t, json.Unmarshal([]byte(text), &kept))
	step := n.Sheet.Work[0].Step.Step
	status, text = s.call(mira, "POST", path+"/entries", entries{[]journal.Entry{
		entry("import-picture", 900, journal.Picture{Hash: kept.Hash, Width: 8, Height: 8, Caption: "set-up"}),
		entry("import-answer", 901, journal.Answer{Step: step, Written: "0.0225", Unit: "mol"})}})
	require.Equal(t, 200, status, text)
	_, archive := s.call(mira, "GET", path+"/report.zip", nil)
	_, document := s.call(mira, "GET", path+"/document", nil)
	before := s.report(mira, n.ID, 0)

	// The class's archive holds that of each who began, and says their hashes.
	_, whole := s.call(farrow, "GET", "/api/classes/"+s.class+"/practicals/buffer-dosing/archive.zip", nil)
	all, err := zip.NewReader(strings.NewReader(whole), int64(len(whole)))
	require.NoError(t, err)
	var names []string
	for _, f := range all.File {
		names = append(names, f.Name)
	}
	assert.Contains(t, names, "Mira-Quillon.zip")
	assert.Equal(t, "manifest.json", names[len(names)-1])
	opened, err := all.Open("Mira-Quillon.zip")
	require.NoError(t, err)
	one, err := io.ReadAll(opened)
	require.NoError(t, err)
	_, err = files.ReadArchive(one)
	require.NoError(t, err)

	room := "/api/classes/" + s.class + "/people/"
	status, _ = s.call(teo, "POST", room+s.personID("teo")+"/imports", archive)
	assert.Equal(t, 403, status)
	status, text = s.call(farrow, "POST", room+s.personID("farrow")+"/imports", archive)
	assert.Equal(t, 422, status, text)
	for who, content := range map[string]string{"teo": archive, "jory": document} {
		status, text = s.call(farrow, "POST", room+s.personID(who)+"/imports", content)
		require.Equal(t, 200, status, text)
		var in bench.Imported
		require.NoError(t, json.Unmarshal([]byte(text), &in))
		after := s.report(s.client(who), in.Notebook, 0)
		assert.Equal(t, before.Title+" (imported)", after.Title)
		assert.Contains(t, strings.Join(texts(after.Notes), " "), "Imported: ")
		assert.Contains(t, strings.Join(texts(after.Notes), " "), "by Mira Quillon")
		require.Len(t, after.Rows, len(before.Rows))
		for i := range before.Rows {
			assert.Equal(t, before.Rows[i].Cells, after.Rows[i].Cells)
			assert.NotEqual(t, before.Rows[i].Trial, after.Rows[i].Trial)
		}
		assert.Equal(t, before.Own, after.Own)
		if who == "teo" {
			status, _ = s.call(teo, "GET", "/api/notebooks/"+in.Notebook+"/pictures/"+kept.Hash, nil)
			assert.Equal(t, 200, status)
		}
		status, text = s.call(farrow, "POST", room+s.personID(who)+"/imports", content)
		assert.Equal(t, 422, status)
		assert.Contains(t, text, "was taken in for")
	}
	status, text = s.call(farrow, "POST", room+s.personID("anouk")+"/imports", archive[:len(archive)/2])
	assert.Equal(t, 422, status)
	assert.Contains(t, text, "cut off")
}

// texts are notes as they read.
func texts(notes []view.ReportNote) []string {
	out := make([]string, len(notes))
	for i, n := range notes {
		out[i] = n.Text
	}
	return out
}
