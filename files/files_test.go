package files_test

import (
	"archive/zip"
	"bytes"
	"encoding/csv"
	"encoding/json"
	"encoding/xml"
	"image"
	"image/png"
	"io"
	"math"
	"os"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"exactflask/core/judgement/experiment"
	"exactflask/core/practice/sim"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/files"
	"exactflask/formats"
	"exactflask/view"
)

var made = time.Date(2026, 11, 24, 10, 0, 0, 0, time.UTC)

// reports are those of a simulated student in every worked practical, with a picture, a
// passage, and a reading that was corrected.
func reports(t testing.TB) map[string]files.Report {
	var picture bytes.Buffer
	require.NoError(t, png.Encode(&picture, image.NewGray(image.Rect(0, 0, 30, 20))))
	hash := formats.Hash(picture.Bytes())
	out := map[string]files.Report{}
	for _, e := range practicaltest.Examples(t) {
		entries, err := sim.Titrate(e.Ready, sim.Student{Seed: 5, Skill: sim.Usual, Device: "d", Author: "mira", Begin: made})
		require.NoError(t, err, e.Name)
		add := func(id string, p journal.Part) {
			entries = append(entries, journal.Entry{ID: id, Author: "mira", Device: "d", Clock: int64(len(entries) + 1), At: made, Part: p})
		}
		add("passage-1", journal.Passage{Prompt: journal.Method, Written: "=1+1 is no formula; Δ, ½, Na₂CO₃, “quoted”."})
		add("picture-1", journal.Picture{Hash: hash, Width: 30, Height: 20, Caption: "label"})
		ev := experiment.Evaluate(e.Ready, entries, experiment.All)
		sheet := view.Of(e.Ready, ev, e.Ready.Showing.Style)
		r := files.Report{Report: view.ReportOf(e.Ready, sheet, view.About{Student: "Mira Quillon", Class: "Tide", Begun: made, Seal: "0123456789abcdef00"}),
			Document: formats.New(e.Ready.Practical, entries, map[string]string{"mira": "Mira Quillon"}), Made: made,
			Pictures: []files.Picture{{hash, "label", "image/png", picture.Bytes()}}}
		r.Submissions = []view.Submission{{Version: 1, At: made, Receipt: "format: exactflask.receipt 1\n"}}
		if ev.Result != nil {
			r.Derivation = &ev.Result.Derivation
		}
		out[e.Name] = r
	}
	return out
}

// Every figure of the working is a formula that a spreadsheet computes to the same value,
// down to the answer; titres are formulas of the readings.
func TestWorkbookRecalculates(t *testing.T) {
	answers := 0
	for name, r := range reports(t) {
		var b bytes.Buffer
		require.NoError(t, files.XLSX(&b, r), name)
		f, err := excelize.OpenReader(&b)
		require.NoError(t, err, name)
		if r.Derivation == nil {
			continue
		}
		live := 0
		for i, n := range r.Derivation.Nodes {
			at, _ := excelize.CoordinatesToCellName(2, i+2)
			formula, err := f.GetCellFormula("Working", at)
			require.NoError(t, err)
			if !n.Leaf() {
				assert.NotEmpty(t, formula, "%s: %s is a formula", name, n.ID)
			}
			text, err := f.GetCellValue("Working", at, excelize.Options{RawCellValue: true})
			if formula != "" {
				live++
				text, err = f.CalcCellValue("Working", at, excelize.Options{RawCellValue: true})
			}
			require.NoError(t, err, "%s %s", name, at)
			v, err := strconv.ParseFloat(text, 64)
			require.NoError(t, err, "%s %s %q", name, at, formula)
			assert.InDelta(t, n.Quantity.Value, v, 1e-12*max(1e-3, math.Abs(n.Quantity.Value)), "%s: %s", name, n.ID)
		}
		assert.Greater(t, live, len(r.Derivation.Nodes)/3, name)
		answers++
		titres := 0
		for row := range r.Rows {
			for column, c := range r.Columns {
				at, _ := excelize.CoordinatesToCellName(column+2, row+5)
				formula, _ := f.GetCellFormula("Readings", at)
				if c.Code != "titre" || formula == "" {
					continue
				}
				titres++
				text, err := f.CalcCellValue("Readings", at, excelize.Options{RawCellValue: true})
				require.NoError(t, err, name)
				v, _ := strconv.ParseFloat(text, 64)
				want, err := strconv.ParseFloat(r.Rows[row].Cells[column].Text, 64)
				require.NoError(t, err)
				assert.InDelta(t, want, v, 1e-9, "%s %s", name, formula)
			}
		}
		assert.True(t, titres > 0 || len(r.Columns) == 0, name)
	}
	assert.Greater(t, answers, 15)
}

// The same report is written the same, byte for byte; on both papers, on few pages.
// The workbook that other programs read, in the tests of the page too (ui/src/shared/workbook.test.ts),
// is the one that is written here. WRITE_WORKBOOK=1 writes it anew.
func TestWorkbookForOtherReaders(t *testing.T) {
	const kept = "testdata/workbook.xlsx"
	var b bytes.Buffer
	require.NoError(t, files.XLSX(&b, reports(t)["algae-vinegar.json"]))
	if os.Getenv("WRITE_WORKBOOK") != "" {
		require.NoError(t, os.MkdirAll("testdata", 0o755))
		require.NoError(t, os.WriteFile(kept, b.Bytes(), 0o644))
	}
	was, err := os.ReadFile(kept)
	require.NoError(t, err)
	before, now := contents(t, was), contents(t, b.Bytes())
	assert.Len(t, now, len(before))
	for name, text := range before {
		assert.Equal(t, string(text), string(now[name]), name)
	}
	assert.NotContains(t, string(now["xl/worksheets/sheet2.xml"]), "<f></f>")
	assert.Contains(t, string(now["docProps/core.xml"]), "<cp:lastModifiedBy>")
}

func TestPDF(t *testing.T) {
	for name, r := range reports(t) {
		for _, paper := range []files.Paper{files.A4, files.Letter} {
			var one, two bytes.Buffer
			require.NoError(t, files.PDF(&one, r, paper), name)
			require.NoError(t, files.PDF(&two, r, paper), name)
			assert.True(t, bytes.Equal(one.Bytes(), two.Bytes()), "%s on %s", name, paper)
			assert.True(t, bytes.HasPrefix(one.Bytes(), []byte("%PDF-")))
			assert.Contains(t, one.String(), "/Lang (en)", name)
			pages := bytes.Count(one.Bytes(), []byte("/Type /Page\n"))
			assert.True(t, pages >= 1 && pages <= 4, "%s on %s: %d pages", name, paper, pages)
		}
	}
}

func TestCSV(t *testing.T) {
	for name, r := range reports(t) {
		var b bytes.Buffer
		require.NoError(t, files.CSV(&b, r))
		lines, err := csv.NewReader(&b).ReadAll()
		require.NoError(t, err, name)
		assert.Len(t, lines, 1+len(r.Rows)*len(r.Columns), name)
		figures := 0
		for _, line := range lines[1:] {
			for _, text := range line[2:4] {
				if v, err := strconv.ParseFloat(text, 64); err == nil && !math.IsNaN(v) {
					figures++
				}
			}
		}
		assert.True(t, figures > len(r.Rows) || len(r.Columns) == 0, name)
	}
	r := files.Report{}
	r.Columns, r.Rows = []view.Column{{Code: "titre", Name: "Titre", Unit: "mL", Head: "Titre / mL"}}, []view.Row{{Name: "=cmd()", Reason: "+1", Cells: []view.Cell{{Text: "−0,05", Value: new(decimal.Must("-0.05"))}}}}
	var b bytes.Buffer
	require.NoError(t, files.CSV(&b, r))
	assert.Contains(t, b.String(), "'=cmd(),Titre,-0.05,,,no,'+1", "texts are no formulas, figures are figures")
	assert.Equal(t, strings.Count(b.String(), "\n"), strings.Count(b.String(), "\r\n"), "lines end as RFC 4180 says")
}

// What goes into an archive comes out of it, for every worked practical; the manifest says
// what RO-Crate 1.1 asks for.
func TestArchive(t *testing.T) {
	for name, r := range reports(t) {
		var one, two bytes.Buffer
		require.NoError(t, files.Archive(&one, r), name)
		require.NoError(t, files.Archive(&two, r), name)
		assert.True(t, bytes.Equal(one.Bytes(), two.Bytes()), name)
		back, err := files.ReadArchive(one.Bytes())
		require.NoError(t, err, name)
		want, err := json.Marshal(r.Document)
		require.NoError(t, err)
		got, err := json.Marshal(back.Document)
		require.NoError(t, err)
		assert.JSONEq(t, string(want), string(got), name)
		assert.Equal(t, r.Pictures, back.Pictures, name)
		assert.Equal(t, map[string]string{"version-1.txt": r.Submissions[0].Receipt}, back.Receipts)
	}
	var b bytes.Buffer
	require.NoError(t, files.Archive(&b, reports(t)["descaling-acid.json"]))
	var crate struct {
		Context string           `json:"@context"`
		Graph   []map[string]any `json:"@graph"`
	}
	require.NoError(t, json.Unmarshal(contents(t, b.Bytes())["ro-crate-metadata.json"], &crate))
	assert.Equal(t, "https://w3id.org/ro/crate/1.1/context", crate.Context)
	types := map[string]string{}
	for _, e := range crate.Graph {
		types[e["@id"].(string)] = e["@type"].(string)
	}
	assert.Equal(t, "CreativeWork", types["ro-crate-metadata.json"])
	assert.Equal(t, "Dataset", types["./"])
	for name := range contents(t, b.Bytes()) {
		assert.Contains(t, types, name)
	}
}

func contents(t testing.TB, archive []byte) map[string][]byte {
	z, err := zip.NewReader(bytes.NewReader(archive), int64(len(archive)))
	require.NoError(t, err)
	out := map[string][]byte{}
	for _, f := range z.File {
		r, err := f.Open()
		require.NoError(t, err)
		out[f.Name], err = io.ReadAll(r)
		require.NoError(t, err)
	}
	return out
}

func packed(t testing.TB, members map[string][]byte) []byte {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for name, text := range members {
		w, err := z.Create(name)
		require.NoError(t, err)
		_, err = w.Write(text)
		require.NoError(t, err)
	}
	require.NoError(t, z.Close())
	return b.Bytes()
}

// A row for each way in which an archive is refused.
func TestBadArchives(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, files.Archive(&b, reports(t)["descaling-acid.json"]))
	with := func(change func(map[string][]byte)) []byte {
		members := contents(t, b.Bytes())
		change(members)
		return packed(t, members)
	}
	for code, archive := range map[string][]byte{
		"archive.none": b.Bytes()[:b.Len()/2],
		"archive.large": with(func(m map[string][]byte) {
			m["bomb"] = make([]byte, 20<<20)
		}),
		"archive.name":    with(func(m map[string][]byte) { m["../../etc/passwd"] = []byte("x") }),
		"archive.missing": with(func(m map[string][]byte) { delete(m, "report.pdf") }),
		"archive.changed": with(func(m map[string][]byte) {
			m["notebook.json"] = bytes.Replace(m["notebook.json"], []byte("0.00"), []byte("0.10"), 1)
		}),
	} {
		_, err := files.ReadArchive(archive)
		var fault *finding.Fault
		require.ErrorAs(t, err, &fault, code)
		assert.Equal(t, code, fault.Code)
	}
	for name, change := range map[string]func(map[string][]byte){
		"a file that the manifest does not name": func(m map[string][]byte) { m["extra.txt"] = []byte("x") },
		"no manifest":                            func(m map[string][]byte) { delete(m, "ro-crate-metadata.json") },
		"a manifest that is none":                func(m map[string][]byte) { m["ro-crate-metadata.json"] = []byte("[") },
		"an absolute name":                       func(m map[string][]byte) { m["/etc/passwd"] = []byte("x") },
		"a name with a drive":                    func(m map[string][]byte) { m[`C:\x`] = []byte("x") },
	} {
		_, err := files.ReadArchive(with(change))
		assert.Error(t, err, name)
	}
}

func FuzzReadArchive(f *testing.F) {
	f.Add(packed(f, map[string][]byte{"notebook.json": []byte("{}"), "ro-crate-metadata.json": []byte(`{"@graph":[]}`)}))
	f.Add([]byte("PK\x03\x04"))
	f.Add([]byte(strings.Repeat("PK", 50)))
	f.Fuzz(func(t *testing.T, archive []byte) {
		if back, err := files.ReadArchive(archive); err == nil {
			_, fault := back.Document.Practical.Check()
			assert.Nil(t, fault)
		}
	})
}

// What a run with a probe is, is in every file: each point as it was written, struck ones
// marked, and the curve.
func TestRunsInFiles(t *testing.T) {
	r := reports(t)["formic-curve.json"]
	var points, curve bytes.Buffer
	require.NoError(t, files.Points(&points, r))
	lines, err := csv.NewReader(&points).ReadAll()
	require.NoError(t, err)
	require.Len(t, lines, len(r.Report.Points)+1)
	for i, p := range r.Report.Points {
		assert.Equal(t, []string{p.Burette, p.Shown}, lines[i+1][1:3])
	}
	require.NoError(t, files.Curve(&curve, r))
	decoder := xml.NewDecoder(&curve)
	dots, named := 0, false
	for {
		token, err := decoder.Token()
		if err == io.EOF {
			break
		}
		require.NoError(t, err)
		if e, ok := token.(xml.StartElement); ok && e.Name.Local == "circle" {
			dots++
		}
		if text, ok := token.(xml.CharData); ok {
			named = named || strings.Contains(string(text), "Trial 1")
		}
	}
	assert.Greater(t, dots, len(r.Report.Points))
	assert.True(t, named)
	var book bytes.Buffer
	require.NoError(t, files.XLSX(&book, r))
	f, err := excelize.OpenReader(&book)
	require.NoError(t, err)
	first, err := f.GetCellValue("Points", "B2")
	require.NoError(t, err)
	assert.Equal(t, r.Report.Points[0].Burette, first)
	ways, err := f.GetRows("End point by each way")
	require.NoError(t, err)
	assert.GreaterOrEqual(t, len(ways), 1+5*len(r.Runs))
}

// Signs beyond the first plane of Unicode are more than the library that writes the PDF can take: what people
// write is written all the same.
func TestAnySignInAPDF(t *testing.T) {
	for _, sign := range []string{"\U0001F600", "\U00010000", "\uFFFF"} {
		r := reports(t)["algae-vinegar.json"]
		text := "before " + sign + " behind"
		r.Title, r.Purpose, r.Student = text, text, text
		r.Notes = append(r.Notes, view.ReportNote{Text: text})
		r.Rows = slices.Clone(r.Rows)
		r.Rows[0].Name, r.Rows[0].Reason = text, text
		var pdf bytes.Buffer
		require.NotPanics(t, func() { require.NoError(t, files.PDF(&pdf, r, files.A4)) }, "%+q", sign)
		assert.Greater(t, pdf.Len(), 10_000)
	}
}
