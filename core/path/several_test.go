package path_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"cinderpath/core/path"
	"cinderpath/proof"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// several is a workshop of three to six vehicles in the manner of the trade.
func several(seed uint64) path.Request {
	rnd := rand.New(rand.NewPCG(seed, 30))
	r := path.Request{Calendar: workshop(), Airbrush: brushes, AsOf: monday}
	for k := range 3 + rnd.IntN(4) {
		r.Orders = append(r.Orders, vehicle(rnd, fmt.Sprintf("v%d", k), 12+rnd.IntN(29), 0.3+1.2*rnd.Float64()))
	}
	return r
}

// The told gap of several builds that share their evenings; what of it is the plan's and what the bound's
// is not known.
func TestGapOfSeveralBuilds(t *testing.T) {
	t.Parallel()
	n := proof.Rounds(6, 30)
	var gaps []float64
	sum := 0.0
	for seed := range n {
		r := several(uint64(seed))
		s, err := path.Lay(r)
		require.NoError(t, err)
		require.Empty(t, violations(r, s))
		gaps = append(gaps, s.Gap)
		sum += s.Gap / float64(n)
	}
	slices.Sort(gaps)
	t.Logf("%d workshops: mean gap %.2f %%, worst %.2f %%", n, 100*sum, 100*gaps[n-1])
	assert.Less(t, sum, 0.15, "a starting point: under 5 % is wanted")
}
