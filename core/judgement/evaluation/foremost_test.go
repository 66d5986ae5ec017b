package evaluation_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/values/finding"
)

func TestForemost(t *testing.T) {
	for _, c := range []struct {
		all  []finding.Severity
		want []int
	}{
		{nil, []int{}},
		{[]finding.Severity{finding.Note}, []int{0}},
		{[]finding.Severity{finding.Note, finding.Note}, []int{1, 0}},
		{[]finding.Severity{finding.Note, finding.Check, finding.Note}, []int{1, 2}},
		{[]finding.Severity{finding.Check, finding.Warning, finding.Check, finding.Warning, finding.Note}, []int{3, 1}},
	} {
		all := make([]finding.Finding, len(c.all))
		for i, s := range c.all {
			all[i].Severity = s
		}
		assert.Equal(t, c.want, evaluation.Foremost(all), c.all)
	}
}
