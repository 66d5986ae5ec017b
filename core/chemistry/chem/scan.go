package chem

import (
	"slices"
	"strings"
	"unicode/utf8"
)

// The small patterns of formulas and equations, read by hand: the tables of a regular
// expression's engine are a twentieth of what the page's core weighs on its way to a phone.
// The tests compare each with the expression that says the same.

func digit(b byte) bool { return b >= '0' && b <= '9' }

// digits counts how many the text begins with, at most so many.
func digits(text string, most int) int {
	n := 0
	for n < min(len(text), most) && digit(text[n]) {
		n++
	}
	return n
}

// withoutState cuts a state in any case, and the blanks before it: HCl (AQ).
func withoutState(text string) string {
	for _, state := range []string{"(s)", "(l)", "(g)", "(aq)"} {
		if cut := len(text) - len(state); cut >= 0 && strings.EqualFold(text[cut:], state) {
			return strings.TrimRight(text[:cut], " ")
		}
	}
	return text
}

// waterRun splits where digits of an atom and of the water run into each other: CuSO45H2O.
func waterRun(text string) (before, first, more string, is bool) {
	body, is := strings.CutSuffix(text, "H2O")
	letter := len(body)
	for letter > 0 && digit(body[letter-1]) {
		letter--
	}
	if !is || len(body)-letter < 2 || letter == 0 || !closes(body[letter-1]) {
		return "", "", "", false
	}
	return body[:letter], body[letter : letter+1], body[letter+1:], true
}

// closes tells of what a number can stand behind.
func closes(b byte) bool {
	return b >= 'A' && b <= 'Z' || b >= 'a' && b <= 'z' || b == ')' || b == ']'
}

// signFirst splits a lone element with a number, a sign and another number: Fe2+3.
func signFirst(text string) (element, number, sign, other string, is bool) {
	cut := len(text) - 3
	if cut < 1 || cut > 2 || text[0] < 'A' || text[0] > 'Z' || cut == 2 && (text[1] < 'a' || text[1] > 'z') {
		return "", "", "", "", false
	}
	element, number, sign, other = text[:cut], text[cut:cut+1], text[cut+1:cut+2], text[cut+2:]
	return element, number, sign, other, digit(number[0]) && (sign == "+" || sign == "-") && digit(other[0])
}

// portion is the number that a text begins with: 5, 0.5, 1/2, with what stands below a
// fraction's line or behind the point.
func portion(text string) (all, whole, below, decimals string, is bool) {
	n := digits(text, 4)
	if n == 0 {
		return "", "", "", "", false
	}
	whole, all = text[:n], text[:n]
	switch rest := text[n:]; {
	case len(rest) > 1 && rest[0] == '/' && rest[1] >= '2' && rest[1] <= '9':
		all, below = text[:n+2], rest[1:2]
	case len(rest) > 1 && rest[0] == '.' && digit(rest[1]):
		m := digits(rest[1:], 3)
		all, decimals = text[:n+1+m], rest[1:1+m]
	}
	return all, whole, below, decimals, true
}

// numeral is the oxidation number in brackets that a text begins with, or "": (VII).
func numeral(text string) string {
	end := strings.IndexByte(text, ')')
	if end < 2 || end > 5 || text[0] != '(' || strings.Trim(text[1:end], "IVX") != "" {
		return ""
	}
	return text[:end+1]
}

// arrows finds the ways to write one, from where and to where; the longest that fits is
// meant.
func arrows(text string) [][2]int {
	var out [][2]int
	for at := 0; at < len(text); {
		if n := arrow(text[at:]); n > 0 {
			out = append(out, [2]int{at, at + n})
			at += n
			continue
		}
		_, size := utf8.DecodeRuneInString(text[at:])
		at += size
	}
	return out
}

// arrow is how long the arrow is that a text begins with.
func arrow(text string) int {
	run := func(text, of string) int { return len(text) - len(strings.TrimLeft(text, of)) }
	back := strings.HasPrefix(text, "<")
	from := len("<")
	if !back {
		from = 0
	}
	shaft := from + run(text[from:], "-=–—")
	switch r, size := utf8.DecodeRuneInString(text); {
	case strings.HasPrefix(text[shaft:], ">"):
		return shaft + len(">")
	case back && run(text[from:], "-=") > 0:
		return from + run(text[from:], "-=")
	case strings.ContainsRune("→⇌⟶⇒⇄↔", r):
		return size
	}
	return run(text, "=")
}

// nameless returns the letters that stand for an acid, a base or a metal without a name,
// or "". These are the ways to write them; anything else with these letters is a slip,
// such as NAOH. Source: common practice, no source.
func nameless(text string) string {
	for _, acid := range []string{"A", "X"} {
		if of, is := acidForm(text, acid); is {
			return acid + of
		}
	}
	switch {
	case baseForm(text):
		return "B" + with(text, "A") + with(text, "X")
	case metalForm(text):
		return "M"
	case radicalForm(text):
		return "R"
	}
	return ""
}

func with(text, letter string) string {
	if strings.Contains(text, letter) {
		return letter
	}
	return ""
}

// acidForm reads cations and an acid, or its ion alone, and returns which of the cations
// have no name either.
func acidForm(text, acid string) (of string, is bool) {
	rest := text
	for n := cation(rest); n > 0; n = cation(rest) {
		switch one := strings.TrimRight(rest[:n], "0123456789"); one {
		case "M":
			of += "M"
		case "BH":
			of += "B"
		}
		rest = rest[n:]
	}
	begins := rest == text // no cation
	rest, is = strings.CutPrefix(rest, acid)
	if begins {
		return of, is && charged(rest, 1, "-")
	}
	rest = rest[digits(rest, 1):]
	return of, is && (rest == "" || charged(rest, 1, "-"))
}

// cation is how long the cation is that a text begins with.
func cation(text string) int {
	for _, c := range []struct {
		symbol       string
		least, digit int
	}{{"H", 0, 1}, {"Na", 0, 1}, {"K", 0, 1}, {"Li", 0, 1}, {"NH4", 0, 0}, {"(NH4)", 1, 1}, {"Ca", 0, 0}, {"Mg", 0, 0},
		{"Ba", 0, 0}, {"BH", 0, 0}, {"M", 0, 1}} {
		if rest, is := strings.CutPrefix(text, c.symbol); is {
			if n := digits(rest, c.digit); n >= c.least {
				return len(c.symbol) + n
			}
		}
	}
	return 0
}

// charged tells whether a text is a charge of this sign, with at most so many digits.
func charged(text string, most int, sign string) bool {
	text = strings.TrimPrefix(strings.TrimPrefix(text, " "), "^")
	return text[digits(text, most):] == sign
}

func baseForm(text string) bool {
	if rest, is := strings.CutPrefix(text, "BH"); is {
		if charged(rest, 1, "+") || rest != "" && rest[0] >= '2' && rest[0] <= '9' && charged(rest[1:], 1, "+") {
			return true
		}
	}
	if rest, is := strings.CutPrefix(text, "B"); is && charged(rest, 0, "+") {
		return true
	}
	return slices.Contains([]string{"B", "BOH", "BCl", "BHCl", "BHBr", "BHI", "BHNO3", "BHHSO4", "BHClO4", "BHA", "BHX",
		"(BH)2SO4", "(BH)2A", "BH2Cl2", "BH2SO4", "BH2A", "BH2X2"}, text)
}

func metalForm(text string) bool {
	rest, is := strings.CutPrefix(text, "M")
	if !is {
		return false
	}
	return metalWith(rest) || metalWith(rest[digits(rest, 1):])
}

func metalWith(rest string) bool {
	return charged(rest, 1, "+") || slices.Contains([]string{"OH", "(OH)2", "Cl", "Cl2", "Br", "Br2", "I", "I2", "NO3", "(NO3)2",
		"CO3", "HCO3", "(HCO3)2", "SO4", "HSO4", "O"}, rest)
}

func radicalForm(text string) bool {
	rest, is := strings.CutPrefix(text, "R")
	if ion, of := strings.CutPrefix(rest, "COO"); is && of && charged(ion, 1, "-") {
		return true
	}
	if ion, of := strings.CutPrefix(rest, "NH3"); is && of && charged(ion, 1, "+") {
		return true
	}
	return is && slices.Contains([]string{"COOH", "COONa", "COOK", "NH2", "NH3Cl"}, rest)
}
