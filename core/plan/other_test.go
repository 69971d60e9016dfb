package plan_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/measure"
	"cinderpath/core/plan"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// A single wheel, a section of a skirt and a fitting may have come from another vehicle: each has a zone and a
// colour of its own, all that covers the whole covers it too, and the rest stays as it was.
func TestAPartFromAnotherVehicle(t *testing.T) {
	b := tank(t)
	b.Body.Skirts = []form.Skirt{{
		ID: "skirt", Rear: -2000, Front: 2000, Base: 500, Top: 1050, Out: 1550, Thick: 6, Sections: 5,
	}}
	first := b.Wheels[slices.IndexFunc(b.Wheels, func(w gear.Wheel) bool { return w.Kind == "road" })]
	var d plan.Deriver
	n := float64(b.Scale)
	put := func(on string, x, y, z float64) string {
		before := len(b.Layers)
		after, err := d.Apply(workshop(), document.Item{Build: b}, []document.Edit{{
			Op: document.OtherPart, Place: &document.Place{What: "part", On: on, At: [3]float64{x / n, y / n, z / n}},
		}}, other(), monday)
		require.NoError(t, err)
		require.Len(t, after.Layers, before+1)
		i := slices.IndexFunc(after.Layers, func(l strata.Layer) bool {
			return !slices.ContainsFunc(b.Layers, func(o strata.Layer) bool { return o.ID == l.ID })
		})
		scheme := slices.IndexFunc(after.Layers, strata.Layer.IsScheme)
		assert.Greater(t, i, scheme)
		zones := after.Layers[i].Zones
		after.Layers[i].ID = on + zones[0]
		b = after
		require.Len(t, zones, 1)
		return zones[0]
	}
	side := zone.Gear(zone.Right, "road")
	wheel := put(side, first.X, -1200, first.Z)
	assert.Equal(t, zone.Numbered(side, 1), wheel, "the first from the front")
	assert.True(t, zone.Under(wheel, side))
	skirt := put("hull.skirt.left", -1900, 1550, 800)
	assert.Equal(t, "hull.skirt.left.5", skirt)
	assert.Equal(t, "hull.grille", put("hull.grille", 0, 0, 0), "a fitting is a zone already")

	all, err := d.LandingOf(workshop(), b)
	require.NoError(t, err)
	area := map[string]float64{}
	p := planOf(t, b)
	for _, z := range p.Zones {
		area[z.Zone] = z.AreaCM
	}
	for _, z := range []string{wheel, skirt} {
		require.Positive(t, area[z], z)
		for _, l := range all.Layers {
			if l.ID == side+z || l.ID == "hull.skirt.left"+z {
				assert.InDelta(t, 1, l.Zones[z].Share, 1e-6)
				assert.Len(t, l.Zones, 1, "nothing else is painted")
			}
		}
	}
	assert.InEpsilon(t, area["hull.skirt.right"], area["hull.skirt.left"]+area[skirt], 0.02, "one of five sections")
	assert.InEpsilon(t, area["hull.skirt.right"]/5, area[skirt], 0.1)
	assert.Equal(t, "running gear, road wheel 1 right", zone.Words(wheel))
	sound(t, p)
	_, err = d.Apply(workshop(), document.Item{Build: b}, []document.Edit{{
		Op:    document.OtherPart,
		Place: &document.Place{What: "part", On: side, At: [3]float64{first.X / n, -1200 / n, first.Z / n}},
	}}, other(), monday)
	require.ErrorContains(t, err, "colour of its own already")
}

// A part may wear the whole scheme of the vehicle that it came from: each colour has its share of the part and lies
// nowhere else, and none of the vehicle's own crosses onto it.
func TestAPartWearsTheSchemeOfAnotherVehicle(t *testing.T) {
	b := tank(t)
	b.Body.Skirts = []form.Skirt{{
		ID: "skirt", Rear: -2000, Front: 2000, Base: 500, Top: 1050, Out: 1550, Thick: 6, Sections: 2,
	}}
	var d plan.Deriver
	n := float64(b.Scale)
	apply := func(e document.Edit) (document.Build, error) {
		return d.Apply(workshop(), document.Item{Build: b}, []document.Edit{e}, other(), monday)
	}
	after, err := apply(document.Edit{
		Op:    document.OtherPart,
		Place: &document.Place{What: "part", On: "hull.skirt.left", At: [3]float64{-1500 / n, 1550 / n, 800 / n}},
	})
	require.NoError(t, err)
	layers := len(b.Layers)
	b = after
	part := "hull.skirt.left.2"
	its := scheme.Pattern{Width: 400, Feather: 0, Seed: 3, Colours: []scheme.Colour{
		{Name: "sand", Hex: "#c2ab7a"}, {Name: "rust red", Hex: "#7a4f3d", Share: 0.4, Family: scheme.Blotches, Width: 300},
	}}
	before := len(b.Scheme.Colours)
	after, err = apply(document.Edit{Op: document.OtherScheme, Zone: part, Scheme: &its})
	require.NoError(t, err)
	assert.Len(t, after.Layers, layers, "its one colour is gone")
	require.Len(t, after.Scheme.Colours, before+2)
	p := planOf(t, after)
	found := false
	for _, z := range p.Zones {
		for c, share := range z.Shares {
			switch {
			case z.Zone == part && c < before:
				assert.InDelta(t, 0, float64(share), 0.005, "%s crosses onto it", after.Scheme.Colours[c].Name)
			case z.Zone == part:
				found = true
				assert.InDelta(t, []float64{0.6, 0.4}[c-before], float64(share), 0.03, after.Scheme.Colours[c].Name)
			case c >= before:
				assert.InDelta(t, 0, float64(share), 1e-9, "%s on %s", after.Scheme.Colours[c].Name, z.Zone)
			}
		}
	}
	assert.True(t, found)
	for _, bad := range []struct {
		field string
		edit  document.Edit
	}{
		{"zone", document.Edit{Op: document.OtherScheme, Zone: "hull.left", Scheme: &its}},
		{"scheme", document.Edit{Op: document.OtherScheme, Zone: part, Scheme: &scheme.Pattern{
			Width: 400, Colours: slices.Repeat(its.Colours[:1], scheme.MostColours),
		}}},
	} {
		_, err := apply(bad.edit)
		var fault *measure.Fault
		require.ErrorAs(t, err, &fault)
		assert.Equal(t, bad.field, fault.Field, fault.Reason)
	}
}
