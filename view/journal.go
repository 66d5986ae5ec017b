package view

import (
	"time"

	"exactflask/core/record/journal"
	"exactflask/core/values/finding"
)

// JournalLine is one entry as it is read in the notebook.
type JournalLine struct {
	Entry    string    `json:"entry"`
	At       time.Time `json:"at" doc:"by the clock of the device"`
	Received time.Time `json:"received" doc:"by the clock of the server"`
	Far      string    `json:"far,omitempty" doc:"said where the two are far from each other"`
	By       string    `json:"by"`
	What     string    `json:"what" doc:"kind of entry, or the trial it belongs to"`
	Text     string    `json:"text"`
	Struck   bool      `json:"struck,omitempty" doc:"corrected or withdrawn later"`
	After    bool      `json:"after,omitempty" doc:"written while the report was handed in"`
}

// Journal writes entries as lines, in the order of the notebook. What was
// corrected later is marked, and stays. sheet is the notebook's own, for the
// names of its trials and steps; handed are the versions of its report.
func Journal(entries []journal.Entry, chain []journal.Link, sheet Sheet, people map[string]string, handed []Submission) []JournalLine {
	j := journalist{maker: &maker{Writer: For(sheet)}, byID: map[string]journal.Entry{}, roots: map[string]string{}, trials: map[string]string{},
		steps: map[string]string{}}
	for _, t := range sheet.Trials {
		j.trials[t.ID] = t.Name
	}
	for _, s := range sheet.Work {
		j.steps[s.Step.Step] = s.Title
	}
	links := make(map[string]journal.Link, len(chain))
	for _, l := range chain {
		links[l.Entry] = l
	}
	sorted := journal.Sort(entries)
	struck := map[string]bool{}
	for _, e := range sorted {
		j.byID[e.ID], j.roots[e.ID] = e, e.ID
		if c, ok := e.Part.(journal.Correction); ok {
			struck[c.Replaces] = true
			if root, there := j.roots[c.Replaces]; there {
				j.roots[e.ID] = root
			}
		}
	}
	out := make([]JournalLine, len(sorted))
	for i, e := range sorted {
		line := JournalLine{Entry: e.ID, At: e.At, By: people[e.Author], Struck: struck[e.ID]}
		if l, ok := links[e.ID]; ok {
			line.Received, line.Far = l.Received, j.far(l, e.At)
			for _, s := range handed {
				line.After = line.After || l.Received.After(s.At) && (s.Returned == nil || l.Received.Before(*s.Returned))
			}
		}
		line.What, line.Text = j.say(e)
		out[i] = line
	}
	return out
}

type journalist struct {
	*maker
	byID          map[string]journal.Entry
	roots         map[string]string // of an entry, the one that it corrects in the end; itself where it corrects none
	trials, steps map[string]string
}

// far says that an entry is dated far from when it came in.
func (j journalist) far(l journal.Link, at time.Time) string {
	by, far := l.Far(at)
	switch {
	case !far:
		return ""
	case by < 0:
		return j.Text("journal.ahead", "time", j.span(-by))
	}
	return j.Text("journal.late", "time", j.span(by))
}

// span is a time in the largest unit that fits.
func (j journalist) span(d time.Duration) finding.Value {
	unit, size := "minutes", time.Minute
	switch {
	case d >= 48*time.Hour:
		unit, size = "days", 24*time.Hour
	case d >= 2*time.Hour:
		unit, size = "hours", time.Hour
	}
	return finding.Text(j.Text("span."+unit, "count", finding.Count(int(d.Round(size)/size))))
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
		target := j.byID[j.roots[p.Replaces]]
		if target.Part != nil && target.Kind() != "correction" {
			place, was := j.say(target)
			text = j.Text("journal.corrected", "place", place, "was", finding.Text(was), "text", text)
		}
	}
	return what, text
}
