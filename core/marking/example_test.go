package marking_test

import (
	"fmt"

	"exactflask/core/derivation"
	"exactflask/core/journal"
	"exactflask/core/marking"
)

func ExampleAttempted() {
	answers := map[string]journal.Line{"known-amount": {}}
	fmt.Println(marking.Attempted(answers))
	answers[derivation.Answer] = journal.Line{}
	fmt.Println(marking.Attempted(answers))
	// Output:
	// false
	// true
}
