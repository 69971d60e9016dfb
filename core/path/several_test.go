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
	assert.Less(t, 100*sum, float64(proof.Rounds(7, 5)), "under 5 % is wanted on all thirty")
}

// What no plan can cost less than, no plan costs less than, whatever the workshop; refuting costs finds more than
// what the hands must have worked, which is the least over all orders in which builds can end.
func TestNoPlanCostsLessThanItsBounds(t *testing.T) {
	t.Parallel()
	all := func(seed uint64, r path.Request) {
		r.Nodes = path.QuickNodes
		sets, evenly, tried, joint, plan, err := path.Bounds(r)
		require.NoError(t, err)
		const round = 1e-6
		assert.InDelta(t, tried, sets, round, "workshop %d: by sets as by all orders", seed)
		assert.LessOrEqual(t, evenly, plan+round, "workshop %d: %v", seed, r.AsOf)
		assert.LessOrEqual(t, joint, plan+round, "workshop %d", seed)
		assert.GreaterOrEqual(t, joint, sets-round, "workshop %d", seed)
	}
	for seed := range uint64(every(240)) {
		all(seed, hidden(rand.New(rand.NewPCG(seed, 23)), 9))
		all(seed, hidden(rand.New(rand.NewPCG(seed, 29)), 40))
		all(seed, crowdedShop(seed))
	}
	for seed := range uint64(every(48)) {
		all(seed, several(seed))
	}
}

// Builds beyond those whose sets are looked at are planned and bounded too.
func TestManyBuildsAreBounded(t *testing.T) {
	t.Parallel()
	rnd := rand.New(rand.NewPCG(1, 30))
	r := path.Request{Calendar: workshop(), Airbrush: brushes, AsOf: monday, Nodes: path.QuickNodes}
	for k := range 14 {
		r.Orders = append(r.Orders, vehicle(rnd, fmt.Sprintf("v%02d", k), 12, 0.5))
	}
	s, err := path.Lay(r)
	require.NoError(t, err)
	require.Empty(t, violations(r, s))
	t.Logf("gap %.1f %%", 100*s.Gap)
	assert.Less(t, s.Gap, 0.3, "each alone would be done in two weeks, all take a season")
}
