package form_test

import (
	"math"
	"testing"

	"cinderpath/core/form"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// welded is the mesh of a body's parts, as another program would export it.
func welded(t *testing.T, b form.Body) *form.Mesh {
	parts, err := form.Meshes(b, form.Running{})
	require.NoError(t, err)
	var w form.Welder
	for _, p := range parts {
		for i := range p.Mesh.Faces {
			f := p.Mesh.Faces[i]
			w.Add([3][3]float32{p.Mesh.Points[f[0]], p.Mesh.Points[f[1]], p.Mesh.Points[f[2]]})
		}
	}
	return &w.Mesh
}

// An imported box, drawn at 1:35 in mm, has the panels, zones and areas of the box.
func TestShellOfABox(t *testing.T) {
	small := box(4000.0/35, 2000.0/35, 900.0/35)
	shell, err := form.NewShell(welded(t, small), 35)
	require.NoError(t, err)
	b := form.Body{Shell: shell}
	panels, err := form.Panels(b, form.Running{})
	require.NoError(t, err)
	assert.Len(t, panels, 6, "two triangles make one panel")
	assert.InEpsilon(t, 2*(4000*2000+4000*900+2000*900), areaOf(panels), 1e-3)
	zones := map[string]bool{}
	for _, p := range panels {
		zones[p.Zone] = true
	}
	for _, z := range []string{"hull.left", "hull.right", "hull.glacis", "hull.rear", "upper.roof", "lower.belly"} {
		assert.True(t, zones[z], "%s in %v", z, zones)
	}
	// Corrected by a click, kept as a place in space: the name survives stretching.
	b.Shell.Seeds = []form.Seed{{At: form.Vec{100, 0, 905}, Zone: "hull.deck"}}
	wide := b.Stretch(1.2, 1, 1)
	for _, body := range []form.Body{b, wide} {
		panels, err = form.Panels(body, form.Running{})
		require.NoError(t, err)
		zones = map[string]bool{}
		for _, p := range panels {
			zones[p.Zone] = true
		}
		assert.True(t, zones["hull.deck"])
		assert.False(t, zones["upper.roof"])
	}
}

// A cylinder of 48 strips of 7.5° each: panels never spread over more than 8° to each
// side of their mean, and they do join strips.
func TestPanelsGrowOnlyWhileSteady(t *testing.T) {
	const around = 48
	var w form.Welder
	at := func(i int, z float32) [3]float32 {
		sin, cos := math.Sincos(2 * math.Pi * float64(i%around) / around)
		return [3]float32{float32(500 * cos), float32(500 * sin), z}
	}
	for i := range around {
		w.Add([3][3]float32{at(i, 0), at(i+1, 0), at(i+1, 800)})
		w.Add([3][3]float32{at(i, 0), at(i+1, 800), at(i, 800)})
		w.Add([3][3]float32{{0, 0, 0}, at(i+1, 0), at(i, 0)})
		w.Add([3][3]float32{{0, 0, 800}, at(i, 800), at(i+1, 800)})
	}
	shell, err := form.NewShell(&w.Mesh, 1)
	require.NoError(t, err)
	panels, err := form.Panels(form.Body{Shell: shell}, form.Running{})
	require.NoError(t, err)
	assert.InEpsilon(
		t,
		around*(2*500*math.Sin(math.Pi/around)*800+2*0.5*500*500*math.Sin(2*math.Pi/around)),
		areaOf(panels),
		1e-3,
	)
	smooth, sharp := 0, 0
	for _, p := range panels {
		for _, l := range p.Lines {
			if math.Abs(p.Normal[2]) < 0.5 && math.Abs(l.Beyond[2]) < 0.5 {
				if l.Smooth {
					smooth++
				} else {
					sharp++
				}
			}
		}
	}
	// Panels of at most three strips (mean in the middle one): at least 16 seams, two lines each.
	assert.GreaterOrEqual(t, sharp, 2*around/3)
	assert.Positive(t, smooth)
	g := form.NewGrid(panels, 10)
	sum := 0.0
	for _, a := range g.Area {
		sum += a
	}
	assert.InEpsilon(t, areaOf(panels), sum, 1e-4)
}

// A turret stands on an imported hull, fittings on its faces, and all is drawn.
func TestPartsStandOnAShell(t *testing.T) {
	shell, err := form.NewShell(welded(t, box(4000, 2000, 900)), 1)
	require.NoError(t, err)
	b := form.Body{
		Shell: shell,
		Turrets: []form.Turret{
			{ID: "turret", On: "hull", Ring: 300, Height: 400, Plan: [][2]float64{{500, 400}, {-500, 400}}},
		},
		Fittings: []form.Fitting{
			{ID: "box", Kind: "box", On: "hull.left", At: form.Vec{0, 1000, 500}, Size: [3]float64{400, 200, 150}},
		},
	}
	panels, err := form.Panels(b, form.Running{})
	require.NoError(t, err)
	_, high, ok := form.Extent(panels, func(zone string) bool { return zone == "turret.roof" })
	require.True(t, ok)
	assert.InDelta(t, 1300, high[2], 0.1)
	for _, s := range form.Sights(panels, 35) {
		assert.NotEmpty(t, s.Outlines(panels))
	}
}

func TestShellsRefusedInWords(t *testing.T) {
	_, err := form.NewShell(&form.Mesh{}, 1)
	assert.ErrorContains(t, err, "too few triangles")
	many := &form.Mesh{Points: [][3]float32{{}, {1}, {0, 1}}, Faces: make([][3]uint32, form.MostFacets+1)}
	_, err = form.NewShell(many, 1)
	assert.ErrorContains(t, err, "reduce it")
	good, err := form.NewShell(welded(t, box(4000, 2000, 900)), 1)
	require.NoError(t, err)
	bad := *good
	bad.Faces = append([][3]int{{0, 1, 99}}, good.Faces...)
	assert.ErrorContains(t, form.Body{Shell: &bad}.Check(), "not there")
	bad = *good
	bad.Seeds = []form.Seed{{Zone: "Deck!"}}
	assert.ErrorContains(t, form.Body{Shell: &bad}.Check(), "no zone")
}
