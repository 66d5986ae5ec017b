package prep_test

import (
	"fmt"

	"exactflask/core/practice/prep"
)

func ExampleMake() {
	made, _ := prep.Make(prep.Solution{Formula: "Na2CO3", Concentration: 0.04, Volume: 500, Purity: 1})
	fmt.Printf("%.3f g", made.Mass)
	// Output: 2.120 g
}
