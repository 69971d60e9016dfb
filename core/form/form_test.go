package form_test

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"cinderpath/core/form"
	"cinderpath/core/gear"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func box(l, w, h float64) form.Body {
	return form.Body{Blocks: []form.Block{{ID: "hull", Rear: -l / 2, Front: l / 2, Base: 0, Top: h, Width: w}}}
}

func areaOf(panels []*form.Panel) (sum float64) {
	for _, p := range panels {
		sum += p.Area()
	}
	return sum
}

func TestBoxHasItsClosedFormArea(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		size := rapid.Float64Range(100, 9000)
		l, w, h := size.Draw(t, "l"), size.Draw(t, "w"), size.Draw(t, "h")
		panels, err := form.Panels(box(l, w, h), form.Running{})
		require.NoError(t, err)
		assert.InEpsilon(t, 2*(l*w+l*h+w*h), areaOf(panels), 1e-9)
	})
}

// A truncated pyramid: the slant faces are trapezoids of known height.
func TestSlopedFacesHaveTheirTrapezoidArea(t *testing.T) {
	b := box(4000, 2000, 500)
	b.Blocks[0].InFront, b.Blocks[0].InRear, b.Blocks[0].InSide = 300, 300, 200
	panels, err := form.Panels(b, form.Running{})
	require.NoError(t, err)
	ends := 2 * (2000 + 1600) / 2 * math.Hypot(300, 500)
	sides := 2 * (4000 + 3400) / 2 * math.Hypot(200, 500)
	assert.InEpsilon(t, 4000*2000+3400*1600+ends+sides, areaOf(panels), 1e-9)
}

func TestBlockFacesLookOutward(t *testing.T) {
	panels, err := form.Panels(form.NewBody(form.Tracked, 6400, 3100, 2500), form.Running{})
	require.NoError(t, err)
	middle := map[string]form.Vec{}
	for _, b := range form.NewBody(form.Tracked, 6400, 3100, 2500).Blocks {
		middle[b.ID] = form.Vec{(b.Front + b.Rear) / 2, 0, (b.Base + b.Top) / 2}
	}
	for _, p := range panels {
		m, known := middle[strings.SplitN(p.Zone, ".", 2)[0]]
		if !known {
			continue
		}
		out := 0.0
		for k := range 3 {
			out += p.Normal[k] * (p.Corners[0][k] - m[k])
		}
		assert.Positive(t, out, p.Name)
	}
}

// The area that a turret stands on carries no paint.
func TestFootprintIsTakenOffTheDeck(t *testing.T) {
	b := box(4000, 2000, 500)
	b.Blocks = append(b.Blocks, form.Block{ID: "turret", Rear: -500, Front: 500, Base: 500, Top: 900, Width: 800})
	panels, err := form.Panels(b, form.Running{})
	require.NoError(t, err)
	open := 2*(4000*2000+4000*500+2000*500) - 2*1000*800 + 2*(1000*800) - 1000*800 + 2*400*(1000+800)
	// Hull without footprint, turret roof and sides, no turret floor.
	assert.InEpsilon(t, float64(open+1000*800), areaOf(panels), 1e-9)
}

func TestGridSharesAddUpToPanelAreas(t *testing.T) {
	wheels, link := form.NewWheels(form.Tracked, 6400, 3100, 2500)
	loop, err := gear.Taut(wheels, link)
	require.NoError(t, err)
	run := form.Running{Wheels: wheels, Face: 1500, Width: link.Width, Pins: loop.Outline(wheels, link), Link: link}
	panels, err := form.Panels(form.NewBody(form.Tracked, 6400, 3100, 2500), run)
	require.NoError(t, err)
	g := form.NewGrid(panels, 52)
	for _, l := range g.Lattices {
		sum := 0.0
		for _, s := range l.Share {
			sum += s
		}
		assert.InEpsilon(t, l.Panel.Area(), sum, 1e-9, l.Panel.Name)
	}
	discs := 0.0
	for _, w := range wheels {
		discs += math.Pi * w.Radius * w.Radius
	}
	assert.InEpsilon(t, discs, g.Area["gear.left.wheels"], 1e-9)
	assert.InEpsilon(t, g.Area["gear.left.track"], g.Area["gear.right.track"], 1e-9)
	// A track's outside and its edge: loop times width and height, within the arcs' chords.
	assert.InEpsilon(t, loop.Length*(link.Width+link.Surface+link.Ground), g.Area["gear.left.track"], 0.01)
}

// Regions of a plane wave have the area that the plane cuts off.
func TestRegionsMeasureTheHalfPlane(t *testing.T) {
	panels, err := form.Panels(box(4000, 2000, 1000), form.Running{})
	require.NoError(t, err)
	rapid.Check(t, func(t *rapid.T) {
		cut := rapid.Float64Range(-1900, 1900).Draw(t, "cut")
		for _, l := range form.NewGrid(panels, 60).Lattices {
			if l.Panel.Zone != "hull.left" {
				continue
			}
			values := make([]float64, len(l.Points))
			for i, p := range l.Points {
				values[i] = p[0]
			}
			area := 0.0
			for _, ring := range l.Regions(values, cut) {
				for i := range ring {
					j := (i + 1) % len(ring)
					area += (ring[i][0]*ring[j][1] - ring[j][0]*ring[i][1]) / 2
				}
			}
			assert.InDelta(t, (2000-cut)*1000, math.Abs(area), 1)
		}
	})
}

func TestViewsMeetAndKeepTheirSize(t *testing.T) {
	panels, err := form.Panels(box(6400, 3100, 2500), form.Running{})
	require.NoError(t, err)
	views := form.Views(panels, 35, func(*form.Panel) []form.Painted { return nil })
	by := map[form.Side]form.View{}
	for _, v := range views {
		by[v.Side] = v
		assert.Len(t, v.Shapes, 1, "a box shows one face to each side")
	}
	assert.InDelta(t, 6400.0/35, by[form.Left].Width, 1e-9)
	assert.InDelta(t, 2500.0/35, by[form.Left].Height, 1e-9)
	assert.InDelta(t, by[form.Left].X, by[form.Top].X, 1e-9, "top stands above left")
	assert.InDelta(t, by[form.Left].Y, by[form.Rear].Y, 1e-9)
	assert.InDelta(t, 3100.0/35, by[form.Front].Width, 1e-9)
}

func TestRingRoundTrip(t *testing.T) {
	in := form.Ring{{1.234567, -0.001}, {200.555, 3}, {0, 0}}
	data, err := json.Marshal(in)
	require.NoError(t, err)
	assert.Equal(t, "[1.23,0,200.56,3,0,0]", string(data))
	var back form.Ring
	require.NoError(t, json.Unmarshal(data, &back))
	assert.Len(t, back, 3)
}

func TestImpossibleBodiesAreTold(t *testing.T) {
	good := box(4000, 2000, 500).Blocks[0]
	for name, change := range map[string]func(*form.Block){
		"lies behind its rear": func(b *form.Block) { b.Front = b.Rear - 1 },
		"below its base":       func(b *form.Block) { b.Top = b.Base },
		"no width":             func(b *form.Block) { b.Width = 0 },
		"slopes cross":         func(b *form.Block) { b.InFront = 5000 },
	} {
		b := good
		change(&b)
		_, err := form.Panels(form.Body{Blocks: []form.Block{b}}, form.Running{})
		assert.ErrorContains(t, err, name)
	}
	_, err := form.Panels(form.Body{}, form.Running{})
	assert.ErrorContains(t, err, "no block")
}

func ExamplePanels() {
	panels, _ := form.Panels(box(4000, 2000, 1000), form.Running{})
	for _, p := range panels {
		fmt.Printf("%s %.1f m²\n", p.Zone, p.Area()/1e6)
	}
	// Output:
	// hull.glacis 2.0 m²
	// hull.rear 2.0 m²
	// hull.left 4.0 m²
	// hull.right 4.0 m²
	// hull.deck 8.0 m²
	// hull.sponson 8.0 m²
}
