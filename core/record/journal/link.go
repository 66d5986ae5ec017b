package journal

import "time"

// Link says when an entry came in, and binds it to every entry that came in
// before it: changing, moving or removing one of them makes its hash, and every
// later one, another.
type Link struct {
	Entry    string    `json:"entry" maxLength:"64" doc:"id of the entry"`
	Received time.Time `json:"received" doc:"when the server took it, by the server's clock"`
	Hash     string    `json:"hash" pattern:"^[0-9a-f]{64}$" doc:"SHA-256, in hexadecimal, of three lines, each ended by a line feed: the hash of the entry before (an empty line for the first), received, and the entry as JSON without white space, its names sorted"`
}

// How far the time that a device wrote may lie from the time received before it
// is said: a bench without network sends late, but no entry is sent before it is
// made (common practice, no source).
const (
	MostEarly = time.Hour       // dated before it came in
	MostLate  = 2 * time.Minute // dated after it came in
)

// Far tells whether the device's time is far from the time received, and by how
// much: positive where the entry is dated before it came in.
func (l Link) Far(at time.Time) (time.Duration, bool) {
	by := l.Received.Sub(at)
	return by, by > MostEarly || by < -MostLate
}

// CountFar is how many entries are far from when they came in.
func CountFar(chain []Link, entries []Entry) (n int) {
	at := make(map[string]time.Time, len(entries))
	for _, e := range entries {
		at[e.ID] = e.At
	}
	for _, l := range chain {
		if _, far := l.Far(at[l.Entry]); far {
			n++
		}
	}
	return n
}
