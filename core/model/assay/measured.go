package assay

import (
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
)

// Measured is what was measured for one trial. What a practical does not ask
// for, and what was not measured yet, is nil.
type Measured struct {
	Trial      string
	Burette    journal.Delivery // of the titrant, with both sides of each filling
	End        journal.Reading
	Curve      float64             // standard uncertainty of an end that was found on a measured curve, mL; 0 where it was read
	First      *journal.Reading    // at the first of two end points
	FirstFills int                 // how many of the fillings came before it
	Sample     *[2]journal.Reading // start and end of the sample's own burette
	Reagent    *[2]journal.Reading // of the burette of the reagent in excess
	Mass       *[2]journal.Reading // full and emptied vessel, g
}

// MeasuredIn takes what was measured for a trial from the record. It has a titre where
// the trial has one (journal.Trial.Titre).
func MeasuredIn(r *practical.Ready, t *journal.Trial) Measured {
	m := Measured{Trial: t.ID, Sample: span(t.SampleStart, t.SampleEnd), Reagent: span(t.ReagentStart, t.ReagentEnd)}
	if m.Reagent == nil && r.ReagentBurette() && !r.SampleBurette() {
		m.Reagent = m.Sample // version 1 had no other place for it
	}
	if t.Weighed != nil {
		m.Mass = Weighing(t.Weighed)
	}
	if _, ok := t.Titre(r.Glass.Burette.Rising); !ok {
		return m
	}
	m.Burette, m.End = t.Delivery(r.Glass.Burette.Rising), *t.End
	if t.FirstEnd != nil {
		m.First, m.FirstFills = t.FirstEnd, t.FirstFills
	}
	return m
}

// Ran is a trial that ran from one reading of a falling scale to another.
func Ran(trial string, start, end journal.Reading) Measured {
	return Measured{Trial: trial, Burette: journal.Delivery{Start: &start}, End: end}
}

// Weighing is a weighing by difference as two readings of the balance, g.
func Weighing(l *journal.Line) *[2]journal.Reading {
	w := l.Part.(journal.Weighing)
	full, emptied := w.Masses()
	return &[2]journal.Reading{{Entry: l.Entry.ID, Text: w.Full, Value: full},
		{Entry: l.Entry.ID, Text: w.Emptied, Value: emptied}}
}

func span(start, end *journal.Reading) *[2]journal.Reading {
	if start == nil || end == nil {
		return nil
	}
	return &[2]journal.Reading{*start, *end}
}

// Titre is the volume that ran, mL, exact, over all fillings; zero before the trial has one.
func (m Measured) Titre() decimal.Decimal {
	v, _ := m.Burette.To(m.End, len(m.Burette.Fills))
	return v
}

// FirstTitre is Titre to the first of two end points, over the fillings before it; to the
// end where it was not read.
func (m Measured) FirstTitre() decimal.Decimal {
	if m.First == nil {
		return m.Titre()
	}
	v, _ := m.Burette.To(*m.First, m.FirstFills)
	return v
}
