package formats

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
)

// Receipt is what somebody gets who hands a report in. Its text binds the record (by the
// hash in which its chain ends, which anybody can compute from the open document), the
// pictures, the evaluation and the time; its hash is the SHA-256 of the text.
type Receipt struct {
	Notebook   string
	Version    int
	Practical  string
	Revision   int
	Handed     time.Time
	Late       bool
	Entries    int
	Chain      string
	Pictures   []string
	Evaluation string
}

// Text is the receipt as it is hashed: lines of a name and a value, in this order.
func (r Receipt) Text() string {
	var b strings.Builder
	line := func(name, value string) { fmt.Fprintf(&b, "%s: %s\n", name, value) }
	line("format", "exactflask.receipt 1")
	line("notebook", r.Notebook)
	line("version", fmt.Sprint(r.Version))
	line("practical", fmt.Sprintf("%s %d", r.Practical, r.Revision))
	line("handed-in", r.Handed.UTC().Format(time.RFC3339Nano))
	line("late", fmt.Sprint(r.Late))
	line("entries", fmt.Sprint(r.Entries))
	line("chain", r.Chain)
	for _, p := range r.Pictures {
		line("picture", p)
	}
	line("evaluation", r.Evaluation)
	return b.String()
}

// Hash is the SHA-256 of a text, in hexadecimal digits.
func Hash[T string | []byte](text T) string {
	sum := sha256.Sum256([]byte(text))
	return hex.EncodeToString(sum[:])
}

// Frozen is a report as it was handed in: the practical with everything that was known of
// it, the record and what followed from it.
type Frozen struct {
	Practical  practical.Practical `json:"practical"`
	Journal    []journal.Entry     `json:"journal"`
	Chain      []journal.Link      `json:"chain"`
	Evaluation json.RawMessage     `json:"evaluation"`
}

// Freeze writes what is handed in, and the hash of the evaluation.
func Freeze(r *practical.Ready, entries []journal.Entry, chain []journal.Link) (document []byte, evaluation string, err error) {
	said, err := json.Marshal(experiment.Evaluate(r, entries, experiment.All))
	if err != nil {
		return nil, "", fmt.Errorf("writing an evaluation: %w", err)
	}
	document, err = json.Marshal(Frozen{r.Practical, entries, chain, said})
	return document, Hash(said), err
}

// Thaw reads what was handed in.
func Thaw(document []byte) (Frozen, error) {
	var f Frozen
	if err := json.Unmarshal(document, &f); err != nil {
		return f, fmt.Errorf("reading a report: %w", err)
	}
	return f, nil
}
