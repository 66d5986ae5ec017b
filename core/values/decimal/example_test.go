package decimal_test

import (
	"fmt"

	"exactflask/core/values/decimal"
)

func ExampleDecimal_Sub() {
	end, start := decimal.Must("21,30"), decimal.Must("0.55")
	fmt.Println(end.Sub(start))
	// Output: 20.75
}
