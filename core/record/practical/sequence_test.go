package practical_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
)

// chain makes practicals of "a<b c<a": b comes before a, a before c; the order is that of the class.
func chain(said string) []practical.Practical {
	var out []practical.Practical
	for _, one := range strings.Fields(said) {
		id, after, _ := strings.Cut(one, "<")
		out = append(out, practical.Practical{ID: id, After: after})
	}
	return out
}

func TestSequence(t *testing.T) {
	for _, c := range []struct{ all, of, sequence, before string }{
		{"a", "a", "", ""},
		{"a b", "b", "", ""},
		{"a b<a", "a", "a b", ""},
		{"a b<a", "b", "a b", "a"},
		{"c<b a b<a", "b", "a b c", "a"},
		{"c<b a b<a", "c", "a b c", "a b"},
		{"a b<a c<a", "c", "a b c", "a"}, // two come after one
		{"b<gone c<b", "c", "b c", "b"},  // what is not set any more
		{"a<b b<a", "a", "b a", "b"},     // a circle of old ones ends nobody
		{"a", "elsewhere", "", ""},
	} {
		assert.Equal(t, c.sequence, strings.Join(practical.Sequence(chain(c.all), c.of), " "), c.all)
		assert.Equal(t, c.before, strings.Join(practical.Before(chain(c.all), c.of), " "), c.all)
	}
}

func TestSequencesThatCannotBe(t *testing.T) {
	five := "p1"
	for i := 2; i <= practical.MostInSequence; i++ {
		five += fmt.Sprintf(" p%d<p%d", i, i-1)
	}
	for _, c := range []struct{ all, one, code string }{
		{"a b", "b<a", ""},
		{"a b<a", "a", ""},
		{"a b<a", "a<b", "sequence.round"},
		{"a b<a c<b", "a<c", "sequence.round"},
		{strings.TrimSuffix(five, " p5<p4"), "p5<p4", ""},
		{five, "p6<p5", "sequence.long"},
	} {
		fault := practical.SequenceFault(chain(c.all), chain(c.one)[0])
		if c.code == "" {
			assert.Nil(t, fault, c.one)
		} else if assert.NotNil(t, fault, c.one) {
			assert.Equal(t, c.code, fault.Code)
		}
	}
	p := practicaltest.Plain()
	p.After = p.ID
	_, fault := p.Check()
	require.NotNil(t, fault)
	assert.Equal(t, "sequence.itself", fault.Code)
	p.After, p.Report.Whole = "", true
	_, fault = p.Check()
	require.NotNil(t, fault)
	assert.Equal(t, "report.whole", fault.Path)
	p.After = "other"
	_, fault = p.Check()
	assert.Nil(t, fault)
}
