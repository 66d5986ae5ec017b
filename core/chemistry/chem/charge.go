package chem

import (
	"slices"
	"strconv"
	"strings"

	"exactflask/core/values/finding"
)

// chargeAhead reports whether digits that follow directly are those of a
// charge: behind a square bracket, or "Fe3+", a lone element with a plus.
func (p *parser) chargeAhead(depth int, first bool, start int) bool {
	n := 0
	for p.peek(n) >= '0' && p.peek(n) <= '9' {
		n++
	}
	sign := p.peek(n)
	if depth > 0 || n != 1 || p.written[p.at] > '9' || (sign != '+' && sign != '-') || !p.endsAfter(n+1) {
		return false
	}
	if p.runes[p.at-1] == ']' {
		return true
	}
	// H2+ and O2+ may be molecules with a charge: those are asked about.
	return first && start == 0 && sign == '+' && !slices.Contains(nonmetals, string(p.runes[:p.at]))
}

var nonmetals = strings.Fields("H He B C N O F Ne Si P S Cl Ar As Se Br Kr Te I Xe")

// endsAfter reports whether only a state may follow the n runes ahead.
func (p *parser) endsAfter(n int) bool {
	r := p.peek(n)
	return r == 0 || r == ' ' || r == '('
}

// stateLength returns the length of a state such as "(aq)" at the cursor.
func (p *parser) stateLength() int {
	ahead := string(p.runes[p.at:min(len(p.runes), p.at+4)])
	for _, s := range []string{"(s)", "(l)", "(g)", "(aq)", "(L)", "(G)", "(AQ)", "(Aq)"} {
		if strings.HasPrefix(ahead, s) {
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
	if digits, sign := p.chargeSigns(); digits != "" || sign != "" || raised {
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
		p.out.state = strings.ToLower(string(p.runes[p.at+1 : p.at+n-1]))
		p.at += n
	}
	if p.at < len(p.runes) {
		return p.fail(p.at, p.unexpected())
	}
	return nil
}

// chargeSigns reads the digits and signs of a charge, raised or not, and goes past them.
func (p *parser) chargeSigns() (digits, sign string) {
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
			return digits, sign
		}
		p.at++
	}
}

// unclearCharge refuses texts whose digits may belong to the subscript or to
// the charge: "SO42-" and "I3-".
func (p *parser) unclearCharge(at int, sign string) error {
	last := p.out.tokens[len(p.out.tokens)-1]
	if last.kind != subscript || p.written[at-1] < '0' || p.written[at-1] > '9' {
		return nil
	}
	written := string(p.runes[:at-len(last.text)])
	if n := len(last.text); n > 1 {
		return p.fail(at-n, chargeApart.Message(finding.Text(written+last.text[:n-1]+"^"+last.text[n-1:]+sign)))
	}
	if len(p.out.tokens) == 2 && (sign == "-" || slices.Contains(nonmetals, p.out.tokens[0].text)) {
		return p.fail(at-1, chargeUnclear.Message(finding.Text(written+last.text+"^"+sign),
			finding.Text(written+"^"+last.text+sign)))
	}
	return nil
}
