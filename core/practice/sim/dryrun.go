package sim

import (
	"time"

	"exactflask/core/judgement/evaluation"
	"exactflask/core/judgement/experiment"
	"exactflask/core/model/curve"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
)

var tooLong = finding.Declare("sim.too-long", "titre")

// Moment is what the bench says, and what a careful student then writes down.
type Moment struct {
	Next    evaluation.Next
	Written []journal.Entry
}

// DryRun lets a careful student do a practical that is not set yet, and looks over their shoulder: what
// the bench says at each moment, and what stands there at the end, before the own working and the
// report are written. A fault where no answer follows (Rehearse), or where a titre takes too many
// fillings to be run.
func DryRun(r *practical.Ready) ([]Moment, evaluation.Evaluation, *finding.Fault) {
	if fault := Rehearse(r); fault != nil {
		return nil, evaluation.Evaluation{}, fault
	}
	if endless(r) {
		return nil, evaluation.Evaluation{}, tooLong.Fault("asked.what", finding.Volume(curve.OutlineOf(r).Titre.Last))
	}
	entries, err := Titrate(r, Student{Seed: 1, Skill: Careful, Device: "rehearsal", Begin: time.Unix(0, 0)})
	if err != nil {
		return nil, evaluation.Evaluation{}, stopped(r, err)
	}
	var out []Moment
	for i, e := range entries {
		// What belongs together stands together: the items of a list, a trial with its first reading, the
		// points of a run.
		if n := len(out); n > 0 && together(entries[i-1], e) {
			out[n-1].Written = append(out[n-1].Written, e)
			continue
		}
		next := experiment.Evaluate(r, entries[:i], experiment.Record).Next
		out = append(out, Moment{next, []journal.Entry{e}})
	}
	return out, experiment.Evaluate(r, entries, experiment.All), nil
}

// together tells whether two entries are written at the same moment.
func together(before, now journal.Entry) bool {
	switch before.Part.(type) {
	case journal.Opening, journal.Belonging:
		return now.Part.Trial() == before.ID || now.Part.Trial() == before.Part.Trial()
	}
	same := before.Kind() == now.Kind()
	switch now.Part.(type) {
	case journal.Checked, journal.Timer, journal.Calibration, journal.ProbePoint:
		return same
	case journal.Observation, journal.Remark:
		return true
	}
	return false
}
