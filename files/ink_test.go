package files_test

import (
	"bytes"
	"compress/zlib"
	"encoding/csv"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"
	"unicode/utf16"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"exactflask/core/chemistry/glass"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
	"exactflask/files"
	"exactflask/formats"
	"exactflask/view"
	"exactflask/wording"
)

var streams = regexp.MustCompile(`(?s)stream\n(.*?)\nendstream`)

// onPaper is the text of a PDF as fpdf writes it, two bytes a letter; line breaks are spaces.
func onPaper(t testing.TB, pdf []byte) string {
	var units []uint16
	for _, s := range streams.FindAllSubmatch(pdf, -1) {
		z, err := zlib.NewReader(bytes.NewReader(s[1]))
		if err != nil {
			continue
		}
		plain, err := io.ReadAll(z)
		if err != nil || !bytes.Contains(plain, []byte("Tj")) {
			continue
		}
		for _, shown := range regexp.MustCompile(`(?s)\(((?:[^\\()]|\\.)*)\)\s*Tj`).FindAllSubmatch(plain, -1) {
			text := bytes.NewBuffer(nil)
			for i := 0; i < len(shown[1]); i++ {
				if shown[1][i] == '\\' {
					if i++; shown[1][i] == 'r' {
						text.WriteByte('\r')
						continue
					}
				}
				text.WriteByte(shown[1][i])
			}
			for b := text.Bytes(); len(b) >= 2; b = b[2:] {
				units = append(units, uint16(b[0])<<8|uint16(b[1]))
			}
			units = append(units, ' ')
		}
	}
	return strings.Join(strings.Fields(string(utf16.Decode(units))), " ")
}

// Ink is ink on every way out: of each kind of entry what was first written, the reason and who
// struck it stand on the report, in PDF, workbook and CSV; the archive holds the journal itself.
func TestInkOnEveryWayOut(t *testing.T) {
	probe := practicaltest.Plain()
	probe.Probe = practical.Probe{Shows: journal.ShownPH}
	kinds := map[journal.Kind]bool{}
	for _, c := range []struct {
		part  journal.Part
		first string // what was first written, as it is shown
		to    string // what it is corrected to; empty where it can only be withdrawn
	}{
		{journal.Opening{Type: journal.Rough}, "rough", "accurate"},
		{journal.Scale{Of: "trial-01", Place: journal.Start, Written: "0.15"}, "0.15", "0.25"},
		{journal.Scale{Of: "trial-01", Place: journal.End, Written: "23.45"}, "23.45", "23.55"},
		{journal.Scale{Of: "trial-01", Place: journal.Provisional, Written: "22.85"}, "22.85", "22.95"},
		{journal.Exclusion{Of: "trial-01", Reason: "jet dripped"}, "jet dripped", "jet leaked"},
		{journal.Remark{Written: "fizzed strongly"}, "fizzed strongly", "fizzed"},
		{journal.Checked{Item: "goggles"}, "Goggles on", ""},
		{journal.Observation{About: journal.Batch, Written: "bottle 7"}, "bottle 7", "bottle 9"},
		{journal.Observation{About: journal.EndColour, Of: "trial-01", Written: journal.Deep}, "deep", journal.Pale},
		{journal.Weighing{What: "shell", Full: "12.3456", Emptied: "11.1234"}, "12.3456", ""},
		{journal.Calibration{Buffer: "4.00", Shown: "4.13", Unit: journal.ShownPH}, "4.13", ""},
		{journal.ProbePoint{Of: "trial-01", Burette: "1.35", Shown: "3.27"}, "3.27", "1.35 3.29"},
		{journal.Prepared{Stock: "6.02", Taken: "8.35", MadeUp: "500"}, "6.02", ""},
		{journal.OwnValue{What: journal.OwnTemperature, Written: "21.7"}, "21.7", "22.7"},
		{journal.OwnGlass{Piece: glass.Piece{Kind: glass.Graduated, Name: "Syringe nine", Capacity: decimal.Must("30.0"), Division: decimal.Must("0.5")}}, "Syringe nine", ""},
		{journal.Timer{For: journal.ForLeak, Seconds: 37}, "37", ""},
		{journal.Known{Written: "0.1037"}, "0.1037", "0.1073"},
		{journal.Answer{Step: "titrant-amount", Written: "2.337", Unit: "mmol"}, "2.337", "2.373"},
		{journal.Picture{Hash: strings.Repeat("ab", 32), Width: 30, Height: 20, Caption: "label seen"}, "label seen", "label read"},
		{journal.Passage{Prompt: journal.Method, Written: "We boiled it first."}, "We boiled it first.", ""},
		{journal.Belonging{Of: "trial-01", Sample: "stored warm"}, "stored warm", ""},
	} {
		kinds[c.part.Kind()] = true
		for _, withdraw := range []bool{false, true} {
			if c.to == "" && !withdraw {
				continue
			}
			name := fmt.Sprintf("%s %q, withdrawn: %v", c.part.Kind(), c.first, withdraw)
			p := practicaltest.Plain()
			switch c.part.Kind() {
			case "calibration", "point":
				p = probe
			case "sample":
				p.Samples = []practical.Sample{{Name: "stored cold", Control: true}, {Name: "stored warm"}}
			}
			r, fault := p.Check()
			require.Nil(t, fault, name)
			var entries []journal.Entry
			add := func(id, by string, part journal.Part) {
				entries = append(entries, journal.Entry{ID: id, Author: by, Device: "d", Clock: int64(len(entries) + 1), At: made.Add(time.Duration(len(entries)) * time.Minute), Part: part})
			}
			if c.part.Kind() == "trial" {
				add("trial-01", "mira", c.part)
			} else {
				add("trial-01", "mira", journal.Opening{Type: journal.Accurate})
				if s, ok := c.part.(journal.Scale); !ok || s.Place != journal.Start {
					add("start-01", "mira", journal.Scale{Of: "trial-01", Place: journal.Start, Written: "0.05"})
				}
				add("entry-01", "mira", c.part)
			}
			replaces := entries[len(entries)-1].ID
			change := journal.Correction{Replaces: replaces, Value: c.to, Reason: "misread glass", Withdraw: withdraw}
			if withdraw {
				change.Value = ""
			}
			add("change-1", "tove", change)
			ev := experiment.Evaluate(r, entries, experiment.All)
			report := files.Report{Report: view.ReportOf(r, view.Of(r, ev, practical.Style{}), view.About{Student: "Mira Quillon", Class: "Tide", Begun: made,
				People: map[string]string{"mira": "Mira Quillon", "tove": "Tove Arkwright"}}), Document: formats.New(p, entries, nil), Made: made}
			told := slices.ContainsFunc(report.Corrections, func(s view.Corrected) bool {
				return strings.Contains(s.Text, c.first) && s.Reason == "misread glass" && s.By == "Tove Arkwright" && !s.At.IsZero()
			})
			assert.True(t, told, "%s: screen and print: %+v", name, report.Corrections)

			var pdf, book, list bytes.Buffer
			require.NoError(t, files.PDF(&pdf, report, files.A4), name)
			paper := onPaper(t, pdf.Bytes())
			for _, want := range []string{c.first, "misread glass", "Tove Arkwright"} {
				assert.Contains(t, strings.ReplaceAll(paper, "\u00a0", " "), want, "%s: PDF", name)
			}
			require.NoError(t, files.XLSX(&book, report), name)
			f, err := excelize.OpenReader(&book)
			require.NoError(t, err, name)
			rows, err := f.GetRows("Corrections")
			require.NoError(t, err, name)
			assert.Contains(t, fmt.Sprint(rows), c.first, "%s: workbook", name)
			assert.Contains(t, fmt.Sprint(rows), "misread glass Tove Arkwright", "%s: workbook", name)
			require.NoError(t, files.CSV(&list, report), name)
			lines, err := csv.NewReader(&list).ReadAll()
			require.NoError(t, err, name)
			last := lines[len(lines)-1]
			assert.Contains(t, last[4], c.first, "%s: CSV", name)
			assert.Equal(t, []string{"misread glass", "Tove Arkwright"}, last[7:9], "%s: CSV", name)
		}
	}
	for code := range wording.Codes() {
		if kind, is := strings.CutPrefix(code, "journal.kind."); is && kind != "correction" {
			assert.True(t, kinds[journal.Kind(kind)], "%s has no row", kind)
		}
	}
}
