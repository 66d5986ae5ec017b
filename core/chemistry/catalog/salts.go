package catalog

import (
	"slices"
	"sync"

	"exactflask/core/chemistry/chem"
)

// inSolution is what of a formula takes part in acid-base equilibria: what is left without hydrogen,
// the metals of strong bases and water of crystallisation, with how much of these there is.
type inSolution struct {
	core     []chem.Count // sorted by element
	hydrogen int
	cations  int // their charge
	charge   int // of the whole
	InWater  InWater
}

func solutionOf(f chem.Formula) inSolution {
	dry, _ := f.Anhydrous()
	out := inSolution{core: f.Core(), cations: dry.CationCharge(), charge: f.Charge()}
	for _, a := range dry.Atoms() {
		switch {
		case a.Per > 1:
			return inSolution{}
		case a.Element == "H":
			out.hydrogen = a.N
		}
	}
	return out
}

// listed are the substances of the catalogue whose part in water is known.
var listed = sync.OnceValue(func() []inSolution {
	var out []inSolution
	for i, s := range builtIn.Substances {
		if s.InWater == nil {
			continue
		}
		if one := solutionOf(substanceFormulas[i][0]); len(one.core) > 0 {
			one.InWater = *s.InWater
			out = append(out, one)
		}
	}
	return out
})

// mostGroups is how many anions of one kind a salt holds.
const mostGroups = 3

// salt works out how an ion, or a salt of a strong base, takes part in acid-base equilibria: as
// the acid or base of the catalogue does that it is made of. What it has more or less of hydrogen
// ions, its charge or its metals make up for. False where there is none.
func salt(f chem.Formula) (InWater, bool) {
	if _, unnamed := f.Unnamed(); unnamed {
		return InWater{}, false
	}
	mine := solutionOf(f)
	if len(mine.core) == 0 {
		return InWater{Strong: -f.Charge()}, f.Charge() == 1 && mine.hydrogen == 1 // the hydrogen ion
	}
	for _, s := range listed() {
		for n := 1; n <= mostGroups; n++ {
			if n > 1 && (mine.charge != 0 || mine.cations < n) {
				break // several only where metals hold them together: glucose is not two of lactic acid
			}
			if !slices.EqualFunc(mine.core, s.core, func(a, b chem.Count) bool { return a.Element == b.Element && a.N == n*b.N }) {
				continue
			}
			taken := n*(s.charge-s.cations) - (mine.charge - mine.cations) // hydrogen ions that it has less
			if n*s.hydrogen-mine.hydrogen != taken {
				continue
			}
			w := s.InWater
			w.Strong = n*(s.InWater.Strong-s.cations+s.charge) + mine.cations - mine.charge
			if len(w.PKa) > 0 && n > 1 {
				w.Units = n * max(1, w.Units)
			}
			return w, true
		}
	}
	return InWater{}, false
}
