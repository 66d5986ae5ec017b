package glass_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/chemistry/glass"
	"exactflask/core/values/decimal"
)

func TestTolerance(t *testing.T) {
	const iso385, iso648 = "ISO 385, from memory", "ISO 648, from memory"
	for _, c := range []struct {
		capacity, division string
		class              glass.Class
		want, source       string
	}{
		{"10", "0.05", glass.ClassA, "0.03", iso385}, {"10", "0.02", glass.ClassA, "0.02", iso385},
		{"10", "0.05", glass.ClassB, "0.05", iso385}, {"25", "0.05", glass.ClassB, "0.05", iso385},
		{"25", "0.1", glass.ClassB, "0.10", iso385}, {"10", "0.02", glass.ClassB, "0.04", iso385}, {"25", "0.05", glass.ClassA, "0.03", iso385},
		{"25.00", "0.1", glass.ClassA, "0.05", iso385},
		{"50.00", "0.1", glass.ClassA, "0.05", iso385}, {"50", "0.1", glass.ClassB, "0.10", iso385},
		{"100", "0.2", glass.ClassB, "0.20", iso385},
	} {
		b := glass.Burette{Capacity: decimal.Must(c.capacity), Division: decimal.Must(c.division), Class: c.class}
		got, ok := b.Tolerance()
		require.True(t, ok)
		assert.Equal(t, c.want, got.String(), "%s mL burette: %s", c.capacity, c.source)
	}
	for _, c := range []struct {
		volume string
		class  glass.Class
		want   string
	}{{"25.0", glass.ClassA, "0.03"}, {"25.0", glass.ClassB, "0.06"}, {"10", glass.ClassA, "0.02"}, {"50.00",
		glass.ClassB, "0.10"}} {
		got, ok := glass.Pipette{Volume: decimal.Must(c.volume), Class: c.class}.Tolerance()
		require.True(t, ok)
		assert.Equal(t, c.want, got.String(), "%s mL pipette: %s", c.volume, iso648)
	}
	// What no table lists is estimated by kind and size. Source: common practice,
	// no source.
	for _, c := range []struct {
		kind   glass.Kind
		volume string
		class  glass.Class
		want   string
	}{
		{glass.OneMark, "30", glass.ClassA, "0.10"}, {glass.OneMark, "30.00", glass.ClassB, "0.20"},
		{glass.OneMark, "4.00", glass.ClassA, "0.030"}, {glass.OneMark, "200", glass.ClassA, "0.32"},
		{glass.Cylinder, "20.0", glass.ClassA, "0.25"}, {glass.Cylinder, "20.0", glass.ClassB, "0.50"},
		{glass.Cylinder, "2000", glass.ClassA, "10"}, {glass.Flask, "150", glass.ClassA, "0.15"},
	} {
		got, listed := glass.Tolerance(c.kind, decimal.Must(c.volume), c.class)
		assert.False(t, listed, "%s %s", c.kind, c.volume)
		assert.Equal(t, c.want, got.String(), "%s %s", c.kind, c.volume)
	}
	got, listed := glass.Burette{Capacity: decimal.Must("30"), Division: decimal.Must("0.1"), Class: glass.ClassB}.Tolerance()
	assert.False(t, listed)
	assert.Equal(t, "0.1", got.String())
}

func TestStepAndCheck(t *testing.T) {
	b := glass.Burette{Capacity: decimal.Must("50"), Division: decimal.Must("0.1"), Class: glass.ClassB}
	assert.Nil(t, b.Check())
	for r, want := range map[glass.Resolution]string{glass.HalfDivision: "0.05", glass.TenthDivision: "0.01",
		glass.WholeDivision: "0.1"} {
		assert.Equal(t, want, b.Step(r).String())
	}
	for path, bad := range map[string]glass.Burette{
		"capacity": {Capacity: decimal.Must("0"), Division: decimal.Must("0.1"), Class: glass.ClassA},
		"division": {Capacity: decimal.Must("50"), Division: decimal.Must("10"), Class: glass.ClassA},
		"class":    {Capacity: decimal.Must("50"), Division: decimal.Must("0.1"), Class: "C"},
	} {
		assert.Equal(t, path, bad.Check().Path)
	}
	assert.Equal(t, "volume", glass.Pipette{Volume: decimal.Must("-25"), Class: glass.ClassA}.Check().Path)
}

// What is read follows the division, with the decimals that are written.
func TestSteps(t *testing.T) {
	for _, c := range []struct{ division, whole, half, tenth string }{
		{"0.01", "0.01", "0.005", "0.001"},
		{"0.02", "0.02", "0.01", "0.002"},
		{"0.05", "0.05", "0.025", "0.005"},
		{"0.1", "0.1", "0.05", "0.01"},
		{"0.10", "0.1", "0.05", "0.01"},
		{"0.2", "0.2", "0.1", "0.02"},
		{"1", "1", "0.5", "0.1"},
		{"1.0", "1", "0.5", "0.1"},
	} {
		b := glass.Burette{Capacity: decimal.Must("50"), Division: decimal.Must(c.division)}
		assert.Equal(t, c.whole, b.Step(glass.WholeDivision).String(), c.division)
		assert.Equal(t, c.half, b.Step(glass.HalfDivision).String(), c.division)
		assert.Equal(t, c.tenth, b.Step(glass.TenthDivision).String(), c.division)
	}
}
