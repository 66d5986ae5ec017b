package journal

import "exactflask/core/values/finding"

// Correction replaces what an earlier entry says, or withdraws that entry.
// Naming a correction is the same as naming the entry it corrected.
type Correction struct {
	Replaces string `json:"replaces" maxLength:"64" doc:"id of the entry that is corrected"`
	Value    string `json:"value,omitempty" maxLength:"2000" doc:"what it should say: reading, type of trial, reason or text"`
	Withdraw bool   `json:"withdraw,omitempty" doc:"the entry should not have been made"`
	Reason   string `json:"reason" minLength:"1" maxLength:"300"`
}

var (
	eitherFault   = finding.Declare("correction.either")
	targetFault   = finding.Declare("correction.target")
	circleFault   = finding.Declare("correction.circle")
	correctedSaid = finding.Declare("journal.correction", "value", "reason")
	withdrawnSaid = finding.Declare("journal.withdrawal", "reason")
)

// Kind implements Part.
func (Correction) Kind() Kind { return "correction" }

// Check implements Part.
func (c Correction) Check() *finding.Fault {
	if f := first(checkID("replaces", c.Replaces), checkText("reason", c.Reason, 1, 300)); f != nil {
		return f
	}
	if c.Withdraw != (c.Value == "") {
		return eitherFault.Fault("value")
	}
	return checkText("value", c.Value, 0, 2000)
}

// Trial implements Part.
func (Correction) Trial() string { return "" }

// Text implements Part.
func (Correction) Text() string { return "" }

// With implements Part: a correction is corrected by another of the same entry.
func (Correction) With(string) (Part, *finding.Fault) { return nil, repeatFault.Fault("value") }

// Said implements Part. What was corrected is said beside it.
func (c Correction) Said() finding.Message {
	if c.Withdraw {
		return withdrawnSaid.Message(finding.Text(c.Reason))
	}
	return correctedSaid.Message(finding.Text(c.Value), finding.Text(c.Reason))
}

func (Correction) fold(*folding, *Line) {}

// checkAgainst looks for the entry that is corrected in the notebook.
func (c Correction) checkAgainst(l *Ledger) *finding.Fault {
	target, ok := l.part(c.Replaces)
	for range l.entries {
		next, again := target.(Correction)
		if !ok || !again {
			break
		}
		target, ok = l.part(next.Replaces)
	}
	if !ok || target == nil {
		return targetFault.Fault("correction.replaces")
	}
	if _, again := target.(Correction); again {
		return circleFault.Fault("correction.replaces")
	}
	if c.Withdraw {
		return nil
	}
	if _, f := target.With(c.Value); f != nil {
		return f.At("correction.value")
	}
	return nil
}

// roots finds for every correction the entry that it corrects, through other
// corrections. One that ends nowhere, or in a circle, has none. The cost grows
// with the number of corrections only.
func roots(replaces map[string]string) map[string]string {
	out := make(map[string]string, len(replaces))
	for id := range replaces {
		var way []string
		at, end, walking := id, "", map[string]bool{}
		for {
			if known, ok := out[at]; ok {
				end = known
				break
			}
			next, ok := replaces[at]
			if !ok {
				end = at
				break
			}
			if walking[at] {
				break
			}
			walking[at], way = true, append(way, at)
			at = next
		}
		for _, passed := range way {
			out[passed] = end
		}
	}
	return out
}
