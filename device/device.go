// Package device is the part of Exact Flask that runs in the page as well, so
// that the bench goes on judging while the network is away: entries are
// checked, folded, judged and put into words by the same code as on the server.
package device

import (
	"bytes"
	"encoding/json"

	"exactflask/core/experiment"
	"exactflask/core/finding"
	"exactflask/core/journal"
	"exactflask/core/practical"
	"exactflask/view"
	"exactflask/wording"
)

// Request is a notebook and what was added on the device.
type Request struct {
	Practical json.RawMessage `json:"practical"`
	Entries   []journal.Entry `json:"entries"` // those the server has
	Added     []journal.Entry `json:"added"`   // those it does not have yet
	Style     practical.Style `json:"style"`
	// Withheld leaves out the result and all that follows from it: it is not
	// computed then. Judged says that own steps are judged all the same.
	Withheld bool `json:"withheld"`
	Judged   bool `json:"judged"`
}

// Answer is the sheet, or the fault of what was added, in the reader's words.
type Answer struct {
	Sheet *view.Sheet `json:"sheet,omitempty"`
	Fault string      `json:"fault,omitempty"`
	At    int         `json:"at"` // which of the added entries it is about; -1 for none
}

// Judge keeps the practical that it was asked about last, ready. It is for one
// goroutine.
type Judge struct {
	text  []byte
	ready *practical.Ready
}

func (j *Judge) practical(text []byte) (*practical.Ready, *finding.Fault) {
	if j.ready != nil && bytes.Equal(text, j.text) {
		return j.ready, nil
	}
	p, err := practical.Decode(text)
	if err != nil {
		return nil, finding.FaultOf("practical", err)
	}
	r, fault := p.Check()
	if fault != nil {
		return nil, fault
	}
	j.text, j.ready = bytes.Clone(text), r
	return r, nil
}

// Answer evaluates a notebook with the entries added to it. An added entry that
// the server would refuse is reported and not judged.
func (j *Judge) Answer(in Request) Answer {
	words := wording.For(in.Style)
	r, fault := j.practical(in.Practical)
	if fault != nil {
		return Answer{Fault: words.Say(fault.Message), At: -1}
	}
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
			return Answer{Fault: words.Say(fault.Message), At: i}
		}
		known[e.ID] = e
		all = append(all, e)
	}
	parts := experiment.All &^ experiment.PartReference
	if in.Withheld {
		parts = experiment.Record
		if in.Judged {
			parts = experiment.PartVerdicts
		}
	}
	sheet := view.Of(r, experiment.Evaluate(r, all, parts), in.Style)
	return Answer{Sheet: &sheet}
}

// JSON is Answer for a Request in JSON; the answer is an Answer in JSON.
func (j *Judge) JSON(request []byte) []byte {
	var in Request
	out := Answer{At: -1}
	if err := json.Unmarshal(request, &in); err != nil {
		out.Fault = wording.For().Say(finding.FaultOf("", err).Message)
	} else {
		out = j.Answer(in)
	}
	text, err := json.Marshal(out)
	if err != nil {
		return []byte(`{"fault":"","at":-1}`)
	}
	return text
}
