package form_test

import (
	"math"
	"testing"

	"cinderpath/core/form"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Whatever is dragged comes to lie where it was let go, to the step, and nothing else moves.
func TestADraggedPointLiesWhereItIsLetGo(t *testing.T) {
	b := form.NewBody(form.Tracked, 6400, 3100, 2520)
	panels, err := form.Panels(b, form.Running{})
	require.NoError(t, err)
	views := form.Views(panels, 35)
	for _, c := range []struct {
		name, part string
		side       form.Side
	}{{"a corner of a hull", "hull", form.Left}, {"a corner of a turret", "turret", form.Top}, {"a pivot", "gun", form.Left}, {"a fitting", "shovel", form.Top}, {"the bend of a fender", b.Fenders[0].ID, form.Left}} {
		t.Run(c.name, func(t *testing.T) {
			var grip form.Grip
			for _, g := range b.Grips(c.part, views, 35) {
				if g.Side == c.side {
					grip = g
				}
			}
			require.NotEmpty(t, grip.Points)
			to := [2]float64{grip.Points[0][0] + 3.3, grip.Points[0][1] - 4.1}
			moved, err := b.Dragged(form.Drag{Part: c.part, Side: c.side, Point: 0, To: to, Step: 10}, views, 35)
			require.NoError(t, err)
			var after form.Grip
			for _, g := range moved.Grips(c.part, views, 35) {
				if g.Side == c.side {
					after = g
				}
			}
			assert.InDelta(t, to[0], after.Points[0][0], 0.7, "across, to a step or a neighbour")
			assert.InDelta(t, to[1], after.Points[0][1], 0.7, "down")
			for i, p := range grip.Points[1:] {
				assert.InDelta(t, 0, math.Hypot(p[0]-after.Points[i+1][0], p[1]-after.Points[i+1][1]), 1e-9)
			}
			again := b.Grips(c.part, views, 35)
			for _, g := range again {
				if g.Side == c.side {
					assert.Equal(t, grip, g, "the body that was dragged is untouched")
				}
			}
		})
	}
	_, err = b.Dragged(form.Drag{Part: "hull", Side: form.Top, Step: 10}, views, 35)
	assert.ErrorContains(t, err, "no point")
	_, err = b.Dragged(form.Drag{Part: "hull", Side: form.Left, Step: 0}, views, 35)
	assert.ErrorContains(t, err, "step")
}
