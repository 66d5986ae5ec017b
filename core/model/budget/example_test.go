package budget_test

import (
	"fmt"

	"exactflask/core/model/budget"
)

func ExampleOf() {
	d, inputs := product(1, []factor{{"m", 0.5, 0.001, 1}, {"V", 20, 0.04, -1}})
	b := budget.Of(d.Program(), inputs, d.Program().Last())
	fmt.Printf("%.2f %%", b.Relative)
	// Output: 0.28 %
}
