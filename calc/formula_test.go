package calc

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// What a formula comes to by the usual rules of arithmetic (common practice), and what is
// said of one that cannot be read.
func TestFormulas(t *testing.T) {
	names, at := []string{"a", "b_2", "sqrtx"}, []float64{2, 3, 16}
	for _, c := range []struct {
		text  string
		want  float64
		fault string
	}{
		{"1+2*3", 7, ""}, {"(1+2)*3", 9, ""}, {"7-4-1", 2, ""}, {"16/4/2", 2, ""}, {"16/(4/2)", 8, ""},
		{"2^3^2", 512, ""}, {"-2^2", -4, ""}, {"(-2)^2", 4, ""}, {"2^-1", 0.5, ""}, {"--3", 3, ""}, {"+3", 3, ""}, {"2*-3", -6, ""},
		{"a*b_2", 6, ""}, {"sqrt(sqrtx)", 4, ""}, {"ln(exp(a))", 2, ""}, {"log10(1000)", 3, ""}, {" 1000 * a\n/ b_2 ", 2000.0 / 3, ""},
		{"1.5e2", 150, ""}, {"1E-2*a", 0.02, ""}, {".5", 0.5, ""}, {"5.", 5, ""},
		{"1/0", math.Inf(1), ""},
		{"", 0, "calc.formula-cut"}, {"a+", 0, "calc.formula-cut"}, {"(a", 0, "calc.formula-cut"}, {"sqrt", 0, "calc.formula-cut"},
		{"a b_2", 0, "calc.formula 3 b"}, {"a)", 0, "calc.formula 2 )"}, {"a*/2", 0, "calc.formula 3 /"}, {"2·a", 0, "calc.formula 2 ·"},
		{"sqrt 2", 0, "calc.formula 6 2"}, {"1.2.3", 0, "calc.formula 4 ."}, {".", 0, "calc.formula 1 ."}, {"2e", 0, "calc.formula 2 e"}, {"a,b", 0, "calc.formula 2 ,"},
		{"c", 0, "calc.formula-name c"}, {"a+sqr(2)", 0, "calc.formula-name sqr"}, {"sin(1)+)", 0, "calc.formula-name sin"},
		{strings.Repeat("(", 99) + "a" + strings.Repeat(")", 99), 2, ""},
		{strings.Repeat("(", 100) + "a" + strings.Repeat(")", 100), 0, "calc.formula-deep"},
		{strings.Repeat("-", 100_000) + "a", 0, "calc.formula-deep"},
	} {
		f, fault := readFormula(c.text, names)
		said := ""
		if fault != nil {
			said = fault.Code
			for _, name := range []string{"at", "sign", "name"} {
				if v, ok := fault.Values[name]; ok {
					said += " " + v.String()
				}
			}
			assert.Equal(t, c.fault, said, c.text)
			continue
		}
		assert.Equal(t, c.fault, said, c.text)
		assert.InDelta(t, c.want, f(at), 1e-12, c.text)
	}
}
