package landing

import (
	"math/rand/v2"
	"testing"

	"cinderpath/core/form"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// slab is the top of a box, for rain to fall on.
func slab(low, high form.Vec) (out []*form.Panel) {
	top := &form.Panel{Zone: "top", Name: "top"}
	top.Normal, top.Origin = form.Vec{0, 0, 1}, form.Vec{0, 0, high[2]}
	top.U, top.V = form.Vec{1, 0, 0}, form.Vec{0, 1, 0}
	top.Pieces = [][]form.Vec{{
		{low[0], low[1], high[2]}, {high[0], low[1], high[2]}, {high[0], high[1], high[2]}, {low[0], high[1], high[2]},
	}}
	return append(out, top)
}

// What falls is kept or drained, to the last drop; a tray keeps what its rim holds, a plate most in its
// middle, and next to nothing where it drains.
func TestRainIsKeptOrDrained(t *testing.T) {
	plate := slab(form.Vec{-1000, -500, 0}, form.Vec{1000, 500, 800})
	var rim []*form.Panel
	for _, wall := range [][2]form.Vec{
		{{-1000, -500, 0}, {1000, -440, 900}}, {{-1000, 440, 0}, {1000, 500, 900}},
		{{-1000, -500, 0}, {-940, 500, 900}}, {{940, -500, 0}, {1000, 500, 900}},
	} {
		rim = append(rim, slab(wall[0], wall[1])...)
	}
	sums := func(panels []*form.Panel) (w *water, middle, border float64) {
		w = raining(panels)
		all := w.drained
		for _, k := range w.kept {
			require.GreaterOrEqual(t, k, 0.0)
			all += k
		}
		assert.InEpsilon(t, w.fell, all, 1e-6, "nothing is lost")
		inner, outer := 0.0, 0.0
		for y := -400.0; y <= 400; y += 20 {
			for x := -800.0; x <= 800; x += 20 {
				middle += w.kept[w.at(x, y)]
				inner++
			}
			for _, x := range []float64{-990, 990} {
				border += w.kept[w.at(x, y)]
				outer++
			}
		}
		return w, middle / inner, border / outer
	}
	_, middle, border := sums(plate)
	assert.Greater(t, middle, 0.1)
	assert.Less(t, border, middle/2)
	w, inside, _ := sums(append(plate, rim...))
	assert.Greater(t, inside, 3.9, "all that falls into the tray stays")
	assert.Less(t, w.drained, 0.25*w.fell)

	// Whatever stands on it.
	random := rand.New(rand.NewPCG(1, 2))
	for range 20 {
		panels := plate
		for range 1 + random.IntN(12) {
			x, y := random.Float64()*1600-800, random.Float64()*800-400
			panels = append(
				panels,
				slab(
					form.Vec{x, y, 0},
					form.Vec{x + 60 + 300*random.Float64(), y + 60 + 200*random.Float64(), 810 + 300*random.Float64()},
				)...)
		}
		sums(panels)
	}
}
