package chem

import (
	"slices"
	"sort"
	"strconv"
	"strings"
	"sync"
	"unicode/utf8"

	"exactflask/core/values/finding"
)

// ParseFormula reads a formula: element symbols, numbers (also as Unicode
// subscripts), nested groups in ( ) and [ ], hydrates joined by "·", "." or
// "*", a charge and a state.
//
// A charge is written with a caret or a blank ("SO4^2-", "SO4 2-"), in Unicode
// superscripts, behind a square bracket ("[Fe(CN)6]4-"), or as a lone sign
// ("MnO4-", "NH4+"). "Fe3+" is read as Fe^3+, since no such cation is a
// cluster of three; "I3-" may be either and is refused with both readings.
// The electron is "e-". Errors are *SyntaxError.
func ParseFormula(text string) (Formula, error) {
	if f, ok := parsed.get(text); ok {
		return f, nil
	}
	f, err := parseFormula(text)
	if err == nil {
		parsed.put(text, f)
	}
	return f, err
}

// parsed remembers formulas: the same few are read again at every evaluation.
// A Formula is never changed once it is made.
var parsed memory

type memory struct {
	mu sync.RWMutex
	m  map[string]Formula
}

// maxParsed is how many are remembered before it begins anew.
const maxParsed = 2000

func (c *memory) get(text string) (Formula, bool) {
	c.mu.RLock()
	defer c.mu.RUnlock()
	f, ok := c.m[text]
	return f, ok
}

func (c *memory) put(text string, f Formula) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.m == nil || len(c.m) >= maxParsed {
		c.m = map[string]Formula{}
	}
	c.m[text] = f
}

func parseFormula(text string) (Formula, error) {
	written := strings.TrimSpace(text)
	p := &parser{text: text, written: []rune(written), runes: []rune(normalise(written))}
	if len(p.runes) > maxFormulaLength || !utf8.ValidString(text) {
		return Formula{}, p.fail(0, tooLong.Message(finding.Count(maxFormulaLength)))
	}
	if len(p.runes) == 0 {
		return Formula{}, p.fail(0, missing.Message())
	}
	return p.whole()
}

// normalise brings other ways of writing to the one the parser reads, keeping
// the number of characters so that positions stay true.
func normalise(text string) string {
	return strings.Map(func(r rune) rune {
		for i := range subscripts {
			if r == subscripts[i] {
				return rune('0' + i)
			}
		}
		switch r {
		case '−', '–':
			return '-'
		case '*', '•', '∙', '⋅':
			return '·'
		case '\u00a0', '\u202f', '\t':
			return ' '
		}
		return r
	}, text)
}

type parser struct {
	text  string
	runes []rune
	// written is what runes were made of: it tells a subscript from a number.
	written []rune
	at      int
	out     Formula
	// letters stand for things without a name: the acid's first, where there is one.
	letters string
}

func (p *parser) fail(at int, problem finding.Message) error {
	text := p.text
	if r := []rune(text); len(r) > 80 {
		text = string(r[:80]) + "…"
	}
	return &SyntaxError{Text: text, Position: at + 1, Problem: problem}
}

// peek returns the rune at offset n from the current one, 0 past the end.
func (p *parser) peek(n int) rune {
	if p.at+n < len(p.runes) {
		return p.runes[p.at+n]
	}
	return 0
}

func (p *parser) emit(kind tokenKind, text string) {
	p.out.tokens = append(p.out.tokens, token{kind, text})
}

func (p *parser) formula() (Formula, error) {
	total := map[string]ratio{}
	if p.peek(0) == 'e' && (p.peek(1) == '-' || p.peek(1) == '^' || p.peek(1) == '⁻') {
		p.at++
		p.emit(plain, "e")
	} else {
		for part := 0; ; part++ {
			times := ratio{1, 1}
			if part > 0 {
				if n, written, err := p.times(); err != nil {
					return Formula{}, err
				} else if written != "" {
					times = n
					p.emit(factor, written)
				}
			}
			atoms, err := p.groups(0)
			if err != nil {
				return Formula{}, err
			}
			if len(atoms) == 0 {
				return Formula{}, p.fail(p.at, p.unexpected())
			}
			for symbol, n := range atoms {
				sum := total[symbol].plus(ratio{n * times.n, times.d})
				if total[symbol] = sum; sum.n > maxCount {
					return Formula{}, p.fail(p.at-1, tooManyAtoms.Message(finding.Count(maxCount), finding.Text(symbol)))
				}
			}
			if p.peek(0) != '·' && p.peek(0) != '.' {
				break
			}
			p.at++
			p.emit(dot, "·")
		}
	}
	if err := p.chargeAndState(); err != nil {
		return Formula{}, err
	}
	if len(total) == 0 && p.out.charge != -1 { // an electron has one charge
		return Formula{}, p.fail(1, chargeForm.Message())
	}
	for symbol, n := range total {
		c := Count{Element: symbol, N: n.n}
		if n.d > 1 {
			c.Per = n.d
		}
		p.out.atoms = append(p.out.atoms, c)
	}
	if p.letters != "" {
		p.out.stands = p.letters[:1]
	}
	sort.Slice(p.out.atoms, func(i, j int) bool { return p.out.atoms[i].Element < p.out.atoms[j].Element })
	return p.out, nil
}

// ratio is a number of atoms for one formula unit, in lowest terms.
type ratio struct{ n, d int }

func (r ratio) plus(s ratio) ratio {
	if r.d == 0 {
		r.d = 1
	}
	n, d := r.n*s.d+s.n*r.d, r.d*s.d
	g := gcd(n, d)
	return ratio{n / g, d / g}
}

// fractionSigns are the fractions that have a sign of their own.
const fractionSigns = "½¼¾⅓⅔"

var fractions = strings.NewReplacer("½", "1/2", "¼", "1/4", "¾", "3/4", "⅓", "1/3", "⅔", "2/3")

// ratioOf is a portion as a ratio in its smallest numbers.
func ratioOf(whole, below, decimals string) ratio {
	n := ratio{d: 1}
	n.n, _ = strconv.Atoi(whole)
	switch {
	case below != "":
		n.d, _ = strconv.Atoi(below)
	case decimals != "":
		for _, digit := range decimals {
			n.n, n.d = n.n*10+int(digit-'0'), n.d*10
		}
	}
	g := gcd(n.n, n.d)
	return ratio{n.n / max(g, 1), n.d / max(g, 1)}
}

// times reads how often the part behind a dot is there, whole or not: 5, 0.5,
// 1/2; it is 1 where nothing is written.
func (p *parser) times() (n ratio, written string, err error) {
	text := string(p.runes[p.at:])
	if r := p.peek(0); strings.ContainsRune(fractionSigns, r) {
		text = fractions.Replace(string(r))
		p.runes = slices.Concat(p.runes[:p.at], []rune(text), p.runes[p.at+1:])
		p.written = slices.Concat(p.written[:p.at], []rune(text), p.written[p.at+1:])
	}
	all, whole, below, decimals, is := portion(text)
	if !is {
		return ratio{1, 1}, "", nil
	}
	n = ratioOf(whole, below, decimals)
	switch {
	case n.n > maxCount:
		return n, "", p.fail(p.at, numberTooLarge.Message(finding.Count(maxCount)))
	case n.n == 0:
		return n, "", p.fail(p.at, zeroAtoms.Message())
	}
	p.at += len(all)
	return n, all, nil
}

func (p *parser) addTo(total, part map[string]int, times int) error {
	for symbol, n := range part {
		if total[symbol] += n * times; total[symbol] > maxCount {
			return p.fail(p.at-1, tooManyAtoms.Message(finding.Count(maxCount), finding.Text(symbol)))
		}
	}
	return nil
}

func (p *parser) unexpected() finding.Message {
	switch r := p.peek(0); {
	case r == 0:
		return stopsHere.Message()
	case r >= '0' && r <= '9':
		return beginsWithNumber.Message()
	case r == ')' || r == ']':
		return closesNothing.Message(finding.Text(string(r)))
	default:
		return noSymbol.Message(finding.Text(string(r)))
	}
}

// groups reads elements and bracketed groups up to whatever is neither.
func (p *parser) groups(depth int) (map[string]int, error) {
	atoms := map[string]int{}
	for {
		start := p.at
		part := map[string]int{}
		switch r := p.peek(0); {
		case r == '(' && p.stateLength() > 0:
			return atoms, nil
		case r == '(' && string(p.runes[p.at:]) == "(S)" && len(atoms) > 0:
			return nil, p.fail(p.at, twoReadings.Message(finding.Text(string(p.runes[:p.at])+"(s)"),
				finding.Text(string(p.runes[:p.at])+"S")))
		case r == '(' && p.at > 0 && numeral(string(p.runes[p.at:])) != "":
			return nil, p.oxidation(numeral(string(p.runes[p.at:])))
		case r == '(' || r == '[':
			inner, err := p.bracketed(r, depth)
			if err != nil {
				return nil, err
			}
			part = inner
		case r != 0 && strings.ContainsRune(p.letters, r) && (r != 'M' && r != 'B' && r != 'R' || p.at == 0 || p.runes[p.at-1] == '('):
			p.at++
			p.emit(plain, string(r))
			part[map[bool]string{true: "base", false: string(r)}[r == 'B']] = 1
		case r >= 'A' && r <= 'Z':
			symbol := string(r)
			if next := p.peek(1); next >= 'a' && next <= 'z' {
				symbol += string(next)
			}
			if _, ok := ElementOf(symbol); !ok {
				return nil, p.fail(p.at, noElement.Message(finding.Text(symbol)))
			}
			p.at += len(symbol)
			p.emit(plain, symbol)
			part[symbol] = 1
		default:
			return atoms, nil
		}
		if p.chargeAhead(depth, len(atoms) == 0, start) {
			return atoms, p.addTo(atoms, part, 1)
		}
		times, ok, err := p.number()
		if err != nil {
			return nil, err
		}
		if ok {
			p.emit(subscript, strconv.Itoa(times))
		} else {
			times = 1
		}
		if err := p.addTo(atoms, part, times); err != nil {
			return nil, err
		}
	}
}

// bracketed reads what stands in brackets that open with open, and the closing one.
func (p *parser) bracketed(open rune, depth int) (map[string]int, error) {
	if depth == maxDepth {
		return nil, p.fail(p.at, tooDeep.Message(finding.Count(maxDepth)))
	}
	start := p.at
	p.at++
	p.emit(plain, string(open))
	inner, err := p.groups(depth + 1)
	if err != nil {
		return nil, err
	}
	closing := map[rune]rune{'(': ')', '[': ']'}[open]
	switch {
	case p.peek(0) == 0:
		return nil, p.fail(start, notClosed.Message(finding.Text(string(open))))
	case p.peek(0) != closing:
		return nil, p.fail(p.at, expectedHere.Message(finding.Text(string(closing))))
	case len(inner) == 0:
		return nil, p.fail(p.at, emptyBrackets.Message())
	}
	p.at++
	p.emit(plain, string(closing))
	return inner, nil
}

// oxidation refuses an oxidation number: behind a lone element it is offered as
// the ion, in a formula it is left out.
func (p *parser) oxidation(written string) error {
	before, after := string(p.runes[:p.at]), string(p.runes[p.at+len(written):])
	without := before + after
	if _, ok := ElementOf(before); ok && after == "" {
		if n := slices.Index([]string{"(I)", "(II)", "(III)", "(IV)", "(V)", "(VI)", "(VII)"}, written) + 1; n > 1 {
			without = before + "^" + strconv.Itoa(n) + "+"
		} else if n == 1 {
			without = before + "^+"
		}
	}
	return p.fail(p.at, oxidationNumber.Message(finding.Text(written), finding.Text(without)))
}

func (p *parser) number() (n int, ok bool, err error) {
	start := p.at
	for p.peek(0) >= '0' && p.peek(0) <= '9' {
		if n = n*10 + int(p.peek(0)-'0'); n > maxCount {
			return 0, false, p.fail(start, numberTooLarge.Message(finding.Count(maxCount)))
		}
		p.at++
	}
	if p.at == start {
		return 0, false, nil
	}
	switch {
	case n == 0:
		return 0, false, p.fail(start, zeroAtoms.Message())
	case p.runes[start] == '0':
		return 0, false, p.fail(start, zeroFirst.Message())
	}
	return n, true, nil
}
