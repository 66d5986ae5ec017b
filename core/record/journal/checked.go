package journal

import (
	"strings"

	"exactflask/core/values/finding"
)

// Checked says that an item of a list was done.
type Checked struct {
	Item string `json:"item" minLength:"1" maxLength:"81" doc:"code of the item, such as rinse-water"`
}

var (
	repeatFault = finding.Declare("entry.withdraw-and-repeat")
	checkSaid   = finding.Declare("journal.check", "item")
)

// ownItem begins the code of an item that a school wrote itself: what follows is its
// text, so that a journal can be read without its practical.
const ownItem = "="

// MaxOwnItem is how long the text of such an item may be, in characters.
const MaxOwnItem = 80

// OwnItem is the code of an item that a school wrote itself.
func OwnItem(text string) string { return ownItem + text }

// OwnText is the text of such an item, and whether the code is that of one.
func OwnText(code string) (string, bool) { return strings.CutPrefix(code, ownItem) }

var ownSaid = finding.Declare("item.own", "text")

// ItemSaid names an item of a list.
func ItemSaid(code string) finding.Message {
	if text, own := OwnText(code); own {
		return ownSaid.Message(finding.Text(text))
	}
	return finding.Message{Code: "item." + code}
}

// Kind implements Part.
func (Checked) Kind() Kind { return "check" }

// Check implements Part.
func (k Checked) Check() *finding.Fault { return checkText("item", k.Item, 1, 1+MaxOwnItem) }

// Trial implements Part.
func (Checked) Trial() string { return "" }

// Text implements Part.
func (k Checked) Text() string { return k.Item }

// With implements Part: a check is withdrawn and made again.
func (Checked) With(string) (Part, *finding.Fault) { return nil, repeatFault.Fault("value") }

// Said implements Part.
func (k Checked) Said() finding.Message {
	return checkSaid.Message(finding.Said(ItemSaid(k.Item)))
}

func (Checked) fold(c *folding, l *Line) { c.out.Lines = append(c.out.Lines, *l) }

// Timer is a waiting time that was kept to its end.
type Timer struct {
	For     string `json:"for" enum:"leak,end-colour,stirring,drain"`
	Of      string `json:"trial,omitempty" maxLength:"64"`
	Seconds int    `json:"seconds" minimum:"1" maximum:"7200"`
}

// What a waiting time is kept for.
const (
	ForLeak     = "leak"
	ForColour   = "end-colour"
	ForStirring = "stirring"
	ForDrain    = "drain"
)

var (
	allTimers   = []string{ForLeak, ForColour, ForStirring, ForDrain}
	timerNames  = finding.Family("timer.", allTimers)
	timerSaid   = finding.Declare("journal.timer", "for", "seconds")
	secondFault = finding.Declare("entry.seconds", "seconds")
)

// Kind implements Part.
func (Timer) Kind() Kind { return "timer" }

// Check implements Part.
func (t Timer) Check() *finding.Fault {
	if t.Seconds < 1 || t.Seconds > 7200 {
		return secondFault.Fault("seconds", finding.Count(t.Seconds))
	}
	return first(checkTrial(t.Of), oneOf("for", t.For, allTimers...))
}

// Trial implements Part.
func (t Timer) Trial() string { return t.Of }

// Text implements Part.
func (Timer) Text() string { return "" }

// With implements Part: a waiting time is withdrawn and kept again.
func (Timer) With(string) (Part, *finding.Fault) { return nil, repeatFault.Fault("value") }

// Said implements Part.
func (t Timer) Said() finding.Message {
	return timerSaid.Message(finding.Said(timerNames[t.For].Message()), finding.Count(t.Seconds))
}

func (Timer) fold(c *folding, l *Line) { c.out.Lines = append(c.out.Lines, *l) }
