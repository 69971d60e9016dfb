package plan_test

import (
	"math"
	"strings"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/measure"
	"cinderpath/core/vehicle"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func fact(g *vehicle.GearLine, name string) vehicle.RunLine {
	for _, f := range g.Facts {
		if f.Name == name {
			return f
		}
	}
	return vehicle.RunLine{}
}

func edited(t testing.TB, b document.Build, edits ...document.Edit) document.Build {
	next, err := applied(b, edits, ids())
	require.NoError(t, err)
	return next
}

// Each make of track asks for something else: time, drill and wire, stretch and glue.
func TestWhatTheMakeOfATrackAsksFor(t *testing.T) {
	b := tank(t)
	with := func(change func(*gear.Link)) *vehicle.GearLine {
		link := b.Link
		change(&link)
		return planOf(t, edited(t, b, document.Edit{Op: document.SetLink, Link: &link})).Gear
	}
	single := with(func(l *gear.Link) { l.Minutes, l.Supplied = 1, 200 })
	n := single.Links
	assert.Equal(t, spell(2*n)+" for both sides", fact(single, "assembling").Words)
	assert.Contains(t, fact(single, "spare").Words, "links on both sides")

	pinned := with(func(l *gear.Link) { l.Make, l.Pin = gear.Pinned, 0.5 })
	assert.Contains(t, fact(pinned, "pins").Words, "drill 0.5")
	assert.Contains(t, fact(pinned, "pins").Words, "wire")
	assert.Contains(t, fact(with(func(l *gear.Link) { l.Make = gear.Pinned }), "pins").Words, "measure a pin hole")

	// A band a hundredth shorter than the loop stretches by a hundredth; one a tenth shorter is told.
	loop := 0.0
	for _, r := range single.Runs {
		assert.NotEmpty(t, r.Why.Formula)
	}
	taut, err := gear.Taut(b.Wheels, b.Link)
	require.NoError(t, err)
	loop = taut.Length / 35
	band := with(func(l *gear.Link) { l.Make, l.Band = gear.Band, loop/1.01 })
	assert.Contains(t, fact(band, "band").Words, "stretch by 1.0 %")
	assert.False(t, fact(band, "band").Tight)
	assert.True(t, fact(with(func(l *gear.Link) { l.Make, l.Band = gear.Band, loop/1.1 }), "band").Tight)
	assert.Contains(t, fact(with(func(l *gear.Link) { l.Make, l.Band = gear.Band, loop+3 }), "band").Words, "too long")
	assert.Contains(t, fact(band, "glue down").Words, "return roller")
}

func spell(minutes int) string {
	if minutes < 60 {
		return strings.TrimSpace(string(rune('0'+minutes/10))+string(rune('0'+minutes%10))) + " min"
	}
	return string(
		rune('0'+minutes/60),
	) + " h " + string(
		rune('0'+minutes%60/10),
	) + string(
		rune('0'+minutes%60%10),
	) + " min"
}

// Uneven ground bends arms, lengthens the track, makes a template; level again, all is
// as it was.
func TestGroundUnderABuild(t *testing.T) {
	b := tank(t)
	before := planOf(t, b)
	_, err := vehicle.ArmsOf(b)
	assert.ErrorContains(t, err, "level")
	rough := edited(
		t,
		b,
		document.Edit{Op: document.SetGround, Ground: gear.Terrain{{-2500, 0}, {-700, 110}, {500, -60}, {2500, 30}}},
	)
	after := planOf(t, rough)
	require.Len(t, after.Gear.Arms, 6)
	lifted := 0.0
	for i, w := range rough.Wheels {
		if w.Kind == gear.Road {
			lifted = max(lifted, math.Abs(after.Gear.Stand[i][1]-w.Z))
		}
	}
	assert.Greater(t, lifted, 20.0, "a wheel moved")
	sheet, err := vehicle.ArmsOf(rough)
	require.NoError(t, err)
	for _, a := range sheet.Arms {
		assert.InDelta(
			t,
			math.Hypot(a.Rest[0]-a.Pivot[0], a.Rest[1]-a.Pivot[1]),
			math.Hypot(a.Wheel[0]-a.Pivot[0], a.Wheel[1]-a.Pivot[1]),
			1e-9,
		)
	}
	again := planOf(t, edited(t, rough, document.Edit{Op: document.SetGround}))
	assert.Equal(t, before.Gear, again.Gear)
	_, err = applied(b, []document.Edit{{Op: document.SetGround, Ground: gear.Terrain{{100, 0}, {0, 0}}}}, ids())
	assert.ErrorContains(t, err, "order them")
}

// What cannot be is told with its place, and nothing changes.
func TestImpossibleVehiclesAreRefused(t *testing.T) {
	b := tank(t)
	in := append([]gear.Wheel(nil), b.Wheels...)
	in[1].X, in[1].Z = 0, 900
	fat := b.Body
	fat.Hulls = append([]form.Hull(nil), b.Body.Hulls...)
	fat.Hulls[0].Width = 3000
	off := b.Body
	off.Turrets = append([]form.Turret(nil), b.Body.Turrets...)
	off.Turrets[0].X = 2000
	for want, e := range map[string]document.Edit{
		"stands":              {Op: document.SetBody, Body: &fat},
		"ring reaches beyond": {Op: document.SetBody, Body: &off},
		"is not known":        {Op: document.SetOutline, Text: "boat"},
		"carries nothing":     {Op: document.SetBody},
		"own part":            {Op: document.SetShell, Text: "x"},
		"wheels[0].radius":    {Op: document.SetWheels, Wheels: append([]gear.Wheel{{Kind: gear.Tyre}}, b.Wheels...)},
		"not smaller":         {Op: document.SetWheels, Wheels: append([]gear.Wheel{{Kind: gear.Tyre, X: 2600, Radius: 5, Hub: 9}}, b.Wheels...)},
		"no make of track":    {Op: document.SetLink, Link: &gear.Link{Pitch: 100, Width: 100, Make: "rope"}},
	} {
		_, err := applied(b, []document.Edit{e}, ids())
		if want == "own part" {
			want = "not at hand"
		}
		assert.ErrorContains(t, err, want)
	}
}

// Every outline begins a build with a plan; clearances are told for each.
func TestEveryOutlineBeginsABuild(t *testing.T) {
	b := tank(t)
	for _, kind := range form.Kinds {
		next := edited(t, b, document.Edit{Op: document.SetOutline, Text: string(kind)})
		p := planOf(t, next)
		assert.Equal(t, kind.HasTrack(), p.Gear.Links > 0, kind)
		assert.NotEmpty(t, p.Gear.Clearance, kind)
		for _, c := range p.Gear.Clearance {
			assert.NotEmpty(t, c.Why.Inputs, c.Name)
		}
		assert.Len(t, p.Gear.Names, len(next.Wheels))
	}
}

// The calculators against closed forms.
func TestFormCalculators(t *testing.T) {
	q := vehicle.FormQuestion{
		Scale:   "1:35",
		Outline: form.Tracked,
		Width:   2600,
		Body: form.Body{
			Hulls: []form.Hull{
				{ID: "hull", Width: 1400, Profile: [][2]float64{{-2000, 400}, {2000, 400}, {2000, 1100}, {-2000, 1100}}},
			},
		},
		Wheels: []gear.Wheel{
			{Kind: gear.Idler, X: -1500, Z: 500, Radius: 300},
			{Kind: gear.Sprocket, X: 1500, Z: 500, Radius: 300},
		},
		Link:  gear.Link{Pitch: 130, Surface: 20, Ground: 20, Width: 400},
		MudMM: 1,
	}
	alone := q
	alone.Wheels = nil
	a, err := vehicle.AskForm(alone)
	require.NoError(t, err)
	assert.InEpsilon(t, 2*(4000*1400+4000*700+1400*700)/(35*35*100.0), a.AreaCM, 1e-9)
	assert.InEpsilon(t, 4000*1400*700/(35*35*35*1000.0), a.VolumeCM, 1e-6)
	assert.True(t, a.Closed)
	room, err := vehicle.AskClearance(q)
	require.NoError(t, err)
	require.Len(t, room, 1)
	// The wheels' backs stand 1300 − 20 − 400 mm from the middle, the hull 700 mm.
	assert.Contains(t, room[0].Words, "5.14 mm on the model, 4.14 mm with 1.0 mm of mud")
	masks, err := vehicle.AskWheels(
		vehicle.WheelsQuestion{
			Scale:  "1:35",
			Wheels: []gear.Wheel{{Kind: gear.Road, X: 0, Z: 300, Radius: 300, Hub: 210}},
			Shelf:  &measure.Shelf{},
		},
	)
	require.NoError(t, err)
	assert.InDelta(t, 6, masks.Masks[0].Hub, 1e-9)
	q.Wheels[0].X = 0
	q.Width = 1500
	_, err = vehicle.AskClearance(q)
	assert.ErrorContains(t, err, "stands")
}
