package plan_test

import (
	"math"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/measure"
	"cinderpath/core/plan"
	"cinderpath/core/vehicle"
	"cinderpath/core/zone"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Parts are added, fittings placed at the model's size, rows set, arms given: the edits
// that the rooms send.
func TestShapingEdits(t *testing.T) {
	b := tank(t)
	hulls, fittings := len(b.Body.Hulls), len(b.Body.Fittings)
	next := edited(
		t,
		b,
		document.Edit{Op: document.AddPart, Text: "hull"},
		document.Edit{
			Op:    document.AddFitting,
			Place: &document.Place{What: "box", On: "hull.deck", At: [3]float64{48, 10, 44.6}},
		},
	)
	assert.Len(t, next.Body.Hulls, hulls+1)
	require.Len(t, next.Body.Fittings, fittings+1)
	at := next.Body.Fittings[fittings].At
	assert.InDelta(t, 48*35, at[0], 0.5, "model mm become real ones")
	p := planOf(t, next)
	found := false
	for _, z := range p.Zones {
		found = found || z.Zone == "hull."+next.Body.Fittings[fittings].ID
		assert.InDelta(t, z.AreaCM, z.Upright+z.Sloped+z.Flat, 3e-4, "%s lies in some way", z.Zone)
	}
	assert.True(t, found)

	row := edited(t, b, document.Edit{Op: document.SetRow, Row: &document.Row{Count: 5, Spacing: 800, Diameter: 640}})
	road := 0
	for _, w := range row.Wheels {
		if w.Kind == gear.Road {
			road++
			assert.InDelta(t, 320, w.Radius, 1e-9)
		}
	}
	assert.Equal(t, 5, road)

	// An arm that is asked for and not described is a common one.
	bare := append([]gear.Wheel(nil), b.Wheels...)
	for i := range bare {
		bare[i].Arm = nil
	}
	bare[1].Arm = &gear.Arm{}
	armed := edited(t, b, document.Edit{Op: document.SetWheels, Wheels: bare})
	require.NotNil(t, armed.Wheels[1].Arm)
	assert.Equal(t, *gear.CommonArm(bare[1]), *armed.Wheels[1].Arm)
	assert.Nil(t, armed.Wheels[2].Arm)

	for want, e := range map[string]document.Edit{
		"no part":         {Op: document.AddPart, Text: "sail"},
		"carries nothing": {Op: document.AddFitting},
		"imported":        {Op: document.NameFace, Place: &document.Place{What: "hull.left"}},
		"give 1 to 20":    {Op: document.SetRow, Row: &document.Row{Count: 99, Spacing: 1, Diameter: 1}},
		"no fitting":      {Op: document.AddFitting, Place: &document.Place{What: "sofa", On: "hull.deck", At: [3]float64{48, 10, 44.6}}},
		"lies beside":     {Op: document.AddFitting, Place: &document.Place{What: "box", On: "hull.deck", At: [3]float64{480, 10, 44.6}}},
	} {
		_, err := applied(b, []document.Edit{e}, ids())
		var fault *measure.Fault
		require.ErrorAs(t, err, &fault, want)
		assert.Contains(t, fault.Error(), want)
		assert.NotEmpty(t, fault.Field)
		assert.NotEmpty(t, fault.Remedy, want)
	}
}

// A vehicle of another size keeps its fittings on their faces and its wheels on the ground.
func TestResizingKeepsTheVehicleWhole(t *testing.T) {
	b := tank(t)
	for _, e := range []document.Edit{{Op: document.SetLength, Text: "8.1 m"}, {Op: document.SetWidth, Text: "2.7 m"}, {Op: document.SetHeight, Text: "2.1 m"}, {Op: document.SetHeight, Text: "3.4 m"}} {
		next := edited(t, b, e)
		assert.Len(t, next.Body.Fittings, len(b.Body.Fittings))
		for i, w := range next.Wheels {
			if a := b.Wheels[i].Arm; a != nil {
				require.NotNil(t, w.Arm)
				assert.Equal(t, a.Up, w.Arm.Up)
				k := w.Radius / b.Wheels[i].Radius
				assert.InEpsilon(t, a.Z*k, w.Arm.Z, 1e-9, "the arm grows as its wheel does")
			}
		}
		panels, err := vehicle.Panels(next)
		require.NoError(t, err)
		low, high, ok := form.Extent(panels, func(z string) bool { return zone.Part(z) == "hull" || zone.Part(z) == "gear" })
		require.True(t, ok)
		assert.InDelta(t, next.Sizes.Width.MM, high[1]-low[1], 0.02*next.Sizes.Width.MM, e.Text)
	}
}

// The sheets that there is something on.
func TestSheetsOfABuild(t *testing.T) {
	b := tank(t)
	assert.Equal(t, []string{"views", "track-jig", "wheel-masks", "guide", "masks", "crossings"}, planOf(t, b).Sheets)
	assert.Equal(
		t,
		[]string{"views", "track-jig", "wheel-masks", "arms", "guide", "masks", "crossings"},
		planOf(t, edited(t, b, document.Edit{Op: document.SetUneven})).Sheets,
	)
	assert.Equal(
		t,
		[]string{"views", "wheel-masks", "guide", "masks", "crossings"},
		planOf(t, edited(t, b, document.Edit{Op: document.SetOutline, Text: string(form.Wheeled6)})).Sheets,
	)
	steel := append([]gear.Wheel(nil), b.Wheels...)
	for i := range steel {
		steel[i].Steel = true
	}
	assert.Equal(
		t,
		[]string{"views", "track-jig", "guide", "masks", "crossings"},
		planOf(t, edited(t, b, document.Edit{Op: document.SetWheels, Wheels: steel})).Sheets,
	)
}

// What turns in space is what the plate shows: the same zones, the same area, the same
// box, and every corner of a face has a place on the painted sheet that is its own.
func TestTheTurningVehicleIsTheOneOnThePlate(t *testing.T) {
	b := tank(t)
	var d plan.Deriver
	s, err := d.Solid(b)
	require.NoError(t, err)
	p := planOf(t, b)
	zones := map[string]bool{}
	for _, z := range s.Zones {
		zones[z] = true
	}
	painted := 0.0
	for _, z := range p.Zones {
		assert.True(t, zones[z.Zone], z.Zone)
		painted += z.AreaCM
	}
	area := 0.0
	for i := range s.Of {
		at := func(k int) form.Vec {
			c := s.Positions[9*i+3*k:]
			return form.Vec{float64(c[0]), float64(c[1]), float64(c[2])}
		}
		x, y, z := at(0), at(1), at(2)
		u, v := form.Vec{y[0] - x[0], y[1] - x[1], y[2] - x[2]}, form.Vec{z[0] - x[0], z[1] - x[1], z[2] - x[2]}
		n := form.Vec{u[1]*v[2] - u[2]*v[1], u[2]*v[0] - u[0]*v[2], u[0]*v[1] - u[1]*v[0]}
		area += hypot(n) / 2
		// Seen from outside it turns counter-clockwise.
		assert.GreaterOrEqual(
			t,
			n[0]*float64(s.Normals[9*i])+n[1]*float64(s.Normals[9*i+1])+n[2]*float64(s.Normals[9*i+2]),
			-1e-6,
		)
	}
	assert.InEpsilon(t, painted, area/100, 1e-3)
	assert.InDelta(t, 3100.0/35, s.High[2]-s.Low[2], 2)
	again, err := d.Solid(b)
	require.NoError(t, err)
	assert.Equal(t, s, again)
}

func hypot(v form.Vec) float64 { return math.Sqrt(v[0]*v[0] + v[1]*v[1] + v[2]*v[2]) }
