package assay_test

import (
	"fmt"

	"exactflask/core/model/assay"
)

func ExampleAssay_Forward() {
	a := assay.New(ready(new(quiet), hclNaOH+`"route":[{"kind":"pipette","volume":"25.00"}]}`), assay.Held{})
	answer, _ := a.Answer(trial("t", "0.00 24.00"))
	back, _ := a.Forward(assay.Measured{Trial: "next"}, answer.Value, 0)
	fmt.Printf("%.4f mol/L, %.2f mL", answer.Value, back.Last)
	// Output: 0.0960 mol/L, 24.00 mL
}

// quiet fails an example that cannot be set up.
type quiet struct{}

func (*quiet) Errorf(format string, args ...any) { panic(fmt.Sprintf(format, args...)) }
func (*quiet) FailNow()                          { panic("the example cannot be set up") }
