package experiment

import (
	"slices"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/model/assay"
	"exactflask/core/model/followed"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
)

// recorded is the first stage: what stands in the notebook, and the model that
// it makes of the practical.
type recorded struct {
	r         *practical.Ready
	c         journal.Contents
	assay     *assay.Assay
	trials    []evaluation.Trial
	notes     []journal.Note
	setup     []evaluation.Item
	cleanup   []evaluation.Item
	log       []evaluation.LogLine
	meanBlank *decimal.Decimal
	probe     *followed.Probing // nil where no probe is used
	probed    []finding.Finding
	runs      map[string]*followed.Run // of trials, by id
	points    []followed.RunPoint
}

func record(r *practical.Ready, c journal.Contents) recorded {
	rec := recorded{r: r, c: c, trials: make([]evaluation.Trial, len(c.Trials)), notes: c.Notes}
	if rec.notes == nil {
		rec.notes = []journal.Note{}
	}
	held := assay.Held{Own: own(r, c)}
	rec.probe, rec.probed = followed.ProbeOf(r, c.Calibrations)
	rec.runs, rec.points = followed.Of(r, c.Trials, rec.probe, room(r, held))
	var blanks []decimal.Decimal
	places := 0
	for i := range c.Trials {
		t := trialOf(r, &c.Trials[i], rec.runs[c.Trials[i].ID])
		rec.trials[i] = t
		if t.Reason == evaluation.OutBlank && t.Titre.Sign() > 0 {
			held.Blanks = append(held.Blanks, t.Measured)
			blanks, places = append(blanks, *t.Titre), max(places, t.Titre.Places())
		}
	}
	if mean, ok := decimal.Mean(blanks...); ok {
		mean = mean.Round(places)
		rec.meanBlank = &mean
	}
	if l := c.Prepared; l != nil && r.MadeHere() && !r.WeighsStandard() {
		held.Stock = stockOf(l)
	}
	if l := c.Standard; l != nil && r.WeighsStandard() {
		held.Standard = assay.Weighing(l)
	}
	if l := c.Weighed; l != nil && r.Weighs() && !r.MassEach() {
		held.Mass = assay.Weighing(l)
	}
	if l := c.Known; l != nil {
		k := l.Part.(journal.Known)
		found := &assay.Found{Entry: l.Entry.ID}
		found.Concentration, _ = journal.ParseNumber(k.Written)
		found.Uncertainty, _ = journal.ParseNumber(k.Uncertainty)
		if found.Concentration.Sign() > 0 {
			held.Known = found
		}
	}
	rec.assay = assay.New(r, held)
	rec.setup, rec.cleanup, rec.log = lists(r, c.Lines)
	return rec
}

// own are the values that were measured in the place of the practical's; nil for none.
func own(r *practical.Ready, c journal.Contents) map[journal.OwnKey]journal.Reading {
	if len(c.Measured) == 0 {
		return nil
	}
	out := map[journal.OwnKey]journal.Reading{}
	for _, m := range r.Measurable() {
		if l, ok := c.Measured[m.OwnKey]; ok {
			p := l.Part.(journal.OwnValue)
			out[m.OwnKey] = journal.Reading{Entry: l.Entry.ID, Text: p.Written, Value: p.Value(), At: l.Entry.At, By: l.Entry.Author}
		}
	}
	return out
}

// stockOf is how the titrant was made of a stock.
func stockOf(l *journal.Line) *assay.Stock {
	p := l.Part.(journal.Prepared)
	reading := func(text string) journal.Reading {
		value, _ := journal.ParseNumber(text) // it was checked on the way in
		return journal.Reading{Entry: l.Entry.ID, Text: text, Value: value, At: l.Entry.At, By: l.Entry.Author}
	}
	return &assay.Stock{Strength: reading(p.Stock), Taken: reading(p.Taken), MadeUp: reading(p.MadeUp)}
}

// room is what runs with a probe need to know of it.
func room(r *practical.Ready, held assay.Held) followed.Room {
	out := followed.Room{}
	if len(held.Own) > 0 {
		out.Celsius = held.Own[temperatureKey].Value.Float64()
		out.Flask = assay.New(r, held).FlaskVolume()
	}
	return out
}

var temperatureKey = journal.OwnKey{What: journal.OwnTemperature}

func volume(s *[2]journal.Reading) *decimal.Decimal {
	if s == nil {
		return nil
	}
	v := s[1].Value.Sub(s[0].Value)
	return &v
}

// trialOf takes a folded trial over, with the reason that is told without
// looking at the others; where there is none it is a candidate.
func trialOf(r *practical.Ready, t *journal.Trial, run *followed.Run) evaluation.Trial {
	out := evaluation.Trial{Trial: *t, Measured: assay.MeasuredIn(r, t)}
	m := &out.Measured
	out.Sample, out.Reagent = volume(m.Sample), volume(m.Reagent)
	if t.Weighed != nil {
		mass := t.Weighed.Part.(journal.Weighing).Mass()
		out.Mass = &mass
	}
	rising := r.Glass.Burette.Rising
	if titre, ok := t.Titre(rising); ok {
		out.Titre = &titre
		if run != nil && !run.Open {
			onCurve(&out, run)
		}
	}
	if v, ok := t.FirstTitre(rising); ok {
		out.FirstTitre = &v
	}
	out.Reason = ownReason(r, &out)
	return out
}

// onCurve takes the end of a run from its curve: the reading at which it lies, were the
// burette never filled since, takes the place of the last one.
func onCurve(t *evaluation.Trial, run *followed.Run) {
	t.Ran, t.Titre = t.Titre, run.Titre
	if run.Titre == nil {
		t.Why = run.Why
		return
	}
	at, _ := t.Measured.Burette.At(*run.Titre, len(t.Refills))
	t.OnCurve, t.Standard = &at, run.Analysis.Standard
	t.Measured.End = journal.Reading{Entry: t.End.Entry, Text: at.String(), Value: at}
	t.Measured.Curve = max(run.Analysis.Standard, 1e-4)
}

func missing(v *decimal.Decimal) bool { return v == nil || v.Sign() <= 0 }

func ownReason(r *practical.Ready, t *evaluation.Trial) evaluation.Reason {
	switch {
	case t.Withdrawn:
		return evaluation.OutWithdrawn
	case t.SetAside != nil:
		return evaluation.OutSetAside
	case t.Titre == nil && t.Ran != nil:
		return evaluation.OutNoEnd
	case t.Titre == nil:
		return evaluation.OutOpen
	case t.Type == journal.Practice:
		return evaluation.OutPractice
	case t.Type == journal.Repeat:
		return evaluation.OutRepeat
	case t.Type == journal.Blank:
		return evaluation.OutBlank
	case t.Titre.Sign() <= 0:
		return evaluation.OutNegative
	case offScale(r, t):
		return evaluation.OutOffScale
	case t.Type == journal.Rough && !r.Rules.Agreement.RoughCounts:
		return evaluation.OutRough
	case r.SampleBurette() && missing(t.Sample):
		return evaluation.OutNoSample
	case r.ReagentBurette() && missing(t.Reagent):
		return evaluation.OutNoReagent
	case r.MassEach() && missing(t.Mass):
		return evaluation.OutNoMass
	case r.Chemistry.EndPoints != practical.OneEndPoint && t.FirstEnd == nil:
		return evaluation.OutNoFirst
	case len(r.Samples) > 0 && !slices.ContainsFunc(r.Samples, func(s practical.Sample) bool { return s.Name == t.OfSample }):
		return evaluation.OutWhichSample
	}
	return ""
}

// offScale tells whether a reading of the titre lies where the scale has no mark, and nobody has
// given a reason for which it stands.
func offScale(r *practical.Ready, t *evaluation.Trial) bool {
	all := []*journal.Reading{t.Start, t.FirstEnd, t.End}
	for _, f := range t.Refills {
		all = append(all, f.Before, f.After)
	}
	return slices.ContainsFunc(all, func(x *journal.Reading) bool {
		return x != nil && x.Why == "" && !r.Glass.Burette.OnScale(x.Value)
	})
}

// lists makes the set-up and clean-up lists and the log of the bench.
func lists(r *practical.Ready, lines []journal.Line) (setup, cleanup []evaluation.Item, log []evaluation.LogLine) {
	log = make([]evaluation.LogLine, 0, len(lines))
	last := map[string]*journal.Line{}
	for i := range lines {
		l := &lines[i]
		switch p := l.Part.(type) {
		case journal.Checked:
			if !l.Withdrawn {
				last[p.Item] = l
				if p.Item == "rinse-water" { // as it was called before there was one without pipettes
					last["rinse-burette"] = l
				}
			}
			continue
		case journal.Observation:
			if p.About == journal.Leak && !l.Withdrawn {
				if p.Written != journal.Reseated {
					delete(last, practical.LeakWait)
				}
				if p.Written == journal.Changed { // it is set up from the beginning
					for _, item := range practical.BuretteUp {
						delete(last, item)
					}
				}
			}
		case journal.Timer:
			if p.For == journal.ForLeak && float64(p.Seconds) >= r.Norms().Of(practical.LeakSeconds) && !l.Withdrawn {
				last[practical.LeakWait] = l
			}
		}
		e := &l.Entry
		log = append(log, evaluation.LogLine{Entry: e.ID, Said: l.Part.Said(), Trial: l.Part.Trial(), At: e.At, By: e.Author,
			Withdrawn: l.Withdrawn, Struck: l.Struck})
	}
	items := func(codes []string) []evaluation.Item {
		out := make([]evaluation.Item, len(codes))
		for i, code := range codes {
			out[i] = evaluation.Item{Code: code}
			if l, ok := last[code]; ok {
				at := l.Entry.At
				out[i].Entry, out[i].At, out[i].By = l.Entry.ID, &at, l.Entry.Author
			}
		}
		return out
	}
	return items(r.Kept("setup", func() any { return r.Setup() }).([]string)), items(r.Cleanup()), log
}

// passages are what the student wrote for the report.
func passages(rec recorded) ([]evaluation.WrittenPassage, []evaluation.ShownPicture) {
	out, pictures := []evaluation.WrittenPassage{}, []evaluation.ShownPicture{}
	for _, p := range rec.r.Passages() {
		passage := evaluation.WrittenPassage{Passage: p, Stand: []evaluation.PassageText{}}
		for _, l := range rec.c.Passages[p.Prompt] {
			passage.Stand = append(passage.Stand, evaluation.PassageText{Entry: l.Entry.ID, Text: l.Part.(journal.Passage).Written, By: l.Entry.Author, At: l.Entry.At})
		}
		out = append(out, passage)
	}
	for _, l := range rec.c.Pictures {
		pictures = append(pictures, evaluation.ShownPicture{Entry: l.Entry.ID, Picture: l.Part.(journal.Picture)})
	}
	return out, pictures
}

// evidence are the photographs that are asked for, with those that were taken.
func evidence(rec recorded) []evaluation.Evidence {
	out := []evaluation.Evidence{}
	for _, code := range rec.r.Report.Evidence {
		e := evaluation.Evidence{Code: code, Pictures: []string{}}
		for _, l := range rec.c.Pictures {
			if l.Part.(journal.Picture).Of == code {
				e.Pictures = append(e.Pictures, l.Entry.ID)
			}
		}
		out = append(out, e)
	}
	return out
}
