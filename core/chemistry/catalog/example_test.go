package catalog_test

import (
	"fmt"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/chem"
)

func ExampleCatalog_Substance() {
	s, ok := catalog.BuiltIn().Substance(chem.MustFormula("KHC8H4O4"))
	fmt.Println(s.ID, ok)
	// Output: potassium-hydrogenphthalate true
}
