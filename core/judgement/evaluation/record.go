package evaluation

import (
	"time"

	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
)

// Item is one thing of a list, and when it was done last.
type Item struct {
	Code  string     `json:"code"`
	Entry string     `json:"entry,omitempty" doc:"the entry that says so; empty while it was not done"`
	At    *time.Time `json:"at,omitempty"`
	By    string     `json:"by,omitempty"`
}

// LogLine is something done or seen beside the readings.
type LogLine struct {
	Entry     string           `json:"entry"`
	Said      finding.Message  `json:"said"`
	Trial     string           `json:"trial,omitempty"`
	At        time.Time        `json:"at"`
	By        string           `json:"by,omitempty"`
	Withdrawn bool             `json:"withdrawn,omitempty"`
	Struck    []journal.Struck `json:"struck,omitempty"`
}

// WrittenPassage is a passage of the report, with what the student wrote.
type WrittenPassage struct {
	practical.Passage
	Stand []PassageText `json:"stand" doc:"what stands there: none, one, or several that devices wrote beside each other"`
}

// PassageText is what stands in a passage.
type PassageText struct {
	Entry string    `json:"entry"`
	Text  string    `json:"text"`
	By    string    `json:"by,omitempty" doc:"id of who wrote it"`
	At    time.Time `json:"at"`
}

// Evidence is something that the practical asks a photograph of, with those that there are.
type Evidence struct {
	Code     string   `json:"code"`
	Pictures []string `json:"pictures" doc:"ids of their entries"`
}

// ShownPicture is a picture of the report.
type ShownPicture struct {
	Entry string `json:"entry"`
	journal.Picture
}

// Done tells whether it was done.
func (i Item) Done() bool { return i.Entry != "" }

// Undone are the items of a list that are not done.
func Undone(items []Item) []Item {
	var out []Item
	for _, i := range items {
		if !i.Done() {
			out = append(out, i)
		}
	}
	return out
}
