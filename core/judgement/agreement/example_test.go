package agreement_test

import (
	"fmt"

	"exactflask/core/judgement/agreement"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
)

func ExampleJudge() {
	var titres []agreement.Candidate
	for _, t := range []string{"21.35", "21.40", "21.90"} {
		titres = append(titres, agreement.Candidate{ID: t, Titre: decimal.Must(t)})
	}
	v := agreement.Judge(titres, practical.AgreementRule{Tolerance: decimal.Must("0.10"), Need: 2})
	fmt.Println(v.Status, v.Reasons)
	// Output: agreed map[21.35:in.agrees 21.40:in.agrees 21.90:out.too-high]
}
