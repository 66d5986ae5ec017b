package journal

import (
	"cmp"
	"encoding/json"
	"reflect"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"exactflask/core/values/finding"
	"exactflask/core/values/plaintext"
)

// Kind says what an entry records. It is the name of its part in a file, too.
type Kind string

// Part is what an entry says. It is a value: no method changes it.
type Part interface {
	// Kind is the same for every value of a type.
	Kind() Kind
	// Check returns the fault that keeps it out of a notebook: a text that is
	// no number, or too long. Whether it is plausible is not looked at here.
	Check() *finding.Fault
	// Trial is the id of the trial that it belongs to; empty for the whole.
	Trial() string
	// Text is what a correction replaces; empty where nothing can be.
	Text() string
	// With returns the part with this text in the place of Text, or why it
	// cannot be.
	With(text string) (Part, *finding.Fault)
	// Said is what a line of the journal page says, beside the name of the trial.
	Said() finding.Message
	// fold puts it, as it stands now, into what the notebook adds up to.
	fold(c *folding, l *Line)
}

// kind is what the registry knows of a kind of part.
type kind struct {
	name  Kind
	field string // in a file
	shape reflect.Type
	doc   string
}

// kinds are all kinds of part, in the order of the file's schema.
var kinds = []kind{
	of[Opening]("a trial is opened; its id is the entry's"),
	of[Belonging]("a trial is of one of several samples"),
	of[Scale]("a scale is read"),
	of[Exclusion]("a trial is left out of the judgement, with the reason"),
	of[Remark]("something worth remembering"),
	of[Checked]("an item of the set-up or clean-up list was done"),
	of[Observation]("something was seen"),
	of[Weighing]("a mass by difference"),
	of[Calibration]("what the probe showed in a buffer"),
	of[ProbePoint]("the burette is read with what the probe shows"),
	of[Prepared]("one's own solution was made by diluting a stock"),
	of[OwnValue]("a value was measured that the practical gives as nominal"),
	of[OwnGlass]("a piece of glassware is used in the place of the practical's"),
	of[Timer]("a waiting time was kept"),
	of[Known]("the concentration of the solution that is known, as it was found by standardising"),
	of[Answer]("the student's own value for a step of the working"),
	of[Passage]("a passage of the report was written"),
	of[Picture]("a picture was put into the report"),
	of[Correction]("an earlier entry is corrected; what it said stays readable"),
}

func of[P Part](doc string) kind {
	var p P
	return kind{p.Kind(), camel(string(p.Kind())), reflect.TypeFor[P](), doc}
}

// camel writes set-aside as setAside.
func camel(kebab string) string {
	parts := strings.Split(kebab, "-")
	for i := 1; i < len(parts); i++ {
		parts[i] = strings.ToUpper(parts[i][:1]) + parts[i][1:]
	}
	return strings.Join(parts, "")
}

// Entry is one line of the notebook.
type Entry struct {
	ID     string    // made by the device that recorded it (UUIDv7)
	Author string    // id of the person who recorded it
	Device string    // id of the device that recorded it
	Clock  int64     // logical: one more than the highest the device had seen
	At     time.Time // wall time of the device; shown, never used for order
	Part   Part      // nil only where a file did not say it rightly; Check tells

	said  Kind // the kind that was written, where that is not the part's
	parts int  // how many were written, where that is not one
}

// Kind is the kind of the entry's part; empty where it has none.
func (e Entry) Kind() Kind {
	if e.Part == nil {
		return ""
	}
	return e.Part.Kind()
}

// envelope are the fields of an entry before its part, as in a file.
type envelope struct {
	ID     string    `json:"id" minLength:"8" maxLength:"64" pattern:"^[A-Za-z0-9_-]+$" doc:"made by the device that recorded it (UUIDv7)"`
	Author string    `json:"author,omitempty" maxLength:"64" doc:"id of the person who recorded it"`
	Device string    `json:"device" minLength:"1" maxLength:"64" doc:"id of the device that recorded it"`
	Clock  int64     `json:"clock" minimum:"1" doc:"logical clock: one more than the highest the device had seen"`
	At     time.Time `json:"at" doc:"wall time of the device; shown, never used for order"`
	Kind   Kind      `json:"kind" doc:"which of the parts is filled"`
}

// shape is an entry as it stands in a file: the envelope, and a field for each
// kind of part, of which the one named by kind is filled.
var shape = func() reflect.Type {
	e := reflect.TypeFor[envelope]()
	var fields []reflect.StructField
	for i := range e.NumField() {
		f := e.Field(i)
		if f.Name == "Kind" {
			names := make([]string, len(kinds))
			for j, k := range kinds {
				names[j] = string(k.name)
			}
			f.Type = reflect.TypeFor[string]()
			f.Tag += reflect.StructTag(` enum:"` + strings.Join(names, ",") + `"`)
		}
		fields = append(fields, reflect.StructField{Name: f.Name, Type: f.Type, Tag: f.Tag})
	}
	for _, k := range kinds {
		fields = append(fields, reflect.StructField{Name: strings.ToUpper(k.field[:1]) + k.field[1:],
			Type: reflect.PointerTo(k.shape),
			Tag:  reflect.StructTag(`json:"` + k.field + `,omitempty" doc:"` + k.doc + `"`)})
	}
	return reflect.StructOf(fields)
}()

// Shape is the type of an entry as it stands in a file, for a schema.
func Shape() reflect.Type { return shape }

const firstPart = 6 // fields of the envelope before it

// MarshalJSON writes the entry as it stands in a file.
func (e Entry) MarshalJSON() ([]byte, error) {
	v := reflect.New(shape).Elem()
	v.Field(0).SetString(e.ID)
	v.Field(1).SetString(e.Author)
	v.Field(2).SetString(e.Device)
	v.Field(3).SetInt(e.Clock)
	v.Field(4).Set(reflect.ValueOf(e.At))
	v.Field(5).SetString(string(cmp.Or(e.Kind(), e.said)))
	if e.Part != nil {
		for i, k := range kinds {
			if k.name == e.Part.Kind() {
				p := reflect.New(k.shape)
				p.Elem().Set(reflect.ValueOf(e.Part))
				v.Field(firstPart + i).Set(p)
			}
		}
	}
	return json.Marshal(v.Interface())
}

// UnmarshalJSON reads an entry as it stands in a file. That its part is missing
// or does not fit its kind is told by Check.
func (e *Entry) UnmarshalJSON(text []byte) error {
	v := reflect.New(shape)
	if err := json.Unmarshal(text, v.Interface()); err != nil {
		return err
	}
	s := v.Elem()
	*e = Entry{ID: s.Field(0).String(), Author: s.Field(1).String(), Device: s.Field(2).String(),
		Clock: s.Field(3).Int(), At: s.Field(4).Interface().(time.Time)}
	said, parts := Kind(s.Field(5).String()), 0
	for i, k := range kinds {
		if p := s.Field(firstPart + i); !p.IsNil() {
			parts++
			if k.name == said {
				e.Part = p.Elem().Interface().(Part)
			}
		}
	}
	if e.Part == nil || parts != 1 {
		e.said, e.parts = said, parts
	}
	return nil
}

// What can be wrong with an entry.
var (
	clockFault   = finding.Declare("entry.clock", "clock")
	kindFault    = finding.Declare("entry.kind", "kind")
	partMissing  = finding.Declare("entry.part-missing", "kind")
	partTooMany  = finding.Declare("entry.part-too-many", "kind")
	idLength     = finding.Declare("entry.id-length", "length")
	idSign       = finding.Declare("entry.id-sign", "sign")
	notUTF8      = finding.Declare("text.not-utf8")
	textEmpty    = finding.Declare("text.empty")
	textTooLong  = finding.Declare("text.too-long", "length", "most")
	valueFault   = finding.Declare("entry.value", "value")
	trialMissing = finding.Declare("entry.trial-missing")
)

// Check returns the fault that keeps an entry out of a notebook. It is asked
// once, on the way in.
func (e Entry) Check() *finding.Fault {
	if f := checkID("id", e.ID); f != nil {
		return f
	}
	if f := checkText("device", e.Device, 1, 64); f != nil {
		return f
	}
	if f := checkText("author", e.Author, 0, 64); f != nil {
		return f
	}
	if e.Clock < 1 || e.Clock > 1<<53 {
		return clockFault.Fault("clock", finding.Text(finding.Count(int(e.Clock)).String()))
	}
	switch known := slices.ContainsFunc(kinds, func(k kind) bool { return k.name == e.said }); {
	case e.Part == nil && !known:
		return kindFault.Fault("kind", finding.Text(string(e.said)))
	case e.Part == nil:
		return partMissing.Fault("kind", finding.Text(string(e.said)))
	case e.parts > 1:
		return partTooMany.Fault("kind", finding.Text(string(e.said)))
	}
	if f := e.Part.Check(); f != nil {
		return f.In(camel(string(e.Kind())))
	}
	return nil
}

// checkAgainst returns the fault of an entry that is well formed but cannot
// belong to this notebook: it names a trial or an entry that is not there.
func (e Entry) checkAgainst(l *Ledger) *finding.Fault {
	if c, ok := e.Part.(Correction); ok {
		return c.checkAgainst(l)
	}
	id := e.Part.Trial()
	if id == "" || e.Kind() == trialKind {
		return nil
	}
	if trial, _ := l.part(id); trial == nil || trial.Kind() != trialKind {
		return trialMissing.Fault(camel(string(e.Kind())) + ".trial")
	}
	return nil
}

func checkID(path, id string) *finding.Fault {
	if len(id) < 8 || len(id) > 64 {
		return idLength.Fault(path, finding.Count(len(id)))
	}
	for _, r := range id {
		if !(r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' || r == '-' || r == '_') {
			return idSign.Fault(path, finding.Text(string(r)))
		}
	}
	return nil
}

// checkTrial checks the id of a trial that may be left out.
func checkTrial(id string) *finding.Fault {
	if id == "" {
		return nil
	}
	return checkID("trial", id)
}

func checkText(path, text string, least, most int) *finding.Fault {
	switch n := utf8.RuneCountInString(text); {
	case !utf8.ValidString(text):
		return notUTF8.Fault(path)
	case n < least, least > 0 && plaintext.Blank(text):
		return textEmpty.Fault(path)
	case n > most:
		return textTooLong.Fault(path, finding.Count(n), finding.Count(most))
	}
	return nil
}

// oneOf checks a text that has fixed values.
func oneOf[T ~string](path string, value T, values ...T) *finding.Fault {
	if slices.Contains(values, value) {
		return nil
	}
	return valueFault.Fault(path, finding.Text(string(value)))
}

// corrected is a part with its text replaced, or the fault of that text.
func corrected(p Part) (Part, *finding.Fault) {
	if f := p.Check(); f != nil {
		return nil, f.At("value")
	}
	return p, nil
}

// first returns the first fault that there is.
func first(faults ...*finding.Fault) *finding.Fault {
	for _, f := range faults {
		if f != nil {
			return f
		}
	}
	return nil
}

// Sort returns the entries in the order of the notebook, each id once. Of two
// entries with one id the earlier in that order is taken.
func Sort(entries []Entry) []Entry {
	out := slices.Clone(entries)
	slices.SortStableFunc(out, compare)
	seen := make(map[string]struct{}, len(out))
	return slices.DeleteFunc(out, func(e Entry) bool {
		_, again := seen[e.ID]
		seen[e.ID] = struct{}{}
		return again
	})
}

func compare(a, b Entry) int {
	return cmp.Or(cmp.Compare(a.Clock, b.Clock), strings.Compare(a.Device, b.Device), strings.Compare(a.ID, b.ID))
}
