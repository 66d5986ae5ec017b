package files

import "cmp"

// struck is the style of what was withdrawn: a line through it.
var struck = map[bool]string{true: "S"}

func (p *page) notes() {
	r := p.r
	if len(r.Notes)+len(r.Corrections)+len(r.Findings)+len(r.Observed) == 0 {
		return
	}
	p.heading("notes")
	for _, l := range r.Observed {
		line := l.Text
		if l.What != "" {
			line = l.What + ": " + line
		}
		p.say(struck[l.Withdrawn], small, "• "+line)
	}
	for _, n := range r.Notes {
		p.say(struck[n.Struck], small, "• "+n.Text)
	}
	for _, c := range r.Corrections {
		place := c.Place
		if c.Trial != "" {
			place = c.Trial + ", " + c.Place
		}
		p.say("", small, "• "+p.w.Text("file.struck", "place", place, "text", c.Text, "reason", cmp.Or(c.Reason, p.w.Text("file.again")), "by", c.By, "at", day(c.At)))
	}
	for _, f := range r.Findings {
		line := f.Text
		if f.Place != "" {
			line = f.Place + ": " + line
		}
		p.say("", small, "• "+line)
	}
}
