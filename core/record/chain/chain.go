// Package chain binds the entries of a journal together in the order in which they
// came in, and finds where that was broken. It stands apart from the journal, since a
// bench does not need it.
package chain

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"time"

	"exactflask/core/record/journal"
	"exactflask/core/values/finding"
)

// Follow makes the link of an entry that came in after the one with this hash
// (empty for the first), and returns the entry as it is kept.
func Follow(before string, e journal.Entry, received time.Time) (l journal.Link, text []byte, err error) {
	if text, err = json.Marshal(e); err != nil {
		return l, nil, fmt.Errorf("writing entry %s: %w", e.ID, err)
	}
	var tree map[string]any
	numbers := json.NewDecoder(bytes.NewReader(text))
	numbers.UseNumber()
	if err := numbers.Decode(&tree); err != nil {
		return l, nil, fmt.Errorf("reading entry %s: %w", e.ID, err)
	}
	received = received.UTC()
	sum := sha256.New()
	fmt.Fprintf(sum, "%s\n%s\n", before, received.Format(time.RFC3339Nano))
	plain := json.NewEncoder(sum) // sorts the names, and ends the line
	plain.SetEscapeHTML(false)
	if err := plain.Encode(tree); err != nil {
		return l, nil, fmt.Errorf("writing entry %s: %w", e.ID, err)
	}
	return journal.Link{Entry: e.ID, Received: received, Hash: hex.EncodeToString(sum.Sum(nil))}, text, nil
}

// Flaw is how a chain and its entries do not fit each other.
type Flaw string

const (
	Altered   Flaw = "altered"   // this entry, its time, or one that stood before it was changed, moved or removed
	Missing   Flaw = "missing"   // the chain names an entry that is not there
	Unchained Flaw = "unchained" // the entry stands in no chain
)

var flaws = finding.Family("chain.", []Flaw{Altered, Missing, Unchained}, "entry")

// Broken is the first entry at which a chain does not hold.
type Broken struct {
	Entry string
	Flaw  Flaw
}

// Message says it.
func (b Broken) Message() finding.Message { return flaws[b.Flaw].Message(finding.Text(b.Entry)) }

// Verify goes along a chain from its first link; nil where every entry stands in
// it as it came in. What was cut off at the end of both cannot be seen from
// them: for that, compare the last hash with one that was kept elsewhere.
func Verify(links []journal.Link, entries []journal.Entry) *Broken {
	byID := make(map[string]journal.Entry, len(entries))
	for _, e := range entries {
		byID[e.ID] = e
	}
	before := ""
	for _, l := range links {
		e, ok := byID[l.Entry]
		if !ok {
			return &Broken{l.Entry, Missing}
		}
		made, _, err := Follow(before, e, l.Received)
		if err != nil || made.Hash != l.Hash {
			return &Broken{l.Entry, Altered}
		}
		before = l.Hash
		delete(byID, l.Entry)
	}
	for _, e := range entries {
		if _, left := byID[e.ID]; left {
			return &Broken{e.ID, Unchained}
		}
	}
	return nil
}
