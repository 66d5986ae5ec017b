package experiment_test

import (
	"fmt"

	"exactflask/core/judgement/experiment"
	"exactflask/core/record/practical/practicaltest"
)

func ExampleEvaluate() {
	ready, _ := practicaltest.Plain().Check()
	ev := experiment.Evaluate(ready, entries("R 0.00 22.10", "A 0.00 21.35", "A 0.05 21.45"), experiment.PartResult)
	fmt.Println(ev.Stage, ev.Agreement.Mean, ev.Result.Answer)
	// Output: agreed 21.38 0.0855
}
