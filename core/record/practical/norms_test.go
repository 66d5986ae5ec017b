package practical_test

import (
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
)

// A norm is a number in its range, and whole where it counts; what the program ships is.
func TestNormsAreChecked(t *testing.T) {
	for _, n := range practical.Usual {
		assert.True(t, n.Least.Cmp(n.Usual) <= 0 && n.Usual.Cmp(n.Most) <= 0, n.Name)
	}
	for _, c := range []struct {
		norms practical.Norms
		want  string
	}{
		{nil, ""},
		{practical.Norms{practical.LeakSeconds: decimal.Must("5")}, ""},
		{practical.Norms{practical.LeakSeconds: decimal.Must("4.9")}, "rules.norms.leak-wait norms.range"},
		{practical.Norms{practical.LeakSeconds: decimal.Must("600")}, ""},
		{practical.Norms{practical.LeakSeconds: decimal.Must("601")}, "rules.norms.leak-wait norms.range"},
		{practical.Norms{practical.DriftTrials: decimal.Must("4")}, ""},
		{practical.Norms{practical.DriftTrials: decimal.Must("3.5")}, "rules.norms.drift-trials norms.whole"},
		{practical.Norms{"lead": decimal.Must("1")}, "rules.norms.lead norms.unknown"},
		{practical.Norms{practical.BestFrom: decimal.Must("54.9")}, ""},
		{practical.Norms{practical.BestFrom: decimal.Must("55")}, "rules.norms.best-aim norms.order"},
		{practical.Norms{practical.LeastExcess: decimal.Must("50"), practical.MostExcess: decimal.Must("50")}, "rules.norms.most-excess norms.order"},
	} {
		p := practicaltest.Plain()
		p.Rules.Norms = c.norms
		_, fault := p.Check()
		said := ""
		if fault != nil {
			said = fault.Path + " " + fault.Code
		}
		assert.Equal(t, c.want, said)
	}
}

// What a practical says goes before what its school says, and that before what is usual;
// together they must not contradict.
func TestNormsOfWiderCircles(t *testing.T) {
	p := practicaltest.Plain()
	p.Rules.Norms = practical.Norms{practical.LeakSeconds: decimal.Must("20")}
	p.Rules.School = practical.Norms{practical.LeakSeconds: decimal.Must("40"), practical.StirMinutes: decimal.Must("3")}
	r, fault := p.Check()
	require.Nil(t, fault)
	for name, want := range map[practical.NormName]string{practical.LeakSeconds: "20", practical.StirMinutes: "3", practical.SmallTitre: "5"} {
		assert.Equal(t, want, r.Norms().Value(name).String(), name)
	}
	p.Rules.Norms, p.Rules.School = practical.Norms{practical.BestFrom: decimal.Must("50")}, practical.Norms{practical.BestAim: decimal.Must("45")}
	_, fault = p.Check()
	require.NotNil(t, fault)
	assert.Equal(t, "norms.order", fault.Code)
}

// No norm is there that nothing asks for.
func TestEveryNormIsUsed(t *testing.T) {
	declared, err := os.ReadFile("norms.go")
	require.NoError(t, err)
	var all strings.Builder
	require.NoError(t, filepath.WalkDir("../..", func(path string, d os.DirEntry, err error) error {
		if err == nil && strings.HasSuffix(path, ".go") && !strings.HasSuffix(path, "_test.go") && filepath.Base(path) != "norms.go" {
			var text []byte
			text, err = os.ReadFile(path)
			all.Write(text)
		}
		return err
	}))
	for _, extra := range []string{"../../../view/setting.go", "../../../view/plan.go"} {
		text, err := os.ReadFile(extra)
		require.NoError(t, err)
		all.Write(text)
	}
	names := regexp.MustCompile(`(?m)^\t(\w+) +NormName = `).FindAllStringSubmatch(string(declared), -1)
	require.Len(t, names, len(practical.Usual))
	for _, n := range names {
		assert.Regexp(t, `[( ]`+"(practical\\.)?"+n[1]+`\b`, all.String(), n[1])
	}
}
