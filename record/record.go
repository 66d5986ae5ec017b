// Package record is the part of Exact Flask that runs in the page as well, so
// that the bench goes on judging while the network is away: entries are
// checked, folded, judged and put into words by the same code as on the server.
package record

import (
	"encoding/json"
	"fmt"

	"exactflask/core/experiment"
	"exactflask/core/finding"
	"exactflask/core/journal"
	"exactflask/wording"
)

// Request is a notebook and what was added on the device.
type Request struct {
	Practical experiment.Practical `json:"practical"`
	Entries   []journal.Entry      `json:"entries"` // those the server has
	Added     []journal.Entry      `json:"added"`   // those it does not have yet
	Style     experiment.Style     `json:"style"`
	// Withheld leaves out the result and all that follows from it: it is not
	// computed then.
	Withheld bool `json:"withheld"`
}

// Answer is the sheet, or the fault of what was added.
type Answer struct {
	Sheet *wording.Sheet `json:"sheet,omitempty"`
	Fault string         `json:"fault,omitempty"`
	At    int            `json:"at"` // which of the added entries it is about
}

// Judge evaluates a notebook with the entries added to it. An added entry that
// the server would refuse is reported and not judged.
func Judge(in Request) Answer {
	known := make(map[string]journal.Entry, len(in.Entries)+len(in.Added))
	for _, e := range in.Entries {
		known[e.ID] = e
	}
	all := append([]journal.Entry(nil), in.Entries...)
	for i, e := range in.Added {
		if _, there := known[e.ID]; there {
			continue
		}
		fault := e.Check()
		if fault == nil {
			fault = e.CheckAgainst(known)
		}
		if fault != nil {
			return Answer{Fault: fault.In(fmt.Sprintf("entries[%d]", i)).Error(), At: i}
		}
		known[e.ID] = e
		all = append(all, e)
	}
	evaluate := experiment.Evaluate
	if in.Withheld {
		evaluate = experiment.Record
	}
	ev, fault := evaluate(in.Practical, all)
	if fault != nil {
		return Answer{Fault: fault.Error(), At: -1}
	}
	sheet := wording.Speak(in.Practical, ev, in.Style)
	return Answer{Sheet: &sheet}
}

// JudgeJSON is Judge for a Request in JSON; the answer is an Answer in JSON.
func JudgeJSON(request []byte) []byte {
	var in Request
	var out Answer
	if err := json.Unmarshal(request, &in); err != nil {
		out = Answer{Fault: finding.Faultf("", "the request cannot be read: %w", err).Error(), At: -1}
	} else {
		out = Judge(in)
	}
	text, err := json.Marshal(out)
	if err != nil {
		return []byte(`{"fault":"the answer cannot be written","at":-1}`)
	}
	return text
}
