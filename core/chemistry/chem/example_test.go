package chem_test

import (
	"fmt"

	"exactflask/core/chemistry/chem"
)

func ExampleEquation_Balance() {
	eq, _ := chem.ParseEquation("H3PO4 + NaOH -> Na3PO4 + H2O")
	eq, _ = eq.Balance()
	fmt.Println(eq)
	// Output: H₃PO₄ + 3 NaOH → Na₃PO₄ + 3 H₂O
}
