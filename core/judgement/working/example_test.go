package working_test

import (
	"fmt"

	"exactflask/core/judgement/working"
)

func ExampleAttempted() {
	given := &working.OwnAnswer{Text: "21.30", Unit: "mL"}
	fmt.Println(working.Attempted([]working.Step{{Answer: given, Verdict: working.Right, Fits: true}, {}}))
	fmt.Println(working.Attempted([]working.Step{{Answer: given, Verdict: working.Right, Fits: true}, {Answer: given, Verdict: working.FewFigures, Fits: true}}))
	fmt.Println(working.Attempted([]working.Step{{Answer: given, Verdict: working.WrongUnit}}))
	fmt.Println(working.Attempted([]working.Step{{Answer: given, Verdict: working.Wrong}, {Answer: given, Verdict: working.Wrong}, {Answer: given, Verdict: working.Wrong}}))
	// Output:
	// false
	// true
	// false
	// false
}
