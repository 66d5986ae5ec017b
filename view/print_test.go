package view

import (
	"encoding/json"
	"reflect"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"exactflask/core/values/decimal"
)

// Whatever is changed of a sheet that is written, wherever it stands, changes its print; a
// copy has the same.
func TestPrintNoticesEveryField(t *testing.T) {
	var one, other Sheet
	fill(reflect.ValueOf(&one).Elem(), 0)
	fill(reflect.ValueOf(&other).Elem(), 0)
	print := func(s *Sheet) uint64 { return printOf(reflect.ValueOf(s).Elem()) }
	require.Equal(t, print(&one), print(&other))
	was, err := json.Marshal(one)
	require.NoError(t, err)
	changed := 0
	change(reflect.ValueOf(&other).Elem(), "sheet", func(where string) {
		now, err := json.Marshal(other)
		require.NoError(t, err, where)
		if string(was) == string(now) {
			return // nobody would see it
		}
		changed++
		require.NotEqual(t, print(&one), print(&other), where)
	})
	require.Equal(t, print(&one), print(&other), "what was changed was changed back")
	require.Greater(t, changed, 400)
}

// fill gives every field that can be set a value; lists get one item.
func fill(v reflect.Value, deep int) {
	switch v.Kind() {
	case reflect.Pointer:
		if deep < 12 {
			v.Set(reflect.New(v.Type().Elem()))
			fill(v.Elem(), deep+1)
		}
	case reflect.Slice:
		if deep < 12 {
			v.Set(reflect.MakeSlice(v.Type(), 1, 1))
			fill(v.Index(0), deep+1)
		}
	case reflect.Struct:
		switch x := v.Addr().Interface().(type) {
		case *decimal.Decimal:
			*x = decimal.Must("21.30")
			return
		case *time.Time:
			*x = time.Date(2026, 11, 26, 14, 0, 0, 0, time.UTC)
			return
		}
		for i := range v.NumField() {
			if v.Field(i).CanSet() {
				fill(v.Field(i), deep+1)
			}
		}
	case reflect.String:
		v.SetString("text")
	}
}

// change makes each value another one, calls seen, and makes it what it was.
func change(v reflect.Value, where string, seen func(where string)) {
	if !v.CanSet() {
		return
	}
	was := reflect.New(v.Type()).Elem()
	was.Set(v)
	defer func() { v.Set(was) }()
	other := func(set func()) { set(); seen(where); v.Set(was) }
	switch v.Kind() {
	case reflect.Bool:
		other(func() { v.SetBool(!v.Bool()) })
	case reflect.Int, reflect.Int8, reflect.Int16, reflect.Int32, reflect.Int64:
		other(func() { v.SetInt(v.Int() + 1) })
	case reflect.Uint, reflect.Uint8, reflect.Uint16, reflect.Uint32, reflect.Uint64:
		other(func() { v.SetUint(v.Uint() + 1) })
	case reflect.Float32, reflect.Float64:
		other(func() { v.SetFloat(v.Float() + 0.25) })
	case reflect.String:
		other(func() { v.SetString(v.String() + ".") })
	case reflect.Map:
		other(func() { v.Set(reflect.MakeMap(v.Type())) })
	case reflect.Pointer:
		if !v.IsNil() {
			change(v.Elem(), where+"*", seen)
			other(func() { v.SetZero() })
		}
	case reflect.Slice:
		if v.Len() > 0 {
			change(v.Index(0), where+"[]", seen)
			other(func() { v.Set(reflect.MakeSlice(v.Type(), 0, 0)) })
			other(func() { v.SetZero() })
		}
	case reflect.Struct:
		switch x := v.Addr().Interface().(type) {
		case *decimal.Decimal:
			other(func() { *x = decimal.Must("21.3") })
			return
		case *time.Time:
			other(func() { *x = x.Add(time.Nanosecond) })
			return
		}
		for i := range v.NumField() {
			change(v.Field(i), where+"."+v.Type().Field(i).Name, seen)
		}
	}
}
