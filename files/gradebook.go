package files

import (
	"encoding/csv"
	"fmt"
	"io"
	"time"

	"github.com/xuri/excelize/v2"

	"exactflask/core/values/decimal"
	"exactflask/wording"
)

// Gradebook is a table of marks.
type Gradebook struct {
	Title, Class string
	Made         time.Time
	Head         []string
	Rows         [][]GradeCell
	History      [][]string // when, and what was done
}

// GradeCell is a number, or text.
type GradeCell struct {
	Text   string
	Number *decimal.Decimal
}

func (c GradeCell) text() string {
	if c.Number != nil {
		return c.Number.String()
	}
	return safe(c.Text)
}

// GradesCSV writes the table as CSV, UTF-8 with a mark at its beginning, as spreadsheets
// want it.
func GradesCSV(to io.Writer, g Gradebook) error {
	if _, err := io.WriteString(to, "\ufeff"); err != nil {
		return err
	}
	w := csv.NewWriter(to)
	w.UseCRLF = true // RFC 4180
	head := make([]string, len(g.Head))
	for i, h := range g.Head {
		head[i] = safe(h)
	}
	rows := [][]string{head}
	for _, row := range g.Rows {
		cells := make([]string, len(row))
		for i, c := range row {
			cells[i] = c.text()
		}
		rows = append(rows, cells)
	}
	return w.WriteAll(rows)
}

// GradesXLSX writes the table as a workbook, with everything that was awarded on a sheet
// of its own.
func GradesXLSX(to io.Writer, g Gradebook) error {
	f := excelize.NewFile()
	defer f.Close()
	w := wording.For()
	b := &book{f: f, w: w, table: w.Text("grade.sheet"), said: w.Text("grade.history")}
	b.do(f.SetSheetName("Sheet1", b.table))
	stamp := g.Made.UTC().Format("2006-01-02T15:04:05Z")
	b.do(f.SetDocProps(&excelize.DocProperties{Title: g.Title, Creator: g.Class, Created: stamp, Modified: stamp, Language: "en"}))
	bold, err := f.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}, Alignment: &excelize.Alignment{WrapText: true, Vertical: "top"}})
	b.do(err)
	for i, h := range g.Head {
		b.do(f.SetCellStr(b.table, cell(i+1, 1), h))
	}
	if len(g.Head) > 0 {
		b.do(f.SetCellStyle(b.table, cell(1, 1), cell(len(g.Head), 1), bold))
	}
	for r, row := range g.Rows {
		for i, c := range row {
			if c.Number != nil {
				b.do(f.SetCellFloat(b.table, cell(i+1, r+2), c.Number.Float64(), -1, 64))
			} else {
				b.do(f.SetCellStr(b.table, cell(i+1, r+2), c.Text))
			}
		}
	}
	b.do(f.SetColWidth(b.table, "A", "A", 24))
	b.do(f.SetPanes(b.table, &excelize.Panes{Freeze: true, XSplit: 1, YSplit: 1, TopLeftCell: "B2", ActivePane: "bottomRight"}))
	if _, err := f.NewSheet(b.said); err != nil {
		b.do(err)
	}
	for r, line := range g.History {
		for i, text := range line {
			b.do(f.SetCellStr(b.said, cell(i+1, r+1), text))
		}
	}
	b.do(f.SetColWidth(b.said, "A", "A", 22))
	if b.err != nil {
		return fmt.Errorf("writing a gradebook: %w", b.err)
	}
	return writeBook(to, f)
}
