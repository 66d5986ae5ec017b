package wording

import (
	"strconv"
	"time"

	"exactflask/core/experiment"
	"exactflask/core/journal"
	"exactflask/core/quantity"
)

// JournalLine is one entry as it is read in the notebook.
type JournalLine struct {
	Entry  string    `json:"entry"`
	At     time.Time `json:"at"`
	By     string    `json:"by"`
	What   string    `json:"what" doc:"kind of entry, in words"`
	Text   string    `json:"text"`
	Struck bool      `json:"struck,omitempty" doc:"corrected or withdrawn later"`
	Why    string    `json:"why,omitempty" doc:"reason of a correction or of setting aside"`
}

// Journal writes entries as lines, in the order of the notebook. What was
// corrected later is marked, and stays.
func Journal(entries []journal.Entry, s Sheet, people map[string]string) []JournalLine {
	w := writer{style: s.Style}
	sorted := journal.Sort(entries)
	byID := make(map[string]journal.Entry, len(sorted))
	struck := map[string]bool{}
	for _, e := range sorted {
		byID[e.ID] = e
		if e.Kind == journal.KindCorrection {
			struck[e.Correction.Replaces] = true
		}
	}
	out := make([]JournalLine, len(sorted))
	for i, e := range sorted {
		line := JournalLine{Entry: e.ID, At: e.At, By: people[e.Author], Struck: struck[e.ID]}
		line.What, line.Text, line.Why = w.entry(e, s, byID)
		out[i] = line
	}
	return out
}

func (w writer) entry(e journal.Entry, s Sheet, byID map[string]journal.Entry) (what, text, why string) {
	trial := func(id string) string { return s.Trials[id].Name }
	switch e.Kind {
	case journal.KindTrial:
		return trial(e.ID), w.text("begun"), ""
	case journal.KindReading:
		return trial(e.Reading.Trial), w.say("mark."+string(e.Reading.Mark), nil) + " " + e.Reading.Text, ""
	case journal.KindSetAside:
		return trial(e.SetAside.Trial), "set aside", e.SetAside.Reason
	case journal.KindNote:
		return "Note", e.Note.Text, ""
	case journal.KindCheck:
		return "Done", w.say("item."+e.Checked.Item, nil), ""
	case journal.KindObservation:
		about := w.say("observation."+string(e.Observation.About), nil)
		if name := trial(e.Observation.Trial); name != "" {
			about = name + ", " + about
		}
		return about, e.Observation.Text, ""
	case journal.KindTimer:
		return w.say("timer."+e.Timer.For, nil), strconv.Itoa(e.Timer.Seconds) + " s", ""
	case journal.KindWeighing:
		return "Weighed: " + e.Weighing.Of, e.Weighing.Full + " − " + e.Weighing.Emptied + " = " + e.Weighing.Mass().String() + thin + "g", ""
	case journal.KindKnown:
		return w.say("known", nil), e.Known.Text + thin + w.unit(quantity.MolePerL), e.Known.From
	case journal.KindAnswer:
		title := "Own working"
		for i, step := range s.Evaluation.Work {
			if step.Step == e.Answer.Step && i < len(s.Work) {
				title = "Own working: " + s.Work[i].Title
			}
		}
		return title, e.Answer.Text + unitAfter(w.unit(quantity.Unit(e.Answer.Unit))), ""
	case journal.KindCorrection:
		target := byID[e.Correction.Replaces]
		for target.Kind == journal.KindCorrection && target.Correction.Replaces != e.ID {
			target = byID[target.Correction.Replaces]
		}
		place, said, _ := w.entry(target, s, map[string]journal.Entry{})
		if e.Correction.Withdraw {
			return "Correction", place + ": " + said + " withdrawn", e.Correction.Reason
		}
		return "Correction", place + ": " + said + " is now " + e.Correction.Value, e.Correction.Reason
	}
	return string(e.Kind), "", ""
}

func (w writer) log(lines []experiment.LogLine, trials map[string]TrialText) []LogText {
	out := make([]LogText, len(lines))
	for i, l := range lines {
		what := w.say(l.Code, nil)
		if name := trials[l.Trial].Name; name != "" {
			what = name + ", " + what
		}
		text := l.Text
		if l.Unit != "" {
			text += thin + w.unit(l.Unit)
		}
		if l.From != "" {
			text += " (" + l.From + ")"
		}
		out[i] = LogText{what, text, l.Withdrawn}
	}
	return out
}

// LogText is a line of the bench's log in words.
type LogText struct {
	What      string `json:"what"`
	Text      string `json:"text"`
	Withdrawn bool   `json:"withdrawn,omitempty"`
}
