// Package catalog holds what is known beforehand: substances with their
// cautions, indicators and reactions, each with its source. The data are JSON
// files beside this one and are built into the program.
package catalog

import (
	"bytes"
	"embed"
	"encoding/json"
	"fmt"
	"sort"

	"exactflask/core/chem"
	"exactflask/core/decimal"
)

//go:embed *.json
var files embed.FS

// Substance is a reagent or a product worth naming.
type Substance struct {
	ID      string   `json:"id"`
	Formula string   `json:"formula"`
	Name    string   `json:"name"`
	Also    []string `json:"also,omitempty"` // other names in use
	// Cautions are for its solutions and, where the text says so, the solid.
	Cautions []Caution `json:"cautions,omitempty"`
	Source   string    `json:"source"`
}

// Caution is a warning that holds from a concentration upward.
type Caution struct {
	From decimal.Decimal `json:"from"` // mol/L; 0 for any
	Text string          `json:"text"`
}

// Indicator is an acid-base indicator with the pH range of its change.
type Indicator struct {
	ID        string          `json:"id"`
	Name      string          `json:"name"`
	Low       decimal.Decimal `json:"low"`  // pH at which the change begins
	High      decimal.Decimal `json:"high"` // pH at which it is complete
	Acid      string          `json:"acid"` // colour below
	Alkaline  string          `json:"alkaline"`
	EndColour EndColour       `json:"endColour"`
	Cautions  []Caution       `json:"cautions,omitempty"`
	Source    string          `json:"source"`
}

// EndColour is what the eye stops at.
type EndColour struct {
	AcidInBurette   string `json:"acidInBurette"`
	AlkaliInBurette string `json:"alkaliInBurette"`
}

// Reaction is a titration reaction with the indicators that are used for it.
type Reaction struct {
	ID         string   `json:"id"`
	Name       string   `json:"name"`
	Equation   string   `json:"equation"` // balanced
	Acid       string   `json:"acid"`     // substance ids
	Base       string   `json:"base"`
	Indicators []string `json:"indicators"`
	Note       string   `json:"note,omitempty"`
	Source     string   `json:"source"`
}

// Catalog is read-only after Load.
type Catalog struct {
	Substances []Substance
	Indicators []Indicator
	Reactions  []Reaction
}

// builtIn is read once; the files are part of the program and are tested.
var builtIn = func() *Catalog {
	c, err := load()
	if err != nil {
		panic(err)
	}
	return c
}()

// BuiltIn returns the catalogue of this program.
func BuiltIn() *Catalog { return builtIn }

func load() (*Catalog, error) {
	var c Catalog
	for name, into := range map[string]any{"substances.json": &c.Substances, "indicators.json": &c.Indicators, "reactions.json": &c.Reactions} {
		text, err := files.ReadFile(name)
		if err != nil {
			return nil, fmt.Errorf("catalogue: %w", err)
		}
		d := json.NewDecoder(bytes.NewReader(text))
		d.DisallowUnknownFields()
		if err := d.Decode(into); err != nil {
			return nil, fmt.Errorf("catalogue file %s: %w", name, err)
		}
	}
	return &c, nil
}

// Indicator looks an indicator up by its id.
func (c *Catalog) Indicator(id string) (Indicator, bool) {
	for _, i := range c.Indicators {
		if i.ID == id {
			return i, true
		}
	}
	return Indicator{}, false
}

// Substance finds the substance of a formula (same atoms and charge; a
// hydrate and its anhydrous form are different substances).
func (c *Catalog) Substance(f chem.Formula) (Substance, bool) {
	for i, s := range c.Substances {
		if substanceFormulas[i].Same(f) {
			return s, true
		}
	}
	return Substance{}, false
}

var substanceFormulas = func() []chem.Formula {
	out := make([]chem.Formula, len(builtIn.Substances))
	for i, s := range builtIn.Substances {
		out[i] = chem.MustFormula(s.Formula)
	}
	return out
}()

// CautionsAt returns the cautions of a solution of this substance at a
// concentration in mol/L, the gravest (highest limit) first.
func (s Substance) CautionsAt(concentration decimal.Decimal) []string {
	held := make([]Caution, 0, len(s.Cautions))
	for _, c := range s.Cautions {
		if c.From.Cmp(concentration) <= 0 {
			held = append(held, c)
		}
	}
	sort.SliceStable(held, func(i, j int) bool { return held[i].From.Cmp(held[j].From) > 0 })
	out := make([]string, len(held))
	for i, c := range held {
		out[i] = c.Text
	}
	return out
}
