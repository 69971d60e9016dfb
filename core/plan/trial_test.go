package plan_test

import (
	"image"
	"math"
	"testing"

	"cinderpath/core/colour"
	"cinderpath/core/plan"
	"cinderpath/core/strata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// covered is the part of a card that is covered, beside a bare one: points that are covered in part count
// so far.
func covered(bare, card image.Image) float64 {
	sum, most, all := 0.0, 0.0, 0
	each(bare, func(x, y int) {
		all++
		d := math.Abs(float64(light(card.At(x, y)) - light(bare.At(x, y))))
		sum, most = sum+d, max(most, d)
	})
	return sum / most / float64(all)
}

// A card shows the share that the layer has where it lands, and too little and too much of it beside; all
// at the model's size. What needs no trial says so.
func TestATrialCardShowsRightTooLittleAndTooMuch(t *testing.T) {
	var d plan.Deriver
	few, share := 0.0, 0.06
	b := worn(
		t,
		strata.Layer{Kind: strata.Splash, Name: "none", Amount: &few},
		strata.Layer{Kind: strata.Splash, Name: "some", Amount: &share},
		strata.Layer{Kind: strata.Dust, Name: "mist"},
		strata.Layer{Kind: strata.Streaks, Name: "streaks"},
		strata.Layer{Kind: strata.RubClean},
	)
	card := func(name string) plan.Trial {
		c, err := d.TrialOf(workshop(), b, name)
		require.NoError(t, err, name)
		require.Len(t, c.Cards, 3)
		return c
	}
	bare := card("x splashnone").Cards[1].Image
	size := bare.Bounds().Size()
	some := card("x splashsome")
	assert.InDelta(t, some.Wide/some.High, float64(size.X)/float64(size.Y), 0.02)
	assert.InDelta(t, share, covered(bare, some.Cards[1].Image), 0.02)
	for _, name := range []string{"x splashsome", "x dustmist", "x streaksstreaks"} {
		c := card(name).Cards
		less, more := difference(bare, c[0].Image), difference(bare, c[2].Image)
		assert.Less(t, 1.5*less, difference(bare, c[1].Image), name)
		assert.Less(t, 1.3*difference(bare, c[1].Image), more, name)
	}
	_, err := d.TrialOf(workshop(), b, "x rub_clean")
	assert.ErrorContains(t, err, "needs no trial")
	_, err = d.TrialOf(workshop(), b, "nobody")
	assert.ErrorContains(t, err, "none of that id")
}

// difference sums up by how much two cards differ.
func difference(a, b image.Image) (sum float64) {
	each(a, func(x, y int) {
		d := light(a.At(x, y)) - light(b.At(x, y))
		sum += float64(d * d)
	})
	return sum
}

// What is worked wet looks darker while it is than it dries, and the step says when to judge it; oil that
// dries satin less so than a matt wash, and what is sprayed dry says nothing.
func TestAWetLayerTellsWhatItDriesTo(t *testing.T) {
	p := planOf(t, worn(
		t,
		strata.Layer{Kind: strata.Wash, Name: "wash", Hex: "#3b2f25"},
		strata.Layer{Kind: strata.Chips, Name: "chips"},
	))
	told := func(kind strata.Kind) []plan.Forecast {
		for _, s := range p.Steps {
			if s.Kind == string(kind) {
				return s.Forecast
			}
		}
		return nil
	}
	wash := told(strata.Wash)
	require.Len(t, wash, 1)
	assert.Contains(t, wash[0].Words, "judge it after 2 h")
	wet, dry := colour.Of(wash[0].From).Lab(), colour.Of(wash[0].To).Lab()
	assert.Less(t, wet[0], dry[0]-1)
	assert.Empty(t, told(strata.Chips))
}
