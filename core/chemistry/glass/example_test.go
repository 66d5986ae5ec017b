package glass_test

import (
	"fmt"

	"exactflask/core/chemistry/glass"
	"exactflask/core/values/decimal"
)

func ExampleBurette_Step() {
	b := glass.Burette{Capacity: decimal.Must("50.00"), Division: decimal.Must("0.1"), Class: glass.ClassB}
	tolerance, _ := b.Tolerance()
	fmt.Println(b.Step(glass.HalfDivision), tolerance)
	// Output: 0.05 0.10
}
