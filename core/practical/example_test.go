package practical_test

import (
	"fmt"
)

func ExamplePractical_Check() {
	p := plain()
	p.Chemistry.Titrant.Formula = "HCL"
	_, fault := p.Check()
	fmt.Println(fault.Path, fault.Message.Code)

	r, _ := plain().Check()
	fmt.Println(r.Kind, r.Each())
	// Output:
	// chemistry.titrant.formula chem.syntax
	// direct false
}
