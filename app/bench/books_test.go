package bench

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/journal"
	"exactflask/store"
)

// Notebooks in memory are bounded by what they take, the ones used last stay, and what
// is taken out or replaced no longer counts.
func TestBooksAreBounded(t *testing.T) {
	b, err := newBooks()
	require.NoError(t, err)
	large := func() *Book {
		return &Book{Notebook: store.Notebook{Entries: make([]journal.Entry, maxMemory/ofEntry/4)}}
	}
	for i := range 10 {
		b.Add(fmt.Sprint(i), large())
		b.Get("0") // used all the time
	}
	assert.LessOrEqual(t, b.size, maxMemory)
	_, first := b.Get("0")
	_, second := b.Get("1")
	_, last := b.Get("9")
	assert.Equal(t, []bool{true, false, true}, []bool{first, second, last})
	b.Add("9", &Book{})
	for i := range 10 {
		b.Remove(fmt.Sprint(i))
	}
	assert.Zero(t, b.size)
	for i := range 2 * maxBooks {
		b.Add(fmt.Sprint(i), &Book{})
	}
	assert.Equal(t, maxBooks, b.kept.Len())
	assert.Equal(t, maxBooks*ofBook, b.size)
}
