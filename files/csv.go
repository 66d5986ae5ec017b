package files

import (
	"encoding/csv"
	"io"
	"strings"
	"time"

	"exactflask/core/values/quantity"
	"exactflask/view"
)

// CSV writes the readings in long form: a line for each figure of each trial, its unit in
// the head of its column. UTF-8, commas, a point in numbers (RFC 4180).
func CSV(to io.Writer, r Report) error {
	w := csv.NewWriter(to)
	w.UseCRLF = true                                                                                                                           // RFC 4180
	head := []string{"trial", "reading", "volume / mL", "mass / g", "struck", "counts", "verdict", "struck because", "struck by", "struck at"} // for machines: always these
	if err := w.Write(head); err != nil {
		return err
	}
	for _, row := range r.Rows {
		for i, cell := range row.Cells {
			column := r.Columns[i]
			volume, mass := figure(cell), ""
			if column.Unit == quantity.Gram {
				volume, mass = "", volume
			}
			line := []string{safe(row.Name), column.Name, volume, mass, strings.Join(cell.Struck, "; "), yes(row.Counts), safe(row.Reason), "", "", ""}
			if err := w.Write(line); err != nil {
				return err
			}
		}
	}
	for _, c := range r.Corrections { // what was struck, with the reason, a line each
		line := []string{safe(c.Trial), c.Place, "", "", safe(c.Text), "", "", safe(c.Reason), safe(c.By), c.At.UTC().Format(time.RFC3339)}
		if err := w.Write(line); err != nil {
			return err
		}
	}
	w.Flush()
	return w.Error()
}

// figure is a figure as a machine reads it; what is none, such as two readings of a
// filling, as it is shown; nothing where there is nothing.
func figure(c view.Cell) string {
	switch {
	case c.Value != nil:
		return c.Value.String()
	case c.Text == view.Nothing:
		return ""
	}
	return c.Text
}

// safe keeps a spreadsheet from taking a text for a formula.
func safe(text string) string {
	if text != "" && strings.ContainsRune("=+-@\t\r", rune(text[0])) {
		return "'" + text
	}
	return text
}

func yes(b bool) string {
	if b {
		return "yes"
	}
	return "no"
}
