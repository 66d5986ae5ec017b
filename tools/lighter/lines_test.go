package main

import (
	"bytes"
	"encoding/binary"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Names, files and lines go; how deep a stack is and where pointers stand stays, also
// where a table serves for both.
func TestWithoutLines(t *testing.T) {
	names, units, files := "\x00main.main\x00main.two\x00", "unit", "main.go\x00"
	depth, line, pointers := "\x02\x05\x00", "\x04\x01\x03\x09\x00", "\x01\x80\x01\x02\x02\x00"
	tables := "\x00" + depth + line + pointers // at 1, 4 and 9
	function := func(depth, file, line uint32, lists ...uint32) string {
		f := make([]uint32, 11+len(lists))
		copy(f, []uint32{77, 5, 8, 0, depth, file, line, uint32(len(lists)), 3, 40, 0})
		copy(f[11:], lists)
		out, _ := binary.Append(nil, binary.LittleEndian, f)
		return string(out)
	}
	module := func(names, units, files, tables string, functions ...string) []byte {
		var head bytes.Buffer
		at, offsets := uint64(72), []uint64{uint64(len(functions)), 1, 0}
		for _, part := range []string{names, units, files, tables} {
			offsets = append(offsets, at)
			at += uint64(len(part))
		}
		_ = binary.Write(&head, binary.LittleEndian, append(offsets, at))
		out := "before" + string(tableHead) + head.String() + names + units + files + tables
		list, bodies := []byte{}, ""
		for _, f := range functions {
			list = binary.LittleEndian.AppendUint32(list, 77)
			list = binary.LittleEndian.AppendUint32(list, uint32(8*len(functions)+len(bodies)))
			bodies += f
		}
		return []byte(out + string(list) + bodies + "behind")
	}
	data := module(names, units, files, tables, function(1, 4, 4, 9), function(1, 1, 4))
	assert.NoError(t, withoutLines(data))
	bare := func(f string) string {
		for _, at := range []int{nameAt, fileAt, lineAt, unitAt, startLineAt} {
			f = f[:at] + "\x00\x00\x00\x00" + f[at+4:]
		}
		return f
	}
	zeros := func(s string) string { return string(make([]byte, len(s))) }
	want := module(zeros(names), zeros(units), zeros(files), "\x00"+depth+zeros(line)+pointers,
		bare(function(1, 4, 4, 9)), bare(function(1, 1, 4)))
	assert.Equal(t, want, data)

	assert.ErrorIs(t, withoutLines([]byte("no tables")), errNoTable)
	assert.ErrorIs(t, withoutLines([]byte(string(tableHead)+"too short")), errNoTable)
	assert.ErrorIs(t, withoutLines(module(names, units, files, "\x00\x02", function(1, 0, 0))), errNoTable, "a table is broken off")
}
