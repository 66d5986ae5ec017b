package marking_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/judgement/experiment"
	"exactflask/core/judgement/marking"
	"exactflask/core/judgement/working"
	"exactflask/core/record/journal"
	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/core/values/decimal"
)

// worked is a working as it was handed in, of an example and its own record: what a student
// wrote for each step in its order, in the step's unit where none is written, - for nothing;
// with what a fair marker decides. A step is "r" right, "c" right by the own earlier figure,
// "a" right by itself, "m" right by a table of atomic weights of the school's, "o" right in
// another order, "x" right without a trial of the student's own, "s" wrong by what has been
// lost before, "f" rounded too early, "w" wrong, with the slip where it is sure.
// lost are the marks of the working, one for a thing: ! where a person has to look, ? where the
// program cannot tell. change puts another figure into the record. Source: common practice, no
// source.
type worked struct{ of, change, name, written, want, lost string }

var workings = []worked{
	{"algae-vinegar", "", "as it should be", "21.13 0.002139 0.002139 0.02139 0.8555 51.37 5.137", "r r r r r r r", "0"},
	{"algae-vinegar", "", "the mean to what is read", "21.15 0.002140 0.002140 0.02140 0.8562 51.41 5.141", "r r r r r r r", "0"},
	{"algae-vinegar", "", "the dilution forgotten", "21.13 0.002139 0.002139 0.002139 0.08555 5.137 0.5137", "r r r w:dilution-left-out c c c", "1"},
	{"algae-vinegar", "", "the dilution the other way", "21.13 0.002139 0.002139 0.0002139 0.008555 0.5137 0.05137", "r r r w:dilution-inverted c c c", "1"},
	{"algae-vinegar", "", "scaled a step later", "21.13 0.002139 0.002139 0.002139 0.8555 51.37 5.137", "r r r o r r r", "0!"},
	{"algae-vinegar", "", "scaled at the very end", "21.13 0.002139 0.002139 0.002139 0.08555 5.137 5.137", "r r r o c c r", "0!"},
	{"algae-vinegar", "", "the dilution forgotten in one formula", "21.13 - - - - - 0.5137", "r - - - - - w:dilution-left-out", "1"},
	{"algae-vinegar", "", "the molar mass of the salt", "21.13 0.002139 0.002139 0.02139 0.8555 70.18 7.018", "r r r r r w:other-molar-mass c", "1"},
	{"algae-vinegar", "", "with powers of ten and units", "21.13mL 2.139e-3 2.139mmol 2.139*10^-2 0.8555mol/L 51.37g/L 5.137", "r r r r r r r", "0"},
	{"algae-vinegar", "", "the concentration miscopied", "21.13 0.002160 0.002160 0.02160 0.8642 51.89 5.189", "r w c c c c c", "1"},

	{"iron-tablet", "", "as it should be", "18.575 0.0000947 0.000474 0.00474 0.265 0.0882 88.2", "r r r r r r r", "0"},
	{"iron-tablet", "", "iron as 56", "18.575 0.00009473 0.0004737 0.004737 0.2653 0.08842 88.4", "r r r r m c c", "0"},
	{"iron-tablet", "", "iron as 55.8", "18.575 0.00009473 0.0004737 0.004737 0.2643 0.08811 88.1", "r r r r r r r", "0"},
	{"iron-tablet", "", "iron as 58", "18.575 0.00009473 0.0004737 0.004737 0.2747 0.09158 91.6", "r r r r w c c", "1"},
	{"iron-tablet", "", "three tablets for one", "18.575 0.00009473 0.0004737 0.004737 0.2645 0.2645 265", "r r r r r w:count-left-out c", "1"},
	{"iron-tablet", "", "two slips in two steps", "18.575 0.00009473 0.00001895 0.00001895 0.001058 0.0003527 0.353", "r r w:ratio-inverted w:dilution-left-out c c c", "2"},
	{"iron-tablet", "", "two slips in one formula", "18.575 - - - - - 1.76", "r - - - - - w", "1?"},
	{"iron-tablet", "", "the rough one averaged in", "18.75 0.00009563 0.0004781 0.004781 0.2670 0.08900 89.0", "w:rough-included c c c c c c", "1"},

	{"pond-bleach", "", "as it should be", "22.075 0.002254 0.001127 0.001127 0.01409 1.409 99.87 9.987", "r r r r r r r r", "0"},
	{"pond-bleach", "", "chlorine as 71", "22.075 0.002254 0.001127 0.001127 0.01409 1.4087 100.0 10.00", "r r r r r r m c", "0"},
	{"pond-bleach", "", "one chlorine for two", "22.075 0.002254 0.001127 0.001127 0.01409 1.409 49.94 4.994", "r r r r r r w:other-molar-mass c", "1"},
	{"pond-bleach", "", "the aliquot for the pipette", "22.075 0.002254 0.001127 0.001127 0.01409 0.7043 49.94 4.994", "r r r r r w:other-volume c c", "1"},
	{"pond-bleach", "", "the answer in other units", "22.08 2.254mmol 1.127mmol 1.127mmol 14.09mmol 1.409 99.87 99.87g/L", "r r r r r r r r", "0"},
	{"pond-bleach", "", "a gram where an amount is asked", "22.08 2.254g 0.001127 0.001127 0.01409 1.409 99.87 9.987", "r w a r r r r r", "1!"},

	{"citric-descaler", "", "as it should be", "20.43 0.002051 0.0006836 0.006836 1.3133 0.9940 99.40", "r r r r r r r", "0"},
	{"citric-descaler", "16.2314=16.2814", "the mass that was asked for in place of the weighed one", "20.43 0.002051 0.0006836 0.006836 1.3133 0.9949 99.49", "r r r r r w:nominal-taken c", "1"},
	{"citric-descaler", "", "the molar mass of the hydrate", "20.43 0.002051 0.0006836 0.006836 1.4364 1.0872 108.7", "r r r r w:other-molar-mass c c", "1"},
	{"citric-descaler", "", "the ratio left out", "20.43 0.002051 0.002051 0.02051 3.940 2.982 298.2", "r r w:ratio-left-out c c c c", "1"},
	{"citric-descaler", "16.2314=16.3314", "the part upside down", "20.43 0.002051 0.0006836 0.006836 1.3133 1.0822 108.2", "r r r r r w:upside-down c", "1"},
	{"citric-descaler", "", "a part where per cent are asked", "20.43 0.002051 0.0006836 0.006836 1.3133 0.9940 0.9940", "r r r r r r w:hundred", "1"},
	{"citric-descaler", "", "digits of the concentration swapped", "20.43 0.002124 0.0007080 0.007080 1.3603 1.0296 103.0", "r w:copied-wrong c c c c c", "1"},

	{"iron-ii-dichromate", "", "as it should be", "20.475 0.0003413 0.002048 0.08192", "r r r r", "0"},
	{"iron-ii-dichromate", "", "the volumes swapped, twice", "20.475 0.0004168 0.002501 0.1221", "r w:volumes-swapped c s", "1"},
	{"iron-ii-dichromate", "", "the volumes swapped in one formula", "20.475 - - 0.1221", "r - - w:volumes-swapped", "1"},
	{"iron-ii-dichromate", "", "the ratio inverted", "20.475 0.0003413 0.00005689 0.002275", "r r w:ratio-inverted c", "1"},
	{"iron-ii-dichromate", "", "millilitres for litres, both times", "20.475 0.3413 2.048 0.08192", "r w:thousand c a", "1!"},
	{"iron-ii-dichromate", "", "all rounded to two figures", "20.475 0.00034 0.0020 0.08", "r f f c", "2"},

	{"acid-in-burette", "", "as it should be", "16.4 0.00250 0.00125 0.0762", "r r r r", "0"},
	{"acid-in-burette", "", "the sample's volume in the end", "16.4 0.00250 0.00125 0.0500", "r r r w:volumes-swapped", "1"},
	{"acid-in-burette", "", "the ratio inverted", "16.4 0.00250 0.00500 0.305", "r r w:ratio-inverted c", "1"},

	{"carbonate-hydrate", "", "as it should be", "11.3 0.00113 0.000565 0.00226 0.0100 0.00774 0.00774 124.0 18.04 1.0", "r r r r r r r r r r", "0"},
	{"carbonate-hydrate", "", "sodium carbonate as 106, water as 18", "11.3 0.00113 0.000565 0.00226 0.0100 0.00774 0.00774 124.0 18.03 1.0", "r r r r r r r r r r", "0"},
	{"carbonate-hydrate", "11.3=20.0,22.6=40.0", "water as 18.02", "20.0 0.00200 0.00100 0.00400 0.0100 0.00600 0.00600 160.0 54.01 3.0", "r r r r r r r r r r", "0"},
	{"carbonate-hydrate", "11.3=20.0,22.6=40.0", "the number of waters upside down", "20.0 0.00200 0.00100 0.00400 0.0100 0.00600 0.00600 160.0 54.01 0.33", "r r r r r r r r r w:upside-down", "1"},
	{"carbonate-hydrate", "11.3=20.0,22.6=40.0", "what was left for what was used", "20.0 0.00200 0.00100 0.00400 0.0100 0.00400 0.00400 240.0 134.0 7.4", "r r r r r w:remainder-taken c c c c", "1"},

	{"ammonium-feed", "", "as it should be", "0.004832 0.004832 0.009699 0.009699 0.004867 0.002434 0.3216 1.0036 0.004792 0.004792 0.004907 0.002454 0.3242 1.0022 100.3", "r r r r r r r r r r r r r r r", "0"},
	{"ammonium-feed", "", "volumes subtracted first", "0.004867 0.004867 - - 0.004867 0.002434 0.3216 1.0036 0.004907 0.004907 0.004907 0.002454 0.3242 1.0022 100.3", "o c - - r r r r o c r r r r r", "0!"},
	{"ammonium-feed", "", "digits of the concentration swapped throughout", "0.004941 0.004941 0.009917 0.009917 0.004976 0.002488 0.3288 1.0261 0.004900 0.004900 0.005017 0.002509 0.3315 1.0247 102.5", "w:copied-wrong c s c c c c c s c c c c c c", "1"},

	{"naoh-by-mass", "", "as it should be", "0.5172 0.002533 0.002533 0.1019 0.5006 0.002451 0.002451 0.1019 0.5284 0.002587 0.002587 0.1017 0.1018", "r r r r r r r r r r r r r", "0"},
	{"naoh-by-mass", "49.55=48.60", "without a bad trial of one's own", "0.5172 0.002533 0.002533 0.1019 0.5006 0.002451 0.002451 0.1019 0.5284 0.002587 0.002587 0.1056 0.1019", "r r r r r r r r r r r r x", "0!"},
	{"naoh-by-mass", "", "a molar mass of 202 throughout", "0.5172 0.002560 0.002560 0.1030 0.5006 0.002478 0.002478 0.1030 0.5284 0.002616 0.002616 0.1028 0.1029", "r w c c r s c c r s c c c", "1"},

	{"spent-lime", "", "as it should be", "27.575 0.0021025 0.0027575 0.000655 0.0014475 0.000655 0.05790 0.0262", "r r r r r r r r", "0"},
	{"spent-lime", "", "millilitres for litres", "27.575 2.1025 2.7575 0.655 1.4475 0.655 57.90 26.2", "r w:thousand s c c c c c", "1"},
	{"spent-lime", "", "the second answer to one figure too few", "27.575 0.0021025 0.0027575 0.000655 0.0014475 0.000655 0.058 0.0262", "r r r r r r f r", "1"},

	{"shell-chalk", "", "as it should be", "24.13 0.002497 0.002497 0.02497 0.04935 0.02438 0.01219 1.2201 0.9752 97.52", "r r r r r r r r r r", "0"},
	{"shell-chalk", "", "in the aliquot until the end", "24.13 0.002497 0.002497 0.002497 0.004935 0.002438 0.001219 0.12201 0.9752 97.52", "r r r o o c c c r r", "0!"},
	{"shell-chalk", "", "the dilution forgotten", "24.13 0.002497 0.002497 0.002497 0.04935 0.04685 0.02343 2.345 1.8741 187.4", "r r r w:dilution-left-out r c c c c c", "1"},
	{"shell-chalk", "", "what was left for what was used", "24.13 0.002497 0.002497 0.02497 0.04935 0.02497 0.01248 1.2496 0.9988 99.88", "r r r r r w:remainder-taken c c c c", "1"},
	{"shell-chalk", "", "calcium carbonate as 100", "24.13 0.002497 0.002497 0.02497 0.04935 0.02438 0.01219 1.219 0.9744 97.44", "r r r r r r r r r r", "0"},

	{"unknown-acid", "", "as it should be", "20.275 0.001999 0.0009996 0.009996 126", "r r r r r", "0"},
	{"unknown-acid", "", "the molar mass upside down", "20.275 0.001999 0.0009996 0.009996 0.00793", "r r r r w:upside-down", "1"},
	{"unknown-acid", "", "digits of a figure swapped", "20.275 0.001999 0.0009969 0.009969 126", "r r w:digits-swapped c r", "1"},

	{"peroxide-strength", "", "22.4 litres", "17.775 0.000357 0.000893 0.00447 0.893 0.447 10.0", "r r r r r r r", "0"},
	{"peroxide-strength", "", "the ratio inverted", "17.775 0.000357 0.000143 0.000715 0.143 0.0715 1.60", "r r w:ratio-inverted c c c c", "1"},
	{"peroxide-strength", "", "the volume of the flask for the sample", "17.775 0.000357 0.000893 0.00447 0.0447 0.0223 0.501", "r r r r w:other-volume c c", "1"},
}

// recordOf is the record of an example, with other figures in it, without its answers.
func recordOf(t *testing.T, name, change string) (*practical.Ready, []journal.Entry) {
	for _, e := range practicaltest.Examples(t) {
		if e.Name != name+".json" {
			continue
		}
		text := string(e.Journal)
		for one := range strings.SplitSeq(change, ",") {
			if from, to, ok := strings.Cut(one, "="); ok {
				require.Contains(t, text, `"`+from+`"`)
				text = strings.ReplaceAll(text, `"`+from+`"`, `"`+to+`"`)
			}
		}
		var all, out []journal.Entry
		require.NoError(t, json.Unmarshal([]byte(text), &all))
		for _, e := range all {
			if _, answers := e.Part.(journal.Answer); !answers {
				out = append(out, e)
			}
		}
		return e.Ready, out
	}
	t.Fatal(name)
	return nil, nil
}

// seen is how a step was judged, as the tables say it.
func seen(s working.Step) string {
	switch {
	case s.Answer == nil:
		return "-"
	case s.Verdict == working.Rounded:
		return "f"
	case s.Again != "":
		return "s"
	case !s.Fits:
		if s.Slip != "" {
			return "w:" + strings.TrimPrefix(s.Slip, "slip.")
		}
		return "w"
	case s.Order:
		return "o"
	case s.Without:
		return "x"
	case s.Apart:
		return "a"
	case s.School:
		return "m"
	case s.Carried:
		return "c"
	}
	return "r"
}

// Workings of ten kinds and more are judged as a fair marker judges them.
func TestWorkingsOfManyKinds(t *testing.T) {
	ofWorking := map[practical.MarkRule]bool{practical.MarkStep: true, practical.MarkFigures: true, practical.MarkUnit: true,
		practical.MarkRough: true, practical.MarkAveraged: true}
	kinds := map[string]bool{}
	for _, w := range workings {
		kinds[w.of] = true
		name := w.of + ", " + w.name
		r, entries := recordOf(t, w.of, w.change)
		b := &bench{entries: entries, n: 5000}
		steps := experiment.Evaluate(r, entries, evidence).Work
		written := strings.Fields(w.written)
		if !assert.Len(t, written, len(steps), name) {
			continue
		}
		for i, text := range written {
			if text != "-" {
				b.answer(steps[i].Step, text, string(steps[i].Unit))
			}
		}
		ev := experiment.Evaluate(r, b.entries, evidence)
		var got []string
		for _, s := range ev.Work {
			got = append(got, seen(s))
		}
		assert.Equal(t, w.want, strings.Join(got, " "), name)

		scheme := practical.Scheme{}
		for _, c := range marking.Propose(r).Criteria {
			if ofWorking[c.Rule] {
				c.Marks, c.Lose = decimal.Whole(5), decimal.Whole(1)
				scheme.Criteria = append(scheme.Criteria, c)
			}
		}
		lost, look := decimal.Decimal{}, ""
		for i, p := range marking.Evaluate(scheme, marking.Report{Ready: r, Evaluation: ev}) {
			switch {
			case p.Marks == nil:
				look = "?"
			default:
				lost = lost.Add(scheme.Criteria[i].Marks.Sub(*p.Marks))
				if !p.Certain && look == "" {
					look = "!"
				}
			}
		}
		assert.Equal(t, w.lost, lost.String()+look, name)
	}
	assert.GreaterOrEqual(t, len(kinds), 10)
}
