package view

import (
	"encoding"
	"encoding/binary"
	"encoding/json"
	"hash/maphash"
	"reflect"
	"sync"
	"time"
	"unsafe"
)

// printer puts all that JSON would say of a value, at this place, into a hash: two values
// with one print are written alike. The way through a type is worked out once, so that a
// print costs a fraction of the text; a bench waits for it at each stroke, in the browser
// too. Values that are written alike may have two prints: then they are sent once more.
type printer func(h *maphash.Hash, at unsafe.Pointer)

// printers are the ways through types, by type. Types may contain themselves.
type printers map[reflect.Type]*printer

// sheetPrinters are those of all that stands in a sheet.
var sheetPrinters = sync.OnceValue(func() printers {
	all := printers{}
	all.of(reflect.TypeFor[Sheet]())
	return all
})

var printSeed = maphash.MakeSeed()

// printOf is the print of a value in a sheet.
func printOf(v reflect.Value) uint64 {
	var h maphash.Hash
	h.SetSeed(printSeed)
	(*sheetPrinters()[v.Type()])(&h, v.Addr().UnsafePointer())
	return h.Sum64()
}

func (all printers) of(t reflect.Type) *printer {
	if known := all[t]; known != nil {
		return known
	}
	way := new(printer)
	all[t] = way
	*way = all.make(t)
	return way
}

func (all printers) make(t reflect.Type) printer {
	switch {
	case t == reflect.TypeFor[time.Time]():
		return printTime
	case plain(t):
		return printBytes(t.Size())
	case t.Kind() == reflect.String:
		return func(h *maphash.Hash, at unsafe.Pointer) { printText(h, *(*string)(at)) }
	case t.Kind() == reflect.Pointer:
		to := all.of(t.Elem())
		return func(h *maphash.Hash, at unsafe.Pointer) {
			if p := *(*unsafe.Pointer)(at); p == nil {
				_ = h.WriteByte(0)
			} else {
				_ = h.WriteByte(1)
				(*to)(h, p)
			}
		}
	case t.Kind() == reflect.Slice:
		return all.list(t)
	case t.Kind() == reflect.Struct:
		return all.fields(t)
	}
	// Maps and interfaces: their text.
	return func(h *maphash.Hash, at unsafe.Pointer) {
		text, _ := json.Marshal(reflect.NewAt(t, at).Elem().Interface()) // what cannot be written is found when it is sent
		printText(h, string(text))
	}
}

func (all printers) list(t reflect.Type) printer {
	item, size := all.of(t.Elem()), t.Elem().Size()
	return func(h *maphash.Hash, at unsafe.Pointer) {
		list := *(*[]byte)(at) // whatever its items are, a list has the head of one of bytes
		if list == nil {
			_ = h.WriteByte(0)
			return
		}
		_ = h.WriteByte(1)
		printNumber(h, uint64(len(list)))
		first := unsafe.Pointer(unsafe.SliceData(list))
		for i := range uintptr(len(list)) {
			(*item)(h, unsafe.Add(first, i*size))
		}
	}
}

// fields takes plain fields that lie side by side at one stroke. What a type keeps to
// itself, or out of its text, counts only where it writes itself.
func (all printers) fields(t reflect.Type) printer {
	type part struct {
		at  uintptr
		way *printer
	}
	var parts []part
	var from, to uintptr // of plain fields
	flush := func() {
		if to > from {
			way := printBytes(to - from)
			parts = append(parts, part{from, &way})
		}
		from = to
	}
	writes := func(by reflect.Type) bool { return t.Implements(by) || reflect.PointerTo(t).Implements(by) }
	itself := writes(reflect.TypeFor[json.Marshaler]()) || writes(reflect.TypeFor[encoding.TextMarshaler]())
	for i := range t.NumField() {
		f := t.Field(i)
		if !itself && (!f.IsExported() && !f.Anonymous || f.Tag.Get("json") == "-") {
			continue
		}
		way := all.of(f.Type)
		if !plain(f.Type) {
			parts = append(parts, part{f.Offset, way})
			continue
		}
		if f.Offset != to {
			flush()
			from = f.Offset
		}
		to = f.Offset + f.Type.Size()
	}
	flush()
	return func(h *maphash.Hash, at unsafe.Pointer) {
		for _, p := range parts {
			(*p.way)(h, unsafe.Add(at, p.at))
		}
	}
}

// plain tells of what is its bytes alone.
func plain(t reflect.Type) bool {
	return t.Kind() >= reflect.Bool && t.Kind() <= reflect.Float64 || t.Kind() == reflect.Array && plain(t.Elem())
}

func printBytes(size uintptr) printer {
	return func(h *maphash.Hash, at unsafe.Pointer) { _, _ = h.Write(unsafe.Slice((*byte)(at), size)) }
}

func printText(h *maphash.Hash, text string) {
	printNumber(h, uint64(len(text)))
	_, _ = h.WriteString(text)
}

func printNumber(h *maphash.Hash, n uint64) {
	_, _ = h.Write(binary.LittleEndian.AppendUint64(make([]byte, 0, 8), n))
}

// printTime leaves the tables of its zone alone.
func printTime(h *maphash.Hash, at unsafe.Pointer) {
	t := (*time.Time)(at)
	_, offset := t.Zone()
	printNumber(h, uint64(t.Unix()))
	printNumber(h, uint64(t.Nanosecond()))
	printNumber(h, uint64(offset))
}
