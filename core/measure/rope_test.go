package measure_test

import (
	"math"
	"testing"

	"cinderpath/core/measure"
	"cinderpath/core/unit"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Strands of diameter 1 that touch each other round a middle: the smallest circle
// around the outermost is found by the distance of their centres, not by formula.
func TestOuterEnclosesTouchingStrands(t *testing.T) {
	ring := func(n int) float64 { return 1 / (2 * math.Sin(math.Pi/float64(n))) } // radius of the centres
	for n, want := range map[int]float64{2: 2*ring(2) + 1, 3: 2*ring(3) + 1, 4: 2*ring(4) + 1, 7: 2*ring(6) + 1, 19: 2*2 + 1} {
		got, ok := measure.Outer(n)
		require.True(t, ok)
		assert.InDelta(t, want, got, 1e-12, "%d strands", n)
	}
	_, ok := measure.Outer(5)
	assert.False(t, ok)
}

// A strand's length against the same helix walked in small steps.
func TestStrandLengthIsTheHelix(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.SampledFrom(measure.Strands).Draw(t, "strands")
		d := rapid.Float64Range(0.05, 1).Draw(t, "d")
		lay := rapid.Float64Range(2, 12).Draw(t, "lay")
		count := 0
		for _, l := range measure.RopeLayers(n, d, lay, 100) {
			count += l.Count
			walked, r := 0.0, l.Circle/2
			const steps = 20000
			at := func(i int) (x, y, z float64) {
				z = 100 * float64(i) / steps
				sin, cos := math.Sincos(2 * math.Pi * z / lay)
				return r * cos, r * sin, z
			}
			for i := range steps {
				x0, y0, z0 := at(i)
				x1, y1, z1 := at(i + 1)
				walked += math.Sqrt((x1-x0)*(x1-x0) + (y1-y0)*(y1-y0) + (z1-z0)*(z1-z0))
			}
			assert.InEpsilon(t, walked, l.Cut, 1e-4)
		}
		assert.Equal(t, n, count)
	})
}

func TestRopePrefersWhatFollowsTheBend(t *testing.T) {
	a, err := measure.AskRope(measure.RopeQuestion{Diameter: "28", Bend: "2", Scale: "1:35"})
	require.NoError(t, err)
	require.NotEmpty(t, a.Ways)
	assert.Equal(t, measure.Thread, a.Ways[0].Item.Kind, "wire rope of 0.8 mm needs 4.8 mm")
	assert.True(t, a.Ways[0].BendsOK)
	a, err = measure.AskRope(measure.RopeQuestion{Diameter: "28", Bend: "0.1", Scale: "1:35"})
	require.NoError(t, err)
	assert.Contains(t, a.Notes[0], "None of these follows")
	a, err = measure.AskRope(measure.RopeQuestion{Diameter: "28", Scale: "1:35", Owned: true})
	require.NoError(t, err)
	assert.Empty(t, a.Ways)
	assert.Contains(t, a.Notes[0], "look beyond what you own")
	for field, q := range map[string]measure.RopeQuestion{"diameter": {Scale: "1:35"}, "length": {Diameter: "28", Length: "long", Scale: "1:35"}, "lay": {Diameter: "28", Lay: 1, Scale: "1:35"}, "bend": {Diameter: "28", Bend: "-1", Scale: "1:35"}, "scale": {Diameter: "28"}} {
		_, err := measure.AskRope(q)
		assert.ErrorContains(t, err, field)
	}
}

// A boring sequence rises, ends at the final drill, and no step is wider than the
// rule allows unless the table has nothing between.
func TestBoringStepsKeepTheRule(t *testing.T) {
	drills := measure.Shelf{}.Of(false, measure.Drill)
	rapid.Check(t, func(t *rapid.T) {
		final := rapid.SampledFrom(drills).Draw(t, "final")
		steps := measure.Boring(drills, final)
		require.NotEmpty(t, steps)
		assert.Equal(t, final.ID, steps[len(steps)-1].ID)
		most := max(0.2, float64(final.Size)/4)
		assert.LessOrEqual(t, float64(steps[0].Size), max(0.3, most)+1e-9)
		for i := 1; i < len(steps); i++ {
			rise := float64(steps[i].Size - steps[i-1].Size)
			assert.Positive(t, rise)
			if rise > most+1e-6 {
				for _, d := range drills {
					assert.False(t, d.Size > steps[i-1].Size+0.001 && d.Size < steps[i].Size-0.001, "%s lies between", d.Name)
				}
			}
		}
	})
}

func TestDrillWarnsOfThinWalls(t *testing.T) {
	a, err := measure.AskDrill(measure.DrillQuestion{Hole: "75 mm", Outer: "2.6 mm", Scale: "1:35"})
	require.NoError(t, err)
	last := a.Steps[len(a.Steps)-1]
	assert.InDelta(t, (2.6-float64(last.Item.Size))/2, last.Wall, 1e-9)
	assert.Contains(t, last.Warn, "below 0.3 mm")
	assert.True(t, a.Steps[0].Pilot)
	metal, err := measure.AskDrill(measure.DrillQuestion{Hole: "75 mm", Outer: "2.6 mm", Metal: true, Scale: "1:35"})
	require.NoError(t, err)
	assert.Empty(t, metal.Steps[len(metal.Steps)-1].Warn, "0.22 mm of metal holds")
	row, err := measure.AskDrill(measure.DrillQuestion{Hole: "12 mm", Count: 190, Scale: "1:35"})
	require.NoError(t, err)
	assert.Equal(t, unit.Minutes(190*0.75), row.Minutes)
	assert.Equal(t, "2 h 23 min", row.Time)
	assert.Contains(t, row.Notes[0], "spare")
	for field, q := range map[string]measure.DrillQuestion{"hole": {Scale: "1:35"}, "outer": {Hole: "75", Outer: "2", Scale: "1:35"}, "count": {Hole: "75", Count: -1, Scale: "1:35"}, "minutes": {Hole: "75", Minutes: -1, Scale: "1:35"}} {
		_, err := measure.AskDrill(q)
		assert.ErrorContains(t, err, field)
	}
	far, err := measure.AskDrill(measure.DrillQuestion{Hole: "2 m", Scale: "1:35"})
	require.NoError(t, err)
	assert.Empty(t, far.Steps)
	assert.Contains(t, far.Notes[0], "No drill near")
}
