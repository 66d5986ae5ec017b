package working

import dv "exactflask/core/model/derivation"

// Given is something that a working is made from, as it is used: a leaf of its derivation, or
// the readings of a difference together, the later one of each pair first.
type Given struct {
	Sample   string  // of several; empty where all of them have it
	Node     dv.Node // the leaf, or the difference of the readings
	Readings []dv.Node
}

// GivenIn are those of a derivation, in its order: every leaf stands in one of them.
func GivenIn(d dv.Derivation) []Given {
	within := map[int]bool{} // stands with the difference that it is of
	for _, n := range d.Nodes {
		if byReadings(d, n) {
			for _, in := range n.Inputs {
				within[in] = true
			}
		}
	}
	var out []Given
	for i, n := range d.Nodes {
		switch {
		case byReadings(d, n):
			g := Given{Node: n}
			for _, in := range n.Inputs {
				g.Readings = append(g.Readings, d.Nodes[in])
			}
			out = append(out, g)
		case n.Leaf() && !within[i]:
			out = append(out, Given{Node: n})
		}
	}
	return out
}

// byReadings tells whether a node is the difference of readings and of nothing else.
func byReadings(d dv.Derivation, n dv.Node) bool {
	if n.Operation != dv.Difference {
		return false
	}
	for _, in := range n.Inputs {
		if d.Nodes[in].Operation != dv.Read {
			return false
		}
	}
	return true
}
