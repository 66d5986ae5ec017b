package view

import (
	"encoding"
	"encoding/binary"
	"encoding/json"
	"hash/maphash"
	"math"
	"reflect"
	"sync"
	"time"
)

var printSeed = maphash.MakeSeed()

// printOf is the print of a value in a sheet: all that JSON would say of it, as one number.
// Two values with one print are written alike; a print costs a fraction of the text, and a
// bench waits for it at each stroke. Values that are written alike may have two prints: then
// they are sent once more.
func printOf(v reflect.Value) uint64 {
	var h maphash.Hash
	h.SetSeed(printSeed)
	printValue(&h, v)
	return h.Sum64()
}

func printValue(h *maphash.Hash, v reflect.Value) {
	switch v.Kind() {
	case reflect.Bool:
		n := uint64(0)
		if v.Bool() {
			n = 1
		}
		printNumber(h, n)
	case reflect.Int, reflect.Int8, reflect.Int16, reflect.Int32, reflect.Int64:
		printNumber(h, uint64(v.Int()))
	case reflect.Uint, reflect.Uint8, reflect.Uint16, reflect.Uint32, reflect.Uint64, reflect.Uintptr:
		printNumber(h, v.Uint())
	case reflect.Float32, reflect.Float64:
		printNumber(h, math.Float64bits(v.Float()))
	case reflect.String:
		printText(h, v.String())
	case reflect.Pointer:
		if v.IsNil() {
			_ = h.WriteByte(0)
			return
		}
		_ = h.WriteByte(1)
		printValue(h, v.Elem())
	case reflect.Slice, reflect.Array:
		if v.Kind() == reflect.Slice && v.IsNil() {
			_ = h.WriteByte(0)
			return
		}
		printNumber(h, uint64(v.Len())+1)
		for i := range v.Len() {
			printValue(h, v.Index(i))
		}
	case reflect.Struct:
		if v.Type() == reflect.TypeFor[time.Time]() && v.CanInterface() {
			printTime(h, v.Interface().(time.Time))
			return
		}
		for _, i := range writtenFields(v.Type()) {
			printValue(h, v.Field(i))
		}
	default: // maps and interfaces: their text
		text, _ := json.Marshal(v.Interface()) // what cannot be written is found when it is sent
		printText(h, string(text))
	}
}

func printNumber(h *maphash.Hash, n uint64) {
	var b [8]byte
	binary.LittleEndian.PutUint64(b[:], n)
	_, _ = h.Write(b[:])
}

func printText(h *maphash.Hash, text string) {
	printNumber(h, uint64(len(text)))
	_, _ = h.WriteString(text)
}

// printTime leaves the tables of its zone alone.
func printTime(h *maphash.Hash, t time.Time) {
	_, offset := t.Zone()
	printNumber(h, uint64(t.Unix()))
	printNumber(h, uint64(t.Nanosecond()))
	printNumber(h, uint64(offset))
}

// known are the fields of types that were asked for.
var known sync.Map // reflect.Type to []int

// writtenFields are the places of the fields that JSON writes. What a type keeps to itself,
// or out of its text, counts only where it writes itself.
func writtenFields(t reflect.Type) []int {
	if fields, ok := known.Load(t); ok {
		return fields.([]int)
	}
	writes := func(by reflect.Type) bool { return t.Implements(by) || reflect.PointerTo(t).Implements(by) }
	itself := writes(reflect.TypeFor[json.Marshaler]()) || writes(reflect.TypeFor[encoding.TextMarshaler]())
	var fields []int
	for i := range t.NumField() {
		if f := t.Field(i); itself || (f.IsExported() || f.Anonymous) && f.Tag.Get("json") != "-" {
			fields = append(fields, i)
		}
	}
	known.Store(t, fields)
	return fields
}
