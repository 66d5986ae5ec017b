package experiment

import (
	"exactflask/core/judgement/evaluation"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
)

// mostWorst is how many findings a summary keeps.
const mostWorst = 3

// Summary is that of the record, without what else its evaluation would work out.
func (b *Basis) Summary(entries []journal.Entry) evaluation.Summary {
	parts := Record
	if b.groups == nil && b.ev.Stage.Done() {
		parts = PartResult // for those who teach
	}
	ev := b.Of(parts)
	// Everybody sees what is next and how much there is to look at: of the record alone, since
	// what is found of a result can be withheld.
	ev.Next, ev.Findings = b.ev.Next, b.ev.Findings
	s := Summarise(b.rec.r, ev, entries)
	if k := b.rec.c.Known; k != nil {
		s.Known = k.Part.(journal.Known).Written
	}
	for _, l := range b.rec.c.Lines {
		o, ok := l.Part.(journal.Observation)
		switch {
		case !ok || l.Withdrawn:
		case o.About == journal.Batch:
			s.Bottle = o.Written
		case o.About == journal.Leak:
			s.Leaks = o.Written == journal.Seen
		}
	}
	return s
}

// Summarise makes the summary of an evaluation, of which the record is enough.
func Summarise(r *practical.Ready, ev evaluation.Evaluation, entries []journal.Entry) evaluation.Summary {
	s := evaluation.Summary{Stage: ev.Stage, Say: ev.Next.Say, Agreement: ev.Agreement, Bands: make([]evaluation.Band, 0, len(ev.Trials)), Entries: ev.Entries,
		Clock: ev.Clock, Used: ev.Used}
	switch {
	case ev.MadeOnly:
		s.Made = ev.Made
	case ev.Prepared != nil:
		s.Made = ev.Prepared.Volume
	}
	for _, e := range entries {
		if e.At.After(s.Last) {
			s.Last = e.At
		}
	}
	for _, f := range ev.Findings {
		if f.Severity != finding.Note {
			s.Checks++
		}
		if f.Severity == finding.Warning {
			s.Warnings++
		}
	}
	forBoard(&s, ev)
	for i := range ev.Trials {
		t := &ev.Trials[i]
		if t.Titre == nil || t.Withdrawn {
			continue
		}
		scale := r.Glass.Burette
		b := evaluation.Band{From: scale.Drawn(t.Start.Value), To: scale.Drawn(t.End.Value), State: evaluation.BandPending, Titre: *t.Titre}
		switch {
		case t.SetAside != nil:
			b.State = evaluation.BandAside
		case t.Type == journal.Rough:
			b.State = evaluation.BandRough
		case t.Counts:
			b.State = evaluation.BandCounts
		}
		if t.Type == journal.Accurate {
			s.Trials++
		}
		s.Bands = append(s.Bands, b)
	}
	return s
}

// board fills in what a board shows beside.
func forBoard(s *evaluation.Summary, ev evaluation.Evaluation) {
	if _, open := lastTrial(ev.Trials); open != nil {
		s.Open = &evaluation.Running{Type: open.Type, Number: open.Number, At: open.At}
	}
	s.Undone, s.Tidy, s.Left = len(evaluation.Undone(ev.Setup)), len(evaluation.Undone(ev.Cleanup)), ev.Supply
	for _, severity := range []finding.Severity{finding.Warning, finding.Check} {
		for _, f := range ev.Findings {
			if f.Severity == severity && len(s.Worst) < mostWorst {
				s.Worst = append(s.Worst, f)
			}
		}
	}
	for i := range ev.Trials {
		if t := &ev.Trials[i]; t.Type == journal.Accurate && (t.EndColour == journal.Deep || t.EndColour == journal.Fading) {
			s.Ends++
		}
	}
	for _, step := range ev.Work {
		if ev.Stage.Done() && step.Answer == nil {
			s.Work++
		}
	}
	if r := ev.Result; r != nil && !r.Single {
		s.Found = &evaluation.Found{Value: r.Answer.Value, Figures: r.Answer.Figures, Unit: r.Answer.Unit}
	}
}
