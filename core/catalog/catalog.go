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
	Also    []string `json:"also,omitempty" doc:"other names in use, those of the other vocabulary among them"`
	// Cautions are for its solutions and, where the text says so, the solid.
	Cautions []Caution `json:"cautions,omitempty"`
	InWater  *InWater  `json:"inWater,omitempty" doc:"how it takes part in acid-base equilibria; left out where that is not known here"`
	Stock    *Stock    `json:"stock,omitempty" doc:"the concentrated reagent it is made from, where it is no solid"`
	Source   string    `json:"source"`
}

// Stock is a concentrated reagent as it is bought.
type Stock struct {
	Percent decimal.Decimal `json:"percent" doc:"% w/w"`
	Density decimal.Decimal `json:"density" doc:"g/mL"`
}

// InWater says what one formula unit brings into water.
type InWater struct {
	Strong int               `json:"strong" doc:"net charge of its ions that take no part: +1 for NaOH, -1 for HCl"`
	Top    int               `json:"top,omitempty" doc:"charge of its most protonated form"`
	PKa    []decimal.Decimal `json:"pKa,omitempty" doc:"at 25 degrees Celsius, the strongest first; none for strong acids and bases"`
	Units  int               `json:"units,omitempty" doc:"how many such groups one formula unit gives; 1 when left out"`
}

// Caution is a warning that holds from a concentration upward.
type Caution struct {
	From decimal.Decimal `json:"from" doc:"mol/L; 0 for any"`
	Text string          `json:"text"`
}

// IndicatorKind is how an indicator tells the end.
type IndicatorKind string

// The kinds: by pH, by potential, permanganate by its own colour, starch by
// iodine, and a pH meter.
const (
	AcidBase IndicatorKind = "acid-base"
	Redox    IndicatorKind = "redox"
	Self     IndicatorKind = "self"
	Starch   IndicatorKind = "starch"
	Meter    IndicatorKind = "meter"
)

// Indicator shows the end of a titration. A universal indicator is none.
type Indicator struct {
	ID        string          `json:"id"`
	Name      string          `json:"name"`
	Kind      IndicatorKind   `json:"kind" enum:"acid-base,redox,self,starch,meter"`
	Low       decimal.Decimal `json:"low,omitzero" doc:"pH at which the change begins"`
	High      decimal.Decimal `json:"high,omitzero" doc:"pH at which it is complete"`
	Potential decimal.Decimal `json:"potential,omitzero" doc:"V, at which a redox indicator changes"`
	Acid      string          `json:"acid" doc:"colour below, or of the reduced form"`
	Alkaline  string          `json:"alkaline" doc:"colour above, or of the oxidised form"`
	EndColour EndColour       `json:"endColour"`
	Eye       *Eye            `json:"eye,omitempty" doc:"pH at which the eye stops; the middle of the range when left out"`
	When      string          `json:"when,omitempty" doc:"when and how it is added"`
	Cautions  []Caution       `json:"cautions,omitempty"`
	Source    string          `json:"source"`
}

// EndColour is what the eye stops at.
type EndColour struct {
	AcidInBurette   string `json:"acidInBurette"`
	AlkaliInBurette string `json:"alkaliInBurette"`
}

// Eye is the pH at which the eye stops; it depends on the direction.
type Eye struct {
	AcidInBurette   decimal.Decimal `json:"acidInBurette"`
	AlkaliInBurette decimal.Decimal `json:"alkaliInBurette"`
}

// Reaction is a titration reaction with the indicators that are used for it.
type Reaction struct {
	ID         string   `json:"id"`
	Name       string   `json:"name"`
	Kind       string   `json:"kind" enum:"acid-base,redox"`
	Equation   string   `json:"equation" doc:"balanced"`
	Acid       string   `json:"acid" doc:"id of the acid, or of the oxidant"`
	Base       string   `json:"base" doc:"id of the base, or of the reductant"`
	Indicators []string `json:"indicators"`
	Note       string   `json:"note,omitempty"`
	Source     string   `json:"source"`
}

// Standard is a substance that concentrations are traced to. A secondary one
// is standardised itself.
type Standard struct {
	Substance string            `json:"substance"`
	Kind      string            `json:"kind" enum:"primary,secondary"`
	Use       string            `json:"use" doc:"what it standardises"`
	Drying    string            `json:"drying"`
	Purity    []decimal.Decimal `json:"purity" doc:"usual fraction, and plus or minus how much"`
	Handling  string            `json:"handling"`
	ShelfLife string            `json:"shelfLife"`
	Source    string            `json:"source"`
}

// Couple is a redox couple with its formal potential in the medium of usual
// titrations. The formulas are those of the ions and of salts that bring them.
type Couple struct {
	Oxidised  []string        `json:"oxidised"`
	Reduced   []string        `json:"reduced"`
	Potential decimal.Decimal `json:"potential" doc:"V"`
	Electrons int             `json:"electrons" doc:"for one formula unit"`
	Source    string          `json:"source"`
}

// Couple finds the couple of a substance, and whether it is the oxidised form.
func (c *Catalog) Couple(f chem.Formula) (couple Couple, oxidised, ok bool) {
	for _, k := range c.Couples {
		for i, side := range [...][]string{k.Oxidised, k.Reduced} {
			for _, text := range side {
				if chem.MustFormula(text).Same(f) {
					return k, i == 0, true
				}
			}
		}
	}
	return Couple{}, false, false
}

// Catalog is read-only after Load.
type Catalog struct {
	Substances []Substance
	Indicators []Indicator
	Reactions  []Reaction
	Standards  []Standard
	Couples    []Couple
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
	for name, into := range map[string]any{"substances.json": &c.Substances, "indicators.json": &c.Indicators, "reactions.json": &c.Reactions, "standards.json": &c.Standards, "couples.json": &c.Couples} {
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

// SubstanceByID looks a substance up by its id.
func (c *Catalog) SubstanceByID(id string) (Substance, bool) {
	for _, s := range c.Substances {
		if s.ID == id {
			return s, true
		}
	}
	return Substance{}, false
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
