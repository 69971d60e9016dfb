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
	got := paint.Job{Area: 400, Film: 10, Coats: 1, Solids: 0.3, Thinner: 0.5, Fills: 1, Way: paint.Airbrush}.Need()
	assert.InDelta(t, 0.4/0.15+0.2, got.ML, 1e-12)
	assert.Equal(t, 58, got.Drops)
	assert.Equal(t, 29, got.Thinner)
}

func TestNeedGrowsWithCoatsAndVanishesWithoutSolids(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		area := rapid.Float64Range(1, 2000).Draw(t, "area")
		film := rapid.Float64Range(1, 50).Draw(t, "film")
		job := paint.Job{Area: area, Film: paint.Film(film), Coats: 1, Solids: 0.3, Thinner: 1, Fills: 1, Way: paint.Brush}
		twice, dry := job, job
		twice.Coats, dry.Solids = 2, 0
		one, two := job.Need(), twice.Need()
		assert.InEpsilon(t, 2*one.ML, two.ML, 1e-9)
		assert.Zero(t, dry.Need())
		assert.GreaterOrEqual(t, float64(one.Drops)*paint.Drop, one.ML-1e-6)
	})
}

func ExampleJob_Need() {
	a := paint.Job{Area: 650, Film: 10, Coats: 2, Solids: 0.3, Thinner: 0.5, Fills: 1, Way: paint.Airbrush}.Need()
	fmt.Printf("%.1f ml, %d drops of paint, %d of thinner\n", a.ML, a.Drops, a.Thinner)
	// Output: 8.9 ml, 178 drops of paint, 89 of thinner
}
