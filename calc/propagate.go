package calc

import (
	"fmt"
	"math"
	"regexp"

	"github.com/expr-lang/expr"

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
	badFormula     = finding.Declare("calc.formula", "problem")
	unknownName    = finding.Declare("calc.formula-name", "name")
	eitherWidth    = finding.Declare("calc.either-width")
	noFiniteValue  = finding.Declare("calc.formula-value")
	unknownPattern = regexp.MustCompile(`unknown name (\w+)`)
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

// functionsOf are what a formula may call. Nothing else of the language is there:
// no loops, no text, nothing that takes longer than the formula is long.
var functionsOf = map[string]func(float64) float64{"sqrt": math.Sqrt, "exp": math.Exp, "ln": math.Log, "log10": math.Log10}

func doPropagate(in propagateIn) (budget.FunctionBudget, *finding.Fault) {
	env := make(map[string]any, len(in.Variables)+len(functionsOf))
	for name, f := range functionsOf {
		env[name] = f
	}
	variables := make([]budget.Variable, len(in.Variables))
	for i, v := range in.Variables {
		path := fmt.Sprintf("variables[%d]", i)
		if _, taken := env[v.Name]; taken {
			return budget.FunctionBudget{}, twice.Fault(path+".name", finding.Text(v.Name))
		}
		u, shape, fault := standard(path, v.Standard, v.HalfWidth, v.Shape)
		if fault != nil {
			return budget.FunctionBudget{}, fault
		}
		env[v.Name] = v.Value
		variables[i] = budget.Variable{Name: v.Name, Value: v.Value, Standard: u, Shape: shape}
	}
	program, err := expr.Compile(in.Formula, expr.Env(env), expr.AsFloat64(), expr.DisableAllBuiltins(),
		expr.MaxNodes(400))
	if err != nil {
		if m := unknownPattern.FindStringSubmatch(err.Error()); m != nil {
			return budget.FunctionBudget{}, unknownName.Fault("formula", finding.Text(m[1]))
		}
		return budget.FunctionBudget{}, badFormula.Fault("formula", finding.Text(in.Formula))
	}
	value := func(at []float64) float64 {
		for i, v := range variables {
			env[v.Name] = at[i]
		}
		out, err := expr.Run(program, env)
		f, ok := out.(float64)
		if err != nil || !ok {
			return math.NaN()
		}
		return f
	}
	out, ok := budget.OfFunction(value, variables, in.Draws, 1)
	if !ok {
		return budget.FunctionBudget{}, noFiniteValue.Fault("formula")
	}
	return out, nil
}
