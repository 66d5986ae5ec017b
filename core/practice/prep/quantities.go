package prep

import (
	"math"

	"exactflask/core/chemistry/glass"
	"exactflask/core/record/practical"
)

// Class is for how many a practical is set out.
type Class struct {
	Students int     `json:"students" minimum:"1" maximum:"500" doc:"benches"`
	Trials   int     `json:"trials" minimum:"1" maximum:"20" doc:"the rough one among them"`
	Spare    float64 `json:"spare,omitempty" minimum:"0" maximum:"200" doc:"%, on top of what is needed; 20 when left out"`
	Rinses   int     `json:"rinses,omitempty" minimum:"0" maximum:"10" doc:"of burette and pipette; 2 when left out"`
	Bottle   float64 `json:"bottle,omitempty" minimum:"0" maximum:"5000" doc:"mL of each solution that a bench is given; reckoned when left out"`
}

// Need is how much of a solution is needed.
type Need struct {
	What    string  `json:"what" enum:"titrant,analyte,reagent,indicator,solid"`
	Name    string  `json:"name"`
	Bench   float64 `json:"bench" doc:"mL for one bench"`
	Total   float64 `json:"total" doc:"mL for all, with the spare"`
	Make    float64 `json:"make" doc:"mL to make: the next whole half litre, or ten mL of indicator"`
	Bottles int     `json:"bottles" doc:"how many, one a bench"`
	Short   bool    `json:"short,omitempty" doc:"the bottle would run out before the last trial"`
	Lasts   int     `json:"lasts,omitempty" doc:"for how many trials the bottle is enough"`
}

// Wanted is one solution that a class is given: how much a trial takes of it,
// and how much its glass is rinsed with, mL.
type Wanted struct {
	What string // titrant, stock, analyte, reagent, indicator
	Name string
	Each float64
	// Given is what a bench is given of it in all, mL; 0 where that follows from its trials.
	Given float64
	Once  bool // it is taken once at a bench, and made up to a mark for all trials
}

// wholeDrops is what indicator is rounded up to, mL.
const wholeDrops = 10

// Quantities reckons what a class needs: titre and aliquot of every trial, the
// rinses of burette and pipette, filling the jet, and a spare, by the norms. Indicator is
// given in drops a trial.
func Quantities(norms practical.Norms, wanted []Wanted, c Class) []Need {
	spare, rinses := c.Spare, float64(c.Rinses)
	if spare == 0 {
		spare = norms.Of(practical.SpareShare)
	}
	if rinses == 0 {
		rinses = norms.Of(practical.Rinses)
	}
	trials, benches := float64(c.Trials), float64(c.Students)
	out := make([]Need, 0, len(wanted))
	for _, w := range wanted {
		rinse, round := norms.Of(practical.RinsePipette)*rinses, norms.Of(practical.WholeVolume)
		n := Need{What: w.What, Name: w.Name, Bottles: c.Students}
		switch w.What {
		case "titrant":
			rinse = norms.Of(practical.RinseBurette)*rinses + norms.Of(practical.FillJet)
		case "indicator":
			if w.Each <= 0 {
				continue
			}
			w.Each, rinse, round, n.Bottles = w.Each*glass.Drop, 0, wholeDrops, (c.Students+1)/2
		}
		times := trials
		if w.Once {
			times = 1
		}
		n.Bench = w.Each*times + rinse
		if w.Given > 0 {
			n.Bench = w.Given
		}
		n.Total = n.Bench * benches * (1 + spare/100)
		n.Make = math.Ceil(n.Total/round-1e-9) * round
		if c.Bottle > 0 && w.Each > 0 && w.What != "indicator" {
			n.Lasts = max(0, int((c.Bottle-rinse)/w.Each+1e-9))
			if n.Short = n.Lasts < int(times); w.Once {
				n.Lasts = 0 // it is no matter of trials
			}
		}
		out = append(out, n)
	}
	return out
}
