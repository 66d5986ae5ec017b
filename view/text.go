package view

import (
	"bytes"
	"fmt"
	"io"
	"text/tabwriter"

	"exactflask/core/record/practical"
)

// WriteText writes a sheet for a terminal: table of readings, agreement,
// findings and working, as the report has them.
func WriteText(to io.Writer, r *practical.Ready, s Sheet) error {
	rep, w := ReportOf(r, s, About{}), For(s)
	var b bytes.Buffer
	fmt.Fprintf(&b, "%s\n%s\n%s: %s\n%s: %s\n%s\n\n", rep.Title, s.Setting.Equation, w.Text("text.burette"),
		s.Setting.Titrant, w.Text("text.flask"), s.Setting.Analyte, s.Setting.Glass)
	t := tabwriter.NewWriter(&b, 0, 0, 2, ' ', 0)
	fmt.Fprint(t, w.Text("text.trial"))
	for _, c := range rep.Columns {
		fmt.Fprint(t, "\t", c.Head)
	}
	fmt.Fprintln(t, "\t")
	for _, row := range rep.Rows {
		fmt.Fprint(t, row.Name)
		for _, c := range row.Cells {
			fmt.Fprint(t, "\t", c.Text)
		}
		fmt.Fprint(t, "\t", row.Reason, "\n")
	}
	if err := t.Flush(); err != nil {
		return fmt.Errorf("writing the table: %w", err)
	}
	fmt.Fprintf(&b, "\n%s\n", rep.Agreement)
	for _, f := range rep.Findings {
		place := f.Place
		if place != "" {
			place += ": "
		}
		fmt.Fprintf(&b, "[%s] %s%s\n", f.Severity, place, f.Text)
	}
	if a := rep.Answer; a == nil {
		fmt.Fprintf(&b, "\n%s\n", s.Next.Text)
	} else {
		fmt.Fprintf(&b, "\n%s\n", w.Text("working.heading"))
		for i, step := range a.Steps {
			fmt.Fprintf(&b, "%d. %s\n   %s\n", i+1, step.Title, step.Plain())
		}
		fmt.Fprintf(&b, "\n%s\n%s. %s\n", a.Statement, a.Figures, w.Text("text.unrounded", "value", a.Unrounded))
		if a.Comparison != "" {
			fmt.Fprintln(&b, a.Comparison)
		}
		if u := a.Uncertainty; u != nil {
			fmt.Fprintf(&b, "%s\n%s\n", u.Sentence, u.Improve)
		}
	}
	_, err := to.Write(b.Bytes())
	return err
}
