package marking_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"exactflask/core/judgement/experiment"
	"exactflask/core/judgement/marking"
	"exactflask/core/record/practical"
	"exactflask/core/values/decimal"
)

// Workings as they are handed in, with what a fair marker decides of each step. Of buffer-dosing:
// 23.85 mL of 0.1000 mol/L for 25 mL, two moles of acid for one of carbonate; 2.385 mmol, 1.1925 mmol,
// 0.04770 mol/L. A step is "r" right, "c" right by the own earlier figure, "a" right by itself
// though not by an earlier figure, "f" rounded too early, "w" wrong, with the slip where it is
// sure; the marks of the four steps follow, with ! where a person has to look. Source: common
// practice, no source.
func TestWorkings(t *testing.T) {
	r := example(t, "buffer-dosing.json")
	ids := []string{"mean-titre", "known-amount", "unknown-amount", "answer"}
	units := []string{"mL", "mmol", "mmol", "mol/L"}
	one := decimal.Whole(1)
	scheme := practical.Scheme{Criteria: []practical.Criterion{{ID: "a", Rule: practical.MarkStep, Step: "step.mean-titre", Marks: one}, {ID: "b", Rule: practical.MarkStep, Step: "step.amount-known", Marks: one},
		{ID: "c", Rule: practical.MarkStep, Step: "step.ratio", Marks: one}, {ID: "d", Rule: practical.MarkStep, Step: "step.concentration", Marks: one}}}
	for _, c := range []struct{ name, written, want, marks string }{
		{"as it should be", "23.85 2.385 1.1925 0.0477", "r r r r", "1 1 1 1"},
		{"rounded to what is deserved", "23.85 2.385 1.19 0.0477", "r r r r", "1 1 1 1"},
		{"carried on as it was written", "23.85 2.385 1.19 0.0476", "r r r c", "1 1 1 1"},
		{"three figures all along", "23.85 2.39 1.19 0.0477", "r r r r", "1 1 1 1"},
		{"three figures, carried on as written", "23.85 2.39 1.195 0.0478", "r r c c", "1 1 1 1"},
		// Nothing is not right.
		{"nothing at all", "0 0 0 0", "w w w w", "0 0 0 0"},
		{"nothing in the end", "23.85 2.385 1.1925 0", "r r r w", "1 1 1 0"},
		{"nothing with decimals", "23.85 2.385 1.1925 0.0", "r r r w", "1 1 1 0"},
		{"nothing in between", "23.85 0.00 1.1925 0.0477", "r w a r", "1 0 1! 1"},
		// Too few figures agree with everything.
		{"one figure of an amount", "23.85 2 1.1925 0.0477", "r f r r", "1 0 1 1"},
		{"two figures of an amount", "23.85 2.4 1.1925 0.0477", "r f r r", "1 0 1 1"},
		{"three figures of an amount", "23.85 2.39 1.1925 0.0477", "r r r r", "1 1 1 1"},
		{"two figures, and they move the answer", "23.85 2.385 1.2 0.048", "r r f c", "1 1 0 1"},
		{"one figure, and it moves the answer", "23.85 2.385 1 0.04", "r r f c", "1 1 0 1"},
		{"an answer of one figure", "23.85 2.385 1.1925 0.05", "r r r f", "1 1 1 0"},
		{"an answer of two figures", "23.85 2.385 1.1925 0.048", "r r r f", "1 1 1 0"},
		// Of a mean the burette tells how it is read.
		{"a mean to one decimal", "23.9 2.385 1.1925 0.0477", "f r r r", "0 1 1 1"},
		{"a mean without decimals", "24 2.385 1.1925 0.0477", "f r r r", "0 1 1 1"},
		{"a mean with three decimals", "23.850 2.385 1.1925 0.0477", "r r r r", "1 1 1 1"},
		// As it is typed.
		{"with a power of ten", "23.85 2.385e0 1.1925 4.77e-2", "r r r r", "1 1 1 1"},
		{"with a unit behind it", "23.85mL 2.385mmol 0.0011925mol 47.7mM", "r r r r", "1 1 1 1"},
		{"with a unit of something else behind it", "23.85 2.385g 1.1925 0.0477", "r w a r", "1 0 1! 1"},
		// One part in a thousand.
		{"within a thousandth", "23.85 2.3873 1.1925 0.0477", "r r r r", "1 1 1 1"},
		{"just beyond", "23.85 2.3875 1.1925 0.0477", "r w a r", "1 0 1! 1"},
		// One slip loses once.
		{"a thousand", "23.85 2385 1192.5 47.7", "r w:thousand c c", "1 0 1 1"},
		{"the ratio left out", "23.85 2.385 2.385 0.0954", "r r w:ratio-left-out c", "1 1 0 1"},
		{"the ratio inverted", "23.85 2.385 4.77 0.1908", "r r w:ratio-inverted c", "1 1 0 1"},
		{"two slips, the second by itself", "23.85 2.385 4.77 0.0477", "r r w:ratio-inverted a", "1 1 0 1!"},
		{"the volume of the sample taken for the titre", "23.85 2.500 1.250 0.0500", "r w:volumes-swapped c c", "1 0 1 1"},
		{"a figure that nobody explains", "23.85 2.62 1.31 0.0524", "r w c c", "1 0 1 1"},
		{"nothing, carried on", "23.85 0 0 0", "r w w w", "1 0 0 0"},
		{"carried on from the amount as it was rounded", "23.85 2 1.00 0.0400", "r f c c", "1 0 1 1"},
		// No name for what is only near.
		{"one per cent off", "23.85 2.41 1.205 0.0482", "r w c c", "1 0 1 1"},
		{"half a per cent off", "23.85 2.385 1.1985 0.04794", "r r w c", "1 1 0 1"},
		{"digits swapped", "23.85 2.358 1.179 0.04716", "r w:digits-swapped c c", "1 0 1 1"},
		// Not worked.
		{"only an answer", "- - - 0.0477", "- - - r", "1 1 1 1"},
		{"an amount left out", "23.85 - 1.1925 0.0477", "r - r r", "1 1 1 1"},
	} {
		b := good()
		written := strings.Fields(c.written)
		for i, text := range written {
			if text != "-" {
				b.answer(ids[i], text, units[i])
			}
		}
		ev := experiment.Evaluate(r, b.entries, evidence)
		var got []string
		for _, s := range ev.Work {
			switch {
			case s.Answer == nil:
				got = append(got, "-")
			case s.Verdict == "rounded":
				got = append(got, "f")
			case !s.Fits:
				name := "w"
				if s.Slip != "" {
					name += ":" + strings.TrimPrefix(s.Slip, "slip.")
				}
				got = append(got, name)
			case s.Apart:
				got = append(got, "a")
			case s.Carried:
				got = append(got, "c")
			default:
				got = append(got, "r")
			}
		}
		assert.Equal(t, c.want, strings.Join(got, " "), c.name)
		var marks []string
		for _, p := range marking.Evaluate(scheme, marking.Report{Ready: r, Evaluation: ev}) {
			said := "?"
			if p.Marks != nil {
				said = p.Marks.String()
			}
			if p.Marks != nil && !p.Certain {
				said += "!"
			}
			marks = append(marks, said)
		}
		assert.Equal(t, c.marks, strings.Join(marks, " "), c.name)
	}
}
