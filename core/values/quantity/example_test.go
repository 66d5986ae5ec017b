package quantity_test

import (
	"fmt"

	"exactflask/core/values/decimal"
	"exactflask/core/values/quantity"
)

func ExampleQuantity_In() {
	q, _ := quantity.Of(decimal.Must("21.35"), quantity.Millilitre).In(quantity.Litre)
	fmt.Println(quantity.Show(q.Value, q.Figures), q.Unit)
	// Output: 0.02135 L
}
