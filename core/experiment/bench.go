package experiment

import (
	"fmt"

	"exactflask/core/agreement"
	"exactflask/core/decimal"
	"exactflask/core/journal"
	"exactflask/core/quantity"
)

// What is done before and after a titration, in order. Source: common
// practice, no source.
var (
	setupItems   = []string{"goggles", "rinse-water", "rinse-solution", "fill-low", "funnel-out", "jet-filled", "no-bubble", "leak-wait", "white-tile", "indicator"}
	cleanupItems = []string{"drain", "nothing-back", "rinse-after", "tap-open", "waste-separate", "hands"}
)

// lists fills the set-up and clean-up lists and the log of the bench.
func (s setup) lists(ev *Evaluation, done []journal.Bench) {
	ev.Log = make([]LogLine, 0, len(done))
	last := map[string]journal.Bench{}
	for _, b := range done {
		e := b.Entry
		line := LogLine{Entry: e.ID, Text: b.Text, At: e.At, By: e.Author, Withdrawn: b.Withdrawn, Struck: b.Struck}
		switch e.Kind {
		case journal.KindCheck:
			if b.Withdrawn {
				continue
			}
			last[e.Checked.Item] = b
			continue
		case journal.KindObservation:
			line.Code, line.Trial = "observation."+string(e.Observation.About), e.Observation.Trial
			if e.Observation.About == journal.Leak && !b.Withdrawn && b.Text != "reseated" {
				delete(last, "leak-wait") // a leak asks for the wait again
			}
			if e.Observation.About == journal.Leak && b.Text == "changed" && !b.Withdrawn {
				for _, item := range []string{"rinse-water", "rinse-solution", "fill-low", "funnel-out", "jet-filled", "no-bubble"} {
					delete(last, item) // another burette is set up from the beginning
				}
			}
		case journal.KindWeighing:
			line.Code, line.Text = "weighing", fmt.Sprintf("%s: %s − %s = %s g", e.Weighing.Of, e.Weighing.Full, e.Weighing.Emptied, e.Weighing.Mass())
		case journal.KindKnown:
			line.Code, line.Text, line.Unit, line.From = "known", b.Text, quantity.MolePerL, e.Known.From
			if e.Known.Uncertainty != "" {
				line.Text += " ± " + e.Known.Uncertainty
			}
		case journal.KindTimer:
			line.Code, line.Trial, line.Text = "timer."+e.Timer.For, e.Timer.Trial, fmt.Sprintf("%d s", e.Timer.Seconds)
			if e.Timer.For == "leak" && e.Timer.Seconds >= 30 && !b.Withdrawn {
				last["leak-wait"] = b
			}
		}
		ev.Log = append(ev.Log, line)
	}
	items := func(codes []string) []Item {
		out := make([]Item, len(codes))
		for i, code := range codes {
			out[i] = Item{Code: code}
			if b, ok := last[code]; ok {
				at := b.Entry.At
				out[i].Entry, out[i].At, out[i].By = b.Entry.ID, &at, b.Entry.Author
			}
		}
		return out
	}
	ev.Setup, ev.Cleanup = items(setupItems), items(cleanupItems)
}

// describe adds the statistics of the averaged titres, Dixon's Q of all that
// were judged, and the mean blank.
func (s setup) describe(ev *Evaluation) {
	var averaged, judged []float64
	var ids []string
	var blanks []decimal.Decimal
	places := 0
	for _, t := range ev.Trials {
		switch {
		case t.Reason == OutBlank && t.Titre.Sign() > 0:
			blanks = append(blanks, *t.Titre)
			places = max(places, t.Titre.Places())
			continue
		case outside(t):
			continue
		}
		v := t.Titre.Float64()
		judged, ids = append(judged, v), append(ids, t.ID)
		if t.Counts {
			averaged = append(averaged, v)
		}
	}
	if st, ok := agreement.Describe(averaged); ok && s.Agreement.Kind != agreement.Relative {
		ev.Statistics = &st
	}
	if q, ok := agreement.DixonQ(judged); ok && s.Agreement.Kind != agreement.Relative {
		q.Trial = ids[q.Index]
		ev.Dixon = &q
	}
	if mean, ok := decimal.Mean(blanks...); ok {
		mean = mean.Round(places)
		ev.Blank = &mean
	}
}

// supply reckons what is left of the solutions and how many trials of the
// expected titre they allow.
func (s setup) supply(ev *Evaluation, steer decimal.Decimal, steered bool) {
	if s.Supply.Titrant.IsZero() && s.Supply.Analyte.IsZero() {
		return
	}
	left := &SupplyLeft{Trials: -1}
	titrant, analyte := s.Supply.Titrant, s.Supply.Analyte
	for _, t := range ev.Trials {
		if t.Withdrawn || t.Start == nil {
			continue
		}
		if t.Titre != nil && t.Titre.Sign() > 0 {
			titrant = titrant.Sub(*t.Titre)
		}
		switch {
		case t.Type == journal.Blank || t.Type == journal.Practice && s.SampleBy == ByBurette:
		case s.Aliquot.Volume.IsZero():
		case t.Sample != nil:
			analyte = analyte.Sub(*t.Sample)
		case s.SampleBy != ByBurette:
			analyte = analyte.Sub(s.Aliquot.Volume)
		}
	}
	allows := func(have, each decimal.Decimal) {
		n, ok := have.Div(each)
		if !ok {
			return
		}
		if trials := max(0, int(n.Float64()+1e-9)); left.Trials < 0 || trials < left.Trials {
			left.Trials = trials
		}
	}
	if !s.Supply.Titrant.IsZero() {
		left.Titrant = &titrant
		if steered {
			allows(titrant, steer)
		}
	}
	if !s.Supply.Analyte.IsZero() {
		left.Analyte = &analyte
		allows(analyte, s.Aliquot.Volume)
	}
	if left.Trials >= 0 {
		ev.Supply = left
	}
}

// outside tells the trials that are not judged for agreement.
func outside(t Trial) bool {
	switch t.Reason {
	case OutRough, OutOpen, OutSetAside, OutWithdrawn, OutNegative, OutBlank, OutPractice, OutNoSample, OutNoMass, OutNoFirst:
		return true
	}
	return false
}
