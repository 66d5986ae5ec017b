package diagnosis_test

import (
	"fmt"

	"exactflask/core/judgement/diagnosis"
)

func ExampleGiven_Fits() {
	own := diagnosis.Given{Value: 2.14, Half: 0.005} // written with two decimals
	fmt.Println(own.Fits(2.1385), own.Fits(2.131))
	// Output: true false
}
