package chem

import (
	"sort"
	"strconv"
	"strings"
	"sync"
	"unicode/utf8"

	"exactflask/core/finding"
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
	p := &parser{text: text, runes: []rune(strings.TrimSpace(normalise(text)))}
	if len(p.runes) > maxFormulaLength || !utf8.ValidString(text) {
		return Formula{}, p.fail(0, tooLong.Message(finding.Count(maxFormulaLength)))
	}
	if len(p.runes) == 0 {
		return Formula{}, p.fail(0, missing.Message())
	}
	return p.formula()
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
	at    int
	out   Formula
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
	total := map[string]int{}
	if p.peek(0) == 'e' && (p.peek(1) == '-' || p.peek(1) == '^' || p.peek(1) == '⁻') {
		p.at++
		p.emit(plain, "e")
	} else {
		for part := 0; ; part++ {
			times := 1
			if part > 0 {
				if n, ok, err := p.number(); err != nil {
					return Formula{}, err
				} else if ok {
					times = n
					p.emit(factor, strconv.Itoa(n))
				}
			}
			atoms, err := p.groups(0)
			if err != nil {
				return Formula{}, err
			}
			if len(atoms) == 0 {
				return Formula{}, p.fail(p.at, p.unexpected())
			}
			if err := p.addTo(total, atoms, times); err != nil {
				return Formula{}, err
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
	for symbol, n := range total {
		p.out.atoms = append(p.out.atoms, Count{symbol, n})
	}
	sort.Slice(p.out.atoms, func(i, j int) bool { return p.out.atoms[i].Element < p.out.atoms[j].Element })
	return p.out, nil
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
		case r == '(' || r == '[':
			if depth == maxDepth {
				return nil, p.fail(p.at, tooDeep.Message(finding.Count(maxDepth)))
			}
			p.at++
			p.emit(plain, string(r))
			inner, err := p.groups(depth + 1)
			if err != nil {
				return nil, err
			}
			closing := map[rune]rune{'(': ')', '[': ']'}[r]
			switch {
			case p.peek(0) == 0:
				return nil, p.fail(start, notClosed.Message(finding.Text(string(r))))
			case p.peek(0) != closing:
				return nil, p.fail(p.at, expectedHere.Message(finding.Text(string(closing))))
			case len(inner) == 0:
				return nil, p.fail(p.at, emptyBrackets.Message())
			}
			p.at++
			p.emit(plain, string(closing))
			part = inner
		case r >= 'A' && r <= 'Z':
			symbol := string(r)
			if next := p.peek(1); next >= 'a' && next <= 'z' {
				if _, ok := ElementOf(symbol + string(next)); ok {
					symbol += string(next)
				} else {
					return nil, p.fail(p.at, noElement.Message(finding.Text(symbol+string(next))))
				}
			} else if _, ok := ElementOf(symbol); !ok {
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

// chargeAhead reports whether digits that follow directly are those of a
// charge: behind a square bracket, or "Fe3+", a lone element with a plus.
func (p *parser) chargeAhead(depth int, first bool, start int) bool {
	n := 0
	for p.peek(n) >= '0' && p.peek(n) <= '9' {
		n++
	}
	sign := p.peek(n)
	if depth > 0 || n != 1 || (sign != '+' && sign != '-') || !p.endsAfter(n+1) {
		return false
	}
	if p.runes[p.at-1] == ']' {
		return true
	}
	return first && start == 0 && sign == '+'
}

// endsAfter reports whether only a state may follow the n runes ahead.
func (p *parser) endsAfter(n int) bool {
	r := p.peek(n)
	return r == 0 || r == ' ' || r == '('
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
	if n == 0 {
		return 0, false, p.fail(start, zeroAtoms.Message())
	}
	return n, true, nil
}

// stateLength returns the length of a state such as "(aq)" at the cursor.
func (p *parser) stateLength() int {
	for _, s := range []string{"(s)", "(l)", "(g)", "(aq)"} {
		if strings.HasPrefix(string(p.runes[p.at:min(len(p.runes), p.at+4)]), s) {
			return len(s)
		}
	}
	return 0
}

func (p *parser) chargeAndState() error {
	for p.peek(0) == ' ' {
		p.at++
	}
	start := p.at
	raised := p.peek(0) == '^'
	if raised {
		p.at++
	}
	var digits, sign string
	for {
		r := p.peek(0)
		for i := range superscripts {
			if r == superscripts[i] {
				r = rune('0' + i)
			}
		}
		switch {
		case r >= '0' && r <= '9':
			digits += string(r)
		case r == '⁺' || r == '+':
			sign += "+"
		case r == '⁻' || r == '-':
			sign += "-"
		default:
			r = 0
		}
		if r == 0 {
			break
		}
		p.at++
	}
	if digits != "" || sign != "" || raised {
		size := 1
		if digits != "" {
			size, _ = strconv.Atoi(digits)
		}
		if len(sign) != 1 || size == 0 || size > 9 {
			return p.fail(start, chargeForm.Message())
		}
		if !raised && digits == "" && start > 0 {
			if err := p.unclearCharge(start, sign); err != nil {
				return err
			}
		}
		p.out.charge = size
		if sign == "-" {
			p.out.charge = -size
		}
		if digits == "1" {
			digits = ""
		}
		p.emit(superscript, digits+sign)
	}
	for p.peek(0) == ' ' {
		p.at++
	}
	if n := p.stateLength(); n > 0 {
		p.out.state = string(p.runes[p.at+1 : p.at+n-1])
		p.at += n
	}
	if p.at < len(p.runes) {
		return p.fail(p.at, p.unexpected())
	}
	return nil
}

// unclearCharge refuses texts whose digits may belong to the subscript or to
// the charge: "SO42-" and "I3-".
func (p *parser) unclearCharge(at int, sign string) error {
	last := p.out.tokens[len(p.out.tokens)-1]
	if last.kind != subscript || p.runes[at-1] < '0' || p.runes[at-1] > '9' {
		return nil
	}
	written := string(p.runes[:at-len(last.text)])
	if n := len(last.text); n > 1 {
		return p.fail(at-n, chargeApart.Message(finding.Text(written+last.text[:n-1]+"^"+last.text[n-1:]+sign)))
	}
	if len(p.out.tokens) == 2 && sign == "-" {
		return p.fail(at-1, chargeUnclear.Message(finding.Text(written+last.text+"^"+sign), finding.Text(written+"^"+last.text+sign)))
	}
	return nil
}
