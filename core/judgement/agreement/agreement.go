// Package agreement judges which titres agree ("are concordant").
//
//	rule := agreement.Rule{Tolerance: decimal.Must("0.10"), Need: 2}
//	v := agreement.Judge(candidates, rule)
//	v.Status     // agreed
//	v.Mean       // of the agreeing titres only, unrounded
//	v.Reasons[0] // why the first candidate is in or out
package agreement

import (
	"cmp"
	"slices"
	"sort"
	"strings"

	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
)

// Candidate is a trial that may take part: an accurate, complete one that was
// not set aside.
type Candidate struct {
	ID string
	// Titre is what is compared: the titre in mL, or under the relative rule
	// the answer that the trial gives by itself.
	Titre decimal.Decimal
	// Place is its number in the order in which the trials were done.
	Place int
}

// Status is the outcome of a judgement.
type Status string

// The outcomes.
const (
	TooFew   Status = "too-few"
	Disagree Status = "disagree"
	Agreed   Status = "agreed"
)

// Reason says why a candidate is in or out of the mean.
type Reason string

// The reasons. InOne is given to a single one that is enough, InAll where nothing has to agree,
// OutTied is given to the members of a set that is as good as the one that is
// taken and earlier, Alone to the only candidate there is.
const (
	InSet      Reason = "in.agrees"
	InOne      Reason = "in.one"
	InAll      Reason = "in.all"
	OutTooHigh Reason = "out.too-high"
	OutTooLow  Reason = "out.too-low"
	OutNoSet   Reason = "out.no-set"
	OutTied    Reason = "out.tied"
	Alone      Reason = "out.alone"
	NotClosest Reason = "out.not-closest"
)

// In tells whether what it is said of is averaged.
func (r Reason) In() bool { return r == InSet || r == InOne || r == InAll }

// Verdict is the judgement of a set of candidates.
type Verdict struct {
	Status Status
	// Chosen are the ids of the titres that are averaged, lowest titre first.
	// It is empty unless Status is Agreed.
	Chosen []string
	// Reasons has one reason for each candidate, by id.
	Reasons map[string]Reason
	// Mean is the unrounded mean, Spread the largest less the smallest, of the
	// chosen titres.
	Mean   decimal.Decimal
	Spread decimal.Decimal
	// Rivals are sets that are as good as the one that is taken: as large and as tight.
	Rivals [][]string
	// RivalMeans are their means, unrounded.
	RivalMeans []decimal.Decimal
}

// Judge finds the largest set of at least rule.Need titres whose spread is
// within the tolerance. Of equally large sets the one with the smaller spread
// is taken (under the relative rule, the smaller spread by its mean), and of equal ones
// the later, by the places of its members: 22.10, 22.20 and 22.30 at 0.10 give 22.25.
// The cost is that of sorting.
//
// A set agrees as a whole, not neighbour by neighbour: 22.10, 22.20 and 22.30
// do not agree within 0.10. With Average All only the whole set will do, with
// Closest only sets of the needed size. Where one is enough all of them are averaged, whether
// they agree or not; as time allows, as many as there are have to agree. Source: common practice, no source.
func Judge(candidates []Candidate, rule practical.AgreementRule) Verdict {
	s := newSorted(candidates, rule)
	need := rule.Need
	if need < 1 { // not said: what is usual
		need = 2
	}
	if rule.AsTimeAllows {
		need = min(need, max(1, len(s.all)))
	}
	v := Verdict{Status: Disagree, Reasons: make(map[string]Reason, len(s.all))}
	if len(s.all) < need {
		v.Status = TooFew
		s.reason(v, 0, len(s.all), OutNoSet)
		if len(s.all) == 1 {
			v.Reasons[s.all[0].ID] = Alone
		}
		return v
	}
	if need == 1 { // nothing has to agree
		v.Status = Agreed
		v.Chosen, v.Mean, v.Spread = s.ids(0, len(s.all)), s.mean(0, len(s.all)), s.spread(0, len(s.all))
		s.reason(v, 0, len(s.all), map[bool]Reason{true: InOne, false: InAll}[len(s.all) == 1])
		return v
	}
	best := s.best(need)
	if len(best) == 0 {
		s.reason(v, 0, len(s.all), OutNoSet)
		return v
	}
	v.Status = Agreed
	taken := slices.MaxFunc(best, s.later)
	from, to := taken[0], taken[1]
	low, high := OutTooLow, OutTooHigh
	if rule.Average == practical.AverageClosest {
		low, high = NotClosest, NotClosest
	}
	s.reason(v, 0, from, low)
	s.reason(v, to, len(s.all), high)
	for _, set := range best {
		if set != taken {
			s.reason(v, set[0], set[1], OutTied)
			v.Rivals, v.RivalMeans = append(v.Rivals, s.ids(set[0], set[1])), append(v.RivalMeans, s.mean(set[0], set[1]))
		}
	}
	s.reason(v, from, to, InSet)
	v.Chosen, v.Mean, v.Spread = s.ids(from, to), s.mean(from, to), s.spread(from, to)
	return v
}

// later compares two sets by when their members were done, the last ones first.
func (s sorted) later(a, b [2]int) int {
	places := func(set [2]int) []int {
		var out []int
		for _, c := range s.all[set[0]:set[1]] {
			out = append(out, -c.Place)
		}
		slices.Sort(out)
		return out
	}
	return slices.Compare(places(b), places(a))
}

// sorted are the candidates by size, with the sums before each place.
type sorted struct {
	all  []Candidate
	sums []decimal.Decimal
	rule practical.AgreementRule
}

func newSorted(candidates []Candidate, rule practical.AgreementRule) sorted {
	s := sorted{slices.Clone(candidates), make([]decimal.Decimal, 1, len(candidates)+1), rule}
	slices.SortFunc(s.all, func(a, b Candidate) int { return cmp.Or(a.Titre.Cmp(b.Titre), strings.Compare(a.ID, b.ID)) })
	for i, c := range s.all {
		s.sums = append(s.sums, s.sums[i].Add(c.Titre))
	}
	return s
}

func (s sorted) spread(from, to int) decimal.Decimal {
	return s.all[to-1].Titre.Sub(s.all[from].Titre)
}

func (s sorted) mean(from, to int) decimal.Decimal {
	m, _ := s.sums[to].Sub(s.sums[from]).Div(decimal.Whole(int64(to - from)))
	return m
}

func (s sorted) ids(from, to int) []string {
	out := make([]string, 0, to-from)
	for _, c := range s.all[from:to] {
		out = append(out, c.ID)
	}
	return out
}

func (s sorted) reason(v Verdict, from, to int, r Reason) {
	for _, c := range s.all[from:to] {
		v.Reasons[c.ID] = r
	}
}

// agrees tells whether any set of a size does. The members of a best set stand
// side by side when sorted: whatever lies between two members could join
// without widening the spread.
func (s sorted) agrees(size int) bool {
	for i := 0; i+size <= len(s.all); i++ {
		if s.rule.Within(s.spread(i, i+size), s.mean(i, i+size)) {
			return true
		}
	}
	return false
}

// best returns the best sets, as places from and to. Without its smallest
// member a set that agrees still agrees, so the largest size is found by
// halving.
func (s sorted) best(need int) [][2]int {
	least, most := need, len(s.all)
	switch s.rule.Average {
	case practical.AverageAll:
		least = most
	case practical.AverageClosest:
		most = need
	}
	if !s.agrees(least) {
		return nil
	}
	size := least + sort.Search(most-least, func(i int) bool { return !s.agrees(least + i + 1) })
	var best [][2]int
	closer := func(a, b [2]int) int { // negative where a is
		x, y := s.spread(a[0], a[1]), s.spread(b[0], b[1])
		if s.rule.Kind == practical.Relative {
			x, y = x.Mul(s.mean(b[0], b[1])), y.Mul(s.mean(a[0], a[1]))
		}
		return x.Cmp(y)
	}
	for i := 0; i+size <= len(s.all); i++ {
		set := [2]int{i, i + size}
		if !s.rule.Within(s.spread(set[0], set[1]), s.mean(set[0], set[1])) {
			continue
		}
		if best != nil {
			c := closer(set, best[0])
			if c > 0 || c == 0 && s.same(set, best[len(best)-1]) {
				continue
			}
			if c < 0 {
				best = nil
			}
		}
		best = append(best, set)
	}
	return best
}

// same tells whether two sets have the same values: of equal titres it does not
// matter which is taken.
func (s sorted) same(a, b [2]int) bool {
	for i := range a[1] - a[0] {
		if s.all[a[0]+i].Titre.Cmp(s.all[b[0]+i].Titre) != 0 {
			return false
		}
	}
	return true
}
