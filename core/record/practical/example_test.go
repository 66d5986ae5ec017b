package practical_test

import (
	"fmt"

	"exactflask/core/record/practical/practicaltest"
)

func ExamplePractical_Check() {
	p := practicaltest.Plain()
	p.Chemistry.Titrant.Formula = "HCL"
	_, fault := p.Check()
	fmt.Println(fault.Path, fault.Message.Code)

	r, _ := practicaltest.Plain().Check()
	fmt.Println(r.Kind, r.Each())
	// Output:
	// chemistry.titrant.formula chem.syntax
	// direct false
}
