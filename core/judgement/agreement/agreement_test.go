package agreement_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"exactflask/core/judgement/agreement"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/statistics"
)

// titres makes candidates named a, b, c ... from "23.80 23.90".
func titres(text string) []agreement.Candidate {
	var out []agreement.Candidate
	for i, s := range strings.Fields(text) {
		out = append(out, agreement.Candidate{ID: string(rune('a' + i)), Titre: decimal.Must(s), Place: i})
	}
	return out
}

// Source of all rows: common practice, no source.
func TestJudge(t *testing.T) {
	for _, c := range []struct {
		titres, tolerance string
		need              int
		status            agreement.Status
		chosen, mean      string
		reasons           string // of a, b, c ... in order
	}{
		{"23.85 23.80 23.80", "0.10", 2, agreement.Agreed, "bca", "23.82", "in.agrees in.agrees in.agrees"},
		{"23.90 23.80", "0.10", 2, agreement.Agreed, "ba", "23.85", "in.agrees in.agrees"},
		{"23.91 23.80", "0.10", 2, agreement.Disagree, "", "", "out.no-set out.no-set"},
		{"22.10 22.20 22.30", "0.10", 2, agreement.Agreed, "bc", "22.25", "out.tied in.agrees in.agrees"},
		{"22.30 22.20 22.10", "0.10", 2, agreement.Agreed, "cb", "22.15", "out.tied in.agrees in.agrees"},
		{"22.10 22.30 22.20", "0.10", 2, agreement.Agreed, "cb", "22.25", "out.tied in.agrees in.agrees"},
		{"22.10 22.20 22.30", "0.20", 2, agreement.Agreed, "abc", "22.20", "in.agrees in.agrees in.agrees"},
		{"22.10 22.20 22.30", "0.10", 3, agreement.Disagree, "", "", "out.no-set out.no-set out.no-set"},
		{"22.10 22.20 22.30 22.25", "0.10", 2, agreement.Agreed, "bdc", "22.25", "out.too-low in.agrees in.agrees in.agrees"},
		{"22.10 22.15 22.25", "0.10", 2, agreement.Agreed, "ab", "22.13", "in.agrees in.agrees out.too-high"},
		{"21.00 21.05 23.00 23.05", "0.10", 2, agreement.Agreed, "cd", "23.03", "out.tied out.tied in.agrees in.agrees"},
		{"21.00 21.05 23.00 23.06", "0.10", 2, agreement.Agreed, "ab", "21.03", "in.agrees in.agrees out.too-high out.too-high"},
		{"21.00 21.05 22.00 23.00 23.05", "0.10", 2, agreement.Agreed, "de", "23.03",
			"out.tied out.tied out.too-low in.agrees in.agrees"},
		{"22.10 22.10 22.20 22.20", "0.10", 2, agreement.Agreed, "abcd", "22.15", "in.agrees in.agrees in.agrees in.agrees"},
		{"4.8 4.7 4.6", "0.20", 3, agreement.Agreed, "cba", "4.70", "in.agrees in.agrees in.agrees"},
		{"24.40", "0.10", 2, agreement.TooFew, "", "", "out.alone"},
		{"24.40 24.40", "0.10", 3, agreement.TooFew, "", "", "out.no-set out.no-set"},
		{"", "0.10", 2, agreement.TooFew, "", "", ""},
		{"24.40", "0.10", 1, agreement.Agreed, "a", "24.40", "in.one"},
		{"24.40 25.60", "0.10", 1, agreement.Agreed, "ab", "25.00", "in.all in.all"},
		{"", "0.10", 1, agreement.TooFew, "", "", ""},
		{"20.4 20.40 20.400", "0.05", 3, agreement.Agreed, "abc", "20.40", "in.agrees in.agrees in.agrees"},
	} {
		name := fmt.Sprintf("%s within %s, %d wanted", c.titres, c.tolerance, c.need)
		v := agreement.Judge(titres(c.titres), practical.AgreementRule{Tolerance: decimal.Must(c.tolerance), Need: c.need})
		assert.Equal(t, c.status, v.Status, name)
		assert.Equal(t, c.chosen, strings.Join(v.Chosen, ""), name)
		if c.mean != "" {
			assert.Equal(t, c.mean, v.Mean.Round(2).String(), name)
		}
		for i, want := range strings.Fields(c.reasons) {
			assert.Equal(t, want, string(v.Reasons[string(rune('a'+i))]), "%s, trial %d", name, i+1)
		}
	}
}

// Agreement never depends on the order of the trials, and what it chooses
// really agrees and could not be larger.
func TestJudgeProperties(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var candidates []agreement.Candidate
		for i, n := range rapid.SliceOfN(rapid.IntRange(0, 12), 0, 7).Draw(t, "titres") {
			d := decimal.Must("22.00").Add(decimal.Must("0.05").Mul(decimal.Whole(int64(n))))
			candidates = append(candidates, agreement.Candidate{ID: fmt.Sprint(i), Titre: d, Place: i})
		}
		rule := practical.AgreementRule{Tolerance: decimal.Must(rapid.SampledFrom([]string{"0.05", "0.10", "0.20"}).Draw(t,
			"tolerance")), Need: rapid.IntRange(2, 3).Draw(t, "need")}
		v := agreement.Judge(candidates, rule)
		assert.Equal(t, v, agreement.Judge(rapid.Permutation(candidates).Draw(t, "order"), rule))
		assert.Len(t, v.Reasons, len(candidates))
		for _, c := range candidates {
			larger := 0
			for _, d := range candidates {
				diff := d.Titre.Sub(c.Titre)
				if diff.Sign() >= 0 && diff.Cmp(rule.Tolerance) <= 0 {
					larger++
				}
			}
			switch v.Status {
			case agreement.Agreed:
				assert.LessOrEqual(t, larger, len(v.Chosen), "a set from %s up would be larger", c.Titre)
			case agreement.Disagree:
				assert.Less(t, larger, rule.Need)
			}
		}
		if v.Status == agreement.Agreed {
			assert.LessOrEqual(t, v.Spread.Cmp(rule.Tolerance), 0)
		}
	})
}

// The choices of rule beside the usual one. Source: common practice, no source.
func TestRules(t *testing.T) {
	for _, c := range []struct {
		name, titres string
		rule         practical.AgreementRule
		status       agreement.Status
		chosen       string
	}{
		{"all must agree", "22.10 22.15 22.30", practical.AgreementRule{Tolerance: decimal.Must("0.10"), Need: 2,
			Average: practical.AverageAll}, agreement.Disagree, ""},
		{"all do agree", "22.10 22.15 22.20", practical.AgreementRule{Tolerance: decimal.Must("0.10"), Need: 2,
			Average: practical.AverageAll}, agreement.Agreed, "abc"},
		{"the two closest of three that agree", "22.10 22.15 22.17",
			practical.AgreementRule{Tolerance: decimal.Must("0.10"), Need: 2, Average: practical.AverageClosest}, agreement.Agreed, "bc"},
		{"two pairs equally close", "22.10 22.15 22.20",
			practical.AgreementRule{Tolerance: decimal.Must("0.10"), Need: 2, Average: practical.AverageClosest}, agreement.Agreed, "bc"},
		{"within 2 % either side: 4 % exactly", "0.98 1.02", practical.AgreementRule{Kind: practical.Relative, Need: 2},
			agreement.Agreed, "ab"},
		{"a little more than 4 %", "0.98 1.021", practical.AgreementRule{Kind: practical.Relative, Need: 2}, agreement.Disagree, ""},
		{"within 1 %", "0.98 1.02", practical.AgreementRule{Kind: practical.Relative, Percent: decimal.Must("1"), Need: 2},
			agreement.Disagree, ""},
		{"0.05 mL", "22.10 22.15 22.20", practical.AgreementRule{Tolerance: decimal.Must("0.05"), Need: 2}, agreement.Agreed, "bc"},
	} {
		v := agreement.Judge(titres(c.titres), c.rule)
		assert.Equal(t, c.status, v.Status, c.name)
		assert.Equal(t, c.chosen, strings.Join(v.Chosen, ""), c.name)
	}
}

func TestStatistics(t *testing.T) {
	// t(0.975, 2) = 4.303: tables of Student's t; s of 23.80, 23.85, 23.90 is 0.05 exactly.
	s, ok := statistics.Describe([]float64{23.80, 23.85, 23.90})
	assert.True(t, ok)
	assert.InDelta(t, 0.05, s.SD, 1e-12)
	assert.InDelta(t, 0.10, s.Range, 1e-12)
	assert.InDelta(t, 4.303*0.05/1.7320508, s.CI95, 1e-4)
	assert.InDelta(t, 0.2096, s.RSD, 1e-4)
	assert.InDelta(t, 4.303, s.T, 1e-3)
	_, ok = statistics.Describe([]float64{1})
	assert.False(t, ok)
	// Of two no interval is given, and of two or three the scatter is not less than what the
	// scale gives: a half division of 0.05 mL, read twice, is 0.05/√6 = 0.0204 mL.
	least := 0.05 / math.Sqrt(6)
	for _, c := range []struct {
		values   []float64
		sd, ci   float64
		resolved bool
	}{
		{[]float64{23.85, 23.85}, 0.0204124, 0, true},
		{[]float64{23.80, 23.85}, 0.0353553, 0, false},
		{[]float64{23.85, 23.85, 23.85}, 0.0204124, 4.303 * 0.0204124 / 1.7320508, true},
		{[]float64{23.84, 23.86, 23.8804}, 0.0202, 4.303 * 0.0204124 / 1.7320508, true},
		{[]float64{23.84, 23.86, 23.881}, 0.0205, 4.303 * 0.0205 / 1.7320508, false},
		{[]float64{23.85, 23.85, 23.85, 23.85}, 0, 0, false},
	} {
		d, _ := statistics.Describe(c.values)
		d = d.Resolving(least)
		assert.InDelta(t, c.sd, d.SD, 3e-4, c.values)
		assert.InDelta(t, c.ci, d.CI95, 1e-3, c.values)
		assert.Equal(t, c.resolved, d.Resolved, c.values)
	}
	// Critical values: D. B. Rorabacher, Anal. Chem. 1991, 63, 139 (from memory).
	for n, critical := range map[int]float64{3: 0.970, 4: 0.829, 5: 0.710, 6: 0.625, 7: 0.568} {
		values := make([]float64, n)
		for i := range values {
			values[i] = 20 + 0.01*float64(i)
		}
		values[n-1] = 21
		q, ok := statistics.DixonQ(values, 0)
		assert.True(t, ok)
		assert.Equal(t, critical, q.Critical)
		assert.Equal(t, n-1, q.Index)
		assert.InDelta(t, (values[n-1]-values[n-2])/(values[n-1]-values[0]), q.Q, 1e-12)
		assert.Equal(t, q.Q > critical, q.Outlies)
	}
	_, ok = statistics.DixonQ([]float64{1, 2}, 0)
	assert.False(t, ok)
}

// Where there was no time for as many, those that there are have to agree; one by itself
// counts. Source: common practice, no source.
func TestAsTimeAllows(t *testing.T) {
	for _, c := range []struct {
		titres string
		status agreement.Status
		chosen string
	}{
		{"", agreement.TooFew, ""},
		{"24.40", agreement.Agreed, "a"},
		{"24.40 24.50", agreement.Agreed, "ab"},
		{"24.40 24.51", agreement.Disagree, ""},
		{"24.40 24.50 24.60", agreement.Disagree, ""}, // there was time for three
		{"24.40 24.50 24.45", agreement.Agreed, "acb"},
	} {
		v := agreement.Judge(titres(c.titres), practical.AgreementRule{Tolerance: decimal.Must("0.10"), Need: 3, AsTimeAllows: true})
		assert.Equal(t, c.status, v.Status, c.titres)
		assert.Equal(t, c.chosen, strings.Join(v.Chosen, ""), c.titres)
	}
}
