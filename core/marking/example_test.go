package marking_test

import (
	"fmt"

	"exactflask/core/marking"
)

func ExampleAttempted() {
	given := &marking.OwnAnswer{Text: "21.30", Unit: "mL"}
	fmt.Println(marking.Attempted([]marking.Step{{Answer: given, Verdict: marking.Right}, {}}))
	fmt.Println(marking.Attempted([]marking.Step{{Answer: given, Verdict: marking.Right}, {Answer: given, Verdict: marking.FewFigures}}))
	fmt.Println(marking.Attempted([]marking.Step{{Answer: given, Verdict: marking.WrongUnit}}))
	fmt.Println(marking.Attempted([]marking.Step{{Answer: given, Verdict: marking.Wrong}, {Answer: given, Verdict: marking.Wrong}, {Answer: given, Verdict: marking.Wrong}}))
	// Output:
	// false
	// true
	// false
	// false
}
