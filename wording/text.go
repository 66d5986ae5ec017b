package wording

import (
	"bytes"
	"fmt"
	"io"
	"text/tabwriter"

	"exactflask/core/experiment"
)

// WriteText writes a sheet for a terminal: results table, agreement, findings
// and working.
func WriteText(w io.Writer, p experiment.Practical, s Sheet) error {
	var b bytes.Buffer
	word := writer{style: s.Style}
	fmt.Fprintf(&b, "%s\n%s\n%s: %s\n%s: %s\n%s\n\n", p.Title, s.Setting.Equation,
		word.text("[Burette]"), s.Setting.Titrant, "Flask", s.Setting.Analyte, s.Setting.Glass)
	t := tabwriter.NewWriter(&b, 0, 0, 2, ' ', 0)
	fmt.Fprintf(t, "Trial\tStart/%[1]s\tEnd/%[1]s\t%[2]s/%[1]s\t\n", s.Units.Volume, word.text("[Titre]"))
	for _, trial := range s.Evaluation.Trials {
		start, end, titre := "–", "–", "–"
		if trial.Start != nil {
			start = trial.Start.Value.String()
		}
		if trial.End != nil {
			end = trial.End.Value.String()
		}
		if trial.Titre != nil {
			titre = minus(trial.Titre.String())
		}
		fmt.Fprintf(t, "%s\t%s\t%s\t%s\t%s\n", s.Trials[trial.ID].Name, start, end, titre, s.Trials[trial.ID].Reason)
	}
	if err := t.Flush(); err != nil {
		return fmt.Errorf("writing the table: %w", err)
	}
	fmt.Fprintf(&b, "\n%s\n", s.Agreement)
	for _, f := range s.Findings {
		place := f.Place
		if place != "" {
			place += ": "
		}
		fmt.Fprintf(&b, "[%s] %s%s\n", f.Severity, place, f.Text)
	}
	if s.Answer == nil {
		fmt.Fprintf(&b, "\n%s\n", s.Next)
	} else {
		b.WriteString("\nWorking\n")
		for i, step := range s.Answer.Steps {
			fmt.Fprintf(&b, "%d. %s\n   %s\n", i+1, step.Title, step.Plain())
		}
		fmt.Fprintf(&b, "\n%s\n%s. Unrounded: %s.\n", s.Answer.Statement, s.Answer.Figures, s.Answer.Unrounded)
		if s.Answer.Comparison != "" {
			fmt.Fprintln(&b, s.Answer.Comparison)
		}
		if u := s.Answer.Uncertainty; u != nil {
			fmt.Fprintf(&b, "%s\n%s\n", u.Sentence, u.Improve)
		}
	}
	_, err := w.Write(b.Bytes())
	return err
}
