package form_test

import (
	"math"
	"strings"
	"testing"

	"cinderpath/core/form"
	"cinderpath/core/zone"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A part of any kind can be added to any outline, several times, and the body stays
// possible: each has a name of its own, shows on the vehicle, and is closed.
func TestAnyPartCanBeAddedToAnyOutline(t *testing.T) {
	for _, kind := range form.Kinds {
		for _, part := range form.PartKinds {
			b := form.NewBody(kind, 6000, 2800, 2400)
			before, err := form.Panels(b, form.Running{})
			require.NoError(t, err)
			for range 3 {
				b, err = b.With(part)
				require.NoError(t, err)
				require.NoError(t, b.Check(), "%s on %s", part, kind)
			}
			after, err := form.Panels(b, form.Running{})
			require.NoError(t, err)
			assert.Greater(t, len(after), len(before), "%s on %s is seen", part, kind)
			parts, err := form.Meshes(b, form.Running{})
			require.NoError(t, err)
			for _, p := range parts {
				assert.True(t, p.Mesh.Measure().Closed, "%s of %s", p.Zone, kind)
			}
		}
	}
	_, err := form.Body{}.With("sail")
	assert.ErrorContains(t, err, "no part")
	first, err := form.Body{}.With("hull")
	require.NoError(t, err)
	assert.NoError(t, first.Check(), "a first hull on nothing")
}

// What is added changes nothing of the body that it is added to.
func TestAddingLeavesTheOldBodyAlone(t *testing.T) {
	b := form.NewBody(form.Tracked, 6400, 3100, 2520)
	hulls, fittings := len(b.Hulls), len(b.Fittings)
	more, err := b.With("hull")
	require.NoError(t, err)
	more.Hulls[hulls].Width = 1
	boxed := b.WithFitting("box", "hull.deck", form.Vec{1500, 300, 1562})
	assert.Len(t, b.Hulls, hulls)
	assert.Len(t, b.Fittings, fittings)
	assert.Len(t, boxed.Fittings, fittings+1)
}

// Every kind of fitting goes on the deck where it is clicked, near the click.
func TestFittingsStandWhereOneClicks(t *testing.T) {
	for _, kind := range form.FittingKinds() {
		b := form.NewBody(form.TrackedRear, 6400, 3100, 2520).WithFitting(kind, "hull.deck", form.Vec{1700.4, 350.2, 1562.4})
		require.NoError(t, b.Check(), kind)
		f := b.Fittings[len(b.Fittings)-1]
		assert.True(t, strings.HasPrefix(f.ID, kind), f.ID)
		assert.Equal(t, 1700.0, f.At[0], "whole millimetres")
		panels, err := form.Panels(b, form.Running{})
		require.NoError(t, err)
		low, high, ok := form.Extent(panels, func(zone string) bool { return zone == "hull."+f.ID })
		require.True(t, ok, kind)
		assert.Less(t, math.Abs((low[0]+high[0])/2-1700), 1300.0, kind)
		assert.Less(t, math.Abs((low[1]+high[1])/2-350), 400.0, kind)
		assert.Greater(t, high[2], 1562.0, kind)
	}
	// A second one has another name.
	b := form.NewBody(form.Tracked, 6400, 3100, 2520)
	b = b.WithFitting(
		"box",
		"hull.deck",
		form.Vec{1700, 0, 1562},
	).WithFitting(
		"box",
		"hull.deck",
		form.Vec{1700, 700, 1562},
	)
	n := len(b.Fittings)
	assert.NotEqual(t, b.Fittings[n-1].ID, b.Fittings[n-2].ID)
	assert.NoError(t, b.Check())
}

// Faces of an imported body are named; others name themselves.
func TestOnlyImportedFacesAreNamed(t *testing.T) {
	_, err := box(4000, 2000, 900).WithName("hull.left", form.Vec{})
	assert.ErrorContains(t, err, "imported")
	shell, err := form.NewShell(welded(t, box(4000, 2000, 900)), 1)
	require.NoError(t, err)
	b := form.Body{Shell: shell}
	named, err := b.WithName("hull.door", form.Vec{0, 1000, 450})
	require.NoError(t, err)
	assert.Empty(t, b.Shell.Seeds, "the old body is left alone")
	panels, err := form.Panels(named, form.Running{})
	require.NoError(t, err)
	area := 0.0
	for _, p := range panels {
		if p.Zone == "hull.door" {
			area += p.Area()
		}
	}
	assert.InEpsilon(t, 4000*900, area, 1e-3)
}

// A cupola on a turret on an imported hull: its ring is held against the roof that it
// really stands on.
func TestCupolaOnATurretOnAShell(t *testing.T) {
	shell, err := form.NewShell(welded(t, box(4000, 2000, 900)), 1)
	require.NoError(t, err)
	b := form.Body{Shell: shell, Turrets: []form.Turret{
		{ID: "turret", On: "hull", Ring: 300, Height: 400, Plan: [][2]float64{{500, 400}, {-500, 400}}},
		{ID: "cupola", On: "turret", Ring: 100, Height: 150, Plan: [][2]float64{{120, 100}, {-120, 100}}}}}
	require.NoError(t, b.Check())
	panels, err := form.Panels(b, form.Running{})
	require.NoError(t, err)
	low, high, ok := form.Extent(panels, func(z string) bool { return zone.Part(z) == "cupola" })
	require.True(t, ok)
	assert.InDelta(t, 1300, low[2], 0.1)
	assert.InDelta(t, 1450, high[2], 0.1)
	b.Turrets[1].Y = 350
	assert.ErrorContains(t, b.Check(), "beyond the roof of turret")
}

// The zones of faces by where they look, for a hull whose every side leans.
func TestFacesAreNamedByWhereTheyLook(t *testing.T) {
	b := form.Body{
		Hulls: []form.Hull{
			{
				ID:      "hull",
				Width:   2000,
				InSide:  150,
				Profile: [][2]float64{{-2000, 500}, {1800, 400}, {2200, 700}, {1200, 1200}, {-1500, 1210}, {-2000, 900}},
			},
		},
	}
	panels, err := form.Panels(b, form.Running{})
	require.NoError(t, err)
	seen := map[string]int{}
	for _, p := range panels {
		seen[p.Zone]++
		switch p.Zone {
		case "hull.left":
			assert.Greater(t, p.Normal[1], 0.7)
		case "hull.right":
			assert.Less(t, p.Normal[1], -0.7)
		case "hull.glacis":
			assert.Positive(t, p.Normal[0])
		case "hull.rear":
			assert.Negative(t, p.Normal[0])
		case "hull.deck":
			assert.Greater(t, p.Normal[2], 0.9)
		case "hull.sponson":
			assert.Less(t, p.Normal[2], -0.9)
		}
		assert.Contains(t, []string{"upright", "sloped", "flat"}, p.Facing())
		fall := p.Fall()
		dot := fall[0]*p.Normal[0] + fall[1]*p.Normal[1] + fall[2]*p.Normal[2]
		assert.InDelta(t, 0, dot, 1e-9, "water runs along the face")
		assert.LessOrEqual(t, fall[2], 0.0, "and down")
	}
	assert.Equal(
		t,
		map[string]int{"hull.left": 1, "hull.right": 1, "hull.glacis": 2, "hull.rear": 2, "hull.deck": 1, "hull.sponson": 1},
		seen,
	)
}

// Mirrored fittings lie in zones of their own, which are each other's mirror image.
func TestMirroredFittingsMirror(t *testing.T) {
	b := box(4000, 2000, 800)
	b.Fittings = []form.Fitting{
		{
			ID:     "lamp",
			Kind:   "lamp",
			On:     "hull.deck",
			At:     form.Vec{1500, 600, 800},
			Size:   [3]float64{200, 180, 180},
			Turn:   20,
			Mirror: true,
		},
	}
	panels, err := form.Panels(b, form.Running{})
	require.NoError(t, err)
	part := func(zone string) (low, high form.Vec, area float64) {
		low, high, _ = form.Extent(panels, func(z string) bool { return z == zone })
		for _, p := range panels {
			if p.Zone == zone {
				area += p.Area()
			}
		}
		return low, high, area
	}
	lowL, highL, areaL := part("hull.lamp.left")
	lowR, highR, areaR := part("hull.lamp.right")
	assert.InEpsilon(t, areaL, areaR, 1e-9)
	assert.InDelta(t, lowL[1], -highR[1], 15, "within the corners of its strips")
	assert.InDelta(t, highL[1], -lowR[1], 15)
	assert.InDelta(t, lowL[0], lowR[0], 15)
}

// A gun turned up reaches as high as its length says.
func TestElevation(t *testing.T) {
	b := box(4000, 2000, 800)
	b.Guns = []form.Gun{{ID: "gun", On: "hull", X: 1000, Z: 1000, Barrel: [][2]float64{{0, 50}, {2000, 50}}}}
	for _, degrees := range []float64{-5, 0, 20, 60} {
		b.Guns[0].Elevation = degrees
		panels, err := form.Panels(b, form.Running{})
		require.NoError(t, err)
		_, high, ok := form.Extent(panels, func(zone string) bool { return zone == "gun" })
		require.True(t, ok)
		sin, cos := math.Sincos(degrees * math.Pi / 180)
		assert.InDelta(t, 1000+2000*max(sin, 0)+50*cos, high[2], 2, "%v°", degrees)
		assert.InDelta(t, 1000+2000*cos+50*math.Abs(sin), high[0], 2, "%v°", degrees)
	}
}
