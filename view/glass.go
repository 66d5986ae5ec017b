package view

import (
	"exactflask/core/chemistry/glass"
	"exactflask/core/record/practical"
)

// GlassPlace is a place at the bench whose glassware can be another than the practical's.
type GlassPlace struct {
	Step   int          `json:"step,omitempty" doc:"which step of the route it measures, from 1; the burette when left out"`
	Name   string       `json:"name"`
	Pieces []NamedPiece `json:"pieces" doc:"what the school has that fits there"`
}

// NamedPiece is a piece of glassware in words.
type NamedPiece struct {
	glass.Piece
	Text string `json:"text"`
}

// GlassPlaces are the places of a practical, each with the pieces of the school's that fit; those of
// which there is none are left out.
func GlassPlaces(r *practical.Ready, style practical.Style, pieces []glass.Piece) []GlassPlace {
	w := Writer(r, style)
	out := []GlassPlace{}
	add := func(step int, name string, kinds ...glass.Kind) {
		place := GlassPlace{Step: step, Name: name, Pieces: []NamedPiece{}}
		for _, p := range pieces {
			for _, k := range kinds {
				if p.Kind != k {
					continue
				}
				text := w.Value(mL(p.Capacity))
				if p.Kind == glass.Graduated {
					code := "glass.burette-in"
					if p.Rising {
						code = "glass.syringe-in"
					}
					text = w.Text(code, "capacity", mL(p.Capacity), "division", mL(p.Division))
				}
				if p.Name == "" { // one that most schools have
					p.Name = text
				} else {
					text = p.Burette().Name + ": " + text
				}
				place.Pieces = append(place.Pieces, NamedPiece{p, text})
			}
		}
		if len(place.Pieces) > 0 {
			out = append(out, place)
		}
	}
	if !r.MadeOnly() {
		add(0, w.Text("text.burette"), glass.Graduated)
	}
	for i, s := range r.Volumes() {
		if s.Measures() && s.By != practical.ByBurette && !s.ByBlank {
			kinds := []glass.Kind{glass.OneMark, glass.Cylinder}
			if s.Kind == practical.MakeUp {
				kinds = []glass.Kind{glass.Flask, glass.Cylinder}
			}
			add(i+1, w.Text("own.volume."+string(s.Kind), "name", nameOf(r, s.What)), kinds...)
		}
	}
	return out
}
