package view

import (
	"time"

	"exactflask/core/finding"
	"exactflask/core/journal"
)

// JournalLine is one entry as it is read in the notebook.
type JournalLine struct {
	Entry  string    `json:"entry"`
	At     time.Time `json:"at"`
	By     string    `json:"by"`
	What   string    `json:"what" doc:"kind of entry, or the trial it belongs to"`
	Text   string    `json:"text"`
	Struck bool      `json:"struck,omitempty" doc:"corrected or withdrawn later"`
}

// Journal writes entries as lines, in the order of the notebook. What was
// corrected later is marked, and stays. sheet is the notebook's own, for the
// names of its trials and steps.
func Journal(entries []journal.Entry, sheet Sheet, people map[string]string) []JournalLine {
	j := journalist{maker: &maker{Writer: For(sheet)}, byID: map[string]journal.Entry{}, trials: map[string]string{}, steps: map[string]string{}}
	for _, t := range sheet.Trials {
		j.trials[t.ID] = t.Name
	}
	for _, s := range sheet.Work {
		j.steps[s.Step.Step] = s.Title
	}
	sorted := journal.Sort(entries)
	struck := map[string]bool{}
	for _, e := range sorted {
		j.byID[e.ID] = e
		if c, ok := e.Part.(journal.Correction); ok {
			struck[c.Replaces] = true
		}
	}
	out := make([]JournalLine, len(sorted))
	for i, e := range sorted {
		line := JournalLine{Entry: e.ID, At: e.At, By: people[e.Author], Struck: struck[e.ID]}
		line.What, line.Text = j.say(e)
		out[i] = line
	}
	return out
}

type journalist struct {
	*maker
	byID          map[string]journal.Entry
	trials, steps map[string]string
}

func (j journalist) say(e journal.Entry) (what, text string) {
	if e.Part == nil {
		return "", ""
	}
	what = j.trials[e.Part.Trial()]
	if e.Kind() == "trial" {
		what = j.trials[e.ID]
	}
	if what == "" {
		what = j.Text("journal.kind." + string(e.Kind()))
	}
	text = j.Say(said(j.Writer, e.Part.Said()))
	switch p := e.Part.(type) {
	case journal.Answer:
		if title := j.steps[p.Step]; title != "" {
			text = j.Text("working.of-trial", "trial", title, "text", text)
		}
	case journal.Correction:
		target := j.byID[p.Replaces]
		for range j.byID {
			next, again := target.Part.(journal.Correction)
			if !again {
				break
			}
			target = j.byID[next.Replaces]
		}
		if target.Part != nil && target.Kind() != "correction" {
			place, was := j.say(target)
			text = j.Text("journal.corrected", "place", place, "was", finding.Text(was), "text", text)
		}
	}
	return what, text
}
