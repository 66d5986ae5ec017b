package board_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/practice/board"
	"exactflask/core/practice/sim"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/finding"
)

var now = time.Date(2026, 11, 24, 10, 30, 0, 0, time.UTC)

// A row for each rule of who needs help: what makes it, and that its absence does not.
func TestNeeds(t *testing.T) {
	before := func(d time.Duration) *time.Time { at := now.Add(-d); return &at }
	found := func(v float64) *evaluation.Found { return &evaluation.Found{Value: v} }
	well := func() evaluation.Summary {
		return evaluation.Summary{Stage: evaluation.Measuring, Entries: 9, Seen: now.Add(-time.Minute), Trials: 1,
			Agreement: evaluation.Agreement{Missing: 1}, Bands: []evaluation.Band{{}}}
	}
	for _, c := range []struct {
		code   string
		change func(*board.Bench)
		not    func(*board.Bench) // the same just within the rule
	}{
		{"hand", func(b *board.Bench) { b.Hand = before(3 * time.Minute) }, nil},
		{"broken", func(b *board.Bench) { b.Broken = true }, nil},
		{"reading", func(b *board.Bench) { b.Summary.Worst = worst("titre.end-before-start", finding.Warning) }, nil},
		{"drift", func(b *board.Bench) { b.Summary.Worst = worst("titre.drift", finding.Check) }, nil},
		{"look", func(b *board.Bench) { b.Summary.Worst = worst("titre.overshot", finding.Check) }, nil},
		{"leak", func(b *board.Bench) { b.Summary.Leaks = true }, nil},
		{"short", func(b *board.Bench) { b.Summary.Left = &evaluation.SupplyLeft{Trials: 0} },
			func(b *board.Bench) { b.Summary.Left = &evaluation.SupplyLeft{Trials: 1} }},
		{"far", func(b *board.Bench) { b.Summary.Found = found(0.1021) }, func(b *board.Bench) { b.Summary.Found = found(0.1019) }},
		{"far", func(b *board.Bench) { b.Summary.Found = found(0.0979) }, func(b *board.Bench) { b.Summary.Found = found(0.0981) }},
		{"disagree", func(b *board.Bench) { b.Summary.Stage, b.Summary.Trials = evaluation.Disagreeing, 4 },
			func(b *board.Bench) { b.Summary.Stage, b.Summary.Trials = evaluation.Disagreeing, 3 }},
		{"setup", func(b *board.Bench) { b.Summary.Undone = 2 }, func(b *board.Bench) { b.Summary.Undone, b.Summary.Bands = 2, nil }},
		{"quiet", func(b *board.Bench) { b.Summary.Seen = now.Add(-11 * time.Minute) },
			func(b *board.Bench) { b.Summary.Seen = now.Add(-10 * time.Minute) }},
		{"quiet", func(b *board.Bench) { b.Summary.Seen, b.Summary.Last = time.Time{}, now.Add(-11*time.Minute) },
			func(b *board.Bench) {
				b.Summary.Seen, b.Summary.Stage = now.Add(-time.Hour), evaluation.Agreed
			}},
		{"not-begun", func(b *board.Bench) { b.Summary = nil }, nil},
	} {
		for i, change := range []func(*board.Bench){c.change, c.not} {
			if change == nil {
				continue
			}
			s := well()
			b := board.Bench{Reference: 0.1, Summary: &s}
			assert.Empty(t, board.Needs(nil, b, now), "nothing is said of a bench that is well")
			change(&b)
			var codes []string
			for _, n := range board.Needs(nil, b, now) {
				codes = append(codes, n.Code)
				assert.Equal(t, "tell."+n.Code, n.Tell.Code)
				assert.Equal(t, "need."+n.Code, n.Say.Code)
			}
			if i == 0 {
				assert.Equal(t, []string{c.code}, codes)
			} else {
				assert.NotContains(t, codes, c.code)
			}
		}
	}
	s := well()
	s.Leaks, s.Undone, s.Worst = true, 1, worst("titre.overshot", finding.Check)
	var ranks []int
	for _, n := range board.Needs(nil, board.Bench{Reference: 0.1, Summary: &s, Hand: before(0)}, now) {
		ranks = append(ranks, n.Rank)
	}
	assert.IsIncreasing(t, ranks, "the worst first")
	assert.Len(t, ranks, 4)
	asks := board.Needs(nil, board.Bench{Hand: before(0), Broken: true}, now)
	assert.Equal(t, "hand", asks[0].Code, "whoever asks comes before everything")
}

func worst(code string, severity finding.Severity) []finding.Finding {
	return []finding.Finding{{Message: finding.Message{Code: code}, Severity: severity}}
}

func TestToDo(t *testing.T) {
	codes := func(s *evaluation.Summary, handedIn bool) (out []string) {
		for _, m := range board.ToDo(s, handedIn) {
			out = append(out, m.Code)
		}
		return out
	}
	assert.Equal(t, []string{"todo.begin"}, codes(nil, false))
	s := &evaluation.Summary{Entries: 1, Stage: evaluation.Untouched, Agreement: evaluation.Agreement{Missing: 2}, Tidy: 3}
	assert.Equal(t, []string{"todo.rough", "todo.trials", "todo.tidy", "todo.hand-in"}, codes(s, false))
	s.Stage, s.Work = evaluation.Agreed, 1
	assert.Equal(t, []string{"todo.work", "todo.tidy", "todo.hand-in"}, codes(s, false))
	assert.Empty(t, codes(s, true))
}

// M. Hollander, D. A. Wolfe, Nonparametric Statistical Methods, 1973, p. 69: one-sided
// 0.1272 (quoted from memory); and the normal approximation beside the exact count.
func TestRankSum(t *testing.T) {
	x := []float64{0.80, 0.83, 1.89, 1.04, 1.45, 1.38, 1.91, 1.64, 0.73, 1.46}
	y := []float64{1.15, 0.88, 0.90, 0.74, 1.21}
	assert.InDelta(t, 2*0.1272, board.RankSum(x, y), 0.0002)
	assert.InDelta(t, 2.0/435, board.RankSum([]float64{1, 2}, ramp(28, 3)), 1e-12, "the two lowest of thirty")
	assert.InDelta(t, 1, board.RankSum([]float64{5, 5}, []float64{5, 5, 5}), 1e-12, "all equal")
	assert.InDelta(t, 1.7e-4, board.RankSum(ramp(6, 0), ramp(24, 10)), 1e-4, "normal approximation")
}

func ramp(n int, from float64) []float64 {
	out := make([]float64, n)
	for i := range out {
		out[i] = from + float64(i)
	}
	return out
}

func TestPlot(t *testing.T) {
	assert.Empty(t, board.PlotOf(nil, nil).Points)
	odd := board.PlotOf(nil, []board.Answer{{Bench: "a", Value: math.NaN(), Reference: 1}, {Bench: "b", Value: -1, Reference: 1}})
	assert.Empty(t, odd.Points)
	var answers []board.Answer
	for i, v := range []float64{0.0995, 0.0999, 0.1000, 0.1001, 0.1004, 0.1060} {
		answers = append(answers, board.Answer{Bench: fmt.Sprint(i), Value: v, Reference: 0.1})
	}
	p := board.PlotOf(nil, answers)
	assert.Equal(t, board.AgainstReference, p.Against)
	assert.InDelta(t, 0.05, p.Median, 1e-9)
	assert.InDelta(t, 1.4826*0.25, p.Spread, 1e-9)
	for _, point := range p.Points {
		assert.Equal(t, point.ID == "5", point.Far, point)
	}
	// Without a true value each unknown has its own median.
	for i := range answers {
		answers[i].Reference, answers[i].Unknown = 0, string(rune('A'+i%2))
		answers[i].Value *= float64(1 + i%2)
	}
	p = board.PlotOf(nil, answers)
	assert.Equal(t, board.AgainstMedian, p.Against)
	assert.InDelta(t, 5.89, p.Points[5].Percent, 0.02, "0.2120 from 0.2002")
	// Of two parts of a class the one that is off is named, not the one that is right.
	answers = nil
	for i := range 30 {
		a := board.Answer{Bench: fmt.Sprint(i), Value: 0.1 + 0.00001*float64(i%7), Reference: 0.1, Shared: map[board.Attribute]string{board.Standardised: "0.0998"}}
		if i%3 == 0 {
			a.Value, a.Shared = 0.97*a.Value, map[board.Attribute]string{board.Standardised: "0.1031"}
		}
		answers = append(answers, a)
	}
	common := board.PlotOf(nil, answers).Common
	require.NotEmpty(t, common)
	assert.Equal(t, "0.1031", common[0].Value)
	answers = answers[:6]
	// A whole class that is off together.
	for i := range answers {
		answers[i] = board.Answer{Bench: fmt.Sprint(i), Value: 0.103 + 0.0001*float64(i), Reference: 0.1}
	}
	require.Len(t, board.PlotOf(nil, answers).Common, 1)
	assert.Equal(t, board.Everyone, board.PlotOf(nil, answers).Common[0].Attribute)
}

// What benches have in common, on the limits by hand: of nine benches three that lie lowest
// are 2 of 84 arrangements (0.0238), of eight 2 of 56 (0.0357); three per cent is the limit.
func TestCommonOnTheLimits(t *testing.T) {
	class := func(off []float64, shared ...string) (out []board.Answer) {
		for i, percent := range off {
			a := board.Answer{Bench: string(rune('a' + i)), Value: 0.1 * (1 + percent/100), Reference: 0.1}
			if i < len(shared) && shared[i] != "" {
				a.Shared = map[board.Attribute]string{board.Bottle: shared[i]}
			}
			out = append(out, a)
		}
		return out
	}
	low := func(by float64, n int) []float64 { // three that are off, and others about right
		out := []float64{by, by + 0.001, by + 0.002}
		for i := range n - 3 {
			out = append(out, 0.01*float64(i))
		}
		return out
	}
	for _, c := range []struct {
		name   string
		off    []float64
		shared []string
		want   string // of what is named: attribute, benches, median; empty: nothing
	}{
		{"three of nine", low(-1.9, 9), []string{"X", "X", "X"}, "bottle X abc -1.899"},
		{"three of eight", low(-1.9, 8), []string{"X", "X", "X"}, ""},
		{"of two bottles, compared twice", low(-1.9, 9), []string{"X", "X", "X", "Y", "Y", "Y", "Y", "Y", "Y"}, ""},
		{"of bottles with one bench each, compared once", low(-1.9, 9), []string{"X", "X", "X", "P", "Q", "R", "S"}, "bottle X abc -1.899"},
		{"two that share, one of three", low(-1.9, 9), []string{"X", "X", "Z"}, ""},
		{"too small a shift", low(-0.45, 9), []string{"X", "X", "X"}, ""},
		{"a shift of half a per cent", []float64{-0.51, -0.5, -0.49, 0, 0, 0, 0, 0, 0}, []string{"X", "X", "X"}, "bottle X abc -0.5"},
		{"just less", []float64{-0.51, -0.49, -0.48, 0, 0, 0, 0, 0, 0}, []string{"X", "X", "X"}, ""},
		{"the other part is off", low(-1.9, 9), []string{"", "", "", "Y", "Y", "Y", "Y", "Y", "Y"}, ""},
		{"nothing shared", low(-1.9, 9), nil, ""},
		{"everybody", []float64{1.5, 1.51, 1.52, 1.53, 1.54}, nil, "everyone  abcde 1.52"},
		{"four are too few", []float64{1.5, 1.51, 1.52, 1.53}, nil, ""},
		{"everybody, but widely spread", []float64{-1, 0.2, 1.5, 2.8, 4}, nil, ""},
	} {
		got := ""
		if found := board.PlotOf(nil, class(c.off, c.shared...)).Common; len(found) > 0 {
			got = fmt.Sprint(found[0].Attribute, " ", found[0].Value, " ", strings.Join(found[0].Benches, ""), " ", found[0].Percent)
		}
		assert.Equal(t, c.want, got, c.name)
	}
	// The limits of the whole class, where nothing is shared.
	limit := practical.Norms(nil).Of(practical.ShiftClass)
	for by, want := range map[float64]int{limit: 0, limit + 0.01: 1} {
		assert.Len(t, board.PlotOf(nil, class([]float64{by, by, by, by, by})).Common, want, by)
	}
	// Far off: beyond what is allowed, or beyond the others and a school's shift.
	far := func(off ...float64) (out string) {
		for _, p := range board.PlotOf(nil, class(off)).Points {
			if p.Far {
				out += p.ID
			}
		}
		return out
	}
	assert.Equal(t, "f", far(0, 0.1, 0.2, 0.3, 0.4, 2.01))
	assert.Equal(t, "", far(1.8, 1.8, 1.85, 1.9, 1.9, 2), "2 % is allowed")
	assert.Equal(t, "f", far(-0.02, -0.01, 0, 0.01, 0.02, 0.52), "far from the others, though allowed")
	assert.Equal(t, "", far(-0.02, -0.01, 0, 0.01, 0.02, 0.5), "less than a shift that is worth naming")
	assert.Equal(t, "", far(0, 0, 0, 0, 0, 1.5), "where there is no spread nothing is told by it")
}

// Classes of thirty simulated students who share burettes, standards and bottles. Where
// the benches with one of these have a fault in common it is named first in at least
// 80 % of 200 classes; where none has, none is named in at least 95 %.
func TestCommonCauses(t *testing.T) {
	var ready *practical.Ready
	for _, e := range practicaltest.Examples(t) {
		if e.Name == "descaling-acid.json" {
			ready = e.Ready
		}
	}
	require.NotNil(t, ready)
	const truth = 0.7
	pool := func(n int, from uint64, faults ...string) (out []float64) {
		for seed := range uint64(n) {
			entries, err := sim.Titrate(ready, sim.Student{Seed: from + seed, Skill: sim.Usual, Answer: truth, Device: "d",
				Faults: faults, Begin: now})
			require.NoError(t, err)
			s := experiment.Begin(ready, journal.Fold(entries)).Summary(entries)
			require.NotNil(t, s.Found, "seed %d", from+seed)
			out = append(out, s.Found.Value)
		}
		return out
	}
	well := pool(240, 1)
	fault := map[board.Attribute][]float64{
		board.BuretteBatch: pool(60, 2000, "cause.bubble"),
		board.Bottle:       pool(60, 4000, "cause.flask-with-sample"),
	}
	for _, v := range well { // the concentration they all calculate with is 2 % too low
		fault[board.Standardised] = append(fault[board.Standardised], 0.98*v)
	}
	r := rand.New(rand.NewPCG(1, 2))
	class := func(planted board.Attribute) []board.Answer {
		var out []board.Answer
		for i := range 30 {
			shared := map[board.Attribute]string{
				board.BuretteBatch: string(rune('A' + r.IntN(4))),
				board.Standardised: fmt.Sprintf("0.100%d", r.IntN(4)),
				board.Bottle:       fmt.Sprint("bottle ", r.IntN(5)),
			}
			bad := map[board.Attribute]string{board.BuretteBatch: "B", board.Standardised: "0.1002", board.Bottle: "bottle 3"}
			from := well
			if planted != "" && shared[planted] == bad[planted] {
				from = fault[planted]
			}
			out = append(out, board.Answer{Bench: fmt.Sprint(i), Reference: truth, Shared: shared, Value: from[r.IntN(len(from))]})
		}
		return out
	}
	named, silent := 0, 0
	const classes = 200
	kinds := []board.Attribute{board.BuretteBatch, board.Standardised, board.Bottle}
	for i := range classes {
		planted := kinds[i%len(kinds)]
		if c := board.PlotOf(nil, class(planted)).Common; len(c) > 0 && c[0].Attribute == planted {
			named++
		}
		if len(board.PlotOf(nil, class("")).Common) == 0 {
			silent++
		}
	}
	t.Logf("the common cause is named in %d of %d classes; none is named in %d of %d without one", named, classes, silent, classes)
	assert.GreaterOrEqual(t, named, classes*80/100)
	assert.GreaterOrEqual(t, silent, classes*95/100)
}

// An unknown that is off together is looked at where a true value is known; where each is
// compared with the median of its own it cannot be.
func TestUnknownOffTogether(t *testing.T) {
	class := func(known bool) []board.Answer {
		var out []board.Answer
		for i := range 12 {
			a := board.Answer{Bench: fmt.Sprint(i), Value: 0.1 * (1 + 0.0005*float64(i%5)), Shared: map[board.Attribute]string{board.Unknown: string(rune('A' + i%3))}}
			if known {
				a.Reference = 0.1
			}
			if i%3 == 1 { // B is 3 % stronger than its label
				a.Value *= 1.03
			}
			out = append(out, a)
		}
		return out
	}
	p := board.PlotOf(nil, class(true))
	require.NotEmpty(t, p.Common)
	assert.Equal(t, board.Unknown, p.Common[0].Attribute)
	assert.Equal(t, "B", p.Common[0].Value)
	for _, c := range board.PlotOf(nil, class(false)).Common {
		assert.NotEqual(t, board.Unknown, c.Attribute)
	}
}
