package paint_test

import (
	"fmt"
	"testing"

	"cinderpath/core/paint"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// 400 cm² at 10 µm is 0.4 ml of dry film; at 30 % solids and half lost that is
// 2.667 ml, and 0.3 ml of 1 : 0.5 mix left in the cup holds 0.2 ml of paint.
func TestNeedWorkedByHand(t *testing.T) {
	got := paint.Need(400, 10, 1, 0.3, 0.5, paint.Airbrush)
	assert.InDelta(t, 0.4/0.15+0.2, got.ML, 1e-12)
	assert.Equal(t, 58, got.Drops)
	assert.Equal(t, 29, got.Thinner)
}

func TestNeedGrowsWithCoatsAndVanishesWithoutSolids(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		area := rapid.Float64Range(1, 2000).Draw(t, "area")
		film := rapid.Float64Range(1, 50).Draw(t, "film")
		one, two := paint.Need(area, film, 1, 0.3, 1, paint.Brush), paint.Need(area, film, 2, 0.3, 1, paint.Brush)
		assert.InEpsilon(t, 2*one.ML, two.ML, 1e-9)
		assert.Zero(t, paint.Need(area, film, 1, 0, 1, paint.Brush))
		assert.GreaterOrEqual(t, float64(one.Drops)*paint.Drop, one.ML-1e-6)
	})
}

func ExampleNeed() {
	a := paint.Need(650, 10, 2, 0.3, 0.5, paint.Airbrush)
	fmt.Printf("%.1f ml, %d drops of paint, %d of thinner\n", a.ML, a.Drops, a.Thinner)
	// Output: 8.9 ml, 178 drops of paint, 89 of thinner
}
