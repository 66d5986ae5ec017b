package experiment_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/chemistry/glass"
	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
)

func syringe() glass.Piece {
	return glass.Piece{Kind: glass.Graduated, Name: "Syringe", Serial: "17", Capacity: decimal.Must("30.0"), Division: decimal.Must("1"),
		Rising: true, Tolerance: decimal.Must("0.30")}
}

// What a bench chose of the school's glassware is reckoned with: 25.0 mL of hydroxide by 0.100 mol/L
// acid, 24.50 mL of it, 0.0980 mol/L by hand; with a pipette of 20.00 mL 0.1225, with a cylinder 0.0980
// and a larger uncertainty; a syringe that counts down is read as it counts.
func TestOwnGlass(t *testing.T) {
	r, fault := practicaltest.Plain().Check()
	require.Nil(t, fault)
	uses := func(step int, p glass.Piece) journal.Entry {
		return journal.Entry{Part: journal.OwnGlass{Step: step, Piece: p}}
	}
	piece := func(kind glass.Kind, mL, tolerance string) glass.Piece {
		return glass.Piece{Kind: kind, Name: "own", Capacity: decimal.Must(mL), Tolerance: decimal.Must(tolerance)}
	}
	down := slices.Clip(entries("A 0.00 24.50", "A 0.00 24.50"))
	up := entries("A 30.0 5.5", "A 30.0 5.5")
	first := func(e journal.Entry, rest []journal.Entry) []journal.Entry {
		out := slices.Clone(rest)
		for i := range out {
			out[i].Clock++
		}
		e.ID, e.Clock, e.At = "glass-first", 1, out[0].At
		return append([]journal.Entry{e}, out...)
	}
	atOnce := func(rest []journal.Entry, e journal.Entry) []journal.Entry {
		e.ID, e.Device, e.Clock = "glass-first", "other", rest[0].Clock
		return append([]journal.Entry{e}, rest...)
	}
	for mL, asked := range map[string]bool{"25.00": false, "20.00": false, "10.00": true, "2.50": true} {
		_, doubtful := experiment.Doubt(r, journal.OwnGlass{Step: 1, Piece: piece(glass.OneMark, mL, "0.06")})
		assert.Equal(t, asked, doubtful, mL)
	}
	plain := experiment.Evaluate(r, down, experiment.All)
	for _, c := range []struct {
		name    string
		record  []journal.Entry
		answer  float64 // mol/L; 0 for none
		sure    int     // less (-1), as (0), or more (1) than without
		finding string
	}{
		{"none", down, 0.0980, 0, ""},
		{"a pipette of 20 mL", add(down, uses(1, piece(glass.OneMark, "20.00", "0.06"))), 0.1225, 1, ""},
		{"a fine pipette", add(down, uses(1, piece(glass.OneMark, "25.00", "0.01"))), 0.0980, -1, ""},
		{"a cylinder", add(down, uses(1, piece(glass.Cylinder, "25.0", "0.5"))), 0.0980, 1, ""},
		{"the last of two counts", add(down, uses(1, piece(glass.Cylinder, "25.0", "0.5")), uses(1, piece(glass.OneMark, "25.00", "0.01"))), 0.0980, -1, ""},
		{"a syringe, chosen first", first(uses(0, syringe()), up), 0.0980, 1, ""},
		{"a syringe, chosen after readings", add(down, uses(0, syringe())), 0.0980, 0, "glass.turned"},
		{"a syringe, chosen while another device began", atOnce(down, uses(0, syringe())), 0.0980, 0, "glass.turned"},
		{"a burette of the same direction, chosen after", add(down, uses(0, glass.Piece{Kind: glass.Graduated, Name: "B 4", Capacity: decimal.Must("50.00"), Division: decimal.Must("0.1"), Tolerance: decimal.Must("0.02")})), 0.0980, -1, ""},
		{"at a step that there is not", add(down, uses(3, piece(glass.OneMark, "25.00", "0.03"))), 0.0980, 0, "glass.unfit"},
	} {
		ev := experiment.Evaluate(r, c.record, experiment.All)
		require.NotNil(t, ev.Result, c.name)
		assert.InEpsilon(t, c.answer, ev.Result.Answer.Value, 1e-9, c.name)
		without, with := plain.Result.Budget.Relative, ev.Result.Budget.Relative
		switch c.sure {
		case -1:
			assert.Less(t, with, without, c.name)
		case 0:
			assert.InEpsilon(t, without, with, 1e-9, c.name)
		case 1:
			assert.Greater(t, with, without, c.name)
		}
		assert.Equal(t, c.finding != "", said(ev, c.finding), "%s %s", c.name, c.finding)
	}
	// What was chosen is one of a place, and fits there.
	for _, c := range []struct {
		step int
		p    glass.Piece
		fine bool
	}{{0, syringe(), true}, {1, syringe(), false}, {0, piece(glass.OneMark, "25.00", "0.03"), false}, {13, piece(glass.Flask, "250.0", "0.15"), true},
		{14, piece(glass.Flask, "250.0", "0.15"), false}, {-1, syringe(), false}} {
		assert.Equal(t, c.fine, journal.OwnGlass{Step: c.step, Piece: c.p}.Check() == nil, "%d", c.step)
	}
	// A hundred choices are remembered no longer than need be, and each gives what it should.
	for i := range 100 {
		mL := decimal.Whole(int64(10 + i)).Round(2)
		used, fault := r.Using(1, glass.Piece{Kind: glass.OneMark, Name: "own", Capacity: mL})
		require.Nil(t, fault)
		assert.Equal(t, mL.String(), used.Route[0].Volume.String())
		assert.Equal(t, practical.ByPipette, used.Route[0].By)
	}
}

func said(ev evaluation.Evaluation, code string) bool {
	for _, f := range ev.Findings {
		if f.Code == code {
			return true
		}
	}
	return false
}
