package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cinderpath/core/plan"
	"cinderpath/core/scheme"
)

// Where a colour goes too far over another, the lower one is sprayed back and what else lies over it after
// that; along so much edge as the colours have with each other.
func TestCorrectionsOfAScheme(t *testing.T) {
	b := tank(t)
	b.Scheme.Colours = []scheme.Colour{
		{Name: "green", Hex: "#66704f"},
		{Name: "grey", Hex: "#50524f", Share: 0.3, Family: scheme.Bands},
		{Name: "brown", Hex: "#5d4836", Share: 0.25, Family: scheme.Bands},
	}
	b.Scheme.Mist = true
	var d plan.Deriver
	told, err := d.CamouflageOf(workshop(), b)
	require.NoError(t, err)
	sum, edges := 0.0, 0.0
	words := map[[2]int]string{}
	for i, c := range told.Mends {
		sum += c.EdgeMM
		words[[2]int{c.Above, c.Below}] = c.Words
		assert.Less(t, c.Below, c.Above)
		if i > 0 {
			assert.LessOrEqual(t, c.EdgeMM, told.Mends[i-1].EdgeMM, "the longest first")
		}
	}
	for _, h := range told.Holds {
		edges += h.EdgeMM
	}
	assert.InEpsilon(t, edges, sum, 0.01, "every edge is one of a pair")
	assert.Equal(t, "grey too far over green: spray green back along it from the kept mix, "+
		"then brown where it was touched, the closing mist last", words[[2]int{2, 1}])
	assert.Contains(t, words, [2]int{3, 2})

	// What is seen from each side adds up; from above it is nearly what lies on flats.
	require.Len(t, told.Views, 5)
	for _, v := range told.Views {
		all := 0.0
		for _, s := range v.Shares {
			all += float64(s)
		}
		assert.InDelta(t, 1, all, 1e-6, v.Side)
		assert.Greater(t, float64(v.Shares[0]), 0.15, v.Side)
	}

	b.Scheme.Colours = b.Scheme.Colours[:1]
	told, err = d.CamouflageOf(workshop(), b)
	require.NoError(t, err)
	assert.Empty(t, told.Mends)
	assert.InDelta(t, 1, float64(told.Views[0].Shares[0]), 1e-9)
}
