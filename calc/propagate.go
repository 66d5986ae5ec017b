package calc

import (
	"fmt"
	"slices"

	"exactflask/core/model/budget"
	"exactflask/core/values/finding"
)

type propagateIn struct {
	Formula   string       `json:"formula" minLength:"1" maxLength:"400" doc:"with + - * / ^ and brackets; sqrt, exp, ln, log10; such as 1000 * m * P / (M * (V - B))"`
	Variables []variableIn `json:"variables" minItems:"1" maxItems:"40"`
	Draws     int          `json:"draws,omitempty" minimum:"0" maximum:"200000" doc:"of a Monte Carlo propagation; none when left out"`
}

type variableIn struct {
	Name      string       `json:"name" minLength:"1" maxLength:"40" pattern:"^[A-Za-z_][A-Za-z0-9_]*$"`
	Value     float64      `json:"value"`
	Standard  float64      `json:"standard,omitempty" minimum:"0" doc:"standard uncertainty; or give the half width"`
	HalfWidth float64      `json:"halfWidth,omitempty" minimum:"0" doc:"of a tolerance or a resolution"`
	Shape     budget.Shape `json:"shape,omitempty" enum:"normal,rectangular,triangular" doc:"rectangular for a half width when left out, else normal"`
}

var (
	eitherWidth   = finding.Declare("calc.either-width")
	noFiniteValue = finding.Declare("calc.formula-value")
)

// standard is the standard uncertainty of a value by what is given of it.
func standard(path string, given, halfWidth float64, shape budget.Shape) (float64, budget.Shape, *finding.Fault) {
	switch {
	case given > 0 && halfWidth > 0:
		return 0, shape, eitherWidth.Fault(path + ".halfWidth")
	case halfWidth > 0 && shape == "":
		shape = budget.Rectangular
	case shape == "":
		shape = budget.Normal
	}
	if halfWidth > 0 {
		return shape.Standard(halfWidth), shape, nil
	}
	return given, shape, nil
}

func doPropagate(in propagateIn) (budget.FunctionBudget, *finding.Fault) {
	names := make([]string, len(in.Variables))
	variables := make([]budget.Variable, len(in.Variables))
	for i, v := range in.Variables {
		path := fmt.Sprintf("variables[%d]", i)
		if _, taken := functionsOf[v.Name]; taken || slices.Contains(names[:i], v.Name) {
			return budget.FunctionBudget{}, twice.Fault(path+".name", finding.Text(v.Name))
		}
		u, shape, fault := standard(path, v.Standard, v.HalfWidth, v.Shape)
		if fault != nil {
			return budget.FunctionBudget{}, fault
		}
		names[i] = v.Name
		variables[i] = budget.Variable{Name: v.Name, Value: v.Value, Standard: u, Shape: shape}
	}
	value, fault := readFormula(in.Formula, names)
	if fault != nil {
		return budget.FunctionBudget{}, fault
	}
	out, ok := budget.OfFunction(value, variables, in.Draws, 1)
	if !ok {
		return budget.FunctionBudget{}, noFiniteValue.Fault("formula")
	}
	return out, nil
}
