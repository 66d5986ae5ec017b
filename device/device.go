// Package device is the part of Exact Flask that runs in the page as well, so
// that the bench goes on judging while the network is away: entries are
// checked, folded, judged and put into words by the same code as on the server.
package device

import (
	"encoding/json"
	"slices"
	"strings"
	"time"

	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/probe"
	"exactflask/core/values/finding"
	"exactflask/view"
	"exactflask/wording"
)

// Request is what became of a notebook since the last one about it.
type Request struct {
	Notebook string `json:"notebook"` // id
	// Basis begins anew, whatever was held of the notebook. The first request about a
	// notebook needs it.
	Basis *Basis `json:"basis,omitempty"`
	// Entries are new to the judge: first those that the server has.
	Entries []journal.Entry `json:"entries,omitempty"`
	Sent    int             `json:"sent"` // how many of them the server has: they are not checked
	// Try asks only whether the entries could be taken, and what a person is asked before; they
	// are not held.
	Try bool `json:"try,omitempty"`
	// Lines are those of a probe on a wire, which came at this time; then only its state is
	// answered.
	Lines    *[]string `json:"lines,omitempty"`
	Received time.Time `json:"received,omitzero"`
	// Brief leaves out what the bench does not show (view.Brief).
	Brief bool `json:"brief,omitempty"`
}

// Basis is a notebook without its entries.
type Basis struct {
	Practical json.RawMessage `json:"practical"`
	Style     practical.Style `json:"style"`
	// What decides what may be seen and added, as the server decides it.
	Teaches  bool `json:"teaches,omitempty"`  // the reader teaches the class
	Released bool `json:"released,omitempty"` // the marks are released
	HandedIn bool `json:"handedIn,omitempty"` // the report is handed in
}

// Answer is what differs of the sheet from the one that was answered last, or the
// fault of an entry, in the reader's words. What is at fault is not held.
type Answer struct {
	Sheet view.SheetChange `json:"sheet,omitempty"`
	Fault string           `json:"fault,omitempty"`
	Doubt string           `json:"doubt,omitempty"` // of Try: what a person is asked before they are written
	At    int              `json:"at"`              // which of the entries it is about; -1 for none
	Probe *view.LiveProbe  `json:"probe,omitempty"`
	Lost  bool             `json:"lost,omitempty"` // nothing is held of this notebook: a basis is needed
}

// Judge holds the notebooks that it was asked about last. It is for one goroutine.
type Judge struct {
	held map[string]*held
	ages []string // of the notebooks, the one that was asked about last at the end
}

// most is how many notebooks a judge holds.
const most = 4

type held struct {
	basis  Basis
	ready  *practical.Ready
	ledger *journal.Ledger
	print  view.SheetPrint
	probe  *probe.Stream
}

func begin(b Basis) (*held, *finding.Fault) {
	p, err := practical.Decode(b.Practical)
	if err != nil {
		return nil, finding.FaultOf("practical", err)
	}
	r, fault := p.Check()
	if fault != nil {
		return nil, fault
	}
	h := &held{basis: b, ready: r, ledger: journal.NewLedger(nil, 0)}
	h.ledger.HandedIn = b.HandedIn
	return h, nil
}

func (j *Judge) hold(id string, h *held) {
	if j.held == nil {
		j.held = map[string]*held{}
	}
	j.held[id] = h
	j.ages = append(slices.DeleteFunc(j.ages, func(old string) bool { return old == id }), id)
	if len(j.ages) > most {
		delete(j.held, j.ages[0])
		j.ages = j.ages[1:]
	}
}

// Answer takes the entries and evaluates the notebook.
func (j *Judge) Answer(in Request) Answer {
	if in.Basis != nil {
		h, fault := begin(*in.Basis)
		if fault != nil {
			return Answer{Fault: wording.For(in.Basis.Style).Say(fault.Message), At: -1}
		}
		j.hold(in.Notebook, h)
	}
	h := j.held[in.Notebook]
	if h == nil {
		return Answer{At: -1, Lost: true}
	}
	if in.Lines != nil {
		return h.lines(*in.Lines, in.Received)
	}
	if at, fault := h.add(in); fault != nil {
		return Answer{Fault: wording.For(h.basis.Style).Say(fault.Message), At: at}
	}
	if in.Try {
		return Answer{At: -1, Doubt: h.doubt(in.Entries[min(in.Sent, len(in.Entries)):])}
	}
	now := h.evaluated(in.Brief)
	change, print, err := view.Changes(now, h.print)
	if err != nil {
		return Answer{At: -1, Lost: true}
	}
	h.print = print
	return Answer{Sheet: change, At: -1}
}

// lines takes lines of a probe in, and says how it stands.
func (h *held) lines(lines []string, received time.Time) Answer {
	if h.probe == nil {
		h.probe = &probe.Stream{Unit: h.ready.Probe.Shows, Steady: h.ready.Probe.Steady.Float64(), Norms: h.ready.Norms()}
	}
	for _, l := range lines {
		if strings.TrimSpace(l) != "" {
			_ = h.probe.Add(l, received) // what was wrong with it is in the state
		}
	}
	state := view.Live(wording.For(h.basis.Style), h.probe.Now(received))
	return Answer{At: -1, Probe: &state}
}

// add holds the entries that are new; the first one that the server would refuse is
// reported, and that and what follows it is not held.
func (h *held) add(in Request) (int, *finding.Fault) {
	if in.Try {
		defer h.ledger.Back(h.ledger.Mark())
	}
	sent := min(in.Sent, len(in.Entries))
	h.ledger.Keep(in.Entries[:sent]...)
	added := in.Entries[sent:]
	_, at, fault := h.ledger.Accept(added)
	if fault == nil {
		return -1, nil
	}
	_, _, _ = h.ledger.Accept(added[:at]) // those before it are not at fault
	return sent + at, fault
}

// doubt is what a person is asked before the first of these that is doubtful is written.
func (h *held) doubt(added []journal.Entry) string {
	for _, e := range added {
		if m, doubtful := experiment.Doubt(h.ready, e.Part); doubtful {
			return wording.For(h.basis.Style).Say(m)
		}
	}
	return ""
}

func (h *held) evaluated(brief bool) view.Sheet {
	basis := experiment.Begin(h.ready, journal.Fold(h.ledger.Entries()))
	parts := basis.Granted(experiment.Reader{Teaches: h.basis.Teaches, Released: h.basis.Released})
	speak := view.Of
	if brief {
		speak, parts = view.Brief, parts&^view.Unsaid
	}
	return speak(h.ready, basis.Of(parts), h.basis.Style)
}

// JSON is Answer for a Request in JSON; the answer is an Answer in JSON. Whatever goes
// wrong over one notebook is over for the next.
func (j *Judge) JSON(request []byte) (answer []byte) {
	defer func() {
		if recover() != nil {
			j.held, j.ages = nil, nil
			answer = []byte(`{"at":-1,"lost":true}`)
		}
	}()
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
