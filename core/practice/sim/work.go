package sim

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strconv"
	"strings"
	"time"

	"exactflask/core/judgement/diagnosis"
	"exactflask/core/judgement/experiment"
	"exactflask/core/judgement/working"
	dv "exactflask/core/model/derivation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
)

// Worked is what a student works out from a record.
type Worked struct {
	Entries []journal.Entry // answers, to be added to the record
	Step    string          // in which the slip was made; empty where none was
}

// Work lets a student work the answer out from a record whose titres agree, step by step
// from the own earlier figures, each rounded as the student likes, some of them perhaps
// not written down; with one slip (one of
// diagnosis.Slips, or none) in one of the steps that can have it. Where no step can, or
// where it would not show, it is not made.
func Work(r *practical.Ready, record []journal.Entry, s Student, slip string) Worked {
	d, found, ok := experiment.Begin(r, journal.Fold(record)).Working()
	if !ok || len(record) == 0 {
		return Worked{}
	}
	w := &atDesk{d: d, record: found, figures: r.Rules.Figures, rand: rand.New(rand.NewPCG(s.Seed, 0xde5c)), own: map[int]float64{}}
	last := record[len(record)-1]
	at, clock := last.At, last.Clock
	w.carries = w.rand.IntN(2) == 0
	brief := w.rand.IntN(3) == 0 // some work with one formula in the place of several steps
	for i := range d.Nodes {
		ends := d.Nodes[i].ID == dv.MeanTitre || d.Nodes[i].ID == dv.Second || i == len(d.Nodes)-1
		if d.IsStep(i) && (ends || !brief || w.rand.IntN(2) == 0) {
			w.steps = append(w.steps, i)
		}
	}
	out := Worked{}
	start := w.rand.IntN(max(1, len(w.steps)))
	w.slipAt = -1
	for k := range w.steps { // a step that can have it, from a random one on
		if i := w.steps[(start+k)%len(w.steps)]; slip != "" && w.can(i, slip) {
			w.slipAt, w.slip = i, slip
			break
		}
	}
	for _, i := range w.steps {
		text := w.write(i)
		if i == w.slipAt && w.slipped {
			out.Step = d.Nodes[i].ID
		}
		clock++
		at = at.Add(time.Duration(30+w.rand.IntN(90)) * time.Second)
		out.Entries = append(out.Entries, journal.Entry{ID: fmt.Sprintf("work-%016x-%04d", s.Seed, clock), Author: s.Author, Device: s.Device, Clock: clock, At: at,
			Part: journal.Answer{Step: d.Nodes[i].ID, Written: text, Unit: string(d.Nodes[i].Quantity.Unit)}})
	}
	return out
}

// atDesk is a student who works an answer out.
type atDesk struct {
	d       dv.Derivation
	record  diagnosis.Record
	figures int
	rand    *rand.Rand
	own     map[int]float64 // figures so far, by place
	carries bool            // goes on from what was written, not from the display
	steps   []int
	slip    string
	slipAt  int
	slipped bool
}

// can tells whether a slip can be made in a step.
func (w *atDesk) can(i int, slip string) bool {
	switch slip {
	case "rounded-early":
		return w.d.Nodes[i].ID != dv.MeanTitre
	case "digits-swapped":
		return true
	}
	before := map[int]float64{}
	for _, k := range w.steps {
		if k < i {
			before[k] = w.d.Nodes[k].Quantity.Value
		}
	}
	return len(w.slippings(i, slip, before)) > 0
}

// slippings are what a slip can make of a step, by the figures before it.
func (w *atDesk) slippings(i int, slip string, own map[int]float64) []float64 {
	here, stray := diagnosis.Slippings(w.d, i, own, w.record)
	var out []float64
	for _, s := range append(here, stray...) {
		if s.Slip == slip && s.Value > 0 && !math.IsInf(s.Value, 0) {
			out = append(out, s.Value)
		}
	}
	return out
}

// write works a step out and writes it down.
func (w *atDesk) write(i int) string {
	n := w.d.Nodes[i]
	value := w.d.Recompute(w.own, i)
	figures := max(n.Quantity.Figures, 3) + w.rand.IntN(2)
	if n.ID == working.Final {
		if figures = n.Quantity.Figures; w.figures > 0 {
			figures = w.figures
		}
		figures = max(figures, 1)
	}
	text := written(value, figures)
	if i == w.slipAt {
		wrong := w.mistaken(i, value, figures, text)
		w.slipped = wrong != text
		if text = wrong; w.slipped {
			value, _ = strconv.ParseFloat(text, 64)
		}
	}
	if w.own[i] = value; w.carries {
		w.own[i], _ = strconv.ParseFloat(text, 64)
	}
	return text
}

// mistaken is what the slip makes of a step.
func (w *atDesk) mistaken(i int, value float64, figures int, text string) string {
	switch w.slip {
	case "digits-swapped":
		digits := []byte(text)
		for k := len(digits) - 1; k > 0; k-- {
			if a, b := digits[k-1], digits[k]; a != b && a != '.' && b != '.' && a != '0' && b != '0' {
				digits[k-1], digits[k] = b, a
				return string(digits)
			}
		}
		return text
	case "rounded-early":
		return written(w.d.Recompute(w.own, i), 2) // too few to be carried on
	}
	all := w.slippings(i, w.slip, w.own)
	if len(all) == 0 {
		return text // with figures of one's own it comes to nothing
	}
	return written(all[w.rand.IntN(len(all))], figures)
}

// written is a number with so many figures, as it is typed.
func written(v float64, figures int) string {
	if v == 0 || math.IsNaN(v) || math.IsInf(v, 0) {
		return "0"
	}
	places := figures - 1 - int(math.Floor(math.Log10(math.Abs(v))))
	if places >= 0 {
		return strconv.FormatFloat(v, 'f', places, 64)
	}
	text := strconv.FormatFloat(v, 'e', figures-1, 64)
	if f, err := strconv.ParseFloat(text, 64); err == nil {
		text = strconv.FormatFloat(f, 'f', 0, 64)
	}
	return strings.TrimSpace(text)
}
