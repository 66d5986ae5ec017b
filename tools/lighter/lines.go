package main

import (
	"bytes"
	"encoding/binary"
	"errors"
)

// What only the trace of a stack needs is zeros afterwards: the names of functions, their
// files and lines. In the page nobody reads one: what panics is recovered there and asked
// anew (device.Judge.JSON), and the tests run the same code natively, with traces. What is
// needed to walk a stack (how deep it is, where pointers stand) stays.
//
// The tables are those of Go 1.20 to 1.26: pcHeader in runtime/symtab.go, _func in
// runtime/runtime2.go. An offset of 0 means there: no table.
var (
	tableHead  = []byte("\xf1\xff\xff\xff\x00\x00\x01\x08") // magic, instructions of 1 byte, pointers of 8
	errNoTable = errors.New("the tables of functions are not those of Go 1.20 to 1.26")
)

// Where things stand in a _func, in bytes, and how long it is without its lists.
const (
	nameAt      = 4
	depthAt     = 16
	fileAt      = 20
	lineAt      = 24
	listsAt     = 28 // how many tables follow
	unitAt      = 32
	startLineAt = 36
	funcLength  = 44
)

func withoutLines(data []byte) error {
	at := bytes.Index(data, tableHead)
	if at < 0 || bytes.Count(data, tableHead) != 1 {
		return errNoTable
	}
	var head struct{ Funcs, Files, _, Names, Units, FileNames, Tables, Functions uint64 }
	if err := binary.Read(bytes.NewReader(data[at+len(tableHead):]), binary.LittleEndian, &head); err != nil {
		return errNoTable
	}
	if size := uint64(len(data) - at); !(head.Names <= head.Units && head.Units <= head.FileNames &&
		head.FileNames <= head.Tables && head.Tables <= head.Functions && head.Functions+8*head.Funcs <= size) {
		return errNoTable
	}
	functions, tables := data[at+int(head.Functions):], data[at+int(head.Tables):at+int(head.Functions)]
	kept := make([]byte, len(tables))
	for i := range int(head.Funcs) {
		from := binary.LittleEndian.Uint32(functions[8*i+4:])
		if uint64(from)+funcLength > uint64(len(functions)) {
			return errNoTable
		}
		f := functions[from:]
		used := []uint32{binary.LittleEndian.Uint32(f[depthAt:])}
		for n := range binary.LittleEndian.Uint32(f[listsAt:]) {
			if len(f) < funcLength+4*int(n+1) {
				return errNoTable
			}
			used = append(used, binary.LittleEndian.Uint32(f[funcLength+4*n:]))
		}
		for _, table := range used {
			if err := keepTable(kept, tables, table); err != nil {
				return err
			}
		}
		for _, field := range []int{nameAt, fileAt, lineAt, unitAt, startLineAt} {
			clear(f[field : field+4])
		}
	}
	copy(tables, kept)
	clear(data[at+int(head.Names) : at+int(head.Tables)])
	return nil
}

// keepTable copies a table: pairs of a step of the value (zigzag) and a step of the place,
// both as varints, until a step of the value that is 0 and not the first.
func keepTable(kept, tables []byte, from uint32) error {
	for at := int(from); from != 0; {
		value, n := binary.Uvarint(tables[min(at, len(tables)):])
		if n <= 0 {
			return errNoTable
		}
		if value == 0 && at != int(from) {
			copy(kept[from:at+n], tables[from:])
			return nil
		}
		_, m := binary.Uvarint(tables[at+n:])
		if m <= 0 {
			return errNoTable
		}
		at += n + m
	}
	return nil
}
