// Package points reads the points of a titration that was followed with a probe out of a
// table of text: a line a point, with the burette and what the probe showed. Which column
// is which is guessed from heads and figures, and can be said.
package points

import (
	"slices"
	"strings"

	"exactflask/core/record/journal"
	"exactflask/core/values/finding"
	"exactflask/formats/table"
)

// MaxRows is how many points are read at once.
const MaxRows = 2500

var (
	isEmpty   = finding.Declare("points.empty")
	noColumns = finding.Declare("points.columns")
	noColumn  = finding.Declare("points.column", "column", "columns")
	tooMany   = finding.Declare("points.too-many", "most")
	isMissing = finding.Declare("points.missing")
	isRepeat  = finding.Declare("points.repeated", "line")
	goesBack  = finding.Declare("points.goes-back")
)

// Columns say which column is which, from 0; -1 for none, or to be guessed.
type Columns struct{ Volume, Reading, Temperature int }

// Guess leaves all of them to be guessed.
var Guess = Columns{-1, -1, -1}

// Row is a point of the table. One with a fault is not to be taken as it is; one that is
// odd can be.
type Row struct {
	Line                        int // in the text, from 1
	Burette, Shown, Temperature string
	Fault                       *finding.Fault
	Odd                         *finding.Message
}

// Table is what was read.
type Table struct {
	Heads    []string // of the columns; empty where there are none
	Width    int      // columns
	Columns  Columns
	Unit     journal.ProbeUnit // by its head; empty where it does not say
	Comments int               // lines left out that begin as comments do
	Rows     []Row
}

// The usual words at the head of a column, in small letters (common practice, no source).
var (
	volumes      = []string{"volume", "vol", "v", "titrant", "burette", "buret", "ml", "reading", "added", "cm"}
	readings     = []string{"ph", "mv", "potential", "emf", "e", "voltage", "probe", "electrode"}
	temperatures = []string{"temperature", "temp", "t", "c", "celsius"}
	comments     = []string{"#", "//", "%", "--"}
)

// Read reads a table of points, with its columns as they are said. What is wrong with a line
// stands with it; the fault is about the whole.
func Read(data []byte, said Columns) (Table, *finding.Fault) {
	text, _, fault := table.Decode(data)
	if fault != nil {
		return Table{}, fault
	}
	out := Table{Columns: said}
	text = out.withoutComments(text)
	if strings.TrimSpace(text) == "" {
		return Table{}, isEmpty.Fault("text")
	}
	separator := table.SeparatorOf(text)
	if separator == 0 {
		return Table{}, noColumns.Fault("text")
	}
	records, fault := table.Parse(text, separator, MaxRows+3)
	if fault != nil {
		return Table{}, fault
	}
	records = out.heads(records)
	switch {
	case len(records) == 0:
		return Table{}, isEmpty.Fault("text")
	case len(records) > MaxRows:
		return Table{}, tooMany.Fault("text", finding.Count(MaxRows))
	}
	if fault := out.guess(records); fault != nil {
		return Table{}, fault
	}
	seen := map[string]int{}
	last := ""
	for _, r := range records {
		row := out.row(r)
		key := row.Burette + " " + row.Shown
		switch before, again := seen[key]; {
		case row.Fault != nil:
		case again && key == last:
			m := isRepeat.Message(finding.Count(before))
			row.Odd = &m
		case len(out.Rows) > 0 && less(row.Burette, lastGood(out.Rows)):
			m := goesBack.Message()
			row.Odd = &m
		}
		if row.Fault == nil {
			seen[key], last = r.Line, key
		}
		out.Rows = append(out.Rows, row)
	}
	return out, nil
}

func lastGood(rows []Row) string {
	for i := len(rows) - 1; i >= 0; i-- {
		if rows[i].Fault == nil {
			return rows[i].Burette
		}
	}
	return ""
}

func less(a, b string) bool {
	x, err := journal.ParseNumber(a)
	y, err2 := journal.ParseNumber(b)
	return err == nil && err2 == nil && x.Cmp(y) < 0
}

// withoutComments empties the lines that are comments: the numbers of the others stay.
func (t *Table) withoutComments(text string) string {
	lines := strings.Split(strings.ReplaceAll(text, "\r\n", "\n"), "\n")
	for i, l := range lines {
		plain := strings.TrimSpace(l)
		if slices.ContainsFunc(comments, func(c string) bool { return strings.HasPrefix(plain, c) }) {
			lines[i] = ""
			t.Comments++
		}
	}
	return strings.Join(lines, "\n")
}

func figure(text string) bool {
	_, err := journal.ParseNumber(text)
	return err == nil
}

// heads takes the first lines off that hold no figures: heads, and units beneath them.
func (t *Table) heads(records []table.Record) []table.Record {
	for len(records) > 0 && !slices.ContainsFunc(records[0].Cells, figure) {
		for i, c := range records[0].Cells {
			for len(t.Heads) <= i {
				t.Heads = append(t.Heads, "")
			}
			t.Heads[i] = strings.TrimSpace(t.Heads[i] + " " + strings.TrimSpace(c))
		}
		records = records[1:]
	}
	for _, r := range records {
		t.Width = max(t.Width, len(r.Cells))
	}
	return records
}

// guess finds the columns that were not said: by their heads, else the first two that hold
// figures all the way down.
func (t *Table) guess(records []table.Record) *finding.Fault {
	for _, c := range []int{t.Columns.Volume, t.Columns.Reading, t.Columns.Temperature} {
		if c >= t.Width {
			return noColumn.Fault("columns", finding.Count(c+1), finding.Count(t.Width))
		}
	}
	taken := func(i int) bool {
		return i == t.Columns.Volume || i == t.Columns.Reading || i == t.Columns.Temperature
	}
	for i, head := range t.Heads {
		words := wordsOf(head)
		has := func(list []string) bool {
			return slices.ContainsFunc(words, func(w string) bool { return slices.Contains(list, w) })
		}
		switch {
		case i >= t.Width:
		case t.Columns.Reading < 0 && has(readings) && !taken(i):
			t.Columns.Reading = i
		case t.Columns.Temperature < 0 && has(temperatures) && !taken(i):
			t.Columns.Temperature = i
		case t.Columns.Volume < 0 && has(volumes) && !taken(i):
			t.Columns.Volume = i
		}
	}
	for i := range t.Width {
		if taken(i) || !figures(records, i) {
			continue
		}
		switch {
		case t.Columns.Volume < 0:
			t.Columns.Volume = i
		case t.Columns.Reading < 0:
			t.Columns.Reading = i
		}
	}
	if t.Columns.Volume < 0 || t.Columns.Reading < 0 || t.Columns.Volume == t.Columns.Reading {
		return noColumns.Fault("text")
	}
	if t.Columns.Reading < len(t.Heads) {
		switch words := wordsOf(t.Heads[t.Columns.Reading]); {
		case slices.Contains(words, "mv"):
			t.Unit = journal.ShownMV
		case slices.Contains(words, "ph"):
			t.Unit = journal.ShownPH
		}
	}
	return nil
}

// wordsOf are the words of a head, in small letters.
func wordsOf(head string) []string {
	return strings.FieldsFunc(strings.ToLower(head), func(r rune) bool { return !(r >= 'a' && r <= 'z') })
}

// figures tells whether most cells of a column are figures.
func figures(records []table.Record, i int) bool {
	n := 0
	for _, r := range records {
		if i < len(r.Cells) && figure(strings.TrimSpace(r.Cells[i])) {
			n++
		}
	}
	return 2*n > len(records)
}

func (t *Table) row(r table.Record) Row {
	cell := func(i int) string {
		if i < 0 || i >= len(r.Cells) {
			return ""
		}
		return strings.TrimSpace(r.Cells[i])
	}
	out := Row{Line: r.Line, Burette: cell(t.Columns.Volume), Shown: cell(t.Columns.Reading), Temperature: cell(t.Columns.Temperature)}
	if !figure(out.Temperature) {
		out.Temperature = ""
	}
	for _, f := range []struct{ path, text string }{{"burette", out.Burette}, {"shown", out.Shown}} {
		switch fault := journal.CheckNumber(f.path, f.text); {
		case out.Fault != nil:
		case f.text == "":
			out.Fault = isMissing.Fault(f.path)
		case fault != nil:
			out.Fault = fault
		}
	}
	return out
}
