package paint_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"cinderpath/core/colour"
	"cinderpath/core/paint"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// taken is a photograph by chance: one of three lamps, falling off to a side, tone bent by
// printer and camera, each field with its own noise.
func taken(r *rand.Rand, at [2]float64, inks [3]float64, noise float64) ([]paint.Photographed, paint.Photographed) {
	lamps := [][3]float64{{0.62, 0.62, 0.62}, {0.75, 0.55, 0.33}, {0.45, 0.58, 0.72}}
	lamp := lamps[r.IntN(3)]
	fall := [5]float64{
		0.4 * r.NormFloat64(),
		0.4 * r.NormFloat64(),
		0.3 * r.NormFloat64(),
		0.2 * r.NormFloat64(),
		0.3 * r.NormFloat64(),
	}
	tone := 0.9 + 0.2*r.Float64()
	see := func(at [2]float64, part [3]float64) (out paint.Photographed) {
		x, y := at[0]-0.5, at[1]-0.5
		light := fall[0]*x + fall[1]*y + fall[2]*x*x + fall[3]*x*y + fall[4]*y*y
		for c := range out {
			out[c] = lamp[c] * math.Exp(light+tone*math.Log(part[c])+noise*r.NormFloat64())
		}
		return out
	}
	var fields []paint.Photographed
	for _, f := range paint.Card() {
		fields = append(fields, see(f.At, [3]float64{f.Part, f.Part, f.Part}))
	}
	return fields, see(at, inks)
}

// A thousand photographs: the colour lies within the interval that is told in 95 of 100, in
// lightness and in both colours.
func TestAPhotographTellsHowSureItIs(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 5))
	within, all, worst := [3]int{}, 0, 0.0
	for all < 1000 {
		lab := colour.Lab{25 + 55*r.Float64(), 40 * (r.Float64() - 0.5), 50 * (r.Float64() - 0.5)}
		light := lab.XYZ().Linear()
		var part [3]float64
		bad := false
		for c := range part {
			part[c] = light[c] / 0.86
			bad = bad || part[c] < 0.004 || part[c] > 0.95
		}
		if bad {
			continue
		}
		at := [2]float64{0.3 + 0.4*r.Float64(), 0.3 + 0.4*r.Float64()}
		fields, sample := taken(r, at, part, 0.015)
		told, err := paint.Evened(fields, at, sample)
		if err != nil {
			continue // overexposed: told as such
		}
		all++
		worst = max(worst, colour.Difference(lab, told.Lab))
		for k := range within {
			if math.Abs(told.Lab[k]-lab[k]) <= told.Sure[k] {
				within[k]++
			}
		}
	}
	require.Greater(t, all, 500)
	for k, n := range within {
		share := 100 * float64(n) / float64(all)
		assert.Greater(t, share, 93.0, "coordinate %d of %d photographs", k, all)
		assert.Less(t, share, 97.0, "coordinate %d of %d photographs", k, all)
	}
	t.Logf("of %d photographs within: %v, farthest ΔE00 %.1f", all, within, worst)
}

func TestAPhotographThatTellsNothingIsRefused(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	fields, sample := taken(r, [2]float64{0.5, 0.5}, [3]float64{0.2, 0.2, 0.2}, 0.01)
	_, err := paint.Evened(fields[:4], [2]float64{0.5, 0.5}, sample)
	require.ErrorContains(t, err, "4 of the card's 16 fields")
	burnt := append([]paint.Photographed{}, fields...)
	burnt[3] = paint.Photographed{1, 1, 1}
	_, err = paint.Evened(burnt, [2]float64{0.5, 0.5}, sample)
	require.ErrorContains(t, err, "overexposed")
	flat := append([]paint.Photographed{}, fields...)
	for i := range flat {
		flat[i] = paint.Photographed{0.5, 0.5, 0.5}
	}
	_, err = paint.Evened(flat, [2]float64{0.5, 0.5}, sample)
	require.ErrorContains(t, err, "do not get darker")
}
