package chain_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/record/chain"
	"exactflask/core/record/journal"
)

func chained(t *testing.T, entries []journal.Entry, received time.Time) []journal.Link {
	var links []journal.Link
	before := ""
	for i, e := range entries {
		l, _, err := chain.Follow(before, e, received.Add(time.Duration(i)*time.Second))
		require.NoError(t, err)
		links, before = append(links, l), l.Hash
	}
	return links
}

func remark(id, text string, at time.Time) journal.Entry {
	return journal.Entry{ID: id, Author: "p1", Device: "d", Clock: 1, At: at, Part: journal.Remark{Written: text}}
}

// The hashes are those that Python's hashlib and json (sort_keys, separators
// without white space, ensure_ascii off) give for the same lines.
func TestChainAgainstAnotherProgram(t *testing.T) {
	at := time.Date(2026, 11, 24, 10, 0, 0, 0, time.UTC)
	links := chained(t, []journal.Entry{remark("entry-1", "a < b & c", at), remark("entry-2", "µ", at)}, at.Add(time.Second/2))
	assert.Equal(t, "4db10b6b684a0a233676610228ed7ce7890d8e8afde53607d9141fda785b3dd2", links[0].Hash)
	assert.Equal(t, "d37b01ecc750848f862a7c15eefcdf44889dff3a7d0736617983657f9ad72b42", links[1].Hash)
}

func TestChain(t *testing.T) {
	at := time.Date(2026, 11, 24, 10, 0, 0, 0, time.UTC)
	entries := []journal.Entry{remark("e1", "one", at), remark("e2", "two", at), remark("e3", "three", at)}
	links := chained(t, entries, at)
	assert.Nil(t, chain.Verify(nil, nil))
	assert.Nil(t, chain.Verify(links, []journal.Entry{entries[2], entries[0], entries[1]}), "the file has any order")

	other := remark("e2", "too", at)
	later := links[1]
	later.Received = later.Received.Add(time.Nanosecond)
	for what, c := range map[string]struct {
		links   []journal.Link
		entries []journal.Entry
		want    chain.Broken
	}{
		"a text":          {links, []journal.Entry{entries[0], other, entries[2]}, chain.Broken{Entry: "e2", Flaw: chain.Altered}},
		"a time":          {[]journal.Link{links[0], later, links[2]}, entries, chain.Broken{Entry: "e2", Flaw: chain.Altered}},
		"a link less":     {[]journal.Link{links[0], links[2]}, entries, chain.Broken{Entry: "e3", Flaw: chain.Altered}},
		"the first less":  {links[1:], entries, chain.Broken{Entry: "e2", Flaw: chain.Altered}},
		"an entry less":   {links, entries[:2], chain.Broken{Entry: "e3", Flaw: chain.Missing}},
		"an entry more":   {links[:2], entries, chain.Broken{Entry: "e3", Flaw: chain.Unchained}},
		"a link twice":    {append(links[:3:3], links[2]), entries, chain.Broken{Entry: "e3", Flaw: chain.Missing}},
		"another's order": {[]journal.Link{links[1], links[0], links[2]}, entries, chain.Broken{Entry: "e2", Flaw: chain.Altered}},
	} {
		broken := chain.Verify(c.links, c.entries)
		if assert.NotNil(t, broken, what) {
			assert.Equal(t, c.want, *broken, what)
		}
	}
}

func TestFar(t *testing.T) {
	at := time.Date(2026, 11, 24, 10, 0, 0, 0, time.UTC)
	for _, c := range []struct {
		received time.Duration // after what the device wrote
		far      bool
	}{{0, false}, {time.Hour, false}, {time.Hour + time.Second, true}, {-2 * time.Minute, false}, {-2*time.Minute - time.Second, true}} {
		link := journal.Link{Entry: "e1", Received: at.Add(c.received)}
		by, far := link.Far(at)
		assert.Equal(t, c.far, journal.CountFar([]journal.Link{link}, []journal.Entry{remark("e1", "one", at)}) == 1)
		assert.Equal(t, c.far, far, c.received)
		assert.Equal(t, c.received, by)
	}
}
