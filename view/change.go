package view

import (
	"encoding/json"
	"fmt"
	"hash/maphash"
	"reflect"
	"strings"
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

// Changes returns what differs of a sheet from the one with this print (nil: all
// of it), and its own print.
func Changes(s Sheet, before SheetPrint) (SheetChange, SheetPrint, error) {
	out, now := SheetChange{}, SheetPrint{}
	v := reflect.ValueOf(&s).Elem()
	for i := range v.NumField() {
		field := v.Field(i)
		name, option, _ := strings.Cut(v.Type().Field(i).Tag.Get("json"), ",")
		if option == "omitempty" && (field.IsZero() || field.Kind() == reflect.Slice && field.Len() == 0) {
			continue
		}
		old, known := before[name]
		print := fieldPrintOf(field)
		now[name] = print
		if known && old.whole == print.whole {
			continue
		}
		text, err := changeOf(field, print, old)
		if err != nil {
			return nil, nil, fmt.Errorf("writing %s of a sheet: %w", name, err)
		}
		out[name] = text
	}
	for name := range before {
		if _, there := now[name]; !there {
			out[name] = json.RawMessage("null")
		}
	}
	return out, now, nil
}

func fieldPrintOf(field reflect.Value) fieldPrint {
	if s, ok := field.Interface().(Setting); ok && s.kept != nil {
		return s.kept.print
	}
	if field.Kind() != reflect.Slice || field.IsNil() {
		return fieldPrint{whole: printOf(field)}
	}
	print := fieldPrint{items: make([]uint64, field.Len())}
	for i := range print.items {
		print.items[i] = printOf(field.Index(i))
	}
	print.whole = maphash.Comparable(printSeed, len(print.items))
	for _, item := range print.items {
		print.whole = maphash.Comparable(printSeed, [2]uint64{print.whole, item})
	}
	return print
}

// changeOf is a field that differs, as it is sent to a reader who holds the one with the
// old print.
func changeOf(field reflect.Value, print, old fieldPrint) (json.RawMessage, error) {
	if s, ok := field.Interface().(Setting); ok && s.kept != nil {
		return s.kept.text, nil
	}
	var others []int
	for i := range print.items {
		if i >= len(old.items) || old.items[i] != print.items[i] {
			others = append(others, i)
		}
	}
	if old.items == nil || print.items == nil || 2*len(others) > len(print.items) {
		return json.Marshal(field.Interface())
	}
	change := ListChange{field.Len(), make(map[int]json.RawMessage, len(others))}
	for _, i := range others {
		text, err := json.Marshal(field.Index(i).Addr().Interface())
		if err != nil {
			return nil, err
		}
		change.Items[i] = text
	}
	return json.Marshal(change)
}
