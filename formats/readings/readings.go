// Package readings reads burette readings out of a table of text: a line a trial, with
// its start and its end, and its kind where there is a column for it.
package readings

import (
	"slices"
	"strings"

	"exactflask/core/record/journal"
	"exactflask/core/values/finding"
	"exactflask/formats/table"
)

// MaxRows is how many trials are read at once.
const MaxRows = 60

var (
	isEmpty   = finding.Declare("readings.empty")
	noColumns = finding.Declare("readings.columns")
	noType    = finding.Declare("readings.type", "text")
	tooMany   = finding.Declare("readings.too-many", "most")
	isMissing = finding.Declare("readings.missing")
)

// Row is a trial of the table. One with a fault is not to be taken as it is.
type Row struct {
	Line       int // in the text, from 1
	Type       journal.TrialType
	Start, End string // as they were written
	Fault      *finding.Fault
}

// The usual words at the head of a column, in small letters (common practice, no source).
var (
	starts = []string{"start", "initial", "startml", "initialml", "startreading", "initialreading", "startreadingml", "initialreadingml", "startcm", "initialcm", "before"}
	ends   = []string{"end", "final", "endml", "finalml", "endreading", "finalreading", "endreadingml", "finalreadingml", "endcm", "finalcm", "after"}
	kinds  = []string{"trial", "type", "kind", "titration", "run"}
	roughs = []string{"rough", "trial run", "r", "0"}
)

// Read reads a table of readings: with heads, or two columns of figures. What is wrong with
// a line stands with it; the fault is about the whole.
func Read(data []byte) ([]Row, *finding.Fault) {
	text, _, fault := table.Decode(data)
	if fault != nil {
		return nil, fault
	}
	if strings.TrimSpace(text) == "" {
		return nil, isEmpty.Fault("text")
	}
	var records []table.Record
	separator := table.SeparatorOf(text)
	if separator == 0 {
		return nil, noColumns.Fault("text")
	}
	if records, fault = table.Parse(text, separator, MaxRows+2); fault != nil {
		return nil, fault
	}
	if len(records) == 0 {
		return nil, isEmpty.Fault("text")
	}
	start, end, kind := -1, -1, -1
	for i, head := range records[0].Cells {
		switch plain := table.Plain(head); {
		case slices.Contains(starts, plain):
			start = i
		case slices.Contains(ends, plain):
			end = i
		case slices.Contains(kinds, plain):
			kind = i
		}
	}
	switch {
	case start >= 0 && end >= 0:
		records = records[1:]
	case len(records[0].Cells) == 2 && figure(records[0].Cells[0]) && figure(records[0].Cells[1]):
		start, end = 0, 1
	default:
		return nil, noColumns.Fault("text")
	}
	if len(records) > MaxRows {
		return nil, tooMany.Fault("text", finding.Count(MaxRows))
	}
	if len(records) == 0 {
		return nil, isEmpty.Fault("text")
	}
	out := make([]Row, len(records))
	for i, r := range records {
		out[i] = rowOf(r, start, end, kind)
	}
	return out, nil
}

func figure(text string) bool {
	_, err := journal.ParseNumber(text)
	return err == nil
}

func rowOf(r table.Record, start, end, kind int) Row {
	cell := func(i int) string {
		if i < 0 || i >= len(r.Cells) {
			return ""
		}
		return strings.TrimSpace(r.Cells[i])
	}
	out := Row{Line: r.Line, Type: journal.Accurate, Start: cell(start), End: cell(end)}
	if text := strings.ToLower(cell(kind)); slices.Contains(roughs, text) {
		out.Type = journal.Rough
	} else if text != "" && text != "accurate" && !figure(text) && !strings.HasPrefix(text, "trial") {
		out.Fault = noType.Fault("type", finding.Text(cell(kind)))
	}
	for _, f := range []struct{ path, text string }{{"start", out.Start}, {"end", out.End}} {
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
