package landing_test

import (
	"slices"
	"testing"

	"cinderpath/core/form"
	"cinderpath/core/landing"
	"cinderpath/core/relief"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// At the foot of a bolt it is a recess, its top is an edge that stands out, and a hand's breadth away
// nothing goes by it; a joint is a recess and no edge.
func TestSmallReliefIsLandedOn(t *testing.T) {
	panels := block("hull", form.Vec{0, 0, 0}, form.Vec{2000, 1500, 800})
	deck := slices.IndexFunc(panels, func(p *form.Panel) bool { return p.Normal[2] > 0.99 })
	p := panels[deck]
	x0, y0, x1, y1 := p.FlatBox()
	middle := p.Space((x0+x1)/2, (y0+y1)/2)
	for kind, raised := range map[relief.Kind]bool{relief.Bolts: true, relief.Joint: false} {
		to := middle.Plus(p.U.Times(1))
		d := relief.Detail{ID: "1", Zone: p.Zone, Kind: kind, Way: relief.Line, At: &middle, To: &to, SizeMM: 60, PitchMM: 60}
		site := landing.NewSite(panels, form.NewGrid(panels, 10), nil, landing.Running{}, 20)
		site.Small = relief.Lay([]relief.Detail{d}, panels)
		tex := site.Grid.Texels[deck]
		at := func(text string, away float64) float64 {
			f, err := landing.Read(text)
			require.NoError(t, err)
			out := make([]float32, len(tex.Area))
			f.On(site, deck, 1, out)
			k, ok := tex.At((x0+x1)/2+away, (y0+y1)/2)
			require.True(t, ok)
			return float64(out[k])
		}
		assert.Greater(t, at("recess(20)", 34), 0.6, "%s: at its foot", kind)
		assert.Less(t, at("recess(200)", 200), 0.2, "%s: a hand's breadth away", kind)
		if raised {
			assert.InDelta(t, 1, at("edge(20)", 0), 1e-6)
			assert.InDelta(t, 1, at("raised", 0), 1e-6)
			assert.Less(t, at("recess(10)", 0), 0.2, "on its top it is none")
		} else {
			assert.InDelta(t, 1, at("recess(10)", 0), 1e-6)
			assert.Less(t, at("raised", 0), 1e-6)
			assert.Less(t, at("edge(20)", 0), 1e-6)
		}
	}
}
