package view

import (
	"bytes"
	"encoding/json"
	"fmt"
	"hash/maphash"
	"reflect"
	"strings"
	"sync"
)

// SheetChange is what differs of a sheet from one that a reader holds: its fields
// by their names in JSON; null where a field is not there any more. Of a list of
// which at most half differs there is a ListChange.
type SheetChange map[string]json.RawMessage

// ListChange is what differs of a list: how long it is now, and the items that are
// new or others, by their place from 0.
type ListChange struct {
	Length int                     `json:"length"`
	Items  map[int]json.RawMessage `json:"items"`
}

// SheetPrint tells the fields of a sheet, and the items of its lists, apart without
// keeping them.
type SheetPrint map[string]fieldPrint

type fieldPrint struct {
	whole uint64
	items []uint64 // of a list
}

// keptText is a field as it is sent, and its print.
type keptText struct {
	text  json.RawMessage
	print fieldPrint
}

// keep writes a value once; nil where it cannot be written.
func keep(v any) *keptText {
	text, err := json.Marshal(v)
	if err != nil {
		return nil
	}
	return &keptText{text, fieldPrint{whole: maphash.Bytes(printSeed, text)}}
}

var printSeed = maphash.MakeSeed()

// Changes returns what differs of a sheet from the one with this print (nil: all
// of it), and its own print.
func Changes(s Sheet, before SheetPrint) (SheetChange, SheetPrint, error) {
	return ChangesFrom(s, nil, before)
}

// ChangesFrom is Changes for who holds the sheet of that print as well (nil: not):
// what is the same in both need not be written to be told apart.
func ChangesFrom(s Sheet, held *Sheet, before SheetPrint) (SheetChange, SheetPrint, error) {
	out, now := SheetChange{}, SheetPrint{}
	v := reflect.ValueOf(&s).Elem()
	for i := range v.NumField() {
		field := v.Field(i)
		name, option, _ := strings.Cut(v.Type().Field(i).Tag.Get("json"), ",")
		if option == "omitempty" && (field.IsZero() || field.Kind() == reflect.Slice && field.Len() == 0) {
			continue
		}
		old, known := before[name]
		var was reflect.Value
		if known && held != nil {
			was = reflect.ValueOf(held).Elem().Field(i)
		}
		text, print, err := changeOf(field, old, known, was)
		if err != nil {
			return nil, nil, fmt.Errorf("writing %s of a sheet: %w", name, err)
		}
		now[name] = print
		if !known || old.whole != print.whole {
			out[name] = text
		}
	}
	for name := range before {
		if _, there := now[name]; !there {
			out[name] = json.RawMessage("null")
		}
	}
	return out, now, nil
}

// sheetSames are the ways through all types of a sheet; they are made once.
var sheetSames = sync.OnceValue(func() sames {
	ways := sames{}
	ways.of(reflect.TypeFor[Sheet]())
	return ways
})

func sameIn(t reflect.Type) same { return *sheetSames()[t] }

// changeOf is a field as it is sent to a reader who holds the old one, and its print.
func changeOf(field reflect.Value, old fieldPrint, held bool, was reflect.Value) (json.RawMessage, fieldPrint, error) {
	if s, ok := field.Interface().(Setting); ok && s.kept != nil {
		return s.kept.text, s.kept.print, nil
	}
	if was.IsValid() && field.Kind() != reflect.Slice && sameIn(field.Type())(field.Addr().UnsafePointer(), was.Addr().UnsafePointer()) {
		return nil, old, nil
	}
	if field.Kind() != reflect.Slice || field.IsNil() {
		text, err := json.Marshal(field.Interface())
		return text, fieldPrint{whole: maphash.Bytes(printSeed, text)}, err
	}
	print := fieldPrint{items: make([]uint64, field.Len())}
	texts := make([]json.RawMessage, field.Len())
	change := ListChange{field.Len(), map[int]json.RawMessage{}}
	var all maphash.Hash
	all.SetSeed(printSeed)
	brief := held && old.items != nil
	var text bytes.Buffer
	out := json.NewEncoder(&text)
	equal := sameIn(field.Type().Elem())
	for i := range texts {
		if brief && was.IsValid() && i < was.Len() && i < len(old.items) &&
			equal(field.Index(i).Addr().UnsafePointer(), was.Index(i).Addr().UnsafePointer()) {
			print.items[i] = old.items[i]
			maphash.WriteComparable(&all, print.items[i])
			continue
		}
		text.Reset()
		if err := out.Encode(item(field, i)); err != nil {
			return nil, print, err
		}
		print.items[i] = maphash.Bytes(printSeed, text.Bytes())
		maphash.WriteComparable(&all, print.items[i])
		differs := i >= len(old.items) || old.items[i] != print.items[i]
		if differs || !brief { // what is not sent is not kept
			texts[i] = bytes.Clone(text.Bytes())
		}
		if differs {
			change.Items[i] = texts[i]
		}
	}
	maphash.WriteComparable(&all, len(texts))
	print.whole = all.Sum64()
	if brief && (2*len(change.Items) <= len(texts)) {
		text, err := json.Marshal(change)
		return text, print, err
	}
	if brief {
		text, err := json.Marshal(field.Interface())
		return text, print, err
	}
	joined, err := json.Marshal(texts)
	return joined, print, err
}

// item is where an item of a list stands: it is not copied to be looked at.
func item(list reflect.Value, i int) any { return list.Index(i).Addr().Interface() }
