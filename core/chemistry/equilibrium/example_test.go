package equilibrium_test

import (
	"fmt"

	"exactflask/core/chemistry/equilibrium"
)

func ExampleTitration_PH() {
	strong := func(charge float64) equilibrium.Mixture { // the charge of its ion that takes no part
		return equilibrium.Mixture{{Substance: equilibrium.Substance{Strong: charge}, Concentration: 0.1}}
	}
	t := equilibrium.Titration{Sample: strong(-1), Volume: 25, Titrant: strong(1)}
	fmt.Printf("%.2f %.2f %.2f", t.PH(0), t.PH(25), t.PH(37.5))
	// Output: 1.00 7.00 12.30
}
