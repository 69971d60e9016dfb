package scheme_test

import (
	"math"
	"slices"
	"testing"

	"cinderpath/core/scheme"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// A regular polygon grows into one of the same kind, its sides so far outside, whichever way round it is
// drawn; of any convex one each corner ends so far outside or a little more.
func TestAllowanceLiesOutside(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(3, 24).Draw(t, "corners")
		wide := rapid.Float64Range(5, 500).Draw(t, "radius")
		far := rapid.Float64Range(0.5, 40).Draw(t, "far")
		var r scheme.Ring
		for i := range n {
			a := 2 * math.Pi * float64(i) / float64(n)
			r = append(r, [2]float64{wide * math.Cos(a), wide * math.Sin(a)})
		}
		r = append(r, r[0]) // closed twice, as rings are read
		if rapid.Bool().Draw(t, "backwards") {
			slices.Reverse(r)
		}
		apothem := wide * math.Cos(math.Pi/float64(n))
		for _, q := range r.Beyond(far) {
			want := (apothem + far) / math.Cos(math.Pi/float64(n))
			assert.InDelta(t, want, math.Hypot(q[0], q[1]), 1e-6)
		}
	})
	thin := scheme.Ring{{0, 0}, {100, 0}, {0, 4}}
	out := thin.Beyond(1)
	require.Len(t, out, 4, "a sharp tip is cut off")
	for _, q := range out {
		assert.LessOrEqual(t, q[0], 102.0)
	}
	assert.Len(t, scheme.Ring{{0, 0}, {1, 0}}.Beyond(1), 2, "a line has no outside")
}

// A plate with a hole: the plate grows, the hole shrinks.
func TestAllowanceOfAPlateWithAHole(t *testing.T) {
	box := func(x0, y0, x1, y1 float64, back bool) scheme.Ring {
		r := scheme.Ring{{x0, y0}, {x1, y0}, {x1, y1}, {x0, y1}}
		if back {
			slices.Reverse(r)
		}
		return r
	}
	for _, back := range []bool{false, true} {
		out := scheme.Allowed([]scheme.Ring{box(40, 40, 60, 60, !back), box(0, 0, 100, 100, back)}, 5)
		require.Len(t, out, 2)
		assert.ElementsMatch(t, box(45, 45, 55, 55, false), out[0])
		assert.ElementsMatch(t, box(-5, -5, 105, 105, false), out[1])
	}
}
