// Package e2e drives the real program: through its API as many benches would
// (this file), and through the real page (the tests).
package e2e

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/cookiejar"
	"strings"
	"time"

	"exactflask/core/record/journal"
)

// Bench is one device that writes in one notebook through the API.
type Bench struct {
	URL      string // of the server
	Device   string
	Notebook string // id
	Class    string // id, for an instructor
	Client   *http.Client
	// Practicals are those on the shelf, in its order.
	Practicals []string
	clock      int64
	trial      string
	sent       int
	held       int // entries of the sheet that was sent last, of which the server sends what differs
}

// SignIn signs a person of the demo in and finds their notebook of the first
// practical on their shelf, beginning it where it is not begun. from is the
// loopback address of this device, or empty.
func SignIn(url, from, username, password, device string) (*Bench, error) {
	jar, err := cookiejar.New(nil)
	if err != nil {
		return nil, err
	}
	transport := http.DefaultTransport.(*http.Transport).Clone()
	if from != "" { // every device has an address of its own, as in a school
		transport.DialContext = (&net.Dialer{LocalAddr: &net.TCPAddr{IP: net.ParseIP(from)}}).DialContext
	}
	b := &Bench{URL: url, Device: device, Client: &http.Client{Jar: jar, Timeout: 20 * time.Second,
		Transport: transport}, clock: 1000}
	if err := b.call("POST", "/api/session", map[string]string{"username": username, "password": password},
		nil); err != nil {
		return nil, fmt.Errorf("signing %s in: %w", username, err)
	}
	var shelf struct {
		Shelves []struct {
			Class, Role string
			Practicals  []struct {
				Practical string
				Notebooks []struct{ ID string }
			}
		}
	}
	if err := b.call("GET", "/api/shelf", nil, &shelf); err != nil {
		return nil, err
	}
	if len(shelf.Shelves) == 0 || len(shelf.Shelves[0].Practicals) == 0 {
		return nil, fmt.Errorf("%s has no practical", username)
	}
	at := shelf.Shelves[0]
	b.Class = at.Class
	for _, p := range at.Practicals {
		b.Practicals = append(b.Practicals, p.Practical)
	}
	if at.Role == "instructor" {
		return b, nil
	}
	return b, b.Begin(b.Practicals[0])
}

// Begin goes on in one's notebook of a practical, beginning it where it is not begun.
func (b *Bench) Begin(practical string) error {
	var notebook struct{ ID string }
	if err := b.call("POST", "/api/classes/"+b.Class+"/practicals/"+practical+"/notebook", nil, &notebook); err != nil {
		return err
	}
	b.Notebook, b.trial, b.held = notebook.ID, "", 0
	return nil
}

// Write records one more reading, opening a trial for every second one, and
// returns the ids that the server acknowledged.
func (b *Bench) Write() ([]string, error) {
	var entries []journal.Entry
	add := func(e journal.Entry) string {
		b.clock++
		b.sent++
		e.Clock, e.Device, e.At = b.clock, b.Device, time.Now().UTC()
		e.ID = fmt.Sprintf("%s-%06d", b.Device, b.sent)
		entries = append(entries, e)
		return e.ID
	}
	mark, text := journal.End, "23.85"
	if b.trial == "" {
		b.trial = add(journal.Entry{Part: journal.Opening{Type: journal.Accurate}})
		mark, text = journal.Start, "0.05"
	}
	add(journal.Entry{Part: journal.Scale{Of: b.trial, Place: mark, Written: text}})
	if mark == journal.End {
		b.trial = ""
	}
	ids := make([]string, len(entries))
	for i, e := range entries {
		ids[i] = e.ID
	}
	var fresh struct{ Sheet struct{ Entries int } }
	err := b.call("POST", "/api/notebooks/"+b.Notebook+"/entries", map[string]any{"entries": entries, "base": b.held}, &fresh)
	if err == nil && fresh.Sheet.Entries > 0 {
		b.held = fresh.Sheet.Entries
	}
	return ids, err
}

// Many records so many trials, a hundred entries at once, and returns how many entries there are.
func (b *Bench) Many(trials int) (written int, err error) {
	var entries []journal.Entry
	add := func(p journal.Part) string {
		b.clock++
		b.sent++
		entries = append(entries, journal.Entry{ID: fmt.Sprintf("%s-%06d", b.Device, b.sent), Clock: b.clock, Device: b.Device, At: time.Now().UTC(), Part: p})
		return entries[len(entries)-1].ID
	}
	for i := range trials {
		trial := add(journal.Opening{Type: journal.Accurate})
		add(journal.Scale{Of: trial, Place: journal.Start, Written: "0.05"})
		add(journal.Scale{Of: trial, Place: journal.End, Written: fmt.Sprintf("23.%02d", i%20*5)})
		if len(entries) >= 99 || i == trials-1 {
			if err := b.call("POST", "/api/notebooks/"+b.Notebook+"/entries", map[string]any{"entries": entries}, nil); err != nil {
				return written, err
			}
			written, entries = written+len(entries), nil
		}
	}
	return written, nil
}

// Entries returns how often each entry of this device is in a notebook.
func (b *Bench) Entries(notebook string) (map[string]int, error) {
	var doc struct{ Journal []journal.Entry }
	if err := b.call("GET", "/api/notebooks/"+notebook+"/document", nil, &doc); err != nil {
		return nil, err
	}
	out := map[string]int{}
	for _, e := range doc.Journal {
		if strings.HasPrefix(e.ID, b.Device+"-") {
			out[e.ID]++
		}
	}
	return out, nil
}

// Look reads the shelf, as the board of a class does.
func (b *Bench) Look() error { return b.call("GET", "/api/shelf", nil, nil) }

// Watch keeps the board of the bench's class open until the context is done; heard is
// told of each notebook whose row changed.
func (b *Bench) Watch(ctx context.Context, practical string, heard func(notebook string)) error {
	req, err := http.NewRequestWithContext(ctx, "GET", b.URL+"/api/classes/"+b.Class+"/practicals/"+practical+"/board/events", nil)
	if err != nil {
		return err
	}
	patient := *b.Client
	patient.Timeout = 0
	res, err := patient.Do(req)
	if err != nil {
		return err
	}
	defer res.Body.Close()
	if res.StatusCode != http.StatusOK {
		return fmt.Errorf("a board was answered with %s", res.Status)
	}
	lines := bufio.NewScanner(res.Body)
	lines.Buffer(nil, 4<<20)
	for lines.Scan() {
		data, ok := strings.CutPrefix(lines.Text(), "data: ")
		if !ok {
			continue
		}
		var news struct {
			Rows []struct{ Notebook string }
		}
		if err := json.Unmarshal([]byte(data), &news); err != nil {
			return err
		}
		for _, r := range news.Rows {
			heard(r.Notebook)
		}
	}
	if ctx.Err() == nil {
		return errors.New("a board ended before its time")
	}
	return nil
}

// Listen keeps the event stream of a notebook open until the context is done,
// and returns how many messages came.
func (b *Bench) Listen(ctx context.Context, notebook string) (messages int, err error) {
	req, err := http.NewRequestWithContext(ctx, "GET", b.URL+"/api/notebooks/"+notebook+"/events", nil)
	if err != nil {
		return 0, err
	}
	patient := *b.Client
	patient.Timeout = 0
	res, err := patient.Do(req)
	if ctx.Err() != nil {
		return 0, nil // it went on before it was answered
	}
	if err != nil {
		return 0, err
	}
	defer res.Body.Close()
	if res.StatusCode != http.StatusOK {
		return 0, fmt.Errorf("a stream was answered with %s", res.Status)
	}
	for lines := bufio.NewScanner(res.Body); lines.Scan(); {
		if strings.HasPrefix(lines.Text(), "event: change") {
			messages++
		}
	}
	if ctx.Err() == nil {
		return messages, errors.New("a stream ended before its time")
	}
	return messages, nil
}

func (b *Bench) call(method, path string, body, into any) error {
	var in io.Reader
	if body != nil {
		text, err := json.Marshal(body)
		if err != nil {
			return err
		}
		in = bytes.NewReader(text)
	}
	req, err := http.NewRequestWithContext(context.Background(), method, b.URL+path, in)
	if err != nil {
		return err
	}
	req.Header.Set("Content-Type", "application/json")
	res, err := b.Client.Do(req)
	if err != nil {
		return err
	}
	defer res.Body.Close()
	text, err := io.ReadAll(res.Body)
	if err != nil {
		return err
	}
	if res.StatusCode >= 300 {
		return fmt.Errorf("%s %s: %s: %s", method, path, res.Status, text)
	}
	if into == nil {
		return nil
	}
	return json.Unmarshal(text, into)
}
