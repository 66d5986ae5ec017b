package limits_test

import (
	"context"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/app/limits"
)

// One person has one place and never a second; two persons have two; a third waits; who gives up
// takes no place along.
func TestGateAtOnce(t *testing.T) {
	g, ctx := limits.NewGate(), context.Background()
	over, cancel := context.WithCancel(ctx)
	cancel()
	leave, err := g.Enter(ctx, "mira", true)
	require.NoError(t, err)
	_, err = g.Enter(over, "mira", true)
	require.ErrorIs(t, err, context.Canceled, "hers is taken")
	other, err := g.Enter(ctx, "teo", true)
	require.NoError(t, err, "one is left for another")
	_, err = g.Enter(over, "anouk", true)
	require.ErrorIs(t, err, context.Canceled, "both are taken")
	read, err := g.Enter(ctx, "bevan", false)
	require.NoError(t, err, "what is not costly waits for no other")
	_, err = g.Enter(over, "bevan", false)
	require.ErrorIs(t, err, context.Canceled, "but for one's own")
	read()
	leave()
	third, err := g.Enter(ctx, "anouk", true)
	require.NoError(t, err)
	third()
	other()

	// Forty requests of four persons: never more than two at once, never two of one.
	var all, most atomic.Int32
	var mine [4]atomic.Int32
	var wg sync.WaitGroup
	for i := range 40 {
		wg.Go(func() {
			leave, err := g.Enter(ctx, string(rune('a'+i%4)), true)
			if !assert.NoError(t, err) {
				return
			}
			defer leave()
			assert.EqualValues(t, 1, mine[i%4].Add(1))
			if n := all.Add(1); n > most.Load() {
				most.Store(n)
			}
			all.Add(-1)
			mine[i%4].Add(-1)
		})
	}
	wg.Wait()
	assert.LessOrEqual(t, most.Load(), int32(limits.AtOnce))
}
