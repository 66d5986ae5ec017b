package wording

import (
	"exactflask/core/chemistry/catalog"
	"exactflask/core/values/finding"
)

// Own codes are those that only this package and the views speak: names, heads
// of columns, sentences around figures. With those that the core declares they
// are all that a language has to say.
var own = map[string][]string{}

func declare(params []string, codes ...string) {
	for _, code := range codes {
		own[code] = params
	}
}

func family(prefix string, params []string, parts ...string) {
	for _, part := range parts {
		own[prefix+part] = params
	}
}

// stepCodes are the steps of a working. Each has a title, and another for the
// student's own working, which does not give the way away.
var stepCodes = []string{"amount-known", "amount-weighed", "pure-mass", "ratio", "contained", "whole", "part", "added",
	"blank-amount", "used", "between-ends", "carbonate", "other",
	"concentration", "as-concentration", "mass-concentration", "convert", "amount", "mass", "tablet", "tablets", "fraction", "molar-mass", "water-mass", "water", "protons", "oxygen",
	"volume-strength", "factor", "mean-answer", "sample-volume", "dilution-factor", "undiluted", "diluted"}

var sourceCodes = []string{"burette", "sample-burette", "reagent-burette", "pipette", "flask", "cylinder", "reading",
	"drop", "repeatability", "temperature", "balance", "known", "excess", "density", "purity", "molar-mass", "curve", "stock"}

var criterionCodes = []string{"questions", "setup", "complete", "resolution", "decimals", "agreement", "economy", "subtraction", "rough", "averaged",
	"titre", "result", "step", "figures", "unit", "answer", "person", "in-time", "cleanup", "calibrated", "jump", "tail", "evidence", "complete-solution"}

func init() {
	none := []string{}
	for _, step := range stepCodes {
		family("step.", []string{"of", "where", "from", "ratio"}, step)
		family("step.", []string{"of", "where"}, step+".own")
	}
	family("step.", none, "mean-titre.own", "titre.own")
	family("source.", []string{"of"}, sourceCodes...)
	family("improve.", []string{"percent"}, sourceCodes...)
	family("answer.", []string{"name", "formula", "value", "unit", "sample", "count"}, "concentration",
		"mass-concentration", "mass-fraction", "amount", "mass", "mass-per-tablet", "purity", "water", "molar-mass", "protons", "volume-strength", "factor")
	family("answer.", []string{"formula", "value", "unit"}, "second")
	family("answer.", []string{"answer"}, "single")
	family("answer.", []string{"percent", "side", "expected", "label"}, "comparison", "label", "reference")
	family("agreement.", []string{"tolerance", "percent", "count", "mean", "spread", "relative"}, "too-few", "disagree",
		"agreed", "disagree-relative", "agreed-relative", "all", "all-relative", "one", "one-relative")
	family("agreement.", []string{"tolerance", "mean", "missing", "percent"}, "in-time", "in-time-relative")
	family("origin.", []string{"written", "place", "ratio"}, "reading", "measured", "given", "given-known", "given-pipette",
		"given-flask", "given-balance", "nominal", "ratio", "molar-mass", "constant",
		"difference", "difference-amount", "mean", "mean-answer", "mean-rounded", "convert", "product", "quotient")
	family("rule.resolution.", []string{"step"}, "half", "tenth", "whole")
	family("rule.", []string{"need", "tolerance", "percent"}, "agreement", "relative", "average-all", "average-closest")
	family("rule.", none, "rough-counts", "start-at-zero", "round-mean", "one", "as-time-allows")
	declare([]string{"hold"}, "rule.hold")
	family("figures.", []string{"count", "limit"}, "rule")
	family("figures.", []string{"count"}, "fixed")
	declare([]string{"value", "spread", "unit", "percent", "factor"}, "uncertainty.sentence")
	declare([]string{"factor", "freedom"}, "uncertainty.few")
	declare([]string{"half", "value", "kind"}, "plan.potential")
	declare([]string{"medium"}, "plan.potential.formal")
	declare(none, "plan.potential.standard", "plan.potential.own")
	family("sample.", []string{"value", "spread", "unit", "percent", "control"}, "difference-more", "difference-less",
		"difference-unclear")
	declare([]string{"concentration"}, "prepared.expects")
	declare([]string{"concentration", "percent", "side"}, "prepared.found")
	declare([]string{"volume", "expected", "formula"}, "salt.expects")
	declare([]string{"crystals", "expected", "formula", "yield"}, "salt.yield")
	declare([]string{"name", "text"}, "sample.agreement")
	declare([]string{"done", "count"}, "stands.work")
	declare(none, "stands.later")
	declare([]string{"sample", "title"}, "work.of-sample")
	declare([]string{"title", "which"}, "work.of-which")
	family("setting.", []string{"name", "formula", "sample"}, "set-free")
	declare([]string{"formula", "reagent"}, "setting.left-over")
	declare([]string{"start", "end", "unit"}, "given.span")
	declare(none, "given.ratio", "given.molar", "given.on-curve", "given.nominal")
	declare(none, "work.again", "source.repeatability-assumed")
	declare([]string{"tolerance"}, "uncertainty.single")
	declare([]string{"percent"}, "uncertainty.single-relative")
	declare([]string{"source"}, "source.estimated")
	declare([]string{"percent", "answer", "unit"}, "uncertainty.bar")
	family("cause.", []string{"titre", "answer", "unit", "percent"}, "effect", "effect-titre")
	declare([]string{"needed", "unit"}, "cause.needed")
	declare([]string{"sd", "rsd", "n"}, "statistics")
	declare([]string{"ci", "t"}, "statistics.interval")
	declare(none, "statistics.resolved")
	declare([]string{"trial", "q", "critical"}, "dixon")
	declare([]string{"blank"}, "blank")
	declare([]string{"left", "count"}, "supply")
	family("criterion.", none, criterionCodes...)
	declare([]string{"way", "why"}, "series.way")
	declare([]string{"volume", "standard", "low", "high"}, "series.end")
	declare([]string{"name", "value", "low", "high", "table"}, "series.found", "series.found-table")
	declare([]string{"offset", "standard"}, "series.offset")
	declare([]string{"capacity"}, "series.capacity")
	declare([]string{"noise"}, "series.random", "series.pattern")
	declare([]string{"line", "fault"}, "probe.line")
	declare(none, "probe.axis", "probe.state-none")
	declare([]string{"count", "percent"}, "probe.state", "probe.state-slope")
	declare([]string{"run", "text"}, "probe.end-of")
	declare([]string{"unit", "shows"}, "points.other-unit")
	family("file.", none, "again", "corrections", "corrections.at", "corrections.by", "corrections.place", "corrections.reason", "corrections.said")
	family("file.", none, "points", "point-volume", "point-slope", "point-residual", "point-at", "point-source", "point-state", "curve", "ends", "way", "found")
	declare([]string{"titre", "reason"}, "mark.trial")
	declare(none, "mark.nothing")
	family("grade.", none, "name", "bench", "unknown", "late", "answer", "total", "percent", "released", "slips", "yes", "sheet", "history")
	declare([]string{"title", "most"}, "grade.criterion")
	family("supply.", []string{"volume"}, "titrant", "analyte")
	family("trial.", []string{"number"}, "rough-n", "accurate", "blank", "practice", "repeat", "short-rough",
		"short-accurate",
		"short-blank", "short-practice", "short-repeat")
	family("trial.", none, "withdrawn", "rough", "short-withdrawn")
	family("reading-of.", []string{"trial"}, "start", "end")
	family("where.", none, "stock", "aliquot", "blank", "added", "used", "one-tablet", "sample", "solution", "undiluted", "nominal",
		"hydrate", "water-in-it", "first-end", "second-end", "between-ends", "pipette", "make-up")
	family("name.", none, "weighing", "blank", "corrected", "first", "mean-titre", "count")
	family("name.", []string{"trial"}, "sample-of", "titre-of", "first-of")
	family("name.", []string{"of"}, "ratio", "molar-volume", "amount", "concentration", "mass", "molar-mass", "dilution", "fraction",
		"mass-concentration", "volume", "water", "protons", "factor")
	declare([]string{"letter", "of"}, "name.other")
	family("setting.", []string{"name", "formula", "concentration"}, "known", "rough")
	family("setting.", []string{"name", "formula"}, "unknown", "weighed", "made")
	declare([]string{"capacity", "division", "class", "tolerance"}, "setting.burette", "setting.syringe")
	family("setting.", []string{"volume", "class", "tolerance"}, "pipette", "cylinder", "flask")
	declare([]string{"capacity", "division"}, "glass.burette-in", "glass.syringe-in")
	declare(none, "setting.sample-burette")
	declare([]string{"value"}, "setting.tolerance")
	declare([]string{"name", "colour"}, "setting.indicator")
	declare([]string{"mass"}, "route.about-each")
	family("route.", none, "weighed-each", "by-blank", "made-up", "flask")
	declare([]string{"count", "what"}, "route.tablets")
	declare([]string{"name", "concentration"}, "route.in-excess")
	declare([]string{"name"}, "route.excess-blank")
	declare([]string{"volume"}, "route.about")
	family("side.", none, "above", "below")
	declare(none, "unit.none", "list.and", "working.heading", "cause.within", "shelf.broken", "reaction.own-source")
	declare([]string{"trial", "text"}, "working.of-trial")
	declare([]string{"of", "where"}, "working.of-portion")
	family("text.", none, "burette", "flask", "solution", "trial")
	declare([]string{"value"}, "text.unrounded")
	family("column.", none, "sample-start", "sample-end", "sample", "reagent", "mass", "start", "refills", "first-end",
		"end", "first-titre", "titre", "curve-end")
	family("struck.", none, "type", "start", "end", "others", "set-aside")
	family("journal.kind.", none, "sample", "trial", "reading", "calibration", "point", "set-aside", "note", "check", "observation", "weighing", "timer",
		"known", "answer", "correction", "passage", "picture", "own-value", "own-glass", "prepared")
	declare([]string{"place", "was", "text"}, "journal.corrected")
	family("own.", none, "tablet", "density", "label", "temperature")
	family("own.volume.", []string{"name"}, "pipette", "make-up", "aliquot", "excess")
	declare([]string{"name", "glass"}, "setting.glass-named")
	declare([]string{"name", "given"}, "dry-run.given")
	declare([]string{"of"}, "dry-run.photograph")
	family("dry-run.", []string{"count"}, "ticked", "points")
	declare(none, "setting.probe-alone", "unit.celsius", "given.measured-only")
	declare([]string{"nominal"}, "given.measured")
	declare([]string{"time"}, "journal.ahead", "journal.late")
	declare([]string{"count"}, "span.minutes", "span.hours", "span.days", "report.far",
		"changes.trials", "changes.notes", "changes.answers", "changes.pictures", "changes.entries")
	declare([]string{"passage", "was", "text"}, "changes.passage")
	family("file.", none, "readings", "working", "report", "mean", "figure", "value", "unit", "how", "result", "method", "own",
		"pictures", "notes", "withheld", "late", "local")
	declare([]string{"title"}, "import.title")
	declare([]string{"people", "written", "count"}, "import.note")
	declare([]string{"student", "class", "begun"}, "file.head")
	declare([]string{"version", "at", "late"}, "file.handed-in")
	declare([]string{"total", "possible"}, "file.marks-total")
	declare([]string{"title", "marks", "most"}, "file.mark")
	declare(none, "file.marks")
	declare([]string{"entries", "seal"}, "file.made")
	declare([]string{"place", "text", "reason", "by", "at"}, "file.struck")
	family("prep.", []string{"volume", "concentration", "mass", "molar", "stock", "strength", "percent"}, "solid",
		"from-concentrated", "from-stock")
	family("class.", []string{"name", "bench", "total", "make", "count"}, "need", "need-solution", "indicator", "solid")
	declare([]string{"name", "lasts", "trials"}, "class.short")
	declare([]string{"percent", "factor"}, "plan.uncertainty", "plan.uncertainty-one")
	declare([]string{"percent", "strength"}, "plan.uncertainty-solution")
	declare(none, "plan.not-asked")
}

// Codes returns every code that a language has to say, with the names of its
// values: those that the core and the rooms above it declare, those of the
// views, and those of the catalogue's entries.
func Codes() map[string][]string {
	out := finding.Declared()
	for code, params := range own {
		out[code] = params
	}
	for code := range catalogue() {
		out[code] = nil
	}
	return out
}

// catalogue are the codes of names and texts of the catalogue; true where one
// may be left out.
func catalogue() map[string]bool {
	out := map[string]bool{}
	cautions := func(list []catalog.Caution) {
		for _, c := range list {
			out["caution."+c.Code] = false
		}
	}
	c := catalog.BuiltIn()
	for _, s := range c.Substances {
		out[s.NameCode()], out["substance."+s.ID+".also"] = false, true
		cautions(s.Cautions)
	}
	for _, i := range c.Indicators {
		out[i.NameCode()], out[i.EndCode(true)], out[i.EndCode(false)], out["indicator."+i.ID+".when"] = false, false, false, true
		for _, colour := range []string{i.Acid, i.Alkaline} {
			if colour != "" {
				out["colour."+colour] = false
			}
		}
		cautions(i.Cautions)
	}
	for _, r := range c.Reactions {
		out["reaction."+r.ID+".name"], out["reaction."+r.ID+".note"] = false, true
	}
	for _, s := range c.Standards {
		for _, of := range []string{"use", "drying", "handling", "life"} {
			out["standard."+s.Substance+"."+of] = of == "handling"
		}
	}
	return out
}

// Optional tells whether a code may be left out of a language.
func Optional(code string) bool { return catalogue()[code] }
