package glass_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"exactflask/core/chemistry/glass"
	"exactflask/core/values/decimal"
)

// A school's own glass: what can be, and what cannot. Common practice, no source.
func TestPieces(t *testing.T) {
	syringe := func() glass.Piece {
		return glass.Piece{Kind: glass.Graduated, Name: "30 mL syringe", Serial: "17", Capacity: decimal.Must("30.0"), Division: decimal.Must("1"), Rising: true}
	}
	pipette := func() glass.Piece {
		return glass.Piece{Kind: glass.OneMark, Name: "Pipette", Capacity: decimal.Must("20.00")}
	}
	for name, c := range map[string]struct {
		piece glass.Piece
		set   func(*glass.Piece)
		path  string
	}{
		"a syringe":            {syringe(), func(*glass.Piece) {}, ""},
		"without a name":       {syringe(), func(p *glass.Piece) { p.Name = " " }, "name"},
		"a name of 60":         {syringe(), func(p *glass.Piece) { p.Name = strings.Repeat("ä", 60) }, ""},
		"a name of 61":         {syringe(), func(p *glass.Piece) { p.Name = strings.Repeat("ä", 61) }, "name"},
		"a number of 41":       {syringe(), func(p *glass.Piece) { p.Serial = strings.Repeat("1", 41) }, "name"},
		"ten divisions":        {syringe(), func(p *glass.Piece) { p.Division = decimal.Must("3") }, ""},
		"fewer":                {syringe(), func(p *glass.Piece) { p.Division = decimal.Must("3.1") }, "division"},
		"from 5 mL":            {syringe(), func(p *glass.Piece) { p.First = decimal.Must("5") }, ""},
		"from its last mark":   {syringe(), func(p *glass.Piece) { p.First = decimal.Must("30.0") }, "first"},
		"below nothing":        {syringe(), func(p *glass.Piece) { p.First = decimal.Must("-1") }, "first"},
		"a tolerance":          {syringe(), func(p *glass.Piece) { p.Tolerance = decimal.Must("29.9") }, ""},
		"as wide as the glass": {syringe(), func(p *glass.Piece) { p.Tolerance = decimal.Must("30.0") }, "tolerance"},
		"a pipette":            {pipette(), func(*glass.Piece) {}, ""},
		"of nothing":           {pipette(), func(p *glass.Piece) { p.Capacity = decimal.Decimal{} }, "capacity"},
		"a tub":                {pipette(), func(p *glass.Piece) { p.Kind = "tub" }, "kind"},
		"of class C":           {pipette(), func(p *glass.Piece) { p.Class = "C" }, "class"},
		"negative tolerance":   {pipette(), func(p *glass.Piece) { p.Tolerance = decimal.Must("-0.01") }, "tolerance"},
	} {
		c.set(&c.piece)
		if fault := c.piece.Check(); c.path == "" {
			assert.Nil(t, fault, name)
		} else if assert.NotNil(t, fault, name) {
			assert.Equal(t, c.path, fault.Path, name)
		}
	}
	assert.Nil(t, glass.CheckAll(slicesOf(syringe(), glass.MostPieces)))
	assert.NotNil(t, glass.CheckAll(slicesOf(syringe(), glass.MostPieces+1)))
	assert.Equal(t, "glass[1].kind", glass.CheckAll([]glass.Piece{syringe(), {Kind: "tub", Name: "x", Capacity: decimal.Whole(1)}}).Path)

	// What is known of a piece counts before what a class of glass permits.
	b := syringe().Burette()
	assert.Equal(t, "30 mL syringe (17)", b.Name)
	b.Within = decimal.Must("0.40")
	tolerance, listed := b.Tolerance()
	assert.Equal(t, "0.40", tolerance.String())
	assert.True(t, listed)
	b.First = decimal.Must("5")
	for reading, on := range map[string]bool{"5": true, "4.9": false, "30": true, "30.1": false} {
		assert.Equal(t, on, b.OnScale(decimal.Must(reading)), reading)
	}
	for _, p := range glass.Usual {
		p.Name = "usual"
		assert.Nil(t, p.Check())
	}
}

func slicesOf(p glass.Piece, n int) []glass.Piece {
	out := make([]glass.Piece, n)
	for i := range out {
		out[i] = p
	}
	return out
}
