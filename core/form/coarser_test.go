package form_test

import (
	"math"
	"testing"

	"cinderpath/core/form"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// A coarser grid covers the same surface: no area is lost, and each texel lies in the one it went into.
func TestACoarserGridCoversTheSame(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		long, high := rapid.Float64Range(50, 900).Draw(t, "long"), rapid.Float64Range(50, 900).Draw(t, "high")
		lean := rapid.Float64Range(0, 40).Draw(t, "lean")
		p := &form.Panel{
			Zone:  "hull.left",
			Plane: form.Plane{U: form.Vec{1, 0, 0}, V: form.Vec{0, 0, 1}, Normal: form.Vec{0, 1, 0}},
		}
		p.Pieces = [][]form.Vec{{{0, 0, 0}, {long, 0, 0}, {long - lean, 0, high}, {lean, 0, high}}}
		g := form.NewGrid([]*form.Panel{p}, rapid.Float64Range(5, 30).Draw(t, "step"))
		n := rapid.IntRange(1, 6).Draw(t, "times")
		c, of := g.Coarser(n)
		require.Len(t, of, g.Count)
		var before, after float64
		for _, a := range g.Texels[0].Area {
			before += float64(a)
		}
		for _, a := range c.Texels[0].Area {
			after += float64(a)
		}
		assert.InEpsilon(t, before, after, 1e-4)
		for k, a := range g.Texels[0].Area {
			if a == 0 {
				continue
			}
			fine, coarse := g.Texels[0].Point(k), c.Texels[0].Point(int(of[k]))
			assert.LessOrEqual(t, math.Abs(fine[0]-coarse[0]), c.Step/2)
			assert.LessOrEqual(t, math.Abs(fine[2]-coarse[2]), c.Step/2)
		}
	})
}
