package wording

// terms are the words in which the two usages differ.
var terms = []struct{ key, titre, titer string }{
	{"titre", "titre", "titer"}, {"Titre", "Titre", "Titer"}, {"titres", "titres", "titers"}, {"Titres", "Titres", "Titers"},
	{"burette", "burette", "buret"}, {"Burette", "Burette", "Buret"},
	{"flask", "conical flask", "Erlenmeyer flask"},
	{"mean", "mean", "average"}, {"Mean", "Mean", "Average"},
	{"concordant", "concordant", "in agreement"},
}

// sentences by code. {name} stands for a value, [word] for a term or unit.
var sentences = map[string]string{
	// Why a trial is in or out.
	"in.agrees":        "In the [mean]: agrees with the others",
	"out.too-high":     "Left out: higher than the agreeing set allows",
	"out.too-low":      "Left out: lower than the agreeing set allows",
	"out.no-set":       "Not yet: does not agree with enough others",
	"out.tied":         "Not yet: two sets are equally good",
	"out.alone":        "Not yet: nothing to compare it with",
	"out.rough":        "Rough: steers the next trials, not in the [mean]",
	"out.open":         "Not finished",
	"out.set-aside":    "Set aside: {reason}",
	"out.withdrawn":    "Withdrawn: opened by mistake",
	"out.not-positive": "No [titre]: the end is not past the start",

	// Findings about readings.
	"reading.below-scale":    "{reading} lies above the zero mark, off the scale. Look again, and correct it if it was misread.",
	"reading.beyond-scale":   "{reading} is past the last mark ({capacity} [mL]). Nobody can read there: if it ran past, set the trial aside; if it was misread, correct it.",
	"reading.few-decimals":   "{reading} has fewer decimals than the scale gives. If you read {written}, correct it so: the last figure is part of the reading (steps of {step} [mL]).",
	"reading.off-resolution": "{reading} is finer than this practical reads: steps are {step} [mL]. Keep it if you mean it, or correct it.",
	"reading.start-not-zero": "The start is {reading}; this practical starts every trial at the zero mark. The [titre] is still right: it is a difference.",
	"reading.start-differs":  "The last trial ended at {last} and this one starts at {reading}. If liquid was run off in between, all is well; if not, check both readings.",
	"reading.taken-again":    "The reading was taken again: {before} before, {now} now. The later one counts.",

	// Findings about titres and the whole.
	"titre.end-before-start":    "The end ({end}) is less than the start ({start}). The scale counts downward from 0 at the top and shows what has left, so the end is the larger number; nothing is subtracted from the capacity. Were the two swapped, or one read upward?",
	"titre.nothing-ran":         "Start and end are both {reading}: nothing has left the [burette]. Correct the reading that is wrong.",
	"titre.beyond-rough":        "{titre} [mL] is {over} [mL] more than the rough trial ({rough} [mL]): past the end, or a misread scale? Check the colour and the reading.",
	"agreement.tolerance-loose": "The tolerance of {tolerance} [mL] is {percent} % of a [titre] of {titre} [mL]. Above 1 % even agreeing [titres] tell little; ask for a larger [titre].",
	"agreement.ambiguous":       "Two different sets of [titres] agree equally well within {tolerance} [mL]. One more trial decides which.",
	"result.far-from-expected":  "The answer, {answer} [mol/L], is {percent} % away from the {expected} [mol/L] that was expected ({factor} times it). Check readings, dilution and which solution is where before you believe it.",
	"entry.orphan":              "An entry ({text}) belongs to a trial or an entry that is not in this notebook. It is kept; nothing is computed from it.",
	"entry.unreadable":          "An entry could not be read ({problem}). It is kept; nothing is computed from it.",

	// What to do now.
	"next.rough":           "Read the start to begin the rough trial: it finds the end to within a millilitre.",
	"next.accurate":        "Read the start to begin the next accurate trial; {missing} more [titres] have to agree at least.",
	"next.accurate.one":    "Read the start to begin the next accurate trial; one more [titre] has to agree at least.",
	"next.disagree":        "The [titres] do not agree within {tolerance} [mL] yet. Read the start of another accurate trial.",
	"next.ambiguous":       "Two sets agree equally well. One more accurate trial decides: read its start.",
	"next.check-readings":  "The last trial gives no [titre]. Correct its readings, or read the start of a new trial.",
	"next.agreed":          "{count} [titres] agree, [mean] {mean} [mL]. The bench work is done; rinse and drain the [burette].",
	"next.read-start":      "Read the start of this trial.",
	"next.run-rough":       "Run in about 1 [mL] at a time, swirling; the end should come near {expect}. Then read the end.",
	"next.run-rough-blind": "Run in about 1 [mL] at a time, swirling, until the colour lasts. Then read the end.",
	"next.run":             "Open freely to {slow}, drop by drop from {drop}; the end should come near {expect}.",
	"next.run-blind":       "Run in freely, slower as the colour lingers, then drop by drop until it lasts. Then read the end.",
	"next.refill":          "From {last} there is too little left: fill the [burette] first.",
	"next.beyond":          "That is past the last mark ({beyond} [mL]): be ready to set this trial aside and begin with a full [burette].",

	// Agreement.
	"agreement.too-few":     "{missing} more [titres] are needed before they can be compared.",
	"agreement.too-few.one": "One more [titre] is needed before they can be compared.",
	"agreement.undecided":   "Undecided: two sets of [titres] tie within {tolerance} [mL].",
	"agreement.disagree":    "No set of [titres] lies within {tolerance} [mL] yet.",
	"agreement.agreed":      "{count} [titres] agree: spread {spread} [mL], within {tolerance} [mL]. [Mean] [titre] {mean} [mL].",

	// Where a notebook stands.
	"stage.untouched":   "Not begun",
	"stage.rough":       "Rough trial done",
	"stage.measuring":   "Measuring",
	"stage.disagreeing": "[Titres] do not agree yet",
	"stage.agreed":      "[Titres] agree",

	// Rules of the school.
	"rule.resolution.half":  "Readings to half a division: steps of {step} [mL]",
	"rule.resolution.tenth": "Readings to a tenth of a division: steps of {step} [mL]",
	"rule.resolution.whole": "Readings to the nearest division: steps of {step} [mL]",
	"rule.agreement":        "At least {need} [titres] within {tolerance} [mL] as a whole set; the largest such set is averaged, the rough never",
	"rule.start-at-zero":    "Every trial starts at the zero mark",
	"rule.round-mean":       "The [mean] [titre] is rounded to the decimals of the [titres] and used so",

	// Working.
	"step.amount-known":   "Amount of {known}",
	"step.ratio":          "Mole ratio from the equation: {unknown} to {known} is {ratio}",
	"step.concentration":  "Concentration of {unknown}",
	"figures.rule":        "{figures} significant figures: the fewest among the measured values ({limit})",
	"figures.fixed":       "{figures} significant figures, as this practical fixes them",
	"answer.statement":    "The concentration of {formula} ({name}) is {value} [mol/L].",
	"answer.comparison":   "{percent} % {side} the expected {expected} [mol/L].",
	"origin.reading":      "Read from the [burette], {place}; written {written}.",
	"origin.given-known":  "Given in the practical: {written} [mol/L].",
	"origin.given-volume": "Delivered by the pipette of the practical: {written} [mL].",
	"origin.ratio":        "Coefficients of the balanced equation: {ratio}.",
	"origin.difference":   "End less start of this trial.",
	"origin.mean":         "[Mean] of the agreeing [titres], carried unrounded.",
	"origin.mean-rounded": "[Mean] of the agreeing [titres], rounded as this practical asks.",
	"origin.convert":      "The same volume in another unit.",
	"origin.product":      "One times the other.",
	"origin.quotient":     "The first divided by the second.",
}
