package bench

import (
	"context"
	"fmt"

	"exactflask/app/access"
	"exactflask/core/chemistry/glass"
	"exactflask/core/model/series"
	"exactflask/core/record/journal"
	"exactflask/core/values/finding"
	"exactflask/formats/points"
	"exactflask/wording"
)

var noProbe = finding.Declare("app.no-probe")

// ReadPointRow is a point that was read out of a table of text.
type ReadPointRow struct {
	Line        int    `json:"line" doc:"in the text, from 1"`
	Burette     string `json:"burette"`
	Shown       string `json:"shown"`
	Temperature string `json:"temperature,omitempty"`
	Run         int    `json:"run" doc:"which of several runs it belongs to that stand one behind the other, from 1"`
	Fault       string `json:"fault,omitempty" doc:"why it cannot be taken as it is"`
	Odd         string `json:"odd,omitempty" doc:"what is odd about it; it can be taken all the same"`
}

// ReadTable is a table of points, with what its columns were taken for.
type ReadTable struct {
	Heads       []string       `json:"heads" doc:"of the columns; a number where they have none"`
	Volume      int            `json:"volume" doc:"which column is the burette, from 0"`
	Reading     int            `json:"reading" doc:"which is what the probe showed"`
	Temperature int            `json:"temperature" doc:"which is the temperature; -1 for none"`
	Comments    int            `json:"comments" doc:"lines left out that are comments"`
	OtherUnit   string         `json:"otherUnit,omitempty" doc:"said where the head names another unit than the practical's probe shows"`
	Runs        int            `json:"runs" doc:"how many runs stand in it, one behind the other"`
	Rows        []ReadPointRow `json:"rows"`
}

// ReadPoints reads points out of a file for whoever may write in a notebook, with its
// columns as they are said (-1: guessed). It writes nothing.
func (a *Bench) ReadPoints(ctx context.Context, p access.Person, id string, file []byte, columns points.Columns) (ReadTable, error) {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return ReadTable{}, err
	}
	if !o.write {
		return ReadTable{}, fmt.Errorf("points for another's notebook: %w", o.refused)
	}
	if !o.Ready.Probed() {
		return ReadTable{}, noProbe.Fault("")
	}
	t, fault := points.Read(file, columns)
	if fault != nil {
		return ReadTable{}, fault
	}
	words := wording.For(p.Style())
	out := ReadTable{Heads: make([]string, t.Width), Volume: t.Columns.Volume, Reading: t.Columns.Reading, Temperature: t.Columns.Temperature, Comments: t.Comments, Rows: make([]ReadPointRow, len(t.Rows))}
	for i := range out.Heads {
		if out.Heads[i] = fmt.Sprint(i + 1); i < len(t.Heads) && t.Heads[i] != "" {
			out.Heads[i] = t.Heads[i]
		}
	}
	if shows := o.Ready.Probe.Shows; t.Unit != "" && t.Unit != shows {
		out.OtherUnit = words.Text("points.other-unit", "unit", string(t.Unit), "shows", string(shows))
	}
	for i, r := range t.Rows {
		row := ReadPointRow{Line: r.Line, Burette: r.Burette, Shown: r.Shown, Temperature: r.Temperature}
		if r.Fault != nil {
			row.Fault = words.Say(r.Fault.Message)
		}
		if r.Odd != nil {
			row.Odd = words.Say(*r.Odd)
		}
		out.Rows[i] = row
	}
	out.apart(t.Rows, o.Ready.Glass.Burette)
	return out, nil
}

// apart says which run each row belongs to; a row that cannot be read, to the one before it.
func (t *ReadTable) apart(rows []points.Row, burette glass.Burette) {
	var measured []series.Measured
	var at []int // their rows
	for i, r := range rows {
		volume, wrong := journal.ParseNumber(r.Burette)
		shown, wrongToo := journal.ParseNumber(r.Shown)
		if wrong == nil && wrongToo == nil {
			measured, at = append(measured, series.Measured{Volume: burette.Drawn(volume).Float64(), Reading: shown.Float64()}), append(at, i)
		}
	}
	begins := series.Parts(measured)
	t.Runs = len(begins)
	run := 0
	for i := range t.Rows {
		for run < len(begins) && (begins[run] == 0 || at[begins[run]] <= i) {
			run++
		}
		t.Rows[i].Run = run
	}
}
