// Package practicaltest holds the practical that tests begin with and change.
package practicaltest

import (
	"encoding/json"

	"exactflask/core/chemistry/catalog"
	"exactflask/core/chemistry/glass"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/docs/examples"

	"github.com/stretchr/testify/require"
)

// Plain is sodium hydroxide, about 0.095 mol/L, 25.0 mL, by hydrochloric acid of
// 0.100 mol/L to methyl orange; two titres within 0.10 mL.
func Plain() practical.Practical {
	return practical.Practical{
		ID: "test", Revision: 1, Title: "Sodium hydroxide with hydrochloric acid",
		Chemistry: practical.Chemistry{
			Equation:  "HCl + NaOH -> NaCl + H2O",
			Titrant:   practical.Solution{Name: "hydrochloric acid", Formula: "HCl", Concentration: decimal.Must("0.100")},
			Analyte:   practical.Solution{Name: "sodium hydroxide", Formula: "NaOH", Approximate: decimal.Must("0.095")},
			Indicator: "methyl-orange",
		},
		Route: []practical.RouteStep{{Kind: practical.Pipette, Volume: decimal.Must("25.0"), Class: glass.ClassB}},
		Glass: practical.Glass{Burette: glass.Burette{Capacity: decimal.Must("50.00"), Division: decimal.Must("0.1"),
			Class: glass.ClassB}},
		Rules: practical.Rules{Readings: practical.ReadingRule{Resolution: glass.HalfDivision},
			Agreement: practical.AgreementRule{Tolerance: decimal.Must("0.10"), Need: 2}},
		Showing: practical.Showing{Results: practical.Always},
	}
}

// Reaction sets a reaction of the catalogue up: 25.0 mL at one strength, with the
// first indicator that is recommended.
func Reaction(t require.TestingT, id, strength string) practical.Practical {
	p := Plain()
	for _, r := range catalog.BuiltIn().Reactions {
		if r.ID == id {
			titrant, analyte := r.Begin()
			p.Chemistry = practical.Chemistry{Equation: r.Equation, Indicator: r.Indicators[0],
				Titrant: practical.Solution{Name: "t", Formula: titrant.Plain(), Concentration: decimal.Must(strength)},
				Analyte: practical.Solution{Name: "a", Formula: analyte.Plain(), Approximate: decimal.Must(strength)}}
			return p
		}
	}
	require.FailNow(t, "no reaction "+id)
	return p
}

// Example is a worked practical that comes with the program, and its journal as it
// stands in the file.
type Example struct {
	Name    string
	Ready   *practical.Ready
	Journal json.RawMessage
}

// Examples are all of them, by the names of their files.
func Examples(t require.TestingT) []Example {
	names, err := examples.Files.ReadDir(".")
	require.NoError(t, err)
	var out []Example
	for _, n := range names {
		text, err := examples.Files.ReadFile(n.Name())
		require.NoError(t, err)
		var doc struct{ Practical, Journal json.RawMessage }
		require.NoError(t, json.Unmarshal(text, &doc), n.Name())
		p, err := practical.Decode(doc.Practical)
		require.NoError(t, err, n.Name())
		r, fault := p.Check()
		require.Nil(t, fault, n.Name())
		out = append(out, Example{n.Name(), r, doc.Journal})
	}
	return out
}

// Solution is a practical that is a solution alone, made in these steps.
func Solution(name, formula string, made ...practical.RouteStep) practical.Practical {
	p := Plain()
	p.Title, p.Route = "A solution of "+name, nil
	p.Chemistry = practical.Chemistry{Titrant: practical.Solution{Name: name, Formula: formula, Made: made}}
	return p
}
