package marking

import (
	"cmp"
	"math"
	"slices"

	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/statistics"
)

// Marked is a report with what it was given.
type Marked struct {
	Notebook string
	Marks    map[string]decimal.Decimal // by criterion; what was not awarded is left out
	Slips    []string                   // codes, one for each step that has one
	Answer   float64                    // % from the true value; where Compared
	Compared bool
	Spread   float64 // of the titres that count, mL; where Measured
	Measured bool
	Unknown  string
	Bench    string
}

// Together is what a class's reports say together.
type Together struct {
	Possible   decimal.Number `json:"possible" doc:"marks that can be had"`
	Count      int            `json:"count" doc:"reports that are marked wholly"`
	Mean       float64        `json:"mean"`
	Median     float64        `json:"median"`
	Spread     float64        `json:"spread" doc:"standard deviation"`
	Bins       []int          `json:"bins" doc:"how many lie in each tenth of what can be had, the lowest first"`
	Criteria   []Facility     `json:"criteria"`
	Slips      []SlippedBy    `json:"slips" doc:"the commonest first"`
	Answers    []Scored       `json:"answers" doc:"% from the true value, the lowest first"`
	AnswerMid  float64        `json:"answerMedian" doc:"of them, %"`
	Robust     float64        `json:"answerSpread" doc:"robust standard deviation of them, %"`
	ByUnknown  []Alike        `json:"byUnknown"`
	ByBench    []Alike        `json:"byBench"`
	Comparable bool           `json:"comparable" doc:"enough answers lie apart for z-scores"`
}

// Facility is how a criterion was met.
type Facility struct {
	Criterion string  `json:"criterion"`
	Count     int     `json:"count" doc:"reports in which it was awarded"`
	Mean      float64 `json:"mean"`
	Facility  float64 `json:"facility" doc:"mean by what can be had, 0 to 1"`
}

// SlippedBy is a slip with who made it.
type SlippedBy struct {
	Slip      string   `json:"slip"`
	Notebooks []string `json:"notebooks"`
}

// Scored is one answer.
type Scored struct {
	Notebook string   `json:"notebook"`
	Percent  float64  `json:"percent" doc:"from the true value"`
	Z        float64  `json:"z" doc:"by the robust standard deviation of the class"`
	Judged   ZJudged  `json:"judged" enum:"satisfactory,questionable,unsatisfactory"`
	Spread   *float64 `json:"spread,omitempty" doc:"of the titres that count, mL"`
}

// ZJudged is what a z-score says.
type ZJudged string

// The judgements: up to 2, up to 3, beyond. ISO 13528:2022 and ISO/IEC 17043:2023
// (quoted from memory).
const (
	Satisfactory   ZJudged = "satisfactory"
	Questionable   ZJudged = "questionable"
	Unsatisfactory ZJudged = "unsatisfactory"
)

var _ = finding.Family("z.", []ZJudged{Satisfactory, Questionable, Unsatisfactory})

// Alike are the answers of those who had the same unknown or bench.
type Alike struct {
	Name   string  `json:"name"`
	Count  int     `json:"count"`
	Median float64 `json:"median" doc:"% from the true value"`
	Spread float64 `json:"spread" doc:"robust standard deviation, %"`
}

const fewest = 4 // answers of which a spread can be told

// ResultsOf gathers what the reports of a class say together.
func ResultsOf(s practical.Scheme, reports []Marked) Together {
	out := Together{Possible: decimal.Number{Decimal: s.Total()}, Bins: make([]int, 10), Criteria: []Facility{}, Slips: []SlippedBy{}, Answers: []Scored{}}
	var totals []float64
	possible := out.Possible.Float64()
	for _, r := range reports {
		sum, whole := Total(s, r.Marks)
		if !whole || possible == 0 {
			continue
		}
		totals = append(totals, sum.Float64())
		out.Bins[min(9, int(10*sum.Float64()/possible+1e-9))]++
	}
	out.Count = len(totals)
	if d, ok := statistics.Describe(totals); ok {
		out.Spread = d.SD
	}
	for _, v := range totals {
		out.Mean += v / float64(len(totals))
	}
	out.Median = statistics.Median(totals)
	for _, c := range s.Criteria {
		f := Facility{Criterion: c.ID}
		for _, r := range reports {
			if v, ok := r.Marks[c.ID]; ok {
				f.Count, f.Mean = f.Count+1, f.Mean+v.Float64()
			}
		}
		if f.Count > 0 {
			f.Mean /= float64(f.Count)
		}
		if m := c.Marks.Float64(); m > 0 {
			f.Facility = f.Mean / m
		}
		out.Criteria = append(out.Criteria, f)
	}
	out.slips(reports)
	out.answers(reports)
	out.ByUnknown = groups(reports, func(r Marked) string { return r.Unknown })
	out.ByBench = groups(reports, func(r Marked) string { return r.Bench })
	return out
}

// Total is the sum of what was awarded, and whether every criterion was.
func Total(s practical.Scheme, marks map[string]decimal.Decimal) (sum decimal.Decimal, whole bool) {
	whole = len(s.Criteria) > 0
	for _, c := range s.Criteria {
		v, ok := marks[c.ID]
		sum, whole = sum.Add(v), whole && ok
	}
	return sum, whole
}

func (out *Together) slips(reports []Marked) {
	for _, r := range reports {
		for _, slip := range r.Slips {
			i := slices.IndexFunc(out.Slips, func(s SlippedBy) bool { return s.Slip == slip })
			if i < 0 {
				i, out.Slips = len(out.Slips), append(out.Slips, SlippedBy{Slip: slip})
			}
			if s := &out.Slips[i]; !slices.Contains(s.Notebooks, r.Notebook) {
				s.Notebooks = append(s.Notebooks, r.Notebook)
			}
		}
	}
	slices.SortStableFunc(out.Slips, func(a, b SlippedBy) int { return cmp.Compare(len(b.Notebooks), len(a.Notebooks)) })
}

func (out *Together) answers(reports []Marked) {
	var values []float64
	for _, r := range reports {
		if r.Compared {
			values = append(values, r.Answer)
		}
	}
	out.AnswerMid, out.Robust = statistics.Median(values), statistics.RobustSpread(values)
	out.Comparable = len(values) >= fewest && out.Robust > 0
	for _, r := range reports {
		if !r.Compared {
			continue
		}
		p := Scored{Notebook: r.Notebook, Percent: r.Answer, Judged: Satisfactory}
		if out.Comparable {
			p.Z = r.Answer / out.Robust
		}
		switch z := math.Abs(p.Z); {
		case z >= 3:
			p.Judged = Unsatisfactory
		case z > 2:
			p.Judged = Questionable
		}
		if r.Measured {
			p.Spread = &r.Spread
		}
		out.Answers = append(out.Answers, p)
	}
	slices.SortStableFunc(out.Answers, func(a, b Scored) int { return cmp.Compare(a.Percent, b.Percent) })
}

func groups(reports []Marked, of func(Marked) string) []Alike {
	by := map[string][]float64{}
	for _, r := range reports {
		if name := of(r); r.Compared && name != "" {
			by[name] = append(by[name], r.Answer)
		}
	}
	out := []Alike{}
	for name, values := range by {
		out = append(out, Alike{name, len(values), statistics.Median(values), statistics.RobustSpread(values)})
	}
	slices.SortFunc(out, func(a, b Alike) int {
		return cmp.Or(cmp.Compare(len(a.Name), len(b.Name)), cmp.Compare(a.Name, b.Name))
	})
	return out
}
