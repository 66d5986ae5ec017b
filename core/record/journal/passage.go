package journal

import (
	"slices"
	"strconv"
	"strings"

	"exactflask/core/values/finding"
)

// MaxPassage is how long a passage of a report may be, in characters.
const MaxPassage = 6000

// Passage is what a student wrote in the report for one of its prompts, as it stood when
// they paused. It names the passages that it was typed over: two that were typed over the
// same one stand beside each other until a third is typed over both.
type Passage struct {
	Prompt  string   `json:"prompt" minLength:"1" maxLength:"20" doc:"method, explain, differently; own-1, own-2 and so on"`
	Written string   `json:"text" maxLength:"6000" doc:"empty: nothing any more"`
	Over    []string `json:"over,omitempty" maxItems:"8" doc:"ids of the entries whose text stood there before"`
}

// The usual passages of a report. Source: common practice, no source.
const (
	Method      = "method"      // the method in own words
	Explain     = "explain"     // what could explain the difference
	Differently = "differently" // what I would do differently
)

// UsualPassages in the order of a report.
var UsualPassages = []string{Method, Explain, Differently}

var (
	passageNames = finding.Family("passage.", UsualPassages)
	ownPassage   = finding.Declare("passage.own", "number")
	passageSaid  = finding.Declare("journal.passage", "prompt", "text")
)

// ownPrompt is the number of a passage of the practical's own: own-1 to own-99.
func ownPrompt(prompt string) (number string, is bool) {
	number, is = strings.CutPrefix(prompt, "own-")
	n, err := strconv.Atoi(number)
	return number, is && err == nil && n >= 1 && n <= 99 && number == strconv.Itoa(n)
}

// PassageSaid names a passage.
func PassageSaid(prompt string) finding.Message {
	if number, own := ownPrompt(prompt); own {
		return ownPassage.Message(finding.Text(number))
	}
	if name, usual := passageNames[prompt]; usual {
		return name.Message()
	}
	return ownPassage.Message(finding.Text(prompt))
}

// Kind implements Part.
func (Passage) Kind() Kind { return "passage" }

// Check implements Part.
func (p Passage) Check() *finding.Fault {
	if _, own := ownPrompt(p.Prompt); !own && !slices.Contains(UsualPassages, p.Prompt) {
		return valueFault.Fault("prompt", finding.Text(p.Prompt))
	}
	for _, id := range p.Over {
		if f := checkID("over", id); f != nil {
			return f
		}
	}
	return checkText("text", p.Written, 0, MaxPassage)
}

// Trial implements Part.
func (Passage) Trial() string { return "" }

// Text implements Part.
func (p Passage) Text() string { return p.Written }

// With implements Part: a passage is written anew.
func (Passage) With(string) (Part, *finding.Fault) { return nil, repeatFault.Fault("value") }

// Said implements Part.
func (p Passage) Said() finding.Message {
	return passageSaid.Message(finding.Said(PassageSaid(p.Prompt)), finding.Text(p.Written))
}

func (p Passage) fold(c *folding, l *Line) {
	if l.Withdrawn {
		return
	}
	if c.out.Passages == nil {
		c.out.Passages = map[string][]Line{}
	}
	stand := slices.DeleteFunc(slices.Clone(c.out.Passages[p.Prompt]), func(before Line) bool {
		return slices.Contains(p.Over, before.Entry.ID) || before.Part.(Passage).Written == p.Written
	})
	c.out.Passages[p.Prompt] = append(stand, *l)
}

// UsualEvidence is what a practical usually asks a photograph of: the label of the sample or its
// bottle, the set-up, the flask at its end colour. A school's own is named as an item of a list is
// (OwnItem). Source: common practice, no source.
var UsualEvidence = []string{"label", "set-up", "end-colour"}

var evidenceNames = finding.Family("evidence.", UsualEvidence)

// EvidenceSaid names what is photographed.
func EvidenceSaid(code string) finding.Message {
	if text, own := OwnText(code); own {
		return ownSaid.Message(finding.Text(text))
	}
	return evidenceNames[code].Message()
}

// Picture is a picture of the report, by the hash of its content.
type Picture struct {
	Hash    string `json:"hash" minLength:"64" maxLength:"64" pattern:"^[0-9a-f]{64}$" doc:"SHA-256 of the picture as it is kept"`
	Caption string `json:"text" maxLength:"200"`
	Width   int    `json:"width" minimum:"1" maximum:"10000" doc:"pixels"`
	Height  int    `json:"height" minimum:"1" maximum:"10000" doc:"pixels"`
	// Of is what it is evidence of, as the practical asks for it.
	Of string `json:"evidence,omitempty" maxLength:"81" doc:"code of what the practical asks a photograph of; left out for any other picture"`
}

var (
	pictureSaid = finding.Declare("journal.picture", "text", "hash")
	sizeFault   = finding.Declare("entry.picture-size")
)

// Kind implements Part.
func (Picture) Kind() Kind { return "picture" }

// Check implements Part.
func (p Picture) Check() *finding.Fault {
	if len(p.Hash) != 64 || strings.Trim(p.Hash, "0123456789abcdef") != "" {
		return valueFault.Fault("hash", finding.Text(p.Hash))
	}
	if min(p.Width, p.Height) < 1 || max(p.Width, p.Height) > 10000 {
		return sizeFault.Fault("width")
	}
	return first(checkText("text", p.Caption, 0, 200), checkText("evidence", p.Of, 0, 1+MaxOwnItem))
}

// Trial implements Part.
func (Picture) Trial() string { return "" }

// Text implements Part: the caption is what a correction replaces.
func (p Picture) Text() string { return p.Caption }

// With implements Part.
func (p Picture) With(text string) (Part, *finding.Fault) {
	p.Caption = text
	return corrected(p)
}

// Said implements Part.
func (p Picture) Said() finding.Message {
	return pictureSaid.Message(finding.Text(p.Caption), finding.Text(p.Hash[:12]))
}

func (p Picture) fold(c *folding, l *Line) {
	if !l.Withdrawn {
		c.out.Pictures = append(c.out.Pictures, *l)
	}
}
