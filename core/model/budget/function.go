package budget

import "math"

// Variable is an input of a function, with its standard uncertainty.
type Variable struct {
	Name     string
	Value    float64
	Standard float64
	Shape    Shape
}

// Part is what one variable adds to the uncertainty of a function.
type Part struct {
	Name        string  `json:"name"`
	Standard    float64 `json:"standard" doc:"standard uncertainty of the variable"`
	Sensitivity float64 `json:"sensitivity" doc:"how much the value changes for a change of one in it"`
	Answer      float64 `json:"answer" doc:"what it adds to the value's standard uncertainty, with its sign"`
	Share       float64 `json:"share" doc:"its part of the variance, 0 to 1"`
}

// FunctionBudget says how sure the value of any function is.
type FunctionBudget struct {
	Value      float64     `json:"value"`
	Standard   float64     `json:"standard" doc:"combined standard uncertainty"`
	Expanded   float64     `json:"expanded" doc:"k = 2: about 95 % of results lie within"`
	Relative   float64     `json:"relative" doc:"standard uncertainty in % of the value; 0 where the value is"`
	Parts      []Part      `json:"parts" doc:"in the order of the variables"`
	MonteCarlo *Propagated `json:"monteCarlo,omitempty"`
}

// OfFunction propagates the uncertainties of independent variables through any
// function of them: to first order by central differences over one standard
// uncertainty (JCGM 100:2008, 5.1.3 note 2) and, where draws are asked for, by
// Monte Carlo (JCGM 101:2008). It is false where the function has no finite value
// there or within an uncertainty of it.
func OfFunction(f func([]float64) float64, variables []Variable, draws int, seed uint64) (FunctionBudget, bool) {
	at := make([]float64, len(variables))
	for i, v := range variables {
		at[i] = v.Value
	}
	out := FunctionBudget{Value: f(at), Parts: make([]Part, len(variables))}
	variance := 0.0
	for i, v := range variables {
		part := Part{Name: v.Name, Standard: v.Standard}
		if v.Standard > 0 {
			at[i] = v.Value + v.Standard
			above := f(at)
			at[i] = v.Value - v.Standard
			part.Answer = (above - f(at)) / 2
			part.Sensitivity = part.Answer / v.Standard
			at[i] = v.Value
		}
		variance += part.Answer * part.Answer
		out.Parts[i] = part
	}
	out.Standard = math.Sqrt(variance)
	out.Expanded = 2 * out.Standard
	if !finite(out.Value) || !finite(out.Standard) {
		return FunctionBudget{}, false
	}
	for i := range out.Parts {
		if variance > 0 {
			out.Parts[i].Share = out.Parts[i].Answer * out.Parts[i].Answer / variance
		}
	}
	if out.Value != 0 {
		out.Relative = 100 * out.Standard / math.Abs(out.Value)
	}
	if draws < 2 {
		return out, true
	}
	draw, results, sum := sampler(seed), make([]float64, min(draws, MaxDraws)), 0.0
	for k := range results {
		for i, v := range variables {
			at[i] = v.Value + v.Standard*draw(v.Shape)
		}
		if results[k] = f(at); !finite(results[k]) {
			return FunctionBudget{}, false
		}
		sum += results[k]
	}
	mc := summary(results, sum)
	out.MonteCarlo = &mc
	return out, true
}

func finite(v float64) bool { return !math.IsNaN(v) && !math.IsInf(v, 0) }
