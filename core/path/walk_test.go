package path_test

import (
	"math/rand/v2"
	"testing"

	"cinderpath/core/path"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A walk times only what a change can move, with windows, airbrushes and all, and finds what timing everything
// finds; mostly that is less work.
func TestAWalkTimesWhatAWholeLayingWould(t *testing.T) {
	t.Parallel()
	less := 0
	for seed := range every(240) {
		r := hidden(rand.New(rand.NewPCG(uint64(seed), 17)), 40)
		n, err := path.WalkAgrees(r, 400)
		require.NoError(t, err, "workshop %d", seed)
		less += n
	}
	for seed := range every(24) {
		r := several(uint64(seed))
		r.Nodes = path.QuickNodes
		n, err := path.WalkAgrees(r, 400)
		require.NoError(t, err, "vehicles %d", seed)
		less += n
	}
	assert.Positive(t, less, "jobs that were not timed again")
}
