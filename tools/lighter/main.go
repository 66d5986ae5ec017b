// Command lighter makes a WebAssembly module of Go lighter on its way to a phone, in place.
//
// It joins its data into one segment. The linker cuts it into a hundred thousand wherever
// some zeros stand, which is smaller on the disk; the zeros are nothing on their way, and
// where each piece begins is a twelfth of all (docs/benchmarks.md). The module means the
// same: memory is zero before its data is laid into it (WebAssembly Core Specification
// 2.0, 4.5.4). And it takes out what only the trace of a stack needs (lines.go).
package main

import (
	"bytes"
	"cmp"
	"encoding/binary"
	"errors"
	"fmt"
	"log"
	"os"
	"slices"
)

func main() {
	if len(os.Args) != 2 {
		log.Fatal("lighter: which module?")
	}
	module, err := os.ReadFile(os.Args[1])
	if err == nil {
		module, err = joined(module)
	}
	if err == nil {
		err = os.WriteFile(os.Args[1], module, 0o644)
	}
	if err != nil {
		log.Fatal("lighter: ", err)
	}
}

const (
	header      = 8
	dataSection = 11
	i32Const    = 0x41
	end         = 0x0b
)

// reader reads a module; what is wrong with it is kept.
type reader struct {
	rest []byte
	err  error
}

func (r *reader) bytes(n uint64) []byte {
	if r.err == nil && n > uint64(len(r.rest)) {
		r.err = errors.New("it ends too early")
	}
	if r.err != nil {
		return nil
	}
	out := r.rest[:n]
	r.rest = r.rest[n:]
	return out
}

func (r *reader) byte() byte {
	if b := r.bytes(1); r.err == nil {
		return b[0]
	}
	return 0
}

func (r *reader) number() uint64 {
	n, size := binary.Uvarint(r.rest)
	if size <= 0 && r.err == nil {
		r.err = errors.New("a number is broken off")
	}
	r.bytes(uint64(max(size, 0)))
	return n
}

// segment is a piece of the data and where it lies in memory.
type segment struct {
	at   uint64
	data []byte
}

func joined(module []byte) ([]byte, error) {
	out := slices.Clone(module[:min(header, len(module))])
	r := &reader{rest: module[len(out):]}
	for len(r.rest) > 0 && r.err == nil {
		id := r.byte()
		body := r.bytes(r.number())
		if id == dataSection && r.err == nil {
			var err error
			if body, err = one(body); err != nil {
				return nil, err
			}
		}
		out = append(out, id)
		out = binary.AppendUvarint(out, uint64(len(body)))
		out = append(out, body...)
	}
	return out, r.err
}

// one is a section of data with its segments joined.
func one(section []byte) ([]byte, error) {
	r := &reader{rest: section}
	var all []segment
	for range r.number() {
		// Of memory 0, at a place that is a number: nothing else comes from Go's linker.
		if r.byte() != 0 || r.byte() != i32Const {
			return nil, errors.New("a segment of another kind")
		}
		s := segment{at: r.number()} // signed, but no place is above 2 GiB
		if r.byte() != end {
			return nil, errors.New("a place that is no number")
		}
		s.data = r.bytes(r.number())
		all = append(all, s)
	}
	if r.err != nil || len(all) == 0 {
		return section, r.err
	}
	slices.SortFunc(all, func(a, b segment) int { return cmp.Compare(a.at, b.at) })
	var data bytes.Buffer
	for _, s := range all {
		gap := int(s.at-all[0].at) - data.Len()
		if gap < 0 {
			return nil, fmt.Errorf("two segments lie over each other at %d", s.at)
		}
		data.Write(make([]byte, gap))
		data.Write(s.data)
	}
	if err := withoutLines(data.Bytes()); err != nil {
		log.Print("lighter: names and lines stay: ", err) // another version of Go: the module is as good
	}
	out := []byte{1, 0, i32Const}
	out = append(signed(out, all[0].at), end)
	out = binary.AppendUvarint(out, uint64(data.Len()))
	return append(out, data.Bytes()...), nil
}

// signed appends a number as LEB128 with a sign: its highest bit must say that it is not
// negative.
func signed(out []byte, n uint64) []byte {
	for n > 0x3f {
		out = append(out, byte(n&0x7f|0x80))
		n >>= 7
	}
	return append(out, byte(n))
}
